//! Builds: opening, loading whole, and recording one fact at a time.
use std::sync::{Arc, Mutex, MutexGuard, PoisonError};

use diesel::prelude::*;
use diesel_async::{AsyncConnection, RunQueryDsl};
use jagged_pin_core::Build;
use jagged_pin_core::log::Fact;
use jagged_pin_core::sheet::LedgerKind;
use jagged_pin_core::units::Person;
use uuid::Uuid;

use crate::pictures::{KeptPicture, write_pictures};
use crate::pool::{Connection, Store, while_busy};
use crate::schema::{build_summaries, builds, changes, facts, pictures};
use crate::shop_log::{ShopNote, note_in_log};
use crate::text::{from_json, json_of, moment, named, seq_column, seq_value, uuid};
use crate::{RecordError, ShelfMove, StoreError, facts as fact_rows, people, shells};

/// The outcome of opening a build.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Opened {
    /// It was made now.
    New,
    /// The same one had been made before: nothing was written.
    Again,
}

/// Under which identifier something is sent, and by whom: from somebody else it is another thing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Sent {
    /// Made by whoever sends it.
    pub id: Uuid,
    /// Whoever sends it.
    pub by: Uuid,
}

/// The outcome of recording a fact.
#[derive(Debug, Clone)]
pub struct Recorded {
    /// The build with the fact in it.
    pub build: Arc<Build>,
    /// Place of the last fact before it.
    pub before: u32,
    /// Place of the fact in the build.
    pub seq: u32,
    /// The fact had been recorded before: nothing was written.
    pub again: bool,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = builds)]
struct BuildRow {
    id: String,
    code: String,
    engine: String,
    unit: String,
    layout: String,
    rules: String,
    gauges: String,
    opened_at: i64,
    opened_by_id: String,
    opened_by_name: String,
    seq: i32,
}

impl BuildRow {
    fn of(build: &Build) -> Result<Self, StoreError> {
        Ok(BuildRow {
            id: build.id.to_string(),
            code: build.code.clone(),
            engine: build.engine.clone(),
            unit: build.unit.symbol().into(),
            layout: json_of(&build.layout)?,
            rules: json_of(&build.rules)?,
            gauges: json_of(&build.gauges)?,
            opened_at: build.opened_at.0,
            opened_by_id: build.opened_by.id.to_string(),
            opened_by_name: build.opened_by.name.clone(),
            seq: seq_column(build.seq())?,
        })
    }

    /// The build without its facts.
    fn build(self) -> Result<Build, StoreError> {
        Ok(Build {
            id: uuid(&self.id)?,
            code: self.code,
            engine: self.engine,
            unit: named(self.unit)?,
            layout: from_json(&self.layout)?,
            rules: from_json(&self.rules)?,
            gauges: from_json(&self.gauges)?,
            opened_at: moment(self.opened_at)?,
            opened_by: Person { id: uuid(&self.opened_by_id)?, name: self.opened_by_name },
            facts: Vec::new(),
            known_to: 0,
        })
    }
}

/// What a caller decides about one write. A closure is called once; what it decided holds for another attempt while
/// nobody else wrote.
struct Pending<S, D> {
    same: Option<S>,
    decide: Option<D>,
    decided: Option<(u32, Vec<Fact>, Vec<ShelfMove>)>,
}

/// Facts to be recorded, and what they take from and put on shelves.
type Decided = (Vec<Fact>, Vec<ShelfMove>);

/// A write that may be attempted more than once.
struct Deciding<S, D>(Mutex<Pending<S, D>>);

impl<S, D> Deciding<S, D> {
    fn new(same: S, decide: D) -> Self {
        Deciding(Mutex::new(Pending { same: Some(same), decide: Some(decide), decided: None }))
    }

