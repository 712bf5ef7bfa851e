//! Where a request comes from: its address, and a browser that somebody has signed in from before.
use std::convert::Infallible;
use std::net::{IpAddr, SocketAddr};

use axum::extract::{ConnectInfo, FromRef, FromRequestParts};
use axum::http::HeaderValue;
use axum::http::header::{COOKIE, USER_AGENT};
use axum::http::request::Parts;
use uuid::Uuid;

use crate::secrets::digest;
use crate::state::AppState;

/// Cookie of a browser that somebody has signed in from.
const KNOWN: &str = "jagged_pin_known";
/// How long a browser is known, seconds: a year.
const KNOWN_FOR: u64 = 365 * 24 * 60 * 60;
/// Longest name of a browser that is kept.
const LONGEST_BROWSER: usize = 200;

/// Where a request comes from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Whence {
    /// The address, without what a household or a telephone changes at will.
    pub address: String,
    /// Digest of the token of a known browser, where it sent one.
    pub browser: Option<String>,
    /// What the browser calls itself.
    pub named: Option<String>,
    /// Who is signed in there, where that is known.
    pub session: Option<Uuid>,
}

/// One household has 2^64 addresses of the sixth version of the protocol: they count as one.
fn shortened(address: IpAddr) -> String {
    match address.to_canonical() {
        IpAddr::V4(v4) => v4.to_string(),
        IpAddr::V6(v6) => {
            let [a, b, c, d, ..] = v6.segments();
            format!("{a:x}:{b:x}:{c:x}:{d:x}::")
        }
    }
}

fn cookie<'a>(parts: &'a Parts, name: &str) -> Option<&'a str> {
    let all = parts.headers.get_all(COOKIE).iter().filter_map(|v| v.to_str().ok());
    all.flat_map(|line| line.split(';')).find_map(|one| one.trim().strip_prefix(name)?.strip_prefix('='))
}

/// The cookie that makes a browser known from now on.
pub(crate) fn known_cookie(token: &str, secure: bool) -> Option<HeaderValue> {
    let secure = if secure { "; Secure" } else { "" };
    let text = format!("{KNOWN}={token}; Path=/api/v1; HttpOnly; SameSite=Strict; Max-Age={KNOWN_FOR}{secure}");
    HeaderValue::from_str(&text).ok()
}

impl<S> FromRequestParts<S> for Whence
where
    S: Send + Sync,
    AppState: FromRef<S>,
{
    type Rejection = Infallible;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Infallible> {
        let peer = parts.extensions.get::<ConnectInfo<SocketAddr>>().map(|c| c.0.ip());
        // The last entry is what the proxy in front has seen itself.
        let said = || {
            let line = parts.headers.get("x-forwarded-for")?.to_str().ok()?;
            line.rsplit(',').next()?.trim().parse().ok()
        };
        let address = if AppState::from_ref(state).behind_proxy { said().or(peer) } else { peer };
        let named = parts.headers.get(USER_AGENT).and_then(|v| v.to_str().ok());
        Ok(Whence {
            address: address.map_or_else(|| "here".to_owned(), shortened),
            browser: cookie(parts, KNOWN).map(digest),
            named: named.map(|n| n.chars().take(LONGEST_BROWSER).collect()),
            session: None,
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn addresses_of_one_household_count_as_one() {
        let short = |text: &str| text.parse().map(shortened).unwrap_or_default();
        assert_eq!(short("192.0.2.7"), "192.0.2.7");
        assert_eq!(short("::ffff:192.0.2.7"), "192.0.2.7");
        assert_eq!(short("2001:db8:1:2:3:4:5:6"), short("2001:db8:1:2::9"));
        assert_ne!(short("2001:db8:1:2::9"), short("2001:db8:1:3::9"));
    }
}
