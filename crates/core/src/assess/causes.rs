//! What may be behind a suspicion, how much each is worth before and after its checks, and which check tells most per minute.
//!
//! The weights are shares of a hundred by experience of the trade, and a start only: what was checked multiplies them
//! ([`crate::maths::weighed`]). A cause that falls below one in twenty is killed, by the check that took most from it.
use serde::Serialize;

use super::suspicion::{Cause, Suspicion};
use crate::log::Check;
use crate::maths::{gain, weighed};

/// A cause with what is left of it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WeighedCause {
    /// The cause.
    pub cause: Cause,
    /// Its share in a hundred.
    pub share: u8,
    /// The check that killed it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub killed_by: Option<Check>,
}

/// The check that tells most for its time.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NextCheck {
    /// Which.
    pub check: Check,
    /// What it is expected to tell, in hundredths of a bit.
    pub centibits: u16,
    /// How long it takes, in minutes.
    pub minutes: u16,
    /// Whether no check of another suspicion tells more in its time.
    pub first: bool,
}

impl NextCheck {
    /// Whether it tells more in a minute than another one.
    pub(super) fn beats(&self, other: &NextCheck) -> bool {
        let per = |a: &NextCheck, b: &NextCheck| u32::from(a.centibits).saturating_mul(u32::from(b.minutes));
        per(self, other) > per(other, self)
    }
}

/// Below this share a cause is killed.
const KILLED: f64 = 0.05;

/// How often a check finds what it looks for, and how often it finds it where it is not.
const FINDS: f64 = 0.90;
const FINDS_WRONGLY: f64 = 0.10;

/// The causes of a suspicion with their shares of a hundred.
pub(super) const fn causes(of: Suspicion) -> &'static [(Cause, u8)] {
    use Cause as C;
    match of {
        Suspicion::CrankOrTunnel => &[(C::BentCrank, 45), (C::CrookedTunnel, 35), (C::WrongSize, 20)],
        Suspicion::TightOrWrongUndersize => &[(C::TooTight, 40), (C::WrongSize, 35), (C::ThinOil, 25)],
        Suspicion::StopJournal => &[(C::Metal, 40), (C::RanHot, 30), (C::Other, 30)],
        Suspicion::ShellsOnFillet => &[(C::Fillet, 80), (C::Other, 20)],
        Suspicion::BentRod => &[(C::RodBent, 70), (C::Housing, 20), (C::Other, 10)],
        Suspicion::ThrustLoad => &[(C::ConstantLoad, 55), (C::EndPlay, 35), (C::Other, 10)],
        Suspicion::DirtOrStarvation => &[(C::Dirt, 50), (C::Starved, 40), (C::Other, 10)],
        Suspicion::CapShiftedOrCrush => &[(C::ShiftedCap, 40), (C::LittleCrush, 35), (C::Lugging, 25)],
        Suspicion::RegroundBefore => &[(C::WrongSize, 90), (C::Other, 10)],
        Suspicion::OneBearing => &[(C::Housing, 35), (C::Dirt, 30), (C::Shell, 35)],
        Suspicion::OneSidedLoad => &[(C::RodBent, 50), (C::ShiftedCap, 35), (C::Other, 15)],
        Suspicion::HotOrOverloaded => &[(C::Lugging, 30), (C::Detonated, 30), (C::Starved, 25), (C::TooTight, 15)],
        Suspicion::FrettingSeat => &[(C::Fasteners, 40), (C::WrongSize, 35), (C::BentCrank, 25)],
        Suspicion::RidgeBetweenTracks => &[(C::GroundStep, 55), (C::OneTight, 45)],
        Suspicion::OilStood => &[(C::Stood, 75), (C::Dirt, 25)],
        Suspicion::PittedWall => &[(C::Stood, 60), (C::Dirt, 25), (C::Other, 15)],
        Suspicion::SealCutIn => &[(C::Worn, 80), (C::Dirt, 20)],
        Suspicion::FatiguedShell => &[(C::Worn, 45), (C::Shell, 30), (C::Detonated, 25)],
        Suspicion::LowNip => &[(C::Housing, 50), (C::LittleCrush, 30), (C::Fasteners, 20)],
        Suspicion::ScuffedWall => &[(C::SmallGap, 40), (C::RodBent, 25), (C::Starved, 35)],
        Suspicion::WornWall => &[(C::Worn, 90), (C::Dirt, 10)],
        Suspicion::Glazed => &[(C::Worn, 60), (C::RodBent, 40)],
        Suspicion::DistortedWall => &[(C::Fasteners, 60), (C::RanHot, 40)],
        Suspicion::SeizedHot => &[(C::SmallGap, 50), (C::RanHot, 30), (C::Detonated, 20)],
        Suspicion::Detonation => &[(C::Detonated, 80), (C::Other, 20)],
        Suspicion::DebrisThrough => &[(C::Dirt, 80), (C::Other, 20)],
        Suspicion::RingsStuck => &[(C::RanHot, 50), (C::Groove, 50)],
        Suspicion::RingsButted => &[(C::SmallGap, 70), (C::RanHot, 30)],
        Suspicion::RingsFluttered => &[(C::Groove, 60), (C::Detonated, 40)],
        Suspicion::PinLoose => &[(C::Worn, 60), (C::Starved, 40)],
        Suspicion::FastenersLetGo => &[(C::Fasteners, 75), (C::Housing, 25)],
        Suspicion::RodGotHot => &[(C::Starved, 60), (C::TooTight, 40)],
        Suspicion::CoatingWorn => &[(C::Worn, 50), (C::SmallGap, 50)],
        Suspicion::JointLeaks => &[(C::NotFlat, 55), (C::Fasteners, 45)],
        Suspicion::LobeFails => &[(C::Worn, 50), (C::Starved, 50)],
        Suspicion::Cracked => &[(C::Metal, 90), (C::Other, 10)],
        Suspicion::ValvesFail => &[(C::Other, 40), (C::Detonated, 35), (C::Metal, 25)],
        Suspicion::HubLoose => &[(C::Fasteners, 45), (C::BentCrank, 25), (C::Worn, 30)],
        Suspicion::PumpScored => &[(C::Dirt, 85), (C::Worn, 15)],
    }
}

