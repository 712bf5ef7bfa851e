//! What parts look like.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Unit;
use jagged_pin_core::engine::{Axial, Place};
use jagged_pin_core::log::{InspectedPart, Inspection, Mark, Sign, What};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{find, length, record_what};
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
    /// Where on the part, and how deep, as far as somebody said.
    #[serde(default)]
    marks: Vec<NewMark>,
}

/// Where on a part a sign was seen.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewMark {
    /// The sign.
    sign: Sign,
    /// Along the part.
    along: Option<Axial>,
    /// Degrees around it.
    clock: Option<u16>,
    /// How deep, as it was typed; empty where nobody knows.
    #[serde(default)]
    depth: String,
}

impl NewMark {
    fn read(self, unit: Unit) -> Result<Mark, Problem> {
        let NewMark { sign, along, clock, depth } = self;
        let depth = if depth.trim().is_empty() { None } else { Some(length(&depth, unit, "depth")?) };
        Ok(Mark { sign, along, clock, depth })
    }
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
    let NewInspection { id, station, part, signs, marks } = request;
    let unit = state.store.build(find(&state, &name).await?).await?.unit;
    let marks = marks.into_iter().map(|mark| mark.read(unit)).collect::<Result<_, _>>()?;
    record_what(&state, who, &name, id, What::Inspection(Inspection { station, part, signs, marks })).await
}
