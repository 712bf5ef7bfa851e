//! What is done to the parts and how they are set up, with what it ends; what they look like; and who
//! measures again without seeing.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::engine::Scope;
use jagged_pin_core::log::{Tick, What, Work, WorkEvent};
use jagged_pin_core::record::{Impact, impact};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{find, record_what};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// Work on a part.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewWork {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// What was done.
    work: Work,
    /// To what.
    on: Scope,
    /// Grits of a polishing ladder.
    #[serde(default)]
    grits: Vec<u16>,
    /// Minutes it took.
    minutes: Option<u16>,
    /// What was looked at and is so.
    #[serde(default)]
    ticks: Vec<Tick>,
    /// Why, and what was seen.
    note: String,
}

impl NewWork {
    fn what(self) -> (Uuid, What) {
        let NewWork { id, work, on, grits, minutes, ticks, note } = self;
        (id, What::Work(WorkEvent { work, on, grits, minutes, ticks, note: note.trim().to_owned() }))
    }
}

/// Records work on a part; what was known about it ends.
#[utoipa::path(post, path = "/api/v1/builds/{build}/work", request_body = NewWork,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_work(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewWork>,
) -> Result<Json<RecordedView>, Problem> {
    let (id, what) = request.what();
    record_what(&state, who, &name, id, what).await
}

/// Says what recording some work would end, without recording it.
#[utoipa::path(post, path = "/api/v1/builds/{build}/work/impact", request_body = NewWork,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Impact), (status = "4XX", body = ProblemBody)))]
pub(super) async fn impact_of_work(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewWork>,
) -> Result<Json<Impact>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    Ok(Json(impact(&build, who.account.person, request.what().1)?))
}
