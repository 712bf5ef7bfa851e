//! The shop's key: a file beside the data, never in the database.
use std::fs::{self, File, OpenOptions};
use std::io::{self, Read, Write};
use std::os::unix::fs::OpenOptionsExt;
use std::path::Path;
use std::sync::atomic::{AtomicU32, Ordering};
use std::time::{SystemTime, UNIX_EPOCH};

use jagged_pin_core::sheet::SealKey;
use jagged_pin_core::units::Timestamp;
use jagged_pin_server::ledger::{self, TakeOver};
use jagged_pin_store::Store;

/// Reads the key, making one where there is none. Two who make one at once end up with the same.
pub fn at(path: &Path) -> Result<SealKey, String> {
    let failed = |e: io::Error| format!("the shop's key {}: {e}", path.display());
    match fs::read_to_string(path) {
        Ok(text) => SealKey::parse(&text).map_err(|e| format!("{}: {e}", path.display())),
        Err(e) if e.kind() == io::ErrorKind::NotFound => {
            make(path).map_err(failed)?;
            let text = fs::read_to_string(path).map_err(failed)?;
            SealKey::parse(&text).map_err(|e| format!("{}: {e}", path.display()))
        }
        Err(e) => Err(failed(e)),
    }
}

/// The line in the key's file that says that a ledger of seals was begun under it.
const BEGUN: &str = "ledger";

fn is_begun(path: &Path) -> io::Result<bool> {
    Ok(fs::read_to_string(path)?.lines().any(|line| line.trim() == BEGUN))
}

/// Begins the ledger of seals where the database has none. One that was begun under this key before and is empty was emptied
/// behind the product: nothing is taken over then, so that the look at the seals says so.
async fn begin_ledger(store: &Store, key: &SealKey, path: &Path, another: bool) -> Result<(), String> {
    let failed = |e: io::Error| format!("the shop's key {}: {e}", path.display());
    let begun = is_begun(path).map_err(failed)?;
    let take_over = match (another, begun) {
        (true, _) => TakeOver::Anew,
        (false, true) => TakeOver::Nothing,
        (false, false) => TakeOver::WhatThereIs,
    };
    if let Some(taken_over) = ledger::begin(store, key, take_over).await.map_err(|e| e.to_string())? {
        tracing::info!(taken_over, "the ledger of seals is begun");
    }
    if !begun {
        let mut file = OpenOptions::new().append(true).open(path).map_err(failed)?;
        writeln!(file, "{BEGUN}").and_then(|()| file.sync_all()).map_err(failed)?;
    }
    Ok(())
}

/// The store with its key: the one at `path`, made where neither the database nor the folder has one yet. A database whose seals
/// were made with another key is not served with a new one unless that is wanted.
pub async fn of(store: Store, path: &Path, another: bool) -> Result<(Store, SealKey), String> {
    let known = store.key_name().await.map_err(|e| e.to_string())?;
    if let Some(known) = known.filter(|_| !another && !path.exists()) {
        return Err(format!(
            "the seals of this shop were made with the key {known}, and there is none at {}: put the file of that key there, \
             or go on with a new one by --another-key: seals of before then count as made before the key",
            path.display()
        ));
    }
    let key = at(path)?;
    let new = belongs(&store, &key, another).await?;
    let store = store.with_key(key.clone());
    begin_ledger(&store, &key, path, new).await?;
    Ok((store, key))
}

/// Keys that this process began to make.
static MADE: AtomicU32 = AtomicU32::new(0);

fn make(path: &Path) -> io::Result<()> {
    let mut bytes = [0_u8; 32];
    File::open("/dev/urandom")?.read_exact(&mut bytes)?;
    let since = SystemTime::now().duration_since(UNIX_EPOCH).map_or(0, |d| d.as_millis());
    let key = SealKey::new(bytes, Timestamp(i64::try_from(since).unwrap_or_default()));
    if let Some(folder) = path.parent() {
        fs::create_dir_all(folder)?;
    }
    // Whole under another name first: a key that was cut off would be none.
    let mine = MADE.fetch_add(1, Ordering::Relaxed);
    let new = path.with_extension(format!("{}-{mine}.new", std::process::id()));
    let mut file = OpenOptions::new().create(true).truncate(true).write(true).mode(0o600).open(&new)?;
    writeln!(file, "{}", key.text())?;
    file.sync_all()?;
    let linked = fs::hard_link(&new, path);
    fs::remove_file(&new)?;
    match linked {
        Err(e) if e.kind() != io::ErrorKind::AlreadyExists => Err(e),
        _ => Ok(()),
    }
}

/// Checks that a database's seals were made with this key, and notes the key where it is the first one, or another one; says
/// whether it takes the place of another.
async fn belongs(store: &Store, key: &SealKey, another: bool) -> Result<bool, String> {
    let failed = |e: jagged_pin_store::StoreError| e.to_string();
    let (known, ours) = (store.key_name().await.map_err(failed)?, key.fingerprint());
    match known {
        Some(known) if known != ours && !another => Err(format!(
            "the seals of this shop were made with the key {known}, and this is {ours}: put the file of that key in \
             its place, or go on with this one by --another-key: seals of before then count as made before the key"
        )),
        Some(known) if known == ours => Ok(another),
        known => store.put_key_name(&ours).await.map(|()| known.is_some()).map_err(failed),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use jagged_pin_mariadb::testing::TestDatabase;
    use jagged_pin_server::seed;

    #[tokio::test]
    async fn the_ledger_is_begun_once_and_one_that_was_emptied_is_not_made_up() -> Result<(), Box<dyn std::error::Error>>
    {
        let (database, folder) = (TestDatabase::new()?, tempfile::TempDir::new()?);
        let path = folder.path().join("shop.key");
        let begun =
            async |another| of(Store::connect(&database.url()).await.map_err(|e| e.to_string())?, &path, another).await;
        let (store, key) = begun(false).await?;
        seed::demo(&store).await?;
        let lines = store.ledger().await?;
        assert!(lines.len() > 5);
        let text = fs::read_to_string(&path)?;
        let (store, again) = begun(false).await?;
        assert_eq!((again, store.ledger().await?, fs::read_to_string(&path)?), (key, lines, text));
        database.run("DELETE FROM seal_ledger")?;
        let (store, _) = begun(false).await?;
        assert_eq!(store.ledger().await?.len(), 1, "nothing is taken over under a key that had a ledger");
        let (store, key) = begun(true).await?;
        let ledger = jagged_pin_core::sheet::Ledger::of(&store.ledger().await?, &key);
        assert!(ledger.faults.is_empty() && ledger.taken_over >= 2, "{ledger:?}");
        Ok(())
    }

    #[test]
    fn a_key_is_made_once_and_kept_from_others() -> Result<(), Box<dyn std::error::Error>> {
        use std::os::unix::fs::PermissionsExt;
        let folder = tempfile::TempDir::new()?;
        let path = folder.path().join("var/shop.key");
        let keys: Vec<_> = std::thread::scope(|scope| {
            let all: Vec<_> = (0..8).map(|_| scope.spawn(|| at(&path))).collect();
            all.into_iter().filter_map(|one| one.join().ok()).collect()
        });
        let first = keys.first().cloned().ok_or("a key")??;
        assert!(keys.iter().all(|key| key.as_ref() == Ok(&first)), "{keys:?}");
        assert_eq!(fs::metadata(&path)?.permissions().mode() & 0o777, 0o600);
        fs::write(&path, "not a key")?;
        assert!(at(&path).is_err(), "a key that cannot be read is not replaced");
        Ok(())
    }
}
