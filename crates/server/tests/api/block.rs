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

#[tokio::test(flavor = "multi_thread")]
async fn a_bridge_is_typed_as_a_grid_and_held_against_the_target_of_its_face() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let grid = |readings: &str| json!({ "id": Uuid::new_v4(), "at": "D1", "along": "3.0", "across": "2.0", "readings": readings });
    let kept = person.post("/builds/SL-041/grids", grid("0 .0004 .0009\n-.0002 +.0012 .0006\n\n.0001 .0003 0")).await?;
    assert_eq!(kept.status, 200, "{:?}", kept.body);
    let grids = person.get("/builds/SL-041/grids").await?.body;
    let deck = at(&grids, "D1");
    assert_eq!((deck["off"].as_array().map(Vec::len), &deck["flat"]), (Some(3), &json!(true)));
    assert!(deck["minimum_zone"].as_i64() <= deck["least_squares"].as_i64());
    for (wrong, field) in [("0 .1\n0 high", "readings"), ("0 .0001\n0", "rows.1"), ("0 .0001", "rows")] {
        let refused = person.post("/builds/SL-041/grids", grid(wrong)).await?;
        assert_eq!((refused.status, refused.problem().2), (422, field), "{wrong}");
    }
    let elsewhere =
        json!({ "id": Uuid::new_v4(), "at": "M1", "along": "3.0", "across": "2.0", "readings": "0 0\n0 0" });
    assert_eq!(person.post("/builds/SL-041/grids", elsewhere).await?.problem(), (422, "unsound", "at"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_crank_on_unequal_seats_is_packed_by_the_angle_of_its_blocks() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    // Both end mains of the four of the flat engine are measured, a micrometre apart or two.
    let packing = async |v: &str| -> Outcome<Option<i64>> {
        Ok(person.get(&format!("/builds/SL-042/straightness{v}")).await?.body["packing"]["by"].as_i64())
    };
    let (right, narrow) = (packing("").await?, packing("?v=60").await?);
    assert!(right.zip(narrow).is_none_or(|(right, narrow)| narrow > right), "{right:?} {narrow:?}");
    for wrong in ["?v=0", "?v=180", "?v=-90"] {
        let answer = person.get(&format!("/builds/SL-042/straightness{wrong}")).await?;
        assert_eq!(answer.problem(), (422, "bad_field", "v"));
    }
    let married = person.get("/builds/SL-041/bores?married=W1%20M1x").await?;
    assert_eq!(married.problem(), (422, "bad_field", "married"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn bores_are_ordered_from_the_plan_once_and_stand_with_the_other_orders() -> Outcome {
    let house = House::demo().await?;
    let (lead, apprentice) = (house.person("harrow").await?, house.person("fenn").await?);
    let hone = |id: Uuid, more: Value| {
        let mut order = json!({ "id": id, "shop": "the honer", "finish": "45 included", "note": "plate on" });
        order.as_object_mut().into_iter().for_each(|o| o.extend(more.as_object().cloned().unwrap_or_default()));
        order
    };
    let path = "/builds/SL-041/cylinder-orders";
    assert_eq!(apprentice.post(path, hone(Uuid::new_v4(), json!({}))).await?.status, 403, "an order spends money");
    let id = Uuid::new_v4();
    for again in [false, true] {
        let kept = lead.post(path, hone(id, json!({ "tolerance": ".0002" }))).await?;
        assert_eq!((kept.status, &kept.body["again"]), (200, &json!(again)), "{:?}", kept.body);
    }
    assert_eq!(lead.post(path, hone(id, json!({ "shop": "another" }))).await?.problem().1, "id_reused");
    let file = lead.get(&format!("/builds/SL-041/orders/{id}")).await?.body;
    // B5 was measured without its plate, the others hold their pistons already.
    let lines = file["lines"].as_array().cloned().unwrap_or_default();
    assert_eq!(lines.len(), 1, "{file}");
    assert_eq!((&lines[0]["station"], &lines[0]["to"]), (&json!("B3"), &json!("3.4750 in")));
    assert_eq!(lines[0]["job"], json!("hone to size, plate on"));
    // No oversize while one cylinder is not measured; nothing to hone on an engine without cylinders; a wrong figure is named.
    let oversize = hone(Uuid::new_v4(), json!({ "oversize": { "unworn": "3.4740" } }));
    assert_eq!(lead.post(path, oversize).await?.problem().1, "no_such_plan");
    let nowhere = lead.post("/builds/SL-044/cylinder-orders", hone(Uuid::new_v4(), json!({}))).await?;
    assert_eq!(nowhere.problem().1, "no_such_plan");
    for (more, field) in [(json!({ "shop": " " }), "shop"), (json!({ "tolerance": "close" }), "tolerance")] {
        let answer = lead.post(path, hone(Uuid::new_v4(), more)).await?;
        assert_eq!(answer.problem(), (422, "bad_field", field));
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn another_gauge_point_ends_what_was_measured_at_the_one_before() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let say =
        |from: &str, height: &str| json!({ "id": Uuid::new_v4(), "from": from, "height": height, "coating": "over" });
    let ended_in = async |path: &str| -> Outcome<usize> {
        let build = person.get(path).await?.body;
        let figures = build["assessment"]["figures"].as_array().cloned().unwrap_or_default();
        let measured =
            figures.iter().filter(|f| f["figure"] == "piston_to_wall").flat_map(|f| f["measured"].as_array());
        Ok(measured.flatten().filter(|m| m["characteristic"] == "piston" && m["stale"].is_object()).count())
    };
    assert!(person.get("/builds/SL-043/noted").await?.body["gauge_point"].is_null());
    assert_eq!(person.post("/builds/SL-043/gauge-point", say("skirt_bottom", ".500")).await?.status, 200);
    assert_eq!(ended_in("/builds/SL-043").await?, 0, "the first word on it ends nothing");
    assert_eq!(person.get("/builds/SL-041/noted").await?.body["gauge_point"]["from"], json!("skirt_bottom"));
    for (from, ended) in [("skirt_bottom", 0), ("oil_groove", 6)] {
        assert_eq!(person.post("/builds/SL-041/gauge-point", say(from, ".500")).await?.status, 200);
        assert_eq!(ended_in("/builds/SL-041").await?, ended, "{from}");
    }
    let said = person.get("/builds/SL-041/noted").await?.body["gauge_point"].clone();
    assert_eq!((&said["from"], &said["height"]), (&json!("oil_groove"), &json!(12_700_000)));
    let mut coated = say("oil_groove", ".500");
    coated["coating"] = json!("under");
    let unsaid = person.post("/builds/SL-041/gauge-point", coated.clone()).await?;
    assert_eq!(unsaid.problem(), (422, "bad_field", "thickness"), "it comes off: how much has to be said");
    coated["thickness"] = json!(".0005");
    assert_eq!(person.post("/builds/SL-041/gauge-point", coated).await?.status, 200);
    let said = person.get("/builds/SL-041/noted").await?.body["gauge_point"].clone();
    assert_eq!(said["thickness"], json!(12_700));
    for (from, height, code, field) in [
        ("crown", "0", "unsound", "height"),
        ("crown", "high", "bad_field", "height"),
        ("side", "1", "bad_field", "from"),
    ] {
        let answer = person.post("/builds/SL-041/gauge-point", say(from, height)).await?;
        assert_eq!(answer.problem(), (422, code, field), "{from} {height}");
    }
    let mains_only = person.post("/builds/SL-044/gauge-point", say("crown", "1")).await?;
    assert_eq!(mains_only.problem().1, "no_such_station");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn pistons_and_rods_are_weighed_and_a_wrong_figure_is_named() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let note = |note: &str, at: &str, text: &str| json!({ "id": Uuid::new_v4(), "note": note, "at": at, "text": text });
    for (what, at, text) in
        [("piston_weight", "W1", "412,35"), ("rod_weight", "R1", "601.2"), ("crown_volume", "W1", "-3.4")]
    {
        let kept = person.post("/builds/SL-043/noted", note(what, at, text)).await?;
        assert_eq!(kept.status, 200, "{:?}", kept.body);
    }
    person.post("/builds/SL-043/noted", note("piston_weight", "W1", "412.4")).await?;
    let notes = person.get("/builds/SL-043/noted").await?.body;
    let texts: Vec<&str> = notes["noted"].as_array().into_iter().flatten().filter_map(|n| n["text"].as_str()).collect();
    assert_eq!(texts, ["601.20 g", "412.40 g", "-3.40 cc"], "the last figure of each");
    let typed = notes["noted"].as_array().into_iter().flatten().filter_map(|n| n["typed"].as_str());
    assert_eq!(typed.collect::<Vec<_>>(), ["601.20", "412.40", "-3.40"], "as they are typed over");
    assert_eq!(notes["columns"].as_array().map(Vec::len), Some(8));
    for (what, at, text, field) in [
        ("piston_weight", "W1", "heavy", "text"),
        ("piston_weight", "W1", "-1", "text"),
        ("piston_weight", "R1", "400", "at"),
        ("pocket_depth", "W1", "9 in", "text"),
        ("roughness", "P1", "smooth", "text"),
        ("roughness", "R1", "8", "at"),
        ("hardness", "B1", "52", "at"),
    ] {
        let refused = person.post("/builds/SL-043/noted", note(what, at, text)).await?;
        assert_eq!((refused.status, refused.problem().2), (422, field), "{what} {at} {text}");
    }
    // A V has two rods on each pin: its journal is looked for at both of them.
    for (what, at, text) in [("roughness", "P1", "0.3 um"), ("hardness", "P1", "52.5"), ("roughness", "D1", "40")] {
        let kept = person.post("/builds/SL-043/noted", note(what, at, text)).await?;
        assert_eq!(kept.status, 200, "{:?}", kept.body);
    }
    let notes = person.get("/builds/SL-043/noted").await?.body;
    let column = |note: &str| notes["columns"].as_array()?.iter().find(|c| c["note"] == note).cloned();
    let rough = column("roughness").ok_or("it can be noted")?;
    let stations = rough["places"].as_array().into_iter().flatten().filter(|p| p["at"] == "P1");
    let stations: Vec<&str> = stations.filter_map(|p| p["station"].as_str()).collect();
    assert_eq!((stations, rough["unit"].as_str()), (vec!["P1", "R1", "R2"], Some("\u{b5}in")));
    let of = |at: &str| notes["noted"].as_array()?.iter().find(|n| n["at"] == at && n["note"] == "roughness").cloned();
    let (pin, deck) = (of("P1").ok_or("it was noted")?, of("D1").ok_or("it was noted")?);
    assert_eq!(
        (&pin["text"], &pin["limit"], &pin["beyond"]),
        (&json!("12 \u{b5}in"), &json!("8 \u{b5}in"), &json!(true))
    );
    assert_eq!((&deck["limit"], &deck["beyond"]), (&json!("60 \u{b5}in"), &json!(false)));
    let figures = person.get("/builds/SL-043").await?.body["assessment"]["figures"].clone();
    let named = |f: &&Value| f["findings"].as_array().is_some_and(|all| all.iter().any(|x| x["kind"] == "rough"));
    let at: Vec<&str> =
        figures.as_array().into_iter().flatten().filter(named).filter_map(|f| f["station"].as_str()).collect();
    assert_eq!(at, ["R1", "R2"], "every bearing on it says so");
    let nowhere = person.post("/builds/SL-044/noted", note("piston_weight", "W1", "400")).await?;
    assert_eq!(nowhere.problem().1, "no_such_station");
    Ok(())
}
