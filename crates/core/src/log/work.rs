//! Work events: something was done to a part, and the evidence about it ends.
//!
//! | work | on | ends the evidence about |
//! |---|---|---|
//! | journal polished, ground, welded | a main, a pin, a row, the crank | those journals |
//! | crank straightened | the crank | every journal |
//! | cap deburred, replaced, fitted the other way | a main or a rod | its housing and its bore |
//! | tunnel honed or bored | the mains | all main housings and bores |
//! | rod resized | a rod or all | its housing and its bore |
//! | other shells fitted | a bearing or a row | its bore and the walls of the shells taken out |
//! | shells coated, narrowed | a bearing or a row | its bore and the walls of those shells |
//!
//! Changes of the set-up (fasteners, torque, lubricant, caps, shells) do the same; they follow from the
//! recorded set-ups ([`crate::log`]).

use serde::{Deserialize, Serialize};

use crate::engine::{Layout, Part, Scope, Station};

/// What was done.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Work {
    /// A journal was polished by hand or on a machine.
    JournalPolished,
    /// A journal was ground.
    JournalGround,
    /// A journal was welded up.
    JournalWelded,
    /// The crank was straightened.
    CrankStraightened,
    /// A cap or its register was deburred or dressed.
    CapDeburred,
    /// A cap was replaced.
    CapReplaced,
    /// A cap was fitted the other way round.
    CapTurned,
    /// The main tunnel was align-honed or bored.
    TunnelHoned,
    /// A rod's big end was resized.
    RodResized,
    /// Other shells were fitted.
    ShellsFitted,
    /// The shells were coated.
    ShellsCoated,
    /// The shells were narrowed.
    ShellsNarrowed,
}

/// A work event.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WorkEvent {
    /// What was done.
    pub work: Work,
    /// To what.
    pub on: Scope,
    /// Grits of a polishing ladder, coarse to fine.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub grits: Vec<u16>,
    /// Minutes it took, where they are worth keeping.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub minutes: Option<u16>,
    /// Why, and what was seen.
    pub note: String,
}

impl Work {
    /// All kinds, in the order they are offered.
    pub const ALL: [Work; 12] = [
        Work::JournalPolished,
        Work::CapDeburred,
        Work::ShellsFitted,
        Work::RodResized,
        Work::TunnelHoned,
        Work::JournalGround,
        Work::CapTurned,
        Work::CapReplaced,
        Work::ShellsCoated,
        Work::ShellsNarrowed,
        Work::CrankStraightened,
        Work::JournalWelded,
    ];

    /// The parts whose evidence it ends.
    pub const fn ends(self) -> &'static [Part] {
        match self {
            Work::JournalPolished | Work::JournalGround | Work::JournalWelded | Work::CrankStraightened => {
                &[Part::Journal]
            }
            Work::CapDeburred | Work::CapReplaced | Work::CapTurned | Work::TunnelHoned | Work::RodResized => {
                // A strip is crushed in the same bore.
                &[Part::Housing, Part::Bore, Part::Strip]
            }
            Work::ShellsFitted | Work::ShellsCoated | Work::ShellsNarrowed => {
                &[Part::Bore, Part::UpperWall, Part::LowerWall, Part::Strip]
            }
        }
    }

    /// Whether it can be done to that.
    pub fn can_be_on(self, on: Scope) -> bool {
        use Scope::{Crank, Mains, One, Pins, Rods};
        match self {
            Work::JournalPolished | Work::JournalGround | Work::JournalWelded => {
                matches!(on, Mains | Pins | Crank | One(Station::Main(_) | Station::Pin(_)))
            }
            Work::CrankStraightened => on == Crank,
            Work::TunnelHoned => on == Mains,
            Work::RodResized => matches!(on, Rods | One(Station::Rod(_))),
            Work::CapDeburred | Work::CapReplaced | Work::CapTurned => {
                matches!(on, Mains | Rods | One(Station::Main(_) | Station::Rod(_)))
            }
            Work::ShellsFitted | Work::ShellsCoated | Work::ShellsNarrowed => {
                matches!(on, Mains | Rods | One(Station::Main(_) | Station::Rod(_)))
            }
        }
    }
}

impl WorkEvent {
    /// Whether it ends the evidence about that part of a station. A strip crushed on a reworked journal
    /// says nothing about the new one.
    pub fn ends(&self, layout: &Layout, station: Station, part: Part) -> bool {
        let here = self.work.ends().contains(&part) && self.on.covers(station);
        let under_the_strip = part == Part::Strip
            && self.work.ends().contains(&Part::Journal)
            && self.on.covers(layout.journal_of(station));
        here || under_the_strip
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_tunnel_is_honed_as_a_whole_and_a_rod_is_no_journal() {
        assert!(Work::TunnelHoned.can_be_on(Scope::Mains));
        assert!(!Work::TunnelHoned.can_be_on(Scope::One(Station::Main(2))));
        assert!(!Work::JournalPolished.can_be_on(Scope::One(Station::Rod(1))));
        assert!(Work::RodResized.can_be_on(Scope::Rods));
    }

    #[test]
    fn every_work_ends_something_and_is_offered_once() {
        for (i, work) in Work::ALL.iter().enumerate() {
            assert!(!work.ends().is_empty());
            assert!(!Work::ALL[i + 1..].contains(work));
        }
    }
}
