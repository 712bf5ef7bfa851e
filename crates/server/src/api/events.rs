//! Live events: which builds have moved on.
use std::convert::Infallible;

use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use futures_util::Stream;
use futures_util::stream::unfold;
use serde_json::json;

use crate::changes::Sequence;
use crate::http::auth::Who;
use crate::http::problem::ProblemBody;
use crate::state::AppState;

/// A stream of events `build`, each with `{"build": id, "seq": number}`: every build once at the start,
/// then each one as it moves on.
#[utoipa::path(get, path = "/api/v1/events",
    responses((status = 200, body = String, content_type = "text/event-stream"), (status = 401, body = ProblemBody)))]
pub(super) async fn events(
    State(state): State<AppState>,
    _: Who,
) -> Sse<impl Stream<Item = Result<Event, Infallible>>> {
    let changes = state.changes.listen();
    let stopping = state.stopping.clone();
    let stream = unfold((changes, stopping, Sequence::default(), Vec::new()), |listening| async move {
        let (mut changes, mut stopping, mut told, mut queue) = listening;
        while queue.is_empty() {
            tokio::select! {
                moved = changes.changed() => moved.ok()?,
                _ = stopping.wait_for(|s| *s) => return None,
            }
            let now = changes.borrow_and_update().clone();
            queue.extend(now.iter().filter(|(id, seq)| told.get(*id) != Some(*seq)).map(|(id, seq)| (*id, *seq)));
            told = now;
        }
        let (build, seq) = queue.pop()?;
        let event = Event::default().event("build").data(json!({ "build": build, "seq": seq }).to_string());
        Some((Ok(event), (changes, stopping, told, queue)))
    });
    Sse::new(stream).keep_alive(KeepAlive::default())
}
