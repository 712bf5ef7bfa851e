//! What one bearing of a row shows for itself, so that it can be held against the others.
use crate::engine::Role;
use crate::evidence::SizeAssessment;
use crate::figure::{Contribution, DoubtSource, FigureAssessment};
use crate::maths::combined;
use crate::units::Length;

/// The mean of the places that count: it tells more of a part than its worst one.
pub(super) fn mean_of_places(part: &SizeAssessment) -> Option<Length> {
    let values: Vec<Length> = part.positions.iter().filter(|p| !p.advisory).filter_map(|p| p.value).collect();
    Length::mean(&values)
}

/// What one figure leaves open for itself, without what it shares with the rest of its row: of one part, or of all. A standard
/// uncertainty in nanometres.
pub(super) fn open_of(figure: &FigureAssessment, of: impl Fn(Role) -> bool) -> f64 {
    let judged = figure.judged.as_ref().and_then(|j| figure.methods.iter().find(|m| m.method == j.method));
    let own = |p: &&Contribution| matches!(p.source, DoubtSource::Repeat | DoubtSource::Resolution) && of(p.of);
    combined(judged.into_iter().flat_map(|m| m.budget.parts.iter().filter(own)).map(|p| p.standard))
}
