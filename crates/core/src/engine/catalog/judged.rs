//! What can be judged, and by which methods, by the names of their rows.
use std::fmt;
use std::ops::RangeInclusive;
use std::str::FromStr;

use serde::{Deserialize, Deserializer, Serialize, Serializer};

use super::super::characteristic::PartKind;
use super::super::figure::{Believable, FigureRow, Input, Limits, MethodRow};
use super::super::layout::Layout;
use super::super::place::Place;
use super::bearings;
use super::measured::Characteristic;
use super::subjects::{NotInCatalog, SUBJECTS, Subject};
use crate::maths::{Target, Window};
use crate::units::Length;

/// A figure of the catalogue.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Figure {
    subject: u8,
    row: u8,
}

impl Figure {
    /// The oil clearance of a bearing.
    pub const OIL_CLEARANCE: Figure = Figure { subject: 0, row: 0 };

    /// The step between the tracks of a shared pin.
    pub const TRACK_STEP: Figure = Figure { subject: 0, row: 1 };

    /// How far the crank moves along its axis.
    pub const END_PLAY: Figure = Figure { subject: 1, row: 0 };

    /// What rods have to move beside each other on their pin.
    pub const ROD_SIDE: Figure = Figure { subject: 2, row: 0 };

    /// The clearance of a cam journal in its bearing.
    pub const CAM_CLEARANCE: Figure = Figure { subject: 3, row: 0 };

    /// What the edges of a bearing have to the fillets of its journal.
    pub const FILLET_ROOM: Figure = Figure { subject: 4, row: 0 };

    /// How far beyond its fillet the flat of a shell begins.
    pub const FILLET_FLAT: Figure = Figure { subject: 4, row: 1 };

    /// How a main runs: what a bend adds to a turn of it.
    pub const MAIN_RUNOUT: Figure = Figure { subject: 6, row: 0 };

    /// What a piston has to the wall of its cylinder.
    pub const PISTON_TO_WALL: Figure = Figure { subject: 8, row: 0 };

    /// How high the deck stands over the axis of the mains.
    pub const DECK_HEIGHT: Figure = Figure { subject: 9, row: 1 };

    /// How far a piston stays below the deck.
    pub const DECK_CLEARANCE: Figure = Figure { subject: 9, row: 3 };

    /// The way of a pin, from its bottom to its top; at every rod on it.
    pub const STROKE: Figure = Figure { subject: 9, row: 6 };

    /// What lies under a straight edge in the tunnel.
    pub const TUNNEL_GAP: Figure = Figure { subject: 9, row: 8 };

    /// Every one, in the order of the work.
    pub fn all() -> impl Iterator<Item = Figure> {
        let of = |(s, subject): (u8, &'static Subject)| {
            (0_u8..).zip(subject.figures).map(move |(row, _)| Figure { subject: s, row })
        };
        (0_u8..).zip(SUBJECTS).flat_map(of)
    }

    /// Those of an engine: what runs on rollers has no shells to leave oil between.
    pub fn all_in(layout: &Layout) -> impl Iterator<Item = Figure> + use<> {
        let rollers = layout.rollers;
        Figure::all().filter(move |figure| !(rollers && figure.is_of_shells()))
    }

