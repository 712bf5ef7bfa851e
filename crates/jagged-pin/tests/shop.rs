//! Opening a shop, bringing tables up to date, and looking through seals, from the command line.
use std::fs;
use std::path::Path;
use std::process::{Command, Output};

use jagged_pin_core::sheet::SealKey;
use jagged_pin_core::units::Timestamp;
use jagged_pin_mariadb::testing::TestDatabase;
use jagged_pin_server::ledger::{self, TakeOver};
use jagged_pin_server::seed;
use jagged_pin_store::Store;
use tempfile::TempDir;

type Outcome<T = ()> = Result<T, Box<dyn std::error::Error>>;

fn run(args: &[&str], url: Option<&str>) -> Outcome<Output> {
    let mut command = Command::new(env!("CARGO_BIN_EXE_jagged-pin"));
    command.args(args).stdin(std::process::Stdio::null()).env_remove("JAGGED_PIN_DATABASE_URL");
    if let Some(url) = url {
        command.env("JAGGED_PIN_DATABASE_URL", url);
    }
    Ok(command.output()?)
}

fn said(output: &Output) -> String {
    format!("{}{}", String::from_utf8_lossy(&output.stdout), String::from_utf8_lossy(&output.stderr))
}

fn path(of: &Path) -> &str {
    of.to_str().unwrap_or_default()
}

#[test]
fn a_shop_is_opened_once_with_its_lead_and_a_password_from_a_file() -> Outcome {
    let (database, folder) = (TestDatabase::new()?, TempDir::new()?);
    let secret = folder.path().join("password");
    fs::write(&secret, "brackish-on-purpose\n")?;
    // The address may stand in a file as well.
    let address = folder.path().join("database url");
    fs::write(&address, format!("{}\n", database.url()))?;
    let open = |more: &[&str]| {
        let file = ["--database-url-file", path(&address), "--name", "Reedmouth Engines", "--lead", "A. Sallow"];
        run(&[&["shop", "open"], &file[..], &["--login", "sallow"], more].concat(), None)
    };
    let missing = open(&[])?;
    assert!(!missing.status.success() && said(&missing).contains("--password-file"), "{}", said(&missing));
    fs::write(&secret, "short")?;
    let short = open(&["--password-file", path(&secret)])?;
    assert!(!short.status.success() && said(&short).contains("10 characters"), "{}", said(&short));
    fs::write(&secret, "brackish-on-purpose\n")?;
    let opened = open(&["--password-file", path(&secret)])?;
    assert!(opened.status.success() && said(&opened).contains("sallow"), "{}", said(&opened));
    let again = open(&["--password-file", path(&secret)])?;
    assert!(!again.status.success() && said(&again).contains("has people already"), "{}", said(&again));
    assert_eq!(database.query("SELECT login, role FROM people")?.trim(), "sallow\tlead");
    Ok(())
}

#[test]
fn without_an_address_of_a_database_it_says_where_to_put_it() -> Outcome {
    let lost = run(&["tables"], None)?;
    assert!(!lost.status.success() && said(&lost).contains("--database-url-file"), "{}", said(&lost));
    Ok(())
}

#[test]
fn seals_are_looked_through_in_files_and_in_a_database() -> Outcome {
    let folder = TempDir::new()?;
    let sealed = include_str!("../../core/tests/frozen/builds/SL-042.json");
    let (whole, changed) = (folder.path().join("whole.json"), folder.path().join("changed.json"));
    fs::write(&whole, sealed)?;
    fs::write(&changed, sealed.replace("Dunlin 1.6 flat-four", "Dunlin 1.8 flat-four"))?;
    let good = run(&["verify", path(&whole)], None)?;
    assert!(good.status.success() && said(&good).contains("holds"), "{}", said(&good));
    let bad = run(&["verify", path(&whole), path(&changed)], None)?;
    let text = said(&bad);
    assert!(!bad.status.success() && text.contains("DOES NOT HOLD") && text.contains("1 do not hold"), "{text}");
    // A file of before says nothing of this shop's key.
    let key = folder.path().join("none.key");
    let no_key = run(&["verify", "--key-file", path(&key), path(&whole)], None)?;
    assert!(!no_key.status.success() && !key.exists(), "looking makes no key: {}", said(&no_key));
    // With a key at hand, what only says that it is older than the key proves nothing.
    fs::write(&key, format!("{} {}", i64::MAX, "07".repeat(32)))?;
    let dated_before = run(&["verify", "--key-file", path(&key), path(&whole)], None)?;
    let text = said(&dated_before);
    assert!(!dated_before.status.success() && text.contains("0 of 2 signatures bear the mark"), "{text}");

    let database = TestDatabase::new()?;
    let made = run(&["tables"], Some(&database.url()))?;
    assert!(made.status.success(), "{}", said(&made));
    let empty = run(&["verify"], Some(&database.url()))?;
    assert!(empty.status.success(), "{}", said(&empty));
    Ok(())
}

#[tokio::test]
async fn a_database_is_held_against_its_ledger_of_seals_as_well() -> Outcome {
    let (database, folder) = (TestDatabase::new()?, TempDir::new()?);
    let file = folder.path().join("shop.key");
    let key = SealKey::new([7; 32], Timestamp(0));
    fs::write(&file, key.text())?;
    let store = Store::connect(&database.url()).await?.with_key(key.clone());
    ledger::begin(&store, &key, TakeOver::WhatThereIs).await?;
    seed::demo(&store).await?;
    let verify = || run(&["verify", "--key-file", path(&file)], Some(&database.url()));
    let whole = verify()?;
    let text = said(&whole);
    assert!(whole.status.success() && text.contains("2 of 2 signatures bear the mark"), "{text}");
    assert!(text.contains("ledger of seals: holds"), "{text}");
    database.run("DELETE FROM seal_ledger WHERE kind = 'signed' ORDER BY number LIMIT 1")?;
    database.run("DELETE FROM pictures LIMIT 1")?;
    let changed = verify()?;
    let text = said(&changed);
    assert!(!changed.status.success() && text.contains("ledger of seals: DOES NOT HOLD"), "{text}");
    assert!(text.contains("is missing") && text.contains("the ledger does not have the signature of"), "{text}");
    assert!(text.contains("is gone"), "{text}");
    Ok(())
}
