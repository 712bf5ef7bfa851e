//! Facts as rows: the shared head in one table, the details of each kind in its own.

use std::collections::BTreeMap;

use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use jagged_pin_core::Length;
use jagged_pin_core::fact::{
    Concession, Fact, Measure, Person, Reading, Signature, Strike, TargetChange, Timestamp, What,
};
use jagged_pin_core::feature::Position;
use jagged_pin_core::target::Target;
use uuid::Uuid;

use crate::pool::Connection;
use crate::schema::{concessions, facts, readings, signatures, strikes, target_changes};
use crate::text::{from_json, json_of, name_of, named, unreadable, uuid};
use crate::{StoreError, builds::seq_column};

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = facts)]
struct FactRow {
    build_id: String,
    seq: i32,
    id: String,
    at: i64,
    by_id: String,
    by_name: String,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = readings)]
struct ReadingRow {
    fact_id: String,
    station: String,
    feature: String,
    axial: String,
    angle: i32,
    size_nm: i64,
    dial_nm: Option<i64>,
    reference_nm: Option<i64>,
    gauge: String,
    raw: String,
    source: String,
    forced: bool,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = strikes)]
struct StrikeRow {
    fact_id: String,
    reading_id: String,
    reason: String,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = target_changes)]
struct TargetRow {
    fact_id: String,
    station: Option<String>,
    rule: Option<String>,
    source: String,
    reason: String,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = concessions)]
struct ConcessionRow {
    fact_id: String,
    station: String,
    state: String,
    clearance_nm: i64,
    low_nm: i64,
    aim_nm: i64,
    high_nm: i64,
    reason: String,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = signatures)]
struct SignatureRow {
    fact_id: String,
    role: String,
    revision: i32,
    digest: String,
}

impl ReadingRow {
    fn of(fact_id: String, r: &Reading) -> Result<Self, StoreError> {
        let (dial_nm, reference_nm) = match r.measure {
            Measure::Size { .. } => (None, None),
            Measure::Dial { dial, reference } => (Some(dial.nm()), Some(reference.nm())),
        };
        Ok(ReadingRow {
            fact_id,
            station: r.station.to_string(),
            feature: name_of(&r.feature)?,
            axial: name_of(&r.position.axial)?,
            angle: r.position.angle.into(),
            size_nm: r.measure.size().nm(),
            dial_nm,
            reference_nm,
            gauge: r.gauge.clone(),
            raw: r.raw.clone(),
            source: name_of(&r.source)?,
            forced: r.forced,
        })
    }

    fn reading(self) -> Result<Reading, StoreError> {
        let measure = match (self.dial_nm, self.reference_nm) {
            (Some(dial), Some(reference)) => {
                Measure::Dial { dial: Length::from_nm(dial), reference: Length::from_nm(reference) }
            }
            _ => Measure::Size { size: Length::from_nm(self.size_nm) },
        };
        let angle = i16::try_from(self.angle).map_err(unreadable)?;
        Ok(Reading {
            station: self.station.parse().map_err(unreadable)?,
            feature: named(self.feature)?,
            position: Position { axial: named(self.axial)?, angle },
            measure,
            gauge: self.gauge,
            raw: self.raw,
            source: named(self.source)?,
            forced: self.forced,
        })
    }
}

impl TargetRow {
    fn change(self) -> Result<TargetChange, StoreError> {
        Ok(TargetChange {
            station: self.station.map(|s| s.parse()).transpose().map_err(unreadable)?,
            rule: self.rule.as_deref().map(from_json).transpose()?,
            source: named(self.source)?,
            reason: self.reason,
        })
    }
}

impl ConcessionRow {
    fn concession(self) -> Result<Concession, StoreError> {
        let nm = Length::from_nm;
        Ok(Concession {
            station: self.station.parse().map_err(unreadable)?,
            state: named(self.state)?,
            clearance: nm(self.clearance_nm),
            target: Target { low: nm(self.low_nm), aim: nm(self.aim_nm), high: nm(self.high_nm) },
            reason: self.reason,
        })
    }
}

impl SignatureRow {
    fn signature(self) -> Result<Signature, StoreError> {
        let revision = self.revision.try_into().map_err(unreadable)?;
        Ok(Signature { role: named(self.role)?, revision, digest: self.digest })
    }
}

