//! What can be measured: characteristics, the places where each is touched, and what ends the evidence about it.
//!
//! A characteristic is one row of the catalogue ([`super::catalog`]). Everything that can be derived from its row is:
//! which gauge fits, whether a dial says something about it, which of its places is the worst, what a deed ends.
use std::cmp::Ordering;
use std::hash::{Hash, Hasher};

use serde::{Deserialize, Serialize, Serializer};

use super::place::PlaceKind;
use crate::maths::Extreme;

/// What a characteristic is in the figures made of it, such as the journal of a bearing.
///
/// ```
/// use jagged_pin_core::engine::Role;
/// assert_eq!(Role::UPPER_WALL.name(), "upper_wall");
/// ```
#[derive(Debug, Clone, Copy)]
pub struct Role {
    // Roles are compared many thousand times in every evaluation, by this alone: a test holds that no two names share one.
    key: u64,
    name: &'static str,
}

impl PartialEq for Role {
    fn eq(&self, other: &Self) -> bool {
        self.key == other.key
    }
}

impl Eq for Role {}

impl Hash for Role {
    fn hash<H: Hasher>(&self, state: &mut H) {
        self.key.hash(state);
    }
}

impl PartialOrd for Role {
    fn partial_cmp(&self, other: &Self) -> Option<Ordering> {
        Some(self.cmp(other))
    }
}

impl Ord for Role {
    fn cmp(&self, other: &Self) -> Ordering {
        if self == other { Ordering::Equal } else { self.name.cmp(other.name) }
    }
}

impl Serialize for Role {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name)
    }
}

/// A name as a number (FNV-1a).
const fn key_of(name: &str) -> u64 {
    let bytes = name.as_bytes();
    let (mut key, mut i) = (0xcbf2_9ce4_8422_2325_u64, 0);
    while i < bytes.len() {
        key = (key ^ bytes[i] as u64).wrapping_mul(0x0100_0000_01b3);
        i += 1;
    }
    key
}

impl Role {
    /// The journal or pin.
    pub const JOURNAL: Role = Role::new("journal");
    /// The housing.
    pub const HOUSING: Role = Role::new("housing");
    /// The bore over the shells.
    pub const BORE: Role = Role::new("bore");
    /// The wall of the upper shell.
    pub const UPPER_WALL: Role = Role::new("upper_wall");
    /// The wall of the lower shell.
    pub const LOWER_WALL: Role = Role::new("lower_wall");
    /// The crushed strip.
    pub const STRIP: Role = Role::new("strip");
    /// How far the crank travels along its axis.
    pub const TRAVEL: Role = Role::new("travel");

    /// A role of that name.
    pub const fn new(name: &'static str) -> Self {
        Role { key: key_of(name), name }
    }

    /// How it is written in data.
    pub const fn name(self) -> &'static str {
        self.name
    }
}

/// How a gauge is read.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Read {
    /// As a size.
    Size,
    /// On a dial that was zeroed at a reference.
    Dial,
    /// As the travel between two ends that the part is pushed to, and back to the first one.
    Travel,
    /// By blades: the largest that passes, the smallest that does not.
    Blades,
    /// Around the clock: what an indicator shows while the part is turned, more or less than where it began.
    Turn,
}

/// What a gauge can be put on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GaugeUse {
    /// Shafts: a mic, a caliper.
    Outside,
    /// Holes: a bore gauge.
    Inside,
    /// Shell walls: a ball-anvil mic.
    Wall,
    /// Gaps: a crushed strip.
    Gap,
    /// Travels: an indicator on a base.
    Travel,
    /// Gaps: blades.
    Blades,
    /// Radii: a set of radius gauges, or a contour.
    Radius,
    /// Depths and edges: a depth micrometer, a shadow scale.
    Depth,
    /// A height over a plate, or from centre to centre.
    Height,
}

/// A part of the engine that is measured as one thing and keeps its evidence wherever it goes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PartKind {
    /// The crankshaft with its mains and pins.
    Crank,
    /// The block or case with its housings and caps.
    Block,
    /// A rod with its cap.
    Rod,
    /// The shells of one bearing.
    Shells,
    /// The camshaft.
    Cam,
    /// A piston with its wrist pin.
    Piston,
}

