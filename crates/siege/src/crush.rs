//! Everything at once that takes much of a small machine: clients that take no answer, streams, searches and large pictures.
//! Meanwhile somebody works.
use std::io::Write;
use std::time::{Duration, Instant};

use flate2::Compression;
use flate2::write::ZlibEncoder;
use rustix::process::Signal;
use serde_json::{Value, json};
use tokio::io::AsyncWriteExt;
use tokio::net::{TcpSocket, TcpStream};
use tokio::task::JoinSet;
use uuid::Uuid;

use crate::besieged::ASSET;
use crate::hand::Hand;
use crate::storms::memory;
use crate::{Besieged, Step};

/// Bearings of a choice that takes some seconds.
const BEARINGS: u32 = 30;

/// How much of it at once.
#[derive(Debug, Clone, Copy)]
pub struct Load {
    /// Clients that ask for large files and take nothing of them.
    pub slow_readers: usize,
    /// Streams of a gauge that one apprentice opens.
    pub links: usize,
    /// Long choices of shells.
    pub searches: usize,
    /// Pictures of as many pixels as are taken.
    pub pictures: usize,
    /// Times that it is asked after its health, a reading is kept and somebody signs in.
    pub rounds: usize,
}

/// What came of it.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Crushed {
    /// Slow readers that got a connection.
    pub connected: usize,
    /// Streams that were let in.
    pub links: usize,
    /// Searches by how they were answered: done, put off, otherwise.
    pub searches: [usize; 3],
    /// Pictures, alike.
    pub pictures: [usize; 3],
    /// Questions after its health that were answered, and the longest that took, ms.
    pub healthy: (usize, u128),
    /// Readings that were kept, and the longest.
    pub kept: (usize, u128),
    /// Sign-ins that went through, and the longest.
    pub signed_in: (usize, u128),
    /// The most memory in use, kB.
    pub most_kb: u64,
    /// Memory in use afterwards, kB.
    pub after_kb: u64,
}

/// Asks for a large file many times over one connection and reads nothing.
async fn take_nothing(address: &str) -> Step<TcpStream> {
    let socket = TcpSocket::new_v4()?;
    socket.set_recv_buffer_size(2_048)?;
    let mut stream = tokio::time::timeout(Duration::from_secs(5), socket.connect(address.parse()?)).await??;
    stream.write_all(format!("GET /assets/{ASSET} HTTP/1.1\r\nHost: x\r\n\r\n").repeat(12).as_bytes()).await?;
    Ok(stream)
}

fn chunk(out: &mut Vec<u8>, name: &[u8; 4], data: &[u8]) {
    let mut crc = flate2::Crc::new();
    crc.update(name);
    crc.update(data);
    out.extend(u32::try_from(data.len()).unwrap_or_default().to_be_bytes());
    out.extend(name);
    out.extend(data);
    out.extend(crc.sum().to_be_bytes());
}

/// A black PNG of so many pixels along a side, in colours: small to send, large in memory.
fn black(side: u32) -> Step<Vec<u8>> {
    let mut packed = ZlibEncoder::new(Vec::new(), Compression::fast());
    let line = vec![0; 1 + 3 * side as usize];
    for _ in 0..side {
        packed.write_all(&line)?;
    }
    let mut png = b"\x89PNG\r\n\x1a\n".to_vec();
    let mut head = [side.to_be_bytes(), side.to_be_bytes()].concat();
    head.extend([8, 2, 0, 0, 0]);
    chunk(&mut png, b"IHDR", &head);
    chunk(&mut png, b"IDAT", &packed.finish()?);
    chunk(&mut png, b"IEND", &[]);
    Ok(png)
}

