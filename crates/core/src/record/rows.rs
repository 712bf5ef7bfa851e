//! Readings in rows, as they come from a file: each row is understood like a typed entry, one after the
//! other, so that tails and repeats mean what they would mean at the bench.
use uuid::Uuid;

use super::admission::next_fact;
use super::agreement::agrees_in;
use super::typed::{TypedEntry, UnderstoodEntry, measured_at, understand_around, understand_entry};
use crate::assess::{Along, along};
use crate::build::{Build, open_request, open_requests, redacted};
use crate::engine::{Axial, Characteristic, NoSuchName, Position, Read};
use crate::evidence::Sessions;
use crate::log::{Fact, Reading, Source, What};
use crate::units::{Person, Timestamp, Unit};

/// One row as text, column by column.
#[derive(Debug, Clone, PartialEq, Eq, Default)]
pub struct TextRow {
    /// Line of the file, from 1.
    pub line: u64,
    /// Such as `M4`.
    pub station: String,
    /// Such as `main_journal`.
    pub characteristic: String,
    /// `front`, `middle` or `rear`.
    pub axial: String,
    /// Degrees from vertical.
    pub angle: String,
    /// Which track of a shared pin, from the front; empty where there is one.
    pub track: String,
    /// A candidate that is measured beside the part that stands there; empty for that one.
    pub part: String,
    /// `dial` or `size`; empty means `size`.
    pub read: String,
    /// For a dial: what it was zeroed at.
    pub reference: String,
    /// The gauge.
    pub gauge: String,
    /// The reading as it would be typed.
    pub reading: String,
}

/// A row that was read, or why not.
#[derive(Debug, Clone, PartialEq)]
pub struct RowRead {
    /// Line of the file.
    pub line: u64,
    /// The fact it would be, and how it was understood; or what is wrong with the row.
    pub read: Result<(Fact, UnderstoodEntry), String>,
}

/// Most rows of one file.
pub const MOST_ROWS: usize = 2_000;

fn named<T: serde::de::DeserializeOwned>(text: &str, what: &str) -> Result<T, String> {
    let value = serde_json::Value::String(text.trim().to_lowercase());
    serde_json::from_value(value).map_err(|_| format!("\"{text}\" is no {what}"))
}

fn typed(row: &TextRow, unit: Unit) -> Result<TypedEntry, String> {
    let characteristic: Characteristic = named(&row.characteristic, "characteristic, such as main_journal")?;
    let axial: Axial = named(&row.axial, "place along the axis: front, middle or rear")?;
    let angle = row.angle.trim().parse().map_err(|_| format!("\"{}\" is no angle in degrees", row.angle))?;
    let track = match row.track.trim() {
        "" => None,
        text => Some(text.parse().map_err(|_| format!("\"{text}\" is no track: 1 is the front rod's"))?),
    };
    // Files of an earlier version call a dial *direct* and a size *subtract*.
    let read = match row.read.trim().to_lowercase().as_str() {
        "" | "size" | "subtract" => Read::Size,
        "dial" | "direct" => Read::Dial,
        "travel" => Read::Travel,
        "blades" => Read::Blades,
        "turn" => Read::Turn,
        other => return Err(format!("\"{other}\" is no way to read a gauge: size, dial, travel, blades or turn")),
    };
    Ok(TypedEntry {
        station: row.station.trim().parse().map_err(|e: NoSuchName| e.to_string())?,
        characteristic,
        position: Position { axial, angle, track },
        part: Some(row.part.trim().to_owned()).filter(|part| !part.is_empty()),
        read,
        reference: Some(row.reference.clone()),
        gauge: row.gauge.trim().to_owned(),
        in_room: None,
        text: row.reading.trim().to_owned(),
        unit,
        source: Source::Imported,
        taken: None,
        temperatures: None,
        zero: None,
        blind: None,
    })
}

/// Whether a reading of `build` is what became of a row, typed in `unit`.
pub fn came_from(build: &Build, reading: &Reading, row: &TextRow, unit: Unit) -> bool {
    let Ok(entry) = typed(row, unit) else { return false };
    let sessions = Sessions::of(&build.notes(), build.rules_now().reckoning);
    (entry.station, entry.characteristic, entry.position) == (reading.station, reading.characteristic, reading.position)
        && (&entry.part, entry.read) == (&reading.part, reading.measure.read())
        && (&entry.gauge, &entry.text) == (&reading.gauge, &reading.raw)
        && agrees_in(&[unit], build, &sessions, reading)
}

/// Reads rows on top of a build, as `by` would have typed them at `at`. Rows without a reading are left
/// out. The fact of the n-th good row gets the identifier `first + n`.
pub fn read_rows(build: &Build, by: &Person, rows: &[TextRow], unit: Unit, first: Uuid, at: Timestamp) -> Vec<RowRead> {
    let blind = !open_requests(build, by.id).is_empty();
    let mut so_far = build.clone();
    let mut kept = 0;
    along(build, rows.len(), |along| {
        let mut all = Vec::new();
        for row in rows.iter().filter(|r| !r.reading.trim().is_empty()) {
            let id = Uuid::from_u128(first.as_u128().wrapping_add(kept));
            // What a person who measures blind may see, and a part that stands elsewhere, are looked up row by row.
            let around = Some(&*along).filter(|_| !blind && row.part.trim().is_empty());
            let read = one(&so_far, by, row, unit, around).and_then(|understood| {
                let what = What::Reading(understood.reading.clone());
                let fact = next_fact(&so_far, id, at, by.clone(), what).map_err(|e| e.to_string())?;
                Ok((fact, understood))
            });
            if let Ok((fact, _)) = &read {
                so_far.facts.push(fact.clone());
                along.keep(fact.clone());
                kept = kept.saturating_add(1);
            }
            all.push(RowRead { line: row.line, read });
        }
        all
    })
}

fn one(
    build: &Build,
    by: &Person,
    row: &TextRow,
    unit: Unit,
    along: Option<&Along<'_>>,
) -> Result<UnderstoodEntry, String> {
    let typed = typed(row, unit)?;
    let understood = match along {
        Some(along) => measured_at(build, &typed)
            .and_then(|measured| understand_around(build, along.around(measured), &typed, false)),
        None => {
            let blind = open_request(build, by.id, typed.station, typed.characteristic);
            let seen = redacted(build, by.id);
            understand_entry(build, seen.as_ref().unwrap_or(build), &TypedEntry { blind, ..typed }, false)
        }
    };
    understood.map_err(|e| e.to_string())
}
