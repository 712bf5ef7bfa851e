//! A seal that notices: rows changed behind the server's back are named on sheet and floor.
use serde_json::{Value, json};
use uuid::Uuid;

use crate::house::{House, Outcome, Person, password};

/// The sealed build of the demo.
const SEALED: &str = "SL-042";
/// Its identifier in a statement.
const IT: &str = "(SELECT id FROM builds WHERE code = 'SL-042')";

async fn sheet(person: &Person) -> Outcome<Value> {
    Ok(person.get(&format!("/builds/{SEALED}")).await?.body["assessment"]["sign_off"].clone())
}

async fn row(person: &Person) -> Outcome<Value> {
    let rows = person.get("/builds").await?.body["rows"].clone();
    Ok(rows.as_array().into_iter().flatten().find(|r| r["code"] == SEALED).cloned().unwrap_or_default())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_shop_that_nobody_touched_proves_whole() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let looked = lead.post("/seals", json!({})).await?;
    assert_eq!((looked.status, &looked.body["doubts"]), (200, &json!([])));
    assert!(looked.body["looked_at"].as_u64().is_some_and(|n| n >= 5));
    assert!(looked.body["key"].is_string());
    assert_eq!(sheet(&lead).await?["status"], "sealed");
    assert_eq!(row(&lead).await?["status"], "sealed");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn every_way_to_change_rows_under_a_seal_is_named_on_sheet_and_floor() -> Outcome {
    let first = format!("build_id = {IT} ORDER BY seq LIMIT 1");
    let signer = format!(
        "UPDATE facts f, (SELECT by_id, by_name FROM facts WHERE build_id = {IT} AND seq IN \
         (SELECT seq FROM signatures WHERE build_id = {IT} AND role = 'assembler')) a \
         SET f.by_id = a.by_id, f.by_name = a.by_name WHERE f.build_id = {IT} AND f.seq IN \
         (SELECT seq FROM signatures WHERE build_id = {IT} AND role = 'checker')"
    );
    let middle = format!("(SELECT seq FROM (SELECT seq FROM readings WHERE build_id = {IT} LIMIT 1 OFFSET 5) r)");
    let tamperings = [
        format!("UPDATE readings SET size_nm = size_nm - 25400 WHERE {first}"),
        format!("UPDATE facts SET by_name = 'Somebody Else' WHERE {first}"),
        format!("UPDATE facts SET by_id = (SELECT id FROM people WHERE login = 'fenn') WHERE {first}"),
        signer,
        format!("UPDATE signatures SET digest = REPEAT('0', 64) WHERE build_id = {IT}"),
        format!("DELETE FROM readings WHERE build_id = {IT} AND seq = {middle}"),
        format!("DELETE FROM facts WHERE build_id = {IT} AND seq = {middle}"),
        format!("UPDATE builds SET rules = REPLACE(rules, 'guarded', 'simple') WHERE id = {IT}"),
        format!("UPDATE builds SET engine = CONCAT(engine, ' II') WHERE id = {IT}"),
        format!("UPDATE signatures SET mark = REPEAT('0', 64) WHERE build_id = {IT}"),
        format!("DELETE FROM strikes WHERE build_id = {IT}; DELETE FROM notes WHERE build_id = {IT}"),
    ];
    for statement in tamperings {
        let house = House::demo().await?;
        let lead = house.person("harrow").await?;
        assert_eq!(sheet(&lead).await?["status"], "sealed");
        house.tamper(&statement)?;
        let looked = lead.post("/seals", json!({})).await?.body;
        assert_eq!(looked["doubts"][0]["code"], SEALED, "{statement}: {looked}");
        let sheet = sheet(&lead).await?;
        assert_eq!(sheet["status"], "does_not_match", "{statement}");
        assert!(sheet["proof"]["faults"].as_array().is_some_and(|f| !f.is_empty()), "{statement}");
        assert_eq!(row(&lead).await?["status"], "does_not_match", "{statement}");
        // A server that starts now sees it at the first look.
        let (_house, base) = house.beside().await?;
        let mut late = Person::at(&base)?;
        late.sign_in("harrow").await?;
        assert_eq!(self::sheet(&late).await?["status"], "does_not_match", "{statement}");
    }
    Ok(())
}

/// What a seal stands on beside the facts of its build: the pictures, the count of facts, the signatures themselves, names.
#[tokio::test(flavor = "multi_thread")]
async fn what_seals_stand_on_beside_their_facts_is_not_changed_unnoticed() -> Outcome {
    let sealed = format!("build_id = {IT}");
    let pictured = "(SELECT build_id FROM pictures LIMIT 1)";
    let first_signature = format!("(SELECT seq FROM (SELECT MIN(seq) AS seq FROM signatures WHERE {sealed}) s)");
    let cut = format!(
        "UPDATE builds SET seq = {first_signature} - 1 WHERE id = {IT}; \
         DELETE FROM facts WHERE {sealed} AND seq >= {first_signature}; \
         UPDATE readings SET size_nm = size_nm - 25400 WHERE {sealed} ORDER BY seq LIMIT 1; \
         DELETE FROM signatures WHERE {sealed}"
    );
    let kell = "(SELECT f.by_id FROM facts f JOIN signatures s USING (build_id, seq) WHERE s.role = 'checker' LIMIT 1)";
    let tamperings = [
        ("picture_changed", "SL-041", format!("UPDATE pictures SET jpeg = 'x' WHERE build_id = {pictured} LIMIT 1")),
        ("picture_gone", "SL-041", "DELETE FROM pictures LIMIT 1".into()),
        ("signature_gone", SEALED, cut),
        ("counted_short", SEALED, format!("UPDATE builds SET seq = seq - 1 WHERE id = {IT}")),
        ("put_away", SEALED, format!("UPDATE builds SET archived = TRUE, archived_at = 1 WHERE id = {IT}")),
        ("renamed", SEALED, format!("UPDATE people SET name = 'Somebody Else' WHERE id = {kell}")),
        (
            "signature_gone",
            SEALED,
            format!("UPDATE signatures SET digest = REPEAT('0', 64) WHERE {sealed} AND seq = {first_signature}"),
        ),
    ];
    for (flaw, code, statement) in tamperings {
        let house = House::demo().await?;
        let lead = house.person("harrow").await?;
        house.tamper(&statement)?;
        let looked = lead.post("/seals", json!({})).await?.body;
        let doubts = looked["doubts"].as_array().cloned().unwrap_or_default();
        let faults = doubts.iter().find(|d| d["code"] == code).map(|d| d["faults"].clone()).unwrap_or_default();
        let named = faults.as_array().into_iter().flatten().any(|fault| fault["flaw"] == flaw);
        assert!(named, "{statement}: {looked}");
        let sheet = lead.get(&format!("/builds/{code}")).await?.body["assessment"]["sign_off"]["status"].clone();
        assert_eq!(sheet, "does_not_match", "{statement}");
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_ledger_of_seals_tells_when_it_was_changed_itself() -> Outcome {
    for (flaw, statement) in [
        ("missing", "DELETE FROM seal_ledger WHERE kind = 'signed' ORDER BY number LIMIT 1"),
        ("changed", "UPDATE seal_ledger SET text = REPEAT('0', 64) WHERE kind = 'signed' ORDER BY number LIMIT 1"),
        ("unreadable", "UPDATE seal_ledger SET kind = 'mended' WHERE kind = 'signed' ORDER BY number LIMIT 1"),
        ("missing", "DELETE FROM seal_ledger"),
        ("build_gone", "DELETE FROM builds WHERE code = 'SL-042'"),
    ] {
        let house = House::demo().await?;
        let lead = house.person("harrow").await?;
        assert_eq!(lead.post("/seals", json!({})).await?.body["ledger"], json!([]));
        house.tamper(&format!("SET foreign_key_checks = 0; {statement}"))?;
        let looked = lead.post("/seals", json!({})).await?.body;
        assert_eq!(looked["ledger"][0]["flaw"], flaw, "{statement}: {looked}");
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_floor_shows_no_summary_that_somebody_else_wrote() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    assert_eq!(row(&lead).await?["status"], "sealed");
    while house.kept_summaries().await? < 5 {
        tokio::task::yield_now().await;
    }
    house.tamper("UPDATE build_summaries SET detail = REPLACE(detail, 'sealed', 'ready')")?;
    assert_eq!(row(&lead).await?["status"], "sealed");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn nobody_signs_what_does_not_match() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    house
        .tamper(&format!("UPDATE readings SET size_nm = size_nm - 25400 WHERE build_id = {IT} ORDER BY seq LIMIT 1"))?;
    lead.post("/seals", json!({})).await?;
    let seq = lead.get(&format!("/builds/{SEALED}")).await?.body["assessment"]["seq"].clone();
    let body = json!({ "id": Uuid::new_v4(), "role": "assembler", "login": "oduya", "password": password("oduya"), "seq": seq });
    let refused = lead.post(&format!("/builds/{SEALED}/signatures"), body).await?;
    assert_eq!(refused.problem(), (409, "seal_does_not_match", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn one_build_that_cannot_be_read_keeps_nobody_from_the_others_and_is_the_leads_to_remove() -> Outcome {
    let house = House::demo().await?;
    let (lead, oduya) = (house.person("harrow").await?, house.person("oduya").await?);
    let before = lead.get("/builds").await?.body["rows"].as_array().map_or(0, Vec::len);
    house.tamper(
        "UPDATE readings SET feature = 'colour' WHERE build_id = (SELECT id FROM builds WHERE code = 'SL-041') LIMIT 1",
    )?;
    lead.post("/seals", json!({})).await?;
    let floor = lead.get("/builds").await?;
    assert_eq!(floor.status, 200);
    assert_eq!(floor.body["rows"].as_array().map(Vec::len), Some(before - 1));
    assert_eq!(floor.body["unreadable"][0]["code"], "SL-041");
    assert_eq!(lead.get("/builds/SL-041").await?.problem(), (409, "unreadable", ""));
    assert_eq!(lead.get("/builds/SL-046").await?.status, 200);
    let removal = json!({ "code": "SL-041", "reason": "the disk had a bad block" });
    assert_eq!(oduya.post("/builds/SL-041/removal", removal.clone()).await?.problem(), (403, "not_allowed", ""));
    assert_eq!(lead.post("/builds/SL-041/removal", removal).await?.status, 204);
    assert_eq!(lead.get("/builds").await?.body["unreadable"], json!([]));
    assert!(
        lead.get("/shop-log").await?.body[0]["text"]
            .as_str()
            .is_some_and(|t| t.contains("SL-041") && t.contains("bad block"))
    );
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_sealed_build_is_not_removed_and_a_wrong_one_is() -> Outcome {
    let house = House::demo().await?;
    let lead = house.person("harrow").await?;
    let sealed = json!({ "code": SEALED, "reason": "tidying up" });
    let removal = format!("/builds/{SEALED}/removal");
    assert_eq!(lead.post(&removal, sealed.clone()).await?.problem(), (409, "sealed_stays", ""));
    // Nor once something that was recorded after it broke its seal.
    let look = json!({ "id": Uuid::new_v4(), "station": "M1", "part": "journal", "signs": ["smooth"] });
    assert_eq!(lead.post(&format!("/builds/{SEALED}/inspections"), look).await?.status, 200);
    assert_ne!(sheet(&lead).await?["status"], "sealed");
    assert_eq!(lead.post(&removal, sealed.clone()).await?.problem(), (409, "sealed_stays", ""));
    // Nor where its rows do not say so any more, or cannot be read.
    for statement in ["DELETE FROM signatures", "UPDATE readings SET feature = 'colour'"] {
        house.tamper(&format!("{statement} WHERE build_id = {IT}"))?;
        lead.post("/seals", json!({})).await?;
        assert_eq!(lead.post(&removal, sealed.clone()).await?.problem(), (409, "sealed_stays", ""), "{statement}");
    }
    let mistyped = json!({ "code": "SL-064", "reason": "opened twice" });
    assert_eq!(lead.post("/builds/SL-046/removal", mistyped).await?.problem(), (422, "bad_field", "code"));
    let unsaid = json!({ "code": "SL-046", "reason": " " });
    assert_eq!(lead.post("/builds/SL-046/removal", unsaid).await?.problem(), (422, "bad_field", "reason"));
    let wrong = json!({ "code": "SL-046", "reason": "opened twice" });
    assert_eq!(lead.post("/builds/SL-046/removal", wrong).await?.status, 204);
    assert_eq!(lead.get("/builds/SL-046").await?.problem(), (404, "no_such_build", ""));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_target_that_lifts_what_is_tight_is_the_leads_and_stands_on_the_sheet() -> Outcome {
    let house = House::with_mains_only().await?;
    let (oduya, lead) = (house.person("oduya").await?, house.person("harrow").await?);
    let target = |id: Uuid| {
        json!({ "id": id, "station": "M2", "rule": { "kind": "range", "low": ".0002", "aim": "", "high": ".0035" },
            "source": "makers_sheet", "reason": "the sheet says so", "unit": "in", "version": 1 })
    };
    let path = "/builds/SL-047/targets";
    let refused = oduya.post(path, target(Uuid::new_v4())).await?;
    assert_eq!(refused.problem(), (403, "not_allowed", ""), "{refused:?}");
    assert!(refused.body["detail"].as_str().is_some_and(|d| d.contains("tight")));
    let id = Uuid::new_v4();
    let set = lead.post(path, target(id)).await?;
    assert_eq!(set.status, 200, "{set:?}");
    let lifted = &set.body["build"]["assessment"]["sign_off"]["lifted"][0];
    assert_eq!((&lifted["station"], &lifted["by"]["name"]), (&json!("M2"), &json!("M. Harrow")));
    assert_eq!(lead.post(path, target(id)).await?.body["again"], true, "sent again it is the same");
    Ok(())
}
