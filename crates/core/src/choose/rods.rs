//! Rods to pins: which rod runs on which pin so that all big ends come nearest their aim, the worst first.
//!
//! A rod is known by its bore over shells: its judged clearance and the journal it was measured against, or its
//! housing less catalogue walls. Rods that are married to a piston, or weight-matched in their place, stay where
//! they are said to stay. The choice itself is [`jagged_pin_search::assign`].
use jagged_pin_search::Quality;
use jagged_pin_search::assignment::assign;
use serde::Serialize;

use crate::assess::Assessment;
use crate::build::{Build, Standing};
use crate::engine::{BearingRow, PartKind, Place, Seat};
use crate::evidence::mean_housing;
use crate::figure::FigureAssessment;
use crate::maths::Target;
use crate::units::Length;

/// A rod on a pin.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AssignedRod {
    /// The big end it is at now.
    pub rod: Place,
    /// The rod that stands there, by name.
    pub part: String,
    /// The big end it would be at.
    pub to: Place,
    /// Its inside diameter over shells.
    pub bore: Length,
    /// Whether that was measured over shells; else it is its housing less catalogue walls.
    pub over_shells: bool,
    /// The pin it runs on now.
    pub now: Place,
    /// Its clearance there.
    pub clearance_now: Length,
    /// The pin proposed.
    pub pin: Place,
    /// That pin's size.
    pub journal: Length,
    /// The clearance there.
    pub clearance: Length,
    /// Whether that is inside the window.
    pub inside: bool,
    /// Whether it was said to stay.
    pub fixed: bool,
}

/// The best order of the rods.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RodAssignment {
    /// The window and the aim of the row.
    pub target: Target,
    /// Rod by rod.
    pub rods: Vec<AssignedRod>,
    /// Rods that are left out, with what they lack unknown.
    pub open: Vec<Place>,
    /// Outside the window now, and as proposed.
    pub outside: [usize; 2],
    /// Largest distance from the aim now, and as proposed.
    pub worst: [Length; 2],
    /// All distances added now, and as proposed.
    pub total: [Length; 2],
}

struct Rod<'a> {
    s: &'a FigureAssessment,
    part: String,
    bore: Length,
    over_shells: bool,
    journal: Length,
}

/// The best rods for the pins. `fixed` rods stay on their pins. `None` while no rod is known, or without a target.
pub fn rods_to_pins(build: &Build, assessed: &Assessment, fixed: &[Place]) -> Option<RodAssignment> {
    let target = assessed.row_target(BearingRow::Rods)?.window;
    let row = || assessed.bearings_of(BearingRow::Rods);
    let notes = build.notes();
    let standing = Standing::of(&build.layout, &notes);
    let rods: Vec<Rod<'_>> = row().filter_map(|s| rod(build, &standing, s)).collect();
    if rods.is_empty() {
        return None;
    }
    let bores: Vec<Length> = rods.iter().map(|r| r.bore).collect();
    let journals: Vec<Length> = rods.iter().map(|r| r.journal).collect();
    let stays: Vec<(usize, usize)> =
        rods.iter().enumerate().filter(|(_, r)| fixed.contains(&r.s.station)).map(|(i, _)| (i, i)).collect();
    let best = assign(target.into(), &nm(&bores), &nm(&journals), &stays)?;
    let now = quality(target, rods.iter().map(|r| r.bore - r.journal));
    let married = |(i, r): (usize, &Rod<'_>)| {
        let to = &rods[best.columns[i]];
        let clearance = r.bore - to.journal;
        AssignedRod {
            rod: r.s.station,
            part: r.part.clone(),
            to: to.s.station,
            bore: r.bore,
            over_shells: r.over_shells,
            now: r.s.journal_at,
            clearance_now: r.bore - r.journal,
            pin: to.s.journal_at,
            journal: to.journal,
            clearance,
            inside: (target.low..=target.high).contains(&clearance),
            fixed: fixed.contains(&r.s.station),
        }
    };
    Some(RodAssignment {
        target,
        open: row().map(|s| s.station).filter(|s| rods.iter().all(|r| r.s.station != *s)).collect(),
        outside: [now.outside, best.quality.outside],
        worst: [now.worst, best.quality.worst].map(Length::from_nm),
        total: [now.total, best.quality.total].map(Length::from_nm),
        rods: rods.iter().enumerate().map(married).collect(),
    })
}

/// As whole nanometres, for the search.
fn nm(lengths: &[Length]) -> Vec<i64> {
    lengths.iter().map(|l| l.nm()).collect()
}

fn rod<'a>(build: &Build, standing: &Standing<'_>, s: &'a FigureAssessment) -> Option<Rod<'a>> {
    let part = standing.on(Seat::of(PartKind::Rod, s.station)).filter(|_| s.moot.is_empty())?.to_owned();
    let journal = s.journal().size.as_ref().filter(|_| s.journal().complete)?.effective;
    if let Some(judged) = &s.judged {
        return Some(Rod { s, part, bore: journal + judged.clearance, over_shells: true, journal });
    }
    let nominals = build.layout.nominals(BearingRow::Rods)?;
    let (housing, _) = mean_housing(s.housing())?;
    let under = s.class.and_then(|c| c.undersize).unwrap_or_default();
    Some(Rod { s, part, bore: nominals.over_standard(housing) - under, over_shells: false, journal })
}

fn quality(target: Target, clearances: impl Iterator<Item = Length>) -> Quality {
    let mut q = Quality { outside: 0, worst: 0, total: 0 };
    for c in clearances {
        let off = (c - target.aim).abs();
        q.outside += usize::from(!(target.low..=target.high).contains(&c));
        q.worst = q.worst.max(off.nm());
        q.total = q.total.saturating_add(off.nm());
    }
    q
}
