//! What the API shows: projections of a build and its assessment.

use std::collections::HashMap;

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::assessment::Assessment;
use jagged_pin_core::fact::{Fact, Measure, Person, Reading, SignerRole, Source, Timestamp, What};
use jagged_pin_core::feature::{Feature, Method, Position, Station};
use jagged_pin_core::gauge::GaugeKind;
use jagged_pin_core::layout::Layout;
use jagged_pin_core::roles::Capabilities;
use jagged_pin_core::rules::Rules;
use jagged_pin_core::signoff::{Next, SealStatus};
use jagged_pin_core::verdict::{Side, State};
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_store::Account;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::auth::Who;

/// The signed-in person.
#[derive(Debug, Serialize, ToSchema)]
pub struct SessionView {
    /// Who it is.
    pub person: Person,
    /// The name they sign in with.
    pub login: String,
    /// Name of the role.
    pub role: String,
    /// What the role allows.
    pub capabilities: Capabilities,
    /// Token that every write must carry in the header `x-csrf-token`.
    pub token: String,
    /// Name of the shop.
    pub shop: String,
}

impl SessionView {
    /// The view of a session.
    pub fn of(who: Who, shop: &str) -> Self {
        let Who { account, token } = who;
        let Account { person, login, role, capabilities, .. } = account;
        SessionView { person, login, role, capabilities, token, shop: shop.into() }
    }
}

/// A build with everything that follows from it.
#[derive(Debug, Serialize, ToSchema)]
pub struct BuildView {
    /// Identifier.
    pub id: Uuid,
    /// Short name.
    pub code: String,
    /// The engine in words.
    pub engine: String,
    /// Working unit.
    pub unit: Unit,
    /// The engine layout.
    pub layout: Layout,
    /// The shop's rules for it.
    pub rules: Rules,
    /// Kinds of gauge it may be measured with.
    pub gauges: Vec<GaugeKind>,
    /// The main journal with the decimals of its unit: what a bore gauge is zeroed at unless said.
    pub usual_reference: String,
    /// When it was opened.
    pub opened_at: Timestamp,
    /// Who opened it.
    pub opened_by: Person,
    /// Every reading, struck ones as well, in order.
    pub readings: Vec<ReadingView>,
    /// What people decided, in order: targets, strikes, acceptances, signatures.
    pub decisions: Vec<DecisionView>,
    /// Everything that follows.
    pub assessment: Assessment,
}

/// A fact that is not a reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct DecisionView {
    /// Place in the build's order.
    pub seq: u32,
    /// When.
    pub at: Timestamp,
    /// Who.
    pub by: Person,
    /// What sort of decision.
    pub kind: DecisionKind,
    /// The station it is about, if one.
    pub station: Option<Station>,
    /// The reason given; for a signature its role.
    pub text: String,
}

/// The sorts of decision.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum DecisionKind {
    /// A target was set.
    Target,
    /// A reading was struck.
    Strike,
    /// A figure was accepted.
    Concession,
    /// Somebody signed.
    Signature,
}

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
    pub station: Station,
    /// On which feature.
    pub feature: Feature,
    /// For a bore, by which method.
    pub method: Option<Method>,
    /// Where on the feature.
    pub position: Position,
    /// The size it amounts to.
    pub size: Length,
    /// For a dial, its deflection.
    pub dial: Option<Length>,
    /// For a dial, the size it was zeroed at.
    pub reference: Option<Length>,
    /// The kind of gauge.
    pub gauge: String,
    /// Text as entered.
    pub raw: String,
    /// How it came in.
    pub source: Source,
    /// Kept outside the sanity band.
    pub forced: bool,
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

/// The answer to a write: the build as it is then.
#[derive(Debug, Serialize, ToSchema)]
pub struct RecordedView {
    /// Place of the fact in the build's order.
    pub seq: u32,
    /// The same fact had been sent before: nothing was written this time.
    pub again: bool,
    /// The build with the fact in it.
    pub build: BuildView,
}

/// A build on the floor.
#[derive(Debug, Serialize, ToSchema)]
pub struct FloorRow {
    /// Identifier.
    pub id: Uuid,
    /// Short name.
    pub code: String,
    /// The engine in words.
    pub engine: String,
    /// Working unit.
    pub unit: Unit,
    /// The engine layout, for its miniature.
    pub layout: Layout,
    /// Every main's state.
    pub stations: Vec<FloorStation>,
    /// How far the sheet is.
    pub status: SealStatus,
    /// Whether a seal was broken by a later change.
    pub broken: bool,
    /// What it needs next.
    pub next: Next,
    /// When something was last recorded, or it was opened.
    pub touched_at: Timestamp,
    /// By whom.
    pub touched_by: Person,
}

