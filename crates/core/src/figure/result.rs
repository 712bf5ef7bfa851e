//! What is known about one figure: what it is made of, its value by each method, the verdict and remarks. Plain data.
use serde::Serialize;

use super::advice::Advice;
use super::blades::BladeAdvice;
use super::hot_room::HotRoom;
use super::promise::{Predicted, PredictionCheck};
use super::targets::TargetInForce;
use super::uncertainty::{Budget, Contribution};
use crate::engine::{Axial, BearingRow, Characteristic, Figure, Method, PartKind, Place, Position, Read, Role};
use crate::evidence::{Ending, SizeAssessment, Spot};
use crate::log::{Gate, InspectedPart, Sign, ZeroSource};
use crate::maths::{AnotherTouch, Side, State, Suspect, Touches};
use crate::units::{Length, Person, Timestamp};

/// Something measured that a figure is made of, read one way.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Measured {
    /// What it is in the figure.
    pub role: Role,
    /// How it is read.
    pub read: Read,
    /// Where it is: a rod's journal is at its pin.
    pub place: Place,
    /// Which track of it, where a shared pin has one for each rod.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub track: Option<u8>,
    /// What is measured.
    pub characteristic: Characteristic,
    /// Whether nothing has to be proven of it any more: its part is condemned, or none stands there.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub moot: bool,
    /// Its touches and its size.
    #[serde(flatten)]
    pub size: SizeAssessment,
}

/// A part in its seat.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StandsHere {
    /// What it is.
    pub kind: PartKind,
    /// The place, where each has one of its own.
    pub place: Option<Place>,
    /// The part; absent where none stands there.
    pub part: Option<String>,
}

/// What is known about one figure.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FigureAssessment {
    /// The place.
    pub station: Place,
    /// The figure.
    pub figure: Figure,
    /// The row of bearings it belongs to.
    pub row: BearingRow,
    /// Whether the place carries thrust.
    pub thrust: bool,
    /// Where its journal is: itself for a main, the pin for a rod.
    pub journal_at: Place,
    /// Parts that stand here and are not those the layout named.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub parts: Vec<StandsHere>,
    /// Parts that are condemned or missing: what is left to prove of the figure is moot until others stand there.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub moot: Vec<StandsHere>,
    /// Its target.
    pub target: Option<Box<TargetInForce>>,
    /// Whether anybody asks for it: always, or because it was begun or has a target.
    pub asked: bool,
    /// Whether any touch that counts was taken for it so far.
    pub begun: bool,
    /// What it is made of, in the order it is looked at.
    pub measured: Vec<Measured>,
    /// Its value by each method that has figures, the one that proves most first.
    pub methods: Vec<MethodResult>,
    /// The judged method against each other complete one.
    pub agreements: Vec<Agreement>,
    /// The judged figure; absent while it is open or stale.
    pub judged: Option<Judged>,
    /// What was judged before something was done, while nothing has replaced it.
    pub stale: Option<Box<StaleJudged>>,
    /// What the halves that were fitted promise, until the bearing is measured again.
    pub predicted: Option<Box<Predicted>>,
    /// What they had promised, against what was measured.
    pub prediction: Option<Box<PredictionCheck>>,
    /// The undersize its journal belongs to.
    pub class: Option<JournalClass>,
    /// The acceptance in force, if one was given for exactly this figure.
    pub concession: Option<ConcessionInForce>,
    /// Remarks that nobody signs past by the rules of the build, with the lead's acceptance where there is one.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub gates: Vec<GateShut>,
    /// What a practised eye would remark on.
    pub findings: Vec<Finding>,
    /// What it leaves when the engine is hot, by each school.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub hot: Vec<HotRoom>,
    /// Where it is gauged by blades and has a target: which one is tried next, and what the set never proves.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub blades: Option<BladeAdvice>,
}

/// What nobody has measured.
static NOTHING: SizeAssessment =
    SizeAssessment { positions: Vec::new(), taken: 0, planned: 0, complete: false, size: None, stale: None };

impl Measured {
    /// Where its touches are.
    pub(crate) fn spot(&self) -> Spot {
        Spot { place: self.place, characteristic: self.characteristic, read: self.read, track: self.track }
    }
}

impl FigureAssessment {
    /// What is known of one of its parts, read that way; nothing where the figure is not made of it.
    pub fn part(&self, role: Role, read: Read) -> &SizeAssessment {
        self.measured.iter().find(|m| m.role == role && m.read == read).map_or(&NOTHING, |m| &m.size)
    }

    /// The journal.
    pub fn journal(&self) -> &SizeAssessment {
        self.part(Role::JOURNAL, Read::Size)
    }

    /// The housing, by whatever it was read.
    pub fn housing(&self) -> &SizeAssessment {
        self.part(Role::HOUSING, Read::Size)
    }

