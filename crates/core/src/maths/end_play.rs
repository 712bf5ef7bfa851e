//! End play from pushed travels.
//!
//! * The play at a position of the crank is the value of its pushes ([`super::position_value`]).
//! * What was pushed with all caps torqued counts; without any of that the rest is a first look.
//! * The smallest is held against the lower limit, the largest against the upper one.
//! * Positions half a turn apart that differ by more than a limit show a face that is not square.
//! * The change by torque is the mean of torqued less loose over the positions pushed both ways.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::maths::{PushedPlace, end_play};
//!
//! let t = Length::tenths;
//! let place = |angle, readings: [i64; 2]| PushedPlace { angle, torqued: true, readings: readings.map(t).to_vec() };
//! let play = end_play(&[place(0.0, [111, 109]), place(180.0, [113, 113])], t(5)).unwrap();
//! assert_eq!((play.smallest, play.largest, play.square), (t(110), t(113), Some(true)));
//! ```
use super::effective::{PlaceValue, position_value};
use crate::units::{Length, Unit};

/// One position of the crank.
#[derive(Debug, Clone, PartialEq)]
pub struct PushedPlace {
    /// Where it stood, in degrees.
    pub angle: f64,
    /// Whether all caps were torqued.
    pub torqued: bool,
    /// The travels, in the order pushed; never empty.
    pub readings: Vec<Length>,
}

/// The end play.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct EndPlay {
    /// The smallest that counts.
    pub smallest: Length,
    /// The largest that counts.
    pub largest: Length,
    /// Whether nothing was torqued.
    pub first_look: bool,
    /// Whether the positions agree within the limit; absent with one position.
    pub square: Option<bool>,
    /// What torquing the caps changed.
    pub torque_change: Option<Length>,
    /// Value and spread of each position, in the order given.
    pub places: Vec<PlaceValue>,
}

/// How far positions may differ before a face is not square: half a thou, or an eightieth of a millimetre.
pub fn usual_square_limit(unit: Unit) -> Length {
    match unit {
        Unit::Inch => Length::tenths(5),
        Unit::Mm => Length::from_nm(12_500),
    }
}

/// The end play of what was pushed; `None` without a reading.
pub fn end_play(places: &[PushedPlace], square_limit: Length) -> Option<EndPlay> {
    let of = |p: &PushedPlace| {
        let value = position_value(&p.readings)?;
        Some(PlaceValue { value, spread: Length::span(p.readings.iter().copied()) })
    };
    let values: Vec<PlaceValue> = places.iter().map(of).collect::<Option<_>>()?;
    let first_look = places.iter().all(|p| !p.torqued);
    let counts = || places.iter().zip(&values).filter(|(p, _)| p.torqued || first_look);
    let (smallest, largest) = (counts().map(|(_, v)| v.value).min()?, counts().map(|(_, v)| v.value).max()?);
    let change = |(p, v): (&PushedPlace, &PlaceValue)| {
        let loose = places.iter().position(|o| !o.torqued && o.angle == p.angle).filter(|_| p.torqued)?;
        values.get(loose).map(|loose| v.value - loose.value)
    };
    let changes: Vec<Length> = places.iter().zip(&values).filter_map(change).collect();
    Some(EndPlay {
        smallest,
        largest,
        first_look,
        square: (counts().count() > 1).then_some(largest - smallest <= square_limit),
        torque_change: Length::mean(&changes),
        places: values,
    })
}
