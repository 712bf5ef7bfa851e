//! The gauge room, sessions, and gauges that talk.
use std::time::Duration;

use jagged_pin_core::{Length, Unit};
use jagged_pin_gauge_sim::{Hub, SimGauge, press};
use reqwest::Method;
use serde_json::{Value, json};
use tokio::net::TcpListener;
use tokio::time::timeout;
use uuid::Uuid;

use crate::house::{Answer, House, Outcome, bore, journal, size, station, with};

fn gauge(version: u32) -> Value {
    json!({ "name": "Outside mic 1-2 in", "kind": "outside_mic", "unit": "in", "version": version, "texts": {
        "resolution": ".0001", "repeatability": ".00003", "calibration": "1t", "from": "1", "to": "2",
        "calibrated": "2026-01-10", "due": "2027-01-10" } })
}

#[tokio::test(flavor = "multi_thread")]
async fn a_gauge_is_registered_changed_over_what_was_seen_and_refused_when_it_cannot_be() -> Outcome {
    let house = House::empty().await?;
    let person = house.person("wick").await?;
    let Answer { status, body: all } = person.put("/gauges/mic-1-2", gauge(0)).await?;
    assert_eq!(status, 200, "{all}");
    let found = |all: &Value| all.as_array().into_iter().flatten().find(|g| g["gauge"]["id"] == "mic-1-2").cloned();
    assert_eq!(
        found(&all).map(|g| (g["gauge"]["resolution"].clone(), g["version"].clone())),
        Some((json!(2_540), json!(1)))
    );
    let Answer { status, body: late } = person.put("/gauges/mic-1-2", gauge(0)).await?;
    assert_eq!((status, &late["code"]), (409, &json!("changed_meanwhile")));
    let mut due = gauge(1);
    due["texts"]["due"] = json!("2026-02-30");
    let Answer { status, body: wrong } = person.put("/gauges/mic-1-2", due.clone()).await?;
    assert_eq!((status, &wrong["field"]), (422, &json!("texts.due")));
    due["texts"]["due"] = json!("2025-12-31");
    let Answer { status, body: wrong } = person.put("/gauges/mic-1-2", due.clone()).await?;
    assert_eq!((status, &wrong["code"], &wrong["field"]), (422, &json!("bad_field"), &json!("texts.due")));
    let Answer { status, body: _ } = house.person("fenn").await?.put("/gauges/mic-9", gauge(0)).await?;
    assert_eq!(status, 403, "an apprentice registers nothing");
    let mut studied = gauge(1);
    studied["texts"]["between_people"] = json!("less");
    let refused = person.put("/gauges/mic-1-2", studied.clone()).await?;
    assert_eq!((refused.status, &refused.body["field"]), (422, &json!("texts.between_people")));
    studied["texts"]["between_people"] = json!(".00008");
    let all = person.put("/gauges/mic-1-2", studied).await?.body;
    assert_eq!(found(&all).map(|g| g["gauge"]["between_people"].clone()), Some(json!(2_032)));
    let kept = person.get("/gauges").await?.body;
    assert_eq!(found(&kept).map(|g| g["texts"]["between_people"].clone()), Some(json!("0.00008")));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_session_carries_the_gauge_as_it_was_and_knows_what_two_checks_can_tell() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("wick").await?;
    person.put("/gauges/mic-1-2", gauge(0)).await?;
    let unknown = person.touch("SL-046", with(journal("M1", "2.6238"), "gauge", "mic-7")).await?;
    assert_eq!(unknown.problem(), (422, "unknown_gauge", "gauge"));
    let open = |check: Value| json!({ "id": Uuid::new_v4(), "gauge": "mic-1-2", "check": check, "unit": "in" });
    let off = person.post("/builds/SL-046/sessions", open(json!({ "standard": "1.0000", "shown": "1.0003" }))).await?;
    assert_eq!(off.problem(), (422, "not_zeroed", "check"));
    let opened =
        person.post("/builds/SL-046/sessions", open(json!({ "standard": "1.0000", "shown": "1.0000" }))).await?;
    assert_eq!(opened.status, 200, "{opened:?}");
    let session = opened.body["build"]["assessment"]["sessions"][0]["id"].clone();
    // The gauge is on the build now; but its range ends at two inches.
    let beyond = person.touch("SL-046", with(journal("M1", "2.6238"), "gauge", "mic-1-2")).await?;
    assert_eq!(beyond.problem(), (422, "out_of_gauge_range", "text"));
    let twice = person.post("/builds/SL-046/sessions", open(Value::Null)).await?;
    assert_eq!(twice.problem(), (409, "session_open", "gauge"));
    let close = json!({ "id": Uuid::new_v4(), "session": session, "unit": "in",
        "check": { "standard": "1.0000", "shown": "1.0001" } });
    let closed = person.post("/builds/SL-046/sessions/close", close.clone()).await?;
    // Two checks cannot tell a tenth from none on a mic that shows tenths.
    let session = &closed.body["build"]["assessment"]["sessions"][0];
    assert_eq!((&session["proof"], &session["drift"]), (&json!("held"), &json!(2_540)));
    assert_eq!(person.post("/builds/SL-046/sessions/close", close).await?.body["again"], true);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn one_look_at_a_standard_serves_every_bench_that_the_gauge_is_on() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("wick").await?;
    let benches = async || -> Outcome<Vec<(String, bool)>> {
        let all = person.get("/gauges/mic-tenths/benches?unit=in").await?.body;
        let bench = |b: &Value| (b["code"].as_str().unwrap_or_default().to_owned(), !b["session"].is_null());
        Ok(all.as_array().into_iter().flatten().map(bench).collect())
    };
    let before = benches().await?;
    assert!(before.iter().any(|(code, on)| code == "SL-046" && !on), "{before:?}");
    let rows = person.get("/builds").await?.body["rows"].clone();
    let in_mm: Vec<&Value> = rows.as_array().into_iter().flatten().filter(|r| r["unit"] == "mm").collect();
    let shown = |row: &&Value| before.iter().any(|(code, _)| row["code"] == json!(code));
    assert!(!in_mm.is_empty() && !in_mm.iter().any(shown), "what is measured in millimetres has mics of its own");
    let check = json!({ "standard": "2.0000", "shown": "2.0000" });
    let open = json!({ "id": Uuid::new_v4(), "gauge": "mic-tenths", "check": check, "unit": "in" });
    assert_eq!(person.post("/builds/SL-046/sessions", open).await?.status, 200);
    assert!(benches().await?.contains(&("SL-046".into(), true)));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn temperatures_are_noted_and_corrected_for() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("wick").await?;
    let warm = with(with(journal("M1", "2.6238"), "part_temperature", "31,0 C"), "gauge_temperature", "20");
    let kept = person.touch("SL-046", warm).await?.body;
    // 2.6238 in (1 + 11.7e-6 x 11)^-1: 3.4 tenths smaller when cool.
    let value = &size(station(&kept["build"], "M1"), "journal", "size")["positions"][0]["value"];
    assert_eq!(*value, json!(66_635_944));
    assert_eq!(kept["build"]["readings"][0]["temperatures"], json!({ "part_mc": 31_000, "gauge_mc": 20_000 }));
    let lukewarm = with(journal("M1", "38"), "part_temperature", "lukewarm");
    assert_eq!(person.touch("SL-046", lukewarm).await?.problem(), (422, "bad_field", "part_temperature"));
    let furnace = with(journal("M1", "38"), "part_temperature", "900");
    assert_eq!(person.touch("SL-046", furnace).await?.problem(), (422, "bad_temperature", "temperatures"));
    let half = with(bore("M1", "front", "23"), "part_temperature", "27");
    let kept = person.touch("SL-046", half).await?.body;
    let findings = station(&kept["build"], "M1")["findings"].to_string();
    assert!(findings.contains("let_it_soak"), "{findings}");
    Ok(())
}

