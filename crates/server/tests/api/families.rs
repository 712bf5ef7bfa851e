//! Families of shells: edited by the lead, their part numbers read, cranks held against them.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome, Person, with};

async fn form(person: &Person, family: &str) -> Outcome<Value> {
    let all = person.get("/shells").await?.body;
    let found = all.as_array().into_iter().flatten().find(|f| f["family"]["id"] == family);
    Ok(found.map(|f| f["form"].clone()).unwrap_or_default())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_family_is_changed_only_as_it_was_seen_and_not_by_an_apprentice() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let seen = form(&lead, "CM").await?;
    assert_eq!(
        (&seen["journal"], &seen["coating"], &seen["offers"][0]["price"]),
        (&json!("2.6240"), &json!("-0.0005"), &json!("149.80"))
    );
    // As it is typed it means the same.
    let kept = lead.put("/shells/CM", seen.clone()).await?;
    assert_eq!((kept.status, &kept.body["version"]), (200, &json!(2)));
    assert_eq!(with(kept.body["form"].clone(), "version", 1), with(seen.clone(), "version", 1));
    let late = lead.put("/shells/CM", with(seen.clone(), "name", "Curlew mains, again")).await?;
    assert_eq!(late.problem(), (409, "changed_meanwhile", ""));
    let seen = with(seen, "version", 2);
    let refused = async |field: &str, value: Value| -> Outcome<(u16, String, String)> {
        let answer = lead.put("/shells/CM", with(seen.clone(), field, value)).await?;
        let (status, code, field) = answer.problem();
        Ok((status, code.to_owned(), field.to_owned()))
    };
    let bad = |field: &str| (422, "bad_field".to_owned(), field.to_owned());
    assert_eq!(refused("journal", json!("wide")).await?, bad("journal"));
    assert_eq!(refused("wall", json!("0.5")).await?, bad("family"), "it does not go into its housing");
    assert_eq!(
        refused("classes", json!([{ "id": "std", "shift": "0" }])).await?,
        bad("family"),
        "sets of other classes"
    );
    assert_eq!(refused("id", json!("XX")).await?, bad("id"));
    let fewer = with(with(seen.clone(), "classes", json!([{ "id": "std", "shift": "0" }])), "offers", json!([]));
    assert_eq!(lead.put("/shells/CM", fewer).await?.problem(), (422, "bad_field", "classes"), "halves lie there");
    let apprentice = house.person("fenn").await?;
    assert_eq!(apprentice.put("/shells/CM", seen).await?.problem().1, "not_allowed");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_new_family_has_a_shelf_of_its_own() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let new = with(with(with(form(&lead, "CM").await?, "id", "CZ"), "version", 0), "name", "Curlew mains, spare");
    assert_eq!(lead.put("/shells/CZ", new.clone()).await?.status, 200);
    assert_eq!(lead.put("/shells/CZ", new).await?.problem(), (409, "changed_meanwhile", ""), "there is one now");
    let place = json!({ "half": "upper", "class": "std", "undersize": 0, "place": "E7" });
    assert_eq!(lead.put("/shells/CZ/places", place).await?.body["shelf"][0]["place"], "E7");
    let sets = json!({ "id": Uuid::new_v4(), "part_number": "CMGS00", "sets": 2, "reason": "first delivery" });
    let shelf = lead.post("/shells/CZ/sets", sets).await?.body["shelf"].clone();
    let counts: Vec<i64> = shelf.as_array().into_iter().flatten().filter_map(|s| s["count"].as_i64()).collect();
    assert_eq!(counts, [14, 14], "two sets of seven pairs");
    let unknown = json!({ "id": Uuid::new_v4(), "part_number": "NO-1", "sets": 1, "reason": "so" });
    assert_eq!(lead.post("/shells/CZ/sets", unknown).await?.problem(), (422, "bad_field", "part_number"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_part_number_is_read_and_held_against_the_crank() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("fenn").await?;
    let read = async |number: &str, measured: Value| -> Outcome<Value> {
        Ok(person.post("/shells/read-number", json!({ "number": number, "measured": measured })).await?.body)
    };
    let fits = read("cmg-k00", json!(0)).await?;
    assert_eq!(
        (&fits["family"], &fits["decoded"]["class"], &fits["conflicts"]),
        (&json!("CM"), &json!("-1"), &json!([]))
    );
    let kinds = |v: &Value| {
        v["conflicts"]
            .as_array()
            .into_iter()
            .flatten()
            .filter_map(|c| c["kind"].as_str().map(str::to_owned))
            .collect::<Vec<_>>()
    };
    assert_eq!(kinds(&read("CMS25Z", json!(0)).await?), ["unread", "lacks", "undersize"]);
    // Rods of this engine want narrowed shells; the mains of the flat-four a dowel hole.
    assert_eq!(kinds(&read("CRS00", json!(0)).await?), ["lacks"]);
    assert_eq!(kinds(&read("DMCS00", Value::Null).await?), ["lacks"]);
    let nobody = person.post("/shells/read-number", json!({ "number": "QQ1" })).await?;
    assert_eq!(nobody.problem(), (422, "bad_field", "number"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn stamps_are_recorded_and_lose_against_what_is_measured() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let check = async || -> Outcome<Value> { Ok(person.get("/builds/SL-041/shells/check?family=CM").await?.body) };
    assert_eq!(check().await?["journals"][0]["says"], "agrees");
    let stamps = json!({ "id": Uuid::new_v4(), "stamps": [{ "station": "M1", "text": "10" }] });
    assert_eq!(person.post("/builds/SL-041/stamps", stamps).await?.status, 200);
    let after = check().await?;
    assert_eq!((&after["journals"][0]["says"], &after["undersize"]), (&json!("stamp_differs"), &json!(0)));
    let of_a_pin = json!({ "id": Uuid::new_v4(), "stamps": [{ "station": "P1", "text": "10" }] });
    assert_eq!(person.post("/builds/SL-041/stamps", of_a_pin).await?.problem().1, "unsound");
    let unknown = person.get("/builds/SL-041/shells/check?family=XX").await?;
    assert_eq!(unknown.problem(), (404, "no_such_family", ""));
    Ok(())
}
