//! Events in an engine's life that can have harmed what still looks well: each forces its checks.
//!
//! | event | measured again | by eye and hand |
//! |---|---|---|
//! | hydraulic lock | runout, rod housings, wrist pins, crown heights | rod alignment, fasteners |
//! | starved of oil | journals and what runs on them, cam | oil path; shells, journals, cam looked at |
//! | overheated | deck and head faces, bores, pistons, rings | ring tension, pressure test |
//! | over-revved | rod housings | valve train, fasteners; rods looked at |
//! | debris through it | bores, pistons | oil path; bores, pistons, faces looked at |
//! | water stood in it | bores, journals | oil path; everything looked at |
use serde::{Deserialize, Serialize};

use super::check::Check;
use super::ends::Ends;
use super::inspection::InspectedPart;
use crate::engine::{Layout, Place, PlaceKind, Scope, Tag};
use crate::units::{Flaw, LONGEST_TEXT, Wrong, must, must_be_text};

/// What befell an engine.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Befell {
    /// A cylinder filled with something that cannot be compressed.
    Hydrolock,
    /// It ran without enough oil.
    Starved,
    /// It ran too hot.
    Overheated,
    /// It turned faster than it was built for.
    OverRevved,
    /// Something hard went through it.
    Debris,
    /// Water stood in it.
    Water,
}

/// Something that befell an engine before it came, or while it is here.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mishap {
    /// What.
    pub befell: Befell,
    /// The cylinder it befell; absent where it befell the engine as a whole.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub at: Option<Place>,
    /// Who said so, and what is known of it.
    pub note: String,
}

impl Mishap {
    /// Checks its place and its note.
    ///
    /// # Errors
    /// [`Flaw`] names the part that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        let cylinder = self.at.is_none_or(|at| at.kind() == PlaceKind::Cylinder);
        must(cylinder, Flaw::of("at", Wrong::Elsewhere("what befell one cylinder is said of that cylinder")))?;
        must_be_text(&self.note, "note", None, LONGEST_TEXT)
    }

    /// Whether it can have reached a place: all of them, or those of its cylinder and what all cylinders share.
    pub fn reaches(&self, layout: &Layout, place: Place) -> bool {
        let Some(at) = self.at else { return true };
        match (place.of_cylinder(), place.kind()) {
            (Some(cylinder), _) => cylinder == at.number(),
            (None, PlaceKind::Pin) => place == layout.journal_of(Place::rod(at.number())),
            _ => true,
        }
    }

    /// What it ends.
    pub fn ends(&self, layout: &Layout) -> Vec<Ends> {
        let of_kind = |(kind, tags): &(PlaceKind, &'static [Tag])| {
            let tags = *tags;
            let reached = layout.of_kind(*kind).filter(|place| self.reaches(layout, *place));
            reached.map(|place| Ends { scope: Scope::One(place), tags }).collect::<Vec<_>>()
        };
        self.befell.changes().iter().flat_map(of_kind).collect()
    }
}

impl Befell {
    /// All of them.
    pub const ALL: [Befell; 6] =
        [Befell::Hydrolock, Befell::Starved, Befell::Overheated, Befell::OverRevved, Befell::Debris, Befell::Water];

    /// What it can have changed, at which kinds of place: what was measured of it before proves nothing any more.
    pub const fn changes(self) -> &'static [(PlaceKind, &'static [Tag])] {
        use PlaceKind as At;
        match self {
            Befell::Hydrolock => &[
                (At::Main, &[Tag::Straightness]),
                (At::Rod, &[Tag::Cap, Tag::SmallEnd]),
                (At::WristPin, &[Tag::Piston]),
            ],
            Befell::Starved => &[(At::Main, &[Tag::Journal]), (At::Pin, &[Tag::Journal]), (At::Cam, &[Tag::Journal])],
            Befell::Overheated => &[
                (At::Deck, &[Tag::Deck]),
                (At::Head, &[Tag::Deck]),
                (At::Cylinder, &[Tag::Bore, Tag::Rings]),
                (At::WristPin, &[Tag::Piston]),
            ],
            Befell::OverRevved => &[(At::Rod, &[Tag::Cap])],
            Befell::Debris => &[(At::Cylinder, &[Tag::Bore]), (At::WristPin, &[Tag::Piston])],
            Befell::Water => {
                &[(At::Main, &[Tag::Journal]), (At::Pin, &[Tag::Journal]), (At::Cylinder, &[Tag::Bore, Tag::Rings])]
            }
        }
    }

    /// What is checked by eye and hand because of it.
    pub const fn checks(self) -> &'static [Check] {
        match self {
            Befell::Hydrolock => &[Check::RodAlignment, Check::Fasteners],
            Befell::Starved | Befell::Debris | Befell::Water => &[Check::OilPath],
            Befell::Overheated => &[Check::RingTension, Check::PressureTest],
            Befell::OverRevved => &[Check::ValveTrain, Check::Fasteners],
        }
    }

    /// What is looked at because of it.
    pub const fn looks(self) -> &'static [InspectedPart] {
        use InspectedPart as Part;
        match self {
            Befell::Hydrolock => &[Part::Rod, Part::Piston],
            Befell::Starved => &[Part::Journal, Part::Upper, Part::Lower, Part::Lobes],
            Befell::Overheated => &[Part::Bore, Part::Piston, Part::Rings, Part::Face],
            Befell::OverRevved => &[Part::Rod, Part::Piston],
            Befell::Debris => &[Part::Bore, Part::Piston, Part::Face],
            Befell::Water => &[Part::Journal, Part::Upper, Part::Lower, Part::Bore, Part::Rings, Part::Lobes],
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_event_forces_something_measured_something_done_and_something_seen() {
        for befell in Befell::ALL {
            assert!(!befell.changes().is_empty() && !befell.checks().is_empty() && !befell.looks().is_empty());
        }
    }

    #[test]
    fn an_event_is_of_a_cylinder_or_of_the_engine() {
        let mishap = |at| Mishap { befell: Befell::Hydrolock, at, note: "ford, third stage".into() };
        assert!(mishap(None).check().is_ok() && mishap(Some(Place::cylinder(3))).check().is_ok());
        assert!(mishap(Some(Place::main(3))).check().is_err());
        assert!(Mishap { note: String::new(), ..mishap(None) }.check().is_err());
    }
}
