//! Checks: what confirms a suspicion or kills it, and what an event in a part's life asks for.
use serde::{Deserialize, Serialize};

use crate::engine::{Place, Tag};
use crate::units::{Flaw, LONGEST_TEXT, must_be_text};

/// A check: measured, or judged by eye and hand.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Check {
    /// Crack test, by somebody qualified for it.
    CrackTest,
    /// Size of the journals.
    JournalSize,
    /// Size and shape of the housing.
    HousingSize,
    /// Bore over the shells, front against rear.
    BearingTaper,
    /// Shell against fillet.
    FilletClearance,
    /// Alignment of the rod.
    RodAlignment,
    /// Runout of the crank.
    Runout,
    /// A straight edge in the tunnel.
    StraightEdge,
    /// The stamp on the old shells.
    ShellStamp,
    /// End play.
    EndPlay,
    /// Load of the clutch release or the converter.
    ReleaseLoad,
    /// Cleaning and the oil path, pump included.
    OilPath,
    /// The dowels of the cap.
    Dowels,
    /// The wall along the shell.
    WallTaper,
    /// The finest grit of a polish, and a look again.
    FinestPolish,
    /// Depth of the groove; a sleeve.
    GrooveDepth,
    /// The fasteners: stretch, threads, how they were tightened.
    Fasteners,
    /// How deep the damage of a wall or a face goes.
    DamageDepth,
    /// Size and shape of the cylinder.
    CylinderSize,
    /// What the piston has to its wall.
    PistonToWall,
    /// Size of the piston, beside the worn patch too.
    PistonSize,
    /// Gaps of the rings.
    RingGap,
    /// Rings in their grooves.
    RingSide,
    /// The wrist pin in its bosses and its rod.
    PinClearance,
    /// How flat the face is.
    FaceFlatness,
    /// Heights of the crowns at dead centre: a bent rod is a short rod.
    CrownHeight,
    /// What the plugs and the tuning say.
    PlugReading,
    /// Lift and base circle of the lobes.
    LobeLift,
    /// Tension of the rings.
    RingTension,
    /// Valves, seats, guides and springs.
    ValveTrain,
    /// A pressure test, by somebody qualified for it.
    PressureTest,
    /// Roughness of what was ground, polished or honed, by gauge or comparator.
    Roughness,
}

/// What a check found.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CheckFound {
    /// All is well.
    Good,
    /// What was feared is there.
    Bad,
}

/// A check that was done by eye or hand, or elsewhere: no gauge of the bench read it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CheckDone {
    /// Which.
    pub check: Check,
    /// Where; absent where it is of the engine as a whole.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub at: Option<Place>,
    /// What it found.
    pub found: CheckFound,
    /// By whom or how, and what was seen.
    pub note: String,
}

impl CheckDone {
    /// Checks its note.
    ///
    /// # Errors
    /// [`Flaw`] when there is none, or it is too long: a check without a word on who did it is worth nothing.
    pub fn check(&self) -> Result<(), Flaw> {
        must_be_text(&self.note, "note", None, LONGEST_TEXT)
    }
}

impl Check {
    /// What changes what it found: after that it has to be done again.
    pub const fn ended_by(self) -> &'static [Tag] {
        match self {
            Check::CrackTest | Check::Runout => &[Tag::Straightness],
            Check::StraightEdge => &[Tag::Tunnel],
            Check::RodAlignment => &[Tag::SmallEnd, Tag::Cap],
            Check::Dowels | Check::Fasteners => &[Tag::Cap],
            Check::RingTension => &[Tag::Rings],
            _ => &[],
        }
    }
}
