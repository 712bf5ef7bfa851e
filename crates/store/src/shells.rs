//! The shop's shells: families, what lies on the shelf, and every change of it.
use diesel::prelude::*;
use diesel::sql_types::{BigInt, Varchar};
use diesel_async::{AsyncConnection, RunQueryDsl};
use jagged_pin_core::Length;
use jagged_pin_core::shells::{Half, MoveKind, OnShelf, ShellFamily, WasherBox};
use jagged_pin_core::units::{Person, Timestamp};
use uuid::Uuid;

use crate::StoreError;
use crate::pool::{Connection, Store, while_busy};
use crate::schema::{shell_families, shell_moves, shell_stock};
use crate::text::{from_json, json_of, name_of, named, readable, unreadable, uuid};

/// A change of a shelf.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ShelfMove {
    /// Made by whoever sends it: sent twice, done once.
    pub id: Uuid,
    /// The family.
    pub family: String,
    /// Which half.
    pub half: Half,
    /// Which class.
    pub class: String,
    /// Which undersize.
    pub undersize: Length,
    /// What was done.
    pub kind: MoveKind,
    /// By how many: negative takes away.
    pub by: i32,
    /// Why, in the words of whoever decided it.
    pub reason: String,
    /// Who did it.
    pub who: Person,
    /// When.
    pub at: Timestamp,
}

/// A change with what it left on the shelf.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Moved {
    /// The change.
    pub done: ShelfMove,
    /// How many were left.
    pub left: u16,
}

/// What came of a change.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum MoveOutcome {
    /// It was done, now or when it was sent before; so many are left.
    Done(u16),
    /// There are not that many: so many are left, and nothing was done.
    NotThere(u16),
}

#[derive(Queryable, Insertable)]
#[diesel(table_name = shell_families)]
struct FamilyRow {
    id: String,
    place: i32,
    detail: String,
    version: i32,
    kind: String,
}

/// What a document about things on the shelf is of: shells, or thrust washers.
const SHELLS: &str = "shells";
const WASHERS: &str = "washers";

/// A box of washers as it is kept, with the version a change of it has to name.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KnownBox {
    /// The box.
    pub washers: WasherBox,
    /// Grows by one with every change.
    pub version: i32,
}

/// A family as it is kept, with the version a change of it has to name.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct KnownFamily {
    /// The family.
    pub family: ShellFamily,
    /// Grows by one with every change.
    pub version: i32,
}

#[derive(Queryable, Insertable)]
#[diesel(table_name = shell_stock)]
struct StockRow {
    family: String,
    undersize_nm: i64,
    half: String,
    class: String,
    count: i32,
    place: String,
}

impl StockRow {
    fn on_shelf(self) -> Result<OnShelf, StoreError> {
        Ok(OnShelf {
            half: named(self.half)?,
            class: self.class,
            undersize: Length::from_nm(self.undersize_nm),
            count: self.count.try_into().map_err(unreadable)?,
            place: self.place,
        })
    }
}

#[derive(Queryable, Selectable)]
#[diesel(table_name = shell_moves)]
struct MoveRow {
    id: String,
    family: String,
    undersize_nm: i64,
    half: String,
    class: String,
    kind: String,
    change_by: i32,
    left_after: i32,
    reason: String,
    by_id: String,
    by_name: String,
    at_ms: i64,
}

impl MoveRow {
    fn moved(self) -> Result<Moved, StoreError> {
        Ok(Moved {
            left: self.left_after.try_into().map_err(unreadable)?,
            done: ShelfMove {
                id: uuid(&self.id)?,
                family: self.family,
                half: named(self.half)?,
                class: self.class,
                undersize: Length::from_nm(self.undersize_nm),
                kind: named(self.kind)?,
                by: self.change_by,
                reason: self.reason,
                who: Person { id: uuid(&self.by_id)?, name: self.by_name },
                at: Timestamp(self.at_ms),
            },
        })
    }
}

#[derive(Insertable)]
#[diesel(table_name = shell_moves)]
struct NewMove<'a> {
    id: String,
    family: &'a str,
    undersize_nm: i64,
    half: String,
    class: &'a str,
    kind: String,
    change_by: i32,
    left_after: i32,
    reason: &'a str,
    by_id: String,
    by_name: &'a str,
    at_ms: i64,
}

