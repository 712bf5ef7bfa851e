//! Remarks that nobody signs past: what shuts them, what lifts them, and that builds of before only say them.
mod six;

use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{Axial, BearingRow, Characteristic, Figure, Place, PlaceKind, Plan, Read, Role};
use jagged_pin_core::figure::Finding;
use jagged_pin_core::log::{BridgeGrid, Gate, Loosened, PlanChange, Rules, RulesChange, What};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::{Capabilities, Refusal, next_fact, remark_accepted_now};
use jagged_pin_core::sheet::Needs;
use jagged_pin_core::{Length, Unit};
use jagged_pin_workbench::{Bench, person};
use uuid::Uuid;

type Outcome = Result<(), Box<dyn std::error::Error>>;

const M: fn(u8) -> Place = Place::main;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

/// A six whose fourth main tapers by seven tenths, in a window that lets both of its ends pass.
fn tapered() -> Result<Bench, Refusal> {
    let mut bench = six::opened(93)?;
    let wide = TargetRule::Range { low: t(15), aim: None, high: t(45) };
    bench.figure_target(Figure::OIL_CLEARANCE, BearingRow::Mains, wide, "a truck")?;
    bench.journal(M(4), ["2.6238", "38", "31", "31"])?;
    bench.bore(M(4), Read::Dial, &["23 23", "23 23"])?;
    Ok(bench)
}

fn gates_at(bench: &Bench, figure: Figure, place: Place) -> Vec<Gate> {
    let a = evaluate(bench.build());
    let of_place = |b: &&jagged_pin_core::sheet::Block| b.figure == figure && b.station == place;
    a.sign_off.blocks.iter().filter(of_place).filter_map(|b| b.gate).collect()
}

#[test]
fn a_shape_beyond_its_limit_blocks_until_the_lead_accepts_as_much_of_it() -> Outcome {
    let mut bench = tapered()?;
    assert!(gates_at(&bench, Figure::OIL_CLEARANCE, M(4)).contains(&Gate::Shape));
    let of = (Figure::OIL_CLEARANCE, M(4));
    let accepted = remark_accepted_now(bench.build(), of, Gate::Shape, "ground next winter".into())?;
    assert!(accepted.clearance > t(6), "as much of it as there is: {:?}", accepted.clearance);
    let assembler = Capabilities { measure: true, set_targets: true, concede: true, ..Capabilities::default() };
    assert!(!assembler.allow(&What::Concession(accepted.clone())), "it is the lead's");
    bench.record(What::Concession(accepted))?;
    assert!(!gates_at(&bench, Figure::OIL_CLEARANCE, M(4)).contains(&Gate::Shape));
    let f = evaluate(bench.build()).figure(of.0, of.1).cloned().ok_or("the figure")?;
    assert!(f.findings.iter().any(|f| matches!(f, Finding::Shape { taper: true, .. })), "it is still said");
    assert_eq!(
        remark_accepted_now(bench.build(), of, Gate::Shape, "again".into()).err(),
        Some(Refusal::NothingToConcede(M(4)))
    );
    // More of it is another thing.
    bench.journal(M(4), ["2.6238", "38", "28", "28"])?;
    bench.journal(M(4), ["2.6238", "38", "28", "28"])?;
    assert!(gates_at(&bench, Figure::OIL_CLEARANCE, M(4)).contains(&Gate::Shape));
    Ok(())
}

#[test]
fn what_belongs_to_a_row_is_said_and_accepted_once() -> Outcome {
    let mut bench = tapered()?;
    bench.journal(M(2), ["2.6238", "38", "38", "38"])?;
    bench.bore(M(2), Read::Dial, &["23 23", "23 23"])?;
    let both = |bench: &Bench| [2, 4].map(|n| gates_at(bench, Figure::OIL_CLEARANCE, M(n)));
    let once = |gate: Gate| both(&bench).iter().flatten().filter(|g| **g == gate).count();
    assert_eq!((once(Gate::SetUp), once(Gate::Gauge)), (1, 1));
    let of = (Figure::OIL_CLEARANCE, M(2));
    for gate in [Gate::SetUp, Gate::Gauge] {
        let accepted = remark_accepted_now(bench.build(), of, gate, "as always".into())?;
        bench.record(What::Concession(accepted))?;
    }
    assert_eq!(both(&bench), [vec![], vec![Gate::Shape]]);
    Ok(())
}

