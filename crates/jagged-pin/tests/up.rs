//! `jagged-pin up`, as the start command runs it.
use std::io::{BufRead, BufReader, Read};
use std::net::{Ipv4Addr, TcpListener, TcpStream};
use std::path::Path;
use std::process::{Child, ChildStdout, Command, Stdio};

use tempfile::TempDir;

type Outcome<T = ()> = Result<T, Box<dyn std::error::Error>>;

/// A running `up` that has announced its address.
struct Up {
    child: Child,
    out: BufReader<ChildStdout>,
    said: String,
    port: u16,
}

fn command(var: &Path, web: &Path, port: u16) -> Command {
    let mut command = Command::new(env!("CARGO_BIN_EXE_jagged-pin"));
    command.arg("up").arg("--var").arg(var).arg("--web").arg(web).args(["--port", &port.to_string()]);
    command.stdin(Stdio::null()).stdout(Stdio::piped()).stderr(Stdio::piped());
    command
}

impl Up {
    fn start(var: &Path, web: &Path, port: u16) -> Outcome<Self> {
        Self::of(command(var, web, port))
    }

    fn of(mut command: Command) -> Outcome<Self> {
        let mut child = command.spawn()?;
        let mut out = BufReader::new(child.stdout.take().ok_or("no output")?);
        let mut said = String::new();
        // The output ends when the program does, so this cannot wait for ever.
        while !said.contains("Ctrl-C stops everything.") {
            if out.read_line(&mut said)? == 0 {
                let mut why = String::new();
                child.stderr.take().ok_or("no errors")?.read_to_string(&mut why)?;
                return Err(format!("it ended early: {said}{why}").into());
            }
        }
        let address = said.split("http://127.0.0.1:").nth(1).and_then(|rest| rest.split_whitespace().next());
        let port = address.ok_or("no address")?.parse()?;
        Ok(Up { child, out, said, port })
    }

    fn get(&self, path: &str) -> Outcome<String> {
        use std::io::Write;
        let mut stream = TcpStream::connect((Ipv4Addr::LOCALHOST, self.port))?;
        write!(stream, "GET {path} HTTP/1.1\r\nHost: x\r\nConnection: close\r\n\r\n")?;
        let mut text = String::new();
        stream.read_to_string(&mut text)?;
        Ok(text)
    }

    /// Presses Ctrl-C and waits until everything has ended.
    fn interrupt(mut self) -> Outcome {
        Command::new("kill").args(["-INT", &self.child.id().to_string()]).status()?;
        let mut rest = String::new();
        self.out.read_to_string(&mut rest)?;
        let status = self.child.wait()?;
        assert!(status.success(), "{status}: {rest}");
        Ok(())
    }
}

/// Whether a MariaDB runs over that folder.
fn database_runs(var: &Path) -> bool {
    let pid = std::fs::read_to_string(var.join("mariadb/mariadbd.pid")).unwrap_or_default();
    !pid.trim().is_empty() && Path::new("/proc").join(pid.trim()).join("cmdline").exists()
}

fn web() -> Outcome<TempDir> {
    let web = TempDir::new()?;
    std::fs::write(web.path().join("index.html"), "<title>Jagged Pin</title>")?;
    Ok(web)
}

#[test]
fn it_starts_prints_how_to_get_in_and_stops_cleanly() -> Outcome {
    let (var, web) = (TempDir::new()?, web()?);
    let taken = TcpListener::bind((Ipv4Addr::LOCALHOST, 0))?;
    let port = taken.local_addr()?.port();
    let up = Up::start(var.path(), web.path(), port)?;
    assert_ne!(up.port, port);
    assert!(up.said.contains(&format!("{port} is taken")), "{}", up.said);
    assert!(up.said.contains("oduya") && up.said.contains("first-of-the-flood"));
    assert!(up.get("/readyz")?.ends_with("ready"));
    assert!(up.get("/builds/SL-041/bench")?.contains("<title>Jagged Pin</title>"));
    assert!(up.get("/api/v1/builds")?.contains("not_signed_in"));
    assert!(database_runs(var.path()));

    // The same folder cannot be run twice at once.
    let second = command(var.path(), web.path(), port).output()?;
    assert!(!second.status.success());
    assert!(String::from_utf8_lossy(&second.stderr).contains("running from"), "{second:?}");

    up.interrupt()?;
    assert!(!database_runs(var.path()));

    // Without its key it says what to do, and makes none that would be taken for it.
    let key = var.path().join("shop.key");
    std::fs::remove_file(&key)?;
    let refused = command(var.path(), web.path(), port).output()?;
    let why = String::from_utf8_lossy(&refused.stderr);
    assert!(!refused.status.success() && why.contains("--another-key") && !key.exists(), "{why}");
    let mut another = command(var.path(), web.path(), port);
    another.arg("--another-key");
    Up::of(another)?.interrupt()?;
    assert!(key.exists());
    Ok(())
}

#[test]
fn whoever_does_not_want_to_wait_for_the_end_leaves_no_database_running() -> Outcome {
    let (var, web) = (TempDir::new()?, web()?);
    let mut up = Up::start(var.path(), web.path(), 18_427)?;
    for signal in ["-INT", "-TERM"] {
        Command::new("kill").args([signal, &up.child.id().to_string()]).status()?;
    }
    up.child.wait()?;
    assert!(jagged_pin_mariadb::processes_over(&var.path().join("mariadb")).is_empty());
    let again = Up::start(var.path(), web.path(), 18_427)?;
    assert!(again.get("/readyz")?.ends_with("ready"));
    again.interrupt()
}

#[test]
fn a_killed_start_leaves_nothing_that_stops_the_next_one() -> Outcome {
    let (var, web) = (TempDir::new()?, web()?);
    let mut up = Up::start(var.path(), web.path(), 18_417)?;
    up.child.kill()?;
    up.child.wait()?;
    assert!(database_runs(var.path()), "the database outlives its killed owner");
    let again = Up::start(var.path(), web.path(), 18_417)?;
    assert!(again.get("/readyz")?.ends_with("ready"));
    again.interrupt()?;
    assert!(!database_runs(var.path()));
    Ok(())
}

#[test]
fn an_empty_shop_begins_with_its_lead_in_a_folder_with_blanks_in_its_name() -> Outcome {
    let (folder, web) = (TempDir::new()?, web()?);
    let var = folder.path().join("engine shop");
    let secret = folder.path().join("password");
    std::fs::write(&secret, "brackish-on-purpose")?;
    let mut begin = command(&var, web.path(), 18_437);
    begin.args(["--empty", "--name", "Reedmouth Engines", "--lead", "A. Sallow", "--login", "sallow"]);
    begin.arg("--password-file").arg(&secret);
    let up = Up::of(begin)?;
    assert!(!up.said.contains("Demo accounts"), "{}", up.said);
    let front = up.get("/api/v1/front")?;
    assert!(front.contains("Reedmouth Engines") && front.contains("\"people\":true"), "{front}");
    up.interrupt()?;
    // Started as usual it stays the shop it is.
    let again = Up::start(&var, web.path(), 18_437)?;
    assert!(!again.said.contains("Demo accounts"), "{}", again.said);
    again.interrupt()?;
    assert!(!database_runs(&var));
    Ok(())
}
