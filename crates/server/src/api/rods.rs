//! Which rod runs on which pin.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::choose::{RodAssignment, rods_to_pins};
use jagged_pin_core::engine::Place;
use serde::Deserialize;
use utoipa::ToSchema;

use crate::http::answers::evaluated;
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// Rods that stay where they are.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct AskRods {
    /// Rods that are married to a piston, or matched in their place.
    #[serde(default)]
    fixed: Vec<Place>,
}

/// The rods on the pins that bring all big ends nearest their aim; nothing is changed.
#[utoipa::path(post, path = "/api/v1/builds/{build}/rods-to-pins", request_body = AskRods,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RodAssignment), (status = "4XX", body = ProblemBody)))]
pub(crate) async fn assign_rods(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(ask): Body<AskRods>,
) -> Result<Json<RodAssignment>, Problem> {
    let seen = evaluated(&state, &who, &name).await?;
    let found = rods_to_pins(&seen.build, &seen.assessment, &ask.fixed);
    found.map(Json).ok_or_else(|| Problem::Unanswerable {
        code: "nothing_measured",
        detail: "no rod has its bore or housing and its pin measured yet".into(),
    })
}
