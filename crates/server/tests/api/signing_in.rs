//! Accounts, sessions, and the token that writes carry.
use serde_json::json;

use crate::house::{House, Outcome, journal};

#[tokio::test(flavor = "multi_thread")]
async fn a_session_begins_with_a_password_and_ends_when_it_is_told_to() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let session = person.get("/session").await?;
    assert_eq!(session.body["person"]["name"], "R. Oduya");
    assert_eq!(session.body["capabilities"]["concede_tight"], false);
    assert_eq!(person.delete("/session").await?.status, 204);
    assert_eq!(person.get("/session").await?.problem(), (401, "not_signed_in", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_cookie_is_out_of_reach_of_scripts_and_of_other_sites() -> Outcome {
    let house = House::demo().await?;
    let body = json!({ "login": "kell", "password": "second-pair-of-eyes" }).to_string();
    let response = house.stranger()?.raw(reqwest::Method::POST, "/session", Some(("application/json", body))).await?;
    let cookie = response.headers().get("set-cookie").and_then(|c| c.to_str().ok()).unwrap_or_default();
    assert!(cookie.contains("HttpOnly") && cookie.contains("SameSite=Strict"), "{cookie}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn wrong_passwords_are_refused_alike_and_slow_down() -> Outcome {
    let house = House::demo().await?;
    let stranger = house.stranger()?;
    for login in ["fenn", "nobody"] {
        for _ in 0..3 {
            let answer = stranger.post("/session", json!({ "login": login, "password": "guess" })).await?;
            assert_eq!(answer.problem(), (401, "wrong_password", ""));
        }
        let slowed = stranger.post("/session", json!({ "login": login, "password": "learning-the-feel" })).await?;
        assert_eq!(slowed.problem(), (429, "slow_down", ""));
        assert!(slowed.body["retry_after"].as_u64().is_some_and(|s| s >= 1));
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn nothing_but_health_and_signing_in_works_without_a_session() -> Outcome {
    let house = House::demo().await?;
    let stranger = house.stranger()?;
    let document = serde_json::to_value(jagged_pin_server::openapi())?;
    let paths = document["paths"].as_object().cloned().unwrap_or_default();
    let mut tried = 0;
    for (path, methods) in paths {
        for method in methods.as_object().into_iter().flat_map(|m| m.keys()) {
            // An invitation lets somebody in who has no session yet.
            let open = [("/api/v1/session", "post"), ("/api/v1/front", "get")];
            let door = path == "/api/v1/invitation" || open.contains(&(path.as_str(), method.as_str()));
            if path.ends_with("z") || door {
                continue;
            }
            let path = path.replace("/api/v1", "").replace("{build}", "SL-041").replace("{calculator}", "verdict");
            let method = reqwest::Method::from_bytes(method.to_uppercase().as_bytes())?;
            let body = (method == reqwest::Method::POST).then(|| ("application/json", "{}".to_owned()));
            let response = stranger.raw(method.clone(), &path, body).await?;
            assert_eq!(response.status().as_u16(), 401, "{method} {path}");
            tried += 1;
        }
    }
    assert!(tried >= 15, "only {tried} were tried");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_write_without_the_sessions_token_is_refused() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?.without_token();
    assert_eq!(person.get("/builds").await?.status, 200);
    assert_eq!(person.touch("SL-046", journal("M1", "38")).await?.problem(), (403, "no_token", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_a_role_may_not_do_says_whom_to_ask() -> Outcome {
    let house = House::demo().await?;
    let apprentice = house.person("fenn").await?;
    assert_eq!(apprentice.touch("SL-046", journal("M1", "2.6238")).await?.status, 200);
    let target = json!({
        "id": uuid::Uuid::new_v4(), "station": null, "rule": { "kind": "range", "low": ".002", "aim": "", "high": ".003" },
        "source": "builders_rule", "reason": "a try", "unit": "in", "version": 1,
    });
    let refused = apprentice.post("/builds/SL-046/targets", target).await?;
    assert_eq!(refused.problem(), (403, "not_allowed", ""));
    assert!(refused.body["detail"].as_str().is_some_and(|d| d.contains("apprentice") && d.contains("lead")));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_somebody_typed_is_recorded_under_no_other_name() -> Outcome {
    let house = House::demo().await?;
    let wick = house.person("wick").await?;
    let reading = journal("M1", "2.6238");
    let of_oduya = wick.post_as("oduya", "/builds/SL-046/readings", &reading).await?;
    assert_eq!(of_oduya.problem(), (403, "somebody_else", ""));
    assert_eq!(wick.get("/builds/SL-046").await?.body["readings"].as_array().map(Vec::len), Some(0));
    assert_eq!(wick.post_as("wick", "/builds/SL-046/readings", &reading).await?.status, 200);
    Ok(())
}
