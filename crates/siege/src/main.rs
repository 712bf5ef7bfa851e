//! The long siege: `cargo run --release -p jagged-pin-siege -- 200` for so many kills of each kind.
use std::process::ExitCode;

use jagged_pin_siege::{
    Load, Step, Tally, crush, cut_imports, ends, first_starts, interrupts, storm, tables, tampering, upgrades, work,
};

/// Everything at once, as a shop with a rogue in its network may meet it.
const CRUSH: Load = Load { slow_readers: 1_040, links: 1_024, searches: 24, pictures: 4, rounds: 20 };

fn tell(name: &str, tally: &Tally) -> bool {
    let Tally { times, hands, left, acknowledged, lost, doubled, longest_ms, said } = tally;
    println!(
        "{name:<24} {times:>4} times, {hands} needed a hand, {left} left running, {acknowledged} acknowledged, \
         {lost} lost, {doubled} doubled, longest {longest_ms} ms"
    );
    said.iter().for_each(|s| println!("    {s}"));
    tally.held()
}

async fn siege(times: usize, seed: u64) -> Step<bool> {
    let mut rng = fastrand::Rng::with_seed(seed);
    println!("seed {seed}");
    let mut held = tell("first start", &first_starts(times.div_ceil(4), &mut rng)?);
    held &= tell("making tables", &tables(times.div_ceil(2), &mut rng)?);
    held &= tell("carrying over", &upgrades(times.div_ceil(2), &mut rng)?);
    held &= tell("interrupted start", &interrupts(times.div_ceil(4), &mut rng)?);
    held &= tell("work", &work(times, &mut rng).await?);
    held &= tell("end, 60 hanging", &ends(times.div_ceil(40), 60)?);
    held &= tell("import", &cut_imports(times.div_ceil(4), &mut rng).await?);
    println!("{:?}", storm(500).await?);
    println!("{:?}", crush(CRUSH).await?);
    let tampered = tampering(usize::MAX).await?;
    println!("{tampered:?}");
    Ok(held && tampered.silent.is_empty() && !tampered.false_alarm)
}

#[tokio::main]
async fn main() -> ExitCode {
    let mut args = std::env::args().skip(1).filter_map(|a| a.parse::<u64>().ok());
    let times = args.next().and_then(|n| usize::try_from(n).ok()).unwrap_or(40);
    match siege(times, args.next().unwrap_or_else(|| fastrand::u64(..))).await {
        Ok(true) => ExitCode::SUCCESS,
        Ok(false) => ExitCode::FAILURE,
        Err(error) => {
            eprintln!("the siege itself failed: {error}");
            ExitCode::FAILURE
        }
    }
}
