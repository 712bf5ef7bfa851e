//! One feature: from its touches to its size, what is left to touch, and what ended.
use serde::Serialize;
use smallvec::SmallVec;
use uuid::Uuid;

use super::endings::Ending;
use super::hands::{Hand, Hands};
use super::plan::touches_left;
use super::sessions::{Session, Sessions, unchecked_walk};
use super::slots::{Slot, SlottedReadings, Spot};
use super::taken::TakenReading;
use super::walks::Walks;
use crate::build::Build;
use crate::engine::{Axial, Characteristic, Planned, Position, Read};
use crate::gauge::{Gauge, GaugeFit};
use crate::log::{Measure, Reckoning, Rules, ZeroSource};
use crate::maths::{Effective, PlaceValue, SizeRule, ValuedPlace, effective_of, position_value, worst_place};
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
    /// The size, as soon as a position that counts was touched; apart, since most of an engine has none for most of a build.
    pub size: Option<Box<Size>>,
    /// What was measured before something was done to it, while that is not measured again.
    pub stale: Option<Box<EndedSize>>,
}

/// Evidence that ended.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EndedSize {
    /// What ended it.
    pub because: Ending,
    /// The size it showed.
    pub size: Option<Size>,
}

/// What the touches behind a size leave open by themselves, and what picking one place of several did to it: the second
/// reckoning.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Open {
    /// The hand on the gauge.
    pub hand: Hand,
    /// Whether the deciding place counts with the median of its touches, because one of them lies apart.
    pub median: bool,
    /// What picking the worst of several places, or their mean, makes of the doubt of one: a factor.
    pub picked: f64,
    /// Places that count.
    pub places: usize,
    /// By how much the worst reads too far out: taken off where a figure is made of it.
    pub bias: Length,
    /// Standard uncertainty from checks that something was taken off by, in nanometres.
    pub check: f64,
    /// Standard uncertainty from what the gauge may have walked, in nanometres.
    pub walk: f64,
    /// For a dial: what the gauge was zeroed in.
    pub zero: ZeroSource,
    /// For a dial: the sizes it was zeroed at, the smallest and the largest.
    pub zeroed_at: Option<(Length, Length)>,
}

/// What blades prove of a gap: it is at least the one that goes and less than the one that stops.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Between {
    /// Of the narrowest place.
    pub smallest: [Length; 2],
    /// Of the widest.
    pub largest: [Length; 2],
    /// Whether a blade went where another one, no thicker, is said to have stopped.
    pub contradicted: bool,
}

impl Between {
    /// What the touches of each place prove; `None` where none was made with blades.
    fn of<'t, 'a: 't>(places: impl Iterator<Item = &'t [TakenReading<'a>]>) -> Option<Self> {
        let blades = |touch: &TakenReading<'_>| match touch.reading.measure {
            Measure::Blades { passes, refuses } => Some([passes, refuses]),
            _ => None,
        };
        let mut all: Option<Between> = None;
        for touches in places {
            let known = || touches.iter().filter_map(blades);
            let (Some(goes), Some(stops)) = (known().map(|b| b[0]).max(), known().map(|b| b[1]).min()) else {
                continue;
            };
            let contradicted = goes >= stops;
            // Nobody knows which of them is right: the gap may lie anywhere between all of them.
            let widest = || Some([known().map(|b| b[0]).min()?, known().map(|b| b[1]).max()?]);
            let here = if contradicted { widest()? } else { [goes, stops] };
            let each =
                |pick: fn(Length, Length) -> Length, was: [Length; 2]| [pick(was[0], here[0]), pick(was[1], here[1])];
            all = Some(all.map_or(Between { smallest: here, largest: here, contradicted }, |was| Between {
                smallest: each(Length::min, was.smallest),
                largest: each(Length::max, was.largest),
                contradicted: was.contradicted || contradicted,
            }));
        }
        all
    }
}

/// The size of a feature.
#[derive(Debug, Clone, PartialEq, Serialize)]
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
    /// For blades: the widest of the intervals that it lies in.
    #[serde(skip)]
    pub interval: Option<Length>,
    /// For blades, by the third reckoning: what they prove.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub between: Option<Between>,
    /// What it leaves open, by the second reckoning.
    #[serde(skip)]
    pub open: Option<Open>,
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
    /// By how much the first push was smaller than those that followed: washers that were not home. It counts for nothing.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub not_seated: Option<Length>,
    /// Value of those that count.
    pub value: Option<Length>,
    /// Largest less smallest of them.
    pub spread: Length,
    /// Touches still wanted here.
    pub left: u8,
    /// What a gauge is expected to show here next, as a size.
    pub expected: Length,
}

/// What is worked out for each place of a feature on the way: few have more than six, and thousands of small things are made in
/// every evaluation.
type OfPlaces<T> = SmallVec<[T; 8]>;

