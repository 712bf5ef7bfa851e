//! Takes the pictures of the main views from the demo data: `screenshots [FOLDER]`, by default
//! `docs/screenshots`.

use std::path::PathBuf;

use jagged_pin_e2e::{Page, Rig, Size, Step};
use thirtyfour::Key;

#[tokio::main]
async fn main() -> Step {
    let folder = std::env::args().nth(1).map_or_else(|| PathBuf::from("docs/screenshots"), PathBuf::from);
    std::fs::create_dir_all(&folder)?;
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    let shot = async |page: &Page, name: &str| page.picture(&folder.join(format!("{name}.png"))).await;

    page.go("/").await?;
    page.see("input[name=login]").await?;
    shot(&page, "sign-in").await?;
    page.sign_in("oduya", "first-of-the-flood").await?;
    shot(&page, "floor").await?;
    page.press("n").await?;
    page.see("input[name=code]").await?;
    shot(&page, "new-build").await?;
    for (name, station) in [("bench-tight", "M2"), ("bench-in", "M4"), ("bench-loose", "M5"), ("rods", "R4")] {
        page.go(&format!("/builds/SL-041/bench/{station}")).await?;
        page.see("[data-state]").await?;
        if name == "rods" {
            page.press("l").await?;
            page.see("[data-station=R4]").await?;
        }
        shot(&page, name).await?;
    }
    page.go("/builds/SL-041/bench/R2").await?;
    page.see("[data-stale-clearance]").await?;
    shot(&page, "bench-stale").await?;
    page.go("/builds/SL-041/bench/M4").await?;
    page.see("[data-clearance]").await?;
    page.press("h").await?;
    page.see("[data-position^='housing']").await?;
    page.press("u").await?;
    page.see("[data-budget]").await?;
    shot(&page, "budget").await?;
    page.press("c").await?;
    page.see("[data-view=crank]").await?;
    page.press("j").await?;
    shot(&page, "bench-crank").await?;
    page.go("/builds/SL-041/bench/M7").await?;
    page.see("[data-entry]").await?;
    for entry in ["2.6237", "38", "38", "38", "37", "37", "38"] {
        page.press(entry).await?;
        page.press(Key::Enter + "").await?;
    }
    page.read("section[aria-label='Readings of M7']", "7 of 8").await?;
    page.press("38").await?;
    page.see("[data-echo='2.6238 in']").await?;
    shot(&page, "bench-entry").await?;
    page.go("/builds/SL-041/shells").await?;
    page.see("[data-proven=true]").await?;
    shot(&page, "shells").await?;
    page.go("/builds/SL-041/look").await?;
    page.see("[data-look='M1 journal']").await?;
    shot(&page, "look").await?;
    page.go("/builds/SL-041/set-up").await?;
    page.see("[data-cap=M1]").await?;
    shot(&page, "set-up").await?;
    page.go("/builds/SL-041/gauges").await?;
    page.see("[data-session]").await?;
    shot(&page, "gauges").await?;
    page.go("/gauges").await?;
    page.see("[data-gauge]").await?;
    shot(&page, "gauge-room").await?;
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
    tablet.close().await
}