    fn pending(&self) -> MutexGuard<'_, Pending<S, D>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// Whether a fact that is there is the one that is being sent.
    fn is_same(&self, known: &Fact) -> bool
    where
        S: FnOnce(&Fact) -> bool,
    {
        let same = self.pending().same.take();
        same.is_some_and(|same| same(known))
    }

    /// What is decided on a state of the build; `None` where it was decided on one that is gone.
    fn decide<E>(&self, on: &Build) -> Result<Option<Decided>, E>
    where
        D: FnOnce(&Build) -> Result<Decided, E>,
    {
        let mut pending = self.pending();
        if let Some(decide) = pending.decide.take() {
            let (new, moves) = decide(on)?;
            pending.decided = Some((on.seq(), new, moves));
        }
        let decided = pending.decided.clone().filter(|(seq, ..)| *seq == on.seq());
        Ok(decided.map(|(_, new, moves)| (new, moves)))
    }
}

impl Store {
    /// Opens a build with the facts it has already: its first target, or everything that an imported one
    /// brings along. All or nothing.
    ///
    /// # Errors
    /// [`StoreError::BuildExists`] when a build of that identifier is there with other contents,
    /// [`StoreError::CodeTaken`] when another one has its short name, [`StoreError::IdReused`] when one
    /// of its facts is known from elsewhere.
    pub async fn open_build(&self, build: &Build) -> Result<Opened, StoreError> {
        self.open_build_with(build, &[]).await
    }

    /// The same with its pictures, each by its digest: both are there, or neither.
    ///
    /// # Errors
    /// As of [`Store::open_build`].
    pub async fn open_build_with(&self, build: &Build, pictures: &[KeptPicture]) -> Result<Opened, StoreError> {
        let mut conn = self.connection().await?;
        let made = while_busy!(
            conn.transaction(async |conn| {
                write_build(conn, build).await?;
                self.write_own_signatures(conn, build).await?;
                write_pictures(conn, build.id, pictures).await
            })
            .await
        );
        drop(conn);
        match made {
            Ok(()) => Ok(Opened::New),
            // Sent twice at once, the later one finds the short name taken by itself.
            Err(why @ (StoreError::BuildExists | StoreError::CodeTaken)) => match self.build(build.id).await {
                Ok(known) if is_again(&known, build) => Ok(Opened::Again),
                Ok(_) => Err(StoreError::BuildExists),
                Err(StoreError::NotFound) => Err(why),
                Err(other) => Err(other),
            },
            Err(other) => Err(other),
        }
    }

