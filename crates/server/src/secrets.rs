//! Secrets for cookies and invitations, and what is kept of them.
use sha2::{Digest, Sha256};
use uuid::Uuid;

/// A secret that cannot be guessed.
pub(crate) fn secret() -> String {
    format!("{}{}", Uuid::new_v4().simple(), Uuid::new_v4().simple())
}

/// What is kept of a secret, or of a file: SHA-256 in hex.
pub(crate) fn digest(of: impl AsRef<[u8]>) -> String {
    Sha256::digest(of).iter().map(|byte| format!("{byte:02x}")).collect()
}
