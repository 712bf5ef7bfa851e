//! The port the gauges talk on.
use std::collections::HashMap;
use std::io;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use tokio::io::{AsyncBufReadExt, AsyncWriteExt, BufReader};
use tokio::net::tcp::OwnedWriteHalf;
use tokio::net::{TcpListener, TcpStream};
use tokio::sync::broadcast;

use crate::gauge::SimGauge;

/// Lines kept for a bench that is slow to read.
const KEPT: usize = 64;
/// A cable without a press says that it is still there.
const BEAT: Duration = Duration::from_millis(500);

struct Held {
    gauge: SimGauge,
    last: Option<String>,
    plugged: bool,
    lines: broadcast::Sender<Said>,
}

/// What comes over a cable.
#[derive(Clone)]
enum Said {
    Line(String),
    Unplugged,
}

/// The gauges and who listens to them. Clones share them.
#[derive(Clone)]
pub struct Hub(Arc<Mutex<HashMap<String, Held>>>);

impl std::fmt::Debug for Hub {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.write_str("Hub")
    }
}

impl Hub {
    /// A hub with its gauges plugged in.
    pub fn new(gauges: Vec<SimGauge>) -> Self {
        let held = |gauge: SimGauge| {
            let lines = broadcast::channel(KEPT).0;
            (gauge.id.clone(), Held { gauge, last: None, plugged: true, lines })
        };
        Hub(Arc::new(Mutex::new(gauges.into_iter().map(held).collect())))
    }

    fn with<T>(&self, gauge: &str, act: impl FnOnce(&mut Held) -> T) -> Option<T> {
        let mut gauges = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        gauges.get_mut(gauge).map(act)
    }

    /// Serves benches and button presses until the listener fails.
    ///
    /// # Errors
    /// [`io::Error`] of the listener.
    pub async fn serve(self, listener: TcpListener) -> io::Result<()> {
        loop {
            let (stream, from) = listener.accept().await?;
            let hub = self.clone();
            tokio::spawn(async move {
                if let Err(error) = hub.talk(stream).await {
                    tracing::debug!(%from, %error, "a line went away");
                }
            });
        }
    }

    async fn talk(&self, stream: TcpStream) -> io::Result<()> {
        let (read, mut write) = stream.into_split();
        let mut commands = BufReader::new(read).lines();
        while let Some(command) = commands.next_line().await? {
            let (verb, rest) = command.trim().split_once(' ').unwrap_or((command.trim(), ""));
            if verb == "HELLO" {
                let lines = self.with(rest, |h| h.plugged.then(|| h.lines.subscribe())).flatten();
                return match lines {
                    Some(lines) => {
                        say(&mut write, &format!("READY {rest}")).await?;
                        follow(lines, &mut write).await
                    }
                    None => say(&mut write, &format!("GONE {rest}")).await,
                };
            }
            let answer = if self.command(verb, rest) { "OK" } else { "NO" };
            say(&mut write, answer).await?;
        }
        Ok(())
    }

    /// Does what happens to a gauge; false when there is no such gauge or nothing like that.
    fn command(&self, verb: &str, rest: &str) -> bool {
        let (gauge, text) = rest.split_once(' ').unwrap_or((rest, ""));
        let done = self.with(gauge, |h| match verb {
            "PRESS" => {
                let line = h.gauge.line();
                h.last = Some(line.clone());
                h.send(line);
                true
            }
            "REPEAT" => h.last.clone().map(|line| h.send(line)).is_some(),
            "SAY" => {
                h.send(text.to_owned());
                true
            }
            "UNPLUG" => {
                h.plugged = false;
                // Nobody listening is as unplugged as can be.
                let _ = h.lines.send(Said::Unplugged);
                true
            }
            "PLUG" => {
                h.plugged = true;
                true
            }
            _ => false,
        });
        done.unwrap_or(false)
    }
}

impl Held {
    fn send(&self, line: String) {
        if self.plugged {
            // A press that nobody listens to is lost, as on a real cable.
            let _ = self.lines.send(Said::Line(line));
        }
    }
}

async fn follow(mut lines: broadcast::Receiver<Said>, write: &mut OwnedWriteHalf) -> io::Result<()> {
    loop {
        match tokio::time::timeout(BEAT, lines.recv()).await {
            Ok(Ok(Said::Line(line))) => say(write, &line).await?,
            Ok(Ok(Said::Unplugged) | Err(broadcast::error::RecvError::Closed)) => return Ok(()),
            Ok(Err(broadcast::error::RecvError::Lagged(_))) => {}
            Err(_) => say(write, "BEAT").await?,
        }
    }
}

async fn say(write: &mut OwnedWriteHalf, line: &str) -> io::Result<()> {
    write.write_all(line.as_bytes()).await?;
    write.write_all(b"\n").await
}

/// Sends one command, such as `PRESS mic-tenths`, to a hub and gives its answer.
///
/// # Errors
/// [`io::Error`] when nobody listens there.
pub async fn press(hub: &str, command: &str) -> io::Result<String> {
    let (read, mut write) = TcpStream::connect(hub).await?.into_split();
    say(&mut write, command).await?;
    let mut lines = BufReader::new(read).lines();
    Ok(lines.next_line().await?.unwrap_or_default())
}
