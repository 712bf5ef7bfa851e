//! Thrust washers: which put end play right, what each does to the crank, and the promise held against the next push.
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::choose::{WasherProposal, WasherWish, propose_washers, thrust_need, washers_in};
use jagged_pin_core::engine::{BearingRow, Figure, Place, Role};
use jagged_pin_core::figure::{FigureAssessment, Finding};
use jagged_pin_core::log::{FittedPair, WasherIn, WashersIn, What, Work};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::shells::{ThrustLayout, ThrustSide, WasherBox};
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person, washer_boxes};

type Outcome = Result<(), Box<dyn std::error::Error>>;

const E: Place = Place::THRUST;

fn t(n: i64) -> Length {
    Length::tenths(n)
}

/// A six pushed at 0 and 180, twice each.
fn pushed(at_0: &str, at_180: &str) -> Result<Bench, Refusal> {
    let known = patterns();
    let pattern = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut bench = Bench::book_in(98, "T-98", pattern, 0, person("harrow"))?;
    let window = TargetRule::Range { low: t(50), aim: Some(t(65)), high: t(80) };
    bench.figure_target(Figure::END_PLAY, BearingRow::Mains, window, "middle held")?;
    assert!(evaluate(bench.build()).end_play_first, "nobody knows yet whether the crank can be kept");
    bench.pushes(E, Role::TRAVEL, &[&[at_0, at_0], &[at_180, at_180]])?;
    Ok(bench)
}

fn curlew() -> Result<WasherBox, &'static str> {
    washer_boxes().into_iter().map(|(of, _)| of).find(|of| of.id == "CT").ok_or("the shop has a box")
}

fn ask(build: &Build, of: &WasherBox, wish: WasherWish) -> Result<WasherProposal, Box<dyn std::error::Error>> {
    let count = |class: &str| if class == "+5" { 4 } else { 2 };
    Ok(propose_washers(build, of, count, wish)?)
}

fn figure(build: &Build) -> Result<FigureAssessment, &'static str> {
    evaluate(build).figure(Figure::END_PLAY, E).cloned().ok_or("it has end play")
}

#[test]
fn five_thou_at_the_front_is_best_where_the_crank_stands_back() -> Outcome {
    let bench = pushed("0 110 0", "0 113 0")?;
    let of = curlew()?;
    let back = WasherWish { stands: Some(t(-20)), ..WasherWish::default() };
    let proposal = ask(bench.build(), &of, back)?;
    let best = &proposal.choices[0];
    assert_eq!((best.front.name.as_str(), best.rear.name.as_str()), ("+5", "std"));
    assert_eq!((best.smallest, best.largest, best.state), (t(60), t(63), State::In));
    assert_eq!((best.shift, best.stands), (t(25), Some(t(5))));
    assert_eq!((proposal.weighed, proposal.now.smallest), (9, t(110)));
    // Two of +2 are nearer by no means, and two halves of them are bought.
    let twos = proposal.choices.iter().find(|c| c.front.name == "+2" && c.rear.name == "+2").ok_or("weighed too")?;
    assert_eq!((twos.smallest, twos.shift, twos.buy[0].halves, twos.cost), (t(70), t(0), 2, 160_000));
    assert!(
        best.expanded > figure(bench.build())?.judged.map_or(t(0), |j| j.expanded),
        "a new washer is not known to the nanometre"
    );
    // A limit to the way back leaves the rear alone.
    let held = WasherWish { max_rearward: Some(t(5)), ..back };
    let kept = ask(bench.build(), &of, held)?;
    assert!(kept.choices.iter().all(|c| c.sides_changed == 0 || c.stands >= Some(t(-5))), "{kept:?}");
    Ok(())
}

