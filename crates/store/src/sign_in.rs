//! Failed sign-ins, browsers that are known, and invitations.
use diesel::dsl::sql;
use diesel::prelude::*;
use diesel::sql_types::Integer;
use diesel_async::{AsyncConnection, RunQueryDsl};
use uuid::Uuid;

use crate::StoreError;
use crate::pool::{Store, while_busy};
use crate::schema::{invitations, known_browsers, sign_in_tries};
use crate::text::uuid;

/// How often a login failed in a row from one place, and when last.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Queryable)]
pub struct Failures {
    /// Tries since the last success; one is counted before it is judged.
    pub failures: i32,
    /// The last one, milliseconds since 1970 UTC.
    pub last_at: i64,
}

impl Store {
    /// Counts a try of a login from a place, unless `may` says that those before it forbid one: then it answers with them.
    /// Whoever tries many passwords at once is counted as often, and judged as often as the count allows.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn count_try<F>(
        &self,
        login: &str,
        place: &str,
        now: i64,
        may: F,
    ) -> Result<Result<(), Failures>, StoreError>
    where
        F: Fn(Failures) -> bool + Clone + Send + Sync + 'static,
    {
        let mut conn = self.connection().await?;
        while_busy!({
            let (login, place, may) = (login.to_owned(), place.to_owned(), may.clone());
            conn.transaction(async move |conn| {
                let none = (
                    sign_in_tries::login.eq(&login),
                    sign_in_tries::place.eq(&place),
                    sign_in_tries::failures.eq(0),
                    sign_in_tries::last_at.eq(now),
                );
                diesel::insert_or_ignore_into(sign_in_tries::table).values(none).execute(conn).await?;
                let at = sign_in_tries::table.find((&login, &place));
                let so_far: Failures =
                    at.select((sign_in_tries::failures, sign_in_tries::last_at)).for_update().first(conn).await?;
                if !may(so_far) {
                    return Ok(Err(so_far));
                }
                diesel::update(sign_in_tries::table.find((&login, &place)))
                    .set((
                        sign_in_tries::failures.eq(sql::<Integer>("LEAST(failures, 1000000) + 1")),
                        sign_in_tries::last_at.eq(now),
                    ))
                    .execute(conn)
                    .await?;
                Ok(Ok(()))
            })
            .await
        })
    }

    /// Forgets the tries of a login from a place after a success.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn forget_tries(&self, login: &str, place: &str) -> Result<(), StoreError> {
        diesel::delete(sign_in_tries::table.find((login, place))).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// Clears away tries before `before`, and browsers that were not seen since `unseen`.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn clear_tries(&self, before: i64, unseen: i64) -> Result<(), StoreError> {
        let mut conn = self.connection().await?;
        diesel::delete(sign_in_tries::table.filter(sign_in_tries::last_at.lt(before))).execute(&mut conn).await?;
        diesel::delete(known_browsers::table.filter(known_browsers::seen_at.lt(unseen))).execute(&mut conn).await?;
        Ok(())
    }

    /// Whether somebody has signed in from the browser with that token.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn knows_browser(&self, token: &str, person: Uuid) -> Result<bool, StoreError> {
        let known = known_browsers::table.find(token).filter(known_browsers::person_id.eq(person.to_string()));
        Ok(known.count().get_result::<i64>(&mut self.connection().await?).await? == 1)
    }

    /// Remembers the browser with that token as one of a person's.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn remember_browser(&self, token: &str, person: Uuid, now: i64) -> Result<(), StoreError> {
        let row = (
            known_browsers::token.eq(token),
            known_browsers::person_id.eq(person.to_string()),
            known_browsers::seen_at.eq(now),
        );
        diesel::replace_into(known_browsers::table).values(row).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// Forgets every browser of a person.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn forget_browsers(&self, person: Uuid) -> Result<(), StoreError> {
        let theirs = known_browsers::table.filter(known_browsers::person_id.eq(person.to_string()));
        diesel::delete(theirs).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// Hands out an invitation to a person; one before it is void.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn invite(&self, token: &str, person: Uuid, ends_at: i64) -> Result<(), StoreError> {
        let row = (
            invitations::token.eq(token),
            invitations::person_id.eq(person.to_string()),
            invitations::ends_at.eq(ends_at),
        );
        // Replaced by token and by person: both are unique.
        diesel::replace_into(invitations::table).values(row).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// Whom an invitation is for, while it is good.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn invited(&self, token: &str, now: i64) -> Result<Option<Uuid>, StoreError> {
        let good = invitations::table.find(token).filter(invitations::ends_at.gt(now));
        let found: Option<String> =
            good.select(invitations::person_id).first(&mut self.connection().await?).await.optional()?;
        found.map(|id| uuid(&id)).transpose()
    }

    /// Takes an invitation up: it is good once. Says whether it was.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn use_invitation(&self, token: &str, now: i64) -> Result<bool, StoreError> {
        let good = invitations::table.find(token).filter(invitations::ends_at.gt(now));
        Ok(diesel::delete(good).execute(&mut self.connection().await?).await? == 1)
    }

    /// Invitations that are good, by person, with when they end.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn invitations(&self, now: i64) -> Result<Vec<(Uuid, i64)>, StoreError> {
        let rows: Vec<(String, i64)> = invitations::table
            .filter(invitations::ends_at.gt(now))
            .select((invitations::person_id, invitations::ends_at))
            .load(&mut self.connection().await?)
            .await?;
        rows.into_iter().map(|(id, ends)| Ok((uuid(&id)?, ends))).collect()
    }
}
