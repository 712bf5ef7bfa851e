//! Two people at one build.
use jagged_pin_e2e::{Rig, Size, Step};
use thirtyfour::Key;

#[tokio::test(flavor = "multi_thread")]
async fn two_benches_keep_what_both_enter_and_see_each_other() -> Step {
    let rig = Rig::start()?;
    let (one, two) = (rig.page(Size::BENCH).await?, rig.page(Size::BENCH).await?);
    one.sign_in("oduya", "first-of-the-flood").await?;
    two.sign_in("wick", "mudflat-morning").await?;
    one.go("/builds/SL-046/bench/M1").await?;
    two.go("/builds/SL-046/bench/M4").await?;
    for entry in ["2.6238", "38", "38", "38"] {
        for page in [&one, &two] {
            page.press(entry).await?;
            page.press(Key::Enter + "").await?;
        }
    }
    one.read("section[aria-label='Readings of M1']", "4 of 8").await?;
    two.read("section[aria-label='Readings of M4']", "4 of 8").await?;
    // Each looks at what the other has entered, without reloading.
    one.click("[data-station=M4]").await?;
    one.read("section[aria-label='Readings of M4']", "4 of 8").await?;
    two.click("[data-station=M1]").await?;
    two.read("section[aria-label='Readings of M1']", "4 of 8").await?;
    one.close().await?;
    two.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_target_changed_meanwhile_is_shown_instead_of_overwritten() -> Step {
    let rig = Rig::start()?;
    let (one, two) = (rig.page(Size::BENCH).await?, rig.page(Size::BENCH).await?);
    one.sign_in("oduya", "first-of-the-flood").await?;
    two.sign_in("wick", "mudflat-morning").await?;
    for page in [&one, &two] {
        page.go("/builds/SL-046/bench/M1").await?;
        page.see("[data-entry]").await?;
        page.press("t").await?;
        page.see("input[name=low]").await?;
    }
    one.fill("low", ".0020").await?;
    one.fill("reason", "thinner oil").await?;
    one.click_text("Set the target").await?;
    one.gone("[role=dialog]").await?;
    two.fill("low", ".0023").await?;
    two.fill("reason", "hotter oil").await?;
    two.click_text("Set the target").await?;
    two.read("[data-problem=changed_meanwhile]", "R. Oduya set it to 0.0020").await?;
    two.click_text("Put mine over it").await?;
    two.click_text("Set the target").await?;
    two.gone("[role=dialog]").await?;
    one.read("section[aria-label^=Crankshaft]", "Window .0023").await?;
    one.close().await?;
    two.close().await
}
