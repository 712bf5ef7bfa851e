//! Passwords: argon2id hashes, and the slow-down after wrong ones.
//!
//! A try is counted before it is judged, by login and place. A place is a browser that the login was used from before, else an
//! address: whoever guesses from elsewhere slows down elsewhere. All strangers together are slowed down much later, and that
//! does not touch a browser that is known.
use argon2::Argon2;
use argon2::password_hash::phc::PasswordHash;
use argon2::password_hash::{PasswordHasher, PasswordVerifier};
use jagged_pin_store::{Account, Failures};
use unicode_security::confusable_detection::skeleton;

use crate::clock;
use crate::http::problem::Problem;
use crate::http::whence::Whence;
use crate::state::AppState;

/// Wrong passwords from one place that cost nothing.
const FREE: i32 = 3;
/// Wrong passwords of all strangers together that cost nothing.
const FREE_OF_ALL: i32 = 60;
/// Where all strangers together are counted.
const ANYWHERE: &str = "anywhere";
/// Longest wait, seconds.
const LONGEST_WAIT: u64 = 60;
/// Longest login: the width of its column.
const LONGEST_LOGIN: usize = 60;
/// Longest password worth hashing.
const LONGEST_PASSWORD: usize = 200;
/// Shortest password that is taken.
const SHORTEST_PASSWORD: usize = 10;

/// A login as it was meant: without blanks of any width around it. `None` where nobody can have such a one.
pub fn login_of(text: &str) -> Option<&str> {
    let login = text.trim_matches(|c: char| c.is_whitespace() || is_invisible(c));
    let fits = (1..=LONGEST_LOGIN).contains(&login.len()) && !login.chars().any(|c| c.is_control() || is_invisible(c));
    fits.then_some(login)
}

/// A login that somebody may be given: as [`login_of`], of letters, digits, points and hyphens, with a letter or a digit in it.
///
/// # Errors
/// [`Problem::BadField`] says what it is made of.
pub fn new_login(text: &str) -> Result<String, Problem> {
    let plain = |c: char| c.is_alphanumeric() || matches!(c, '.' | '-' | '_');
    let login = login_of(text).filter(|l| l.chars().all(plain) && l.chars().any(char::is_alphanumeric));
    let why = "a name to sign in with has letters, digits, points and hyphens";
    login.map(str::to_owned).ok_or_else(|| Problem::field("login", why))
}

/// Whether two names can be taken for each other, by the shapes of their letters.
pub(crate) fn look_alike(one: &str, other: &str) -> bool {
    let shape = |name: &str| skeleton(&name.to_lowercase()).filter(|c| !c.is_whitespace()).collect::<String>();
    shape(one) == shape(other)
}

/// Characters without a width, or that turn the direction of writing: two names could look alike.
pub(crate) const fn is_invisible(c: char) -> bool {
    matches!(c, '\u{200b}'..='\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2060}'..='\u{206f}' | '\u{feff}' | '\u{ad}')
}

/// Whether a new password will do.
///
/// # Errors
/// [`Problem::BadField`] says what it needs.
pub fn will_do(password: &str, login: &str) -> Result<(), Problem> {
    let too = |why: String| Err(Problem::field("password", why));
    match password.chars().count() {
        n if n < SHORTEST_PASSWORD => {
            too(format!("a password has at least {SHORTEST_PASSWORD} characters: some words do"))
        }
        _ if password.len() > LONGEST_PASSWORD => too(format!("a password has at most {LONGEST_PASSWORD} bytes")),
        _ if password.trim().eq_ignore_ascii_case(login) => too("a password is not the name to sign in with".into()),
        _ => Ok(()),
    }
}

/// Hashes a password with argon2id and a salt of its own. Takes tens of milliseconds on purpose.
///
/// # Errors
/// [`Problem::Internal`] when the system has no random numbers.
pub fn hash(password: &str) -> Result<String, Problem> {
    let hashed = Argon2::default().hash_password(password.as_bytes());
    hashed.map(|h| h.to_string()).map_err(|_| Problem::Internal)
}

/// The same, in turn.
///
/// # Errors
/// [`Problem::TooBusy`] when too many want one.
pub(crate) async fn hash_in_turn(state: &AppState, password: &str) -> Result<String, Problem> {
    let password = password.to_owned();
    state.limits.hashers.work_out(move || hash(&password)).await?
}

fn verify(password: &str, hash: &str) -> bool {
    PasswordHash::new(hash).is_ok_and(|h| Argon2::default().verify_password(password.as_bytes(), &h).is_ok())
}

/// Seconds to wait after `failures` wrong passwords in a row of which `free` cost nothing: 1, 2, 4, ... after them.
fn wait_after(failures: i32, free: i32) -> u64 {
    match u32::try_from(failures.saturating_sub(free)) {
        Ok(beyond) => 1u64.checked_shl(beyond).unwrap_or(LONGEST_WAIT).min(LONGEST_WAIT),
        Err(_) => 0,
    }
}

