//! The readings of a build sorted to the places they belong to: those that count, and those that ended.
use std::borrow::Cow;
use std::collections::HashSet;

use uuid::Uuid;

use super::endings::{Ending, Endings, thrown_out};
use super::hands::Hands;
use super::sessions::{Session, SessionProof, Sessions};
use crate::build::{Build, Standing};
use crate::engine::{Characteristic, CutIn, Layout, PLACE_KINDS, Place, PlaceKind, PlaceNumbers, Planned, Read};
use crate::gauge::Gauge;
use crate::log::{Fact, Measure, Reading, Reckoning};
use crate::maths::Material;
use crate::units::Length;

/// One reading with what its session and its temperatures make of it.
#[derive(Debug, Clone, Copy)]
pub(crate) struct TakenReading<'a> {
    /// The size, corrected for drift and temperature.
    pub size: Length,
    /// The size as it was read: repeats are held against each other before any correction.
    pub read: Length,
    /// The gauge as it was then.
    pub gauge: Option<&'a Gauge>,
    /// The number of the hand that took it, where the gauge is known.
    pub hand: Option<u32>,
    /// Whether the temperatures of part and gauge were both noted with it.
    pub noted: bool,
    /// Whether they say that one of them had to soak first.
    pub to_soak: bool,
    /// Its session, if it belongs to one.
    pub session: Option<&'a Session>,
    /// The reading.
    pub reading: &'a Reading,
    /// Its fact.
    pub fact: &'a Fact,
}

impl TakenReading<'_> {
    /// Identifier of the reading.
    pub const fn id(&self) -> Uuid {
        self.fact.id
    }

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

impl Slot<'_> {
    /// Whether nobody ever touched there.
    pub const fn is_untouched(&self) -> bool {
        self.fresh.is_empty() && self.ended.is_empty() && self.void.is_empty()
    }

    /// What counts here, as it was read, with the number of the hand.
    fn by_hand(&self) -> impl Iterator<Item = (u32, Length)> {
        self.fresh.iter().filter_map(|touch| Some((touch.hand?, touch.read)))
    }
}

/// The plans of a build, looked up once.
#[derive(Debug)]
pub(crate) struct Plans<'a> {
    /// By kind of place.
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
        Plans { of_kind: PLACE_KINDS.iter().map(|row| planned(row.kind)).collect() }
    }

    /// What is touched at that kind of place.
    fn at(&self, kind: PlaceKind) -> &[(Characteristic, Cow<'a, [Planned]>)] {
        self.of_kind.get(kind as usize).map_or(&[], Vec::as_slice)
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
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash)]
pub(crate) struct Spot {
    pub place: Place,
    pub characteristic: Characteristic,
    pub read: Read,
    /// The one track; every one when absent.
    pub track: Option<u8>,
}

/// Where the slots of something that is measured begin.
#[derive(Debug, Clone, Copy)]
struct Start<'a> {
    place: Place,
    characteristic: Characteristic,
    /// The one way of reading it that is kept apart; every way when absent.
    read: Option<Read>,
    /// The first of its slots.
    first: usize,
    /// A slot for each of its positions.
    plan: &'a [Planned],
}

impl Start<'_> {
    fn is_of(&self, characteristic: Characteristic, read: Read) -> bool {
        self.characteristic == characteristic && self.read.is_none_or(|way| way == read)
    }
}

/// By what and by whom a reading was taken.
#[derive(Debug, Clone, Copy)]
struct Means<'a> {
    /// The gauge as the reading names it.
    named: &'a str,
    by: Uuid,
    sitting: Option<Uuid>,
    session: Option<&'a Session>,
    /// The gauge as it was then.
    gauge: Option<&'a Gauge>,
    /// The number of the hand, where the gauge is known.
    hand: Option<u32>,
}