    /// The bore over the shells, read that way.
    pub fn bore(&self, read: Read) -> &SizeAssessment {
        self.part(Role::BORE, read)
    }

    /// The bore that counts: the one the judged method used, else whichever has figures, the dial first.
    pub fn bore_in_use(&self) -> &SizeAssessment {
        let method = self.judged.as_ref().and_then(|j| self.figure.method(j.method));
        let used = method.and_then(|m| m.terms.iter().find(|t| t.role == Role::BORE)).map(|t| t.read);
        match used {
            Some(read) => self.bore(read),
            None if self.bore(Read::Dial).size.is_some() => self.bore(Read::Dial),
            None => self.bore(Read::Size),
        }
    }
}

/// A remark that nobody signs past.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GateShut {
    /// What kind it is.
    pub gate: Gate,
    /// How much of it there is, where it has a size.
    pub amount: Length,
    /// The lead's acceptance.
    pub concession: Option<ConcessionInForce>,
}

/// A figure that was judged once and is no evidence any more.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StaleJudged {
    /// What was judged.
    pub was: Judged,
    /// What ended it, the latest last.
    pub because: Vec<Ending>,
    /// The way to fresh evidence.
    pub again: Vec<MeasureAgain>,
}

/// Something that has to be measured again.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MeasureAgain {
    /// Where.
    pub station: Place,
    /// What it is in the figure.
    pub part: Role,
    /// How many touches it takes.
    pub touches: usize,
}

/// The undersize a journal belongs to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JournalClass {
    /// The undersize; absent when the journal does not belong to the family.
    pub undersize: Option<Length>,
    /// Worn by: what is missing to the class size; negative when it is over.
    pub worn: Option<Length>,
}

/// A clearance by one method.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MethodResult {
    /// The method.
    pub method: Method,
    /// Whether everything it is made of was measured at every place that counts, so that it may be judged.
    pub complete: bool,
    /// Its value; for a band its middle.
    pub clearance: Length,
    /// The smallest it is anywhere; equal to the value where it is one figure.
    pub smallest: Length,
    /// The largest it is anywhere.
    pub largest: Length,
    /// Where catalogue walls leave a band: its lower end.
    pub low: Length,
    /// Its upper end; equal to the lower one when there is no band.
    pub high: Length,
    /// What was added because the worst of several places reads too far out; it is in the value already.
    #[serde(skip_serializing_if = "is_zero")]
    pub correction: Length,
    /// What its bore gauge was zeroed in, where that bears on it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub zero: Option<ZeroSource>,
    /// What the gauges leave open.
    pub budget: Budget,
    /// What would shrink that most.
    pub advice: Vec<Advice>,
    /// Front and rear of the bearing by themselves, against the effective journal.
    pub ends: Vec<EndClearance>,
    /// Whether it lies between two blades, so that its ends prove it.
    #[serde(skip)]
    pub between_blades: bool,
    /// What more touches would leave of its uncertainty, where touches are a part of it.
    #[serde(skip)]
    pub more: Option<Touches>,
    /// The same thing as every other method of the figure would have it, so that they can be held against each other.
    #[serde(skip)]
    pub alike: Option<Alike>,
}

/// A figure by the mean of its places in line with the load: what all methods estimate alike, whichever place each of them
/// finds the worst.
#[derive(Debug, Clone, PartialEq)]
pub struct Alike {
    /// Its value.
    pub value: Length,
    /// What the gauges leave open of it.
    pub budget: Budget,
}

#[allow(clippy::trivially_copy_pass_by_ref, reason = "the form that serde calls")]
fn is_zero(length: &Length) -> bool {
    *length == Length::ZERO
}

/// Clearance at one end of a bearing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EndClearance {
    /// Which end.
    pub axial: Axial,
    /// The clearance there; the smallest where it has two sides.
    pub clearance: Length,
    /// The largest there, where it is another: at the thinnest of the journal.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub widest: Option<Length>,
}

/// Whether two methods agree, what they share left out.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Agreement {
    /// The judged method.
    pub of: Method,
    /// The other one.
    pub with: Method,
    /// The judged one less the other.
    pub difference: Length,
    /// Difference over combined uncertainty; absent without any uncertainty.
    pub en: Option<f64>,
    /// At or below 1.
    pub agree: bool,
    /// Where they disagree: what could explain it, the largest share first.
    pub suspects: Vec<SuspectPart>,
}

/// A contribution that could explain a difference between two methods.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SuspectPart {
    /// The method it belongs to.
    pub method: Method,
    /// The contribution; its share is that of both budgets together, or by the second reckoning how much of the row's
    /// differences it explains beside the best explanation.
    pub contribution: Contribution,
    /// Whether it would show at every bearing of the row.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub everywhere: bool,
    /// Whether the row cannot tell it from others that are named with it: a check on a standard does.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub tied: bool,
}

