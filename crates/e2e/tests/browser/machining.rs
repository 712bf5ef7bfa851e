//! Machining beside other shells, and the work order that goes out and comes back.
use jagged_pin_e2e::{Rig, Step};

/// Sheets of paper in a printed file.
fn sheets(pdf: &[u8]) -> usize {
    let text = String::from_utf8_lossy(pdf);
    text.matches("/Type /Page").count() - text.matches("/Type /Pages").count()
}

#[tokio::test(flavor = "multi_thread")]
async fn pins_are_ordered_ground_sent_and_come_back_stale() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("harrow", "/builds/SL-041/shells/machining", "[data-no-grind]").await?;
    page.read("[data-no-grind]", "Shells by class even that out").await?;
    page.click_text("Rods").await?;
    page.see("[data-grind='254000'][data-chosen]").await?;
    // A deep score asks for more than ten under.
    page.fill("damage-P3", "0.0060").await?;
    page.see("[data-grind='508000'][data-chosen]").await?;
    page.fill("damage-P3", "").await?;
    page.press(thirtyfour::Key::Space + "").await?;
    page.see("[data-grind='254000'][data-chosen]").await?;
    page.click("[data-grind='254000'] td button").await?;
    page.fill("shop", "the grinder").await?;
    page.fill("fillet", "0.1250").await?;
    page.click_text("Write it").await?;
    page.see("[data-order='SL-041-1'][data-step=written]").await?;
    for (button, note, step) in [("It was sent", "in its box", "sent"), ("It came back", "ground", "returned")] {
        page.click_text(button).await?;
        page.fill("reason", note).await?;
        page.click_text("Record it").await?;
        page.see(&format!("[data-order='SL-041-1'][data-step={step}]")).await?;
    }
    page.read("[data-item=P1]", "measure it").await?;
    page.go("/builds/SL-041/bench/R1").await?;
    page.see("[data-stale-clearance]").await?;
    page.read("[data-because=returned]", "Back from the grinder, order SL-041-1").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn an_order_for_poured_bearings_prints_as_one_sheet() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("harrow", "/builds/SL-044/shells/machining", "[data-order='SL-044-1'][data-step=sent]").await?;
    page.see("[data-bore]").await?;
    page.click_text("Print").await?;
    page.read("article.print-sheet", "Work order").await?;
    page.read("article.print-sheet", "bore the bearing to fit").await?;
    page.read("article.print-sheet", "Saltmarsh Lane Engines, M. Harrow").await?;
    assert_eq!(sheets(&page.print().await?), 1);
    page.close().await
}
