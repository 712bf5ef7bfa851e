//! A storm of sign-ins: what it takes of memory, and whether it is given back.
use std::fs;
use std::time::{Duration, Instant};

use reqwest::Client;
use rustix::process::{Pid, Signal};
use serde_json::json;

use crate::{Besieged, Step};

/// What a storm came to.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Storm {
    /// Sign-ins that were tried at once.
    pub tries: usize,
    /// How many were judged.
    pub judged: usize,
    /// How many were asked to come again.
    pub put_off: usize,
    /// How many got no answer, or another one.
    pub unanswered: usize,
    /// Memory in use before, kB.
    pub before_kb: u64,
    /// The most that was in use, kB.
    pub most_kb: u64,
    /// Memory in use afterwards, kB.
    pub after_kb: u64,
    /// How long it took, ms.
    pub took_ms: u128,
}

/// A figure of the memory of a process, kB.
pub(crate) fn memory(pid: Pid, what: &str) -> u64 {
    let status = fs::read_to_string(format!("/proc/{}/status", pid.as_raw_nonzero())).unwrap_or_default();
    let line = status.lines().find_map(|l| l.strip_prefix(what));
    line.and_then(|l| l.split_whitespace().nth(1)).and_then(|n| n.parse().ok()).unwrap_or_default()
}

/// Tries to sign in many times at once, each as somebody else.
///
/// # Errors
/// When the siege itself fails.
pub async fn storm(tries: usize) -> Step<Storm> {
    let mut shop = Besieged::new()?;
    shop.begin()?;
    shop.comes_up()?;
    let pid = shop.pid().ok_or("it runs")?;
    let mut storm = Storm { tries, before_kb: memory(pid, "VmRSS"), ..Storm::default() };
    let client = Client::builder().timeout(Duration::from_secs(60)).build()?;
    let began = Instant::now();
    let mut all = tokio::task::JoinSet::new();
    for n in 0..tries {
        let (client, address) = (client.clone(), format!("{}/api/v1/session", shop.base));
        all.spawn(async move {
            let body = json!({ "login": format!("nobody{n}"), "password": "guess" });
            client.post(address).json(&body).send().await.map(|a| a.status().as_u16()).unwrap_or_default()
        });
    }
    while let Some(status) = all.join_next().await {
        match status? {
            401 => storm.judged += 1,
            429 | 503 => storm.put_off += 1,
            _ => storm.unanswered += 1,
        }
    }
    storm.took_ms = began.elapsed().as_millis();
    (storm.most_kb, storm.after_kb) = (memory(pid, "VmHWM"), memory(pid, "VmRSS"));
    shop.end(Signal::TERM)?;
    Ok(storm)
}
