//! Passwords: argon2id hashes, and the slow-down after wrong ones.
use argon2::Argon2;
use argon2::password_hash::phc::PasswordHash;
use argon2::password_hash::{PasswordHasher, PasswordVerifier};
use jagged_pin_store::{Account, Store};

use crate::clock;
use crate::http::problem::Problem;

/// Wrong passwords that cost nothing.
const FREE: i32 = 3;
/// Longest wait, seconds.
const LONGEST_WAIT: u64 = 60;
/// Longest login worth looking up: the width of its column.
const LONGEST_LOGIN: usize = 60;
/// Longest password worth hashing.
const LONGEST_PASSWORD: usize = 200;

/// Hashes a password with argon2id and a salt of its own. Takes tens of milliseconds on purpose.
///
/// # Errors
/// [`Problem::Internal`] when the system has no random numbers.
pub fn hash(password: &str) -> Result<String, Problem> {
    let hashed = Argon2::default().hash_password(password.as_bytes());
    hashed.map(|h| h.to_string()).map_err(|_| Problem::Internal)
}

fn verify(password: &str, hash: &str) -> bool {
    PasswordHash::new(hash).is_ok_and(|h| Argon2::default().verify_password(password.as_bytes(), &h).is_ok())
}

/// Seconds to wait after `failures` wrong passwords in a row: 1, 2, 4, ... from the third on.
fn wait_after(failures: i32) -> u64 {
    match u32::try_from(failures - FREE) {
        Ok(beyond) => 1u64.checked_shl(beyond).unwrap_or(LONGEST_WAIT).min(LONGEST_WAIT),
        Err(_) => 0,
    }
}

/// The account of `login`, if `password` is its password.
///
/// # Errors
/// [`Problem::WrongPassword`], or [`Problem::SlowDown`] after several of them.
pub async fn check(store: &Store, login: &str, password: &str) -> Result<Account, Problem> {
    if login.len() > LONGEST_LOGIN || password.len() > LONGEST_PASSWORD {
        return Err(Problem::WrongPassword);
    }
    let now = clock::now().0;
    if let Some(f) = store.failures(login).await? {
        let until = f.last_at.saturating_add(i64::try_from(wait_after(f.failures) * 1_000).unwrap_or(i64::MAX));
        if let Ok(left @ 1..) = u64::try_from(until - now) {
            return Err(Problem::SlowDown(left.div_ceil(1_000)));
        }
    }
    let account = store.account_by_login(login).await?;
    // An unknown login takes as long as a wrong password.
    let (hash, known) = match &account {
        Some(account) => (account.password_hash.clone(), true),
        None => (NOBODY.to_owned(), false),
    };
    let password = password.to_owned();
    let right = tokio::task::spawn_blocking(move || verify(&password, &hash)).await.map_err(|_| Problem::Internal)?;
    match account {
        Some(account) if right && known => {
            store.forget_failures(login).await?;
            Ok(account)
        }
        _ => {
            store.count_failure(login, now).await?;
            Err(Problem::WrongPassword)
        }
    }
}

/// A hash that no password is known for.
const NOBODY: &str =
    "$argon2id$v=19$m=19456,t=2,p=1$c2FsdHNhbHRzYWx0c2FsdA$5G1Wmg8Bd1hpDB1cAh0bPJAYUUpNlVLqAMpzKdfS2Rc";

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_wait_doubles_up_to_a_minute() {
        let waits: Vec<u64> = [0, 2, 3, 4, 5, 9, 40, i32::MAX].map(wait_after).to_vec();
        assert_eq!(waits, [0, 0, 1, 2, 4, 60, 60, 60]);
    }

    #[test]
    fn a_hash_knows_its_password_and_no_other() {
        let made = hash("slack water").unwrap_or_default();
        assert!(made.starts_with("$argon2id$"));
        assert!(verify("slack water", &made));
        assert!(!verify("slack-water", &made));
        assert!(PasswordHash::new(NOBODY).is_ok() && !verify("", NOBODY));
    }
}
