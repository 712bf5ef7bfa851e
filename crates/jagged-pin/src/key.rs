//! The shop's key: a file beside the data, never in the database.
use std::fs::{self, File, OpenOptions};
use std::io::{self, Read, Write};
use std::os::unix::fs::OpenOptionsExt;
use std::path::Path;
use std::sync::atomic::{AtomicU32, Ordering};
use std::time::{SystemTime, UNIX_EPOCH};

use jagged_pin_core::sheet::SealKey;
use jagged_pin_core::units::Timestamp;
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

/// The key of a database: the one at `path`, made where neither the database nor the folder has one yet. A database whose seals
/// were made with another key is not served with a new one unless that is wanted.
pub async fn of(store: &Store, path: &Path, another: bool) -> Result<SealKey, String> {
    let known = store.key_name().await.map_err(|e| e.to_string())?;
    if let Some(known) = known.filter(|_| !another && !path.exists()) {
        return Err(format!(
            "the seals of this shop were made with the key {known}, and there is none at {}: put the file of that key there, \
             or go on with a new one by --another-key: seals of before then count as made before the key",
            path.display()
        ));
    }
    let key = at(path)?;
    belongs(store, &key, another).await?;
    Ok(key)
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

/// Checks that a database's seals were made with this key, and notes the key where it is the first one.
async fn belongs(store: &Store, key: &SealKey, another: bool) -> Result<(), String> {
    let failed = |e: jagged_pin_store::StoreError| e.to_string();
    let (known, ours) = (store.key_name().await.map_err(failed)?, key.fingerprint());
    match known {
        Some(known) if known != ours && !another => Err(format!(
            "the seals of this shop were made with the key {known}, and this is {ours}: put the file of that key in \
             its place, or go on with this one by --another-key: seals of before then count as made before the key"
        )),
        Some(known) if known == ours => Ok(()),
        _ => store.put_key_name(&ours).await.map_err(failed),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

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
