//! The readings of a build sorted to the places they belong to: those that count, and those that ended.

use std::collections::HashSet;

use uuid::Uuid;

use super::endings::{Ending, Endings, thrown_out};
use super::sessions::{Session, SessionProof, Sessions};
use crate::build::Build;
use crate::engine::{Feature, Layout, Method, Part, Planned, Station};
use crate::gauge::Gauge;
use crate::log::{Fact, Reading};
use crate::maths::Material;
use crate::units::Length;

/// One reading with what its session and its temperatures make of it.
#[derive(Debug, Clone, Copy)]
pub(crate) struct TakenReading<'a> {
    /// Identifier of the reading.
    pub id: Uuid,
    /// The size, corrected for drift and temperature.
    pub size: Length,
    /// The size as it was read: repeats are held against each other before any correction.
    pub read: Length,
    /// The gauge as it was then.
    pub gauge: Option<&'a Gauge>,
    /// Its session, if it belongs to one.
    pub session: Option<&'a Session>,
    /// The reading.
    pub reading: &'a Reading,
    /// Its fact.
    pub fact: &'a Fact,
}

impl TakenReading<'_> {
    /// Whether the gauge was checked and has held as far as is known.
    pub fn proven(&self) -> bool {
        self.session.is_some_and(|s| !matches!(s.proof, SessionProof::Unproven | SessionProof::ThrownOut))
    }
}

/// What was measured at one position.
#[derive(Debug, Default)]
pub(crate) struct Slot<'a> {
    /// Touches that count.
    pub fresh: Vec<TakenReading<'a>>,
    /// Touches that ended, with what ended them.
    pub ended: Vec<(TakenReading<'a>, Ending)>,
}

/// Features of a place as they are kept apart: a bore by each method.
const KINDS: usize = 7;

const fn kind(part: Part, dial: bool) -> usize {
    match (part, dial) {
        (Part::Journal, _) => 0,
        (Part::Housing, _) => 1,
        (Part::Bore, true) => 2,
        (Part::Bore, false) => 3,
        (Part::UpperWall, _) => 4,
        (Part::LowerWall, _) => 5,
        (Part::Strip, _) => 6,
    }
}

/// The plans of a build's features, looked up once.
#[derive(Debug)]
pub(crate) struct Plans<'a>(Vec<(Feature, &'a [Planned])>);

impl<'a> Plans<'a> {
    pub fn of(build: &'a Build, notes: &[&'a Fact]) -> Self {
        Plans(Feature::ALL.iter().map(|f| (*f, build.plan_among(notes, *f))).collect())
    }

    pub fn get(&self, feature: Feature) -> &'a [Planned] {
        self.0.iter().find(|(f, _)| *f == feature).map_or(&[], |(_, plan)| *plan)
    }
}

/// The material of what a feature is cut in.
const fn material(layout: &Layout, feature: Feature) -> Material {
    match feature {
        Feature::MainHousing | Feature::MainBearing => layout.block,
        _ => Material::Steel,
    }
}

/// All readings of a build, or those of one blind request, in a plain index: there may be thousands.
#[derive(Debug)]
pub(crate) struct SlottedReadings<'a> {
    layout: &'a Layout,
    plans: &'a Plans<'a>,
    /// Per place and kind: where its positions begin in `slots`.
    starts: Vec<usize>,
    slots: Vec<Slot<'a>>,
}

/// What readings are taken from and held against.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Evidence<'a> {
    pub build: &'a Build,
    pub plans: &'a Plans<'a>,
    pub sessions: &'a Sessions,
    pub endings: &'a Endings<'a>,
    pub struck: &'a HashSet<Uuid>,
}

impl<'a> SlottedReadings<'a> {
    /// The touches that answer `blind`, or with `None` all that answer no request.
    pub fn of(from: Evidence<'a>, blind: Option<Uuid>) -> Self {
        let layout = &from.build.layout;
        let mut starts = Vec::with_capacity(layout.place_count() * KINDS);
        let mut next = 0;
        for station in layout.places() {
            for (part, _) in PART_OF_KIND {
                starts.push(next);
                next += Feature::at(station, part).map_or(0, |f| from.plans.get(f).len());
            }
        }
        let mut slots = Vec::new();
        slots.resize_with(next, Slot::default);
        let mut touches = SlottedReadings { layout, plans: from.plans, starts, slots };
        for (fact, reading) in from.build.readings() {
            if reading.blind == blind && (from.struck.is_empty() || !from.struck.contains(&fact.id)) {
                touches.put(from, fact, reading);
            }
        }
        touches
    }

    fn put(&mut self, from: Evidence<'a>, fact: &'a Fact, reading: &'a Reading) {
        let Reading { station, feature, .. } = *reading;
        let place = self.plans.get(feature).iter().position(|p| p.position == reading.position);
        let begin = self.begin(station, feature.part(), reading.measure.is_dial());
        let Some(slot) = begin.zip(place).and_then(|(b, p)| self.slots.get_mut(b + p)) else { return };
        let session = reading.session.and_then(|id| from.sessions.get(id));
        let gauge = session.map(|s| &s.gauge).or_else(|| from.build.gauge(&reading.gauge));
        let read = reading.measure.size();
        let held = read - session.map_or(Length::ZERO, |s| s.correction(fact.at));
        let size = reading.temperatures.map_or(held, |t| t.correct(held, material(self.layout, feature)));
        let touch = TakenReading { id: fact.id, size, read, gauge, session, reading, fact };
        let ended = from.endings.ended(station, feature.part(), fact.seq).cloned();
        match ended.or_else(|| session.and_then(thrown_out)) {
            Some(stale) => slot.ended.push((touch, stale)),
            None => slot.fresh.push(touch),
        }
    }

    fn begin(&self, station: Station, part: Part, dial: bool) -> Option<usize> {
        self.starts.get(self.layout.place_index(station)? * KINDS + kind(part, dial)).copied()
    }

    /// The plan of a feature with what was measured at each of its positions.
    pub fn at(
        &self,
        station: Station,
        feature: Feature,
        method: Method,
    ) -> impl Iterator<Item = (&'a Planned, &Slot<'a>)> {
        let plan = self.plans.get(feature);
        let begin = self.begin(station, feature.part(), method == Method::Direct).unwrap_or(usize::MAX);
        plan.iter().zip(self.slots.get(begin..begin.saturating_add(plan.len())).unwrap_or(&[]))
    }

    /// Every touch that counts.
    pub fn fresh(&self) -> impl Iterator<Item = &TakenReading<'a>> {
        self.slots.iter().flat_map(|s| &s.fresh)
    }
}

/// The kinds of feature of a place, in the order of [`kind`].
const PART_OF_KIND: [(Part, bool); KINDS] = [
    (Part::Journal, false),
    (Part::Housing, false),
    (Part::Bore, true),
    (Part::Bore, false),
    (Part::UpperWall, false),
    (Part::LowerWall, false),
    (Part::Strip, false),
];
