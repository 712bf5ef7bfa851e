//! One feature: from its touches to its size, what is left to touch, and what ended.

use uuid::Uuid;

use crate::Length;
use crate::assessment::{FeatureAssessment, FeatureSize, PositionAssessment, StaleFeature};
use crate::effective::{Place, Rule, effective, position_value};
use crate::feature::{Axial, Feature, Method, Planned};
use crate::plan::touches_left;
use crate::rules::Rules;
use crate::stale::Stale;
use crate::station::Station;
use crate::touches::{Slot, Touch, Touches};

/// A place with its touches.
type At<'a> = (&'a Planned, &'a [Touch<'a>]);

/// Works out one feature of a station; `otherwise` is what is expected while nothing is known.
pub(crate) fn assess(
    rules: &Rules,
    touches: &Touches<'_>,
    (station, feature, method): (Station, Feature, Method),
    otherwise: Length,
) -> FeatureAssessment {
    let slots: Vec<(&Planned, &Slot<'_>)> = touches.at(station, feature, method).collect();
    let fresh: Vec<At<'_>> = slots.iter().map(|(p, s)| (*p, s.fresh.as_slice())).collect();
    let size = size(rules, feature, &fresh);
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
                value,
                spread,
                left: touches_left(rules.touches, planned.advisory, sizes.len(), spread, step),
                expected: value.unwrap_or(expected),
            }
        })
        .collect();
    let taken: usize = positions.iter().map(|p| p.touches.len()).sum();
    let complete = positions.iter().all(|p| p.advisory || p.value.is_some());
    let stale = (!complete).then(|| ended(rules, feature, &slots, generation)).flatten();
    FeatureAssessment {
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
    feature: Feature,
    slots: &[(&Planned, &Slot<'_>)],
    generation: Option<u32>,
) -> Option<StaleFeature> {
    let generation = generation?;
    let because: Stale = slots.iter().flat_map(|(_, s)| &s.ended).find(|(_, by)| by.seq == generation)?.1.clone();
    let touched: Vec<(&Planned, Vec<Touch<'_>>)> = slots
        .iter()
        .map(|(p, s)| (*p, s.ended.iter().filter(|(_, by)| by.seq == generation).map(|(t, _)| *t).collect()))
        .collect();
    let places: Vec<At<'_>> = touched.iter().map(|(p, t)| (*p, t.as_slice())).collect();
    Some(StaleFeature { because, size: size(rules, feature, &places) })
}

/// The size that the touches give, as soon as a position that counts was touched.
fn size(rules: &Rules, feature: Feature, touched: &[At<'_>]) -> Option<FeatureSize> {
    let touched: Vec<&At<'_>> = touched.iter().filter(|(_, t)| !t.is_empty()).collect();
    let places: Vec<Place<Axial, i16>> = touched
        .iter()
        .map(|(p, t)| Place {
            axial: p.position.axial,
            angle: p.position.angle,
            readings: t.iter().map(|t| t.size).collect(),
        })
        .collect();
    let angles: Vec<i16> = touched.iter().filter(|(p, _)| !p.advisory).map(|(p, _)| p.position.angle).collect();
    if angles.is_empty() {
        return None;
    }
    let e = effective(feature.part().kind(), rules.effective, Some(&angles), &places)?;
    let (_, deciding) = touched.get(e.deciding)?;
    let counting = || touched.iter().filter(|(p, _)| !p.advisory).flat_map(|(_, t)| *t);
    let touches = match rules.effective {
        Rule::Worst => deciding.len(),
        Rule::Mean => counting().count(),
    };
    let noted = |t: &Touch<'_>| t.reading.temperatures.is_some_and(|t| t.part_mc.is_some() && t.gauge_mc.is_some());
    Some(FeatureSize {
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
        proven: counting().all(Touch::proven),
        noted_temperatures: counting().all(noted),
        gauge_fit: None,
    })
}
