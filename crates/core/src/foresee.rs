//! What recording something would end: asked before it is recorded.

use serde::Serialize;
use uuid::Uuid;

use crate::assess::evaluate;
use crate::assessment::Assessment;
use crate::build::Build;
use crate::fact::{Person, Timestamp, What};
use crate::feature::{Method, Part};
use crate::record::{Refusal, next_fact};
use crate::station::Station;

/// Evidence that would end.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ended {
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
pub struct Foreseen {
    /// Evidence that would end, place by place.
    pub ended: Vec<Ended>,
    /// Bearings whose clearance would no longer be judged.
    pub clearances: Vec<Station>,
}

/// What would end if `what` were recorded now by `by`.
///
/// # Errors
/// [`Refusal`] when it would not be admitted.
pub fn foresee(build: &Build, by: Person, what: What) -> Result<Foreseen, Refusal> {
    let at = build.facts.last().map_or(build.opened_at, |f| f.at);
    let fact = next_fact(build, Uuid::nil(), Timestamp(at.0), by, what)?;
    let mut then = build.clone();
    then.facts.push(fact);
    let (before, after) = (evaluate(build), evaluate(&then));
    let mut ended: Vec<Ended> = Vec::new();
    for ((station, part, _, was), (.., is)) in features(&before).zip(features(&after)) {
        if was > is {
            match ended.iter_mut().find(|e| (e.station, e.part) == (station, part)) {
                // A bore read by both methods is one bore; rods on one pin share its journal.
                Some(known) if part != Part::Journal => known.readings += was - is,
                Some(_) => {}
                None => ended.push(Ended { station, part, readings: was - is }),
            }
        }
    }
    let judged = |a: &Assessment| a.stations.iter().map(|s| s.judged.is_some()).collect::<Vec<_>>();
    let lost = judged(&before).into_iter().zip(judged(&after)).map(|(was, is)| was && !is);
    let clearances = before.stations.iter().zip(lost).filter(|(_, lost)| *lost).map(|(s, _)| s.station).collect();
    Ok(Foreseen { ended, clearances })
}

fn features(a: &Assessment) -> impl Iterator<Item = (Station, Part, Option<Method>, usize)> + '_ {
    a.stations.iter().flat_map(|s| {
        s.features().into_iter().map(|(part, method, f)| {
            let place = if part == Part::Journal { s.journal_at } else { s.station };
            (place, part, method, f.taken)
        })
    })
}
