//! Bores that look written down at each other's bearings, where there is only one method to tell by.
//!
//! Where two methods see a bearing, what was exchanged shows in their difference and is named there. With one method alone a
//! row of matched shells is what gives it away.
use crate::engine::{BearingRow, Figure, Place, Role};
use crate::evidence::SizeAssessment;
use crate::figure::{DoubtSource, FigureAssessment, Finding};
use crate::maths::{WithNextBore, combined, swapped_pair};
use crate::units::Length;

/// Share of sound rows in which two bores may be said to be exchanged.
const FALSE_ALARMS: f64 = 0.05;

/// The mean of the places that count.
fn mean_of(part: &SizeAssessment) -> Option<Length> {
    let counting = part.positions.iter().filter(|p| !p.advisory);
    Length::mean(&counting.map(|p| p.value).collect::<Option<Vec<_>>>()?)
}

/// What the touches of one bearing leave open for it alone, as a standard uncertainty in nanometres.
fn open_of(figure: &FigureAssessment) -> Option<f64> {
    let method = figure.methods.iter().find(|m| Some(m.method) == figure.judged.as_ref().map(|j| j.method))?;
    let own = method.budget.parts.iter().filter(|p| matches!(p.source, DoubtSource::Repeat | DoubtSource::Resolution));
    Some(combined(own.map(|p| p.standard)))
}

/// Says of two neighbours that their bores look exchanged, where every bearing of the row is judged by one method.
pub(super) fn say_what_looks_exchanged(row: BearingRow, figures: &mut [FigureAssessment]) {
    let of_row: Vec<&FigureAssessment> =
        figures.iter().filter(|f| f.figure == Figure::OIL_CLEARANCE && f.row == row).collect();
    if of_row.iter().any(|f| !f.agreements.is_empty()) {
        return;
    }
    let known = |f: &&FigureAssessment| {
        let (journal, bore) = (mean_of(f.journal())?.as_f64(), mean_of(f.bore_in_use())?.as_f64());
        Some((f.station, journal, bore, open_of(f)?))
    };
    let Some(row) = of_row.iter().map(known).collect::<Option<Vec<(Place, f64, f64, f64)>>>() else { return };
    let bore = |i: Option<usize>| i.and_then(|i| row.get(i)).map_or(f64::NAN, |(_, _, bore, _)| *bore);
    let exchanged = |(i, (_, journal, own, _)): (usize, &(Place, f64, f64, f64))| WithNextBore {
        written: own - journal,
        next: bore(i.checked_add(1)) - journal,
        before: bore(i.checked_sub(1)) - journal,
    };
    let pairs: Vec<WithNextBore> = row.iter().enumerate().map(exchanged).collect();
    let open = row.iter().map(|(.., open)| open).sum::<f64>() / row.len().max(1) as f64;
    let Some(first) = swapped_pair(&pairs, open, FALSE_ALARMS) else { return };
    let place = |i: usize| row.get(i).map(|(at, ..)| *at);
    let Some((a, b)) = place(first).zip(place(first + 1)) else { return };
    for (place, with) in [(a, b), (b, a)] {
        let ours = |f: &&mut FigureAssessment| f.figure == Figure::OIL_CLEARANCE && f.station == place;
        if let Some(figure) = figures.iter_mut().find(ours) {
            figure.findings.insert(0, Finding::Swapped { part: Role::BORE, with });
        }
    }
}
