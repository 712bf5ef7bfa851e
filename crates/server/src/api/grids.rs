//! Faces by bridge readings on a grid.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::Place;
use jagged_pin_core::log::{BridgeGrid, What};
use jagged_pin_core::machining::{GridFace, grid_faces};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{find, length, record_what};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// Bridge readings of a face as they are typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewGrid {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// The face.
    at: Place,
    /// From place to place along it.
    along: String,
    /// From line to line across it.
    across: String,
    /// The readings: a line of them for each line across, with blanks between; a minus where it is lower.
    readings: String,
    /// What was seen.
    #[serde(default)]
    note: String,
}

/// Records what a bridge showed on a grid over a face.
#[utoipa::path(post, path = "/api/v1/builds/{build}/grids", request_body = NewGrid,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_grid(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(new): Body<NewGrid>,
) -> Result<Json<RecordedView>, Problem> {
    let unit = state.store.build(find(&state, &name).await?).await?.unit;
    let line =
        |line: &str| line.split_whitespace().map(|text| length(text, unit, "readings")).collect::<Result<Vec<_>, _>>();
    let grid = BridgeGrid {
        at: new.at,
        along: length(&new.along, unit, "along")?,
        across: length(&new.across, unit, "across")?,
        rows: new.readings.lines().filter(|l| !l.trim().is_empty()).map(line).collect::<Result<_, _>>()?,
        note: new.note.trim().to_owned(),
    };
    record_what(&state, who, &name, new.id, What::Grid(grid)).await
}

/// The last grid of every face that holds: its plane, its zone, and whether that is flat; nothing is changed.
#[utoipa::path(get, path = "/api/v1/builds/{build}/grids",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Vec<GridFace>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn grids_of(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Json<Vec<GridFace>>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    Ok(Json(grid_faces(&build, &evaluate(&build).figures)))
}
