//! The floor over the API: pages, search, builds that were put away, and what a page costs.
use serde_json::json;

use crate::house::{House, Outcome};

#[tokio::test(flavor = "multi_thread")]
async fn a_page_of_the_floor_is_made_of_what_was_kept() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let first = person.get("/builds").await?.body;
    let made = house.evaluations();
    assert_eq!(made, 6, "nothing was kept yet");
    // What is kept is written after the answer.
    for _ in 0..200 {
        if house.kept_summaries().await? == 6 {
            break;
        }
        tokio::time::sleep(std::time::Duration::from_millis(10)).await;
    }
    assert_eq!(house.kept_summaries().await?, 6);
    assert_eq!(person.get("/builds").await?.body, first, "it says the same");
    // A server that evaluated nothing yet makes the page without evaluating anything.
    let (house, base) = house.beside().await?;
    let mut other = crate::house::Person::at(&base)?;
    other.sign_in("oduya").await?;
    assert_eq!(other.get("/builds").await?.body, first);
    assert_eq!(house.evaluations(), made);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn who_measures_blind_sees_no_more_on_the_floor_than_on_the_bench() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let asked = json!({ "id": uuid::Uuid::new_v4(), "whom": person.get("/shop").await?.body["people"]
        .as_array().and_then(|p| p.iter().find(|p| p["name"] == "T. Kell").cloned()).map(|p| p["id"].clone()),
        "station": "M1", "characteristic": "main_journal" });
    let answer = person.post("/builds/SL-041/blind", asked).await?;
    assert_eq!(answer.status, 200, "{answer:?}");
    let m1 = |floor: serde_json::Value| floor["rows"][0]["stations"][0]["state"].clone();
    assert_eq!(m1(person.get("/builds").await?.body), "in");
    assert_eq!(m1(house.person("kell").await?.get("/builds").await?.body), json!(null));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_build_is_put_away_with_a_reason_and_its_seal_holds() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let put = async |code: &str, archived: bool, reason: &str| {
        person.post(&format!("/builds/{code}/archive"), json!({ "archived": archived, "reason": reason })).await
    };
    assert_eq!(put("SL-042", true, " ").await?.problem(), (422, "bad_field", "reason"));
    assert_eq!(
        house
            .person("fenn")
            .await?
            .post("/builds/SL-042/archive", json!({ "archived": true, "reason": "x" }))
            .await?
            .status,
        403
    );
    let away = put("SL-042", true, "collected by the owner").await?;
    assert_eq!(away.body["rows"][0]["archived"]["reason"], "collected by the owner");
    assert_eq!(away.body["rows"][0]["status"], "sealed");
    let codes = async |query: &str| -> Outcome<Vec<String>> {
        let page = person.get(&format!("/builds{query}")).await?.body;
        let rows = page["rows"].as_array().cloned().unwrap_or_default();
        Ok(rows.iter().filter_map(|r| r["code"].as_str().map(str::to_owned)).collect())
    };
    assert_eq!(codes("").await?, ["SL-041", "SL-043", "SL-044", "SL-045", "SL-046"]);
    assert_eq!(codes("?archived=true").await?, ["SL-042"]);
    assert_eq!(codes("?archived=true&q=dunlin").await?, ["SL-042"]);
    assert_eq!(codes("?q=curlew").await?, ["SL-041", "SL-046"]);
    assert_eq!(codes("?after=SL-043").await?, ["SL-044", "SL-045", "SL-046"]);
    let build = person.get("/builds/SL-042").await?.body;
    assert_eq!(build["assessment"]["sign_off"]["status"], "sealed", "it can still be looked at");
    assert_eq!(put("SL-042", false, "").await?.status, 200);
    assert_eq!(codes("").await?.len(), 6);
    Ok(())
}
