//! The shop's key: whoever can change the rows of a database can compute a digest again, but not a mark.
use hmac::digest::KeyInit;
use hmac::{Hmac, Mac};
use sha2::{Digest, Sha256};
use thiserror::Error;

use super::seal::hex;
use crate::log::{Fact, What};
use crate::units::Timestamp;

/// What a mark is made of, before the digest it is on.
const FORM: &str = "jagged-pin-mark/1";
/// Bytes of a key.
const KEY_LENGTH: usize = 32;

/// A text that is no key.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("a shop's key is the moment it was made and 64 hexadecimal digits, parted by a blank")]
pub struct NotAKey;

/// The key of a shop. It marks the digests of seals made here (HMAC-SHA-256), and lives outside the database.
#[derive(Clone, PartialEq, Eq)]
pub struct SealKey {
    bytes: [u8; KEY_LENGTH],
    /// From when on every seal made here carries a mark.
    pub since: Timestamp,
}

impl std::fmt::Debug for SealKey {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("SealKey").field("since", &self.since).finish_non_exhaustive()
    }
}

impl SealKey {
    /// A key of those bytes, which should be random.
    pub const fn new(bytes: [u8; KEY_LENGTH], since: Timestamp) -> Self {
        SealKey { bytes, since }
    }

    /// Reads a key as it is kept in its file: milliseconds since 1970 UTC, a blank, the bytes in hex; more lines may follow.
    ///
    /// # Errors
    /// [`NotAKey`] when it is something else.
    pub fn parse(text: &str) -> Result<Self, NotAKey> {
        let first = text.trim().lines().next().ok_or(NotAKey)?;
        let (since, digits) = first.trim().split_once(' ').ok_or(NotAKey)?;
        let since = since.parse().map_err(|_| NotAKey)?;
        let mut bytes = [0; KEY_LENGTH];
        if digits.len() != 2 * KEY_LENGTH || !digits.is_ascii() {
            return Err(NotAKey);
        }
        for (byte, at) in bytes.iter_mut().zip((0..).step_by(2)) {
            let pair = digits.get(at..at + 2).ok_or(NotAKey)?;
            *byte = u8::from_str_radix(pair, 16).map_err(|_| NotAKey)?;
        }
        Ok(SealKey { bytes, since: Timestamp(since) })
    }

    /// The key as it is kept in its file.
    pub fn text(&self) -> String {
        format!("{} {}", self.since.0, hex(&self.bytes))
    }

    /// A short name of the key that tells nothing of it.
    pub fn fingerprint(&self) -> String {
        let mut hash = Sha256::new();
        hash.update("jagged-pin-key/1 ");
        hash.update(self.bytes);
        hex(hash.finalize().get(..8).unwrap_or_default())
    }

    /// The mark on a digest, in hex.
    pub fn mark(&self, digest: &str) -> String {
        // Keys of any length are taken.
        let Ok(mut mac) = Hmac::<Sha256>::new_from_slice(&self.bytes) else { return String::new() };
        mac.update(FORM.as_bytes());
        mac.update(b" ");
        mac.update(digest.as_bytes());
        hex(&mac.finalize().into_bytes())
    }

    /// Puts the mark on a signature; other facts are left as they are.
    pub fn put_on(&self, fact: &mut Fact) {
        if let What::Signature(s) = &mut fact.what {
            s.mark = Some(self.mark(&s.digest));
        }
    }

    /// Number of the last fact of `facts` that is a signature with this key's mark, 0 where there is none: everything before
    /// it was recorded under this key.
    pub fn marked_up_to(&self, facts: &[Fact]) -> u32 {
        let marked =
            |f: &&Fact| matches!(&f.what, What::Signature(s) if s.mark.as_ref() == Some(&self.mark(&s.digest)));
        facts.iter().rev().find(marked).map_or(0, |f| f.seq)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn key(byte: u8) -> SealKey {
        SealKey::new([byte; KEY_LENGTH], Timestamp(1_795_507_200_000))
    }

    #[test]
    fn a_key_is_read_back_as_it_was_written_and_nothing_else_is_one() {
        assert_eq!(SealKey::parse(&format!("{}\n", key(7).text())), Ok(key(7)));
        for text in ["", "12", "x 00", "1 0707", &format!("1 {}", "zz".repeat(32)), &format!("1 {}", "é".repeat(32))] {
            assert_eq!(SealKey::parse(text), Err(NotAKey), "{text}");
        }
    }

    #[test]
    fn a_mark_depends_on_the_key_and_on_the_digest() {
        let all = [key(1).mark("a"), key(1).mark("b"), key(2).mark("a")];
        assert!(all.iter().all(|m| m.len() == 64));
        assert!(all[0] != all[1] && all[0] != all[2] && all[1] != all[2]);
        assert_eq!(key(1).mark("a"), all[0]);
        assert_ne!(key(1).fingerprint(), key(2).fingerprint());
    }
}
