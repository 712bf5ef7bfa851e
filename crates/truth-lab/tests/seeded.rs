//! A short run of the laboratory on fixed seeds: what the product says of simulated shops is true often enough.
use jagged_pin_core::engine::Method;
use jagged_pin_core::log::ZeroSource;
use jagged_pin_core::maths::Material;
use jagged_pin_core::record::Refusal;
use jagged_pin_truth_lab::coverage::coverage;
use jagged_pin_truth_lab::faults::disagreement;
use jagged_pin_truth_lab::judgements::{Judgement, both_sides};
use jagged_pin_truth_lab::parts::Form;
use jagged_pin_truth_lab::predictions::{Boxes, predictions};
use jagged_pin_truth_lab::rounds::led;
use jagged_pin_truth_lab::rows::{matched_row, row_of, rows};
use jagged_pin_truth_lab::shop::{BORE_HALF_TENTHS, Fault, Shop};

const SEED: u64 = 11;

/// Engines of seven mains each: enough for a percent or two.
const ENGINES: u32 = 80;

fn covers(name: &str, shop: &Shop, method: Method, least: f64) {
    let found = coverage(shop, method, ENGINES, SEED);
    let covered = found.covered;
    assert!(covered.of > 400, "{name}: {covered}");
    assert!(covered.percent() >= least, "{name}: {covered}, U {:.2}, bias {:+.2}", found.expanded(), found.bias());
    assert!(found.widest.percent() >= least - 2.0, "{name}: the largest is within U in {}", found.widest);
    let few = found.false_in.of < 100;
    assert!(few || found.false_in.percent() <= 2.5, "{name}: called in and is not {}", found.false_in);
}

#[test]
fn u_covers_what_it_says_whatever_the_parts_are_like() {
    for form in Form::ALL {
        let shop = Shop { subtract: true, ..Shop::nominal(form) };
        covers(&format!("{form:?}"), &shop, Method::DIRECT, 93.5);
        covers(&format!("{form:?}"), &shop, Method::SUBTRACT, 93.5);
    }
}

#[test]
fn what_the_bore_gauge_was_zeroed_in_decides_and_is_covered() {
    let mut proven = Vec::new();
    for zero in [ZeroSource::Locked, ZeroSource::SameMic, ZeroSource::Ring, ZeroSource::OtherMic] {
        let shop = Shop { zero, ..Shop::nominal(Form::Typical) };
        covers(&format!("{zero:?}"), &shop, Method::DIRECT, 92.0);
        covers(
            &format!("{zero:?}, half tenths"),
            &Shop { bore: BORE_HALF_TENTHS, ..shop.clone() },
            Method::DIRECT,
            92.0,
        );
        proven.push(coverage(&shop, Method::DIRECT, 10, SEED).expanded());
    }
    assert!(proven.is_sorted(), "locked proves most, another mic least: {proven:?}");
}

#[test]
fn a_hand_that_is_worse_than_declared_is_found_out() {
    let expanded: Vec<f64> = [1.0, 2.0, 3.0]
        .into_iter()
        .map(|hand| {
            let shop = Shop { hand, ..Shop::nominal(Form::Typical) };
            covers(&format!("hand x {hand}"), &shop, Method::DIRECT, 93.5);
            coverage(&shop, Method::DIRECT, 10, SEED).expanded()
        })
        .collect();
    assert!(expanded.is_sorted() && expanded[2] > 1.5 * expanded[0], "{expanded:?}");
    let steady = coverage(&Shop { hand: 0.3, ..Shop::nominal(Form::Typical) }, Method::DIRECT, 10, SEED);
    assert!(steady.expanded() < expanded[0], "a steady hand proves more");
}

#[test]
fn three_touches_are_better_than_two_and_covered() {
    for form in [Form::Ideal, Form::Typical] {
        let shop = |touches| Shop { touches, ..Shop::nominal(form) };
        covers(&format!("{form:?}, three touches"), &shop(3), Method::DIRECT, 93.5);
        let expanded = |touches| coverage(&shop(touches), Method::DIRECT, 10, SEED).expanded();
        assert!(expanded(3) < expanded(2) && expanded(2) < expanded(1));
    }
}

#[test]
fn a_mic_that_is_off_at_its_standard_cancels_where_it_set_the_bore_gauge() {
    let shop = Shop { checked: true, mic_off: 1.0, subtract: true, ..Shop::nominal(Form::Typical) };
    covers("checked, a tenth over", &shop, Method::DIRECT, 92.0);
    covers("checked, a tenth over", &shop, Method::SUBTRACT, 93.5);
}

#[test]
fn a_warm_shop_is_in_the_doubt_of_aluminium() {
    let shop = Shop { warm: 5.0, block: Material::Aluminium, ..Shop::nominal(Form::Typical) };
    covers("aluminium at 25 degrees", &shop, Method::DIRECT, 93.5);
}

#[test]
fn components_judge_what_they_estimate() {
    for form in [Form::Ideal, Form::Typical, Form::Worn] {
        let shop = Shop { components: true, ..Shop::nominal(form) };
        covers(&format!("{form:?}, components"), &shop, Method::COMPONENTS, 92.0);
    }
}

