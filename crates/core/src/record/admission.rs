//! What may be recorded: the one place that admits a fact to a build or refuses it.

use uuid::Uuid;

use super::refusal::Refusal;
use crate::assess::{Assessment, evaluate};
use crate::build::{Build, last_step, open_request, order_of};
use crate::engine::{Feature, Part, Scope, Station};
use crate::evidence::Sessions;
use crate::figure::covers;
use crate::log::{
    BlindRequest, Concession, Fact, GaugeCheck, Measure, Reading, SessionClosed, SessionOpened, Signature, SignerRole,
    Tray, What, WorkEvent, may_follow,
};
use crate::maths::State;
use crate::sheet::{SealStatus, seal_digest};
use crate::units::{Length, Person, Timestamp, check_text};

/// Longest text of a reading; any figure is far shorter.
const LONGEST_RAW: usize = 60;

fn on_engine(build: &Build, station: Station) -> Result<(), Refusal> {
    if build.layout.has(station) { Ok(()) } else { Err(no_such_station(build, station)) }
}

/// The refusal that says what places an engine has.
pub(super) fn no_such_station(build: &Build, station: Station) -> Refusal {
    let layout = &build.layout;
    let mut there = format!("mains M1 to M{}", layout.mains);
    if layout.rods.is_some() {
        there += &format!(", pins P1 to P{}, rods R1 to R{}", layout.pins(), layout.rod_count());
    }
    Refusal::NoSuchStation { station, there }
}

/// A bearing of the engine: a main or a rod, not a pin.
fn bearing(build: &Build, station: Station) -> Result<(), Refusal> {
    on_engine(build, station)?;
    if matches!(station, Station::Pin(_)) { Err(Refusal::NoSuchFeature(station)) } else { Ok(()) }
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
    match what {
        What::Reading(r) => reading(build, by, r),
        What::Strike(s) => {
            reason(&s.reason)?;
            if !build.readings().any(|(f, _)| f.id == s.reading) {
                Err(Refusal::NoSuchReading)
            } else if already_struck(build, s.reading) {
                Err(Refusal::AlreadyStruck)
            } else {
                Ok(())
            }
        }
        What::Target(t) => {
            reason(&t.reason)?;
            t.station.map_or(Ok(()), |s| bearing(build, s))?;
            let row = t.station.map_or(t.row, Station::row);
            match (t.rule, t.station) {
                (Some(rule), _) => rule.resolve(build.layout.journal(row)).map(drop).map_err(Refusal::Target),
                (None, Some(_)) => Ok(()),
                (None, None) => Err(Refusal::NoTarget),
            }
        }
        What::Concession(c) => concession(build, c),
        What::Signature(s) => signature(&evaluate(build), by, s),
        What::SessionOpened(s) => session_opened(build, s),
        What::SessionClosed(s) => session_closed(build, s),
        What::Work(w) => work(build, w),
        What::SetUp(s) if !s.is_sound() => Err(Refusal::Unsound(
            "a set-up needs its fasteners, a lubricant and at least one torque step, each within reason",
        )),
        What::SetUp(s) => {
            let named = s.caps.iter().map(|c| c.station).chain(s.shells.iter().map(|s| s.station));
            named.into_iter().try_for_each(|station| bearing(build, station))
        }
        What::Inspection(l) => {
            on_engine(build, l.station)?;
            if l.is_sound() { Ok(()) } else { Err(Refusal::Unsound("those signs are not seen on that part")) }
        }
        What::Blind(b) => blind(build, b),
        What::Rules(r) => {
            reason(&r.reason)?;
            let sound = r.rules.are_sound();
            if sound { Ok(()) } else { Err(Refusal::Unsound("the rules need 1 to 9 touches and limits above zero")) }
        }
        What::Fitting(f) if !f.is_sound() => Err(Refusal::Unsound(
            "a fitting names each bearing of one row once, its halves and what is expected of them, and says why",
        )),
        What::Fitting(f) => f.pairs.iter().try_for_each(|p| bearing(build, p.station)),
        What::Stamps(s) if !s.is_sound() => {
            Err(Refusal::Unsound("a stamp is of a bearing, each once, in 1 to 40 characters"))
        }
        What::Stamps(s) => s.stamps.iter().try_for_each(|s| bearing(build, s.station)),
        What::Tray(t) => tray(build, t),
        What::Order(o) if !o.is_sound() => Err(Refusal::Unsound(
            "an order names the shop and each feature once, with a size above zero, a tolerance and a reason",
        )),
        What::Order(o) => o.items.iter().try_for_each(|i| on_engine(build, i.station)),
        What::OrderMoved(m) => {
            reason(&m.note)?;
            let notes = build.notes();
            if order_of(&notes, m.order).is_none() {
                Err(Refusal::NoSuchOrder)
            } else if may_follow(last_step(&notes, m.order), m.step) {
                Ok(())
            } else {
                Err(Refusal::OrderElsewhere)
            }
        }
        What::Plan(p) => {
            reason(&p.reason)?;
            let sound = p.plan.is_sound();
            if sound {
                Ok(())
            } else {
                Err(Refusal::Unsound("a plan needs positions that differ, at least one of them counting"))
            }
        }
    }
}

