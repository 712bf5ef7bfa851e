//! Sessions: one sitting with one gauge, checked when it begins and when it ends.
//!
//! * The open check on a standard (or, for a bore gauge, at the reference it was set to) shows an error
//!   `e0`; it is zeroed, and what is left of it is taken off every reading.
//! * The close check shows `e1`; the gauge walked by `d = e1 - e0`. Up to one step of the gauge the
//!   readings are corrected linearly in time, by `d` times the elapsed fraction. Beyond one step the
//!   whole session is stale and must be repeated.
//! * Without an open check the readings are taken but *unproven*.
//! * By the second reckoning ([`Reckoning::Second`]) a check is a touch like any other: only what is beyond twice its own
//!   doubt is taken off, the way between two checks is unknown, and an unchecked end has its allowance.
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

use super::hands::Hand;
use crate::engine::GaugeUse;
use crate::gauge::Gauge;
use crate::log::{Fact, GaugeCheck, Reckoning, SessionClosed, SessionOpened, What, ZeroSource};
use crate::maths::{half_width, triangle, zero_drift};
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
    /// For a bore gauge: what it was zeroed in, where somebody said so.
    pub zero: Option<ZeroSource>,
}

/// Checks behind a drift: one at each end.
const TWO_CHECKS: f64 = 2.0;

/// What a gauge of that step may have walked that nobody checked.
pub(super) fn unchecked_walk(step: f64) -> f64 {
    triangle(step / 2.0)
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
            zero: opened.zero,
        }
    }

    fn end(&mut self, fact: &Fact, closed: &SessionClosed, reckoning: Reckoning) {
        self.closed_at = Some(fact.at);
        self.closed_by = Some(fact.by.clone());
        self.closed_seq = Some(fact.seq);
        self.close = closed.check.clone();
        self.drift = self.open.as_ref().zip(self.close.as_ref()).map(|(open, close)| close.error() - open.error());
        self.proof = match self.drift {
            None => SessionProof::Unproven,
            Some(d) if d == Length::ZERO => SessionProof::Held,
            Some(d)
                if reckoning >= Reckoning::Second && !self.tells(d, TWO_CHECKS) && d.abs() <= self.gauge.resolution =>
            {
                SessionProof::Held
            }
            Some(d) if d.abs() <= self.gauge.resolution => SessionProof::Corrected,
            Some(_) => SessionProof::ThrownOut,
        };
    }

    /// Standard uncertainty of a check of the gauge, in nanometres: it is a touch like any other.
    pub fn check_doubt(&self) -> f64 {
        Hand::declared(&self.gauge).of(1, false)
    }

    /// Whether something that `checks` checks showed is more than they can show of themselves.
    fn tells(&self, shown: Length, checks: f64) -> bool {
        shown.abs().as_f64() > 2.0 * checks.sqrt() * self.check_doubt()
    }

    /// Whether what the open check showed is taken off.
    fn tells_open(&self) -> bool {
        self.open.as_ref().is_some_and(|c| self.tells(c.error(), 1.0))
    }

    /// Standard uncertainty that the open check leaves: its own where something was taken off by it; else what it showed no
    /// sign of is anywhere within twice that, most likely near nothing (a triangle).
    pub fn doubt_of_checks(&self) -> f64 {
        match self.open {
            Some(_) if self.tells_open() => self.check_doubt(),
            Some(_) => triangle(2.0 * self.check_doubt()),
            None => 0.0,
        }
    }

    /// Standard uncertainty from what the gauge may have walked. Between two checks the way is unknown: anywhere from nothing
    /// to all of what they showed. What they did not show is at most a quarter of a step to either side, and what nobody
    /// checked half a step, most likely near nothing (triangles).
    ///
    /// By the third reckoning a drift of which nothing was taken off lies anywhere to either side of nothing.
    pub fn doubt_of_walk(&self, reckoning: Reckoning) -> f64 {
        let step = self.gauge.resolution.as_f64();
        let taken_off = reckoning < Reckoning::Third || self.proof == SessionProof::Corrected;
        let walked = |d: Length| half_width(d.abs().as_f64() / if taken_off { 2.0 } else { 1.0 });
        self.drift.map_or(unchecked_walk(step), |d| walked(d).max(unchecked_walk(step) / 2.0))
    }

    /// What has to be taken off a size read at that moment: what was left at the open check, and the
    /// drift since. By the second reckoning only what the checks can tell is taken off, and half of the drift.
    pub fn correction(&self, at: Timestamp, reckoning: Reckoning) -> Length {
        if reckoning >= Reckoning::Second {
            let open = self.open.as_ref().filter(|_| self.tells_open()).map_or(Length::ZERO, GaugeCheck::error);
            let walked = self.drift.filter(|_| self.proof == SessionProof::Corrected);
            return open + walked.and_then(|d| Length::from_f64(d.as_f64() / 2.0)).unwrap_or_default();
        }
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
    /// The session that is going on with each gauge, by the gauge's identifier.
    running: HashMap<String, usize>,
}

impl Sessions {
    /// The sessions among a build's notes ([`crate::build::Build::notes`]).
    pub fn of(notes: &[&Fact], reckoning: Reckoning) -> Self {
        let mut sessions = Sessions::default();
        notes.iter().for_each(|fact| sessions.take_in(fact, reckoning));
        sessions
    }

    /// Takes in the next fact of a build.
    pub(crate) fn take_in(&mut self, fact: &Fact, reckoning: Reckoning) {
        match &fact.what {
            What::SessionOpened(opened) => {
                let next = self.all.len();
                self.index.insert(fact.id, next);
                self.running.insert(opened.gauge.id.clone(), next);
                self.all.push(Session::opened(fact, opened));
            }
            What::SessionClosed(closed) => {
                let Some(i) = self.index.get(&closed.session).copied() else { return };
                let Some(session) = self.all.get_mut(i) else { return };
                session.end(fact, closed, reckoning);
                if self.running.get(&session.gauge.id) == Some(&i) {
                    self.running.remove(&session.gauge.id);
                }
            }
            _ => {}
        }
    }

    /// The session of that identifier.
    pub fn get(&self, id: Uuid) -> Option<&Session> {
        self.index.get(&id).and_then(|i| self.all.get(*i))
    }

    /// The sitting of the mic that set a gauge to `size` at that moment: an outside gauge that reaches it and was in use
    /// then, the last that was taken up.
    pub fn setting(&self, size: Length, at: Timestamp) -> Option<&Session> {
        let in_use = |s: &&Session| s.opened_at <= at && s.closed_at.is_none_or(|closed| closed >= at);
        let sets = |s: &&Session| {
            s.gauge.measures == GaugeUse::Outside && s.gauge.range.is_none_or(|range| range.reaches(size))
        };
        self.all.iter().rev().filter(sets).find(in_use)
    }

    /// The session with a gauge that was going on at a moment.
    pub fn at(&self, gauge: &str, at: Timestamp) -> Option<&Session> {
        let then = |s: &&Session| s.opened_at <= at && s.closed_at.is_none_or(|closed| at <= closed);
        self.all.iter().rev().filter(then).find(|s| s.gauge.id == gauge)
    }

    /// The session that is going on with a gauge.
    pub fn running(&self, gauge: &str) -> Option<&Session> {
        self.running.get(gauge).and_then(|i| self.all.get(*i))
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
