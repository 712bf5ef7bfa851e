//! Killed while it starts for the first time, while its tables are made, and while those of the version before are carried over.
use std::io::Read;
use std::process::{Command, Stdio};
use std::thread::sleep;
use std::time::{Duration, Instant};

use flate2::read::GzDecoder;
use jagged_pin_e2e::binary;
use jagged_pin_mariadb::MariaDbError;
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

/// What the version before had written of its demo shop.
fn version_before() -> Step<String> {
    let mut text = String::new();
    GzDecoder::new(&include_bytes!("../../store/tests/frozen/before-the-house.sql.gz")[..])
        .read_to_string(&mut text)?;
    Ok(text)
}

/// Kills the making of the tables at random moments, and has it done again.
///
/// # Errors
/// When the siege itself fails.
pub fn tables(times: usize, rng: &mut fastrand::Rng) -> Step<Tally> {
    Ok(cut_off(times, rng, TestDatabase::new)?.0)
}

/// Kills the carrying over of what the version before had written, has it done again, and holds what is there then against a
/// database that was carried over in peace. A fact that is gone, or there twice, is counted.
///
/// # Errors
/// When the siege itself fails.
pub fn upgrades(times: usize, rng: &mut fastrand::Rng) -> Step<Tally> {
    let dump = version_before()?;
    let (mut tally, databases) = cut_off(times, rng, || TestDatabase::filled(&dump))?;
    let Some((in_peace, cut)) = databases.split_first() else { return Ok(tally) };
    let written = facts_of(in_peace)?;
    if written.is_empty() {
        return Err("nothing was carried over".into());
    }
    for database in cut {
        let found = facts_of(database)?;
        tally.lost += written.iter().filter(|fact| !found.contains(fact)).count();
        tally.doubled += found.len().saturating_sub(written.len());
    }
    Ok(tally)
}

/// Every fact there is, with where it stands and what it says.
fn facts_of(database: &TestDatabase) -> Step<Vec<String>> {
    let all = database.query(
        "SELECT CONCAT_WS('|', build_id, f.seq, f.id, at, by_id, station, feature, axial, angle, size_nm, raw, kind, detail) \
         FROM facts f LEFT JOIN readings USING (build_id, seq) LEFT JOIN notes USING (build_id, seq)",
    )?;
    let mut facts: Vec<String> = all.lines().map(str::to_owned).collect();
    facts.sort_unstable();
    Ok(facts)
}

/// Has tables made on new databases, the first in peace, the others killed at random moments and done again.
fn cut_off(
    times: usize,
    rng: &mut fastrand::Rng,
    new: impl Fn() -> Result<TestDatabase, MariaDbError>,
) -> Step<(Tally, Vec<TestDatabase>)> {
    let first = new()?;
    let began = Instant::now();
    if !tables_of(&first.url())?.status()?.success() {
        return Err("the tables cannot be made at all".into());
    }
    let within = u64::try_from(began.elapsed().as_millis())?;
    let mut tally = Tally::default();
    let mut databases = vec![first];
    for _ in 0..times {
        let database = new()?;
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
        databases.push(database);
    }
    Ok((tally, databases))
}
