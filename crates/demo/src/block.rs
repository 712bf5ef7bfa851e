//! The six's block: its deck, the stack under every piston, and the tunnel; and the banks of the V6.
use jagged_pin_core::engine::{BearingRow, Place, PlaceKind, Role};
use jagged_pin_core::record::Refusal;
use jagged_pin_workbench::Bench;

use crate::top_end::window;

/// Deck and stacks of the six: flat, eleven tenths higher at its rear, and one piston whose compression height was misread by
/// ten thou: its stack says so.
pub fn deck_and_stacks(bench: &mut Bench) -> Result<(), Refusal> {
    let deck = Place::new(PlaceKind::Deck, 1);
    window(bench, "face_flatness", BearingRow::Mains, [0, 10, 20], "thin metal gasket")?;
    window(bench, "deck_height", BearingRow::Mains, [84_000, 84_030, 84_060], "as it was made")?;
    window(bench, "deck_parallel", BearingRow::Mains, [0, 10, 20], "street")?;
    window(bench, "deck_clearance", BearingRow::Rods, [20, 120, 160], "the gasket decides the rest")?;
    let under: Vec<&[&str]> = vec![&["5 10"], &["5 10"], &["5 10"], &["10 15"], &["5 10"], &["5 10"], &["5 10"]];
    bench.pushes(deck, Role::new("face_gap"), &under)?;
    bench.size(deck, Role::new("deck_corner"), &["8.4020", "8.4030", "8.4040", "8.4025"])?;
    for n in 1..=3 {
        bench.size(Place::pin(n), Role::new("pin_top"), &["5.2870"])?;
        bench.size(Place::pin(n), Role::new("pin_bottom"), &["2.7130"])?;
        bench.size(Place::rod(n), Role::new("rod_length"), &["5.7000"])?;
        let crown = if n == 3 { "1.4140" } else { "1.4040" };
        bench.size(Place::wrist_pin(n), Role::new("compression_height"), &[crown])?;
        let below = ["0.0115", "0.0115", "0.0120"][usize::from(n) - 1];
        bench.size(Place::cylinder(n), Role::new("below_deck"), &[below, below])?;
    }
    // The edge rests on the end mains; the middle stands five tenths off it.
    let gaps: [[&str; 2]; 3] = [["0 10", "0 10"], ["0 10", "0 10"], ["5 10", "0 10"]];
    for (n, gap) in (3..).zip(gaps) {
        bench.pushes(Place::main(n), Role::new("tunnel_gap"), &[&[gap[0]], &[gap[1]]])?;
    }
    Ok(())
}

/// Two bores of the V6's front pin with their pistons, one in each bank.
pub fn banks(bench: &mut Bench) -> Result<(), Refusal> {
    window(bench, "piston_to_wall", BearingRow::Rods, [25, 30, 40], "the sheet")?;
    bench.take("bore-tenths");
    bench.take("mic-four-tenths");
    for n in 1..=2 {
        bench.size(Place::wrist_pin(n), Role::new("piston"), &["3.6190 90"])?;
        bench.size(
            Place::cylinder(n),
            Role::new("cylinder"),
            &["3.6221 21", "20 21", "21 21", "21 20", "21 21", "20 20"],
        )?;
    }
    Ok(())
}
