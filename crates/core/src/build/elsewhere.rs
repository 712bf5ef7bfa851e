//! Which facts of a build came with a file.
use crate::log::{Fact, What};

/// Whether there is only a file's word for the fact of that number: it came with an import, and stands under no signature
/// with this shop's mark.
pub fn from_elsewhere(notes: &[&Fact], seq: u32) -> bool {
    notes.iter().any(|f| matches!(&f.what, What::Imported(import) if import.elsewhere().contains(&seq)))
}
