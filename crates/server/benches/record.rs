//! Recording a reading through the API: from request to the whole new assessment, every answer read to
//! its end. Prints percentiles; it checks nothing but that each reading was kept.
//!
//! *Paced*: every bench takes four readings a second, faster than any hand. *Flat out*: every bench
//! sends its next reading as soon as the last one is answered, which shows what the machine can carry;
//! its times are those of 20 requests always waiting for one another. Clients, server and database
//! share the machine's cores.
use std::error::Error;
use std::path::PathBuf;
use std::time::{Duration, Instant};

use jagged_pin_core::Build;
use jagged_pin_mariadb::testing::TestDatabase;
use jagged_pin_server::{AppState, seed, serve};
use jagged_pin_store::Store;
use reqwest::Client;
use serde_json::{Value, json};
use tokio::net::TcpListener;
use tokio::sync::watch;
use uuid::Uuid;

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

/// One bench: signs in and records its readings; the time of each.
async fn bench(base: String, build: String, number: usize, pace: Option<Duration>) -> Outcome<Vec<Duration>> {
    let client = Client::builder().cookie_store(true).build()?;
    let login = json!({ "login": "oduya", "password": "first-of-the-flood" });
    let session: Value = client.post(format!("{base}/api/v1/session")).json(&login).send().await?.json().await?;
    let token = session["token"].as_str().ok_or("no token")?.to_owned();
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
            "id": Uuid::new_v4(), "station": format!("M{}", (number + n) % 7 + 1), "feature": "main_journal",
            "position": { "axial": "front", "angle": 0 }, "method": "direct", "gauge": "mic-tenths",
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
    let database = TestDatabase::new()?;
    let store = Store::connect(&database.url()).await?;
    seed::shop(&store).await?;
    let codes = floor(&store, builds).await?;
    let listener = TcpListener::bind("127.0.0.1:0").await?;
    let base = format!("http://{}", listener.local_addr()?);
    let (stop, stopping) = watch::channel(false);
    let state = AppState::new(store, PathBuf::from("nowhere"), "Bench", stopping);
    let mut asked = stop.subscribe();
    let server = tokio::spawn(serve(listener, state, async move { drop(asked.wait_for(|s| *s).await) }));
    let began = Instant::now();
    let mut hands = tokio::task::JoinSet::new();
    for number in 0..benches {
        hands.spawn(bench(base.clone(), codes[number % builds].clone(), number, pace));
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
    server.await??;
    Ok(())
}

fn main() -> Outcome {
    let runtime = tokio::runtime::Builder::new_multi_thread().enable_all().build()?;
    runtime.block_on(async {
        run("1 bench, flat out", 1, 1, None).await?;
        run("20 benches on 20 builds, paced", BENCHES, BENCHES, Some(PACE)).await?;
        run("20 benches on 1 build, paced", BENCHES, 1, Some(PACE)).await?;
        run("20 benches on 20 builds, flat out", BENCHES, BENCHES, None).await?;
        run("20 benches on 1 build, flat out", BENCHES, 1, None).await
    })
}
