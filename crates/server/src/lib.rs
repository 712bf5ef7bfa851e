//! The API of Jagged Pin and its web application.
//!
//! [`app`] makes the router from an [`AppState`]. Handlers stand in `api`, one module per resource,
//! and are thin: they read the request ([`http::extract`]), ask who it is ([`http::auth`]), load from the store, let
//! the core decide, and answer with a view ([`views`]) or a [`http::problem::Problem`]. The OpenAPI document is
//! generated from them ([`openapi`]).
//!
//! The server keeps nothing that another instance would need: sessions are in the database, and live
//! events follow the builds' sequence numbers there ([`changes`]).

mod api;
mod changes;
mod clock;
pub mod doubts;
mod evaluated;
mod hashers;
pub mod http;
pub mod ledger;
mod limits;
pub mod password;
pub mod seals;
mod secrets;
pub mod seed;
mod serving;
pub mod shop_people;
pub mod state;
pub mod views;
mod watched;

pub use api::{app, openapi};
pub use state::AppState;

/// Serves the application on `listener` until `asked` to stop, then finishes what has begun.
///
/// # Errors
/// What the system says about the listener.
pub async fn serve(
    listener: tokio::net::TcpListener,
    state: AppState,
    asked: impl Future<Output = ()> + Send + 'static,
) -> std::io::Result<()> {
    seals::watch(&state);
    serving::serve(listener, app(state), asked).await
}
