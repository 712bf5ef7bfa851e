//! How the crank runs.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::machining::{Straightness, straightness};

use crate::http::answers::find;
use crate::http::auth::Who;
use crate::http::extract::Path;
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// The turn of every main, bend and ovality told apart, and the bow along the crank; nothing is changed.
#[utoipa::path(get, path = "/api/v1/builds/{build}/straightness",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Straightness), (status = "4XX", body = ProblemBody)))]
pub(super) async fn run_of_crank(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Json<Straightness>, Problem> {
    let id = find(&state, &name).await?;
    let build = state.store.build(id).await?;
    Ok(Json(straightness(&build, &evaluate(&build).figures)))
}
