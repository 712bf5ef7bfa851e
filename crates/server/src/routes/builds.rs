//! The floor, opening a build, and one build with everything that follows from it.

use std::sync::Arc;

use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use jagged_pin_core::build::Build;
use jagged_pin_core::entry::parse_length;
use jagged_pin_core::fact::{TargetChange, What};
use jagged_pin_core::feature::Station;
use jagged_pin_core::gauge::GaugeKind;
use jagged_pin_core::layout::{Crank, Layout};
use jagged_pin_core::record::next_fact;
use jagged_pin_core::rules::Rules;
use jagged_pin_core::target::{Target, TargetRule, TargetSource};
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::{Opened, Recorded, StoreError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::auth::Who;
use crate::clock;
use crate::extract::Body;
use crate::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::view::{BuildView, FloorRow, RecordedView};

/// The build that an address names, by short name or identifier.
pub(super) async fn find(state: &AppState, name: &str) -> Result<Uuid, Problem> {
    match name.parse() {
        Ok(id) => Ok(id),
        Err(_) => Ok(state.store.build_id(name).await?),
    }
}

/// The answer to a write, and the nudge that tells others.
pub(super) fn answer(state: &AppState, recorded: &Recorded) -> Json<RecordedView> {
    if !recorded.again {
        state.changes.nudge();
    }
    let build = BuildView::of(&recorded.build);
    Json(RecordedView { seq: recorded.seq, again: recorded.again, build })
}

/// Every build, by short name.
#[utoipa::path(get, path = "/api/v1/builds",
    responses((status = 200, body = Vec<FloorRow>), (status = 401, body = ProblemBody)))]
pub(super) async fn floor(State(state): State<AppState>, _: Who) -> Result<Json<Vec<FloorRow>>, Problem> {
    let mut rows = Vec::new();
    for (id, _) in state.store.sequence().await? {
        rows.push(FloorRow::of(&*state.store.build(id).await?));
    }
    Ok(Json(rows))
}

/// One build.
#[utoipa::path(get, path = "/api/v1/builds/{build}", params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = BuildView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn build(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Json<BuildView>, Problem> {
    let build: Arc<Build> = state.store.build(find(&state, &name).await?).await?;
    Ok(Json(BuildView::of(&build)))
}

/// What a new build can start from.
#[derive(Serialize, ToSchema)]
pub(super) struct ShopView {
    /// Engines the shop knows.
    patterns: Vec<PatternView>,
    /// Kinds of gauge for inch builds.
    inch_gauges: Vec<GaugeKind>,
    /// Kinds of gauge for metric builds.
    mm_gauges: Vec<GaugeKind>,
}

/// An engine the shop knows.
#[derive(Serialize, ToSchema)]
pub(super) struct PatternView {
    id: String,
    engine: String,
    unit: Unit,
    layout: Layout,
    target: Target,
    /// The main journal as it would be typed.
    main_journal_text: String,
    /// Low, aim and high as they would be typed.
    target_texts: [String; 3],
}

/// What a new build can start from.
#[utoipa::path(get, path = "/api/v1/shop",
    responses((status = 200, body = ShopView), (status = 401, body = ProblemBody)))]
pub(super) async fn shop(State(state): State<AppState>, _: Who) -> Result<Json<ShopView>, Problem> {
    let mut patterns = Vec::new();
    for p in state.store.patterns().await? {
        let Ok(target) = p.target.resolve(p.layout.main_journal) else { continue };
        let typed = |l: Length| l.show(p.unit).trim_end_matches(|c: char| !c.is_ascii_digit()).to_owned();
        patterns.push(PatternView {
            main_journal_text: typed(p.layout.main_journal),
            target_texts: [target.low, target.aim, target.high].map(typed),
            id: p.id,
            engine: p.engine,
            unit: p.unit,
            layout: p.layout,
            target,
        });
    }
    let (inch, mm) = (state.store.gauges(Unit::Inch).await?, state.store.gauges(Unit::Mm).await?);
    Ok(Json(ShopView { patterns, inch_gauges: inch, mm_gauges: mm }))
}

