//! Looks with their marks, checks by eye and hand, what befell an engine, and an aim that is added up.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome};

fn of<'a>(list: &'a Value, key: &str, value: &str) -> &'a Value {
    list.as_array().into_iter().flatten().find(|one| one[key] == value).unwrap_or(&Value::Null)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_mark_says_where_a_sign_is_and_its_depth_is_read_by_the_server() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let look = |signs: Value, marks: Value| json!({ "id": Uuid::new_v4(), "station": "B2", "part": "bore", "signs": signs, "marks": marks });
    let pit = json!({ "sign": "pits", "along": "front", "clock": 90, "depth": ".006" });
    let kept = person.post("/builds/SL-046/inspections", look(json!(["pits"]), json!([pit]))).await?.body;
    let seen = of(&kept["changes"]["inspections"], "part", "bore");
    assert_eq!(seen["marks"], json!([{ "sign": "pits", "along": "front", "clock": 90, "depth": 152_400 }]));
    let wrong = json!({ "sign": "pits", "depth": "deep" });
    let refused = person.post("/builds/SL-046/inspections", look(json!(["pits"]), json!([wrong]))).await?;
    assert_eq!(refused.problem(), (422, "bad_field", "depth"));
    let unseen = json!({ "sign": "rust_line", "clock": 0 });
    assert_eq!(person.post("/builds/SL-046/inspections", look(json!(["pits"]), json!([unseen]))).await?.status, 422);
    let build = person.get("/builds/SL-046").await?.body;
    let bore = of(&build["looks"], "part", "bore");
    assert_eq!(bore["places"], json!(["B1", "B2", "B3", "B4", "B5", "B6"]));
    assert_eq!(bore["stops"], json!(["crack"]));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_sits_around_the_crank_is_looked_at_where_it_is_and_nowhere_else() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let look = |station: &str, part: &str, sign: &str| json!({ "id": Uuid::new_v4(), "station": station, "part": part, "signs": [sign] });
    let kept = person.post("/builds/SL-041/inspections", look("K1", "hub", "ring_slipped")).await?.body;
    let figures = kept["changes"]["assessment"]["figures"].as_array().cloned().unwrap_or_default();
    let all = figures.iter().flat_map(|f| f["findings"].as_array().cloned().unwrap_or_default());
    let unusable: Vec<Value> = all.filter(|f| f["kind"] == "unusable").collect();
    assert_eq!(unusable, [json!({ "kind": "unusable", "seen_on": "hub", "sign": "ring_slipped", "at": "K1" })]);
    let suspected = &kept["changes"]["assessment"]["hypotheses"];
    let runout = of(&of(suspected, "suspicion", "hub_loose")["confirm"], "by", "runout").clone();
    assert_eq!(runout["at"], json!("K1"));
    for (station, part, sign) in [
        ("M1", "hub", "fretted"),
        ("D1", "valves", "burnt"),
        ("K1", "pump", "scored"),
        ("K3", "hub", "fretted"),
        ("OP", "pump", "burnt"),
    ] {
        let refused = person.post("/builds/SL-041/inspections", look(station, part, sign)).await?;
        assert_eq!(refused.status, 422, "{sign} on {part} at {station}: {:?}", refused.body);
    }
    // A two-stroke on rollers has no pump to look at, and no valves.
    let twin = person.get("/builds/SL-045").await?.body;
    assert_eq!(of(&twin["looks"], "part", "hub")["places"], json!(["K1", "K2"]));
    for part in ["pump", "valves"] {
        assert!(of(&twin["looks"], "part", part)["places"].as_array().is_none_or(Vec::is_empty), "{part}");
    }
    assert_eq!(person.post("/builds/SL-045/inspections", look("OP", "pump", "scored")).await?.status, 422);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_end_of_the_crank_is_turned_and_judged_by_its_own_target() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let turned = |build: &Value| {
        let figures = build["assessment"]["figures"].as_array().cloned().unwrap_or_default();
        figures.into_iter().find(|f| f["figure"] == "end_runout" && f["station"] == "K2").unwrap_or_default()
    };
    let before = person.get("/builds/SL-041").await?.body;
    assert_eq!((&turned(&before)["asked"], &turned(&before)["target"]), (&json!(false), &Value::Null));
    let target = json!({ "id": Uuid::new_v4(), "figure": "end_runout", "row": "mains", "rule": { "kind": "range", "low": "0", "aim": "", "high": ".0010" }, "source": "builders_rule", "reason": "race", "unit": "in", "version": 0 });
    let kept = person.post("/builds/SL-041/targets", target).await?;
    assert_eq!(kept.status, 200, "{:?}", kept.body);
    let after = person.get("/builds/SL-041").await?.body;
    assert_eq!(turned(&after)["asked"], json!(true));
    let straight = person.get("/builds/SL-041/straightness").await?.body;
    let open: Vec<&str> = straight["open"].as_array().into_iter().flatten().filter_map(Value::as_str).collect();
    assert!(open.contains(&"K1") && open.contains(&"K2"), "{open:?}");
    assert_eq!(straight["limit"], json!(25_400), "what the mains may is still theirs");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_befell_an_engine_says_first_what_it_ends_and_forces_its_checks() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let mishap = json!({ "id": Uuid::new_v4(), "befell": "hydrolock", "at": "B1", "note": "ford, third stage" });
    let impact = person.post("/builds/SL-041/mishaps/impact", mishap.clone()).await?.body;
    // The first rod, its piston, and how the crank runs.
    assert_eq!(of(&impact["ended"], "station", "R1")["part"], "housing");
    assert!(impact["ended"].as_array().is_some_and(|all| all.iter().all(|e| e["station"] != "R2")));
    let told = person.post("/builds/SL-041/mishaps", mishap.clone()).await?.body;
    let forced = &told["changes"]["assessment"]["forced"];
    assert_eq!(of(forced, "check", "rod_alignment")["at"], "B1");
    assert_eq!(of(forced, "look", "rod")["left"], json!(["R1"]));
    assert_eq!(person.post("/builds/SL-041/mishaps", mishap).await?.body["again"], true);

    let check = |found: &str, note: &str| json!({ "id": Uuid::new_v4(), "check": "rod_alignment", "at": "B1", "found": found, "note": note });
    let done = person.post("/builds/SL-041/checks", check("good", "a tenth in six inches")).await?.body;
    assert_eq!(of(&done["changes"]["assessment"]["forced"], "check", "rod_alignment")["found"], "good");
    let decisions = done["changes"]["decisions"].as_array().cloned().unwrap_or_default();
    assert!(decisions.iter().any(|d| d["text"] == "rod alignment good: a tenth in six inches"));
    assert_eq!(person.post("/builds/SL-041/checks", check("good", "")).await?.problem(), (422, "unsound", "note"));
    let elsewhere = json!({ "id": Uuid::new_v4(), "befell": "debris", "at": "M1", "note": "a valve" });
    assert_eq!(person.post("/builds/SL-041/mishaps", elsewhere).await?.problem(), (422, "unsound", "at"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_aim_is_added_up_here_and_nothing_twice() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("harrow").await?;
    let target = |made: Value, version: u64| {
        json!({
            "id": Uuid::new_v4(), "figure": "piston_to_wall", "station": null, "row": "rods",
            "rule": { "kind": "range", "low": "0.0030", "aim": "", "high": "0.0045" },
            "source": "makers_sheet", "made_of": made, "reason": "boosted", "unit": "in", "version": version
        })
    };
    let made = json!({ "sheet": "0.0030", "factor": "0.0009", "adders": [{ "why": "boost", "by": "0.0008" }, { "why": "cold_noise", "by": "-0.0002" }] });
    let set = person.post("/builds/SL-046/targets", target(made, 0)).await?;
    assert_eq!(set.status, 200, "{:?}", set.body);
    let build = person.get("/builds/SL-046").await?.body;
    let figures = build["assessment"]["figures"].as_array().cloned().unwrap_or_default();
    let wall = figures.iter().find(|f| f["figure"] == "piston_to_wall").cloned().unwrap_or_default();
    // 0.0009 of 3.4750 and six tenths.
    assert_eq!(wall["target"]["window"]["aim"], json!(79_438 + 15_240));
    let version = wall["target"]["version"].as_u64().unwrap_or_default();
    let twice = json!({ "sheet": "0.0030", "covers": ["boost"], "adders": [{ "why": "boost", "by": "0.0008" }] });
    assert_eq!(
        person.post("/builds/SL-046/targets", target(twice, version)).await?.problem(),
        (422, "unsound", "adders.0")
    );
    let wrong = json!({ "sheet": "thirty" });
    assert_eq!(
        person.post("/builds/SL-046/targets", target(wrong, version)).await?.problem(),
        (422, "bad_field", "sheet")
    );
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn on_rollers_nobody_asks_for_oil_clearance() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let twin = person.get("/builds/SL-045").await?.body;
    let figures = twin["assessment"]["figures"].as_array().cloned().unwrap_or_default();
    assert!(figures.iter().all(|f| f["figure"] != "oil_clearance"));
    assert_eq!(figures.iter().filter(|f| f["figure"] == "main_runout").count(), 4);
    assert!(twin["looks"].as_array().is_some_and(|all| all.iter().all(|l| l["part"] != "upper")));
    // The second piston is under its own sheet.
    assert_eq!(of(&twin["assessment"]["unfit"], "part", "W2")["figure"], "piston_size");
    let bores = person.get("/builds/SL-045/bores").await?.body;
    let second = of(&bores["cylinders"], "at", "B2");
    assert_eq!((&second["condemned"], &second["piston"]), (&json!(true), &Value::Null));
    Ok(())
}
