//! One feature: from its touches to its size, what is left to touch, and what ended.
use serde::Serialize;
use uuid::Uuid;

use super::endings::Ending;
use super::plan::touches_left;
use super::sessions::Sessions;
use super::slots::{Slot, SlottedReadings, Spot, TakenReading};
use crate::build::Build;
use crate::engine::{Axial, Characteristic, Planned, Position};
use crate::gauge::{Gauge, GaugeFit};
use crate::log::Rules;
use crate::maths::{Effective, SizeRule, TouchedPlace, effective, position_value};
use crate::units::Length;

/// One feature measured one way.
#[derive(Debug, Clone, PartialEq, Default, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SizeAssessment {
    /// Its positions in the order of the plan.
    pub positions: Vec<PositionAssessment>,
    /// Touches taken that count.
    pub taken: usize,
    /// Touches taken and still wanted together.
    pub planned: usize,
    /// Whether every position that counts was touched.
    pub complete: bool,
    /// The size, as soon as a position that counts was touched.
    pub size: Option<Size>,
    /// What was measured before something was done to it, while that is not measured again.
    pub stale: Option<EndedSize>,
}

/// Evidence that ended.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EndedSize {
    /// What ended it.
    pub because: Ending,
    /// The size it showed.
    pub size: Option<Size>,
}

/// The size of a feature.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Size {
    /// The size that counts.
    pub effective: Length,
    /// Smallest position.
    pub smallest: Length,
    /// Largest position.
    pub largest: Length,
    /// Largest difference along the axis.
    pub taper: Length,
    /// Largest difference around.
    pub out_of_round: Length,
    /// For bores: how much wider toward the parting line.
    pub relief: Option<Length>,
    /// Largest spread of repeats.
    pub max_spread: Length,
    /// Gauge behind the deciding position.
    pub gauge: String,
    /// The sitting of the deciding reading, if it belongs to one.
    #[serde(skip)]
    pub session: Option<Uuid>,
    /// Touches behind the effective size.
    pub touches: usize,
    /// Whether every reading behind it is free of doubt about its gauge: checked into a session and not
    /// walked.
    pub proven: bool,
    /// Whether the temperatures of part and gauge were noted with every reading.
    pub noted_temperatures: bool,
    /// The gauge's step against the window it is used on.
    pub gauge_fit: Option<GaugeFit>,
    /// Where all tracks of a shared pin are seen together: the effective size of each, from the front.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub tracks: Vec<Length>,
}

/// One position of a feature.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PositionAssessment {
    /// Where.
    pub position: Position,
    /// Informs only; does not count for the size.
    pub advisory: bool,
    /// The readings that count, in the order taken.
    pub touches: Vec<Uuid>,
    /// Readings that no longer count, of the last generation.
    pub stale: Vec<Uuid>,
    /// Readings that count for nothing: pushes that did not come back to where they began.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub void: Vec<Uuid>,
    /// Value of those that count.
    pub value: Option<Length>,
    /// Largest less smallest of them.
    pub spread: Length,
    /// Touches still wanted here.
    pub left: u8,
    /// What a gauge is expected to show here next, as a size.
    pub expected: Length,
}

/// A place with its touches.
type Touched_<'a> = (&'a Planned, &'a [TakenReading<'a>]);

/// Works out one feature of a station; `otherwise` is what is expected while nothing is known.
pub(crate) fn assess_size(
    rules: &Rules,
    touches: &SlottedReadings<'_>,
    spot: Spot,
    otherwise: Length,
) -> SizeAssessment {
    let characteristic = spot.characteristic;
    let slots: Vec<(&Planned, &Slot<'_>)> = touches.at(spot).collect();
    let fresh: Vec<Touched_<'_>> = slots.iter().map(|(p, s)| (*p, s.fresh.as_slice())).collect();
    let size = size(rules, characteristic, &fresh);
    let expected = size.as_ref().map_or(otherwise, |s| s.effective);
    let generation = slots.iter().flat_map(|(_, s)| s.ended.iter().map(|(_, by)| by.seq)).max();
    let of_generation = |slot: &Slot<'_>| -> Vec<Uuid> {
        slot.ended.iter().filter(|(_, by)| Some(by.seq) == generation).map(|(t, _)| t.id).collect()
    };
    let positions: Vec<PositionAssessment> = slots
        .iter()
        .map(|(planned, slot)| {
            let sizes: Vec<Length> = slot.fresh.iter().map(|t| t.size).collect();
            let step = slot.fresh.last().and_then(|t| t.gauge).map_or(Length::ZERO, |g| g.resolution);
            let value = position_value(&sizes);
            let spread = Length::span(slot.fresh.iter().map(|t| t.read));
            PositionAssessment {
                position: planned.position,
                advisory: planned.advisory,
                touches: slot.fresh.iter().map(|t| t.id).collect(),
                stale: of_generation(slot),
                void: slot.void.clone(),
                value,
                spread,
                left: touches_left(rules.touches, planned.advisory, sizes.len(), spread, step),
                expected: value.unwrap_or(expected),
            }
        })
        .collect();
    let taken: usize = positions.iter().map(|p| p.touches.len()).sum();
    let complete = positions.iter().all(|p| p.advisory || p.value.is_some());
    let stale = (!complete).then(|| ended(rules, characteristic, &slots, generation)).flatten();
    SizeAssessment {
        taken,
        planned: taken + positions.iter().map(|p| usize::from(p.left)).sum::<usize>(),
        complete,
        positions,
        size,
        stale,
    }
}

