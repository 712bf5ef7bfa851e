//! The floor: what is shown of each build, kept beside it so that a page of the floor is one statement; and builds that
//! were put away.
use diesel::prelude::*;
use diesel::sql_types::{Integer, Text, Varchar};
use diesel_async::{AsyncConnection, RunQueryDsl};
use jagged_pin_core::sheet::LedgerKind;
use jagged_pin_core::units::{Person, Timestamp};
use uuid::Uuid;

use crate::StoreError;
use crate::pool::{Store, while_busy};
use crate::schema::{build_summaries, builds, changes};
use crate::shop_log::{ShopNote, note_in_log};
use crate::text::{moment, seq_column, seq_value, uuid};

diesel::define_sql_function! {
    /// A text without capitals.
    fn lower(text: Varchar) -> Varchar;
}

/// Form of a summary: one that was written by a version with another form is made again.
const FORM: i32 = 3;

/// What is asked of the floor.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct FloorQuery {
    /// Part of a short name or of the engine in words; empty for every build.
    pub search: String,
    /// Builds that were put away, instead of those on the floor.
    pub archived: bool,
    /// Short name of the last build of the page before.
    pub after: Option<String>,
    /// One build alone.
    pub only: Option<Uuid>,
    /// Most builds of a page.
    pub most: i64,
}

/// A build of the floor.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct OnFloor {
    /// Identifier.
    pub id: Uuid,
    /// Short name.
    pub code: String,
    /// The engine in words.
    pub engine: String,
    /// Its last fact.
    pub seq: u32,
    /// What was kept of it at that fact; absent where it has to be made again.
    pub summary: Option<String>,
    /// When it was put away, and why.
    pub archived: Option<(Timestamp, String)>,
}

type FloorColumns =
    (String, String, String, i32, Option<i64>, Option<String>, Option<i32>, Option<i32>, Option<String>);

impl Store {
    /// A page of the floor, by short name.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn floor(&self, ask: &FloorQuery) -> Result<Vec<OnFloor>, StoreError> {
        let mut page = builds::table.left_join(build_summaries::table).into_boxed();
        if let Some(only) = ask.only {
            page = page.filter(builds::id.eq(only.to_string()));
        } else {
            page = page.filter(builds::archived.eq(ask.archived));
        }
        if !ask.search.is_empty() {
            let plain = ask.search.to_lowercase().replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_");
            let like = format!("%{plain}%");
            page = page.filter(lower(builds::code).like(like.clone()).or(lower(builds::engine).like(like)));
        }
        if let Some(after) = &ask.after {
            page = page.filter(builds::code.gt(after));
        }
        let rows: Vec<FloorColumns> = page
            .order(builds::code)
            .limit(ask.most)
            .select((
                builds::id,
                builds::code,
                builds::engine,
                builds::seq,
                builds::archived_at,
                builds::archived_why,
                build_summaries::seq.nullable(),
                build_summaries::form.nullable(),
                build_summaries::detail.nullable(),
            ))
            .load(&mut self.connection().await?)
            .await?;
        let on_floor = |(id, code, engine, seq, at, why, of, form, detail): FloorColumns| {
            let current = of == Some(seq) && form == Some(FORM);
            let archived = at.map(|at| Ok::<_, StoreError>((moment(at)?, why.unwrap_or_default()))).transpose()?;
            let summary = detail.filter(|_| current);
            Ok(OnFloor { id: uuid(&id)?, code, engine, seq: seq_value(seq)?, summary, archived })
        };
        rows.into_iter().map(on_floor).collect()
    }

    /// Keeps what the floor shows of a build as it was at a fact, unless something later is kept.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_summary(&self, build: Uuid, seq: u32, detail: &str) -> Result<(), StoreError> {
        let put = "INSERT INTO build_summaries (build_id, seq, form, detail) VALUES (?, ?, ?, ?) \
                   ON DUPLICATE KEY UPDATE \
                   detail = IF(VALUES(seq) >= seq OR form <> VALUES(form), VALUES(detail), detail), \
                   seq = IF(form <> VALUES(form), VALUES(seq), GREATEST(seq, VALUES(seq))), form = VALUES(form)";
        diesel::sql_query(put)
            .bind::<Varchar, _>(build.to_string())
            .bind::<Integer, _>(seq_column(seq)?)
            .bind::<Integer, _>(FORM)
            .bind::<Text, _>(detail)
            .execute(&mut self.connection().await?)
            .await?;
        Ok(())
    }

    /// Puts a build away, or takes it out again with `None`, with a line in the shop's log that says so.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a build.
    pub async fn archive(
        &self,
        build: Uuid,
        away: Option<(&Person, Timestamp, &str)>,
        note: &ShopNote,
    ) -> Result<(), StoreError> {
        let mut conn = self.connection().await?;
        let set = (
            builds::archived.eq(away.is_some()),
            builds::archived_at.eq(away.map(|(_, at, _)| at.0)),
            builds::archived_by_id.eq(away.map(|(by, ..)| by.id.to_string())),
            builds::archived_why.eq(away.map(|(.., why)| why)),
        );
        let kind = if away.is_some() { LedgerKind::PutAway } else { LedgerKind::TakenOut };
        while_busy!({
            let (store, set, note) = (self.clone(), set.clone(), note.clone());
            conn.transaction(async move |conn| {
                let was: Option<bool> = builds::table
                    .find(build.to_string())
                    .select(builds::archived)
                    .for_update()
                    .first(conn)
                    .await
                    .optional()?;
                let was = was.ok_or(StoreError::NotFound)?;
                diesel::update(builds::table.find(build.to_string())).set(set).execute(conn).await?;
                if was != (kind == LedgerKind::PutAway) {
                    store.write_of_build(conn, build, kind, note.at).await?;
                    note_in_log(conn, &note).await?;
                }
                Ok(())
            })
            .await
        })
    }

    /// The number of the last change there is; 0 before the first.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn last_change(&self) -> Result<i64, StoreError> {
        let last: Option<i64> =
            changes::table.select(diesel::dsl::max(changes::id)).first(&mut self.connection().await?).await?;
        Ok(last.unwrap_or(0))
    }

    /// Which builds moved on after a change, with the number of the last change there is. What is committed later than
    /// its number says is still seen: the last few are looked at again.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn changes_since(&self, last: i64) -> Result<(i64, Vec<(Uuid, u32)>), StoreError> {
        let rows: Vec<(i64, String, i32)> = changes::table
            .filter(changes::id.gt(last.saturating_sub(LOOKED_AT_AGAIN)))
            .order(changes::id)
            .load(&mut self.connection().await?)
            .await?;
        let newest = rows.last().map_or(last, |(id, ..)| (*id).max(last));
        let moved = |(_, id, seq): (i64, String, i32)| Ok((uuid(&id)?, seq_value(seq)?));
        Ok((newest, rows.into_iter().map(moved).collect::<Result<_, StoreError>>()?))
    }
}

/// Changes that are looked at again: writes that were numbered and not yet committed at the last look.
const LOOKED_AT_AGAIN: i64 = 64;
