//! Rods too wide for their pin: the plan that narrows them, and what it takes to make one.
use serde_json::{Value, json};

use crate::house::{House, Outcome};

#[tokio::test(flavor = "multi_thread")]
async fn the_cam_of_the_six_binds_at_its_bent_journal() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let plan = person.get("/builds/SL-041/cam").await?.body;
    let journals = plan["journals"].as_array().cloned().unwrap_or_default();
    let of = |at: &str| journals.iter().find(|j| j["at"] == at).cloned().unwrap_or_default();
    assert_eq!(
        (&of("C2")["outcome"], &of("C2")["runout"], &of("C3")["outcome"]),
        (&json!("straighten"), &json!(20_936), &json!("polish_to_aim"))
    );
    assert_eq!((&of("C1")["removal"], &of("C1")["runout"]), (&json!(0), &Value::Null));
    assert_eq!(person.get("/builds/SL-043/cam").await?.problem().1, "no_cam");
    let trial = |torques: &str, unit: &str| json!({ "id": uuid::Uuid::new_v4(), "torques": torques, "unit": unit, "oiled": false, "note": "first trial" });
    let turned = trial("2.6 2.1 1.2 .8 .9 1.4 2.2 2.7", "N m");
    assert_eq!(person.post("/builds/SL-041/trials", turned).await?.status, 200);
    person.post("/builds/SL-041/trials", trial("8 8 8 8 8 8 8 8", "lb in")).await?;
    let trials = person.get("/builds/SL-041/cam").await?.body["trials"].clone();
    let says: Vec<&Value> = trials.as_array().into_iter().flatten().map(|t| &t["says"]).collect();
    // The demo's own trial, the same again, and an even drag.
    assert_eq!(says, [&json!("bent"), &json!("bent"), &json!("tight_all_along")]);
    assert_eq!(trials[2]["turn"][3], json!({ "angle": 135, "torque": 904 }));
    for wrong in ["2.6 2.1 1.2", "1 2 3 4 5 6 7", "a b c d", "-1 1 1 1"] {
        assert_eq!(person.post("/builds/SL-041/trials", trial(wrong, "N m")).await?.problem().2, "torques", "{wrong}");
    }
    // A V6 whose cam nobody knows has none to turn.
    assert_eq!(person.post("/builds/SL-043/trials", trial("1 1 1 1", "N m")).await?.status, 422);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn two_rods_on_a_pin_are_narrowed_evenly_or_by_their_beams() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let ask = async |more: Value| {
        let mut body = json!({ "at": "S1" });
        more.as_object().into_iter().flatten().for_each(|(name, value)| body[name] = value.clone());
        person.post("/builds/SL-043/narrowing", body).await
    };
    let even = ask(json!({})).await?.body;
    assert_eq!(
        (&even["now"], &even["removal"], &even["clearance"]),
        (&json!(279_400), &json!(127_000), &json!(406_400))
    );
    assert_eq!(even["rods"][0]["front"]["passes"], json!([{ "cut": 31_750, "dial": 31_750 }]));
    let beams = json!({ "bank_offset": ".9420", "beams": [".4666", ".4684"], "dial_in_diameter": true });
    let by_beam = ask(beams).await?.body;
    let widths: Vec<&Value> = by_beam["rods"].as_array().into_iter().flatten().map(|r| &r["width"]).collect();
    assert_eq!(widths, [&json!(23_672_800); 2], "both to 0.9320");
    assert_eq!(ask(json!({ "bank_offset": ".9420" })).await?.problem(), (422, "bad_field", "beams"));
    assert_eq!(ask(json!({ "rough": "-1 thou" })).await?.problem(), (422, "bad_field", "rough"));
    assert_eq!(ask(json!({ "at": "S2" })).await?.problem().1, "nothing_measured");
    assert_eq!(ask(json!({ "at": "M1" })).await?.problem(), (422, "bad_field", "at"));
    Ok(())
}
