//! Several people, and several servers, at once.
use std::time::Duration;

use reqwest::Method;
use serde_json::Value;
use tokio::time::timeout;

use crate::house::{House, Outcome, Person, journal};

/// Reads events until one says that `build` is at `seq` or further.
async fn told(person: &Person, build: &str, seq: u64) -> Outcome {
    let mut stream = person.raw(Method::GET, "/events", None).await?;
    let mut text = String::new();
    while let Some(chunk) = stream.chunk().await? {
        text.push_str(&String::from_utf8_lossy(&chunk));
        for data in text.lines().filter_map(|l| l.strip_prefix("data: ")) {
            let event: Value = serde_json::from_str(data).unwrap_or_default();
            if event["build"] == build && event["seq"].as_u64().is_some_and(|s| s >= seq) {
                return Ok(());
            }
        }
    }
    Err("the stream ended".into())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_one_records_the_other_is_told_even_by_another_server() -> Outcome {
    let (house, beside) = House::demo().await?.beside().await?;
    let here = house.person("oduya").await?;
    let mut there = Person::at(&beside)?;
    there.sign_in("wick").await?;
    let build = there.get("/builds/SL-046").await?.body["id"].as_str().unwrap_or_default().to_owned();
    let listening = tokio::spawn(async move { told(&there, &build, 3).await.map(|()| there) });
    here.touch("SL-046", journal("M1", "2.6238")).await?;
    // A generous limit: it ends a hung test, it does not time the server.
    let there = timeout(Duration::from_secs(60), listening).await???;
    assert_eq!(there.get("/builds/SL-046").await?.body["assessment"]["seq"], 3);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn whoever_listens_later_is_told_at_once_and_nobody_hears_more_after_signing_out() -> Outcome {
    let house = House::demo().await?;
    let (first, second) = (house.person("oduya").await?, house.person("wick").await?);
    let build = first.get("/builds/SL-041").await?.body;
    let (id, seq) = (build["id"].as_str().unwrap_or_default(), build["assessment"]["seq"].as_u64().unwrap_or_default());
    // Generous limits: they end a hung test, they do not time the server.
    let patience = Duration::from_secs(60);
    timeout(patience, told(&first, id, seq)).await??;
    let mut kept_open = first.raw(Method::GET, "/events", None).await?;
    timeout(patience, told(&second, id, seq)).await??;
    first.delete("/session").await?;
    let ended = async {
        while kept_open.chunk().await?.is_some() {}
        Outcome::Ok(())
    };
    timeout(patience, ended).await??;
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_answer_is_packed_for_whoever_takes_it_so() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let plain = person.raw(Method::GET, "/builds/SL-041", None).await?;
    assert_eq!(plain.headers().get("content-encoding"), None);
    let packed = person.packed("/builds/SL-041").await?;
    assert_eq!(packed.headers()["content-encoding"], "gzip");
    assert!(packed.bytes().await?.len() * 4 < plain.bytes().await?.len());
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn readings_entered_at_once_are_all_kept() -> Outcome {
    let house = House::demo().await?;
    let mut hands = tokio::task::JoinSet::new();
    for login in ["oduya", "wick", "kell", "harrow"] {
        let person = house.person(login).await?;
        hands.spawn(async move {
            for station in ["M1", "M2", "M3", "M4", "M5"] {
                let answer = person.touch("SL-046", journal(station, "2.6238")).await?;
                assert_eq!(answer.status, 200, "{answer:?}");
            }
            Outcome::Ok(())
        });
    }
    while let Some(done) = hands.join_next().await {
        done??;
    }
    let build = house.person("fenn").await?.get("/builds/SL-046").await?.body;
    assert_eq!(build["readings"].as_array().map(Vec::len), Some(20));
    assert_eq!(build["assessment"]["seq"], 22);
    Ok(())
}
