//! The threads that hash passwords: always the same few, so that the memory a hash takes is theirs and is used again.
use std::sync::mpsc::{Receiver, Sender, channel};
use std::sync::{Arc, Mutex, PoisonError};
use std::thread;

use tokio::sync::{Semaphore, oneshot};

use crate::http::problem::Problem;

/// Passwords hashed at once: each takes 19 MiB and a processor for some tens of milliseconds.
const AT_ONCE: usize = 2;
/// Passwords that wait for their turn; more are asked to come again.
const WAITING: usize = 64;

type Work = Box<dyn FnOnce() + Send>;

/// The threads.
#[derive(Debug)]
pub struct Hashers {
    work: Sender<Work>,
    places: Arc<Semaphore>,
}

fn hash_on(work: &Mutex<Receiver<Work>>) {
    // The lock is given back before the work begins.
    while let Ok(next) = {
        let waiting = work.lock().unwrap_or_else(PoisonError::into_inner);
        waiting.recv()
    } {
        next();
    }
}

impl Default for Hashers {
    fn default() -> Self {
        let (work, waiting) = channel();
        let waiting = Arc::new(Mutex::new(waiting));
        for _ in 0..AT_ONCE {
            let waiting = Arc::clone(&waiting);
            // They end with the last who could send them work.
            thread::spawn(move || hash_on(&waiting));
        }
        Hashers { work, places: Arc::new(Semaphore::new(AT_ONCE + WAITING)) }
    }
}

impl Hashers {
    /// Does something costly with a password, in turn.
    ///
    /// # Errors
    /// [`Problem::TooBusy`] when too many wait already.
    pub(crate) async fn work_out<T: Send + 'static>(
        &self,
        what: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        let place = Arc::clone(&self.places).try_acquire_owned().map_err(|_| Problem::TooBusy)?;
        let (say, said) = oneshot::channel();
        let work = Box::new(move || {
            // Whoever asked may have gone away meanwhile: then nothing is hashed.
            if !say.is_closed() {
                let _ = say.send(what());
            }
            drop(place);
        });
        self.work.send(work).map_err(|_| Problem::Internal)?;
        said.await.map_err(|_| Problem::Internal)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[tokio::test]
    async fn no_more_wait_than_there_are_places_for() {
        let hashers = Arc::new(Hashers::default());
        let (open, opened) = channel::<()>();
        let opened = Arc::new(Mutex::new(opened));
        let mut all = tokio::task::JoinSet::new();
        for _ in 0..AT_ONCE + WAITING + 9 {
            let (hashers, opened) = (Arc::clone(&hashers), Arc::clone(&opened));
            all.spawn(async move {
                hashers.work_out(move || opened.lock().map(|o| o.recv().is_ok()).unwrap_or_default()).await
            });
        }
        let mut turned_away = 0;
        while turned_away < 9 {
            match all.join_next().await {
                Some(Ok(Err(Problem::TooBusy))) => turned_away += 1,
                other => unreachable!("{other:?}"),
            }
        }
        for _ in 0..AT_ONCE + WAITING {
            assert!(open.send(()).is_ok());
        }
        while let Some(done) = all.join_next().await {
            assert!(matches!(done, Ok(Ok(true))), "{done:?}");
        }
    }
}
