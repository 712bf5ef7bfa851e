//! What wear may point at, and the checks that confirm or kill it: the words of [`super::hypotheses`].
use serde::Serialize;

/// What a pattern suggests.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Suspicion {
    /// A journal that stops the work: to the grinder, crack test first.
    StopJournal,
    /// The shells ride on the fillets.
    ShellsOnFillet,
    /// A rod is bent or twisted.
    BentRod,
    /// The crank is bent, the tunnel out of line, or a cap shifted.
    CrankOrTunnel,
    /// The clearance was too tight, or the wrong undersize was fitted.
    TightOrWrongUndersize,
    /// Constant load on the thrust face, or wrong end play.
    ThrustLoad,
    /// Dirt in the oil, or too little of it.
    DirtOrStarvation,
    /// A cap has shifted, or the shells have too little crush, or the engine was lugged.
    CapShiftedOrCrush,
    /// The crank was reground before.
    RegroundBefore,
    /// One bearing alone: its cap, dirt under its shell, or the shell itself.
    OneBearing,
    /// The shells carry on one side: a rod or a cap out of line.
    OneSidedLoad,
    /// Too hot or too heavily loaded: lugging, detonation, thin oil.
    HotOrOverloaded,
    /// A seat that frets, or fasteners that let it.
    FrettingSeat,
    /// A step between the tracks of a pin.
    RidgeBetweenTracks,
    /// Oil or acid stood on the journal.
    OilStood,
    /// The lip of a seal has cut in.
    SealCutIn,
}

/// A check that confirms or kills a hypothesis.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ConfirmBy {
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
}
