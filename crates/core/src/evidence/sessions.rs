//! Sessions: one sitting with one gauge, checked when it begins and when it ends.
//!
//! * The open check on a standard (or, for a bore gauge, at the reference it was set to) shows an error
//!   `e0`; it is zeroed, and what is left of it is taken off every reading.
//! * The close check shows `e1`; the gauge walked by `d = e1 - e0`. Up to one step of the gauge the
//!   readings are corrected linearly in time, by `d` times the elapsed fraction. Beyond one step the
//!   whole session is stale and must be repeated.
//! * Without an open check the readings are taken but *unproven*.
//!
//! ```
//! use jagged_pin_core::units::Timestamp;
//! use jagged_pin_core::evidence::drift_at;
//! use jagged_pin_core::Length;
//!
//! // Half a tenth walked in an hour: a reading at 45 minutes is corrected by three quarters of it.
//! let minute = |m: i64| Timestamp(m * 60_000);
//! let drift = drift_at(Length::from_nm(1_270), minute(0), minute(60), minute(45));
//! assert_eq!(drift, Length::from_nm(952)); // 952.5, half to even
//! ```
use std::collections::HashMap;

use serde::Serialize;
use uuid::Uuid;

use crate::gauge::Gauge;
use crate::log::{Fact, GaugeCheck, SessionClosed, SessionOpened, What};
use crate::maths::zero_drift;
use crate::units::{Length, Person, Timestamp};

/// What a session's checks say about its readings.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum SessionProof {
    /// Checked at the start, still going on.
    Running,
    /// Checked at both ends and found the same.
    Held,
    /// Walked by no more than a step: corrected.
    Corrected,
    /// Walked by more than a step: every reading is stale.
    ThrownOut,
    /// A check is missing: taken, but unproven.
    Unproven,
}

/// A session with what follows from its checks.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Session {
    /// Identifier of the fact that opened it.
    pub id: Uuid,
    /// The gauge as it was then.
    pub gauge: Gauge,
    /// When it began.
    pub opened_at: Timestamp,
    /// Who opened it.
    pub opened_by: Person,
    /// The open check.
    pub open: Option<GaugeCheck>,
    /// When it ended.
    pub closed_at: Option<Timestamp>,
    /// Who closed it.
    pub closed_by: Option<Person>,
    /// Place of the closing fact in the build's order.
    pub closed_seq: Option<u32>,
    /// The close check.
    pub close: Option<GaugeCheck>,
    /// How far the gauge walked, where both checks were made.
    pub drift: Option<Length>,
    /// What that makes of its readings.
    pub proof: SessionProof,
}

/// The share of a drift that had built up at a moment between both checks.
pub fn drift_at(drift: Length, opened: Timestamp, closed: Timestamp, at: Timestamp) -> Length {
    let whole = closed.0.saturating_sub(opened.0);
    if whole <= 0 {
        return Length::ZERO;
    }
    let elapsed = at.0.saturating_sub(opened.0).clamp(0, whole);
    zero_drift(drift, elapsed as f64 / whole as f64)
}

impl Session {
    fn opened(fact: &Fact, opened: &SessionOpened) -> Self {
        Session {
            id: fact.id,
            gauge: opened.gauge.clone(),
            opened_at: fact.at,
            opened_by: fact.by.clone(),
            open: opened.check.clone(),
            closed_at: None,
            closed_by: None,
            closed_seq: None,
            close: None,
            drift: None,
            proof: if opened.check.is_some() { SessionProof::Running } else { SessionProof::Unproven },
        }
    }

    fn end(&mut self, fact: &Fact, closed: &SessionClosed) {
        self.closed_at = Some(fact.at);
        self.closed_by = Some(fact.by.clone());
        self.closed_seq = Some(fact.seq);
        self.close = closed.check.clone();
        self.drift = self.open.as_ref().zip(self.close.as_ref()).map(|(open, close)| close.error() - open.error());
        self.proof = match self.drift {
            None => SessionProof::Unproven,
            Some(d) if d == Length::ZERO => SessionProof::Held,
            Some(d) if d.abs() <= self.gauge.resolution => SessionProof::Corrected,
            Some(_) => SessionProof::ThrownOut,
        };
    }

    /// What has to be taken off a size read at that moment: what was left at the open check, and the
    /// drift since.
    pub fn correction(&self, at: Timestamp) -> Length {
        let left = self.open.as_ref().map_or(Length::ZERO, GaugeCheck::error);
        match (self.proof, self.drift, self.closed_at) {
            (SessionProof::Corrected, Some(drift), Some(closed)) => left + drift_at(drift, self.opened_at, closed, at),
            _ => left,
        }
    }
}

/// Every session of a build by its identifier, and their order.
#[derive(Debug, Default)]
pub struct Sessions {
    /// In the order opened.
    pub all: Vec<Session>,
    index: HashMap<Uuid, usize>,
}

impl Sessions {
    /// The sessions among a build's notes ([`crate::build::Build::notes`]).
    pub fn of(notes: &[&Fact]) -> Self {
        let mut sessions = Sessions::default();
        for fact in notes {
            match &fact.what {
                What::SessionOpened(opened) => {
                    sessions.index.insert(fact.id, sessions.all.len());
                    sessions.all.push(Session::opened(fact, opened));
                }
                What::SessionClosed(closed) => {
                    if let Some(i) = sessions.index.get(&closed.session)
                        && let Some(session) = sessions.all.get_mut(*i)
                    {
                        session.end(fact, closed);
                    }
                }
                _ => {}
            }
        }
        sessions
    }

    /// The session of that identifier.
    pub fn get(&self, id: Uuid) -> Option<&Session> {
        self.index.get(&id).and_then(|i| self.all.get(*i))
    }

    /// The session that is going on with a gauge.
    pub fn running(&self, gauge: &str) -> Option<&Session> {
        self.all.iter().rev().find(|s| s.closed_at.is_none() && s.gauge.id == gauge)
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn a_correction_grows_from_nothing_to_the_whole_drift(d in -2_540i64..2_540, at in 0i64..3_600_000, later in 0i64..3_600_000) {
            let (drift, end) = (Length::from_nm(d), Timestamp(3_600_000));
            let share = |t: i64| drift_at(drift, Timestamp(0), end, Timestamp(t));
            prop_assert_eq!(share(0), Length::ZERO);
            prop_assert_eq!(share(3_600_000), drift);
            let (first, second) = (share(at.min(later)), share(at.max(later)));
            prop_assert!(first.abs() <= second.abs() && second.abs() <= drift.abs());
        }
    }

    #[test]
    fn a_session_without_length_corrects_nothing() {
        assert_eq!(drift_at(Length::tenths(1), Timestamp(5), Timestamp(5), Timestamp(5)), Length::ZERO);
    }
}
