//! What may be recorded: the one place that admits a fact to a build or refuses it.
use uuid::Uuid;

use super::before::Before;
use super::belief::believe;
use super::lifting::lifts_tight;
use super::refusal::Refusal;
use crate::assess::{Assessment, evaluate};
use crate::build::Build;
use crate::engine::{Characteristic, Figure, Place, Scope, Seat};
use crate::figure::{FigureAssessment, GateShut, covers};
use crate::log::{
    Assignment, BlindRequest, Concession, Fact, Gate, GaugeCheck, MOST_PICTURES, Measure, Picture, Reading,
    SessionClosed, SessionOpened, Signature, SignerRole, TargetChange, Tray, WearRange, What, WorkEvent, may_follow,
};
use crate::maths::{State, Target, TargetError};
use crate::sheet::{SealStatus, seal_digest};
use crate::units::{Flaw, Length, Person, Timestamp, Wrong, check_text, must};

/// Most facts of a build: far more than an engine has, and few enough that its file can be read in again.
pub const MOST_FACTS: u32 = 50_000;
/// Longest text of a reading; any figure is far shorter.
const LONGEST_RAW: usize = 60;

fn on_engine(build: &Build, station: Place) -> Result<(), Refusal> {
    if build.layout.has(station) { Ok(()) } else { Err(no_such_station(build, station)) }
}

/// The refusal that says what places an engine has.
pub(super) fn no_such_station(build: &Build, station: Place) -> Refusal {
    let layout = &build.layout;
    let mut there = format!("mains M1 to M{}", layout.mains);
    if layout.rods.is_some() {
        there += &format!(", pins P1 to P{}, rods R1 to R{}", layout.pins(), layout.rod_count());
    }
    if let Some(cam) = &layout.cam {
        there += &format!(", cam journals C1 to C{}", cam.journals.len());
    }
    let fillets = if layout.rods.is_some() { layout.pins() } else { 0 };
    there += &match fillets {
        0 => format!(", fillets FM1 to FM{}", layout.mains),
        pins => format!(", fillets FM1 to FM{} and FP1 to FP{pins}", layout.mains),
    };
    if layout.cylinders.is_some() {
        let count = layout.cylinder_count();
        there += &format!(", cylinders B1 to B{count} with wrist pins W1 to W{count}");
    }
    there += ", the thrust E";
    Refusal::NoSuchStation { station, there }
}

/// A picture of a place that the engine has, of which the build does not have too many.
fn picture(build: &Build, before: &Before, picture: &Picture) -> Result<(), Refusal> {
    on_engine(build, picture.place)?;
    picture.check()?;
    let more = Flaw::of("pictures", Wrong::Figure("so many that no more are kept with this build"));
    must(before.pictures() < MOST_PICTURES, more).map_err(Refusal::from)
}

/// A place of the engine that has the figure.
fn has_figure(build: &Build, figure: Figure, place: Place) -> Result<(), Refusal> {
    on_engine(build, place)?;
    if figure.is_at(place) { Ok(()) } else { Err(Refusal::NoSuchFeature(place)) }
}

/// A bearing of the engine: a main or a rod, not a pin.
fn bearing(build: &Build, station: Place) -> Result<(), Refusal> {
    on_engine(build, station)?;
    if station.is_bearing() { Ok(()) } else { Err(Refusal::NoSuchFeature(station)) }
}

fn reason(text: &str) -> Result<(), Refusal> {
    check_text(text, "the reason").map_err(|_| Refusal::NoReason)
}

/// Checks that `what` may be the next fact of `build`, recorded by `by`.
///
/// What a person's role allows is another question ([`crate::record::Capabilities::allow`]), and so is
/// the digest of a signature ([`crate::sheet::seal_digest`]).
///
/// # Errors
/// [`Refusal`] says why not.
pub fn admit(build: &Build, by: &Person, what: &What) -> Result<(), Refusal> {
    admit_after(&Before::next_of(build), build, by, what)
}

