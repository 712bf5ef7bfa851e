//! Eyes and fingernail: what every part of an engine looks like, in signs that can be drawn.
use serde::{Deserialize, Serialize};

use crate::engine::{Axial, Characteristic, Layout, PLACE_KINDS, Place, PlaceKind, Role};
use crate::units::{Flaw, Length, Wrong, must, must_count, must_differ};

/// What was looked at.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum InspectedPart {
    /// The upper shell.
    Upper,
    /// The lower shell.
    Lower,
    /// The journal or pin.
    Journal,
    /// The thrust face toward the front: washer and cheek.
    ThrustFront,
    /// The thrust face toward the rear.
    ThrustRear,
    /// The wall of a cylinder.
    Bore,
    /// A piston: skirt, crown, ring lands and bosses.
    Piston,
    /// The rings of a cylinder.
    Rings,
    /// A rod with its bolts and its bush.
    Rod,
    /// The face of a deck or a head.
    Face,
    /// A cam journal, and the lobes and followers beside it.
    Lobes,
    /// The valves of a head with their seats and guides.
    Valves,
    /// What sits on an end of the crank: damper, flywheel or rotor.
    Hub,
    /// The land that a seal runs on.
    SealLand,
    /// The oil pump.
    Pump,
    /// Studs and bolts of the mains, or of a head.
    Fasteners,
}

/// A sign of wear or damage.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Sign {
    /// Shell: worn evenly, as it should be.
    Uniform,
    /// Shell: along the front edge.
    EdgeFront,
    /// Shell: along the rear edge.
    EdgeRear,
    /// Shell: along both edges.
    BothEdges,
    /// Shell: on one side of the half only.
    OneSide,
    /// Shell: in the centre.
    Centre,
    /// Shell: in a band around.
    Band,
    /// Shell: spots or embedded debris.
    Spots,
    /// Shell: wiped.
    Wiped,
    /// Shell: down to the underlayer.
    Underlayer,
    /// Shell: at the parting line.
    Seam,
    /// Shell: discoloured by heat.
    HeatDiscoloured,
    /// Journal: smooth.
    Smooth,
    /// Journal: a line that is felt but does not catch a nail.
    Felt,
    /// Journal: catches a nail.
    CatchesNail,
    /// Journal: a groove.
    Groove,
    /// Journal: a ridge between two bands.
    Ridge,
    /// Journal: chatter.
    Chatter,
    /// Journal: a heat mark.
    HeatMark,
    /// Journal: an oil stain.
    OilStain,
    /// Journal: a groove where a seal or its land ran.
    SealGroove,
    /// Journal: a crack.
    Crack,
    /// Thrust face: polished bright by a load that never lets go.
    Polished,
    /// Thrust face: scored.
    Scored,
    /// Shell, bore or lobe: small pits.
    Pits,
    /// Shell: its lining has lifted from the back.
    LiningLifted,
    /// Shell: its back is fretted, or has dark spots where it does not touch.
    BackFretted,
    /// Shell or piston: its coating is gone.
    CoatingGone,
    /// Bore: scored on one side.
    ScoredOneSide,
    /// Bore: scored all around.
    ScoredAround,
    /// Bore: a ridge where the rings turn.
    RingRidge,
    /// Bore: glazed.
    Glazed,
    /// Bore: glazed on one side only.
    GlazedOneSide,
    /// Bore or piston: worn at four corners.
    FourCorners,
    /// Bore: a line of rust where water stood.
    RustLine,
    /// Piston: scuffed on the thrust side.
    ScuffedThrust,
    /// Piston: scuffed on both sides.
    ScuffedBoth,
    /// Piston: dents in its crown.
    CrownDents,
    /// Piston: a ring is stuck in its groove.
    RingStuck,
    /// Piston or rod: the boss or the bush is worn.
    PinBossWorn,
    /// Piston: an edge is melted.
    EdgeMelted,
    /// Rings: worn at an edge.
    EdgeWorn,
    /// Rings: ends that are bright because they touched.
    EndsButted,
    /// Rings: marks of flutter.
    Flutter,
    /// Rod: a bolt is stretched, or its threads are galled.
    BoltStretched,
    /// Rod: the seat of its cap is fretted.
    SeatFretted,
    /// Rod: marks of bending.
    BentMarks,
    /// Rod: blued by heat.
    Blued,
    /// Face: a track where something leaked.
    LeakTrack,
    /// Face: fretted where it was clamped.
    Fretted,
    /// Face: eroded.
    Eroded,
    /// Lobe or follower: flakes have broken out.
    Spalled,
    /// Lobe or follower: hollow where it should be crowned.
    Concave,
    /// Cam journal: scuffed.
    Scuffed,
    /// Valve: burnt at its edge.
    Burnt,
    /// Valve: loose in its guide.
    GuideWorn,
    /// Damper: its ring has slipped on its rubber.
    RingSlipped,
    /// Fastener: its threads are galled.
    Galled,
}

