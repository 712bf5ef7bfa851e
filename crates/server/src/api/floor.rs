//! The floor: every build that is worked on, a page at a time, and those that were put away.
use axum::Json;
use axum::extract::{Path, State};
use jagged_pin_core::units::check_text;
use jagged_pin_store::{FloorQuery, OnFloor};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::clock;
use crate::http::answers::{find, keep_summary};
use crate::http::auth::Who;
use crate::http::extract::{Body, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::floor::{ArchivedView, FloorPage, FloorRow, Summary};

/// Builds of one page.
const PAGE: usize = 60;

/// Which builds of the floor.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct FloorAsk {
    /// Part of a short name or of the engine in words.
    #[serde(default)]
    q: String,
    /// Builds that were put away, instead of those on the floor.
    #[serde(default)]
    archived: bool,
    /// Short name of the last build of the page before.
    after: Option<String>,
    /// One build alone, by its identifier.
    only: Option<Uuid>,
}

/// A page of the floor, by short name.
#[utoipa::path(get, path = "/api/v1/builds", params(FloorAsk),
    responses((status = 200, body = FloorPage), (status = "4XX", body = ProblemBody)))]
pub(super) async fn floor(
    State(state): State<AppState>,
    who: Who,
    Query(ask): Query<FloorAsk>,
) -> Result<Json<FloorPage>, Problem> {
    let FloorAsk { q, archived, after, only } = ask;
    let most = i64::try_from(PAGE).unwrap_or(i64::MAX).saturating_add(1);
    let found = state.store.floor(&FloorQuery { search: q.trim().to_owned(), archived, after, only, most }).await?;
    let more = found.len() > PAGE;
    let mut rows = Vec::with_capacity(found.len().min(PAGE));
    for on_floor in found.into_iter().take(PAGE) {
        rows.push(row(&state, who.account.person.id, on_floor).await?);
    }
    Ok(Json(FloorPage { rows, more }))
}

/// A build's row: what was kept of it, unless that is behind or says something this viewer must not see.
async fn row(state: &AppState, viewer: Uuid, on_floor: OnFloor) -> Result<FloorRow, Problem> {
    let kept = on_floor.summary.as_deref().and_then(|text| serde_json::from_str::<Summary>(text).ok());
    let behind = kept.is_none();
    let row = match kept.filter(|summary| !summary.hidden_from.contains(&viewer)) {
        Some(summary) => summary.row,
        None => {
            let build = state.store.build(on_floor.id).await?;
            if behind {
                keep_summary(state, &build);
            }
            FloorRow::of(&state.evaluated.of(&build, viewer))
        }
    };
    let archived = on_floor.archived.map(|(at, reason)| ArchivedView { at, reason });
    Ok(FloorRow { archived, ..row })
}

/// A build to be put away, or to be taken out again.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct Archive {
    /// Whether it is put away.
    archived: bool,
    /// Why; not asked for when it is taken out again.
    #[serde(default)]
    reason: String,
}

/// Puts a build away, or takes it out again. It is no fact of the build: a seal holds, and nothing is lost.
#[utoipa::path(post, path = "/api/v1/builds/{build}/archive", request_body = Archive,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = FloorPage), (status = "4XX", body = ProblemBody)))]
pub(super) async fn archive(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<Archive>,
) -> Result<Json<FloorPage>, Problem> {
    who.must(|c| c.open_builds, "an assembler or the lead")?;
    let build = find(&state, &name).await?;
    let reason = request.reason.trim();
    if request.archived {
        check_text(reason, "the reason").map_err(|e| Problem::field("reason", e.to_string()))?;
    }
    let away = request.archived.then_some((&who.account.person, clock::now(), reason));
    state.store.archive(build, away).await?;
    floor(State(state), who, Query(FloorAsk { only: Some(build), ..FloorAsk::default() })).await
}
