//! Machining plans and work orders over the API.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome, journal, station, with};

fn rods() -> Value {
    json!({ "row": "rods", "family": "CR" })
}

fn order(choice: &Value) -> Value {
    json!({ "id": Uuid::new_v4(), "ask": rods(), "choice": choice, "shop": "the grinder", "fillet": "0.1250",
        "finish": "0.2 um Ra", "note": "crack test first" })
}

#[tokio::test(flavor = "multi_thread")]
async fn a_grind_is_planned_ordered_sent_and_measured_when_it_comes_back() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let plan = lead.post("/builds/SL-041/machining", rods()).await?.body;
    let chosen = plan["grinds"].as_array().into_iter().flatten().find(|g| g["chosen"] == true).cloned();
    let undersize = chosen.map(|g| g["undersize"].clone()).unwrap_or_default();
    assert_eq!(undersize, json!(254_000), "ten under: {plan}");
    let written = order(&json!({ "kind": "grind", "undersize": undersize }));
    let kept = lead.post("/builds/SL-041/orders", written.clone()).await?;
    assert_eq!(kept.status, 200, "{kept:?}");
    let standing = kept.body["build"]["assessment"]["orders"][0].clone();
    assert_eq!((&standing["order"]["number"], &standing["step"]), (&json!("SL-041-1"), &Value::Null));
    assert_eq!(lead.post("/builds/SL-041/orders", written).await?.body["again"], true);

    let id = standing["id"].as_str().unwrap_or_default().to_owned();
    let step = |step: &str| json!({ "id": Uuid::new_v4(), "step": step, "note": "in its box" });
    let steps = format!("/builds/SL-041/orders/{id}/steps");
    assert_eq!(lead.post(&steps, step("returned")).await?.problem(), (409, "order_elsewhere", "step"));
    assert_eq!(lead.post(&steps, step("sent")).await?.status, 200);
    let back = lead.post(&steps, step("returned")).await?.body;
    let r1 = station(&back["build"], "R1");
    assert_eq!((&r1["judged"], &r1["stale"]["because"][0]["cause"]["kind"]), (&Value::Null, &json!("returned")));

    // P1 was wanted at 2.1138: measured there it is accepted, and the others wait.
    let to = back["build"]["assessment"]["orders"][0]["items"][0]["item"]["to"].as_i64().unwrap_or_default();
    let typed = format!("{:.4}", to as f64 / 25_400_000.0);
    let mut last = Value::Null;
    for _ in 0..2 {
        for (axial, angle) in [("front", 0), ("front", 90), ("rear", 0), ("rear", 90)] {
            let touch = with(with(journal("P1", &typed), "characteristic", "pin_journal"), "force", true);
            let touch = with(touch, "position", json!({ "axial": axial, "angle": angle }));
            let answer = lead.touch("SL-041", touch).await?;
            assert_eq!(answer.status, 200, "{answer:?}");
            last = answer.body;
        }
    }
    let items = last["build"]["assessment"]["orders"][0]["items"].clone();
    assert_eq!((&items[0]["state"], &items[1]["state"]), (&json!("in"), &Value::Null), "{items}");

    let file = lead.get(&format!("/builds/SL-041/orders/{id}")).await?.body;
    assert_eq!((&file["format"], &file["lines"][0]["job"]), (&json!("jagged-pin-work-order"), &json!("grind")));
    assert_eq!(file["fillet"], "0.1250 in");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_order_that_cannot_be_is_refused_at_its_field() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let grind = json!({ "kind": "grind", "undersize": 254_000 });
    for (field, value) in [("shop", ""), ("finish", " "), ("note", ""), ("fillet", "round")] {
        let answer = lead.post("/builds/SL-041/orders", with(order(&grind), field, value)).await?;
        assert_eq!(answer.problem(), (422, "bad_field", field));
    }
    let unknown = order(&json!({ "kind": "grind", "undersize": 1 }));
    assert_eq!(lead.post("/builds/SL-041/orders", unknown).await?.problem(), (422, "no_such_plan", ""));
    let mains = with(order(&json!({ "kind": "bore_to_fit" })), "ask", json!({ "row": "mains", "family": "CM" }));
    assert_eq!(lead.post("/builds/SL-041/orders", mains).await?.problem(), (422, "not_whole", ""));
    let deep = with(rods(), "damage", json!([{ "station": "P1", "depth": "2 in" }]));
    assert_eq!(lead.post("/builds/SL-041/machining", deep).await?.problem(), (422, "bad_field", "damage"));
    let nothing = lead.post("/builds/SL-046/machining", json!({ "row": "mains", "family": "CM" })).await?;
    assert_eq!(nothing.problem(), (422, "nothing_measured", ""));
    let other_row = lead.post("/builds/SL-041/machining", json!({ "row": "mains", "family": "CR" })).await?;
    assert_eq!(other_row.problem(), (422, "bad_field", "family"));
    let apprentice = house.person("fenn").await?;
    assert_eq!(apprentice.post("/builds/SL-041/orders", order(&grind)).await?.problem().1, "not_allowed");
    assert_eq!(lead.get(&format!("/builds/SL-041/orders/{}", Uuid::new_v4())).await?.problem().1, "no_such_order");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn poured_bearings_are_ground_until_clean_and_bored_to_fit() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("wick").await?;
    let build = person.get("/builds/SL-044").await?.body;
    let sent = &build["assessment"]["orders"][0];
    assert_eq!((&sent["step"], sent["items"].as_array().map(Vec::len)), (&json!("sent"), Some(6)));
    // Nobody measures a crank that is at the grinder.
    assert_eq!(build["assessment"]["sign_off"]["next"], json!({ "kind": "await", "station": "M1" }));
    let pins = person.post("/builds/SL-044/machining", json!({ "row": "rods", "family": null })).await?.body;
    assert_eq!(pins["grinds"], json!([]));
    let gap = pins["bore"]["bores"][0]["to"].as_i64().zip(pins["bore"]["size"].as_i64()).map(|(to, size)| to - size);
    assert_eq!(gap, pins["target"]["aim"].as_i64());
    Ok(())
}
