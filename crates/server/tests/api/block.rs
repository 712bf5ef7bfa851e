//! Worn cylinders, strokes, steps with ticks and the block over the API.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome};

fn at<'a>(list: &'a Value, place: &str) -> &'a Value {
    list.as_array().into_iter().flatten().find(|one| one["at"] == place).unwrap_or(&Value::Null)
}

#[tokio::test(flavor = "multi_thread")]
async fn no_oversize_is_chosen_before_every_cylinder_is_measured_and_what_is_typed_wrong_is_named() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let plan = person.post("/builds/SL-041/boring", json!({ "unworn": "3.4740" })).await?.body;
    assert_eq!((&plan["chosen"], &plan["open"]), (&Value::Null, &json!(["B6"])));
    // 3.4750 at its largest, ten tenths over where no ring ran, and half a thou of the bar either way.
    assert_eq!(at(&plan["cylinders"], "B1")["needs"], json!(88_315_800));
    let pitted = json!({ "unworn": "3.4740", "damage": [{ "at": "B1", "text": ".0010", "near": { "axial": "rear", "angle": 0 } }] });
    let deeper = person.post("/builds/SL-041/boring", pitted).await?.body;
    assert_eq!(at(&deeper["cylinders"], "B1")["decided_at"], json!({ "axial": "rear", "angle": 0 }));
    for (field, wrong) in [("unworn", json!("worn")), ("oversizes", json!("-0.010")), ("hone_stock", json!("-1"))] {
        let answer = person.post("/builds/SL-041/boring", json!({ field: wrong })).await?;
        assert_eq!(answer.problem(), (422, "bad_field", field));
    }
    assert_eq!(person.post("/builds/SL-044/boring", json!({})).await?.problem().1, "no_cylinders");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_hatch_is_the_included_angle_both_ways() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let ask = json!({ "length": "6.0", "over": "0.787", "stone": "2.0", "rpm": 170.0, "angle": 45.0, "cycles": 69.0 });
    let hatch = person.post("/builds/SL-041/crosshatch", ask.clone()).await?.body;
    let cycles = hatch["cycles"].as_f64().unwrap_or_default();
    let angle = hatch["angle"].as_f64().unwrap_or_default();
    assert!((cycles - 69.0).abs() < 0.6 && (angle - 45.0).abs() < 0.6, "{hatch}");
    for (field, wrong) in [("stone", json!("9")), ("rpm", json!(0.0)), ("angle", json!(180.0)), ("cycles", json!(-1.0))]
    {
        let mut bad = ask.clone();
        bad[field] = wrong;
        assert_eq!(person.post("/builds/SL-041/crosshatch", bad).await?.problem(), (422, "bad_field", field));
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn strokes_are_kept_once_and_say_how_many_may_follow() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let stroke = |id: Uuid, strokes: i64, size: &str, temperature: &str| json!({ "id": id, "at": "B5", "on": "bore", "strokes": strokes, "size": size, "temperature": temperature });
    for (strokes, size) in [(0, "3.4740"), (20, "3.4744")] {
        let id = Uuid::new_v4();
        for again in [false, true] {
            let kept = person.post("/builds/SL-041/strokes", stroke(id, strokes, size, "")).await?;
            assert_eq!((kept.status, &kept.body["again"]), (200, &json!(again)), "{:?}", kept.body);
        }
    }
    let logs = person.get("/builds/SL-041/strokes").await?.body;
    let log = at(&logs, "B5");
    assert_eq!((&log["to_go"], &log["left"]["next"]), (&json!(15_240), &json!(15)), "{log}");
    assert_eq!(log["entries"].as_array().map(Vec::len), Some(2));
    let hot = person.post("/builds/SL-041/strokes", stroke(Uuid::new_v4(), 5, "3.4746", "boiling")).await?;
    assert_eq!(hot.problem(), (422, "bad_field", "temperature"));
    let elsewhere = json!({ "id": Uuid::new_v4(), "at": "M1", "on": "bore", "strokes": 1, "size": "3.4" });
    assert_eq!(person.post("/builds/SL-041/strokes", elsewhere).await?.status, 422);
    // Carried out and read in again, it is the same log.
    let file = person.get("/builds/SL-041/export.json").await?;
    assert!(file.body["build"]["facts"].to_string().contains("\"strokes\""), "the log travels with the build");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_step_is_not_done_before_everything_is_ticked() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let washed = |ticks: Value| json!({ "id": Uuid::new_v4(), "work": "cylinder_washed", "on": "B1", "note": "hot, brush", "ticks": ticks });
    let half = person.post("/builds/SL-041/work", washed(json!(["scrubbed", "oiled"]))).await?;
    assert_eq!(half.problem(), (422, "not_ticked", "ticks"));
    let whole = person.post("/builds/SL-041/work", washed(json!(["scrubbed", "white_cloth", "oiled"]))).await?;
    assert_eq!(whole.status, 200, "{:?}", whole.body);
    let polishes = person.get("/builds/SL-041/polishes").await?.body;
    assert!(polishes["polishes"].is_array(), "{polishes}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_stack_of_the_third_cylinder_names_what_was_misread_and_a_cut_says_what_it_changes() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let plan = person.get("/builds/SL-041/block?deck=0.0040").await?.body;
    let third = at(&plan["stacks"], "B3");
    assert_eq!(third["suspect"], "crown", "{third}");
    assert_eq!(at(&plan["stacks"], "B1")["suspect"], Value::Null);
    assert_eq!(at(&plan["stacks"], "B6")["missing"], json!(["stroke", "rod", "crown"]));
    assert_eq!((&plan["changes"]["clearance"], &plan["changes"]["axis"]), (&json!(101_600), &json!(0)));
    let volume = plan["changes"]["volume_cc"].as_f64().unwrap_or_default();
    assert!((volume - 0.622).abs() < 0.005, "{volume}");
    assert_eq!(person.get("/builds/SL-041/block?caps=-1").await?.problem(), (422, "bad_field", "caps"));
    assert_eq!(person.get("/builds/SL-044/block").await?.problem().1, "no_cylinders");
    Ok(())
}
