//! The pool of connections, and the builds kept from it.
use std::collections::HashMap;
use std::num::NonZeroUsize;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use diesel_async::pooled_connection::deadpool::{Object, Pool};
use diesel_async::pooled_connection::{AsyncDieselConnectionManager, ManagerConfig};
use diesel_async::{AsyncMysqlConnection, SimpleAsyncConnection};
use jagged_pin_core::Build;
use jagged_pin_core::sheet::SealKey;
use lru::LruCache;
use tokio::sync::OwnedMutexGuard;
use tokio::time::timeout;
use uuid::Uuid;

use crate::address::Address;
use crate::error::unconnected;
use crate::tables::{self, Turn};
use crate::{RecordError, StoreError};

/// Connections per server: benches wait a moment rather than drown the database.
const CONNECTIONS: usize = 16;
/// How long somebody waits for a connection: longer than a commit takes, shorter than a person does.
const PATIENCE: Duration = Duration::from_secs(5);
/// How long a write waits for another one of the same build.
const QUEUE_PATIENCE: Duration = Duration::from_secs(4);
/// Builds kept loaded: what a shop works on at one time.
const KEPT: NonZeroUsize = NonZeroUsize::MIN.saturating_add(63);
/// Short names remembered.
const NAMES: NonZeroUsize = NonZeroUsize::MIN.saturating_add(4_095);
/// Times that a transaction is begun again which lost against another one.
const ATTEMPTS: u32 = 6;

/// A connection from the pool.
pub(crate) type Connection = Object<AsyncMysqlConnection>;

/// The database.
#[derive(Clone)]
pub struct Store {
    pool: Pool<AsyncMysqlConnection>,
    kept: Arc<Mutex<LruCache<Uuid, Arc<Build>>>>,
    /// Short names of builds never change, so what was looked up once stays true.
    names: Arc<Mutex<LruCache<String, Uuid>>>,
    /// Writes of one build queue here, each build by itself: none of them holds a connection while it waits.
    queues: Arc<Mutex<HashMap<Uuid, Arc<tokio::sync::Mutex<()>>>>>,
    address: Address,
    /// Under which what seals stand on is written down.
    pub(crate) key: Option<SealKey>,
}

impl std::fmt::Debug for Store {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Store").finish_non_exhaustive()
    }
}

impl Store {
    /// Connects to the database at `url`, making it if the server has none of that name, and brings its
    /// tables up to date.
    ///
    /// # Errors
    /// [`StoreError`] when there is no connection, or the tables cannot be brought up to date.
    pub async fn connect(url: &str) -> Result<Self, StoreError> {
        let address = Address::parse(url)?;
        tables::migrate(&address).await?;
        Self::over(address)
    }

    /// Connects to a database whose tables are up to date, with an account that may do no more than work with their rows.
    ///
    /// # Errors
    /// [`StoreError`] when there is no connection, or the tables are not those of this version.
    pub async fn connect_as_it_is(url: &str) -> Result<Self, StoreError> {
        let address = Address::parse(url)?;
        tables::check(&address).await?;
        Self::over(address)
    }

    fn over(address: Address) -> Result<Self, StoreError> {
        let mut config = ManagerConfig::default();
        let opened = address.clone();
        config.custom_setup = Box::new(move |_| {
            let address = opened.clone();
            Box::pin(async move { address.pooled().await })
        });
        let manager = AsyncDieselConnectionManager::<AsyncMysqlConnection>::new_with_config(address.whole(), config);
        let pool = Pool::builder(manager).max_size(CONNECTIONS).build().map_err(unconnected)?;
        Ok(Store {
            pool,
            kept: Arc::new(Mutex::new(LruCache::new(KEPT))),
            names: Arc::new(Mutex::new(LruCache::new(NAMES))),
            queues: Arc::default(),
            address,
            key: None,
        })
    }

