//! Open formats in and out.
use serde_json::{Value, json};

use crate::house::{House, Outcome, with};

#[tokio::test(flavor = "multi_thread")]
async fn an_exported_build_means_the_same_in_an_empty_shop() -> Outcome {
    let (here, there) = (House::demo().await?, House::empty().await?);
    let (exporter, importer) = (here.person("oduya").await?, there.person("wick").await?);
    for code in ["SL-041", "SL-042"] {
        let file = exporter.get(&format!("/builds/{code}/export.json")).await?.body;
        let imported = importer.post("/imports", file).await?;
        assert_eq!(imported.status, 201, "{imported:?}");
        let before = exporter.get(&format!("/builds/{code}")).await?.body;
        let after = importer.get(&format!("/builds/{code}")).await?.body;
        assert_eq!(after["readings"], before["readings"]);
        let judged = |build: &Value| build["assessment"]["figures"].clone();
        assert_eq!(judged(&after), judged(&before));
        // That it was imported is the one fact more.
        let seq = |build: &Value| build["assessment"]["seq"].as_u64().unwrap_or_default();
        assert_eq!(seq(&after), seq(&before) + 1);
    }
    // Both servers are of one shop here: they have its key.
    let seal = importer.get("/builds/SL-042").await?.body["assessment"]["sign_off"]["status"].clone();
    assert_eq!(seal, "sealed");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_broken_file_imports_nothing_and_says_why() -> Outcome {
    let (here, there) = (House::demo().await?, House::empty().await?);
    let person = there.person("wick").await?;
    let file = here.person("oduya").await?.get("/builds/SL-042/export.json").await?.body;
    let changed = |change: &dyn Fn(&mut Value)| {
        let mut copy = file.clone();
        change(&mut copy);
        copy
    };
    let facts = file["build"]["facts"].as_array().cloned().unwrap_or_default();
    let first = |kind: &str| facts.iter().position(|f| f["what"]["measure"]["kind"] == kind).unwrap_or_default();
    let (at, dial) = (first("size"), first("dial"));
    assert_eq!(at, 3, "two targets and a session come before it");
    // A figure beyond every engine is not read at all.
    let within = |at: usize| format!("build.facts[{at}].what");
    let (of_dial, of_target) = (within(dial), within(0));
    let cases: Vec<(Value, &str, &str)> = vec![
        (with(file.clone(), "form", "jagged-pin-build/9"), "bad_field", "form"),
        (with(file.clone(), "extra", 1), "bad_field", "extra"),
        (changed(&|f| f["build"]["facts"][at]["what"]["measure"]["size"] = json!(1)), "bad_build", ""),
        (changed(&|f| f["build"]["facts"][1]["seq"] = json!(7)), "bad_build", ""),
        (
            changed(&|f| f["build"]["facts"][at]["what"]["kind"] = json!("guess")),
            "bad_field",
            "build.facts[3].what.kind",
        ),
        (changed(&|f| f["build"]["facts"][dial]["what"]["measure"]["dial"] = json!(i64::MIN)), "bad_field", &of_dial),
        (changed(&|f| f["build"]["facts"][0]["what"]["rule"]["high"] = json!(i64::MAX)), "bad_field", &of_target),
        (changed(&|f| f["build"]["gauges"][0]["id"] = json!("g".repeat(90))), "bad_build", ""),
        (changed(&|f| f["build"]["facts"][at]["what"]["raw"] = json!("3".repeat(90))), "bad_build", ""),
        (changed(&|f| f["build"]["layout"]["mains"] = json!(99)), "bad_build", ""),
        (changed(&|f| f["build"]["code"] = json!("")), "bad_build", "code"),
        (json!({ "form": "jagged-pin-build/1" }), "bad_field", "build"),
    ];
    for (broken, code, field) in cases {
        let answer = person.post("/imports", broken).await?;
        assert_eq!(answer.problem(), (422, code, field), "{answer:?}");
    }
    assert_eq!(person.get("/builds").await?.body, json!({ "rows": [], "unreadable": [], "more": false, "last": null }));
    assert_eq!(person.post("/imports", file.clone()).await?.status, 201);
    assert_eq!(person.post("/imports", file).await?.problem(), (409, "build_exists", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_bearings_come_as_a_table_with_units_in_its_headings() -> Outcome {
    let house = House::demo().await?;
    let text = house.person("oduya").await?.get("/builds/SL-041/bearings.csv").await?.body;
    let mut csv = csv::Reader::from_reader(text.as_str().unwrap_or_default().as_bytes());
    let headings = csv.headers()?.clone();
    let column = |name: &str| headings.iter().position(|h| h == name).unwrap_or(usize::MAX);
    let rows = csv.records().collect::<Result<Vec<_>, _>>()?;
    assert_eq!(rows.len(), 13);
    let cell = |row: usize, name: &str| rows[row].get(column(name)).unwrap_or("missing").to_owned();
    assert_eq!((cell(7, "station"), cell(1, "state")), ("R1".into(), "tight".into()));
    // 0.00235 as read, and what the worst of several places reads too tight.
    let clearance: f64 = cell(7, "clearance_in").parse()?;
    assert!((0.002_35..0.002_40).contains(&clearance), "{clearance}");
    assert_eq!((cell(3, "method"), cell(3, "journal_in")), ("direct".into(), "2.62385".into()));
    assert_eq!((cell(6, "station"), cell(6, "clearance_in")), ("M7".into(), String::new()));
    assert_eq!((cell(8, "station"), cell(8, "state")), ("R2".into(), "stale".into()));
    assert_eq!((cell(10, "station"), cell(10, "housing_in")), ("R4".into(), "2.248".into()));
    Ok(())
}
