//! Signing in and out.
use axum::Json;
use axum::extract::State;
use axum::http::header::SET_COOKIE;
use axum::http::{HeaderMap, StatusCode};
use serde::{Deserialize, Serialize};
use tower_sessions::Session;
use utoipa::ToSchema;

use crate::http::auth::{self, Who};
use crate::http::extract::Body;
use crate::http::problem::{Problem, ProblemBody};
use crate::http::whence::{Whence, known_cookie};
use crate::state::AppState;
use crate::views::session::SessionView;
use crate::{clock, password, secrets};

/// How long wrong passwords are remembered, ms: a day.
const TRIES_KEPT: i64 = 24 * 60 * 60 * 1_000;
/// How long a browser is known that nobody signs in from, ms: a year.
const BROWSERS_KEPT: i64 = 365 * TRIES_KEPT;

/// What stands before anybody has signed in.
#[derive(Serialize, ToSchema)]
pub(super) struct Front {
    /// Name of the shop.
    shop: String,
    /// Whether anybody can sign in; a shop that was not opened yet has nobody.
    people: bool,
    /// Whether it is the demo shop, whose accounts the start command prints.
    demo: bool,
}

/// The name of the shop, and whether anybody can sign in.
#[utoipa::path(get, path = "/api/v1/front",
    responses((status = 200, body = Front), (status = "4XX", body = ProblemBody)))]
pub(super) async fn front(State(state): State<AppState>) -> Result<Json<Front>, Problem> {
    let people = state.store.somebody_can_sign_in().await?;
    // A shop that was opened has a name of its own.
    let demo = people && state.store.shop_name().await?.is_none();
    Ok(Json(Front { shop: state.shop_name().await?, people, demo }))
}

/// A name and a password.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct SignIn {
    login: String,
    password: String,
}

/// Begins a session, and makes the browser known.
pub(super) async fn enter(
    state: &AppState,
    session: &Session,
    account: jagged_pin_store::Account,
    whence: &Whence,
) -> Result<(HeaderMap, Json<SessionView>), Problem> {
    let (person, now) = (account.person.id, clock::now().0);
    let who = auth::begin(&state.store, session, account, whence).await?;
    let mut headers = HeaderMap::new();
    let known = match &whence.browser {
        Some(browser) => state.store.knows_browser(browser, person).await?,
        None => false,
    };
    if let (true, Some(browser)) = (known, &whence.browser) {
        state.store.remember_browser(browser, person, now).await?;
    } else {
        let token = secrets::secret();
        state.store.remember_browser(&secrets::digest(&token), person, now).await?;
        headers.extend(known_cookie(&token, state.secure).map(|cookie| (SET_COOKIE, cookie)));
    }
    state.store.clear_tries(now.saturating_sub(TRIES_KEPT), now.saturating_sub(BROWSERS_KEPT)).await?;
    tracing::info!(login = who.account.login, "signed in");
    let shop = state.shop_name().await?;
    Ok((headers, Json(SessionView::of(who, &shop))))
}

/// Signs in.
#[utoipa::path(post, path = "/api/v1/session", request_body = SignIn,
    responses((status = 200, body = SessionView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn sign_in(
    State(state): State<AppState>,
    session: Session,
    whence: Whence,
    Body(request): Body<SignIn>,
) -> Result<(HeaderMap, Json<SessionView>), Problem> {
    let account = password::check(&state, &request.login, &request.password, &whence).await?;
    enter(&state, &session, account, &whence).await
}

/// Who is signed in.
#[utoipa::path(get, path = "/api/v1/session",
    responses((status = 200, body = SessionView), (status = 401, body = ProblemBody)))]
pub(super) async fn session(State(state): State<AppState>, who: Who) -> Result<Json<SessionView>, Problem> {
    let shop = state.shop_name().await?;
    Ok(Json(SessionView::of(who, &shop)))
}

/// Signs out.
#[utoipa::path(delete, path = "/api/v1/session",
    responses((status = 204), (status = "4XX", body = ProblemBody)))]
pub(super) async fn sign_out(_: Who, session: Session) -> Result<StatusCode, Problem> {
    auth::end(&session).await?;
    Ok(StatusCode::NO_CONTENT)
}
