//! The shelf, and shells proposed for a build.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome};

fn taking(by: i64) -> Value {
    let kind = if by < 0 { "picked" } else { "received" };
    json!({ "id": Uuid::new_v4(), "half": "lower", "class": "+1", "undersize": 0, "kind": kind, "by": by, "reason": "SL-041" })
}

fn count(family: &Value, half: &str, class: &str) -> Value {
    let on = family["shelf"].as_array().into_iter().flatten().find(|s| s["half"] == half && s["class"] == class);
    on.map(|s| s["count"].clone()).unwrap_or_default()
}

#[tokio::test(flavor = "multi_thread")]
async fn halves_are_received_and_picked_with_a_reason_and_a_history() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let all = person.get("/shells").await?.body;
    assert_eq!((&all[0]["family"]["id"], count(&all[0], "lower", "+1")), (&json!("CM"), json!(1)));
    let pick = taking(-1);
    assert_eq!(count(&person.post("/shells/CM/moves", pick.clone()).await?.body, "lower", "+1"), 0);
    // Sent again it is done once.
    assert_eq!(count(&person.post("/shells/CM/moves", pick).await?.body, "lower", "+1"), 0);
    assert_eq!(count(&person.post("/shells/CM/moves", taking(5)).await?.body, "lower", "+1"), 5);
    let history = person.get("/shells/CM/moves").await?.body;
    assert_eq!(
        (&history[0]["by"], &history[0]["left"], &history[0]["who"]["name"]),
        (&json!(5), &json!(5), &json!("R. Oduya"))
    );
    assert_eq!(history.as_array().map(Vec::len), Some(2));
    let refused = async |change: Value| -> Outcome<(u16, String)> {
        let answer = person.post("/shells/CM/moves", change).await?;
        let (status, code, _) = answer.problem();
        Ok((status, code.to_owned()))
    };
    assert_eq!(refused(taking(-6)).await?, (409, "shelf_empty".into()));
    let with = |name: &str, value: Value| {
        let mut change = taking(-1);
        change[name] = value;
        change
    };
    for (name, value) in [("reason", json!(" ")), ("class", json!("+9")), ("half", json!("either")), ("by", json!(3))] {
        assert_eq!(refused(with(name, value)).await?, (422, "bad_field".into()), "{name}");
    }
    assert_eq!(person.post("/shells/XX/moves", taking(1)).await?.problem(), (404, "no_such_family", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn of_many_who_pick_at_once_each_gets_what_is_really_left() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    person.post("/shells/CM/moves", taking(6)).await?;
    // Seven lie there; twelve reach for one each at the same time.
    let picks = (0..12).map(|_| person.post("/shells/CM/moves", taking(-1)));
    let mut done = 0;
    for answer in futures_util::future::join_all(picks).await {
        let answer = answer?;
        if answer.status == 200 {
            done += 1;
        } else {
            assert_eq!(answer.problem(), (409, "shelf_empty", ""));
        }
    }
    assert_eq!(done, 7);
    let all = person.get("/shells").await?.body;
    assert_eq!(count(&all[0], "lower", "+1"), 0);
    let history = person.get("/shells/CM/moves").await?.body;
    let lefts: Vec<i64> = history.as_array().into_iter().flatten().filter_map(|m| m["left"].as_i64()).collect();
    assert_eq!(lefts, [0, 1, 2, 3, 4, 5, 6, 7]);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn shells_are_proposed_with_their_proof_and_what_if() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let ask = json!({ "family": "CM", "undersize": 0, "best": "closest", "mix": true, "buy": true });
    let with = |name: &str, value: Value| {
        let mut ask = ask.clone();
        ask[name] = value;
        ask
    };
    let best = person.post("/builds/SL-041/shells", ask.clone()).await?.body;
    assert_eq!((&best["proven"], &best["outside"], &best["open"]), (&json!(true), &json!(0), &json!(["M7"])));
    let changed = |p: &Value| p["places"].as_array().into_iter().flatten().filter(|p| p["changes"] == true).count();
    assert_eq!(changed(&best), 3);
    let kept = person.post("/builds/SL-041/shells", with("kept", json!(["M2"]))).await?.body;
    assert_eq!((&kept["outside"], changed(&kept)), (&json!(1), 2));
    let coated = person.post("/builds/SL-041/shells", with("coating", json!("-0.0005"))).await?.body;
    assert_eq!(changed(&coated), 6);
    let wrong = person.post("/builds/SL-041/shells", with("undersize", json!(254_000))).await?;
    assert_eq!(wrong.problem(), (422, "wrong_family", ""));
    let open = person.post("/builds/SL-046/shells", ask.clone()).await?;
    assert_eq!(open.problem(), (422, "nothing_measured", ""));
    assert_eq!(
        person.post("/builds/SL-041/shells", with("family", json!("XX"))).await?.problem(),
        (404, "no_such_family", "")
    );
    Ok(())
}
