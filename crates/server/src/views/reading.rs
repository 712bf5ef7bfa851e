//! One reading.
use std::collections::HashMap;

use jagged_pin_core::engine::{Characteristic, Place, Position, Read};
use jagged_pin_core::log::{Fact, Measure, Reading, Source, What, ZeroSource};
use jagged_pin_core::maths::Temperatures;
use jagged_pin_core::units::{Person, Timestamp};
use jagged_pin_core::{Build, Length};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// One reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct ReadingView {
    /// Identifier.
    pub id: Uuid,
    /// Place in the build's order.
    pub seq: u32,
    /// When it was taken.
    pub at: Timestamp,
    /// By whom.
    pub by: Person,
    /// Where on the engine.
    pub station: Place,
    /// On what.
    pub characteristic: Characteristic,
    /// How the gauge was read.
    pub read: Read,
    /// Where on it.
    pub position: Position,
    /// The part, where it is a candidate beside the one that stands there.
    pub part: Option<String>,
    /// The size it amounts to.
    pub size: Length,
    /// For a dial, its deflection.
    pub dial: Option<Length>,
    /// For a dial, the size it was zeroed at.
    pub reference: Option<Length>,
    /// For blades, the largest that passes and the smallest that does not.
    pub between: Option<[Length; 2]>,
    /// The kind of gauge.
    pub gauge: String,
    /// Text as entered.
    pub raw: String,
    /// How it came in.
    pub source: Source,
    /// When it was taken, where it waited before it was kept.
    pub taken: Option<Timestamp>,
    /// Kept outside the sanity band.
    pub forced: bool,
    /// Temperatures noted with it.
    pub temperatures: Option<Temperatures>,
    /// The session it belongs to.
    pub session: Option<Uuid>,
    /// For a dial: what the gauge was zeroed in, where somebody said so.
    pub zero: Option<ZeroSource>,
    /// If it was struck: why, by whom, when.
    pub struck: Option<StruckView>,
}

/// Why a reading no longer counts.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct StruckView {
    /// The reason.
    pub reason: String,
    /// Who struck it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

impl ReadingView {
    /// The readings of a build that are chosen, in order; what somebody read blind belongs to the comparison, not to the
    /// bench.
    pub(crate) fn some(build: &Build, chosen: impl Fn(&Fact) -> bool) -> Vec<Self> {
        let mut struck: HashMap<Uuid, StruckView> = HashMap::new();
        for fact in &build.facts {
            if let What::Strike(s) = &fact.what {
                let view = StruckView { reason: s.reason.clone(), by: fact.by.clone(), at: fact.at };
                struck.insert(s.reading, view);
            }
        }
        let here = build.readings().filter(|(f, r)| r.blind.is_none() && chosen(f));
        here.map(|(f, r)| reading_view(f, r, struck.remove(&f.id))).collect()
    }
}

fn reading_view(fact: &Fact, r: &Reading, struck: Option<StruckView>) -> ReadingView {
    let (dial, reference) = match r.measure {
        Measure::Dial { dial, reference } => (Some(dial), Some(reference)),
        _ => (None, None),
    };
    let between = match r.measure {
        Measure::Blades { passes, refuses } => Some([passes, refuses]),
        _ => None,
    };
    ReadingView {
        id: fact.id,
        seq: fact.seq,
        at: fact.at,
        by: fact.by.clone(),
        station: r.station,
        characteristic: r.characteristic,
        read: r.measure.read(),
        position: r.position,
        part: r.part.clone(),
        size: r.measure.size(),
        dial,
        reference,
        between,
        gauge: r.gauge.clone(),
        raw: r.raw.clone(),
        source: r.source,
        taken: r.taken,
        forced: r.forced,
        temperatures: r.temperatures,
        session: r.session,
        zero: r.zero,
        struck,
    }
}
