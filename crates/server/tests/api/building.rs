//! The floor, and opening builds.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome, with};

fn new_build() -> Value {
    json!({
        "id": Uuid::new_v4(), "target_id": Uuid::new_v4(), "code": "SL-050", "engine": "Knot 1.3 inline-four", "unit": "mm",
        "mains": 5, "thrust": "M3", "main_journal": "48.000", "pins_per_bay": 1, "pattern": null,
        "low": "0.030", "aim": "", "high": "48um",
    })
}

#[tokio::test(flavor = "multi_thread")]
async fn the_floor_shows_every_build_with_its_next_step() -> Outcome {
    let house = House::demo().await?;
    let floor = house.person("fenn").await?.get("/builds").await?.body;
    let rows = floor["rows"].as_array().cloned().unwrap_or_default();
    let codes: Vec<&str> = rows.iter().filter_map(|r| r["code"].as_str()).collect();
    assert_eq!(codes, ["SL-041", "SL-042", "SL-043", "SL-044", "SL-046"]);
    assert_eq!(rows[0]["next"], json!({ "kind": "measure", "station": "M7", "open": 5 }));
    assert_eq!(rows[1]["status"], "sealed");
    assert_eq!(rows[4]["stations"].as_array().map(Vec::len), Some(13));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_build_is_opened_once_however_often_it_is_sent() -> Outcome {
    let house = House::empty().await?;
    let person = house.person("wick").await?;
    let request = new_build();
    let opened = person.post("/builds", request.clone()).await?;
    assert_eq!(opened.status, 201, "{opened:?}");
    let target = &opened.body["assessment"]["rows"][0]["target"]["window"];
    assert_eq!(*target, json!({ "low": 30_000, "aim": 39_000, "high": 48_000 }));
    assert_eq!(opened.body["layout"]["crank"]["proportional"], true);
    assert_eq!(person.post("/builds", request).await?.status, 200);
    assert_eq!(person.get("/builds").await?.body["rows"].as_array().map(Vec::len), Some(1));
    let other = with(new_build(), "engine", "Another");
    assert_eq!(person.post("/builds", other).await?.problem(), (409, "code_taken", "code"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_engine_the_shop_knows_brings_its_crank() -> Outcome {
    let house = House::empty().await?;
    let person = house.person("wick").await?;
    let shop = person.get("/shop").await?.body;
    let pattern = &shop["patterns"][0];
    assert_eq!((&pattern["id"], &pattern["main_journal_text"]), (&json!("curlew-24"), &json!("2.6240")));
    let mut request = with(new_build(), "pattern", "curlew-24");
    for (field, value) in [
        ("unit", json!("in")),
        ("mains", json!(7)),
        ("main_journal", json!("2.6240")),
        ("low", json!(".0022")),
        ("high", json!("2.8 thou")),
    ] {
        request = with(request, field, value);
    }
    let opened = person.post("/builds", request).await?;
    assert_eq!((opened.status, &opened.body["layout"]["crank"]), (201, &pattern["layout"]["crank"]));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_build_that_cannot_be_names_its_field() -> Outcome {
    let house = House::empty().await?;
    let person = house.person("wick").await?;
    let refused = async |field: &str, value: Value| person.post("/builds", with(new_build(), field, value)).await;
    for (field, value, code, named) in [
        ("code", json!("../x"), "bad_build", "code"),
        ("engine", json!("  "), "bad_build", "engine"),
        ("mains", json!(1), "bad_field", "mains"),
        ("mains", json!(300), "bad_field", "mains"),
        ("mains", json!("five"), "bad_field", "mains"),
        ("thrust", json!("M6"), "bad_field", "thrust"),
        ("thrust", json!("P1"), "bad_field", "thrust"),
        ("main_journal", json!("48 cm"), "bad_field", "main_journal"),
        ("main_journal", json!("4800"), "bad_field", "main_journal"),
        ("unit", json!("inch"), "bad_field", "unit"),
        ("low", json!("0.060"), "bad_target", "rule"),
        ("high", json!("48"), "bad_target", "rule"),
        ("colour", json!("blue"), "bad_field", "colour"),
        ("id", json!("seven"), "bad_field", "id"),
    ] {
        let answer = refused(field, value.clone()).await?;
        assert_eq!(answer.problem(), (422, code, named), "{field} {value}: {answer:?}");
    }
    assert_eq!(person.get("/builds").await?.body, json!({ "rows": [], "more": false }));
    Ok(())
}
