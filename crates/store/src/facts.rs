//! Facts as rows: the shared head in one table, the details of each kind in its own.
use std::collections::BTreeMap;

use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use jagged_pin_core::engine::Position;
use jagged_pin_core::log::{Concession, Fact, Measure, Reading, Signature, Strike, TargetChange, What};
use jagged_pin_core::maths::{Target, Temperatures};
use jagged_pin_core::units::Person;
use uuid::Uuid;

use crate::StoreError;
use crate::pool::Connection;
use crate::schema::{concessions, facts, notes, readings, signatures, strikes, target_changes};
use crate::text::{from_json, json_of, length, moment, name_of, named, seq_column, unreadable, uuid};

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
    build_id: String,
    seq: i32,
    station: String,
    feature: String,
    axial: String,
    angle: i32,
    track: Option<i32>,
    part: Option<String>,
    size_nm: i64,
    dial_nm: Option<i64>,
    reference_nm: Option<i64>,
    /// What is neither a size nor a dial, as JSON.
    measure: Option<String>,
    gauge: String,
    raw: String,
    source: String,
    forced: bool,
    taken_at: Option<i64>,
    session_id: Option<String>,
    part_mc: Option<i32>,
    gauge_mc: Option<i32>,
    blind_id: Option<String>,
    zero_source: Option<String>,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = strikes)]
struct StrikeRow {
    build_id: String,
    seq: i32,
    reading_id: String,
    reason: String,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = target_changes)]
struct TargetRow {
    build_id: String,
    seq: i32,
    figure: Option<String>,
    station: Option<String>,
    rule: Option<String>,
    source: String,
    reason: String,
    bearing_row: String,
    wear: Option<String>,
    lifted: Option<String>,
    made_of: Option<String>,
    place_kind: Option<String>,
}

/// A fact that nobody searches by a column: its details as JSON.
#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = notes)]
struct NoteRow {
    build_id: String,
    seq: i32,
    kind: String,
    detail: String,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = concessions)]
struct ConcessionRow {
    build_id: String,
    seq: i32,
    figure: Option<String>,
    station: String,
    state: String,
    clearance_nm: i64,
    low_nm: i64,
    aim_nm: i64,
    high_nm: i64,
    reason: String,
    gate: Option<String>,
}

#[derive(Queryable, Selectable, Insertable)]
#[diesel(table_name = signatures)]
struct SignatureRow {
    build_id: String,
    seq: i32,
    role: String,
    revision: i32,
    digest: String,
    mark: Option<String>,
}

impl ReadingRow {
    fn of(Key { build_id, seq }: Key, r: &Reading) -> Result<Self, StoreError> {
        let (dial_nm, reference_nm, measure) = match r.measure {
            Measure::Size { .. } => (None, None, None),
            Measure::Dial { dial, reference } => (Some(dial.nm()), Some(reference.nm()), None),
            Measure::Travel { .. } | Measure::Blades { .. } | Measure::Turn { .. } => {
                (None, None, Some(json_of(&r.measure)?))
            }
        };
        Ok(ReadingRow {
            build_id,
            seq,
            station: r.station.to_string(),
            feature: name_of(&r.characteristic)?,
            axial: name_of(&r.position.axial)?,
            angle: r.position.angle.into(),
            track: r.position.track.map(i32::from),
            part: r.part.clone(),
            size_nm: r.measure.size().nm(),
            dial_nm,
            reference_nm,
            measure,
            gauge: r.gauge.clone(),
            raw: r.raw.clone(),
            source: name_of(&r.source)?,
            forced: r.forced,
            taken_at: r.taken.map(|t| t.0),
            session_id: r.session.map(|id| id.to_string()),
            part_mc: r.temperatures.and_then(|t| t.part_mc),
            gauge_mc: r.temperatures.and_then(|t| t.gauge_mc),
            blind_id: r.blind.map(|id| id.to_string()),
            zero_source: r.zero.as_ref().map(name_of).transpose()?,
        })
    }