/// What was there before the last deed that ended anything.
fn ended(
    rules: &Rules,
    characteristic: Characteristic,
    slots: &[(&Planned, &Slot<'_>)],
    generation: Option<u32>,
) -> Option<EndedSize> {
    let generation = generation?;
    let because: Ending = slots.iter().flat_map(|(_, s)| &s.ended).find(|(_, by)| by.seq == generation)?.1.clone();
    let touched: Vec<(&Planned, Vec<TakenReading<'_>>)> = slots
        .iter()
        .map(|(p, s)| (*p, s.ended.iter().filter(|(_, by)| by.seq == generation).map(|(t, _)| *t).collect()))
        .collect();
    let places: Vec<Touched_<'_>> = touched.iter().map(|(p, t)| (*p, t.as_slice())).collect();
    Some(EndedSize { because, size: size(rules, characteristic, &places) })
}

/// What the touches come to, as soon as a position that counts was touched.
fn one_size(rules: &Rules, characteristic: Characteristic, touched: &[Touched_<'_>]) -> Option<Effective> {
    let places: Vec<TouchedPlace<Axial, i16>> = touched
        .iter()
        .map(|(p, t)| TouchedPlace {
            axial: p.position.axial,
            angle: p.position.angle,
            readings: t.iter().map(|t| t.size).collect(),
        })
        .collect();
    let angles: Vec<i16> = touched.iter().filter(|(p, _)| !p.advisory).map(|(p, _)| p.position.angle).collect();
    if angles.is_empty() {
        return None;
    }
    effective(characteristic.row().counts, rules.effective, Some(&angles), &places)
}

/// The size that the touches give, as soon as a position that counts was touched.
fn size(rules: &Rules, characteristic: Characteristic, touched: &[Touched_<'_>]) -> Option<Size> {
    let touched: Vec<Touched_<'_>> = touched.iter().filter(|(_, t)| !t.is_empty()).copied().collect();
    let e = one_size(rules, characteristic, &touched)?;
    let (_, deciding) = touched.get(e.deciding)?;
    let counting = || touched.iter().filter(|(p, _)| !p.advisory).flat_map(|(_, t)| *t);
    let touches = match rules.effective {
        SizeRule::Worst => deciding.len(),
        SizeRule::Mean => counting().count(),
    };
    let noted =
        |t: &TakenReading<'_>| t.reading.temperatures.is_some_and(|t| t.part_mc.is_some() && t.gauge_mc.is_some());
    Some(Size {
        effective: e.effective,
        smallest: e.smallest,
        largest: e.largest,
        taper: e.taper,
        out_of_round: e.out_of_round,
        relief: e.relief,
        max_spread: e.max_spread,
        gauge: deciding.last().map(|t| t.reading.gauge.clone()).unwrap_or_default(),
        session: deciding.last().and_then(|t| t.session).map(|s| s.id),
        touches,
        proven: counting().all(TakenReading::proven),
        noted_temperatures: counting().all(noted),
        gauge_fit: None,
        tracks: tracks(rules, characteristic, &touched),
    })
}

/// The effective size of each track, where there are several.
fn tracks(rules: &Rules, characteristic: Characteristic, touched: &[Touched_<'_>]) -> Vec<Length> {
    let mut there: Vec<u8> = touched.iter().filter_map(|(p, _)| p.position.track).collect();
    there.sort_unstable();
    there.dedup();
    if there.len() < 2 {
        return Vec::new();
    }
    let of_track = |track: &u8| {
        let here: Vec<Touched_<'_>> =
            touched.iter().filter(|(p, _)| p.position.track == Some(*track)).copied().collect();
        Some(one_size(rules, characteristic, &here)?.effective)
    };
    there.iter().filter_map(of_track).collect()
}

/// The gauge behind a size, as it was when the readings were taken.
pub(crate) fn gauge_behind<'a>(build: &'a Build, sessions: &'a Sessions, size: &Size) -> Option<&'a Gauge> {
    let session = size.session.and_then(|id| sessions.get(id));
    session.map(|s| &s.gauge).or_else(|| build.gauge(&size.gauge))
}

/// What the crushed shells fill: the mean of the places that count, not the narrowest.
pub(crate) fn mean_housing(feature: &SizeAssessment) -> Option<(Length, &Size)> {
    let size = feature.size.as_ref().filter(|_| feature.complete)?;
    let values: Vec<Length> = feature.positions.iter().filter(|p| !p.advisory).filter_map(|p| p.value).collect();
    Some((Length::mean(&values)?, size))
}
