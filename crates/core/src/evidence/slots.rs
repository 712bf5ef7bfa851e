//! The readings of a build sorted to the places they belong to: those that count, and those that ended.
use std::borrow::Cow;
use std::collections::HashSet;

use uuid::Uuid;

use super::endings::{Ending, Endings, thrown_out};
use super::hands::Hands;
use super::sessions::{Session, Sessions};
use super::taken::TakenReading;
use super::walks::Walks;
use crate::build::{Build, Standing};
use crate::engine::{Characteristic, CutIn, Layout, PLACE_KINDS, Place, PlaceKind, PlaceNumbers, Planned, Read};
use crate::gauge::Gauge;
use crate::log::{Fact, Measure, Reading, Reckoning};
use crate::maths::{Material, Temperatures};
use crate::units::Length;

/// Touches of a place that there is room for at once: more are rare, and thousands of them would move as it grows.
const USUAL_TOUCHES: usize = 8;

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
    fn by_hand(&self) -> impl Iterator<Item = (u32, Length)> + Clone {
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
    /// By reference: a copy of it for each of thousands of touches makes the processor wait.
    sitting: &'a Option<Uuid>,
    session: Option<&'a Session>,
    /// The gauge as it was then.
    gauge: Option<&'a Gauge>,
    /// The number of the hand, where the gauge is known.
    hand: Option<u32>,
}

impl<'a> Means<'a> {
    // Apart, so that what is done for each of thousands of touches stays short.
    #[inline(never)]
    fn of(from: &Evidence<'a>, (named, by): (&'a str, Uuid), sitting: &'a Option<Uuid>, hands: &mut Hands<'a>) -> Self {
        let session = sitting.and_then(|id| from.sessions.get(id));
        let gauge = session.map(|s| &s.gauge).or_else(|| from.build.gauge(named));
        let hand = gauge.map(|gauge| hands.number((named, by), gauge));
        Means { named, by, sitting, session, gauge, hand }
    }
}

/// All readings of a build, or those of one blind request, in a plain index: there may be thousands.
#[derive(Debug)]
pub(crate) struct SlottedReadings<'a> {
    numbers: PlaceNumbers,
    /// How each hand repeats.
    pub hands: Hands<'a>,
    /// How each gauge walked; nothing where touches are repeated at once.
    pub walks: Walks,
    /// By what and by whom readings were taken: few.
    means: Vec<Means<'a>>,
    /// The number of the last of them: the next one is mostly taken by the same.
    last: usize,
    /// The number of the start of what it was taken of, and the position after its own: the next one is mostly of the same,
    /// where the plan goes on.
    here: usize,
    next: usize,
    /// What is measured, place by place.
    starts: Vec<Start<'a>>,
    /// Where each place begins among them, with one end more than there are places.
    places: Vec<usize>,
    slots: Vec<Slot<'a>>,
}

/// The size of what was read, corrected for drift and temperature.
#[inline(never)]
fn corrected(
    from: &Evidence<'_>,
    (fact, reading): (&Fact, &Reading),
    session: Option<&Session>,
    read: Length,
) -> Length {
    let held = read - off_by(from, (fact, reading), session);
    let warm = |t: Temperatures| t.correct(held, material(&from.build.layout, reading.characteristic));
    reading.temperatures.map_or(held, warm)
}

