//! Nobody keeps the others from being heard: of each session, and of each address without one, a few requests are worked on at
//! once, and the rest wait.
use std::net::SocketAddr;

use axum::extract::{ConnectInfo, Request, State};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

use crate::http::whence::{address_of, cookie};
use crate::state::AppState;

/// The cookie of a session.
pub(crate) const SESSION: &str = "jagged_pin";

/// Whose request it is, as far as that can be told without asking the database.
fn whose(state: &AppState, request: &Request) -> String {
    match cookie(request.headers(), SESSION) {
        Some(session) => format!("session {session}"),
        None => {
            let peer = request.extensions().get::<ConnectInfo<SocketAddr>>().map(|c| c.0.ip());
            format!("address {}", address_of(request.headers(), peer, state.behind_proxy))
        }
    }
}

/// Waits for one of the places that whoever asks has. Whether the server lives is answered to everybody at once.
pub(crate) async fn share(State(state): State<AppState>, request: Request, next: Next) -> Response {
    if matches!(request.uri().path(), "/healthz" | "/readyz") {
        return next.run(request).await;
    }
    match state.limits.share(whose(&state, &request)).await {
        Ok(_place) => next.run(request).await,
        Err(problem) => problem.into_response(),
    }
}
