//! Parts: a second crank measured beside the first and chosen, rods moved as planned, one that is condemned.
use std::time::Duration;

use jagged_pin_e2e::{Rig, Step};
use thirtyfour::Key;

#[tokio::test(flavor = "multi_thread")]
async fn a_second_crank_is_entered_measured_compared_and_chosen() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("oduya", "/builds/SL-046/parts", "[data-crank=crank]").await?;
    page.click_text("Enter a part").await?;
    page.fill("tag", "crank B").await?;
    page.fill("provenance", "out of a sister engine").await?;
    page.click_text("Enter it").await?;
    page.see("[data-crank='crank B']").await?;
    page.click_text("Measure it").await?;
    page.see("[data-candidate='crank B']").await?;
    page.see("[data-entry]").await?;
    // Ten under, and every next figure by its tail.
    for text in ["2.6138", "38", "38", "39", "38", "38", "38", "38"] {
        page.press(text + Key::Enter).await?;
    }
    page.see("nav [data-station=M2][aria-current]").await?;
    page.click_text("Compare").await?;
    page.read("[data-journal=M1]", "2.6138").await?;
    page.read("[data-journal=M1]", "not measured").await?;
    page.read("[data-needs=mains]", "6 journals to measure").await?;
    page.click_text("Put it in").await?;
    page.see("[data-moves='1']").await?;
    page.fill("reason", "straighter, and it takes ten under").await?;
    page.click_text("Do it").await?;
    page.read("[data-crank='crank B']", "in the engine").await?;
    page.go("/builds/SL-046/bench/M1").await?;
    page.read("[data-part='crank B']", "crank B").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn rods_are_moved_as_planned_and_a_bent_one_is_condemned() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("oduya", "/builds/SL-041/shells/pins", "[data-rod='R3 P4']").await?;
    page.click_text("Move the rods").await?;
    // The bore of R3, and the sides of both pins.
    page.see("[data-ends='3']").await?;
    page.fill("reason", "as proposed").await?;
    page.click_text("Do it").await?;
    page.gone("[data-moves]").await?;
    page.go("/builds/SL-041/bench/R4").await?;
    page.see("[data-part=R3]").await?;
    page.read("[data-because=assigned]", "as proposed").await?;
    page.go("/builds/SL-041/parts").await?;
    page.click("[data-stands=R3]").await?;
    page.fill("reason", "bent").await?;
    page.click_text("Condemn it").await?;
    page.read("[data-part=R3]", "bent").await?;
    page.go("/builds/SL-041/sheet").await?;
    page.read("[data-block=R4]", "R3 is condemned").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_crank_is_pushed_along_its_axis_and_judged_on_both_ends() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("oduya", "/builds/SL-046/bench/E", "[data-entry]").await?;
    page.press("t").await?;
    page.click("[data-preset='race, middle held']").await?;
    page.fill("reason", "middle held").await?;
    page.click_text("Set the target").await?;
    page.gone("[data-preset]").await?;
    page.see("[data-entry]").await?;
    // One that does not come back counts for nothing and is asked for again.
    page.type_at("0 65 0\n0 90 12\n0 65 0\n0 66 0\n0 66 0\n", Duration::from_millis(10)).await?;
    page.see("[data-state=in]").await?;
    page.see("[data-finding=push_void]").await?;
    page.see("nav [data-station=E][data-state=in]").await?;
    page.go("/builds/SL-046/sheet").await?;
    page.read("[data-figure='E end_play']", "End play").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn each_rod_of_a_shared_pin_is_touched_on_its_own_track() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-043/bench/R4", "[data-entry]").await?;
    page.read("section h2", "Pin P2, track 2").await?;
    page.see("[data-beside=track_step][data-state=stale]").await?;
    for text in ["2.2397", "97", "97", "97", "97", "97", "97", "97"] {
        page.press(text + Key::Enter).await?;
    }
    page.until(
        "return fetch('/api/v1/builds/SL-043').then((r) => r.json()).then((b) => b.readings.filter((r) => r.station === 'P2' && r.position.track === 2 && r.size === 56888380).length === 8)",
        vec![],
        "eight touches on the rear track",
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_journal_that_is_too_rough_is_named_at_its_bearing_and_on_the_sheet() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("oduya", "/builds/SL-041/parts", "[data-noted=P3] input").await?;
    page.click("[data-noted=P3] input[aria-label^='Ra,']").await?;
    page.type_along(&["12"]).await?;
    page.read("[data-noted=P3] [data-beyond]", "over 8").await?;
    page.go("/builds/SL-041/bench/R3").await?;
    page.read("[data-finding=rough]", "P3 is rougher than it may be").await?;
    page.go("/builds/SL-041/sheet").await?;
    page.read("[data-noted-of=roughness]", "over 8").await?;
    page.read("[data-noted-of=hardness]", "52.5").await?;
    page.close().await
}
