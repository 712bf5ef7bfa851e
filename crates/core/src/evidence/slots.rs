//! The readings of a build sorted to the places they belong to: those that count, and those that ended.
use std::borrow::Cow;
use std::collections::HashSet;

use uuid::Uuid;

use super::endings::{Ending, Endings, thrown_out};
use super::hands::Hands;
use super::sessions::{Session, SessionProof, Sessions};
use crate::build::{Build, Standing};
use crate::engine::{Characteristic, CutIn, Layout, PLACE_KINDS, Place, Planned, Read};
use crate::gauge::Gauge;
use crate::log::{Fact, Measure, Reading, Reckoning};
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
    /// Touches that count for nothing by themselves.
    pub void: Vec<Uuid>,
}

impl<'a> Slot<'a> {
    /// What counts here, as it was read, by gauge and person.
    fn by_hand(&self) -> Vec<(&'a str, Uuid, Vec<f64>)> {
        let mut all: Vec<(&'a str, Uuid, Vec<f64>)> = Vec::new();
        for touch in &self.fresh {
            let (gauge, person) = (touch.reading.gauge.as_str(), touch.fact.by.id);
            match all.iter_mut().find(|(g, p, _)| (*g, *p) == (gauge, person)) {
                Some((.., values)) => values.push(touch.read.as_f64()),
                None => all.push((gauge, person, vec![touch.read.as_f64()])),
            }
        }
        all
    }
}

/// The plans of a build, looked up once.
#[derive(Debug)]
pub(crate) struct Plans<'a> {
    /// By kind of place: asked for with every reading.
    of_kind: Vec<OfKind<'a>>,
}

/// What is touched at one kind of place.
type OfKind<'a> = Vec<(Characteristic, Cow<'a, [Planned]>)>;

impl<'a> Plans<'a> {
    pub fn of(build: &'a Build, notes: &[&'a Fact]) -> Self {
        let planned = |kind| {
            let here = Characteristic::of(Place::new(kind, 1));
            here.map(|c| (c, build.positions_among(notes, (c, kind)))).collect()
        };
        let mut of_kind: Vec<OfKind<'a>> = Vec::new();
        for row in &PLACE_KINDS {
            let at = row.kind as usize;
            of_kind.resize_with(of_kind.len().max(at + 1), Vec::new);
            of_kind[at] = planned(row.kind);
        }
        Plans { of_kind }
    }

    pub fn get(&self, characteristic: Characteristic, at: Place) -> &[Planned] {
        let here = self.of_kind.get(at.kind() as usize).map_or(&[][..], Vec::as_slice);
        here.iter().find(|(c, _)| *c == characteristic).map_or(&[], |(_, plan)| plan)
    }
}

/// The material that a characteristic is cut in.
pub(crate) fn material(layout: &Layout, characteristic: Characteristic) -> Material {
    match characteristic.row().cut_in {
        CutIn::Block => layout.block,
        CutIn::Rod => layout.rods.as_ref().map_or(Material::Steel, |rods| rods.material),
        CutIn::Piston => Material::Aluminium,
        CutIn::Steel => Material::Steel,
    }
}

/// Something that is measured, one way of reading it: a characteristic of a place, or of one track of it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) struct Spot {
    pub place: Place,
    pub characteristic: Characteristic,
    pub read: Read,
    /// The one track; every one when absent.
    pub track: Option<u8>,
}

/// All readings of a build, or those of one blind request, in a plain index: there may be thousands.
#[derive(Debug)]
pub(crate) struct SlottedReadings<'a> {
    layout: &'a Layout,
    plans: &'a Plans<'a>,
    /// How each hand repeats.
    pub hands: Hands<'a>,
    /// Per place: each of its characteristics, read one way or any, and where its positions begin in `slots`.
    starts: Vec<Vec<(Characteristic, Option<Read>, usize)>>,
    slots: Vec<Slot<'a>>,
}

/// The ways of reading that are kept apart; one entry for all where they are not.
fn kept_apart(characteristic: Characteristic) -> impl Iterator<Item = Option<Read>> {
    let row = characteristic.row();
    let apart = row.reads.iter().copied().filter(|_| row.reads_apart).map(Some);
    apart.chain((!row.reads_apart).then_some(None))
}

/// What readings are taken from and held against.
#[derive(Debug, Clone, Copy)]
pub(crate) struct Evidence<'a> {
    pub build: &'a Build,
    pub plans: &'a Plans<'a>,
    pub sessions: &'a Sessions,
    pub standing: &'a Standing<'a>,
    pub endings: &'a Endings<'a>,
    pub struck: &'a HashSet<Uuid>,
    pub reckoning: Reckoning,
}

