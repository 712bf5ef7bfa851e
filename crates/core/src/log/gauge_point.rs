//! Where the maker wants a piston measured, and what its coating is to that size.
use serde::{Deserialize, Serialize};

use super::decision::Lifted;
use super::ends::Ends;
use crate::engine::{Place, PlaceKind, Scope, Tag};
use crate::units::{Flaw, LONGEST_TEXT, Length, Wrong, must, must_be_text_or_none};

/// The edge that the height of a gauge point is measured from. Two makers, two edges: at the wrong one a piston reads another
/// size.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GaugeEdge {
    /// Up from the bottom of the skirt.
    SkirtBottom,
    /// Down from the lower edge of the oil groove.
    OilGroove,
    /// Down from the crown.
    Crown,
    /// Down from the axis of the pin.
    PinAxis,
}

/// What a coating is to the size.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Coating {
    /// There is none.
    None,
    /// The sheet's clearance is over the coating: measured over it, where it is not worn.
    Over,
    /// The sheet's clearance is to the metal under it: its thickness comes off what is read.
    Under,
}

/// The gauge point of the pistons.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GaugePoint {
    /// From which edge.
    pub from: GaugeEdge,
    /// How far from it.
    pub height: Length,
    /// What the coating is to the size.
    pub coating: Coating,
    /// How thick a coating is that comes off what is read, on one side of the piston.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub thickness: Option<Length>,
    /// Which sheet says so.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
    /// What was tight as it was measured before and is not any more.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub lifted: Vec<Lifted>,
}

/// No piston is taller: a fifth of a metre.
const TALLEST: Length = Length::microns(200_000);
/// Nor is a coating thicker: a quarter of a millimetre a side.
const THICKEST: Length = Length::microns(250);

impl GaugePoint {
    /// Checks its height and its note.
    ///
    /// # Errors
    /// [`Flaw`] names the part that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        // On the axis of the pin itself is a point that some makers want.
        let least = if self.from == GaugeEdge::PinAxis { Length::ZERO } else { Length::microns(1) };
        let sane = (least..=TALLEST).contains(&self.height);
        must(sane, Flaw::of("height", Wrong::Figure("a height on a piston")))?;
        let thick = self.thickness.is_none_or(|t| t > Length::ZERO && t <= THICKEST);
        must(thick, Flaw::of("thickness", Wrong::Figure("above zero and a quarter of a millimetre at most")))?;
        must_be_text_or_none(&self.note, "note", LONGEST_TEXT)
    }

    /// Whether a piston is measured at another place, or otherwise, than by the one before.
    pub fn moves(&self, before: &GaugePoint) -> bool {
        self.read_at() != before.read_at()
    }

    const fn read_at(&self) -> (GaugeEdge, Length, Coating, Option<Length>) {
        (self.from, self.height, self.coating, self.thickness)
    }

    /// What comes off a diameter that is read over a coating, to the metal that the sheet means: both sides of it.
    pub fn off_diameter(&self) -> Length {
        let side = if self.coating == Coating::Under { self.thickness.unwrap_or_default() } else { Length::ZERO };
        side + side
    }

    /// What it ends where it is another one: the size of every piston.
    pub const fn ends() -> Ends {
        // Wherever it is said, it is said of all of them.
        Ends { scope: Scope::One(Place::new(PlaceKind::WristPin, 1)), tags: &[Tag::GaugePoint] }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_gauge_point_lies_on_a_piston() {
        let point = |from, microns| GaugePoint {
            from,
            height: Length::microns(microns),
            coating: Coating::None,
            thickness: None,
            note: String::new(),
            lifted: Vec::new(),
        };
        assert_eq!(point(GaugeEdge::SkirtBottom, 12_000).check(), Ok(()));
        assert_eq!(point(GaugeEdge::PinAxis, 0).check(), Ok(()));
        for wrong in [point(GaugeEdge::Crown, 0), point(GaugeEdge::OilGroove, -1), point(GaugeEdge::Crown, 200_001)] {
            assert!(wrong.check().is_err(), "{wrong:?}");
        }
        let first = point(GaugeEdge::SkirtBottom, 12_000);
        assert!(!first.moves(&GaugePoint { note: "sheet 4".into(), ..first.clone() }));
        assert!(first.moves(&GaugePoint { coating: Coating::Over, ..first.clone() }));
        let thousandths = |microns| GaugePoint {
            coating: Coating::Under,
            thickness: Some(Length::microns(microns)),
            ..first.clone()
        };
        assert_eq!(thousandths(12).off_diameter(), Length::microns(24));
        assert_eq!(GaugePoint { coating: Coating::Over, ..thousandths(12) }.off_diameter(), Length::ZERO);
        assert!(thousandths(0).check().is_err() && thousandths(251).check().is_err());
        assert!(thousandths(12).moves(&thousandths(13)));
    }
}
