//! A private MariaDB server: its own data folder, its own port on loopback, its own password.
//!
//! The start command keeps one under `var/`; tests start one in a temporary folder. It never touches a
//! system database: the server reads no configuration file, listens on 127.0.0.1 only, and is stopped
//! when its [`MariaDb`] is dropped. Whatever was cut off at any moment, the next start puts right by itself: what still runs
//! over the folder is ended, and a data folder takes its name only when it is whole.

mod install;
mod process;
pub mod testing;

use std::fs::{self, OpenOptions};
use std::io::{self, Read, Write};
use std::net::{Ipv4Addr, TcpListener};
use std::os::unix::fs::OpenOptionsExt;
use std::os::unix::process::CommandExt;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicBool, Ordering};
use std::thread::sleep;
use std::time::{Duration, Instant};

use process::CLOSING;
pub use process::{end_left_over, kill_left_over, running_over as processes_over};
use rustix::process::{Pid, Signal, kill_process};
use thiserror::Error;

/// Name of the account that applications use.
const USER: &str = "jagged_pin";
/// How long a server may take to come up; recovery after a crash included.
const PATIENCE: Duration = Duration::from_secs(60);
const POLL: Duration = Duration::from_millis(50);
/// Ports tried where somebody takes the free one in between.
const PORTS: usize = 4;

/// Why a server could not be run.
#[derive(Debug, Error)]
pub enum MariaDbError {
    /// No `mariadbd` on this machine.
    #[error("mariadbd was not found: install Debian's package mariadb-server")]
    NotInstalled,
    /// The data folder could not be made.
    #[error("the database folder could not be made: {0}")]
    Initialise(String),
    /// Whoever asked for it does not want it any more.
    #[error("stopped while the database was starting")]
    Cancelled,
    /// Something runs over the folder that cannot be ended.
    #[error("another database runs over {0} and cannot be ended: end it by hand")]
    InUse(String),
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
    /// What it is told beside the usual.
    options: Vec<String>,
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

/// No statements more.
fn nothing(_: &str) -> String {
    String::new()
}

/// Characters of a password.
const PASSWORD_LENGTH: usize = 48;

fn random_password() -> Result<String, MariaDbError> {
    let mut bytes = [0u8; PASSWORD_LENGTH / 2];
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
        Self::start_unless(home, &AtomicBool::new(false))
    }

    /// The same, given up as soon as `cancelled` is true: then nothing of it is left running.
    ///
    /// # Errors
    /// As [`MariaDb::start`], and [`MariaDbError::Cancelled`].
    pub fn start_unless(home: &Path, cancelled: &AtomicBool) -> Result<Self, MariaDbError> {
        let mut last = None;
        for _ in 0..PORTS {
            let port = free_port().map_err(io_error("looking for a free port"))?;
            match Self::begin(home, port, Vec::new(), nothing, cancelled) {
                Err(MariaDbError::NotUp(log)) if log.contains("Address already in use") => {
                    last = Some(MariaDbError::NotUp(log));
                }
                other => return other,
            }
        }
        Err(last.unwrap_or(MariaDbError::Cancelled))
    }

    /// Starts the server on a given port.
    ///
    /// # Errors
    /// As [`MariaDb::start`].
    pub fn start_on(home: &Path, port: u16) -> Result<Self, MariaDbError> {
        Self::begin(home, port, Vec::new(), nothing, &AtomicBool::new(false))
    }

