//! Where a characteristic is touched, and in which order.
use serde::{Deserialize, Serialize};
use thiserror::Error;

use super::super::characteristic::{Planned, Position, UsualPlan};
use super::super::place::PlaceKind;
use super::measured::Characteristic;
use super::subjects::SUBJECTS;

/// The plan of one characteristic.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Plan {
    /// The characteristic.
    #[serde(rename = "feature")]
    pub characteristic: Characteristic,
    /// The kind of place it is for; every kind that has the characteristic when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub at: Option<PlaceKind>,
    /// Its positions in the order they are touched.
    pub positions: Vec<Planned>,
}

/// Most positions a plan may have.
pub const MOST_POSITIONS: usize = 24;

/// Why nobody could work by a plan; the line is counted from 0.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum PlanError {
    /// No position, or too many.
    #[error("a plan has 1 to {MOST_POSITIONS} positions")]
    Count,
    /// An angle that is none.
    #[error("position {}: an angle lies from -180 to 180 degrees", .line + 1)]
    Angle {
        /// Which line.
        line: usize,
    },
    /// The same position twice.
    #[error("position {}: this place is in the plan already", .line + 1)]
    Twice {
        /// Which line.
        line: usize,
    },
    /// Every position only informs.
    #[error("at least one position must count")]
    NothingCounts,
    /// A position that names a track: a plan is one track's, and every track of a pin follows it.
    #[error("position {}: a plan is for one track, and serves each of them", .line + 1)]
    Track {
        /// Which line.
        line: usize,
    },
    /// A kind of place that has nothing of the kind.
    #[error("that is not measured at this kind of place")]
    Elsewhere,
    /// An advisory position at an angle that counts elsewhere.
    #[error("position {}: what informs lies elsewhere around than what counts", .line + 1)]
    NotApart {
        /// Which line.
        line: usize,
    },
}

impl Plan {
    /// The plans that a build opened now starts with, where they differ from the rows of the catalogue.
    pub fn usual() -> impl Iterator<Item = Plan> {
        let plan = |p: &UsualPlan| {
            let characteristic = p.of.parse().ok()?;
            Some(Plan { characteristic, at: Some(p.at), positions: p.positions.to_vec() })
        };
        SUBJECTS.iter().flat_map(|s| s.plans).filter_map(plan)
    }

    /// Whether it says where a characteristic is touched at a kind of place.
    pub(crate) fn is_for(&self, (characteristic, at): (Characteristic, PlaceKind)) -> bool {
        self.characteristic == characteristic && self.at.is_none_or(|kind| kind == at)
    }

    /// Checks that it can be worked by: positions that differ, at least one of which counts; advisory places of a bore
    /// or a wall are elsewhere around than those that count.
    ///
    /// # Errors
    /// [`PlanError`] with the first line that cannot be.
    pub fn check(&self) -> Result<(), PlanError> {
        if self.at.is_some_and(|kind| !self.characteristic.row().at.contains(&kind)) {
            return Err(PlanError::Elsewhere);
        }
        if !(1..=MOST_POSITIONS).contains(&self.positions.len()) {
            return Err(PlanError::Count);
        }
        let before = |line: usize, p: Position| self.positions.iter().take(line).any(|q| q.position == p);
        for (line, p) in self.positions.iter().enumerate() {
            if !(-180..=180).contains(&p.position.angle) {
                return Err(PlanError::Angle { line });
            }
            if p.position.track.is_some() {
                return Err(PlanError::Track { line });
            }
            if before(line, p.position) {
                return Err(PlanError::Twice { line });
            }
            let counted = self.positions.iter().any(|q| !q.advisory && q.position.angle == p.position.angle);
            if p.advisory && counted {
                return Err(PlanError::NotApart { line });
            }
        }
        if self.positions.iter().all(|p| p.advisory) { Err(PlanError::NothingCounts) } else { Ok(()) }
    }
}

#[cfg(test)]
mod tests {
    use super::super::super::characteristic::{Axial, counts, informs};
    use super::*;

    #[test]
    fn every_row_has_a_plan_that_can_be_worked_by() {
        for characteristic in Characteristic::all() {
            let plan = Plan { characteristic, at: None, positions: characteristic.positions().to_vec() };
            assert_eq!(plan.check(), Ok(()), "{}", characteristic.name());
        }
    }

    #[test]
    fn every_usual_plan_is_of_a_row_and_can_be_worked_by() {
        let listed: usize = SUBJECTS.iter().map(|s| s.plans.len()).sum();
        let plans: Vec<Plan> = Plan::usual().collect();
        assert_eq!(plans.len(), listed);
        for plan in plans {
            assert_eq!(plan.check(), Ok(()), "{}", plan.characteristic.name());
        }
        let elsewhere = Plan { at: Some(PlaceKind::Pin), ..Plan::usual().next().expect("there are some") };
        assert_eq!(elsewhere.check(), Err(PlanError::Elsewhere));
    }

    #[test]
    fn a_plan_without_a_place_that_counts_or_with_one_twice_names_its_line() {
        let check = |positions: &[Planned]| {
            Plan { characteristic: Characteristic::MAIN_BEARING, at: None, positions: positions.to_vec() }.check()
        };
        let (front, rear) = (Axial::Front, Axial::Rear);
        assert_eq!(check(&[]), Err(PlanError::Count));
        assert_eq!(check(&[informs(front, 45)]), Err(PlanError::NothingCounts));
        assert_eq!(check(&[counts(front, 0), counts(front, 0)]), Err(PlanError::Twice { line: 1 }));
        assert_eq!(check(&[counts(front, 0), counts(rear, 270)]), Err(PlanError::Angle { line: 1 }));
        // The same direction cannot both count and not count.
        assert_eq!(check(&[counts(front, 0), informs(rear, 0)]), Err(PlanError::NotApart { line: 1 }));
    }
}
