//! Staleness: from what moment the evidence about a part counts.
//!
//! Doing something to a part, or changing what it was set up with, ends whatever was measured on it
//! before. Stale values stay on show with the reason; they are never used.
use std::borrow::Cow;
use std::collections::BTreeMap;

use serde::Serialize;

use super::sessions::{Session, SessionProof};
use crate::build::{Standing, order_of};
use crate::engine::{BearingRow, Characteristic, Figure, Layout, Place, PlaceNumbers, Role, Scope, Tag};
use crate::log::{
    Assignment, Ends, Fact, Fitting, GaugePoint, Mishap, OrderMoved, OrderStep, Reckoning, SetUp, SetUpChange,
    ShellsIn, WashersIn, What, Work, WorkEvent, WorkOrder,
};
use crate::units::{Length, Person, Timestamp};

/// Why something no longer counts.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ending {
    /// Place of the deed in the build's order: readings before it do not count.
    pub seq: u32,
    /// When.
    pub at: Timestamp,
    /// Who recorded it.
    pub by: Person,
    /// What happened.
    pub cause: EndingCause,
}

/// What ended the evidence.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum EndingCause {
    /// Work on the part.
    Work {
        /// The event.
        event: WorkEvent,
    },
    /// Another set-up.
    SetUp {
        /// The row.
        row: BearingRow,
        /// What of it changed.
        changes: Vec<SetUpChange>,
    },
    /// Other shells were fitted.
    Fitting {
        /// Their pairs and what was predicted of them.
        fitting: Fitting,
    },
    /// Other thrust washers were fitted.
    Washers {
        /// What was fitted, and the end play it promises.
        washers: WashersIn,
    },
    /// The part came back from another shop.
    Returned {
        /// The order.
        order: WorkOrder,
    },
    /// Other parts are together there.
    Assigned {
        /// Where they were put.
        assignment: Assignment,
    },
    /// Something befell the engine that can have changed it.
    Mishap {
        /// What.
        mishap: Mishap,
    },
    /// Pistons are measured elsewhere on them, or otherwise.
    GaugePoint {
        /// Where from then on.
        point: GaugePoint,
    },
    /// The gauge walked by more than a step.
    Session {
        /// The gauge's name.
        gauge: String,
        /// By how much.
        drift: Length,
    },
}

/// What work ends. A crank that is straightened keeps its sizes: what a bend changes is how it runs, and how it lies along
/// the axis.
const fn ended_by(work: Work, reckoning: Reckoning) -> &'static [Tag] {
    match (work, reckoning) {
        (_, Reckoning::First) => work.changes(),
        (Work::CrankStraightened, Reckoning::Second) => &[Tag::Thrust, Tag::Straightness],
        // A press or a peening tool works at the fillets.
        (Work::CrankStraightened, Reckoning::Third) => &[Tag::Thrust, Tag::Straightness, Tag::Cheeks],
        _ => work.changes(),
    }
}

/// What a change of the set-up ends. Other shells have other walls.
const fn ended_by_set_up(change: SetUpChange, row: BearingRow, reckoning: Reckoning) -> Ends {
    match (change, reckoning) {
        (SetUpChange::Shells { station }, Reckoning::Second | Reckoning::Third) => {
            Ends { scope: Scope::One(station), tags: &[Tag::Shells] }
        }
        _ => change.ends(row),
    }
}

/// Where a cap came from that sits elsewhere now, its own place is without it, whatever was said of that one.
fn partners(next: &SetUp, changes: &[SetUpChange]) -> Vec<SetUpChange> {
    let moved = |change: &SetUpChange| match change {
        SetUpChange::Cap { station } => next.caps.iter().find(|c| c.station == *station),
        _ => None,
    };
    let from = changes.iter().filter_map(moved).map(|seat| match next.row {
        BearingRow::Mains => Place::main(seat.cap),
        BearingRow::Rods => Place::rod(seat.cap),
    });
    let stays = |partner: &Place| changes.contains(&SetUpChange::Cap { station: *partner });
    from.filter(|partner| !stays(partner)).map(|station| SetUpChange::Cap { station }).collect()
}

/// Shells that were fitted stay known though the next set-up names only others.
fn keep_unnamed(before: &SetUp, now: &mut Cow<'_, SetUp>) {
    let named = |s: &&ShellsIn| now.shells.iter().any(|n| n.station == s.station);
    let kept: Vec<ShellsIn> = before.shells.iter().filter(|s| !named(s)).cloned().collect();
    if !kept.is_empty() {
        now.to_mut().shells.extend(kept);
    }
}

