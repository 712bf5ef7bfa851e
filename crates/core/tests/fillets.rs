//! Fillets: room at the worse end, what the end play takes of it, and the gate after a regrind.
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{Axial, BearingRow, Figure, Place, Role, Scope};
use jagged_pin_core::figure::FigureAssessment;
use jagged_pin_core::log::{Rules, Work};
use jagged_pin_core::machining::{FilletWish, NoFillet, plan_fillet};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};

type Outcome = Result<(), Box<dyn std::error::Error>>;

const RADIUS: Role = Role::new("fillet_radius");
const INSET: Role = Role::new("shell_inset");
const ALONG: Role = Role::new("edge_along");
const UP: Role = Role::new("edge_up");

fn t(n: i64) -> Length {
    Length::tenths(n)
}

fn opened() -> Result<Bench, Refusal> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(98, "T-98", pattern, 0, person("harrow"))?;
    for row in BearingRow::ALL {
        let least = TargetRule::Range { low: t(20), aim: None, high: t(2_500) };
        bench.figure_target(Figure::FILLET_ROOM, row, least, "two thou with the rod hard over")?;
    }
    Ok(bench)
}

/// Front and rear of a journal's fillets: radius, inset, chamfer along and up.
fn edges(bench: &mut Bench, at: Place, [radius, inset, along, up]: [[&str; 2]; 4]) -> Outcome {
    for (role, ends) in [(RADIUS, radius), (INSET, inset), (ALONG, along), (UP, up)] {
        let twice: Vec<String> = ends.iter().map(|end| format!("{end} {end}")).collect();
        let places: Vec<&str> = twice.iter().map(String::as_str).collect();
        bench.size(at, role, &places)?;
    }
    Ok(())
}

fn room(build: &Build, at: Place) -> Option<FigureAssessment> {
    evaluate(build).figure(Figure::FILLET_ROOM, at).cloned()
}

#[test]
fn the_shell_that_rides_up_its_front_fillet_is_tight_and_clears_once_it_is_narrowed() -> Outcome {
    let mut bench = opened()?;
    let at = Place::pin_fillet(2);
    edges(&mut bench, at, [[".090", ".060"], [".045", ".045"], [".030", ".030"], [".020", ".020"]])?;
    let found = room(bench.build(), at).ok_or("it is there")?;
    let judged = found.judged.as_ref().ok_or("it is judged")?;
    // 1.24 thou up the arc at the front; 22.8 thou free at the rear.
    assert_eq!((judged.state, judged.nearest), (State::Tight, jagged_pin_core::maths::Side::Low));
    assert!((judged.clearance + t(12)).abs() < t(1), "{judged:?}");
    let ends: Vec<i64> = found.methods[0].ends.iter().map(|e| e.clearance.nm() / 2_540).collect();
    assert_eq!(ends, [-12, 172]);
    // How much it moves with each: the flat's beginning counts for most, the height of its corner for nothing there.
    let parts = &found.methods[0].budget.parts;
    let share = |of: Role| parts.iter().filter(|p| p.of == of).map(|p| p.share).sum::<f64>();
    assert!(share(UP) < 1e-6 && share(RADIUS) > 0.0 && share(ALONG) > 0.0, "{parts:?}");
    bench.work(Work::ShellsNarrowed, Scope::One(Place::rod(2)), "both halves, 0.020 off the front")?;
    let stale = room(bench.build(), at).ok_or("it is there")?;
    assert!(stale.judged.is_none() && stale.stale.is_some());
    assert!(stale.measured.iter().any(|m| m.role == RADIUS && m.size.complete), "the crank was not touched");
    for role in [INSET, ALONG, UP] {
        let places: [&str; 2] = match role {
            p if p == INSET => [".065 .065", ".045 .045"],
            p if p == ALONG => [".030 .030", ".030 .030"],
            _ => [".020 .020", ".020 .020"],
        };
        bench.size(at, role, &places)?;
    }
    let after = room(bench.build(), at).ok_or("it is there")?;
    assert_eq!(after.judged.as_ref().map(|j| j.state), Some(State::In));
    Ok(())
}

