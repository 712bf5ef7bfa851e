//! Blind second touches.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::engine::{Characteristic, Place};
use jagged_pin_core::log::{BlindRequest, What};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::record_what;
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// A request to measure blind.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewBlind {
    /// Made by the client: sending it twice asks once.
    id: Uuid,
    /// Who is asked.
    whom: Uuid,
    /// Where.
    station: Place,
    /// What.
    characteristic: Characteristic,
}

/// Asks somebody to measure a place again without seeing the first values.
#[utoipa::path(post, path = "/api/v1/builds/{build}/blind", request_body = NewBlind,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(crate) async fn ask_blind(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewBlind>,
) -> Result<Json<RecordedView>, Problem> {
    let NewBlind { id, whom, station, characteristic } = request;
    let asked = state.store.account(whom).await?.filter(|a| a.capabilities.measure);
    let whom = asked.ok_or_else(|| Problem::field("whom", "choose somebody of this shop who may measure"))?.person;
    record_what(&state, who, &name, id, What::Blind(BlindRequest { whom, station, characteristic })).await
}