/// The causes that a check proves.
const fn proves(check: Check) -> &'static [Cause] {
    use Cause as C;
    match check {
        Check::CrackTest | Check::PressureTest => &[C::Metal],
        Check::JournalSize => &[C::WrongSize, C::TooTight, C::GroundStep],
        Check::HousingSize => &[C::Housing, C::LittleCrush, C::ShiftedCap, C::WrongSize],
        Check::BearingTaper => &[C::Housing, C::RodBent, C::Shell],
        Check::FilletClearance => &[C::Fillet],
        Check::RodAlignment | Check::CrownHeight => &[C::RodBent],
        Check::Runout => &[C::BentCrank],
        Check::StraightEdge => &[C::CrookedTunnel],
        Check::ShellStamp => &[C::WrongSize, C::Shell],
        Check::EndPlay => &[C::EndPlay],
        Check::ReleaseLoad => &[C::ConstantLoad],
        Check::OilPath => &[C::Dirt, C::Starved, C::ThinOil],
        Check::Dowels => &[C::ShiftedCap],
        Check::WallTaper => &[C::Shell],
        Check::FinestPolish => &[C::Stood],
        Check::GrooveDepth | Check::CylinderSize | Check::PistonSize | Check::LobeLift => &[C::Worn],
        Check::Fasteners => &[C::Fasteners],
        Check::DamageDepth => &[C::Stood, C::Dirt],
        Check::PistonToWall | Check::RingGap => &[C::SmallGap],
        Check::RingSide => &[C::Groove],
        Check::PinClearance => &[C::Worn, C::OneTight],
        Check::FaceFlatness => &[C::NotFlat],
        Check::PlugReading => &[C::Detonated, C::RanHot, C::Lugging],
        Check::RingTension => &[C::RanHot],
        Check::ValveTrain | Check::Roughness => &[C::Other],
    }
}

/// How long a check takes in a shop that has what it needs, in minutes.
pub(super) const fn minutes(check: Check) -> u16 {
    match check {
        Check::CrackTest | Check::PressureTest => 60,
        Check::Runout | Check::LobeLift => 25,
        Check::JournalSize | Check::HousingSize | Check::CylinderSize | Check::RingTension => 20,
        Check::RodAlignment | Check::CrownHeight | Check::Fasteners | Check::ValveTrain | Check::FilletClearance => 15,
        Check::OilPath => 30,
        Check::StraightEdge
        | Check::BearingTaper
        | Check::EndPlay
        | Check::ReleaseLoad
        | Check::FinestPolish
        | Check::FaceFlatness
        | Check::PinClearance => 10,
        Check::Dowels
        | Check::WallTaper
        | Check::GrooveDepth
        | Check::DamageDepth
        | Check::PistonToWall
        | Check::PistonSize
        | Check::RingGap
        | Check::RingSide
        | Check::PlugReading
        | Check::Roughness
        | Check::ShellStamp => 5,
    }
}