/// As [`admit`], where what stands `before` the fact is known already.
pub(super) fn admit_after(before: &Before, build: &Build, by: &Person, what: &What) -> Result<(), Refusal> {
    match what {
        What::Reading(r) => reading(build, before, by, r),
        What::Strike(s) => {
            reason(&s.reason)?;
            if !before.can_be_struck(build, s.reading) {
                Err(Refusal::NoSuchReading)
            } else if before.is_struck(s.reading) {
                Err(Refusal::AlreadyStruck)
            } else {
                Ok(())
            }
        }
        What::Target(t) => {
            reason(&t.reason)?;
            t.station.map_or(Ok(()), |s| has_figure(build, t.of(), s))?;
            t.wear.as_ref().map_or(Ok(()), WearRange::check)?;
            let shaft = build.layout.shaft_of(t.of(), t.station.map_or(t.row, Place::row));
            match (t.rule, t.station) {
                (Some(rule), _) => {
                    let window = rule.resolve_within(shaft, &t.of().believed(shaft)).map_err(Refusal::Target)?;
                    let Some(made) = &t.made_of else { return Ok(()) };
                    made.check()?;
                    let sum = made.aim(shaft) == Some(window.aim);
                    Ok(must(sum, Flaw::of("aim", Wrong::Elsewhere("it is the sum of what it is made of")))?)
                }
                (None, Some(_)) => Ok(()),
                (None, None) => Err(Refusal::NoTarget),
            }
        }
        What::Concession(c) => concession(build, c),
        What::Signature(s) => signature(&evaluate(build), by, s),
        What::SessionOpened(s) => session_opened(before, s),
        What::SessionClosed(s) => session_closed(before, s),
        What::Work(w) => work(build, w),
        What::SetUp(s) => {
            s.check()?;
            let named = s.caps.iter().map(|c| c.station).chain(s.shells.iter().map(|s| s.station));
            named.into_iter().try_for_each(|station| bearing(build, station))
        }
        What::Inspection(i) => {
            on_engine(build, i.station)?;
            Ok(i.check()?)
        }
        What::Blind(b) => blind(build, before, b),
        What::Rules(r) => {
            reason(&r.reason)?;
            Ok(r.rules.check()?)
        }
        What::Fitting(f) => {
            f.check()?;
            f.pairs.iter().try_for_each(|p| bearing(build, p.station))
        }
        What::Washers(w) => Ok(w.check()?),
        What::Picture(p) => picture(build, before, p),
        What::Trial(t) => {
            on_engine(build, Place::CAM_THRUST)?;
            Ok(t.check()?)
        }
        What::Strokes(s) => {
            on_engine(build, s.at)?;
            Ok(s.check()?)
        }
        What::Checked(c) => {
            c.at.map_or(Ok(()), |at| on_engine(build, at))?;
            Ok(c.check()?)
        }
        What::Mishap(m) => {
            m.at.map_or(Ok(()), |at| on_engine(build, at))?;
            Ok(m.check()?)
        }
        What::Grid(g) => {
            on_engine(build, g.at)?;
            Ok(g.check()?)
        }
        What::Noted(n) => {
            on_engine(build, n.at)?;
            Ok(n.check()?)
        }
        What::GaugePoint(g) => {
            // There is nothing to say of pistons where none are built.
            on_engine(build, Place::wrist_pin(1))?;
            Ok(g.check()?)
        }
        What::Stamps(s) => {
            s.check()?;
            s.stamps.iter().try_for_each(|s| bearing(build, s.station))
        }
        What::Tray(t) => tray(build, t),
        What::Order(o) => {
            o.check()?;
            o.items.iter().try_for_each(|i| on_engine(build, i.station))
        }
        What::OrderMoved(m) => {
            reason(&m.note)?;
            match before.order(m.order) {
                None => Err(Refusal::NoSuchOrder),
                Some(last) if may_follow(last, m.step) => Ok(()),
                Some(_) => Err(Refusal::OrderElsewhere),
            }
        }
        What::Plan(p) => {
            reason(&p.reason)?;
            Ok(p.plan.check()?)
        }
        What::Part(p) => {
            p.check()?;
            if before.standing().kind_of(&p.tag).is_some() { Err(Refusal::PartNamed(p.tag.clone())) } else { Ok(()) }
        }
        What::Assigned(a) => assigned(build, before, a),
        What::Condemned(c) => {
            reason(&c.reason)?;
            let standing = before.standing();
            if standing.kind_of(&c.part).is_none() {
                Err(Refusal::NoSuchPart(c.part.clone()))
            } else if standing.condemned(&c.part).is_some() != c.lifted {
                Err(if c.lifted { Refusal::NothingMoves } else { Refusal::PartCondemned(c.part.clone()) })
            } else {
                Ok(())
            }
        }
        What::Imported(i) => {
            i.check()?;
            must(i.facts == build.seq(), Flaw::of("facts", Wrong::Figure("the number of facts before it")))?;
            Ok(())
        }
    }
}

