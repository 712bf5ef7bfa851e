//! A database that the version before filled is carried over: everything in it means the same afterwards.
use std::io::Read;

use flate2::read::GzDecoder;
use jagged_pin_core::Build;
use jagged_pin_core::log::{Source, What};
use jagged_pin_demo::person;
use jagged_pin_mariadb::testing::TestDatabase;
use jagged_pin_store::{FloorQuery, NewAccount, Store};
use uuid::Uuid;

type Outcome = Result<(), Box<dyn std::error::Error>>;

/// What the version before had written of its demo shop, of one more reading, and of one change of a shelf.
fn dump() -> Result<String, std::io::Error> {
    let mut text = String::new();
    GzDecoder::new(&include_bytes!("frozen/before-the-house.sql.gz")[..]).read_to_string(&mut text)?;
    Ok(text)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_database_of_the_version_before_means_the_same_afterwards() -> Outcome {
    let database = TestDatabase::filled(&dump()?)?;
    let store = Store::connect(&database.url()).await?;
    assert_eq!(store.sequence().await?.len(), 5);
    for (id, seq) in store.sequence().await? {
        let build = store.build(id).await?;
        assert_eq!(build.seq(), seq);
        // Every fact could have been recorded so, and every seal stands under what it stood under.
        build.check()?;
    }
    // As that version exported them: one is the same to the last reading, another one has one more.
    let known = |text: &str| -> Result<Build, serde_json::Error> {
        let file: serde_json::Value = serde_json::from_str(text)?;
        serde_json::from_value(file["build"].clone())
    };
    let sealed = store.build(store.build_id("SL-042").await?).await?;
    assert_eq!(*sealed, known(include_str!("../../core/tests/frozen/builds/SL-042.json"))?);
    let open = store.build(store.build_id("SL-046").await?).await?;
    let last = open.facts.last().ok_or("a reading")?;
    assert_eq!(
        (open.facts.len(), last.by.id),
        (known(include_str!("../../core/tests/frozen/builds/SL-046.json"))?.facts.len() + 1, person("oduya").id)
    );
    let What::Reading(reading) = &last.what else { return Err("a reading".into()) };
    assert_eq!((reading.source, reading.raw.as_str()), (Source::Typed, "2.6238"));
    assert_eq!(reading.temperatures.and_then(|t| t.part_mc), Some(21_500));
    // People, roles, shelves and their history came along.
    assert_eq!(store.accounts().await?.len(), 5);
    let oduya = store.account_by_login("oduya").await?.ok_or("an account")?;
    assert_eq!((oduya.role.as_str(), oduya.capabilities.sign_assembler), ("assembler", true));
    let moved = store.shell_moves("CM", 9).await?;
    assert_eq!(moved.first().map(|m| (m.done.by, m.done.reason.as_str())), Some((3, "found behind the rack")));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_carried_over_goes_on_and_is_followed_from_where_it_was() -> Outcome {
    let database = TestDatabase::filled(&dump()?)?;
    let store = Store::connect(&database.url()).await?;
    let newcomer = NewAccount {
        person: jagged_pin_core::units::Person { id: Uuid::from_u128(77), name: "A. New".into() },
        login: "new".into(),
        password_hash: "x".into(),
        role: "apprentice".into(),
    };
    store.make_account(&newcomer).await?;
    let (last, moved) = store.changes_since(0).await?;
    assert_eq!((last, moved.len()), (5, 5));
    let page = store.floor(&FloorQuery { most: 10, ..FloorQuery::default() }).await?;
    assert!(page.iter().all(|row| row.summary.is_none()), "no summary is believed that nobody made");
    let again = Store::connect(&database.url()).await?;
    assert_eq!(again.sequence().await?.len(), 5, "what was carried over is not carried over twice");
    Ok(())
}
