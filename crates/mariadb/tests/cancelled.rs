//! A first start that is given up leaves nothing running, whatever it was doing.
use std::error::Error;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::thread::{sleep, spawn};
use std::time::Duration;

use jagged_pin_mariadb::{MariaDb, MariaDbError, processes_over};
use tempfile::TempDir;

/// Longer from time to time: the script is at another of its steps.
const LATER: [u64; 6] = [0, 5, 20, 60, 100, 150];

#[test]
fn a_start_given_up_while_it_makes_the_database_leaves_nothing_running() -> Result<(), Box<dyn Error>> {
    for later in LATER {
        let folder = TempDir::new()?;
        let home = folder.path().canonicalize()?;
        let cancelled = Arc::new(AtomicBool::new(false));
        let (over, ask) = (home.clone(), Arc::clone(&cancelled));
        let asking = spawn(move || {
            while processes_over(&over).is_empty() {
                sleep(Duration::from_millis(1));
            }
            sleep(Duration::from_millis(later));
            ask.store(true, Ordering::Relaxed);
        });
        let given_up = MariaDb::start_unless(&home, &cancelled);
        let left = processes_over(&home);
        assert!(matches!(given_up, Err(MariaDbError::Cancelled)), "{later} ms: {given_up:?}");
        assert!(left.is_empty(), "{later} ms: {left:?}");
        asking.join().map_err(|_| "whoever asked failed")?;
    }
    Ok(())
}
