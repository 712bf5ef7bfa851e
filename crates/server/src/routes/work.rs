//! What is done to the parts and how they are set up, with what it ends; what they look like; and who
//! measures again without seeing.

use axum::Json;
use axum::extract::{Path, State};
use jagged_pin_core::Unit;
use jagged_pin_core::blind::BlindRequest;
use jagged_pin_core::build::Build;
use jagged_pin_core::fact::What;
use jagged_pin_core::feature::Feature;
use jagged_pin_core::foresee::{Foreseen, foresee};
use jagged_pin_core::look::{Look, LookPart, Sign};
use jagged_pin_core::set_up::{CapSeat, FastenerKind, SetUp, ShellsIn, TorqueStep};
use jagged_pin_core::station::{BearingRow, Scope, Station};
use jagged_pin_core::work::{Work, WorkEvent};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::builds::{find, record_change, record_what};
use crate::auth::Who;
use crate::extract::Body;
use crate::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::view::RecordedView;

/// Work on a part.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewWork {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// What was done.
    work: Work,
    /// To what.
    on: Scope,
    /// Grits of a polishing ladder.
    #[serde(default)]
    grits: Vec<u16>,
    /// Minutes it took.
    minutes: Option<u16>,
    /// Why, and what was seen.
    note: String,
}

impl NewWork {
    fn what(self) -> (Uuid, What) {
        let NewWork { id, work, on, grits, minutes, note } = self;
        (id, What::Work(WorkEvent { work, on, grits, minutes, note: note.trim().to_owned() }))
    }
}

/// Records work on a part; what was known about it ends.
#[utoipa::path(post, path = "/api/v1/builds/{build}/work", request_body = NewWork,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_work(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewWork>,
) -> Result<Json<RecordedView>, Problem> {
    let (id, what) = request.what();
    record_what(&state, who, &name, id, what).await
}

/// Says what recording some work would end, without recording it.
#[utoipa::path(post, path = "/api/v1/builds/{build}/work/foresee", request_body = NewWork,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Foreseen), (status = "4XX", body = ProblemBody)))]
pub(super) async fn foresee_work(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewWork>,
) -> Result<Json<Foreseen>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    Ok(Json(foresee(&build, who.account.person, request.what().1)?))
}

/// A set-up of a row. Steps are texts as they are written in the shop.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewSetUp {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// The `version` of the set-up that is being replaced; 0 where there is none.
    version: u32,
    /// The row.
    row: BearingRow,
    /// Studs or bolts.
    fastener: FastenerKind,
    /// Which set.
    fasteners: String,
    /// Whether it is the set that was in place when the bores were finished.
    as_finished: bool,
    /// The lubricant.
    lubricant: String,
    /// Such as `25 lb-ft`, `60 deg`, `0.0060 stretch`.
    steps: Vec<String>,
    /// Drawn down square by hand first.
    drawn_square: bool,
    /// Washers with their chamfer toward the head.
    washers_chamfer_up: bool,
    /// Caps that are not on their own station facing forward.
    caps: Vec<CapSeat>,
    /// Shells in place, where they are known by name.
    shells: Vec<ShellsIn>,
    /// Unit of a bare stretch.
    unit: Unit,
}

impl NewSetUp {
    fn set_up(&self) -> Result<SetUp, Problem> {
        let step = |text: &String| TorqueStep::parse(text, self.unit).map_err(|e| Problem::field("steps", e));
        Ok(SetUp {
            row: self.row,
            fastener: self.fastener,
            fasteners: self.fasteners.trim().to_owned(),
            as_finished: self.as_finished,
            lubricant: self.lubricant.trim().to_owned(),
            steps: self.steps.iter().filter(|s| !s.trim().is_empty()).map(step).collect::<Result<_, _>>()?,
            drawn_square: self.drawn_square,
            washers_chamfer_up: self.washers_chamfer_up,
            caps: self.caps.clone(),
            shells: self.shells.clone(),
        })
    }
}

/// Records a set-up; what was measured over the caps it changes ends.
#[utoipa::path(post, path = "/api/v1/builds/{build}/set-ups", request_body = NewSetUp,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_set_up(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewSetUp>,
) -> Result<Json<RecordedView>, Problem> {
    let what = What::SetUp(request.set_up()?);
    let (version, row) = (request.version, request.row);
    let as_seen = move |build: &Build| {
        let in_force = build.facts.iter().rev().find(|f| matches!(&f.what, What::SetUp(s) if s.row == row));
        version == in_force.map_or(0, |f| f.seq)
    };
    record_change(&state, who, &name, request.id, what, as_seen).await
}

/// Says what recording a set-up would end, without recording it.
#[utoipa::path(post, path = "/api/v1/builds/{build}/set-ups/foresee", request_body = NewSetUp,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Foreseen), (status = "4XX", body = ProblemBody)))]
pub(super) async fn foresee_set_up(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewSetUp>,
) -> Result<Json<Foreseen>, Problem> {
    let what = What::SetUp(request.set_up()?);
    let build = state.store.build(find(&state, &name).await?).await?;
    Ok(Json(foresee(&build, who.account.person, what)?))
}

/// A look at a part.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewLook {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// A main, a pin (its journal) or a rod (its shells).
    station: Station,
    /// On what.
    part: LookPart,
    /// What was seen; nothing takes the look back.
    signs: Vec<Sign>,
}

/// Records what a part looks like.
#[utoipa::path(post, path = "/api/v1/builds/{build}/looks", request_body = NewLook,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_look(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewLook>,
) -> Result<Json<RecordedView>, Problem> {
    let NewLook { id, station, part, signs } = request;
    record_what(&state, who, &name, id, What::Look(Look { station, part, signs })).await
}

/// A request to measure blind.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewBlind {
    /// Made by the client: sending it twice asks once.
    id: Uuid,
    /// Who is asked.
    whom: Uuid,
    /// Where.
    station: Station,
    /// What.
    feature: Feature,
}

/// Asks somebody to measure a place again without seeing the first values.
#[utoipa::path(post, path = "/api/v1/builds/{build}/blind", request_body = NewBlind,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn ask_blind(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewBlind>,
) -> Result<Json<RecordedView>, Problem> {
    let NewBlind { id, whom, station, feature } = request;
    let asked = state.store.account(whom).await?.filter(|a| a.capabilities.measure);
    let whom = asked.ok_or_else(|| Problem::field("whom", "choose somebody of this shop who may measure"))?.person;
    record_what(&state, who, &name, id, What::Blind(BlindRequest { whom, station, feature })).await
}
