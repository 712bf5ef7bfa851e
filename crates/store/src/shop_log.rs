//! The shop's own log: what was done to people, roles and builds as such. Append-only.
use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use jagged_pin_core::units::{Person, Timestamp};
use serde_json::Value;

use crate::StoreError;
use crate::pool::{Connection, Store};
use crate::schema::shop_log;
use crate::text::{from_json, json_of, moment, readable, uuid};

/// A line of the log that is to be written.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ShopNote {
    /// Who did it; nobody where it was done from the command line.
    pub by: Option<Person>,
    /// When.
    pub at: Timestamp,
    /// What sort of thing was done, such as `person_added`.
    pub kind: &'static str,
    /// What exactly, for people and programs.
    pub detail: Value,
}

/// A line of the log.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ShopLine {
    /// Its place.
    pub seq: i64,
    /// When.
    pub at: Timestamp,
    /// Who did it; nobody where it was done from the command line.
    pub by: Option<Person>,
    /// What sort of thing was done.
    pub kind: String,
    /// What exactly.
    pub detail: Value,
}

/// Writes a line, inside the caller's transaction.
pub(crate) async fn note_in_log(conn: &mut Connection, note: &ShopNote) -> Result<(), StoreError> {
    let row = (
        shop_log::at_ms.eq(note.at.0),
        shop_log::by_id.eq(note.by.as_ref().map(|p| p.id.to_string())),
        shop_log::by_name.eq(note.by.as_ref().map_or("", |p| p.name.as_str())),
        shop_log::kind.eq(note.kind),
        shop_log::detail.eq(json_of(&note.detail)?),
    );
    diesel::insert_into(shop_log::table).values(row).execute(conn).await?;
    Ok(())
}

type Columns = (i64, i64, Option<String>, String, String, String);

/// What is written when somebody of the shop is changed; the detail has `id`, and `before` with the name of before.
pub const PERSON_CHANGED: &str = "person_changed";

impl Store {
    /// Names that people of the shop had before, with their identifiers.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn former_names(&self) -> Result<Vec<Person>, StoreError> {
        let rows: Vec<(i64, String)> = shop_log::table
            .filter(shop_log::kind.eq(PERSON_CHANGED))
            .select((shop_log::seq, shop_log::detail))
            .load(&mut self.connection().await?)
            .await?;
        let former = |detail: String| -> Result<Option<Person>, StoreError> {
            let detail: Value = from_json(&detail)?;
            let (id, name) = (detail["id"].as_str(), detail["before"]["name"].as_str());
            let Some((id, name)) = id.zip(name) else { return Ok(None) };
            Ok(Some(Person { id: uuid(id)?, name: name.to_owned() }))
        };
        let former = rows.into_iter().map(|(seq, detail)| (seq.to_string(), former(detail)));
        Ok(readable("shop log", former).into_iter().flatten().collect())
    }

    /// Writes a line of its own.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn note_shop(&self, note: &ShopNote) -> Result<(), StoreError> {
        note_in_log(&mut self.connection().await?, note).await
    }

    /// The last lines of the log before that one, the latest first.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn shop_log(&self, before: Option<i64>, most: i64) -> Result<Vec<ShopLine>, StoreError> {
        let rows: Vec<Columns> = shop_log::table
            .filter(shop_log::seq.lt(before.unwrap_or(i64::MAX)))
            .order(shop_log::seq.desc())
            .limit(most)
            .load(&mut self.connection().await?)
            .await?;
        let line = |(seq, at, id, name, kind, detail): Columns| {
            let by = id.map(|id| uuid(&id)).transpose()?.map(|id| Person { id, name });
            Ok(ShopLine { seq, at: moment(at)?, by, kind, detail: from_json(&detail)? })
        };
        Ok(readable("shop log", rows.into_iter().map(|row| (row.0.to_string(), line(row)))))
    }
}