impl<'a> SlottedReadings<'a> {
    /// The touches that answer `blind`, or with `None` all that answer no request.
    pub fn of(from: Evidence<'a>, blind: Option<Uuid>) -> Self {
        let layout = &from.build.layout;
        let mut next = 0;
        let starts = layout.places().map(|place| {
            let mut here = Vec::new();
            for characteristic in Characteristic::of(place) {
                for read in kept_apart(characteristic) {
                    here.push((characteristic, read, next));
                    next += from.plans.get(characteristic, place).len();
                }
            }
            here
        });
        let starts = starts.collect();
        let mut slots = Vec::new();
        slots.resize_with(next, Slot::default);
        let (plans, hands) = (from.plans, Hands::default());
        let mut touches = SlottedReadings { layout, plans, hands, starts, slots };
        for (fact, reading) in from.build.readings() {
            if reading.blind == blind && (from.struck.is_empty() || !from.struck.contains(&fact.id)) {
                touches.put(from, fact, reading);
            }
        }
        touches.hands = Hands::of(touches.slots.iter().flat_map(Slot::by_hand));
        touches
    }

    /// Puts a reading where it belongs; the touch, where it counts.
    pub fn put(&mut self, from: Evidence<'a>, fact: &'a Fact, reading: &'a Reading) -> Option<TakenReading<'a>> {
        let Reading { station, characteristic, .. } = *reading;
        let part = reading.part.as_deref();
        let seq = from.endings.order_of(fact.seq, reading.taken);
        // It counts where the part stands that it was read on.
        let of = (characteristic.row().part, station);
        let stands = from.standing.follow(of, part, (seq, u32::MAX))?;
        let place = self.plans.get(characteristic, stands).iter().position(|p| p.position == reading.position);
        let begin = self.begin(stands, characteristic, reading.measure.read());
        let slot = begin.zip(place).and_then(|(b, p)| self.slots.get_mut(b + p))?;
        let session = reading.session.and_then(|id| from.sessions.get(id));
        let gauge = session.map(|s| &s.gauge).or_else(|| from.build.gauge(&reading.gauge));
        let read = reading.measure.size();
        let at = reading.taken.unwrap_or(fact.at);
        let mut held = read - session.map_or(Length::ZERO, |s| s.correction(at, from.reckoning));
        // A gauge that was set in a mic carries what the mic was off.
        if let (Reckoning::Second, Measure::Dial { reference, .. }) = (from.reckoning, reading.measure)
            && reading.zeroed_in(session.and_then(|s| s.zero)).set_by_the_mic()
            && let Some(mic) = from.sessions.setting(reference, session.map_or(at, |s| s.opened_at))
        {
            held = held - mic.correction(at, from.reckoning);
        }
        let size = reading.temperatures.map_or(held, |t| t.correct(held, material(self.layout, characteristic)));
        let touch = TakenReading { id: fact.id, size, read, gauge, session, reading, fact };
        let ended = from.endings.ended_of(part, station, characteristic, seq).cloned();
        match ended.or_else(|| session.and_then(thrown_out)) {
            Some(stale) => slot.ended.push((touch, stale)),
            None if reading.measure.is_void(gauge.map_or(Length::ZERO, |g| g.resolution)) => slot.void.push(fact.id),
            None => {
                slot.fresh.push(touch);
                return Some(touch);
            }
        }
        None
    }

    fn begin(&self, place: Place, characteristic: Characteristic, read: Read) -> Option<usize> {
        let here = self.starts.get(self.layout.place_index(place)?)?;
        let ours = |(c, way, _): &&(Characteristic, Option<Read>, usize)| {
            *c == characteristic && way.is_none_or(|way| way == read)
        };
        here.iter().find(ours).map(|(_, _, start)| *start)
    }

    /// The plan of something that is measured, with what was measured at each of its positions.
    pub fn at(&self, what: Spot) -> impl Iterator<Item = (&'a Planned, &Slot<'a>)> {
        let plan = self.plans.get(what.characteristic, what.place);
        let begin = self.begin(what.place, what.characteristic, what.read).unwrap_or(usize::MAX);
        let all = plan.iter().zip(self.slots.get(begin..begin.saturating_add(plan.len())).unwrap_or(&[]));
        all.filter(move |(p, _)| what.track.is_none_or(|track| p.position.track == Some(track)))
    }

    /// Learns the hands anew after a reading was put on top, where it can matter: repeats of one place tell of a hand, and a hand
    /// decides only where three or more touches lie in one place.
    pub fn learn_hands(&mut self, from: &TakenReading<'_>) {
        let touches = |slot: &Slot<'_>| slot.fresh.len();
        let repeated = self.slots.iter().any(|s| touches(s) > 1 && s.fresh.iter().any(|t| t.id == from.id));
        if repeated && self.slots.iter().any(|s| touches(s) > 2) {
            self.hands = Hands::of(self.slots.iter().flat_map(Slot::by_hand));
        }
    }

    /// Every touch that counts.
    pub fn fresh(&self) -> impl Iterator<Item = &TakenReading<'a>> {
        self.slots.iter().flat_map(|s| &s.fresh)
    }
}
