//! What may be recorded: the one place that admits a fact to a build or refuses it.

use thiserror::Error;
use uuid::Uuid;

use crate::assess::{covers, evaluate};
use crate::assessment::Assessment;
use crate::build::{Build, check_text};
use crate::entry::EntryError;
use crate::fact::{Concession, Fact, Measure, Person, Reading, Signature, SignerRole, Timestamp, What};
use crate::feature::{Feature, Station};
use crate::gauge::GaugeUse;
use crate::signoff::{Block, SealStatus};
use crate::target::TargetError;
use crate::verdict::State;
use crate::{Length, build::LONGEST_TEXT, seal};

/// Why a fact is refused. Each sentence says what to do.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum Refusal {
    /// The engine has no such station.
    #[error("there is no {station} on this engine: its mains are M1 to M{mains}")]
    NoSuchStation {
        /// What was asked for.
        station: Station,
        /// What there is.
        mains: u8,
    },
    /// The feature is not touched there.
    #[error("this feature is not touched at that place: use one of the positions of its plan")]
    NoSuchPosition,
    /// Journals are not read on a zeroed dial.
    #[error("a journal is measured as a size: the dial of a bore gauge says nothing about it")]
    DialOnJournal,
    /// The build has no such gauge.
    #[error("this build has no gauge \"{0}\": choose one of its gauges")]
    UnknownGauge(String),
    /// A gauge that does not fit the feature.
    #[error("{0} cannot measure this: journals need an outside gauge, bores an inside one")]
    GaugeDoesNotFit(String),
    /// The text was not understood as a reading.
    #[error(transparent)]
    Entry(#[from] EntryError),
    /// The reference of the dial was not understood.
    #[error("the reference the bore gauge was zeroed at: {0}")]
    Reference(EntryError),
    /// A direct reading without a reference.
    #[error("say what size the bore gauge was zeroed at")]
    NoReference,
    /// A size that is no size.
    #[error("a size is above zero and below 100 m")]
    NoSize,
    /// No reading of that identifier in this build.
    #[error("there is no such reading on this build: it may belong to another one")]
    NoSuchReading,
    /// The reading was struck before.
    #[error("that reading was struck before; it stays as it is")]
    AlreadyStruck,
    /// A reason is missing or too long.
    #[error("say why, in 1 to {LONGEST_TEXT} characters")]
    NoReason,
    /// The target makes no sense.
    #[error(transparent)]
    Target(#[from] TargetError),
    /// The whole build must have a target.
    #[error("the build as a whole needs a target: give one, or take the station's own away instead")]
    NoTarget,
    /// Nothing to accept.
    #[error("{0} has no figure outside its target to accept")]
    NothingToConcede(Station),
    /// It was measured or judged anew meanwhile.
    #[error("{0} was measured or judged again meanwhile: look at the new figure first")]
    FigureMoved(Station),
    /// Something still blocks.
    #[error("the sheet cannot be signed yet: {} still block", list(.0))]
    Blocked(Vec<Block>),
    /// Both have signed.
    #[error("the sheet is sealed: nothing is left to sign")]
    AlreadySealed,
    /// This signature is there.
    #[error("somebody signed as {} already: the other signature is due", role_name(*.0))]
    AlreadySigned(SignerRole),
    /// One person cannot be both.
    #[error("assembler and checker must be two different people")]
    SamePerson,
    /// Another revision is being signed.
    #[error("the sheet is at revision {0} now")]
    WrongRevision(u32),
}

fn list(blocks: &[Block]) -> String {
    blocks.iter().map(|b| b.station.to_string()).collect::<Vec<_>>().join(", ")
}

fn role_name(role: SignerRole) -> &'static str {
    match role {
        SignerRole::Assembler => "assembler",
        SignerRole::Checker => "checker",
    }
}

impl Refusal {
    /// Stable name of the refusal, for programs.
    pub fn code(&self) -> &'static str {
        match self {
            Refusal::NoSuchStation { .. } => "no_such_station",
            Refusal::NoSuchPosition => "no_such_position",
            Refusal::DialOnJournal => "dial_on_journal",
            Refusal::UnknownGauge(_) => "unknown_gauge",
            Refusal::GaugeDoesNotFit(_) => "gauge_does_not_fit",
            Refusal::Entry(e) | Refusal::Reference(e) => match e {
                EntryError::NotANumber { .. } => "not_a_number",
                EntryError::AmbiguousTail { .. } => "ambiguous_tail",
                EntryError::AmbiguousUnit { .. } => "ambiguous_unit",
                EntryError::OutOfBand { .. } => "out_of_band",
                EntryError::NotPositive { .. } => "not_positive",
                EntryError::OutOfRange { .. } => "out_of_range",
            },
            Refusal::NoReference => "no_reference",
            Refusal::NoSize => "not_positive",
            Refusal::NoSuchReading => "no_such_reading",
            Refusal::AlreadyStruck => "already_struck",
            Refusal::NoReason => "no_reason",
            Refusal::Target(_) => "bad_target",
            Refusal::NoTarget => "no_target",
            Refusal::NothingToConcede(_) => "nothing_to_concede",
            Refusal::FigureMoved(_) => "figure_moved",
            Refusal::Blocked(_) => "blocked",
            Refusal::AlreadySealed => "already_sealed",
            Refusal::AlreadySigned(_) => "already_signed",
            Refusal::SamePerson => "same_person",
            Refusal::WrongRevision(_) => "wrong_revision",
        }
    }

    /// The field of the request it is about, where there is one.
    pub fn field(&self) -> Option<&'static str> {
        match self {
            Refusal::NoSuchStation { .. } | Refusal::NothingToConcede(_) | Refusal::FigureMoved(_) => Some("station"),
            Refusal::NoSuchPosition => Some("position"),
            Refusal::DialOnJournal => Some("method"),
            Refusal::UnknownGauge(_) | Refusal::GaugeDoesNotFit(_) => Some("gauge"),
            Refusal::Entry(_) | Refusal::NoSize => Some("text"),
            Refusal::Reference(_) | Refusal::NoReference => Some("reference"),
            Refusal::NoSuchReading | Refusal::AlreadyStruck => Some("reading"),
            Refusal::NoReason => Some("reason"),
            Refusal::Target(_) | Refusal::NoTarget => Some("rule"),
            Refusal::AlreadySigned(_) | Refusal::SamePerson => Some("role"),
            Refusal::WrongRevision(_) => Some("revision"),
            Refusal::Blocked(_) | Refusal::AlreadySealed => None,
        }
    }
}

