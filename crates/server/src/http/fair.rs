//! Nobody keeps the others from being heard: of each session, and of each address without one, a few requests are worked on at
//! once, and the rest wait. An address has some times as many in all: whoever makes up sessions gains little by it.
use std::net::SocketAddr;

use axum::extract::{ConnectInfo, Request, State};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

use crate::http::whence::{address_of, cookie};
use crate::state::AppState;

/// The cookie of a session.
pub(crate) const SESSION: &str = "jagged_pin";

/// From which session a request comes, as it says itself, and from which address.
fn whence(state: &AppState, request: &Request) -> (Option<String>, String) {
    let peer = request.extensions().get::<ConnectInfo<SocketAddr>>().map(|c| c.0.ip());
    let address = address_of(request.headers(), peer, state.behind_proxy);
    (cookie(request.headers(), SESSION).map(str::to_owned), address)
}

/// Waits for one of the places that whoever asks has. Whether the server lives is answered to everybody at once.
pub(crate) async fn share(State(state): State<AppState>, request: Request, next: Next) -> Response {
    if matches!(request.uri().path(), "/healthz" | "/readyz") {
        return next.run(request).await;
    }
    let (session, address) = whence(&state, &request);
    match state.limits.share(session, address).await {
        Ok(_places) => next.run(request).await,
        Err(problem) => problem.into_response(),
    }
}