/// Parts that exist, that are fit, and that go where they belong.
fn assigned(build: &Build, before: &Before, a: &Assignment) -> Result<(), Refusal> {
    a.check()?;
    let standing = before.standing();
    let mut moves = false;
    let mut filled: Vec<Seat> = Vec::new();
    for m in &a.moves {
        let kind = standing.kind_of(&m.part).ok_or_else(|| Refusal::NoSuchPart(m.part.clone()))?;
        let seat = Seat { kind, place: m.place };
        if !seat.is_in(&build.layout) || filled.contains(&seat) {
            return Err(Refusal::PartElsewhere(m.part.clone()));
        }
        if standing.condemned(&m.part).is_some() {
            return Err(Refusal::PartCondemned(m.part.clone()));
        }
        moves |= standing.on(seat) != Some(m.part.as_str());
        filled.push(seat);
    }
    if moves { Ok(()) } else { Err(Refusal::NothingMoves) }
}

fn tray(build: &Build, t: &Tray) -> Result<(), Refusal> {
    let gauge = build.gauge(&t.gauge).ok_or_else(|| Refusal::UnknownGauge(t.gauge.clone()))?;
    if !Characteristic::UPPER_WALL.fits(gauge.measures) {
        return Err(Refusal::GaugeDoesNotFit(gauge.name.clone()));
    }
    t.check()?;
    let there = build.layout.bearings(t.row).next().is_some();
    Ok(must(there, Flaw::of("row", Wrong::Elsewhere("this engine has no such bearings")))?)
}

fn check(c: &GaugeCheck) -> Result<(), Refusal> {
    let size = |l: Length| l > Length::ZERO && l.in_limits();
    let sound = size(c.standard) && size(c.shown) && c.raw.chars().count() <= LONGEST_RAW;
    if sound { Ok(()) } else { Err(Refusal::NoSize) }
}

fn session_opened(before: &Before, s: &SessionOpened) -> Result<(), Refusal> {
    s.gauge.check()?;
    if before.sessions().running(&s.gauge.id).is_some() {
        return Err(Refusal::SessionOpen(s.gauge.name.clone()));
    }
    let Some(c) = &s.check else { return Ok(()) };
    check(c)?;
    if c.error().abs() > s.gauge.resolution { Err(Refusal::NotZeroed) } else { Ok(()) }
}

fn session_closed(before: &Before, s: &SessionClosed) -> Result<(), Refusal> {
    if before.sessions().get(s.session).is_none_or(|known| known.closed_at.is_some()) {
        return Err(Refusal::NoSuchSession);
    }
    s.check.as_ref().map_or(Ok(()), check)
}

fn work(build: &Build, w: &WorkEvent) -> Result<(), Refusal> {
    if let Scope::One(station) = w.on {
        on_engine(build, station)?;
    }
    let there = build.layout.places().any(|s| w.on.covers(s));
    if !there || !w.work.can_be_on(w.on) {
        return Err(Refusal::WorkElsewhere(w.on.to_string()));
    }
    Ok(w.check()?)
}

fn blind(build: &Build, before: &Before, b: &BlindRequest) -> Result<(), Refusal> {
    on_engine(build, b.station)?;
    if !b.characteristic.row().at.contains(&b.station.kind()) {
        return Err(Refusal::NoSuchFeature(b.station));
    }
    if before.open_request(b.whom.id, b.station, b.characteristic).is_some() {
        return Err(Refusal::AlreadyAsked(b.whom.name.clone()));
    }
    let struck = before.struck();
    let mut first = build
        .readings()
        .filter(|(f, r)| {
            r.blind.is_none()
                && (r.station, r.characteristic) == (b.station, b.characteristic)
                && !struck.contains(&f.id)
        })
        .peekable();
    if first.peek().is_none() {
        return Err(Refusal::NothingToCompare);
    }
    if first.any(|(f, _)| f.by.id == b.whom.id) { Err(Refusal::OwnReadings(b.whom.name.clone())) } else { Ok(()) }
}

