//! The top end: cylinders with and without the plate, pistons, rings, wrist pins; the crank's runout and its cam's end play.
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Cylinders, Figure, Layout, PartKind, Place, PlaceKind, Role, Scope};
use jagged_pin_core::evidence::{EndingCause, Notes};
use jagged_pin_core::figure::{Advice, DoubtSource, FigureAssessment, Finding, Improvement};
use jagged_pin_core::log::{Coating, GaugeEdge, GaugePoint, Note, Noted, Rules, What, Work};
use jagged_pin_core::machining::{plan_bores, straightness};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_workbench::{Bench, patterns, person};

type Outcome = Result<(), Box<dyn std::error::Error>>;

const B: fn(u8) -> Place = Place::cylinder;
const W: fn(u8) -> Place = Place::wrist_pin;
const BORE: Role = Role::new("cylinder");
const BARE: Role = Role::new("cylinder_bare");
const PISTON: Role = Role::new("piston");

fn t(n: i64) -> Length {
    Length::tenths(n)
}

fn named(id: &str) -> Result<Figure, &'static str> {
    id.parse().map_err(|_| "it is in the catalogue")
}

fn range(low: i64, high: i64) -> TargetRule {
    TargetRule::Range { low: t(low), aim: None, high: t(high) }
}

fn opened() -> Result<Bench, Refusal> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(96, "T-96", pattern, 0, person("harrow"))?;
    bench.figure_target(Figure::PISTON_TO_WALL, BearingRow::Rods, range(30, 36), "the sheet and the coating")?;
    bench.take("bore-tenths");
    bench.take("mic-four-tenths");
    Ok(bench)
}

fn of(build: &Build, figure: Figure, at: Place) -> Result<FigureAssessment, &'static str> {
    evaluate(build).figure(figure, at).cloned().ok_or("it is assessed")
}

fn bore(bench: &mut Bench, n: u8, role: Role, places: [&str; 6]) -> Outcome {
    let twice: Vec<String> = places.iter().map(|p| format!("{p} {p}")).collect();
    bench.size(B(n), role, &twice.iter().map(String::as_str).collect::<Vec<_>>())?;
    Ok(())
}

#[test]
fn a_piston_is_judged_at_the_tight_place_and_at_the_loose_one() -> Outcome {
    let mut bench = opened()?;
    bore(&mut bench, 5, BORE, ["3.4749", "44", "47", "46", "46", "46"])?;
    bench.size(W(5), PISTON, &["3.4717 17"])?;
    let found = of(bench.build(), Figure::PISTON_TO_WALL, B(5))?;
    let judged = found.judged.as_ref().ok_or("it is judged")?;
    // Three tenths under; an aluminium piston in an iron bore proves it only once somebody says how warm they are.
    assert_eq!(judged.state, State::Edge);
    let soak = |a: &Advice| a.better == Improvement::SoakOrNote && a.expanded < t(3);
    assert!(found.methods[0].advice.iter().any(soak), "{:?}", found.methods[0].advice);
    assert_eq!((judged.smallest, judged.largest), (t(27), t(32)));
    let round = named("cylinder_round")?;
    assert!(evaluate(bench.build()).figure(round, B(5)).is_none(), "nobody asked for its shape");
    bench.figure_target(round, BearingRow::Rods, range(0, 3), "race")?;
    let shape = of(bench.build(), round, B(5))?;
    assert_eq!(shape.judged.as_ref().map(|j| j.clearance), Some(t(5)));
    // Honing ends it, and leaves the piston as it is.
    bench.work(Work::CylinderHoned, Scope::One(B(5)), "to 3.4750")?;
    let after = of(bench.build(), Figure::PISTON_TO_WALL, B(5))?;
    let stale: Vec<bool> = after.measured.iter().map(|m| m.size.stale.is_some()).collect();
    assert_eq!(stale, [true, false, false]);
    Ok(())
}

