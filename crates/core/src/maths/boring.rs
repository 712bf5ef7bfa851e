//! The next oversize that cleans every cylinder.
//!
//! A place needs its size and, since the bar stands on the old centre, the wear of its side once more; damage of a depth
//! counts on both sides. A cylinder needs the most of its places, and what is left to finish and what the torque plate
//! would have shown where it was measured without. An oversize does where each cylinder is bored beyond that and its wall
//! stays thick enough.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::maths::{BoredPlace, Boring, WornCylinder, needs};
//!
//! let t = Length::tenths;
//! let cylinder = WornCylinder {
//!     places: vec![BoredPlace { size: t(32_522), damage: t(0) }, BoredPlace { size: t(32_506), damage: t(15) }],
//!     unworn: Some(t(32_501)), wear_offset: None, plate: false, max_bore: None,
//! };
//! let work = Boring { aim: t(30), finish_stock: t(0), hone_stock: t(50), plate_distortion: t(5) };
//! assert_eq!(needs(&cylinder, work), Some(t(32_548)));
//! ```
use crate::units::{Length, Unit};

/// A place of a worn bore.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct BoredPlace {
    /// Diameter there.
    pub size: Length,
    /// Depth of a pit or score there.
    pub damage: Length,
}

/// A cylinder as it is.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct WornCylinder {
    /// Where it was measured; at least one place.
    pub places: Vec<BoredPlace>,
    /// Diameter where no ring ever ran.
    pub unworn: Option<Length>,
    /// One-sided wear, where it is known otherwise.
    pub wear_offset: Option<Length>,
    /// Whether a torque plate was on.
    pub plate: bool,
    /// The largest bore that its wall allows.
    pub max_bore: Option<Length>,
}

/// What is done to every cylinder.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Boring {
    /// Piston-to-wall wanted.
    pub aim: Length,
    /// What must be left to clean up.
    pub finish_stock: Length,
    /// What the hone takes after the bar.
    pub hone_stock: Length,
    /// What a torque plate adds to a bore measured without.
    pub plate_distortion: Length,
}

/// How one cylinder comes out.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct BoredCylinder {
    /// The smallest bore that is clean.
    pub needs: Length,
    /// Its bore when finished.
    pub finished: Length,
    /// What the bar is set to.
    pub bore_to: Length,
    /// Whether the bar cleans it.
    pub cleans: bool,
    /// Whether its wall gets too thin.
    pub thin: bool,
}

/// What a hone is usually left to take off after the bar: five thou, or an eighth of a millimetre.
pub const fn usual_hone_stock(unit: Unit) -> Length {
    match unit {
        Unit::Inch => Length::tenths(50),
        Unit::Mm => Length::microns(125),
    }
}

/// The smallest bore that cleans a cylinder; `None` where none of it was measured.
pub fn needs(cylinder: &WornCylinder, work: Boring) -> Option<Length> {
    let place = |p: &BoredPlace| {
        let worn = || cylinder.unworn.map_or(Length::ZERO, |unworn| (p.size - unworn).max(Length::ZERO));
        p.size + cylinder.wear_offset.unwrap_or_else(worn) + p.damage + p.damage
    };
    let distortion = if cylinder.plate { Length::ZERO } else { work.plate_distortion };
    cylinder.places.iter().map(place).max().map(|most| most + work.finish_stock + distortion)
}

/// How a cylinder comes out for that piston; `None` where none of it was measured.
pub fn bored(cylinder: &WornCylinder, piston: Length, work: Boring) -> Option<BoredCylinder> {
    let (needs, finished) = (needs(cylinder, work)?, piston + work.aim);
    let bore_to = finished - work.hone_stock;
    let thin = cylinder.max_bore.is_some_and(|most| finished > most);
    Some(BoredCylinder { needs, finished, bore_to, cleans: bore_to >= needs, thin })
}