/// Longest text of a reading; any figure is far shorter.
const LONGEST_RAW: usize = 60;

fn on_engine(build: &Build, station: Station) -> Result<(), Refusal> {
    let mains = build.layout.mains;
    if build.layout.has(station) { Ok(()) } else { Err(Refusal::NoSuchStation { station, mains }) }
}

fn reason(text: &str) -> Result<(), Refusal> {
    check_text(text, "the reason").map_err(|_| Refusal::NoReason)
}

/// Checks that `what` may be the next fact of `build`, recorded by `by`.
///
/// What a person's role allows is another question ([`crate::roles::Capabilities::allow`]), and so is
/// the digest of a signature ([`crate::seal::digest`]).
///
/// # Errors
/// [`Refusal`] says why not.
pub fn admissible(build: &Build, by: &Person, what: &What) -> Result<(), Refusal> {
    match what {
        What::Reading(r) => reading(build, r),
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
            t.station.map_or(Ok(()), |s| on_engine(build, s))?;
            match (t.rule, t.station) {
                (Some(rule), _) => rule.resolve(build.layout.main_journal).map(drop).map_err(Refusal::Target),
                (None, Some(_)) => Ok(()),
                (None, None) => Err(Refusal::NoTarget),
            }
        }
        What::Concession(c) => concession(build, c),
        What::Signature(s) => signature(&evaluate(build), by, s),
    }
}

fn already_struck(build: &Build, reading: Uuid) -> bool {
    build.facts.iter().any(|f| matches!(&f.what, What::Strike(s) if s.reading == reading))
}

fn reading(build: &Build, r: &Reading) -> Result<(), Refusal> {
    on_engine(build, r.station)?;
    if !r.feature.positions().iter().any(|p| p.position == r.position) {
        return Err(Refusal::NoSuchPosition);
    }
    let gauge = build.gauge(&r.gauge).ok_or_else(|| Refusal::UnknownGauge(r.gauge.clone()))?;
    let fits = match r.feature {
        Feature::MainJournal => gauge.measures == GaugeUse::Outside,
        Feature::MainBearing => gauge.measures == GaugeUse::Inside,
    };
    if !fits {
        return Err(Refusal::GaugeDoesNotFit(gauge.name.clone()));
    }
    if r.raw.chars().count() > LONGEST_RAW {
        return Err(Refusal::NoSize);
    }
    let size = |l: Length| if l > Length::ZERO && l.in_limits() { Ok(()) } else { Err(Refusal::NoSize) };
    match (r.measure, r.feature) {
        (Measure::Dial { .. }, Feature::MainJournal) => Err(Refusal::DialOnJournal),
        (Measure::Dial { reference, dial }, _) => {
            size(reference)?;
            if !dial.in_limits() {
                return Err(Refusal::NoSize);
            }
            size(r.measure.size())
        }
        (Measure::Size { size: s }, _) => size(s),
    }
}

fn concession(build: &Build, c: &Concession) -> Result<(), Refusal> {
    reason(&c.reason)?;
    on_engine(build, c.station)?;
    let assessed = evaluate(build);
    let station = assessed.stations.iter().find(|s| s.station == c.station);
    let found = station.and_then(|s| s.judged.as_ref().zip(s.target.as_ref()));
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
    admissible(build, &by, &what)?;
    let mut fact = Fact { id, seq: build.seq() + 1, at, by, what };
    if matches!(fact.what, What::Signature(_)) {
        let made = seal::digest(build, &fact);
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
    on_engine(build, station)?;
    let assessed = evaluate(build);
    let found = assessed.stations.iter().find(|s| s.station == station);
    match found.and_then(|s| s.judged.as_ref().zip(s.target.as_ref())) {
        Some((j, t)) if j.state != State::In => {
            Ok(Concession { station, state: j.state, clearance: j.clearance, target: t.window, reason })
        }
        _ => Err(Refusal::NothingToConcede(station)),
    }
}
