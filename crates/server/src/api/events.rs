//! Live events: which builds have moved on.
use std::convert::Infallible;
use std::time::Duration;

use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use futures_util::Stream;
use futures_util::stream::unfold;
use serde_json::json;
use tokio::sync::watch;
use tokio::time::{Interval, interval};
use tower_sessions::Session;
use tower_sessions::session::Id;

use crate::changes::Sequence;
use crate::http::auth::{self, Who};
use crate::http::problem::{Problem, ProblemBody};
use crate::limits::StreamPlace;
use crate::state::AppState;

/// How often a listener's session is looked at: whoever signed out hears nothing for longer than that.
pub(super) const LOOK_EVERY: Duration = Duration::from_secs(2);

/// A listener: whom it belongs to, what it was told, and what it is told next.
struct Listener {
    state: AppState,
    session: Option<Id>,
    changes: watch::Receiver<Sequence>,
    stopping: watch::Receiver<bool>,
    look: Interval,
    told: Sequence,
    queue: Vec<Event>,
    /// Its place among the streams there may be.
    _place: StreamPlace,
}

impl Listener {
    /// Waits until there is something to tell. `None` when nothing will be told any more.
    async fn next(mut self) -> Option<(Result<Event, Infallible>, Self)> {
        while self.queue.is_empty() {
            let ends = tokio::select! {
                moved = self.changes.changed() => moved.is_err(),
                _ = self.look.tick() => false,
                () = async { drop(self.stopping.wait_for(|s| *s).await) } => true,
            };
            if ends || !auth::goes_on(&self.state.store, self.session).await {
                return None;
            }
            self.gather();
        }
        let event = self.queue.pop()?;
        Some((Ok(event), self))
    }

    /// Everything that moved since the last look, each build once, however often it moved.
    fn gather(&mut self) {
        let now = self.changes.borrow_and_update().clone();
        let moved = now.iter().filter(|(id, seq)| self.told.get(*id) != Some(*seq));
        self.queue.extend(
            moved.map(|(id, seq)| Event::default().event("build").data(json!({ "build": id, "seq": seq }).to_string())),
        );
        self.told = now;
    }
}

/// A stream of events `build`, each with `{"build": id, "seq": number}`: every build once at the start, then each one as it
/// moves on. It ends with the session of whoever listens.
#[utoipa::path(get, path = "/api/v1/events",
    responses((status = 200, body = String, content_type = "text/event-stream"), (status = 401, body = ProblemBody)))]
pub(super) async fn events(
    State(state): State<AppState>,
    session: Session,
    who: Who,
) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, Problem> {
    let listener = Listener {
        _place: state.limits.stream(who.account.person.id)?,
        session: session.id(),
        changes: state.changes.listen(),
        stopping: state.stopping.clone(),
        look: interval(LOOK_EVERY),
        told: Sequence::default(),
        queue: Vec::new(),
        state,
    };
    Ok(Sse::new(unfold(listener, Listener::next)).keep_alive(KeepAlive::default()))
}
