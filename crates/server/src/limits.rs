//! How much of what is costly is done at once: a shop's server is one small machine, and its benches come first.
use std::sync::Arc;
use std::time::Duration;

use tokio::sync::{OwnedSemaphorePermit, Semaphore};
use tokio::time::timeout;

use crate::hashers::Hashers;
use crate::http::problem::Problem;

/// Long workings-out at once: files of readings, builds from files, spreadsheets.
const WORKINGS: usize = 2;
/// How long one waits for its turn.
const PATIENCE: Duration = Duration::from_secs(8);
/// Streams of events at once.
const STREAMS: usize = 256;

/// The turns there are.
#[derive(Debug)]
pub struct Limits {
    /// Hashes passwords.
    pub(crate) hashers: Hashers,
    workings: Arc<Semaphore>,
    streams: Arc<Semaphore>,
}

impl Default for Limits {
    fn default() -> Self {
        let turns = |n| Arc::new(Semaphore::new(n));
        Limits { hashers: Hashers::default(), workings: turns(WORKINGS), streams: turns(STREAMS) }
    }
}

/// A turn; over when it is dropped.
#[derive(Debug)]
pub(crate) struct Turn(#[expect(dead_code, reason = "held, not read")] OwnedSemaphorePermit);

fn at_once(of: &Arc<Semaphore>) -> Result<OwnedSemaphorePermit, Problem> {
    Arc::clone(of).try_acquire_owned().map_err(|_| Problem::TooBusy)
}

async fn in_turn(of: &Arc<Semaphore>) -> Result<OwnedSemaphorePermit, Problem> {
    match timeout(PATIENCE, Arc::clone(of).acquire_owned()).await {
        Ok(Ok(turn)) => Ok(turn),
        _ => Err(Problem::TooBusy),
    }
}

impl Limits {
    /// The turn to work out something long.
    pub(crate) async fn working(&self) -> Result<Turn, Problem> {
        Ok(Turn(in_turn(&self.workings).await?))
    }

    /// A stream of events.
    pub(crate) fn stream(&self) -> Result<Turn, Problem> {
        Ok(Turn(at_once(&self.streams)?))
    }

    /// Works out something long on a thread of its own, in turn.
    pub(crate) async fn work_out<T: Send + 'static>(
        &self,
        what: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        let turn = self.working().await?;
        let done = tokio::task::spawn_blocking(move || {
            let made = what();
            // Given up by whoever asked, it is still being worked out until here.
            drop(turn);
            made
        });
        done.await.map_err(|_| Problem::Internal)
    }
}
