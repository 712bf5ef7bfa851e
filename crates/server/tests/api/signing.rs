//! Concessions, signatures and seals.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{Answer, House, Outcome, Person, bore, journal, password, station, with};

fn signature(role: &str, login: &str, seq: &Value) -> Value {
    json!({ "id": Uuid::new_v4(), "role": role, "login": login, "password": password(login), "seq": seq })
}

async fn accept(person: &Person, name: &str, reason: &str) -> Outcome<Answer> {
    let build = person.get("/builds/SL-047").await?.body;
    let judged = &station(&build, name)["judged"];
    let body = json!({ "id": Uuid::new_v4(), "station": name, "clearance": judged["clearance"], "state": judged["state"], "reason": reason });
    person.post("/builds/SL-047/concessions", body).await
}

async fn seq(person: &Person) -> Outcome<Value> {
    Ok(person.get("/builds/SL-047").await?.body["assessment"]["seq"].clone())
}

/// Measures M7, and accepts whatever is not in.
async fn lift_every_block(assembler: &Person, lead: &Person) -> Outcome {
    for (axial, angle) in [("front", 0), ("front", 90), ("rear", 0), ("rear", 90)] {
        assembler
            .touch("SL-047", with(journal("M7", "38"), "position", json!({ "axial": axial, "angle": angle })))
            .await?;
    }
    for axial in ["front", "rear"] {
        assembler.touch("SL-047", bore("M7", axial, "23")).await?;
    }
    assert_eq!(accept(assembler, "M6", "half a tenth, watched on the first pull").await?.status, 200);
    assert_eq!(accept(assembler, "M5", "sprint use only").await?.status, 200);
    assert_eq!(accept(lead, "M2", "run in with thin oil").await?.status, 200);
    let build = lead.get("/builds/SL-047").await?.body;
    let judged = &station(&build, "M1")["judged"];
    for gate in ["gauge", "set_up"] {
        let past = json!({ "id": Uuid::new_v4(), "station": "M1", "clearance": 0, "state": judged["state"], "gate": gate, "reason": "done in the other shop, by its own sheet" });
        let refused = assembler.post("/builds/SL-047/concessions", past.clone()).await?;
        assert_eq!(refused.problem(), (403, "not_allowed", ""), "a gate is the lead's to concede");
        assert_eq!(lead.post("/builds/SL-047/concessions", past).await?.status, 200);
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_sheet_is_signed_by_two_sealed_broken_and_signed_anew() -> Outcome {
    let house = House::with_mains_only().await?;
    let (assembler, lead) = (house.person("oduya").await?, house.person("harrow").await?);
    let path = "/builds/SL-047/signatures";

    let blocked = assembler.post(path, signature("assembler", "oduya", &seq(&assembler).await?)).await?;
    assert_eq!(blocked.problem(), (409, "blocked", ""));
    let stations: Vec<&str> =
        blocked.body["blocks"].as_array().into_iter().flatten().filter_map(|b| b["station"].as_str()).collect();
    assert_eq!(stations, ["M2", "M5", "M6", "M7", "M1", "M1"], "M1 for the mic nobody checked in, and for the set-up");

    lift_every_block(&assembler, &lead).await?;
    let seen = seq(&assembler).await?;
    let wrong = with(signature("assembler", "oduya", &seen), "password", "guess");
    assert_eq!(assembler.post(path, wrong).await?.problem(), (401, "wrong_password", ""));
    let first = assembler.post(path, signature("assembler", "oduya", &seen)).await?;
    assert_eq!(first.status, 200, "{first:?}");
    assert_eq!(first.body["build"]["assessment"]["sign_off"]["next"], json!({ "kind": "sign", "role": "checker" }));

    let stale = assembler.post(path, signature("checker", "kell", &seen)).await?;
    assert_eq!(stale.problem(), (409, "changed_meanwhile", ""));
    let seen = seq(&assembler).await?;
    assert_eq!(assembler.post(path, signature("checker", "oduya", &seen)).await?.problem(), (403, "not_allowed", ""));
    assert_eq!(
        assembler.post(path, signature("assembler", "kell", &seen)).await?.problem(),
        (409, "already_signed", "role")
    );
    // The checker signs at the assembler's bench with a password of their own.
    let sealed = assembler.post(path, signature("checker", "kell", &seen)).await?.body;
    let sheet = &sealed["build"]["assessment"]["sign_off"];
    assert_eq!((&sheet["status"], &sheet["revision"]), (&json!("sealed"), &json!(1)));
    let seal = sheet["signatures"][1]["digest"].as_str().unwrap_or_default().to_owned();
    assert!(seal.len() == 64 && seal.chars().all(|c| c.is_ascii_hexdigit()));

    let later = assembler.touch("SL-047", bore("M1", "front", "23")).await?.body;
    let sheet = &later["build"]["assessment"]["sign_off"];
    assert_eq!((&sheet["revision"], &sheet["broken"]["change"]), (&json!(2), &json!("reading")));
    assert_eq!(sheet["broken"]["signatures"][1]["digest"], json!(seal));
    let seen = seq(&assembler).await?;
    let again = assembler.post(path, signature("assembler", "wick", &seen)).await?;
    assert_eq!(again.status, 200, "{again:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_lead_may_check_but_not_what_they_signed_as_assembler() -> Outcome {
    let house = House::with_mains_only().await?;
    let (assembler, lead) = (house.person("oduya").await?, house.person("harrow").await?);
    lift_every_block(&assembler, &lead).await?;
    let path = "/builds/SL-047/signatures";
    lead.post(path, signature("assembler", "harrow", &seq(&lead).await?)).await?;
    let both = lead.post(path, signature("checker", "harrow", &seq(&lead).await?)).await?;
    assert_eq!(both.problem(), (422, "same_person", "role"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_tight_main_is_the_leads_to_concede_and_a_moved_figure_nobodys() -> Outcome {
    let house = House::with_mains_only().await?;
    let assembler = house.person("oduya").await?;
    let refused = accept(&assembler, "M2", "will loosen up").await?;
    assert_eq!(refused.problem(), (403, "not_allowed", ""));
    assert!(refused.body["detail"].as_str().is_some_and(|d| d.contains("seize")));
    assert_eq!(accept(&assembler, "M1", "fine as it is").await?.problem(), (422, "nothing_to_concede", "station"));
    assert_eq!(accept(&assembler, "M6", "").await?.problem(), (422, "no_reason", "reason"));
    let old = json!({ "id": Uuid::new_v4(), "station": "M6", "clearance": 50_000, "state": "edge", "reason": "as seen yesterday" });
    assert_eq!(assembler.post("/builds/SL-047/concessions", old).await?.problem(), (409, "figure_moved", "station"));
    Ok(())
}