    /// The build of that identifier, whole.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub async fn build(&self, id: Uuid) -> Result<Arc<Build>, StoreError> {
        let mut conn = self.connection().await?;
        let seq: Option<i32> =
            builds::table.find(id.to_string()).select(builds::seq).first(&mut conn).await.optional()?;
        let Some(seq) = seq else {
            self.forget_names();
            return Err(StoreError::NotFound);
        };
        let build = self.up_to(&mut conn, id, seq_value(seq)?).await?;
        self.keep(&build);
        Ok(build)
    }

    /// The identifier of the build with that short name.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] when there is none.
    pub async fn build_id(&self, code: &str) -> Result<Uuid, StoreError> {
        if let Some(known) = self.name_of_build(code) {
            return Ok(known);
        }
        let found: Option<(String, String)> = builds::table
            .filter(builds::code.eq(code))
            .select((builds::id, builds::code))
            .first(&mut self.connection().await?)
            .await
            .optional()?;
        // The database takes blanks at the end of a text for nothing.
        let (found, _) = found.filter(|(_, its)| its == code).ok_or(StoreError::NotFound)?;
        let id = uuid(&found)?;
        self.keep_name(code, id);
        Ok(id)
    }

    /// Identifier and sequence number of every build, by short name. The change sequence that live
    /// events follow.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn sequence(&self) -> Result<Vec<(Uuid, u32)>, StoreError> {
        let rows: Vec<(String, i32)> = builds::table
            .order(builds::code)
            .select((builds::id, builds::seq))
            .load(&mut self.connection().await?)
            .await?;
        rows.into_iter().map(|(id, seq)| Ok((uuid(&id)?, seq_value(seq)?))).collect()
    }

    /// Records one fact in a build.
    ///
    /// Under the build's lock `decide` gets the build as it is and answers with its next fact, or
    /// refuses. When a fact of the identifier in `sent` is there already and of the same person, `same` says
    /// whether it is the one being sent: then nothing is written and the build comes back as it is.
    ///
    /// # Errors
    /// What `decide` refused; [`StoreError::NotFound`] without such a build, [`StoreError::IdReused`]
    /// when the identifier stands for another fact.
    pub async fn record<E, D, S>(&self, build: Uuid, sent: Sent, same: S, decide: D) -> Result<Recorded, RecordError<E>>
    where
        E: Send + 'static,
        D: FnOnce(&Build) -> Result<Fact, E> + Send,
        S: FnOnce(&Fact) -> bool + Send,
    {
        self.record_all(build, sent, same, |b| decide(b).map(|fact| vec![fact])).await
    }

    /// Records several facts in a build at once, or none; `sent` has that of the first of them. The rest as
    /// in [`Store::record`].
    ///
    /// # Errors
    /// As [`Store::record`].
    pub async fn record_all<E, D, S>(
        &self,
        build: Uuid,
        sent: Sent,
        same: S,
        decide: D,
    ) -> Result<Recorded, RecordError<E>>
    where
        E: Send + 'static,
        D: FnOnce(&Build) -> Result<Vec<Fact>, E> + Send,
        S: FnOnce(&Fact) -> bool + Send,
    {
        self.record_moving(build, sent, same, |b| decide(b).map(|facts| (facts, Vec::new()))).await
    }

    /// Records a fact in a build together with the picture that it names: both, or neither. The rest as in [`Store::record`].
    ///
    /// # Errors
    /// As [`Store::record`].
    pub async fn record_picture<E, D, S>(
        &self,
        build: Uuid,
        sent: Sent,
        same: S,
        picture: KeptPicture,
        decide: D,
    ) -> Result<Recorded, RecordError<E>>
    where
        E: Send + 'static,
        D: FnOnce(&Build) -> Result<Fact, E> + Send,
        S: FnOnce(&Fact) -> bool + Send,
    {
        let decide = |b: &Build| decide(b).map(|fact| (vec![fact], Vec::new()));
        self.record_with(build, sent, same, Some(picture), decide).await
    }

    /// Records facts in a build together with what they take from and put on shelves: all of it, or nothing. The
    /// rest as in [`Store::record`].
    ///
    /// # Errors
    /// As [`Store::record`], and [`StoreError::NotOnShelf`] when a shelf does not hold enough.
    pub async fn record_moving<E, D, S>(
        &self,
        build: Uuid,
        sent: Sent,
        same: S,
        decide: D,
    ) -> Result<Recorded, RecordError<E>>
    where
        E: Send + 'static,
        D: FnOnce(&Build) -> Result<(Vec<Fact>, Vec<ShelfMove>), E> + Send,
        S: FnOnce(&Fact) -> bool + Send,
    {
        self.record_with(build, sent, same, None, decide).await
    }

    async fn record_with<E, D, S>(
        &self,
        build: Uuid,
        sent: Sent,
        same: S,
        picture: Option<KeptPicture>,
        decide: D,
    ) -> Result<Recorded, RecordError<E>>
    where
        E: Send + 'static,
        D: FnOnce(&Build) -> Result<Decided, E> + Send,
        S: FnOnce(&Fact) -> bool + Send,
    {
        let _first = self.queue(build).await?;
        let mut conn = self.connection().await?;
        let pending = Arc::new(Deciding::new(same, decide));
        let recorded: Result<Recorded, RecordError<E>> = while_busy!({
            let (store, pending, picture) = (self.clone(), Arc::clone(&pending), picture.clone());
            conn.transaction(async move |conn| {
                let seq: Option<i32> = builds::table
                    .find(build.to_string())
                    .select(builds::seq)
                    .for_update()
                    .first(conn)
                    .await
                    .optional()?;
                let seq = seq_value(seq.ok_or(StoreError::NotFound)?)?;
                let before = store.up_to(conn, build, seq).await?;
                if let Some(known) = before.facts.iter().find(|f| f.id == sent.id) {
                    let seq = known.seq;
                    return if known.by.id == sent.by && pending.is_same(known) {
                        Ok(Recorded { build: before, before: seq, seq, again: true })
                    } else {
                        Err(StoreError::IdReused.into())
                    };
                }
                let (new, moves) =
                    pending.decide(&before).map_err(RecordError::Refused)?.ok_or(StoreError::Overtaken)?;
                shells::apply_all(conn, &moves).await?;
                let Some(seq) = new.last().map(|f| f.seq) else {
                    let seq = before.seq();
                    return Ok(Recorded { build: before, before: seq, seq, again: true });
                };
                fact_rows::insert(conn, build, &new).await?;
                write_pictures(conn, build, picture.as_slice()).await?;
                diesel::update(builds::table.find(build.to_string()))
                    .set(builds::seq.eq(seq_column(seq)?))
                    .execute(conn)
                    .await?;
                note_change(conn, build, seq).await?;
                store.write_signatures(conn, build, &new).await?;
                let last = before.seq();
                let mut after = Arc::unwrap_or_clone(before);
                after.facts.extend(new);
                Ok(Recorded { build: Arc::new(after), before: last, seq, again: false })
            })
            .await
        });
        let recorded = recorded?;
        // Only what is committed is kept for later.
        self.keep(&recorded.build);
        Ok(recorded)
    }

    /// The build that is said to have `seq` facts: what is kept of it, and the facts since, those beyond `seq` as well. What is kept counts only while its last fact is still
    /// the one in the database: a backup may have been restored meanwhile.
    async fn up_to(&self, conn: &mut Connection, id: Uuid, seq: u32) -> Result<Arc<Build>, StoreError> {
        let kept = self.kept(id).filter(|b| b.seq() <= seq);
        let kept = match kept {
            Some(build) if is_still_there(conn, &build).await? => Some(build),
            _ => {
                self.forget(id);
                None
            }
        };
        if let Some(build) = kept.as_ref().filter(|b| b.seq() == seq) {
            return Ok(Arc::clone(build));
        }
        let mut build = match kept {
            Some(build) => Arc::unwrap_or_clone(build),
            None => without_facts(conn, id).await?,
        };
        let after = build.seq();
        build.facts.extend(fact_rows::load(conn, id, after).await?);
        // A fact that is gone is seen where seals are checked; the others are still worth looking at.
        build.known_to = if build.facts.last().is_some_and(|f| f.seq >= seq) { 0 } else { seq };
        Ok(Arc::new(build))
    }

    /// The build as the database has it now, whatever is kept of it; what is kept is replaced where it differs.
    ///
    /// # Errors
    /// As [`Store::build`].
    pub async fn build_afresh(&self, id: Uuid) -> Result<Arc<Build>, StoreError> {
        let kept = self.kept(id);
        self.forget(id);
        let fresh = self.build(id).await?;
        match kept.filter(|kept| kept.seq() > fresh.seq()) {
            // Somebody wrote since: what is newer is looked at next time.
            Some(newer) if is_still_there(&mut self.connection().await?, &newer).await? => self.keep(&newer),
            _ => {}
        }
        Ok(fresh)
    }

    /// Removes a build and everything recorded about it, with a line in the shop's log that says so; what lies on shelves
    /// stays as it is.
    ///
    /// # Errors
    /// [`StoreError::NotFound`] without such a build.
    pub async fn remove_build(&self, id: Uuid, note: &ShopNote) -> Result<(), StoreError> {
        let _first = self.queue(id).await?;
        let mut conn = self.connection().await?;
        let removed: Result<(), StoreError> = while_busy!({
            let (store, note) = (self.clone(), note.clone());
            conn.transaction(async move |conn| {
                let key = id.to_string();
                let there: Option<i32> =
                    builds::table.find(&key).select(builds::seq).for_update().first(conn).await.optional()?;
                there.ok_or(StoreError::NotFound)?;
                fact_rows::remove(conn, &key).await?;
                diesel::delete(pictures::table.filter(pictures::build_id.eq(&key))).execute(conn).await?;
                diesel::delete(changes::table.filter(changes::build_id.eq(&key))).execute(conn).await?;
                diesel::delete(build_summaries::table.find(&key)).execute(conn).await?;
                diesel::delete(builds::table.find(&key)).execute(conn).await?;
                store.write_of_build(conn, id, LedgerKind::Removed, note.at).await?;
                note_in_log(conn, &note).await
            })
            .await
        });
        removed?;
        self.forget(id);
        self.forget_names();
        Ok(())
    }
}