/// What is known about a part that can be looked at.
#[derive(Debug)]
pub struct LookRow {
    /// The part.
    pub part: InspectedPart,
    /// The measured part that it belongs to: a rework of that one ends the look. Nothing measured, nothing ends it.
    pub with: Option<Role>,
    /// The kinds of place it is looked at; wherever its measured part is when there are none.
    pub only_at: &'static [PlaceKind],
    /// Whether an engine has it at all.
    pub has: fn(&Layout) -> bool,
    /// The signs that are looked for, the good one first.
    pub signs: &'static [Sign],
}

const SHELLS: &[PlaceKind] = &[PlaceKind::Main, PlaceKind::Rod];

/// A part that every engine has, wherever it is measured.
const JOURNAL: LookRow = LookRow {
    part: InspectedPart::Journal,
    with: Some(Role::JOURNAL),
    only_at: &[],
    has: |_| true,
    signs: &Sign::JOURNAL,
};
const UPPER: LookRow = LookRow {
    part: InspectedPart::Upper,
    with: Some(Role::UPPER_WALL),
    only_at: SHELLS,
    // On rollers there are no shells.
    has: |layout| !layout.rollers,
    signs: &Sign::SHELL,
};
const THRUST_FRONT: LookRow = LookRow {
    part: InspectedPart::ThrustFront,
    with: Some(Role::TRAVEL),
    only_at: &[PlaceKind::Thrust],
    signs: &Sign::THRUST,
    ..JOURNAL
};

/// The parts that can be looked at, in the order of the work.
pub const LOOKS: [LookRow; 16] = [
    JOURNAL,
    UPPER,
    LookRow { part: InspectedPart::Lower, with: Some(Role::LOWER_WALL), ..UPPER },
    THRUST_FRONT,
    LookRow { part: InspectedPart::ThrustRear, ..THRUST_FRONT },
    LookRow {
        part: InspectedPart::Rod,
        with: Some(Role::HOUSING),
        only_at: &[PlaceKind::Rod],
        signs: &[
            Sign::Smooth,
            Sign::BoltStretched,
            Sign::SeatFretted,
            Sign::BentMarks,
            Sign::Blued,
            Sign::PinBossWorn,
            Sign::Crack,
        ],
        ..JOURNAL
    },
    LookRow {
        part: InspectedPart::Bore,
        with: Some(Role::new("cylinder")),
        signs: &[
            Sign::Smooth,
            Sign::Pits,
            Sign::ScoredOneSide,
            Sign::ScoredAround,
            Sign::RingRidge,
            Sign::Glazed,
            Sign::GlazedOneSide,
            Sign::FourCorners,
            Sign::RustLine,
            Sign::Crack,
        ],
        ..JOURNAL
    },
    LookRow {
        part: InspectedPart::Piston,
        with: Some(Role::new("piston")),
        signs: &[
            Sign::Smooth,
            Sign::ScuffedThrust,
            Sign::ScuffedBoth,
            Sign::FourCorners,
            Sign::CrownDents,
            Sign::RingStuck,
            Sign::PinBossWorn,
            Sign::EdgeMelted,
            Sign::CoatingGone,
            Sign::Crack,
        ],
        ..JOURNAL
    },
    LookRow {
        part: InspectedPart::Rings,
        with: Some(Role::new("top_ring_gap")),
        signs: &[Sign::Smooth, Sign::EdgeWorn, Sign::EndsButted, Sign::Flutter],
        ..JOURNAL
    },
    LookRow {
        part: InspectedPart::Face,
        with: Some(Role::new("face_gap")),
        signs: &[Sign::Smooth, Sign::LeakTrack, Sign::Fretted, Sign::Eroded, Sign::Crack],
        ..JOURNAL
    },
    LookRow {
        part: InspectedPart::Lobes,
        with: Some(Role::new("cam_journal")),
        signs: &[Sign::Smooth, Sign::Pits, Sign::Spalled, Sign::Concave, Sign::EdgeWorn, Sign::Scuffed],
        ..JOURNAL
    },
    LookRow {
        part: InspectedPart::Valves,
        with: None,
        only_at: &[PlaceKind::Head],
        // What runs on rollers and has no cam breathes through ports.
        has: |layout| layout.cam.is_some() || !layout.rollers,
        signs: &[Sign::Smooth, Sign::Pits, Sign::Burnt, Sign::BentMarks, Sign::GuideWorn, Sign::Crack],
    },
    LookRow {
        part: InspectedPart::Hub,
        with: None,
        only_at: &[PlaceKind::CrankEnd],
        signs: &[Sign::Smooth, Sign::RingSlipped, Sign::Fretted, Sign::HeatDiscoloured, Sign::Crack],
        ..JOURNAL
    },
    LookRow {
        part: InspectedPart::SealLand,
        with: Some(Role::new("main_turn")),
        only_at: &[PlaceKind::CrankEnd],
        signs: &[Sign::Smooth, Sign::SealGroove, Sign::Scored],
        ..JOURNAL
    },
    LookRow {
        part: InspectedPart::Pump,
        with: None,
        only_at: &[PlaceKind::OilPump],
        signs: &[Sign::Smooth, Sign::Scored, Sign::Spots, Sign::Crack],
        ..JOURNAL
    },
    LookRow {
        part: InspectedPart::Fasteners,
        with: None,
        only_at: &[PlaceKind::Main, PlaceKind::Deck],
        signs: &[Sign::Smooth, Sign::BoltStretched, Sign::Galled, Sign::RustLine],
        ..JOURNAL
    },
];

