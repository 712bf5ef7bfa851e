//! In rounds: after one touch at each place, more are asked for only where another may still decide a figure, and there only at
//! the places that can be the ones that decide.
use rustc_hash::FxHashSet;

use crate::engine::{Position, Statistic, Term};
use crate::evidence::{PositionAssessment, Spot};
use crate::figure::{FigureAssessment, Judged, Measured};
use crate::log::Rules;
use crate::maths::{AnotherTouch, MOST_TOUCHES, Side, SizeRule};
use crate::units::Length;

/// Asks for another touch wherever one may decide.
pub(super) fn ask_for_more(rules: &Rules, figures: &mut [FigureAssessment]) {
    if !rules.rounds {
        return;
    }
    let mut wanted: FxHashSet<(Spot, Position)> = FxHashSet::default();
    for f in figures.iter().filter(|f| f.asked && f.moot.is_empty()) {
        let open = |j: &&Judged| j.another.is_some_and(|another| another.does == AnotherTouch::MayDecide);
        let Some(judged) = f.judged.as_ref().filter(open) else { continue };
        let terms = f.figure.method(judged.method).map_or(&[][..], |m| m.terms);
        for term in terms {
            for m in f.measured.iter().filter(|m| m.role == term.role && m.read == term.read) {
                wanted.extend(rivals(rules, (judged, term), m).map(|p| (m.spot(), p.position)));
            }
        }
    }
    for m in figures.iter_mut().flat_map(|f| &mut f.measured) {
        let spot = m.spot();
        for p in m.size.positions.iter_mut().filter(|p| p.left == 0 && wanted.contains(&(spot, p.position))) {
            p.left = 1;
            m.size.planned = m.size.planned.saturating_add(1);
        }
    }
}

/// The places of a part that may be the one that decides: those not farther from it than half the uncertainty of the
/// figure. A mean, or a difference of places, rests on all of them.
fn rivals<'m>(
    rules: &Rules,
    (judged, term): (&Judged, &Term),
    m: &'m Measured,
) -> impl Iterator<Item = &'m PositionAssessment> {
    let of_all = rules.effective == SizeRule::Mean
        || matches!(
            term.statistic,
            Statistic::MeanOfPlaces | Statistic::Taper | Statistic::OutOfRound | Statistic::Travel
        );
    let counts = || m.size.positions.iter().filter(|p| !p.advisory);
    let values = || counts().filter_map(|p| p.value);
    let smallest_decides = (judged.nearest == Side::Low) == (term.factor > 0);
    let deciding = if smallest_decides { values().min() } else { values().max() };
    let reach = Length::from_nm(judged.expanded.nm() / 2);
    let near = move |value: Length| of_all || deciding.is_some_and(|deciding| (value - deciding).abs() <= reach);
    counts().filter(move |p| p.touches.len() < MOST_TOUCHES && p.value.is_some_and(near))
}
