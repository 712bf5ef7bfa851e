//! Shells of a tray, measured one by one.

use serde::{Deserialize, Serialize};

use crate::engine::BearingRow;
use crate::shells::Half;
use crate::units::Length;

/// One half on the tray.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrayShell {
    /// What is scribed on its back.
    pub mark: String,
    /// Upper or lower.
    pub half: Half,
    /// Its wall at the middle.
    pub wall: Length,
}

/// A tray for a row of bearings.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tray {
    /// The row.
    pub row: BearingRow,
    /// The gauge the walls were measured with, by its identifier in the build.
    pub gauge: String,
    /// The halves.
    pub shells: Vec<TrayShell>,
}

/// Most halves of one kind on a tray: what the choice is made for.
pub const MOST_ON_A_TRAY: usize = 64;

impl Tray {
    /// Whether it can be: every half marked once, upper or lower, with a wall; not too many of them.
    pub fn is_sound(&self) -> bool {
        let shell = |s: &TrayShell| {
            let mark = s.mark.trim();
            let wall = s.wall > Length::ZERO && s.wall <= Length::microns(20_000);
            !mark.is_empty() && mark.chars().count() <= 20 && s.half != Half::Either && wall
        };
        let count = |half| self.shells.iter().filter(|s| s.half == half).count();
        let once = (1..self.shells.len()).all(|i| self.shells[..i].iter().all(|s| s.mark != self.shells[i].mark));
        self.shells.iter().all(shell)
            && once
            && [Half::Upper, Half::Lower].into_iter().all(|h| count(h) <= MOST_ON_A_TRAY)
    }
}
