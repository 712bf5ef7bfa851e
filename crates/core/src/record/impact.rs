//! What recording something would end: asked before it is recorded.

use serde::Serialize;
use uuid::Uuid;

use super::admission::next_fact;
use super::refusal::Refusal;
use crate::assess::{Assessment, evaluate};
use crate::build::Build;
use crate::engine::{Method, Part, Station};
use crate::log::What;
use crate::units::{Person, Timestamp};

/// Evidence that would end.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EndedEvidence {
    /// Where.
    pub station: Station,
    /// About what.
    pub part: Part,
    /// Readings that would no longer count.
    pub readings: usize,
}

/// What would follow from recording something.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Impact {
    /// Evidence that would end, place by place.
    pub ended: Vec<EndedEvidence>,
    /// Bearings whose clearance would no longer be judged.
    pub clearances: Vec<Station>,
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
    for ((station, part, _, was), (.., is)) in features(&before).zip(features(&after)) {
        if was > is {
            match ended.iter_mut().find(|e| (e.station, e.part) == (station, part)) {
                // A bore read by both methods is one bore; rods on one pin share its journal.
                Some(known) if part != Part::Journal => known.readings += was - is,
                Some(_) => {}
                None => ended.push(EndedEvidence { station, part, readings: was - is }),
            }
        }
    }
    let judged = |a: &Assessment| a.stations.iter().map(|s| s.judged.is_some()).collect::<Vec<_>>();
    let lost = judged(&before).into_iter().zip(judged(&after)).map(|(was, is)| was && !is);
    let clearances = before.stations.iter().zip(lost).filter(|(_, lost)| *lost).map(|(s, _)| s.station).collect();
    Ok(Impact { ended, clearances })
}

fn features(a: &Assessment) -> impl Iterator<Item = (Station, Part, Option<Method>, usize)> + '_ {
    a.stations.iter().flat_map(|s| {
        s.features().into_iter().map(|(part, method, f)| {
            let place = if part == Part::Journal { s.journal_at } else { s.station };
            (place, part, method, f.taken)
        })
    })
}
