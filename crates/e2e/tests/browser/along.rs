//! Along the axis: the sides of the rods by blades, washers that put end play right, and rods that are narrowed.
use jagged_pin_e2e::{Rig, Step};
use thirtyfour::Key;

#[tokio::test(flavor = "multi_thread")]
async fn the_last_side_is_measured_by_blades_with_values_and_enter() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/S6", "[data-entry]").await?;
    page.press("13 12").await?;
    page.see("[data-echo=blades_reversed]").await?;
    page.press(Key::Escape + "").await?;
    page.type_along(&["120 130", "120 130", "120 130", "120 130"]).await?;
    // What is wanted next is a fillet: the layer turns to it. The sides are as they were measured.
    page.stands_at("FP6", "the hand goes on to the next thing").await?;
    page.go("/builds/SL-041/bench/S6").await?;
    page.see("nav [data-station=S6][data-state=in]").await?;
    page.see("[data-entry]").await?;
    // And a place that begins with a letter of a part is a place all the same.
    page.press("s4").await?;
    page.stands_at("S4", "s4 did not lead to S4").await?;
    page.read("[aria-label='What it means']", "EDGE").await?;
    page.press(Key::Left + "").await?;
    page.stands_at("E", "the thrust stands before the fourth pin").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn washers_are_chosen_fitted_and_held_against_the_next_push() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/E", "[data-entry]").await?;
    page.click_text("Washers").await?;
    page.see("[data-washers='std/+5']").await?;
    page.fill("stands", "-.0020").await?;
    page.see("[data-washers='+5/std'][aria-checked=true]").await?;
    page.read("[data-washers-of=CT]", "of 9 pairs 3 land inside").await?;
    page.click_text("Take these washers").await?;
    page.fill("note", "three thou too much").await?;
    page.see("[role=dialog] button[type=submit]:disabled").await?;
    page.click("[role=dialog] label:nth-of-type(1) input").await?;
    page.click("[role=dialog] label:nth-of-type(2) input").await?;
    page.click_text("They are in").await?;
    page.gone("[role=dialog]").await?;
    page.see("nav [data-station=E][data-state=predicted]").await?;
    page.go("/builds/SL-041/bench/E").await?;
    page.see("[data-entry]").await?;
    page.type_along(&["0 60 0", "0 60 0", "0 63 0", "0 63 0"]).await?;
    page.see("nav [data-station=E][data-state=in]").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn rods_too_wide_for_their_pin_get_a_plan_for_the_lathe() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-043/bench/S1", "[data-entry]").await?;
    page.click_text("Narrow").await?;
    page.read("[data-narrowing=S1]", "5.00 thou come off").await?;
    page.fill("bank_offset", ".9420").await?;
    page.see("[data-problem=bad_field]").await?;
    page.fill("beam-R1", ".4666").await?;
    page.fill("beam-R2", ".4684").await?;
    page.read("[data-narrowing=S1]", "0.9320").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bent_cam_binds_and_its_tight_journal_is_polished() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/M1", "[data-entry]").await?;
    // Three layers up from the crank.
    page.press(Key::PageUp + "").await?;
    page.stands_at("E", "one layer up is along the axis").await?;
    page.press(Key::PageUp + "").await?;
    page.stands_at("B1", "two layers up are the cylinders").await?;
    page.press(Key::PageUp + "").await?;
    page.until("return /\\/CE?1?$/.test(location.pathname)", vec![], "three layers up is the cam").await?;
    // And back, in one go: keys that come faster than the page is drawn count one by one.
    page.press(Key::PageDown + Key::PageDown + Key::PageDown + Key::Right + Key::Right).await?;
    page.stands_at("M3", "three layers down and two stations on").await?;
    page.go("/builds/SL-041/bench/C1").await?;
    page.see("nav [data-station=C3][data-state=tight]").await?;
    page.click_text("Fit the cam").await?;
    page.read("[data-cam-journal=C2]", "binds: bent").await?;
    page.read("[data-cam-journal=C3]", "polish to its aim").await?;
    page.read("[data-cam-journal=C1]", "leave it").await?;
    // What the clock shows may be less than at the start.
    page.click_text("Runout").await?;
    page.type_along(&["1", "1", "-1", "-1"]).await?;
    page.read("section[aria-label='Readings of C1']", "4 of 16").await?;
    page.close().await
}
