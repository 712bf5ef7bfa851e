//! Looks at the top end, what befell an engine, the checks that forces, and a two-stroke on rollers.
use jagged_pin_e2e::{Rig, Size, Step};

#[tokio::test(flavor = "multi_thread")]
async fn a_pit_is_marked_where_it_is_and_what_it_suggests_is_checked() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("wick", "mudflat-morning").await?;
    page.go("/builds/SL-041/look").await?;
    page.click_text("Rods, cylinders").await?;
    page.click("[data-look='B2 bore']").await?;
    // The second sign of a wall, by its key.
    page.press("2").await?;
    page.see("[data-look='B2 bore'][data-signs=pits]").await?;
    page.fill("clock", "90").await?;
    page.fill("depth", ".006").await?;
    page.click_text("Mark it").await?;
    page.read("[data-mark=pits]", "0.0060").await?;
    page.see("[data-suspicion=pitted_wall] [data-next]").await?;
    page.click("[data-suspicion=pitted_wall] [data-check=damage_depth] button").await?;
    page.click_text("Bad: it is there").await?;
    page.fill("note", "needle and indicator").await?;
    page.click_text("Record it").await?;
    page.gone("[role=dialog]").await?;
    page.see("[data-suspicion=pitted_wall][data-says=confirms]").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_hydraulic_lock_forces_its_checks_and_the_sheet_waits_for_them() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("wick", "mudflat-morning").await?;
    page.go("/builds/SL-041/look").await?;
    page.click_text("Something happened").await?;
    page.click("button[aria-label^='Where']").await?;
    page.choose("B1").await?;
    page.fill("note", "ford, third stage").await?;
    page.see("[role=dialog] [data-impact]").await?;
    page.click_text("Record it").await?;
    page.gone("[role=dialog]").await?;
    page.read("[data-befell=hydrolock]", "ford, third stage").await?;
    page.read("[data-forced=rod_alignment]", "open").await?;
    page.click("[data-forced=rod_alignment] button").await?;
    page.fill("note", "a tenth in six inches").await?;
    page.click_text("Record it").await?;
    page.gone("[role=dialog]").await?;
    page.read("[data-forced=rod_alignment]", "good").await?;
    page.go("/builds/SL-041/sheet").await?;
    page.until(
        "return [...document.querySelectorAll('[data-needs=check]')].some((b) => b.textContent.includes('stretch, threads'))",
        vec![],
        "the sheet does not wait for the fasteners",
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_damper_whose_ring_slipped_is_looked_into_at_its_end_and_keeps_the_sheet_open() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/look", "[data-look]").await?;
    page.click_text("Ends, pump, bolts").await?;
    page.click("[data-look='K1 hub']").await?;
    page.press("2").await?;
    page.see("[data-look='K1 hub'][data-signs=ring_slipped]").await?;
    page.see("[data-suspicion=hub_loose] [data-check=runout]").await?;
    page.go("/builds/SL-041/sheet").await?;
    page.read("main", "K1 damper, flywheel or rotor, ring slipped: not used as it is.").await?;
    page.go("/builds/SL-041/bench/K1").await?;
    page.see("[data-entry]").await?;
    // Around the clock, each stop twice.
    for shown in ["8", "7", "4", "1", "0", "1", "4", "7"] {
        page.type_along(&[shown, shown]).await?;
    }
    page.read("section[aria-label='Readings of K1']", "16 of 16").await?;
    page.click_text("Runout").await?;
    page.read("[data-main-throw=K1]", "0°").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_twin_on_rollers_shows_how_it_runs_and_which_piston_is_condemned() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("wick", "mudflat-morning").await?;
    page.see("[data-build=SL-045]").await?;
    page.go("/builds/SL-045/bench/M3").await?;
    page.see("[data-station=M3][data-state=loose]").await?;
    page.go("/builds/SL-045/bench/B2").await?;
    page.read("[aria-label='Figures of B2']", "W2 is condemned").await?;
    page.go("/builds/SL-045/sheet").await?;
    page.see("[data-figure='M3 main_runout'][data-state=loose]").await?;
    page.gone("[data-row=M3]").await?;
    page.close().await
}