#[test]
fn builds_that_were_opened_before_only_say_it() -> Outcome {
    let mut bench = tapered()?;
    bench.rules(Rules { gates: Vec::new(), ..Rules::standard(Unit::Inch) }, "as it was")?;
    assert_eq!(gates_at(&bench, Figure::OIL_CLEARANCE, M(4)), []);
    let f = evaluate(bench.build()).figure(Figure::OIL_CLEARANCE, M(4)).cloned().ok_or("the figure")?;
    assert!(f.findings.iter().any(|f| matches!(f, Finding::Shape { .. })));
    Ok(())
}

#[test]
fn a_shape_that_only_seems_so_is_said_and_blocks_nothing() -> Outcome {
    let mut bench = six::opened(92)?;
    bench.journal(M(4), ["2.6238", "38", "36", "35"])?;
    bench.bore(M(4), Read::Dial, &["23 23", "23 23"])?;
    let f = evaluate(bench.build()).figure(Figure::OIL_CLEARANCE, M(4)).cloned().ok_or("the figure")?;
    let likely = f.findings.iter().any(|f| matches!(f, Finding::Shape { taper: true, likely: true, .. }));
    assert!(likely, "{:?}", f.findings);
    assert!(!gates_at(&bench, Figure::OIL_CLEARANCE, M(4)).contains(&Gate::Shape));
    Ok(())
}

#[test]
fn blades_that_contradict_each_other_prove_nothing() -> Outcome {
    let mut bench = six::opened(91)?;
    let gap: Figure = "rod_side".parse().map_err(|_| "a figure")?;
    bench.figure_target(gap, BearingRow::Rods, TargetRule::Range { low: t(40), aim: None, high: t(80) }, "oil")?;
    let side = Place::side(1);
    bench.pushes(side, Role::new("side_gap"), &[&["40 50"], &["40 50"]])?;
    let judged = |bench: &Bench| evaluate(bench.build()).figure(gap, side).cloned();
    let before = judged(&bench).ok_or("the figure")?;
    assert!(before.findings.iter().all(|f| !matches!(f, Finding::BladesContradict { .. })));
    bench.pushes(side, Role::new("side_gap"), &[&["60 70"], &[]])?;
    let after = judged(&bench).ok_or("the figure")?;
    assert!(after.findings.iter().any(|f| matches!(f, Finding::BladesContradict { .. })));
    let range = after.judged.map(|j| (j.smallest, j.largest));
    assert_eq!(range, Some((t(40), t(70))), "nobody knows which of them is right");
    let blocks = evaluate(bench.build()).sign_off.blocks;
    assert!(blocks.iter().any(|b| b.station == side && b.needs == Needs::Settle));
    Ok(())
}

#[test]
fn a_grid_out_of_flat_is_not_outvoted_by_blades() -> Outcome {
    let mut bench = six::opened(90)?;
    let (flat, deck) = ("face_flatness".parse::<Figure>().map_err(|_| "a figure")?, Place::new(PlaceKind::Deck, 1));
    bench.figure_target(flat, BearingRow::Mains, TargetRule::Range { low: t(0), aim: None, high: t(20) }, "gasket")?;
    let blades: Vec<&[&str]> = vec![&["0 15"]; 7];
    bench.pushes(deck, Role::new("face_gap"), &blades)?;
    assert!(gates_at(&bench, flat, deck).is_empty());
    let rows = vec![vec![t(0), t(0), t(0)], vec![t(0), t(60), t(0)], vec![t(0), t(0), t(0)]];
    let grid = BridgeGrid { at: deck, along: t(30_000), across: t(20_000), rows, note: String::new() };
    bench.record(What::Grid(grid))?;
    assert_eq!(gates_at(&bench, flat, deck), [Gate::Grid]);
    Ok(())
}

#[test]
fn end_play_below_three_thou_is_never_simply_in() -> Outcome {
    let mut bench = six::opened(89)?;
    let range = TargetRule::Range { low: t(20), aim: None, high: t(60) };
    bench.figure_target(Figure::END_PLAY, BearingRow::Mains, range, "a maker's sheet")?;
    bench.pushes(Place::THRUST, Role::TRAVEL, &[&["0 26 0", "0 26 0"], &["0 26 0", "0 26 0"]])?;
    assert!(gates_at(&bench, Figure::END_PLAY, Place::THRUST).contains(&Gate::EndPlay));
    Ok(())
}