fn reading(build: &Build, before: &Before, by: &Person, r: &Reading) -> Result<(), Refusal> {
    on_engine(build, r.station)?;
    if !r.characteristic.row().at.contains(&r.station.kind()) {
        return Err(Refusal::NoSuchFeature(r.station));
    }
    if !before.plan(r.characteristic, r.station.kind()).iter().any(|p| p.position == r.position) {
        return Err(Refusal::NoSuchPosition);
    }
    if let Some(part) = &r.part {
        let kind = before.standing().kind_of(part);
        if kind.is_none() {
            return Err(Refusal::NoSuchPart(part.clone()));
        }
        if kind != Some(r.characteristic.row().part) {
            return Err(Refusal::PartElsewhere(part.clone()));
        }
    }
    let session = match r.session {
        Some(id) => Some(
            before
                .sessions()
                .get(id)
                .filter(|s| s.closed_at.is_none_or(|closed| r.taken.is_some_and(|taken| taken <= closed)))
                .filter(|s| s.gauge.id == r.gauge)
                .ok_or(Refusal::NoSuchSession)?,
        ),
        None => None,
    };
    let gauge = session.map(|s| &s.gauge).or_else(|| before.gauge(&r.gauge));
    let gauge = gauge.ok_or_else(|| Refusal::UnknownGauge(r.gauge.clone()))?;
    if !r.characteristic.fits(gauge.measures) {
        return Err(Refusal::GaugeDoesNotFit(gauge.name.clone()));
    }
    if r.raw.chars().count() > LONGEST_RAW {
        return Err(Refusal::NoSize);
    }
    if r.taken.is_some_and(|taken| taken.0 < build.opened_at.0) {
        return Err(Refusal::TakenBefore);
    }
    if r.temperatures.is_some_and(|t| !t.are_plausible()) {
        return Err(Refusal::BadTemperature);
    }
    if r.blind != before.open_request(by.id, r.station, r.characteristic) {
        return Err(Refusal::BlindMismatch);
    }
    let sane = |sane: bool| if sane { Ok(()) } else { Err(Refusal::NoSize) };
    let size = |l: Length| sane(l > Length::ZERO && l.in_limits());
    if !r.characteristic.can_be_read(r.measure.read()) {
        return Err(Refusal::DialOnJournal);
    }
    if let Measure::Dial { reference, dial } = r.measure {
        size(reference)?;
        sane(dial.in_limits())?;
    }
    match r.measure {
        // A crank that does not move is bound, and that is a finding.
        Measure::Travel { first, second, again } => sane([first, second, again].into_iter().all(Length::in_limits))?,
        // A shaft that runs true shows nothing, and one that does not shows less as often as more.
        Measure::Turn { shown } => sane(shown.in_limits())?,
        Measure::Blades { passes, refuses } => {
            size(refuses)?;
            if passes < Length::ZERO || passes >= refuses {
                return Err(Refusal::BladesReversed);
            }
        }
        Measure::Size { size: level } if r.characteristic.row().signed => sane(level.in_limits())?,
        Measure::Size { .. } | Measure::Dial { .. } => size(r.measure.size())?,
    }
    // What an indicator shows less is as far from where it began as what it shows more.
    let reached = gauge.range.is_none_or(|range| range.reaches(r.measure.size().abs()));
    if reached { Ok(()) } else { Err(Refusal::OutOfRange(gauge.name.clone())) }
}

fn concession(build: &Build, c: &Concession) -> Result<(), Refusal> {
    reason(&c.reason)?;
    has_figure(build, c.of(), c.station)?;
    let assessed = evaluate(build);
    if let Some(gate) = c.gate {
        return match assessed.figure(c.of(), c.station).and_then(|f| shut(f, gate)) {
            Some(shut) if shut.amount == c.clearance => Ok(()),
            Some(_) => Err(Refusal::FigureMoved(c.station)),
            None => Err(Refusal::NothingToConcede(c.station)),
        };
    }
    let found = assessed.figure(c.of(), c.station).and_then(|f| f.judged.as_ref().zip(f.target.as_ref()));
    match found {
        Some((judged, _)) if judged.state == State::In => Err(Refusal::NothingToConcede(c.station)),
        Some((judged, target)) if covers(c, judged, &target.window) => Ok(()),
        Some(_) => Err(Refusal::FigureMoved(c.station)),
        None => Err(Refusal::NothingToConcede(c.station)),
    }
}

/// A remark that blocks at a figure and that nobody accepted yet.
fn shut(f: &FigureAssessment, gate: Gate) -> Option<&GateShut> {
    f.gates.iter().find(|shut| shut.gate == gate && shut.concession.is_none())
}

/// Checks that `by` may sign what is assessed.
fn signature(assessed: &Assessment, by: &Person, s: &Signature) -> Result<(), Refusal> {
    let sheet = &assessed.sign_off;
    match sheet.status {
        SealStatus::Blocked => return Err(Refusal::Blocked(sheet.blocks.clone())),
        SealStatus::Sealed => return Err(Refusal::AlreadySealed),
        SealStatus::DoesNotMatch => return Err(Refusal::SealBroken),
        SealStatus::Ready => {}
    }
    if s.revision != sheet.revision {
        return Err(Refusal::WrongRevision(sheet.revision));
    }
    if sheet.signatures.iter().any(|g| g.role == s.role) {
        return Err(Refusal::AlreadySigned(s.role));
    }
    if sheet.signatures.iter().any(|g| g.by.id == by.id) {
        return Err(Refusal::SamePerson);
    }
    Ok(())
}

