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
//! | thrust seated, other washers fitted | the thrust | the end play |
//! | cam bushes fitted | a cam journal's place | its bearing |
//! | cam plate, shim or button fitted | the cam's thrust | its end play |
//! | cylinders bored, honed | a cylinder or all | their walls, and the gaps of the rings in them |
//! | pistons coated or machined | a wrist pin's place | that piston's sizes |
//! | small end honed or bushed | a rod or all | its bush |
//! | rings filed or changed | a cylinder | their gaps |
//! | cylinders, rods, heads washed, crank or block flushed, rings fitted | them | nothing: they are steps with ticks |
//! | blasted, or dressed with an abrasive disc | block, crank, rods, a head | nothing, but grit stays in every drilling |
//! | deck or head face machined | that face | its flatness; of a deck its heights and what the pistons have below it |
//! | rods narrowed | a rod or all | their widths and the side clearance of their pins |
//! | journal of the thrust main ground, welded | that main | the end play: the wheel may touch its cheeks |
//!
//! Changes of the set-up (fasteners, torque, lubricant, caps, shells) do the same; they follow from the
//! recorded set-ups ([`crate::log`]).
use serde::{Deserialize, Serialize};

use super::ends::Ends;
use super::ticks::Tick;
use crate::engine::{Place, PlaceKind, Scope, Tag};
use crate::units::{Flaw, LONGEST_TEXT, Wrong, must, must_be_text, must_count, must_differ};

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
    /// The thrust was seated: the crank driven both ways with its cap only nipped, then the cap torqued.
    ThrustSeated,
    /// Other thrust washers were fitted, or flanged shells of another width.
    WashersFitted,
    /// Rods were narrowed.
    RodNarrowed,
    /// Cam bushes were fitted, honed or reamed.
    BushFitted,
    /// A plate, shim or button that holds the cam was fitted.
    CamPlateFitted,
    /// A cylinder was bored.
    CylinderBored,
    /// A cylinder was honed.
    CylinderHoned,
    /// A piston was coated, or its skirt, pockets or bosses were machined.
    PistonMachined,
    /// A small end was honed, or bushed anew.
    SmallEndHoned,
    /// Rings were filed or changed.
    RingsFiled,
    /// A cylinder was washed: after every stone, before anything is measured for the sheet.
    CylinderWashed,
    /// The drillings of the crank were brushed and flushed.
    CrankFlushed,
    /// Rings were put on their piston for good.
    RingsFitted,
    /// A deck or a head face was machined.
    FaceMachined,
    /// The galleries of the block were brushed and flushed with every plug out.
    BlockFlushed,
    /// A rod was washed: its bolt holes and its oil hole brushed.
    RodWashed,
    /// A head was washed: its drillings and water spaces flushed.
    HeadWashed,
    /// A part was blasted, or its faces dressed with an abrasive disc.
    Blasted,
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
    /// What was looked at and is so.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub ticks: Vec<Tick>,
    /// Why, and what was seen.
    pub note: String,
}

impl Work {
    /// All kinds, in the order they are offered.
    pub const ALL: [Work; 30] = [
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
        Work::ThrustSeated,
        Work::WashersFitted,
        Work::RodNarrowed,
        Work::BushFitted,
        Work::CamPlateFitted,
        Work::CylinderHoned,
        Work::CylinderBored,
        Work::PistonMachined,
        Work::SmallEndHoned,
        Work::RingsFiled,
        Work::CylinderWashed,
        Work::CrankFlushed,
        Work::RingsFitted,
        Work::FaceMachined,
        Work::BlockFlushed,
        Work::RodWashed,
        Work::HeadWashed,
        Work::Blasted,
    ];

