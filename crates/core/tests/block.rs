//! Faces, deck and tunnel: what is measured of them, what the stack says, and what a cut changes elsewhere.
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{
    BearingRow, Crank, Cylinders, Figure, Layout, LayoutError, Place, PlaceKind, Role, Scope,
};
use jagged_pin_core::log::{BridgeGrid, What, Work};
use jagged_pin_core::machining::{BlockCut, BlockPlan, StackPart, block_plan, grid_faces};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};

type Outcome = Result<(), Refusal>;

fn t(tenths: i64) -> Length {
    Length::tenths(tenths)
}

const fn deck() -> Place {
    Place::new(PlaceKind::Deck, 1)
}

fn bench() -> Result<Bench, Refusal> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    Bench::book_in(1, "BLOCK", pattern, 0, person("oduya"))
}

fn plan(build: &Build, cut: BlockCut) -> Result<BlockPlan, Refusal> {
    block_plan(build, &evaluate(build).figures, cut).ok_or(Refusal::NoTarget)
}

fn figure(id: &str) -> Result<Figure, Refusal> {
    id.parse().map_err(|_| Refusal::NoTarget)
}

fn corners(bench: &mut Bench) -> Outcome {
    let heights = ["8.4022", "8.4030", "8.4041", "8.4027"].map(|z| format!("{z} {z}"));
    bench.size(deck(), Role::new("deck_corner"), &heights.each_ref().map(String::as_str)).map(drop)
}

#[test]
fn four_corners_tell_the_mean_and_the_twist_that_long_edges_hide() -> Outcome {
    let mut bench = bench()?;
    let within = TargetRule::Range { low: t(0), aim: None, high: t(20) };
    bench.figure_target(figure("deck_parallel")?, BearingRow::Mains, within, "street")?;
    corners(&mut bench)?;
    let found = plan(bench.build(), BlockCut::default())?;
    let first = found.decks.first().ok_or(Refusal::NoTarget)?;
    assert_eq!((first.mean, first.twist), (Some(t(84_030)), Some(t(3))));
    let assessed = evaluate(bench.build());
    let parallel = assessed.figure(figure("deck_parallel")?, deck()).and_then(|f| f.judged.as_ref());
    assert_eq!(
        parallel.map(|j| j.clearance),
        Some(t(8)),
        "the front lies eight tenths below the rear, whatever single corners do"
    );
    // Machined: its heights and its flatness are as old as the wheel.
    bench.work(Work::FaceMachined, Scope::One(deck()), "cleaned up")?;
    let after = evaluate(bench.build());
    assert!(after.figure(Figure::DECK_HEIGHT, deck()).is_some_and(|f| f.judged.is_none() && f.methods.is_empty()));
    Ok(())
}

#[test]
fn a_thou_between_blades_does_not_prove_half_a_thou() -> Outcome {
    let mut bench = bench()?;
    let flat = figure("face_flatness")?;
    let within = TargetRule::Range { low: t(0), aim: None, high: t(5) };
    bench.figure_target(flat, BearingRow::Mains, within, "half a thou")?;
    let seven: Vec<&[&str]> = vec![&["0 10", "0 10"]; 7];
    bench.pushes(deck(), Role::new("face_gap"), &seven)?;
    let assessed = evaluate(bench.build());
    let judged = assessed.figure(flat, deck());
    assert_ne!(judged.and_then(|f| f.judged.as_ref()).map(|j| j.state), Some(State::In));
    let never = judged.and_then(|f| f.blades.as_ref()).map(|b| b.never.as_slice());
    assert_eq!(never, Some(&[[t(0), t(10)]][..]), "between no blade and the first the limit lies");
    Ok(())
}

/// The parts of one stack, with that compression height.
fn stack(bench: &mut Bench, n: u8, crown: &str) -> Outcome {
    bench.size(Place::pin(n), Role::new("pin_top"), &["5.2870 5.2870"])?;
    bench.size(Place::pin(n), Role::new("pin_bottom"), &["2.7130 2.7130"])?;
    bench.size(Place::rod(n), Role::new("rod_length"), &["5.7000 5.7000"])?;
    bench.size(Place::wrist_pin(n), Role::new("compression_height"), &[&format!("{crown} {crown}")])?;
    bench.size(Place::cylinder(n), Role::new("below_deck"), &["0.0120 0.0120", "0.0120 0.0120"]).map(drop)
}

