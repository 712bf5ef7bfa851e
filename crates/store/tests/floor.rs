//! The floor's page, builds that were put away, and what the database does not take.
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::units::{Person, Timestamp};
use jagged_pin_core::{Build, Unit};
use jagged_pin_demo::{builds, gauges, person};
use jagged_pin_mariadb::testing::TestDatabase;
use jagged_pin_store::{FloorQuery, Opened, ShopNote, Store, StoreError};
use uuid::Uuid;

type Outcome = Result<(), Box<dyn std::error::Error>>;

async fn store() -> Result<(Store, TestDatabase), Box<dyn std::error::Error>> {
    let database = TestDatabase::new()?;
    Ok((Store::connect(&database.url()).await?, database))
}

/// Copies of a build that was just booked in, under names and identifiers of their own.
fn copies(count: u128) -> Result<Vec<Build>, Box<dyn std::error::Error>> {
    let first = builds()?.into_iter().find(|b| b.code == "SL-046").ok_or("the demo has it")?;
    let copy = |n: u128| {
        let facts = first.facts.iter().map(|f| {
            let id = Uuid::from_u128(n * 1_000 + u128::from(f.seq));
            jagged_pin_core::log::Fact { id, ..f.clone() }
        });
        Build { id: Uuid::from_u128(n), code: format!("T-{n:03}"), facts: facts.collect(), ..first.without_facts() }
    };
    Ok((1..=count).map(copy).collect())
}

fn codes(found: &[jagged_pin_store::OnFloor]) -> Vec<u128> {
    found.iter().map(|row| row.id.as_u128()).collect()
}

#[tokio::test(flavor = "multi_thread")]
async fn the_floor_comes_in_pages_and_is_searched_and_what_is_put_away_is_found_again() -> Outcome {
    let (store, _database) = store().await?;
    for build in copies(5)? {
        assert_eq!(store.open_build(&build).await?, Opened::New);
    }
    let page = async |ask: FloorQuery| store.floor(&FloorQuery { most: 3, ..ask }).await.map(|rows| codes(&rows));
    assert_eq!(page(FloorQuery::default()).await?, [1, 2, 3]);
    assert_eq!(page(FloorQuery { after: Some("T-003".into()), ..FloorQuery::default() }).await?, [4, 5]);
    let search = |text: &str| FloorQuery { search: text.into(), ..FloorQuery::default() };
    assert_eq!(page(search("t-004")).await?, [4]);
    assert_eq!(page(search("CURLEW")).await?, [1, 2, 3]);
    assert!(page(search("%")).await?.is_empty(), "a sign of the language of the database is a sign like any other");

    let two = Uuid::from_u128(2);
    let (by, at) = (person("harrow"), Timestamp(7));
    let note = ShopNote { by: Some(by.clone()), at, kind: "build_put_away", detail: serde_json::Value::Null };
    store.archive(two, Some((&by, at, "collected")), &note).await?;
    store.archive(two, Some((&by, at, "collected")), &note).await?;
    assert_eq!(page(FloorQuery::default()).await?, [1, 3, 4]);
    let away = store.floor(&FloorQuery { archived: true, most: 3, ..FloorQuery::default() }).await?;
    assert_eq!(away.iter().map(|r| r.archived.clone()).collect::<Vec<_>>(), [Some((at, "collected".to_owned()))]);
    assert_eq!(page(FloorQuery { only: Some(two), ..FloorQuery::default() }).await?, [2]);
    store.archive(two, None, &note).await?;
    assert_eq!(page(FloorQuery::default()).await?, [1, 2, 3]);
    assert!(matches!(store.archive(Uuid::from_u128(99), None, &note).await, Err(StoreError::NotFound)));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_summary_that_is_behind_is_not_shown_and_an_earlier_one_replaces_none() -> Outcome {
    let (store, _database) = store().await?;
    for build in copies(1)? {
        store.open_build(&build).await?;
    }
    let one = Uuid::from_u128(1);
    let shown = async || store.floor(&FloorQuery { most: 3, ..FloorQuery::default() }).await;
    let summary = async || shown().await.map(|rows| rows.into_iter().next().and_then(|r| r.summary));
    assert_eq!(summary().await?, None);
    store.put_summary(one, 1, "{\"at\":1}").await?;
    assert_eq!(summary().await?, None, "the build is further");
    store.put_summary(one, 2, "{\"at\":2}").await?;
    store.put_summary(one, 1, "{\"at\":1}").await?;
    assert_eq!(summary().await?.as_deref(), Some("{\"at\":2}"));
    let broken = store.put_summary(one, 2, "no json").await;
    assert!(matches!(broken, Err(StoreError::Data(_))), "{broken:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_the_database_does_not_take_is_not_an_outage() -> Outcome {
    let (store, _database) = store().await?;
    let long = copies(1)?.into_iter().map(|b| Build { engine: "x".repeat(400), ..b }).next().ok_or("a build")?;
    let refused = store.open_build(&long).await;
    assert!(matches!(refused, Err(StoreError::Data(_))), "{refused:?}");
    assert!(store.sequence().await?.is_empty(), "nothing of it is kept");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn four_who_register_gauges_at_once_all_get_through() -> Outcome {
    let (store, _database) = store().await?;
    let pattern = gauges(Unit::Inch).into_iter().next().ok_or("a gauge")?;
    let mut hands = tokio::task::JoinSet::new();
    for n in 0..4 {
        let store = store.clone();
        let pattern = pattern.clone();
        hands.spawn(async move {
            let mut kept = 0;
            for m in 0..8 {
                let gauge = Gauge { id: format!("new-{n}-{m}"), ..pattern.clone() };
                kept += u32::from(store.put_gauge(&gauge, Unit::Inch, 0).await? == Some(1));
            }
            Ok::<u32, StoreError>(kept)
        });
    }
    let mut kept = 0;
    while let Some(done) = hands.join_next().await {
        kept += done??;
    }
    assert_eq!((kept, store.gauge_room().await?.len()), (32, 32));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn imports_that_bring_the_same_strangers_along_all_get_through() -> Outcome {
    let (store, _database) = store().await?;
    let strangers: Vec<Person> =
        (0..12).map(|n| Person { id: Uuid::from_u128(5_000 + n), name: format!("Stranger {n}") }).collect();
    let mut hands = tokio::task::JoinSet::new();
    for (n, mut build) in copies(6)?.into_iter().enumerate() {
        let store = store.clone();
        // Each names them in an order of its own.
        for (i, fact) in build.facts.iter_mut().enumerate() {
            fact.by = strangers[(i * 5 + n * 7) % strangers.len()].clone();
        }
        build.opened_by = strangers[(11 - n) % strangers.len()].clone();
        hands.spawn(async move { store.open_build(&build).await });
    }
    while let Some(done) = hands.join_next().await {
        assert_eq!(done??, Opened::New);
    }
    assert_eq!(store.sequence().await?.len(), 6);
    Ok(())
}
