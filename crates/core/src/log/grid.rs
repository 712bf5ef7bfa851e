//! A bridge with an indicator, set on a grid of places over a face.
use serde::{Deserialize, Serialize};

use crate::engine::{Place, PlaceKind};
use crate::maths::{FacePoint, Flatness, flatness};
use crate::units::{Flaw, LONGEST_TEXT, Length, Wrong, must, must_be_text_or_none, must_count};

/// What the indicator showed on a grid.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BridgeGrid {
    /// The face: of a deck or of a head.
    pub at: Place,
    /// From one place to the next along the face.
    pub along: Length,
    /// From one line to the next across it.
    pub across: Length,
    /// Line by line what the indicator showed, over where it was zeroed.
    pub rows: Vec<Vec<Length>>,
    /// What was seen.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub note: String,
}

/// Most lines, and most places of a line: a hundred places in all.
const MOST: usize = 10;
/// Most that an indicator shows on a face: a twentieth of an inch.
const MOST_SHOWN: Length = Length::tenths(500);

impl BridgeGrid {
    /// How flat the face is by its places; `None` where they do not fit.
    pub fn flatness(&self) -> Option<Flatness> {
        let step = |n: usize, by: Length| i64::try_from(n).ok()?.checked_mul(by.nm());
        let mut points = Vec::with_capacity(self.rows.iter().map(Vec::len).sum());
        for (y, row) in self.rows.iter().enumerate() {
            for (x, shown) in row.iter().enumerate() {
                points.push(FacePoint { x: step(x, self.along)?, y: step(y, self.across)?, z: shown.as_f64() });
            }
        }
        flatness(&points, None)
    }

    /// Checks its place and its figures.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        let face = matches!(self.at.kind(), PlaceKind::Deck | PlaceKind::Head);
        must(face, Flaw::of("at", Wrong::Elsewhere("a bridge is set on the face of a deck or a head")))?;
        let step = |l: Length| l > Length::ZERO && l.in_limits();
        must(step(self.along) && step(self.across), Flaw::of("along", Wrong::Figure("above zero")))?;
        must_count(self.rows.len(), "rows", 2, MOST)?;
        let places = self.rows.first().map_or(0, Vec::len);
        must_count(places, "rows", 2, MOST)?;
        for (line, row) in self.rows.iter().enumerate() {
            must(row.len() == places, Flaw::at("rows", line, Wrong::Figure("as many as the first line")))?;
            let small = row.iter().all(|l| l.abs() <= MOST_SHOWN);
            must(small, Flaw::at("rows", line, Wrong::Figure("a twentieth of an inch at most")))?;
        }
        must_be_text_or_none(&self.note, "note", LONGEST_TEXT)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_grid_is_whole_and_of_a_face() {
        let t = Length::tenths;
        let grid = BridgeGrid {
            at: Place::new(PlaceKind::Deck, 1),
            along: t(30_000),
            across: t(20_000),
            rows: vec![vec![t(0), t(5)], vec![t(-3), t(2)]],
            note: String::new(),
        };
        assert_eq!(grid.check(), Ok(()));
        for wrong in [
            BridgeGrid { at: Place::main(1), ..grid.clone() },
            BridgeGrid { along: t(0), ..grid.clone() },
            BridgeGrid { rows: vec![vec![t(0), t(5)]], ..grid.clone() },
            BridgeGrid { rows: vec![vec![t(0), t(5)], vec![t(0)]], ..grid.clone() },
            BridgeGrid { rows: vec![vec![t(0), t(501)], vec![t(0), t(0)]], ..grid },
        ] {
            assert!(wrong.check().is_err(), "{wrong:?}");
        }
    }
}