#[test]
fn without_the_plate_a_bore_is_judged_until_it_was_measured_with_it() -> Outcome {
    let mut bench = opened()?;
    bore(&mut bench, 1, BARE, ["3.4752", "47", "50", "50", "50", "50"])?;
    bench.size(W(1), PISTON, &["3.4717 17"])?;
    let off = of(bench.build(), Figure::PISTON_TO_WALL, B(1))?;
    assert_eq!(off.judged.as_ref().map(|j| (j.method.name(), j.smallest)), Some(("plate_off", t(30))));
    // What the plate would pull stays open: five tenths while nobody knows it here, half of a span that wide.
    let pull = |f: &FigureAssessment| {
        let method = f.methods.iter().find(|m| m.method.name() == "plate_off");
        let part = method.and_then(|m| m.budget.parts.iter().find(|p| p.source == DoubtSource::Plate).cloned());
        part.map(|p| p.standard.round())
    };
    assert_eq!(pull(&off), Some((12_700.0 / 3f64.sqrt()).round()));
    let never = Rules { plate_pull: Some(t(0)), ..bench.build().rules_now().clone() };
    let mut bare = bench.clone();
    bare.rules(never, "cylinders that nobody pulls")?;
    assert_eq!(pull(&of(bare.build(), Figure::PISTON_TO_WALL, B(1))?), None);
    bore(&mut bench, 1, BORE, ["3.4750", "50", "50", "50", "50", "50"])?;
    let on = of(bench.build(), Figure::PISTON_TO_WALL, B(1))?;
    let judged = on.judged.as_ref().ok_or("it is judged")?;
    assert_eq!((judged.method.name(), judged.smallest), ("plate_on", t(33)));
    assert!(on.agreements.is_empty(), "what the plate does is no disagreement");
    // By the middles of both bores: 3.47495 without it, 3.4750 with it.
    assert!(on.findings.contains(&Finding::PlatePulls { by: Length::from_nm(-1_270) }), "{:?}", on.findings);
    assert_eq!(pull(&on), Some((1_270.0 / 3f64.sqrt()).round()), "what it does is known here");
    Ok(())
}

#[test]
fn a_ring_gap_follows_its_bore_and_a_piston_goes_where_it_is_put() -> Outcome {
    let mut bench = opened()?;
    let gap = named("top_ring_gap")?;
    let per_inch = TargetRule::PerDiameter { per_million: 4_500, adder: t(20), below: t(20), above: t(20) };
    bench.figure_target(gap, BearingRow::Rods, per_inch, "circuit")?;
    bench.pushes(B(2), Role::new("top_ring_gap"), &[&["160 170", "160 170"]])?;
    let found = of(bench.build(), gap, B(2))?;
    let target = found.target.as_ref().ok_or("it has one")?;
    // Four and a half thou for every inch of 3.4750, and two more.
    assert!((target.window.low - t(156)).abs() < t(1), "of the bore, not of the pin: {target:?}");
    assert_eq!(found.judged.as_ref().map(|j| j.state), Some(State::In));
    bench.work(Work::CylinderHoned, Scope::Cylinders, "six tenths more")?;
    assert!(of(bench.build(), gap, B(2))?.stale.is_some());
    let in_new_bore = |bench: &Bench| {
        let found = of(bench.build(), gap, B(2))?.findings;
        let gap = |f: &Finding| match f {
            Finding::GapInNewBore { gap, by } => Some((*gap, *by)),
            _ => None,
        };
        Ok::<_, &str>(found.iter().find_map(gap))
    };
    assert_eq!(in_new_bore(&bench)?, None, "its bore is not measured yet");
    // Never measured before it was honed: there is nothing to reckon from.
    bore(&mut bench, 2, BORE, ["3.4756", "56", "56", "56", "56", "56"])?;
    assert_eq!(in_new_bore(&bench)?, None);
    bench.pushes(B(2), Role::new("top_ring_gap"), &[&["160 170", "160 170"]])?;
    bench.work(Work::CylinderHoned, Scope::One(B(2)), "two tenths more")?;
    bore(&mut bench, 2, BORE, ["3.4758", "58", "58", "58", "58", "58"])?;
    // Pi times two tenths on top of sixteen and a half thou.
    let (now, by) = in_new_bore(&bench)?.ok_or("it follows its bore")?;
    assert_eq!(by, t(2));
    assert!((now - (t(165) + Length::from_nm(15_959))).abs() < Length::from_nm(10), "{now:?}");
    // A piston carries its size to where it is put.
    bench.size(W(1), PISTON, &["3.4716 16"])?;
    bench.size(W(2), PISTON, &["3.4718 18"])?;
    bench.assign(&[("W1", Some(W(2))), ("W2", Some(W(1)))], "the larger piston in the larger bore")?;
    let at_two = of(bench.build(), Figure::PISTON_TO_WALL, B(2))?;
    let piston = at_two.measured.iter().find(|m| m.role == PISTON).and_then(|m| m.size.size.as_ref());
    assert_eq!(piston.map(|s| s.effective), Some(t(34_716)));
    assert_eq!(PartKind::Piston.row().name, "piston");
    Ok(())
}

