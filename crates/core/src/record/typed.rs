//! At the bench: what a cell expects, and the reading that typed or sent text becomes.
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::admission::no_such_station;
use super::refusal::Refusal;
use crate::assess::{Around, TypedAt, around};
use crate::build::{Build, with_part_in};
use crate::engine::{Characteristic, Expects, GaugeUse, Place, Position, Read, Role};
use crate::evidence::Sessions;
use crate::gauge::Gauge;
use crate::log::{GaugeCheck, Measure, Reading, Reckoning, Rules, Source, ZeroSource};
use crate::maths::{
    BELONGS_WITHIN, Cell, CellKind, Entry, EntryError, How, Temperatures, identify_undersize, parse_entry, parse_length,
};
use crate::units::{Length, Timestamp, Unit};

/// A cell of the bench and what was typed into it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct TypedEntry {
    /// Where on the engine.
    pub station: Place,
    /// On what.
    pub characteristic: Characteristic,
    /// Where on it.
    pub position: Position,
    /// The part, where it is not the one that stands there: a candidate.
    pub part: Option<String>,
    /// On the dial, or as a size; a size where a dial says nothing about it.
    pub read: Read,
    /// For a dial: the size it was zeroed at, as typed.
    pub reference: Option<String>,
    /// The gauge.
    pub gauge: String,
    /// The gauge as it hangs in the gauge room now; the build may know an earlier one of its name, or none.
    pub in_room: Option<Gauge>,
    /// The text.
    pub text: String,
    /// Unit of a bare figure.
    pub unit: Unit,
    /// How it came in.
    pub source: Source,
    /// When it was taken, where it waited before it is kept.
    pub taken: Option<Timestamp>,
    /// Temperatures noted with it.
    pub temperatures: Option<Temperatures>,
    /// The blind request it answers.
    pub blind: Option<Uuid>,
    /// For a dial: what the gauge was zeroed in, where it is said with the reading.
    pub zero: Option<ZeroSource>,
}

/// A reading that was understood, and how.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct UnderstoodEntry {
    /// The reading it would be.
    pub reading: Reading,
    /// How the text was read.
    pub entry: Entry,
}

/// Reads what was typed at the bench. With `force` the sanity band is not applied. A gauge that was
/// checked into a session brings the session with it. `seen` is the build as whoever typed it may see it
/// ([`crate::build::redacted`]): a person who measures blind is held against nothing they must not see.
///
/// # Errors
/// [`Refusal`] when the cell does not exist or the text cannot be taken.
pub fn understand_entry(
    build: &Build,
    seen: &Build,
    typed: &TypedEntry,
    force: bool,
) -> Result<UnderstoodEntry, Refusal> {
    let at = measured_at(build, typed)?;
    let candidate = match &typed.part {
        Some(part) => Some(with_part_in(seen, part).ok_or_else(|| Refusal::NoSuchPart(part.clone()))?),
        None => None,
    };
    let seen = candidate.as_ref().unwrap_or(seen);
    understand_around(build, around(seen, at), typed, force)
}

/// What an entry measures.
///
/// # Errors
/// [`Refusal`] when the engine has no such place, or the place no such thing.
pub(super) fn measured_at(build: &Build, typed: &TypedEntry) -> Result<TypedAt, Refusal> {
    let TypedEntry { station, characteristic, position, .. } = *typed;
    if !build.layout.has(station) {
        return Err(no_such_station(build, station));
    }
    if !characteristic.row().at.contains(&station.kind()) {
        return Err(Refusal::NoSuchFeature(station));
    }
    Ok((station, characteristic, (read_of(typed), position.track)))
}

/// How an entry is read: the usual way where it cannot be read the way it says.
fn read_of(typed: &TypedEntry) -> Read {
    let usual = typed.characteristic.row().reads.first().copied().unwrap_or(Read::Size);
    if typed.characteristic.can_be_read(typed.read) { typed.read } else { usual }
}