    /// What it changes.
    pub const fn changes(self) -> &'static [Tag] {
        match self {
            Work::JournalPolished | Work::CrankStraightened => &[Tag::Journal],
            Work::JournalGround | Work::JournalWelded => &[Tag::Journal, Tag::Cheeks],
            Work::CapDeburred | Work::CapReplaced | Work::CapTurned | Work::RodResized => &[Tag::Cap],
            Work::TunnelHoned => &[Tag::Cap, Tag::Tunnel],
            Work::FaceMachined => &[Tag::Deck],
            Work::ShellsFitted | Work::ShellsCoated | Work::ShellsNarrowed => &[Tag::Shells],
            Work::ThrustSeated | Work::WashersFitted => &[Tag::Thrust],
            Work::RodNarrowed => &[Tag::RodSides],
            Work::BushFitted => &[Tag::Bush],
            Work::CamPlateFitted => &[Tag::CamThrust],
            Work::CylinderBored | Work::CylinderHoned => &[Tag::Bore],
            Work::PistonMachined => &[Tag::Piston],
            Work::SmallEndHoned => &[Tag::SmallEnd],
            Work::RingsFiled => &[Tag::Rings],
            Work::CylinderWashed
            | Work::CrankFlushed
            | Work::RingsFitted
            | Work::BlockFlushed
            | Work::RodWashed
            | Work::HeadWashed
            | Work::Blasted => &[],
        }
    }

    /// The groups it is done to as a whole, and the kinds of place it is done to one by one.
    pub const fn done_to(self) -> (&'static [Scope], &'static [PlaceKind]) {
        match self {
            Work::JournalPolished => {
                (&[Scope::Mains, Scope::Pins, Scope::Crank], &[PlaceKind::Main, PlaceKind::Pin, PlaceKind::Cam])
            }
            Work::JournalGround | Work::JournalWelded => {
                (&[Scope::Mains, Scope::Pins, Scope::Crank], &[PlaceKind::Main, PlaceKind::Pin])
            }
            Work::BushFitted => (&[], &[PlaceKind::Cam]),
            Work::CamPlateFitted => (&[], &[PlaceKind::CamThrust]),
            Work::FaceMachined => (&[], &[PlaceKind::Deck, PlaceKind::Head]),
            Work::CylinderBored | Work::CylinderHoned | Work::CylinderWashed => {
                (&[Scope::Cylinders], &[PlaceKind::Cylinder])
            }
            Work::PistonMachined => (&[], &[PlaceKind::WristPin]),
            Work::SmallEndHoned => (&[Scope::Rods], &[PlaceKind::Rod]),
            Work::RingsFiled => (&[], &[PlaceKind::Cylinder]),
            Work::RingsFitted => (&[Scope::Cylinders], &[PlaceKind::Cylinder]),
            Work::ThrustSeated | Work::WashersFitted => (&[], &[PlaceKind::Thrust]),
            Work::CrankStraightened | Work::CrankFlushed => (&[Scope::Crank], &[]),
            Work::TunnelHoned => (&[Scope::Mains], &[]),
            Work::RodResized | Work::RodNarrowed | Work::RodWashed => (&[Scope::Rods], &[PlaceKind::Rod]),
            Work::BlockFlushed => (&[Scope::Block], &[]),
            Work::HeadWashed => (&[], &[PlaceKind::Head]),
            Work::Blasted => (&[Scope::Block, Scope::Crank, Scope::Rods], &[PlaceKind::Head, PlaceKind::Rod]),
            Work::CapDeburred
            | Work::CapReplaced
            | Work::CapTurned
            | Work::ShellsFitted
            | Work::ShellsCoated
            | Work::ShellsNarrowed => (&[Scope::Mains, Scope::Rods], &[PlaceKind::Main, PlaceKind::Rod]),
        }
    }

    /// What has to be looked at before it may be called done.
    pub const fn ticks(self) -> &'static [Tick] {
        match self {
            Work::BushFitted => &[Tick::OilHolesOpen],
            Work::CylinderWashed => &[Tick::Scrubbed, Tick::WhiteCloth, Tick::Oiled],
            Work::CrankFlushed => &[Tick::DrillingsBrushed, Tick::WhiteCloth, Tick::PlugsBack],
            Work::RingsFitted => &[Tick::MarksUp, Tick::GapsApart, Tick::ExpanderButts],
            Work::BlockFlushed => &[Tick::DrillingsBrushed, Tick::WhiteCloth, Tick::PlugsBack],
            Work::RodWashed | Work::HeadWashed => &[Tick::Scrubbed, Tick::WhiteCloth, Tick::Oiled],
            _ => &[],
        }
    }

    /// What has to follow it before anything that was touched there goes on the sheet: grit ruins what was measured. Each
    /// of them cleans the places that it can be done to. A main is of the block and of the crank: what was blasted says which.
    pub const fn cleaned_by(self, on: Scope) -> &'static [Work] {
        match self {
            Work::CylinderBored | Work::CylinderHoned => &[Work::CylinderWashed],
            Work::JournalPolished | Work::JournalGround | Work::JournalWelded => &[Work::CrankFlushed],
            Work::TunnelHoned | Work::BushFitted => &[Work::BlockFlushed],
            Work::RodResized | Work::RodNarrowed | Work::SmallEndHoned => &[Work::RodWashed],
            Work::FaceMachined => &[Work::BlockFlushed, Work::HeadWashed],
            Work::Blasted if matches!(on, Scope::Crank) => &[Work::CrankFlushed],
            Work::Blasted => &[Work::BlockFlushed, Work::RodWashed, Work::HeadWashed],
            _ => &[],
        }
    }

    /// Whether the first reckonings asked for a cleaning after it: stones in cylinders and on journals only.
    pub const fn was_always_cleaned(self) -> bool {
        let first = matches!(self, Work::CylinderBored | Work::CylinderHoned);
        first || matches!(self, Work::JournalPolished | Work::JournalGround | Work::JournalWelded)
    }

    /// Whether it is done to the place, by itself or with its group.
    pub fn reaches(self, place: Place) -> bool {
        let (groups, kinds) = self.done_to();
        kinds.contains(&place.kind()) || groups.iter().any(|group| group.covers(place))
    }

    /// Whether it can be done to that.
    pub fn can_be_on(self, on: Scope) -> bool {
        let (groups, kinds) = self.done_to();
        match on {
            Scope::One(place) => kinds.contains(&place.kind()),
            group => groups.contains(&group),
        }
    }
}

