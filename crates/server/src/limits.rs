//! How much of what is costly is done at once: a shop's server is one small machine, and its benches come first.
use std::collections::HashMap;
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use jagged_pin_core::choose::unless_given_up;
use tokio::sync::{OwnedSemaphorePermit, Semaphore};
use tokio::time::timeout;
use uuid::Uuid;

use crate::hashers::Hashers;
use crate::http::problem::Problem;

/// Long workings-out at once: files of readings, builds from files, spreadsheets.
const WORKINGS: usize = 2;
/// Searches and calculators at once: one core is left to the benches.
const SEARCHES: usize = 1;
/// Pictures at once: each of them fills the memory of a small machine for a while.
const PICTURES: usize = 1;
/// Requests of one session, or of one address without a session, at once: as many connections to the database are left to the
/// others.
const SHARE: usize = 8;
/// Requests of one address at once, whatever sessions they say they are of: some benches behind one door.
const ADDRESS_SHARE: usize = 64;
/// Requests of theirs that wait: each holds a connection, which others want.
const SHARE_WAITING: usize = 56;
/// How long one waits for its turn.
const PATIENCE: Duration = Duration::from_secs(8);
/// Streams of events at once.
const STREAMS: usize = 256;
/// Streams of one person: some benches, each with its events and a gauge.
const STREAMS_OF_ONE: usize = 12;

/// The turns there are.
#[derive(Debug)]
pub struct Limits {
    /// Hashes passwords.
    pub(crate) hashers: Hashers,
    workings: Arc<Semaphore>,
    searches: Arc<Semaphore>,
    pictures: Arc<Semaphore>,
    streams: Arc<Semaphore>,
    /// How many streams each person has.
    streams_of: Arc<Mutex<HashMap<Uuid, usize>>>,
    /// The requests of each session, or of an address without one, that are worked on.
    shares: Mutex<HashMap<String, Arc<Semaphore>>>,
}

impl Default for Limits {
    fn default() -> Self {
        let turns = |n| Arc::new(Semaphore::new(n));
        Limits {
            hashers: Hashers::default(),
            workings: turns(WORKINGS),
            searches: turns(SEARCHES),
            pictures: turns(PICTURES),
            streams: turns(STREAMS),
            streams_of: Arc::default(),
            shares: Mutex::default(),
        }
    }
}

/// A turn; over when it is dropped.
#[derive(Debug)]
pub(crate) struct Turn(#[expect(dead_code, reason = "held, not read")] OwnedSemaphorePermit);

/// A place among the streams there may be, and among those of one person; free when it is dropped.
#[derive(Debug)]
pub(crate) struct StreamPlace {
    _place: OwnedSemaphorePermit,
    of: Arc<Mutex<HashMap<Uuid, usize>>>,
    person: Uuid,
}

impl Drop for StreamPlace {
    fn drop(&mut self) {
        let mut of = self.of.lock().unwrap_or_else(PoisonError::into_inner);
        let left = of.get(&self.person).map_or(0, |n| n.saturating_sub(1));
        if left == 0 {
            of.remove(&self.person);
        } else {
            of.insert(self.person, left);
        }
    }
}

fn at_once(of: &Arc<Semaphore>) -> Result<OwnedSemaphorePermit, Problem> {
    Arc::clone(of).try_acquire_owned().map_err(|_| Problem::TooBusy)
}

async fn in_turn(of: Arc<Semaphore>) -> Result<OwnedSemaphorePermit, Problem> {
    match timeout(PATIENCE, of.acquire_owned()).await {
        Ok(Ok(turn)) => Ok(turn),
        _ => Err(Problem::TooBusy),
    }
}

impl Limits {
    /// The turn to work out something long.
    pub(crate) async fn working(&self) -> Result<Turn, Problem> {
        in_turn(Arc::clone(&self.workings)).await.map(Turn)
    }

    /// Places among those of a session, or of an address without one, and among all those of the address; refused where too many
    /// of theirs wait already.
    pub(crate) async fn share(&self, session: Option<String>, address: String) -> Result<[Turn; 2], Problem> {
        let own = session.map_or_else(|| format!("nobody at {address}"), |session| format!("session {session}"));
        let own = self.place(own, SHARE).await?;
        Ok([own, self.place(format!("address {address}"), ADDRESS_SHARE).await?])
    }

    async fn place(&self, whose: String, places: usize) -> Result<Turn, Problem> {
        let share = {
            let mut shares = self.shares.lock().unwrap_or_else(PoisonError::into_inner);
            // Whoever works or waits holds one as well: the others are over.
            shares.retain(|_, share| Arc::strong_count(share) > 1);
            let share = shares.entry(whose).or_insert_with(|| Arc::new(Semaphore::new(places)));
            if Arc::strong_count(share) > places + SHARE_WAITING {
                return Err(Problem::TooBusy);
            }
            Arc::clone(share)
        };
        in_turn(share).await.map(Turn)
    }

    /// A stream of events or of a gauge, for a person who has not too many of them already.
    pub(crate) fn stream(&self, person: Uuid) -> Result<StreamPlace, Problem> {
        let place = at_once(&self.streams)?;
        let mut of = self.streams_of.lock().unwrap_or_else(PoisonError::into_inner);
        let count = of.entry(person).or_default();
        if *count >= STREAMS_OF_ONE {
            return Err(Problem::TooBusy);
        }
        *count = count.saturating_add(1);
        Ok(StreamPlace { _place: place, of: Arc::clone(&self.streams_of), person })
    }

    /// Works out something long on a thread of its own, in turn.
    pub(crate) async fn work_out<T: Send + 'static>(
        &self,
        what: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        self.work_out_while_wanted(|_| what()).await
    }

    /// The same for what can stop when nobody waits for it any more.
    pub(crate) async fn work_out_while_wanted<T: Send + 'static>(
        &self,
        what: impl FnOnce(&Wanted) -> T + Send + 'static,
    ) -> Result<T, Problem> {
        on_a_thread(self.working().await?, what).await
    }

    /// Searches, or calculates, in turn. A search that nobody waits for any more stops.
    pub(crate) async fn search<T: Send + 'static>(
        &self,
        what: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        let turn = in_turn(Arc::clone(&self.searches)).await.map(Turn)?;
        on_a_thread(turn, |wanted: &Wanted| unless_given_up(&wanted.0, what)).await
    }

    /// Makes something of a picture, one after the other.
    pub(crate) async fn picture<T: Send + 'static>(
        &self,
        what: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, Problem> {
        let turn = in_turn(Arc::clone(&self.pictures)).await.map(Turn)?;
        on_a_thread(turn, |_: &Wanted| what()).await
    }
}

