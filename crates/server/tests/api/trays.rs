//! Trays of measured shells, and rods to pins, over the API.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome, station, with};

#[tokio::test(flavor = "multi_thread")]
async fn a_tray_is_typed_chosen_from_and_fitted() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("wick").await?;
    let view = person.get("/builds/SL-043/tray?row=mains").await?.body;
    assert_eq!((&view["proposal"]["proven"], view["typed"].as_array().map(Vec::len)), (&json!(true), Some(12)));
    // One more half, typed as it was shown.
    let mut shells = view["typed"].as_array().cloned().unwrap_or_default();
    shells.push(json!({ "mark": "B7", "half": "lower", "wall": ".0956" }));
    let new = json!({ "id": Uuid::new_v4(), "version": view["version"], "row": "mains", "gauge": "ball-tenths", "shells": shells });
    assert_eq!(person.post("/builds/SL-043/tray", new.clone()).await?.status, 200);
    let late = with(new.clone(), "id", Uuid::new_v4().to_string());
    assert_eq!(person.post("/builds/SL-043/tray", late).await?.problem(), (409, "changed_meanwhile", ""));
    let view = person.get("/builds/SL-043/tray?row=mains").await?.body;
    assert_eq!(view["typed"].as_array().map(Vec::len), Some(13));

    let seq = person.get("/builds/SL-043").await?.body["assessment"]["seq"].clone();
    let fit = json!({ "id": Uuid::new_v4(), "row": "mains", "version": view["version"], "seq": seq, "note": "from the tray" });
    let fitted = person.post("/builds/SL-043/tray/fittings", fit.clone()).await?;
    assert_eq!(fitted.status, 200, "{fitted:?}");
    let m1 = station(&fitted.body["build"], "M1");
    assert_eq!(m1["predicted"]["pair"]["clearance"], view["proposal"]["places"][0]["clearance"]);
    assert_eq!(person.post("/builds/SL-043/tray/fittings", fit.clone()).await?.body["again"], true);
    // The build moved on: what was seen is not what is there.
    let stale = with(fit, "id", Uuid::new_v4().to_string());
    assert_eq!(person.post("/builds/SL-043/tray/fittings", stale).await?.problem(), (409, "changed_meanwhile", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_tray_that_cannot_be_says_why() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("wick").await?;
    let empty = person.get("/builds/SL-041/tray?row=mains").await?.body;
    assert_eq!((&empty["version"], &empty["proposal"]), (&json!(0), &Value::Null));
    let tray = |shells: Value| json!({ "id": Uuid::new_v4(), "version": 0, "row": "mains", "gauge": "ball-tenths", "shells": shells });
    let a1 = json!({ "mark": "A1", "half": "upper", "wall": "0.0942" });
    let refused = async |body: Value| -> Outcome<(u16, String)> {
        let answer = person.post("/builds/SL-041/tray", body).await?;
        let (status, code, _) = answer.problem();
        Ok((status, code.to_owned()))
    };
    assert_eq!(refused(tray(json!([a1, a1]))).await?, (422, "unsound".into()), "one mark twice");
    assert_eq!(refused(tray(json!([with(a1.clone(), "wall", "thick")]))).await?, (422, "bad_field".into()));
    assert_eq!(refused(with(tray(json!([a1])), "gauge", "mic-tenths")).await?, (422, "gauge_does_not_fit".into()));
    // One upper and no lower serves nothing, and says so.
    assert_eq!(person.post("/builds/SL-041/tray", tray(json!([a1]))).await?.status, 200);
    let view = person.get("/builds/SL-041/tray?row=mains").await?.body;
    assert!(view["why_not"].as_str().is_some_and(|w| w.contains("fewer uppers or lowers")), "{view}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn rods_are_set_to_pins_and_married_ones_stay() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let free = person.post("/builds/SL-041/rods-to-pins", json!({})).await?.body;
    let rods = free["rods"].as_array().cloned().unwrap_or_default();
    assert_eq!((rods.len(), &free["open"]), (5, &json!(["R6"])));
    let mut pins: Vec<&str> = rods.iter().filter_map(|r| r["pin"].as_str()).collect();
    pins.sort_unstable();
    assert_eq!(pins, ["P1", "P2", "P3", "P4", "P5"], "every pin once");
    let all: Vec<&Value> = rods.iter().map(|r| &r["rod"]).collect();
    let fixed = person.post("/builds/SL-041/rods-to-pins", json!({ "fixed": all })).await?.body;
    assert!(fixed["rods"].as_array().into_iter().flatten().all(|r| r["pin"] == r["now"]), "{fixed}");
    let none = person.post("/builds/SL-046/rods-to-pins", json!({})).await?;
    assert_eq!(none.problem(), (422, "nothing_measured", ""));
    Ok(())
}
