//! What the shop decides for itself, and what a sheet owns up to.
use jagged_pin_e2e::{Rig, Size, Step};

#[tokio::test(flavor = "multi_thread")]
async fn the_lead_lets_a_role_do_more_and_sets_where_targets_start() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("harrow", "slack-water-lead").await?;
    page.click_text("Shop").await?;
    page.see("[data-allowed='apprentice strike_others'][data-on=false]").await?;
    page.click("[data-allowed='apprentice strike_others']").await?;
    page.see("[data-allowed='apprentice strike_others'][data-on=true]").await?;
    // Nobody takes the shop away from themselves.
    page.click("[data-allowed='lead run_shop']").await?;
    page.see("[data-problem=bad_field]").await?;
    page.see("[data-allowed='lead run_shop'][data-on=true]").await?;
    page.fill("presets.0.name", "hill climb").await?;
    page.click_text("Keep the windows").await?;
    page.see("[data-preset-row='Oil clearance, mains hill climb']").await?;
    // It is offered where a target is set.
    page.go("/builds/SL-046/bench/M1").await?;
    page.see("[data-entry]").await?;
    page.press("t").await?;
    page.click("[data-preset='hill climb']").await?;
    page.until(
        "return document.querySelector('[name=low]').value === '0.0022'",
        vec![],
        "the window is not taken over",
    )
    .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_sheet_says_what_was_not_checked_and_prints_without_the_screen_around_it() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("wick", "mudflat-morning").await?;
    page.go("/builds/SL-041/sheet").await?;
    page.see("[data-unchecked=part]").await?;
    page.read("[aria-label='Not checked']", "R1\u{2013}R6").await?;
    page.read("[aria-label='Not checked']", "Nor is any word here about balance").await?;
    page.read("[data-used-gauge=mic-tenths]", "SM-").await?;
    page.read("[data-sizes=M4]", "2.8151").await?;
    let shown = page
        .script(
            "const rules = [...document.styleSheets].flatMap((s) => [...s.cssRules]);
             const print = rules.find((r) => r.media?.mediaText === 'print');
             return [document.querySelector('main').classList.contains('print-sheet'), Boolean(print)]",
        )
        .await?;
    assert_eq!(shown, serde_json::json!([true, true]));
    assert!(page.print().await?.len() > 10_000, "something is on the paper");
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_thrust_face_is_looked_at_and_its_end_play_decides() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("wick", "mudflat-morning").await?;
    page.go("/builds/SL-041/look").await?;
    page.click("[data-look='E thrust_rear']").await?;
    page.click("[data-sign=scored]").await?;
    // The end play of this engine is loose.
    page.see("[data-suspicion=thrust_load][data-says=confirms] [data-tested=confirms]").await?;
    page.close().await
}
