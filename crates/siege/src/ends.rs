//! Asked to end: while it starts, and while connections hang.
use std::io::Write;
use std::net::TcpStream;
use std::thread::sleep;
use std::time::Duration;

use rustix::process::Signal;

use crate::{Besieged, Step, Tally};

/// Interrupts starts over a folder that has its data already at random moments: nothing is left running, and the next one
/// comes up.
///
/// # Errors
/// When the siege itself fails.
pub fn interrupts(times: usize, rng: &mut fastrand::Rng) -> Step<Tally> {
    let mut tally = Tally::default();
    let mut shop = Besieged::new()?;
    for n in 0..times {
        // The first one makes the data; where it is interrupted, the next one does.
        shop.begin()?;
        sleep(Duration::from_millis(rng.u64(5..if n == 0 { 6_000 } else { 2_500 })));
        let (took, left) = shop.end(Signal::INT)?;
        tally.times += 1;
        tally.left += left;
        tally.longest_ms = tally.longest_ms.max(took.as_millis());
    }
    shop.begin()?;
    if let Err(said) = shop.comes_up() {
        tally.hands += 1;
        tally.said.push(said);
    }
    tally.left += shop.end(Signal::TERM)?.1;
    Ok(tally)
}

/// Half requests that nobody goes on with.
const HALVES: [&str; 3] = [
    "GET / HT",
    "POST /api/v1/session HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: 90\r\n\r\n{",
    "GET /healthz HTTP/1.1\r\nHost: x\r\n\r\n",
];

/// Ends it while connections hang.
///
/// # Errors
/// When the siege itself fails.
pub fn ends(times: usize, hanging: usize) -> Step<Tally> {
    let mut tally = Tally::default();
    let mut shop = Besieged::new()?;
    for _ in 0..times {
        shop.begin()?;
        shop.comes_up()?;
        let address = shop.base.trim_start_matches("http://").to_owned();
        let mut open = Vec::new();
        for half in HALVES.iter().cycle().take(hanging) {
            let mut stream = TcpStream::connect(&address)?;
            stream.write_all(half.as_bytes())?;
            open.push(stream);
        }
        let (took, left) = shop.end(Signal::TERM)?;
        tally.times += 1;
        tally.left += left;
        tally.longest_ms = tally.longest_ms.max(took.as_millis());
    }
    Ok(tally)
}
