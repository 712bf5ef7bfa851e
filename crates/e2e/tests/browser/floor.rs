//! Signing in, the floor, and opening a build.
use jagged_pin_e2e::{Rig, Size, Step};
use thirtyfour::Key;

#[tokio::test(flavor = "multi_thread")]
async fn a_person_signs_in_and_sees_the_floor() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.go("/builds/SL-041/bench").await?;
    page.fill("login", "oduya").await?;
    page.fill("password", "guess").await?;
    page.press(Key::Enter + "").await?;
    page.see("[data-problem=wrong_password]").await?;
    page.sign_in("oduya", "first-of-the-flood").await?;
    page.read("[data-build=SL-041]", "8 of 13 bearings judged").await?;
    page.read("[data-build=SL-042]", "Nothing left to do").await?;
    page.read("[data-build=SL-046]", "Measure M1, then 12 more").await?;
    // The keyboard alone: down to the next build, and onto its bench.
    page.press(Key::Down + "").await?;
    page.press(Key::Enter + "").await?;
    page.read("section[aria-label^=Crankshaft]", "Dunlin 1.6 flat-four").await?;
    page.click_text("Sign out").await?;
    page.see("input[name=login]").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_new_build_is_opened_from_an_engine_layout() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("wick", "mudflat-morning").await?;
    page.press("n").await?;
    page.fill("code", "SL-041").await?;
    page.fill("engine", "Knot 1.3 inline-four").await?;
    page.fill("main_journal", "1.8900").await?;
    page.fill("low", ".0026").await?;
    page.fill("high", ".0018").await?;
    page.click_text("Open the build").await?;
    // The server says what is wrong, where it is wrong.
    page.read("[role=dialog]", "Low is above high").await?;
    page.fill("low", ".0018").await?;
    page.fill("high", "2.6 thou").await?;
    page.click_text("Open the build").await?;
    page.read("#code-note", "another build is called SL-041").await?;
    page.fill("code", "SL-051").await?;
    page.click_text("Open the build").await?;
    page.read("section[aria-label^=Crankshaft]", "Crank drawn in proportion").await?;
    page.read("section[aria-label^=Crankshaft]", "Aim .0022").await?;
    page.go("/").await?;
    page.read("[data-build=SL-051]", "0 of 5 bearings judged").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_build_that_left_is_put_away_and_found_again() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("oduya", "/", "[data-build=SL-042]").await?;
    page.click("[data-build=SL-042]").await?;
    page.click_text("Put SL-042 away").await?;
    page.fill("reason", "collected by the owner").await?;
    page.click_text("Put it away").await?;
    page.gone("[data-build=SL-042]").await?;
    page.click("input[type=search]").await?;
    page.press("curlew").await?;
    page.gone("[data-build=SL-043]").await?;
    page.see("[data-build=SL-046]").await?;
    page.press(thirtyfour::Key::Escape + "").await?;
    page.click_text("Put away").await?;
    page.see("[data-build=SL-042]").await?;
    page.click_text("Back to the floor").await?;
    page.read("[role=dialog]", "collected by the owner").await?;
    page.click("[role=dialog] button[type=submit]").await?;
    page.gone("[data-build=SL-042]").await?;
    page.click_text("On the floor").await?;
    page.see("[data-build=SL-042]").await?;
    page.close().await
}
