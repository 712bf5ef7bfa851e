//! Nobody signs by import.
use serde_json::{Value, json};

use crate::house::{House, Outcome, Person};

async fn exported(person: &Person, code: &str) -> Outcome<Value> {
    Ok(person.get(&format!("/builds/{code}/export.json")).await?.body)
}

/// The same build under other identifiers and another name, as somebody could write it who has no key. Digests are made
/// again with the core, which everybody has.
fn forged(file: &Value, code: &str, change: impl FnOnce(&mut Value)) -> Outcome<Value> {
    let mut text = file.to_string();
    // Every identifier of the build and its facts begins alike in the demo.
    text = text.replace("5a170001", "6b280001");
    let mut file: Value = serde_json::from_str(&text)?;
    file["build"]["code"] = code.into();
    change(&mut file);
    let mut build: jagged_pin_core::Build = serde_json::from_value(file["build"].clone())?;
    let mut so_far = build.without_facts();
    for fact in &mut build.facts {
        let digest = jagged_pin_core::sheet::seal_digest(&so_far, fact);
        if let jagged_pin_core::log::What::Signature(s) = &mut fact.what {
            s.digest = digest;
        }
        so_far.facts.push(fact.clone());
    }
    file["build"] = json!(build);
    Ok(file)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_forged_file_is_signed_elsewhere_and_never_here() -> Outcome {
    let house = House::demo().await?;
    let oduya = house.person("oduya").await?;
    let file = forged(&exported(&oduya, "SL-042").await?, "FORGED-1", |_| {})?;
    let imported = oduya.post("/imports", file).await?;
    assert_eq!(imported.status, 201, "{imported:?}");
    let sheet = &imported.body["assessment"]["sign_off"];
    assert_ne!(sheet["status"], "sealed");
    assert_eq!(sheet["signatures"], json!([]));
    assert_eq!(sheet["elsewhere"].as_array().map(Vec::len), Some(2));
    assert_eq!(sheet["imported"]["by"]["name"], "R. Oduya");
    assert!(sheet["imported"]["file"].as_str().is_some_and(|d| d.len() == 64));
    let rows = oduya.get("/builds").await?.body["rows"].clone();
    let row = rows.as_array().into_iter().flatten().find(|r| r["code"] == "FORGED-1").cloned().unwrap_or_default();
    assert_eq!((&row["elsewhere"], row["status"] == "sealed"), (&json!(true), false));
    let record = imported.body["decisions"].as_array().and_then(|d| d.last().cloned()).unwrap_or_default();
    assert_eq!((&record["kind"], &record["by"]["name"]), (&json!("imported"), &json!("R. Oduya")));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_this_shop_sealed_comes_back_as_its_own() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let file = exported(&lead, "SL-042").await?;
    // Removed behind the server's back, say by a disk that failed.
    house.tamper("DELETE FROM builds WHERE code = 'SL-042'; DELETE FROM facts WHERE build_id NOT IN (SELECT id FROM builds); DELETE FROM readings WHERE build_id NOT IN (SELECT id FROM builds); DELETE FROM strikes WHERE build_id NOT IN (SELECT id FROM builds); DELETE FROM target_changes WHERE build_id NOT IN (SELECT id FROM builds); DELETE FROM concessions WHERE build_id NOT IN (SELECT id FROM builds); DELETE FROM signatures WHERE build_id NOT IN (SELECT id FROM builds); DELETE FROM notes WHERE build_id NOT IN (SELECT id FROM builds); DELETE FROM build_summaries WHERE build_id NOT IN (SELECT id FROM builds)")?;
    let back = lead.post("/imports", file).await?;
    assert_eq!(back.status, 201, "{back:?}");
    let sheet = &back.body["assessment"]["sign_off"];
    assert_eq!((&sheet["status"], sheet["signatures"].as_array().map(Vec::len)), (&json!("sealed"), Some(2)));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn files_that_contradict_themselves_or_the_shop_are_refused() -> Outcome {
    let house = House::demo().await?;
    let oduya = house.person("oduya").await?;
    let file = exported(&oduya, "SL-041").await?;
    let reading =
        |f: &Value| f["build"]["facts"].as_array().and_then(|a| a.iter().position(|x| x["what"]["kind"] == "reading"));
    let at = reading(&file).ok_or("a reading")?;
    // What was typed is not what was taken.
    let raw = forged(&file, "F-1", |f| f["build"]["facts"][at]["what"]["raw"] = "2.9".into())?;
    let refused = oduya.post("/imports", raw).await?;
    assert_eq!((refused.status, refused.body["code"].as_str()), (422, Some("bad_build")), "{refused:?}");
    // Somebody of the shop under a name they never had, and be it in one line.
    let named = forged(&file, "F-2", |f| f["build"]["facts"][at]["by"]["name"] = "M. Harrow".into())?;
    assert_eq!(oduya.post("/imports", named).await?.problem(), (422, "another_name", ""));
    // Figures and times that nothing can be done with are not read at all.
    for (field, value) in [("opened_at", json!(i64::MAX)), ("opened_at", json!(-5))] {
        let mut odd = file.clone();
        odd["build"][field] = value;
        assert_eq!(oduya.post("/imports", odd).await?.status, 422);
    }
    let mut far = file.clone();
    far["build"]["facts"][at]["what"]["measure"]["size"] = json!(i64::MAX);
    assert_eq!(oduya.post("/imports", far).await?.status, 422);
    // Times that are ahead are a clock's fault, and taken when somebody says so.
    let future = json!(7_000_000_000_000_i64);
    let ahead = forged(&file, "F-3", |f| {
        if let Some(last) = f["build"]["facts"].as_array_mut().and_then(|facts| facts.last_mut()) {
            last["at"] = future.clone();
        }
    })?;
    assert_eq!(oduya.post("/imports", ahead.clone()).await?.problem(), (422, "clock_ahead", ""));
    assert_eq!(oduya.post("/imports?ahead=true", ahead).await?.status, 201);
    let mut opened = file.clone();
    opened["build"]["opened_at"] = future;
    assert_eq!(oduya.post("/imports", opened).await?.problem(), (422, "clock_ahead", ""));
    assert_eq!(oduya.get("/builds").await?.status, 200, "the floor goes on");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_can_be_exported_can_be_imported_however_large() -> Outcome {
    let house = House::demo().await?;
    let oduya = house.person("oduya").await?;
    // Twenty megabytes of a file that is refused for what it says, and not for its size.
    let large = json!({ "form": "jagged-pin-build/1", "build": "x".repeat(20 * 1024 * 1024) });
    let answer = oduya.post("/imports", large).await?;
    assert_eq!((answer.status, answer.body["code"].as_str()), (422, Some("bad_field")));
    let other = json!({ "login": "x".repeat(5 * 1024 * 1024), "password": "" });
    assert_eq!(oduya.post("/session", other).await?.problem(), (413, "too_large", ""));
    Ok(())
}