/// Reads what was typed, by what is known around it: `None` where no figure is made of such a thing.
pub(super) fn understand_around(
    build: &Build,
    around: Option<Around>,
    typed: &TypedEntry,
    force: bool,
) -> Result<UnderstoodEntry, Refusal> {
    let TypedEntry { station, characteristic, position, .. } = *typed;
    let read = read_of(typed);
    let around = around.ok_or_else(|| no_such_station(build, station))?;
    let at = around.measured.size.positions.iter().find(|p| p.position == position);
    let expected = at.map(|p| p.expected).ok_or(Refusal::NoSuchPosition)?;
    let sessions = Sessions::of(&build.notes(), build.rules_now().reckoning);
    let session = match typed.taken {
        Some(taken) => sessions.at(&typed.gauge, taken),
        None => sessions.running(&typed.gauge),
    };
    let gauge = session.map(|s| &s.gauge).or(typed.in_room.as_ref()).or_else(|| build.gauge(&typed.gauge));
    let gauge = gauge.ok_or_else(|| Refusal::UnknownGauge(typed.gauge.clone()))?;
    let reference = if read == Read::Dial { Some(reference(build, &around, typed)?) } else { None };
    let zero = typed.zero.or_else(|| session.and_then(|s| s.zero)).filter(|_| read == Read::Dial);
    let elsewhere = reference.zip(session.filter(|_| zero != Some(ZeroSource::Locked))).and_then(|(reference, s)| {
        let standard = s.open.as_ref()?.standard;
        // Far from it, the gauge was set anew for another row; near it, somebody slipped or set it anew.
        let near = (reference - standard).abs() <= around.rules.size_band;
        (near && reference != standard).then(|| Refusal::ReferenceDiffers {
            reference: reference.show(typed.unit),
            standard: standard.show(typed.unit),
        })
    });
    let second = around.rules.reckoning >= Reckoning::Second;
    if let Some(differs) = elsewhere.filter(|_| second && !force) {
        return Err(differs);
    }

    let cell = Typing { text: &typed.text, unit: typed.unit, resolution: resolution(gauge, typed.unit), force };
    let Understood { measure, entry, forced } = match read {
        Read::Travel => travel(&cell, expected, &around.rules)?,
        Read::Blades => blades(&cell, around.aim, gauge.resolution)?,
        Read::Turn => turn(&cell)?,
        Read::Size | Read::Dial => one_figure(&cell, characteristic.cell(), expected, reference, &around.rules)?,
    };
    let misread =
        (read == Read::Size && second).then(|| misread(build, &around, characteristic, &measure, (gauge, typed.unit)));
    if let Some(misread) = misread.flatten().filter(|_| !force) {
        return Err(misread);
    }
    let measured = around.measured.size.size.is_some() || (around.row_known && characteristic.role() == Role::JOURNAL);
    if second && !measured && entry.how == How::Tail && typed.text.trim().len() == 1 {
        return Err(Refusal::LoneDigit);
    }
    let beyond = parts_leave(build, &around).filter(|(tight, loose)| {
        let journal = around.journal.unwrap_or_default();
        let clearance = measure.size() - journal;
        let judged = characteristic.role() == Role::BORE && position.angle == 0;
        second && judged && !(*tight..=*loose).contains(&clearance)
    });
    if let Some((tight, loose)) = beyond.filter(|_| !force) {
        let clearance = measure.size() - around.journal.unwrap_or_default();
        let [clearance, tight, loose] = [clearance, tight, loose].map(|l| l.show(typed.unit));
        return Err(Refusal::BeyondParts { clearance, tight, loose });
    }
    let forced = forced || beyond.is_some();
    let reading = Reading {
        station,
        characteristic,
        position,
        part: typed.part.clone(),
        measure,
        gauge: typed.gauge.clone(),
        raw: typed.text.clone(),
        source: typed.source,
        forced,
        taken: typed.taken,
        session: session.map(|s| s.id),
        temperatures: typed.temperatures.filter(|t| t.part_mc.is_some() || t.gauge_mc.is_some()),
        blind: typed.blind,
        zero,
    };
    Ok(UnderstoodEntry { reading, entry })
}