fn tray(build: &Build, t: &Tray) -> Result<(), Refusal> {
    let gauge = build.gauge(&t.gauge).ok_or_else(|| Refusal::UnknownGauge(t.gauge.clone()))?;
    if !gauge.measures.fits(Part::UpperWall) {
        return Err(Refusal::GaugeDoesNotFit(gauge.name.clone()));
    }
    let sound = t.is_sound() && build.layout.bearings(t.row).next().is_some();
    if sound {
        Ok(())
    } else {
        Err(Refusal::Unsound("each half of a tray has a mark of its own, a side and a wall; 64 of a side at most"))
    }
}

fn check(c: &GaugeCheck) -> Result<(), Refusal> {
    let size = |l: Length| l > Length::ZERO && l.in_limits();
    let sound = size(c.standard) && size(c.shown) && c.raw.chars().count() <= LONGEST_RAW;
    if sound { Ok(()) } else { Err(Refusal::NoSize) }
}

fn session_opened(build: &Build, s: &SessionOpened) -> Result<(), Refusal> {
    if !s.gauge.is_sound() {
        return Err(Refusal::BadGauge);
    }
    if Sessions::of(&build.notes()).running(&s.gauge.id).is_some() {
        return Err(Refusal::SessionOpen(s.gauge.name.clone()));
    }
    let Some(c) = &s.check else { return Ok(()) };
    check(c)?;
    if c.error().abs() > s.gauge.resolution { Err(Refusal::NotZeroed) } else { Ok(()) }
}

fn session_closed(build: &Build, s: &SessionClosed) -> Result<(), Refusal> {
    let sessions = Sessions::of(&build.notes());
    if sessions.get(s.session).is_none_or(|known| known.closed_at.is_some()) {
        return Err(Refusal::NoSuchSession);
    }
    s.check.as_ref().map_or(Ok(()), check)
}

/// Minutes of a long day's work.
const LONGEST_WORK: u16 = 1_440;

fn work(build: &Build, w: &WorkEvent) -> Result<(), Refusal> {
    reason(&w.note)?;
    if let Scope::One(station) = w.on {
        on_engine(build, station)?;
    }
    let there = build.layout.places().any(|s| w.on.covers(s));
    if !there || !w.work.can_be_on(w.on) {
        return Err(Refusal::WorkElsewhere(w.on.to_string()));
    }
    let sound = w.minutes.is_none_or(|m| m <= LONGEST_WORK)
        && w.grits.len() <= 12
        && w.grits.iter().all(|g| (20..=10_000).contains(g));
    if sound { Ok(()) } else { Err(Refusal::Unsound("grits are 20 to 10 000, minutes at most a day")) }
}

fn blind(build: &Build, b: &BlindRequest) -> Result<(), Refusal> {
    on_engine(build, b.station)?;
    if Feature::at(b.station, b.feature.part()) != Some(b.feature) {
        return Err(Refusal::NoSuchFeature(b.station));
    }
    if open_request(build, b.whom.id, b.station, b.feature).is_some() {
        return Err(Refusal::AlreadyAsked(b.whom.name.clone()));
    }
    let struck = build.struck();
    let mut first = build
        .readings()
        .filter(|(f, r)| {
            r.blind.is_none() && (r.station, r.feature) == (b.station, b.feature) && !struck.contains(&f.id)
        })
        .peekable();
    if first.peek().is_none() {
        return Err(Refusal::NothingToCompare);
    }
    if first.any(|(f, _)| f.by.id == b.whom.id) { Err(Refusal::OwnReadings(b.whom.name.clone())) } else { Ok(()) }
}

fn already_struck(build: &Build, reading: Uuid) -> bool {
    build.facts.iter().any(|f| matches!(&f.what, What::Strike(s) if s.reading == reading))
}