/// Minutes of a long day's work.
const LONGEST_WORK: u16 = 1_440;
/// Grits of the longest polishing ladder.
const MOST_GRITS: usize = 12;

impl WorkEvent {
    /// Checks its figures and its note.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_be_text(&self.note, "note", None, LONGEST_TEXT)?;
        must_count(self.grits.len(), "grits", 0, MOST_GRITS)?;
        for (line, grit) in self.grits.iter().enumerate() {
            must((20..=10_000).contains(grit), Flaw::at("grits", line, Wrong::Figure("20 to 10 000")))?;
        }
        let day = self.minutes.is_none_or(|m| m <= LONGEST_WORK);
        must(day, Flaw::of("minutes", Wrong::Figure("a day's at most")))?;
        must_differ(self.ticks.iter(), "ticks")
    }

    /// The first thing that has to be looked at and is not ticked.
    pub fn unticked(&self) -> Option<Tick> {
        self.work.ticks().iter().copied().find(|tick| !self.ticks.contains(tick))
    }

    /// What it ends.
    pub fn ends(&self) -> Ends {
        Ends { scope: self.on, tags: self.work.changes() }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_tunnel_is_honed_as_a_whole_and_a_rod_is_no_journal() {
        assert!(Work::TunnelHoned.can_be_on(Scope::Mains));
        assert!(!Work::TunnelHoned.can_be_on(Scope::One(Place::main(2))));
        assert!(!Work::JournalPolished.can_be_on(Scope::One(Place::rod(1))));
        assert!(Work::RodResized.can_be_on(Scope::Rods));
    }

    #[test]
    fn every_work_ends_something_or_is_a_step_with_ticks_and_is_offered_once() {
        for (i, work) in Work::ALL.iter().enumerate() {
            assert!(
                !work.changes().is_empty() || !work.ticks().is_empty() || !work.cleaned_by(Scope::Block).is_empty()
            );
            for by in work.cleaned_by(Scope::Block) {
                assert!(by.changes().is_empty() && !by.ticks().is_empty(), "{work:?}");
            }
            assert!(!Work::ALL[i + 1..].contains(work));
        }
    }
}
