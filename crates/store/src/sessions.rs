//! Signed-in sessions and failed sign-ins.
use diesel::dsl::sql;
use diesel::prelude::*;
use diesel::sql_types::Integer;
use diesel_async::RunQueryDsl;

use crate::StoreError;
use crate::pool::Store;
use crate::schema::{sessions, sign_in_failures};

/// A session as kept.
#[derive(Debug, Clone, PartialEq, Eq, Queryable, Insertable, AsChangeset)]
#[diesel(table_name = sessions)]
pub struct SessionRow {
    /// Its secret identifier, hex.
    pub id: String,
    /// Its contents, JSON.
    pub data: String,
    /// When it ends, milliseconds since 1970 UTC.
    pub expires_at: i64,
}

/// How often a login failed in a row, and when last.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Queryable)]
pub struct Failures {
    /// Failures since the last success.
    pub failures: i32,
    /// The last one, milliseconds since 1970 UTC.
    pub last_at: i64,
}

impl Store {
    /// Keeps a new session; false when its identifier is taken.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn create_session(&self, row: &SessionRow) -> Result<bool, StoreError> {
        let made = diesel::insert_or_ignore_into(sessions::table).values(row);
        Ok(made.execute(&mut self.connection().await?).await? == 1)
    }

    /// Keeps a session as it is now.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn save_session(&self, row: &SessionRow) -> Result<(), StoreError> {
        diesel::replace_into(sessions::table).values(row).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// The session of that identifier, unless it has ended by `now`.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn session(&self, id: &str, now: i64) -> Result<Option<SessionRow>, StoreError> {
        let live = sessions::table.filter(sessions::id.eq(id)).filter(sessions::expires_at.gt(now));
        Ok(live.first(&mut self.connection().await?).await.optional()?)
    }

    /// Ends a session.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn delete_session(&self, id: &str) -> Result<(), StoreError> {
        let one = sessions::table.filter(sessions::id.eq(id));
        diesel::delete(one).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// Clears away sessions that ended before `now`.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn clear_sessions(&self, now: i64) -> Result<(), StoreError> {
        let over = sessions::table.filter(sessions::expires_at.le(now));
        diesel::delete(over).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// The failures of a login.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn failures(&self, login: &str) -> Result<Option<Failures>, StoreError> {
        let found = sign_in_failures::table
            .filter(sign_in_failures::login.eq(login))
            .select((sign_in_failures::failures, sign_in_failures::last_at));
        Ok(found.first(&mut self.connection().await?).await.optional()?)
    }

    /// Extreme a failure of a login.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn count_failure(&self, login: &str, now: i64) -> Result<(), StoreError> {
        use sign_in_failures::dsl;
        diesel::insert_into(dsl::sign_in_failures)
            .values((dsl::login.eq(login), dsl::failures.eq(1), dsl::last_at.eq(now)))
            .on_conflict(diesel::dsl::DuplicatedKeys)
            .do_update()
            .set((dsl::failures.eq(sql::<Integer>("failures + 1")), dsl::last_at.eq(now)))
            .execute(&mut self.connection().await?)
            .await?;
        Ok(())
    }

    /// Forgets the failures of a login after a success.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn forget_failures(&self, login: &str) -> Result<(), StoreError> {
        let one = sign_in_failures::table.filter(sign_in_failures::login.eq(login));
        diesel::delete(one).execute(&mut self.connection().await?).await?;
        Ok(())
    }
}