/// The next event of a stream of JSON events.
async fn next_said(stream: &mut reqwest::Response, text: &mut String) -> Outcome<Value> {
    loop {
        if let Some(at) = text.find("\n\n") {
            let event: String = text.drain(..at + 2).collect();
            if let Some(data) = event.lines().find_map(|l| l.strip_prefix("data: ")) {
                return Ok(serde_json::from_str(data)?);
            }
            continue;
        }
        // A generous limit: it ends a hung test, it does not time the server.
        let chunk = timeout(Duration::from_secs(60), stream.chunk()).await??;
        text.push_str(&String::from_utf8_lossy(&chunk.ok_or("the stream ended")?));
    }
}

#[tokio::test(flavor = "multi_thread")]
async fn what_comes_over_a_cable_is_taken_once_or_said_to_be_wrong() -> Outcome {
    let listener = TcpListener::bind("127.0.0.1:0").await?;
    let hub = listener.local_addr()?.to_string();
    let mut mic = SimGauge::new("mic-tenths", Unit::Inch, Length::tenths(1), 1);
    mic.script = vec![Length::tenths(26_238)];
    let metric = SimGauge::new("bore-tenths", Unit::Mm, Length::microns(1), 1);
    tokio::spawn(Hub::new(vec![mic, metric]).serve(listener));
    let house = House::demo_with_gauges(&hub).await?;
    let person = house.person("oduya").await?;
    let path = |gauge: &str| format!("/gauge-link?build=SL-046&gauge={gauge}");
    let mut text = String::new();
    let mut stream = person.raw(Method::GET, &path("mic-tenths"), None).await?;
    assert_eq!(next_said(&mut stream, &mut text).await?["kind"], "connected");
    for (command, kind, part) in [
        ("PRESS mic-tenths", "reading", "2.6238 in"),
        ("REPEAT mic-tenths", "noise", "taken once"),
        ("SAY mic-tenths DA#A mic", "noise", "garbled"),
        ("SAY mic-tenths DATA mic-tenths 9 2.9999 in 00", "noise", "damaged"),
        ("UNPLUG mic-tenths", "lost", "unplugged"),
    ] {
        press(&hub, command).await?;
        let said = next_said(&mut stream, &mut text).await?;
        assert_eq!(said["kind"], kind, "{command}: {said}");
        assert!(said.to_string().contains(part), "{command}: {said}");
    }
    press(&hub, "PLUG mic-tenths").await?;
    assert_eq!(next_said(&mut stream, &mut text).await?["kind"], "connected", "it is tried again");
    let mut stream = person.raw(Method::GET, &path("bore-tenths"), None).await?;
    let mut text = String::new();
    assert_eq!(next_said(&mut stream, &mut text).await?["kind"], "connected");
    press(&hub, "PRESS bore-tenths").await?;
    let said = next_said(&mut stream, &mut text).await?;
    assert!(said["kind"] == "noise" && said.to_string().contains("switched to mm"), "{said}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_hangs_in_the_gauge_room_today_is_at_hand_on_every_open_build() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("wick").await?;
    let at_hand = async |id: &str| -> Outcome<Option<Value>> {
        let build = person.get("/builds/SL-046").await?.body;
        Ok(build["gauges"].as_array().into_iter().flatten().find(|g| g["gauge"]["id"] == id).cloned())
    };
    let mut third = gauge(0);
    third["texts"]["to"] = json!("3");
    third["serial"] = json!("SM-77001");
    assert_eq!(at_hand("mic-3").await?, None);
    person.put("/gauges/mic-3", third.clone()).await?;
    assert_eq!(at_hand("mic-3").await?.map(|g| g["gauge"]["serial"].clone()), Some(json!("SM-77001")));
    // Read without a check, it is as it hangs there now, and unproven.
    let kept = person.touch("SL-046", with(journal("M1", "2.6238"), "gauge", "mic-3")).await?;
    assert_eq!(kept.status, 200, "{kept:?}");
    // It is calibrated anew: what was read before keeps the gauge as it was.
    let repeat = |build: &Value, n: usize| build["assessment"]["sessions"][n]["gauge"]["repeatability"].clone();
    third["version"] = json!(1);
    third["texts"]["repeatability"] = json!(".00006");
    person.put("/gauges/mic-3", third).await?;
    let build = person.get("/builds/SL-046").await?.body;
    assert_eq!(repeat(&build, 0), json!(762));
    let session = build["assessment"]["sessions"][0]["id"].clone();
    let close = json!({ "id": Uuid::new_v4(), "session": session, "unit": "in", "check": null });
    person.post("/builds/SL-046/sessions/close", close).await?;
    assert_eq!(at_hand("mic-3").await?.map(|g| g["gauge"]["repeatability"].clone()), Some(json!(1_524)));
    person.touch("SL-046", with(journal("M2", "2.6238"), "gauge", "mic-3")).await?;
    let build = person.get("/builds/SL-046").await?.body;
    assert_eq!((repeat(&build, 0), repeat(&build, 1)), (json!(762), json!(1_524)));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_indicator_in_a_bore_head_goes_into_bores_only() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("wick").await?;
    let on_journal = person.touch("SL-046", with(journal("M1", "2.6238"), "gauge", "indicator-tenths")).await?;
    assert_eq!(on_journal.problem().1, "gauge_does_not_fit");
    let in_bore = person.touch("SL-046", with(bore("M1", "front", "23"), "gauge", "indicator-tenths")).await?;
    assert_eq!(in_bore.status, 200, "{in_bore:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn one_person_has_a_few_streams_and_none_of_them_outlives_their_session() -> Outcome {
    let listener = TcpListener::bind("127.0.0.1:0").await?;
    let hub = listener.local_addr()?.to_string();
    tokio::spawn(Hub::new(vec![SimGauge::new("mic-tenths", Unit::Inch, Length::tenths(1), 1)]).serve(listener));
    let house = House::demo_with_gauges(&hub).await?;
    let (fenn, oduya) = (house.person("fenn").await?, house.person("oduya").await?);
    let path = "/gauge-link?build=SL-046&gauge=mic-tenths";
    let mut open = Vec::new();
    let refused = loop {
        let stream = fenn.raw(Method::GET, path, None).await?;
        if stream.status() != 200 {
            break stream.status().as_u16();
        }
        open.push(stream);
        assert!(open.len() <= 20, "there is no end of them");
    };
    assert_eq!(refused, 503);
    assert_eq!(oduya.raw(Method::GET, path, None).await?.status(), 200, "the others have theirs");
    assert_eq!(fenn.delete("/session").await?.status, 204);
    // Whoever signed out hears nothing any more: every one of them ends by itself.
    for mut stream in open {
        timeout(Duration::from_secs(60), async {
            while stream.chunk().await?.is_some() {}
            Outcome::Ok(())
        })
        .await??;
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn less_doubt_of_a_gauge_is_the_leads_and_stands_in_the_shops_log() -> Outcome {
    let house = House::demo().await?;
    let (wick, harrow) = (house.person("wick").await?, house.person("harrow").await?);
    assert_eq!(wick.put("/gauges/mic-3", gauge(0)).await?.status, 200);
    let mut surer = gauge(1);
    surer["texts"]["calibration"] = json!("0");
    assert_eq!(wick.put("/gauges/mic-3", surer.clone()).await?.problem(), (403, "not_allowed", ""));
    assert_eq!(harrow.put("/gauges/mic-3", surer).await?.status, 200);
    let log = harrow.get("/shop-log").await?.body;
    let lines: Vec<&str> = log.as_array().into_iter().flatten().filter_map(|l| l["text"].as_str()).collect();
    assert!(lines.iter().any(|l| l.contains("calibration 0.0000") && l.contains("was")), "{lines:?}");
    Ok(())
}
