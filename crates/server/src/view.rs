//! What the API shows: projections of a build and its assessment.

use std::collections::HashMap;

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::assessment::Assessment;
use jagged_pin_core::blind;
use jagged_pin_core::day::Day;
use jagged_pin_core::fact::{Fact, Measure, Person, Reading, Source, Timestamp, What};
use jagged_pin_core::feature::{Feature, FeaturePlan, Method, Part, Position};
use jagged_pin_core::hypotheses::Looks;
use jagged_pin_core::layout::Layout;
use jagged_pin_core::look::{LookPart, Sign};
use jagged_pin_core::order::{OrderStanding, OrderStep};
use jagged_pin_core::roles::Capabilities;
use jagged_pin_core::set_up::SetUp;
use jagged_pin_core::signoff::{Next, SealStatus};
use jagged_pin_core::stale::Barriers;
use jagged_pin_core::standing::{GaugeStanding, standings};
use jagged_pin_core::station::{BearingRow, Station};
use jagged_pin_core::temperature::Temperatures;
use jagged_pin_core::verdict::{Side, State};
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_store::Account;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::auth::Who;
use crate::clock;
use crate::decisions::{DecisionView, decision};

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
    /// Gauges it may be measured with, as they stand today.
    pub gauges: Vec<GaugeStanding>,
    /// What a bore gauge is zeroed at unless said, with the decimals of the unit.
    pub usual_references: UsualReferences,
    /// Where each feature of the engine is touched.
    pub plans: Vec<FeaturePlan>,
    /// The set-ups in force.
    pub set_ups: Vec<SetUpView>,
    /// What the parts look like now.
    pub looks: Vec<LookView>,
    /// What the signed-in person is asked to measure blind.
    pub asked: Vec<AskedView>,
    /// When it was opened.
    pub opened_at: Timestamp,
    /// Who opened it.
    pub opened_by: Person,
    /// Every reading, struck ones as well, in order.
    pub readings: Vec<ReadingView>,
    /// What people did and decided, in order: everything recorded that is not a reading.
    pub decisions: Vec<DecisionView>,
    /// Everything that follows.
    pub assessment: Assessment,
}

/// What a bore gauge is zeroed at unless said.
#[derive(Debug, Serialize, ToSchema)]
pub struct UsualReferences {
    /// The main journal.
    pub mains: String,
    /// The pin.
    pub rods: String,
    /// The main housing, where it is known.
    pub main_housings: Option<String>,
    /// The rod housing, where it is known.
    pub rod_housings: Option<String>,
}

impl UsualReferences {
    fn of(build: &Build) -> Self {
        let journal = |row| build.layout.journal(row).show(build.unit);
        let housing = |row| build.layout.nominals(row).map(|n| n.housing.show(build.unit));
        UsualReferences {
            mains: journal(BearingRow::Mains),
            rods: journal(BearingRow::Rods),
            main_housings: housing(BearingRow::Mains),
            rod_housings: housing(BearingRow::Rods),
        }
    }
}

/// The set-up of a row in force.
#[derive(Debug, Serialize, ToSchema)]
pub struct SetUpView {
    /// Place of the fact that recorded it: its version.
    pub version: u32,
    /// When it was recorded.
    pub at: Timestamp,
    /// By whom.
    pub by: Person,
    /// The set-up.
    pub set_up: SetUp,
    /// Its steps as they are written in the shop.
    pub steps: Vec<String>,
}

impl SetUpView {
    fn all(build: &Build, notes: &[&Fact]) -> Vec<Self> {
        let of = |row: BearingRow| {
            notes.iter().rev().find_map(|f| match &f.what {
                What::SetUp(s) if s.row == row => Some(SetUpView {
                    version: f.seq,
                    at: f.at,
                    by: f.by.clone(),
                    set_up: s.clone(),
                    steps: s.steps.iter().map(|step| step.show(build.unit)).collect(),
                }),
                _ => None,
            })
        };
        BearingRow::ALL.into_iter().filter_map(of).collect()
    }
}

