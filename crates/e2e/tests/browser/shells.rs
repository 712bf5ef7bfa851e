//! Choosing shells: what is proposed, what if, and the shelf.
use jagged_pin_e2e::{Page, Rig, Step};

async fn at_the_shells(rig: &Rig) -> Step<Page> {
    rig.at("oduya", "/builds/SL-041/shells", "[data-proposal='6']").await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_best_pick_is_proven_and_answers_what_if_by_keys() -> Step {
    let rig = Rig::start()?;
    let page = at_the_shells(&rig).await?;
    page.see("[data-proven=true]").await?;
    page.see("[data-pair='M1 std std']").await?;
    page.until("return document.querySelectorAll(\"[data-pair$='std std']\").length === 3", vec![], "three change")
        .await?;
    page.read("[data-next-best]", "Next best").await?;
    // M2 keeps its pair: it stays outside.
    page.press(thirtyfour::Key::Down + "").await?;
    page.press("k").await?;
    page.see("[data-keep=M2][aria-pressed=true]").await?;
    page.see("[data-pair='M2 std std']").await?;
    page.see("[data-outside='1']").await?;
    page.press("k").await?;
    page.gone("[data-outside]").await?;
    // Whole pairs only: half a step is out of reach.
    page.press("m").await?;
    page.see("[data-outside]").await?;
    page.press("o").await?;
    page.see("[data-best=thriftiest][aria-pressed=true]").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_shelf_is_counted_with_a_reason_and_never_goes_below_empty() -> Step {
    let rig = Rig::start()?;
    let page = at_the_shells(&rig).await?;
    page.read("[data-shelf='lower std']", "4 at A2").await?;
    page.click("[data-shelf='lower std'] button").await?;
    page.click("button[aria-label^='What happened']").await?;
    page.choose("Picked").await?;
    page.fill("by", "5").await?;
    page.fill("reason", "for SL-041").await?;
    page.click_text("Record it").await?;
    page.read("[role=dialog]", "Only 4 left on the shelf: nothing was taken").await?;
    page.fill("by", "1").await?;
    page.click_text("Record it").await?;
    page.read("[data-shelf='lower std']", "3 at A2").await?;
    page.close().await
}