#[test]
fn a_piston_is_measured_anew_where_its_gauge_point_is_another_one() -> Outcome {
    let mut bench = opened()?;
    bench.size(W(1), PISTON, &["3.4716 16"])?;
    let point = |from, tenths, coating| {
        let note = "sheet 4".into();
        What::GaugePoint(GaugePoint { from, height: t(tenths), coating, thickness: None, note, lifted: Vec::new() })
    };
    let stale = |bench: &Bench| {
        let wall = of(bench.build(), Figure::PISTON_TO_WALL, B(1))?;
        let piston = wall.measured.iter().find(|m| m.role == PISTON).ok_or("a piston stands there")?;
        Ok::<_, &str>(piston.size.stale.as_ref().map(|s| s.because.cause.clone()))
    };
    // The first word on it is about what was measured; the same again changes nothing.
    for _ in 0..2 {
        bench.record(point(GaugeEdge::SkirtBottom, 5_000, Coating::None))?;
        assert_eq!(stale(&bench)?, None);
    }
    bench.record(point(GaugeEdge::OilGroove, 5_000, Coating::None))?;
    assert!(matches!(stale(&bench)?, Some(EndingCause::GaugePoint { point }) if point.from == GaugeEdge::OilGroove));
    bench.size(W(1), PISTON, &["3.4712 12"])?;
    assert_eq!(stale(&bench)?, None);
    bench.record(point(GaugeEdge::OilGroove, 5_000, Coating::Over))?;
    assert!(stale(&bench)?.is_some(), "over the coating is another size");
    assert!(bench.record(point(GaugeEdge::Crown, 0, Coating::None)).is_err());
    Ok(())
}

#[test]
fn a_coating_under_which_the_sheet_counts_comes_off_twice() -> Outcome {
    let mut bench = opened()?;
    bench.size(W(1), PISTON, &["3.4712 12"])?;
    bore(&mut bench, 1, BORE, ["3.4749", "50", "50", "50", "50", "50"])?;
    let room = |bench: &Bench| -> Result<_, Box<dyn std::error::Error>> {
        Ok(of(bench.build(), Figure::PISTON_TO_WALL, B(1))?.judged.as_ref().ok_or("measured")?.clearance)
    };
    let bare = room(&bench)?;
    let (from, height, note) = (GaugeEdge::SkirtBottom, t(5_000), String::new());
    let thickness = Some(t(5));
    let said = GaugePoint { from, height, coating: Coating::Under, thickness, note, lifted: Vec::new() };
    bench.record(What::GaugePoint(said.clone()))?;
    assert_eq!(room(&bench)? - bare, t(10), "half a thou a side is a thou of the diameter");
    bench.record(What::GaugePoint(GaugePoint { coating: Coating::Over, ..said }))?;
    assert!(room(&bench).is_err(), "measured to something else, it is measured again");
    Ok(())
}

#[test]
fn pistons_of_one_size_go_where_the_rods_weigh_less() -> Outcome {
    let mut bench = opened()?;
    bench.figure_target(Figure::PISTON_TO_WALL, BearingRow::Rods, range(30, 36), "sheet")?;
    for n in 1..=6 {
        bench.take("bore-tenths");
        bench.size(B(n), Role::new("cylinder"), &["3.4749 3.4749"; 6])?;
        bench.take("mic-four-tenths");
        // The third piston is a size of its own: no weight moves it.
        bench.size(W(n), PISTON, &[if n == 3 { "3.4715 15" } else { "3.4716 16" }])?;
    }
    let noted = |note: Note, at, raw: &str| {
        let value = note.read(raw, Unit::Inch).unwrap_or_default();
        What::Noted(Noted { note, at, value, raw: raw.into() })
    };
    let planned = |bench: &Bench| {
        let figures = evaluate(bench.build()).figures;
        plan_bores(bench.build(), &figures, t(1), &[]).and_then(|p| p.assignment).ok_or("they are all measured")
    };
    for (n, piston, rod) in [(1, "410.0", "600.0"), (2, "412.0", "602.0"), (3, "411.0", "601.0")] {
        bench.record(noted(Note::PistonWeight, W(n), piston))?;
        bench.record(noted(Note::RodWeight, Place::rod(n), rod))?;
    }
    assert_eq!(planned(&bench)?.weights, None, "three of six are weighed");
    for n in 4..=6 {
        bench.record(noted(Note::PistonWeight, W(n), "411.0"))?;
        bench.record(noted(Note::RodWeight, Place::rod(n), "601.0"))?;
    }
    let found = planned(&bench)?;
    assert_eq!((found.outside, found.weights), ([0, 0], Some([4_000, 0])));
    let to = |n: u8| found.pistons.iter().find(|p| p.from == W(n)).map(|p| p.to);
    assert_eq!((to(1), to(2)), (Some(B(2)), Some(B(1))), "the heavy piston to the light rod");

    // A piston takes its weight with it; a rod that is honed is weighed again.
    bench.assign(&[("W1", Some(W(2))), ("W2", Some(W(1)))], "as the weights want it")?;
    let notes = |bench: &Bench| {
        let notes = Notes::of_build(bench.build());
        (notes.value(W(2), Note::PistonWeight), notes.value(Place::rod(2), Note::RodWeight))
    };
    assert_eq!(notes(&bench), (Some(410_000), Some(602_000)));
    bench.record(noted(Note::PistonWeight, W(2), "410.5"))?;
    bench.work(Work::RodNarrowed, Scope::One(Place::rod(2)), "a few thou")?;
    assert_eq!(notes(&bench), (Some(410_500), None));
    Ok(())
}

