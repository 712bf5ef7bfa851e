//! Connections that are watched while they ask and take their answers, and ended where they do neither.
//!
//! A client that reads nothing holds an answer in the memory of the server and a place that others want; one that asks nothing
//! holds a place as well. How long each one has been doing so is known here; who takes nothing for too long is ended, and either
//! of them at once when places run short.
use std::collections::HashMap;
use std::io;
use std::pin::Pin;
use std::sync::atomic::{AtomicU64, AtomicUsize, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use std::task::{Context, Poll};
use std::time::{Duration, Instant};

use axum::body::{Body, Bytes, HttpBody};
use hyper::body::{Frame, SizeHint};
use tokio::io::{AsyncRead, AsyncWrite, ReadBuf};
use tokio::net::TcpStream;
use tokio::sync::Notify;

/// Stands for a moment where everything that was written has been taken.
const FLOWS: u64 = u64::MAX;

/// One connection, as the others see it.
#[derive(Debug)]
pub(crate) struct Seen {
    /// Since when it has taken nothing of what is written to it, in milliseconds of the server's life.
    stalled_at: AtomicU64,
    /// Requests that are not answered whole yet.
    in_hand: AtomicUsize,
    /// Since when there are none, in the same milliseconds.
    idle_at: AtomicU64,
    began: Instant,
    /// Told when it has to end.
    pub(crate) end: Notify,
}

impl Seen {
    fn now(&self) -> u64 {
        u64::try_from(self.began.elapsed().as_millis()).unwrap_or(FLOWS - 1)
    }

    /// Since when it holds its place for nothing; `None` where it does not.
    fn idle_or_stalled(&self) -> Option<u64> {
        let stalled = Some(self.stalled_at.load(Ordering::Relaxed)).filter(|since| *since != FLOWS);
        let idle = || (self.in_hand.load(Ordering::Relaxed) == 0).then(|| self.idle_at.load(Ordering::Relaxed));
        stalled.or_else(idle)
    }
}

/// A request that is being answered; until it is dropped, its connection is not idle.
#[derive(Debug)]
pub(crate) struct InHand(Arc<Seen>);

impl InHand {
    pub(crate) fn on(seen: &Arc<Seen>) -> Self {
        seen.in_hand.fetch_add(1, Ordering::Relaxed);
        InHand(Arc::clone(seen))
    }
}

impl Drop for InHand {
    fn drop(&mut self) {
        self.0.idle_at.store(self.0.now(), Ordering::Relaxed);
        self.0.in_hand.fetch_sub(1, Ordering::Relaxed);
    }
}

/// The body of an answer, which keeps its request in hand until it was sent.
#[derive(Debug)]
pub(crate) struct Answer {
    body: Body,
    _in_hand: InHand,
}

impl Answer {
    pub(crate) const fn of(body: Body, in_hand: InHand) -> Self {
        Answer { body, _in_hand: in_hand }
    }
}

impl HttpBody for Answer {
    type Data = Bytes;
    type Error = axum::Error;

    fn poll_frame(mut self: Pin<&mut Self>, cx: &mut Context<'_>) -> Poll<Option<Result<Frame<Bytes>, axum::Error>>> {
        Pin::new(&mut self.body).poll_frame(cx)
    }

    fn is_end_stream(&self) -> bool {
        self.body.is_end_stream()
    }

    fn size_hint(&self) -> SizeHint {
        self.body.size_hint()
    }
}

/// Every connection there is.
#[derive(Debug)]
pub(crate) struct Connections {
    began: Instant,
    open: Mutex<HashMap<u64, Arc<Seen>>>,
    count: AtomicU64,
}

impl Connections {
    pub(crate) fn none() -> Arc<Self> {
        Arc::new(Connections { began: Instant::now(), open: Mutex::default(), count: AtomicU64::new(0) })
    }

    fn now(&self) -> u64 {
        u64::try_from(self.began.elapsed().as_millis()).unwrap_or(FLOWS - 1)
    }

    /// Watches a stream from now on.
    pub(crate) fn watch(self: &Arc<Self>, stream: TcpStream) -> Watched {
        let seen = Arc::new(Seen {
            stalled_at: AtomicU64::new(FLOWS),
            in_hand: AtomicUsize::new(0),
            idle_at: AtomicU64::new(self.now()),
            began: self.began,
            end: Notify::new(),
        });
        let number = self.count.fetch_add(1, Ordering::Relaxed);
        self.open.lock().unwrap_or_else(PoisonError::into_inner).insert(number, Arc::clone(&seen));
        Watched { stream, seen, number, all: Arc::clone(self) }
    }

    /// Ends as many of the connections that have asked or taken nothing for longest, where that is as long as `least`.
    pub(crate) fn end_the_slowest(&self, count: usize, least: Duration) {
        if count == 0 {
            return;
        }
        let open = self.open.lock().unwrap_or_else(PoisonError::into_inner);
        let before = self.now().saturating_sub(u64::try_from(least.as_millis()).unwrap_or(FLOWS));
        let since = |seen: &Arc<Seen>| seen.idle_or_stalled().filter(|since| *since <= before);
        let mut slow: Vec<(u64, &Arc<Seen>)> = open.values().filter_map(|seen| Some((since(seen)?, seen))).collect();
        slow.sort_by_key(|(since, _)| *since);
        for (_, seen) in slow.into_iter().take(count) {
            // Ended once is enough: it is no candidate any more.
            seen.stalled_at.store(FLOWS, Ordering::Relaxed);
            seen.idle_at.store(FLOWS, Ordering::Relaxed);
            seen.end.notify_one();
        }
    }

    /// Ends every connection that has taken nothing for so long.
    pub(crate) fn end_all_slower_than(&self, least: Duration) {
        let open = self.open.lock().unwrap_or_else(PoisonError::into_inner);
        for seen in open.values().filter(|seen| self.stalled_for(seen) >= least) {
            seen.end.notify_one();
        }
    }

    fn stalled_for(&self, seen: &Seen) -> Duration {
        let since = seen.stalled_at.load(Ordering::Relaxed);
        if since == FLOWS { Duration::ZERO } else { Duration::from_millis(self.now().saturating_sub(since)) }
    }
}

/// A stream that notes when what is written to it is not taken.
#[derive(Debug)]
pub(crate) struct Watched {
    stream: TcpStream,
    seen: Arc<Seen>,
    number: u64,
    all: Arc<Connections>,
}

impl Watched {
    pub(crate) fn seen(&self) -> Arc<Seen> {
        Arc::clone(&self.seen)
    }

    fn note<T>(&self, found: Poll<T>) -> Poll<T> {
        let since = &self.seen.stalled_at;
        if found.is_ready() {
            since.store(FLOWS, Ordering::Relaxed);
        } else {
            let _ = since.compare_exchange(FLOWS, self.all.now(), Ordering::Relaxed, Ordering::Relaxed);
        }
        found
    }
}

impl Drop for Watched {
    fn drop(&mut self) {
        self.all.open.lock().unwrap_or_else(PoisonError::into_inner).remove(&self.number);
    }
}

impl AsyncRead for Watched {
    fn poll_read(mut self: Pin<&mut Self>, cx: &mut Context<'_>, into: &mut ReadBuf<'_>) -> Poll<io::Result<()>> {
        Pin::new(&mut self.stream).poll_read(cx, into)
    }
}

impl AsyncWrite for Watched {
    fn poll_write(mut self: Pin<&mut Self>, cx: &mut Context<'_>, bytes: &[u8]) -> Poll<io::Result<usize>> {
        let found = Pin::new(&mut self.stream).poll_write(cx, bytes);
        self.note(found)
    }

    fn poll_write_vectored(
        mut self: Pin<&mut Self>,
        cx: &mut Context<'_>,
        bytes: &[io::IoSlice<'_>],
    ) -> Poll<io::Result<usize>> {
        let found = Pin::new(&mut self.stream).poll_write_vectored(cx, bytes);
        self.note(found)
    }

    fn is_write_vectored(&self) -> bool {
        self.stream.is_write_vectored()
    }

    fn poll_flush(mut self: Pin<&mut Self>, cx: &mut Context<'_>) -> Poll<io::Result<()>> {
        Pin::new(&mut self.stream).poll_flush(cx)
    }

    fn poll_shutdown(mut self: Pin<&mut Self>, cx: &mut Context<'_>) -> Poll<io::Result<()>> {
        Pin::new(&mut self.stream).poll_shutdown(cx)
    }
}
