//! Being asked to stop, at any moment from the first one on.
use std::path::{Path, PathBuf};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, OnceLock};

use jagged_pin_mariadb::kill_left_over;
use tokio::signal::unix::{SignalKind, signal};
use tokio::sync::watch;

/// Status of a program that was interrupted twice.
const INTERRUPTED: i32 = 130;

/// Whether this program was asked to stop: by Ctrl-C, by a closed terminal, or by the system.
#[derive(Clone)]
pub struct Stopping {
    asked: watch::Receiver<bool>,
    /// The same, for work that does not wait.
    pub now: Arc<AtomicBool>,
    ask: watch::Sender<bool>,
    /// Where a database of our own runs, which ends with this program.
    home: Arc<OnceLock<PathBuf>>,
}

impl Stopping {
    /// Listens from now on. Who asks a second time does not want to wait: the program ends at once, and its database with it.
    pub fn listen() -> Result<Self, String> {
        let failed = |e: std::io::Error| format!("cannot listen to signals: {e}");
        let mut signals = Vec::new();
        for kind in [SignalKind::interrupt(), SignalKind::terminate(), SignalKind::hangup()] {
            signals.push(signal(kind).map_err(failed)?);
        }
        let (ask, asked) = watch::channel(false);
        let (now, home) = (Arc::new(AtomicBool::new(false)), Arc::new(OnceLock::<PathBuf>::new()));
        for mut signal in signals {
            let (ask, now, home) = (ask.clone(), Arc::clone(&now), Arc::clone(&home));
            tokio::spawn(async move {
                while signal.recv().await.is_some() {
                    if now.swap(true, Ordering::Relaxed) {
                        if let Some(home) = home.get() {
                            kill_left_over(home);
                        }
                        eprintln!("jagged-pin: ended at once");
                        std::process::exit(INTERRUPTED);
                    }
                    ask.send_replace(true);
                }
            });
        }
        Ok(Stopping { asked, now, ask, home })
    }

    /// Says where a database of our own runs.
    pub fn ends_with(&self, home: &Path) {
        self.home.get_or_init(|| home.to_owned());
    }

    /// Asks to stop, for a reason of our own.
    pub fn ask(&self) {
        self.now.store(true, Ordering::Relaxed);
        self.ask.send_replace(true);
    }

    /// Waits until somebody asks.
    pub async fn asked(&self) {
        // The other end lives as long as this one.
        let _ = self.asked.clone().wait_for(|asked| *asked).await;
    }

    /// Does something unless asked to stop meanwhile: then it is given up.
    pub async fn unless<T>(&self, work: impl Future<Output = T>) -> Option<T> {
        tokio::select! {
            done = work => Some(done),
            () = self.asked() => None,
        }
    }

    /// Turns true when asked.
    pub fn watch(&self) -> watch::Receiver<bool> {
        self.asked.clone()
    }
}
