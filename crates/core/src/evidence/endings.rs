//! Staleness: from what moment the evidence about a part counts.
//!
//! Doing something to a part, or changing what it was set up with, ends whatever was measured on it
//! before. Stale values stay on show with the reason; they are never used.

use serde::Serialize;

use super::sessions::{Session, SessionProof};
use crate::build::order_of;
use crate::engine::{BearingRow, Layout, Part, Station};
use crate::log::{Fact, Fitting, OrderMoved, OrderStep, SetUp, SetUpChange, What, WorkEvent, WorkOrder};
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
    /// The part came back from another shop.
    Returned {
        /// The order.
        order: WorkOrder,
    },
    /// The gauge walked by more than a step.
    Session {
        /// The gauge's name.
        gauge: String,
        /// By how much.
        drift: Length,
    },
}

/// Parts of a bearing, by index.
const PARTS: [Part; 6] = [Part::Journal, Part::Housing, Part::Bore, Part::UpperWall, Part::LowerWall, Part::Strip];

/// For every part of an engine, the deeds that ended its evidence, in order.
#[derive(Debug)]
pub struct Endings<'a> {
    layout: &'a Layout,
    causes: Vec<Ending>,
    /// Per place and part, indices into the causes.
    of_part: Vec<Vec<usize>>,
}

impl<'a> Endings<'a> {
    /// The barriers among a build's notes ([`crate::build::Build::notes`]).
    pub fn of(layout: &'a Layout, notes: &[&'a Fact]) -> Self {
        let of_part = vec![Vec::new(); layout.place_count() * PARTS.len()];
        let mut endings = Endings { layout, causes: Vec::new(), of_part };
        let mut set_ups: [Option<&SetUp>; 2] = [None, None];
        for fact in notes {
            match &fact.what {
                What::Work(event) => {
                    let cause = EndingCause::Work { event: event.clone() };
                    endings.raise(fact, cause, |s, p| event.ends(layout, s, p));
                }
                What::SetUp(next) => {
                    let before = &mut set_ups[next.row as usize];
                    let changes = before.map(|b| b.changes(next)).unwrap_or_default();
                    *before = Some(next);
                    if !changes.is_empty() {
                        let cause = EndingCause::SetUp { row: next.row, changes: changes.clone() };
                        endings.raise(fact, cause, |s, p| changes.iter().any(|c| c.ends(next.row, s, p)));
                    }
                }
                What::Fitting(fitting) => {
                    let cause = EndingCause::Fitting { fitting: fitting.clone() };
                    endings.raise(fact, cause, |s, p| fitting.ends(s, p));
                }
                What::OrderMoved(OrderMoved { order, step: OrderStep::Returned, .. }) => {
                    if let Some(order) = order_of(notes, *order) {
                        let cause = EndingCause::Returned { order: order.clone() };
                        endings.raise(fact, cause, |s, p| order.ends(layout, s, p));
                    }
                }
                _ => {}
            }
        }
        endings
    }

    fn raise(&mut self, fact: &Fact, cause: EndingCause, ends: impl Fn(Station, Part) -> bool) {
        let this = self.causes.len();
        self.causes.push(Ending { seq: fact.seq, at: fact.at, by: fact.by.clone(), cause });
        let mut ended = self.of_part.iter_mut();
        for station in self.layout.places() {
            for part in PARTS {
                if let Some(of_part) = ended.next()
                    && ends(station, part)
                {
                    of_part.push(this);
                }
            }
        }
    }

    fn of_part(&self, station: Station, part: Part) -> impl Iterator<Item = &Ending> {
        let slot = self.layout.place_index(station).map(|i| i * PARTS.len() + part as usize);
        let indices = slot.and_then(|s| self.of_part.get(s)).map_or(&[][..], Vec::as_slice);
        indices.iter().filter_map(|i| self.causes.get(*i))
    }

    /// The place in the order of the first deed after `seq` that touched anything a bearing's clearance rests on.
    pub fn next_at(&self, layout: &Layout, station: Station, seq: u32) -> Option<u32> {
        let own = [Part::Housing, Part::Bore, Part::UpperWall, Part::LowerWall].map(|p| (station, p));
        let all = own.into_iter().chain([(layout.journal_of(station), Part::Journal)]);
        all.filter_map(|(at, part)| self.ended(at, part, seq)).map(|s| s.seq).min()
    }

    /// Why something recorded as `seq` about a part does not count any more: the first deed after it.
    pub fn ended(&self, station: Station, part: Part, seq: u32) -> Option<&Ending> {
        self.of_part(station, part).find(|s| s.seq > seq)
    }
}

/// Why the readings of a session do not count, if its gauge walked too far.
pub fn thrown_out(session: &Session) -> Option<Ending> {
    let (SessionProof::ThrownOut, Some(drift)) = (session.proof, session.drift) else { return None };
    let cause = EndingCause::Session { gauge: session.gauge.name.clone(), drift };
    Some(Ending { seq: session.closed_seq?, at: session.closed_at?, by: session.closed_by.clone()?, cause })
}
