//! Pictures as evidence: what one shows, and the digest of what was kept of it.
//!
//! The picture itself is kept beside the facts; its digest stands in the fact, and so under every seal that follows.
use serde::{Deserialize, Serialize};

use crate::engine::Place;
use crate::units::{Flaw, LONGEST_TEXT, Wrong, must, must_be_text};

/// When a picture was taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Moment {
    /// As it was found.
    Found,
    /// Before work on it.
    Before,
    /// After work on it.
    After,
    /// As it is fitted: which way round it stands.
    Fitted,
}

/// A picture of something.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Picture {
    /// Where.
    pub place: Place,
    /// When.
    pub moment: Moment,
    /// SHA-256 of what is kept, in hex.
    pub digest: String,
    /// Pixels across.
    pub width: u32,
    /// Pixels down.
    pub height: u32,
    /// What it shows.
    pub note: String,
}

/// Most pictures of one build.
pub const MOST_PICTURES: usize = 60;

/// Most pixels along a side of what is kept.
const LARGEST_SIDE: u32 = 4_096;

impl Picture {
    /// Checks that it names what can be kept.
    ///
    /// # Errors
    /// [`Flaw`] names the part that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_be_text(&self.note, "note", None, LONGEST_TEXT)?;
        let hex = self.digest.len() == 64 && self.digest.bytes().all(|b| matches!(b, b'0'..=b'9' | b'a'..=b'f'));
        must(hex, Flaw::of("digest", Wrong::Figure("64 digits of a SHA-256")))?;
        let side = |pixels: u32| (1..=LARGEST_SIDE).contains(&pixels);
        must(side(self.width) && side(self.height), Flaw::of("width", Wrong::Figure("1 to 4096 pixels")))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_picture_names_a_digest_and_has_a_size() {
        let digest = "0123456789abcdef".repeat(4);
        let sound = Picture {
            place: Place::THRUST,
            moment: Moment::Fitted,
            digest,
            width: 800,
            height: 600,
            note: "M4".into(),
        };
        assert_eq!(sound.check(), Ok(()));
        for wrong in [
            Picture { digest: "0".repeat(63), ..sound.clone() },
            Picture { digest: "G".repeat(64), ..sound.clone() },
            Picture { width: 0, ..sound.clone() },
            Picture { height: 5_000, ..sound.clone() },
            Picture { note: String::new(), ..sound },
        ] {
            assert!(wrong.check().is_err(), "{wrong:?}");
        }
    }
}
