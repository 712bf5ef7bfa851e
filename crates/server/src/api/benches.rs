//! Where one gauge is in use: one look at its standard serves every build that lies on a bench.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Unit;
use jagged_pin_core::evidence::Sessions;
use jagged_pin_core::units::Timestamp;
use jagged_pin_store::{FloorQuery, StoreError};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::http::auth::Who;
use crate::http::extract::{Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// Builds that are looked through: a page of the floor.
const MOST: i64 = 60;

/// Which builds.
#[derive(Debug, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct BenchAsk {
    /// Builds in this unit.
    unit: Unit,
}

/// A build on the floor, and the sitting with the gauge that goes on there.
#[derive(Serialize, ToSchema)]
pub(super) struct BenchView {
    /// Its short name.
    code: String,
    /// The engine in words.
    engine: String,
    /// The sitting; absent where none goes on.
    session: Option<Uuid>,
    /// When it began.
    since: Option<Timestamp>,
}

/// The builds on the floor, each with the sitting with a gauge that goes on there, by short name.
#[utoipa::path(get, path = "/api/v1/gauges/{gauge}/benches", params(BenchAsk,
    ("gauge" = String, Path, description = "Short name of the gauge")),
    responses((status = 200, body = Vec<BenchView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn benches(
    State(state): State<AppState>,
    _: Who,
    Path(gauge): Path<String>,
    Query(ask): Query<BenchAsk>,
) -> Result<Json<Vec<BenchView>>, Problem> {
    let mut all = Vec::new();
    for on_floor in state.store.floor(&FloorQuery { most: MOST, ..FloorQuery::default() }).await? {
        let build = match state.store.build(on_floor.id).await {
            Ok(build) if build.unit == ask.unit => build,
            // In another unit, removed meanwhile, or said to be unreadable on the floor.
            Ok(_) | Err(StoreError::NotFound | StoreError::Unreadable(_)) => continue,
            Err(other) => return Err(other.into()),
        };
        let sessions = Sessions::of(&build.notes(), build.rules_now().reckoning);
        let running = sessions.running(&gauge);
        let (session, since) = (running.map(|s| s.id), running.map(|s| s.opened_at));
        all.push(BenchView { code: on_floor.code, engine: on_floor.engine, session, since });
    }
    Ok(Json(all))
}