/// Why a method is the judged one.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ChosenBecause {
    /// The rules prefer it.
    Preferred,
    /// The preferred one is not complete; this proves most of the others.
    ProvesMost,
}

/// A judged clearance.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Judged {
    /// The method it comes from.
    pub method: Method,
    /// Why that one.
    pub because: ChosenBecause,
    /// The clearance.
    pub clearance: Length,
    /// The smallest it is anywhere: what is held against the lower limit.
    pub smallest: Length,
    /// The largest it is anywhere: what is held against the upper limit.
    pub largest: Length,
    /// Of the two, the one that is nearer to its limit or farther beyond it.
    pub worst: Length,
    /// What was added to what the places show, because the worst of several reads too far out.
    #[serde(skip_serializing_if = "is_zero")]
    pub correction: Length,
    /// Its expanded uncertainty.
    pub expanded: Length,
    /// The state.
    pub state: State,
    /// The limit the margin was measured to.
    pub nearest: Side,
    /// Inside the limits, uncertainty aside.
    pub inside: bool,
    /// Distance to the nearest limit, negative outside.
    pub margin: Length,
    /// Whether these gauges can prove anything in this window.
    pub decidable: bool,
    /// Where it lies on the edge, what one more touch at each place that decides would do, and what they would leave.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub another: Option<MoreTouches>,
}

/// What more touches would do for a figure on the edge.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MoreTouches {
    /// What one more does.
    pub does: AnotherTouch,
    /// The expanded uncertainty that one more at each place leaves.
    pub once_more: Length,
    /// The expanded uncertainty that any number of them leaves.
    pub endless: Length,
}

/// An acceptance that holds now.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ConcessionInForce {
    /// Why, in the words of whoever decided it.
    pub reason: String,
    /// Who accepted it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
    /// It came with a file: whoever gave it did not give it here, and it lifts nothing here.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    pub elsewhere: bool,
}

