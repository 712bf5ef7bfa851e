//! What recording something would end: asked before it is recorded.
use serde::Serialize;
use uuid::Uuid;

use super::admission::next_fact;
use super::refusal::Refusal;
use crate::assess::{Assessment, evaluate};
use crate::build::Build;
use crate::engine::{Place, Role};
use crate::figure::Measured;
use crate::log::What;
use crate::units::{Person, Timestamp};

/// Evidence that would end.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EndedEvidence {
    /// Where.
    pub station: Place,
    /// About what.
    pub part: Role,
    /// Readings that would no longer count.
    pub readings: usize,
}

/// What would follow from recording something.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Impact {
    /// Evidence that would end, place by place.
    pub ended: Vec<EndedEvidence>,
    /// Places with a figure that would no longer be judged, each once.
    pub clearances: Vec<Place>,
}

/// What would end if `what` were recorded now by `by`.
///
/// # Errors
/// [`Refusal`] when it would not be admitted.
pub fn impact(build: &Build, by: Person, what: What) -> Result<Impact, Refusal> {
    let at = build.facts.last().map_or(build.opened_at, |f| f.at);
    let fact = next_fact(build, Uuid::nil(), Timestamp(at.0), by, what)?;
    let mut then = build.clone();
    then.facts.push(fact);
    let (before, after) = (evaluate(build), evaluate(&then));
    let mut ended: Vec<EndedEvidence> = Vec::new();
    for (was, is) in measured(&before).into_iter().zip(measured(&after)) {
        let lost = was.size.taken.saturating_sub(is.size.taken);
        let (station, part) = (was.place, was.role);
        match ended.iter_mut().find(|e| (e.station, e.part) == (station, part)) {
            _ if lost == 0 => {}
            // What is read in two ways is one thing.
            Some(known) => known.readings += lost,
            None => ended.push(EndedEvidence { station, part, readings: lost }),
        }
    }
    let judged = |a: &Assessment| a.figures.iter().map(|f| f.judged.is_some()).collect::<Vec<_>>();
    let lost = judged(&before).into_iter().zip(judged(&after)).map(|(was, is)| was && !is);
    // A place with several figures is measured again once.
    let mut clearances: Vec<Place> = Vec::new();
    for (figure, _) in before.figures.iter().zip(lost).filter(|(_, lost)| *lost) {
        if !clearances.contains(&figure.station) {
            clearances.push(figure.station);
        }
    }
    Ok(Impact { ended, clearances })
}

/// Everything measured, each once: rods on one pin share its journal.
fn measured(a: &Assessment) -> Vec<&Measured> {
    let mut all: Vec<&Measured> = Vec::new();
    for m in a.figures.iter().flat_map(|f| &f.measured) {
        if !all.iter().any(|k| k.spot() == m.spot()) {
            all.push(m);
        }
    }
    all
}
