//! The shop's record of its predictions.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Length;
use jagged_pin_core::build::redacted;
use jagged_pin_core::choose::{FittingRecord, prediction_record};
use serde::Serialize;
use utoipa::ToSchema;

use crate::http::auth::Who;
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// The shop's record of its predictions.
#[derive(Serialize, ToSchema)]
pub(crate) struct PredictionsView {
    /// Every fitting, the latest first.
    fittings: Vec<FittingRecord>,
    /// Bearings measured after a fitting.
    checked: usize,
    /// Of these, how many came out as predicted.
    agreed: usize,
    /// Mean of measured less predicted: a shop's classes or gauges lean that way.
    bias: Option<Length>,
}

/// What was predicted of shells that were fitted, over all builds, and what was measured afterwards.
#[utoipa::path(get, path = "/api/v1/predictions",
    responses((status = 200, body = PredictionsView), (status = 401, body = ProblemBody)))]
pub(crate) async fn predictions(State(state): State<AppState>, who: Who) -> Result<Json<PredictionsView>, Problem> {
    let mut fittings: Vec<FittingRecord> = Vec::new();
    for (id, _) in state.store.sequence().await? {
        let build = state.store.build(id).await?;
        let redacted = redacted(&build, who.account.person.id);
        fittings.extend(prediction_record(redacted.as_ref().unwrap_or(&build)));
    }
    fittings.sort_by_key(|f| std::cmp::Reverse(f.at));
    let checks = || fittings.iter().flat_map(|f| &f.checks);
    let (checked, agreed) = (checks().count(), checks().filter(|c| c.agrees).count());
    let bias = Length::mean(&checks().map(|c| c.difference).collect::<Vec<_>>());
    Ok(Json(PredictionsView { fittings, checked, agreed, bias }))
}
