//! The further fasteners of a cap: a joint may be held by several groups, each with its own kind, washers, lubricant and
//! steps. The first, inner group stands in the set-up itself ([`super::SetUp`]); most caps have no other.
use serde::{Deserialize, Serialize};

use super::torque::{MOST_STEPS, TorqueStep};
use crate::engine::Place;
use crate::units::{Flaw, LONGEST_TEXT, must_be_text, must_count};

/// Studs or bolts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FastenerKind {
    /// Studs.
    Studs,
    /// Bolts.
    Bolts,
}

/// A group beside the inner one, in the order in which they are tightened.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum FastenerGroup {
    /// Outside the inner ones, parallel to them.
    Outer,
    /// Through the side of the case into the cap: last of all.
    Side,
}

/// What lies under a head or a nut.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Washers {
    /// Nothing.
    None,
    /// Ground flat; either side is up.
    Ground,
    /// Chamfered for the radius under a bolt's head.
    Chamfered,
}

/// Where the lubricant goes. Under the washer and on the cap it never does: the washer would turn with the nut.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Lubricated {
    /// On the threads and under the face that turns.
    ThreadAndFace,
    /// On the threads only.
    Thread,
    /// Under the face that turns only.
    Face,
    /// Nowhere: dry.
    Nowhere,
}

/// The fasteners of one further group, the same at every cap of the row.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MoreFasteners {
    /// Which group.
    pub group: FastenerGroup,
    /// Studs or bolts; a cap may have both.
    pub fastener: FastenerKind,
    /// Which set, in the shop's words.
    pub fasteners: String,
    /// What lies under head or nut.
    pub washers: Washers,
    /// The lubricant.
    pub lubricant: String,
    /// Where it goes.
    pub lubricated: Lubricated,
    /// The steps in order.
    pub steps: Vec<TorqueStep>,
}

impl MoreFasteners {
    /// Checks its figures and texts; `line` is its place in the set-up.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub(super) fn check(&self, line: usize) -> Result<(), Flaw> {
        must_be_text(&self.fasteners, "groups", Some(line), LONGEST_TEXT)?;
        must_be_text(&self.lubricant, "groups", Some(line), LONGEST_TEXT)?;
        must_count(self.steps.len(), "groups", 1, MOST_STEPS)?;
        self.steps.iter().try_for_each(|step| step.check("groups", line))
    }
}

/// Groups that are not the same in both lists, in the order in which they are tightened.
pub(super) fn differing(before: &[MoreFasteners], after: &[MoreFasteners]) -> Vec<FastenerGroup> {
    let of = |list: &[MoreFasteners], group| list.iter().find(|g| g.group == group).cloned();
    let groups = [FastenerGroup::Outer, FastenerGroup::Side];
    groups.into_iter().filter(|g| of(before, *g) != of(after, *g)).collect()
}

/// The order in which the caps of the mains are drawn down: from the middle outwards, of two that are as far from it the
/// one nearer the front first.
///
/// ```
/// use jagged_pin_core::log::tightening_order;
///
/// let order = |mains| tightening_order(mains).iter().map(|p| p.number()).collect::<Vec<_>>();
/// assert_eq!(order(7), [4, 3, 5, 2, 6, 1, 7]);
/// assert_eq!(order(4), [2, 3, 1, 4]);
/// ```
pub fn tightening_order(mains: u8) -> Vec<Place> {
    let mut order: Vec<Place> = (1..=mains).map(Place::main).collect();
    // Twice the distance from the middle, which lies between two caps of an even number.
    order.sort_by_key(|p| i32::from(p.number()).saturating_mul(2).abs_diff(i32::from(mains).saturating_add(1)));
    order
}
