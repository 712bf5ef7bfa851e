//! By which rules a build is judged, and where its features are touched.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::engine::{Characteristic, PlaceKind, Plan, Planned};
use jagged_pin_core::log::{PlanChange, Rules, RulesChange, What};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::record_change;
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// Rules of a build from now on.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewRules {
    /// Made by the client: sending it twice changes once.
    id: Uuid,
    /// The rules that were looked at.
    seen: Rules,
    /// The rules.
    rules: Rules,
    /// Why, in the words of whoever decided it.
    reason: String,
}

/// Changes the rules of a build; everything is judged anew.
#[utoipa::path(post, path = "/api/v1/builds/{build}/rules", request_body = NewRules,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn change_rules(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewRules>,
) -> Result<Json<RecordedView>, Problem> {
    let NewRules { id, seen, rules, reason } = request;
    let what =
        What::Rules(RulesChange { rules, reason: reason.trim().to_owned(), lifted: Vec::new(), loosened: Vec::new() });
    record_change(&state, who, &name, id, what, move |build| *build.rules_now() == seen).await
}

/// The positions of a feature from now on.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewPlan {
    /// Made by the client: sending it twice changes once.
    id: Uuid,
    /// The characteristic.
    characteristic: Characteristic,
    /// The kind of place; every kind that has it when absent.
    at: Option<PlaceKind>,
    /// The positions that were looked at.
    seen: Vec<Planned>,
    /// Its positions in the order they are touched.
    positions: Vec<Planned>,
    /// Why, in the words of whoever decided it.
    reason: String,
}

/// Changes where something is touched. Readings at places that are no longer planned stay on record.
#[utoipa::path(post, path = "/api/v1/builds/{build}/plans", request_body = NewPlan,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn change_plan(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewPlan>,
) -> Result<Json<RecordedView>, Problem> {
    let NewPlan { id, characteristic, at, seen, positions, reason } = request;
    let plan = Plan { characteristic, at, positions };
    let what = What::Plan(PlanChange { plan, reason: reason.trim().to_owned(), lifted: Vec::new() });
    record_change(&state, who, &name, id, what, move |build| {
        let kinds = characteristic.row().at.iter().filter(|kind| at.is_none_or(|at| at == **kind));
        kinds
            .into_iter()
            .all(|kind| build.layout.count(*kind) == 0 || build.plan_as_written(characteristic, *kind) == seen)
    })
    .await
}
