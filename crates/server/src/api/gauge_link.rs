//! Gauges that talk: a stream of what the gauge in hand sends, from its hub to one bench.
use std::collections::VecDeque;
use std::convert::Infallible;
use std::io;
use std::time::{Duration, Instant};

use axum::extract::State;
use axum::response::sse::{Event, KeepAlive, Sse};
use futures_util::Stream;
use futures_util::stream::unfold;
use jagged_pin_core::Unit;
use jagged_pin_core::gauge::{LONGEST_LINE, read_line};
use jagged_pin_store::Store;
use serde::{Deserialize, Serialize};
use tokio::io::{AsyncBufReadExt, AsyncReadExt, AsyncWriteExt, BufReader};
use tokio::net::TcpStream;
use tokio::sync::watch;
use tower_sessions::Session;
use tower_sessions::session::Id;
use utoipa::{IntoParams, ToSchema};

use super::events::LOOK_EVERY;
use crate::http::answers::find;
use crate::http::auth::{self, Who};
use crate::http::extract::Query;
use crate::http::problem::{Problem, ProblemBody};
use crate::limits::StreamPlace;
use crate::state::AppState;

/// A line that says nothing for so long is dead: a hub beats twice a second.
const SILENCE: Duration = Duration::from_secs(3);
/// Before a lost gauge is tried again.
const TRY_AGAIN: Duration = Duration::from_secs(1);

/// Which gauge, for which build.
#[derive(Debug, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct LinkQuery {
    /// Short name or id of the build.
    build: String,
    /// Short name of the gauge.
    gauge: String,
}

/// What a bench is told about its gauge.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub(super) enum GaugeSaid {
    /// The line is up.
    Connected,
    /// The line is down; it is tried again.
    Lost {
        /// Why.
        detail: String,
    },
    /// The button was pressed: what it sent, as it would be typed.
    Reading {
        /// Figure and unit.
        raw: String,
    },
    /// Something came that is no reading.
    Noise {
        /// What to do.
        detail: String,
    },
}

/// A line to one gauge over whatever happens to its cable.
struct Link {
    hub: String,
    gauge: String,
    unit: Unit,
    line: Option<BufReader<TcpStream>>,
    /// Count of the last reading taken: a repeated one is known by it, over a reconnection too.
    last: Option<u32>,
    lost: bool,
    pending: VecDeque<GaugeSaid>,
    stopping: watch::Receiver<bool>,
    store: Store,
    session: Option<Id>,
    /// When the session was looked at last.
    looked: Instant,
    /// Its place among the streams there may be.
    _place: StreamPlace,
}

impl Link {
    /// What there is to say next; `None` when the server stops, or the session of whoever listens has ended.
    async fn next(&mut self) -> Option<GaugeSaid> {
        loop {
            if let Some(said) = self.pending.pop_front() {
                return Some(said);
            }
            if *self.stopping.borrow() {
                return None;
            }
            if self.looked.elapsed() >= LOOK_EVERY {
                self.looked = Instant::now();
                if !auth::goes_on(&self.store, self.session).await {
                    return None;
                }
            }
            let mut stopping = self.stopping.clone();
            tokio::select! {
                _ = stopping.wait_for(|s| *s) => return None,
                heard = self.hear() => match heard {
                    Ok(Some(line)) => self.take(line.trim_end()),
                    Ok(None) => self.lose("the gauge was unplugged or switched off"),
                    Err(error) => self.lose(&error.to_string()),
                },
            }
        }
    }

    async fn hear(&mut self) -> io::Result<Option<String>> {
        if self.line.is_none() {
            if self.lost {
                tokio::time::sleep(TRY_AGAIN).await;
            }
            let mut stream = TcpStream::connect(&self.hub).await?;
            stream.write_all(format!("HELLO {}\n", self.gauge).as_bytes()).await?;
            self.line = Some(BufReader::new(stream));
        }
        let Some(line) = self.line.as_mut() else { return Ok(None) };
        let mut bytes = Vec::new();
        // A gauge that never ends its line must not fill the memory.
        let mut limited = line.take(u64::try_from(LONGEST_LINE).unwrap_or(u64::MAX) + 2);
        let heard = tokio::time::timeout(SILENCE, limited.read_until(b'\n', &mut bytes)).await;
        let silent = || io::Error::new(io::ErrorKind::TimedOut, "the gauge has gone silent");
        let count = heard.map_err(|_| silent())??;
        Ok((count > 0).then(|| String::from_utf8_lossy(&bytes).into_owned()))
    }

    fn take(&mut self, line: &str) {
        let said = match line.split(' ').next() {
            Some("BEAT") => return,
            Some("READY") => {
                self.lost = false;
                GaugeSaid::Connected
            }
            Some("GONE") => return self.lose("no such gauge is plugged in"),
            _ => match read_line(line) {
                Err(error) => GaugeSaid::Noise { detail: error.to_string() },
                Ok(sent) if sent.gauge != self.gauge => {
                    GaugeSaid::Noise { detail: format!("another gauge answered: {}", sent.gauge) }
                }
                Ok(sent) if self.last == Some(sent.count) => {
                    GaugeSaid::Noise { detail: "the gauge sent the same reading twice: it was taken once".into() }
                }
                Ok(sent) => {
                    self.last = Some(sent.count);
                    if sent.unit == self.unit {
                        GaugeSaid::Reading { raw: format!("{} {}", sent.figure, sent.unit.symbol()) }
                    } else {
                        let (its, ours) = (sent.unit.symbol(), self.unit.symbol());
                        let detail = format!("the gauge is switched to {its}, the build is in {ours}: not taken");
                        GaugeSaid::Noise { detail }
                    }
                }
            },
        };
        self.pending.push_back(said);
    }

    fn lose(&mut self, why: &str) {
        self.line = None;
        if !self.lost {
            self.lost = true;
            self.pending.push_back(GaugeSaid::Lost { detail: why.to_owned() });
        }
    }
}

/// Pairs a bench with a gauge: a stream of what it sends ([`GaugeSaid`] as JSON in each event).
#[utoipa::path(get, path = "/api/v1/gauge-link", params(LinkQuery),
    responses((status = 200, body = GaugeSaid, content_type = "text/event-stream"),
        (status = "4XX", body = ProblemBody)))]
pub(super) async fn gauge_link(
    State(state): State<AppState>,
    session: Session,
    who: Who,
    Query(query): Query<LinkQuery>,
) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let build = state.store.build(find(&state, &query.build).await?).await?;
    let plain = |c: char| c.is_ascii_alphanumeric() || matches!(c, '-' | '.' | '_');
    if query.gauge.is_empty() || !query.gauge.chars().all(plain) {
        return Err(Problem::field("gauge", "a gauge is named by letters, digits and hyphens"));
    }
    let link = Link {
        hub: state.gauge_hub.to_string(),
        gauge: query.gauge,
        unit: build.unit,
        line: None,
        last: None,
        lost: false,
        pending: VecDeque::new(),
        stopping: state.stopping.clone(),
        _place: state.limits.stream(who.account.person.id)?,
        session: session.id(),
        looked: Instant::now(),
        store: state.store,
    };
    let stream = unfold(link, |mut link| async move {
        let said = link.next().await?;
        let data = serde_json::to_string(&said).unwrap_or_default();
        Some((Ok(Event::default().data(data)), link))
    });
    Ok(Sse::new(stream).keep_alive(KeepAlive::default()))
}
