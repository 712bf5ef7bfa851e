//! Killed in the middle of work: what was acknowledged is there, once.
use std::collections::{HashMap, HashSet};
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use rustix::process::Signal;
use tokio::time::sleep;
use uuid::Uuid;

use crate::hand::Hand;
use crate::{Besieged, Killed, Step, Tally};

/// Hands that record at once.
const HANDS: usize = 4;
/// How long it is let work before it is killed, ms.
const WORKING: std::ops::Range<u64> = 200..1_500;
/// How long a database that died may be away.
const PATIENCE: Duration = Duration::from_secs(60);

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
        let hand = Hand::sign_in(&shop.base, "oduya").await?;
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
    for id in Hand::sign_in(&shop.base, "oduya").await?.readings().await? {
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
