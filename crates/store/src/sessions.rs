//! Signed-in sessions: whose they are, and ending them.
use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use jagged_pin_core::units::Timestamp;
use uuid::Uuid;

use crate::StoreError;
use crate::pool::Store;
use crate::schema::sessions;
use crate::text::uuid;

/// A session as kept.
#[derive(Debug, Clone, PartialEq, Eq, Queryable, Selectable, Insertable, AsChangeset)]
#[diesel(table_name = sessions)]
pub struct SessionRow {
    /// Its secret identifier, hex.
    pub id: String,
    /// Its contents, JSON.
    pub data: String,
    /// When it ends, milliseconds since 1970 UTC.
    pub expires_at: i64,
}

/// A session as people look at it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OpenSession {
    /// Its secret identifier: for the server alone.
    pub id: String,
    /// Whose it is.
    pub person: Uuid,
    /// When it began.
    pub begun: Timestamp,
    /// When it was last used, within a minute.
    pub seen: Timestamp,
    /// What the browser called itself.
    pub browser: Option<String>,
    /// From which address it began.
    pub address: Option<String>,
}

type OpenColumns = (String, Option<String>, i64, i64, Option<String>, Option<String>);

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
    pub async fn save_session(&self, row: &SessionRow, seen_at: i64) -> Result<(), StoreError> {
        // Whose it is stays as it was.
        diesel::insert_into(sessions::table)
            .values((row, sessions::seen_at.eq(seen_at)))
            .on_conflict(diesel::dsl::DuplicatedKeys)
            .do_update()
            .set((row, sessions::seen_at.eq(seen_at)))
            .execute(&mut self.connection().await?)
            .await?;
        Ok(())
    }

    /// The session of that identifier, unless it has ended by `now`; one that would last until after `latest` was begun by a
    /// clock that went wrong, and is none.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn session(&self, id: &str, now: i64, latest: i64) -> Result<Option<SessionRow>, StoreError> {
        let lasts = sessions::expires_at.gt(now).and(sessions::expires_at.le(latest));
        let live = sessions::table.filter(sessions::id.eq(id)).filter(lasts);
        let found = live.select(SessionRow::as_select()).first(&mut self.connection().await?).await.optional()?;
        Ok(found)
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

    /// Clears away sessions that ended before `now`, and those that would last until after `latest`.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn clear_sessions(&self, now: i64, latest: i64) -> Result<(), StoreError> {
        let over = sessions::table.filter(sessions::expires_at.le(now).or(sessions::expires_at.gt(latest)));
        diesel::delete(over).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// Says whose a session is, and from where it began.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn own_session(&self, of: &OpenSession) -> Result<(), StoreError> {
        diesel::update(sessions::table.find(&of.id))
            .set((
                sessions::person_id.eq(Some(of.person.to_string())),
                sessions::begun_at.eq(of.begun.0),
                sessions::seen_at.eq(of.seen.0),
                sessions::browser.eq(&of.browser),
                sessions::address.eq(&of.address),
            ))
            .execute(&mut self.connection().await?)
            .await?;
        Ok(())
    }

    /// Sessions that have not ended by `now`, of one person or of everybody, the one that was used last first.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn open_sessions(&self, of: Option<Uuid>, now: i64) -> Result<Vec<OpenSession>, StoreError> {
        let mut all = sessions::table.filter(sessions::expires_at.gt(now)).into_boxed();
        if let Some(person) = of {
            all = all.filter(sessions::person_id.eq(person.to_string()));
        }
        let rows: Vec<OpenColumns> = all
            .order(sessions::seen_at.desc())
            .select((
                sessions::id,
                sessions::person_id,
                sessions::begun_at,
                sessions::seen_at,
                sessions::browser,
                sessions::address,
            ))
            .load(&mut self.connection().await?)
            .await?;
        let open = |(id, person, begun, seen, browser, address): OpenColumns| {
            let person = person.map(|p| uuid(&p)).transpose()?;
            Ok(person.map(|person| {
                let (begun, seen) = (Timestamp(begun), Timestamp(seen));
                OpenSession { id, person, begun, seen, browser, address }
            }))
        };
        rows.into_iter().filter_map(|row| open(row).transpose()).collect()
    }

    /// Notes that a session was used, and until when it lasts now.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn touch_session(&self, id: &str, now: i64, until: i64) -> Result<(), StoreError> {
        diesel::update(sessions::table.find(id))
            .set((sessions::seen_at.eq(now), sessions::expires_at.eq(until)))
            .execute(&mut self.connection().await?)
            .await?;
        Ok(())
    }

    /// Ends every session of a person but one.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn end_sessions(&self, of: Uuid, but: Option<&str>) -> Result<(), StoreError> {
        let mut others = diesel::delete(sessions::table.filter(sessions::person_id.eq(of.to_string()))).into_boxed();
        if let Some(kept) = but {
            others = others.filter(sessions::id.ne(kept));
        }
        others.execute(&mut self.connection().await?).await?;
        Ok(())
    }
}
