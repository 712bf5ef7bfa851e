//! Somebody working at the bench: typed texts and decisions that become the facts of a build.
use std::sync::Arc;

use jagged_pin_core::build::{open_request, redacted};
use jagged_pin_core::engine::{
    BearingRow, Characteristic, Figure, GaugeUse, PartKind, Place, Position, Read, Role, Scope,
};
use jagged_pin_core::log::{
    Assignment, Befell, BlindRequest, Check, CheckDone, CheckFound, Condemnation, Fitting, InspectedPart, Inspection,
    Mishap, OrderMoved, OrderStep, Part, PartMove, Rules, RulesChange, SessionClosed, SessionOpened, SetUp, Sign,
    SignerRole, Source, Stamp, Stamps, Strike, TargetChange, Tray, What, Work, WorkEvent, WorkOrder, ZeroSource,
};
use jagged_pin_core::maths::{TargetRule, TargetSource, Temperatures};
use jagged_pin_core::record::{
    Refusal, TypedEntry, concession_now, next_fact, signature_now, understand_check, understand_entry,
};
use jagged_pin_core::units::{Person, Timestamp};
use jagged_pin_core::{Build, Unit};
use uuid::Uuid;

use crate::engines::Pattern;
use crate::shop::gauges;

/// Time between two touches of a practised hand, in milliseconds.
const TOUCH: i64 = 9_000;