/// Whether somebody waits for an answer: until whoever asked is gone.
#[derive(Debug, Clone, Default)]
pub(crate) struct Wanted(Arc<AtomicBool>);

impl Wanted {
    /// Whether the answer is still waited for.
    pub(crate) fn still(&self) -> bool {
        !self.0.load(Ordering::Relaxed)
    }
}

/// Dropped with the request that waits.
struct Waiting(Wanted);

impl Drop for Waiting {
    fn drop(&mut self) {
        self.0.0.store(true, Ordering::Relaxed);
    }
}

async fn on_a_thread<T: Send + 'static>(
    turn: Turn,
    what: impl FnOnce(&Wanted) -> T + Send + 'static,
) -> Result<T, Problem> {
    let wanted = Wanted::default();
    let _waiting = Waiting(wanted.clone());
    let done = tokio::task::spawn_blocking(move || {
        let made = what(&wanted);
        // Given up by whoever asked, it may still be worked out until here.
        drop(turn);
        made
    });
    done.await.map_err(|_| Problem::Internal)
}

#[cfg(test)]
mod tests {
    use super::*;
    use std::sync::mpsc;

    #[tokio::test]
    async fn whoever_asks_for_much_waits_for_themselves_alone() {
        let limits = Limits::default();
        let mut held = Vec::new();
        for _ in 0..SHARE {
            held.push(limits.share(Some("one".into()), "here".into()).await);
        }
        let mut next = Box::pin(limits.share(Some("one".into()), "here".into()));
        assert!(timeout(Duration::ZERO, &mut next).await.is_err(), "it waits");
        assert!(
            timeout(Duration::ZERO, limits.share(Some("another".into()), "here".into()))
                .await
                .is_ok_and(|place| place.is_ok())
        );
        let mut waiting: Vec<_> =
            (1..SHARE_WAITING).map(|_| Box::pin(limits.share(Some("one".into()), "here".into()))).collect();
        for one in &mut waiting {
            assert!(timeout(Duration::ZERO, one).await.is_err());
        }
        assert!(
            matches!(limits.share(Some("one".into()), "here".into()).await, Err(Problem::TooBusy)),
            "no more of them wait"
        );
        drop(waiting);
        for n in SHARE..ADDRESS_SHARE {
            held.push(limits.share(Some(format!("made up {n}")), "here".into()).await);
        }
        let mut more = Box::pin(limits.share(Some("one more".into()), "here".into()));
        assert!(timeout(Duration::ZERO, &mut more).await.is_err(), "sessions that are made up wait as well");
        assert!(timeout(Duration::ZERO, limits.share(None, "elsewhere".into())).await.is_ok_and(|place| place.is_ok()));
        drop(more);
        held.remove(0).ok();
        assert!(next.await.is_ok(), "and goes on with the next place");
    }

    #[tokio::test]
    async fn work_that_nobody_waits_for_hears_of_it_and_keeps_its_turn_until_it_stops() {
        let limits = Arc::new(Limits::default());
        let (started, has_started) = mpsc::channel();
        let (stopped, has_stopped) = mpsc::channel();
        let asked = {
            let limits = Arc::clone(&limits);
            tokio::spawn(async move {
                let work = limits.work_out_while_wanted(move |wanted| {
                    let _ = started.send(());
                    while wanted.still() {
                        std::thread::yield_now();
                    }
                    let _ = stopped.send(());
                });
                work.await
            })
        };
        let wait =
            |on: mpsc::Receiver<()>| tokio::task::spawn_blocking(move || on.recv_timeout(Duration::from_secs(30)));
        assert!(matches!(wait(has_started).await, Ok(Ok(()))));
        assert_eq!(limits.workings.available_permits(), WORKINGS - 1);
        asked.abort();
        assert!(matches!(wait(has_stopped).await, Ok(Ok(()))), "it works on for nobody");
    }
}