/// How probable it is that a check comes out badly under a cause. A wrong size shows as a bend and as a step in a tunnel more
/// often than chance does.
fn comes_out_badly(check: Check, under: Cause) -> f64 {
    match (check, under) {
        (Check::Runout, Cause::BentCrank) => 0.95,
        (Check::Runout | Check::StraightEdge, Cause::WrongSize) => 0.14,
        _ if proves(check).contains(&under) => FINDS,
        _ => FINDS_WRONGLY,
    }
}

/// What is left of the causes of a suspicion after its checks (`true` for one that came out badly), and the check that tells
/// most per minute among those that are open.
pub(super) fn weigh(of: Suspicion, done: &[(Check, bool)], open: &[Check]) -> (Vec<WeighedCause>, Option<NextCheck>) {
    let causes = causes(of);
    let outcomes = |check| -> Vec<f64> { causes.iter().map(|(cause, _)| comes_out_badly(check, *cause)).collect() };
    let mut weights: Vec<f64> = causes.iter().map(|(_, share)| f64::from(*share) / 100.0).collect();
    let mut killers: Vec<Option<(Check, f64)>> = vec![None; causes.len()];
    for (check, bad) in done {
        let after = weighed(&weights, &outcomes(*check), *bad);
        for (killer, (before, after)) in killers.iter_mut().zip(weights.iter().zip(&after)) {
            let took = before - after;
            if killer.is_none_or(|(_, most)| took > most) && took > 0.0 {
                *killer = Some((*check, took));
            }
        }
        weights = after;
    }
    let tells = |check: &Check| {
        let centibits = (gain(&weights, &outcomes(*check)) * 100.0).round();
        NextCheck { check: *check, centibits: centibits as u16, minutes: minutes(*check), first: false }
    };
    let next = open.iter().map(tells).filter(|next| next.centibits > 0).reduce(|a, b| if b.beats(&a) { b } else { a });
    let weighed = causes.iter().zip(&weights).zip(killers).map(|(((cause, _), weight), killer)| WeighedCause {
        cause: *cause,
        share: (weight * 100.0).round() as u8,
        killed_by: killer.filter(|_| *weight < KILLED).map(|(check, _)| check),
    });
    (weighed.collect(), next)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::assess::patterns::SIGN_PATTERNS;

    #[test]
    fn heavy_mains_are_looked_into_with_the_straight_edge_first() {
        let open = [Check::Runout, Check::StraightEdge, Check::HousingSize];
        let (causes, next) = weigh(Suspicion::CrankOrTunnel, &[], &open);
        assert_eq!(causes.iter().map(|c| c.share).collect::<Vec<_>>(), [45, 35, 20]);
        // Ten minutes for 0.47 bits; the runout tells 0.59 in twenty-five, the sizes 0.36 in twenty.
        assert_eq!(next, Some(NextCheck { check: Check::StraightEdge, centibits: 47, minutes: 10, first: false }));
        let told = |check| weigh(Suspicion::CrankOrTunnel, &[], &[check]).1.map(|n| (n.centibits, n.minutes));
        assert_eq!(told(Check::Runout), Some((59, 25)));
        assert_eq!(told(Check::HousingSize), Some((36, 20)));
    }

    #[test]
    fn what_a_check_finds_shifts_the_weights_and_kills() {
        let straight = [(Check::StraightEdge, false), (Check::Runout, true)];
        let (causes, next) = weigh(Suspicion::CrankOrTunnel, &straight, &[Check::HousingSize]);
        let of = |cause| causes.iter().find(|c| c.cause == cause).copied();
        assert!(of(Cause::BentCrank).is_some_and(|c| c.share > 85 && c.killed_by.is_none()));
        assert_eq!(of(Cause::CrookedTunnel).and_then(|c| c.killed_by), Some(Check::StraightEdge));
        assert!(next.is_some_and(|n| n.centibits < 36), "less is left to be told");
    }

    #[test]
    fn every_sign_leads_to_a_check_that_tells_something() {
        for pattern in SIGN_PATTERNS {
            let (_, next) = weigh(pattern.suspicion, &[], pattern.checks);
            assert!(next.is_some_and(|n| n.centibits > 0), "{:?}", pattern.suspicion);
        }
    }

    #[test]
    fn shares_add_up_and_every_cause_can_be_told_apart() {
        for suspicion in Suspicion::ALL {
            let all = causes(suspicion);
            assert_eq!(all.iter().map(|(_, share)| u32::from(*share)).sum::<u32>(), 100, "{suspicion:?}");
            assert!(all.len() > 1);
        }
    }
}
