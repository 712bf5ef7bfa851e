//! Programs that a run starts and takes down again.
use std::env;
use std::net::{Ipv4Addr, SocketAddr, TcpStream};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::thread::sleep;
use std::time::{Duration, Instant};

use jagged_pin_mariadb::MariaDb;

use crate::{Failure, Step};

/// How long a program may take to listen.
const PATIENCE: Duration = Duration::from_secs(90);

/// A child process that ends with its owner.
#[derive(Debug)]
pub struct Running(Child);

impl Running {
    /// Starts a program without input, its output thrown away unless `JAGGED_PIN_E2E_LOG` is set.
    ///
    /// # Errors
    /// When the program cannot be started.
    pub fn start(command: &mut Command) -> Step<Self> {
        let quiet = env::var_os("JAGGED_PIN_E2E_LOG").is_none();
        let out = || if quiet { Stdio::null() } else { Stdio::inherit() };
        let child = command.stdin(Stdio::null()).stdout(out()).stderr(out()).spawn();
        child.map(Running).map_err(|e| format!("{} cannot be started: {e}", command.get_program().display()).into())
    }

    /// Kills it at once, as a crash would, and waits until it is gone.
    pub fn kill(&mut self) {
        // Both fail only when it is gone already.
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

impl Drop for Running {
    fn drop(&mut self) {
        self.kill();
    }
}

/// A binary of this workspace, built beside the tests.
///
/// # Errors
/// When it has not been built.
pub fn binary(name: &str) -> Step<PathBuf> {
    let mut folder = env::current_exe()?;
    while folder.pop() {
        let candidate = folder.join(name);
        if candidate.is_file() {
            return Ok(candidate);
        }
    }
    Err(Failure::from(format!("{name} is not built: run cargo build --workspace first")))
}

/// Waits until something listens on a port of loopback.
///
/// # Errors
/// When nothing does in time.
pub fn wait_for_port(port: u16) -> Step {
    let at = SocketAddr::from((Ipv4Addr::LOCALHOST, port));
    let until = Instant::now() + PATIENCE;
    while Instant::now() < until {
        if TcpStream::connect_timeout(&at, Duration::from_millis(200)).is_ok() {
            return Ok(());
        }
        sleep(Duration::from_millis(25));
    }
    Err(format!("nothing listens on port {port}").into())
}

/// An address where nobody listens: no gauge talks unless a test brings some.
pub(crate) const NO_GAUGES: &str = "127.0.0.1:9";

/// The built web application of this workspace.
fn web() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/dist")
}

/// Starts the application over a database, with the demo shop where it is wanted, and waits until it listens.
pub(crate) fn serve(database: &MariaDb, folder: &Path, (port, demo): (u16, bool), gauges: &str) -> Step<Running> {
    let mut command = Command::new(binary("jagged-pin")?);
    command
        .arg("serve")
        .args(["--listen", &format!("127.0.0.1:{port}")])
        .args(["--gauges", gauges])
        .arg("--web")
        .arg(web())
        .arg("--key-file")
        .arg(folder.join("shop.key"))
        .env("JAGGED_PIN_DATABASE_URL", database.url("jagged_pin"));
    if demo {
        command.arg("--demo");
    }
    let running = Running::start(&mut command)?;
    wait_for_port(port)?;
    Ok(running)
}
