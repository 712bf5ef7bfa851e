//! What parts look like.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::engine::Place;
use jagged_pin_core::log::{InspectedPart, Inspection, Sign, What};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::record_what;
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// A look at a part.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewInspection {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// A main, a pin (its journal) or a rod (its shells).
    station: Place,
    /// On what.
    part: InspectedPart,
    /// What was seen; nothing takes the look back.
    signs: Vec<Sign>,
}

/// Records what a part looks like.
#[utoipa::path(post, path = "/api/v1/builds/{build}/inspections", request_body = NewInspection,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(crate) async fn record_inspection(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewInspection>,
) -> Result<Json<RecordedView>, Problem> {
    let NewInspection { id, station, part, signs } = request;
    record_what(&state, who, &name, id, What::Inspection(Inspection { station, part, signs })).await
}
