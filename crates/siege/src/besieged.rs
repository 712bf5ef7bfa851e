//! The product under siege: started as whoever uses it starts it.
use std::fs;
use std::io::{BufRead, BufReader, Write};
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::sync::mpsc::{Receiver, channel};
use std::thread;
use std::time::{Duration, Instant};

use jagged_pin_e2e::binary;
use jagged_pin_mariadb::processes_over;
use rustix::process::{Pid, Signal, kill_process};
use tempfile::TempDir;

use crate::Step;

/// How long it may take to come up, recovery included.
const PATIENCE: Duration = Duration::from_secs(90);

/// A large file of the web application.
pub const ASSET: &str = "index.js";
const ASSET_BYTES: usize = 1024 * 1024;

/// What was killed.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Killed {
    /// The application.
    Server,
    /// Its database.
    Database,
    /// Both.
    Everything,
}

impl Killed {
    /// Any of them.
    pub fn any(rng: &mut fastrand::Rng) -> Self {
        [Killed::Server, Killed::Database, Killed::Everything][rng.usize(..3)]
    }
}

/// `jagged-pin up` over a folder of its own.
#[derive(Debug)]
pub struct Besieged {
    folder: TempDir,
    running: Option<(Child, Receiver<String>)>,
    /// Where it listens, once it does.
    pub base: String,
}

impl Besieged {
    /// A folder with nothing in it yet.
    ///
    /// # Errors
    /// When the folder cannot be made.
    pub fn new() -> Step<Self> {
        let folder = TempDir::new()?;
        fs::create_dir_all(folder.path().join("web/assets"))?;
        fs::write(folder.path().join("web/assets").join(ASSET), vec![b' '; ASSET_BYTES])?;
        fs::write(folder.path().join("web/index.html"), "<title>Jagged Pin</title>")?;
        Ok(Besieged { folder, running: None, base: String::new() })
    }

    fn var(&self) -> std::path::PathBuf {
        self.folder.path().join("var")
    }

    /// Begins to start, and does not wait.
    ///
    /// # Errors
    /// When the program cannot be run.
    pub fn begin(&mut self) -> Step {
        let port = jagged_pin_mariadb::free_port()?;
        let mut child = Command::new(binary("jagged-pin")?)
            .arg("up")
            .arg("--var")
            .arg(self.var())
            .arg("--web")
            .arg(self.folder.path().join("web"))
            .args(["--port", &port.to_string()])
            .stdin(Stdio::null())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()?;
        let (say, said) = channel();
        let out = child.stdout.take().ok_or("no output")?;
        let err = child.stderr.take().ok_or("no errors")?;
        let tell = |lines: Box<dyn BufRead + Send>, say: std::sync::mpsc::Sender<String>| {
            thread::spawn(move || lines.lines().map_while(Result::ok).for_each(|line| drop(say.send(line))));
        };
        tell(Box::new(BufReader::new(out)), say.clone());
        tell(Box::new(BufReader::new(err)), say);
        self.running = Some((child, said));
        Ok(())
    }

    /// Waits until it serves. `Err` holds what it said where it does not: then somebody would have to lend a hand.
    pub fn comes_up(&mut self) -> Result<Duration, String> {
        let began = Instant::now();
        let Some((_, said)) = &self.running else { return Err("it was not started".into()) };
        let mut all = Vec::new();
        while let Ok(line) = said.recv_timeout(PATIENCE.saturating_sub(began.elapsed())) {
            if let Some(address) = line.strip_prefix("Jagged Pin is ready: ") {
                self.base = address.trim().to_owned();
                return Ok(began.elapsed());
            }
            all.push(line);
        }
        Err(all.join(" / "))
    }

    /// Its process, while it was not taken down.
    pub fn pid(&self) -> Option<Pid> {
        let (child, _) = self.running.as_ref()?;
        i32::try_from(child.id()).ok().and_then(Pid::from_raw)
    }

    fn databases(&self) -> Vec<Pid> {
        let home = self.var().join("mariadb");
        home.canonicalize().map(|home| processes_over(&home)).unwrap_or_default()
    }

    /// Kills some of it, as a power cut or somebody in a hurry would.
    pub fn kill(&mut self, what: Killed) {
        let databases = if what == Killed::Server { Vec::new() } else { self.databases() };
        if what != Killed::Database
            && let Some((mut child, _)) = self.running.take()
        {
            // Both fail only when it is gone already.
            let _ = child.kill();
            let _ = child.wait();
        }
        for pid in databases {
            let _ = kill_process(pid, Signal::KILL);
        }
    }

    /// Asks it to end and waits; how long that took, and how many processes are left.
    ///
    /// # Errors
    /// When it does not end within a minute.
    pub fn end(&mut self, signal: Signal) -> Step<(Duration, usize)> {
        let (Some(pid), Some((mut child, _said))) = (self.pid(), self.running.take()) else {
            return Ok((Duration::ZERO, self.databases().len()));
        };
        let began = Instant::now();
        kill_process(pid, signal)?;
        while child.try_wait()?.is_none() {
            if began.elapsed() > Duration::from_secs(60) {
                let _ = child.kill();
                let _ = child.wait();
                return Err("it did not end within a minute".into());
            }
            thread::sleep(Duration::from_millis(10));
        }
        Ok((began.elapsed(), self.databases().len()))
    }

    /// Runs statements in its database, behind its back.
    ///
    /// # Errors
    /// When the client of the database cannot be run, or refuses them.
    pub fn tamper(&self, statements: &str) -> Step {
        let mut client = self.client("mariadb")?.stdin(Stdio::piped()).spawn()?;
        client.stdin.take().ok_or("no input")?.write_all(statements.as_bytes())?;
        if client.wait()?.success() { Ok(()) } else { Err(format!("refused: {statements:.200}").into()) }
    }

    /// Everything in its database, as statements.
    ///
    /// # Errors
    /// When the client of the database cannot be run.
    pub fn dump(&self) -> Step<String> {
        let out = self.client("mariadb-dump")?.args(["--single-transaction", "--hex-blob"]).output()?;
        Ok(String::from_utf8(out.stdout)?)
    }

    fn client(&self, program: &str) -> Step<Command> {
        let read = |name: &str| fs::read_to_string(self.var().join("mariadb").join(name));
        let mut command = Command::new(program);
        command.env("MYSQL_PWD", read("password")?.trim());
        command.args(["-h", "127.0.0.1", "-P", read("port")?.trim(), "-u", "jagged_pin", "jagged_pin"]);
        Ok(command)
    }

    /// The folder with everything it keeps.
    pub fn folder(&self) -> &Path {
        self.folder.path()
    }
}

impl Drop for Besieged {
    fn drop(&mut self) {
        self.kill(Killed::Everything);
        if let Ok(home) = self.var().join("mariadb").canonicalize() {
            jagged_pin_mariadb::end_left_over(&home);
        }
    }
}
