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
use jagged_pin_store::{
    Failures, NewAccount, Opened, RecordError, Sent, SessionRow, ShelfMove, ShopNote, Store, StoreError,
};
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
        store
            .make_account(
                &NewAccount { person, login, password_hash: "x".into(), role: "assembler".into() },
                Timestamp(7),
            )
            .await?;
    }
    Ok((store, database))
}

fn sent(id: Uuid) -> Sent {
    Sent { id, by: person("oduya").id }
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
    let send =
        async |same: bool| store.record(build.id, sent(id), move |_| same, move |b| touch(b, id, "2.6238")).await;
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
    let refused = store.record(build.id, sent(id), |_| true, move |b| touch(b, id, "26238")).await;
    assert!(refused.is_ok(), "five digits are a tail");
    let id = Uuid::from_u128(3);
    let refused = store.record(build.id, sent(id), |_| true, move |b| touch(b, id, "9.9")).await;
    assert!(matches!(refused, Err(RecordError::Refused(Refusal::Entry(_)))));
    assert_eq!(store.build(build.id).await?.seq(), 3);
    let nowhere = store.record(Uuid::from_u128(404), sent(id), |_| true, move |b| touch(b, id, "38")).await;
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
                store
                    .record(build, sent(id), |_| true, move |b| touch(b, id, "2.6238"))
                    .await
                    .map_err(|e| e.to_string())?;
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
            let sent = Sent { id, by: person("wick").id };
            store.record(build, sent, |_| true, move |b| next_fact(b, id, Timestamp(1), person("wick"), what)).await
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
        store.record_moving::<Refusal, _, _>(build.id, sent(id), |_| true, decide).await
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
    assert_eq!(store.session(&row.id, 99, 200).await?, Some(row.clone()));
    assert_eq!(store.session(&row.id, 100, 200).await?, None);
    assert_eq!(store.session(&row.id, 5, 99).await?, None, "a clock that was ahead makes no session that lasts");
    store.clear_sessions(100, 200).await?;
    assert!(store.create_session(&row).await?);
    store.clear_sessions(5, 99).await?;
    assert!(store.create_session(&row).await?);
    store.delete_session(&row.id).await?;
    assert_eq!(store.session(&row.id, 1, 200).await?, None);

    let three = |f: Failures| f.failures < 3;
    let mut counted = Vec::new();
    for now in [5, 7, 9, 11] {
        counted.push(store.count_try("oduya", "address here", now, three).await?);
    }
    assert_eq!(counted, [Ok(()), Ok(()), Ok(()), Err(Failures { failures: 3, last_at: 9 })]);
    assert_eq!(store.count_try("oduya", "address elsewhere", 12, three).await?, Ok(()), "another place, another count");
    store.forget_tries("oduya", "address here").await?;
    assert_eq!(store.count_try("oduya", "address here", 13, three).await?, Ok(()));
    store.clear_tries(13, 0).await?;
    let none = |f: Failures| f.failures == 0;
    assert_eq!(store.count_try("oduya", "address elsewhere", 14, none).await?, Ok(()), "what is old is forgotten");
    assert!(store.count_try("oduya", "address here", 14, none).await?.is_err(), "what is new is not");
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

#[tokio::test(flavor = "multi_thread")]
async fn fifty_guesses_at_once_are_counted_before_any_is_judged() -> Outcome {
    let (store, _database) = store().await?;
    let mut guesses = tokio::task::JoinSet::new();
    for _ in 0..50 {
        let store = store.clone();
        guesses.spawn(async move { store.count_try("oduya", "address here", 1, |f| f.failures < 3).await });
    }
    let mut judged = 0;
    while let Some(guess) = guesses.join_next().await {
        judged += usize::from(guess??.is_ok());
    }
    assert_eq!(judged, 3);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn the_same_identifier_from_somebody_else_is_another_thing() -> Outcome {
    let (store, _database) = store().await?;
    let build = demo("SL-046");
    store.open_build(&build).await?;
    let id = Uuid::from_u128(71);
    let first = store.record(build.id, sent(id), |_| true, move |b| touch(b, id, "2.6238")).await;
    assert!(first.is_ok());
    let wick = Sent { id, by: person("wick").id };
    let second = store.record(build.id, wick, |_| true, move |b| touch(b, id, "2.6238")).await;
    assert!(matches!(second, Err(RecordError::Store(StoreError::IdReused))));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_backup_that_was_restored_under_a_running_server_is_noticed() -> Outcome {
    let (store, database) = store().await?;
    let build = demo("SL-046");
    store.open_build(&build).await?;
    let put = async |n: u128, text: &'static str| {
        let id = Uuid::from_u128(n);
        store.record(build.id, sent(id), |_| true, move |b| touch(b, id, text)).await.map_err(|e| e.to_string())
    };
    put(81, "2.6238").await?;
    put(82, "2.6239").await?;
    // Back to the state before both, behind the store's back; then others write as many.
    database.run("DELETE FROM readings WHERE seq > 2; DELETE FROM facts WHERE seq > 2; UPDATE builds SET seq = 2")?;
    assert_eq!(store.build(build.id).await?.facts.len(), 2);
    let other = Store::connect(&database.url()).await?;
    for n in [91_u128, 92] {
        let id = Uuid::from_u128(n);
        other.record(build.id, sent(id), |_| true, move |b| touch(b, id, "2.6237")).await.map_err(|e| e.to_string())?;
    }
    let seen: Vec<Uuid> = store.build(build.id).await?.facts.iter().skip(2).map(|f| f.id).collect();
    assert_eq!(seen, [91, 92].map(Uuid::from_u128));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_row_that_cannot_be_read_is_said_and_a_missing_one_leaves_the_others() -> Outcome {
    let (store, database) = store().await?;
    let build = demo("SL-041");
    store.open_build(&build).await?;
    let again = Store::connect(&database.url()).await?;
    database.run("DELETE FROM readings WHERE seq = (SELECT MAX(seq) FROM (SELECT seq FROM readings) AS r)")?;
    let seen = again.build(build.id).await?;
    assert_eq!((seen.facts.len(), seen.seq()), (build.facts.len() - 1, build.seq()));
    for damage in ["feature = 'colour'", "size_nm = 9223372036854775807"] {
        database.run(&format!("UPDATE readings SET {damage} ORDER BY seq LIMIT 1"))?;
        let damaged = Store::connect(&database.url()).await?.build(build.id).await;
        assert!(matches!(damaged, Err(StoreError::Unreadable(_))), "{damage}");
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_row_that_somebody_holds_is_waited_for_briefly_and_other_builds_go_on() -> Outcome {
    let (store, database) = store().await?;
    let (held, free) = (demo("SL-046"), demo("SL-044"));
    store.open_build(&held).await?;
    store.open_build(&free).await?;
    let holder = database.hold(&format!("SELECT seq FROM builds WHERE id = '{}' FOR UPDATE", held.id))?;
    let mut waiting = tokio::task::JoinSet::new();
    for n in 0..24_u128 {
        let (store, id) = (store.clone(), Uuid::from_u128(500 + n));
        waiting.spawn(async move { store.record(held.id, sent(id), |_| true, move |b| touch(b, id, "2.6238")).await });
    }
    // All of them wait; a pool of sixteen connections is not theirs.
    let id = Uuid::from_u128(499);
    let strike = move |b: &Build| {
        let reading = b.readings().next().map(|(f, _)| f.id).unwrap_or_default();
        let what = What::Strike(Strike { reading, reason: "dropped the mic".into() });
        next_fact(b, id, Timestamp(1), person("oduya"), what)
    };
    assert!(store.record(free.id, sent(id), |_| true, strike).await.is_ok());
    while let Some(done) = waiting.join_next().await {
        assert!(matches!(done?, Err(RecordError::Store(StoreError::Held))));
    }
    drop(holder);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_build_that_was_removed_is_gone_with_everything_and_the_log_says_so() -> Outcome {
    let (store, database) = store().await?;
    let build = demo("SL-041");
    store.open_build(&build).await?;
    let detail = serde_json::json!({ "code": build.code, "reason": "opened twice" });
    let note = ShopNote { by: Some(person("wick")), at: Timestamp(5), kind: "build_removed", detail };
    store.remove_build(build.id, &note).await?;
    assert!(matches!(store.build(build.id).await, Err(StoreError::NotFound)));
    assert!(matches!(store.build_id(&build.code).await, Err(StoreError::NotFound)));
    for table in ["facts", "readings", "strikes", "notes", "target_changes", "signatures", "concessions", "changes"] {
        assert_eq!(database.query(&format!("SELECT COUNT(*) FROM {table}"))?.trim(), "0", "{table}");
    }
    let log = store.shop_log(None, 9).await?;
    assert_eq!(log.first().map(|l| (l.kind.as_str(), l.by.clone())), Some(("build_removed", Some(person("wick")))));
    // The same may come again, from a file say.
    assert_eq!(store.open_build(&build).await?, Opened::New);
    Ok(())
}
