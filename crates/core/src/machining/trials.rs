//! What the torque of a turned cam says: a drag all along is size, one that comes and goes once a turn is a bend.
//!
//! By the first harmonic of the torque over the clock: `ratio = amplitude / mean`. Under a quarter with a high mean every
//! bearing is tight; over a half the shaft is bent or one journal eccentric, and the clock of the amplitude names where. A
//! peak that stays with the *block* when the cam is clocked anew is the tunnel's.
use uuid::Uuid;

use crate::build::{Build, struck_among};
use crate::log::{Fact, Trial, What};
use crate::maths::{ClockReading, direction, throw};
use crate::units::{Person, Timestamp};

/// Thousandths of a newton metre up to which an oiled cam without followers turns lightly.
const LIGHT: f64 = 300.0;
/// Up to this part of the mean the drag is even.
const EVEN: f64 = 0.25;
/// From this part of it on the drag comes and goes.
const COMES_AND_GOES: f64 = 0.5;

/// What a turn says.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum DragSays {
    /// It turns lightly, and drags on one side all the same: bent.
    LightAndBent,
    /// It turns lightly and evenly.
    Light,
    /// It drags all along: sizes.
    TightAllAlong,
    /// It drags once a turn: a bent shaft, or one eccentric journal.
    Bent,
    /// Neither clearly: turn it again, oiled, and clock it anew.
    Unclear,
}

/// One trial with what it says.
#[derive(Debug, Clone, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrialRead {
    /// Its identifier: what it is struck by.
    pub id: Uuid,
    /// Its place in the order.
    pub seq: u32,
    /// When.
    pub at: Timestamp,
    /// By whom.
    pub by: Person,
    /// As it was recorded.
    #[serde(flatten)]
    pub trial: Trial,
    /// The mean torque, in thousandths of a newton metre.
    pub mean: f64,
    /// The amplitude of its first harmonic, likewise.
    pub first: f64,
    /// That as a part of the mean.
    pub ratio: f64,
    /// The clock at which it drags most, in degrees.
    pub clock: i16,
    /// What that says.
    pub says: DragSays,
}

/// Every trial of a build's cam, the first one first.
pub fn trials(build: &Build) -> Vec<TrialRead> {
    let struck = struck_among(&build.notes());
    build.facts.iter().filter(|f| !struck.contains(&f.id)).filter_map(read).collect()
}

fn read(fact: &Fact) -> Option<TrialRead> {
    let What::Trial(trial) = &fact.what else { return None };
    let clock = trial.turn.iter().map(|t| ClockReading { angle: t.angle.into(), value: t.torque.into() });
    let found = throw(&clock.collect::<Vec<_>>())?;
    let first = found.eccentricity();
    let ratio = if found.mean > 0.0 { first / found.mean } else { 0.0 };
    Some(TrialRead {
        id: fact.id,
        seq: fact.seq,
        at: fact.at,
        by: fact.by.clone(),
        trial: trial.clone(),
        mean: found.mean,
        first,
        ratio,
        clock: direction(found.by).round() as i16,
        says: says(found.mean, first),
    })
}

/// A drag that comes and goes by less than this is not felt: a tenth of a newton metre.
const FELT: f64 = 100.0;

fn says(mean: f64, first: f64) -> DragSays {
    let ratio = if mean > 0.0 { first / mean } else { 0.0 };
    match ratio {
        r if r > COMES_AND_GOES && mean > LIGHT => DragSays::Bent,
        r if r > COMES_AND_GOES && first > FELT => DragSays::LightAndBent,
        r if r < EVEN && mean > LIGHT => DragSays::TightAllAlong,
        _ if mean <= LIGHT => DragSays::Light,
        _ => DragSays::Unclear,
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    proptest! {
        #[test]
        fn an_even_drag_is_never_called_a_bend(torque in 301u32..50_000, wobble in 0u32..10) {
            let turn: Vec<ClockReading> = (0..8)
                .map(|i| ClockReading { angle: 45.0 * f64::from(i), value: f64::from(torque + wobble * (i % 2)) })
                .collect();
            let found = throw(&turn);
            let said = found.map(|f| says(f.mean, f.eccentricity()));
            prop_assert_eq!(said, Some(DragSays::TightAllAlong));
        }
    }

    #[test]
    fn what_lies_between_is_said_to_be_unclear() {
        assert_eq!(says(1_000.0, 400.0), DragSays::Unclear);
        assert_eq!(says(250.0, 60.0), DragSays::Light);
        assert_eq!(says(1_000.0, 600.0), DragSays::Bent);
        // Half a newton metre on one side and nothing on the other: light, and bent all the same.
        assert_eq!(says(240.0, 280.0), DragSays::LightAndBent);
    }
}