#[test]
fn a_main_has_as_much_more_as_the_crank_cannot_come_over() -> Outcome {
    let mut bench = opened()?;
    let at = Place::main_fillet(2);
    edges(&mut bench, at, [[".090"; 2], [".045"; 2], [".040"; 2], [".020"; 2]])?;
    let flush = room(bench.build(), at).ok_or("it is there")?;
    let flush = flush.judged.as_ref().ok_or("it is judged hard over")?;
    assert_eq!(flush.state, State::Tight);
    bench.pushes(at, Role::new("saddle_gap"), &[&["80 85", "80 85"], &["70 75", "70 75"]])?;
    let pushed = room(bench.build(), at).ok_or("it is there")?;
    let judged = pushed.judged.as_ref().ok_or("it is judged")?;
    assert_eq!((judged.method.name(), judged.state), ("as_pushed", State::In));
    assert!(pushed.agreements.is_empty(), "what is reckoned hard over says something else");
    // Other washers let the crank come nearer, or not so near.
    bench.work(Work::WashersFitted, Scope::One(Place::THRUST), "+5 at the front")?;
    let after = room(bench.build(), at).ok_or("it is there")?;
    assert_eq!(after.judged.as_ref().map(|j| j.method.name()), Some("hard_over"));
    Ok(())
}

#[test]
fn a_ground_journal_puts_every_fillet_to_measure() -> Outcome {
    let mut bench = Bench::book_in(97, "T-97", &patterns()[0], 0, person("harrow"))?;
    let asked = |bench: &Bench| {
        let all = evaluate(bench.build()).figures;
        all.iter().filter(|f| f.figure == Figure::FILLET_ROOM && f.asked).count()
    };
    assert_eq!(asked(&bench), 0);
    bench.work(Work::JournalGround, Scope::One(Place::pin(2)), "ten under")?;
    assert_eq!(asked(&bench), 13, "seven mains and six pins");
    let blocks = evaluate(bench.build()).sign_off.blocks;
    assert!(blocks.iter().any(|b| b.station == Place::pin_fillet(6)), "{blocks:?}");
    // Rules of before did not ask.
    bench.rules(Rules { regrind_gate: false, ..bench.build().rules_now().clone() }, "as before")?;
    assert_eq!(asked(&bench), 0);
    Ok(())
}

#[test]
fn the_least_that_clears_is_taken_off_in_passes_and_its_cost_is_told() -> Outcome {
    let mut bench = opened()?;
    let at = Place::pin_fillet(2);
    edges(&mut bench, at, [[".090", ".060"], [".045", ".045"], [".030", ".030"], [".020", ".020"]])?;
    let (contact, claimed) = (Some(t(8_800)), Some(t(100)));
    let wish = |end| FilletWish { end, contact, claimed, rough: t(100), finish: t(30), tape: t(20) };
    let plan = |bench: &Bench, end| plan_fillet(bench.build(), &evaluate(bench.build()).figures, at, &wish(end));
    let front = plan(&bench, Axial::Front)?;
    assert_eq!((front.take, front.after.flat, front.margin), (t(250), t(1_000), t(20)));
    let corner = front.after.corner_room.nm() / 254;
    assert_eq!(corner, 1_719, "17.2 thou left at the corner");
    let cuts: Vec<i64> = front.passes.iter().map(|p| p.cut.nm() / 2_540).collect();
    assert_eq!(cuts, [73, 73, 73, 30]);
    assert_eq!(front.passes.last().map(|p| p.dial), Some(front.take));
    let cost = front.cost.ok_or("its width is known")?;
    assert_eq!((cost.contact, cost.lost, cost.load, cost.ask_the_lead), (t(8_550), 28, 29, false));
    // The number on the box promises ten thou: not enough, computed.
    assert!(front.claimed.is_some_and(|edge| edge.room < Length::ZERO));
    // By the drawing, because no bore was measured: below it by a thou and a half, and twice two thou of tape.
    let nominals = bench.build().layout.nominals(at.row()).ok_or("they are known")?;
    let bore = nominals.housing - nominals.wall - nominals.wall;
    assert_eq!(front.mandrel, Some(bore - t(55)));
    let rear = plan(&bench, Axial::Rear)?;
    assert_eq!((rear.take, rear.passes.len(), rear.cost), (Length::ZERO, 0, None));
    // Ten thou beyond the arc unless its target says otherwise; where the edge clears nothing is cut for it.
    let beyond = TargetRule::Range { low: t(50), aim: None, high: t(2_500) };
    bench.figure_target(Figure::FILLET_FLAT, BearingRow::Rods, beyond, "five thou beyond the arc")?;
    assert_eq!(plan(&bench, Axial::Front)?.take, t(200));
    assert_eq!(plan(&bench, Axial::Middle), Err(NoFillet::NoSuchEnd));
    let elsewhere = |at| plan_fillet(bench.build(), &evaluate(bench.build()).figures, at, &wish(Axial::Front));
    assert_eq!(elsewhere(Place::pin(2)), Err(NoFillet::NotFillets(Place::pin(2))));
    assert_eq!(elsewhere(Place::pin_fillet(3)), Err(NoFillet::NotMeasured));
    Ok(())
}
