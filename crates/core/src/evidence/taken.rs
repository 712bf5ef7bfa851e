//! A touch that was taken, with what its session and its temperatures make of it.
use uuid::Uuid;

use super::sessions::{Session, SessionProof};
use crate::gauge::Gauge;
use crate::log::{Fact, Reading};
use crate::units::Length;

/// One reading with what its session and its temperatures make of it.
#[derive(Debug, Clone, Copy)]
pub(crate) struct TakenReading<'a> {
    /// The size, corrected for drift and temperature, and without a coating that the sheet does not count.
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
    /// What was recorded: the place, the gauge and what it showed.
    pub reading: &'a Reading,
    /// The fact it stands in, with who took it and when.
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