/// Milliseconds that are still to be waited. What was noted while the clock was ahead keeps nobody out once it was set back: the
/// time since would never run down.
fn left(f: Failures, free: i32, now: i64) -> i64 {
    let longest = i64::try_from(LONGEST_WAIT.saturating_mul(1_000)).unwrap_or(i64::MAX);
    if f.last_at.saturating_sub(now) > longest {
        return 0;
    }
    let wait = i64::try_from(wait_after(f.failures, free).saturating_mul(1_000)).unwrap_or(i64::MAX);
    f.last_at.saturating_add(wait).saturating_sub(now).clamp(0, wait)
}

/// The place a try is counted at, and whether it is one that its owner is known at.
async fn place(state: &AppState, account: Option<&Account>, whence: &Whence) -> Result<(String, bool), Problem> {
    if let Some(person) = whence.session {
        return Ok((format!("session {person}"), true));
    }
    if let (Some(account), Some(browser)) = (account, &whence.browser)
        && state.store.knows_browser(browser, account.person.id).await?
    {
        return Ok((format!("browser {}", browser.get(..32).unwrap_or_default()), true));
    }
    Ok((format!("address {}", whence.address), false))
}

async fn count(state: &AppState, login: &str, place: &str, free: i32, now: i64) -> Result<(), Problem> {
    let may = move |f: Failures| left(f, free, now) == 0;
    match state.store.count_try(login, place, now, may).await? {
        Ok(()) => Ok(()),
        Err(f) => {
            let seconds = u64::try_from(left(f, free, now)).unwrap_or_default().div_ceil(1_000);
            tracing::warn!(login, place, seconds, "too many wrong passwords");
            Err(Problem::SlowDown(seconds.max(1)))
        }
    }
}

/// The account of a login, if `password` is its password.
///
/// # Errors
/// [`Problem::WrongPassword`], [`Problem::SlowDown`] after several of them, [`Problem::TooBusy`] when many sign in at once.
pub async fn check(state: &AppState, login: &str, password: &str, whence: &Whence) -> Result<Account, Problem> {
    let Some(login) = login_of(login).filter(|_| password.len() <= LONGEST_PASSWORD) else {
        return Err(Problem::WrongPassword);
    };
    let now = clock::now().0;
    let account = state.store.account_by_login(login).await?;
    let (place, known) = place(state, account.as_ref(), whence).await?;
    count(state, login, &place, FREE, now).await?;
    if !known {
        count(state, login, ANYWHERE, FREE_OF_ALL, now).await?;
    }
    // An unknown login takes as long as a wrong password.
    let hash = account.as_ref().map_or(NOBODY, |account| &account.password_hash).to_owned();
    let tried = password.to_owned();
    let right = state.limits.hashers.work_out(move || verify(&tried, &hash)).await?;
    match account {
        Some(account) if right => {
            state.store.forget_tries(login, &place).await?;
            if !known {
                state.store.forget_tries(login, ANYWHERE).await?;
            }
            Ok(account)
        }
        _ => {
            tracing::warn!(login, place, "wrong password");
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
        let waits: Vec<u64> = [0, 2, 3, 4, 5, 9, 40, i32::MAX].map(|f| wait_after(f, FREE)).to_vec();
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

    #[test]
    fn a_clock_that_was_a_year_ahead_keeps_nobody_out_for_a_year() {
        let f = Failures { failures: 9, last_at: 31_536_000_000 };
        for now in [0, 66_000, 132_000] {
            assert_eq!(left(f, FREE, now), 0, "whenever one looks");
        }
        assert_eq!(left(Failures { failures: 9, last_at: 10_000 }, FREE, 0), 60_000, "two servers a little apart");
        assert_eq!(left(Failures { failures: 1, last_at: 5 }, FREE, 0), 0);
        assert_eq!(left(Failures { failures: 4, last_at: 0 }, FREE, 500), 1_500);
    }

    #[test]
    fn blanks_of_any_width_around_a_login_are_not_part_of_it() {
        for text in ["oduya", "  oduya\t", "\u{3000}oduya\u{3000}", "\u{feff}oduya\u{200b}", "\u{a0}oduya"] {
            assert_eq!(login_of(text), Some("oduya"), "{text:?}");
        }
        for text in ["", " ", "\u{3000}", "od\u{200b}uya", "o\u{202e}d", "a\nb", &"x".repeat(61)] {
            assert_eq!(login_of(text), None, "{text:?}");
        }
    }

    #[test]
    fn a_password_is_long_enough_and_not_the_login() {
        assert!(will_do("slack water", "oduya").is_ok());
        for (password, login) in [("short", "a"), ("oduya-oduya", "oduya-oduya"), (&"x".repeat(201)[..], "a")] {
            assert!(will_do(password, login).is_err(), "{password}");
        }
    }
}