#[test]
fn the_stack_is_held_against_what_was_measured_and_the_part_that_is_off_is_named() -> Outcome {
    let mut bench = bench()?;
    let heights = ["8.4030 8.4030"; 4];
    bench.size(deck(), Role::new("deck_corner"), &heights)?;
    for (n, crown) in [(1, "1.4040"), (2, "1.4140"), (3, "1.4040")] {
        stack(&mut bench, n, crown)?;
    }
    let found = plan(bench.build(), BlockCut { deck: t(0), caps: t(40) })?;
    let at = |n: u8| found.stacks.iter().find(|s| s.at == Place::cylinder(n)).cloned();
    // 8.4030 - 1.2870 - 5.7000 - 1.4040.
    let first = at(1).ok_or(Refusal::NoTarget)?;
    assert_eq!((first.reckoned, first.measured, first.suspect), (Some(t(120)), Some(t(120)), None));
    let second = at(2).ok_or(Refusal::NoTarget)?;
    assert_eq!((second.reckoned, second.differs, second.agrees), (Some(t(20)), Some(t(100)), Some(false)));
    assert_eq!((second.suspect, second.deck), (Some(StackPart::Crown), Some(deck())));
    let open = at(4).map(|s| s.missing);
    assert_eq!(open, Some(vec![StackPart::Stroke, StackPart::Rod, StackPart::Crown]));
    // Four thou off the caps: the axis goes up by two, and every piston with it.
    let changes = found.changes;
    assert_eq!((changes.axis, changes.chain, changes.clearance), (t(20), t(40), t(20)));
    assert_eq!(changes.least.map(|l| l.left), Some(t(100)));
    Ok(())
}

#[test]
fn a_steady_row_is_believed_less_than_one_that_scatters_when_the_stack_is_off() -> Outcome {
    let mut bench = bench()?;
    bench.size(deck(), Role::new("deck_corner"), &["8.4030 8.4030"; 4])?;
    // Crowns lie up to two thou apart, rods are alike; the second rod was read 2.5 thou long.
    for (n, crown) in [(1, "1.4022"), (2, "1.4062"), (3, "1.4040"), (4, "1.4058"), (5, "1.4024")] {
        bench.size(Place::pin(n), Role::new("pin_top"), &["5.2870 5.2870"])?;
        bench.size(Place::pin(n), Role::new("pin_bottom"), &["2.7130 2.7130"])?;
        let rod = if n == 2 { "5.7032 5.7032" } else { "5.7000 5.7000" };
        bench.size(Place::rod(n), Role::new("rod_length"), &[rod])?;
        bench.size(Place::wrist_pin(n), Role::new("compression_height"), &[&format!("{crown} {crown}")])?;
    }
    // 8.4030 - 1.2870 - 5.7007 - 1.4062 is 0.0091; with the rod as read it is 0.0066.
    bench.size(Place::cylinder(2), Role::new("below_deck"), &["0.0091 0.0091", "0.0091 0.0091"])?;
    let found = plan(bench.build(), BlockCut::default())?;
    let second = found.stacks.iter().find(|s| s.at == Place::cylinder(2)).ok_or(Refusal::NoTarget)?;
    assert_eq!((second.differs, second.agrees), (Some(t(25)), Some(false)));
    assert_eq!(
        second.suspect,
        Some(StackPart::Rod),
        "the crown alone is nearer to 2.5 thou off, in a row where that is usual"
    );
    Ok(())
}

#[test]
fn a_corner_that_was_misread_is_named_by_the_twist_and_the_stacks() -> Outcome {
    for misread in 0..4 {
        let mut bench = bench()?;
        let heights: [String; 4] = std::array::from_fn(|i| {
            let z = if i == misread { "8.4130" } else { "8.4030" };
            format!("{z} {z}")
        });
        bench.size(deck(), Role::new("deck_corner"), &heights.each_ref().map(String::as_str))?;
        for n in [1, 3, 5] {
            stack(&mut bench, n, "1.4040")?;
        }
        let found = plan(bench.build(), BlockCut::default())?;
        let corner = found.decks.first().and_then(|d| d.misread).ok_or(Refusal::NoTarget)?;
        assert_eq!(corner.by, t(100));
        let assessed = evaluate(bench.build());
        let height = assessed.figure(Figure::DECK_HEIGHT, deck()).and_then(|f| f.measured.first());
        let planned = height.and_then(|m| m.size.positions.get(misread)).map(|p| p.position);
        assert_eq!(Some(corner.position), planned);
        let off = found.stacks.iter().filter(|s| s.agrees == Some(false));
        assert!(off.clone().count() > 0 && off.clone().all(|s| s.suspect == Some(StackPart::Deck)));
    }
    Ok(())
}

