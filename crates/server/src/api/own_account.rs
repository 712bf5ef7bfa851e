//! One's own account: the password, the sessions, and taking up an invitation.
use axum::Json;
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode};
use jagged_pin_core::units::Timestamp;
use jagged_pin_store::{OpenSession, ShopNote};
use serde::{Deserialize, Serialize};
use serde_json::json;
use tower_sessions::Session;
use utoipa::ToSchema;

use super::signing_in::enter;
use crate::clock;
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::http::whence::Whence;
use crate::password;
use crate::secrets::digest;
use crate::state::AppState;
use crate::views::session::SessionView;

/// A password to be changed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewPassword {
    /// The one so far.
    old: String,
    /// The one from now on.
    password: String,
}

fn set(name: &str, id: uuid::Uuid, how: &str, by: jagged_pin_core::units::Person) -> ShopNote {
    let detail = json!({ "id": id, "name": name, "how": how });
    ShopNote { by: Some(by), at: clock::now(), kind: "password_set", detail }
}

/// Changes one's own password. Every other session of one's own ends, and no other browser is known any more.
#[utoipa::path(put, path = "/api/v1/password", request_body = NewPassword,
    responses((status = 204), (status = "4XX", body = ProblemBody)))]
pub(super) async fn change_password(
    State(state): State<AppState>,
    who: Who,
    Body(request): Body<NewPassword>,
) -> Result<StatusCode, Problem> {
    let account = password::check(&state, &who.account.login, &request.old, &who.whence()).await?;
    password::will_do(&request.password, &account.login)?;
    let (id, name) = (account.person.id, account.person.name.clone());
    let hash = password::hash_in_turn(&state, &request.password).await?;
    state.store.put_password(id, &hash, &set(&name, id, "by themselves", account.person)).await?;
    state.store.end_sessions(id, Some(&who.session)).await?;
    // Whoever knew the old password may sit at a browser that is known.
    let whence = who.whence();
    let this = match &whence.browser {
        Some(browser) if state.store.knows_browser(browser, id).await? => Some(browser),
        _ => None,
    };
    state.store.forget_browsers(id).await?;
    if let Some(browser) = this {
        state.store.remember_browser(browser, id, clock::now().0).await?;
    }
    Ok(StatusCode::NO_CONTENT)
}

/// A session of one's own.
#[derive(Serialize, ToSchema)]
pub(super) struct OwnSession {
    /// A name for it that opens nothing.
    handle: String,
    /// Whether it is this one.
    this: bool,
    /// When it began.
    begun: Timestamp,
    /// When it was last used, within a minute.
    seen: Timestamp,
    /// What the browser calls itself.
    browser: Option<String>,
    /// From which address it began.
    address: Option<String>,
}

/// Characters of a session's handle.
const HANDLE: usize = 16;

fn handle(session: &OpenSession) -> String {
    digest(&session.id).chars().take(HANDLE).collect()
}

/// The sessions of one's own that are open, the one used last first.
#[utoipa::path(get, path = "/api/v1/sessions",
    responses((status = 200, body = Vec<OwnSession>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn sessions(State(state): State<AppState>, who: Who) -> Result<Json<Vec<OwnSession>>, Problem> {
    let open = state.store.open_sessions(Some(who.account.person.id), clock::now().0).await?;
    let view = |s: OpenSession| OwnSession {
        handle: handle(&s),
        this: s.id == who.session,
        begun: s.begun,
        seen: s.seen,
        browser: s.browser,
        address: s.address,
    };
    Ok(Json(open.into_iter().map(view).collect()))
}

/// Ends a session of one's own.
#[utoipa::path(delete, path = "/api/v1/sessions/{handle}",
    params(("handle" = String, Path, description = "Which")),
    responses((status = 204), (status = "4XX", body = ProblemBody)))]
pub(super) async fn end_session(
    State(state): State<AppState>,
    who: Who,
    Path(named): Path<String>,
) -> Result<StatusCode, Problem> {
    let open = state.store.open_sessions(Some(who.account.person.id), clock::now().0).await?;
    let ended = open.iter().find(|s| handle(s) == named).ok_or(Problem::NoSuchAddress)?;
    state.store.delete_session(&ended.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The secret of an invitation.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct Invitation {
    /// What stands behind `/invitation#`.
    secret: String,
}

/// Whom an invitation is for.
#[derive(Serialize, ToSchema)]
pub(super) struct Invited {
    /// Name of the shop.
    shop: String,
    /// Their name.
    name: String,
    /// The name they sign in with.
    login: String,
}

async fn invited(state: &AppState, secret: &str) -> Result<jagged_pin_store::Member, Problem> {
    let id = state.store.invited(&digest(secret), clock::now().0).await?.ok_or(Problem::NoInvitation)?;
    let member = state.store.members().await?.into_iter().find(|m| m.person.id == id && !m.disabled);
    member.ok_or(Problem::NoInvitation)
}

/// Says whom an invitation is for, while it is good.
#[utoipa::path(post, path = "/api/v1/invitation", request_body = Invitation,
    responses((status = 200, body = Invited), (status = "4XX", body = ProblemBody)))]
pub(super) async fn look_at_invitation(
    State(state): State<AppState>,
    Body(request): Body<Invitation>,
) -> Result<Json<Invited>, Problem> {
    let member = invited(&state, &request.secret).await?;
    Ok(Json(Invited { shop: state.shop_name().await?, name: member.person.name, login: member.login }))
}

/// An invitation that is taken up.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct TakenUp {
    /// What stands behind `/invitation#`.
    secret: String,
    /// The password from now on.
    password: String,
}

/// Takes an invitation up: gives oneself a password and signs in. Sessions of before end.
#[utoipa::path(put, path = "/api/v1/invitation", request_body = TakenUp,
    responses((status = 200, body = SessionView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn take_up_invitation(
    State(state): State<AppState>,
    session: Session,
    whence: Whence,
    Body(request): Body<TakenUp>,
) -> Result<(HeaderMap, Json<SessionView>), Problem> {
    let member = invited(&state, &request.secret).await?;
    password::will_do(&request.password, &member.login)?;
    let hash = password::hash_in_turn(&state, &request.password).await?;
    if !state.store.use_invitation(&digest(&request.secret), clock::now().0).await? {
        return Err(Problem::NoInvitation);
    }
    let id = member.person.id;
    let note = set(&member.person.name, id, "by an invitation", member.person.clone());
    state.store.put_password(id, &hash, &note).await?;
    state.store.end_sessions(id, None).await?;
    state.store.forget_browsers(id).await?;
    let account = state.store.account(id).await?.ok_or(Problem::NoInvitation)?;
    enter(&state, &session, account, &whence).await
}
