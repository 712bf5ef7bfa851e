//! `up`: everything on one machine, without setting anything up.
use std::fs::{self, File, TryLockError};
use std::net::Ipv4Addr;
use std::path::{Path, PathBuf};
use std::sync::Arc;

use clap::Args;
use jagged_pin_core::sheet::SealKey;
use jagged_pin_mariadb::{MariaDb, MariaDbError, end_left_over};
use jagged_pin_server::seed;
use jagged_pin_server::shop_people::NewShop;
use jagged_pin_store::Store;
use tokio::net::TcpListener;

use crate::keeper::Keeper;
use crate::serve::serve;
use crate::shop::Lead;
use crate::stopping::Stopping;
use crate::{Web, key, listening, shop};

/// Ports tried after the wanted one.
const MORE_PORTS: u16 = 20;

#[derive(Args)]
pub struct Up {
    /// Folder for the database and everything else that is kept.
    #[arg(long, env = "JAGGED_PIN_VAR", default_value = "var")]
    var: PathBuf,
    /// Port to listen on; the next free one if it is taken.
    #[arg(long, env = "JAGGED_PIN_PORT", default_value_t = 8417)]
    port: u16,
    /// Let the shop's own network in, for a tablet or a phone at the bench. What goes over it is not encrypted, so that it is for a
    /// network that nobody else is in; other places take `serve` behind a proxy.
    #[arg(long)]
    network: bool,
    /// Throw the kept data away and begin with clean demo data.
    #[arg(long)]
    fresh: bool,
    /// Go on with the key that is there, or a new one, although seals were made with another one, which is lost.
    #[arg(long)]
    another_key: bool,
    /// Begin with an empty shop instead of the demo: asks for its name and its first lead.
    #[arg(long)]
    empty: bool,
    #[command(flatten)]
    lead: Lead,
    #[command(flatten)]
    web: Web,
}

impl Up {
    /// From where it can be reached.
    const fn reach(&self) -> Ipv4Addr {
        if self.network { Ipv4Addr::UNSPECIFIED } else { Ipv4Addr::LOCALHOST }
    }

    pub async fn run(self) -> Result<(), String> {
        // From here on Ctrl-C is heard, whatever is being done.
        let stopping = Stopping::listen()?;
        let wanted = (self.reach(), self.port);
        let _lock = lock(&self.var)?;
        let home = self.var.join("mariadb");
        if self.fresh && home.exists() {
            println!("  data       clearing {}", home.display());
            clear(&home)?;
        }
        let first = !home.join("data").is_dir();
        // Asked before anything runs: whoever thinks about a password is in no hurry.
        let new = if self.empty && first { Some(self.lead.asked()?) } else { None };
        println!("  database   {}", if first { "making a new MariaDB (some seconds)" } else { "starting MariaDB" });
        stopping.ends_with(&home);
        let cancelled = Arc::clone(&stopping.now);
        let started = tokio::task::spawn_blocking(move || MariaDb::start_unless(&home, &cancelled)).await;
        let database = match started.map_err(|e| e.to_string())? {
            Err(MariaDbError::Cancelled) => {
                println!("  stopping   nothing is left running");
                return Ok(());
            }
            other => other.map_err(|e| e.to_string())?,
        };
        // Dropped last, after the server has stopped: the database outlives its users.
        let keeper = Keeper::of(database, &stopping);
        let url = keeper.url("jagged_pin");
        let served = match stopping.unless(prepare(&url, &self.var, new, self.empty, self.another_key, wanted)).await {
            Some(Ok((store, listener, key))) => serve(store, listener, self.web, key, stopping).await,
            Some(Err(why)) => Err(why),
            None => Ok(()),
        };
        println!("  stopping   closing the database");
        drop(keeper);
        served
    }
}

/// Everything between a database and serving it.
async fn prepare(
    url: &str,
    var: &Path,
    new: Option<NewShop>,
    empty: bool,
    another_key: bool,
    (reach, wanted): (Ipv4Addr, u16),
) -> Result<(Store, TcpListener, SealKey), String> {
    println!("  tables     bringing them up to date");
    let store = Store::connect(url).await.map_err(|e| e.to_string())?;
    let (store, key) = key::of(store, &var.join("shop.key"), another_key).await?;
    if let Some(new) = &new {
        shop::open(&store, new).await?;
    }
    let demo = if empty {
        false
    } else {
        println!("  demo       looking after the demo shop");
        seed::demo(&store).await.map_err(|e| e.to_string())?
    };
    let listener = listen((reach, wanted)).await?;
    let port = listener.local_addr().map_err(|e| e.to_string())?.port();
    if port != wanted {
        println!("  port       {wanted} is taken, using {port}");
    }
    announce((reach, port), demo);
    Ok((store, listener, key))
}

/// Clears a database's folder, after whatever still runs over it has ended.
fn clear(home: &Path) -> Result<(), String> {
    let failed = |e: std::io::Error| format!("cannot clear {}: {e}", home.display());
    let home = home.canonicalize().map_err(failed)?;
    if !end_left_over(&home) {
        return Err(format!("another database runs over {} and cannot be ended", home.display()));
    }
    // Out of the way first: what is cleared half is never taken for a database.
    let old = home.with_extension("old");
    if old.exists() {
        fs::remove_dir_all(&old).map_err(failed)?;
    }
    fs::rename(&home, &old).map_err(failed)?;
    fs::remove_dir_all(&old).map_err(failed)
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

async fn listen((reach, wanted): (Ipv4Addr, u16)) -> Result<TcpListener, String> {
    for port in wanted..=wanted.saturating_add(MORE_PORTS) {
        if let Ok(listener) = listening::at((reach, port).into()) {
            return Ok(listener);
        }
    }
    Err(format!("ports {wanted} to {} are all taken: choose another with --port", wanted.saturating_add(MORE_PORTS)))
}

fn announce((reach, port): (Ipv4Addr, u16), demo: bool) {
    println!("\nJagged Pin is ready: http://127.0.0.1:{port}\n");
    if !reach.is_loopback() {
        println!("From the shop's network: http://NAME-OR-ADDRESS-OF-THIS-MACHINE:{port}");
        println!("Invitations lead to the address that they were made at: make them there.");
        if demo {
            println!("Everybody on this network knows the demo's passwords: keep nothing of your own in it.");
        }
        println!();
    }
    if demo {
        println!("Demo accounts (they work with demo data only):");
        for p in jagged_pin_demo::people() {
            println!("  {:<8} {:<22} {}, {}", p.login, p.password, p.person.name, p.role);
        }
        println!();
    }
    println!("Ctrl-C stops everything.");
}

#[cfg(test)]
mod tests {
    use tokio::net::TcpStream;

    use super::*;

    #[derive(clap::Parser)]
    struct Cli {
        #[command(flatten)]
        up: Up,
    }

    #[tokio::test]
    async fn the_network_is_let_in_only_when_asked() -> Result<(), Box<dyn std::error::Error>> {
        for (words, let_in) in [(vec!["up"], false), (vec!["up", "--network"], true)] {
            let asked = <Cli as clap::Parser>::try_parse_from(words)?.up;
            let listener = listen((asked.reach(), 0)).await?;
            // Another address of this machine stands for another machine.
            let elsewhere = (Ipv4Addr::new(127, 0, 0, 2), listener.local_addr()?.port());
            assert_eq!(TcpStream::connect(elsewhere).await.is_ok(), let_in);
        }
        Ok(())
    }
}
