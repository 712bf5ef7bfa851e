//! A pair of halves by class, and the undersize a journal belongs to by a family.
use serde::Serialize;

use super::family::ShellFamily;
use crate::maths::{BELONGS_WITHIN, UndersizeClass, identify_undersize};
use crate::units::Length;

/// The class of a journal by a family's own sizes.
pub(crate) fn class_by(family: &ShellFamily, size: Length) -> Option<UndersizeClass> {
    identify_undersize(size, family.journal, &family.undersizes, BELONGS_WITHIN)
}

/// The halves in a bearing, by class.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ClassPair {
    /// Class of the upper.
    pub upper: String,
    /// Class of the lower.
    pub lower: String,
}
