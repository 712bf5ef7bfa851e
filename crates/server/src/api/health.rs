//! Whether the server lives, and whether it can work.
use axum::extract::State;

use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// The process answers.
#[utoipa::path(get, path = "/healthz", responses((status = 200, body = String)))]
pub(super) async fn healthz() -> &'static str {
    "ok"
}

/// The database answers as well.
#[utoipa::path(get, path = "/readyz", responses((status = 200, body = String), (status = 503, body = ProblemBody)))]
pub(super) async fn readyz(State(state): State<AppState>) -> Result<&'static str, Problem> {
    state.store.ping().await?;
    Ok("ready")
}
