//! A place of an engine: its kind and its number from the front. What is known about each kind stands in
//! [`super::place_kinds`].
use serde::{Deserialize, Serialize};

/// A kind of place.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PlaceKind {
    /// A main bearing and its journal.
    Main,
    /// A pin of the crank.
    Pin,
    /// The big end of a rod.
    Rod,
    /// Where the crank is held along its axis.
    Thrust,
    /// The sides of the rods on one pin.
    Side,
    /// A journal of the cam in its bearing.
    Cam,
    /// Where the cam is held along its axis.
    CamThrust,
    /// The fillets at both ends of a main journal, with the edges of what runs between them.
    MainFillet,
    /// The fillets at both ends of a pin, with the edges of what runs between them.
    PinFillet,
    /// A wrist pin in its piston and in the small end of its rod.
    WristPin,
    /// A cylinder with its piston and rings.
    Cylinder,
    /// The deck of a bank: the face of the block that the gasket lies on.
    Deck,
    /// The face of a bank's head.
    Head,
    /// An end of the crank: its nose, its flange.
    CrankEnd,
    /// The oil pump.
    OilPump,
}

/// A place of an engine, numbered from the front.
///
/// ```
/// use jagged_pin_core::engine::Place;
/// let place: Place = "m4".parse().unwrap();
/// assert_eq!(place.to_string(), "M4");
/// assert_eq!("r2".parse(), Ok(Place::rod(2)));
/// assert!("M0".parse::<Place>().is_err());
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
pub struct Place {
    kind: PlaceKind,
    number: u8,
}

impl Place {
    /// The place of that kind and number; numbers begin with 1.
    pub const fn new(kind: PlaceKind, number: u8) -> Self {
        Place { kind, number }
    }

    /// The main of that number.
    pub const fn main(number: u8) -> Self {
        Place::new(PlaceKind::Main, number)
    }

    /// The pin of that number.
    pub const fn pin(number: u8) -> Self {
        Place::new(PlaceKind::Pin, number)
    }

    /// The big end of the rod of that number.
    pub const fn rod(number: u8) -> Self {
        Place::new(PlaceKind::Rod, number)
    }

    /// Where the crank is held along its axis: an engine has one.
    pub const THRUST: Place = Place::new(PlaceKind::Thrust, 1);

    /// The sides of the rods on the pin of that number.
    pub const fn side(number: u8) -> Self {
        Place::new(PlaceKind::Side, number)
    }

    /// The cam's journal of that number.
    pub const fn cam(number: u8) -> Self {
        Place::new(PlaceKind::Cam, number)
    }

    /// Where the cam is held along its axis: an engine that has one has one.
    pub const CAM_THRUST: Place = Place::new(PlaceKind::CamThrust, 1);

    /// The fillets of the main journal of that number.
    pub const fn main_fillet(number: u8) -> Self {
        Place::new(PlaceKind::MainFillet, number)
    }

    /// The fillets of the pin of that number.
    pub const fn pin_fillet(number: u8) -> Self {
        Place::new(PlaceKind::PinFillet, number)
    }

    /// The wrist pin of that number.
    pub const fn wrist_pin(number: u8) -> Self {
        Place::new(PlaceKind::WristPin, number)
    }

    /// The cylinder of that number.
    pub const fn cylinder(number: u8) -> Self {
        Place::new(PlaceKind::Cylinder, number)
    }

    /// The nose of the crank.
    pub const NOSE: Place = Place::new(PlaceKind::CrankEnd, 1);

    /// The flange of the crank, at its rear.
    pub const FLANGE: Place = Place::new(PlaceKind::CrankEnd, 2);

    /// The oil pump: an engine that has one has one.
    pub const OIL_PUMP: Place = Place::new(PlaceKind::OilPump, 1);

    /// The cylinder it belongs to alone, by number: a rod, a wrist pin and a bore each stand in one.
    pub const fn of_cylinder(self) -> Option<u8> {
        match self.kind {
            PlaceKind::Rod | PlaceKind::WristPin | PlaceKind::Cylinder => Some(self.number),
            _ => None,
        }
    }

    /// Its kind.
    pub const fn kind(self) -> PlaceKind {
        self.kind
    }

    /// Its number from the front, from 1.
    pub const fn number(self) -> u8 {
        self.number
    }
}

/// A row of bearings that share a target, a set-up and a family of shells.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Default, Serialize, Deserialize)]
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
