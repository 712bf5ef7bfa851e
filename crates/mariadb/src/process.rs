//! The processes of a database folder: finding those that an earlier owner left behind, and ending them.
use std::ffi::OsStr;
use std::fs;
use std::os::unix::ffi::OsStrExt;
use std::path::{Path, PathBuf};
use std::thread::sleep;
use std::time::{Duration, Instant};

use rustix::process::{Pid, Signal, kill_process};

use crate::POLL;

/// How long a server may take to close its files before it is killed. What it had acknowledged is on the disk either way.
pub(crate) const CLOSING: Duration = Duration::from_secs(5);
/// How long a killed process may take to be gone.
const GOING: Duration = Duration::from_secs(10);

/// Whether a command line names one of the folders as its data folder, by whichever name.
fn is_of(command_line: &[u8], folders: &[PathBuf]) -> bool {
    let named = command_line.split(|b| *b == 0).filter_map(|arg| arg.strip_prefix(b"--datadir="));
    named.map(|name| PathBuf::from(OsStr::from_bytes(name))).any(|name| {
        // What is gone by now has only the name it had.
        let real = fs::canonicalize(&name).unwrap_or(name);
        folders.contains(&real)
    })
}

/// The processes that run over a home, whoever started them and whenever: servers, and the makers of its first files.
pub fn running_over(home: &Path) -> Vec<Pid> {
    let folders = ["data", "data.new"].map(|name| home.join(name));
    let Ok(all) = fs::read_dir("/proc") else { return Vec::new() };
    all.filter_map(Result::ok)
        .filter_map(|entry| entry.file_name().to_str()?.parse::<i32>().ok().and_then(Pid::from_raw))
        .filter(|pid| {
            // A process that ended while we look has no command line.
            let line = fs::read(format!("/proc/{}/cmdline", pid.as_raw_nonzero())).unwrap_or_default();
            is_of(&line, &folders)
        })
        .collect()
}

/// Waits until nothing runs over a home any more; says whether that came.
fn gone(home: &Path, within: Duration) -> bool {
    let until = Instant::now() + within;
    while Instant::now() < until {
        if running_over(home).is_empty() {
            return true;
        }
        sleep(POLL);
    }
    running_over(home).is_empty()
}

/// Kills whatever runs over a home without letting it close its files: what it had acknowledged is on the disk. It is gone
/// afterwards, which takes a busy machine a moment.
pub fn kill_left_over(home: &Path) {
    for pid in running_over(home) {
        // It fails only when the process is gone, or somebody else's.
        let _ = kill_process(pid, Signal::KILL);
    }
    gone(home, GOING);
}

/// Ends whatever runs over a home: asked first, then killed. A hung server does not keep the next one from starting.
pub fn end_left_over(home: &Path) -> bool {
    for (signal, within) in [(Signal::TERM, CLOSING), (Signal::KILL, GOING)] {
        for pid in running_over(home) {
            // It fails only when the process is gone, or somebody else's.
            let _ = kill_process(pid, signal);
        }
        if gone(home, within) {
            return true;
        }
    }
    false
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_process_belongs_to_the_folder_it_names_and_to_no_other() {
        let folders = [PathBuf::from("/a/data")];
        assert!(is_of(b"mariadbd\0--datadir=/a/data\0--port=1\0", &folders));
        for other in [&b"mariadbd\0--datadir=/a/data2\0"[..], b"mariadbd\0--datadir=/b/a/data\0", b""] {
            assert!(!is_of(other, &folders));
        }
    }
}
