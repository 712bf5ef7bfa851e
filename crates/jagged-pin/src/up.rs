//! `up`: everything on one machine, without setting anything up.
use std::fs::{self, File, TryLockError};
use std::net::Ipv4Addr;
use std::path::{Path, PathBuf};

use clap::Args;
use jagged_pin_mariadb::MariaDb;
use jagged_pin_server::seed;
use jagged_pin_store::Store;
use tokio::net::TcpListener;

use crate::Web;
use crate::serve::serve;

/// Ports tried after the wanted one.
const MORE_PORTS: u16 = 20;

#[derive(Args)]
pub struct Up {
    /// Folder for the database and everything else that is kept.
    #[arg(long, env = "JAGGED_PIN_VAR", default_value = "var")]
    var: PathBuf,
    /// Port on loopback; the next free one if it is taken.
    #[arg(long, env = "JAGGED_PIN_PORT", default_value_t = 8417)]
    port: u16,
    /// Throw the kept data away and begin with clean demo data.
    #[arg(long)]
    fresh: bool,
    #[command(flatten)]
    web: Web,
}

impl Up {
    pub async fn run(self) -> Result<(), String> {
        let _lock = lock(&self.var)?;
        let home = self.var.join("mariadb");
        if self.fresh && home.exists() {
            println!("  data       clearing {}", home.display());
            fs::remove_dir_all(&home).map_err(|e| format!("cannot clear {}: {e}", home.display()))?;
        }
        let first = !home.join("data").is_dir();
        println!("  database   {}", if first { "making a new MariaDB (some seconds)" } else { "starting MariaDB" });
        // Dropped last, after the server has stopped: the database outlives its users.
        let started = tokio::task::spawn_blocking(move || MariaDb::start(&home)).await;
        let database = started.map_err(|e| e.to_string())?.map_err(|e| e.to_string())?;
        let store = Store::connect(&database.url("jagged_pin")).await.map_err(|e| e.to_string())?;
        seed::demo(&store).await.map_err(|e| e.to_string())?;
        let listener = listen(self.port).await?;
        let port = listener.local_addr().map_err(|e| e.to_string())?.port();
        if port != self.port {
            println!("  port       {} is taken, using {port}", self.port);
        }
        announce(port);
        let served = serve(store, listener, self.web).await;
        println!("  stopping   closing the database");
        drop(database);
        served
    }
}

/// One start per folder: two databases over the same files would spoil them.
fn lock(var: &Path) -> Result<File, String> {
    fs::create_dir_all(var).map_err(|e| format!("cannot make {}: {e}", var.display()))?;
    let path = var.join("lock");
    let file = File::create(&path).map_err(|e| format!("cannot write {}: {e}", path.display()))?;
    match file.try_lock() {
        Ok(()) => Ok(file),
        Err(TryLockError::WouldBlock) => {
            Err(format!("Jagged Pin is running from {} already: stop it first (Ctrl-C there)", var.display()))
        }
        Err(TryLockError::Error(e)) => Err(format!("cannot lock {}: {e}", path.display())),
    }
}

async fn listen(wanted: u16) -> Result<TcpListener, String> {
    for port in wanted..=wanted.saturating_add(MORE_PORTS) {
        if let Ok(listener) = TcpListener::bind((Ipv4Addr::LOCALHOST, port)).await {
            return Ok(listener);
        }
    }
    Err(format!("ports {wanted} to {} are all taken: choose another with --port", wanted.saturating_add(MORE_PORTS)))
}

fn announce(port: u16) {
    println!("\nJagged Pin is ready: http://127.0.0.1:{port}\n");
    println!("Demo accounts (they work with demo data only):");
    for p in jagged_pin_demo::people() {
        println!("  {:<8} {:<22} {}, {}", p.login, p.password, p.person.name, p.role);
    }
    println!("\nCtrl-C stops everything.");
}