impl Store {
    /// The families of the shop, in their order.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn shell_families(&self) -> Result<Vec<KnownFamily>, StoreError> {
        let rows = self.documents(SHELLS).await?;
        let known =
            |r: FamilyRow| (r.id, from_json(&r.detail).map(|family| KnownFamily { family, version: r.version }));
        Ok(readable("shell families", rows.into_iter().map(known)))
    }

    /// The boxes of thrust washers, in their order.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn washer_boxes(&self) -> Result<Vec<KnownBox>, StoreError> {
        let rows = self.documents(WASHERS).await?;
        let known = |r: FamilyRow| (r.id, from_json(&r.detail).map(|washers| KnownBox { washers, version: r.version }));
        Ok(readable("washers", rows.into_iter().map(known)))
    }

    async fn documents(&self, kind: &str) -> Result<Vec<FamilyRow>, StoreError> {
        let of_kind = shell_families::table.filter(shell_families::kind.eq(kind)).order(shell_families::place);
        Ok(of_kind.load(&mut self.connection().await?).await?)
    }

    /// Keeps a family: a new one with version 0, a changed one with the version it was seen at. Answers whether it
    /// was kept; not when somebody changed it meanwhile.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_family(&self, version: i32, family: &ShellFamily) -> Result<bool, StoreError> {
        self.put_document(SHELLS, version, &family.id, json_of(family)?).await
    }

    /// The same for a box of washers.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_washers(&self, version: i32, washers: &WasherBox) -> Result<bool, StoreError> {
        self.put_document(WASHERS, version, &washers.id, json_of(washers)?).await
    }

    async fn put_document(&self, kind: &str, version: i32, id: &str, detail: String) -> Result<bool, StoreError> {
        let mut conn = self.connection().await?;
        if version == 0 {
            let last: Option<i32> =
                shell_families::table.select(diesel::dsl::max(shell_families::place)).first(&mut conn).await?;
            let place = last.map_or(0, |p| p.saturating_add(1));
            let row = FamilyRow { id: id.to_owned(), place, detail, version: 1, kind: kind.to_owned() };
            let made = diesel::insert_into(shell_families::table).values(row).execute(&mut conn).await;
            return match made {
                Err(e) if StoreError::is_duplicate(&e) => Ok(false),
                other => Ok(other? == 1),
            };
        }
        let ours = shell_families::version.eq(version).and(shell_families::kind.eq(kind));
        let seen = shell_families::table.find(id).filter(ours);
        let changed = diesel::update(seen)
            .set((shell_families::detail.eq(detail), shell_families::version.eq(version.saturating_add(1))))
            .execute(&mut conn)
            .await?;
        Ok(changed == 1)
    }

    /// Says where a kind of half lies.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_place(&self, family: &str, on: &OnShelf) -> Result<(), StoreError> {
        let mut conn = self.connection().await?;
        let put = "INSERT INTO shell_stock (family, undersize_nm, half, class, count, place) VALUES (?, ?, ?, ?, 0, ?) \
                   ON DUPLICATE KEY UPDATE place = VALUES(place)";
        diesel::sql_query(put)
            .bind::<Varchar, _>(family)
            .bind::<BigInt, _>(on.undersize.nm())
            .bind::<Varchar, _>(name_of(&on.half)?)
            .bind::<Varchar, _>(&on.class)
            .bind::<Varchar, _>(&on.place)
            .execute(&mut conn)
            .await?;
        Ok(())
    }

    /// What lies on the shelf of a family.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn shelf(&self, family: &str) -> Result<Vec<OnShelf>, StoreError> {
        let rows: Vec<StockRow> = shell_stock::table
            .filter(shell_stock::family.eq(family))
            .order((shell_stock::undersize_nm, shell_stock::place))
            .load(&mut self.connection().await?)
            .await?;
        rows.into_iter().map(StockRow::on_shelf).collect()
    }

    /// Adds a family that the shop does not have yet, with what lies on its shelf.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn add_family(&self, place: i32, family: &ShellFamily, shelf: &[OnShelf]) -> Result<(), StoreError> {
        self.add_document(SHELLS, place, (&family.id, json_of(family)?), shelf).await
    }

    /// The same for a box of washers.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn add_washers(&self, place: i32, washers: &WasherBox, shelf: &[OnShelf]) -> Result<(), StoreError> {
        self.add_document(WASHERS, place, (&washers.id, json_of(washers)?), shelf).await
    }

    async fn add_document(
        &self,
        kind: &str,
        place: i32,
        (id, detail): (&str, String),
        shelf: &[OnShelf],
    ) -> Result<(), StoreError> {
        let row = FamilyRow { id: id.to_owned(), place, detail, version: 1, kind: kind.to_owned() };
        let stock = |s: &OnShelf| -> Result<StockRow, StoreError> {
            Ok(StockRow {
                family: id.to_owned(),
                undersize_nm: s.undersize.nm(),
                half: name_of(&s.half)?,
                class: s.class.clone(),
                count: s.count.into(),
                place: s.place.clone(),
            })
        };
        let stock = shelf.iter().map(stock).collect::<Result<Vec<_>, StoreError>>()?;
        let mut conn = self.connection().await?;
        conn.transaction(async move |conn| {
            diesel::insert_or_ignore_into(shell_families::table).values(row).execute(conn).await?;
            if !stock.is_empty() {
                diesel::insert_or_ignore_into(shell_stock::table).values(stock).execute(conn).await?;
            }
            Ok(())
        })
        .await
    }

    /// Changes a shelf, never below empty. Two who take at once go one after the other: the second gets
    /// what is really left, or nothing.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails; [`StoreError::IdReused`] when the identifier belongs to
    /// another change.
    pub async fn move_shells(&self, change: &ShelfMove) -> Result<MoveOutcome, StoreError> {
        let mut conn = self.connection().await?;
        while_busy!({
            let change = change.clone();
            conn.transaction(async move |conn| apply(conn, &change).await).await
        })
    }

    /// Does several changes of shelves, or none of them.
    ///
    /// # Errors
    /// [`StoreError::NotOnShelf`] when there are too few of a kind; the rest as in [`Store::move_shells`].
    pub async fn move_all(&self, changes: &[ShelfMove]) -> Result<(), StoreError> {
        let mut conn = self.connection().await?;
        while_busy!({
            let changes = changes.to_vec();
            conn.transaction(async move |conn| apply_all(conn, &changes).await).await
        })
    }

    /// The last changes of a family's shelf, the latest first.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn shell_moves(&self, family: &str, most: i64) -> Result<Vec<Moved>, StoreError> {
        let rows: Vec<MoveRow> = shell_moves::table
            .filter(shell_moves::family.eq(family))
            .order(shell_moves::seq.desc())
            .limit(most)
            .select(MoveRow::as_select())
            .load(&mut self.connection().await?)
            .await?;
        rows.into_iter().map(MoveRow::moved).collect()
    }
}

