//! Keeping a private database running while the application does.
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex, PoisonError};
use std::thread::{self, JoinHandle, sleep};
use std::time::Duration;

use jagged_pin_mariadb::{MariaDb, MariaDbError};

use crate::stopping::Stopping;

/// How often it is looked after.
const EVERY: Duration = Duration::from_millis(300);
/// Pauses before it is started again: longer each time it does not come up.
const PAUSES: [u64; 5] = [0, 1, 2, 5, 10];

/// A database that is started again when it ends by itself. Dropping it stops it.
pub struct Keeper {
    database: Arc<Mutex<MariaDb>>,
    over: Arc<AtomicBool>,
    looking: Option<JoinHandle<()>>,
}

fn start_again(database: &Mutex<MariaDb>, over: &AtomicBool) -> Result<(), MariaDbError> {
    let mut last = Ok(());
    for pause in PAUSES {
        for _ in 0..pause * 10 {
            if over.load(Ordering::Relaxed) {
                return Ok(());
            }
            sleep(Duration::from_millis(100));
        }
        last = database.lock().unwrap_or_else(PoisonError::into_inner).start_again(over);
        if last.is_ok() {
            break;
        }
    }
    last
}

impl Keeper {
    /// Looks after a database until it is dropped; one that cannot be started any more asks everything to stop.
    pub fn of(database: MariaDb, stopping: &Stopping) -> Self {
        let (database, over) = (Arc::new(Mutex::new(database)), Arc::new(AtomicBool::new(false)));
        let (kept, ended, stopping) = (Arc::clone(&database), Arc::clone(&over), stopping.clone());
        let looking = thread::spawn(move || {
            while !ended.load(Ordering::Relaxed) {
                sleep(EVERY);
                if ended.load(Ordering::Relaxed) || !kept.lock().unwrap_or_else(PoisonError::into_inner).has_ended() {
                    continue;
                }
                eprintln!("  database   it ended by itself; starting it again");
                match start_again(&kept, &ended) {
                    Ok(()) => {}
                    Err(MariaDbError::Cancelled) => break,
                    Err(error) => {
                        eprintln!("jagged-pin: the database cannot be started again: {error}");
                        stopping.ask();
                        break;
                    }
                }
            }
        });
        Keeper { database, over, looking: Some(looking) }
    }

    /// Address of the database `name`.
    pub fn url(&self, name: &str) -> String {
        self.database.lock().unwrap_or_else(PoisonError::into_inner).url(name)
    }
}

impl Drop for Keeper {
    fn drop(&mut self) {
        self.over.store(true, Ordering::Relaxed);
        if let Some(looking) = self.looking.take() {
            // It ends within a moment of being told; the database is stopped after it, with the last who holds it.
            let _ = looking.join();
        }
    }
}