/// A build in somebody's hands, at a time of day.
#[derive(Debug, Clone)]
pub struct Bench {
    build: Arc<Build>,
    now: i64,
    by: Person,
    /// Size the bore gauge is zeroed at, as typed; otherwise the nominal journal.
    reference: Option<String>,
    /// What it was zeroed in, where that is said with each reading.
    zero: Option<ZeroSource>,
    /// The gauges in use, by what they measure.
    outside: String,
    inside: String,
    /// How warm parts and gauges are, where somebody notes it.
    temperatures: Option<Temperatures>,
    /// The candidate that is measured, beside the parts that stand in the engine.
    part: Option<String>,
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
            known_to: 0,
        };
        let (outside, inside) = match pattern.unit {
            Unit::Inch => ("mic-tenths", "bore-half-tenths"),
            Unit::Mm => ("mic-microns", "bore-microns"),
        };
        let (outside, inside) = (outside.into(), inside.into());
        let mut bench = Bench {
            build: Arc::new(build),
            now: at,
            by,
            reference: None,
            zero: None,
            outside,
            inside,
            temperatures: None,
            part: None,
        };
        // What runs on rollers has no oil clearance to agree on.
        if pattern.layout.rollers {
            return Ok(bench);
        }
        bench.target(None, pattern.target, "agreed at booking")?;
        if pattern.layout.rods.is_some() {
            bench.row_target(BearingRow::Rods, pattern.rod_target, "agreed at booking")?;
        }
        Ok(bench)
    }

    /// The same build as if it had been opened by rules under which no remark blocks: only figures do.
    #[must_use]
    pub fn without_gates(mut self) -> Self {
        Arc::make_mut(&mut self.build).rules.gates.clear();
        self
    }

    /// The build as it stands.
    pub fn finish(self) -> Build {
        Arc::unwrap_or_clone(self.build)
    }

    /// The build as it stands, for a look at it.
    pub fn build(&self) -> &Build {
        &self.build
    }

    /// Hands the bench to somebody else, at a later time.
    pub fn hand_over(&mut self, to: Person, minutes: i64) {
        self.by = to;
        self.now += minutes * 60_000;
    }

    /// Takes another gauge for what it measures.
    pub fn take(&mut self, gauge: &str) {
        match self.build.gauge(gauge).map(|g| g.measures) {
            Some(GaugeUse::Inside) => self.inside = gauge.into(),
            _ => self.outside = gauge.into(),
        }
    }

    /// Takes a candidate in hand: what is measured from now on is of it. With `None`, of what stands in the engine.
    pub fn measure_candidate(&mut self, part: Option<&str>) {
        self.part = part.map(str::to_owned);
    }

    /// Enters a part.
    ///
    /// # Errors
    /// [`Refusal`] when its name is taken.
    pub fn part(&mut self, kind: PartKind, tag: &str, provenance: &str, marks: &str) -> Result<(), Refusal> {
        let part = Part { tag: tag.into(), kind, provenance: provenance.into(), marks: marks.into() };
        self.record(What::Part(part)).map(drop)
    }

    /// Puts parts somewhere.
    ///
    /// # Errors
    /// [`Refusal`] when one does not go there.
    pub fn assign(&mut self, moves: &[(&str, Option<Place>)], reason: &str) -> Result<(), Refusal> {
        let one = |(part, place): &(&str, Option<Place>)| PartMove { part: (*part).into(), place: *place };
        let moves = moves.iter().map(one).collect();
        self.record(What::Assigned(Assignment { moves, reason: reason.into() })).map(drop)
    }

    /// Condemns a part.
    ///
    /// # Errors
    /// [`Refusal`] when there is no such part.
    pub fn condemn(&mut self, part: &str, reason: &str) -> Result<(), Refusal> {
        let condemnation = Condemnation { part: part.into(), lifted: false, reason: reason.into() };
        self.record(What::Condemned(condemnation)).map(drop)
    }

    /// Records anything: admits it as the next fact.
    ///
    /// # Errors
    /// [`Refusal`] says why it may not be recorded.
    pub fn record(&mut self, what: What) -> Result<Uuid, Refusal> {
        self.now += TOUCH;
        let id = Uuid::from_u128(self.build.id.as_u128() + 1 + u128::from(self.build.seq()));
        let fact = next_fact(&self.build, id, Timestamp(self.now), self.by.clone(), what)?;
        Arc::make_mut(&mut self.build).facts.push(fact);
        Ok(id)
    }

    /// Sets a target of the mains, or of one station.
    ///
    /// # Errors
    /// [`Refusal`] when it makes no sense.
    pub fn target(&mut self, station: Option<Place>, rule: TargetRule, reason: &str) -> Result<(), Refusal> {
        let row = station.map_or(BearingRow::Mains, Place::row);
        self.set_target(station, row, rule, reason)
    }

    /// Sets the target of any figure for a row.
    ///
    /// # Errors
    /// [`Refusal`] when it makes no sense.
    pub fn figure_target(
        &mut self,
        figure: Figure,
        row: BearingRow,
        rule: TargetRule,
        reason: &str,
    ) -> Result<(), Refusal> {
        let (rule, source) = (Some(rule), TargetSource::BuildersRule);
        let figure = Some(figure).filter(|f| *f != Figure::OIL_CLEARANCE);
        self.record(What::Target(TargetChange {
            figure,
            station: None,
            row,
            kind: None,
            rule,
            source,
            made_of: None,
            wear: None,
            reason: reason.into(),
            lifted: Vec::new(),
        }))
        .map(drop)
    }

    /// Sets the target of a row.
    ///
    /// # Errors
    /// [`Refusal`] when it makes no sense.
    pub fn row_target(&mut self, row: BearingRow, rule: TargetRule, reason: &str) -> Result<(), Refusal> {
        self.set_target(None, row, rule, reason)
    }

    fn set_target(
        &mut self,
        station: Option<Place>,
        row: BearingRow,
        rule: TargetRule,
        reason: &str,
    ) -> Result<(), Refusal> {
        let (rule, source) = (Some(rule), TargetSource::BuildersRule);
        self.record(What::Target(TargetChange {
            figure: None,
            station,
            row,
            kind: None,
            rule,
            source,
            made_of: None,
            wear: None,
            reason: reason.into(),
            lifted: Vec::new(),
        }))
        .map(drop)
    }

    /// Zeroes the bore gauge at a size.
    pub fn zero_at(&mut self, reference: &str) {
        self.reference = Some(reference.into());
    }

    /// Says what the bore gauge is zeroed in, with every reading from now on.
    pub fn zeroed_in(&mut self, zero: ZeroSource) {
        self.zero = Some(zero);
    }

    /// Opens a session: the gauge on a standard, and what it showed there.
    ///
    /// # Errors
    /// [`Refusal`] when a text cannot be taken or the gauge is not zeroed.
    pub fn open_session(&mut self, gauge: &str, check: Option<(&str, &str)>) -> Result<Uuid, Refusal> {
        let known = self.build.gauge(gauge).ok_or_else(|| Refusal::UnknownGauge(gauge.into()))?.clone();
        let check = check.map(|(standard, shown)| understand_check(&known, self.build.unit, standard, shown));
        let inside = known.measures == GaugeUse::Inside;
        self.take(gauge);
        self.record(What::SessionOpened(SessionOpened {
            gauge: known,
            check: check.transpose()?,
            zero: self.zero.filter(|_| inside),
        }))
    }

    /// Closes a session, with a check if one is made.
    ///
    /// # Errors
    /// [`Refusal`] when it is not open or a text cannot be taken.
    pub fn close_session(&mut self, session: Uuid, check: Option<(&str, &str)>) -> Result<(), Refusal> {
        let opened = self.build.facts.iter().find_map(|f| match &f.what {
            What::SessionOpened(s) if f.id == session => Some(s.gauge.clone()),
            _ => None,
        });
        let gauge = opened.ok_or(Refusal::NoSuchSession)?;
        let check = check.map(|(standard, shown)| understand_check(&gauge, self.build.unit, standard, shown));
        self.record(What::SessionClosed(SessionClosed { session, check: check.transpose()? })).map(drop)
    }

    /// Records work on something.
    ///
    /// # Errors
    /// [`Refusal`] when that is not done to it.
    pub fn work(&mut self, work: Work, on: Scope, note: &str) -> Result<(), Refusal> {
        let ticks = work.ticks().to_vec();
        self.event(WorkEvent { work, on, grits: Vec::new(), minutes: None, ticks, note: note.into() })
    }

    /// Records a work event.
    ///
    /// # Errors
    /// [`Refusal`] when it cannot be.
    pub fn event(&mut self, event: WorkEvent) -> Result<(), Refusal> {
        self.record(What::Work(event)).map(drop)
    }

    /// Changes the rules of the build.
    ///
    /// # Errors
    /// [`Refusal`] when nobody could work by them.
    pub fn rules(&mut self, rules: Rules, reason: &str) -> Result<(), Refusal> {
        self.record(What::Rules(RulesChange { rules, reason: reason.into(), lifted: Vec::new(), loosened: Vec::new() }))
            .map(drop)
    }

    /// Records a set-up.
    ///
    /// # Errors
    /// [`Refusal`] when it cannot be.
    pub fn set_up(&mut self, set_up: SetUp) -> Result<(), Refusal> {
        self.record(What::SetUp(set_up)).map(drop)
    }

    /// Records shells that were fitted.
    ///
    /// # Errors
    /// [`Refusal`] when they cannot be.
    pub fn fit(&mut self, fitting: Fitting) -> Result<(), Refusal> {
        self.record(What::Fitting(fitting)).map(drop)
    }

    /// Records what is stamped on old shells.
    ///
    /// # Errors
    /// [`Refusal`] when a stamp cannot be.
    pub fn stamps(&mut self, stamps: &[(Place, &str)]) -> Result<(), Refusal> {
        let stamp = |(station, text): &(Place, &str)| Stamp { station: *station, text: (*text).into() };
        self.record(What::Stamps(Stamps { stamps: stamps.iter().map(stamp).collect() })).map(drop)
    }

    /// Records a tray of shells measured one by one.
    ///
    /// # Errors
    /// [`Refusal`] when it cannot be.
    pub fn tray(&mut self, tray: Tray) -> Result<(), Refusal> {
        self.record(What::Tray(tray)).map(drop)
    }

    /// Writes a work order; returns its identifier.
    ///
    /// # Errors
    /// [`Refusal`] when it cannot be sent.
    pub fn order(&mut self, order: WorkOrder) -> Result<Uuid, Refusal> {
        self.record(What::Order(order))
    }

    /// Moves a work order on.
    ///
    /// # Errors
    /// [`Refusal`] when that step does not follow.
    pub fn move_order(&mut self, order: Uuid, step: OrderStep, note: &str) -> Result<(), Refusal> {
        self.record(What::OrderMoved(OrderMoved { order, step, note: note.into() })).map(drop)
    }

    /// Looks at a part.
    ///
    /// # Errors
    /// [`Refusal`] when the signs are not seen on that part.
    pub fn look(&mut self, station: Place, part: InspectedPart, signs: &[Sign]) -> Result<(), Refusal> {
        let look = Inspection { station, part, signs: signs.to_vec(), marks: Vec::new() };
        self.record(What::Inspection(look)).map(drop)
    }

    /// Records a check by eye or hand.
    ///
    /// # Errors
    /// [`Refusal`] when the engine has no such place.
    pub fn checked(&mut self, check: Check, at: Option<Place>, found: CheckFound, note: &str) -> Result<(), Refusal> {
        self.record(What::Checked(CheckDone { check, at, found, note: note.into() })).map(drop)
    }

    /// Records what befell the engine, or one of its cylinders.
    ///
    /// # Errors
    /// [`Refusal`] when the engine has no such place.
    pub fn befell(&mut self, befell: Befell, at: Option<Place>, note: &str) -> Result<(), Refusal> {
        self.record(What::Mishap(Mishap { befell, at, note: note.into() })).map(drop)
    }

    /// Asks somebody to measure blind.
    ///
    /// # Errors
    /// [`Refusal`] when there is nothing to compare with, or they took the first readings.
    pub fn ask_blind(&mut self, whom: Person, station: Place, part: Role) -> Result<Uuid, Refusal> {
        let characteristic = Characteristic::at(station, part).ok_or(Refusal::NoSuchFeature(station))?;
        self.record(What::Blind(BlindRequest { whom, station, characteristic }))
    }

    fn gauge_for(&self, characteristic: Characteristic) -> String {
        match characteristic.row().gauge {
            GaugeUse::Outside => self.outside.clone(),
            GaugeUse::Inside => self.inside.clone(),
            other => self.build.gauges.iter().find(|g| g.measures == other).map(|g| g.id.clone()).unwrap_or_default(),
        }
    }

    fn touch(
        &mut self,
        (station, characteristic, read): (Place, Characteristic, Read),
        position: Position,
        text: &str,
    ) -> Result<Uuid, Refusal> {
        let usual = self.build.layout.journal(station.row());
        // With its decimals and its unit: bare digits would be read as the tail of a size.
        let reference = self.reference.clone().unwrap_or_else(|| usual.show(self.build.unit));
        let typed = TypedEntry {
            station,
            characteristic,
            position,
            part: self.part.clone(),
            read,
            reference: Some(reference),
            gauge: self.gauge_for(characteristic),
            in_room: None,
            text: text.into(),
            unit: self.build.unit,
            source: Source::Typed,
            taken: None,
            temperatures: self.temperatures,
            blind: open_request(&self.build, self.by.id, station, characteristic),
            zero: self.zero,
        };
        let seen = redacted(&self.build, self.by.id);
        let seen = seen.as_ref().unwrap_or(&self.build);
        let understood = understand_entry(&self.build, seen, &typed, false)?;
        self.record(What::Reading(understood.reading))
    }

    /// Types the touches of a journal: per position of its plan, texts separated by blanks.
    ///
    /// # Errors
    /// [`Refusal`] when a text cannot be taken.
    pub fn journal(&mut self, station: Place, places: [&str; 4]) -> Result<Vec<Uuid>, Refusal> {
        self.feature(station, Role::JOURNAL, Read::Size, &places)
    }

    /// Types the touches of a bore read that way: front, rear, +45 and -45; returns the readings.
    ///
    /// # Errors
    /// [`Refusal`] when a text cannot be taken.
    pub fn bore(&mut self, station: Place, read: Read, places: &[&str]) -> Result<Vec<Uuid>, Refusal> {
        self.feature(station, Role::BORE, read, places)
    }

    /// Types the touches of any other part as sizes.
    ///
    /// # Errors
    /// [`Refusal`] when a text cannot be taken.
    pub fn size(&mut self, station: Place, part: Role, places: &[&str]) -> Result<Vec<Uuid>, Refusal> {
        self.feature(station, part, Read::Size, places)
    }

    /// Types what takes several figures a touch: per position of its plan, a text for each touch.
    ///
    /// # Errors
    /// [`Refusal`] when a text cannot be taken.
    pub fn pushes(&mut self, station: Place, part: Role, places: &[&[&str]]) -> Result<Vec<Uuid>, Refusal> {
        let characteristic = Characteristic::at(station, part).ok_or(Refusal::NoSuchFeature(station))?;
        let read = characteristic.row().reads.first().copied().unwrap_or(Read::Size);
        let plan = self.build.plan(characteristic, station.kind());
        let mut ids = Vec::new();
        for (planned, texts) in plan.iter().zip(places) {
            for text in *texts {
                ids.push(self.touch((station, characteristic, read), planned.position, text)?);
            }
        }
        Ok(ids)
    }

    fn feature(&mut self, station: Place, part: Role, read: Read, places: &[&str]) -> Result<Vec<Uuid>, Refusal> {
        let characteristic = Characteristic::at(station, part).ok_or(Refusal::NoSuchFeature(station))?;
        let plan = self.build.plan(characteristic, station.kind());
        let mut ids = Vec::new();
        for (planned, texts) in plan.iter().zip(places) {
            for text in texts.split_whitespace() {
                ids.push(self.touch((station, characteristic, read), planned.position, text)?);
            }
        }
        Ok(ids)
    }

    /// Notes how warm parts and gauges are, until another is said.
    pub const fn noted(&mut self, temperatures: Option<Temperatures>) {
        self.temperatures = temperatures;
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
    pub fn concede(&mut self, station: Place, reason: &str) -> Result<(), Refusal> {
        let concession = concession_now(&self.build, Figure::OIL_CLEARANCE, station, reason.into())?;
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
