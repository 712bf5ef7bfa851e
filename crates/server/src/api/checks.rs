//! Checks by eye and hand, and what befell the engine.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::engine::Place;
use jagged_pin_core::log::{Befell, Check, CheckDone, CheckFound, Mishap, What};
use jagged_pin_core::record::{Impact, impact};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{find, record_what};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// A check that was done.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewCheck {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// Which.
    check: Check,
    /// Where; absent where it is of the engine as a whole.
    at: Option<Place>,
    /// What it found.
    found: CheckFound,
    /// By whom or how, and what was seen.
    note: String,
}

/// Records a check that was done by eye or hand, or elsewhere.
#[utoipa::path(post, path = "/api/v1/builds/{build}/checks", request_body = NewCheck,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_check(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewCheck>,
) -> Result<Json<RecordedView>, Problem> {
    let NewCheck { id, check, at, found, note } = request;
    let done = CheckDone { check, at, found, note: note.trim().to_owned() };
    record_what(&state, who, &name, id, What::Checked(done)).await
}

/// Something that befell the engine.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewMishap {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// What.
    befell: Befell,
    /// The cylinder it befell; absent where it befell the engine as a whole.
    at: Option<Place>,
    /// Who said so, and what is known of it.
    note: String,
}

impl NewMishap {
    fn what(self) -> (Uuid, What) {
        let NewMishap { id, befell, at, note } = self;
        (id, What::Mishap(Mishap { befell, at, note: note.trim().to_owned() }))
    }
}

/// Records what befell the engine: what it can have changed is measured again, and its checks are forced.
#[utoipa::path(post, path = "/api/v1/builds/{build}/mishaps", request_body = NewMishap,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_mishap(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewMishap>,
) -> Result<Json<RecordedView>, Problem> {
    let (id, what) = request.what();
    record_what(&state, who, &name, id, what).await
}

/// Says what recording it would end, without recording it.
#[utoipa::path(post, path = "/api/v1/builds/{build}/mishaps/impact", request_body = NewMishap,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Impact), (status = "4XX", body = ProblemBody)))]
pub(super) async fn impact_of_mishap(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewMishap>,
) -> Result<Json<Impact>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    Ok(Json(impact(&build, who.account.person, request.what().1)?))
}