#[test]
fn lapping_comes_to_the_aim_itself() -> Outcome {
    let bench = pushed("0 110 0", "0 110 0")?;
    let wish = WasherWish { lap: true, stands: Some(t(-20)), ..WasherWish::default() };
    let best = ask(bench.build(), &curlew()?, wish)?.choices[0].clone();
    assert_eq!((best.front.name.as_str(), best.front.lap, best.smallest, best.deviation), ("+5", t(5), t(65), t(0)));
    Ok(())
}

#[test]
fn tight_without_a_thinner_washer_says_where_metal_comes_off_first() -> Outcome {
    let bench = pushed("0 30 0", "0 30 0")?;
    let mut of = curlew()?;
    (of.lap_front, of.lap_rear) = (t(30), t(30));
    let plan = ask(bench.build(), &of, WasherWish::default())?.tight.ok_or("it is tight")?;
    assert_eq!((plan.total, plan.first, plan.off_first, plan.off_second), (t(35), ThrustSide::Front, t(30), t(5)));
    of.loaded = ThrustSide::Front;
    of.lap_front = t(0);
    let plan = ask(bench.build(), &of, WasherWish::default())?.tight.ok_or("it is tight")?;
    assert_eq!((plan.first, plan.off_first, plan.short), (ThrustSide::Rear, t(30), t(5)));
    Ok(())
}

fn fitted(proposal: &WasherProposal) -> WashersIn {
    let best = &proposal.choices[0];
    let side =
        |s: &jagged_pin_core::choose::WasherSide| WasherIn { thickness: s.thickness, growth: s.growth, lap: s.lap };
    WashersIn {
        from: "CT".into(),
        front: side(&best.front),
        rear: side(&best.rear),
        promise: FittedPair {
            station: E,
            upper: best.front.name.clone(),
            lower: best.rear.name.clone(),
            clearance: best.smallest,
            expanded: best.expanded,
        },
        shift: best.shift,
        backs_to_housing: true,
        grooves_open: true,
        note: "three thou too much".into(),
    }
}

#[test]
fn where_both_sides_do_as_well_the_stand_of_the_crank_is_asked() -> Outcome {
    let bench = pushed("0 110 0", "0 110 0")?;
    let of = curlew()?;
    let proposal = ask(bench.build(), &of, WasherWish::default())?;
    assert!(proposal.either_side && proposal.choices[0].shift != Length::ZERO, "{:?}", proposal.choices[0]);
    let known = WasherWish { stands: Some(t(-20)), ..WasherWish::default() };
    assert!(!ask(bench.build(), &of, known)?.either_side);
    Ok(())
}

#[test]
fn flanged_shells_give_their_bearing_faces_and_washers_their_backs() -> Outcome {
    let bench = pushed("0 20 0", "0 20 0")?;
    for (layout, off_faces) in [(ThrustLayout::Saddle, false), (ThrustLayout::Flanged, true)] {
        let of = WasherBox { layout, classes: Vec::new(), ..curlew()? };
        let plan = ask(bench.build(), &of, WasherWish::default())?.tight.ok_or("it is tight")?;
        assert_eq!((plan.total, plan.off_faces), (t(45), off_faces));
    }
    Ok(())
}

#[test]
fn without_a_box_the_end_play_says_which_washers_would_do() -> Outcome {
    let bench = pushed("0 110 0", "0 113 0")?;
    let need = thrust_need(bench.build())?;
    // 0.01115 less 0.0065; the larger position inside from 0.0033 on, the smaller one up to 0.0060.
    assert_eq!(need.growth, Length::from_nm(118_110));
    assert_eq!(need.within, Some([t(33), t(60)]));
    let uneven = pushed("0 60 0", "0 95 0")?;
    assert_eq!(thrust_need(uneven.build())?.within, None, "no washer makes a face square");
    Ok(())
}

