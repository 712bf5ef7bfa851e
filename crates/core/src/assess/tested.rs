//! What a check that was measured says of a hypothesis: it confirms it or kills it, with the figure it rests on.
//!
//! | hypothesis | check | confirms | kills |
//! |---|---|---|---|
//! | tight, or wrong undersize | oil clearance there | one is tight | all judged are in or loose |
//! | cap shifted, crush | housing | one is out of tolerance | all are in it |
//! | crank or tunnel, one bearing, one-sided load | housing | one is out of tolerance | |
//! | bent rod, one bearing | taper of the bore | over two tenths | |
//! | thrust load | end play | tight or loose | |
//! | ridge between tracks | step of the tracks | over two tenths | at most a tenth |
//! | one bearing | walls along the shell | taper over two tenths | |
use serde::Serialize;

use super::suspicion::{ConfirmBy, Suspicion};
use crate::engine::{Figure, Layout, Place, Role};
use crate::figure::{FigureAssessment, Finding};
use crate::maths::State;
use crate::units::Length;

/// What a measured check says.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CheckSays {
    /// It is so.
    Confirms,
    /// It is not so.
    Kills,
}

/// A check that was measured, with the figure that decides.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tested {
    /// What it says.
    pub says: CheckSays,
    /// Where the figure was taken.
    pub at: Place,
    /// The figure.
    pub value: Length,
}

/// A difference along a part that is taken for one.
const LARGE: Length = Length::tenths(2);

/// A difference along a part that is none.
const SMALL: Length = Length::tenths(1);

/// What was measured of a check at the places that suggest something; nothing while the figures are missing or lie between.
pub(super) fn tested(
    suspicion: Suspicion,
    by: ConfirmBy,
    stations: &[Place],
    figures: &[FigureAssessment],
    layout: &Layout,
) -> Option<Tested> {
    let bearings: Vec<&FigureAssessment> = figures
        .iter()
        .filter(|f| f.figure.row().fitted && (stations.contains(&f.station) || stations.contains(&f.journal_at)))
        .collect();
    let found = match (suspicion, by) {
        (Suspicion::TightOrWrongUndersize, ConfirmBy::JournalSize) => clearance(&bearings),
        (_, ConfirmBy::HousingSize) => housing(&bearings, layout),
        (Suspicion::BentRod | Suspicion::OneBearing, ConfirmBy::BearingTaper) => along(&bearings, Role::BORE),
        (Suspicion::OneBearing, ConfirmBy::WallTaper) => along(&bearings, Role::LOWER_WALL),
        (Suspicion::RegroundBefore, ConfirmBy::JournalSize) => reground(&bearings),
        (Suspicion::ThrustLoad, ConfirmBy::EndPlay) => end_play(figures),
        (Suspicion::RidgeBetweenTracks, ConfirmBy::JournalSize) => step(stations, figures),
        _ => None,
    };
    found.filter(|t| t.says == CheckSays::Confirms || stands_or_falls(suspicion))
}

/// Whether one check is all that a hypothesis stands on. A housing in its tolerance leaves a bent crank, and an end play that is
/// in leaves the load on the thrust: what has several causes is confirmed by one check and killed by none alone.
const fn stands_or_falls(suspicion: Suspicion) -> bool {
    matches!(suspicion, Suspicion::TightOrWrongUndersize | Suspicion::CapShiftedOrCrush | Suspicion::RidgeBetweenTracks)
}

/// The oil clearances there: one that is tight confirms, and when all are judged and none is, nothing was too tight.
fn clearance(bearings: &[&FigureAssessment]) -> Option<Tested> {
    let judged = || bearings.iter().filter_map(|f| f.judged.as_ref().map(|j| (f.station, j)));
    let says = |says, (at, value)| Some(Tested { says, at, value });
    if let Some((at, j)) = judged().find(|(_, j)| j.state == State::Tight) {
        return says(CheckSays::Confirms, (at, j.clearance));
    }
    let free = judged().all(|(_, j)| matches!(j.state, State::In | State::Loose)) && judged().count() == bearings.len();
    let tightest = judged().map(|(at, j)| (at, j.clearance)).min_by_key(|(_, c)| *c)?;
    free.then_some(tightest).and_then(|figure| says(CheckSays::Kills, figure))
}

fn housing(bearings: &[&FigureAssessment], layout: &Layout) -> Option<Tested> {
    let off = |f: &&FigureAssessment| f.findings.iter().any(|x| matches!(x, Finding::HousingOff { .. }));
    let size = |f: &FigureAssessment| f.housing().size.as_ref().filter(|_| f.housing().complete).map(|s| s.effective);
    if let Some(f) = bearings.iter().find(|f| off(f)) {
        return Some(Tested { says: CheckSays::Confirms, at: f.station, value: size(f)? });
    }
    // What the maker wants has to be known, and each of them measured.
    let known = bearings.iter().all(|f| layout.nominals(f.row).is_some() && size(f).is_some());
    let first = bearings.first().filter(|_| known)?;
    Some(Tested { says: CheckSays::Kills, at: first.station, value: size(first)? })
}

/// How much a part differs along its axis, the largest of those measured.
fn along(bearings: &[&FigureAssessment], role: Role) -> Option<Tested> {
    let taper = |f: &&FigureAssessment| {
        let part = f.measured.iter().find(|m| m.role == role && m.size.complete)?;
        let places = part.size.positions.iter().filter(|p| !p.advisory).count();
        part.size.size.as_ref().filter(|_| places > 1).map(|s| (f.station, s.taper))
    };
    let all: Vec<(Place, Length)> = bearings.iter().filter_map(taper).collect();
    let (at, value) = all.iter().copied().max_by_key(|(_, taper)| *taper)?;
    if value > LARGE {
        return Some(Tested { says: CheckSays::Confirms, at, value });
    }
    (value <= SMALL && all.len() == bearings.len()).then_some(Tested { says: CheckSays::Kills, at, value })
}

/// Journals under by a class were measured: that is what the hypothesis rests on.
fn reground(bearings: &[&FigureAssessment]) -> Option<Tested> {
    let f = bearings.first()?;
    Some(Tested { says: CheckSays::Confirms, at: f.journal_at, value: f.journal().size.as_ref()?.effective })
}

fn end_play(figures: &[FigureAssessment]) -> Option<Tested> {
    let f = figures.iter().find(|f| f.figure == Figure::END_PLAY)?;
    let judged = f.judged.as_ref()?;
    let says = match judged.state {
        State::Tight | State::Loose => CheckSays::Confirms,
        State::In => CheckSays::Kills,
        State::Edge => return None,
    };
    Some(Tested { says, at: f.station, value: judged.clearance })
}

/// The step between the tracks of the pins there, from the tracks that were measured.
fn step(stations: &[Place], figures: &[FigureAssessment]) -> Option<Tested> {
    let spread = |f: &FigureAssessment| {
        let size = f.measured.iter().find(|m| m.role == Role::JOURNAL)?.size.size.as_ref()?;
        (size.tracks.len() > 1).then(|| (f.station, Length::span(size.tracks.iter().copied())))
    };
    let steps = figures.iter().filter(|f| f.figure == Figure::TRACK_STEP && stations.contains(&f.station));
    let (at, value) = steps.filter_map(spread).max_by_key(|(_, step)| *step)?;
    if value > LARGE {
        Some(Tested { says: CheckSays::Confirms, at, value })
    } else {
        (value <= SMALL).then_some(Tested { says: CheckSays::Kills, at, value })
    }
}
