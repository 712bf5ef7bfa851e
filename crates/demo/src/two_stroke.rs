//! SL-045: the two-stroke of a kart, on rollers. It seized at its second cylinder, which wants the next oversize; the crank runs
//! true at three of its four places.
use jagged_pin_core::Build;
use jagged_pin_core::Length;
use jagged_pin_core::engine::{BearingRow, Figure, Place, Role};
use jagged_pin_core::log::{
    Befell, Check, CheckFound, HotRunning, InspectedPart, Rules, Sign, TargetChange, WearRange, What,
};
use jagged_pin_core::maths::{TargetRule, TargetSource, Temperatures};
use jagged_pin_core::record::Refusal;
use jagged_pin_workbench::{Bench, Pattern, person};

use crate::days::{DAY, MORNING};

const SOAKED: Temperatures = Temperatures { part_mc: Some(20_000), gauge_mc: Some(20_000) };

/// A window in micrometres, with the factory's wear range beside it.
fn window(
    bench: &mut Bench,
    figure: &str,
    row: BearingRow,
    limits: [i64; 3],
    wear: Option<[i64; 2]>,
    reason: &str,
) -> Result<(), Refusal> {
    let [low, aim, high] = limits.map(Length::microns);
    let figure: Figure = figure.parse().map_err(|_| Refusal::NoTarget)?;
    let change = TargetChange {
        figure: Some(figure),
        station: None,
        row,
        kind: None,
        rule: Some(TargetRule::Range { low, aim: Some(aim), high }),
        source: TargetSource::MakersSheet,
        made_of: None,
        wear: wear.map(|[low, high]| WearRange { low: Length::microns(low), high: Length::microns(high) }),
        reason: reason.into(),
        lifted: Vec::new(),
    };
    bench.record(What::Target(change)).map(drop)
}

/// Turns of the four seats on blocks: the third seat runs out beyond a built-up crank's limit.
fn runout(bench: &mut Bench) -> Result<(), Refusal> {
    window(bench, "main_runout", BearingRow::Mains, [0, 20, 40], Some([0, 50]), "built-up")?;
    let turned = [
        ["12", "10", "6", "2", "0", "2", "6", "10"],
        ["18", "15", "9", "3", "0", "3", "9", "15"],
        ["55", "47", "28", "8", "0", "8", "28", "47"],
        ["22", "19", "11", "3", "0", "3", "11", "19"],
    ];
    for (main, clock) in (1..).zip(turned) {
        let twice = clock.map(|shown| [shown; 2]);
        let places: Vec<&[&str]> = twice.iter().map(<[&str; 2]>::as_slice).collect();
        bench.pushes(Place::main(main), Role::new("main_turn"), &places)?;
    }
    Ok(())
}

/// Cylinders that were run: the first inside what the factory lets it wear, the second tapered beyond it.
fn cylinders(bench: &mut Bench) -> Result<(), Refusal> {
    let rods = BearingRow::Rods;
    window(bench, "piston_to_wall", rods, [50, 60, 70], Some([50, 120]), "the maker's sheet")?;
    window(bench, "cylinder_round", rods, [0, 5, 10], Some([0, 30]), "small two-stroke")?;
    window(bench, "cylinder_taper", rods, [0, 20, 50], Some([0, 80]), "small two-stroke")?;
    window(bench, "piston_size", rods, [53_920, 53_940, 53_960], None, "stamped on its crown, less 20 \u{b5}m")?;
    bench.take("bore-microns");
    let bores = [
        ["54.018 018", "012 012", "010 010", "008 008", "004 004", "003 003"],
        ["54.112 112", "071 071", "052 052", "038 038", "015 015", "012 012"],
    ];
    for (n, places) in (1..).zip(bores) {
        bench.size(Place::cylinder(n), Role::new("cylinder"), &places)?;
    }
    bench.take("mic-microns");
    for (n, size) in (1..).zip(["53.942 942", "53.903 903"]) {
        bench.size(Place::wrist_pin(n), Role::new("piston"), &[size])?;
    }
    Ok(())
}

/// Small ends that rock, and the free play of the rods by blades.
fn rods(bench: &mut Bench) -> Result<(), Refusal> {
    window(bench, "small_end_rock", BearingRow::Rods, [0, 300, 700], None, "rocked at the top of the rod")?;
    window(bench, "rod_side", BearingRow::Rods, [300, 450, 600], Some([300, 800]), "by blade")?;
    bench.take("indicator-base-microns");
    for (n, rock) in (1..).zip(["0 420 0", "0 760 0"]) {
        bench.pushes(Place::rod(n), Role::new("small_end_rock"), &[&[rock, rock]])?;
    }
    bench.take("blades-hundredths");
    for (n, gap) in (1..).zip(["440 450", "520 530"]) {
        bench.pushes(Place::side(n), Role::new("side_gap"), &[&[gap, gap], &[gap, gap]])?;
    }
    Ok(())
}

/// The kart's engine after it seized.
pub fn sl_045(sanderling: &Pattern) -> Result<Build, Refusal> {
    let mut bench = Bench::book_in(45, "SL-045", sanderling, MORNING - 2 * DAY, person("harrow"))?;
    bench.hand_over(person("wick"), 60);
    bench.befell(Befell::Overheated, Some(Place::cylinder(2)), "seized in the heat, pump belt off; the driver")?;
    bench.look(Place::cylinder(1), InspectedPart::Bore, &[Sign::Smooth])?;
    bench.look(Place::cylinder(2), InspectedPart::Bore, &[Sign::ScoredAround, Sign::FourCorners])?;
    bench.look(Place::wrist_pin(1), InspectedPart::Piston, &[Sign::Smooth])?;
    bench.look(Place::wrist_pin(2), InspectedPart::Piston, &[Sign::FourCorners, Sign::RingStuck])?;
    bench.look(Place::cylinder(2), InspectedPart::Rings, &[Sign::EndsButted])?;
    bench.checked(
        Check::RingTension,
        Some(Place::cylinder(2)),
        CheckFound::Bad,
        "half of a new one's, on the scale",
    )?;
    bench.noted(Some(SOAKED));
    // Cooled by water, alcohol in it: the skirt stays near the wall.
    let hot = HotRunning {
        bore_c: 90,
        ring_c: 130,
        skirt_c: 110,
        ring_floor: Length::microns(100),
        piston_closes: Some(Length::microns(35)),
    };
    bench.rules(Rules { hot: Some(hot), ..bench.build().rules_now().clone() }, "a kart's temperatures")?;
    runout(&mut bench)?;
    cylinders(&mut bench)?;
    rods(&mut bench)?;
    Ok(bench.finish())
}
