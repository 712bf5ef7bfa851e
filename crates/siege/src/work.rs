//! Killed in the middle of work: what was acknowledged is there, once.
use std::collections::{HashMap, HashSet};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use reqwest::Client;
use rustix::process::Signal;
use serde_json::{Value, json};
use tokio::time::sleep;
use uuid::Uuid;

use crate::{Besieged, Killed, Step, Tally};

/// Hands that record at once.
const HANDS: usize = 4;
/// How long it is let work before it is killed, ms.
const WORKING: std::ops::Range<u64> = 200..1_500;
/// How long a database that died may be away.
const PATIENCE: Duration = Duration::from_secs(60);

/// Somebody at a bench.
#[derive(Clone)]
struct Hand {
    client: Client,
    base: String,
    token: String,
}

impl Hand {
    async fn sign_in(base: &str) -> Step<Self> {
        let client = Client::builder().cookie_store(true).timeout(Duration::from_secs(20)).build()?;
        let known = jagged_pin_demo::people();
        let oduya = known.iter().find(|p| p.login == "oduya").ok_or("the demo has oduya")?;
        let body = json!({ "login": oduya.login, "password": oduya.password });
        let answer = client.post(format!("{base}/api/v1/session")).json(&body).send().await?.error_for_status()?;
        let session: Value = answer.json().await?;
        let token = session["token"].as_str().ok_or("a token")?.to_owned();
        Ok(Hand { client, base: base.to_owned(), token })
    }

    /// Records a reading; whether it was acknowledged.
    async fn touch(&self, id: Uuid) -> bool {
        let reading = json!({
            "id": id, "station": "M1", "characteristic": "main_journal", "position": { "axial": "front", "angle": 0 },
            "read": "size", "gauge": "mic-tenths", "text": "2.6238", "unit": "in",
        });
        let request = self.client.post(format!("{}/api/v1/builds/SL-046/readings", self.base)).json(&reading);
        let sent = request.header("x-csrf-token", &self.token).send().await;
        sent.is_ok_and(|answer| answer.status().is_success())
    }

    async fn readings(&self) -> Step<Vec<String>> {
        let answer = self.client.get(format!("{}/api/v1/builds/SL-046", self.base)).send().await?.error_for_status()?;
        let build: Value = answer.json().await?;
        let all = build["readings"].as_array().ok_or("readings")?;
        Ok(all.iter().filter_map(|r| r["id"].as_str().map(str::to_owned)).collect())
    }
}

/// Waits until a server whose database died works again by itself.
async fn is_ready_again(base: &str) -> Option<Duration> {
    let began = Instant::now();
    while began.elapsed() < PATIENCE {
        let answer = reqwest::get(format!("{base}/readyz")).await;
        if answer.is_ok_and(|a| a.status().is_success()) {
            return Some(began.elapsed());
        }
        sleep(Duration::from_millis(50)).await;
    }
    None
}

/// Kills server, database or both while several hands record, and looks for every reading that was acknowledged.
///
/// # Errors
/// When the siege itself fails.
pub async fn work(times: usize, rng: &mut fastrand::Rng) -> Step<Tally> {
    let mut tally = Tally::default();
    let mut shop = Besieged::new()?;
    shop.begin()?;
    shop.comes_up()?;
    let kept: Arc<Mutex<HashSet<Uuid>>> = Arc::default();
    for _ in 0..times {
        let hand = Hand::sign_in(&shop.base).await?;
        let mut hands = tokio::task::JoinSet::new();
        for _ in 0..HANDS {
            let (hand, kept) = (hand.clone(), Arc::clone(&kept));
            hands.spawn(async move {
                loop {
                    let id = Uuid::new_v4();
                    if hand.touch(id).await {
                        kept.lock().unwrap_or_else(PoisonError::into_inner).insert(id);
                    }
                }
            });
        }
        sleep(Duration::from_millis(rng.u64(WORKING))).await;
        let killed = Killed::any(rng);
        shop.kill(killed);
        hands.shutdown().await;
        tally.times += 1;
        let up = if killed == Killed::Database {
            is_ready_again(&shop.base).await.ok_or_else(|| "the database was not started again".to_owned())
        } else {
            shop.begin()?;
            shop.comes_up()
        };
        match up {
            Ok(took) => tally.longest_ms = tally.longest_ms.max(took.as_millis()),
            Err(said) => {
                tally.hands += 1;
                tally.said.push(said);
                shop.kill(Killed::Everything);
                shop.begin()?;
                shop.comes_up()?;
            }
        }
    }
    let mut found: HashMap<String, usize> = HashMap::new();
    for id in Hand::sign_in(&shop.base).await?.readings().await? {
        *found.entry(id).or_default() += 1;
    }
    let kept = kept.lock().unwrap_or_else(PoisonError::into_inner).clone();
    let times_of = |id: &Uuid| found.get(&id.to_string()).copied().unwrap_or_default();
    tally.acknowledged = kept.len();
    tally.lost = kept.iter().filter(|id| times_of(id) == 0).count();
    tally.doubled = kept.iter().filter(|id| times_of(id) > 1).count();
    tally.left = shop.end(Signal::TERM)?.1;
    Ok(tally)
}