    fn reading(self) -> Result<Reading, StoreError> {
        let measure = match (self.measure, self.dial_nm, self.reference_nm) {
            (Some(other), ..) => from_json(&other)?,
            (None, Some(dial), Some(reference)) => Measure::Dial { dial: length(dial)?, reference: length(reference)? },
            _ => Measure::Size { size: length(self.size_nm)? },
        };
        // The size stands beside what was read for whoever looks into the table. Where somebody changed one of them there, it
        // is read as the size says: a seal over it then shows it.
        let size = length(self.size_nm)?;
        let measure = if measure.size() == size { measure } else { Measure::Size { size } };
        let angle = i16::try_from(self.angle).map_err(unreadable)?;
        let track = self.track.map(u8::try_from).transpose().map_err(unreadable)?;
        let noted = self.part_mc.is_some() || self.gauge_mc.is_some();
        let temperatures = noted.then_some(Temperatures { part_mc: self.part_mc, gauge_mc: self.gauge_mc });
        Ok(Reading {
            station: self.station.parse().map_err(unreadable)?,
            characteristic: named(self.feature)?,
            position: Position { axial: named(self.axial)?, angle, track },
            part: self.part,
            measure,
            gauge: self.gauge,
            raw: self.raw,
            source: named(self.source)?,
            forced: self.forced,
            taken: self.taken_at.map(moment).transpose()?,
            session: self.session_id.as_deref().map(uuid).transpose()?,
            temperatures,
            blind: self.blind_id.as_deref().map(uuid).transpose()?,
            zero: self.zero_source.map(named).transpose()?,
        })
    }
}

impl TargetRow {
    fn change(self) -> Result<TargetChange, StoreError> {
        Ok(TargetChange {
            figure: self.figure.map(named).transpose()?,
            station: self.station.map(|s| s.parse()).transpose().map_err(unreadable)?,
            row: named(self.bearing_row)?,
            kind: self.place_kind.map(named).transpose()?,
            rule: self.rule.as_deref().map(from_json).transpose()?,
            source: named(self.source)?,
            made_of: self.made_of.as_deref().map(from_json).transpose()?,
            wear: self.wear.as_deref().map(from_json).transpose()?,
            reason: self.reason,
            lifted: self.lifted.as_deref().map_or(Ok(Vec::new()), from_json)?,
        })
    }
}

impl ConcessionRow {
    fn concession(self) -> Result<Concession, StoreError> {
        Ok(Concession {
            figure: self.figure.map(named).transpose()?,
            station: self.station.parse().map_err(unreadable)?,
            state: named(self.state)?,
            clearance: length(self.clearance_nm)?,
            target: Target { low: length(self.low_nm)?, aim: length(self.aim_nm)?, high: length(self.high_nm)? },
            gate: self.gate.map(named).transpose()?,
            reason: self.reason,
        })
    }
}

impl SignatureRow {
    fn signature(self) -> Result<Signature, StoreError> {
        let revision = self.revision.try_into().map_err(unreadable)?;
        Ok(Signature { role: named(self.role)?, revision, digest: self.digest, mark: self.mark })
    }
}

impl NoteRow {
    /// The fact itself, tagged with its kind as in an exported file.
    fn of(Key { build_id, seq }: Key, what: &What) -> Result<Self, StoreError> {
        Ok(NoteRow { build_id, seq, kind: what.kind().into(), detail: json_of(what)? })
    }

    fn what(self) -> Result<What, StoreError> {
        from_json(&self.detail)
    }
}

/// Where a fact stands: the key of its head and of its details.
#[derive(Clone)]
struct Key {
    build_id: String,
    seq: i32,
}

/// Rows to be written, by table.
#[derive(Default)]
struct Rows {
    heads: Vec<FactRow>,
    readings: Vec<ReadingRow>,
    strikes: Vec<StrikeRow>,
    targets: Vec<TargetRow>,
    concessions: Vec<ConcessionRow>,
    signatures: Vec<SignatureRow>,
    notes: Vec<NoteRow>,
}

