//! The `jagged-pin` command.
//!
//! * `serve`: the application over a given database.
//! * `up`: the same with a private MariaDB and the demo data; what the start command runs.
//! * `shop open`: a shop and its first lead, over a database that has nobody yet.
//! * `tables`: brings the tables of a database up to date.
//! * `verify`: looks through the seals of files, or of a database.
//! * `calc`: the calculators, from standard input to standard output.
//! * `gauge-sim` and `gauge`: stand-ins for bench gauges, and their buttons.
//! * `openapi`: the API's OpenAPI document.
//! * `catalog`: what can be measured and judged.

mod calc;
mod database;
mod gauges;
mod keeper;
mod key;
mod listening;
mod serve;
mod shop;
mod stopping;
mod up;
mod verify;
use std::path::PathBuf;
use std::process::ExitCode;

use clap::{Parser, Subcommand};
use mimalloc::MiMalloc;
use tracing_subscriber::EnvFilter;

/// What a build is evaluated to is some thousands of small things, made and thrown away with every reading: with this allocator
/// that takes four fifths of the time.
#[global_allocator]
static ALLOCATOR: MiMalloc = MiMalloc;

/// Threads for what blocks: files, and what is worked out in turn. Each keeps some memory once it had work.
const BLOCKING: usize = 32;

/// Measure, judge, keep and sign the bottom end of a race engine.
#[derive(Parser)]
#[command(name = "jagged-pin", version)]
struct Cli {
    #[command(subcommand)]
    command: Command,
}

#[derive(Subcommand)]
enum Command {
    /// Serve the application over a MariaDB database.
    Serve(serve::Serve),
    /// Start a private MariaDB on loopback, load the demo shop once, and serve.
    Up(up::Up),
    /// The shop itself.
    Shop(shop::Shop),
    /// Bring the tables of a database up to date, with an account that may change them.
    Tables(database::Database),
    /// Look through the seals of exported builds, or of a whole database.
    Verify(verify::Verify),
    /// Run a calculator: one JSON object from standard input, its answer to standard output.
    Calc(calc::Calc),
    /// Simulate the gauges of a bench on a loopback port.
    GaugeSim(gauges::GaugeSim),
    /// Press the button of a simulated gauge, or do to it what can happen to a cable.
    Gauge(gauges::Press),
    /// Print the OpenAPI document.
    Openapi,
    /// Print the catalogue of what can be measured and judged.
    Catalog,
}

/// What both ways of serving share.
#[derive(clap::Args)]
struct Web {
    /// Folder of the built web application.
    #[arg(long, env = "JAGGED_PIN_WEB", default_value = "web/dist")]
    web: PathBuf,
    /// Name of the shop.
    #[arg(long, env = "JAGGED_PIN_SHOP", default_value = jagged_pin_server::seed::SHOP)]
    shop: String,
    /// Say that the session's cookie is for TLS only: for a server behind a proxy that speaks it.
    #[arg(long, env = "JAGGED_PIN_SECURE_COOKIE")]
    secure_cookie: bool,
    /// Believe what a proxy in front says of a browser's address: the last entry of X-Forwarded-For.
    #[arg(long, env = "JAGGED_PIN_BEHIND_PROXY")]
    behind_proxy: bool,
    /// Where the gauges that talk are plugged in.
    #[arg(long, env = "JAGGED_PIN_GAUGES", default_value = jagged_pin_server::state::GAUGE_HUB)]
    gauges: String,
}

fn print_json(made: Result<String, serde_json::Error>) -> ExitCode {
    match made {
        Ok(text) => {
            println!("{text}");
            ExitCode::SUCCESS
        }
        Err(error) => fail(&error.to_string()),
    }
}

fn main() -> ExitCode {
    let cli = Cli::parse();
    match cli.command {
        Command::Calc(calc) => calc.run(),
        Command::Openapi => print_json(jagged_pin_server::openapi().to_pretty_json()),
        Command::Catalog => {
            print_json(serde_json::to_string_pretty(&jagged_pin_server::views::catalog::CatalogView::whole()))
        }
        Command::Serve(serve) => in_runtime(serve.run()),
        Command::GaugeSim(sim) => in_runtime(sim.run()),
        Command::Gauge(press) => in_runtime(press.run()),
        Command::Up(up) => in_runtime(up.run()),
        Command::Shop(shop) => in_runtime(shop.run()),
        Command::Verify(verify) => in_runtime(verify.run()),
        Command::Tables(database) => in_runtime(tables(database)),
    }
}

async fn tables(database: database::Database) -> Result<(), String> {
    jagged_pin_store::Store::connect(&database.url()?).await.map(drop).map_err(|e| e.to_string())
}

/// How long work on other threads may go on after the end.
const ENDING: std::time::Duration = std::time::Duration::from_secs(1);

fn in_runtime(work: impl Future<Output = Result<(), String>>) -> ExitCode {
    let filter = EnvFilter::try_from_env("JAGGED_PIN_LOG").unwrap_or_else(|_| EnvFilter::new("warn,jagged_pin=info"));
    let logs = tracing_subscriber::fmt().with_env_filter(filter).with_writer(std::io::stderr);
    // Lines for people at a terminal, JSON for whatever collects logs.
    if std::env::var("JAGGED_PIN_LOG_JSON").is_ok_and(|v| v == "1") {
        logs.json().init()
    } else {
        logs.init()
    }
    let mut threads = tokio::runtime::Builder::new_multi_thread();
    let runtime = match threads.enable_all().max_blocking_threads(BLOCKING).build() {
        Ok(runtime) => runtime,
        Err(error) => return fail(&error.to_string()),
    };
    let done = runtime.block_on(work);
    // What is still being worked out for somebody who is gone keeps nobody waiting.
    runtime.shutdown_timeout(ENDING);
    match done {
        Ok(()) => ExitCode::SUCCESS,
        Err(message) => fail(&message),
    }
}

fn fail(message: &str) -> ExitCode {
    eprintln!("jagged-pin: {message}");
    ExitCode::FAILURE
}
