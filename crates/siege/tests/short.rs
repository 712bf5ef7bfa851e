//! A short siege; the long one is the program.
use jagged_pin_siege::{
    Load, Step, crush, cut_imports, ends, first_starts, interrupts, storm, tables, tampering, upgrades, work,
};

#[test]
fn a_first_start_that_was_killed_is_made_good_by_the_next() -> Step {
    let tally = first_starts(3, &mut fastrand::Rng::with_seed(11))?;
    assert!(tally.held(), "{tally:?}");
    Ok(())
}

#[test]
fn tables_that_were_half_made_are_made_whole() -> Step {
    let tally = tables(8, &mut fastrand::Rng::with_seed(12))?;
    assert!(tally.held(), "{tally:?}");
    Ok(())
}

#[test]
fn what_the_version_before_wrote_is_carried_over_whole() -> Step {
    let tally = upgrades(5, &mut fastrand::Rng::with_seed(15))?;
    assert!(tally.held(), "{tally:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_was_acknowledged_outlives_every_kill() -> Step {
    let tally = work(6, &mut fastrand::Rng::with_seed(13)).await?;
    assert!(tally.held() && tally.acknowledged > 0, "{tally:?}");
    Ok(())
}

#[test]
fn whoever_interrupts_a_start_leaves_nothing_behind() -> Step {
    let tally = interrupts(5, &mut fastrand::Rng::with_seed(14))?;
    assert!(tally.held(), "{tally:?}");
    Ok(())
}

#[test]
fn connections_that_hang_do_not_keep_it_from_ending() -> Step {
    let tally = ends(1, 60)?;
    assert!(tally.held(), "{tally:?}");
    // It is told to end within ten seconds; a machine under load may take somewhat longer.
    assert!(tally.longest_ms < 30_000, "{tally:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn an_import_that_was_cut_off_is_whole_or_not_there() -> Step {
    let tally = cut_imports(4, &mut fastrand::Rng::with_seed(16)).await?;
    assert!(tally.held(), "{tally:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn nothing_that_seals_stand_on_is_changed_in_silence() -> Step {
    let tampered = tampering(usize::MAX).await?;
    assert!(tampered.changes > 20 && tampered.silent.is_empty() && !tampered.false_alarm, "{tampered:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn whatever_one_apprentice_and_some_strangers_ask_for_the_others_go_on_working() -> Step {
    let load = Load { slow_readers: 80, links: 40, searches: 3, pictures: 1, rounds: 3 };
    let came = crush(load).await?;
    assert_eq!([came.healthy.0, came.kept.0, came.signed_in.0], [load.rounds; 3], "{came:?}");
    assert_eq!((came.searches[2], came.pictures[2]), (0, 0), "done or put off: {came:?}");
    assert!(came.links < load.links, "one person has a few: {came:?}");
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_storm_of_sign_ins_is_answered_within_the_memory_of_a_few() -> Step {
    let storm = storm(120).await?;
    assert_eq!((storm.judged + storm.put_off, storm.unanswered), (storm.tries, 0), "{storm:?}");
    // Two are hashed at once, 19 MiB each; a hundred and twenty would be 2.3 GB.
    assert!(storm.most_kb < storm.before_kb + 300_000, "{storm:?}");
    Ok(())
}