/// Something worth a remark at a station.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Finding {
    /// Several pieces show one and the same printed figure at every touch: measured, or read off the box?
    ReadOffTheBox {
        /// The part that the remark is about.
        part: Role,
        /// The figure.
        size: Length,
        /// How many pieces show it.
        count: usize,
    },
    /// A cylinder that is wide the other way than the rest: the names of the directions were exchanged.
    DirectionsExchanged {
        /// By how much it is wider that way.
        by: Length,
    },
    /// A bore said to be read with the plate that is out of round at its top only, where the others are round.
    PlateForgotten {
        /// By how much.
        top: Length,
    },
    /// A piston far smaller than all of its set: touched across the pin or near the crown, where it is oval and tapers, or a skirt
    /// that collapsed.
    PistonApart {
        /// By how much it is smaller than the middle of the others.
        by: Length,
    },
    /// A bore that is narrower at its top than anywhere below, both ways: touched in the ridge over the rings' travel.
    TouchedInTheRidge {
        /// By how much.
        by: Length,
    },
    /// A ring's gap in a bore that tapers: where the ring was squared decides what the blades say.
    GapFollowsTaper {
        /// By how much the gap differs between the widest depth and the narrowest.
        by: Length,
    },
    /// What the gap of a ring comes to in its bore, which was bored or honed since the gap was measured.
    GapInNewBore {
        /// The gap as it follows the bore.
        gap: Length,
        /// By how much the bore is larger than it was.
        by: Length,
    },
    /// Two touches of one ring's gap that no one gap can explain: its ends are not parallel, so that it is narrower inside than
    /// outside, or the ring did not lie square.
    GapEndsApart {
        /// How far apart they lie.
        by: Length,
    },
    /// A bore that was measured with the plate and without it: what the plate does to it.
    PlatePulls {
        /// By how much the bore is smaller with the plate; negative where it is larger.
        by: Length,
    },
    /// A surface is rougher than the rules allow.
    Rough {
        /// Where: the journal of a bearing, or the face itself.
        at: Place,
        /// What was read there, Ra.
        roughness: Length,
        /// What it may have.
        limit: Length,
    },
    /// Outside the window of this build and inside the factory's wear range: a used part may run on, which is a choice and
    /// never an aim.
    WithinWear,
    /// Outside the factory's wear range: it is reworked or replaced.
    BeyondWear {
        /// By how much.
        by: Length,
    },
    /// What was seen there stops it: it is not used as it is.
    Unusable {
        /// On what.
        seen_on: InspectedPart,
        /// What.
        sign: Sign,
        /// Where, of something at whose own place nothing is asked for.
        #[serde(skip_serializing_if = "Option::is_none")]
        at: Option<Place>,
    },
    /// Three or more touches at one place still differ by more than the gauge's step.
    RepeatsSpread {
        /// On what.
        characteristic: Characteristic,
        /// Where.
        position: Position,
        /// By how much.
        spread: Length,
    },
    /// The bore is not wider toward the parting line than at the vertical: the shell is wrong or
    /// mis-seated, or the cap is shifted.
    ReliefNotPositive {
        /// The relief found.
        relief: Length,
    },
    /// Two methods do not agree.
    MethodsDisagree {
        /// The judged one.
        of: Method,
        /// The other one.
        with: Method,
        /// By how much.
        difference: Length,
    },
    /// The touches of two neighbours look written down at each other's bearings: exchanged, the methods agree, or both fit their row.
    Swapped {
        /// Of which part.
        part: Role,
        /// The neighbour.
        with: Place,
    },
    /// No value could be proven inside: the gauges leave more open than the window is wide, or one is too
    /// coarse for it.
    Undecidable,
    /// The target differs from that of an acceptance given before, or the figure was measured again.
    ConcessionLapsed {
        /// The reason it had been given for.
        reason: String,
    },
    /// The bearing tapers more than housing and journal explain.
    TaperOverBearing {
        /// Taper over the bearing.
        taper: Length,
        /// The larger taper of housing and journal.
        explained: Length,
        /// What the shells themselves taper, both halves together, where their walls were measured along them.
        #[serde(skip_serializing_if = "Option::is_none")]
        shells: Option<Length>,
        /// What to look at, in that order.
        suspects: Vec<Suspect>,
    },
    /// Blades that one place says both of: one went, and one no thicker did not. One of them is struck.
    BladesContradict {
        /// What they were tried in.
        part: Role,
    },
    /// A grid of bridge readings shows a face farther out of flat than it may be.
    BeyondOnGrid {
        /// Between the nearest two planes with all places between.
        zone: Length,
        /// What it may be.
        limit: Length,
    },
    /// A bearing surface along the axis burns with so little room, whatever its window allows.
    BelowFloor {
        /// The least that a thrust bearing is run with.
        floor: Length,
    },
    /// Washers that were not home at first: the first push is smaller than those that follow, and does not count.
    NotSeated {
        /// By how much.
        gain: Length,
    },
    /// Pushes that did not come back to where they began: they count for nothing.
    PushVoid {
        /// The part that the remark is about.
        part: Role,
        /// How many.
        count: usize,
    },
    /// Places of one thing that differ by more than they may.
    PlacesDiffer {
        /// The part that the remark is about.
        part: Role,
        /// By how much.
        difference: Length,
        /// How much they may.
        limit: Length,
    },
    /// A shape beyond its limit.
    Shape {
        /// The part that the remark is about.
        part: Role,
        /// Taper, or else out-of-round.
        taper: bool,
        /// The value.
        value: Length,
        /// The limit.
        limit: Length,
        /// Whether it is only likely: within what the gauges leave open, it may as well be inside.
        #[serde(skip_serializing_if = "std::ops::Not::not")]
        likely: bool,
    },
    /// A housing outside its nominal size and tolerance: too much or too little crush.
    HousingOff {
        /// By how much beyond the tolerance, negative when small.
        by: Length,
    },
    /// The journal belongs to none of the family's undersizes: no shells of it fit.
    NotOfFamily,
    /// Readings of a gauge that was not checked, or whose session has no close check.
    Unproven {
        /// The part that the remark is about.
        part: Role,
    },
    /// A gauge past its calibration was used.
    PastDue {
        /// The part that the remark is about.
        part: Role,
        /// The gauge.
        gauge: String,
    },
    /// A gauge too coarse for the window was used.
    TooCoarse {
        /// The part that the remark is about.
        part: Role,
        /// The gauge.
        gauge: String,
        /// Steps in the window, in tenths: 60 means 6 to 1.
        ratio_tenths: i64,
    },
    /// A part was warm and not enough is known to correct for it.
    LetItSoak {
        /// Which.
        part: Role,
    },
    /// The parts grow differently with warmth, and nobody noted how warm it was.
    RoomUnknown {
        /// The case or block that grows otherwise than its crank.
        part: Role,
    },
    /// Measured over a torqued cap, and no set-up was recorded.
    NoSetUp,
    /// The fasteners are not the set that was in place when the bores were finished.
    OtherFasteners,
    /// A blind second touch found another size.
    BlindDisagrees {
        /// The part that the remark is about.
        part: Role,
        /// First less second.
        difference: Length,
    },
    /// The clearance is not what the halves that were fitted had promised.
    PredictionMissed {
        /// Measured less predicted.
        difference: Length,
        /// What both leave open together.
        combined: Length,
    },
    /// A nail catches, a crack or a heat mark: to the grinder, crack test first.
    StopJournal,
}
