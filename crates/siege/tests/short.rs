//! A short siege; the long one is the program.
use jagged_pin_siege::{Step, ends, first_starts, interrupts, storm, tables, upgrades, work};

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
async fn a_storm_of_sign_ins_is_answered_within_the_memory_of_a_few() -> Step {
    let storm = storm(120).await?;
    assert_eq!((storm.judged + storm.put_off, storm.unanswered), (storm.tries, 0), "{storm:?}");
    // Two are hashed at once, 19 MiB each; a hundred and twenty would be 2.3 GB.
    assert!(storm.most_kb < storm.before_kb + 300_000, "{storm:?}");
    Ok(())
}
