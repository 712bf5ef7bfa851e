//! Signing in and out.
use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::Deserialize;
use tower_sessions::Session;
use utoipa::ToSchema;

use crate::http::auth::{self, Who};
use crate::http::extract::Body;
use crate::http::problem::{Problem, ProblemBody};
use crate::password;
use crate::state::AppState;
use crate::views::session::SessionView;

/// A name and a password.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct SignIn {
    login: String,
    password: String,
}

/// Signs in.
#[utoipa::path(post, path = "/api/v1/session", request_body = SignIn,
    responses((status = 200, body = SessionView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn sign_in(
    State(state): State<AppState>,
    session: Session,
    Body(request): Body<SignIn>,
) -> Result<Json<SessionView>, Problem> {
    let account = password::check(&state.store, request.login.trim(), &request.password).await?;
    let who = auth::begin(&session, account).await?;
    tracing::info!(login = who.account.login, "signed in");
    Ok(Json(SessionView::of(who, &state.shop)))
}

/// Who is signed in.
#[utoipa::path(get, path = "/api/v1/session",
    responses((status = 200, body = SessionView), (status = 401, body = ProblemBody)))]
pub(super) async fn session(State(state): State<AppState>, who: Who) -> Json<SessionView> {
    Json(SessionView::of(who, &state.shop))
}

/// Signs out.
#[utoipa::path(delete, path = "/api/v1/session",
    responses((status = 204), (status = "4XX", body = ProblemBody)))]
pub(super) async fn sign_out(_: Who, session: Session) -> Result<StatusCode, Problem> {
    auth::end(&session).await?;
    Ok(StatusCode::NO_CONTENT)
}
