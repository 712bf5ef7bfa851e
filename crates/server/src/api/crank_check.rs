//! Which shells a crank takes: catalogue, measurement and stamps.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::choose::{FamilyCheck, family_check};
use jagged_pin_core::log::{Stamp, Stamps, What};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::http::answers::{evaluated, record_what};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;
use crate::views::family::known_family;

/// Which family a crank is held against.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(crate) struct Against {
    /// Short name of the family.
    family: String,
}

/// Holds the journals against a family's catalogue and the stamps of the old shells.
#[utoipa::path(get, path = "/api/v1/builds/{build}/shells/check",
    params(("build" = String, Path, description = "Short name or id"), Against),
    responses((status = 200, body = FamilyCheck), (status = "4XX", body = ProblemBody)))]
pub(crate) async fn check_family(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Query(against): Query<Against>,
) -> Result<Json<FamilyCheck>, Problem> {
    let seen = evaluated(&state, &who, &name).await?;
    let family = known_family(&state, &against.family).await?.family;
    Ok(Json(family_check(&seen.build, &seen.assessment, &family)))
}

/// Stamps of old shells.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewStamps {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// Bearing by bearing.
    stamps: Vec<Stamp>,
}

/// Records what is stamped on the old shells.
#[utoipa::path(post, path = "/api/v1/builds/{build}/stamps", request_body = NewStamps,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(crate) async fn record_stamps(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewStamps>,
) -> Result<Json<RecordedView>, Problem> {
    record_what(&state, who, &name, request.id, What::Stamps(Stamps { stamps: request.stamps })).await
}
