//! Targets of whole rows, many at once: what an engine has that can be held to a window, with the windows the shop starts
//! from by use.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::build::Build;
use jagged_pin_core::engine::{BearingRow, Figure, Layout, Limits, PlaceKind, ShopPreset};
use jagged_pin_core::log::{Fact, TargetChange, What};
use jagged_pin_core::maths::{TargetRule, TargetSource, parse_length};
use jagged_pin_core::record::next_fact;
use jagged_pin_core::units::check_text;
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::Sent;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::targets::target_in_force;
use crate::clock;
use crate::http::answers::{WHO_LIFTS, answer, evaluated, find, typed};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// A figure along a row of an engine, or on one kind of its places.
#[derive(Serialize, ToSchema)]
pub(super) struct TargetRowView {
    /// The figure that the window holds.
    figure: Figure,
    /// The kind of places along the row.
    at: PlaceKind,
    /// Low, aim and high of the target in force as they would be typed; absent where there is none.
    window: Option<[String; 3]>,
    /// Counts its changes; 0 where there is none.
    version: u32,
    /// Whether it is an upper limit, a lower limit or both.
    limits: Limits,
    /// Where the shop starts from.
    choices: Vec<TargetChoiceView>,
}

/// A window that the shop starts from.
#[derive(Serialize, ToSchema)]
struct TargetChoiceView {
    /// What it is for.
    name: String,
    /// Low, aim and high as they would be typed.
    window: [String; 3],
}

/// The figures that an engine has, each with the kinds of its places.
fn rows_of(layout: &Layout) -> Vec<(Figure, PlaceKind)> {
    let mut rows = Vec::new();
    for figure in Figure::all_in(layout) {
        for place in figure.places(layout) {
            if !rows.contains(&(figure, place.kind())) {
                rows.push((figure, place.kind()));
            }
        }
    }
    rows
}

/// Rows of bearings are named by the row alone, everything else by its kind of place.
fn scope(figure: Figure, at: PlaceKind) -> (BearingRow, Option<PlaceKind>) {
    (at.row().row, (figure != Figure::OIL_CLEARANCE).then_some(at))
}

/// What can be held to a window in a build, row by row, with the windows that the shop starts from.
#[utoipa::path(get, path = "/api/v1/builds/{build}/target-rows",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Vec<TargetRowView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn target_rows(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
) -> Result<Json<Vec<TargetRowView>>, Problem> {
    let known = evaluated(&state, &who, &name).await?;
    let (build, unit) = (&known.build, known.build.unit);
    let (presets, _) = state.store.presets().await?;
    let texts = |low: Length, aim: Length, high: Length| [low, aim, high].map(|l| typed(l, unit));
    let row = |(figure, at): (Figure, PlaceKind)| {
        let (bearings, kind) = scope(figure, at);
        let shaft = build.layout.shaft_of(figure, bearings);
        let choice = |p: &ShopPreset| {
            let window = p.window(shaft, unit == Unit::Mm);
            TargetChoiceView { name: p.name.clone(), window: texts(window.low, window.aim, window.high) }
        };
        let of_row = |p: &&ShopPreset| (p.figure, p.at) == (figure, at);
        let choices: Vec<TargetChoiceView> = presets.iter().filter(of_row).map(choice).collect();
        let now = target_in_force(&known.assessment, figure, None, (bearings, kind));
        let window = now.map(|t| texts(t.window.low, t.window.aim, t.window.high));
        let version = now.map_or(0, |t| t.version);
        let limits = figure.row().limits;
        let shown = window.is_some() || !choices.is_empty();
        shown.then_some(TargetRowView { figure, at, window, version, limits, choices })
    };
    Ok(Json(rows_of(&build.layout).into_iter().filter_map(row).collect()))
}

/// Targets of rows to be set together: all of them, or none.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewTargetRows {
    /// Made by the client: sending it twice sets them once.
    id: Uuid,
    /// Where the targets come from.
    source: TargetSource,
    /// Why they are set, in a few words.
    reason: String,
    /// The targets, one for each row.
    rows: Vec<NewTargetRow>,
}

