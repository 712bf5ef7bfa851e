//! Fitting the cam.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::machining::{CamPlan, fit_cam};

use crate::http::answers::find;
use crate::http::auth::Who;
use crate::http::extract::Path;
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// Which journals of the cam are polished by how much, and which bind however good their sizes look; nothing is changed.
#[utoipa::path(get, path = "/api/v1/builds/{build}/cam",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = CamPlan), (status = "4XX", body = ProblemBody)))]
pub(super) async fn plan_cam(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Json<CamPlan>, Problem> {
    let id = find(&state, &name).await?;
    let build = state.store.build(id).await?;
    let plan = fit_cam(&build, &evaluate(&build).figures);
    plan.map(Json)
        .ok_or_else(|| Problem::Unanswerable { code: "no_cam", detail: "this engine has no known cam".into() })
}
