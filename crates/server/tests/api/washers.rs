//! Thrust washers: boxes and their shelf, what is proposed of them, and fitting them once.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome};

fn ask(stands: &str) -> Value {
    json!({ "from": "CT", "best": "closest", "lap": false, "stands": stands })
}

fn fit(id: Uuid, front: &str, ticks: [bool; 2]) -> Value {
    json!({
        "id": id, "ask": ask("-.0020"), "front": front, "front_lap": 0, "rear": null, "rear_lap": 0,
        "backs_to_housing": ticks[0], "grooves_open": ticks[1], "note": "three thou too much",
    })
}

fn count(boxes: &Value, class: &str) -> Value {
    let on = boxes[0]["shelf"].as_array().into_iter().flatten().find(|s| s["class"] == class);
    on.map(|s| s["count"].clone()).unwrap_or_default()
}

#[tokio::test(flavor = "multi_thread")]
async fn five_thou_at_the_front_is_proposed_fitted_once_and_taken_off_the_shelf() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let proposal = person.post("/builds/SL-041/washers", ask("-.0020")).await?.body;
    let best = &proposal["choices"][0];
    assert_eq!((&best["front"]["name"], &best["rear"]["name"]), (&json!("+5"), &json!("std")));
    assert_eq!((&best["state"], &best["shift"], &best["stands"]), (&json!("in"), &json!(63_500), &json!(12_700)));
    assert_eq!((&proposal["weighed"], &best["leaves"][0]["at"]), (&json!(9), &json!("S4")));
    // Five thou less play, two and a half forward: the worse end is where it was.
    assert_eq!(best["leaves"][0]["now"], best["leaves"][0]["left"]);

    let need = person.get("/builds/SL-041/thrust-need").await?.body;
    assert_eq!((&need["growth"], need["within"].as_array().map(Vec::len)), (&json!(118_110), Some(2)));
    assert_eq!(person.get("/builds/SL-046/thrust-need").await?.problem().1, "nothing_measured");

    let id = Uuid::new_v4();
    for ticks in [[false, true], [true, false]] {
        let answer = person.post("/builds/SL-041/washers/fit", fit(id, "+5", ticks)).await?;
        assert_eq!(answer.status, 422, "{:?}", answer.body);
    }
    let both = [true; 2];
    let kept = person.post("/builds/SL-041/washers/fit", fit(id, "+5", both)).await?;
    assert_eq!((kept.status, &kept.body["again"]), (200, &json!(false)), "{:?}", kept.body);
    let again = person.post("/builds/SL-041/washers/fit", fit(id, "+5", both)).await?;
    assert_eq!((again.status, &again.body["again"]), (200, &json!(true)), "{:?}", again.body);
    assert_eq!(count(&person.get("/washers").await?.body, "+5"), 2, "two halves of four, once");
    let build = person.get("/builds/SL-041").await?.body;
    let figures = build["assessment"]["figures"].as_array().into_iter().flatten();
    let play = figures.clone().find(|f| f["figure"] == "end_play").cloned().unwrap_or_default();
    assert_eq!((&play["judged"], &play["predicted"]["state"]), (&Value::Null, &json!("in")));
    assert_eq!(play["predicted"]["pair"]["upper"], "+5");
    let told = build["decisions"].as_array().into_iter().flatten().any(|d| d["kind"] == "washers");
    assert!(told, "the record says so");
    // Ended by it: nothing more is proposed before it is pushed again.
    let ended = person.post("/builds/SL-041/washers", ask("")).await?;
    assert_eq!(ended.problem().1, "nothing_measured");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_has_to_be_bought_first_is_not_fitted() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let mut twos = fit(Uuid::new_v4(), "+2", [true; 2]);
    twos["rear"] = json!("+2");
    let answer = person.post("/builds/SL-041/washers/fit", twos.clone()).await?;
    assert_eq!(answer.problem().1, "not_received");
    let received = |id: Uuid, by: i64| json!({ "id": id, "class": "+2", "kind": "received", "by": by, "reason": "delivery", "place": "T9" });
    let id = Uuid::new_v4();
    for _ in 0..2 {
        let boxed = person.post("/washers/CT/moves", received(id, 2)).await?;
        assert_eq!(boxed.status, 200, "{:?}", boxed.body);
    }
    assert_eq!(count(&person.get("/washers").await?.body, "+2"), 4);
    twos["id"] = json!(Uuid::new_v4());
    assert_eq!(person.post("/builds/SL-041/washers/fit", twos).await?.status, 200);
    assert_eq!(count(&person.get("/washers").await?.body, "+2"), 0);
    let empty = person.post(
        "/washers/CT/moves",
        json!({ "id": Uuid::new_v4(), "class": "+2", "kind": "picked", "by": -1, "reason": "x" }),
    );
    assert_eq!(empty.await?.problem().1, "shelf_empty");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_box_is_changed_by_whoever_saw_it_last_and_holds_what_lies_there() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let apprentice = house.person("fenn").await?;
    let boxes = lead.get("/washers").await?.body;
    let mut form = boxes[0]["form"].clone();
    form["name"] = json!("Curlew thrust");
    form["classes"][0]["price"] = json!("8.50");
    assert_eq!(apprentice.put("/washers/CT", form.clone()).await?.status, 403);
    let kept = lead.put("/washers/CT", form.clone()).await?.body;
    assert_eq!((&kept["washers"]["name"], &kept["form"]["classes"][0]["price"]), (&form["name"], &json!("8.50")));
    assert_eq!(lead.put("/washers/CT", form.clone()).await?.problem().1, "changed_meanwhile");
    let form = kept["form"].clone();
    for (field, wrong) in [("classes", json!([])), ("standard", json!("0")), ("standard", json!("thick"))] {
        let mut bad = form.clone();
        bad[field] = wrong;
        assert_eq!(lead.put("/washers/CT", bad).await?.problem(), (422, "bad_field", field));
    }
    // A family of shells is no box of washers: what lies on its shelf is none, and its name is taken.
    let mut taken = form;
    (taken["id"], taken["version"]) = (json!("CM"), json!(0));
    assert_eq!(lead.put("/washers/CM", taken).await?.problem(), (422, "bad_field", "classes"));
    assert_eq!(
        lead.post("/builds/SL-041/washers", json!({ "from": "CM", "best": "closest", "lap": false })).await?.status,
        404
    );
    Ok(())
}
