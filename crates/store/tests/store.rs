//! The store against a real MariaDB.
use std::collections::BTreeSet;

use jagged_pin_core::engine::{Characteristic, Place, Read};
use jagged_pin_core::log::{Fact, Source, Strike, What};
use jagged_pin_core::record::{Refusal, TypedEntry, next_fact, understand_entry};
use jagged_pin_core::shells::{Half, MoveKind, OnShelf, ShellFamily};
use jagged_pin_core::units::Timestamp;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_demo::{builds, families, person};
use jagged_pin_mariadb::testing::TestDatabase;
use jagged_pin_store::{NewAccount, Opened, RecordError, SessionRow, ShelfMove, Store, StoreError};
use uuid::Uuid;

type Outcome = Result<(), Box<dyn std::error::Error>>;

fn demo(code: &str) -> Build {
    let all = builds().unwrap_or_default();
    all.into_iter().find(|b| b.code == code).unwrap_or_else(|| unreachable!("the demo has {code}"))
}

async fn store() -> Result<(Store, TestDatabase), Box<dyn std::error::Error>> {
    let database = TestDatabase::new()?;
    let store = Store::connect(&database.url()).await?;
    for name in ["oduya", "wick"] {
        let (person, login) = (person(name), name.to_owned());
        store.make_account(&NewAccount { person, login, password_hash: "x".into(), role: "assembler".into() }).await?;
    }
    Ok((store, database))
}

/// The next fact of a build: a journal reading at M1.
fn touch(build: &Build, id: Uuid, text: &str) -> Result<Fact, Refusal> {
    let typed = TypedEntry {
        station: Place::main(1),
        characteristic: Characteristic::MAIN_JOURNAL,
        position: Characteristic::MAIN_JOURNAL.positions()[0].position,
        read: Read::Dial,
        reference: None,
        gauge: "mic-tenths".into(),
        text: text.into(),
        unit: Unit::Inch,
        source: Source::Typed,
        part: None,
        taken: None,
        temperatures: None,
        blind: None,
        in_room: None,
        zero: None,
    };
    let reading = understand_entry(build, build, &typed, false)?.reading;
    next_fact(build, id, Timestamp(1), person("oduya"), What::Reading(reading))
}

