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
    store.make_account(&newcomer, jagged_pin_core::units::Timestamp(7)).await?;
    let (last, moved) = store.changes_since(0).await?;
    assert_eq!((last, moved.len()), (5, 5));
    let page = store.floor(&FloorQuery { most: 10, ..FloorQuery::default() }).await?;
    assert!(page.iter().all(|row| row.summary.is_none()), "no summary is believed that nobody made");
    let again = Store::connect(&database.url()).await?;
    assert_eq!(again.sequence().await?.len(), 5, "what was carried over is not carried over twice");
    Ok(())
}

/// The statements with which the house copies what the version before had, one by one.
fn copying() -> Vec<String> {
    let migration = include_str!("../migrations/2026-11-26-000001_house/up.sql");
    let block = migration.split("ELSEIF carried = 0 THEN").nth(1).and_then(|rest| rest.split("RENAME TABLE").next());
    let plain = |line: &&str| !line.trim_start().starts_with("--");
    let text: Vec<&str> = block.unwrap_or_default().lines().filter(plain).collect();
    text.join("\n").split(';').map(str::trim).filter(|s| !s.is_empty()).map(str::to_owned).collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn carrying_over_that_was_cut_off_anywhere_is_done_again() -> Outcome {
    let whole = TestDatabase::filled(&dump()?)?;
    let store = Store::connect(&whole.url()).await?;
    let wanted = store.build(store.build_id("SL-042").await?).await?;
    let copying = copying();
    assert!(copying.len() > 20, "{copying:?}");
    for done in (1..=copying.len()).step_by(5).chain([copying.len()]) {
        let cut = TestDatabase::filled(&dump()?)?;
        cut.run(&format!("{};", copying[..done].join(";\n")))?;
        let store = Store::connect(&cut.url()).await?;
        assert_eq!(store.build(wanted.id).await?, wanted, "after {done} statements");
        assert_eq!(store.shell_moves("CM", 9).await?.len(), 1);
    }
    // A version before was cut off after it had dropped some of what it had copied.
    let dropped = TestDatabase::filled(&dump()?)?;
    dropped.run(&format!("{}; DROP TABLE shell_moves, notes, signatures;", copying.join(";\n")))?;
    let store = Store::connect(&dropped.url()).await?;
    assert_eq!(store.build(wanted.id).await?, wanted);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn changes_of_the_tables_that_were_made_and_not_noted_are_made_again_without_harm() -> Outcome {
    let database = TestDatabase::filled(&dump()?)?;
    drop(Store::connect(&database.url()).await?);
    let known = database.query("SELECT version FROM __diesel_schema_migrations ORDER BY version DESC")?;
    // Those since the dump: each is the last one that was not noted when a server was killed.
    for version in known.lines().take(4) {
        database.run(&format!("DELETE FROM __diesel_schema_migrations WHERE version = '{version}'"))?;
        let store = Store::connect(&database.url()).await?;
        assert_eq!(store.sequence().await?.len(), 5, "{version}");
        store.build(store.build_id("SL-042").await?).await?.check()?;
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn servers_that_start_at_once_take_turns() -> Outcome {
    let database = TestDatabase::new()?;
    let mut all = tokio::task::JoinSet::new();
    for _ in 0..6 {
        let url = database.url();
        all.spawn(async move { Store::connect(&url).await.map(drop) });
    }
    while let Some(done) = all.join_next().await {
        done??;
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_account_for_rows_only_is_enough_once_the_tables_are_made() -> Outcome {
    let database = TestDatabase::new()?;
    let rows_only = database.url_for_rows_only();
    assert!(Store::connect_as_it_is(&rows_only).await.is_err(), "there are no tables yet");
    drop(Store::connect(&database.url()).await?);
    let store = Store::connect_as_it_is(&rows_only).await?;
    let build = known_build()?;
    store.open_build(&build).await?;
    assert_eq!(*store.build(build.id).await?, build);
    assert!(Store::connect(&rows_only).await.is_ok(), "nothing is to be made");
    assert!(store.turn("something").await.is_ok());
    Ok(())
}

fn known_build() -> Result<Build, serde_json::Error> {
    let file: serde_json::Value = serde_json::from_str(include_str!("../../core/tests/frozen/builds/SL-042.json"))?;
    serde_json::from_value(file["build"].clone())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_account_that_may_change_tables_makes_them_and_carries_a_version_over() -> Outcome {
    let database = TestDatabase::new()?;
    // Whoever runs the server makes the database; the account makes what is in it.
    database.make()?;
    drop(Store::connect(&database.url_for_tables()).await?);
    let store = Store::connect_as_it_is(&database.url_for_rows_only()).await?;
    store.open_build(&known_build()?).await?;
    let before = TestDatabase::filled(&dump()?)?;
    let store = Store::connect(&before.url_for_tables()).await?;
    assert_eq!(store.sequence().await?.len(), 5);
    store.build(store.build_id("SL-042").await?).await?.check()?;
    Ok(())
}