/// A place of a feature with its touches and what they come to.
#[derive(Debug, Clone, Copy)]
struct Touched<'t, 'a> {
    planned: &'t Planned,
    touches: &'t [TakenReading<'a>],
    /// The value of the place; absent where it was not touched.
    value: Option<Length>,
    /// Largest less smallest of its sizes.
    spread: Length,
    /// The same as they were read: repeats are held against each other before any correction.
    read_spread: Length,
    /// Whether they lie farther apart than hand and step explain, so that one of them is a slip.
    slip: bool,
    /// By how much a first push that does not count was smaller.
    not_seated: Option<Length>,
}

/// Works out one feature of a station, with `wanted` touches at each of its places; while nothing is known, `otherwise` is what
/// is expected there.
pub(crate) fn assess_size(
    (rules, wanted): (&Rules, u8),
    touches: &SlottedReadings<'_>,
    spot: Spot,
    otherwise: Length,
) -> SizeAssessment {
    let (characteristic, here) = (spot.characteristic, touches.at(spot));
    if here.clone().all(|(_, slot)| slot.is_untouched()) {
        return untouched(wanted, here.map(|(planned, _)| planned), otherwise);
    }
    let values = Values { rules, hands: &touches.hands, walks: &touches.walks };
    let slots: OfPlaces<(Touched<'_, '_>, &Slot<'_>)> =
        here.map(|(planned, slot)| (values.touched(planned, &slot.fresh), slot)).collect();
    let size = size(values, characteristic, slots.iter().map(|(touched, _)| *touched));
    let expected = size.as_ref().map_or(otherwise, |s| s.effective);
    let generation = slots.iter().flat_map(|(_, s)| s.ended.iter().map(|(_, by)| by.seq)).max();
    let of_generation = |slot: &Slot<'_>| -> Vec<Uuid> {
        slot.ended.iter().filter(|(_, by)| Some(by.seq) == generation).map(|(t, _)| t.id()).collect()
    };
    let positions: Vec<PositionAssessment> = slots
        .iter()
        .map(|(touched, slot)| {
            let Touched { planned, touches, value, read_spread: spread, .. } = *touched;
            let step = touches.last().and_then(|t| t.gauge).map_or(Length::ZERO, |g| g.resolution);
            PositionAssessment {
                position: planned.position,
                advisory: planned.advisory,
                touches: touches.iter().map(|t| t.id()).collect(),
                stale: of_generation(slot),
                void: slot.void.clone(),
                not_seated: touched.not_seated,
                value,
                spread,
                left: touches_left(wanted, planned.advisory, touches.len(), spread, step),
                expected: value.unwrap_or(expected),
            }
        })
        .collect();
    let taken: usize = positions.iter().map(|p| p.touches.len()).sum();
    let complete = positions.iter().all(|p| p.advisory || p.value.is_some());
    let stale = (!complete).then(|| ended(values, characteristic, &slots, generation)).flatten();
    SizeAssessment {
        taken,
        planned: taken + positions.iter().map(|p| usize::from(p.left)).sum::<usize>(),
        complete,
        positions,
        size: size.map(Box::new),
        stale: stale.map(Box::new),
    }
}

/// A feature that nobody touched, as most of an engine is for most of a build.
fn untouched<'p>(wanted: u8, plan: impl Iterator<Item = &'p Planned>, otherwise: Length) -> SizeAssessment {
    let open = |planned: &Planned| PositionAssessment {
        position: planned.position,
        advisory: planned.advisory,
        touches: Vec::new(),
        stale: Vec::new(),
        void: Vec::new(),
        not_seated: None,
        value: None,
        spread: Length::ZERO,
        left: touches_left(wanted, planned.advisory, 0, Length::ZERO, Length::ZERO),
        expected: otherwise,
    };
    let positions: Vec<PositionAssessment> = plan.map(open).collect();
    SizeAssessment {
        taken: 0,
        planned: positions.iter().map(|p| usize::from(p.left)).sum(),
        complete: positions.iter().all(|p| p.advisory),
        positions,
        size: None,
        stale: None,
    }
}

/// The touches of a place that counted just before a place in the build's order.
fn taken_before<'a>(slot: &Slot<'a>, seq: u32) -> Vec<TakenReading<'a>> {
    let ended = slot.ended.iter().filter(|(_, by)| by.seq >= seq).map(|(t, _)| *t);
    ended.chain(slot.fresh.iter().copied()).filter(|t| t.fact.seq < seq).collect()
}