/// A main on the floor.
#[derive(Debug, Serialize, ToSchema)]
pub struct FloorStation {
    /// The station.
    pub station: Station,
    /// Its state; absent while open.
    pub state: Option<State>,
    /// The limit that is nearest.
    pub nearest: Option<Side>,
    /// Its clearance.
    pub clearance: Option<Length>,
    /// Touches taken on it so far, of any kind.
    pub touched: bool,
}

fn reading_view(fact: &Fact, r: &Reading, struck: Option<StruckView>) -> ReadingView {
    let (dial, reference) = match r.measure {
        Measure::Size { .. } => (None, None),
        Measure::Dial { dial, reference } => (Some(dial), Some(reference)),
    };
    ReadingView {
        id: fact.id,
        seq: fact.seq,
        at: fact.at,
        by: fact.by.clone(),
        station: r.station,
        feature: r.feature,
        method: (r.feature == Feature::MainBearing).then(|| r.measure.method()),
        position: r.position,
        size: r.measure.size(),
        dial,
        reference,
        gauge: r.gauge.clone(),
        raw: r.raw.clone(),
        source: r.source,
        forced: r.forced,
        struck,
    }
}

fn decision_view(build: &Build, fact: &Fact) -> Option<DecisionView> {
    let (kind, station, text) = match &fact.what {
        What::Reading(_) => return None,
        What::Target(t) => (DecisionKind::Target, t.station, t.reason.clone()),
        What::Strike(s) => {
            let station = build.readings().find(|(f, _)| f.id == s.reading).map(|(_, r)| r.station);
            (DecisionKind::Strike, station, s.reason.clone())
        }
        What::Concession(c) => (DecisionKind::Concession, Some(c.station), c.reason.clone()),
        What::Signature(s) => {
            let role = match s.role {
                SignerRole::Assembler => "assembler",
                SignerRole::Checker => "checker",
            };
            (DecisionKind::Signature, None, format!("{role}, revision {}", s.revision))
        }
    };
    Some(DecisionView { seq: fact.seq, at: fact.at, by: fact.by.clone(), kind, station, text })
}

impl BuildView {
    /// The view of a build, evaluated.
    pub fn of(build: &Build) -> Self {
        let mut struck = HashMap::new();
        for fact in &build.facts {
            if let What::Strike(s) = &fact.what {
                let view = StruckView { reason: s.reason.clone(), by: fact.by.clone(), at: fact.at };
                struck.insert(s.reading, view);
            }
        }
        BuildView {
            id: build.id,
            code: build.code.clone(),
            engine: build.engine.clone(),
            unit: build.unit,
            layout: build.layout.clone(),
            rules: build.rules.clone(),
            gauges: build.gauges.clone(),
            usual_reference: build.layout.main_journal.show(build.unit),
            opened_at: build.opened_at,
            opened_by: build.opened_by.clone(),
            decisions: build.facts.iter().filter_map(|f| decision_view(build, f)).collect(),
            readings: build.readings().map(|(f, r)| reading_view(f, r, struck.remove(&f.id))).collect(),
            assessment: evaluate(build),
        }
    }
}

impl FloorRow {
    /// The row of a build.
    pub fn of(build: &Build) -> Self {
        let assessed = evaluate(build);
        let last = build.facts.last();
        FloorRow {
            id: build.id,
            code: build.code.clone(),
            engine: build.engine.clone(),
            unit: build.unit,
            layout: build.layout.clone(),
            stations: assessed
                .stations
                .iter()
                .map(|s| FloorStation {
                    station: s.station,
                    state: s.judged.as_ref().map(|j| j.state),
                    nearest: s.judged.as_ref().map(|j| j.nearest),
                    clearance: s.judged.as_ref().map(|j| j.clearance),
                    touched: s.journal.taken + s.bore_direct.taken + s.bore_subtract.taken > 0,
                })
                .collect(),
            status: assessed.sign_off.status,
            broken: assessed.sign_off.broken.is_some(),
            next: assessed.sign_off.next,
            touched_at: last.map_or(build.opened_at, |f| f.at),
            touched_by: last.map_or_else(|| build.opened_by.clone(), |f| f.by.clone()),
        }
    }
}
