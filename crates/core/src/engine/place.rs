//! Where on an engine something is: mains, pins, rods, and the rows they form.
//!
//! Mains `M1`, `M2`, ... and pins `P1`, `P2`, ... are counted along the crank from the front, rods
//! `R1`, `R2`, ... along the pins, so that with two rods to a pin `R3` and `R4` run on `P2`.

use std::fmt;
use std::str::FromStr;

use serde::{Deserialize, Serialize};

/// A place along the crank, numbered from the front.
///
/// ```
/// use jagged_pin_core::engine::Station;
/// let station: Station = "m4".parse().unwrap();
/// assert_eq!(station.to_string(), "M4");
/// assert_eq!("r2".parse(), Ok(Station::Rod(2)));
/// assert!("M0".parse::<Station>().is_err());
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub enum Station {
    /// A main bearing.
    Main(u8),
    /// A pin of the crank.
    Pin(u8),
    /// The big end of a rod.
    Rod(u8),
}

impl Station {
    /// The main of that number, from 1.
    pub fn main(number: u8) -> Option<Self> {
        (number > 0).then_some(Station::Main(number))
    }

    /// The rod of that number, from 1.
    pub fn rod(number: u8) -> Option<Self> {
        (number > 0).then_some(Station::Rod(number))
    }

    /// Its number from the front, from 1.
    pub const fn number(self) -> u8 {
        match self {
            Station::Main(n) | Station::Pin(n) | Station::Rod(n) => n,
        }
    }

    /// The row of bearings it belongs to; a pin carries rods.
    pub const fn row(self) -> BearingRow {
        match self {
            Station::Main(_) => BearingRow::Mains,
            Station::Pin(_) | Station::Rod(_) => BearingRow::Rods,
        }
    }
}

impl fmt::Display for Station {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let letter = match self {
            Station::Main(_) => 'M',
            Station::Pin(_) => 'P',
            Station::Rod(_) => 'R',
        };
        write!(f, "{letter}{}", self.number())
    }
}

impl FromStr for Station {
    type Err = String;
    fn from_str(text: &str) -> Result<Self, String> {
        let wrong = || format!("\"{text}\" is not a station: mains are M1, M2, ..., pins P1, ..., rods R1, ...");
        let mut rest = text.chars();
        let letter = rest.next();
        let number = rest.as_str().parse().ok().filter(|n| *n > 0).ok_or_else(wrong)?;
        match letter {
            Some('M' | 'm') => Ok(Station::Main(number)),
            Some('P' | 'p') => Ok(Station::Pin(number)),
            Some('R' | 'r') => Ok(Station::Rod(number)),
            _ => Err(wrong()),
        }
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

/// A row of bearings that share a target, a set-up and a family of shells.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum BearingRow {
    /// The main bearings.
    #[default]
    Mains,
    /// The big ends.
    Rods,
}

impl BearingRow {
    /// Both, in the order of the work.
    pub const ALL: [BearingRow; 2] = [BearingRow::Mains, BearingRow::Rods];

    /// Whether this is the row that needs no mention in data: there were only mains at first.
    pub(crate) fn is_mains(&self) -> bool {
        *self == BearingRow::Mains
    }
}

/// What a deed was done to: one place, or a whole row.
///
/// ```
/// use jagged_pin_core::engine::{Scope, Station};
/// let rods: Scope = "rods".parse().unwrap();
/// assert!(rods.covers(Station::Rod(3)) && !rods.covers(Station::Pin(3)));
/// assert_eq!("P2".parse(), Ok(Scope::One(Station::Pin(2))));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub enum Scope {
    /// One place.
    One(Station),
    /// Every main.
    Mains,
    /// Every pin.
    Pins,
    /// Every rod.
    Rods,
    /// The whole crank: mains and pins.
    Crank,
}

impl Scope {
    /// Whether the place is within it.
    pub fn covers(self, station: Station) -> bool {
        match (self, station) {
            (Scope::One(one), _) => one == station,
            (Scope::Mains, Station::Main(_))
            | (Scope::Pins, Station::Pin(_))
            | (Scope::Rods, Station::Rod(_))
            | (Scope::Crank, Station::Main(_) | Station::Pin(_)) => true,
            _ => false,
        }
    }
}

impl fmt::Display for Scope {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Scope::One(station) => station.fmt(f),
            Scope::Mains => f.write_str("mains"),
            Scope::Pins => f.write_str("pins"),
            Scope::Rods => f.write_str("rods"),
            Scope::Crank => f.write_str("crank"),
        }
    }
}

impl FromStr for Scope {
    type Err = String;
    fn from_str(text: &str) -> Result<Self, String> {
        match text {
            "mains" => Ok(Scope::Mains),
            "pins" => Ok(Scope::Pins),
            "rods" => Ok(Scope::Rods),
            "crank" => Ok(Scope::Crank),
            one => one.parse().map(Scope::One),
        }
    }
}

impl TryFrom<String> for Scope {
    type Error = String;
    fn try_from(text: String) -> Result<Self, String> {
        text.parse()
    }
}

impl From<Scope> for String {
    fn from(scope: Scope) -> String {
        scope.to_string()
    }
}

/// Both are written as texts in the API document.
#[cfg(feature = "schema")]
mod schema {
    use std::borrow::Cow;

    use utoipa::openapi::RefOr;
    use utoipa::openapi::schema::{ObjectBuilder, Schema, Type};
    use utoipa::{PartialSchema, ToSchema};

    use super::{Scope, Station};

    fn text(example: &str) -> RefOr<Schema> {
        ObjectBuilder::new().schema_type(Type::String).examples([example]).into()
    }

    impl PartialSchema for Station {
        fn schema() -> RefOr<Schema> {
            text("M4")
        }
    }

    impl ToSchema for Station {
        fn name() -> Cow<'static, str> {
            "Station".into()
        }
    }

    impl PartialSchema for Scope {
        fn schema() -> RefOr<Schema> {
            text("mains")
        }
    }

    impl ToSchema for Scope {
        fn name() -> Cow<'static, str> {
            "Scope".into()
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_name_that_is_no_place_is_refused() {
        for text in ["", "M", "M0", "X3", "M999", "3", "\u{fc}1"] {
            assert!(text.parse::<Station>().is_err(), "{text}");
        }
    }

    #[test]
    fn every_scope_reads_back_as_it_was_written() {
        for scope in [Scope::Mains, Scope::Pins, Scope::Rods, Scope::Crank, Scope::One(Station::Rod(12))] {
            assert_eq!(scope.to_string().parse(), Ok(scope));
        }
    }

    #[test]
    fn the_crank_is_its_mains_and_pins_but_not_the_rods_on_it() {
        assert!(Scope::Crank.covers(Station::Main(1)) && Scope::Crank.covers(Station::Pin(6)));
        assert!(!Scope::Crank.covers(Station::Rod(1)));
    }
}