#[test]
fn an_edge_in_the_tunnel_is_freed_of_the_sizes_before_it_is_called_crooked() -> Outcome {
    let mut bench = bench()?;
    bench.take("bore-tenths");
    let housings = ["2.8150", "2.8150", "2.8160", "2.8150", "2.8150", "2.8150", "2.8150"];
    for (n, size) in (1..).zip(housings) {
        let six = format!("{size} {size}");
        bench.size(Place::main(n), Role::HOUSING, &[six.as_str(); 6])?;
        let gap = if n == 3 { ".0005 .001" } else { "0 .0005" };
        bench.pushes(Place::main(n), Role::new("tunnel_gap"), &[&[gap, gap], &["0 .0005", "0 .0005"]])?;
    }
    let found = plan(bench.build(), BlockCut::default())?;
    let third = found.tunnel.iter().find(|m| m.at == Place::main(3) && m.angle == 0);
    // Half a thou under the edge is a housing that is a thou larger: the line is straight.
    let (offset, step) = third.map(|m| (m.offset, m.step)).ok_or(Refusal::NoTarget)?;
    assert!(offset.is_some_and(|o| o.abs() <= t(3)) && step.is_some_and(|s| s.abs() <= t(3)), "{third:?}");
    // It is judged by its line as well, and not by the gap that its size makes.
    let within = TargetRule::Range { low: t(0), aim: None, high: t(8) };
    bench.figure_target(figure("tunnel_gap")?, BearingRow::Mains, within, "in line")?;
    let judged = evaluate(bench.build()).figure(figure("tunnel_gap")?, Place::main(3)).and_then(|f| f.judged.clone());
    assert!(judged.as_ref().is_some_and(|j| j.state == State::In && j.largest <= t(5)), "{judged:?}");
    Ok(())
}

#[test]
fn a_pin_that_should_be_level_tells_its_index() -> Outcome {
    let mut bench = bench()?;
    // Pins 1 and 6 stand at one clock.
    bench.size(Place::pin(1), Role::new("pin_level"), &["4.0000 4.0000"])?;
    bench.size(Place::pin(6), Role::new("pin_level"), &["4.0020 4.0020"])?;
    let found = plan(bench.build(), BlockCut::default())?;
    let sixth = found.index.iter().find(|i| i.at == Place::pin(6));
    assert_eq!(sixth.map(|i| (i.high, i.with.as_slice())), Some((t(20), &[Place::pin(1)][..])));
    let throw = bench.build().layout.crank.throw.as_f64();
    let expected = (t(20).as_f64() / throw).asin().to_degrees();
    assert!(sixth.is_some_and(|i| (i.degrees - expected).abs() < 1e-9));
    // Nobody said where the pins of a crank stand that is only drawn in proportion.
    let build = bench.build();
    let guessed = Crank { proportional: true, ..build.layout.crank.clone() };
    let phases: Vec<i16> = guessed.bays.iter().flatten().copied().collect();
    assert_eq!(guessed.clone().with_throws(&phases[1..]), None, "each pin has a throw");
    let said = guessed.clone().with_throws(&phases).ok_or(Refusal::NoTarget)?;
    for (crank, told) in [(guessed, 0), (said, found.index.len())] {
        let like = Build { layout: Layout { crank, ..build.layout.clone() }, ..build.clone() };
        assert_eq!(plan(&like, BlockCut::default())?.index.len(), told);
    }
    Ok(())
}

#[test]
fn a_bridge_on_a_grid_tells_a_bow_from_a_slope_and_ends_when_the_face_is_machined() -> Outcome {
    let mut bench = bench()?;
    let window = TargetRule::Range { low: t(0), aim: Some(t(0)), high: t(20) };
    bench.figure_target(figure("face_flatness")?, BearingRow::Mains, window, "metal gasket")?;
    let read = |bench: &mut Bench, rows: [[i64; 3]; 3]| {
        let rows = rows.map(|row| row.map(t).to_vec()).to_vec();
        bench.record(What::Grid(BridgeGrid {
            at: deck(),
            along: t(40_000),
            across: t(20_000),
            rows,
            note: String::new(),
        }))
    };
    let of = |bench: &Bench| grid_faces(bench.build(), &evaluate(bench.build()).figures).into_iter().next();
    // A slope alone is flat.
    read(&mut bench, [[0, 10, 20], [5, 15, 25], [10, 20, 30]])?;
    assert_eq!(of(&bench).map(|f| (f.minimum_zone, f.flat)), Some((t(0), Some(true))));
    // Its middle stands 40 over a plane through everything else.
    read(&mut bench, [[0, 0, 0], [0, 40, 0], [0, 0, 0]])?;
    let bowed = of(&bench);
    assert_eq!(bowed.as_ref().map(|f| (f.minimum_zone, f.flat)), Some((t(40), Some(false))));
    assert!(bowed.is_some_and(|f| f.least_squares >= f.minimum_zone && f.off.len() == 3));
    bench.work(Work::FaceMachined, Scope::One(deck()), "0.004 off")?;
    assert_eq!(of(&bench), None);
    Ok(())
}

