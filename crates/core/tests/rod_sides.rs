//! Side clearance of rods: by blades, from widths with one rod or two on a pin, and what ends it.
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Figure, Place, Role, Scope};
use jagged_pin_core::figure::FigureAssessment;
use jagged_pin_core::log::Work;
use jagged_pin_core::machining::{NarrowingWish, NoRodNarrowing, narrow_rods};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};

type Outcome = Result<(), Box<dyn std::error::Error>>;

const S: fn(u8) -> Place = Place::side;
const GAP: Role = Role::new("side_gap");
const PIN_WIDTH: Role = Role::new("pin_width");
const ROD_WIDTH: Role = Role::new("rod_width");

fn t(n: i64) -> Length {
    Length::tenths(n)
}

fn bench_of(pattern: &str, low: i64, high: i64) -> Result<Bench, Refusal> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == pattern).unwrap_or(&known[0]);
    let mut bench = Bench::book_in(97, "T-97", pattern, 0, person("harrow"))?;
    let window = TargetRule::Range { low: t(low), aim: None, high: t(high) };
    bench.figure_target(Figure::ROD_SIDE, BearingRow::Rods, window, "oil leaves, nothing rubs")?;
    Ok(bench)
}

fn at(build: &Build, place: Place) -> Result<FigureAssessment, &'static str> {
    evaluate(build).figure(Figure::ROD_SIDE, place).cloned().ok_or("the pin has rods")
}

fn judged(build: &Build, place: Place) -> Result<(Length, State), &'static str> {
    let figure = at(build, place)?;
    figure.judged.map(|j| (j.clearance, j.state)).ok_or("it is measured")
}

#[test]
fn blades_are_in_only_where_everything_between_them_is() -> Outcome {
    let mut bench = bench_of("curlew-24", 100, 160)?;
    for (pin, text, state) in
        [(1, "120 130", State::In), (2, "100 110", State::Edge), (3, "90 100", State::Edge), (4, "70 80", State::Tight)]
    {
        bench.pushes(S(pin), GAP, &[&[text], &[text]])?;
        assert_eq!(judged(bench.build(), S(pin))?.1, state, "{text}");
    }
    // A coarse pair leaves more open than a fine one around the same middle.
    bench.pushes(S(5), GAP, &[&["110 150"], &["110 150"]])?;
    let between = |place| Ok::<_, &str>(at(bench.build(), place)?.judged.map(|j| (j.smallest, j.largest)));
    assert_eq!(between(S(5))?, Some((t(110), t(150))));
    assert_eq!(between(S(1))?, Some((t(120), t(130))));
    assert!(bench.pushes(S(6), GAP, &[&["130 120"], &[]]).is_err(), "a blade that goes and does not go");
    Ok(())
}

/// Pin 1.8800, rods 0.9350 and 0.9340.
fn two_on_a_pin(bench: &mut Bench) -> Outcome {
    bench.take("mic-inch-tenths");
    bench.size(S(1), PIN_WIDTH, &["1.8800", "1.8800", "1.8800", "1.8800"])?;
    bench.size(Place::rod(1), ROD_WIDTH, &["0.9350", "0.9350", "0.9350", "0.9350"])?;
    bench.size(Place::rod(2), ROD_WIDTH, &["0.9340", "0.9340", "0.9340", "0.9340"])?;
    Ok(())
}

#[test]
fn two_rods_on_a_pin_both_take_their_width_off_it() -> Outcome {
    let mut bench = bench_of("whimbrel-31", 120, 200)?;
    two_on_a_pin(&mut bench)?;
    let figure = at(bench.build(), S(1))?;
    assert_eq!(judged(bench.build(), S(1))?, (t(110), State::Tight));
    let widths = figure.measured.iter().filter(|m| m.role == ROD_WIDTH).map(|m| m.place);
    assert_eq!(widths.collect::<Vec<_>>(), [Place::rod(1), Place::rod(2)]);
    // Each rod is measured once, whatever else is made of it.
    assert!(at(bench.build(), S(2))?.judged.is_none());
    Ok(())
}

#[test]
fn the_widest_of_the_rods_leaves_least_and_the_narrowest_most() -> Outcome {
    let mut bench = bench_of("whimbrel-31", 80, 200)?;
    bench.take("mic-inch-tenths");
    bench.size(S(1), PIN_WIDTH, &["1.8800", "1.8802", "1.8804", "1.8802"])?;
    bench.size(Place::rod(1), ROD_WIDTH, &["0.9350", "0.9352", "0.9350", "0.9352"])?;
    bench.size(Place::rod(2), ROD_WIDTH, &["0.9340", "0.9340", "0.9340", "0.9340"])?;
    let figure = at(bench.build(), S(1))?;
    let widths = figure.methods.iter().find(|m| m.method.name() == "widths").ok_or("by widths")?;
    assert_eq!((widths.smallest, widths.clearance, widths.largest), (t(108), t(111), t(114)));
    Ok(())
}

