//! Who is asking: the session's account, and the token that every write must carry.
use axum::extract::{FromRef, FromRequestParts};
use axum::http::Method;
use axum::http::request::Parts;
use jagged_pin_core::record::Capabilities;
use jagged_pin_store::{Account, OpenSession, Store};
use tower_sessions::session::Id;
use tower_sessions::{Session, SessionStore};
use uuid::Uuid;

use crate::clock;
use crate::http::problem::Problem;
use crate::http::session_store::{DatabaseSessions, key};
use crate::http::whence::Whence;
use crate::state::AppState;

/// Key of the person in a session.
const PERSON: &str = "person";
/// Key of the token that writes must carry.
const TOKEN: &str = "token";
/// Header of that token. Another site cannot read it, and cannot send the header without asking first.
pub const TOKEN_HEADER: &str = "x-csrf-token";

/// Header with the login of whoever made a write, where it may wait before it is sent.
pub const PERSON_HEADER: &str = "x-person";

/// The account that is signed in. Extracting it refuses a request without a session, and a write
/// without the session's token.
#[derive(Debug)]
pub struct Who {
    /// The account.
    pub account: Account,
    /// The token of its session.
    pub token: String,
    /// The session's identifier, as its row has it.
    pub session: String,
}

impl Who {
    /// Where somebody is who is signed in already: at their session.
    pub fn whence(&self) -> Whence {
        let session = Some(self.account.person.id);
        Whence { address: String::new(), browser: None, named: None, session }
    }

    /// Refuses unless the role has the capability.
    ///
    /// # Errors
    /// [`Problem::NotAllowed`] that says whom to ask.
    pub fn must(&self, has: impl FnOnce(&Capabilities) -> bool, ask: &'static str) -> Result<(), Problem> {
        if has(&self.account.capabilities) {
            Ok(())
        } else {
            Err(Problem::NotAllowed { role: self.account.role.clone(), ask })
        }
    }
}

impl<S> FromRequestParts<S> for Who
where
    S: Send + Sync,
    AppState: FromRef<S>,
{
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let session = Session::from_request_parts(parts, state).await.map_err(|_| Problem::Internal)?;
        let person: Uuid = get(&session, PERSON).await?.ok_or(Problem::NotSignedIn)?;
        let token: String = get(&session, TOKEN).await?.ok_or(Problem::NotSignedIn)?;
        if !matches!(parts.method, Method::GET | Method::HEAD) {
            let sent = parts.headers.get(TOKEN_HEADER).map(|v| v.as_bytes());
            if sent != Some(token.as_bytes()) {
                return Err(Problem::NoToken);
            }
        }
        let account = AppState::from_ref(state).store.account(person).await?.ok_or(Problem::NotSignedIn)?;
        // What somebody typed is recorded under no other name, whoever has signed in since.
        let made_by = parts.headers.get(PERSON_HEADER).map(|v| v.as_bytes());
        if made_by.is_some_and(|by| by != account.login.as_bytes()) {
            return Err(Problem::SomebodyElse);
        }
        let session = session.id().as_ref().map(key).unwrap_or_default();
        AppState::from_ref(state).used(&session);
        Ok(Who { account, token, session })
    }
}

async fn get<T: serde::de::DeserializeOwned>(session: &Session, key: &str) -> Result<Option<T>, Problem> {
    session.get(key).await.map_err(session_failed)
}

fn session_failed(error: tower_sessions::session::Error) -> Problem {
    tracing::error!(%error, "the session could not be read or kept");
    Problem::DatabaseAway
}

/// Begins a session for an account: a new identifier, and a new token.
///
/// # Errors
/// [`Problem::DatabaseAway`] when it cannot be kept.
pub async fn begin(store: &Store, session: &Session, account: Account, whence: &Whence) -> Result<Who, Problem> {
    let token = Uuid::new_v4().simple().to_string();
    session.cycle_id().await.map_err(session_failed)?;
    session.insert(PERSON, account.person.id).await.map_err(session_failed)?;
    session.insert(TOKEN, &token).await.map_err(session_failed)?;
    session.save().await.map_err(session_failed)?;
    let id = session.id().as_ref().map(key).unwrap_or_default();
    let (begun, person) = (clock::now(), account.person.id);
    let (browser, address) = (whence.named.clone(), Some(whence.address.clone()));
    store.own_session(&OpenSession { id: id.clone(), person, begun, seen: begun, browser, address }).await?;
    Ok(Who { account, token, session: id })
}

/// Ends a session.
///
/// # Errors
/// [`Problem::DatabaseAway`] when it cannot be removed.
pub async fn end(session: &Session) -> Result<(), Problem> {
    session.flush().await.map_err(session_failed)
}

/// Whether a session is still there. A database that does not answer ends nobody's session.
pub(crate) async fn goes_on(store: &Store, session: Option<Id>) -> bool {
    let Some(id) = session else { return false };
    match DatabaseSessions(store.clone()).load(&id).await {
        Ok(found) => found.is_some(),
        Err(_) => true,
    }
}