/// The least that housings may be believed to give and shells to take, beyond what the catalogue lets them: shells of the next
/// class, or a housing a little out of size.
const BEYOND_CATALOGUE: Length = Length::tenths(10);

/// From where to where the oil clearance of a bearing can lie, by the catalogue's housing and walls and the journal as it is
/// measured; nothing while one of them is not known. `housing - 2 wall - journal` at both ends of the tolerances, and half of
/// what lies between them more to either side.
fn parts_leave(build: &Build, around: &Around) -> Option<(Length, Length)> {
    let (n, journal) = (build.layout.nominals(around.row)?, around.journal?);
    let nominal = build.layout.journal(around.row);
    let class = identify_undersize(journal, nominal, &n.undersizes, BELONGS_WITHIN)?;
    // A journal that is under by a class runs in walls that are thicker by half of it.
    let standard = journal + class.undersize;
    let tight = n.housing - n.housing_tolerance - n.wall - n.wall - standard;
    let thin = n.wall - n.wall_tolerance;
    let loose = n.housing + n.housing_tolerance - thin - thin - standard;
    let more = Length::from_nm((loose - tight).nm() / 2).max(BEYOND_CATALOGUE);
    Some((tight - more, loose + more))
}

/// What was typed, and into what kind of cell.
struct Typing<'a> {
    text: &'a str,
    unit: Unit,
    resolution: Length,
    /// Whether it is kept outside the sanity band.
    force: bool,
}

/// What a text means.
struct Understood {
    measure: Measure,
    entry: Entry,
    forced: bool,
}

/// A size, or the deflection of a dial that was zeroed at a reference.
fn one_figure(
    typing: &Typing<'_>,
    of: CellKind,
    expected: Length,
    reference: Option<Length>,
    rules: &Rules,
) -> Result<Understood, Refusal> {
    let (kind, band) = match reference {
        Some(_) => (CellKind::Dial, rules.dial_band),
        None => (of, rules.size_band),
    };
    let cell = Cell {
        kind,
        unit: typing.unit,
        // Nothing is expected of what has no drawing and was never measured.
        expected: Some(reference.map_or(expected, |r| expected - r)).filter(|_| expected != Length::ZERO),
        resolution: typing.resolution,
        band,
    };
    let (entry, forced) = match parse_entry(typing.text, &cell) {
        Err(EntryError::OutOfBand { .. }) if typing.force => {
            (parse_entry(typing.text, &Cell { band: Length::LIMIT, ..cell })?, true)
        }
        other => (other?, false),
    };
    let measure = match reference {
        Some(reference) => Measure::Dial { dial: entry.value, reference },
        None => Measure::Size { size: entry.value },
    };
    Ok(Understood { measure, entry, forced })
}

/// So many figures, as blanks or slashes part them.
fn figures<const N: usize>(text: &str, such_as: &'static str) -> Result<[String; N], Refusal> {
    let parts: Vec<String> =
        text.split(|c: char| c.is_whitespace() || c == '/').filter(|t| !t.is_empty()).map(str::to_owned).collect();
    parts.try_into().map_err(|_| Refusal::Figures { wanted: N, such_as })
}

/// A figure in steps of the dial, of any size: what several of them come to is held against what is expected.
fn in_steps(typing: &Typing<'_>) -> Cell {
    let resolution = typing.resolution;
    Cell { resolution, band: Length::LIMIT, ..Cell::new(CellKind::Dial, typing.unit) }
}