#[test]
fn washers_that_were_not_home_do_not_count() -> Outcome {
    let mut bench = six::opened(88)?;
    let range = TargetRule::Range { low: t(50), aim: None, high: t(80) };
    bench.figure_target(Figure::END_PLAY, BearingRow::Mains, range, "middle held")?;
    bench.pushes(Place::THRUST, Role::TRAVEL, &[&["0 55 0", "0 65 0", "0 65 0"], &["0 65 0", "0 65 0"]])?;
    let f = evaluate(bench.build()).figure(Figure::END_PLAY, Place::THRUST).cloned().ok_or("the figure")?;
    assert_eq!(f.judged.map(|j| (j.smallest, j.largest)), Some((t(65), t(65))));
    assert!(f.findings.contains(&Finding::NotSeated { gain: t(10) }), "{:?}", f.findings);
    Ok(())
}

/// An assembler as every shop begins with.
fn assembler() -> Capabilities {
    Capabilities {
        measure: true,
        set_targets: true,
        concede: true,
        sign_assembler: true,
        open_builds: true,
        ..Capabilities::default()
    }
}

#[test]
fn a_tight_place_is_not_planned_away_without_the_lead() -> Outcome {
    let mut bench = six::opened(89)?;
    bench.journal(M(1), ["2.6240", "40", "40", "40"])?;
    // Tight at its rear, in its window at its front.
    bench.bore(M(1), Read::Dial, &["25 25", "18 18"])?;
    let bore = Characteristic::at(M(1), Role::BORE).ok_or("a bore")?;
    let tight = |bench: &Bench| {
        let judged = evaluate(bench.build()).figure(Figure::OIL_CLEARANCE, M(1)).and_then(|f| f.judged.clone());
        judged.map(|j| j.state) == Some(State::Tight)
    };
    assert!(tight(&bench));
    let whole = bench.build().plan_as_written(bore, PlaceKind::Main);
    let front: Vec<_> = whole.iter().filter(|p| p.position.axial == Axial::Front).cloned().collect();
    let plan = Plan { characteristic: bore, at: None, positions: front };
    let change = What::Plan(PlanChange { plan, reason: "no room at the rear".into(), lifted: Vec::new() });
    let id = Uuid::from_u128(7);
    let fact = next_fact(bench.build(), id, bench.build().opened_at, person("oduya"), change.clone())?;
    assert_eq!(fact.what.lifted().iter().map(|l| l.station).collect::<Vec<_>>(), [M(1)]);
    assert!(!assembler().allow(&fact.what), "an assembler does not");
    let lead = Capabilities { concede_tight: true, ..assembler() };
    assert!(lead.allow(&fact.what));
    bench.record(change)?;
    assert!(!tight(&bench), "the lead's change stands");
    assert_eq!(evaluate(bench.build()).sign_off.lifted.len(), 1, "and on the sheet");
    Ok(())
}

#[test]
fn what_protects_is_switched_off_by_the_lead_alone_and_stands_on_the_sheet() -> Outcome {
    let mut bench = six::opened(88)?;
    let usual = bench.build().rules_now().clone();
    let less = Rules { cleaning_gate: false, gates: vec![Gate::Shape], ..usual.clone() };
    let change = RulesChange { rules: less, reason: "late".into(), lifted: Vec::new(), loosened: Vec::new() };
    let (id, at) = (Uuid::from_u128(8), bench.build().opened_at);
    let fact = next_fact(bench.build(), id, at, person("oduya"), What::Rules(change.clone()))?;
    assert!(fact.what.loosened().contains(&Loosened::Cleaning) && !assembler().allow(&fact.what));
    let more = RulesChange { rules: Rules { touches: 3, ..usual.clone() }, ..change.clone() };
    let stricter = next_fact(bench.build(), id, at, person("oduya"), What::Rules(more))?;
    assert!(stricter.what.loosened().is_empty() && assembler().allow(&stricter.what));
    bench.record(What::Rules(change))?;
    let named = |bench: &Bench| evaluate(bench.build()).sign_off.loosened.len();
    assert_eq!(named(&bench), Gate::ALL.len(), "eight gates and the washing");
    bench.rules(usual, "as it was")?;
    assert_eq!(named(&bench), 0, "asked again, it is no news any more");
    Ok(())
}
