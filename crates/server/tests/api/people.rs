//! The shop's people: let in, changed, shut out, and what the shop's log keeps of it.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome, Person, journal, password};

async fn add(lead: &Person, login: &str, role: &str) -> Outcome<Uuid> {
    let id = Uuid::new_v4();
    let added = lead.post("/people", json!({ "id": id, "name": "N. Sedge", "login": login, "role": role })).await?;
    assert_eq!(added.status, 200, "{added:?}");
    Ok(id)
}

async fn invite(lead: &Person, id: Uuid) -> Outcome<String> {
    let made = lead.post(&format!("/people/{id}/invitation"), json!({})).await?;
    Ok(made.body["secret"].as_str().ok_or("a secret")?.to_owned())
}

fn member(all: &Value, id: Uuid) -> &Value {
    let found = all.as_array().and_then(|a| a.iter().find(|m| m["person"]["id"] == json!(id)));
    found.unwrap_or(&Value::Null)
}

#[tokio::test(flavor = "multi_thread")]
async fn somebody_is_added_comes_in_by_an_invitation_and_measures() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let id = add(&lead, "sedge", "assembler").await?;
    let mut newcomer = house.stranger()?;
    let refused = newcomer.post("/session", json!({ "login": "sedge", "password": "" })).await?;
    assert_eq!(refused.problem(), (401, "wrong_password", ""), "nobody comes in without a password");
    let secret = invite(&lead, id).await?;
    let looked = newcomer.post("/invitation", json!({ "secret": secret })).await?;
    assert_eq!((looked.body["name"].as_str(), looked.body["login"].as_str()), (Some("N. Sedge"), Some("sedge")));
    let short = newcomer.put("/invitation", json!({ "secret": secret, "password": "short" })).await?;
    assert_eq!(short.problem(), (422, "bad_field", "password"));
    let taken = newcomer.put("/invitation", json!({ "secret": secret, "password": "brackish-on-purpose" })).await?;
    assert_eq!(taken.status, 200, "{taken:?}");
    newcomer.carry(&taken);
    assert_eq!(newcomer.touch("SL-046", journal("M1", "2.6238")).await?.status, 200);
    // It is good once.
    let again =
        house.stranger()?.put("/invitation", json!({ "secret": secret, "password": "another-on-purpose" })).await?;
    assert_eq!(again.problem(), (404, "no_invitation", ""));
    let all = lead.get("/people").await?.body;
    assert_eq!(member(&all, id)["has_password"], true);
    assert_eq!(member(&all, id)["sessions"], 1);
    let log = lead.get("/shop-log").await?.body;
    let kinds: Vec<&str> = log.as_array().into_iter().flatten().filter_map(|l| l["kind"].as_str()).collect();
    assert_eq!(kinds, ["password_set", "person_invited", "person_added"]);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_invitation_is_void_once_there_is_a_newer_one() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let id = add(&lead, "sedge", "apprentice").await?;
    let (first, second) = (invite(&lead, id).await?, invite(&lead, id).await?);
    let stranger = house.stranger()?;
    assert_eq!(stranger.post("/invitation", json!({ "secret": first })).await?.problem(), (404, "no_invitation", ""));
    assert_eq!(stranger.post("/invitation", json!({ "secret": second })).await?.status, 200);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn whoever_is_shut_out_is_out_at_once_and_what_they_recorded_stays() -> Outcome {
    let house = House::demo().await?;
    let (lead, wick) = (house.person("harrow").await?, house.person("wick").await?);
    assert_eq!(wick.touch("SL-046", journal("M1", "2.6238")).await?.status, 200);
    let all = lead.get("/people").await?.body;
    let found = all.as_array().into_iter().flatten().find(|m| m["login"] == "wick").cloned().unwrap_or_default();
    let id: Uuid = found["person"]["id"].as_str().unwrap_or_default().parse()?;
    let out = json!({ "name": "J. Wick-Marram", "login": "wick", "role": "assembler", "disabled": true, "version": 1 });
    let shut = lead.put(&format!("/people/{id}"), out.clone()).await?;
    assert_eq!(member(&shut.body, id)["disabled"], true);
    assert_eq!(wick.get("/session").await?.problem(), (401, "not_signed_in", ""));
    let again = house.stranger()?.post("/session", json!({ "login": "wick", "password": password("wick") })).await?;
    assert_eq!(again.problem(), (401, "wrong_password", ""));
    // Who changed the same person meanwhile is told.
    assert_eq!(lead.put(&format!("/people/{id}"), out).await?.problem(), (409, "changed_meanwhile", ""));
    let build = lead.get("/builds/SL-046").await?.body;
    assert_eq!(build["readings"][0]["by"]["name"], found["person"]["name"], "the name they had then");
    let log = lead.get("/shop-log").await?.body;
    let text = log[0]["text"].as_str().unwrap_or_default();
    assert!(text.contains("called J. Wick-Marram") && text.contains("shut out"), "{text}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn somebody_is_always_left_who_runs_the_shop() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let all = lead.get("/people").await?.body;
    let own = all.as_array().into_iter().flatten().find(|m| m["login"] == "harrow").cloned().unwrap_or_default();
    let path = format!("/people/{}", own["person"]["id"].as_str().unwrap_or_default());
    let name = own["person"]["name"].clone();
    for (role, disabled) in [("assembler", false), ("lead", true)] {
        let body = json!({ "name": name, "login": "harrow", "role": role, "disabled": disabled, "version": 1 });
        assert_eq!(lead.put(&path, body).await?.problem(), (409, "nobody_left", ""));
    }
    let taken = json!({ "name": name, "login": "oduya", "role": "lead", "disabled": false, "version": 1 });
    assert_eq!(lead.put(&path, taken).await?.problem(), (409, "login_taken", "login"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn only_whoever_runs_the_shop_sees_and_changes_its_people() -> Outcome {
    let house = House::demo().await?;
    let kell = house.person("kell").await?;
    for path in ["/people", "/shop-log"] {
        assert_eq!(kell.get(path).await?.problem(), (403, "not_allowed", ""), "{path}");
    }
    let body = json!({ "id": Uuid::new_v4(), "name": "N. Sedge", "login": "sedge", "role": "lead" });
    assert_eq!(kell.post("/people", body).await?.problem(), (403, "not_allowed", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_password_of_ones_own_ends_every_other_session() -> Outcome {
    let house = House::demo().await?;
    let (here, elsewhere) = (house.person("oduya").await?, house.person("oduya").await?);
    let open = here.get("/sessions").await?.body;
    assert_eq!(open.as_array().map(Vec::len), Some(2));
    assert_eq!(open.as_array().into_iter().flatten().filter(|s| s["this"] == true).count(), 1);
    assert_eq!(house.ask("SELECT COUNT(*) FROM known_browsers")?, "2");
    let wrong = here.put("/password", json!({ "old": "guess", "password": "brackish-on-purpose" })).await?;
    assert_eq!(wrong.problem(), (401, "wrong_password", ""));
    let body = json!({ "old": password("oduya"), "password": "brackish-on-purpose" });
    assert_eq!(here.put("/password", body).await?.status, 204);
    assert_eq!(elsewhere.get("/session").await?.status, 401);
    assert_eq!(here.get("/session").await?.status, 200);
    assert_eq!(
        house.ask("SELECT COUNT(*) FROM known_browsers")?,
        "0",
        "no browser but this one is known, and this one kept no cookie"
    );
    let old = house.stranger()?.post("/session", json!({ "login": "oduya", "password": password("oduya") })).await?;
    assert_eq!(old.problem(), (401, "wrong_password", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn nobody_has_a_name_that_can_be_taken_for_another() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let add = async |name: &str, login: &str| {
        let body = json!({ "id": Uuid::new_v4(), "name": name, "login": login, "role": "apprentice" });
        lead.post("/people", body).await
    };
    // The second has a letter of another alphabet, the third a blank more.
    for name in ["R. Oduya", "R. \u{41e}duya", "r. od uya"] {
        assert_eq!(add(name, "newcomer").await?.problem(), (422, "bad_field", "name"), "{name}");
    }
    for login in ["\u{43e}duya", "..", "a b"] {
        assert_eq!(add("N. Sedge", login).await?.problem(), (422, "bad_field", "login"), "{login}");
    }
    let added = add("N. Sedge", "sedge").await?.body;
    let id = added.as_array().into_iter().flatten().find(|m| m["login"] == "sedge").map(|m| m["person"]["id"].clone());
    let path = format!("/people/{}", id.unwrap_or_default().as_str().unwrap_or_default());
    let put = async |name: &str, version: u32| {
        let body =
            json!({ "name": name, "login": "sedge", "role": "apprentice", "disabled": false, "version": version });
        lead.put(&path, body).await
    };
    assert_eq!(put("M. Harrow", 1).await?.problem(), (422, "bad_field", "name"));
    assert_eq!(put("N. Sedge the younger", 4_000_000_000).await?.problem(), (409, "changed_meanwhile", ""));
    assert_eq!(put("N. Sedge the younger", 1).await?.status, 200);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn one_ends_a_session_of_ones_own_and_nobody_elses() -> Outcome {
    let house = House::demo().await?;
    let (here, elsewhere) = (house.person("oduya").await?, house.person("oduya").await?);
    let open = here.get("/sessions").await?.body;
    let other = open.as_array().into_iter().flatten().find(|s| s["this"] == false).cloned().unwrap_or_default();
    let path = format!("/sessions/{}", other["handle"].as_str().unwrap_or_default());
    assert_eq!(house.person("kell").await?.delete(&path).await?.status, 404);
    assert_eq!(here.delete(&path).await?.status, 204);
    assert_eq!(elsewhere.get("/session").await?.status, 401);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_shop_that_was_not_opened_says_that_nobody_can_sign_in() -> Outcome {
    let house = House::unopened().await?;
    let front = house.stranger()?.get("/front").await?.body;
    assert_eq!((&front["people"], &front["demo"]), (&json!(false), &json!(false)));
    let new = jagged_pin_server::shop_people::NewShop {
        shop: "Reedmouth Engines".into(),
        name: "A. Sallow".into(),
        login: "sallow".into(),
        password: "brackish-on-purpose".into(),
    };
    let store = house.store().await?;
    jagged_pin_server::shop_people::open(&store, &new, jagged_pin_core::units::Timestamp(1)).await?;
    assert!(jagged_pin_server::shop_people::open(&store, &new, jagged_pin_core::units::Timestamp(2)).await.is_err());
    let front = house.stranger()?.get("/front").await?.body;
    assert_eq!(
        (&front["shop"], &front["people"], &front["demo"]),
        (&json!("Reedmouth Engines"), &json!(true), &json!(false))
    );
    let mut lead = house.stranger()?;
    let session = lead.post("/session", json!({ "login": "sallow", "password": "brackish-on-purpose" })).await?;
    lead.carry(&session);
    assert_eq!(session.body["shop"], "Reedmouth Engines");
    assert_eq!(lead.get("/people").await?.body.as_array().map(Vec::len), Some(1));
    // The demo has no business in a shop of somebody's own.
    assert!(!jagged_pin_server::seed::demo(&store).await?);
    assert_eq!(store.members().await?.len(), 1);
    Ok(())
}
