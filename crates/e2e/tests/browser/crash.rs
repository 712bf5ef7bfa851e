//! What was acknowledged is still there after the server and its database were killed.
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicU64, Ordering};

use jagged_pin_e2e::{Rig, Step};
use reqwest::Client;
use serde_json::{Value, json};

/// Somebody signed in, and the token of their session.
async fn signed_in(rig: &Rig) -> Step<(Client, String)> {
    let client = Client::builder().cookie_store(true).build()?;
    let body = json!({ "login": "oduya", "password": "first-of-the-flood" });
    let session: Value = client.post(rig.url("/api/v1/session")).json(&body).send().await?.json().await?;
    Ok((client, session["token"].as_str().unwrap_or_default().to_owned()))
}

/// An identifier of its own for the n-th write of a hand.
fn id(hand: u64, n: u64) -> String {
    format!("00000000-0000-4000-8000-{hand:04x}{n:08x}")
}

#[tokio::test(flavor = "multi_thread")]
async fn an_acknowledged_reading_survives_the_kill_of_server_and_database() -> Step {
    let mut rig = Rig::start()?;
    for round in 0..2u64 {
        let stop = Arc::new(AtomicBool::new(false));
        let acknowledged = Arc::new(AtomicU64::new(0));
        let mut hands = Vec::new();
        for hand in 0..4u64 {
            let (client, token) = signed_in(&rig).await?;
            let (url, stop, acknowledged) =
                (rig.url("/api/v1/builds/SL-046/readings"), Arc::clone(&stop), Arc::clone(&acknowledged));
            hands.push(tokio::spawn(async move {
                let mut kept = Vec::new();
                for n in 0.. {
                    if stop.load(Ordering::Relaxed) {
                        break;
                    }
                    let id = id(round * 100 + hand, n);
                    let body = json!({ "id": id, "station": format!("M{}", hand + 1), "characteristic": "main_journal",
                        "position": { "axial": "front", "angle": 0 }, "read": "size", "gauge": "mic-tenths",
                        "text": "2.6238", "unit": "in" });
                    let sent = client.post(&url).header("x-csrf-token", &token).json(&body).send().await;
                    // Without a whole answer it may or may not have been kept: only answers count.
                    let Ok(answer) = sent else { break };
                    if answer.status() != 200 || answer.bytes().await.is_err() {
                        break;
                    }
                    kept.push(id);
                    acknowledged.fetch_add(1, Ordering::Relaxed);
                }
                kept
            }));
        }
        // In the middle of the stream, not before it and not after.
        while acknowledged.load(Ordering::Relaxed) < 60 {
            tokio::task::yield_now().await;
        }
        rig.crash_and_restart()?;
        stop.store(true, Ordering::Relaxed);
        let mut kept = Vec::new();
        for hand in hands {
            kept.extend(hand.await?);
        }
        assert!(kept.len() >= 60, "only {} were acknowledged", kept.len());
        let (client, _) = signed_in(&rig).await?;
        let build: Value = client.get(rig.url("/api/v1/builds/SL-046")).send().await?.json().await?;
        let there: std::collections::HashSet<&str> =
            build["readings"].as_array().into_iter().flatten().filter_map(|r| r["id"].as_str()).collect();
        let lost: Vec<&String> = kept.iter().filter(|id| !there.contains(id.as_str())).collect();
        assert!(lost.is_empty(), "{} of {} acknowledged readings are lost", lost.len(), kept.len());
        let seq = build["assessment"]["seq"].as_u64().unwrap_or(0);
        let facts = there.len() as u64 + 2;
        assert_eq!(seq, facts, "the facts are counted without gaps");
    }
    Ok(())
}
