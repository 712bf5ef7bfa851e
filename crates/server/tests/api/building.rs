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
    assert_eq!(codes, ["SL-041", "SL-042", "SL-043", "SL-044", "SL-045", "SL-046"]);
    assert_eq!(rows[0]["next"], json!({ "kind": "measure", "station": "M7", "open": 36 }));
    assert_eq!(rows[1]["status"], "sealed");
    assert_eq!(rows[5]["stations"].as_array().map(Vec::len), Some(13));
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
async fn an_own_engine_says_where_its_pins_stand_and_how_far_they_throw() -> Outcome {
    let house = House::empty().await?;
    let person = house.person("wick").await?;
    let typed = |throws: &str, stroke: &str| with(with(new_build(), "throws", throws), "stroke", stroke);
    let pins = person.post("/builds", new_build()).await?.body["layout"]["crank"]["bays"].clone();
    let count = pins.as_array().map_or(0, Vec::len);
    assert!(count > 1, "{pins}");
    let request = |throws: &str, stroke: &str| {
        let ids = ["id", "target_id"].into_iter();
        let own = ids.fold(typed(throws, stroke), |body, field| with(body, field, Uuid::new_v4().to_string()));
        with(own, "code", "SL-052")
    };
    assert_eq!(person.post("/builds", request("0 90", "")).await?.problem(), (422, "bad_field", "throws"));
    assert_eq!(person.post("/builds", request("", "-1")).await?.problem(), (422, "bad_field", "stroke"));
    let all: Vec<String> = (0..count).map(|n| (n * 90).to_string()).collect();
    let opened = person.post("/builds", request(&all.join(" "), "90")).await?;
    assert_eq!(opened.status, 201, "{:?}", opened.body);
    let crank = &opened.body["layout"]["crank"];
    assert_eq!((&crank["throws_said"], &crank["bays"][1]), (&json!(true), &json!([90])));
    assert_eq!(crank["throw"], json!(45_000_000));
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
async fn a_shop_that_knows_nothing_learns_an_engine_from_its_lead() -> Outcome {
    let house = House::unopened().await?;
    let new = jagged_pin_server::shop_people::NewShop {
        shop: "Reedmouth Engines".into(),
        name: "A. Sallow".into(),
        login: "sallow".into(),
        password: "brackish-on-purpose".into(),
    };
    jagged_pin_server::shop_people::open(&house.store().await?, &new, jagged_pin_core::units::Timestamp(1)).await?;
    let mut lead = house.stranger()?;
    let session = lead.post("/session", json!({ "login": "sallow", "password": "brackish-on-purpose" })).await?;
    lead.carry(&session);
    assert_eq!(lead.get("/shop").await?.body["patterns"], json!([]));
    let shells = json!({ "housing": "52.000", "housing_tolerance": "", "wall": "1.985", "wall_tolerance": "" });
    let request = with(with(new_build(), "keep_engine", true), "shells", shells);
    let opened = lead.post("/builds", request.clone()).await?;
    assert_eq!(opened.status, 201, "{opened:?}");
    assert_eq!(lead.post("/builds", request).await?.status, 200);
    let known = lead.get("/shop").await?.body["patterns"].clone();
    assert_eq!(known.as_array().map(Vec::len), Some(1), "sent twice it is learned once");
    assert_eq!(
        (&known[0]["engine"], &known[0]["shells"]["housing"]),
        (&json!("Knot 1.3 inline-four"), &json!("52.000"))
    );
    assert!(lead.get("/shop-log").await?.body[0]["text"].as_str().is_some_and(|t| t.contains("Knot 1.3")));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_the_shop_knows_is_not_an_assemblers_to_add_to() -> Outcome {
    let house = House::empty().await?;
    let wick = house.person("wick").await?;
    let refused = wick.post("/builds", with(new_build(), "keep_engine", true)).await?;
    assert_eq!(refused.problem(), (403, "not_allowed", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_name_with_a_blank_behind_it_is_another_name() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("wick").await?;
    assert_eq!(person.get("/builds/SL-041").await?.status, 200);
    assert_eq!(person.get("/builds/SL-041%20").await?.problem(), (404, "no_such_build", ""));
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
    assert_eq!(person.get("/builds").await?.body, json!({ "rows": [], "unreadable": [], "more": false, "last": null }));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_vee_says_how_far_its_banks_stand_apart() -> Outcome {
    let house = House::empty().await?;
    let person = house.person("wick").await?;
    let rods = json!({ "target_id": Uuid::new_v4(), "per_pin": 2, "pin": "42.000", "low": "0.025", "aim": "", "high": "0.045" });
    let vee = |angle: &str| with(with(with(new_build(), "rods", rods.clone()), "bore", "84.000"), "bank_angle", angle);
    for angle in ["wide", "60.5", "300", "9"] {
        let answer = person.post("/builds", vee(angle)).await?;
        assert_eq!(answer.problem(), (422, "bad_field", "bank_angle"), "{angle}");
    }
    let opened = person.post("/builds", vee("60")).await?;
    assert_eq!(opened.status, 201, "{opened:?}");
    assert_eq!(opened.body["layout"]["cylinders"], json!({ "bore": 84_000_000, "bank_angle": 60 }));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_engine_nobody_knows_says_what_it_is_made_of_or_is_read_whole() -> Outcome {
    let house = House::empty().await?;
    let person = house.person("wick").await?;
    let rods = json!({ "target_id": Uuid::new_v4(), "per_pin": 1, "pin": "42.000", "low": "0.025", "aim": "",
        "high": "0.045", "material": "aluminium", "shells": { "housing": "45.000", "housing_tolerance": "",
        "wall": "1.490", "wall_tolerance": "" } });
    let request = with(with(new_build(), "block", "aluminium"), "rods", rods);
    let opened = person.post("/builds", request).await?;
    assert_eq!(opened.status, 201, "{opened:?}");
    let layout = &opened.body["layout"];
    assert_eq!((&layout["block"], &layout["rods"]["material"]), (&json!("aluminium"), &json!("aluminium")));
    let nominals = &layout["rods"]["nominals"];
    assert_eq!((&nominals["housing"], &nominals["wall_tolerance"]), (&json!(45_000_000), &json!(8_000)));
    assert!(layout["main_nominals"].is_null());
    // A rod has no groove: its bore is touched in the middle too.
    let places = |what: &str| {
        let mut plans = opened.body["plans"].as_array().into_iter().flatten();
        plans.find(|p| p["characteristic"] == what).and_then(|p| p["positions"].as_array()).map_or(0, Vec::len)
    };
    assert_eq!((places("rod_bearing"), places("main_bearing")), (5, 4));
    // Nobody knows the housing: its first figure is typed whole, and tells the next ones.
    let housing = |place: &str, text: &str| {
        json!({ "id": Uuid::new_v4(), "station": place, "characteristic": "main_housing", "read": "size",
            "position": { "axial": "front", "angle": 0 }, "reference": null, "gauge": "bore-microns", "text": text,
            "unit": "mm" })
    };
    let tail = person.touch("SL-050", housing("M1", "12")).await?;
    assert_eq!(tail.status, 422, "{tail:?}");
    let whole = person.touch("SL-050", housing("M1", "52.012")).await?;
    assert_eq!(whole.status, 200, "{whole:?}");
    let next = person.touch("SL-050", housing("M2", "14")).await?;
    assert_eq!(next.status, 200, "{next:?}");
    assert_eq!(person.get("/builds/SL-050").await?.body["readings"][1]["size"], json!(52_014_000));
    // What does not go round the journal is told at its field.
    let shells = json!({ "housing": "45", "housing_tolerance": "", "wall": "2.000", "wall_tolerance": "" });
    let misfit = with(with(new_build(), "code", "SL-051"), "shells", shells);
    assert_eq!(person.post("/builds", misfit).await?.problem(), (422, "bad_field", "shells.housing"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_opening_that_is_sent_several_times_at_once_opens_one_build() -> Outcome {
    let house = House::demo().await?;
    for n in 0..5 {
        let request = with(new_build(), "code", format!("SL-06{n}"));
        let mut sent = tokio::task::JoinSet::new();
        for _ in 0..6 {
            let (person, request) = (house.person("oduya").await?, request.clone());
            sent.spawn(
                async move { person.post("/builds", request).await.map(|a| a.status).map_err(|e| e.to_string()) },
            );
        }
        let mut answers = Vec::new();
        while let Some(answer) = sent.join_next().await {
            answers.push(answer??);
        }
        assert!(answers.iter().all(|status| matches!(status, 200 | 201)), "{answers:?}");
    }
    Ok(())
}