/// For every characteristic of an engine, the events that ended its evidence, in order.
#[derive(Debug)]
pub struct Endings<'a> {
    layout: &'a Layout,
    numbers: PlaceNumbers,
    standing: &'a Standing<'a>,
    causes: Vec<Ending>,
    /// What each of them changed, and where.
    ends: Vec<Vec<Ends>>,
    /// What was changed so far.
    changed: Vec<Tag>,
    /// Indices into the causes, by place.
    of_place: Vec<Vec<(Characteristic, Vec<usize>)>>,
    /// What a coating takes of a diameter that is read at the gauge point.
    off_coated: Length,
}

impl<'a> Endings<'a> {
    /// The endings among a build's notes ([`crate::Build::notes`]).
    pub fn of(layout: &'a Layout, notes: &[&'a Fact], standing: &'a Standing<'a>, reckoning: Reckoning) -> Self {
        let none = |place| Characteristic::of(place).map(|c| (c, Vec::new())).collect();
        let of_place = layout.places().map(none).collect();
        let mut endings = Endings {
            layout,
            numbers: PlaceNumbers::of(layout),
            standing,
            causes: Vec::new(),
            ends: Vec::new(),
            changed: Vec::new(),
            of_place,
            off_coated: Length::ZERO,
        };
        let mut set_ups: BTreeMap<BearingRow, Cow<'_, SetUp>> = BTreeMap::new();
        let mut gauge_point: Option<&GaugePoint> = None;
        for fact in notes {
            match &fact.what {
                What::Work(event) => {
                    let ends = Ends { tags: ended_by(event.work, reckoning), ..event.ends() };
                    endings.add(fact, EndingCause::Work { event: event.clone() }, &[ends]);
                }
                What::SetUp(next) => {
                    let before = set_ups.insert(next.row, Cow::Borrowed(next));
                    if reckoning >= Reckoning::Third
                        && let (Some(before), Some(now)) = (before.as_ref(), set_ups.get_mut(&next.row))
                    {
                        keep_unnamed(before, now);
                    }
                    let mut changes = before.as_ref().map(|b| b.changes(next)).unwrap_or_default();
                    if reckoning >= Reckoning::Second {
                        changes.extend(partners(next, &changes));
                    }
                    if !changes.is_empty() {
                        let ends: Vec<Ends> =
                            changes.iter().map(|c| ended_by_set_up(*c, next.row, reckoning)).collect();
                        endings.add(fact, EndingCause::SetUp { row: next.row, changes }, &ends);
                    }
                }
                What::Fitting(fitting) => {
                    // What was fitted is what the next set-up is held against.
                    if let Some(known) = set_ups.get_mut(&fitting.row).filter(|_| reckoning >= Reckoning::Second) {
                        let known = known.to_mut();
                        for pair in &fitting.pairs {
                            known.shells.retain(|s| s.station != pair.station);
                            let (upper, lower) = (pair.upper.clone(), pair.lower.clone());
                            known.shells.push(ShellsIn { station: pair.station, upper, lower });
                        }
                    }
                    endings.add(fact, EndingCause::Fitting { fitting: fitting.clone() }, &fitting.ends());
                }
                What::Washers(washers) => {
                    let cause = EndingCause::Washers { washers: washers.clone() };
                    endings.add(fact, cause, &[washers.ends()]);
                }
                What::OrderMoved(OrderMoved { order, step: OrderStep::Returned, .. }) => {
                    if let Some(order) = order_of(notes, *order) {
                        endings.add(fact, EndingCause::Returned { order: order.clone() }, &order.ends());
                    }
                }
                What::Assigned(assignment) => {
                    let cause = EndingCause::Assigned { assignment: assignment.clone() };
                    endings.add(fact, cause, &standing.ends(fact.seq));
                }
                What::GaugePoint(point) => {
                    // What was measured before anybody said where was measured there as far as anybody knows.
                    endings.off_coated = point.off_diameter();
                    let before = gauge_point.replace(point);
                    if before.is_some_and(|before| point.moves(before)) {
                        endings.add(fact, EndingCause::GaugePoint { point: point.clone() }, &[GaugePoint::ends()]);
                    }
                }
                What::Mishap(mishap) => {
                    endings.add(fact, EndingCause::Mishap { mishap: mishap.clone() }, &mishap.ends(layout));
                }
                _ => {}
            }
        }
        endings
    }

    /// What comes off a size that was read over a coating, where the sheet means the metal under it.
    pub fn off_coated(&self, characteristic: Characteristic) -> Length {
        let at_gauge_point = || characteristic.row().ended_by.iter().any(|(tag, _)| *tag == Tag::GaugePoint);
        if self.off_coated != Length::ZERO && at_gauge_point() { self.off_coated } else { Length::ZERO }
    }

    /// Whether any of these was changed after `seq`: there, or anywhere where no place is named.
    pub fn changed_since(&self, tags: &[Tag], at: Option<Place>, seq: u32) -> bool {
        let later = self.causes.partition_point(|cause| cause.seq <= seq);
        let reaches =
            |ends: &Ends| at.is_none_or(|at| ends.scope.covers(at)) && ends.tags.iter().any(|tag| tags.contains(tag));
        self.ends.iter().skip(later).any(|ends| ends.iter().any(reaches))
    }

    fn add(&mut self, fact: &Fact, cause: EndingCause, ends: &[Ends]) {
        let this = self.causes.len();
        self.changed.extend(ends.iter().flat_map(|e| e.tags));
        self.ends.push(ends.to_vec());
        self.causes.push(Ending { seq: fact.seq, at: fact.at, by: fact.by.clone(), cause });
        for (place, characteristics) in self.layout.places().zip(&mut self.of_place) {
            for (characteristic, causes) in characteristics {
                if ends.iter().any(|e| e.reach(self.layout, place, *characteristic)) {
                    causes.push(this);
                }
            }
        }
    }

    /// The causes that reach a characteristic of a place, in order.
    fn causes_at(&self, place: Place, characteristic: Characteristic) -> &[usize] {
        let here = self.numbers.get(place).and_then(|i| self.of_place.get(i));
        here.and_then(|all| all.iter().find(|(c, _)| *c == characteristic)).map_or(&[], |(_, causes)| causes)
    }

    /// Whether that was ever changed, wherever.
    pub fn ever(&self, tag: Tag) -> bool {
        self.changed.contains(&tag)
    }

    /// Whether something befell the engine that can have harmed what a figure of that place rests on.
    pub fn befallen(&self, figure: Figure, place: Place) -> bool {
        let befell = |i: &usize| self.causes.get(*i).is_some_and(|c| matches!(c.cause, EndingCause::Mishap { .. }));
        let harmed = |at: Place, role: Role| {
            Characteristic::at(at, role).is_some_and(|c| self.causes_at(at, c).iter().any(befell))
        };
        figure.inputs().iter().any(|i| self.layout.places_with(place, i.role).any(|at| harmed(at, i.role)))
    }

    /// Place in the order of the first event after `seq` that touched anything a figure of that place rests on.
    pub fn next_at(&self, figure: Figure, place: Place, seq: u32) -> Option<u32> {
        let input = |role: Role| {
            let ended = move |at| self.ended(at, Characteristic::at(at, role)?, seq);
            self.layout.places_with(place, role).filter_map(ended)
        };
        figure.inputs().iter().flat_map(|i| input(i.role)).map(|e| e.seq).min()
    }

    /// The place in the order that something has which was taken at `taken` and kept as `seq`: what was done in between
    /// comes after it.
    #[inline]
    pub fn order_of(&self, seq: u32, taken: Option<Timestamp>) -> u32 {
        let Some(taken) = taken else { return seq };
        let between = |cause: &&Ending| cause.seq < seq && cause.at.0 > taken.0;
        self.causes.iter().find(between).map_or(seq, |cause| cause.seq.saturating_sub(1))
    }

    /// Why something recorded as `seq` about a characteristic does not count any more: the first event after it.
    pub fn ended(&self, place: Place, characteristic: Characteristic, seq: u32) -> Option<&Ending> {
        self.ended_of(None, place, characteristic, seq)
    }

    /// The same of a part that was named: an event ends what is known of it where it stood then.
    #[inline]
    pub fn ended_of(
        &self,
        part: Option<&'a str>,
        place: Place,
        characteristic: Characteristic,
        seq: u32,
    ) -> Option<&Ending> {
        // Most of what is touched was touched since anything was done: thousands of touches ask.
        let done_later = self.causes.last().is_some_and(|last| last.seq > seq);
        if done_later { self.first_that_reaches(part, place, characteristic, seq) } else { None }
    }

    fn first_that_reaches(
        &self,
        part: Option<&'a str>,
        place: Place,
        characteristic: Characteristic,
        seq: u32,
    ) -> Option<&Ending> {
        let kind = characteristic.row().part;
        let first = self.causes.partition_point(|cause| cause.seq <= seq);
        let reaches = |(i, cause): &(usize, &Ending)| {
            let stood = self.standing.follow((kind, place), part, (seq, cause.seq));
            stood.is_some_and(|place| self.causes_at(place, characteristic).binary_search(i).is_ok())
        };
        self.causes.iter().enumerate().skip(first).find(reaches).map(|(_, cause)| cause)
    }
}

/// Why the readings of a session do not count, if its gauge walked too far.
pub fn thrown_out(session: &Session) -> Option<Ending> {
    let (SessionProof::ThrownOut, Some(drift)) = (session.proof, session.drift) else { return None };
    let cause = EndingCause::Session { gauge: session.gauge.name.clone(), drift };
    Some(Ending { seq: session.closed_seq?, at: session.closed_at?, by: session.closed_by.clone()?, cause })
}