#[test]
fn a_piston_that_stands_proud_is_typed_with_a_minus_judged_and_held_against_its_stack() -> Outcome {
    let mut bench = bench()?;
    let level = TargetRule::Range { low: t(-60), aim: Some(t(-20)), high: t(20) };
    bench.figure_target(Figure::DECK_CLEARANCE, BearingRow::Rods, level, "zero deck, thick gasket")?;
    let at = Place::cylinder(3);
    bench.size(at, Role::new("below_deck"), &["-.0035 -.0035", "-.0025 -0.0025"])?;
    let assessed = evaluate(bench.build());
    let judged =
        assessed.figure(Figure::DECK_CLEARANCE, at).and_then(|f| f.judged.as_ref()).ok_or(Refusal::NoTarget)?;
    assert_eq!((judged.clearance, judged.state), (t(-30), State::In));
    // Level is a figure too, and what lies on either side is held against what was found before.
    bench.size(Place::cylinder(4), Role::new("below_deck"), &["0.0000 .0000", ".0010 .0010"])?;
    let levelled = evaluate(bench.build());
    let four = levelled.figure(Figure::DECK_CLEARANCE, Place::cylinder(4)).and_then(|f| f.judged.as_ref());
    assert_eq!(four.map(|j| j.clearance), Some(t(5)));
    // A cut of the deck takes more of what is not there.
    let found = plan(bench.build(), BlockCut { deck: t(20), caps: t(0) })?;
    assert_eq!(found.changes.least.map(|l| (l.at, l.left)), Some((at, t(-50))));
    Ok(())
}

#[test]
fn nothing_else_is_less_than_nothing() -> Outcome {
    let mut bench = bench()?;
    let refused = bench.size(Place::wrist_pin(1), Role::new("compression_height"), &["-1.404 -1.404"]);
    assert!(refused.is_err(), "a compression height below zero was kept");
    let below = TargetRule::Range { low: t(-60), aim: None, high: t(20) };
    assert!(bench.figure_target(Figure::DECK_HEIGHT, BearingRow::Mains, below, "nobody's").is_err());
    Ok(())
}

#[test]
fn a_line_hone_moves_pistons_up_by_what_the_banks_lean() -> Outcome {
    let known = patterns();
    let vee = known.iter().find(|p| p.layout.banks() == 2).ok_or(Refusal::NoTarget)?;
    let lost = |angle: Option<u8>| {
        let mut pattern = vee.clone();
        pattern.layout.cylinders = pattern.layout.cylinders.map(|c| Cylinders { bank_angle: angle, ..c });
        let bench = Bench::book_in(1, "VEE", &pattern, 0, person("oduya"))?;
        Ok::<_, Refusal>(plan(bench.build(), BlockCut { deck: t(0), caps: t(40) })?.changes.clearance)
    };
    // Two thou up: cos 30, cos 45, cos 90.
    assert_eq!(lost(Some(60))?, Length::from_nm(43_994));
    assert_eq!(lost(None)?, lost(Some(90))?);
    assert_eq!(lost(Some(90))?, Length::from_nm(35_921));
    assert_eq!(lost(Some(180))?, t(0));
    let leaning = |angle| Layout {
        cylinders: vee.layout.cylinders.clone().map(|c| Cylinders { bank_angle: Some(angle), ..c }),
        ..vee.layout.clone()
    };
    assert_eq!(leaning(5).check(), Err(LayoutError::BankAngle));
    Ok(())
}

#[test]
fn a_face_is_held_to_what_any_span_of_it_may_be() -> Outcome {
    let mut bench = bench()?;
    let span = figure("face_span")?;
    let window = TargetRule::Range { low: t(0), aim: None, high: t(10) };
    bench.figure_target(span, BearingRow::Mains, window, "thin metal gasket, any 3 in")?;
    let state = |bench: &Bench| {
        let found = evaluate(bench.build()).figure(span, deck()).cloned();
        found.and_then(|f| f.judged).map(|j| j.state)
    };
    let (flat, hollow) = (["30 50", "30 50"], ["120 130", "120 130"]);
    bench.pushes(deck(), Role::new("face_span_gap"), &[&flat, &flat, &hollow, &flat, &flat])?;
    assert_eq!(state(&bench), None, "one span is left");
    bench.pushes(deck(), Role::new("face_span_gap"), &[&[], &[], &[], &[], &[], &flat])?;
    assert_eq!(state(&bench), Some(State::Loose), "one span is enough to be out");
    Ok(())
}
