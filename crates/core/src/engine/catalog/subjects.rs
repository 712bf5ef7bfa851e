//! The subjects of the catalogue, in the order of the work.
use thiserror::Error;

use super::super::characteristic::{CharacteristicRow, UsualPlan};
use super::super::figure::FigureRow;
use super::{bearings, cam, crank, crush, cylinders, faces, fillet, rod_side, thrust, wrist_pins};

/// What one subject adds to the catalogue.
pub(super) struct Subject {
    pub characteristics: &'static [CharacteristicRow],
    pub figures: &'static [FigureRow],
    /// Where a kind of place is touched otherwise than its row says, in builds that are opened now. What was opened before
    /// keeps the plan of its row.
    pub plans: &'static [UsualPlan],
}

/// The subjects, in the order of the work.
pub(super) const SUBJECTS: &[Subject] = &[
    Subject { characteristics: bearings::CHARACTERISTICS, figures: bearings::FIGURES, plans: bearings::PLANS },
    Subject { characteristics: thrust::CHARACTERISTICS, figures: thrust::FIGURES, plans: &[] },
    Subject { characteristics: rod_side::CHARACTERISTICS, figures: rod_side::FIGURES, plans: &[] },
    Subject { characteristics: cam::CHARACTERISTICS, figures: cam::FIGURES, plans: &[] },
    Subject { characteristics: fillet::CHARACTERISTICS, figures: fillet::FIGURES, plans: &[] },
    Subject { characteristics: crush::CHARACTERISTICS, figures: crush::FIGURES, plans: &[] },
    Subject { characteristics: crank::CHARACTERISTICS, figures: crank::FIGURES, plans: &[] },
    Subject { characteristics: wrist_pins::CHARACTERISTICS, figures: wrist_pins::FIGURES, plans: &[] },
    Subject { characteristics: cylinders::CHARACTERISTICS, figures: cylinders::FIGURES, plans: &[] },
    Subject { characteristics: faces::CHARACTERISTICS, figures: faces::FIGURES, plans: &[] },
];

pub(super) const fn same(a: &str, b: &str) -> bool {
    let (a, b) = (a.as_bytes(), b.as_bytes());
    if a.len() != b.len() {
        return false;
    }
    let mut i = 0;
    while i < a.len() {
        if a[i] != b[i] {
            return false;
        }
        i += 1;
    }
    true
}

/// A name that the catalogue does not know.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("the catalogue has no \"{0}\"")]
pub struct NotInCatalog(pub(super) String);
