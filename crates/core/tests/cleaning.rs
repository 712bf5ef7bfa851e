//! Grit blocks until it is washed or flushed away: after every stone, wheel, cut and blast, here or at another shop.
mod six;

use jagged_pin_core::Length;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Figure, Place, Read, Scope};
use jagged_pin_core::log::{Reckoning, Rules, Work};
use jagged_pin_core::maths::TargetRule;
use jagged_pin_core::sheet::Needs;
use jagged_pin_workbench::Bench;

type Outcome = Result<(), Box<dyn std::error::Error>>;

const M: fn(u8) -> Place = Place::main;

/// A six whose third and fourth main are measured after the work.
fn worked(work: Work, on: Scope) -> Result<Bench, Box<dyn std::error::Error>> {
    let t = Length::tenths;
    let mut bench = six::opened(94)?;
    let wide = TargetRule::Range { low: t(15), aim: None, high: t(45) };
    bench.figure_target(Figure::OIL_CLEARANCE, BearingRow::Mains, wide, "a truck")?;
    bench.work(work, on, "as ordered")?;
    for main in [M(3), M(4)] {
        bench.journal(main, ["2.6238", "38", "38", "38"])?;
        bench.bore(main, Read::Dial, &["23 23", "23 23"])?;
    }
    Ok(bench)
}

/// What has to be washed, and where it is said.
fn grit(bench: &Bench) -> Vec<(Place, Option<Work>)> {
    let blocks = evaluate(bench.build()).sign_off.blocks;
    blocks.iter().filter(|b| b.needs == Needs::Clean).map(|b| (b.station, b.wash)).collect()
}

#[test]
fn a_tunnel_that_was_honed_has_its_galleries_flushed_once_for_the_block() -> Outcome {
    let mut bench = worked(Work::TunnelHoned, Scope::Mains)?;
    // M1 is still to be measured: the first place that is, asks for the whole block.
    assert_eq!(grit(&bench), [(M(3), Some(Work::BlockFlushed))]);
    bench.work(Work::CrankFlushed, Scope::Crank, "the crank is another part")?;
    assert_eq!(grit(&bench).len(), 1);
    bench.work(Work::BlockFlushed, Scope::Block, "plugs out, brushed")?;
    assert_eq!(grit(&bench), []);
    bench.work(Work::Blasted, Scope::Block, "paint")?;
    assert_eq!(grit(&bench), [(M(3), Some(Work::BlockFlushed))]);
    Ok(())
}

#[test]
fn a_crank_that_was_polished_and_a_block_that_was_honed_are_two_things_to_flush() -> Outcome {
    let mut bench = worked(Work::JournalPolished, Scope::Crank)?;
    assert_eq!(grit(&bench), [(M(3), Some(Work::CrankFlushed))]);
    bench.work(Work::Blasted, Scope::Crank, "the webs")?;
    bench.work(Work::CrankFlushed, Scope::Crank, "brushed")?;
    assert_eq!(grit(&bench), []);
    Ok(())
}

#[test]
fn builds_of_before_ask_as_they_were_opened() -> Outcome {
    let before = |bench: &mut Bench| -> Outcome {
        let rules = Rules { reckoning: Reckoning::Second, ..bench.build().rules_now().clone() };
        Ok(bench.rules(rules, "opened before")?)
    };
    let mut honed = worked(Work::TunnelHoned, Scope::Mains)?;
    before(&mut honed)?;
    assert_eq!(grit(&honed), []);
    let mut polished = worked(Work::JournalPolished, Scope::Crank)?;
    before(&mut polished)?;
    assert_eq!(grit(&polished), [(M(3), Some(Work::CrankFlushed)), (M(4), Some(Work::CrankFlushed))]);
    Ok(())
}