/// What has to be taken off a reading for the checks of its gauge, and of the mic that it was set in: a gauge carries what
/// the mic was off.
fn off_by(from: &Evidence<'_>, (fact, reading): (&Fact, &Reading), session: Option<&Session>) -> Length {
    let at = reading.taken.unwrap_or(fact.at);
    let by_itself = session.map_or(Length::ZERO, |s| s.correction(at, from.reckoning));
    if from.reckoning >= Reckoning::Second
        && let Measure::Dial { reference, .. } = reading.measure
        && reading.zeroed_in(session.and_then(|s| s.zero)).set_by_the_mic()
        && let Some(mic) = from.sessions.setting(reference, session.map_or(at, |s| s.opened_at))
    {
        return by_itself + mic.correction(at, from.reckoning);
    }
    by_itself
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
    /// Whether repeats are made on the way back, and what a gauge walked between them is taken off.
    pub rounds: bool,
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
        let (numbers, hands) = (PlaceNumbers::of(layout), Hands::of(from.reckoning));
        let mut touches = SlottedReadings {
            numbers,
            hands,
            walks: Walks::default(),
            means: Vec::new(),
            last: 0,
            here: 0,
            next: 0,
            starts,
            places,
            slots,
        };
        let counts = |(fact, reading): &(&Fact, &Reading)| {
            reading.blind == blind && (from.struck.is_empty() || !from.struck.contains(&fact.id))
        };
        for (fact, reading) in from.build.readings().filter(counts) {
            touches.take(&from, fact, reading);
        }
        if from.rounds {
            touches.learn_walks();
        }
        touches.hands.learn(touches.slots.iter().map(Slot::by_hand));
        touches
    }

    /// Puts a reading where it belongs; the touch, where it counts.
    pub fn put(&mut self, from: Evidence<'a>, fact: &'a Fact, reading: &'a Reading) -> Option<TakenReading<'a>> {
        if !from.rounds {
            return self.take(&from, fact, reading).copied();
        }
        // The newest touch may show a walk that changes all of them, the hands and itself among them.
        self.take_walks(true);
        let taken = self.take(&from, fact, reading).copied();
        self.learn_walks();
        self.hands.learn(self.slots.iter().map(Slot::by_hand));
        taken
    }

    // This and the two below are gone through for each of thousands of readings: as calls they take a sixth longer.
    /// The number of the slot that a reading belongs to, and the place it has in the order of what was done; `None` where
    /// its part stands nowhere, or nothing is touched there.
    #[inline(always)]
    fn slot_of(&mut self, from: &Evidence<'a>, fact: &Fact, reading: &'a Reading) -> Option<(usize, u32)> {
        let Reading { station, characteristic, .. } = *reading;
        let part = reading.part.as_deref();
        let seq = from.endings.order_of(fact.seq, reading.taken);
        // It counts where the part stands that it was read on.
        let stands = match part {
            None if from.standing.is_first() => station,
            _ => from.standing.follow((characteristic.row().part, station), part, (seq, u32::MAX))?,
        };
        let read = reading.measure.read();
        let is_here = |start: &Start<'_>| start.place == stands && start.is_of(characteristic, read);
        if !self.starts.get(self.here).is_some_and(is_here) {
            self.here = self.start_number(stands, characteristic, read)?;
            self.next = 0;
        }
        let start = self.starts.get(self.here)?;
        let is_it = |planned: &Planned| planned.position == reading.position;
        let number = match start.plan.get(self.next).filter(|planned| is_it(planned)) {
            Some(_) => self.next,
            None => start.plan.iter().position(is_it)?,
        };
        self.next = number + 1;
        Some((start.first + number, seq))
    }

    #[inline(always)]
    fn take(&mut self, from: &Evidence<'a>, fact: &'a Fact, reading: &'a Reading) -> Option<&TakenReading<'a>> {
        let (number, seq) = self.slot_of(from, fact, reading)?;
        let Reading { station, characteristic, .. } = *reading;
        let part = reading.part.as_deref();
        let Means { session, gauge, hand, .. } = *self.means(from, fact, reading)?;
        let slot = self.slots.get_mut(number)?;
        let read = reading.measure.size();
        let as_read = from.sessions.all.is_empty() && reading.temperatures.is_none();
        let whole = if as_read { read } else { corrected(from, (fact, reading), session, read) };
        let size = whole - from.endings.off_coated(characteristic);
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
            if slot.fresh.is_empty() {
                slot.fresh.reserve(USUAL_TOUCHES);
            }
            slot.fresh.push(touch);
            return slot.fresh.last();
        }
        None
    }

    #[inline(always)]
    fn means(&mut self, from: &Evidence<'a>, fact: &Fact, reading: &'a Reading) -> Option<&Means<'a>> {
        let (named, by, sitting) = (reading.gauge.as_str(), fact.by.id, &reading.session);
        let same = |means: &Means<'a>| means.sitting == sitting && means.by == by && means.named == named;
        if !self.means.get(self.last).is_some_and(same) {
            // Benches that work side by side come again soon.
            self.last = self.means.iter().rposition(same).unwrap_or_else(|| {
                self.means.push(Means::of(from, (named, by), sitting, &mut self.hands));
                self.means.len() - 1
            });
        }
        self.means.get(self.last)
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
    pub fn at(&self, what: Spot) -> impl ExactSizeIterator<Item = (&'a Planned, &Slot<'a>)> + Clone {
        let start = self.start(what.place, what.characteristic, what.read);
        let (mut plan, mut slots) = start.map_or((&[][..], &[][..]), |start| (start.plan, self.slots_of(start)));
        if let Some(track) = what.track {
            // What a plan has of one track stands together.
            let on_it = |p: &Planned| p.position.track == Some(track);
            let from = plan.iter().position(on_it).unwrap_or(plan.len());
            let to = plan.iter().rposition(on_it).map_or(from, |last| last + 1);
            (plan, slots) = (&plan[from..to], slots.get(from..to).unwrap_or(&[]));
        }
        plan.iter().zip(slots)
    }

    /// Finds how each gauge walked, from the touches as they were read, and takes it off all of them.
    fn learn_walks(&mut self) {
        self.walks = Walks::of(self.slots.iter().map(|slot| slot.fresh.as_slice()));
        self.take_walks(false);
    }

    /// Takes the known walks off every touch, or puts them on again where `back`.
    fn take_walks(&mut self, back: bool) {
        let (walks, slots) = (&self.walks, &mut self.slots);
        if walks.is_empty() {
            return;
        }
        for slot in slots {
            let ended = slot.ended.iter_mut().map(|(touch, _)| touch);
            slot.fresh.iter_mut().chain(ended).for_each(|touch| walks.take_off(touch, back));
        }
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
