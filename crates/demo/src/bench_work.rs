//! Somebody working at the bench: typed texts and decisions that become the facts of a build.

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::bench::{Typed, understand};
use jagged_pin_core::fact::{Person, SignerRole, Strike, TargetChange, Timestamp, What};
use jagged_pin_core::feature::{Feature, Method, Position, Station};
use jagged_pin_core::record::{Refusal, concession_now, next_fact, signature_now};
use jagged_pin_core::rules::Rules;
use jagged_pin_core::target::{TargetRule, TargetSource};
use jagged_pin_core::{Build, Unit};
use uuid::Uuid;

use crate::engines::Pattern;
use crate::shop::gauges;

/// Time between two touches of a practised hand, in milliseconds.
const TOUCH: i64 = 9_000;

/// A build in somebody's hands, at a time of day.
#[derive(Debug, Clone)]
pub struct Bench {
    build: Build,
    now: i64,
    by: Person,
    /// Size the bore gauge is zeroed at, as typed.
    reference: String,
}

impl Bench {
    /// Books a build in: `number` tells its identifiers apart from those of other builds.
    ///
    /// # Errors
    /// [`Refusal`] when the pattern's target makes no sense.
    pub fn book_in(number: u128, code: &str, pattern: &Pattern, at: i64, by: Person) -> Result<Self, Refusal> {
        let build = Build {
            id: Uuid::from_u128(0x5a17_0001_0000_4000_8000_0000_0000_0000 + (number << 24)),
            code: code.into(),
            engine: pattern.engine.into(),
            unit: pattern.unit,
            layout: pattern.layout.clone(),
            rules: Rules::standard(pattern.unit),
            gauges: gauges(pattern.unit),
            opened_at: Timestamp(at),
            opened_by: by.clone(),
            facts: Vec::new(),
        };
        // With its decimals and its unit: bare digits would be read as the tail of a size.
        let reference = pattern.layout.main_journal.show(pattern.unit);
        let mut bench = Bench { build, now: at, by, reference };
        bench.target(None, pattern.target, "agreed at booking")?;
        Ok(bench)
    }

    /// The build as it stands.
    pub fn finish(self) -> Build {
        self.build
    }

    /// Hands the bench to somebody else, at a later time.
    pub fn hand_over(&mut self, to: Person, minutes: i64) {
        self.by = to;
        self.now += minutes * 60_000;
    }

    fn record(&mut self, what: What) -> Result<Uuid, Refusal> {
        self.now += TOUCH;
        let id = Uuid::from_u128(self.build.id.as_u128() + 1 + u128::from(self.build.seq()));
        let fact = next_fact(&self.build, id, Timestamp(self.now), self.by.clone(), what)?;
        self.build.facts.push(fact);
        Ok(id)
    }

    /// Sets a target.
    ///
    /// # Errors
    /// [`Refusal`] when it makes no sense.
    pub fn target(&mut self, station: Option<Station>, rule: TargetRule, reason: &str) -> Result<(), Refusal> {
        let change =
            TargetChange { station, rule: Some(rule), source: TargetSource::BuildersRule, reason: reason.into() };
        self.record(What::Target(change)).map(drop)
    }

    /// Zeroes the bore gauge at a size.
    pub fn zero_at(&mut self, reference: &str) {
        self.reference = reference.into();
    }

    fn touch(
        &mut self,
        station: u8,
        feature: Feature,
        method: Method,
        position: Position,
        text: &str,
    ) -> Result<Uuid, Refusal> {
        let mains = self.build.layout.mains;
        let found = self.build.layout.stations().find(|s| s.number() == station);
        let station = found.ok_or(Refusal::NoSuchStation { station: self.build.layout.thrust, mains })?;
        let gauge = match (feature, self.build.unit) {
            (Feature::MainJournal, Unit::Inch) => "mic-tenths",
            (Feature::MainJournal, Unit::Mm) => "mic-microns",
            (Feature::MainBearing, Unit::Inch) => "bore-tenths",
            (Feature::MainBearing, Unit::Mm) => "bore-microns",
        };
        let typed = Typed {
            station,
            feature,
            position,
            method,
            reference: Some(self.reference.clone()),
            gauge: gauge.into(),
            text: text.into(),
            unit: self.build.unit,
        };
        let understood = understand(&self.build, &evaluate(&self.build), &typed, false)?;
        self.record(What::Reading(understood.reading))
    }

    /// Types the touches of a journal: per position of its plan, texts separated by blanks.
    ///
    /// # Errors
    /// [`Refusal`] when a text cannot be taken.
    pub fn journal(&mut self, station: u8, places: [&str; 4]) -> Result<(), Refusal> {
        self.feature(station, Feature::MainJournal, Method::Subtract, &places).map(drop)
    }

    /// Types the touches of a bore by `method`: front, rear, +45 and -45; returns the readings.
    ///
    /// # Errors
    /// [`Refusal`] when a text cannot be taken.
    pub fn bore(&mut self, station: u8, method: Method, places: &[&str]) -> Result<Vec<Uuid>, Refusal> {
        self.feature(station, Feature::MainBearing, method, places)
    }

    fn feature(
        &mut self,
        station: u8,
        feature: Feature,
        method: Method,
        places: &[&str],
    ) -> Result<Vec<Uuid>, Refusal> {
        let mut ids = Vec::new();
        for (planned, texts) in feature.positions().iter().zip(places) {
            for text in texts.split_whitespace() {
                ids.push(self.touch(station, feature, method, planned.position, text)?);
            }
        }
        Ok(ids)
    }

    /// Strikes readings.
    ///
    /// # Errors
    /// [`Refusal`] when one was struck before.
    pub fn strike(&mut self, readings: &[Uuid], reason: &str) -> Result<(), Refusal> {
        for reading in readings {
            self.record(What::Strike(Strike { reading: *reading, reason: reason.into() }))?;
        }
        Ok(())
    }

    /// Accepts a station's figure as it is.
    ///
    /// # Errors
    /// [`Refusal`] when there is nothing to accept.
    pub fn concede(&mut self, station: Station, reason: &str) -> Result<(), Refusal> {
        let concession = concession_now(&self.build, station, reason.into())?;
        self.record(What::Concession(concession)).map(drop)
    }

    /// Signs the sheet.
    ///
    /// # Errors
    /// [`Refusal`] when something blocks.
    pub fn sign(&mut self, role: SignerRole) -> Result<(), Refusal> {
        let signature = signature_now(&self.build, role);
        self.record(What::Signature(signature)).map(drop)
    }
}