#[test]
fn wrist_pins_are_free_in_their_pistons_and_free_or_pressed_in_their_rods() -> Outcome {
    let mut bench = opened()?;
    bench.take("mic-inch-tenths");
    bench.take("bore-small-tenths");
    let (piston, rod, press) = (named("pin_in_piston")?, named("pin_in_rod")?, named("pin_press")?);
    bench.figure_target(piston, BearingRow::Rods, range(2, 6), "floating")?;
    bench.figure_target(rod, BearingRow::Rods, range(5, 9), "bronze bush")?;
    bench.size(W(1), Role::new("wrist_pin"), &[".9270 .9270"; 6])?;
    bench.size(W(1), Role::new("pin_boss"), &[".9274 .9274"; 4])?;
    bench.size(Place::rod(1), Role::new("rod_eye"), &[".9277 .9277"; 4])?;
    let about = |figure, wanted: Length| {
        let judged = of(bench.build(), figure, W(1))?.judged.ok_or("it is judged")?;
        // What several places read too tight is taken off.
        Ok::<_, &str>((judged.clearance - wanted).abs() < t(1) && judged.inside)
    };
    assert!(about(piston, t(4))? && about(rod, t(7))?);
    assert!(evaluate(bench.build()).figure(press, W(1)).is_none());
    bench.work(Work::SmallEndHoned, Scope::One(Place::rod(1)), "a tenth")?;
    assert!(of(bench.build(), rod, W(1))?.stale.is_some() && of(bench.build(), piston, W(1))?.judged.is_some());
    Ok(())
}

#[test]
fn a_crank_is_turned_and_a_cam_is_pushed_like_anything_else() -> Outcome {
    let mut bench = opened()?;
    let (runout, play) = (named("main_runout")?, named("cam_end_play")?);
    bench.figure_target(runout, BearingRow::Mains, range(0, 10), "race")?;
    bench.figure_target(play, BearingRow::Mains, range(30, 70), "plate")?;
    let clock = ["5.5", "5", "3.5", "3", "2.5", "1", "0.5", "3"].map(|shown| [shown; 2]);
    let places: Vec<&[&str]> = clock.iter().map(<[&str; 2]>::as_slice).collect();
    bench.pushes(Place::main(4), Role::new("main_turn"), &places)?;
    // Half a thou of travel is a bend of four tenths, the noise of the readings taken off.
    let judged = of(bench.build(), runout, Place::main(4))?.judged.ok_or("it is judged")?;
    assert!((judged.clearance - t(4)).abs() < Length::from_nm(300), "{judged:?}");
    assert!((judged.clearance - judged.correction - Length::from_nm(10_460)).abs() < t(1), "{judged:?}");
    // Most of what it travels is bend; the rest a mic should find as ovality.
    let runs = straightness(bench.build(), &evaluate(bench.build()).figures, 90.0);
    let main = runs.mains.first().ok_or("it was turned")?;
    let hundredths = |l: Length| (l.as_f64() / 25.4).round() as i64;
    assert_eq!((hundredths(main.travel), hundredths(main.bend), main.high_side), (500, 412, 45));
    assert_eq!(main.oval.map(|o| hundredths(o) / 10), Some(40), "{main:?}");
    assert!(!main.bent && runs.open.len() == 6 && main.bow.is_none());
    bench.pushes(Place::CAM_THRUST, Role::new("cam_travel"), &[&["0 55 0", "0 55 0"]])?;
    assert_eq!(of(bench.build(), play, Place::CAM_THRUST)?.judged.map(|j| j.state), Some(State::In));
    bench.work(Work::CrankStraightened, Scope::Crank, "peened at web 7")?;
    assert!(of(bench.build(), runout, Place::main(4))?.stale.is_some());
    bench.work(Work::CamPlateFitted, Scope::One(Place::CAM_THRUST), "a shim of five thou")?;
    assert!(of(bench.build(), play, Place::CAM_THRUST)?.stale.is_some());
    Ok(())
}