/// All readings of a build, or those of one blind request, in a plain index: there may be thousands.
#[derive(Debug)]
pub(crate) struct SlottedReadings<'a> {
    layout: &'a Layout,
    numbers: PlaceNumbers,
    /// How each hand repeats.
    pub hands: Hands<'a>,
    /// By what and by whom the last reading was taken: the next one mostly by the same.
    last: Option<Means<'a>>,
    /// What it was taken of, as the number of its start: the next one is mostly of the same.
    here: Option<(Place, Characteristic, Read, usize)>,
    /// What is measured, place by place.
    starts: Vec<Start<'a>>,
    /// Where each place begins among them, with one end more than there are places.
    places: Vec<usize>,
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
        let (mut starts, mut places, mut next): (Vec<Start<'a>>, _, _) = (Vec::new(), vec![0], 0);
        for place in layout.places() {
            for (characteristic, plan) in from.plans.at(place.kind()) {
                for read in kept_apart(*characteristic) {
                    starts.push(Start { place, characteristic: *characteristic, read, first: next, plan });
                    next += plan.len();
                }
            }
            places.push(starts.len());
        }
        let mut slots = Vec::new();
        slots.resize_with(next, Slot::default);
        let (numbers, hands) = (PlaceNumbers::of(layout), Hands::default());
        let mut touches = SlottedReadings { layout, numbers, hands, last: None, here: None, starts, places, slots };
        let counts = |(fact, reading): &(&Fact, &Reading)| {
            reading.blind == blind && (from.struck.is_empty() || !from.struck.contains(&fact.id))
        };
        // Room for all of a place at once: thousands of readings would move again and again while it grows.
        let mut room = vec![0_usize; next];
        let mut sorted = Vec::with_capacity(from.build.facts.len());
        for (fact, reading) in from.build.readings().filter(counts) {
            if let Some(at) = touches.slot_of(&from, fact, reading) {
                room[at.0] += 1;
                sorted.push((at, fact, reading));
            }
        }
        for (slot, room) in touches.slots.iter_mut().zip(room) {
            slot.fresh.reserve_exact(room);
        }
        for (at, fact, reading) in sorted {
            touches.put_at(&from, at, fact, reading);
        }
        touches.hands.learn(touches.slots.iter().map(Slot::by_hand));
        touches
    }

    /// Puts a reading where it belongs; the touch, where it counts.
    pub fn put(&mut self, from: Evidence<'a>, fact: &'a Fact, reading: &'a Reading) -> Option<TakenReading<'a>> {
        let at = self.slot_of(&from, fact, reading)?;
        self.put_at(&from, at, fact, reading)
    }

    /// The number of the slot that a reading belongs to, and the place it has in the order of what was done; `None` where
    /// its part stands nowhere, or nothing is touched there.
    fn slot_of(&mut self, from: &Evidence<'a>, fact: &Fact, reading: &'a Reading) -> Option<(usize, u32)> {
        let Reading { station, characteristic, .. } = *reading;
        let part = reading.part.as_deref();
        let seq = from.endings.order_of(fact.seq, reading.taken);
        // It counts where the part stands that it was read on.
        let of = (characteristic.row().part, station);
        let stands = from.standing.follow(of, part, (seq, u32::MAX))?;
        let read = reading.measure.read();
        let here = self.here.filter(|(at, of, by, _)| (*at, *of, *by) == (stands, characteristic, read));
        let number = here.map(|(.., number)| number).or_else(|| self.start_number(stands, characteristic, read))?;
        self.here = Some((stands, characteristic, read, number));
        let Start { first, plan, .. } = *self.starts.get(number)?;
        Some((first + plan.iter().position(|p| p.position == reading.position)?, seq))
    }

    fn put_at(
        &mut self,
        from: &Evidence<'a>,
        (slot, seq): (usize, u32),
        fact: &'a Fact,
        reading: &'a Reading,
    ) -> Option<TakenReading<'a>> {
        let Reading { station, characteristic, .. } = *reading;
        let part = reading.part.as_deref();
        let Means { session, gauge, hand, .. } = self.means(from, fact, reading);
        let slot = self.slots.get_mut(slot)?;
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
        let noted = reading.temperatures.is_some_and(|t| t.part_mc.is_some() && t.gauge_mc.is_some());
        let to_soak = reading.temperatures.is_some_and(|t| t.let_it_soak());
        let touch = TakenReading { size, read, gauge, hand, noted, to_soak, session, reading, fact };
        if let Some(deed) = from.endings.ended_of(part, station, characteristic, seq) {
            slot.ended.push((touch, deed.clone()));
        } else if let Some(walked) = session.and_then(thrown_out) {
            slot.ended.push((touch, walked));
        } else if reading.measure.is_void(gauge.map_or(Length::ZERO, |g| g.resolution)) {
            slot.void.push(fact.id);
        } else {
            slot.fresh.push(touch);
            return Some(touch);
        }
        None
    }

    fn means(&mut self, from: &Evidence<'a>, fact: &Fact, reading: &'a Reading) -> Means<'a> {
        let (named, by, sitting) = (reading.gauge.as_str(), fact.by.id, reading.session);
        let same = |last: &Means<'a>| last.named == named && last.by == by && last.sitting == sitting;
        if let Some(last) = self.last.filter(same) {
            return last;
        }
        let session = sitting.and_then(|id| from.sessions.get(id));
        let gauge = session.map(|s| &s.gauge).or_else(|| from.build.gauge(named));
        let hand = gauge.map(|gauge| self.hands.number((named, by), gauge));
        *self.last.insert(Means { named, by, sitting, session, gauge, hand })
    }

    fn start_number(&self, place: Place, characteristic: Characteristic, read: Read) -> Option<usize> {
        let number = self.numbers.get(place)?;
        let (from, to) = (*self.places.get(number)?, *self.places.get(number + 1)?);
        Some(from + self.starts.get(from..to)?.iter().position(|start| start.is_of(characteristic, read))?)
    }

    fn start(&self, place: Place, characteristic: Characteristic, read: Read) -> Option<&Start<'a>> {
        self.starts.get(self.start_number(place, characteristic, read)?)
    }

    fn slots_of(&self, start: &Start<'a>) -> &[Slot<'a>] {
        self.slots.get(start.first..start.first.saturating_add(start.plan.len())).unwrap_or(&[])
    }

    /// The plan of something that is measured, with what was measured at each of its positions.
    pub fn at(&self, what: Spot) -> impl Iterator<Item = (&'a Planned, &Slot<'a>)> + Clone {
        let start = self.start(what.place, what.characteristic, what.read);
        let all = start.into_iter().flat_map(|start| start.plan.iter().zip(self.slots_of(start)));
        all.filter(move |(p, _)| what.track.is_none_or(|track| p.position.track == Some(track)))
    }

    /// Learns the hands anew after a reading was put on top, where it can matter: repeats of one place tell of a hand, and a hand
    /// decides only where three or more touches lie in one place.
    pub fn learn_hands(&mut self, from: &TakenReading<'_>) {
        let touches = |slot: &Slot<'_>| slot.fresh.len();
        let repeated = self.slots.iter().any(|s| touches(s) > 1 && s.fresh.iter().any(|t| t.id() == from.id()));
        if repeated && self.slots.iter().any(|s| touches(s) > 2) {
            self.hands.learn(self.slots.iter().map(Slot::by_hand));
        }
    }

    /// Every touch that counts, what was measured at one place together.
    pub fn fresh(&self) -> impl Iterator<Item = (Place, Characteristic, impl Iterator<Item = &TakenReading<'a>>)> {
        let of = |start: &Start<'a>| self.slots_of(start).iter().flat_map(|slot| &slot.fresh);
        self.starts.iter().map(move |start| (start.place, start.characteristic, of(start)))
    }
}