/// A choice of shells for many bearings that takes long to prove.
fn long_search() -> Value {
    let class = |i: u32| json!({ "id": format!("c{i}"), "shift": f64::from(i) * 0.000_1 - 0.000_4 });
    let clearance = |i: u32| 0.002_1 + f64::from(i * 37 % 23) * 0.000_05;
    let station = |i: u32| json!({ "id": format!("M{i}"), "clearance_std": clearance(i) });
    let side: serde_json::Map<String, Value> = (0..9).map(|i| (format!("c{i}"), json!(3 + i % 3))).collect();
    json!({
        "target": { "low": 0.002_2, "aim": 0.002_5, "high": 0.002_8 },
        "stations": (1..=BEARINGS).map(station).collect::<Vec<_>>(),
        "classes": (0..9).map(class).collect::<Vec<_>>(),
        "max_step": 0.000_1, "stock": { "upper": side, "lower": side }, "objective": "closest",
    })
}

/// How something was answered: done, put off, otherwise.
fn count(all: &mut [usize; 3], status: u16) {
    all[match status {
        200 => 0,
        429 | 503 => 1,
        _ => 2,
    }] += 1;
}

/// How long something took, where it went well.
async fn timed(all: &mut (usize, u128), what: impl Future<Output = bool>) {
    let began = Instant::now();
    if what.await {
        all.0 += 1;
    }
    all.1 = all.1.max(began.elapsed().as_millis());
}

/// Lets all of it loose, and works meanwhile.
///
/// # Errors
/// When the siege itself fails.
pub async fn crush(load: Load) -> Step<Crushed> {
    let mut shop = Besieged::new()?;
    shop.begin()?;
    shop.comes_up()?;
    let pid = shop.pid().ok_or("it runs")?;
    let (oduya, fenn) = (Hand::sign_in(&shop.base, "oduya").await?, Hand::sign_in(&shop.base, "fenn").await?);
    let kell = Hand::sign_in(&shop.base, "kell").await?;
    let (address, picture) = (shop.base.trim_start_matches("http://").to_owned(), black(6_000)?);
    let mut came = Crushed::default();

    let mut held = Vec::new();
    let mut all = JoinSet::new();
    for _ in 0..load.slow_readers {
        let address = address.clone();
        all.spawn(async move { take_nothing(&address).await });
    }
    let mut streams = JoinSet::new();
    for _ in 0..load.links {
        let fenn = fenn.clone();
        streams.spawn(async move { fenn.hold("/gauge-link?build=SL-046&gauge=mic-tenths").await });
    }
    let mut searches = JoinSet::new();
    for _ in 0..load.searches {
        let fenn = fenn.clone();
        searches.spawn(async move {
            fenn.post("/calc/select_shells", "application/json", long_search().to_string().into_bytes()).await
        });
    }
    let mut pictures = JoinSet::new();
    for _ in 0..load.pictures {
        let (kell, picture) = (kell.clone(), picture.clone());
        pictures.spawn(async move {
            let path = format!("/builds/SL-046/pictures?id={}&place=M1&moment=found&note=black", Uuid::new_v4());
            kell.post(&path, "image/png", picture).await
        });
    }
    for _ in 0..load.rounds {
        let healthz = format!("{}/healthz", shop.base);
        let healthy = async { reqwest::get(healthz).await.is_ok_and(|a| a.status().is_success()) };
        timed(&mut came.healthy, healthy).await;
        // Whose connection was given to somebody else sends it again, as a bench does.
        let id = Uuid::new_v4();
        timed(&mut came.kept, async { oduya.touch(id).await || oduya.touch(id).await }).await;
        timed(&mut came.signed_in, async { Hand::sign_in(&shop.base, "wick").await.is_ok() }).await;
    }
    while let Some(reader) = all.join_next().await {
        if let Ok(stream) = reader? {
            came.connected += 1;
            held.push(stream);
        }
    }
    while let Some(stream) = streams.join_next().await {
        let (let_in, stream) = stream?;
        came.links += usize::from(let_in);
        drop(stream);
    }
    while let Some(status) = searches.join_next().await {
        count(&mut came.searches, status?);
    }
    while let Some(status) = pictures.join_next().await {
        count(&mut came.pictures, status?);
    }
    (came.most_kb, came.after_kb) = (memory(pid, "VmHWM"), memory(pid, "VmRSS"));
    drop(held);
    shop.end(Signal::TERM)?;
    Ok(came)
}