#[test]
fn methods_agree_where_nothing_is_wrong_and_the_right_thing_is_suspected_where_something_is() {
    let all =
        |form, fault| Shop { subtract: true, components: true, fault, clearance: (27.0, 3.0), ..Shop::nominal(form) };
    for form in [Form::Good, Form::Worn] {
        let pairs = disagreement(&all(form, Fault::None), ENGINES, SEED).pairs;
        assert!(pairs.percent() <= 6.0, "{form:?}: {pairs}");
    }
    for (by, least) in [(4.0, 80.0), (2.0, 60.0)] {
        for fault in [Fault::Mic(by), Fault::Zero(by), Fault::Ring(by), Fault::BallMic(by), Fault::Dirt(by)] {
            let right = disagreement(&all(Form::Good, fault), 60, SEED).right;
            assert!(right.percent() >= least, "{fault:?}: the right suspect first {right}");
        }
    }
}

#[test]
fn bores_read_at_each_others_places_are_named_and_sound_rows_are_not() {
    let walls_measured = |fault| Shop { subtract: true, components: true, fault, ..Shop::nominal(Form::Typical) };
    let sound = disagreement(&walls_measured(Fault::None), ENGINES, SEED);
    assert!(sound.swapped.percent() + sound.others_swapped.percent() <= 2.0, "{sound:?}");
    let swapped = disagreement(&walls_measured(Fault::SwappedBores), ENGINES, SEED);
    assert!(swapped.swapped.percent() >= 60.0 && swapped.others_swapped.percent() <= 2.0, "{swapped:?}");
}

#[test]
fn exchanged_bores_of_a_matched_row_are_named_by_one_method_too() {
    for form in [Form::Good, Form::Typical] {
        // Journals three tenths apart, each with shells that were chosen for it.
        let matched = Shop { journals: 3.0, clearance: (25.0, 0.5), ..Shop::nominal(form) };
        let sound = disagreement(&matched, ENGINES, SEED);
        assert!(sound.others_swapped.percent() <= 5.0 && sound.swapped.percent() <= 5.0, "{form:?}: {sound:?}");
        let swapped = disagreement(&Shop { fault: Fault::SwappedBores, ..matched }, ENGINES, SEED).swapped;
        assert!(swapped.percent() >= 40.0, "{form:?}: {swapped}");
    }
}

#[test]
fn a_straight_row_seldom_leans_or_has_an_odd_one_and_a_fault_is_named() {
    for (mains, scatter) in [(4, 1.0), (5, 1.0), (7, 0.5), (7, 1.0)] {
        let seen = rows(&row_of(mains, scatter, 0.0), 150, SEED);
        assert!(seen.odd.percent() <= 8.0 && seen.leaning.percent() <= 8.0, "{mains} mains: {seen:?}");
    }
    let named = rows(&row_of(7, 0.5, 4.0), 100, SEED).third;
    assert!(named.percent() >= 80.0, "four tenths off: {named}");
    // Ground journals differ, and their shells are matched to them: what is wrong shows in the clearances alone.
    let sound = rows(&matched_row(7, 0.5, 0.0), 150, SEED);
    assert!(sound.odd.percent() <= 8.0, "matched and sound: {sound:?}");
    let named = rows(&matched_row(7, 0.5, 4.0), 100, SEED).third;
    assert!(named.percent() >= 55.0, "four tenths off among matched ones: {named}");
}

#[test]
fn what_has_one_limit_or_is_a_difference_is_not_called_good_beyond_it_nor_bad_within_it() -> Result<(), Refusal> {
    for judgement in Judgement::ALL {
        for off in [0.5, 2.0] {
            let found = both_sides(judgement, off, 120, SEED)?;
            let (good, bad) = (found.false_in, found.false_alarm);
            assert!(good.percent() <= 2.5, "{judgement:?}, {off} tenths beyond: called in {good}");
            assert!(bad.percent() <= 5.0, "{judgement:?}, {off} tenths within: called out {bad}");
        }
    }
    Ok(())
}

#[test]
fn what_is_predicted_of_chosen_shells_is_covered() {
    for form in [Form::Ideal, Form::Typical, Form::Worn] {
        for boxes in [Boxes::Apart, Boxes::Together] {
            let shop = Shop { clearance: (25.0, 5.0), ..Shop::nominal(form) };
            let found = predictions(&shop, boxes, ENGINES, SEED);
            assert!(found.covered.of > 100, "{form:?}: {}", found.covered);
            assert!(found.covered.percent() >= 93.0, "{form:?}, {boxes:?}: {}", found.covered);
        }
    }
}

#[test]
fn rounds_spare_touches_and_find_what_a_gauge_walks() {
    let shop = Shop::nominal(Form::Good);
    let (at_once, in_rounds) = (led(&shop, false, 30, SEED), led(&shop, true, 30, SEED));
    let (all, fewer) = (at_once.touches(), in_rounds.touches());
    assert!(fewer < 0.92 * all, "{fewer:.1} of {all:.1} touches a bearing");
    assert!(
        in_rounds.decided.percent() >= at_once.decided.percent() - 5.0,
        "{} of {}",
        in_rounds.decided,
        at_once.decided
    );
    let covered = in_rounds.figures.covered;
    assert!(covered.of >= 200 && covered.percent() >= 92.0, "{covered}");
    // Three steps that nobody checked: taken off where the way back shows them.
    let walks = Shop { walk: 3.0, ..shop };
    let (unseen, seen) = (led(&walks, false, 30, SEED).figures.covered, led(&walks, true, 30, SEED).figures.covered);
    assert!(seen.percent() >= unseen.percent() + 20.0, "{seen}, and at once {unseen}");
}
