//! Killed while it starts for the first time, and while its tables are made.
use std::process::{Command, Stdio};
use std::thread::sleep;
use std::time::{Duration, Instant};

use jagged_pin_e2e::binary;
use jagged_pin_mariadb::testing::TestDatabase;
use rustix::process::Signal;

use crate::{Besieged, Killed, Step, Tally};

/// How long an undisturbed first start takes.
fn undisturbed() -> Step<Duration> {
    let mut shop = Besieged::new()?;
    shop.begin()?;
    let took = shop.comes_up()?;
    shop.end(Signal::TERM)?;
    Ok(took)
}

/// Kills the first start at random moments, and starts again.
///
/// # Errors
/// When the siege itself fails.
pub fn first_starts(times: usize, rng: &mut fastrand::Rng) -> Step<Tally> {
    let within = u64::try_from(undisturbed()?.as_millis())?;
    let mut tally = Tally::default();
    for _ in 0..times {
        let mut shop = Besieged::new()?;
        shop.begin()?;
        sleep(Duration::from_millis(rng.u64(1..within.max(2))));
        shop.kill(if rng.bool() { Killed::Server } else { Killed::Everything });
        shop.begin()?;
        tally.times += 1;
        match shop.comes_up() {
            Ok(took) => tally.longest_ms = tally.longest_ms.max(took.as_millis()),
            Err(said) => {
                tally.hands += 1;
                tally.said.push(said);
            }
        }
        tally.left += shop.end(Signal::TERM)?.1;
    }
    Ok(tally)
}

fn tables_of(url: &str) -> Step<Command> {
    let mut command = Command::new(binary("jagged-pin")?);
    command.arg("tables").env("JAGGED_PIN_DATABASE_URL", url).stdin(Stdio::null()).stdout(Stdio::null());
    Ok(command)
}

/// Kills the making of the tables at random moments, and has it done again.
///
/// # Errors
/// When the siege itself fails.
pub fn tables(times: usize, rng: &mut fastrand::Rng) -> Step<Tally> {
    let first = TestDatabase::new()?;
    let began = Instant::now();
    if !tables_of(&first.url())?.status()?.success() {
        return Err("the tables cannot be made at all".into());
    }
    let within = u64::try_from(began.elapsed().as_millis())?;
    let mut tally = Tally::default();
    for _ in 0..times {
        let database = TestDatabase::new()?;
        let mut cut = tables_of(&database.url())?.stderr(Stdio::null()).spawn()?;
        sleep(Duration::from_millis(rng.u64(1..within.max(2))));
        // It fails only when it is done already.
        let _ = cut.kill();
        cut.wait()?;
        let began = Instant::now();
        let again = tables_of(&database.url())?.stderr(Stdio::piped()).output()?;
        tally.times += 1;
        tally.longest_ms = tally.longest_ms.max(began.elapsed().as_millis());
        if !again.status.success() {
            tally.hands += 1;
            tally.said.push(String::from_utf8_lossy(&again.stderr).into_owned());
        }
    }
    Ok(tally)
}