/// Whether the last fact of a build is in the database.
async fn is_still_there(conn: &mut Connection, build: &Build) -> Result<bool, StoreError> {
    let Some(last) = build.facts.last() else { return Ok(build.seq() == 0) };
    let found: Option<String> = facts::table
        .find((build.id.to_string(), seq_column(last.seq)?))
        .select(facts::id)
        .first(conn)
        .await
        .optional()?;
    Ok(found.map(|id| uuid(&id)).transpose()? == Some(last.id))
}

async fn without_facts(conn: &mut Connection, id: Uuid) -> Result<Build, StoreError> {
    let row: BuildRow = builds::table.find(id.to_string()).select(BuildRow::as_select()).first(conn).await?;
    row.build()
}

/// Whether `sent` is what `known` was opened with, whenever that was and whatever was recorded since.
fn is_again(known: &Build, sent: &Build) -> bool {
    let same_fact = |(a, b): (&Fact, &Fact)| a.id == b.id && a.what == b.what;
    (&known.code, &known.engine, known.unit, &known.layout) == (&sent.code, &sent.engine, sent.unit, &sent.layout)
        && known.opened_by.id == sent.opened_by.id
        && known.facts.len() >= sent.facts.len()
        && known.facts.iter().zip(&sent.facts).all(same_fact)
}

