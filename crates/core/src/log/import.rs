//! Where a build's first facts came from a file.
use std::ops::Range;

use serde::{Deserialize, Serialize};

use crate::units::{Flaw, Wrong, must};

/// The facts before this one were read from a file. Whoever imported it is who recorded this fact; what the file says of
/// others is the file's word.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Imported {
    /// SHA-256 of the file, in lower-case hex.
    pub file: String,
    /// How many facts the file held.
    pub facts: u32,
    /// How many of them, from the first on, stand under a signature that carried this shop's own mark; 0 where none did.
    #[serde(default, skip_serializing_if = "is_none_of_them")]
    pub ours: u32,
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "the form that serde calls")]
const fn is_none_of_them(count: &u32) -> bool {
    *count == 0
}

/// Characters of a SHA-256 in hex.
pub const DIGEST_LENGTH: usize = 64;

/// Whether a text is a SHA-256 in lower-case hex.
pub fn is_digest(text: &str) -> bool {
    text.len() == DIGEST_LENGTH && text.bytes().all(|b| matches!(b, b'0'..=b'9' | b'a'..=b'f'))
}

impl Imported {
    /// Checks that it names a file, and no more facts of the shop's own than there were.
    ///
    /// # Errors
    /// [`Flaw`] names what does not hold.
    pub fn check(&self) -> Result<(), Flaw> {
        must(is_digest(&self.file), Flaw::of("file", Wrong::Figure("a SHA-256 in hex")))?;
        must(self.ours <= self.facts, Flaw::of("ours", Wrong::Figure("no more than the file's facts")))
    }

    /// Numbers of the facts for which there is the file's word only.
    pub fn elsewhere(&self) -> Range<u32> {
        self.ours.saturating_add(1)..self.facts.saturating_add(1)
    }
}
