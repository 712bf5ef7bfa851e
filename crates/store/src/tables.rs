//! Bringing the tables up to date, one server at a time.
use diesel::prelude::*;
use diesel::sql_types::{BigInt, Nullable, Varchar};
use diesel_async::{AsyncMigrationHarness, AsyncMysqlConnection, RunQueryDsl};
use diesel_migrations::{EmbeddedMigrations, MigrationHarness, embed_migrations};

use crate::StoreError;
use crate::address::Address;

const MIGRATIONS: EmbeddedMigrations = embed_migrations!("migrations");
/// How long a server waits for its turn, seconds: another one may be carrying a large shop over.
const PATIENCE: i64 = 300;

#[derive(QueryableByName)]
struct Got {
    #[diesel(sql_type = Nullable<BigInt>)]
    got: Option<i64>,
}

/// Something that one server at a time does with a database; over when it is dropped.
#[derive(Debug)]
pub struct Turn(#[expect(dead_code, reason = "the lock lasts as long as its connection")] Held);

struct Held(AsyncMysqlConnection);

impl std::fmt::Debug for Held {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("Held").finish_non_exhaustive()
    }
}

/// A connection that holds the lock of that name on a database; ending it gives the lock back.
async fn hold(address: &Address, what: &str) -> Result<Held, StoreError> {
    let mut conn = address.connect().await?;
    let ask = diesel::sql_query("SELECT CAST(GET_LOCK(?, ?) AS SIGNED) AS got")
        .bind::<Varchar, _>(format!("{}:{what}", address.name))
        .bind::<BigInt, _>(PATIENCE);
    let Got { got } = ask.get_result(&mut conn).await?;
    if got == Some(1) {
        Ok(Held(conn))
    } else {
        Err(StoreError::Migration(format!("another server has been at it for {PATIENCE} s")))
    }
}

impl Turn {
    /// Waits for the turn to do something.
    pub(crate) async fn wait(address: &Address, what: &str) -> Result<Self, StoreError> {
        hold(address, what).await.map(Turn)
    }
}

fn failed(error: impl std::fmt::Display) -> StoreError {
    StoreError::Migration(format!("{error}; start it again: what was begun is taken up where it was left"))
}

/// Brings the tables up to date. Servers that start at once take turns, and whatever was cut off is done again.
pub(crate) async fn migrate(address: &Address) -> Result<(), StoreError> {
    address.make().await?;
    if check(address).await.is_ok() {
        return Ok(());
    }
    let Held(conn) = hold(address, "tables").await?;
    // Migrations are synchronous underneath; the harness needs a thread it may block.
    let migrated = tokio::task::spawn_blocking(move || {
        let mut harness = AsyncMigrationHarness::new(conn);
        harness.run_pending_migrations(MIGRATIONS).map(drop).map_err(failed)
    });
    migrated.await.map_err(failed)?
}

#[derive(QueryableByName)]
struct Version {
    #[diesel(sql_type = Varchar)]
    version: String,
}

/// The changes of the tables that this version knows.
fn known() -> Result<Vec<String>, StoreError> {
    use diesel::migration::{Migration, MigrationSource};
    let known: Vec<Box<dyn Migration<diesel::mysql::Mysql>>> = MIGRATIONS.migrations().map_err(failed)?;
    Ok(known.iter().map(|m| m.name().version().to_string()).collect())
}

/// Checks that the tables are those of this version, without changing anything.
pub(crate) async fn check(address: &Address) -> Result<(), StoreError> {
    let known = known()?;
    let mut conn = address.connect().await?;
    let done = diesel::sql_query("SELECT version FROM __diesel_schema_migrations").load::<Version>(&mut conn).await;
    let done: Vec<String> = done.unwrap_or_default().into_iter().map(|v| v.version).collect();
    let missing = known.iter().filter(|version| !done.contains(version)).count();
    if missing == 0 {
        Ok(())
    } else {
        Err(StoreError::Migration(format!(
            "{missing} changes of the tables are still to be made: run `jagged-pin tables` with an account that may"
        )))
    }
}
