//! What wear may point at, and what may be behind it: the words of [`super::hypotheses`].
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
    /// A shell is at the end of its life, or its lining never held.
    FatiguedShell,
    /// A shell that moves in its housing: too little crush, or the housing too large.
    LowNip,
    /// Water or dirt has eaten into a wall.
    PittedWall,
    /// A piston that has run on its wall.
    ScuffedWall,
    /// A cylinder that is worn.
    WornWall,
    /// Rings that never seated.
    Glazed,
    /// A cylinder that is not round when it is bolted together.
    DistortedWall,
    /// A piston that has seized, or nearly.
    SeizedHot,
    /// Detonation or glowing.
    Detonation,
    /// Something hard went through the cylinder.
    DebrisThrough,
    /// Rings that cannot move.
    RingsStuck,
    /// Rings whose ends touched.
    RingsButted,
    /// Rings that fluttered.
    RingsFluttered,
    /// A pin that is loose in its boss or bush.
    PinLoose,
    /// Fasteners that let go, or were tightened wrongly.
    FastenersLetGo,
    /// A rod that got hot.
    RodGotHot,
    /// A coating that wore off.
    CoatingWorn,
    /// A joint that leaks.
    JointLeaks,
    /// A lobe that fails.
    LobeFails,
    /// Something that is cracked.
    Cracked,
    /// Valves, seats or guides that fail.
    ValvesFail,
    /// A damper or flywheel that moves on its seat, or whose ring does.
    HubLoose,
    /// A pump that swallowed something.
    PumpScored,
}

impl Suspicion {
    /// All of them.
    pub const ALL: [Suspicion; 39] = [
        Suspicion::StopJournal,
        Suspicion::ShellsOnFillet,
        Suspicion::BentRod,
        Suspicion::CrankOrTunnel,
        Suspicion::TightOrWrongUndersize,
        Suspicion::ThrustLoad,
        Suspicion::DirtOrStarvation,
        Suspicion::CapShiftedOrCrush,
        Suspicion::RegroundBefore,
        Suspicion::OneBearing,
        Suspicion::OneSidedLoad,
        Suspicion::HotOrOverloaded,
        Suspicion::FrettingSeat,
        Suspicion::RidgeBetweenTracks,
        Suspicion::OilStood,
        Suspicion::SealCutIn,
        Suspicion::FatiguedShell,
        Suspicion::LowNip,
        Suspicion::PittedWall,
        Suspicion::ScuffedWall,
        Suspicion::WornWall,
        Suspicion::Glazed,
        Suspicion::DistortedWall,
        Suspicion::SeizedHot,
        Suspicion::Detonation,
        Suspicion::DebrisThrough,
        Suspicion::RingsStuck,
        Suspicion::RingsButted,
        Suspicion::RingsFluttered,
        Suspicion::PinLoose,
        Suspicion::FastenersLetGo,
        Suspicion::RodGotHot,
        Suspicion::CoatingWorn,
        Suspicion::JointLeaks,
        Suspicion::LobeFails,
        Suspicion::Cracked,
        Suspicion::ValvesFail,
        Suspicion::HubLoose,
        Suspicion::PumpScored,
    ];
}

/// What may be behind a suspicion.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Cause {
    /// The crank is bent.
    BentCrank,
    /// The tunnel is out of line.
    CrookedTunnel,
    /// A cap has shifted.
    ShiftedCap,
    /// A journal or a shell of the wrong size.
    WrongSize,
    /// The clearance was too tight for the work.
    TooTight,
    /// The oil was too thin, or too hot.
    ThinOil,
    /// Dirt.
    Dirt,
    /// Too little oil: the pump, a gallery, the level.
    Starved,
    /// The shell itself.
    Shell,
    /// A housing that is too large or out of round.
    Housing,
    /// Too little crush.
    LittleCrush,
    /// Lugging: too much load at too few turns.
    Lugging,
    /// Detonation, or the mixture.
    Detonated,
    /// A load that never lets go: the clutch release, the converter.
    ConstantLoad,
    /// End play.
    EndPlay,
    /// A bent or twisted rod.
    RodBent,
    /// The fillet.
    Fillet,
    /// Fasteners: stretch, threads, torque.
    Fasteners,
    /// A step of the grinder.
    GroundStep,
    /// One of the parts on it is tight or dirty.
    OneTight,
    /// It stood: water, acid, old oil.
    Stood,
    /// It is worn, and no more.
    Worn,
    /// It ran too hot.
    RanHot,
    /// A gap or a clearance that is too small.
    SmallGap,
    /// A groove that is too wide or too tight.
    Groove,
    /// A face that is not flat.
    NotFlat,
    /// Metal that is cracked.
    Metal,
    /// Something else.
    Other,
}