    /// What is known about it.
    pub fn row(self) -> &'static FigureRow {
        let rows = SUBJECTS.get(usize::from(self.subject)).map_or(&[][..], |s| s.figures);
        rows.get(usize::from(self.row)).unwrap_or(&bearings::FIGURES[0])
    }

    /// How it is written in data.
    pub fn name(self) -> &'static str {
        self.row().id
    }

    /// Whether a place has it.
    pub fn is_at(self, place: Place) -> bool {
        self.row().at.contains(&place.kind())
    }

    /// The places of an engine that have it, in the order of the work.
    pub fn places(self, layout: &Layout) -> impl Iterator<Item = Place> + use<'_> {
        self.row().at.iter().flat_map(|kind| layout.of_kind(*kind))
    }

    /// The window of a target: a figure with a maximum only has no lower limit, one with a minimum only no upper one.
    pub fn window(self, target: &Target) -> Option<Window> {
        let low = (self.row().limits != Limits::Maximum).then_some(target.low);
        let high = (self.row().limits != Limits::Minimum).then_some(target.high);
        Window::new(low, high)
    }

    /// The largest value of it that anybody believes on a journal of that size.
    pub fn largest_believable(self, journal: Length) -> Length {
        match self.row().believable {
            Believable::PartOfJournal(part) => Length::from_nm(journal.nm().checked_div(part).unwrap_or_default()),
            Believable::UpTo(nm) | Believable::ToEitherSide(nm) => Length::from_nm(nm),
        }
    }

    /// From the smallest value of it that anybody believes on a journal of that size to the largest.
    pub fn believed(self, journal: Length) -> RangeInclusive<Length> {
        let most = self.largest_believable(journal);
        let least = if matches!(self.row().believable, Believable::ToEitherSide(_)) { -most } else { Length::ZERO };
        least..=most
    }

    /// The method of that name.
    pub fn method(self, method: Method) -> Option<&'static MethodRow> {
        self.row().methods.iter().find(|m| m.id == method.0)
    }

    /// Whether it says something of shells: on rollers there is nothing of it.
    pub fn is_of_shells(self) -> bool {
        let of_shells =
            |input: &Input| Characteristic::all().any(|c| c.role() == input.role && c.row().part == PartKind::Shells);
        self.row().fitted || self.inputs().iter().any(of_shells)
    }

    /// What it is made of.
    pub fn inputs(self) -> &'static [Input] {
        self.row().inputs
    }
}

impl fmt::Debug for Figure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

impl FromStr for Figure {
    type Err = NotInCatalog;

    fn from_str(text: &str) -> Result<Self, NotInCatalog> {
        Figure::all().find(|f| f.name() == text).ok_or_else(|| NotInCatalog(text.to_owned()))
    }
}

impl Serialize for Figure {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name())
    }
}

impl<'de> Deserialize<'de> for Figure {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        String::deserialize(deserializer)?.parse().map_err(serde::de::Error::custom)
    }
}

/// How a figure is obtained, by the name of its row.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(transparent)]
pub struct Method(&'static str);

impl Method {
    /// Bore gauge zeroed at a stated reference; the dial is read.
    pub const DIRECT: Method = Method("direct");
    /// The bore is measured as a size and the journal taken off.
    pub const SUBTRACT: Method = Method("subtract");
    /// Housing less both walls less journal.
    pub const COMPONENTS: Method = Method("components");
    /// A crushed strip read against printed widths.
    pub const STRIP: Method = Method("strip");

    /// The method of a row.
    pub const fn of(row: &MethodRow) -> Self {
        Method(row.id)
    }

    /// How it is written in data.
    pub const fn name(self) -> &'static str {
        self.0
    }
}

impl FromStr for Method {
    type Err = NotInCatalog;

    fn from_str(text: &str) -> Result<Self, NotInCatalog> {
        let known = Figure::all().flat_map(|f| f.row().methods).find(|m| m.id == text);
        known.map(Method::of).ok_or_else(|| NotInCatalog(text.to_owned()))
    }
}

impl<'de> Deserialize<'de> for Method {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        String::deserialize(deserializer)?.parse().map_err(serde::de::Error::custom)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_term_of_a_method_is_an_input_of_its_figure() {
        for figure in Figure::all() {
            assert_eq!(figure.name().parse(), Ok(figure));
            for method in figure.row().methods {
                assert!(!method.terms.is_empty());
                for term in method.terms {
                    let here = figure.inputs().iter().any(|i| i.role == term.role && i.read == term.read);
                    assert!(here, "{} by {}: {:?}", figure.name(), method.id, term.role);
                }
                let known = |to: &str| figure.row().methods.iter().any(|m| m.id == to);
                assert!(method.transfer.is_none_or(|t| known(t.to)));
                assert_eq!(method.id.parse(), Ok(Method::of(method)));
            }
        }
        assert_eq!(Figure::OIL_CLEARANCE.name(), "oil_clearance");
        assert_eq!(Figure::TRACK_STEP.name(), "track_step");
        assert_eq!("upper_taper".parse::<Figure>().map(|f| f.row().limits), Ok(Limits::Maximum));
        assert_eq!(Figure::END_PLAY.name(), "end_play");
        assert_eq!(Figure::MAIN_RUNOUT.name(), "main_runout");
    }
}
