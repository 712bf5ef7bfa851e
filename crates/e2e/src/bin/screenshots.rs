//! Takes the pictures of the main views from the demo data: `screenshots [FOLDER]`, by default
//! `docs/screenshots`.
use std::path::PathBuf;

use jagged_pin_e2e::{Page, Rig, Size, Step};

#[tokio::main]
async fn main() -> Step {
    let folder = std::env::args().nth(1).map_or_else(|| PathBuf::from("docs/screenshots"), PathBuf::from);
    std::fs::create_dir_all(&folder)?;
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    let shot = async |page: &Page, name: &str| page.picture(&folder.join(format!("{name}.png"))).await;

    page.go("/").await?;
    page.see("input[name=login]").await?;
    page.sign_in("oduya", "first-of-the-flood").await?;
    shot(&page, "floor").await?;
    page.go("/builds/SL-041/bench/M2").await?;
    page.see("[data-state]").await?;
    shot(&page, "bench-tight").await?;
    page.go("/builds/SL-041/bench/M4").await?;
    page.see("[data-clearance]").await?;
    page.press("h").await?;
    page.see("[data-position^='housing']").await?;
    page.press("u").await?;
    page.see("[data-budget]").await?;
    shot(&page, "budget").await?;
    page.go("/builds/SL-041/shells").await?;
    page.see("[data-proven=true]").await?;
    shot(&page, "shells").await?;
    page.go("/builds/SL-041/parts").await?;
    page.see("[data-stands]").await?;
    shot(&page, "parts").await?;
    page.go("/builds/SL-041/bench/E").await?;
    page.see("[data-entry]").await?;
    page.click_text("Washers").await?;
    page.fill("stands", "-.0020").await?;
    page.see("[data-washers='+5/std'][aria-checked=true]").await?;
    shot(&page, "end-play").await?;
    page.go("/builds/SL-041/bench/B5").await?;
    page.see("svg[aria-label^='Barrel of B5']").await?;
    shot(&page, "cylinders").await?;
    page.go("/builds/SL-041/bench/FP2").await?;
    page.see("[data-entry]").await?;
    page.click_text("Section").await?;
    page.see("[data-take='635000']").await?;
    shot(&page, "fillet").await?;
    page.go("/builds/SL-041/shells/machining").await?;
    page.click_text("Rods").await?;
    page.see("[data-grind='254000'][data-chosen]").await?;
    page.click("[data-grind='254000'] td button").await?;
    page.fill("shop", "the crank grinder").await?;
    page.fill("fillet", "0.1250").await?;
    page.click_text("Write it").await?;
    page.see("[data-order='SL-041-1']").await?;
    shot(&page, "machining").await?;
    page.go("/shells").await?;
    page.see("[data-checked]").await?;
    shot(&page, "shell-room").await?;
    page.go("/builds/SL-041/look").await?;
    page.see("[data-look='M1 journal']").await?;
    shot(&page, "look").await?;
    page.go("/builds/SL-041/set-up").await?;
    page.see("[data-cap=M1]").await?;
    shot(&page, "set-up").await?;
    page.go("/builds/SL-041/gauges").await?;
    page.see("[data-session]").await?;
    shot(&page, "gauges").await?;
    page.go("/builds/SL-041/sheet").await?;
    page.see("[data-block=M7]").await?;
    shot(&page, "sheet-blocked").await?;
    page.go("/builds/SL-042/sheet").await?;
    page.see("[data-seal=sealed]").await?;
    shot(&page, "sheet-sealed").await?;
    page.close().await?;

    let tablet = rig.page(Size::TABLET).await?;
    tablet.sign_in("oduya", "first-of-the-flood").await?;
    tablet.go("/builds/SL-041/bench/M4").await?;
    tablet.see("[data-clearance]").await?;
    shot(&tablet, "bench-tablet").await?;
    tablet.close().await?;

    let lead = rig.page(Size::BENCH).await?;
    lead.sign_in("harrow", "slack-water-lead").await?;
    lead.go("/shop").await?;
    lead.see("[data-allowed]").await?;
    lead.see("[data-preset-row]").await?;
    shot(&lead, "shop").await?;
    lead.go("/people").await?;
    lead.click_text("Add somebody").await?;
    lead.fill("name", "N. Sedge").await?;
    lead.fill("login", "sedge").await?;
    lead.click_text("Add and invite").await?;
    lead.see("[data-invitation]").await?;
    lead.click_text("Done").await?;
    lead.see("[data-person=sedge] [data-standing=invited]").await?;
    shot(&lead, "people").await?;
    // What a changed row looks like: done behind the server's back, as somebody with the database's console could.
    rig.tamper(
        "UPDATE readings SET size_nm = size_nm - 2540 WHERE build_id = (SELECT id FROM builds WHERE code = 'SL-042') \
         ORDER BY seq LIMIT 1",
    )?;
    lead.go("/shop").await?;
    lead.click_text("Look at every seal now").await?;
    lead.see("[data-seals=doubt]").await?;
    lead.go("/builds/SL-042/sheet").await?;
    lead.see("[data-seal=does_not_match]").await?;
    shot(&lead, "seal-broken").await?;
    lead.close().await
}