    /// Waits until it is this server's turn to do something that one at a time does; the turn is over when it is dropped.
    ///
    /// # Errors
    /// [`StoreError`] when another server is at it for too long.
    pub async fn turn(&self, what: &str) -> Result<Turn, StoreError> {
        Turn::wait(&self.address, what).await
    }

    /// Whether the database answers.
    ///
    /// # Errors
    /// [`StoreError`] when it does not.
    pub async fn ping(&self) -> Result<(), StoreError> {
        self.connection().await?.batch_execute("SELECT 1").await.map_err(StoreError::from)
    }

    pub(crate) async fn connection(&self) -> Result<Connection, StoreError> {
        match timeout(PATIENCE, self.pool.get()).await {
            Ok(got) => got.map_err(unconnected),
            Err(_) => Err(unconnected("every connection is in use, or the database does not answer")),
        }
    }

    /// The place at the head of a build's queue.
    pub(crate) async fn queue(&self, build: Uuid) -> Result<OwnedMutexGuard<()>, StoreError> {
        let place = {
            let mut queues = self.queues.lock().unwrap_or_else(PoisonError::into_inner);
            // Whoever waits or writes holds one as well: the others are over.
            queues.retain(|_, queue| Arc::strong_count(queue) > 1);
            Arc::clone(queues.entry(build).or_default())
        };
        timeout(QUEUE_PATIENCE, place.lock_owned()).await.map_err(|_| StoreError::Held)
    }

    pub(crate) fn name_of_build(&self, code: &str) -> Option<Uuid> {
        self.names.lock().unwrap_or_else(PoisonError::into_inner).get(code).copied()
    }

    pub(crate) fn keep_name(&self, code: &str, id: Uuid) {
        self.names.lock().unwrap_or_else(PoisonError::into_inner).put(code.to_owned(), id);
    }

    /// Forgets what was kept of a build that is not in the database any more as it was.
    pub(crate) fn forget(&self, id: Uuid) {
        self.kept.lock().unwrap_or_else(PoisonError::into_inner).pop(&id);
    }

    /// Forgets the short names of builds: one of them led nowhere.
    pub(crate) fn forget_names(&self) {
        self.names.lock().unwrap_or_else(PoisonError::into_inner).clear();
    }

    pub(crate) fn kept(&self, id: Uuid) -> Option<Arc<Build>> {
        self.kept.lock().unwrap_or_else(PoisonError::into_inner).get(&id).cloned()
    }

    /// Keeps a committed build for the next load, unless a later state is kept already.
    pub(crate) fn keep(&self, build: &Arc<Build>) {
        let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        if kept.get(&build.id).is_none_or(|known| known.seq() < build.seq()) {
            kept.put(build.id, Arc::clone(build));
        }
    }
}

/// Does something again while it loses against other transactions, a little later each time.
macro_rules! while_busy {
    ($once:expr) => {{
        let mut attempt = 1;
        loop {
            match $once {
                Err(error) if $crate::pool::may_try_again(attempt, &error) => $crate::pool::pause(attempt).await,
                other => break other,
            }
            attempt += 1;
        }
    }};
}
pub(crate) use while_busy;

/// An error that may say that a transaction lost against another one.
pub(crate) trait Lost {
    /// Whether it does.
    fn lost(&self) -> bool;
}

impl Lost for StoreError {
    fn lost(&self) -> bool {
        matches!(self, StoreError::Busy)
    }
}

impl<E> Lost for RecordError<E> {
    fn lost(&self) -> bool {
        matches!(self, RecordError::Store(StoreError::Busy))
    }
}

pub(crate) fn may_try_again(attempt: u32, error: &impl Lost) -> bool {
    attempt < ATTEMPTS && error.lost()
}

/// Waits before another attempt; those who lost together don't come back together.
pub(crate) async fn pause(attempt: u32) {
    let jitter = u64::from(Uuid::new_v4().as_bytes()[0] % 16);
    tokio::time::sleep(Duration::from_millis(u64::from(attempt) * 10 + jitter)).await;
}