/// Nothing can be proven between two limits that are the same. Earlier versions recorded such targets: a file that has one
/// still opens.
fn has_width(build: &Build, what: &What) -> Result<(), Refusal> {
    let What::Target(change @ TargetChange { rule: Some(rule), station, row, .. }) = what else { return Ok(()) };
    let shaft = build.layout.shaft_of(change.of(), station.map_or(*row, Place::row));
    match rule.resolve_within(shaft, &(-Length::LIMIT..=Length::LIMIT)) {
        Ok(window) if window.low == window.high => Err(Refusal::Target(TargetError::NoWidth)),
        _ => Ok(()),
    }
}

/// What shows in no figure has to be ticked before a step may be called done. Earlier versions did not ask: a file without
/// still opens.
fn is_ticked(what: &What) -> Result<(), Refusal> {
    match what {
        What::Work(event) => match event.unticked() {
            Some(tick) => Err(Refusal::NotTicked(tick)),
            None => Ok(()),
        },
        _ => Ok(()),
    }
}

/// The next fact of `build`: admits `what`, gives it its place, and seals it if it is a signature.
///
/// # Errors
/// [`Refusal`] says why it may not be recorded.
pub fn next_fact(build: &Build, id: Uuid, at: Timestamp, by: Person, what: What) -> Result<Fact, Refusal> {
    if build.seq() >= MOST_FACTS {
        return Err(Refusal::Full);
    }
    admit(build, &by, &what)?;
    believe(build, &what)?;
    has_width(build, &what)?;
    is_ticked(&what)?;
    let lifts = lifts_tight(build, &what);
    let looser = match &what {
        What::Rules(change) => change.rules.loosened_from(build.rules_now()),
        _ => Vec::new(),
    };
    let what = what.lifting(lifts).loosening(looser);
    let mut fact = Fact { id, seq: build.seq().saturating_add(1), at, by, what };
    if matches!(fact.what, What::Signature(_)) {
        let made = seal_digest(build, &fact);
        if let What::Signature(signature) = &mut fact.what {
            signature.digest = made;
        }
    }
    Ok(fact)
}

/// The signature that `role` would give to the sheet as it is now; its digest is made when it is
/// recorded.
pub fn signature_now(build: &Build, role: SignerRole) -> Signature {
    Signature { role, revision: evaluate(build).sign_off.revision, digest: String::new(), mark: None }
}

/// The acceptance of the present value of a figure, ready to be recorded.
///
/// # Errors
/// [`Refusal`] when there is no such figure or nothing to accept there.
pub fn concession_now(build: &Build, figure: Figure, place: Place, reason: String) -> Result<Concession, Refusal> {
    has_figure(build, figure, place)?;
    let assessed = evaluate(build);
    match assessed.figure(figure, place).and_then(|f| f.judged.as_ref().zip(f.target.as_ref())) {
        Some((j, t)) if j.state != State::In => Ok(Concession {
            // The oil clearance needs no mention: it was the only figure at first.
            figure: (figure != Figure::OIL_CLEARANCE).then_some(figure),
            station: place,
            state: j.state,
            clearance: j.clearance,
            target: t.window,
            gate: None,
            reason,
        }),
        _ => Err(Refusal::NothingToConcede(place)),
    }
}

/// The lead's acceptance of a remark that blocks at a figure, as much of it as there is now.
///
/// # Errors
/// [`Refusal`] when there is no such figure or no such remark blocks there.
pub fn remark_accepted_now(
    build: &Build,
    (figure, place): (Figure, Place),
    gate: Gate,
    reason: String,
) -> Result<Concession, Refusal> {
    has_figure(build, figure, place)?;
    let assessed = evaluate(build);
    let nothing = || Refusal::NothingToConcede(place);
    let f = assessed.figure(figure, place).ok_or_else(nothing)?;
    let (shut, judged) = shut(f, gate).zip(f.judged.as_ref()).ok_or_else(nothing)?;
    let none = Target { low: Length::ZERO, aim: Length::ZERO, high: Length::ZERO };
    Ok(Concession {
        figure: (figure != Figure::OIL_CLEARANCE).then_some(figure),
        station: place,
        state: judged.state,
        clearance: shut.amount,
        target: f.target.as_ref().map_or(none, |t| t.window),
        gate: Some(gate),
        reason,
    })
}
