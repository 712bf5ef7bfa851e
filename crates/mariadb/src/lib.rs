//! A private MariaDB server: its own data folder, its own port on loopback, its own password.
//!
//! The start command keeps one under `var/`; tests start one in a temporary folder. It never touches a
//! system database: the server reads no configuration file, listens on 127.0.0.1 only, and is stopped
//! when its [`MariaDb`] is dropped.

use std::fs::{self, OpenOptions};
use std::io::{self, Read, Write};
use std::net::{Ipv4Addr, TcpListener};
use std::os::unix::fs::OpenOptionsExt;
use std::os::unix::process::CommandExt;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::thread::sleep;
use std::time::{Duration, Instant};

use thiserror::Error;

/// Name of the account that applications use.
const USER: &str = "jagged_pin";
/// How long a server may take to come up; recovery after a crash included.
const PATIENCE: Duration = Duration::from_secs(60);
const POLL: Duration = Duration::from_millis(50);

/// Why a server could not be run.
#[derive(Debug, Error)]
pub enum MariaDbError {
    /// No `mariadbd` on this machine.
    #[error("mariadbd was not found: install Debian's package mariadb-server")]
    NotInstalled,
    /// The data folder could not be made.
    #[error("the database folder could not be made: {0}")]
    Initialise(String),
    /// The server ended or never answered.
    #[error("mariadbd did not come up; its last words:\n{0}")]
    NotUp(String),
    /// Something about files or processes.
    #[error("{what}: {error}")]
    Io {
        /// What was being done.
        what: String,
        /// What the system said.
        error: io::Error,
    },
}

/// A running server. Dropping it stops it and waits for it.
#[derive(Debug)]
pub struct MariaDb {
    home: PathBuf,
    port: u16,
    password: String,
    child: Option<Child>,
}

fn io_error(what: impl Into<String>) -> impl FnOnce(io::Error) -> MariaDbError {
    let what = what.into();
    move |error| MariaDbError::Io { what, error }
}

/// A port of loopback that is free now.
///
/// # Errors
/// What the system said, when there is none.
pub fn free_port() -> io::Result<u16> {
    TcpListener::bind((Ipv4Addr::LOCALHOST, 0))?.local_addr().map(|a| a.port())
}

/// Where Debian puts servers, beside what is on the path.
fn find(program: &str) -> Option<PathBuf> {
    let path = std::env::var_os("PATH").unwrap_or_default();
    let places = std::env::split_paths(&path).chain(["/usr/sbin", "/usr/bin"].map(PathBuf::from));
    places.map(|p| p.join(program)).find(|p| p.is_file())
}

fn is_root() -> bool {
    fs::metadata("/proc/self").is_ok_and(|m| std::os::unix::fs::MetadataExt::uid(&m) == 0)
}

/// As root the server wants to be told that this is meant.
fn as_root(command: &mut Command) {
    if is_root() {
        command.arg("--user=root");
    }
}

fn random_password() -> Result<String, MariaDbError> {
    let mut bytes = [0u8; 24];
    let read = fs::File::open("/dev/urandom").and_then(|mut f| f.read_exact(&mut bytes));
    read.map_err(io_error("no random numbers"))?;
    Ok(bytes.iter().map(|b| format!("{b:02x}")).collect())
}

/// Writes a file that nobody else can read.
fn write_private(path: &Path, text: &str) -> Result<(), MariaDbError> {
    let file = OpenOptions::new().create(true).truncate(true).write(true).mode(0o600).open(path);
    file.and_then(|mut f| f.write_all(text.as_bytes())).map_err(io_error(format!("writing {}", path.display())))
}

impl MariaDb {
    /// Starts the server whose data lies under `home`, making the data folder the first time.
    ///
    /// # Errors
    /// [`MariaDbError`] when it is not installed, or does not come up within a minute.
    pub fn start(home: &Path) -> Result<Self, MariaDbError> {
        let port = free_port().map_err(io_error("looking for a free port"))?;
        Self::start_on(home, port)
    }