/// Pushed one way, the other, and the first way again: three figures of one dial.
fn travel(typing: &Typing<'_>, expected: Length, rules: &Rules) -> Result<Understood, Refusal> {
    let [first, second, again] = figures(typing.text, "0 110 0: pushed one way, the other, and back")?;
    let cell = in_steps(typing);
    let [first, entry, again] = [first, second, again].map(|text| parse_entry(&text, &cell));
    let (first, entry, again) = (first?, entry?, again?);
    let measure = Measure::Travel { first: first.value, second: entry.value, again: again.value };
    let value = measure.size();
    let off = (value - expected).abs();
    let believed = expected == Length::ZERO || off <= rules.dial_band;
    if !believed && !typing.force {
        let show = |l: Length| l.show(typing.unit);
        return Err(Refusal::Entry(EntryError::OutOfBand {
            value: show(value),
            away: show(off),
            expected: show(expected),
            band: show(rules.dial_band),
        }));
    }
    Ok(Understood { measure, entry: Entry { value, ..entry }, forced: !believed })
}

/// What the indicator shows at one clock.
fn turn(typing: &Typing<'_>) -> Result<Understood, Refusal> {
    let entry = parse_entry(typing.text, &in_steps(typing))?;
    Ok(Understood { measure: Measure::Turn { shown: entry.value }, entry, forced: false })
}

/// The thickest blade of an inch set: beyond, a bare figure is meant in tenths.
const THICKEST_STAMPED: i64 = 60;

/// The largest blade that passes, and the smallest that does not: as they are stamped, with a point or in thou, or in steps of
/// the dial. Where both can be meant, what lies nearer to the aim is.
fn blades(typing: &Typing<'_>, aim: Option<Length>, step: Length) -> Result<Understood, Refusal> {
    let example = match typing.unit {
        Unit::Inch => "10 11 or .010 .011: the blade that passes, and the one that does not",
        Unit::Mm => "250 300 or .25 .30: the blade that passes, and the one that does not",
    };
    let texts = figures(typing.text, example)?;
    let both = |parse: &dyn Fn(&str) -> Result<Length, EntryError>| -> Result<[Length; 2], EntryError> {
        let [passes, refuses] = &texts;
        Ok([parse(passes)?, parse(refuses)?])
    };
    let cell = in_steps(typing);
    let in_steps = both(&|text| parse_entry(text, &cell).map(|e| e.value));
    let stamped = stamped(typing.unit, &texts);
    let off = |[passes, refuses]: [Length; 2]| {
        let middle = Length::mean(&[passes, refuses]).unwrap_or(passes).as_f64().max(1.0);
        aim.map_or(0.0, |aim| (middle / aim.as_f64().max(1.0)).ln().abs())
    };
    let [passes, refuses] = match (stamped, in_steps) {
        (Some(stamped), Ok(steps)) if off(steps) < off(stamped) => steps,
        (Some(stamped), _) => stamped,
        (None, steps) => steps?,
    };
    if passes >= refuses {
        return Err(Refusal::BladesReversed);
    }
    // A half step is in many sets besides; nothing between.
    let is_blade = |blade: Length| blade.nm().saturating_mul(2).checked_rem(step.nm()).is_none_or(|rest| rest == 0);
    let known = is_blade(passes) && is_blade(refuses);
    if !known && !typing.force {
        return Err(Refusal::NoSuchBlade { step: step.show(typing.unit) });
    }
    let measure = Measure::Blades { passes, refuses };
    Ok(Understood { measure, entry: Entry { value: measure.size(), how: How::Unit }, forced: !known })
}

/// Both blades as they are stamped: with a point a length, without one thou. `None` where they are not stamped like that.
pub(super) fn stamped(unit: Unit, texts: &[String; 2]) -> Option<[Length; 2]> {
    let thou = |text: &str| text.parse::<i64>().ok().filter(|n| unit == Unit::Inch && *n <= THICKEST_STAMPED);
    let pointed = |text: &str| text.contains(['.', ',']).then(|| parse_length(text, unit).ok()).flatten();
    let blade = |text: &String| {
        let whole = thou(text).map(|n| Length::tenths(n.saturating_mul(10)));
        // A point before anything else is a length; behind a whole figure it parts thou: 1.5.
        let length = pointed(text).map(|l| match unit {
            Unit::Inch if l > Length::tenths(10_000) => Length::from_nm(l.nm() / 1_000),
            _ => l,
        });
        whole.or(length)
    };
    let [passes, refuses] = texts;
    Some([blade(passes)?, blade(refuses)?])
}