#[test]
fn what_was_fitted_is_predicted_until_it_is_pushed_again_and_then_held_against_it() -> Outcome {
    let mut bench = pushed("0 110 0", "0 110 0")?;
    assert!(!evaluate(bench.build()).end_play_first, "it was measured before anything is done to the crank");
    let of = curlew()?;
    let back = WasherWish { stands: Some(t(-20)), ..WasherWish::default() };
    let proposal = ask(bench.build(), &of, back)?;
    // Nobody looked how they face: nothing else would show it.
    let turned = WashersIn { backs_to_housing: false, ..fitted(&proposal) };
    assert!(bench.record(What::Washers(turned)).is_err());
    bench.record(What::Washers(fitted(&proposal)))?;
    let now = figure(bench.build())?;
    assert!(now.judged.is_none() && now.predicted.as_ref().is_some_and(|p| p.state == State::In), "{now:?}");
    assert!(ask(bench.build(), &of, back).is_err(), "it has to be measured again first");
    assert_eq!(washers_in(bench.build(), &of), [t(950), t(900)]);
    bench.pushes(E, Role::TRAVEL, &[&["0 60 0", "0 60 0"], &["0 61 0", "0 61 0"]])?;
    let held = figure(bench.build())?;
    assert!(held.prediction.as_ref().is_some_and(|p| p.agrees) && held.judged.is_some());
    // A washer that is not what its box says shows in the push.
    bench.work(Work::ThrustSeated, jagged_pin_core::engine::Scope::One(E), "again")?;
    let mut other = pushed("0 110 0", "0 110 0")?;
    other.record(What::Washers(fitted(&proposal)))?;
    other.pushes(E, Role::TRAVEL, &[&["0 75 0", "0 75 0"], &["0 75 0", "0 75 0"]])?;
    let missed = figure(other.build())?;
    assert!(missed.findings.iter().any(|f| matches!(f, Finding::PredictionMissed { .. })), "{:?}", missed.findings);
    Ok(())
}

#[test]
fn a_crank_that_goes_forward_takes_its_way_from_the_fillets_at_its_rear_cheeks() -> Outcome {
    let mut bench = pushed("0 110 0", "0 110 0")?;
    let least = TargetRule::Range { low: t(20), aim: None, high: t(2_500) };
    bench.figure_target(Figure::FILLET_ROOM, BearingRow::Mains, least, "two thou")?;
    // M5 has the least room of all, before its front cheek; of the rear cheeks M2's has least.
    let edges = |bench: &mut Bench, at: Place, gaps: [&str; 2]| -> Outcome {
        for (role, size) in [
            ("fillet_radius", ".090 .090"),
            ("shell_inset", ".060 .060"),
            ("edge_along", ".040 .040"),
            ("edge_up", ".030 .030"),
        ] {
            bench.size(at, Role::new(role), &[size, size])?;
        }
        bench.pushes(at, Role::new("saddle_gap"), &[&[gaps[0], gaps[0]], &[gaps[1], gaps[1]]])?;
        Ok(())
    };
    edges(&mut bench, Place::main_fillet(2), ["150 160", "100 110"])?;
    edges(&mut bench, Place::main_fillet(5), ["80 90", "200 210"])?;
    let proposal = ask(bench.build(), &curlew()?, WasherWish::default())?;
    let left = |front: &str, rear: &str| {
        let choice = proposal.choices.iter().find(|c| (c.front.name.as_str(), c.rear.name.as_str()) == (front, rear));
        let of_fillets = choice.and_then(|c| c.leaves.iter().find(|r| r.figure == Figure::FILLET_ROOM));
        of_fillets.map(|r| (r.at, r.now - r.left))
    };
    // A thicker washer in front holds the crank forward by half of what it is thicker, and half of the play goes on either side.
    let (at, forward) = left("+5", "std").ok_or("weighed")?;
    let (other, back) = left("std", "+5").ok_or("weighed")?;
    assert_eq!((at, other), (Place::main_fillet(2), Place::main_fillet(5)), "{forward:?} {back:?}");
    assert!((forward - t(0)).abs() <= t(1) && (back - t(0)).abs() <= t(1), "{forward:?} {back:?}");
    Ok(())
}