    /// Starts the server on a given port.
    ///
    /// # Errors
    /// As [`MariaDb::start`].
    pub fn start_on(home: &Path, port: u16) -> Result<Self, MariaDbError> {
        let server = find("mariadbd").ok_or(MariaDbError::NotInstalled)?;
        fs::create_dir_all(home).map_err(io_error(format!("making {}", home.display())))?;
        let home = home.canonicalize().map_err(io_error(format!("finding {}", home.display())))?;
        stop_left_over(&home);
        let data = home.join("data");
        // Scratch tables of its own: servers that share a folder for them trip over each other.
        let scratch = home.join("tmp");
        fs::create_dir_all(&scratch).map_err(io_error("making the database's scratch folder"))?;
        if !data.join("mysql").is_dir() {
            initialise(&data, &scratch)?;
        }
        let secret = home.join("password");
        let password = match fs::read_to_string(&secret) {
            Ok(known) => known,
            Err(_) => {
                let made = random_password()?;
                write_private(&secret, &made)?;
                made
            }
        };
        let init = home.join("init.sql");
        write_private(
            &init,
            &format!(
                "CREATE USER IF NOT EXISTS '{USER}'@'127.0.0.1';\n\
             ALTER USER '{USER}'@'127.0.0.1' IDENTIFIED BY '{password}';\n\
             GRANT ALL PRIVILEGES ON *.* TO '{USER}'@'127.0.0.1';\n"
            ),
        )?;
        // For whoever backs it up while it runs.
        write_private(&home.join("port"), &port.to_string())?;
        let mut db = MariaDb { home, port, password, child: None };
        db.child = Some(db.spawn(&server)?);
        db.wait_until_up()?;
        Ok(db)
    }

    fn spawn(&self, server: &Path) -> Result<Child, MariaDbError> {
        let log = fs::File::create(self.log()).map_err(io_error("making the database's log"))?;
        let in_home = |name: &str| self.home.join(name).display().to_string();
        let mut command = Command::new(server);
        command
            .arg("--no-defaults")
            .args(["--bind-address=127.0.0.1", "--skip-name-resolve", "--skip-log-bin", "--skip-slave-start"])
            .args(["--character-set-server=utf8mb4", "--collation-server=utf8mb4_bin"])
            // An acknowledged commit is on the disk.
            .args(["--innodb-flush-log-at-trx-commit=1", "--innodb-doublewrite=1"])
            .args(["--innodb-buffer-pool-size=64M", "--innodb-log-file-size=32M", "--performance-schema=0"])
            .args(["--max-connections=200", "--table-open-cache=400"])
            .arg(format!("--port={}", self.port))
            .arg(format!("--datadir={}", in_home("data")))
            .arg(format!("--tmpdir={}", in_home("tmp")))
            .arg(format!("--init-file={}", in_home("init.sql")))
            .arg(format!("--pid-file={}", in_home("mariadbd.pid")))
            .arg(format!("--socket={}", self.socket().display()))
            .stdin(Stdio::null())
            .stdout(log.try_clone().map_err(io_error("the database's log"))?)
            .stderr(log)
            // Ctrl-C is for the application, which then stops its database in order.
            .process_group(0);
        as_root(&mut command);
        command.spawn().map_err(io_error("starting mariadbd"))
    }

    /// Socket paths have a short limit, so it does not live under the data.
    fn socket(&self) -> PathBuf {
        std::env::temp_dir().join(format!("jagged-pin-{}.sock", self.port))
    }

    fn log(&self) -> PathBuf {
        self.home.join("mariadbd.log")
    }

    /// The server answers with its greeting once it serves: an open port alone is not enough.
    fn wait_until_up(&mut self) -> Result<(), MariaDbError> {
        let until = Instant::now() + PATIENCE;
        while Instant::now() < until {
            let ended = self.child.as_mut().and_then(|c| c.try_wait().ok().flatten());
            if ended.is_some() {
                break;
            }
            let ready = fs::read_to_string(self.log()).is_ok_and(|l| l.contains("ready for connections"));
            if ready {
                return Ok(());
            }
            sleep(POLL);
        }
        let log = fs::read_to_string(self.log()).unwrap_or_default();
        let tail: Vec<&str> = log.lines().rev().take(12).collect();
        Err(MariaDbError::NotUp(tail.into_iter().rev().collect::<Vec<_>>().join("\n")))
    }

    /// Address of the database `name` on this server, for the store.
    pub fn url(&self, name: &str) -> String {
        format!("mysql://{USER}:{}@127.0.0.1:{}/{name}", self.password, self.port)
    }

    /// Runs one of the server's own command-line tools on it, with `input`, and gives back what it prints.
    fn tool(&self, tool: &str, args: &[&str], input: &str) -> Result<String, MariaDbError> {
        use std::io::Write;
        let mut command = Command::new(tool);
        command
            .arg("--no-defaults")
            .args(["--protocol=tcp", "--host=127.0.0.1", "--default-character-set=utf8mb4"])
            .arg(format!("--port={}", self.port))
            .arg(format!("--user={USER}"))
            .env("MYSQL_PWD", &self.password)
            .args(args);
        let pipes = command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::piped());
        let mut child = pipes.spawn().map_err(io_error("starting a tool of the database"))?;
        let mut stdin = child.stdin.take();
        let input = input.to_owned();
        // Written beside the reading: a tool that answers while it reads must not wait for us.
        let writing =
            std::thread::spawn(move || stdin.take().map_or(Ok(()), |mut pipe| pipe.write_all(input.as_bytes())));
        let done = child.wait_with_output().map_err(io_error("running a tool of the database"))?;
        let written = writing.join().is_ok_and(|w| w.is_ok());
        if done.status.success() && written {
            Ok(String::from_utf8_lossy(&done.stdout).into_owned())
        } else {
            Err(MariaDbError::NotUp(String::from_utf8_lossy(&done.stderr).into_owned()))
        }
    }

    /// The port it listens on.
    pub fn port(&self) -> u16 {
        self.port
    }

    /// Kills the server at once, as a power cut would. [`MariaDb::start_on`] the same home recovers it.
    pub fn kill(mut self) {
        if let Some(mut child) = self.child.take() {
            // Both fail only when it is gone already.
            let _ = child.kill();
            let _ = child.wait();
        }
    }
}

