//! Making the data folder of a new database.
use std::os::unix::fs::symlink;
use std::os::unix::process::CommandExt;
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicBool, AtomicU32, Ordering};
use std::thread::sleep;
use std::{fs, io};

use rustix::process::{Pid, Signal, kill_process_group};

use crate::process::end_left_over;
use crate::{MariaDbError, POLL, as_root, find, io_error};

/// Name of a data folder that is being made.
const NEW: &str = "data.new";

/// Makes the data folder with its system tables, where there is none. It is made under another name and renamed when it is
/// whole: one that an interrupted start left half made is never taken for a database.
pub(crate) fn data_folder(home: &Path, cancelled: &AtomicBool) -> Result<(), MariaDbError> {
    let (data, new) = (home.join("data"), home.join(NEW));
    if new.exists() {
        fs::remove_dir_all(&new).map_err(io_error("clearing a half-made database folder"))?;
    }
    if data.join("mysql").is_dir() {
        return Ok(());
    }
    if data.exists() {
        fs::remove_dir_all(&data).map_err(io_error("clearing a half-made database folder"))?;
    }
    let plain = Plain::of(home).map_err(io_error("naming the database's folder"))?;
    let installer = find("mariadb-install-db").ok_or(MariaDbError::NotInstalled)?;
    let said = home.join("install.log");
    let log = fs::File::create(&said).map_err(io_error("making the log of the first start"))?;
    let mut command = Command::new(installer);
    command
        .args(["--no-defaults", "--skip-test-db", "--auth-root-authentication-method=socket"])
        .arg(format!("--datadir={}", plain.path().join(NEW).display()))
        .arg(format!("--tmpdir={}", plain.path().join("tmp").display()))
        .stdin(Stdio::null())
        .stdout(log.try_clone().map_err(io_error("the log of the first start"))?)
        .stderr(log)
        // A script that starts a server of its own: ended together.
        .process_group(0);
    as_root(&mut command);
    let mut maker = command.spawn().map_err(io_error("running mariadb-install-db"))?;
    loop {
        if let Some(status) = maker.try_wait().map_err(io_error("running mariadb-install-db"))? {
            if status.success() {
                return fs::rename(&new, &data).map_err(io_error("putting the new database folder in its place"));
            }
            return Err(MariaDbError::Initialise(fs::read_to_string(&said).unwrap_or_default()));
        }
        if cancelled.load(Ordering::Relaxed) {
            end_group(&mut maker);
            // The script's own server is not our child: it may still be on its way out when the script is gone.
            let gone = end_left_over(home);
            return Err(if gone { MariaDbError::Cancelled } else { MariaDbError::InUse(home.display().to_string()) });
        }
        sleep(POLL);
    }
}

/// A name of a folder without anything that the script of the installer stumbles over, such as blanks: the folder's own where
/// that is plain, else a link for as long as it is needed.
struct Plain {
    path: PathBuf,
    link: bool,
}

impl Plain {
    fn of(home: &Path) -> io::Result<Self> {
        static MADE: AtomicU32 = AtomicU32::new(0);
        let plain = |path: &Path| {
            let fits = |c: char| c.is_ascii_alphanumeric() || matches!(c, '/' | '.' | '-' | '_');
            path.to_str().is_some_and(|text| text.chars().all(fits))
        };
        if plain(home) {
            return Ok(Plain { path: home.to_owned(), link: false });
        }
        let usual = std::env::temp_dir();
        let folder = if plain(&usual) { usual } else { PathBuf::from("/tmp") };
        let mine = MADE.fetch_add(1, Ordering::Relaxed);
        let path = folder.join(format!("jagged-pin-{}-{mine}", std::process::id()));
        symlink(home, &path)?;
        Ok(Plain { path, link: true })
    }

    fn path(&self) -> &Path {
        &self.path
    }
}

impl Drop for Plain {
    fn drop(&mut self) {
        if self.link {
            let _ = fs::remove_file(&self.path);
        }
    }
}

fn end_group(leader: &mut Child) {
    if let Some(group) = i32::try_from(leader.id()).ok().and_then(Pid::from_raw) {
        let _ = kill_process_group(group, Signal::KILL);
    }
    let _ = leader.wait();
}