/// What a part looks like now.
#[derive(Debug, Serialize, ToSchema)]
pub struct LookView {
    /// Where.
    pub station: Station,
    /// On what.
    pub part: LookPart,
    /// What was seen.
    pub signs: Vec<Sign>,
    /// By whom.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

impl LookView {
    fn all(build: &Build, notes: &[&Fact]) -> Vec<Self> {
        let barriers = Barriers::of(&build.layout, notes);
        let looks = Looks::of(notes, &barriers);
        let view = |(f, l): (&Fact, &jagged_pin_core::look::Look)| {
            let (by, at) = (f.by.clone(), f.at);
            LookView { station: l.station, part: l.part, signs: l.signs.clone(), by, at }
        };
        looks.all().into_iter().map(view).collect()
    }
}

/// A place that the signed-in person is asked to measure blind.
#[derive(Debug, Serialize, ToSchema)]
pub struct AskedView {
    /// Identifier of the request.
    pub id: Uuid,
    /// Where.
    pub station: Station,
    /// What.
    pub feature: Feature,
    /// What it is in its bearing.
    pub part: Part,
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
    /// For a bore or a housing, on the dial or as a size.
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
    /// Temperatures noted with it.
    pub temperatures: Option<Temperatures>,
    /// The session it belongs to.
    pub session: Option<Uuid>,
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
    /// Every bearing's state: mains, then rods.
    pub stations: Vec<FloorStation>,
    /// How far the sheet is.
    pub status: SealStatus,
    /// Whether a seal was broken by a later change.
    pub broken: bool,
    /// What it needs next.
    pub next: Next,
    /// Orders whose parts are at another shop.
    pub away: Vec<AwayView>,
    /// When something was last recorded, or it was opened.
    pub touched_at: Timestamp,
    /// By whom.
    pub touched_by: Person,
}

/// Parts that are at another shop.
#[derive(Debug, Serialize, ToSchema)]
pub struct AwayView {
    /// Number of the order.
    pub number: String,
    /// Which shop.
    pub shop: String,
    /// Since when.
    pub since: Timestamp,
}

impl AwayView {
    fn of(order: OrderStanding) -> Option<Self> {
        let since = order.step_at.filter(|_| order.step == Some(OrderStep::Sent))?;
        Some(AwayView { number: order.order.number, shop: order.order.shop, since })
    }
}

/// A bearing on the floor.
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
    /// Whether something was done since it was judged.
    pub stale: bool,
    /// Whether other shells were fitted and nothing was measured over them yet.
    pub predicted: bool,
    /// Whether any touch was taken on it so far.
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
        method: matches!(r.feature.part(), Part::Bore | Part::Housing).then(|| r.measure.method()),
        position: r.position,
        size: r.measure.size(),
        dial,
        reference,
        gauge: r.gauge.clone(),
        raw: r.raw.clone(),
        source: r.source,
        forced: r.forced,
        temperatures: r.temperatures,
        session: r.session,
        struck,
    }
}

impl BuildView {
    /// The view of a build, evaluated, as `viewer` may see it: what must stay hidden from somebody who is
    /// measuring blind is taken out before anything is worked out.
    pub fn of(build: &Build, viewer: Uuid) -> Self {
        let veiled = blind::veiled(build, viewer);
        let asked = blind::open_requests(build, viewer).into_iter().map(|(id, r)| {
            let part = r.feature.part();
            AskedView { id, station: r.station, feature: r.feature, part }
        });
        Self::unveiled(veiled.as_ref().unwrap_or(build), asked.collect())
    }

    fn unveiled(build: &Build, asked: Vec<AskedView>) -> Self {
        let assessment = evaluate(build);
        let notes = build.notes();
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
            gauges: standings(build, &assessment, Day::of(clock::now())),
            usual_references: UsualReferences::of(build),
            plans: build.plans(),
            set_ups: SetUpView::all(build, &notes),
            looks: LookView::all(build, &notes),
            asked,
            opened_at: build.opened_at,
            opened_by: build.opened_by.clone(),
            decisions: notes.iter().filter_map(|f| decision(build, f)).collect(),
            // What somebody read blind belongs to the comparison, not to the bench.
            readings: build
                .readings()
                .filter(|(_, r)| r.blind.is_none())
                .map(|(f, r)| reading_view(f, r, struck.remove(&f.id)))
                .collect(),
            assessment,
        }
    }
}

impl FloorRow {
    /// The row of a build, as `viewer` may see it.
    pub fn of(build: &Build, viewer: Uuid) -> Self {
        let veiled = blind::veiled(build, viewer);
        let build = veiled.as_ref().unwrap_or(build);
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
                    stale: s.stale.is_some(),
                    predicted: s.predicted.is_some(),
                    touched: s.journal.taken + s.bore_direct.taken + s.bore_subtract.taken > 0,
                })
                .collect(),
            status: assessed.sign_off.status,
            broken: assessed.sign_off.broken.is_some(),
            next: assessed.sign_off.next,
            away: assessed.orders.into_iter().filter_map(AwayView::of).collect(),
            touched_at: last.map_or(build.opened_at, |f| f.at),
            touched_by: last.map_or_else(|| build.opened_by.clone(), |f| f.by.clone()),
        }
    }
}
