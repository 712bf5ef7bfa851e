//! Decisions: targets, acceptances, signatures, and changes of the rules and of the places to touch.
use serde::{Deserialize, Serialize};

use super::aim::AimMade;
use super::gate::Gate;
use super::loosened::Loosened;
use super::rules::Rules;
use crate::engine::{BearingRow, Figure, Place, PlaceKind, Plan};
use crate::maths::{State, Target, TargetRule, TargetSource};
use crate::units::{Flaw, Length, Wrong, must};

/// The build's rules from now on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct RulesChange {
    /// The rules.
    pub rules: Rules,
    /// Why, in the words of whoever decided it.
    pub reason: String,
    /// What was tight by the rules before and is not any more.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub lifted: Vec<Lifted>,
    /// What they ask less of than the rules before.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub loosened: Vec<Loosened>,
}

/// A figure that was tight until a target or a rule was changed: what it was, and what it was held against.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Lifted {
    /// The figure.
    pub figure: Figure,
    /// The place.
    pub station: Place,
    /// What it was.
    pub value: Length,
    /// The window it was tight in.
    pub window: Target,
}

/// The positions of one feature from now on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct PlanChange {
    /// The feature and its positions.
    pub plan: Plan,
    /// Why, in the words of whoever decided it.
    pub reason: String,
    /// What was tight by the places before and is not any more.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub lifted: Vec<Lifted>,
}

/// The target of a row of bearings, or of one place.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct TargetChange {
    /// What it is a target of; the oil clearance when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub figure: Option<Figure>,
    /// The one place it is for; for the whole row when absent.
    pub station: Option<Place>,
    /// The row it is for when it is not for one station.
    #[serde(default, skip_serializing_if = "BearingRow::is_mains")]
    pub row: BearingRow,
    /// The one kind of place of the row it is for, such as heads and not decks; every place that has the figure when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub kind: Option<PlaceKind>,
    /// The target; absent to let a station follow the build again.
    pub rule: Option<TargetRule>,
    /// Where it comes from.
    pub source: TargetSource,
    /// What the aim is a sum of, where it is one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub made_of: Option<AimMade>,
    /// The factory's published wear range beside it, where it is known: it says when a used part may run on, and is never
    /// what a build aims at.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub wear: Option<WearRange>,
    /// Why, in the words of whoever decided it.
    pub reason: String,
    /// What was tight until then and is not any more.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub lifted: Vec<Lifted>,
}

/// From where to where a factory lets a figure wear.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WearRange {
    /// Lower limit.
    pub low: Length,
    /// Upper limit.
    pub high: Length,
}

impl WearRange {
    /// Checks that it has a width and lies in the limits of lengths.
    ///
    /// # Errors
    /// [`Flaw`] when it does not.
    pub fn check(&self) -> Result<(), Flaw> {
        let fits = self.low >= Length::ZERO && self.low < self.high && self.high <= Length::LIMIT;
        must(fits, Flaw::of("wear", Wrong::Figure("from small to large")))
    }
}

impl TargetChange {
    /// What it is a target of.
    pub fn of(&self) -> Figure {
        self.figure.unwrap_or(Figure::OIL_CLEARANCE)
    }
}

/// A signed acceptance. It holds for exactly the figure, the state and the window it was given for.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Concession {
    /// What is accepted; the oil clearance when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub figure: Option<Figure>,
    /// The place.
    pub station: Place,
    /// Its state then: edge, tight or loose.
    pub state: State,
    /// Its clearance then.
    pub clearance: Length,
    /// Its window then.
    pub target: Target,
    /// The remark that is accepted, where it is not the figure itself: `clearance` is then how much of it there was.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub gate: Option<Gate>,
    /// Why it is acceptable.
    pub reason: String,
}

impl Concession {
    /// What is accepted.
    pub fn of(&self) -> Figure {
        self.figure.unwrap_or(Figure::OIL_CLEARANCE)
    }
}

/// What a signer signs as.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum SignerRole {
    /// The one who assembled and measured.
    Assembler,
    /// The second pair of eyes.
    Checker,
}

/// A signature under everything recorded before it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Signature {
    /// Signed as.
    pub role: SignerRole,
    /// Revision of the sheet, from 1.
    pub revision: u32,
    /// SHA-256, in hex, of the canonical record up to and with this signature.
    pub digest: String,
    /// The mark of the shop's key on that digest, in hex; absent where a shop had no key yet.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub mark: Option<String>,
}