#[test]
fn nose_and_flange_are_turned_with_a_target_of_their_own_and_bend_nothing_between_the_mains() -> Outcome {
    let mut bench = opened()?;
    let (mains, ends) = (named("main_runout")?, named("end_runout")?);
    bench.figure_target(mains, BearingRow::Mains, range(0, 10), "race")?;
    let turn = |bench: &mut Bench, at: Place, clock: [&str; 8]| {
        let twice = clock.map(|shown| [shown; 2]);
        let places: Vec<&[&str]> = twice.iter().map(<[&str; 2]>::as_slice).collect();
        bench.pushes(at, Role::new("main_turn"), &places)
    };
    let runs = |bench: &Bench| straightness(bench.build(), &evaluate(bench.build()).figures, 90.0);
    let straight = ["0"; 8];
    for n in [1, 4, 7] {
        turn(&mut bench, Place::main(n), straight)?;
    }
    let thrown = ["8", "7", "4", "1", "0", "1", "4", "7"];
    turn(&mut bench, Place::NOSE, thrown)?;
    turn(&mut bench, Place::FLANGE, straight)?;
    let before = runs(&bench);
    let order: Vec<Place> = before.mains.iter().map(|m| m.at).collect();
    assert_eq!(order, [Place::NOSE, Place::main(1), Place::main(4), Place::main(7), Place::FLANGE]);
    assert_eq!(before.open, [2, 3, 5, 6].map(Place::main), "an end that nobody asks for is not open");
    let nose = before.mains.first().ok_or("it was turned")?;
    assert!(!nose.bent && nose.bow.is_none() && nose.step.is_none(), "what is meant for the mains asks nothing of it");
    assert!(before.mains.iter().filter(|m| m.at.kind() == PlaceKind::Main).all(|m| m.bow.is_none_or(|b| b.nm() == 0)));
    assert_eq!(of(bench.build(), ends, Place::NOSE)?.target, None);
    bench.figure_target(ends, BearingRow::Mains, range(0, 5), "race")?;
    let after = runs(&bench);
    let bent: Vec<Place> = after.mains.iter().filter(|m| m.bent).map(|m| m.at).collect();
    assert_eq!((bent, after.limit), (vec![Place::NOSE], Some(t(10))));
    assert_eq!(
        of(bench.build(), ends, Place::NOSE)?.judged.map(|j| ((j.clearance - t(8)).abs() < t(1), j.state)),
        Some((true, State::Loose))
    );
    assert_eq!(of(bench.build(), ends, Place::FLANGE)?.judged.map(|j| j.state), Some(State::In));
    bench.work(Work::JournalPolished, Scope::One(Place::pin(2)), "finest grit")?;
    assert!(of(bench.build(), ends, Place::NOSE)?.stale.is_none(), "a polish moves no axis");
    bench.work(Work::CrankStraightened, Scope::Crank, "the nose, cold")?;
    assert!(of(bench.build(), ends, Place::NOSE)?.stale.is_some());
    turn(&mut bench, Place::NOSE, straight)?;
    bench.work(Work::JournalGround, Scope::One(Place::main(2)), "ten under")?;
    assert!(of(bench.build(), ends, Place::NOSE)?.stale.is_some(), "the mains are its axis");
    Ok(())
}

#[test]
fn an_engine_has_cylinders_only_where_they_are_built_and_within_reason() -> Outcome {
    let bench = opened()?;
    let six = bench.build().layout.clone();
    assert!(six.has(W(6)) && six.has(B(6)) && !six.has(B(7)) && six.check().is_ok());
    let bare = Layout { cylinders: None, ..six.clone() };
    assert!(!bare.has(B(1)) && !bare.has(W(1)));
    let single = Layout { rods: None, ..six.clone() };
    assert_eq!((single.cylinder_count(), single.journal_of(W(2))), (6, W(2)));
    for bore in [Length::tenths(348), Length::from_nm(500_000_000)] {
        assert!(Layout { cylinders: Some(Cylinders::of(bore)), ..six.clone() }.check().is_err(), "{bore:?}");
    }
    Ok(())
}

