//! The pool of connections, and the builds kept from it.
use std::num::NonZeroUsize;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use diesel_async::pooled_connection::AsyncDieselConnectionManager;
use diesel_async::pooled_connection::deadpool::{Object, Pool};
use diesel_async::{AsyncConnection, AsyncMigrationHarness, AsyncMysqlConnection, SimpleAsyncConnection};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use jagged_pin_core::Build;
use lru::LruCache;
use uuid::Uuid;

use crate::{RecordError, StoreError};

const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");
/// Connections per server: benches wait a moment rather than drown the database.
const CONNECTIONS: usize = 16;
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
        create_database(url).await?;
        let plain = AsyncMysqlConnection::establish(url).await.map_err(connection)?;
        // Migrations are synchronous underneath; the harness needs a thread it may block.
        let url = url.to_owned();
        let migrated = tokio::task::spawn_blocking(move || {
            let mut harness = AsyncMigrationHarness::new(plain);
            harness.run_pending_migrations(MIGRATIONS).map(|_| ()).map_err(|e| StoreError::Migration(e.to_string()))
        });
        migrated.await.map_err(|e| StoreError::Migration(e.to_string()))??;
        let manager = AsyncDieselConnectionManager::<AsyncMysqlConnection>::new(url);
        let pool = Pool::builder(manager).max_size(CONNECTIONS).build().map_err(connection)?;
        let kept = Arc::new(Mutex::new(LruCache::new(KEPT)));
        Ok(Store { pool, kept, names: Arc::new(Mutex::new(LruCache::new(NAMES))) })
    }

    /// Whether the database answers.
    ///
    /// # Errors
    /// [`StoreError`] when it does not.
    pub async fn ping(&self) -> Result<(), StoreError> {
        self.connection().await?.batch_execute("SELECT 1").await.map_err(StoreError::from)
    }

    pub(crate) async fn connection(&self) -> Result<Connection, StoreError> {
        self.pool.get().await.map_err(connection)
    }

    pub(crate) fn name_of_build(&self, code: &str) -> Option<Uuid> {
        self.names.lock().unwrap_or_else(PoisonError::into_inner).get(code).copied()
    }

    pub(crate) fn keep_name(&self, code: &str, id: Uuid) {
        self.names.lock().unwrap_or_else(PoisonError::into_inner).put(code.to_owned(), id);
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

fn connection(error: impl std::fmt::Display) -> StoreError {
    StoreError::Connection(error.to_string())
}

async fn create_database(url: &str) -> Result<(), StoreError> {
    let (server, name) = url.rsplit_once('/').ok_or_else(|| connection("the address names no database"))?;
    if name.is_empty() || !name.chars().all(|c| c.is_ascii_alphanumeric() || c == '_') {
        return Err(connection("a database's name has letters, digits and underscores only"));
    }
    let mut server = AsyncMysqlConnection::establish(&format!("{server}/")).await.map_err(connection)?;
    let make = format!("CREATE DATABASE IF NOT EXISTS {name} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin");
    server.batch_execute(&make).await.map_err(StoreError::from)
}
