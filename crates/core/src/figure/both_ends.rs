//! A bearing along its axis, by the third reckoning: the smallest clearance it has anywhere and the largest.
//!
//! At each place along the bearing the smallest clearance is that of the narrowest bore over the thickest journal there, the
//! largest that of the widest bore over the thinnest journal. The least of the first is held against the lower limit, the
//! greatest of the second against the upper one: a journal that tapers by seven tenths is loose at its thin end, whatever its
//! thick end leaves. What picking a worst place adds is taken off ([`crate::maths::worst_place`]).
use smallvec::SmallVec;

use super::methods::{IN_LINE, Inputs};
use super::result::EndClearance;
use super::uncertainty::{Known, MeasuredBy};
use crate::engine::{Axial, MethodRow, Statistic, Term};
use crate::evidence::PositionAssessment;
use crate::log::Reckoning;
use crate::maths::{Extreme, SizeRule, Summand, combine_terms, combined, worst_place};
use crate::units::Length;

/// The places along a bearing from the front.
const ALONG: [Axial; 3] = [Axial::Front, Axial::Middle, Axial::Rear];

/// A bearing along its axis.
pub(super) struct Along {
    /// The smallest clearance anywhere, what was picked taken off.
    pub smallest: Length,
    /// The largest anywhere, likewise.
    pub largest: Length,
    /// What the smallest is more than it was read.
    pub correction: Length,
    /// What picking the worst of several places makes of the doubt of one.
    pub picked: f64,
    /// Each place by itself, as it was read.
    pub ends: Vec<EndClearance>,
}

/// The smallest and the largest that something is at one place along a bearing.
type Sides = (Length, Length);

/// Both sides at each place that a term was measured at.
type Places = SmallVec<[(Axial, Sides); 3]>;

fn both(values: impl Iterator<Item = Length>) -> Option<Sides> {
    values.fold(None, |sides, v| Some(sides.map_or((v, v), |(low, high): Sides| (low.min(v), high.max(v)))))
}

/// What is half-way between two.
fn between(a: Length, b: Length) -> Length {
    Length::mean(&[a, b]).unwrap_or(a)
}

impl<'a> Inputs<'a> {
    /// Both sides of a method that meets place by place along the axis; `None` where it does not, or by the rule of the mean.
    ///
    /// `summands` are its terms as they count otherwise, `shifts` what each is moved by beside what was read, such as a journal
    /// that a locked mic carries.
    pub(super) fn along(
        &self,
        method: &'static MethodRow,
        (known, summands, shifts): (&[Known<'a>], &[Summand], &[Length]),
    ) -> Option<Along> {
        if self.rules.reckoning < Reckoning::Third || self.rules.effective == SizeRule::Mean || !method.place_by_place {
            return None;
        }
        let terms: SmallVec<[(&Term, Places, f64); 4]> = method
            .terms
            .iter()
            .zip(known)
            .zip(shifts)
            .map(|((term, known), shift)| (term, self.places_of(term, known, *shift), doubt_of_one(known)))
            .collect();
        let lead = terms.iter().filter(|(t, ..)| t.factor > 0).map(|(_, places, _)| places).max_by_key(|p| p.len())?;
        let doubt = combined(terms.iter().map(|(_, _, u)| *u));
        let mut rooms: SmallVec<[(Axial, Sides); 3]> = SmallVec::new();
        for (axial, _) in lead {
            let side = |largest: bool| {
                let each = terms.iter().zip(summands).map(|((term, places, _), summand)| {
                    let here = at(places, *axial);
                    let upper = (term.factor > 0) == largest;
                    let value = here.map_or(summand.value, |(low, high)| if upper { high } else { low });
                    Summand { value, ..*summand }
                });
                combine_terms(each).value
            };
            rooms.push((*axial, (side(false), side(true))));
        }
        let least: SmallVec<[f64; 3]> = rooms.iter().map(|(_, (low, _))| low.as_f64()).collect();
        let most: SmallVec<[f64; 3]> = rooms.iter().map(|(_, (_, high))| high.as_f64()).collect();
        let (low, high) = (worst_place(Extreme::Smallest, &least, doubt), worst_place(Extreme::Largest, &most, doubt));
        let read = (rooms.iter().map(|(_, (low, _))| *low).min()?, rooms.iter().map(|(_, (_, high))| *high).max()?);
        let smallest = read.0 - Length::from_f64(low.bias)?;
        let largest = read.1 - Length::from_f64(high.bias)?;
        // Places that read alike are one place read several times.
        let (smallest, largest) =
            if smallest <= largest { (smallest, largest) } else { [between(read.0, read.1); 2].into() };
        let picked = if doubt > 0.0 { low.standard.max(high.standard) / doubt } else { 1.0 };
        let end = |(axial, (low, high)): &(Axial, Sides)| EndClearance {
            axial: *axial,
            clearance: *low,
            widest: Some(*high).filter(|widest| widest != low),
        };
        let correction = smallest - read.0;
        Some(Along { smallest, largest, correction, picked, ends: rooms.iter().map(end).collect() })
    }

    /// What a term is at each of its places, the noise of several around the same place taken off.
    fn places_of(&self, term: &'static Term, known: &Known<'a>, shift: Length) -> Places {
        let mut found = Places::new();
        let Known::Measured(_) = known else { return found };
        let Some(part) = self.part(term.role, term.read) else { return found };
        let doubt = doubt_of_one(known);
        // A housing fills with its shells where the load is; every other part counts all around.
        let counts = |p: &&PositionAssessment| {
            !p.advisory && (term.statistic != Statistic::EndByEnd || p.position.angle == IN_LINE)
        };
        for axial in ALONG {
            let here =
                || part.positions.iter().filter(counts).filter(|p| p.position.axial == axial).filter_map(|p| p.value);
            let Some((low, high)) = both(here()) else { continue };
            let values: SmallVec<[f64; 4]> = here().map(Length::as_f64).collect();
            let off = |extreme| Length::from_f64(worst_place(extreme, &values, doubt).bias).unwrap_or_default();
            let (low, high) = (low - off(Extreme::Smallest) + shift, high - off(Extreme::Largest) + shift);
            found.push((axial, if low <= high { (low, high) } else { [between(low, high); 2].into() }));
        }
        found
    }
}

/// What one touch of the hand behind a term leaves open.
fn doubt_of_one(known: &Known<'_>) -> f64 {
    match known {
        Known::Measured(MeasuredBy { open: Some(open), touches, .. }) => open.hand.of(*touches, open.median),
        _ => 0.0,
    }
}

/// What a part is at a place along it; between two places where it was only touched at both ends, and everywhere the same
/// where it was touched once along.
fn at(places: &Places, axial: Axial) -> Option<Sides> {
    let of = |wanted: Axial| places.iter().find(|(here, _)| *here == wanted).map(|(_, sides)| *sides);
    let half_way = || {
        let ((a, b), (c, d)) = of(Axial::Front).zip(of(Axial::Rear)).filter(|_| axial == Axial::Middle)?;
        Some((between(a, c), between(b, d)))
    };
    let anywhere = || both(places.iter().flat_map(|(_, (low, high))| [*low, *high]));
    of(axial).or_else(half_way).or_else(anywhere)
}
