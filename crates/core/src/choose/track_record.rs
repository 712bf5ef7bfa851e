//! The shop's record of its predictions: every fitting, what it promised, and what was measured before anything
//! else was done to the bearing. How far off they were, over builds, says how well the shop's classes, gauges and
//! set-ups hold.
use serde::Serialize;

use crate::assess::evaluate;
use crate::build::{Build, Standing};
use crate::engine::{BearingRow, Figure, Place};
use crate::evidence::Endings;
use crate::figure::PredictionCheck;
use crate::log::What;
use crate::units::{Person, Timestamp};

/// A fitting and what came of its promises.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FittingRecord {
    /// The build's short name.
    pub build: String,
    /// The row.
    pub row: BearingRow,
    /// When.
    pub at: Timestamp,
    /// Who fitted them.
    pub by: Person,
    /// Why.
    pub note: String,
    /// Minutes that were estimated.
    pub estimated: Option<u16>,
    /// Minutes it took.
    pub booked: Option<u16>,
    /// Bearings that were measured afterwards.
    pub checks: Vec<PredictionCheck>,
    /// Bearings that were not measured before something else was done, or are not yet.
    pub open: Vec<Place>,
}

/// Every fitting of a build, the first first.
pub fn prediction_record(build: &Build) -> Vec<FittingRecord> {
    let notes = build.notes();
    let standing = Standing::of(&build.layout, &notes);
    let endings = Endings::of(&build.layout, &notes, &standing, build.rules_among(&notes).reckoning);
    let mut all = Vec::new();
    for fact in &notes {
        let What::Fitting(fitting) = &fact.what else { continue };
        let mut record = FittingRecord {
            build: build.code.clone(),
            row: fitting.row,
            at: fact.at,
            by: fact.by.clone(),
            note: fitting.note.clone(),
            estimated: fitting.estimated,
            booked: fitting.minutes,
            checks: Vec::new(),
            open: Vec::new(),
        };
        // The build as it was just before the next deed to any of these bearings; most often that is now.
        let mut assessed: Option<(u32, crate::assess::Assessment)> = None;
        for pair in &fitting.pairs {
            let upto = endings.next_at(Figure::OIL_CLEARANCE, pair.station, fact.seq).unwrap_or(u32::MAX);
            if assessed.as_ref().is_none_or(|(seq, _)| *seq != upto) {
                let facts = build.facts.iter().take_while(|f| f.seq < upto).cloned().collect();
                assessed = Some((upto, evaluate(&Build { facts, ..build.without_facts() })));
            }
            let station = assessed.as_ref().and_then(|(_, a)| a.station(pair.station));
            match station.and_then(|s| s.prediction.clone()) {
                Some(check) => record.checks.push(*check),
                None => record.open.push(pair.station),
            }
        }
        all.push(record);
    }
    all
}