/// Does several changes inside the caller's transaction; an error undoes them all.
pub(crate) async fn apply_all(conn: &mut Connection, changes: &[ShelfMove]) -> Result<(), StoreError> {
    for change in changes {
        if let MoveOutcome::NotThere(left) = apply(conn, change).await? {
            return Err(StoreError::NotOnShelf { class: change.class.clone(), left });
        }
    }
    Ok(())
}

async fn apply(conn: &mut Connection, change: &ShelfMove) -> Result<MoveOutcome, StoreError> {
    let half = name_of(&change.half)?;
    let key = (change.family.as_str(), change.undersize.nm(), half.as_str(), change.class.as_str());
    // The family's row lock orders those who reach for its shelf; an empty place is made first.
    let family = shell_families::table.find(&change.family).select(shell_families::id).for_update();
    family.first::<String>(conn).await?;
    let place = StockRow {
        family: change.family.clone(),
        undersize_nm: change.undersize.nm(),
        half: half.clone(),
        class: change.class.clone(),
        count: 0,
        place: String::new(),
    };
    diesel::insert_or_ignore_into(shell_stock::table).values(place).execute(conn).await?;
    let count: i32 = shell_stock::table.find(key).select(shell_stock::count).for_update().first(conn).await?;
    let known: Option<MoveRow> = shell_moves::table
        .filter(shell_moves::id.eq(change.id.to_string()))
        .select(MoveRow::as_select())
        .first(conn)
        .await
        .optional()?;
    if let Some(known) = known.map(MoveRow::moved).transpose()? {
        let same = ShelfMove { at: change.at, ..known.done } == *change;
        return if same { Ok(MoveOutcome::Done(known.left)) } else { Err(StoreError::IdReused) };
    }
    let after = count.saturating_add(change.by);
    let Ok(left) = u16::try_from(after) else {
        // More than a shelf holds is no want of shells.
        return match after {
            ..0 => Ok(MoveOutcome::NotThere(count.try_into().map_err(unreadable)?)),
            _ => Err(StoreError::Data(format!("a place on the shelf holds at most {}", u16::MAX))),
        };
    };
    diesel::update(shell_stock::table.find(key)).set(shell_stock::count.eq(i32::from(left))).execute(conn).await?;
    let row = NewMove {
        id: change.id.to_string(),
        family: &change.family,
        undersize_nm: change.undersize.nm(),
        half: half.clone(),
        class: &change.class,
        kind: name_of(&change.kind)?,
        change_by: change.by,
        left_after: left.into(),
        reason: &change.reason,
        by_id: change.who.id.to_string(),
        by_name: &change.who.name,
        at_ms: change.at.0,
    };
    let inserted = diesel::insert_into(shell_moves::table).values(row).execute(conn).await;
    match inserted {
        Err(e) if StoreError::is_duplicate(&e) => Err(StoreError::IdReused),
        other => other.map(|_| MoveOutcome::Done(left)).map_err(StoreError::from),
    }
}
