//! How the crank runs.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::machining::{Straightness, straightness};
use serde::Deserialize;
use utoipa::IntoParams;

use crate::http::answers::find;
use crate::http::auth::Who;
use crate::http::extract::{Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// What the crank lies on.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct AskStraightness {
    /// The angle of the blocks' V in degrees; 90 when absent.
    v: Option<f64>,
}

/// The turn of every main, bend and ovality told apart, and the bow along the crank; nothing is changed.
#[utoipa::path(get, path = "/api/v1/builds/{build}/straightness",
    params(("build" = String, Path, description = "Short name or id"), AskStraightness),
    responses((status = 200, body = Straightness), (status = "4XX", body = ProblemBody)))]
pub(super) async fn run_of_crank(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
    Query(ask): Query<AskStraightness>,
) -> Result<Json<Straightness>, Problem> {
    let v = ask.v.unwrap_or(90.0);
    if !(v > 0.0 && v < 180.0) {
        return Err(Problem::field("v", "the angle of a V, above 0 and below 180 degrees"));
    }
    let id = find(&state, &name).await?;
    let build = state.store.build(id).await?;
    Ok(Json(straightness(&build, &evaluate(&build).figures, v)))
}
