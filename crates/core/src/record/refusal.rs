//! Why a fact is refused; each sentence says what to do.
use thiserror::Error;

use crate::engine::{Place, PlanError};
use crate::log::{SignerRole, Tick};
use crate::maths::{EntryError, TargetError};
use crate::sheet::Block;
use crate::units::{Flaw, LONGEST_TEXT};

/// Why a fact is refused. Each sentence says what to do.
#[derive(Debug, Clone, PartialEq, Error)]
pub enum Refusal {
    /// The engine has no such station.
    #[error("there is no {station} on this engine: it has {there}")]
    NoSuchStation {
        /// What was asked for.
        station: Place,
        /// What there is.
        there: String,
    },
    /// The place has no such feature.
    #[error("{0} has no such feature to measure")]
    NoSuchFeature(Place),
    /// The feature is not touched there.
    #[error("this feature is not touched at that place: use one of the positions of its plan")]
    NoSuchPosition,
    /// Journals are not read on a zeroed dial.
    #[error("this is measured as a size: the dial of a bore gauge says nothing about it")]
    DialOnJournal,
    /// The build has no such gauge.
    #[error("this build has no gauge \"{0}\": choose one of its gauges")]
    UnknownGauge(String),
    /// A gauge that does not fit the feature.
    #[error("{0} cannot measure this: journals need an outside gauge, bores an inside one, walls a ball-anvil mic")]
    GaugeDoesNotFit(String),
    /// A size the gauge does not reach.
    #[error("{0} does not reach that size: its range is stated in the gauge room")]
    OutOfRange(String),
    /// A session of another gauge, or none.
    #[error("there is no open session of that gauge here: open one, or leave it out")]
    NoSuchSession,
    /// A gauge has one session at a time.
    #[error("{0} has an open session on this build: close it first")]
    SessionOpen(String),
    /// An open check that is not a zero.
    #[error("the open check is off by more than a step: set the gauge to its standard, then check again")]
    NotZeroed,
    /// A reading older than its build.
    #[error("a reading cannot be older than its build: is the clock of this device right?")]
    TakenBefore,
    /// Temperatures nobody has in a workshop.
    #[error("temperatures are -40 to 200 degrees Celsius")]
    BadTemperature,
    /// A reading that answers another request, or none it should.
    #[error("this place is to be measured blind: send the reading as the answer to that request")]
    BlindMismatch,
    /// A blind request that cannot be.
    #[error("{0} is asked to measure that place blind already")]
    AlreadyAsked(String),
    /// A person cannot check themselves.
    #[error("{0} took the first readings there: ask somebody else")]
    OwnReadings(String),
    /// Nothing to compare with.
    #[error("there is nothing to compare with: measure it once before it is measured blind")]
    NothingToCompare,
    /// Work that is not done to such a thing.
    #[error("that work is not done to {0}")]
    WorkElsewhere(String),
    /// A part or a line of what was sent that cannot be.
    #[error(transparent)]
    Flawed(#[from] Flaw),
    /// A plan nobody could work by.
    #[error(transparent)]
    Plan(#[from] PlanError),
    /// The text was not understood as a reading.
    #[error(transparent)]
    Entry(#[from] EntryError),
    /// The reference of the dial was not understood.
    #[error("the reference the bore gauge was zeroed at: {0}")]
    Reference(EntryError),
    /// Too few or too many figures for how the gauge is read.
    #[error("type {wanted} figures here, such as {such_as}")]
    Figures {
        /// How many.
        wanted: usize,
        /// Such as.
        such_as: &'static str,
    },
    /// Blades that cannot be.
    #[error("the blade that does not pass is thicker than the one that does")]
    BladesReversed,
    /// A blade that the set has not.
    #[error("the set in hand has blades {step} apart: no such blade is in it")]
    NoSuchBlade {
        /// From one blade to the next, as shown.
        step: String,
    },
    /// A size that is off by one turn of a thimble.
    #[error("that is {by} away, one turn of the thimble: read the sleeve again")]
    OneTurn {
        /// How far it is away, as shown.
        by: String,
    },
    /// A journal that is larger than it was ever made.
    #[error("that is {by} over its drawing: journals are ground under, never over")]
    OverDrawing {
        /// By how much, as shown.
        by: String,
    },
    /// One digit next to a size that nobody measured: a worn journal would be kept a thou off.
    #[error("one digit is too little while nothing is measured here: type one more")]
    LoneDigit,
    /// A step is not done while something was not looked at.
    #[error("it is not done before everything is ticked: what shows in no figure has to be looked at")]
    NotTicked(Tick),
    /// The reference is not the size that the gauge was checked in at.
    #[error("the gauge was checked in at {standard}, and this says it was zeroed at {reference}: look which is so")]
    ReferenceDiffers {
        /// What was typed, as shown.
        reference: String,
        /// What it was checked in at, as shown.
        standard: String,
    },
    /// A bore that these parts cannot make.
    #[error(
        "that would be a clearance of {clearance}, and these parts leave {tight} to {loose}: is the dial in another unit, or zeroed elsewhere?"
    )]
    BeyondParts {
        /// What it would be, as shown.
        clearance: String,
        /// The least, as shown.
        tight: String,
        /// The most, as shown.
        loose: String,
    },
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
    NothingToConcede(Place),
    /// It was measured or judged anew meanwhile.
    #[error("{0} was measured or judged again meanwhile: look at the new figure first")]
    FigureMoved(Place),
    /// Something still blocks.
    #[error("the sheet cannot be signed yet: {} still block", list(.0))]
    Blocked(Vec<Block>),
    /// What was signed before is not what stands here.
    #[error("a seal of this build does not match what it stands under: it cannot be signed until that is cleared up")]
    SealBroken,
    /// A build with more facts than any engine has.
    #[error("this build holds as much as one can: archive it and open a new one")]
    Full,
    /// Both have signed.
    #[error("the sheet is sealed: nothing is left to sign")]
    AlreadySealed,
    /// This signature is there.
    #[error("somebody signed as {} already: the other signature is due", role_name(*.0))]
    AlreadySigned(SignerRole),
    /// One person cannot be both.
    #[error("assembler and checker must be two different people")]
    SamePerson,
    /// No order of that identifier in this build.
    #[error("there is no such order on this build")]
    NoSuchOrder,
    /// A step that does not follow the last one.
    #[error("an order is sent first, then comes back; one that is only written can be withdrawn")]
    OrderElsewhere,
    /// No part of that name in this build.
    #[error("this build has no part \"{0}\": enter it first")]
    NoSuchPart(String),
    /// A name that another part has.
    #[error("another part is called \"{0}\" already: give this one a name of its own")]
    PartNamed(String),
    /// A part that is put where it does not belong.
    #[error("\"{0}\" does not go there: a crank or a block is put in the engine, a rod at one of its big ends")]
    PartElsewhere(String),
    /// A part that is condemned.
    #[error("\"{0}\" is condemned: take that back first, or choose another one")]
    PartCondemned(String),
    /// Nothing would be otherwise.
    #[error("every part stands there already")]
    NothingMoves,
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
            Refusal::NoSuchFeature(_) => "no_such_feature",
            Refusal::OutOfRange(_) => "out_of_gauge_range",
            Refusal::NoSuchSession => "no_such_session",
            Refusal::SessionOpen(_) => "session_open",
            Refusal::NotZeroed => "not_zeroed",
            Refusal::TakenBefore => "taken_before",
            Refusal::BadTemperature => "bad_temperature",
            Refusal::BlindMismatch => "blind_mismatch",
            Refusal::AlreadyAsked(_) => "already_asked",
            Refusal::OwnReadings(_) => "own_readings",
            Refusal::NothingToCompare => "nothing_to_compare",
            Refusal::WorkElsewhere(_) => "work_elsewhere",
            Refusal::Flawed(_) | Refusal::Plan(_) => "unsound",
            Refusal::NoSuchOrder => "no_such_order",
            Refusal::OrderElsewhere => "order_elsewhere",
            Refusal::Entry(e) | Refusal::Reference(e) => match e {
                EntryError::NotANumber { .. } => "not_a_number",
                EntryError::AmbiguousTail { .. } => "ambiguous_tail",
                EntryError::AmbiguousUnit { .. } => "ambiguous_unit",
                EntryError::OutOfBand { .. } => "out_of_band",
                EntryError::NotPositive { .. } => "not_positive",
                EntryError::OutOfRange { .. } => "out_of_range",
            },
            Refusal::Figures { .. } => "figures",
            Refusal::BladesReversed => "blades_reversed",
            Refusal::LoneDigit => "lone_digit",
            Refusal::NoSuchBlade { .. } => "no_such_blade",
            Refusal::OneTurn { .. } => "one_turn",
            Refusal::OverDrawing { .. } => "over_drawing",
            Refusal::NotTicked(_) => "not_ticked",
            Refusal::ReferenceDiffers { .. } => "reference_differs",
            Refusal::BeyondParts { .. } => "beyond_parts",
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
            Refusal::SealBroken => "seal_does_not_match",
            Refusal::Full => "build_full",
            Refusal::AlreadySealed => "already_sealed",
            Refusal::AlreadySigned(_) => "already_signed",
            Refusal::SamePerson => "same_person",
            Refusal::NoSuchPart(_) => "no_such_part",
            Refusal::PartNamed(_) => "part_named",
            Refusal::PartElsewhere(_) => "part_elsewhere",
            Refusal::PartCondemned(_) => "part_condemned",
            Refusal::NothingMoves => "nothing_moves",
            Refusal::WrongRevision(_) => "wrong_revision",
        }
    }

    /// Whether it can be kept all the same: what was read is a figure, only not a believable one.
    pub const fn can_be_forced(&self) -> bool {
        matches!(
            self,
            Refusal::Entry(EntryError::OutOfBand { .. })
                | Refusal::ReferenceDiffers { .. }
                | Refusal::NoSuchBlade { .. }
                | Refusal::OneTurn { .. }
                | Refusal::OverDrawing { .. }
                | Refusal::BeyondParts { .. }
        )
    }
}