impl Sign {
    /// All signs of shells.
    pub const SHELL: [Sign; 16] = [
        Sign::Uniform,
        Sign::EdgeFront,
        Sign::EdgeRear,
        Sign::BothEdges,
        Sign::OneSide,
        Sign::Centre,
        Sign::Band,
        Sign::Spots,
        Sign::Wiped,
        Sign::Underlayer,
        Sign::Seam,
        Sign::HeatDiscoloured,
        Sign::Pits,
        Sign::LiningLifted,
        Sign::BackFretted,
        Sign::CoatingGone,
    ];
    /// All signs of journals.
    pub const JOURNAL: [Sign; 10] = [
        Sign::Smooth,
        Sign::Felt,
        Sign::CatchesNail,
        Sign::Groove,
        Sign::Ridge,
        Sign::Chatter,
        Sign::HeatMark,
        Sign::OilStain,
        Sign::SealGroove,
        Sign::Crack,
    ];

    /// All signs of thrust faces.
    pub const THRUST: [Sign; 5] = [Sign::Smooth, Sign::Polished, Sign::Scored, Sign::Wiped, Sign::HeatDiscoloured];

    /// Whether it can be seen on that part.
    pub fn can_be_on(self, part: InspectedPart) -> bool {
        part.row().signs.contains(&self)
    }

    /// Whether it says that all is well.
    pub const fn is_good(self) -> bool {
        matches!(self, Sign::Uniform | Sign::Smooth)
    }

    /// A part with this sign is not used as it is: a journal goes to the grinder, crack test first; others are condemned or
    /// tested by somebody qualified.
    pub const fn is_stop(self) -> bool {
        matches!(
            self,
            Sign::CatchesNail
                | Sign::Crack
                | Sign::HeatMark
                | Sign::LiningLifted
                | Sign::EdgeMelted
                | Sign::BoltStretched
                | Sign::Blued
                | Sign::Spalled
                | Sign::Burnt
                | Sign::RingSlipped
                | Sign::Galled
        )
    }
}

/// Where on a part a sign was seen, and how deep it goes.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mark {
    /// The sign.
    pub sign: Sign,
    /// Along the part: front, middle or rear; top, middle or bottom of a cylinder.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub along: Option<Axial>,
    /// Degrees around it, from vertical or from across the crank.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub clock: Option<u16>,
    /// How deep it goes into the surface.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub depth: Option<Length>,
}

/// Deepest damage that is still looked at: a twentieth of an inch.
const DEEPEST: Length = Length::tenths(500);
/// Most marks of one look.
const MOST_MARKS: usize = 24;

/// What one part looks like; a later look at it replaces this one.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Inspection {
    /// Where: a main, a pin (its journal) or a rod (its shells).
    pub station: Place,
    /// On what.
    pub part: InspectedPart,
    /// What was seen; nothing takes the look back.
    pub signs: Vec<Sign>,
    /// Where on the part each was seen, as far as somebody said.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub marks: Vec<Mark>,
}

