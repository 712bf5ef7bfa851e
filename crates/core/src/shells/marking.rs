//! What a shell has or has not, and what the letters of a part number mean.
use serde::{Deserialize, Serialize};

use crate::units::Length;

/// Something a shell has or has not.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ShellTrait {
    /// Coated.
    Coated,
    /// Narrowed, to clear the fillets.
    Narrowed,
    /// A hole for the dowel of the housing.
    Dowel,
    /// A groove in the upper.
    Grooved,
}

impl ShellTrait {
    /// As people say it.
    pub const fn words(self) -> &'static str {
        match self {
            ShellTrait::Coated => "coated",
            ShellTrait::Narrowed => "narrowed",
            ShellTrait::Dowel => "a dowel hole",
            ShellTrait::Grooved => "a grooved upper",
        }
    }
}

/// What a group of letters means.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum SuffixMeaning {
    /// The lining or backing, in the shop's words.
    Material {
        /// Its name.
        name: String,
    },
    /// Coated.
    Coated,
    /// Narrowed.
    Narrowed,
    /// A dowel hole.
    Dowel,
    /// A grooved upper.
    Grooved,
    /// A size class, such as one with extra clearance.
    Class {
        /// The class.
        id: String,
    },
    /// An undersize.
    Undersize {
        /// How much; zero for standard.
        undersize: Length,
    },
}

/// A group of letters and what it means.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Suffix {
    /// The letters or digits.
    pub letters: String,
    /// What they mean.
    pub means: SuffixMeaning,
}

impl Suffix {
    /// Whether it can be read: one to eight letters or digits.
    pub fn is_sound(&self) -> bool {
        let plain = self.letters.chars().all(|c| c.is_ascii_alphanumeric());
        let named = match &self.means {
            SuffixMeaning::Material { name } | SuffixMeaning::Class { id: name } => {
                !name.trim().is_empty() && name.len() <= 60
            }
            SuffixMeaning::Undersize { undersize } => *undersize >= Length::ZERO,
            _ => true,
        };
        (1..=8).contains(&self.letters.len()) && plain && named
    }
}