/// One of them as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct NewTargetRow {
    /// The figure that the window shall hold.
    figure: Figure,
    /// The kind of places along the row.
    at: PlaceKind,
    /// Lower limit; empty where there is only an upper one.
    low: String,
    /// The aim; the middle when empty.
    aim: String,
    /// Upper limit; empty where there is only a lower one.
    high: String,
    /// The `version` of the target that is being replaced; 0 where there is none.
    version: u32,
}

/// Most rows of one change: more than any engine has.
const MOST_ROWS: usize = 100;

impl NewTargetRow {
    fn rule(&self, line: usize, unit: Unit) -> Result<TargetRule, Problem> {
        let read = |text: &str, field: &str| {
            parse_length(text, unit).map_err(|e| Problem::field(format!("rows.{line}.{field}"), e.to_string()))
        };
        let or = |text: &str, field: &str, otherwise: Length| {
            if text.trim().is_empty() { Ok(otherwise) } else { read(text, field) }
        };
        let limits = self.figure.row().limits;
        let low = if limits == Limits::Maximum { or(&self.low, "low", Length::ZERO)? } else { read(&self.low, "low")? };
        let high = if limits == Limits::Minimum {
            or(&self.high, "high", self.figure.largest_believable(Length::LIMIT))?
        } else {
            read(&self.high, "high")?
        };
        let aim = if self.aim.trim().is_empty() { None } else { Some(read(&self.aim, "aim")?) };
        let aim = aim.or((limits == Limits::Maximum).then_some(low));
        Ok(TargetRule::Range { low, aim, high })
    }
}

/// Sets the targets of rows together, with one reason.
#[utoipa::path(post, path = "/api/v1/builds/{build}/target-rows", request_body = NewTargetRows,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn set_target_rows(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewTargetRows>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.set_targets, "an assembler, a checker or the lead")?;
    check_text(&request.reason, "the reason").map_err(|_| Problem::field("reason", "say why, in a few words"))?;
    if request.rows.is_empty() || request.rows.len() > MOST_ROWS {
        return Err(Problem::field("rows", "choose at least one row, and a hundred at most"));
    }
    let build = find(&state, &name).await?;
    let unit = state.store.build(build).await?.unit;
    let mut changes: Vec<(What, NewTargetRow)> = Vec::with_capacity(request.rows.len());
    for (line, row) in request.rows.into_iter().enumerate() {
        let rule = Some(row.rule(line, unit)?);
        let (of_row, kind) = scope(row.figure, row.at);
        if !row.figure.row().at.contains(&row.at) {
            return Err(Problem::field(format!("rows.{line}.at"), "no such place has this figure"));
        }
        let change = TargetChange {
            figure: Some(row.figure).filter(|f| *f != Figure::OIL_CLEARANCE),
            station: None,
            row: of_row,
            kind,
            rule,
            source: request.source,
            made_of: None,
            wear: None,
            reason: request.reason.trim().to_owned(),
            lifted: Vec::new(),
        };
        changes.push((What::Target(change), row));
    }
    let (id, by) = (request.id, who.account.person);
    let (viewer, role, capabilities) = (by.id, who.account.role, who.account.capabilities);
    let first = changes.first().map(|(what, _)| what.clone());
    let same = move |known: &Fact| first.is_some_and(|sent| known.what.is_as_sent(&sent));
    let decide = move |build: &Build| -> Result<Vec<_>, Problem> {
        let assessed = evaluate(build);
        let mut so_far = build.clone();
        let mut facts = Vec::with_capacity(changes.len());
        for (n, (what, row)) in (0_u128..).zip(changes) {
            let in_force = target_in_force(&assessed, row.figure, None, scope(row.figure, row.at));
            if in_force.map_or(0, |t| t.version) != row.version {
                return Err(Problem::ChangedMeanwhile);
            }
            let id = Uuid::from_u128(id.as_u128().wrapping_add(n));
            let fact = next_fact(&so_far, id, clock::now(), by.clone(), what)?;
            if !capabilities.allow(&fact.what) {
                return Err(Problem::NotAllowed { role, ask: WHO_LIFTS });
            }
            so_far.facts.push(fact.clone());
            facts.push(fact);
        }
        Ok(facts)
    };
    let recorded = state.store.record_all(build, Sent { id, by: viewer }, same, decide).await?;
    Ok(answer(&state, &recorded, viewer))
}