#[tokio::test(flavor = "multi_thread")]
async fn every_kind_of_fact_comes_back_as_it_was_kept() -> Outcome {
    let (store, database) = store().await?;
    for build in builds()? {
        assert_eq!(store.open_build(&build).await?, Opened::New);
        // Another store has nothing kept and reads it all from the tables.
        let fresh = Store::connect(&database.url()).await?;
        assert_eq!(*fresh.build(build.id).await?, build);
        assert_eq!(fresh.build_id(&build.code).await?, build.id);
    }
    assert_eq!(store.sequence().await?.len(), builds()?.len());
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_build_opened_twice_is_there_once() -> Outcome {
    let (store, _database) = store().await?;
    let build = demo("SL-046");
    assert_eq!(store.open_build(&build).await?, Opened::New);
    assert_eq!(store.open_build(&build).await?, Opened::Again);
    let renamed = Build { code: "SL-999".into(), ..build.clone() };
    assert!(matches!(store.open_build(&renamed).await, Err(StoreError::BuildExists)));
    let same_name = Build { id: Uuid::from_u128(7), facts: Vec::new(), ..build };
    assert!(matches!(store.open_build(&same_name).await, Err(StoreError::CodeTaken)));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_import_that_fails_half_way_leaves_nothing() -> Outcome {
    let (store, _database) = store().await?;
    let build = demo("SL-041");
    store.open_build(&build).await?;
    // A copy under another id and name whose facts are known from the first one.
    let copy = Build { id: Uuid::from_u128(8), code: "COPY".into(), ..build };
    assert!(matches!(store.open_build(&copy).await, Err(StoreError::IdReused)));
    assert!(matches!(store.build_id("COPY").await, Err(StoreError::NotFound)));
    assert_eq!(store.sequence().await?.len(), 1);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_fact_sent_twice_is_kept_once_and_its_id_is_not_for_another() -> Outcome {
    let (store, _database) = store().await?;
    let build = demo("SL-046");
    store.open_build(&build).await?;
    let id = Uuid::from_u128(1);
    let send = async |same: bool| store.record(build.id, id, move |_| same, move |b| touch(b, id, "2.6238")).await;
    let first = send(true).await.map_err(|e| e.to_string())?;
    let again = send(true).await.map_err(|e| e.to_string())?;
    assert_eq!((first.seq, first.again, again.seq, again.again), (3, false, 3, true));
    assert_eq!(again.build.facts.len(), 3);
    assert!(matches!(send(false).await, Err(RecordError::Store(StoreError::IdReused))));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_refused_leaves_no_trace() -> Outcome {
    let (store, _database) = store().await?;
    let build = demo("SL-046");
    store.open_build(&build).await?;
    let id = Uuid::from_u128(2);
    let refused = store.record(build.id, id, |_| true, move |b| touch(b, id, "26238")).await;
    assert!(refused.is_ok(), "five digits are a tail");
    let id = Uuid::from_u128(3);
    let refused = store.record(build.id, id, |_| true, move |b| touch(b, id, "9.9")).await;
    assert!(matches!(refused, Err(RecordError::Refused(Refusal::Entry(_)))));
    assert_eq!(store.build(build.id).await?.seq(), 3);
    let nowhere = store.record(Uuid::from_u128(404), id, |_| true, move |b| touch(b, id, "38")).await;
    assert!(matches!(nowhere, Err(RecordError::Store(StoreError::NotFound))));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn twenty_hands_on_two_servers_lose_nothing_and_count_without_gaps() -> Outcome {
    let (store, database) = store().await?;
    let other = Store::connect(&database.url()).await?;
    let build = demo("SL-046");
    store.open_build(&build).await?;
    let mut hands = tokio::task::JoinSet::new();
    for n in 0..20u128 {
        let store = if n % 2 == 0 { store.clone() } else { other.clone() };
        let build = build.id;
        hands.spawn(async move {
            for touched in 0..5u128 {
                let id = Uuid::from_u128(1_000 + n * 10 + touched);
                store.record(build, id, |_| true, move |b| touch(b, id, "2.6238")).await.map_err(|e| e.to_string())?;
            }
            Ok::<(), String>(())
        });
    }
    while let Some(done) = hands.join_next().await {
        done??;
    }
    for store in [store, other] {
        let now = store.build(build.id).await?;
        let seqs: Vec<u32> = now.facts.iter().map(|f| f.seq).collect();
        assert_eq!(seqs, (1..=102).collect::<Vec<_>>());
        let ids: BTreeSet<Uuid> = now.facts.iter().map(|f| f.id).collect();
        assert_eq!(ids.len(), 102);
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn only_one_of_two_strikes_at_once_is_taken() -> Outcome {
    let (store, _database) = store().await?;
    let build = demo("SL-041");
    store.open_build(&build).await?;
    let reading = build.readings().next().map(|(f, _)| f.id).ok_or("a reading")?;
    let strike = |n: u128| {
        let (store, build, id) = (store.clone(), build.id, Uuid::from_u128(n));
        async move {
            let what = What::Strike(Strike { reading, reason: "dropped the mic".into() });
            store.record(build, id, |_| true, move |b| next_fact(b, id, Timestamp(1), person("wick"), what)).await
        }
    };
    let (a, b) = tokio::join!(tokio::spawn(strike(1)), tokio::spawn(strike(2)));
    let taken = [a?, b?].into_iter().filter(Result::is_ok).count();
    assert_eq!(taken, 1);
    assert_eq!(store.build(build.id).await?.struck().len(), build.struck().len() + 1);
    Ok(())
}

fn halves(by: i32, n: u128, class: &str) -> ShelfMove {
    ShelfMove {
        id: Uuid::from_u128(n),
        family: "CM".into(),
        half: Half::Upper,
        class: class.into(),
        undersize: Length::ZERO,
        kind: if by < 0 { MoveKind::Picked } else { MoveKind::Received },
        by,
        reason: "for SL-041".into(),
        who: person("oduya"),
        at: Timestamp(1),
    }
}

/// A shop with one family on its shelf: five standard uppers.
async fn shelf(store: &Store) -> Outcome {
    let family = families().into_iter().find(|f| f.id == "CM").ok_or("a family")?;
    let on = OnShelf { half: Half::Upper, class: "std".into(), undersize: Length::ZERO, count: 5, place: "A1".into() };
    store.add_family(0, &family, &[on]).await?;
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_fact_and_what_it_takes_from_the_shelf_are_kept_together_or_not_at_all() -> Outcome {
    let (store, _database) = store().await?;
    let build = demo("SL-041");
    store.open_build(&build).await?;
    shelf(&store).await?;
    let strike = |n: usize| build.readings().nth(n).map(|(f, _)| f.id).ok_or("a reading");
    let record = async |n: u128, reading: Uuid, moves: Vec<ShelfMove>| {
        let id = Uuid::from_u128(n);
        let what = What::Strike(Strike { reading, reason: "dropped the mic".into() });
        let decide = move |b: &Build| Ok((vec![next_fact(b, id, Timestamp(1), person("oduya"), what)?], moves));
        store.record_moving::<Refusal, _, _>(build.id, id, |_| true, decide).await
    };
    let count = async || store.shelf("CM").await.map(|s| s.iter().find(|s| s.class == "std").map(|s| s.count));
    // The second half of it fails: the first is undone, and so is the fact.
    let short = record(1, strike(0)?, vec![halves(-2, 11, "std"), halves(-1, 12, "+1")]).await;
    let missing = |r: &Result<_, RecordError<Refusal>>| {
        matches!(r, Err(RecordError::Store(StoreError::NotOnShelf { left: 0, .. })))
    };
    assert!(missing(&short));
    assert_eq!(count().await?, Some(5));
    assert_eq!(store.build(build.id).await?.seq(), build.seq());
    assert!(store.shell_moves("CM", 9).await?.is_empty());
    assert!(record(3, strike(1)?, vec![halves(-2, 14, "std"), halves(7, 15, "+1")]).await.is_ok());
    assert_eq!(count().await?, Some(3));
    assert_eq!(store.build(build.id).await?.seq(), build.seq() + 1);
    // A fact that is refused takes nothing.
    let again = record(4, strike(1)?, vec![halves(-1, 16, "std")]).await;
    assert!(matches!(again, Err(RecordError::Refused(Refusal::AlreadyStruck))));
    assert_eq!(count().await?, Some(3));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_family_is_kept_only_over_the_version_that_was_seen() -> Outcome {
    let (store, _database) = store().await?;
    shelf(&store).await?;
    let known = store.shell_families().await?.into_iter().next().ok_or("a family")?;
    assert_eq!(known.version, 1);
    let renamed = ShellFamily { name: "Curlew mains, again".into(), ..known.family.clone() };
    assert!(store.put_family(1, &renamed).await?);
    assert!(!store.put_family(1, &known.family).await?, "somebody was faster");
    assert!(!store.put_family(0, &known.family).await?, "there is one of that name");
    let now = store.shell_families().await?;
    assert_eq!((now[0].version, now[0].family.name.as_str()), (2, "Curlew mains, again"));
    let other = ShellFamily { id: "CY".into(), ..renamed };
    assert!(store.put_family(0, &other).await?);
    let place =
        OnShelf { half: Half::Lower, class: "+1".into(), undersize: Length::ZERO, count: 0, place: "E7".into() };
    store.put_place("CY", &place).await?;
    assert_eq!(store.shelf("CY").await?, [place]);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn sessions_end_and_failures_are_counted_until_a_success() -> Outcome {
    let (store, _database) = store().await?;
    let row = SessionRow { id: "ab".repeat(16), data: "{}".into(), expires_at: 100 };
    assert!(store.create_session(&row).await?);
    assert!(!store.create_session(&row).await?);
    assert_eq!(store.session(&row.id, 99).await?, Some(row.clone()));
    assert_eq!(store.session(&row.id, 100).await?, None);
    store.clear_sessions(100).await?;
    assert!(store.create_session(&row).await?);
    store.delete_session(&row.id).await?;
    assert_eq!(store.session(&row.id, 1).await?, None);

    store.count_failure("oduya", 5).await?;
    store.count_failure("oduya", 9).await?;
    assert_eq!(store.failures("oduya").await?.map(|f| (f.failures, f.last_at)), Some((2, 9)));
    store.forget_failures("oduya").await?;
    assert_eq!(store.failures("oduya").await?, None);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn people_met_in_an_import_cannot_sign_in() -> Outcome {
    let (store, _database) = store().await?;
    store.open_build(&demo("SL-041")).await?;
    assert_eq!(store.accounts().await?.len(), 2, "those who had an account before");
    assert_eq!(store.account(person("harrow").id).await?, None);
    Ok(())
}

#[tokio::test]
async fn a_database_that_is_not_there_says_so() {
    let refused = Store::connect("mysql://nobody:x@127.0.0.1:1/nothing").await;
    assert!(matches!(refused, Err(StoreError::Connection(_))));
    let odd = Store::connect("mysql://nobody:x@127.0.0.1:1/no-thing;").await;
    assert!(matches!(odd, Err(StoreError::Connection(_))));
}
