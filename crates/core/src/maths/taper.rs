//! Taper across a bearing against taper of its housing and its journal.
//!
//! A bore over shells that tapers well more than the housing and the journal do by themselves points at
//! something between them, and is looked for in this order before anybody buys parts: dirt, a burr on cap
//! or shell, a mis-seated shell; then the parts.
//!
//! ```
//! use jagged_pin_core::maths::{Suspect, suspects};
//! use jagged_pin_core::Length;
//!
//! let t = Length::tenths;
//! // Eight tenths over the shell, one in the housing, one on the journal, a gauge of one tenth.
//! assert_eq!(suspects(t(8), Some(t(1)), t(1), t(1)).first(), Some(&Suspect::Dirt));
//! // The housing itself tapers: nothing is wrong with the shell.
//! assert!(suspects(t(4), Some(t(3)), t(1), t(1)).is_empty());
//! ```
use serde::Serialize;

use crate::units::Length;

/// What may stand between a housing and its shell, or be wrong with the parts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Suspect {
    /// Dirt behind the shell or on the parting face.
    Dirt,
    /// A burr on the cap, its register or the shell.
    Burr,
    /// A shell that does not lie in its saddle.
    MisSeatedShell,
    /// The housing was never measured: it may taper itself.
    HousingUnknown,
    /// The shell itself.
    Shell,
}

/// What to look at, in that order; empty when the taper is explained. The rest has to exceed two steps of
/// the gauge: one for each end.
pub fn suspects(bearing: Length, housing: Option<Length>, journal: Length, step: Length) -> Vec<Suspect> {
    let explained = housing.unwrap_or_default().max(journal);
    if bearing - explained <= step + step {
        return Vec::new();
    }
    let mut list = vec![Suspect::Dirt, Suspect::Burr, Suspect::MisSeatedShell];
    if housing.is_none() {
        list.push(Suspect::HousingUnknown);
    }
    list.push(Suspect::Shell);
    list
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn a_straighter_bearing_is_never_more_suspect(taper in 0i64..20, less in 0i64..20, housing in 0i64..9, journal in 0i64..9) {
            let t = Length::tenths;
            let count = |taper: i64| suspects(t(taper), Some(t(housing)), t(journal), t(1)).len();
            prop_assert!(count(taper.saturating_sub(less)) <= count(taper));
        }
    }
}
