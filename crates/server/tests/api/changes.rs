//! What a write answers: what it changed, and nothing else.
use reqwest::Method;
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome, Person, bore, journal, station, with};

/// A build as shown, with changes worked into it as a page does.
fn merge(shown: &mut Value, changes: &Value) {
    assert_eq!(shown["assessment"]["seq"], changes["since"], "the changes follow what is shown");
    if !changes["whole"].is_null() {
        *shown = changes["whole"].clone();
        return;
    }
    let replace = |into: &mut Value, from: &Value, names: &[&str]| {
        for name in names.iter().filter(|n| !from[**n].is_null()) {
            into[*name] = from[*name].clone();
        }
    };
    replace(shown, changes, &["gauges", "plans", "set_ups", "inspections", "mishaps", "asked"]);
    let by_id = |into: &mut Vec<Value>, from: &Value, same: &dyn Fn(&Value, &Value) -> bool| {
        for one in from.as_array().into_iter().flatten() {
            match into.iter_mut().find(|known| same(known, one)) {
                Some(known) => *known = one.clone(),
                None => into.push(one.clone()),
            }
        }
    };
    if let Some(readings) = shown["readings"].as_array_mut() {
        by_id(readings, &changes["readings"], &|a, b| a["id"] == b["id"]);
    }
    if let Some(decisions) = shown["decisions"].as_array_mut() {
        decisions.extend(changes["decisions"].as_array().into_iter().flatten().cloned());
    }
    let assessed = &changes["assessment"];
    if let Some(figures) = shown["assessment"]["figures"].as_array_mut() {
        by_id(figures, &assessed["figures"], &|a, b| a["station"] == b["station"] && a["figure"] == b["figure"]);
    }
    let names = [
        "rules",
        "rows",
        "wanted",
        "sessions",
        "hypotheses",
        "forced",
        "unfit",
        "blind",
        "orders",
        "sign_off",
        "not_checked",
    ];
    replace(&mut shown["assessment"], assessed, &names);
    shown["assessment"]["seq"] = changes["seq"].clone();
}

/// What differs between two values, by path.
fn difference(path: &str, a: &Value, b: &Value) -> Option<String> {
    match (a, b) {
        (Value::Object(x), Value::Object(y)) if x.len() == y.len() => {
            x.iter().find_map(|(name, value)| difference(&format!("{path}.{name}"), value, &b[name]))
        }
        (Value::Array(x), Value::Array(y)) if x.len() == y.len() => {
            (0..x.len()).find_map(|i| difference(&format!("{path}[{i}]"), &x[i], &y[i]))
        }
        _ => (a != b).then(|| format!("{path}: {a} is {b}")),
    }
}