/// One turn of a thimble: the commonest misreading of a mic.
const fn one_turn(unit: Unit) -> Length {
    match unit {
        Unit::Inch => Length::tenths(250),
        Unit::Mm => Length::microns(500),
    }
}

/// How near to a whole turn a size is taken for one misread.
const NEAR_A_TURN: Length = Length::tenths(15);

/// How far a journal may lie over its drawing before nobody believes it.
const OVER_DRAWING: Length = Length::tenths(30);

/// What a mic shows that was misread: a turn of its thimble away from what is expected, or a journal over its drawing.
fn misread(
    build: &Build,
    around: &Around,
    of: Characteristic,
    measure: &Measure,
    (gauge, unit): (&Gauge, Unit),
) -> Option<Refusal> {
    if gauge.measures != GaugeUse::Outside {
        return None;
    }
    let size = measure.size();
    let known = around.measured.size.size.as_ref().map(|s| s.effective);
    let drawing = (of.role() == Role::JOURNAL).then(|| build.layout.journal(around.row));
    let expected = known.or(drawing)?;
    let off = (size - expected).abs();
    if (off - one_turn(unit)).abs() <= NEAR_A_TURN {
        return Some(Refusal::OneTurn { by: off.show(unit) });
    }
    let over = drawing.map(|drawing| size - drawing).filter(|over| *over > OVER_DRAWING);
    over.map(|over| Refusal::OverDrawing { by: over.show(unit) })
}

/// Reads a check of a gauge on a standard: for a bore gauge what is shown is its dial, for others a size.
///
/// # Errors
/// [`Refusal`] when a text cannot be taken.
pub fn understand_check(gauge: &Gauge, unit: Unit, standard: &str, shown: &str) -> Result<GaugeCheck, Refusal> {
    let standard = crate::maths::parse_length(standard, unit).map_err(Refusal::Reference)?;
    let resolution = resolution(gauge, unit);
    let read = if gauge.measures == GaugeUse::Inside {
        let cell = Cell { resolution, ..Cell::new(CellKind::Dial, unit) };
        standard + parse_entry(shown, &cell)?.value
    } else {
        let cell = Cell { resolution, ..Cell::new(CellKind::Size, unit).expecting(standard) };
        parse_entry(shown, &cell)?.value
    };
    Ok(GaugeCheck { standard, shown: read, raw: shown.trim().to_owned() })
}

/// A tail only makes sense in the unit whose decimals the gauge shows.
fn resolution(gauge: &Gauge, unit: Unit) -> Length {
    let counts =
        gauge.resolution.to_decimal(unit).scale() <= unit.dial_step().to_decimal(unit).scale().saturating_add(1);
    if counts { gauge.resolution } else { unit.dial_step() }
}

fn reference(build: &Build, around: &Around, typed: &TypedEntry) -> Result<Length, Refusal> {
    let text = typed.reference.as_deref().map(str::trim).filter(|t| !t.is_empty()).ok_or(Refusal::NoReference)?;
    let journal = build.layout.journal(around.row);
    let rules = build.rules_now();
    let usual = match typed.characteristic.row().expects {
        Expects::Housing => match build.layout.nominals(around.row) {
            Some(nominals) => nominals.housing,
            // Nobody knows what it is set to for a housing that is not known: the figure says it whole.
            None if rules.reckoning >= Reckoning::Second => {
                return parse_length(text, typed.unit).map_err(Refusal::Reference);
            }
            None => journal,
        },
        _ => around.journal.unwrap_or(journal),
    };
    let band = rules.size_band;
    // A whole figure that can be meant is meant: 55 is a ring of 55 mm, not the last digits of 54.990.
    if let Ok(whole) = parse_length(text, typed.unit)
        && (whole - usual).abs() <= band
    {
        return Ok(whole);
    }
    let cell = Cell { band, ..Cell::new(CellKind::Size, typed.unit).expecting(usual) };
    parse_entry(text, &cell).map(|e| e.value).map_err(Refusal::Reference)
}
