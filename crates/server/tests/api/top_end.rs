//! Fillets, cylinders and the crank's run over the API: what the plans say, and what they refuse.
use serde_json::{Value, json};

use crate::house::{House, Outcome};

#[tokio::test(flavor = "multi_thread")]
async fn the_shell_that_rides_on_its_fillet_is_narrowed_by_the_least_that_clears() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let ask = async |more: Value| {
        let mut body = json!({ "at": "FP2", "end": "front" });
        more.as_object().into_iter().flatten().for_each(|(name, value)| body[name] = value.clone());
        person.post("/builds/SL-041/fillet", body).await
    };
    let plan = ask(json!({ "contact": ".880", "claimed": "0.010" })).await?.body;
    assert_eq!((&plan["take"], &plan["radius"], &plan["margin"]), (&json!(635_000), &json!(2_286_000), &json!(50_800)));
    assert_eq!(plan["passes"].as_array().map(Vec::len), Some(4));
    assert_eq!((&plan["now"]["clears"], &plan["after"]["clears"]), (&json!(false), &json!(true)));
    assert_eq!((&plan["claimed"]["clears"], &plan["cost"]["lost"]), (&json!(false), &json!(28)));
    assert_eq!(ask(json!({ "end": "rear" })).await?.body["take"], json!(0));
    assert_eq!(ask(json!({ "contact": "-1" })).await?.problem(), (422, "bad_field", "contact"));
    assert_eq!(ask(json!({ "end": "middle" })).await?.problem(), (422, "bad_field", "end"));
    assert_eq!(ask(json!({ "at": "P2" })).await?.problem(), (422, "bad_field", "at"));
    assert_eq!(ask(json!({ "at": "FP6" })).await?.problem().1, "nothing_measured");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_bores_of_the_six_want_a_size_each() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let plan = person.get("/builds/SL-041/bores").await?.body;
    assert_eq!(plan["one_size"]["bore"], Value::Null);
    let five = plan["cylinders"].as_array().and_then(|all| all.iter().find(|c| c["at"] == "B5")).cloned();
    let five = five.unwrap_or_default();
    assert_eq!((&five["plate_off"], &five["finished"]), (&json!(true), &json!(88_265_000)));
    // Six tenths to take at the tight place, one at the widest.
    assert_eq!(five["take"], json!([15_240, 2_540]));
    let gaps = five["gaps"].as_array().map(Vec::len);
    assert_eq!((gaps, &five["rounds"][0]["out_of_round"]), (Some(6), &json!(12_700)));
    let finer = person.get("/builds/SL-041/bores?tolerance=0.00001").await?.body;
    assert_ne!(finer["one_size"]["needs"], plan["one_size"]["needs"]);
    assert_eq!(person.get("/builds/SL-041/bores?tolerance=none").await?.problem(), (422, "bad_field", "tolerance"));
    assert_eq!(person.get("/builds/SL-044/bores").await?.problem().1, "no_target");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn bend_and_ovality_of_a_turned_main_are_told_apart() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let runs = person.get("/builds/SL-041/straightness").await?.body;
    let mains = runs["mains"].as_array().cloned().unwrap_or_default();
    assert_eq!((mains.len(), runs["open"].as_array().map(Vec::len)), (3, Some(4)));
    let four = mains.iter().find(|m| m["at"] == "M4").cloned().unwrap_or_default();
    assert_eq!((&four["travel"], &four["high_side"], &four["bent"]), (&json!(12_700), &json!(45), &json!(false)));
    assert!(four["bend"].as_i64() < four["travel"].as_i64() && !four["bow"].is_null());
    assert_eq!(person.get("/builds/SL-044/straightness").await?.body["mains"], json!([]));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_least_needs_no_upper_limit_and_a_bore_is_typed_with_a_new_engine() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("harrow").await?;
    let target = json!({
        "id": uuid::Uuid::new_v4(), "figure": "fillet_flat", "station": Value::Null, "row": "rods",
        "rule": { "kind": "range", "low": ".005", "aim": "", "high": "" }, "source": "builders_rule", "wear": Value::Null,
        "reason": "five thou beyond the arc", "unit": "in", "version": 0,
    });
    person.post("/builds/SL-041/targets", target).await?;
    let view = person.get("/builds/SL-041").await?.body;
    let figures = view["assessment"]["figures"].as_array().cloned().unwrap_or_default();
    let flat =
        figures.iter().find(|f| f["figure"] == "fillet_flat" && f["station"] == "FP2").cloned().unwrap_or_default();
    assert_eq!((&flat["target"]["window"]["low"], &flat["judged"]["state"]), (&json!(127_000), &json!("tight")));
    let open = |code: &str, bore: Value| {
        json!({
            "id": uuid::Uuid::new_v4(), "target_id": uuid::Uuid::new_v4(), "code": code, "engine": "Knot 1.0 twin", "unit": "mm",
            "mains": 3, "thrust": "M2", "main_journal": "50", "pins_per_bay": 1, "low": "0.030", "aim": "", "high": "0.060",
            "rods": { "target_id": uuid::Uuid::new_v4(), "per_pin": 1, "pin": "45", "material": Value::Null,
                "shells": Value::Null, "low": "0.030", "aim": "", "high": "0.055" },
            "pattern": Value::Null, "keep_engine": false, "block": "iron", "shells": Value::Null, "bore": bore,
        })
    };
    let made = person.post("/builds", open("SL-061", json!("82.0"))).await?.body;
    assert_eq!(made["layout"]["cylinders"]["bore"], json!(82_000_000));
    assert_eq!(person.post("/builds", open("SL-062", json!("8.2"))).await?.problem(), (422, "bad_field", "bore"));
    let none = person.post("/builds", open("SL-063", json!(""))).await?.body;
    assert_eq!(none["layout"]["cylinders"], Value::Null);
    Ok(())
}
