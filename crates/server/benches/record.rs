//! Recording a reading through the API, from request to what it changed, and the floor of a growing shop; every answer is
//! read to its end. Prints percentiles; it checks nothing but that each request was answered.
//!
//! *Paced*: every bench takes four readings a second, faster than any hand. *Flat out*: every bench
//! sends its next reading as soon as the last one is answered, which shows what the machine can carry;
//! its times are those of 20 requests always waiting for one another. Clients, server and database
//! share the machine's cores.
use std::error::Error;
use std::path::PathBuf;
use std::time::{Duration, Instant};

use jagged_pin_core::engine::{Characteristic, Place};
use jagged_pin_core::log::{Fact, Measure, Reading, Source, What};
use jagged_pin_core::{Build, Length};
use jagged_pin_mariadb::testing::TestDatabase;
use jagged_pin_server::{AppState, seed, serve};
use jagged_pin_store::Store;
use mimalloc::MiMalloc;
use reqwest::Client;
use serde_json::{Value, json};
use tokio::net::TcpListener;
use tokio::sync::watch;
use uuid::Uuid;

/// That of the product.
#[global_allocator]
static ALLOCATOR: MiMalloc = MiMalloc;

type Outcome<T = ()> = Result<T, Box<dyn Error + Send + Sync>>;

const BENCHES: usize = 20;
const READINGS: usize = 60;
/// Time from one reading to the next of a paced bench.
const PACE: Duration = Duration::from_millis(250);

/// `count` builds like the demo's SL-046, all open.
async fn floor(store: &Store, count: usize) -> Outcome<Vec<String>> {
    let demo = jagged_pin_demo::builds()?;
    let like = demo.iter().find(|b| b.code == "SL-046").ok_or("the demo has SL-046")?;
    let mut codes = Vec::new();
    for n in 0..count {
        let code = format!("B-{n}-{}", codes.len());
        let mut build = Build { id: Uuid::new_v4(), code: code.clone(), ..like.clone() };
        for fact in &mut build.facts {
            fact.id = Uuid::new_v4();
        }
        store.open_build(&build).await?;
        codes.push(code);
    }
    Ok(codes)
}

/// Somebody who is signed in.
async fn signed_in(base: &str) -> Outcome<(Client, String)> {
    let client = Client::builder().cookie_store(true).build()?;
    let login = json!({ "login": "oduya", "password": "first-of-the-flood" });
    let session: Value = client.post(format!("{base}/api/v1/session")).json(&login).send().await?.json().await?;
    let token = session["token"].as_str().ok_or("no token")?.to_owned();
    Ok((client, token))
}

/// One bench: records its readings; the time of each.
async fn bench(
    (client, token): (Client, String),
    (base, build): (String, String),
    number: usize,
    pace: Option<Duration>,
) -> Outcome<Vec<Duration>> {
    let mut times = Vec::new();
    // Hands are not in step with each other.
    let first = pace.unwrap_or_default() * u32::try_from(number)? / u32::try_from(BENCHES)?;
    tokio::time::sleep(first).await;
    let mut beat = pace.map(tokio::time::interval);
    for n in 0..READINGS {
        if let Some(beat) = &mut beat {
            beat.tick().await;
        }
        let body = json!({
            "id": Uuid::new_v4(), "station": format!("M{}", (number + n) % 7 + 1), "characteristic": "main_journal",
            "position": { "axial": "front", "angle": 0 }, "read": "size", "reference": null, "gauge": "mic-tenths",
            "text": "2.6238", "unit": "in",
        });
        let url = format!("{base}/api/v1/builds/{build}/readings");
        let began = Instant::now();
        let answer = client.post(url).header("x-csrf-token", &token).json(&body).send().await?;
        let status = answer.status();
        let body = answer.bytes().await?;
        times.push(began.elapsed());
        if status != 200 || body.is_empty() {
            return Err(format!("{status}").into());
        }
    }
    Ok(times)
}

async fn run(name: &str, benches: usize, builds: usize, pace: Option<Duration>) -> Outcome {
    let (store, base, .., stop, _database) = shop().await?;
    let codes = floor(&store, builds).await?;
    // One after the other: only so many passwords are looked at side by side.
    let mut people = Vec::new();
    for _ in 0..benches {
        people.push(signed_in(&base).await?);
    }
    let began = Instant::now();
    let mut hands = tokio::task::JoinSet::new();
    for (number, who) in people.into_iter().enumerate() {
        hands.spawn(bench(who, (base.clone(), codes[number % builds].clone()), number, pace));
    }
    let mut times = Vec::new();
    while let Some(done) = hands.join_next().await {
        times.extend(done??);
    }
    let took = began.elapsed();
    times.sort_unstable();
    let at = |percent: usize| times[(times.len() - 1) * percent / 100];
    println!(
        "{name}: {} readings in {took:.2?}; p50 {:.1?}, p90 {:.1?}, p99 {:.1?}, max {:.1?}",
        times.len(),
        at(50),
        at(90),
        at(99),
        at(100)
    );
    stop.send_replace(true);
    Ok(())
}

/// Memory of this process, in MB: clients and server together.
fn memory() -> String {
    let status = std::fs::read_to_string("/proc/self/status").unwrap_or_default();
    let line = status.lines().find_map(|l| l.strip_prefix("VmRSS:")).unwrap_or("?").trim();
    line.trim_end_matches(" kB").parse::<u64>().map_or_else(|_| line.to_owned(), |kb| format!("{} MB", kb / 1_024))
}

