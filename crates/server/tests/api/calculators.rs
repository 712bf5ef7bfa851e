//! The calculators through the API.
use serde_json::json;

use crate::house::{House, Outcome};

#[tokio::test(flavor = "multi_thread")]
async fn the_api_answers_as_the_command_does() -> Outcome {
    let house = House::empty().await?;
    let person = house.person("fenn").await?;
    let request = json!({ "text": "38", "cell": "size", "expected": 2.624 });
    let answer = person.post("/calc/parse_entry", request.clone()).await?;
    assert_eq!((answer.status, &answer.body["understood"]), (200, &json!("2.6238 in")));
    let same = jagged_pin_core::calc::answer("parse_entry", &request.to_string()).unwrap_or_default();
    assert_eq!(answer.body, same);
    let refused = person.post("/calc/verdict", json!({ "value": 0.002 })).await?;
    assert_eq!((refused.status, &refused.body["error"]["path"]), (422, &json!("low")));
    let unknown = person.post("/calc/guess", json!({})).await?;
    assert_eq!((unknown.status, &unknown.body["error"]["code"]), (404, &json!("unknown_calculator")));
    Ok(())
}
