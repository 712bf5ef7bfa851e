//! What every rig begins with, made once: a stopped database with the demo shop in it, and the shop's key beside it.
use std::fs;
use std::path::Path;
use std::sync::{Arc, Mutex, PoisonError, Weak};

use jagged_pin_mariadb::{MariaDb, free_port};
use tempfile::TempDir;

use crate::Step;
use crate::process::{NO_GAUGES, serve};

static SHARED: Mutex<Weak<Template>> = Mutex::new(Weak::new());

/// A folder to copy. Making the demo shop takes many times as long as copying it.
#[derive(Debug)]
pub(crate) struct Template(TempDir);

impl Template {
    /// The one that the rigs of this process share; it goes with the last of them.
    pub fn shared() -> Step<Arc<Self>> {
        let mut shared = SHARED.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(made) = shared.upgrade() {
            return Ok(made);
        }
        let made = Arc::new(Self::made()?);
        *shared = Arc::downgrade(&made);
        Ok(made)
    }

    /// One of its own, with a key of its own.
    pub fn made() -> Step<Self> {
        let folder = TempDir::new()?;
        let database = MariaDb::start(folder.path())?;
        // It listens once the demo shop is whole.
        drop(serve(&database, folder.path(), (free_port()?, true), NO_GAUGES)?);
        drop(database);
        Ok(Template(folder))
    }

    /// A folder of one's own with the same in it.
    pub fn copy(&self) -> Step<TempDir> {
        let folder = TempDir::new()?;
        copy(self.0.path(), folder.path())?;
        Ok(folder)
    }
}

fn copy(from: &Path, to: &Path) -> Step {
    for entry in fs::read_dir(from)? {
        let entry = entry?;
        let there = to.join(entry.file_name());
        if entry.file_type()?.is_dir() {
            fs::create_dir_all(&there)?;
            copy(&entry.path(), &there)?;
        } else {
            fs::copy(entry.path(), there)?;
        }
    }
    Ok(())
}
