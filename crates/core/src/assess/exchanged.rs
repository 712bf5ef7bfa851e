//! Bores that look written down at each other's bearings, where there is only one method to tell by.
//!
//! Where two methods see a bearing, what was exchanged shows in their difference and is named there. With one method alone a
//! row of matched shells is what gives it away.
use super::row_values::{mean_of_places, open_of};
use crate::engine::{BearingRow, Figure, Place, Role};
use crate::figure::{FigureAssessment, Finding};
use crate::maths::{WithNextBore, swapped_pair};
use crate::units::Length;

/// Share of sound rows in which two bores may be said to be exchanged.
const FALSE_ALARMS: f64 = 0.05;

/// Says of two neighbours that the touches of a part look written down at each other's bearings.
pub(super) fn say_swapped([a, b]: [Place; 2], part: Role, figures: &mut [FigureAssessment]) {
    for (place, with) in [(a, b), (b, a)] {
        let ours = |f: &&mut FigureAssessment| f.figure == Figure::OIL_CLEARANCE && f.station == place;
        if let Some(figure) = figures.iter_mut().find(ours) {
            figure.findings.insert(0, Finding::Swapped { part, with });
        }
    }
}

/// Says of two neighbours that their bores look exchanged, where every bearing of the row is judged by one method.
pub(super) fn say_what_looks_exchanged(row: BearingRow, figures: &mut [FigureAssessment]) {
    let of_row: Vec<&FigureAssessment> =
        figures.iter().filter(|f| f.figure == Figure::OIL_CLEARANCE && f.row == row).collect();
    if of_row.iter().any(|f| !f.agreements.is_empty()) {
        return;
    }
    let known = |f: &&FigureAssessment| {
        f.judged.as_ref()?;
        let parts = [f.journal(), f.bore_in_use()];
        let [journal, bore] = parts.map(|part| mean_of_places(part).filter(|_| part.complete).map(Length::as_f64));
        Some((f.station, journal?, bore?, open_of(f, |_| true)))
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
    say_swapped([a, b], Role::BORE, figures);
}
