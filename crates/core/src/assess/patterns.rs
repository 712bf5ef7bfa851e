//! What the signs of pistons, walls, rings, rods, faces, lobes, valves, hubs, pumps and fasteners suggest, and further signs of
//! shells and journals: one row a pattern.
use super::suspicion::Suspicion;
use crate::log::{Check, InspectedPart, Sign};

/// Signs of a part that suggest something by themselves, wherever they show.
#[derive(Debug)]
pub(super) struct SignPattern {
    pub suspicion: Suspicion,
    /// On which parts, and which signs.
    pub seen: &'static [(InspectedPart, &'static [Sign])],
    pub checks: &'static [Check],
}

const fn on(
    suspicion: Suspicion,
    seen: &'static [(InspectedPart, &'static [Sign])],
    checks: &'static [Check],
) -> SignPattern {
    SignPattern { suspicion, seen, checks }
}

/// The patterns, in the order of the work.
pub(super) const SIGN_PATTERNS: &[SignPattern] = &[
    on(
        Suspicion::SealCutIn,
        &[(InspectedPart::Journal, &[Sign::SealGroove]), (InspectedPart::SealLand, &[Sign::SealGroove, Sign::Scored])],
        &[Check::GrooveDepth],
    ),
    on(
        Suspicion::FatiguedShell,
        &[
            (InspectedPart::Upper, &[Sign::Pits, Sign::LiningLifted]),
            (InspectedPart::Lower, &[Sign::Pits, Sign::LiningLifted]),
        ],
        &[Check::ShellStamp, Check::WallTaper, Check::PlugReading],
    ),
    on(
        Suspicion::ValvesFail,
        &[(InspectedPart::Valves, &[Sign::Pits, Sign::Burnt, Sign::BentMarks, Sign::GuideWorn])],
        &[Check::ValveTrain, Check::PlugReading, Check::PressureTest],
    ),
    on(
        Suspicion::HubLoose,
        &[(InspectedPart::Hub, &[Sign::RingSlipped, Sign::Fretted, Sign::HeatDiscoloured])],
        &[Check::Runout, Check::Fasteners],
    ),
    on(Suspicion::PumpScored, &[(InspectedPart::Pump, &[Sign::Scored, Sign::Spots])], &[Check::OilPath]),
    on(
        Suspicion::LowNip,
        &[(InspectedPart::Upper, &[Sign::BackFretted]), (InspectedPart::Lower, &[Sign::BackFretted])],
        &[Check::HousingSize, Check::Fasteners],
    ),
    on(
        Suspicion::CoatingWorn,
        &[
            (InspectedPart::Upper, &[Sign::CoatingGone]),
            (InspectedPart::Lower, &[Sign::CoatingGone]),
            (InspectedPart::Piston, &[Sign::CoatingGone]),
        ],
        &[Check::PistonSize, Check::PistonToWall, Check::OilPath],
    ),
    on(
        Suspicion::PittedWall,
        &[(InspectedPart::Bore, &[Sign::Pits, Sign::RustLine])],
        &[Check::DamageDepth, Check::CylinderSize],
    ),
    on(
        Suspicion::ScuffedWall,
        &[
            (InspectedPart::Bore, &[Sign::ScoredOneSide, Sign::ScoredAround]),
            (InspectedPart::Piston, &[Sign::ScuffedThrust, Sign::ScuffedBoth]),
        ],
        &[Check::PistonToWall, Check::RodAlignment, Check::OilPath],
    ),
    on(Suspicion::WornWall, &[(InspectedPart::Bore, &[Sign::RingRidge])], &[Check::CylinderSize]),
    on(
        Suspicion::Glazed,
        &[(InspectedPart::Bore, &[Sign::Glazed, Sign::GlazedOneSide])],
        &[Check::CylinderSize, Check::RodAlignment, Check::PinClearance],
    ),
    on(
        Suspicion::DistortedWall,
        &[(InspectedPart::Bore, &[Sign::FourCorners])],
        &[Check::CylinderSize, Check::Fasteners, Check::FaceFlatness],
    ),
    on(
        Suspicion::SeizedHot,
        &[(InspectedPart::Piston, &[Sign::FourCorners])],
        &[Check::PistonToWall, Check::PlugReading],
    ),
    on(Suspicion::DebrisThrough, &[(InspectedPart::Piston, &[Sign::CrownDents])], &[Check::OilPath, Check::ValveTrain]),
    on(
        Suspicion::RingsStuck,
        &[(InspectedPart::Piston, &[Sign::RingStuck])],
        &[Check::RingSide, Check::PlugReading, Check::RingTension],
    ),
    on(
        Suspicion::PinLoose,
        &[(InspectedPart::Piston, &[Sign::PinBossWorn]), (InspectedPart::Rod, &[Sign::PinBossWorn])],
        &[Check::PinClearance, Check::OilPath],
    ),
    on(Suspicion::Detonation, &[(InspectedPart::Piston, &[Sign::EdgeMelted])], &[Check::PlugReading]),
    on(Suspicion::RingsButted, &[(InspectedPart::Rings, &[Sign::EndsButted])], &[Check::RingGap, Check::PlugReading]),
    on(
        Suspicion::RingsFluttered,
        &[(InspectedPart::Rings, &[Sign::Flutter, Sign::EdgeWorn])],
        &[Check::RingSide, Check::PlugReading],
    ),
    on(
        Suspicion::FastenersLetGo,
        &[
            (InspectedPart::Rod, &[Sign::BoltStretched, Sign::SeatFretted]),
            (InspectedPart::Fasteners, &[Sign::BoltStretched, Sign::Galled, Sign::RustLine]),
        ],
        &[Check::Fasteners, Check::HousingSize],
    ),
    on(
        Suspicion::BentRod,
        &[(InspectedPart::Rod, &[Sign::BentMarks])],
        &[Check::RodAlignment, Check::CrownHeight, Check::BearingTaper],
    ),
    on(Suspicion::RodGotHot, &[(InspectedPart::Rod, &[Sign::Blued])], &[Check::OilPath, Check::JournalSize]),
    on(
        Suspicion::JointLeaks,
        &[(InspectedPart::Face, &[Sign::LeakTrack, Sign::Fretted, Sign::Eroded])],
        &[Check::FaceFlatness, Check::Fasteners],
    ),
    on(
        Suspicion::LobeFails,
        &[(InspectedPart::Lobes, &[Sign::Pits, Sign::Spalled, Sign::Concave, Sign::EdgeWorn, Sign::Scuffed])],
        &[Check::LobeLift, Check::OilPath],
    ),
    on(
        Suspicion::Cracked,
        &[
            (InspectedPart::Bore, &[Sign::Crack]),
            (InspectedPart::Piston, &[Sign::Crack]),
            (InspectedPart::Rod, &[Sign::Crack]),
            (InspectedPart::Face, &[Sign::Crack]),
            (InspectedPart::Valves, &[Sign::Crack]),
            (InspectedPart::Hub, &[Sign::Crack]),
            (InspectedPart::Pump, &[Sign::Crack]),
        ],
        &[Check::CrackTest, Check::PressureTest],
    ),
];
