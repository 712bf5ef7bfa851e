//! What is measured and where it is touched: stations, features, and the positions of each feature.

use std::fmt;
use std::str::FromStr;

use serde::{Deserialize, Serialize};

use crate::effective::Kind;

/// A main bearing station, numbered from the front: `M1`, `M2`, ...
///
/// ```
/// use jagged_pin_core::feature::Station;
/// let station: Station = "m4".parse().unwrap();
/// assert_eq!(station.to_string(), "M4");
/// assert!("M0".parse::<Station>().is_err());
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(value_type = String, example = "M4"))]
pub struct Station(u8);

impl Station {
    /// The main of that number, from 1.
    pub fn main(number: u8) -> Option<Self> {
        (number > 0).then_some(Station(number))
    }

    /// Its number from the front, from 1.
    pub const fn number(self) -> u8 {
        self.0
    }
}

impl fmt::Display for Station {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "M{}", self.0)
    }
}

impl FromStr for Station {
    type Err = String;
    fn from_str(text: &str) -> Result<Self, String> {
        let number = text.strip_prefix(['M', 'm']).and_then(|n| n.parse().ok());
        number.and_then(Station::main).ok_or_else(|| format!("\"{text}\" is not a station: mains are M1, M2, ..."))
    }
}

impl TryFrom<String> for Station {
    type Error = String;
    fn try_from(text: String) -> Result<Self, String> {
        text.parse()
    }
}

impl From<Station> for String {
    fn from(station: Station) -> String {
        station.to_string()
    }
}

/// A measurable thing at a station.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Feature {
    /// Outside diameter of the main journal.
    MainJournal,
    /// Inside diameter of the main bearing, shells in and cap torqued.
    MainBearing,
}

/// How a bearing is measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Method {
    /// Bore gauge zeroed at a stated reference; the dial is read.
    Direct,
    /// The bore is measured as a size and the journal taken off.
    Subtract,
}

impl Method {
    /// Both, the preferred one first: by the direct method the mic's error cancels.
    pub const ALL: [Method; 2] = [Method::Direct, Method::Subtract];
}

/// Axial place at the oil hole or the oil groove.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Axial {
    /// In front of it.
    Front,
    /// Behind it.
    Rear,
}

impl Axial {
    /// How it is written in data.
    pub const fn name(self) -> &'static str {
        match self {
            Axial::Front => "front",
            Axial::Rear => "rear",
        }
    }
}

/// Where a feature is touched.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Position {
    /// Front or rear of the oil hole or groove.
    pub axial: Axial,
    /// Degrees from vertical.
    pub angle: i16,
}

/// A position of a feature's plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Planned {
    /// Where.
    pub position: Position,
    /// Advisory positions inform (relief) but do not count for the size.
    pub advisory: bool,
}

const fn planned(axial: Axial, angle: i16, advisory: bool) -> Planned {
    Planned { position: Position { axial, angle }, advisory }
}

/// Front and rear of the oil hole by 0 and 90 degrees, never across the hole.
const JOURNAL: [Planned; 4] = [
    planned(Axial::Front, 0, false),
    planned(Axial::Front, 90, false),
    planned(Axial::Rear, 0, false),
    planned(Axial::Rear, 90, false),
];

/// Front and rear of the groove, vertical; two advisory touches toward the parting line.
const BEARING: [Planned; 4] = [
    planned(Axial::Front, 0, false),
    planned(Axial::Rear, 0, false),
    planned(Axial::Front, 45, true),
    planned(Axial::Front, -45, true),
];

impl Feature {
    /// The plan of positions, in the order they are touched.
    pub const fn positions(self) -> &'static [Planned] {
        match self {
            Feature::MainJournal => &JOURNAL,
            Feature::MainBearing => &BEARING,
        }
    }

    /// Shaft or hole.
    pub const fn kind(self) -> Kind {
        match self {
            Feature::MainJournal => Kind::Journal,
            Feature::MainBearing => Kind::Bore,
        }
    }

    /// How it is written in data.
    pub const fn name(self) -> &'static str {
        match self {
            Feature::MainJournal => "main_journal",
            Feature::MainBearing => "main_bearing",
        }
    }
}
