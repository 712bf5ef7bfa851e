//! The bench: typing, choosing, striking, targets.
use std::time::Duration;

use jagged_pin_e2e::{Page, Rig, Size, Step};
use thirtyfour::Key;

async fn bench(rig: &Rig, path: &str) -> Step<Page> {
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("oduya", "first-of-the-flood").await?;
    page.go(path).await?;
    page.see("[data-entry]").await?;
    Ok(page)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_main_is_measured_with_values_and_enter_alone() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench/M1").await?;
    // A journal of four places, two touches each: the plan moves the hand on, at the end to M2.
    page.type_along(&["2.6238", "38", "37", "38", "38", "38", "38", "38"]).await?;
    page.stands_at("M2", "the hand did not move on to M2").await?;
    page.press("m1").await?;
    page.stands_at("M1", "m1 did not lead to M1").await?;
    page.read("section[aria-label='Readings of M1']", "8 of 8").await?;
    page.press("b").await?;
    page.type_along(&["23", "23", "23", "24", "31", "30"]).await?;
    page.press("m1").await?;
    page.see("[data-state=in][data-station=M1]").await?;
    // 0.0025 as read, and half a tenth that the worst of several places reads too tight.
    page.read("[aria-label='What it means']", "0.00255").await?;
    page.read("[aria-label='What it means']", "IN").await?;
    page.read("[aria-label='Figures of M1']", "relief").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_cell_echoes_what_was_understood_and_asks_for_a_third_touch() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench/M3").await?;
    page.press("38").await?;
    page.see("[data-echo='2.6238 in']").await?;
    page.press(Key::Backspace + Key::Backspace).await?;
    page.press("66.645mm").await?;
    page.read("#echo", "2.6238").await?;
    page.read("#echo", "in its own unit").await?;
    page.press(Key::Escape + "").await?;
    page.press("5").await?;
    page.see("[data-echo=ambiguous_tail]").await?;
    page.press(Key::Enter + "").await?;
    page.see("[data-echo=ambiguous_tail]").await?;
    page.press(Key::Escape + "").await?;
    page.type_along(&["38", "35"]).await?;
    // Three tenths apart: the hand is sent back for a third touch at the same place.
    page.see("td[data-active][data-cell='M3 main_journal  front 0 3']").await?;
    page.type_along(&["38"]).await?;
    page.read("[data-position='journal front 0']", "3").await?;
    page.see("td[data-active][data-cell='M3 main_journal  front 90 1']").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn an_unbelievable_value_is_refused_with_its_reason_and_can_be_forced() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench/M2").await?;
    page.press("2.5238").await?;
    page.see("[data-echo=out_of_band]").await?;
    page.press(Key::Enter + "").await?;
    page.read("#echo", "more than the sanity band").await?;
    page.read("section[aria-label='Readings of M2']", "0 of 8").await?;
    page.press(Key::Control + Key::Enter).await?;
    page.read("section[aria-label='Readings of M2']", "1 of 8").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn direct_and_subtract_stand_side_by_side() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-041/bench/M7").await?;
    page.type_along(&["2.6238", "38", "38", "38", "38", "38", "38", "38"]).await?;
    page.press("m7").await?;
    page.read("section[aria-label='Readings of M7']", "8 of 8").await?;
    // A letter that begins the name of a place waits for its number: Enter alone does what it does.
    page.press("d").await?;
    page.press(Key::Enter + "").await?;
    page.press("b").await?;
    page.type_along(&["2.6263", "63", "63", "63"]).await?;
    page.see("[data-state][data-station=M7]:not([data-state=open])").await?;
    page.read("[aria-label='Figures of M7']", "subtract").await?;
    page.press("d").await?;
    page.press(Key::Enter + "").await?;
    page.press("z").await?;
    page.press(Key::Control + "a").await?;
    page.press("2.6238").await?;
    page.press(Key::Enter + "").await?;
    page.type_along(&["25", "25", "25", "25"]).await?;
    page.read("[aria-label='Figures of M7']", "direct").await?;
    page.read("[aria-label='Figures of M7']", "they agree").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn stations_are_chosen_by_click_by_arrow_and_by_name() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-041/bench/M7").await?;
    page.click("[data-station=M2]").await?;
    page.see("section[aria-label='Readings of M2']").await?;
    page.read("[aria-label='What it means']", "TIGHT").await?;
    page.press(Key::Right + "").await?;
    page.see("section[aria-label='Readings of M3']").await?;
    // A letter and a number go to a place from anywhere, the letters of parts among them, and nothing is kept.
    page.press("b5").await?;
    page.press(Key::Enter + "").await?;
    page.see("section[aria-label='Readings of B5']").await?;
    page.press("m3").await?;
    page.see("section[aria-label='Readings of M3']").await?;
    page.read("[aria-label='What it means']", "0.0024").await?;
    page.press("m6").await?;
    page.read("[aria-label='What it means']", "EDGE").await?;
    page.read("[aria-label='What it means']", "On the lower limit").await?;
    page.press("c").await?;
    page.press(Key::Enter + "").await?;
    page.read("[data-view=crank]", "1.2 thou over 6 mains").await?;
    page.click_text("mm").await?;
    page.read("[aria-label='What it means']", "56").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_wrong_reading_is_struck_with_a_reason_and_stays_in_view() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-041/bench/M7").await?;
    page.type_along(&["2.6228"]).await?;
    page.read("section[aria-label='Readings of M7']", "1 of 8").await?;
    page.press("x").await?;
    page.see("[role=dialog]").await?;
    page.click_text("Strike it").await?;
    page.read("#reason-note", "say why").await?;
    page.fill("reason", "thimble read a turn off").await?;
    page.press(Key::Enter + "").await?;
    page.gone("[role=dialog]").await?;
    page.read("section[aria-label='Readings of M7']", "0 of 8").await?;
    page.read("[data-position='journal front 0']", "1 struck").await?;
    page.read("[aria-label='Figures of M7']", "thimble read a turn off").await?;
    // The focus is back at the bench: the next touch needs no mouse.
    page.type_along(&["38"]).await?;
    page.read("section[aria-label='Readings of M7']", "1 of 8").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_target_is_changed_with_a_reason_and_everything_is_judged_anew() -> Step {
    let rig = Rig::start()?;
    // It lifts M2, which is tight: that is the lead's.
    let page = rig.at("harrow", "/builds/SL-041/bench/M7", "[data-entry]").await?;
    page.press("t").await?;
    page.fill("low", ".0016").await?;
    page.fill("aim", "").await?;
    page.fill("high", ".0032").await?;
    page.click_text("Set the target").await?;
    page.read("#reason-note", "say why").await?;
    page.fill("reason", "new sheet from the maker").await?;
    page.click_text("Set the target").await?;
    page.gone("[role=dialog]").await?;
    page.see("[data-station=M2][data-state=in]").await?;
    page.see("[data-station=M6][data-state=in]").await?;
    page.read("section[aria-label^=Crankshaft]", "Window .0016 to .0032").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn an_entry_typed_after_the_session_ended_is_still_in_its_cell() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench/M1").await?;
    page.type_along(&["2.6238"]).await?;
    page.read("section[aria-label='Readings of M1']", "1 of 8").await?;
    page.forget_session().await?;
    // One key alone: a second one could come after the dialog has taken the keys.
    page.press("3").await?;
    page.read("[role=dialog]", "Your session has ended").await?;
    page.fill("password", "first-of-the-flood").await?;
    page.press(Key::Enter + "").await?;
    page.gone("[role=dialog]").await?;
    page.until("return document.querySelector('[data-entry]')?.value === '3'", vec![], "the entry is lost").await?;
    page.press("7").await?;
    page.press(Key::Enter + "").await?;
    page.read("section[aria-label='Readings of M1']", "2 of 8").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_typed_while_the_server_is_away_outlives_a_reload_and_is_kept_once_in_order() -> Step {
    let mut rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench/M1").await?;
    page.type_along(&["2.6238"]).await?;
    page.read("section[aria-label='Readings of M1']", "1 of 8").await?;
    rig.kill_server();
    page.see("[data-connection=lost]").await?;
    // The hand goes on: nothing stops it, nothing is lost, and it is said what is not kept yet.
    page.type_along(&["37", "36", "2.9999", "39"]).await?;
    page.see("[data-not-kept='4']").await?;
    page.read("[data-not-kept]", "not yet kept").await?;
    page.read("section[aria-label='Readings of M1']", "1 of 8").await?;
    rig.restart_server()?;
    page.go("/builds/SL-046/bench/M1").await?;
    page.read("section[aria-label='Readings of M1']", "4 of").await?;
    page.gone("[data-not-kept]").await?;
    // The one that the server does not believe comes back to its cell with the reason.
    page.see("[data-echo=out_of_band]").await?;
    page.until("return document.querySelector('[data-entry]')?.value === '2.9999'", vec![], "it did not come back")
        .await?;
    page.until(
        "return fetch('/api/v1/builds/SL-046').then((r) => r.json()).then((b) => b.readings.map((r) => r.raw).join(' ') === '2.6238 37 36 39')",
        vec![],
        "not every entry was kept once and in order",
    )
    .await?;
    page.close().await
}

/// Three keys a reading, thirty milliseconds a key: nobody types a crank faster.
const FAST: Duration = Duration::from_millis(30);

/// Where the readings of a build were taken and what was typed, in the order kept.
const KEPT: &str = "const done = arguments[arguments.length - 1];
    fetch('/api/v1/builds/SL-046').then((r) => r.json()).then((b) => done(b.readings.map((r) =>
        `${r.station} ${r.position.axial} ${r.position.angle} ${r.raw}`)))";

async fn kept(page: &Page, count: usize) -> Step<Vec<String>> {
    let enough = format!("return document.querySelectorAll('[data-waiting]').length === 0 && {count} > 0");
    page.until(&enough, vec![], "entries wait for ever").await?;
    let mut lines = Vec::new();
    for _ in 0..200 {
        lines = serde_json::from_value(page.script_async(KEPT).await?)?;
        if lines.len() >= count {
            break;
        }
        tokio::time::sleep(Duration::from_millis(100)).await;
    }
    Ok(lines)
}

#[tokio::test(flavor = "multi_thread")]
async fn no_key_is_lost_over_a_whole_crank_typed_fast() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench/M1").await?;
    let (mut typed, mut expected) = (String::new(), Vec::new());
    let mains = (1..=7).map(|n| format!("M{n}"));
    for (n, journal) in mains.chain((1..=6).map(|n| format!("P{n}"))).enumerate() {
        for (k, (axial, angle)) in [("front", 0), ("front", 90), ("rear", 0), ("rear", 90)].into_iter().enumerate() {
            // No two places alike, and no two touches of a place farther apart than a step.
            let first = 34 + (3 * n + k) % 6;
            for text in [first, first + k % 2] {
                typed.push_str(&format!("{text}\n"));
                expected.push(format!("{journal} {axial} {angle} {text}"));
            }
        }
    }
    page.type_at(&typed, FAST).await?;
    assert_eq!(kept(&page, expected.len()).await?, expected);
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_third_touch_lands_where_it_is_asked_for_however_fast_it_comes() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench/M1").await?;
    // Three tenths apart: what is typed next is the third touch there, at any pace.
    page.type_at("38\n35\n37\n36\n36\n", Duration::from_millis(4)).await?;
    let fast = kept(&page, 5).await?;
    page.type_at("m2", FAST).await?;
    page.see("td[data-active][data-cell='M2 main_journal  front 0 1']").await?;
    page.type_at("38\n35\n37\n36\n36\n", Duration::from_millis(400)).await?;
    let slow: Vec<String> = kept(&page, 10).await?.split_off(5);
    assert_eq!(
        fast,
        ["front 0 38", "front 0 35", "front 0 37", "front 90 36", "front 90 36"].map(|at| format!("M1 {at}"))
    );
    assert_eq!(slow, fast.iter().map(|at| at.replace("M1", "M2")).collect::<Vec<_>>());
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn in_rounds_the_hand_goes_along_the_crank_once_and_comes_back() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench").await?;
    page.go("/builds/SL-046/set-up").await?;
    page.see("[data-cap=M1]").await?;
    page.click("button[aria-label^='Repeats']").await?;
    page.choose("in rounds").await?;
    page.fill("reason", "fewer touches").await?;
    page.click_text("Change the rules").await?;
    page.read("[data-work=rules]", "repeats in rounds").await?;
    page.go("/builds/SL-046/bench/M1").await?;
    page.see("td[data-active][data-cell='M1 main_journal  front 0 1']").await?;
    // One touch at each of four places, seven times over.
    let mut entries = vec!["2.6238"];
    entries.extend(["38"; 27]);
    page.type_along(&entries).await?;
    // Back from the last place of M7, where the repeats tell of the hand, and on to M4.
    page.see("td[data-active][data-cell='M7 main_journal  rear 90 2']").await?;
    page.type_along(&["38"; 4]).await?;
    page.see("td[data-active][data-cell='M4 main_journal  rear 90 2']").await?;
    page.close().await
}