#[test]
fn one_size_serves_all_only_where_the_inequality_holds() -> Outcome {
    let mut bench = opened()?;
    let plan = |bench: &Bench| plan_bores(bench.build(), &evaluate(bench.build()).figures, t(1), &[]);
    assert!(plan(&bench).is_some_and(|p| p.one_size.is_none() && p.assignment.is_none()));
    for (n, piston) in (1..).zip(["3.4716", "3.4718", "3.4717", "3.4714", "3.4719", "3.4716"]) {
        let twice = format!("{piston} {piston}");
        bench.size(W(n), PISTON, &[&twice])?;
    }
    let six = plan(&bench).ok_or("it has a target")?;
    let one = six.one_size.ok_or("the pistons are measured")?;
    assert_eq!((one.spread, one.needs, one.has, one.bore), (t(5), t(7), t(6), None));
    let finished: Vec<i64> = six.cylinders.iter().filter_map(|c| c.finished).map(|l| l.nm() / 2_540).collect();
    assert_eq!(finished, [34_749, 34_751, 34_750, 34_747, 34_752, 34_749]);
    // Bored to those but for two that were taken for each other: the pistons change places.
    for (n, bored) in (1..).zip(["3.4749", "3.4751", "3.4750", "3.4752", "3.4747", "3.4749"]) {
        bore(&mut bench, n, BORE, [bored; 6])?;
    }
    let found = plan(&bench).ok_or("it has a target")?.assignment.ok_or("everything is measured")?;
    assert!(found.moves && found.outside == [2, 0], "{found:?}");
    let to_four = found.pistons.iter().find(|p| p.to == B(4)).ok_or("it has one")?;
    assert_eq!((to_four.from, to_four.clearance), (W(5), t(33)));
    // A piston that stays with its rod stays, whatever the others would gain.
    let married = plan_bores(bench.build(), &evaluate(bench.build()).figures, t(1), &[W(5)]).and_then(|p| p.assignment);
    let five = married.as_ref().and_then(|a| a.pistons.iter().find(|p| p.from == W(5)));
    assert_eq!(five.map(|p| (p.to, p.married)), Some((B(5), true)));
    assert!(married.is_some_and(|a| a.outside[1] > 0));
    Ok(())
}

#[test]
fn blades_say_which_one_is_next_and_what_they_never_prove() -> Outcome {
    let mut bench = opened()?;
    let gap = named("top_ring_gap")?;
    bench.figure_target(gap, BearingRow::Rods, range(156, 196), "circuit")?;
    let advice = |bench: &Bench| of(bench.build(), gap, B(1)).map(|f| f.blades);
    let first = advice(&bench)?.ok_or("it is gauged by blades")?;
    assert_eq!((first.next, first.never.len()), (Some(t(160)), 2));
    bench.pushes(B(1), Role::new("top_ring_gap"), &[&["150 200"]])?;
    assert_eq!(advice(&bench)?.and_then(|a| a.next), Some(t(160)));
    bench.pushes(B(1), Role::new("top_ring_gap"), &[&["160 190"]])?;
    assert_eq!(advice(&bench)?.map(|a| a.next), Some(None));
    assert_eq!(of(bench.build(), Figure::OIL_CLEARANCE, Place::main(1))?.blades, None);
    Ok(())
}

#[test]
fn a_crank_on_unequal_seats_is_packed_under_the_smaller_one() -> Outcome {
    let mut bench = opened()?;
    let packing = |bench: &Bench, v| {
        let runs = straightness(bench.build(), &evaluate(bench.build()).figures, v);
        runs.packing.map(|p| (p.under, p.by))
    };
    assert_eq!(packing(&bench, 90.0), None, "nothing is measured");
    bench.take("mic-tenths");
    bench.journal(Place::main(1), ["2.6240 40", "40 40", "40 40", "40 40"])?;
    bench.journal(Place::main(7), ["2.6230 30", "30 30", "30 30", "30 30"])?;
    // A thou under: 0.7071 of it in a right-angled V, half a thou over the sine of thirty degrees in a narrow one.
    let (under, by) = packing(&bench, 90.0).ok_or("both ends are measured")?;
    assert_eq!((under, by.nm() / 100), (Place::main(7), 179));
    assert_eq!(packing(&bench, 60.0), Some((Place::main(7), t(10))));
    Ok(())
}
