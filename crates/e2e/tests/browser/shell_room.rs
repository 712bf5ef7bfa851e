//! The shell room: families, shelves, part numbers and stamps.
use jagged_pin_e2e::{Rig, Step};
use thirtyfour::Key;

#[tokio::test(flavor = "multi_thread")]
async fn a_family_is_edited_and_its_letters_are_read_by_the_new_table() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("harrow", "/shells", "[data-family=CM]").await?;
    page.click_text("Receive").await?;
    page.fill("reason", "note 118").await?;
    page.click_text("Put it on the shelf").await?;
    page.gone("[role=dialog]").await?;
    page.read("[data-stock='upper -1']", "8").await?;
    page.click_text("History").await?;
    page.read("[data-move=received]", "note 118").await?;
    page.click_text("Family").await?;
    page.fill("wall", "0.5").await?;
    page.click_text("Keep it").await?;
    page.read("section[aria-label='One family']", "sizes that go round each other").await?;
    page.fill("wall", "0.0943").await?;
    page.fill("base", "CQ").await?;
    page.click_text("Keep it").await?;
    page.until("return document.querySelector('input[name=base]')?.value === 'CQ'", vec![], "not kept").await?;

    page.go("/builds/SL-041/shells/crank").await?;
    page.see("[data-journal=M1]").await?;
    page.fill("number", "CQGK25").await?;
    page.see("[data-number=CM][data-conflicts], [data-number=CM] [data-conflicts='1']").await?;
    page.read("[data-number=CM]", "the journals are standard: stop").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_stamp_is_typed_beside_what_the_journal_measures() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("harrow", "/builds/SL-041/shells/crank", "[data-journal=M1][data-says=agrees]").await?;
    page.read("[data-crank=one]", "All 6 measured mains are standard").await?;
    page.fill("stamp-M2", "10").await?;
    page.press(Key::Enter + "").await?;
    page.see("[data-journal=M2][data-says=stamp_differs]").await?;
    page.read("[data-journal=M2]", "the measurement wins").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_box_of_washers_is_opened_filled_and_changed() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("oduya", "/shells", "[data-box=CT]").await?;
    page.click_text("Add a box").await?;
    page.fill("id", "NT").await?;
    page.fill("name", "New thrust").await?;
    page.click_text("Keep it").await?;
    page.see("[data-box=NT]").await?;
    page.click("[data-washer='+5'] button").await?;
    page.fill("by", "4").await?;
    page.fill("place", "T7").await?;
    page.fill("reason", "delivery").await?;
    page.click_text("Keep it").await?;
    page.read("[data-washer='+5']", "T7").await?;
    page.read("[data-box=NT]", "4 halves").await?;
    page.close().await
}
