//! What the cylinders are honed to.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::machining::{BoresPlan, plan_bores};
use jagged_pin_core::{Length, Unit};
use serde::Deserialize;
use utoipa::IntoParams;

use crate::http::answers::{above_zero, find};
use crate::http::auth::Who;
use crate::http::extract::{Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// What the honer is asked for.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct AskBores {
    /// What the honer holds to either side, as typed; a tenth, or three thousandths of a millimetre, when empty.
    #[serde(default)]
    tolerance: String,
}

/// The bore that each piston wants, whether one size serves all, and which piston belongs into which bore; nothing is changed.
#[utoipa::path(get, path = "/api/v1/builds/{build}/bores", params(("build" = String, Path, description = "Short name or id"), AskBores),
    responses((status = 200, body = BoresPlan), (status = "4XX", body = ProblemBody)))]
pub(super) async fn plan_bores_of(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
    Query(ask): Query<AskBores>,
) -> Result<Json<BoresPlan>, Problem> {
    let id = find(&state, &name).await?;
    let build = state.store.build(id).await?;
    let usual = match build.unit {
        Unit::Inch => Length::tenths(1),
        Unit::Mm => Length::microns(3),
    };
    let tolerance = above_zero(&ask.tolerance, build.unit, "tolerance")?.unwrap_or(usual);
    let plan = plan_bores(&build, &evaluate(&build).figures, tolerance);
    plan.map(Json).ok_or_else(|| Problem::NoShells {
        code: "no_target",
        detail: "say what a piston has to the wall first: there is no target yet".into(),
    })
}
