//! One server for all tests of a process, stopped with the last of them.
use std::io::{Read, Write};
use std::path::Path;
use std::process::{self, Child};
use std::sync::atomic::{AtomicBool, AtomicU32, Ordering};
use std::sync::{Arc, Mutex, PoisonError, Weak};

use tempfile::TempDir;

use crate::{MariaDb, MariaDbError};

static SHARED: Mutex<Weak<Server>> = Mutex::new(Weak::new());
static COUNT: AtomicU32 = AtomicU32::new(0);

#[derive(Debug)]
struct Server {
    // Stopped before its folder goes.
    database: MariaDb,
    _folder: TempDir,
}

impl Server {
    fn new(options: Vec<String>) -> Result<Self, MariaDbError> {
        let folder = TempDir::new().map_err(crate::io_error("making a temporary folder"))?;
        Ok(Server { database: begin(folder.path(), options)?, _folder: folder })
    }
}

/// A server with two accounts more, as a careful shop gives them to the application: one that may do nothing but work with
/// rows, and one that may change tables as well. Both have just what the README names.
fn begin(home: &Path, options: Vec<String>) -> Result<MariaDb, MariaDbError> {
    let port = crate::free_port().map_err(crate::io_error("looking for a free port"))?;
    let rows = |password: &str| {
        format!(
            "CREATE USER IF NOT EXISTS 'jagged_rows'@'127.0.0.1' IDENTIFIED BY '{password}';\n\
             GRANT SELECT, INSERT, UPDATE, DELETE ON `test\\_%`.* TO 'jagged_rows'@'127.0.0.1';\n\
             CREATE USER IF NOT EXISTS 'jagged_tables'@'127.0.0.1' IDENTIFIED BY '{password}';\n\
             GRANT SELECT, INSERT, UPDATE, DELETE, CREATE, ALTER, DROP, INDEX, REFERENCES ON `test\\_%`.*\n\
             TO 'jagged_tables'@'127.0.0.1';\n"
        )
    };
    MariaDb::begin(home, port, options, rows, &AtomicBool::new(false))
}

/// An empty database of a test's own, on the server that the tests of this process share.
#[derive(Debug)]
pub struct TestDatabase {
    server: Arc<Server>,
    name: String,
}

impl TestDatabase {
    /// A new database.
    ///
    /// # Errors
    /// [`MariaDbError`] when the server does not come up.
    pub fn new() -> Result<Self, MariaDbError> {
        let mut shared = SHARED.lock().unwrap_or_else(PoisonError::into_inner);
        let server = match shared.upgrade() {
            Some(server) => server,
            None => {
                let server = Arc::new(Server::new(Vec::new())?);
                *shared = Arc::downgrade(&server);
                server
            }
        };
        Ok(Self::on(server))
    }

    /// A new database on a server of its own that is told something beside the usual.
    ///
    /// # Errors
    /// [`MariaDbError`] when the server does not come up.
    pub fn told(options: Vec<String>) -> Result<Self, MariaDbError> {
        Ok(Self::on(Arc::new(Server::new(options)?)))
    }

    fn on(server: Arc<Server>) -> Self {
        let name = format!("test_{}_{}", process::id(), COUNT.fetch_add(1, Ordering::Relaxed));
        TestDatabase { server, name }
    }

    /// A new database that holds what a dump says.
    ///
    /// # Errors
    /// [`MariaDbError`] when the server does not come up, or does not take the dump.
    pub fn filled(dump: &str) -> Result<Self, MariaDbError> {
        let new = Self::new()?;
        let make = format!(
            "CREATE DATABASE {name} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin; USE {name}; \
             SET FOREIGN_KEY_CHECKS = 0; SET UNIQUE_CHECKS = 0;\n{dump}",
            name = new.name
        );
        new.server.database.tool("mariadb", &[], &make)?;
        Ok(new)
    }

    /// Makes it empty, for an account that may not make databases.
    ///
    /// # Errors
    /// [`MariaDbError`] when it cannot be made.
    pub fn make(&self) -> Result<(), MariaDbError> {
        let make = format!("CREATE DATABASE {} CHARACTER SET utf8mb4 COLLATE utf8mb4_bin", self.name);
        self.server.database.tool("mariadb", &[], &make).map(drop)
    }

    /// Everything in it, to fill others with: quicker than making it again.
    ///
    /// # Errors
    /// [`MariaDbError`] when it cannot be read.
    pub fn dump(&self) -> Result<String, MariaDbError> {
        let args =
            ["--compact", "--hex-blob", "--complete-insert", "--no-tablespaces", "--skip-lock-tables", &self.name];
        self.server.database.tool("mariadb-dump", &args, "")
    }

    /// Its address.
    pub fn url(&self) -> String {
        self.server.database.url(&self.name)
    }

    /// Runs statements on it, as somebody could who has the server's console.
    ///
    /// # Errors
    /// [`MariaDbError`] when one fails.
    pub fn run(&self, statements: &str) -> Result<(), MariaDbError> {
        self.server.database.run(&self.name, statements)
    }

    /// What a query answers, in rows without headings.
    ///
    /// # Errors
    /// [`MariaDbError`] when it fails.
    pub fn query(&self, query: &str) -> Result<String, MariaDbError> {
        self.server.database.tool("mariadb", &["--skip-column-names", &self.name], query)
    }

    /// A transaction that has run a statement and stays open, until it is dropped.
    ///
    /// # Errors
    /// [`MariaDbError`] when it cannot begin.
    pub fn hold(&self, statement: &str) -> Result<Held, MariaDbError> {
        let failed = |what: &str| crate::io_error(what.to_owned());
        let mut console =
            self.server.database.console("mariadb", &["--unbuffered", "--skip-column-names", &self.name])?;
        let mut input = console.stdin.take().ok_or_else(|| MariaDbError::NotUp("no console".into()))?;
        let mut output = console.stdout.take().ok_or_else(|| MariaDbError::NotUp("no console".into()))?;
        let held = Held { console };
        writeln!(input, "BEGIN; {statement}; SELECT 'held';").map_err(failed("writing to the console"))?;
        input.flush().map_err(failed("writing to the console"))?;
        // What it answers ends with the word.
        let (mut said, mut byte) = (Vec::new(), [0_u8; 1]);
        while !said.ends_with(b"held\n") {
            let read = output.read(&mut byte).map_err(failed("reading from the console"))?;
            if read == 0 {
                return Err(MariaDbError::NotUp("the console ended".into()));
            }
            said.extend_from_slice(&byte);
        }
        // The console lives as long as its input is open.
        std::mem::forget(input);
        Ok(held)
    }

    /// Address of it for an account that may work with rows and do nothing else.
    pub fn url_for_rows_only(&self) -> String {
        self.url_of("jagged_rows")
    }

    /// Address of it for an account that may change tables too.
    pub fn url_for_tables(&self) -> String {
        self.url_of("jagged_tables")
    }

    fn url_of(&self, user: &str) -> String {
        self.url().replacen("jagged_pin:", &format!("{user}:"), 1)
    }
}

/// An open transaction.
#[derive(Debug)]
pub struct Held {
    console: Child,
}

impl Drop for Held {
    fn drop(&mut self) {
        let _ = self.console.kill();
        let _ = self.console.wait();
    }
}
