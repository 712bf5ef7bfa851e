//! Readings, strikes and targets.
use serde_json::json;
use uuid::Uuid;

use crate::house::{House, Outcome, as_read, bore, journal, size, station, with};

#[tokio::test(flavor = "multi_thread")]
async fn a_reading_comes_back_with_the_whole_new_assessment() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let places = [("front", 0), ("front", 90), ("rear", 0), ("rear", 90)];
    for (axial, angle) in places {
        let reading = with(journal("M1", "38"), "position", json!({ "axial": axial, "angle": angle }));
        assert_eq!(person.touch("SL-046", reading).await?.status, 200);
    }
    person.touch("SL-046", bore("M1", "front", "23")).await?;
    let last = person.touch("SL-046", bore("M1", "rear", "23")).await?.body;
    let m1 = station(&last["build"], "M1");
    assert_eq!((as_read(&m1["judged"]), &m1["judged"]["state"]), (Some(63_500), &json!("in")));
    assert_eq!(last["seq"], 8);
    let readings = last["build"]["readings"].as_array().cloned().unwrap_or_default();
    assert_eq!(readings[5]["dial"], 58_420);
    assert_eq!((&readings[5]["raw"], &readings[5]["by"]["name"]), (&json!("23"), &json!("R. Oduya")));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_a_text_means_is_told_before_it_is_kept() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let before = person.get("/builds/SL-041").await?.body["assessment"]["seq"].clone();
    let ask = async |rest: &str| {
        let path = format!("/builds/SL-041/understand?station=M7&axial=front&angle=0&unit=in&{rest}");
        person.get(&path).await
    };
    let journal = "characteristic=main_journal&read=size&gauge=mic-tenths";
    let tail = ask(&format!("{journal}&text=41")).await?.body;
    assert_eq!((&tail["understood"]["shown"], &tail["understood"]["how"]), (&json!("2.6241 in"), &json!("tail")));
    let band = ask(&format!("{journal}&text=2.6540")).await?.body;
    assert_eq!((&band["problem"]["code"], &band["problem"]["can_force"]), (&json!("out_of_band"), &json!(true)));
    let dial = "characteristic=main_bearing&read=dial&gauge=bore-tenths&reference=2.6238";
    let read = ask(&format!("{dial}&text=18.5")).await?.body;
    assert_eq!((&read["understood"]["dial"], &read["understood"]["size"]), (&json!(46_990), &json!(66_691_510)));
    let inches = ask(&format!("{dial}&text=.0021")).await?.body;
    assert_eq!(inches["problem"]["code"], "ambiguous_unit");
    assert_eq!(
        ask("characteristic=main_journal&read=size&gauge=mic-tenths").await?.problem(),
        (422, "bad_field", "text")
    );
    let after = person.get("/builds/SL-041").await?.body["assessment"]["seq"].clone();
    assert_eq!(after, before, "asking keeps nothing");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_crank_ground_under_is_typed_by_its_tails_after_one_full_entry() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    person.touch("SL-046", journal("M1", "2.6139")).await?;
    let second = person.touch("SL-046", journal("M2", "38")).await?.body;
    let size = second["build"]["readings"].as_array().and_then(|r| r.last()).map(|r| r["size"].clone());
    assert_eq!(size, Some(json!(66_390_520)));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_reading_out_of_the_band_is_refused_until_it_is_forced() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let wild = journal("M1", "2.5000");
    assert_eq!(person.touch("SL-046", wild.clone()).await?.problem(), (422, "out_of_band", "text"));
    let forced = person.touch("SL-046", with(wild, "force", true)).await?;
    assert_eq!((forced.status, &forced.body["build"]["readings"][0]["forced"]), (200, &json!(true)));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_reading_sent_twice_is_kept_once() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let reading = journal("M1", "2.6238");
    let first = person.touch("SL-046", reading.clone()).await?.body;
    let again = person.touch("SL-046", reading.clone()).await?.body;
    assert_eq!((&first["again"], &again["again"], &again["seq"]), (&json!(false), &json!(true), &first["seq"]));
    let other = person.touch("SL-046", with(reading, "text", "2.6239")).await?;
    assert_eq!(other.problem(), (409, "id_reused", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_struck_reading_stays_in_view_and_is_struck_once() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let before = person.get("/builds/SL-041").await?.body;
    let m1 = station(&before, "M1");
    let reading = size(m1, "bore", "dial")["positions"][0]["touches"][0].clone();
    let strike = |reason: &str| json!({ "id": Uuid::new_v4(), "reading": reading, "reason": reason });
    assert_eq!(person.post("/builds/SL-041/strikes", strike(" ")).await?.problem(), (422, "no_reason", "reason"));
    let struck = person.post("/builds/SL-041/strikes", strike("grit on the anvil")).await?;
    let shown = struck.body["build"]["readings"].as_array().cloned().unwrap_or_default();
    let shown = shown.iter().find(|r| r["id"] == reading).cloned().unwrap_or_default();
    assert_eq!(shown["struck"]["reason"], "grit on the anvil");
    assert_eq!(
        person.post("/builds/SL-041/strikes", strike("again")).await?.problem(),
        (409, "already_struck", "reading")
    );
    let elsewhere = json!({ "id": Uuid::new_v4(), "reading": reading, "reason": "wrong build" });
    assert_eq!(person.post("/builds/SL-046/strikes", elsewhere).await?.problem(), (422, "no_such_reading", "reading"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_target_is_replaced_only_over_the_one_that_was_looked_at() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("harrow").await?;
    let target = |rule: serde_json::Value, version: u32| {
        json!({ "id": Uuid::new_v4(), "station": null, "rule": rule, "source": "makers_sheet", "reason": "new sheet",
            "unit": "in", "version": version })
    };
    let range = json!({ "kind": "range", "low": ".0018", "aim": "", "high": "2.8 thou" });
    let set = person.post("/builds/SL-041/targets", target(range.clone(), 1)).await?;
    assert_eq!(set.status, 200, "{set:?}");
    assert_eq!(station(&set.body["build"], "M6")["judged"]["state"], "in");
    assert_eq!(
        person.post("/builds/SL-041/targets", target(range, 1)).await?.problem(),
        (409, "changed_meanwhile", "")
    );
    let version = set.body["build"]["assessment"]["rows"][0]["target"]["version"]
        .as_u64()
        .and_then(|v| v.try_into().ok())
        .unwrap_or(0);
    let per =
        json!({ "kind": "per_diameter", "per_diameter": "0.00095", "adder": "0", "below": ".0003", "above": "5t" });
    let set = person.post("/builds/SL-041/targets", target(per, version)).await?;
    // 0.00095 x 2.6240 in.
    assert_eq!(set.body["build"]["assessment"]["rows"][0]["target"]["window"]["aim"], 63_317);
    let refused = async |rule: serde_json::Value| person.post("/builds/SL-041/targets", target(rule, 0)).await;
    let upside_down = refused(json!({ "kind": "range", "low": ".003", "aim": "", "high": ".002" })).await?;
    assert_eq!(upside_down.problem(), (422, "bad_target", "rule"));
    let words = refused(json!({ "kind": "range", "low": "loose", "aim": "", "high": ".002" })).await?;
    assert_eq!(words.problem(), (422, "bad_field", "low"));
    let proportion =
        refused(json!({ "kind": "per_diameter", "per_diameter": "2", "adder": "0", "below": "0", "above": "0" }))
            .await?;
    assert_eq!(proportion.problem(), (422, "bad_field", "per_diameter"));
    assert_eq!(refused(serde_json::Value::Null).await?.problem(), (422, "no_target", "rule"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn one_main_can_have_a_target_of_its_own_and_give_it_up_again() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let rule = json!({ "kind": "range", "low": ".0018", "aim": "", "high": ".0028" });
    let own = json!({ "id": Uuid::new_v4(), "station": "M6", "rule": rule, "source": "builders_rule",
        "reason": "rear mains run cooler", "unit": "in", "version": 1 });
    let set = person.post("/builds/SL-041/targets", own).await?.body;
    assert_eq!(station(&set["build"], "M6")["judged"]["state"], "in");
    assert_eq!(station(&set["build"], "M2")["judged"]["state"], "tight");
    let version = station(&set["build"], "M6")["target"]["version"].clone();
    let back = json!({ "id": Uuid::new_v4(), "station": "M6", "rule": null, "source": "builders_rule", "reason": "as the others",
        "unit": "in", "version": version });
    let set = person.post("/builds/SL-041/targets", back).await?.body;
    assert_eq!(station(&set["build"], "M6")["judged"]["state"], "edge");
    Ok(())
}
