//! `shop open`: the shop and its first lead.
use std::io::{BufRead, IsTerminal, Write};
use std::path::PathBuf;
use std::time::{SystemTime, UNIX_EPOCH};
use std::{fs, io};

use clap::{Args, Subcommand};
use jagged_pin_core::units::Timestamp;
use jagged_pin_server::shop_people::{self, NewShop};
use jagged_pin_store::Store;

use crate::database::Database;

#[derive(Args)]
pub struct Shop {
    #[command(subcommand)]
    what: What,
}

#[derive(Subcommand)]
enum What {
    /// Open a shop over a database that has nobody yet: its name, and its first lead, who lets the others in.
    Open {
        #[command(flatten)]
        database: Database,
        #[command(flatten)]
        lead: Lead,
    },
}

/// What a shop is opened with; asked for at the terminal where it is missing.
#[derive(Args)]
pub struct Lead {
    /// Name of the shop.
    #[arg(long)]
    name: Option<String>,
    /// Name of the first lead, as it stands under what they record.
    #[arg(long)]
    lead: Option<String>,
    /// The name the lead signs in with.
    #[arg(long)]
    login: Option<String>,
    /// File that holds the lead's password. There is no flag for the password itself: it would show in the list of processes.
    #[arg(long)]
    password_file: Option<PathBuf>,
}

fn ask(what: &str) -> Result<String, String> {
    let mut line = String::new();
    print!("{what}: ");
    let failed = |e: io::Error| format!("cannot ask for it: {e}");
    io::stdout().flush().map_err(failed)?;
    io::stdin().lock().read_line(&mut line).map_err(failed)?;
    match line.trim() {
        "" => Err(format!("{} is missing", what.to_lowercase())),
        said => Ok(said.to_owned()),
    }
}

impl Lead {
    /// Everything a shop is opened with, asked for where it is missing.
    pub fn asked(self) -> Result<NewShop, String> {
        let terminal = io::stdin().is_terminal();
        let or_ask = |given: Option<String>, what: &str, flag: &str| match given {
            Some(given) => Ok(given),
            None if terminal => ask(what),
            None => Err(format!(
                "{} is missing: there is no terminal to ask at, so give it with {flag}",
                what.to_lowercase()
            )),
        };
        let shop = or_ask(self.name, "Name of the shop", "--name")?;
        let name = or_ask(self.lead, "Name of the lead", "--lead")?;
        let login = or_ask(self.login, "The lead signs in as", "--login")?;
        let password = match self.password_file {
            Some(path) => {
                let text = fs::read_to_string(&path).map_err(|e| format!("cannot read {}: {e}", path.display()))?;
                text.trim_end_matches(['\r', '\n']).to_owned()
            }
            None if terminal => {
                let hidden =
                    |what: &str| rpassword::prompt_password(what).map_err(|e| format!("cannot ask for it: {e}"));
                let first = hidden("Password (10 characters or more): ")?;
                if hidden("The same again: ")? != first {
                    return Err("those were two different passwords: nothing was done".into());
                }
                first
            }
            None => return Err("the password is missing: give a file that holds it with --password-file".into()),
        };
        Ok(NewShop { shop, name, login, password })
    }
}

fn now() -> Timestamp {
    let since = SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |d| d.as_millis());
    Timestamp(i64::try_from(since).unwrap_or_default())
}

/// Opens a shop over a database.
pub async fn open(store: &Store, new: &NewShop) -> Result<(), String> {
    shop_people::open(store, new, now()).await.map_err(|e| e.to_string())?;
    println!("  shop       {} is open; {} signs in as {}", new.shop, new.name, new.login);
    Ok(())
}

impl Shop {
    pub async fn run(self) -> Result<(), String> {
        let What::Open { database, lead } = self.what;
        let store = Store::connect(&database.url()?).await.map_err(|e| e.to_string())?;
        if !store.members().await.map_err(|e| e.to_string())?.is_empty() {
            return Err(shop_people::OpenError::Open.to_string());
        }
        open(&store, &lead.asked()?).await
    }
}
