//! Where a request comes from: its address, and a browser that somebody has signed in from before.
use std::convert::Infallible;
use std::net::{IpAddr, SocketAddr};

use axum::extract::{ConnectInfo, FromRef, FromRequestParts};
use axum::http::header::{COOKIE, USER_AGENT};
use axum::http::request::Parts;
use axum::http::{HeaderMap, HeaderValue};
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

/// The cookie of that name.
pub(crate) fn cookie<'a>(headers: &'a HeaderMap, name: &str) -> Option<&'a str> {
    let all = headers.get_all(COOKIE).iter().filter_map(|v| v.to_str().ok());
    all.flat_map(|line| line.split(';')).find_map(|one| one.trim().strip_prefix(name)?.strip_prefix('='))
}

/// The cookie that makes a browser known from now on.
pub(crate) fn known_cookie(token: &str, secure: bool) -> Option<HeaderValue> {
    let secure = if secure { "; Secure" } else { "" };
    let text = format!("{KNOWN}={token}; Path=/api/v1; HttpOnly; SameSite=Strict; Max-Age={KNOWN_FOR}{secure}");
    HeaderValue::from_str(&text).ok()
}

/// What the proxy in front has seen itself: the last entry of the last line. What a client sent stands before it.
fn said_by_the_proxy(headers: &HeaderMap) -> Option<IpAddr> {
    let line = headers.get_all("x-forwarded-for").iter().next_back()?.to_str().ok()?;
    line.rsplit(',').next()?.trim().parse().ok()
}

/// The address that a request comes from, as far as one household can be told from another.
pub(crate) fn address_of(headers: &HeaderMap, peer: Option<IpAddr>, behind_proxy: bool) -> String {
    let address = if behind_proxy { said_by_the_proxy(headers).or(peer) } else { peer };
    address.map_or_else(|| "here".to_owned(), shortened)
}

impl<S> FromRequestParts<S> for Whence
where
    S: Send + Sync,
    AppState: FromRef<S>,
{
    type Rejection = Infallible;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Infallible> {
        let peer = parts.extensions.get::<ConnectInfo<SocketAddr>>().map(|c| c.0.ip());
        let named = parts.headers.get(USER_AGENT).and_then(|v| v.to_str().ok());
        Ok(Whence {
            address: address_of(&parts.headers, peer, AppState::from_ref(state).behind_proxy),
            browser: cookie(&parts.headers, KNOWN).map(digest),
            named: named.map(|n| n.chars().take(LONGEST_BROWSER).collect()),
            session: None,
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_a_client_says_of_itself_stands_before_what_the_proxy_says() {
        let parts = |lines: &[&str]| {
            let mut request = axum::http::Request::builder();
            for line in lines {
                request = request.header("x-forwarded-for", *line);
            }
            request.body(()).map(|r| said_by_the_proxy(r.headers())).ok().flatten()
        };
        let proxy = "192.0.2.9".parse().ok();
        assert_eq!(parts(&["203.0.113.5, 192.0.2.9"]), proxy);
        assert_eq!(parts(&["203.0.113.5", "198.51.100.1, 192.0.2.9"]), proxy, "a proxy may add a line of its own");
        assert_eq!(parts(&[]), None);
    }

    #[test]
    fn addresses_of_one_household_count_as_one() {
        let short = |text: &str| text.parse().map(shortened).unwrap_or_default();
        assert_eq!(short("192.0.2.7"), "192.0.2.7");
        assert_eq!(short("::ffff:192.0.2.7"), "192.0.2.7");
        assert_eq!(short("2001:db8:1:2:3:4:5:6"), short("2001:db8:1:2::9"));
        assert_ne!(short("2001:db8:1:2::9"), short("2001:db8:1:3::9"));
    }
}
