//! Parts over the API: entered, measured beside what stands, compared, put in, moved, condemned.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome, Person};

fn reading(station: &str, axial: &str, angle: i16, text: &str, part: Option<&str>) -> Value {
    json!({ "id": Uuid::new_v4(), "station": station, "characteristic": "main_journal",
        "position": { "axial": axial, "angle": angle }, "part": part, "read": "size", "reference": null,
        "gauge": "mic-tenths", "text": text, "unit": "in" })
}

async fn touched(person: &Person, part: Option<&str>, text: &str) -> Outcome {
    for (axial, angle) in [("front", 0), ("front", 90), ("rear", 0), ("rear", 90)] {
        for _ in 0..2 {
            let kept = person.post("/builds/SL-046/readings", reading("M1", axial, angle, text, part)).await?;
            assert_eq!(kept.status, 200, "{kept:?}");
        }
    }
    Ok(())
}

fn effective(build: &Value) -> Value {
    let figure = &build["assessment"]["figures"][0];
    assert_eq!(figure["station"], "M1");
    let journal = figure["measured"].as_array().and_then(|m| m.iter().find(|m| m["role"] == "journal"));
    journal.map(|m| m["size"]["effective"].clone()).unwrap_or_default()
}

#[tokio::test(flavor = "multi_thread")]
async fn a_second_crank_is_entered_measured_compared_and_chosen() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    touched(&person, None, "2.6238").await?;
    let part = json!({ "id": Uuid::new_v4(), "tag": "crank B", "kind": "crank",
        "provenance": "out of a sister engine", "marks": "B on the front web" });
    let entered = person.post("/builds/SL-046/parts", part.clone()).await?;
    assert_eq!(entered.status, 200, "{entered:?}");
    assert_eq!(person.post("/builds/SL-046/parts", part).await?.body["again"], true);
    let parts = entered.body["changes"]["parts"].as_array().cloned().unwrap_or_default();
    let b = parts.iter().find(|p| p["tag"] == "crank B").cloned().unwrap_or_default();
    assert_eq!((&b["stands"], &b["candidate"], &b["kind"]), (&json!(false), &json!(true), &json!("crank")));
    // Measured beside the one that stands: nothing of it counts for the engine.
    touched(&person, Some("crank B"), "2.6138").await?;
    assert_eq!(effective(&person.get("/builds/SL-046").await?.body), 66_644_520);
    assert_eq!(effective(&person.get("/builds/SL-046/as-if/crank%20B").await?.body), 66_390_520);
    assert_eq!(person.get("/builds/SL-046/as-if/none").await?.problem(), (422, "no_such_part", "part"));
    let cranks = person.get("/builds/SL-046/cranks").await?.body;
    let m1 = |n: usize| cranks[n]["rows"][0]["journals"][0]["size"].clone();
    assert_eq!((m1(0), m1(1)), (json!(66_644_520), json!(66_390_520)));
    assert_eq!(cranks[1]["rows"][0]["needs"], json!({ "kind": "measure", "open": 6 }));
    // What runs on rollers needs no shells: nothing is said of what it would need.
    let rollers = person.get("/builds/SL-045/cranks").await?.body;
    assert_eq!((&rollers[0]["part"], &rollers[0]["rows"]), (&json!("crank"), &json!([])));
    // Chosen with a reason; an apprentice may not.
    let choose = json!({ "id": Uuid::new_v4(), "moves": [{ "part": "crank B" }], "reason": "" });
    assert_eq!(person.post("/builds/SL-046/assignments", choose.clone()).await?.problem().1, "unsound");
    let choose = crate::house::with(choose, "reason", "straighter, and it takes ten under");
    let fenn = house.person("fenn").await?;
    assert_eq!(fenn.post("/builds/SL-046/assignments", choose.clone()).await?.problem().0, 403);
    let impact = person.post("/builds/SL-046/assignments/impact", choose.clone()).await?;
    assert_eq!(impact.body["ended"], json!([]), "its journals are measured, and nothing is assembled yet");
    assert_eq!(person.post("/builds/SL-046/assignments", choose).await?.status, 200);
    assert_eq!(effective(&person.get("/builds/SL-046").await?.body), 66_390_520);
    let file = person.get("/builds/SL-046/export.json").await?.body.to_string();
    assert!(file.contains("crank B") && file.contains("straighter"), "an export carries parts");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn rods_are_put_to_the_pins_that_were_planned_and_their_readings_go_along() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let housing = async |at: &str| -> Outcome<Value> {
        let build = person.get("/builds/SL-041").await?.body;
        let figures = build["assessment"]["figures"].as_array().cloned().unwrap_or_default();
        let figure = figures.into_iter().find(|f| f["station"] == at).unwrap_or_default();
        let measured = figure["measured"].as_array().cloned().unwrap_or_default();
        Ok(measured
            .into_iter()
            .find(|m| m["role"] == "housing")
            .map(|m| m["size"]["effective"].clone())
            .unwrap_or_default())
    };
    let before = (housing("R1").await?, housing("R3").await?);
    let moves = json!([{ "part": "R1", "place": "R3" }, { "part": "R3", "place": "R1" }]);
    let done = json!({ "id": Uuid::new_v4(), "moves": moves, "reason": "as planned" });
    assert_eq!(person.post("/builds/SL-041/assignments", done).await?.status, 200);
    assert_eq!((housing("R3").await?, housing("R1").await?), before);
    let condemned = json!({ "id": Uuid::new_v4(), "part": "R1", "reason": "bent" });
    let answer = person.post("/builds/SL-041/condemnations", condemned).await?;
    let blocks = answer.body["changes"]["assessment"]["sign_off"]["blocks"].as_array().cloned().unwrap_or_default();
    let part: Vec<&Value> = blocks.iter().filter(|b| b["needs"] == "part").map(|b| &b["station"]).collect();
    assert_eq!(part, [&json!("R3")], "the rod that came as R1 stands there");
    Ok(())
}
