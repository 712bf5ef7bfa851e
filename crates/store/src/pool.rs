//! The pool of connections, and the builds kept from it.
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

use diesel_async::pooled_connection::AsyncDieselConnectionManager;
use diesel_async::pooled_connection::deadpool::{Object, Pool};
use diesel_async::{AsyncConnection, AsyncMigrationHarness, AsyncMysqlConnection, SimpleAsyncConnection};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};
use jagged_pin_core::Build;
use uuid::Uuid;

use crate::StoreError;

const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");
/// Connections per server: benches wait a moment rather than drown the database.
const CONNECTIONS: usize = 16;
/// Builds kept loaded; a floor has a few dozen.
const KEPT: usize = 64;

/// A connection from the pool.
pub(crate) type Connection = Object<AsyncMysqlConnection>;

/// The database.
#[derive(Clone)]
pub struct Store {
    pool: Pool<AsyncMysqlConnection>,
    kept: Arc<Mutex<HashMap<Uuid, Arc<Build>>>>,
    /// Short names of builds never change, so what was looked up once stays true.
    names: Arc<Mutex<HashMap<String, Uuid>>>,
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
        Ok(Store { pool, kept: Arc::default(), names: Arc::default() })
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
        self.names.lock().unwrap_or_else(PoisonError::into_inner).insert(code.to_owned(), id);
    }

    pub(crate) fn kept(&self, id: Uuid) -> Option<Arc<Build>> {
        self.kept.lock().unwrap_or_else(PoisonError::into_inner).get(&id).cloned()
    }

    /// Keeps a committed build for the next load, unless a later state is kept already.
    pub(crate) fn keep(&self, build: &Arc<Build>) {
        let mut kept = self.kept.lock().unwrap_or_else(PoisonError::into_inner);
        if kept.len() >= KEPT && !kept.contains_key(&build.id) {
            kept.clear();
        }
        let place = kept.entry(build.id).or_insert_with(|| Arc::clone(build));
        if place.seq() < build.seq() {
            *place = Arc::clone(build);
        }
    }
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