/// What is changed by a deed, and so no longer proven by what was measured before.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Tag {
    /// The surface of a journal.
    Journal,
    /// The cheeks beside a journal: a wheel that grinds or welds it may touch them.
    Cheeks,
    /// A cap, its seat or what draws it down.
    Cap,
    /// The shells themselves: others, or the same ones changed.
    Shells,
    /// Which shells are said to be in, without a word about the ones that were measured.
    ShellsNamed,
    /// Which parts are together there.
    Pairing,
    /// What holds the crank along its axis: faces, washers, their seat.
    Thrust,
    /// The side faces of a rod's big end.
    RodSides,
    /// The bush of a cam journal, or the bore it runs in.
    Bush,
    /// What holds the cam along its axis.
    CamThrust,
    /// How straight the crank is.
    Straightness,
    /// The wall of a cylinder.
    Bore,
    /// A piston, its skirt and its bosses.
    Piston,
    /// Where on it a piston is measured.
    GaugePoint,
    /// The small end of a rod.
    SmallEnd,
    /// The rings of a cylinder.
    Rings,
    /// A face that a gasket seals on.
    Deck,
    /// The line of the main housings.
    Tunnel,
}

/// Where the deed must have been done to end the evidence.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Reach {
    /// At the place itself.
    Here,
    /// At the journal that the place runs on.
    OnJournal,
    /// At a bearing that runs on the same journal.
    OnBearings,
    /// Anywhere: what was done to one of them puts all of them in doubt.
    Anywhere,
}

/// What is expected of a characteristic while nothing is known of it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Expects {
    /// What the journals of its row measure as a rule.
    UsualJournal,
    /// The journal and the aim together.
    JournalAndAim,
    /// The nominal housing; without one, journal and aim.
    Housing,
    /// The nominal wall in the middle of its tolerance, thicker by half of what the journal is under.
    Wall,
    /// The nominal of that very journal.
    OwnNominal,
    /// That and the aim together.
    OwnNominalAndAim,
    /// The aim.
    Aim,
    /// Nothing: any size may be right.
    Anything,
}

/// What it is cut in, for its expansion.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum CutIn {
    /// Steel.
    Steel,
    /// Whatever the block is made of.
    Block,
    /// Whatever the rods are made of.
    Rod,
    /// The aluminium of a piston.
    Piston,
}

/// Axial place on a characteristic.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Axial {
    /// In front of the oil hole or groove.
    Front,
    /// Half way along.
    Middle,
    /// Behind it.
    Rear,
}

/// Where a characteristic is touched.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Position {
    /// Along the axis.
    pub axial: Axial,
    /// Degrees from vertical, or for a wall from the crown.
    pub angle: i16,
    /// Which track of a shared pin, counted from the front: 1 is the front rod's; absent where there is only one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub track: Option<u8>,
}

impl Position {
    /// A position on something that has one track.
    pub const fn at(axial: Axial, angle: i16) -> Self {
        Position { axial, angle, track: None }
    }
}

/// A position of a plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Planned {
    /// Where.
    pub position: Position,
    /// Advisory positions inform (relief) but do not count for the size.
    pub advisory: bool,
}

/// Where a characteristic is touched at one kind of place.
pub(super) struct UsualPlan {
    pub of: &'static str,
    pub at: PlaceKind,
    pub positions: &'static [Planned],
}

/// A position that counts.
pub(super) const fn counts(axial: Axial, angle: i16) -> Planned {
    Planned { position: Position::at(axial, angle), advisory: false }
}

/// A position that only informs.
pub(super) const fn informs(axial: Axial, angle: i16) -> Planned {
    Planned { position: Position::at(axial, angle), advisory: true }
}

/// What is known about a characteristic: one row of the catalogue.
#[derive(Debug)]
pub struct CharacteristicRow {
    /// How it is written in data.
    pub id: &'static str,
    /// The kinds of place that have it.
    pub at: &'static [PlaceKind],
    /// What it is in the figures made of it.
    pub role: Role,
    /// The part whose evidence it is.
    pub part: PartKind,
    /// Which of its places is the worst.
    pub counts: Extreme,
    /// What it is measured with.
    pub gauge: GaugeUse,
    /// How it can be read, the one by itself first.
    pub reads: &'static [Read],
    /// Whether what was read one way is kept apart from what was read another way.
    pub reads_apart: bool,
    /// Its usual plan of positions, in the order they are touched.
    pub positions: &'static [Planned],
    /// What ends its evidence.
    pub ended_by: &'static [(Tag, Reach)],
    /// Whether it is measured over a torqued cap, and so belongs to one set-up.
    pub torqued: bool,
    /// Whether a value is wider toward the parting line than at the vertical when all is well.
    pub relieved: bool,
    /// Whether it may be zero or less: what stands proud of a face lies below it by less than nothing.
    pub signed: bool,
    /// Whether a gauge needs a session to prove it; a crushed strip has nothing to check.
    pub checked_gauge: bool,
    /// How far its places may differ, in nanometres, before something is suspected; no limit where absent.
    pub places_within: Option<i64>,
    /// What is expected while nothing is known.
    pub expects: Expects,
    /// What it is cut in.
    pub cut_in: CutIn,
}
