//! The bench: typing, choosing, striking, targets.
use jagged_pin_e2e::{Page, Rig, Size, Step};
use thirtyfour::Key;

async fn bench(rig: &Rig, path: &str) -> Step<Page> {
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("oduya", "first-of-the-flood").await?;
    page.go(path).await?;
    page.see("[data-entry]").await?;
    Ok(page)
}

/// Types each entry and Enter, as a hand at the bench does: nothing in between.
async fn type_along(page: &Page, entries: &[&str]) -> Step {
    for entry in entries {
        page.press(*entry).await?;
        page.press(Key::Enter + "").await?;
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn a_main_is_measured_with_values_and_enter_alone() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench/M1").await?;
    // A journal of four places, two touches each: the plan moves the hand on, at the end to M2.
    type_along(&page, &["2.6238", "38", "37", "38", "38", "38", "38", "38"]).await?;
    page.until("return location.pathname.endsWith('/M2')", vec![], "the hand did not move on to M2").await?;
    page.press("m1").await?;
    page.until("return location.pathname.endsWith('/M1')", vec![], "m1 did not lead to M1").await?;
    page.read("section[aria-label='Readings of M1']", "8 of 8").await?;
    page.press("b").await?;
    type_along(&page, &["23", "23", "23", "24", "31", "30"]).await?;
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
    type_along(&page, &["38", "35"]).await?;
    // Three tenths apart: the hand is sent back for a third touch at the same place.
    page.see("td[data-active][data-cell='M3 main_journal  front 0 3']").await?;
    type_along(&page, &["38"]).await?;
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
    type_along(&page, &["2.6238", "38", "38", "38", "38", "38", "38", "38"]).await?;
    page.press("m7").await?;
    page.read("section[aria-label='Readings of M7']", "8 of 8").await?;
    page.press("d").await?;
    page.press("b").await?;
    type_along(&page, &["2.6263", "63", "63", "63"]).await?;
    page.see("[data-state][data-station=M7]:not([data-state=open])").await?;
    page.read("[aria-label='Figures of M7']", "subtract").await?;
    page.press("d").await?;
    page.press("z").await?;
    page.press(Key::Control + "a").await?;
    page.press("2.6238").await?;
    page.press(Key::Enter + "").await?;
    type_along(&page, &["25", "25", "25", "25"]).await?;
    page.read("[aria-label='Figures of M7']", "direct").await?;
    page.read("[aria-label='Figures of M7']", "they agree").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn stations_are_chosen_by_click_by_arrow_and_by_name() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-041/bench/M7").await?;
    page.click("[data-station=M2]").await?;
    page.read("[aria-label='What it means']", "TIGHT").await?;
    page.press(Key::Right + "").await?;
    page.read("[aria-label='What it means']", "0.0024").await?;
    page.press("m6").await?;
    page.read("[aria-label='What it means']", "EDGE").await?;
    page.read("[aria-label='What it means']", "On the lower limit").await?;
    page.press("c").await?;
    page.read("[data-view=crank]", "12 tenths over 6 mains").await?;
    page.click_text("mm").await?;
    page.read("[aria-label='What it means']", "56").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_wrong_reading_is_struck_with_a_reason_and_stays_in_view() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-041/bench/M7").await?;
    type_along(&page, &["2.6228"]).await?;
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
    type_along(&page, &["38"]).await?;
    page.read("section[aria-label='Readings of M7']", "1 of 8").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_target_is_changed_with_a_reason_and_everything_is_judged_anew() -> Step {
    let rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-041/bench/M7").await?;
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
    type_along(&page, &["2.6238"]).await?;
    page.read("section[aria-label='Readings of M1']", "1 of 8").await?;
    page.forget_session().await?;
    page.press("37").await?;
    page.read("[role=dialog]", "Your session has ended").await?;
    page.fill("password", "first-of-the-flood").await?;
    page.press(Key::Enter + "").await?;
    page.gone("[role=dialog]").await?;
    page.until("return document.querySelector('[data-entry]')?.value === '37'", vec![], "the entry is lost").await?;
    page.press(Key::Enter + "").await?;
    page.read("section[aria-label='Readings of M1']", "2 of 8").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_typed_while_the_server_is_away_outlives_a_reload_and_is_kept_once_in_order() -> Step {
    let mut rig = Rig::start()?;
    let page = bench(&rig, "/builds/SL-046/bench/M1").await?;
    type_along(&page, &["2.6238"]).await?;
    page.read("section[aria-label='Readings of M1']", "1 of 8").await?;
    rig.kill_server();
    page.see("[data-connection=lost]").await?;
    // The hand goes on: nothing stops it, nothing is lost, and it is said what is not kept yet.
    type_along(&page, &["37", "36", "2.9999", "39"]).await?;
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
