//! The engine layout: its mains, which of them carries thrust, and the crank as it is drawn.

use serde::{Deserialize, Serialize};
use thiserror::Error;

use crate::Length;
use crate::feature::Station;

/// Most mains a layout can have.
pub const MOST_MAINS: u8 = 16;
/// Journals of plain-bearing engine cranks, with room on both sides: 10 to 250 mm.
pub const JOURNAL_RANGE: (Length, Length) = (Length::from_nm(10_000_000), Length::from_nm(250_000_000));

/// The layout of one engine.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Layout {
    /// Number of mains.
    pub mains: u8,
    /// The main that carries thrust.
    pub thrust: Station,
    /// Nominal diameter of the main journals.
    pub main_journal: Length,
    /// The crank's other dimensions, for drawing it to scale.
    pub crank: Crank,
}

/// What the crank looks like from the side.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Crank {
    /// True when the dimensions below follow from the main journal by usual proportions instead of
    /// having been given.
    pub proportional: bool,
    /// Width of a main journal.
    pub main_width: Length,
    /// Diameter of a pin.
    pub pin_diameter: Length,
    /// Width of a pin.
    pub pin_width: Length,
    /// Thickness of a web.
    pub web: Length,
    /// Throw: half the stroke.
    pub throw: Length,
    /// Radius of the counterweights.
    pub counterweight: Length,
    /// For each gap between two mains, the phases of its pins in degrees, front to rear.
    pub bays: Vec<Vec<i16>>,
}

/// Why a layout is refused.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum LayoutError {
    /// Too few or too many mains.
    #[error("an engine has 2 to {MOST_MAINS} mains")]
    Mains,
    /// The thrust main is not one of the mains.
    #[error("the thrust main must be one of the mains")]
    Thrust,
    /// A main journal nobody has seen.
    #[error("a main journal is 10 to 250 mm (0.4 to 9.8 in): is the figure in the right unit?")]
    Journal,
    /// The drawn crank does not belong to the mains.
    #[error("the crank must have pins between each two mains, and dimensions above zero")]
    Crank,
}

/// Phases of evenly firing cranks whose shape everybody knows; others are spread around the circle.
fn phases(pins: usize) -> Vec<i16> {
    match pins {
        2 => vec![0, 180],
        4 => vec![0, 180, 180, 0],
        6 => vec![0, 120, 240, 240, 120, 0],
        n => (0..n).map(|i| i16::try_from(i * 360 / n.max(1)).unwrap_or(0)).collect(),
    }
}

impl Crank {
    /// A crank in usual proportions to its main journal, with `pins_per_bay` pins between two mains.
    /// It serves for drawing only; nothing is judged by it.
    pub fn proportional(mains: u8, main_journal: Length, pins_per_bay: u8) -> Self {
        let part = |percent: i64| Length::from_nm(main_journal.nm() * percent / 100);
        let per_bay = usize::from(pins_per_bay.max(1));
        let bays = usize::from(mains.saturating_sub(1));
        Crank {
            proportional: true,
            main_width: part(42),
            pin_diameter: part(82),
            pin_width: part(46),
            web: part(27),
            throw: part(54),
            counterweight: part(116),
            bays: phases(bays * per_bay).chunks(per_bay).map(<[i16]>::to_vec).collect(),
        }
    }
}

impl Layout {
    /// Every main, from the front.
    pub fn stations(&self) -> impl Iterator<Item = Station> + use<> {
        (1..=self.mains).filter_map(Station::main)
    }

    /// Whether the engine has that station.
    pub fn has(&self, station: Station) -> bool {
        station.number() <= self.mains
    }

    /// Checks the layout for sense.
    ///
    /// # Errors
    /// [`LayoutError`] names the first thing that cannot be.
    pub fn check(&self) -> Result<(), LayoutError> {
        let (smallest, largest) = JOURNAL_RANGE;
        let c = &self.crank;
        let sizes = [c.main_width, c.pin_diameter, c.pin_width, c.web, c.throw, c.counterweight];
        if !(2..=MOST_MAINS).contains(&self.mains) {
            Err(LayoutError::Mains)
        } else if !self.has(self.thrust) {
            Err(LayoutError::Thrust)
        } else if !(smallest..=largest).contains(&self.main_journal) {
            Err(LayoutError::Journal)
        } else if c.bays.len() + 1 != usize::from(self.mains)
            || c.bays.iter().any(|pins| pins.is_empty() || pins.len() > 4)
            || sizes.iter().any(|s| *s <= Length::ZERO || *s > largest)
        {
            Err(LayoutError::Crank)
        } else {
            Ok(())
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn layout(mains: u8, thrust: u8) -> Option<Layout> {
        let main_journal = Length::tenths(26_240);
        let crank = Crank::proportional(mains, main_journal, 1);
        Station::main(thrust).map(|thrust| Layout { mains, thrust, main_journal, crank })
    }

    #[test]
    fn a_six_has_a_pin_between_each_two_of_its_seven_mains() {
        let six = layout(7, 4);
        assert_eq!(six.as_ref().map(Layout::check), Some(Ok(())));
        assert_eq!(six.map(|l| l.crank.bays.concat()), Some(vec![0, 120, 240, 240, 120, 0]));
        assert_eq!(Crank::proportional(3, Length::tenths(20_000), 2).bays, [[0, 180], [180, 0]]);
    }

    #[test]
    fn a_layout_that_cannot_be_is_refused() {
        let check = |l: Option<Layout>| l.map(|l| l.check());
        assert_eq!(check(layout(1, 1)), Some(Err(LayoutError::Mains)));
        assert_eq!(check(layout(5, 6)), Some(Err(LayoutError::Thrust)));
        let small = layout(5, 3).map(|l| Layout { main_journal: Length::tenths(67), ..l });
        assert_eq!(check(small), Some(Err(LayoutError::Journal)));
        let odd = layout(5, 3).map(|l| Layout { crank: Crank::proportional(4, l.main_journal, 1), ..l });
        assert_eq!(check(odd), Some(Err(LayoutError::Crank)));
    }
}