fn reading(build: &Build, by: &Person, r: &Reading) -> Result<(), Refusal> {
    on_engine(build, r.station)?;
    let part = r.feature.part();
    if Feature::at(r.station, part) != Some(r.feature) {
        return Err(Refusal::NoSuchFeature(r.station));
    }
    if !build.plan(r.feature).iter().any(|p| p.position == r.position) {
        return Err(Refusal::NoSuchPosition);
    }
    let sessions = r.session.map(|id| (id, Sessions::of(&build.notes())));
    let session = match &sessions {
        Some((id, sessions)) => Some(
            sessions
                .get(*id)
                .filter(|s| s.closed_at.is_none() && s.gauge.id == r.gauge)
                .ok_or(Refusal::NoSuchSession)?,
        ),
        None => None,
    };
    let gauge = session.map(|s| &s.gauge).or_else(|| build.gauge(&r.gauge));
    let gauge = gauge.ok_or_else(|| Refusal::UnknownGauge(r.gauge.clone()))?;
    if !gauge.measures.fits(part) {
        return Err(Refusal::GaugeDoesNotFit(gauge.name.clone()));
    }
    if r.raw.chars().count() > LONGEST_RAW {
        return Err(Refusal::NoSize);
    }
    if r.temperatures.is_some_and(|t| !t.are_plausible()) {
        return Err(Refusal::BadTemperature);
    }
    if r.blind != open_request(build, by.id, r.station, r.feature) {
        return Err(Refusal::BlindMismatch);
    }
    let size = |l: Length| if l > Length::ZERO && l.in_limits() { Ok(()) } else { Err(Refusal::NoSize) };
    match (r.measure, part) {
        (Measure::Dial { reference, dial }, Part::Bore | Part::Housing) => {
            size(reference)?;
            if !dial.in_limits() {
                return Err(Refusal::NoSize);
            }
            size(r.measure.size())?;
        }
        (Measure::Dial { .. }, _) => return Err(Refusal::DialOnJournal),
        (Measure::Size { size: s }, _) => size(s)?,
    }
    let reached = gauge.range.is_none_or(|range| range.reaches(r.measure.size()));
    if reached { Ok(()) } else { Err(Refusal::OutOfRange(gauge.name.clone())) }
}

fn concession(build: &Build, c: &Concession) -> Result<(), Refusal> {
    reason(&c.reason)?;
    bearing(build, c.station)?;
    let assessed = evaluate(build);
    let found = assessed.station(c.station).and_then(|s| s.judged.as_ref().zip(s.target.as_ref()));
    match found {
        Some((judged, _)) if judged.state == State::In => Err(Refusal::NothingToConcede(c.station)),
        Some((judged, target)) if covers(c, judged, &target.window) => Ok(()),
        Some(_) => Err(Refusal::FigureMoved(c.station)),
        None => Err(Refusal::NothingToConcede(c.station)),
    }
}

/// Checks that `by` may sign what is assessed.
fn signature(assessed: &Assessment, by: &Person, s: &Signature) -> Result<(), Refusal> {
    let sheet = &assessed.sign_off;
    match sheet.status {
        SealStatus::Blocked => return Err(Refusal::Blocked(sheet.blocks.clone())),
        SealStatus::Sealed => return Err(Refusal::AlreadySealed),
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

/// The next fact of `build`: admits `what`, gives it its place, and seals it if it is a signature.
///
/// # Errors
/// [`Refusal`] says why it may not be recorded.
pub fn next_fact(build: &Build, id: Uuid, at: Timestamp, by: Person, what: What) -> Result<Fact, Refusal> {
    admit(build, &by, &what)?;
    let mut fact = Fact { id, seq: build.seq() + 1, at, by, what };
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
    Signature { role, revision: evaluate(build).sign_off.revision, digest: String::new() }
}

/// The acceptance of a station's present figure, ready to be recorded.
///
/// # Errors
/// [`Refusal`] when there is no such station or nothing to accept there.
pub fn concession_now(build: &Build, station: Station, reason: String) -> Result<Concession, Refusal> {
    bearing(build, station)?;
    let assessed = evaluate(build);
    match assessed.station(station).and_then(|s| s.judged.as_ref().zip(s.target.as_ref())) {
        Some((j, t)) if j.state != State::In => {
            Ok(Concession { station, state: j.state, clearance: j.clearance, target: t.window, reason })
        }
        _ => Err(Refusal::NothingToConcede(station)),
    }
}