impl Rows {
    fn add(&mut self, build: Uuid, fact: &Fact) -> Result<(), StoreError> {
        let key = Key { build_id: build.to_string(), seq: seq_column(fact.seq)? };
        let Key { build_id, seq } = key.clone();
        self.heads.push(FactRow {
            build_id: build_id.clone(),
            seq,
            id: fact.id.to_string(),
            at: fact.at.0,
            by_id: fact.by.id.to_string(),
            by_name: fact.by.name.clone(),
        });
        match &fact.what {
            What::Reading(r) => self.readings.push(ReadingRow::of(key, r)?),
            What::Strike(s) => {
                let reading_id = s.reading.to_string();
                self.strikes.push(StrikeRow { build_id, seq, reading_id, reason: s.reason.clone() });
            }
            What::Target(t) => self.targets.push(TargetRow {
                build_id,
                seq,
                figure: t.figure.as_ref().map(name_of).transpose()?,
                station: t.station.map(|s| s.to_string()),
                bearing_row: name_of(&t.row)?,
                rule: t.rule.as_ref().map(json_of).transpose()?,
                source: name_of(&t.source)?,
                reason: t.reason.clone(),
                wear: t.wear.as_ref().map(json_of).transpose()?,
                lifted: (!t.lifted.is_empty()).then(|| json_of(&t.lifted)).transpose()?,
                made_of: t.made_of.as_ref().map(json_of).transpose()?,
                place_kind: t.kind.as_ref().map(name_of).transpose()?,
            }),
            What::Concession(c) => self.concessions.push(ConcessionRow {
                build_id,
                seq,
                figure: c.figure.as_ref().map(name_of).transpose()?,
                station: c.station.to_string(),
                state: name_of(&c.state)?,
                clearance_nm: c.clearance.nm(),
                low_nm: c.target.low.nm(),
                aim_nm: c.target.aim.nm(),
                high_nm: c.target.high.nm(),
                reason: c.reason.clone(),
                gate: c.gate.as_ref().map(name_of).transpose()?,
            }),
            What::Signature(s) => {
                let revision = s.revision.try_into().map_err(unreadable)?;
                let (role, digest, mark) = (name_of(&s.role)?, s.digest.clone(), s.mark.clone());
                self.signatures.push(SignatureRow { build_id, seq, role, revision, digest, mark });
            }
            what => self.notes.push(NoteRow::of(key, what)?),
        }
        Ok(())
    }
}

/// Rows of one statement: well below what a packet to the server may hold.
const AT_ONCE: usize = 250;

/// Writes facts with their details, inside the caller's transaction.
pub(crate) async fn insert(conn: &mut Connection, build: Uuid, new: &[Fact]) -> Result<(), StoreError> {
    for part in new.chunks(AT_ONCE) {
        let mut rows = Rows::default();
        part.iter().try_for_each(|fact| rows.add(build, fact))?;
        let written = diesel::insert_into(facts::table).values(rows.heads).execute(conn).await;
        written.map_err(|e| if StoreError::is_duplicate(&e) { StoreError::IdReused } else { e.into() })?;
        // Diesel types each statement by itself.
        macro_rules! write {
            ($($table:ident <- $rows:expr),*) => {
                $(if !$rows.is_empty() {
                    diesel::insert_into($table::table).values($rows).execute(conn).await?;
                })*
            };
        }
        write!(
            readings <- rows.readings,
            strikes <- rows.strikes,
            target_changes <- rows.targets,
            concessions <- rows.concessions,
            signatures <- rows.signatures,
            notes <- rows.notes
        );
    }
    Ok(())
}

/// Removes the facts of a build with their details, inside the caller's transaction.
pub(crate) async fn remove(conn: &mut Connection, build: &str) -> Result<(), StoreError> {
    // What refers to others goes first.
    macro_rules! each {
        ($($table:ident),*) => {
            $(diesel::delete($table::table.filter($table::build_id.eq(build))).execute(conn).await?;)*
        };
    }
    each!(strikes, readings, target_changes, concessions, signatures, notes, facts);
    Ok(())
}

/// The facts of a build after `after`, up to and with `upto`, in order.
pub(crate) async fn load(conn: &mut Connection, build: Uuid, after: u32) -> Result<Vec<Fact>, StoreError> {
    let mut found: BTreeMap<i32, Fact> = BTreeMap::new();
    let (id, after) = (build.to_string(), seq_column(after)?);
    let mut put = |head: FactRow, what: What| -> Result<(), StoreError> {
        let by = Person { id: uuid(&head.by_id)?, name: head.by_name };
        let seq = head.seq.try_into().map_err(unreadable)?;
        found.insert(head.seq, Fact { id: uuid(&head.id)?, seq, at: moment(head.at)?, by, what });
        Ok(())
    };
    // The same query for each table of details; Diesel types each join by itself.
    macro_rules! each {
        ($table:ident, $row:ty, $what:expr) => {
            let rows: Vec<(FactRow, $row)> = facts::table
                .inner_join($table::table.on($table::build_id.eq(facts::build_id).and($table::seq.eq(facts::seq))))
                .filter(facts::build_id.eq(&id))
                .filter(facts::seq.gt(after))
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
    each!(notes, NoteRow, NoteRow::what);
    Ok(found.into_values().collect())
}