/// Something as it was just before a place in the build's order, place by place. How many touches are still wanted is said as of
/// today and not as of then.
pub(crate) fn as_it_was(
    rules: &Rules,
    touches: &SlottedReadings<'_>,
    spot: Spot,
    seq: u32,
    now: &SizeAssessment,
) -> SizeAssessment {
    let values = Values { rules, hands: &touches.hands, walks: &touches.walks };
    let taken = touches.at(spot).map(|(planned, slot)| values.touched(planned, &taken_before(slot, seq)).value);
    let place = |(now, value): (&PositionAssessment, Option<Length>)| PositionAssessment { value, ..now.clone() };
    let positions: Vec<PositionAssessment> = now.positions.iter().zip(taken).map(place).collect();
    SizeAssessment {
        complete: positions.iter().all(|p| p.advisory || p.value.is_some()),
        positions,
        size: size_before(rules, touches, spot, seq).map(Box::new),
        ..now.clone()
    }
}

/// The size of something as it was just before a place in the build's order.
pub(crate) fn size_before(rules: &Rules, touches: &SlottedReadings<'_>, spot: Spot, seq: u32) -> Option<Size> {
    let slots: Vec<(&Planned, Vec<TakenReading<'_>>)> =
        touches.at(spot).map(|(p, s)| (p, taken_before(s, seq))).collect();
    let values = Values { rules, hands: &touches.hands, walks: &touches.walks };
    size(values, spot.characteristic, slots.iter().map(|(p, t)| values.touched(p, t)))
}

/// Half a thou: a push that gains more on the one before it found washers that were not home.
const SEATING_GAIN: Length = Length::tenths(5);

/// By how much a first push is smaller than all that followed, where washers were not home.
fn not_seated(touches: &[TakenReading<'_>]) -> Option<Length> {
    let (first, later) = touches.split_first()?;
    if first.reading.measure.read() != Read::Travel {
        return None;
    }
    let least = later.iter().map(|t| t.size).min()?;
    Some(least - first.size).filter(|gain| *gain > SEATING_GAIN)
}

/// How touches become the value of their place.
#[derive(Debug, Clone, Copy)]
struct Values<'h, 'a> {
    rules: &'h Rules,
    hands: &'h Hands<'a>,
    walks: &'h Walks,
}

impl Values<'_, '_> {
    /// A place with what its touches come to.
    fn touched<'t, 'a>(self, planned: &'t Planned, touches: &'t [TakenReading<'a>]) -> Touched<'t, 'a> {
        let gain = not_seated(touches).filter(|_| self.rules.reckoning >= Reckoning::Third);
        let touches = touches.get(usize::from(gain.is_some())..).unwrap_or(touches);
        let read_spread = Length::span(touches.iter().map(|t| t.read));
        let slip = touches.len() > 2 && self.hand(touches).is_some_and(|hand| read_spread > hand.slip_limit());
        let sizes = touches.iter().map(|t| t.size);
        let value = match self.rules.reckoning {
            Reckoning::Second | Reckoning::Third if !slip => Length::mean_of(sizes.clone()),
            _ => position_value(&sizes.clone().collect::<Vec<_>>()),
        };
        Touched { planned, touches, value, spread: Length::span(sizes), read_spread, slip, not_seated: gain }
    }

    /// The hand behind some touches of a place: that of the last.
    fn hand(self, touches: &[TakenReading<'_>]) -> Option<Hand> {
        self.hands.get(touches.last()?.hand?)
    }

    /// Standard uncertainty from what the gauge may have walked since it was zeroed.
    fn doubt_of_walk(self, touch: &TakenReading<'_>) -> f64 {
        if let Some(doubt) = self.walks.doubt_at(touch) {
            return doubt;
        }
        touch.session.map_or_else(
            || touch.gauge.map_or(0.0, |g| unchecked_walk(g.resolution.as_f64())),
            |session| session.doubt_of_walk(self.rules.reckoning),
        )
    }

    /// What the touches leave open, by the second reckoning.
    fn open(self, characteristic: Characteristic, deciding: Touched<'_, '_>, all: &[Touched<'_, '_>]) -> Option<Open> {
        let Touched { touches, slip: median, .. } = deciding;
        let last = touches.last()?;
        let sized = match last.reading.measure.read() {
            Read::Size | Read::Dial => true,
            Read::Turn | Read::Travel => self.rules.reckoning >= Reckoning::Third,
            _ => false,
        };
        if self.rules.reckoning == Reckoning::First || !sized {
            return None;
        }
        let hand = self.hand(touches)?;
        let counts = || all.iter().filter(|t| !t.planned.advisory);
        let values: OfPlaces<f64> = counts().filter_map(|t| t.value).map(Length::as_f64).collect();
        let of_one = hand.of(touches.len(), median);
        let (picked, bias) = match self.rules.effective {
            SizeRule::Worst => {
                let worst = worst_place(characteristic.row().counts, &values, of_one);
                (if of_one > 0.0 { worst.standard / of_one } else { 1.0 }, worst.bias)
            }
            SizeRule::Mean => (1.0 / (values.len().max(1) as f64).sqrt(), 0.0),
        };
        let references = counts().flat_map(|t| t.touches).filter_map(|t| match t.reading.measure {
            Measure::Dial { reference, .. } => Some(reference),
            _ => None,
        });
        let ends = || {
            references.fold(None, |ends: Option<(Length, Length)>, r| {
                Some(ends.map_or((r, r), |(low, high)| (low.min(r), high.max(r))))
            })
        };
        let zeroed_at = characteristic.can_be_read(Read::Dial).then(ends).flatten();
        Some(Open {
            hand,
            median,
            picked,
            places: values.len(),
            bias: Length::from_f64(bias).unwrap_or_default(),
            check: last.session.map_or(0.0, Session::doubt_of_checks),
            walk: self.doubt_of_walk(last),
            zero: last.reading.zeroed_in(last.session.and_then(|s| s.zero)),
            zeroed_at,
        })
    }
}

/// What was there before the last deed that ended anything.
fn ended(
    values: Values<'_, '_>,
    characteristic: Characteristic,
    slots: &[(Touched<'_, '_>, &Slot<'_>)],
    generation: Option<u32>,
) -> Option<EndedSize> {
    let generation = generation?;
    let because: Ending = slots.iter().flat_map(|(_, s)| &s.ended).find(|(_, by)| by.seq == generation)?.1.clone();
    let touched: Vec<(&Planned, Vec<TakenReading<'_>>)> = slots
        .iter()
        .map(|(now, s)| (now.planned, s.ended.iter().filter(|(_, by)| by.seq == generation).map(|(t, _)| *t).collect()))
        .collect();
    Some(EndedSize { because, size: size(values, characteristic, touched.iter().map(|(p, t)| values.touched(p, t))) })
}

/// What the touches come to, as soon as a position that counts was touched.
fn one_size(rule: SizeRule, characteristic: Characteristic, touched: &[Touched<'_, '_>]) -> Option<Effective> {
    let counts = |angle: i16| touched.iter().any(|t| !t.planned.advisory && t.planned.position.angle == angle);
    let valued = |t: &Touched<'_, '_>| {
        let Position { axial, angle, .. } = t.planned.position;
        let value = PlaceValue { value: t.value?, spread: t.spread };
        Some(ValuedPlace { axial, angle, value, counts: counts(angle) })
    };
    let places: OfPlaces<ValuedPlace<Axial, i16>> = touched.iter().map(valued).collect::<Option<_>>()?;
    effective_of(characteristic.row().counts, rule, &places)
}

/// The size that the touches give, as soon as a position that counts was touched.
fn size<'t, 'a: 't>(
    values: Values<'_, '_>,
    characteristic: Characteristic,
    places: impl Iterator<Item = Touched<'t, 'a>>,
) -> Option<Size> {
    let touched: OfPlaces<Touched<'_, '_>> = places.filter(|t| !t.touches.is_empty()).collect();
    let e = one_size(values.rules.effective, characteristic, &touched)?;
    let worst = *touched.get(e.deciding)?;
    let deciding = worst.touches;
    let counting = || touched.iter().filter(|t| !t.planned.advisory).flat_map(|t| t.touches);
    let open = values.open(characteristic, worst, &touched);
    let touches = match (values.rules.effective, values.rules.reckoning) {
        (SizeRule::Mean, Reckoning::First) => counting().count(),
        _ => deciding.len(),
    };
    let intervals = || counting().filter_map(|t| between_blades(t.reading.measure));
    let by_blades = characteristic.can_be_read(Read::Blades);
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
        noted_temperatures: counting().all(|t| t.noted),
        gauge_fit: None,
        tracks: tracks(values.rules.effective, characteristic, &touched),
        interval: by_blades.then(|| intervals().max()).flatten(),
        between: (by_blades && values.rules.reckoning >= Reckoning::Third)
            .then(|| Between::of(touched.iter().filter(|t| !t.planned.advisory).map(|t| t.touches)))
            .flatten(),
        open,
    })
}

/// How far apart the blades are between which a gap lies.
fn between_blades(measure: Measure) -> Option<Length> {
    match measure {
        Measure::Blades { passes, refuses } => Some(refuses - passes),
        _ => None,
    }
}

/// The effective size of each track, where there are several.
fn tracks(rule: SizeRule, characteristic: Characteristic, touched: &[Touched<'_, '_>]) -> Vec<Length> {
    let mut there: Vec<u8> = touched.iter().filter_map(|t| t.planned.position.track).collect();
    there.sort_unstable();
    there.dedup();
    if there.len() < 2 {
        return Vec::new();
    }
    let of_track = |track: &u8| {
        let on_it = |t: &&Touched<'_, '_>| t.planned.position.track == Some(*track);
        let here: Vec<Touched<'_, '_>> = touched.iter().filter(on_it).copied().collect();
        Some(one_size(rule, characteristic, &here)?.effective)
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