impl InspectedPart {
    /// What is known about it.
    pub fn row(self) -> &'static LookRow {
        // Every part has its row: a test counts them.
        LOOKS.iter().find(|row| row.part == self).unwrap_or(&LOOKS[0])
    }

    /// What is measured of it at a place, where anything is: its rework ends a look.
    pub fn measured_at(self, place: Place) -> Option<Characteristic> {
        Characteristic::at(place, self.row().with?)
    }

    /// Where it is looked at in an engine, from the front.
    pub fn places(self, layout: &Layout) -> Vec<Place> {
        if !(self.row().has)(layout) {
            return Vec::new();
        }
        let kinds = PLACE_KINDS.iter().map(|row| row.kind).filter(|kind| self.is_at(Place::new(*kind, 1)));
        kinds.flat_map(|kind| layout.of_kind(kind)).collect()
    }

    /// Whether it is looked at at a place.
    pub fn is_at(self, place: Place) -> bool {
        let only_at = self.row().only_at;
        only_at.contains(&place.kind()) || (only_at.is_empty() && self.measured_at(place).is_some())
    }
}

impl Inspection {
    /// Checks that its signs belong to its part, and its part to its place.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must(
            self.part.is_at(self.station),
            Flaw::of(
                "part",
                Wrong::Elsewhere(
                    "journals are at mains and pins, shells at mains and rods, thrust faces at the thrust, walls and rings at cylinders, pistons at wrist pins, valves at heads, hub and seal land at the ends of the crank, fasteners at mains and decks",
                ),
            ),
        )?;
        for (line, sign) in self.signs.iter().enumerate() {
            must(
                sign.can_be_on(self.part),
                Flaw::at("signs", line, Wrong::Elsewhere("a sign seen on that part does")),
            )?;
        }
        must_differ(&self.signs, "signs")?;
        must_count(self.marks.len(), "marks", 0, MOST_MARKS)?;
        for (line, mark) in self.marks.iter().enumerate() {
            let seen = self.signs.contains(&mark.sign);
            must(seen, Flaw::at("marks", line, Wrong::Elsewhere("a mark of a sign that was seen does")))?;
            let around = mark.clock.is_none_or(|degrees| degrees < 360);
            must(around, Flaw::at("marks", line, Wrong::Figure("0 to 359 degrees")))?;
            let deep = mark.depth.is_none_or(|depth| depth > Length::ZERO && depth <= DEEPEST);
            must(deep, Flaw::at("marks", line, Wrong::Figure("above zero, a twentieth of an inch at most")))?;
        }
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_sign_belongs_to_shells_or_to_journals_never_to_both() {
        for sign in Sign::SHELL.into_iter().chain(Sign::JOURNAL) {
            assert_ne!(sign.can_be_on(InspectedPart::Upper), sign.can_be_on(InspectedPart::Journal), "{sign:?}");
        }
        let look =
            |station, part, sign| Inspection { station, part, signs: vec![sign], marks: Vec::new() }.check().is_ok();
        assert!(look(Place::pin(1), InspectedPart::Journal, Sign::Groove));
        assert!(!look(Place::pin(1), InspectedPart::Upper, Sign::Wiped));
        assert!(!look(Place::rod(1), InspectedPart::Lower, Sign::Groove));
        assert!(look(Place::THRUST, InspectedPart::ThrustRear, Sign::Scored));
        assert!(!look(Place::main(4), InspectedPart::ThrustRear, Sign::Scored));
        assert!(!look(Place::THRUST, InspectedPart::Journal, Sign::Smooth));
        assert!(look(Place::cylinder(5), InspectedPart::Bore, Sign::RingRidge));
        assert!(!look(Place::cylinder(5), InspectedPart::Piston, Sign::RingStuck));
        assert!(look(Place::wrist_pin(5), InspectedPart::Piston, Sign::RingStuck));
    }

    #[test]
    fn every_part_has_one_row_and_begins_with_what_is_good() {
        for (i, row) in LOOKS.iter().enumerate() {
            assert_eq!(row.part.row().part, row.part);
            assert!(LOOKS[..i].iter().all(|other| other.part != row.part));
            assert_eq!(row.signs.iter().filter(|sign| sign.is_good()).count(), 1);
            assert!(row.signs[0].is_good());
        }
    }

    #[test]
    fn a_mark_is_of_a_sign_that_was_seen_and_lies_on_the_part() {
        let pit =
            Mark { sign: Sign::Pits, along: Some(Axial::Front), clock: Some(90), depth: Some(Length::tenths(60)) };
        let look = |mark: Mark| {
            let (station, part) = (Place::cylinder(2), InspectedPart::Bore);
            Inspection { station, part, signs: vec![Sign::Pits], marks: vec![mark] }.check().is_ok()
        };
        assert!(look(pit.clone()));
        assert!(!look(Mark { sign: Sign::RustLine, ..pit.clone() }));
        assert!(!look(Mark { clock: Some(360), ..pit.clone() }));
        assert!(!look(Mark { depth: Some(Length::tenths(501)), ..pit }));
    }
}