/// A build with that many readings, spread over its journals.
fn grown(code: &str, readings: u32) -> Outcome<Build> {
    let demo = jagged_pin_demo::builds()?;
    let like = demo.iter().find(|b| b.code == "SL-046").ok_or("the demo has SL-046")?;
    let mut build = Build { id: Uuid::new_v4(), code: code.to_owned(), ..like.clone() };
    for fact in &mut build.facts {
        fact.id = Uuid::new_v4();
    }
    let (by, at) = (build.opened_by.clone(), build.opened_at);
    let journal = Characteristic::MAIN_JOURNAL;
    let places: Vec<_> = (1..=7).flat_map(|n| journal.positions().iter().map(move |p| (n, p.position))).collect();
    for (n, (main, position)) in (0..readings).zip(places.iter().cycle()) {
        let reading = Reading {
            station: Place::main(*main),
            characteristic: journal,
            position: *position,
            part: None,
            measure: Measure::Size { size: Length::tenths(26_237 + i64::from(n % 3)) },
            gauge: "mic-tenths".into(),
            raw: "2.6238".into(),
            source: Source::Typed,
            forced: false,
            taken: None,
            session: None,
            temperatures: None,
            blind: None,
            zero: None,
        };
        let (seq, what) = (build.seq() + 1, What::Reading(reading));
        build.facts.push(Fact { id: Uuid::new_v4(), seq, at, by: by.clone(), what });
    }
    Ok(build)
}

/// A server over a database of its own, and somebody signed in.
async fn shop() -> Outcome<(Store, String, Client, String, watch::Sender<bool>, TestDatabase)> {
    let database = TestDatabase::new()?;
    let store = Store::connect(&database.url()).await?;
    seed::shop(&store).await?;
    let listener = TcpListener::bind("127.0.0.1:0").await?;
    let base = format!("http://{}", listener.local_addr()?);
    let (stop, stopping) = watch::channel(false);
    let state = AppState::new(store.clone(), PathBuf::from("nowhere"), "Bench", stopping);
    let mut asked = stop.subscribe();
    tokio::spawn(serve(listener, state, async move { drop(asked.wait_for(|s| *s).await) }));
    let (client, token) = signed_in(&base).await?;
    Ok((store, base, client, token, stop, database))
}

fn told(name: &str, mut times: Vec<Duration>, bytes: usize) {
    times.sort_unstable();
    let at = |percent: usize| times[(times.len() - 1) * percent / 100];
    println!("{name}: p50 {:.1?}, p99 {:.1?}, {bytes} B, {}", at(50), at(99), memory());
}

/// One more reading on a build that has many.
async fn on_a_grown_build(readings: u32) -> Outcome {
    let (store, base, client, token, stop, _database) = shop().await?;
    store.open_build(&grown("BIG", readings)?).await?;
    let (mut times, mut bytes) = (Vec::new(), 0);
    for n in 0..80 {
        let body = json!({ "id": Uuid::new_v4(), "station": format!("M{}", n % 7 + 1), "characteristic": "main_journal",
            "position": { "axial": "front", "angle": 0 }, "read": "size", "reference": null, "gauge": "mic-tenths",
            "text": "2.6238", "unit": "in" });
        let began = Instant::now();
        let url = format!("{base}/api/v1/builds/BIG/readings");
        let answer = client.post(url).header("x-csrf-token", &token).json(&body).send().await?;
        if answer.status() != 200 {
            return Err(answer.text().await?.into());
        }
        bytes = answer.bytes().await?.len();
        // The first few find nothing kept.
        if n >= 5 {
            times.push(began.elapsed());
        }
        tokio::time::sleep(PACE / 5).await;
    }
    stop.send_replace(true);
    told(&format!("a reading on {readings} readings"), times, bytes);
    Ok(())
}

/// The first page of the floor of a shop.
async fn on_the_floor(builds: usize) -> Outcome {
    let (store, base, client, _, stop, _database) = shop().await?;
    floor(&store, builds).await?;
    let url = format!("{base}/api/v1/builds");
    let began = Instant::now();
    client.get(&url).send().await?.bytes().await?;
    let first = began.elapsed();
    tokio::time::sleep(Duration::from_millis(500)).await;
    let (mut times, mut bytes) = (Vec::new(), 0);
    for _ in 0..60 {
        let began = Instant::now();
        bytes = client.get(&url).send().await?.bytes().await?.len();
        times.push(began.elapsed());
    }
    stop.send_replace(true);
    told(&format!("a page of the floor of {builds} builds (first {first:.1?})"), times, bytes);
    Ok(())
}

fn main() -> Outcome {
    let runtime = tokio::runtime::Builder::new_multi_thread().enable_all().build()?;
    runtime.block_on(async {
        for readings in [60, 500, 2_000, 5_000, 10_000, 30_000] {
            on_a_grown_build(readings).await?;
        }
        for builds in [10, 100, 1_000] {
            on_the_floor(builds).await?;
        }
        run("1 bench, flat out", 1, 1, None).await?;
        run("20 benches on 20 builds, paced", BENCHES, BENCHES, Some(PACE)).await?;
        run("20 benches on 1 build, paced", BENCHES, 1, Some(PACE)).await?;
        run("20 benches on 20 builds, flat out", BENCHES, BENCHES, None).await?;
        run("20 benches on 1 build, flat out", BENCHES, 1, None).await
    })
}
