//! The floor: every build that is worked on, a page at a time, and those that were put away.
use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::log::What;
use jagged_pin_core::sheet::{Next, SealStatus};
use jagged_pin_core::units::check_text;
use jagged_pin_store::{FloorQuery, OnFloor, ShopNote, StoreError};
use serde::Deserialize;
use serde_json::json;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::clock;
use crate::doubts::Doubt;
use crate::http::answers::{find, keep_summary};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::seals::WrittenDown;
use crate::state::AppState;
use crate::views::floor::{ArchivedView, FloorPage, FloorRow, Summary, UnreadableRow};

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
    let last = found.iter().take(PAGE).next_back().map(|row| row.code.clone());
    let (mut rows, mut unreadable) = (Vec::with_capacity(found.len().min(PAGE)), Vec::new());
    for on_floor in found.into_iter().take(PAGE) {
        let (id, code, engine) = (on_floor.id, on_floor.code.clone(), on_floor.engine.clone());
        match row(&state, who.account.person.id, on_floor).await {
            Ok(Some(row)) => rows.push(row),
            // Removed while we looked.
            Ok(None) => {}
            // One build that cannot be read keeps nobody from the others.
            Err(Problem::Unreadable(why)) => unreadable.push(UnreadableRow { id, code, engine, why }),
            Err(other) => return Err(other),
        }
    }
    Ok(Json(FloorPage { rows, unreadable, more, last }))
}

/// A build's row: what was kept of it, unless that is behind or says something this viewer must not see. What is known of
/// its record is said over it.
async fn row(state: &AppState, viewer: Uuid, on_floor: OnFloor) -> Result<Option<FloorRow>, Problem> {
    let kept = on_floor.summary.as_deref().and_then(|text| Summary::read(text, &on_floor, state.key.as_ref()));
    let behind = kept.is_none();
    let doubt = state.doubt(on_floor.id);
    if let Some(Doubt::Unreadable { why }) = doubt {
        return Err(Problem::Unreadable(why));
    }
    let mut row = match kept.filter(|summary| !summary.hidden_from.contains(&viewer)) {
        Some(summary) => summary.row,
        None => {
            let build = match state.store.build(on_floor.id).await {
                Err(StoreError::NotFound) => return Ok(None),
                other => other?,
            };
            // What can be read and not be worked out takes nobody else's floor.
            let (evaluated, of) = (Arc::clone(&state.evaluated), Arc::clone(&build));
            let worked_out = tokio::task::spawn_blocking(move || FloorRow::of(&evaluated.of(&of, viewer))).await;
            let row = worked_out.map_err(|_| Problem::Unreadable("it cannot be worked out".into()))?;
            if behind {
                keep_summary(state, &build);
            }
            row
        }
    };
    if doubt.is_some() {
        (row.status, row.next) = (SealStatus::DoesNotMatch, Next::ClearUp);
    }
    let archived = on_floor.archived.map(|(at, reason)| ArchivedView { at, reason });
    Ok(Some(FloorRow { archived, ..row }))
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
    let found = state.store.floor(&FloorQuery { only: Some(build), most: 1, ..FloorQuery::default() }).await?;
    let code = found.into_iter().next().ok_or(Problem::NoSuchBuild)?.code;
    let reason = request.reason.trim();
    if request.archived {
        check_text(reason, "the reason").map_err(|e| Problem::field("reason", e.to_string()))?;
    }
    let at = clock::now();
    let away = request.archived.then_some((&who.account.person, at, reason));
    let kind = if request.archived { "build_put_away" } else { "build_taken_out" };
    let detail = json!({ "id": build, "code": code, "reason": reason });
    let note = ShopNote { by: Some(who.account.person.clone()), at, kind, detail };
    state.store.archive(build, away, &note).await?;
    floor(State(state), who, Query(FloorAsk { only: Some(build), ..FloorAsk::default() })).await
}

/// A build that is to be removed for good.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct Removal {
    /// Its short name, typed once more.
    code: String,
    /// Why, in the words of whoever decided it.
    reason: String,
}

/// Removes a build for good: one that should never have been there, or that cannot be read. The shop's log keeps what it
/// was, who removed it and why. A sealed build stays.
#[utoipa::path(post, path = "/api/v1/builds/{build}/removal", request_body = Removal,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 204), (status = "4XX", body = ProblemBody)))]
pub(super) async fn remove(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<Removal>,
) -> Result<StatusCode, Problem> {
    who.must(|c| c.run_shop, "the lead")?;
    let id = find(&state, &name).await?;
    let found = state.store.floor(&FloorQuery { only: Some(id), most: 1, ..FloorQuery::default() }).await?;
    let on_floor = found.into_iter().next().ok_or(Problem::NoSuchBuild)?;
    if request.code.trim() != on_floor.code {
        return Err(Problem::field("code", format!("type {} to remove it", on_floor.code)));
    }
    let reason = request.reason.trim();
    check_text(reason, "the reason").map_err(|e| Problem::field("reason", e.to_string()))?;
    // Two have signed it: that its rows say so no more, or cannot be read, is no reason.
    if WrittenDown::of(&state.store).await?.is_some_and(|written| written.ledger.signatures_of(id) > 1) {
        return Err(Problem::SealedStays);
    }
    let mut digests = Vec::new();
    match state.store.build(id).await {
        Ok(build) => {
            // What was ever sealed stays, whatever broke its seal since: somebody may have its sheet.
            let sign_off = evaluate(&build).sign_off;
            if sign_off.status == SealStatus::Sealed || sign_off.broken.is_some() {
                return Err(Problem::SealedStays);
            }
            digests.extend(build.facts.iter().filter_map(|f| match &f.what {
                What::Signature(s) => Some(s.digest.clone()),
                _ => None,
            }));
        }
        // What cannot be read can at least be cleared away.
        Err(StoreError::Unreadable(_)) => {}
        Err(other) => return Err(other.into()),
    }
    let OnFloor { code, engine, seq: facts, .. } = on_floor;
    let detail =
        json!({ "id": id, "code": code, "engine": engine, "facts": facts, "digests": digests, "reason": reason });
    let note = ShopNote { by: Some(who.account.person), at: clock::now(), kind: "build_removed", detail };
    state.store.remove_build(id, &note).await?;
    state.changes.nudge();
    Ok(StatusCode::NO_CONTENT)
}
