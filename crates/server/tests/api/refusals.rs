//! Bad input: a stable code, the field, a sentence that says what to do, and nothing half written.
use serde_json::{Value, json};

use crate::house::{House, Outcome, bore, journal, with};

#[tokio::test(flavor = "multi_thread")]
async fn a_reading_that_cannot_be_names_what_is_wrong_and_writes_nothing() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let at = |axial: &str, angle: i32| json!({ "axial": axial, "angle": angle });
    let cases: Vec<(Value, u16, &str, &str)> = vec![
        (journal("M8", "38"), 422, "no_such_station", "station"),
        (journal("X1", "38"), 422, "bad_field", "station"),
        (journal("P1", "38"), 422, "no_such_feature", "characteristic"),
        (with(journal("M1", "38"), "station", 1), 422, "bad_field", "station"),
        (with(journal("M1", "38"), "position", at("front", 45)), 422, "no_such_position", "position"),
        (with(journal("M1", "38"), "position", at("sideways", 0)), 422, "bad_field", "position.axial"),
        (with(journal("M1", "38"), "gauge", "bore-tenths"), 422, "gauge_does_not_fit", "gauge"),
        (with(journal("M1", "38"), "gauge", "yardstick"), 422, "unknown_gauge", "gauge"),
        (with(journal("M1", "38"), "text", "big"), 422, "not_a_number", "text"),
        (with(journal("M1", "38"), "text", 38), 422, "bad_field", "text"),
        (with(journal("M1", "38"), "text", "3".repeat(80)), 422, "bad_field", "text"),
        (journal("M1", "66.65"), 422, "out_of_band", "text"),
        (journal("M1", "5"), 422, "ambiguous_tail", "text"),
        (with(journal("M1", "38"), "unit", "cm"), 422, "bad_field", "unit"),
        (with(journal("M1", "38"), "colour", "blue"), 422, "bad_field", "colour"),
        (with(journal("M1", "38"), "id", Value::Null), 422, "bad_field", "id"),
        (with(bore("M1", "front", "23"), "reference", Value::Null), 422, "no_reference", "reference"),
        (with(bore("M1", "front", "23"), "reference", "abc"), 422, "not_a_number", "reference"),
        (bore("M1", "front", "0.0023"), 422, "ambiguous_unit", "text"),
        (bore("M1", "front", "230"), 422, "out_of_band", "text"),
    ];
    for (reading, status, code, field) in cases {
        let answer = person.touch("SL-046", reading.clone()).await?;
        assert_eq!(answer.problem(), (status, code, field), "{reading}: {answer:?}");
        assert!(answer.body["detail"].as_str().is_some_and(|d| d.len() > 15), "{answer:?}");
    }
    assert_eq!(person.get("/builds/SL-046").await?.body["assessment"]["seq"], 2);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_not_json_or_not_there_is_a_problem_too() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let path = "/builds/SL-046/readings";
    assert_eq!(person.post_text(path, "application/json", "{").await?.problem(), (400, "bad_json", ""));
    assert_eq!(person.post_text(path, "application/json", "{} {}").await?.problem().0, 422);
    assert_eq!(person.post_text(path, "text/plain", "{}").await?.problem(), (400, "bad_json", ""));
    assert_eq!(person.post_text(path, "application/json", "[]").await?.problem().1, "bad_field");
    assert_eq!(person.post_text(path, "application/jsonx", "[]").await?.problem().1, "bad_json");
    assert_eq!(person.post_text(path, "application/json; charset=utf-8", "[]").await?.problem().1, "bad_field");
    assert_eq!(person.get("/builds/SL-404").await?.problem(), (404, "no_such_build", ""));
    assert_eq!(person.touch("SL-404", journal("M1", "38")).await?.problem(), (404, "no_such_build", ""));
    assert_eq!(person.get("/nothing/here").await?.problem(), (404, "no_such_address", ""));
    assert_eq!(person.delete("/builds").await?.problem(), (405, "no_such_method", ""));
    // A reason must not read as another one: neither as typed nor escaped.
    for turned in ["\u{202e}ti esrever", "\\u202Eti esrever"] {
        let body = format!(r#"{{"reason": "{turned}"}}"#);
        assert_eq!(person.post_text("/builds/SL-046/rules", "application/json", &body).await?.problem().1, "bad_json");
    }
    let huge = format!("\"{}\"", "x".repeat(5 * 1024 * 1024));
    assert_eq!(person.post_text(path, "application/json", &huge).await?.problem(), (413, "too_large", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn every_problem_has_the_same_shape() -> Outcome {
    let house = House::demo().await?;
    let response = house.person("oduya").await?.raw(reqwest::Method::GET, "/builds/SL-404", None).await?;
    assert_eq!(response.headers().get("content-type").and_then(|v| v.to_str().ok()), Some("application/problem+json"));
    let body: Value = serde_json::from_str(&response.text().await?)?;
    assert_eq!(body["type"], "urn:jagged-pin:problem:no_such_build");
    assert_eq!((&body["status"], &body["title"]), (&json!(404), &json!("Not Found")));
    Ok(())
}