/// Notes that a build moved on, for whoever follows.
async fn note_change(conn: &mut Connection, build: Uuid, seq: u32) -> Result<(), StoreError> {
    let row = (changes::build_id.eq(build.to_string()), changes::seq.eq(seq_column(seq)?));
    diesel::insert_into(changes::table).values(row).execute(conn).await?;
    Ok(())
}

async fn write_build(conn: &mut Connection, build: &Build) -> Result<(), StoreError> {
    let id = build.id.to_string();
    let known = |e: diesel::result::Error| if StoreError::is_duplicate(&e) { StoreError::CodeTaken } else { e.into() };
    let there: i64 = builds::table.filter(builds::id.eq(&id)).count().get_result(conn).await?;
    if there > 0 {
        return Err(StoreError::BuildExists);
    }
    let met = build.facts.iter().map(|f| &f.by).chain([&build.opened_by]);
    people::note_people(conn, met).await?;
    diesel::insert_into(builds::table).values(BuildRow::of(build)?).execute(conn).await.map_err(known)?;
    fact_rows::insert(conn, build.id, &build.facts).await?;
    note_change(conn, build.id, build.seq()).await?;
    let written: i64 = facts::table.filter(facts::build_id.eq(&id)).count().get_result(conn).await?;
    if usize::try_from(written).ok() == Some(build.facts.len()) {
        Ok(())
    } else {
        Err(StoreError::Unreadable("not every fact was written".into()))
    }
}
