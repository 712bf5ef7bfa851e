//! The ledger of seals in its table. Its lines are written in the transaction of what they tell, one writer at a time.
use diesel::prelude::*;
use diesel_async::{AsyncConnection, RunQueryDsl};
use jagged_pin_core::Build;
use jagged_pin_core::build::from_elsewhere;
use jagged_pin_core::log::{Fact, What};
use jagged_pin_core::sheet::{LedgerEntry, LedgerKind, LedgerLine, SealKey};
use jagged_pin_core::units::{Person, Timestamp};
use uuid::Uuid;

use crate::StoreError;
use crate::pool::{Connection, Store, while_busy};
use crate::schema::{builds, seal_ledger, shop_settings};
use crate::text::{moment, name_of, named, seq_column, seq_value, uuid};

/// The row of the settings that whoever writes a line holds.
const HELD: &str = "seal_ledger";

#[derive(Queryable, Insertable)]
#[diesel(table_name = seal_ledger)]
struct LineRow {
    number: i32,
    kind: String,
    about: String,
    seq: i32,
    text: String,
    at_ms: i64,
    link: String,
}

impl LineRow {
    fn of(line: &LedgerLine) -> Result<Self, StoreError> {
        let LedgerLine { number, entry, link } = line;
        Ok(LineRow {
            number: seq_column(*number)?,
            kind: name_of(&entry.kind)?,
            about: entry.about.to_string(),
            seq: seq_column(entry.seq)?,
            text: entry.text.clone(),
            at_ms: entry.at.0,
            link: link.clone(),
        })
    }

    fn line(self) -> Result<LedgerLine, StoreError> {
        let entry = LedgerEntry {
            kind: named(self.kind)?,
            about: uuid(&self.about)?,
            seq: seq_value(self.seq)?,
            text: self.text,
            at: moment(self.at_ms)?,
        };
        Ok(LedgerLine { number: seq_value(self.number)?, entry, link: self.link })
    }
}

/// Writes lines at the end of the ledger, inside the caller's transaction.
async fn put(conn: &mut Connection, key: &SealKey, entries: Vec<LedgerEntry>) -> Result<(), StoreError> {
    if entries.is_empty() {
        return Ok(());
    }
    let _: Vec<String> = shop_settings::table.find(HELD).select(shop_settings::name).for_update().load(conn).await?;
    let last: Option<(i32, String)> = seal_ledger::table
        .order(seal_ledger::number.desc())
        .select((seal_ledger::number, seal_ledger::link))
        .first(conn)
        .await
        .optional()?;
    let (mut number, mut link) = last.map_or(Ok((0, String::new())), |(n, link)| seq_value(n).map(|n| (n, link)))?;
    let mut rows = Vec::with_capacity(entries.len());
    for entry in entries {
        let line = LedgerLine::after((number, &link), entry, key);
        rows.push(LineRow::of(&line)?);
        (number, link) = (line.number, line.link);
    }
    diesel::insert_into(seal_ledger::table).values(&rows).execute(conn).await?;
    Ok(())
}

/// A signature as it is written down; nothing for other facts.
fn of_signature(build: Uuid, fact: &Fact) -> Option<LedgerEntry> {
    let What::Signature(signature) = &fact.what else { return None };
    // One without a mark came with a file from before there was a key.
    let kind = if signature.mark.is_some() { LedgerKind::Signed } else { LedgerKind::TakenOver };
    let text = signature.digest.clone();
    Some(LedgerEntry { kind, about: build, seq: fact.seq, text, at: fact.at })
}

impl Store {
    /// The same store, which writes down what seals stand on under that key.
    #[must_use]
    pub fn with_key(mut self, key: SealKey) -> Self {
        self.key = Some(key);
        self
    }

    /// The key that it writes under.
    pub const fn key(&self) -> Option<&SealKey> {
        self.key.as_ref()
    }

    /// Every line of the ledger, in order.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails, or a line cannot be read.
    pub async fn ledger(&self) -> Result<Vec<LedgerLine>, StoreError> {
        let conn = &mut self.connection().await?;
        let rows: Vec<LineRow> = seal_ledger::table.order(seal_ledger::number).load(conn).await?;
        rows.into_iter().map(LineRow::line).collect()
    }

    /// Begins the ledger with what is there already, unless it was begun; `anew` throws an earlier one away. Answers whether it
    /// was begun now; never without a key.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn begin_ledger(&self, at: Timestamp, known: &[LedgerEntry], anew: bool) -> Result<bool, StoreError> {
        let Some(key) = self.key.clone() else { return Ok(false) };
        let mut conn = self.connection().await?;
        while_busy!({
            let (key, known) = (key.clone(), known.to_vec());
            conn.transaction(async move |conn| {
                if anew {
                    diesel::delete(seal_ledger::table).execute(conn).await?;
                } else if seal_ledger::table.count().get_result::<i64>(conn).await? > 0 {
                    return Ok(false);
                }
                let first = LedgerEntry::about(Uuid::nil(), LedgerKind::Begun, at);
                put(conn, &key, [first].into_iter().chain(known).collect()).await?;
                Ok(true)
            })
            .await
        })
    }

    /// Writes down the signatures among facts that a build gets.
    pub(crate) async fn write_signatures(
        &self,
        conn: &mut Connection,
        build: Uuid,
        new: &[Fact],
    ) -> Result<(), StoreError> {
        self.write_down(conn, new.iter().filter_map(|fact| of_signature(build, fact)).collect()).await
    }

    /// Writes down the signatures of this shop that a build brings along.
    pub(crate) async fn write_own_signatures(&self, conn: &mut Connection, build: &Build) -> Result<(), StoreError> {
        let notes = build.notes();
        let own = notes.iter().filter(|f| !from_elsewhere(&notes, f.seq));
        self.write_down(conn, own.filter_map(|fact| of_signature(build.id, fact)).collect()).await
    }

    /// Writes down what somebody is called.
    pub(crate) async fn write_name(
        &self,
        conn: &mut Connection,
        person: &Person,
        at: Timestamp,
    ) -> Result<(), StoreError> {
        let entry = LedgerEntry { text: person.name.clone(), ..LedgerEntry::about(person.id, LedgerKind::Named, at) };
        self.write_down(conn, vec![entry]).await
    }

    /// Writes down that something was done to a build as such.
    pub(crate) async fn write_of_build(
        &self,
        conn: &mut Connection,
        build: Uuid,
        kind: LedgerKind,
        at: Timestamp,
    ) -> Result<(), StoreError> {
        self.write_down(conn, vec![LedgerEntry::about(build, kind, at)]).await
    }

    async fn write_down(&self, conn: &mut Connection, entries: Vec<LedgerEntry>) -> Result<(), StoreError> {
        match &self.key {
            Some(key) => put(conn, key, entries).await,
            None => Ok(()),
        }
    }

    /// How many facts a build is said to have, and whether it is put away.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a build.
    pub async fn as_counted(&self, build: Uuid) -> Result<(u32, bool), StoreError> {
        let conn = &mut self.connection().await?;
        let found: Option<(i32, bool)> = builds::table
            .find(build.to_string())
            .select((builds::seq, builds::archived))
            .first(conn)
            .await
            .optional()?;
        let (seq, away) = found.ok_or(StoreError::NotFound)?;
        Ok((seq_value(seq)?, away))
    }
}