/// Writes, works what came back into what was shown, and holds it against the build as it is asked for.
async fn follows(person: &Person, shown: &mut Value, path: &str, body: Value) -> Outcome {
    let code = shown["code"].as_str().unwrap_or_default().to_owned();
    let answer = person.post(&format!("/builds/{code}/{path}"), body).await?;
    assert_eq!(answer.status, 200, "{path}: {:?}", answer.body);
    merge(shown, &answer.body["changes"]);
    let whole = person.get(&format!("/builds/{code}")).await?.body;
    assert_eq!(difference("build", shown, &whole), None, "after {path}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_a_write_answers_makes_the_build_as_it_is_then() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("harrow").await?;
    let mut shown = person.get("/builds/SL-041").await?.body;
    follows(&person, &mut shown, "readings", journal("M1", "2.6238")).await?;
    follows(&person, &mut shown, "readings", bore("M7", "front", "24")).await?;
    let reading = shown["readings"][0]["id"].clone();
    let strike = json!({ "id": Uuid::new_v4(), "reading": reading, "reason": "grit" });
    follows(&person, &mut shown, "strikes", strike).await?;
    let work = json!({ "id": Uuid::new_v4(), "work": "journal_polished", "on": "M4", "grits": [800], "minutes": 5, "note": "blue" });
    follows(&person, &mut shown, "work", work).await?;
    let target = json!({ "id": Uuid::new_v4(), "station": null, "source": "builders_rule", "reason": "wider", "unit": "in",
        "rule": { "kind": "range", "low": ".0018", "aim": "", "high": ".0028" }, "version": 1 });
    follows(&person, &mut shown, "targets", target).await?;
    let rules = shown["assessment"]["rules"].clone();
    let change =
        json!({ "id": Uuid::new_v4(), "seen": rules, "rules": with(rules.clone(), "touches", 1), "reason": "once" });
    follows(&person, &mut shown, "rules", change).await?;
    let look = json!({ "id": Uuid::new_v4(), "station": "M2", "part": "journal", "signs": ["catches_nail"] });
    follows(&person, &mut shown, "inspections", look).await?;
    let mishap = json!({ "id": Uuid::new_v4(), "befell": "overheated", "note": "hose off" });
    follows(&person, &mut shown, "mishaps", mishap).await?;
    let open = json!({ "id": Uuid::new_v4(), "gauge": "mic-tenths", "check": null, "unit": "in" });
    follows(&person, &mut shown, "sessions", open).await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_reading_answers_its_own_figure_only() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("harrow").await?;
    let kept = person.touch("SL-041", journal("M7", "2.6238")).await?.body;
    let changes = &kept["changes"];
    let figures = changes["assessment"]["figures"].as_array().cloned().unwrap_or_default();
    assert_eq!(figures.iter().map(|f| f["station"].clone()).collect::<Vec<_>>(), [json!("M7")]);
    assert_eq!(changes["readings"].as_array().map(Vec::len), Some(1));
    assert_eq!(changes["whole"], Value::Null);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_write_evaluates_the_build_once_and_whoever_looks_afterwards_not_at_all() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("harrow").await?;
    person.get("/builds/SL-041").await?;
    let before = house.evaluations();
    let path = "/builds/SL-041/readings";
    for text in ["2.6238", "38", "39"] {
        assert_eq!(
            person.raw(Method::POST, path, Some(("application/json", journal("M7", text).to_string()))).await?.status(),
            200
        );
    }
    assert_eq!(house.evaluations() - before, 3);
    house.person("wick").await?.get("/builds/SL-041").await?;
    assert_eq!(house.evaluations() - before, 3);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn whoever_missed_something_asks_for_what_changed_since() -> Outcome {
    let house = House::demo().await?;
    let (here, there) = (house.person("oduya").await?, house.person("wick").await?);
    let mut shown = there.get("/builds/SL-046").await?.body;
    for text in ["2.6238", "38", "39"] {
        here.touch("SL-046", journal("M1", text)).await?;
    }
    here.touch("SL-046", journal("M2", "37")).await?;
    let since = shown["assessment"]["seq"].clone();
    let changes = there.get(&format!("/builds/SL-046/changes?since={since}")).await?.body;
    merge(&mut shown, &changes);
    assert_eq!(difference("build", &shown, &there.get("/builds/SL-046").await?.body), None);
    assert_eq!(changes["whole"], Value::Null);
    assert_eq!(station(&shown, "M2")["station"], "M2");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_catalogue_names_what_is_measured_and_what_is_made_of_it() -> Outcome {
    let house = House::demo().await?;
    let catalog = house.person("oduya").await?.get("/catalog").await?.body;
    let named = |list: &str| -> Vec<String> {
        let all = catalog[list].as_array().into_iter().flatten();
        all.map(|c| c["id"].as_str().unwrap_or_default().to_owned()).collect()
    };
    let measured = named("characteristics");
    assert_eq!(measured.len(), 57);
    assert_eq!(
        named("figures"),
        [
            "oil_clearance",
            "track_step",
            "upper_taper",
            "lower_taper",
            "end_play",
            "rod_side",
            "cam_clearance",
            "cam_end_play",
            "fillet_room",
            "fillet_flat",
            "rod_edge_room",
            "crush",
            "main_runout",
            "end_runout",
            "pin_in_piston",
            "pin_in_rod",
            "pin_press",
            "lock_to_lock",
            "small_end_rock",
            "piston_to_wall",
            "cylinder_round",
            "cylinder_taper",
            "top_ring_gap",
            "second_ring_gap",
            "top_ring_side",
            "piston_size",
            "face_flatness",
            "deck_height",
            "deck_parallel",
            "deck_clearance",
            "crown_height",
            "rod_centres",
            "stroke",
            "pin_height",
            "tunnel_gap",
            "face_span",
        ]
    );
    // Whatever a build asks for has its row.
    let build = house.person("oduya").await?.get("/builds/SL-046").await?.body;
    for wanted in build["assessment"]["wanted"].as_array().into_iter().flatten() {
        assert!(measured.iter().any(|m| wanted["characteristic"] == **m), "{wanted}");
    }
    Ok(())
}

#[test]
fn no_two_operations_of_the_document_share_a_name() -> Outcome {
    let document = serde_json::to_value(jagged_pin_server::openapi())?;
    let paths = document["paths"].as_object().cloned().unwrap_or_default();
    let mut names: Vec<String> = paths
        .values()
        .filter_map(serde_json::Value::as_object)
        .flat_map(|methods| methods.values())
        .filter_map(|operation| operation["operationId"].as_str().map(str::to_owned))
        .collect();
    assert!(names.len() > 60, "{}", names.len());
    names.sort_unstable();
    let twice: Vec<&String> = names.windows(2).filter(|pair| pair[0] == pair[1]).map(|pair| &pair[0]).collect();
    assert!(twice.is_empty(), "a client made from it would mistake them: {twice:?}");
    Ok(())
}