impl Drop for MariaDb {
    fn drop(&mut self) {
        let Some(mut child) = self.child.take() else { return };
        // SIGTERM lets InnoDB close its files in order.
        let asked = Command::new("kill").arg(child.id().to_string()).stderr(Stdio::null()).status();
        let until = Instant::now() + PATIENCE;
        while asked.as_ref().is_ok_and(|s| s.success()) && Instant::now() < until {
            if child.try_wait().ok().flatten().is_some() {
                return;
            }
            sleep(POLL);
        }
        let _ = child.kill();
        let _ = child.wait();
    }
}

/// Stops a server of this home whose owner was killed before it could do so itself.
fn stop_left_over(home: &Path) {
    let Ok(pid) = fs::read_to_string(home.join("mariadbd.pid")) else { return };
    let process = PathBuf::from("/proc").join(pid.trim());
    let command_line = || fs::read(process.join("cmdline")).unwrap_or_default();
    let data = home.join("data").display().to_string();
    // The number may belong to somebody else by now: only a server of this very folder is meant.
    let ours = || String::from_utf8_lossy(&command_line()).contains(&format!("--datadir={data}\0"));
    if ours() && Command::new("kill").arg(pid.trim()).stderr(Stdio::null()).status().is_ok_and(|s| s.success()) {
        let until = Instant::now() + PATIENCE;
        while ours() && Instant::now() < until {
            sleep(POLL);
        }
    }
}

/// Makes the data folder with its system tables.
fn initialise(data: &Path, scratch: &Path) -> Result<(), MariaDbError> {
    let installer = find("mariadb-install-db").ok_or(MariaDbError::NotInstalled)?;
    // A folder that an interrupted first start left half made is no use to anybody.
    if data.exists() {
        fs::remove_dir_all(data).map_err(io_error("clearing a half-made database folder"))?;
    }
    let mut command = Command::new(installer);
    command
        .args(["--no-defaults", "--skip-test-db", "--auth-root-authentication-method=socket"])
        .arg(format!("--datadir={}", data.display()))
        .arg(format!("--tmpdir={}", scratch.display()))
        .stdin(Stdio::null());
    as_root(&mut command);
    let made = command.output().map_err(io_error("running mariadb-install-db"))?;
    if made.status.success() {
        Ok(())
    } else {
        let text = |bytes: &[u8]| String::from_utf8_lossy(bytes).trim().to_owned();
        Err(MariaDbError::Initialise(format!("{}\n{}", text(&made.stdout), text(&made.stderr))))
    }
}

/// One server for all tests of a process, stopped with the last of them.
pub mod testing {
    use std::process;
    use std::sync::atomic::{AtomicU32, Ordering};
    use std::sync::{Arc, Mutex, PoisonError, Weak};

    use tempfile::TempDir;

    use super::{MariaDb, MariaDbError};

    static SHARED: Mutex<Weak<Server>> = Mutex::new(Weak::new());
    static COUNT: AtomicU32 = AtomicU32::new(0);

    #[derive(Debug)]
    struct Server {
        // Stopped before its folder goes.
        database: MariaDb,
        _folder: TempDir,
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
                    let folder = TempDir::new().map_err(super::io_error("making a temporary folder"))?;
                    let server = Arc::new(Server { database: MariaDb::start(folder.path())?, _folder: folder });
                    *shared = Arc::downgrade(&server);
                    server
                }
            };
            let name = format!("test_{}_{}", process::id(), COUNT.fetch_add(1, Ordering::Relaxed));
            Ok(TestDatabase { server, name })
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

        /// Everything in it, to fill others with: quicker than making it again.
        ///
        /// # Errors
        /// [`MariaDbError`] when it cannot be read.
        pub fn dump(&self) -> Result<String, MariaDbError> {
            let args = ["--compact", "--complete-insert", "--no-tablespaces", "--skip-lock-tables", &self.name];
            self.server.database.tool("mariadb-dump", &args, "")
        }

        /// Its address.
        pub fn url(&self) -> String {
            self.server.database.url(&self.name)
        }
    }
}