#[test]
fn narrowing_a_rod_ends_its_width_and_the_side_of_its_pin_alone() -> Outcome {
    let mut bench = bench_of("whimbrel-31", 80, 200)?;
    two_on_a_pin(&mut bench)?;
    for pin in [1, 2] {
        bench.pushes(S(pin), GAP, &[&["110 120"], &["110 120"]])?;
    }
    bench.work(Work::RodNarrowed, Scope::One(Place::rod(2)), "three thou off the rear face")?;
    let stale = |place, role| {
        let figure = at(bench.build(), place)?;
        let all = figure.measured.iter().filter(|m| m.role == role).map(|m| m.size.stale.is_some());
        Ok::<Vec<bool>, &str>(all.collect())
    };
    assert_eq!(stale(S(1), ROD_WIDTH)?, [false, true]);
    assert_eq!(stale(S(1), PIN_WIDTH)?, [false]);
    assert_eq!(stale(S(1), GAP)?, [true]);
    assert_eq!(stale(S(2), GAP)?, [false], "its neighbour's pin is as it was");
    bench.work(Work::JournalGround, Scope::One(Place::pin(1)), "ten under")?;
    assert_eq!(stale_widths(&bench)?, [true], "the wheel may have touched the cheeks");
    Ok(())
}

fn stale_widths(bench: &Bench) -> Result<Vec<bool>, &'static str> {
    let figure = at(bench.build(), S(1))?;
    Ok(figure.measured.iter().filter(|m| m.role == PIN_WIDTH).map(|m| m.size.stale.is_some()).collect())
}

fn usual() -> NarrowingWish {
    let (rough, finish) = (t(200), t(40));
    NarrowingWish {
        rough,
        finish,
        dial_in_diameter: false,
        bank_offset: None,
        beams: Vec::new(),
        most_a_face: None,
        ring: None,
    }
}

#[test]
fn rods_too_wide_for_their_pin_are_narrowed_to_the_aim() -> Outcome {
    let mut bench = bench_of("whimbrel-31", 120, 200)?;
    let plan =
        |bench: &Bench, wish: &NarrowingWish| narrow_rods(bench.build(), &evaluate(bench.build()).figures, S(1), wish);
    assert_eq!(plan(&bench, &usual()), Err(NoRodNarrowing::NotMeasured(S(1))));
    two_on_a_pin(&mut bench)?;
    let even = plan(&bench, &usual())?;
    assert_eq!((even.now, even.removal, even.clearance, even.short), (t(110), t(50), t(160), t(0)));
    assert_eq!(even.rods[0].front.off, Length::from_nm(31_750), "a quarter of five thou off each face");
    // Beams over their pistons: both rods end as wide as each other, cut unlike.
    let beams = NarrowingWish { bank_offset: Some(t(9_420)), beams: vec![t(4_666), t(4_684)], ..usual() };
    let by_beam = plan(&bench, &beams)?;
    assert_eq!(by_beam.rods.iter().map(|r| r.width).collect::<Vec<_>>(), [t(9_320); 2]);
    assert!(by_beam.rods[0].front.off > by_beam.rods[0].rear.off);
    let unknown = NarrowingWish { beams: Vec::new(), ..beams.clone() };
    assert_eq!(plan(&bench, &unknown), Err(NoRodNarrowing::Beams));
    let unsaid = NarrowingWish { bank_offset: None, ..beams };
    assert_eq!(plan(&bench, &unsaid), Err(NoRodNarrowing::BankOffset), "never silently even");
    // Five thou off rods of steel, from a ring of 2.750 around 2.249.
    let weighed = plan(&bench, &NarrowingWish { ring: Some([t(27_500), t(22_490)]), ..usual() })?;
    let lost: i64 = weighed.rods.iter().filter_map(|r| r.mass_off).sum();
    assert_eq!((lost, weighed.hot_change), (1_266, None), "a gram and a quarter");
    // A chamfer that leaves little to take stops short of the aim, and says by how much.
    let held = plan(&bench, &NarrowingWish { most_a_face: Some(t(10)), dial_in_diameter: true, ..usual() })?;
    assert_eq!((held.removal, held.short), (t(40), t(10)));
    assert_eq!(held.rods[0].front.passes.last().map(|p| p.dial), Some(t(20)), "the dial counts diameters");
    Ok(())
}