/// Writes a fact with its details, inside the caller's transaction.
pub(crate) async fn insert(conn: &mut Connection, build: Uuid, fact: &Fact) -> Result<(), StoreError> {
    let id = fact.id.to_string();
    let head = FactRow {
        build_id: build.to_string(),
        seq: seq_column(fact.seq)?,
        id: id.clone(),
        at: fact.at.0,
        by_id: fact.by.id.to_string(),
        by_name: fact.by.name.clone(),
    };
    let written = diesel::insert_into(facts::table).values(head).execute(conn).await;
    written.map_err(|e| if StoreError::is_duplicate(&e) { StoreError::IdReused } else { e.into() })?;
    match &fact.what {
        What::Reading(r) => diesel::insert_into(readings::table).values(ReadingRow::of(id, r)?).execute(conn).await?,
        What::Strike(s) => {
            let row = StrikeRow { fact_id: id, reading_id: s.reading.to_string(), reason: s.reason.clone() };
            diesel::insert_into(strikes::table).values(row).execute(conn).await?
        }
        What::Target(t) => {
            let row = TargetRow {
                fact_id: id,
                station: t.station.map(|s| s.to_string()),
                rule: t.rule.as_ref().map(json_of).transpose()?,
                source: name_of(&t.source)?,
                reason: t.reason.clone(),
            };
            diesel::insert_into(target_changes::table).values(row).execute(conn).await?
        }
        What::Concession(c) => {
            let row = ConcessionRow {
                fact_id: id,
                station: c.station.to_string(),
                state: name_of(&c.state)?,
                clearance_nm: c.clearance.nm(),
                low_nm: c.target.low.nm(),
                aim_nm: c.target.aim.nm(),
                high_nm: c.target.high.nm(),
                reason: c.reason.clone(),
            };
            diesel::insert_into(concessions::table).values(row).execute(conn).await?
        }
        What::Signature(s) => {
            let revision = s.revision.try_into().map_err(unreadable)?;
            let row = SignatureRow { fact_id: id, role: name_of(&s.role)?, revision, digest: s.digest.clone() };
            diesel::insert_into(signatures::table).values(row).execute(conn).await?
        }
    };
    Ok(())
}

/// The facts of a build after `after`, up to and with `upto`, in order.
pub(crate) async fn load(conn: &mut Connection, build: Uuid, after: u32, upto: u32) -> Result<Vec<Fact>, StoreError> {
    let mut found: BTreeMap<i32, Fact> = BTreeMap::new();
    let (id, after, upto) = (build.to_string(), seq_column(after)?, seq_column(upto)?);
    let mut put = |head: FactRow, what: What| -> Result<(), StoreError> {
        let by = Person { id: uuid(&head.by_id)?, name: head.by_name };
        let seq = head.seq.try_into().map_err(unreadable)?;
        found.insert(head.seq, Fact { id: uuid(&head.id)?, seq, at: Timestamp(head.at), by, what });
        Ok(())
    };
    // The same query for each table of details; Diesel types each join by itself.
    macro_rules! each {
        ($table:ident, $row:ty, $what:expr) => {
            let rows: Vec<(FactRow, $row)> = facts::table
                .inner_join($table::table.on($table::fact_id.eq(facts::id)))
                .filter(facts::build_id.eq(&id))
                .filter(facts::seq.gt(after))
                .filter(facts::seq.le(upto))
                .select((FactRow::as_select(), <$row>::as_select()))
                .load(conn)
                .await?;
            for (head, row) in rows {
                put(head, $what(row)?)?;
            }
        };
    }
    each!(readings, ReadingRow, |r: ReadingRow| r.reading().map(What::Reading));
    each!(strikes, StrikeRow, |s: StrikeRow| -> Result<What, StoreError> {
        Ok(What::Strike(Strike { reading: uuid(&s.reading_id)?, reason: s.reason }))
    });
    each!(target_changes, TargetRow, |t: TargetRow| t.change().map(What::Target));
    each!(concessions, ConcessionRow, |c: ConcessionRow| c.concession().map(What::Concession));
    each!(signatures, SignatureRow, |s: SignatureRow| s.signature().map(What::Signature));
    Ok(found.into_values().collect())
}
