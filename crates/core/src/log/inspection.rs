//! Eyes and fingernail: what shells and journals look like, in signs that can be drawn.
use serde::{Deserialize, Serialize};

use crate::engine::{Characteristic, Place, Role};
use crate::units::{Flaw, Wrong, must, must_differ};

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
}

impl Sign {
    /// All signs of shells.
    pub const SHELL: [Sign; 12] = [
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
        match part {
            InspectedPart::ThrustFront | InspectedPart::ThrustRear => Sign::THRUST.contains(&self),
            InspectedPart::Journal => Sign::JOURNAL.contains(&self),
            InspectedPart::Upper | InspectedPart::Lower => Sign::SHELL.contains(&self),
        }
    }

    /// A journal with this sign goes to the grinder, crack test first.
    pub const fn is_stop(self) -> bool {
        matches!(self, Sign::CatchesNail | Sign::Crack | Sign::HeatMark)
    }
}

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
}

impl InspectedPart {
    /// The measured part whose rework ends a look.
    pub const fn role(self) -> Role {
        match self {
            InspectedPart::Upper => Role::UPPER_WALL,
            InspectedPart::Lower => Role::LOWER_WALL,
            InspectedPart::Journal => Role::JOURNAL,
            InspectedPart::ThrustFront | InspectedPart::ThrustRear => Role::TRAVEL,
        }
    }
}

impl Inspection {
    /// Checks that its signs belong to its part, and its part to its place.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        // A journal is looked at where it is, shells where they lie.
        let there = match self.part {
            InspectedPart::Journal => Characteristic::at(self.station, Role::JOURNAL).is_some(),
            InspectedPart::Upper | InspectedPart::Lower => self.station.is_bearing(),
            InspectedPart::ThrustFront | InspectedPart::ThrustRear => self.station == Place::THRUST,
        };
        must(
            there,
            Flaw::of(
                "part",
                Wrong::Elsewhere(
                    "journals are at mains and pins, shells at mains and rods, thrust faces at the thrust",
                ),
            ),
        )?;
        for (line, sign) in self.signs.iter().enumerate() {
            must(
                sign.can_be_on(self.part),
                Flaw::at("signs", line, Wrong::Elsewhere("a sign seen on that part does")),
            )?;
        }
        must_differ(&self.signs, "signs")
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
        let look = |station, part, sign| Inspection { station, part, signs: vec![sign] }.check().is_ok();
        assert!(look(Place::pin(1), InspectedPart::Journal, Sign::Groove));
        assert!(!look(Place::pin(1), InspectedPart::Upper, Sign::Wiped));
        assert!(!look(Place::rod(1), InspectedPart::Lower, Sign::Groove));
        assert!(look(Place::THRUST, InspectedPart::ThrustRear, Sign::Scored));
        assert!(!look(Place::main(4), InspectedPart::ThrustRear, Sign::Scored));
        assert!(!look(Place::THRUST, InspectedPart::Journal, Sign::Smooth));
    }
}
