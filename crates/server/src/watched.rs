//! Connections that are watched while they take their answers, and ended where they do not.
//!
//! A client that reads nothing holds an answer in the memory of the server and a place that others want. How long each one has
//! been taking nothing is known here; who has, for too long, is ended, and at once when places run short.
use std::collections::HashMap;
use std::io;
use std::pin::Pin;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use std::task::{Context, Poll};
use std::time::{Duration, Instant};

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
    /// Told when it has to end.
    pub(crate) end: Notify,
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
        let seen = Arc::new(Seen { stalled_at: AtomicU64::new(FLOWS), end: Notify::new() });
        let number = self.count.fetch_add(1, Ordering::Relaxed);
        self.open.lock().unwrap_or_else(PoisonError::into_inner).insert(number, Arc::clone(&seen));
        Watched { stream, seen, number, all: Arc::clone(self) }
    }

    /// Ends the connection that has taken nothing for longest, where that is as long as `least`.
    pub(crate) fn end_the_slowest(&self, least: Duration) {
        let open = self.open.lock().unwrap_or_else(PoisonError::into_inner);
        let since = |seen: &Arc<Seen>| seen.stalled_at.load(Ordering::Relaxed);
        let slowest = open.values().min_by_key(|seen| since(seen)).filter(|seen| self.stalled_for(seen) >= least);
        if let Some(slowest) = slowest {
            // Ended once is enough: it is no candidate any more.
            slowest.stalled_at.store(FLOWS, Ordering::Relaxed);
            slowest.end.notify_one();
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
