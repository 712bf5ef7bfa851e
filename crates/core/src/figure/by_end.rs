//! The value of a figure that no sum of terms can state: a formula at each end of a journal, of which the worse end counts.
//!
//! What each term leaves open goes in by as much as the value moves with it there.
use super::advice::{advise, more_touches};
use super::methods::{Inputs, half};
use super::result::{EndClearance, MethodResult};
use super::uncertainty::{Basis, Known, MeasuredBy, of_size};
use crate::engine::{Axial, EndFormula, Method, MethodRow, Term};
use crate::evidence::{Open, Size, SizeAssessment};
use crate::log::Reckoning;
use crate::units::Length;

/// How far a term is moved to see what it does to the value.
const STEP: Length = Length::from_nm(1_000);

/// A term with what is known of it.
struct Part<'a> {
    term: &'static Term,
    assessed: &'a SizeAssessment,
    size: &'a Size,
    whole: bool,
}

impl Part<'_> {
    /// Its value at one end; as it counts where the ends are not told apart.
    fn at(&self, axial: Axial) -> Length {
        let here = self.assessed.positions.iter().find(|p| p.position.axial == axial && !p.advisory);
        here.and_then(|p| p.value).unwrap_or(self.size.effective)
    }
}

impl<'a> Inputs<'a> {
    /// What a formula makes of both ends.
    pub(super) fn worst_of_both_ends(&self, method: &'static MethodRow, formula: EndFormula) -> Option<MethodResult> {
        let part = |term: &'static Term| {
            let assessed = self.part(term.role, term.read)?;
            let (size, whole) = self.size(assessed)?;
            Some(Part { term, assessed, size, whole })
        };
        let parts: Vec<Part<'a>> = method.terms.iter().map(part).collect::<Option<_>>()?;
        let wall = self.nominals().map(|n| n.wall + half(self.undersize));
        let at = |axial: Axial| -> Vec<Length> { parts.iter().map(|p| p.at(axial)).collect() };
        let ends: Vec<(Axial, f64)> = [Axial::Front, Axial::Rear]
            .into_iter()
            .filter_map(|axial| Some((axial, formula(&at(axial), wall)?)))
            .collect();
        let &(worst_at, worst) = ends.iter().min_by(|a, b| a.1.total_cmp(&b.1))?;
        let value = Length::from_f64(worst)?;
        let known = parts.iter().map(|p| self.known_at_one_end(p.size)).collect::<Option<Vec<_>>>()?;
        let doubts: Vec<Length> = parts.iter().zip(&known).map(|(p, known)| own_doubt(p.term, known)).collect();
        let weights = match self.rules.reckoning {
            Reckoning::First | Reckoning::Second => weights(&at(worst_at), |values| formula(values, wall)),
            Reckoning::Third => reaches(&at(worst_at), &doubts, |values| formula(values, wall)),
        };
        let terms = parts.iter().map(|p| p.term).collect();
        let mut basis = Basis { method, terms, known, zero: None, weights: Some(weights), pull: Length::ZERO };
        let noted = parts.iter().all(|p| p.size.noted_temperatures);
        let warm = self.warmth(noted);
        let budget = basis.budget(warm.standard());
        let clearances = ends.iter().filter_map(|(axial, room)| {
            Some(EndClearance { axial: *axial, clearance: Length::from_f64(*room)?, widest: None })
        });
        Some(MethodResult {
            method: Method::of(method),
            complete: parts.iter().all(|p| p.whole),
            clearance: value,
            smallest: value,
            largest: value,
            low: value,
            high: value,
            correction: Length::ZERO,
            zero: None,
            advice: advise(self.figure, &mut basis, (warm, budget.expanded), self.gauges),
            budget,
            ends: clearances.collect(),
            between_blades: false,
            more: more_touches(&mut basis, warm),
            alike: None,
        })
    }

    /// How a size is known at one end: nothing was picked among places.
    fn known_at_one_end(&self, size: &Size) -> Option<Known<'a>> {
        let by = self.measured_by(size)?;
        let open = by.open.map(|open| Open { picked: 1.0, bias: Length::ZERO, ..open });
        Some(Known::Measured(MeasuredBy { open, ..by }))
    }
}

/// By how much a value moves with each of the things it is made of.
fn weights(values: &[Length], of: impl Fn(&[Length]) -> Option<f64>) -> Vec<f64> {
    let moved = |i: usize, by: Length| {
        let all: Vec<Length> = values.iter().enumerate().map(|(j, v)| if i == j { *v + by } else { *v }).collect();
        of(&all)
    };
    let slope = |i: usize| {
        let (up, down) = (moved(i, STEP)?, moved(i, Length::ZERO - STEP)?);
        Some((up - down) / (2.0 * STEP.as_f64()))
    };
    (0..values.len()).map(|i| slope(i).unwrap_or(1.0)).collect()
}

/// What one part leaves open by itself: its expanded uncertainty.
fn own_doubt(term: &Term, known: &Known<'_>) -> Length {
    known.measured().map_or(Length::ZERO, |by| of_size(term.role, *by).expanded)
}

/// By how much a value may fall for each of the things it is made of when that is off by all of its doubt, over that doubt: a
/// formula that bends within the doubt falls by more than its slope says, and never counts for less.
fn reaches(values: &[Length], doubts: &[Length], of: impl Fn(&[Length]) -> Option<f64>) -> Vec<f64> {
    let slopes = weights(values, &of);
    let Some(middle) = of(values) else { return slopes };
    let fall = |i: usize, by: Length| {
        let all: Vec<Length> = values.iter().enumerate().map(|(j, v)| if i == j { *v + by } else { *v }).collect();
        of(&all).map(|value| middle - value)
    };
    let reach = |(i, (doubt, slope)): (usize, (&Length, f64))| {
        let doubt = (*doubt).max(STEP);
        let most = fall(i, doubt).into_iter().chain(fall(i, -doubt)).reduce(f64::max);
        most.map_or(slope.abs(), |most| (most / doubt.as_f64()).max(slope.abs()))
    };
    doubts.iter().zip(slopes).enumerate().map(reach).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_formula_that_bends_within_the_doubt_reaches_as_far_as_it_bends() {
        let nm = Length::from_nm;
        // Flat up to its middle, steep beyond: its slope there says half of what it may lose.
        let cliff = |v: &[Length]| v.first().map(|x| -3.0 * (x.as_f64() - 50_000.0).max(0.0));
        let found = reaches(&[nm(50_000)], &[nm(10_000)], cliff);
        assert!((found[0] - 3.0).abs() < 1e-9, "{found:?}");
        let slope = weights(&[nm(50_000)], cliff);
        assert!((slope[0] + 1.5).abs() < 1e-9, "{slope:?}");
    }

    #[test]
    fn a_value_moves_with_each_of_its_parts() {
        let nm = Length::from_nm;
        let found = weights(&[nm(3_000_000), nm(4_000_000)], |v| match v {
            [a, b] => Some(a.as_f64().hypot(b.as_f64())),
            _ => None,
        });
        assert!((found[0] - 0.6).abs() < 1e-6 && (found[1] - 0.8).abs() < 1e-6, "{found:?}");
        assert_eq!(weights(&[nm(1)], |_| None), [1.0], "what cannot be moved counts in full");
    }
}
