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
//! | any | a check that a figure is judged by | one is outside its window | all are in |
use serde::Serialize;

use super::suspicion::Suspicion;
use crate::engine::{Figure, Layout, Place, Role};
use crate::figure::{FigureAssessment, Finding};
use crate::log::Check;
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
    /// It was measured and says nothing either way.
    LeavesOpen,
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
    by: Check,
    stations: &[Place],
    figures: &[FigureAssessment],
    layout: &Layout,
) -> Option<Tested> {
    let bearings: Vec<&FigureAssessment> = figures
        .iter()
        .filter(|f| f.figure.row().fitted && (stations.contains(&f.station) || stations.contains(&f.journal_at)))
        .collect();
    match (suspicion, by) {
        (Suspicion::TightOrWrongUndersize, Check::JournalSize) => clearance(&bearings),
        (_, Check::HousingSize) => housing(&bearings, layout),
        (Suspicion::BentRod | Suspicion::OneBearing, Check::BearingTaper) => along(&bearings, Role::BORE),
        (Suspicion::OneBearing, Check::WallTaper) => along(&bearings, Role::LOWER_WALL),
        (Suspicion::RegroundBefore, Check::JournalSize) => reground(&bearings),
        (Suspicion::ThrustLoad, Check::EndPlay) => end_play(figures),
        (Suspicion::RidgeBetweenTracks, Check::JournalSize) => step(stations, figures),
        _ => by_figure(by, stations, figures, layout),
    }
}

/// The figures that a check is judged by, as the catalogue names them; none for what no figure says.
pub(super) const fn figures_of(check: Check) -> &'static [&'static str] {
    match check {
        Check::FilletClearance => &["fillet_room", "rod_edge_room"],
        Check::Runout => &["main_runout", "end_runout"],
        Check::StraightEdge => &["tunnel_gap"],
        Check::CylinderSize => &["cylinder_round", "cylinder_taper"],
        Check::PistonToWall => &["piston_to_wall"],
        Check::PistonSize => &["piston_size"],
        Check::RingGap => &["top_ring_gap", "second_ring_gap"],
        Check::RingSide => &["top_ring_side"],
        Check::PinClearance => &["pin_in_piston", "pin_in_rod"],
        Check::FaceFlatness => &["face_flatness"],
        Check::CrownHeight => &["deck_clearance"],
        _ => &[],
    }
}

/// Whether two places belong to one cylinder, or one of them carries the other.
fn together(a: Place, b: Place, layout: &Layout) -> bool {
    let one_cylinder = a.of_cylinder().is_some() && a.of_cylinder() == b.of_cylinder();
    a == b || layout.journal_of(a) == b || layout.journal_of(b) == a || one_cylinder
}

/// Where the figure of a check is taken for something seen at a place: there or beside it, else at the first place that has it.
pub(super) fn measured_at(check: Check, seen: Place, layout: &Layout) -> Option<Place> {
    let names = figures_of(check);
    let figures: Vec<Figure> = Figure::all().filter(|f| names.contains(&f.name())).collect();
    let all: Vec<Place> = layout.places().filter(|p| figures.iter().any(|f| f.is_at(*p))).collect();
    all.iter().copied().find(|p| together(*p, seen, layout)).or_else(|| all.first().copied())
}

/// Whether a figure outside its window on that side speaks for what a check looks for. What closes up or butts was too tight; that
/// it is loose now says nothing of how it was before it seized.
const fn speaks(check: Check, state: State) -> bool {
    match check {
        Check::PistonToWall | Check::RingGap => matches!(state, State::Tight),
        _ => matches!(state, State::Tight | State::Loose),
    }
}

/// What the figures of a check say where something was seen, or along the whole engine where they are taken elsewhere: one
/// outside its window confirms, or leaves it open where it is off the other way; when all of them are judged and in, nothing is
/// there.
fn by_figure(check: Check, stations: &[Place], figures: &[FigureAssessment], layout: &Layout) -> Option<Tested> {
    let names = figures_of(check);
    let all: Vec<&FigureAssessment> =
        figures.iter().filter(|f| names.contains(&f.figure.name()) && f.target.is_some()).collect();
    let near = |f: &&FigureAssessment| stations.iter().any(|s| together(f.station, *s, layout));
    let mut of: Vec<&FigureAssessment> = all.iter().copied().filter(near).collect();
    if of.is_empty() {
        of = all;
    }
    let judged = || of.iter().filter_map(|f| f.judged.as_ref().map(|j| (f.station, j)));
    let off = judged().find(|(_, j)| speaks(check, j.state));
    if let Some((at, j)) = off {
        return Some(Tested { says: CheckSays::Confirms, at, value: j.worst });
    }
    if let Some((at, j)) = judged().find(|(_, j)| matches!(j.state, State::Tight | State::Loose)) {
        return Some(Tested { says: CheckSays::LeavesOpen, at, value: j.worst });
    }
    let (at, first) = judged().next()?;
    let all_in = judged().count() == of.len() && judged().all(|(_, j)| j.state == State::In);
    all_in.then_some(Tested { says: CheckSays::Kills, at, value: first.worst })
}

/// Whether one check is all that a hypothesis stands on. A housing in its tolerance leaves a bent crank, and an end play that is
/// in leaves the load on the thrust: what has several causes is confirmed by one check and killed by none alone.
pub(super) const fn stands_or_falls(suspicion: Suspicion) -> bool {
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_figure_that_a_check_names_is_in_the_catalogue() {
        let checks = [
            Check::FilletClearance,
            Check::Runout,
            Check::StraightEdge,
            Check::CylinderSize,
            Check::PistonToWall,
            Check::PistonSize,
            Check::RingGap,
            Check::RingSide,
            Check::PinClearance,
            Check::FaceFlatness,
            Check::CrownHeight,
        ];
        for name in checks.into_iter().flat_map(figures_of) {
            assert!(Figure::all().any(|f| f.name() == *name), "{name}");
        }
    }
}