/// A build to be opened. Lengths are texts as typed, in `unit` unless they bring their own.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewBuild {
    /// Made by the client: sending it twice opens one build.
    id: Uuid,
    /// Identifier of its first target, made by the client.
    target_id: Uuid,
    /// Short name.
    code: String,
    /// The engine in words.
    engine: String,
    /// Working unit.
    unit: Unit,
    /// Number of mains.
    mains: u8,
    /// The main that carries thrust.
    thrust: Station,
    /// Nominal main journal.
    main_journal: String,
    /// Pins between two mains.
    pins_per_bay: u8,
    /// The engine it is like: its crank is drawn if mains and journal are the same.
    pattern: Option<String>,
    /// Lower limit of the main oil clearance.
    low: String,
    /// Aim; the middle when empty.
    aim: String,
    /// Upper limit.
    high: String,
}

pub(super) fn length(text: &str, unit: Unit, field: &'static str) -> Result<Length, Problem> {
    parse_length(text, unit).map_err(|e| Problem::field(field, e.to_string()))
}

/// Opens a build.
#[utoipa::path(post, path = "/api/v1/builds", request_body = NewBuild,
    responses((status = 201, body = BuildView), (status = 200, description = "Opened before", body = BuildView),
        (status = "4XX", body = ProblemBody)))]
pub(super) async fn open(
    State(state): State<AppState>,
    who: Who,
    Body(request): Body<NewBuild>,
) -> Result<(StatusCode, Json<BuildView>), Problem> {
    who.must(|c| c.open_builds, "an assembler or the lead")?;
    let by = who.account.person;
    let unit = request.unit;
    let main_journal = length(&request.main_journal, unit, "main_journal")?;
    let aim = Some(request.aim.as_str()).filter(|a| !a.trim().is_empty());
    let rule = TargetRule::Range {
        low: length(&request.low, unit, "low")?,
        aim: aim.map(|a| length(a, unit, "aim")).transpose()?,
        high: length(&request.high, unit, "high")?,
    };
    let layout = layout(&state, &request, main_journal).await?;
    layout.check().map_err(|e| Problem::field(layout_field(e), e.to_string()))?;
    let opened_at = clock::now();
    let mut build = Build {
        id: request.id,
        code: request.code.trim().to_owned(),
        engine: request.engine.trim().to_owned(),
        unit,
        layout,
        rules: Rules::standard(unit),
        gauges: state.store.gauges(unit).await?,
        opened_at,
        opened_by: by.clone(),
        facts: Vec::new(),
    };
    build.check_set_up()?;
    let reason = "agreed at booking".to_owned();
    let what =
        What::Target(TargetChange { station: None, rule: Some(rule), source: TargetSource::BuildersRule, reason });
    let first = next_fact(&build, request.target_id, opened_at, by, what)?;
    build.facts.push(first);
    let opened = state.store.open_build(&build).await.map_err(|e| match e {
        StoreError::CodeTaken => Problem::CodeTaken(build.code.clone()),
        StoreError::BuildExists => Problem::IdReused,
        other => other.into(),
    })?;
    state.changes.nudge();
    let status = if opened == Opened::New { StatusCode::CREATED } else { StatusCode::OK };
    Ok((status, Json(BuildView::of(&*state.store.build(build.id).await?))))
}

async fn layout(state: &AppState, request: &NewBuild, main_journal: Length) -> Result<Layout, Problem> {
    let (mains, thrust) = (request.mains, request.thrust);
    let known = match &request.pattern {
        Some(id) => state.store.patterns().await?.into_iter().find(|p| p.id == *id),
        None => None,
    };
    let same = |l: &Layout| l.mains == mains && l.main_journal == main_journal;
    let crank = match known.map(|p| p.layout).filter(same) {
        Some(layout) => layout.crank,
        None => Crank::proportional(mains, main_journal, request.pins_per_bay),
    };
    Ok(Layout { mains, thrust, main_journal, crank })
}

fn layout_field(error: jagged_pin_core::layout::LayoutError) -> &'static str {
    use jagged_pin_core::layout::LayoutError::{Crank, Journal, Mains, Thrust};
    match error {
        Mains => "mains",
        Thrust => "thrust",
        Journal => "main_journal",
        Crank => "pins_per_bay",
    }
}