    /// Starts the server, which then runs the statements that `more` makes of the password.
    fn begin(
        home: &Path,
        port: u16,
        options: Vec<String>,
        more: impl FnOnce(&str) -> String,
        cancelled: &AtomicBool,
    ) -> Result<Self, MariaDbError> {
        let server = find("mariadbd").ok_or(MariaDbError::NotInstalled)?;
        fs::create_dir_all(home).map_err(io_error(format!("making {}", home.display())))?;
        let home = home.canonicalize().map_err(io_error(format!("finding {}", home.display())))?;
        if !end_left_over(&home) {
            return Err(MariaDbError::InUse(home.display().to_string()));
        }
        // Scratch tables of its own: servers that share a folder for them trip over each other.
        let scratch = home.join("tmp");
        fs::create_dir_all(&scratch).map_err(io_error("making the database's scratch folder"))?;
        install::data_folder(&home, cancelled)?;
        let secret = home.join("password");
        let known = fs::read_to_string(&secret).ok().filter(|known| known.len() == PASSWORD_LENGTH);
        let password = match known {
            Some(known) => known,
            None => {
                let made = random_password()?;
                write_private(&secret, &made)?;
                made
            }
        };
        let more = more(&password);
        let init = home.join("init.sql");
        // The account of the application may do what it likes with its own databases, and nothing else.
        write_private(
            &init,
            &format!(
                "CREATE USER IF NOT EXISTS '{USER}'@'127.0.0.1';\n\
             ALTER USER '{USER}'@'127.0.0.1' IDENTIFIED BY '{password}';\n\
             REVOKE ALL PRIVILEGES, GRANT OPTION FROM '{USER}'@'127.0.0.1';\n\
             GRANT ALL PRIVILEGES ON `jagged\\_pin`.* TO '{USER}'@'127.0.0.1';\n\
             GRANT ALL PRIVILEGES ON `test\\_%`.* TO '{USER}'@'127.0.0.1';\n{more}"
            ),
        )?;
        // For whoever backs it up while it runs.
        write_private(&home.join("port"), &port.to_string())?;
        let mut db = MariaDb { home, port, password, options, child: None };
        db.child = Some(db.spawn(&server)?);
        db.wait_until_up(cancelled)?;
        Ok(db)
    }

    /// Whether the server has ended by itself.
    pub fn has_ended(&mut self) -> bool {
        self.child.as_mut().is_none_or(|child| child.try_wait().is_ok_and(|status| status.is_some()))
    }

    /// Starts the server again where it was, after it has ended.
    ///
    /// # Errors
    /// As [`MariaDb::start`].
    pub fn start_again(&mut self, cancelled: &AtomicBool) -> Result<(), MariaDbError> {
        let again = Self::begin(&self.home, self.port, self.options.clone(), nothing, cancelled)?;
        *self = again;
        Ok(())
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
            .args(&self.options)
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

    /// The server says in its own log that it serves its port: an open port alone may be somebody else's.
    fn wait_until_up(&mut self, cancelled: &AtomicBool) -> Result<(), MariaDbError> {
        let until = Instant::now() + PATIENCE;
        let serves = format!("port: {} ", self.port);
        while Instant::now() < until && !self.has_ended() {
            if cancelled.load(Ordering::Relaxed) {
                return Err(MariaDbError::Cancelled);
            }
            let log = fs::read_to_string(self.log()).unwrap_or_default();
            if log.contains("ready for connections") && log.contains(&serves) {
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

    /// Starts one of the server's own command-line tools on it, with pipes.
    fn console(&self, tool: &str, args: &[&str]) -> Result<Child, MariaDbError> {
        let mut command = Command::new(tool);
        command
            .arg("--no-defaults")
            .args(["--protocol=tcp", "--host=127.0.0.1", "--default-character-set=utf8mb4"])
            .arg(format!("--port={}", self.port))
            .arg(format!("--user={USER}"))
            .env("MYSQL_PWD", &self.password)
            .args(args);
        let pipes = command.stdin(Stdio::piped()).stdout(Stdio::piped()).stderr(Stdio::piped());
        pipes.spawn().map_err(io_error("starting a tool of the database"))
    }

    /// Runs statements on a database, as somebody could who has the server's console.
    ///
    /// # Errors
    /// [`MariaDbError`] when one fails.
    pub fn run(&self, name: &str, statements: &str) -> Result<(), MariaDbError> {
        self.tool("mariadb", &[name], &format!("SET FOREIGN_KEY_CHECKS = 0; {statements}")).map(drop)
    }

    /// Runs one of them with `input`, and gives back what it prints.
    fn tool(&self, tool: &str, args: &[&str], input: &str) -> Result<String, MariaDbError> {
        let mut child = self.console(tool, args)?;
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
            let _ = fs::remove_file(self.socket());
        }
    }
}

impl Drop for MariaDb {
    fn drop(&mut self) {
        let Some(mut child) = self.child.take() else { return };
        // Once it was waited for, its number may be somebody else's.
        if child.try_wait().is_ok_and(|ended| ended.is_some()) {
            return;
        }
        // SIGTERM lets InnoDB close its files in order.
        let pid = i32::try_from(child.id()).ok().and_then(Pid::from_raw);
        let asked = pid.is_some_and(|pid| kill_process(pid, Signal::TERM).is_ok());
        let until = Instant::now() + CLOSING;
        while asked && Instant::now() < until {
            if child.try_wait().ok().flatten().is_some() {
                break;
            }
            sleep(POLL);
        }
        let _ = child.kill();
        let _ = child.wait();
        let _ = fs::remove_file(self.socket());
    }
}
