//! What the shop decides for itself: roles, and where targets start.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome, Person, journal, with};

fn role<'a>(roles: &'a Value, name: &str) -> &'a Value {
    roles.as_array().into_iter().flatten().find(|r| r["name"] == name).unwrap_or(&Value::Null)
}

#[tokio::test(flavor = "multi_thread")]
async fn an_apprentice_strikes_and_corrects_once_the_lead_says_so() -> Outcome {
    let house = House::demo().await?;
    let (fenn, wick, lead) = (house.person("fenn").await?, house.person("wick").await?, house.person("harrow").await?);
    let id = Uuid::new_v4();
    wick.touch("SL-046", with(journal("M1", "2.6238"), "id", json!(id))).await?;
    let strike = |of: Uuid| json!({ "id": Uuid::new_v4(), "reading": of, "reason": "read on the wrong journal" });
    let correct = || {
        json!({ "id": Uuid::new_v4(), "half": "upper", "class": "std", "undersize": 0, "kind": "corrected", "by": 1,
            "reason": "found one behind the rack" })
    };
    assert_eq!(fenn.post("/builds/SL-046/strikes", strike(id)).await?.problem(), (403, "not_allowed", ""));
    assert_eq!(fenn.post("/shells/CM/moves", correct()).await?.problem(), (403, "not_allowed", ""));
    // What an apprentice read by themselves they may strike.
    let own = Uuid::new_v4();
    fenn.touch("SL-046", with(journal("M1", "2.6239"), "id", json!(own))).await?;
    assert_eq!(fenn.post("/builds/SL-046/strikes", strike(own)).await?.status, 200);
    let roles = fenn.get("/roles").await?.body;
    let before = role(&roles, "apprentice");
    assert_eq!((&before["people"], &before["version"]), (&json!(["A. Fenn"]), &json!(1)));
    let mut may = before["capabilities"].clone();
    may["strike_others"] = json!(true);
    may["correct_shelf"] = json!(true);
    let change = json!({ "capabilities": may, "version": 1 });
    assert_eq!(wick.put("/roles/apprentice", change.clone()).await?.problem(), (403, "not_allowed", ""));
    assert_eq!(lead.put("/roles/apprentice", change.clone()).await?.status, 200);
    assert_eq!(lead.put("/roles/apprentice", change).await?.problem(), (409, "changed_meanwhile", ""));
    assert_eq!(fenn.post("/builds/SL-046/strikes", strike(id)).await?.status, 200);
    assert_eq!(fenn.post("/shells/CM/moves", correct()).await?.status, 200);
    // Whoever runs the shop goes on running it.
    let mut out = role(&roles, "lead")["capabilities"].clone();
    out["run_shop"] = json!(false);
    let answer = lead.put("/roles/lead", json!({ "capabilities": out, "version": 1 })).await?;
    assert_eq!(answer.problem(), (422, "bad_field", "capabilities"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn targets_of_rows_are_set_together_or_not_at_all() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let path = "/builds/SL-046/target-rows";
    let rows = person.get(path).await?.body;
    let row = |rows: &Value, figure: &str, at: &str| {
        let all = rows.as_array().cloned().unwrap_or_default();
        all.into_iter().find(|r| (&r["figure"], &r["at"]) == (&json!(figure), &json!(at))).unwrap_or_default()
    };
    let round = row(&rows, "cylinder_round", "cylinder");
    assert_eq!((&round["version"], &round["limits"]), (&json!(0), &json!("maximum")), "{rows}");
    let mains = row(&rows, "oil_clearance", "main");
    assert!(!mains["window"].is_null() && mains["choices"].as_array().is_some_and(|c| !c.is_empty()));
    let set = |id: Uuid, high: &str, version: &Value| {
        let row = |figure: &str, at: &str, [low, aim, high]: [&str; 3], version: &Value| json!({ "figure": figure, "at": at, "low": low, "aim": aim, "high": high, "version": version });
        let mains = row("oil_clearance", "main", [".0020", "", ".0030"], version);
        let round = row("cylinder_round", "cylinder", ["", "", high], &json!(0));
        json!({ "id": id, "source": "builders_rule", "reason": "agreed at booking", "rows": [mains, round] })
    };
    let (id, now) = (Uuid::new_v4(), &mains["version"]);
    let wrong = person.post(path, set(id, "wide", now)).await?;
    assert_eq!(wrong.problem(), (422, "bad_field", "rows.1.high"));
    let late = person.post(path, set(id, ".0003", &json!(77))).await?;
    assert_eq!((late.status, &late.body["code"]), (409, &json!("changed_meanwhile")));
    assert!(row(&person.get(path).await?.body, "cylinder_round", "cylinder")["window"].is_null(), "none was set");
    for again in [false, true] {
        let kept = person.post(path, set(id, ".0003", now)).await?;
        assert_eq!((kept.status, &kept.body["again"]), (200, &json!(again)), "{:?}", kept.body);
    }
    let after = person.get(path).await?.body;
    assert_eq!(row(&after, "cylinder_round", "cylinder")["window"][2], json!("0.0003"));
    assert_eq!(row(&after, "oil_clearance", "main")["window"], json!(["0.0020", "0.0025", "0.0030"]));
    let apprentice = house.person("fenn").await?;
    assert_eq!(apprentice.post(path, set(Uuid::new_v4(), ".0003", now)).await?.status, 403);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn targets_start_from_the_shop_s_own_windows() -> Outcome {
    let house = House::demo().await?;
    let (wick, lead) = (house.person("wick").await?, house.person("harrow").await?);
    let asked = "/presets?unit=in&main_journal=2.6240&pin=2.1240";
    let kept = wick.get(asked).await?.body;
    let found = |all: &Value, at: &str, name: &str| -> Value {
        let mut rows = all["presets"].as_array().into_iter().flatten();
        rows.find(|p| p["at"] == at && p["name"] == name).map_or(Value::Null, |p| p["window"].clone())
    };
    // 0.00095 to 0.00115 an inch of 2.624, 0.0010 to 0.0012 an inch of 2.124.
    assert_eq!(found(&kept, "main", "endurance"), json!(["0.0025", "0.0028", "0.0030"]));
    assert_eq!(found(&kept, "rod", "endurance"), json!(["0.0021", "0.0023", "0.0025"]));
    assert_eq!(found(&wick.get("/presets?unit=mm").await?.body, "main", "endurance"), Value::Null);
    let put = |version: u32, high: &str| {
        let own = json!({ "figure": "oil_clearance", "at": "main", "name": "hill climb", "per_shaft": true,
            "low": "0.0009", "aim": "", "high": high });
        json!({ "unit": "in", "version": version, "presets": [own] })
    };
    assert_eq!(wick.put("/presets", put(0, "0.0012")).await?.problem(), (403, "not_allowed", ""));
    assert_eq!(lead.put("/presets", put(0, "0.0009")).await?.problem(), (422, "bad_field", "presets.0.limits"));
    assert_eq!(lead.put("/presets", put(0, "2")).await?.problem(), (422, "bad_field", "presets.0.high"));
    assert_eq!(lead.put("/presets", put(0, "0.0012")).await?.status, 200);
    assert_eq!(lead.put("/presets", put(0, "0.0011")).await?.problem(), (409, "changed_meanwhile", ""));
    assert_eq!(found(&wick.get(asked).await?.body, "main", "hill climb"), json!(["0.0024", "0.0028", "0.0031"]));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_target_among_the_decisions_says_what_it_is_of() -> Outcome {
    let house = House::demo().await?;
    let build = house.person("harrow").await?.get("/builds/SL-041").await?.body;
    let decisions = build["decisions"].as_array().cloned().unwrap_or_default();
    let (targets, others): (Vec<&Value>, Vec<&Value>) = decisions.iter().partition(|d| d["kind"] == "target");
    assert!(
        targets.len() > 3 && targets.iter().all(|d| d["about"].as_str().is_some_and(|a| a.len() > 3)),
        "{targets:?}"
    );
    assert!(others.iter().all(|d| d["about"].is_null()));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_wear_range_stands_beside_a_target_and_a_window_has_a_width() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let seen = lead.get("/builds/SL-046").await?.body["assessment"]["rows"][0]["target"]["version"].clone();
    let target = |low: &str, wear: Value| {
        json!({ "id": Uuid::new_v4(), "station": null, "row": "mains", "unit": "in",
            "rule": { "kind": "range", "low": low, "aim": "", "high": ".0028" }, "source": "makers_sheet", "wear": wear,
            "reason": "the maker's sheet, page 4", "version": seen })
    };
    let flat = lead.post("/builds/SL-046/targets", target(".0028", Value::Null)).await?;
    assert_eq!((flat.problem().0, flat.problem().1), (422, "bad_target"));
    let upside_down = target(".0022", json!({ "low": ".004", "high": ".001" }));
    assert_eq!(lead.post("/builds/SL-046/targets", upside_down).await?.status, 422);
    let set = lead.post("/builds/SL-046/targets", target(".0022", json!({ "low": ".0010", "high": ".0040" }))).await?;
    assert_eq!(set.status, 200, "{set:?}");
    let build = lead.get("/builds/SL-046").await?.body;
    let in_force = &build["assessment"]["rows"][0]["target"];
    assert_eq!(in_force["wear"], json!({ "low": 25_400, "high": 101_600 }));
    assert_eq!(in_force["window"]["aim"], json!(63_500), "nobody aims at what the factory lets wear");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_row_that_cannot_be_read_harms_nothing_but_itself() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let count = async |path: &str| -> Outcome<usize> {
        let all = lead.get(path).await?;
        assert_eq!(all.status, 200, "{path}: {all:?}");
        Ok(all.body.as_array().map_or(0, Vec::len))
    };
    let patterns =
        async || -> Outcome<usize> { Ok(lead.get("/shop").await?.body["patterns"].as_array().map_or(0, Vec::len)) };
    let before = [count("/gauges").await?, count("/shells").await?, patterns().await?];
    let file = lead.get("/builds/SL-046/export.json").await?.body;
    house.tamper(
        "UPDATE gauges SET measures = 'colour' LIMIT 1; UPDATE shell_families SET detail = '{}' LIMIT 1; \
         UPDATE engine_patterns SET layout = '{}' LIMIT 1; UPDATE shop_settings SET detail = '[]' WHERE name = 'name'; \
         INSERT INTO shop_log (at_ms, by_name, kind, detail) VALUES (1, '', 'person_changed', '{\"id\": \"no one\"}')",
    )?;
    let after = [count("/gauges").await?, count("/shells").await?, patterns().await?];
    assert_eq!(after, before.map(|n| n - 1));
    assert_eq!(lead.get("/builds/SL-041").await?.status, 200);
    let removal = json!({ "code": "SL-046", "reason": "to be read in again" });
    assert_eq!(lead.post("/builds/SL-046/removal", removal).await?.status, 204);
    assert_eq!(lead.post("/imports", file).await?.status, 201);
    assert!(house.person("oduya").await.is_ok(), "signing in needs no name of the shop");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn two_who_take_the_shop_from_each_other_leave_one_of_them() -> Outcome {
    let house = House::demo().await?;
    let (harrow, kell) = (house.person("harrow").await?, house.person("kell").await?);
    let role = async |person: &Person, name: &str| -> Outcome<(Value, Value)> {
        let all = person.get("/roles").await?.body;
        let of = all.as_array().into_iter().flatten().find(|r| r["name"] == name).cloned().ok_or("a role")?;
        Ok((of["capabilities"].clone(), of["version"].clone()))
    };
    for _ in 0..4 {
        let (mut checker, version) = role(&harrow, "checker").await?;
        checker["run_shop"] = json!(true);
        assert_eq!(
            harrow.put("/roles/checker", json!({ "capabilities": checker, "version": version })).await?.status,
            200
        );
        let (mut lead, of_lead) = role(&harrow, "lead").await?;
        lead["run_shop"] = json!(false);
        let (mut checker, of_checker) = role(&harrow, "checker").await?;
        checker["run_shop"] = json!(false);
        let (one, other) = tokio::join!(
            harrow.put("/roles/checker", json!({ "capabilities": checker, "version": of_checker })),
            kell.put("/roles/lead", json!({ "capabilities": lead, "version": of_lead })),
        );
        let (one, other) = (one?.status, other?.status);
        assert!([(200, 422), (422, 200), (200, 403), (403, 200)].contains(&(one, other)), "{one} and {other}");
        if other == 200 {
            // Now the checker runs it, and gives it back.
            let (mut lead, version) = role(&kell, "lead").await?;
            lead["run_shop"] = json!(true);
            assert_eq!(kell.put("/roles/lead", json!({ "capabilities": lead, "version": version })).await?.status, 200);
        }
    }
    Ok(())
}
