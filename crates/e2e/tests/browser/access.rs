//! Every view checked for accessibility, at the bench and on a tablet.
use jagged_pin_e2e::{Page, Rig, Size, Step};
use thirtyfour::Key;

const AXE: &str = include_str!("../../../../web/node_modules/axe-core/axe.min.js");

/// Runs axe over the page as it is; every violation with the elements it is about.
async fn violations(page: &Page) -> Step<Vec<String>> {
    page.script(&format!("{AXE}; return true")).await?;
    let found = page
        .script_async(
            "const done = arguments[0]; axe.run(document).then((r) => done(r.violations.map((v) => v.id + ': ' + v.nodes.map((n) => n.html.slice(0, 160)).join(' | '))))",
        )
        .await?;
    let list = found.as_array().ok_or("axe did not answer")?;
    Ok(list.iter().map(ToString::to_string).collect())
}

async fn assert_clean(page: &Page, view: &str) -> Step {
    let found = violations(page).await?;
    assert!(found.is_empty(), "{view}:\n{}", found.join("\n"));
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn every_view_is_clean_at_the_bench_and_on_a_tablet() -> Step {
    let rig = Rig::start()?;
    for size in [Size::BENCH, Size::TABLET] {
        let page = rig.page(size).await?;
        page.go("/").await?;
        page.see("input[name=login]").await?;
        assert_clean(&page, "sign in").await?;
        page.sign_in("harrow", "slack-water-lead").await?;
        assert_clean(&page, "floor").await?;
        page.go("/shop").await?;
        page.see("[data-allowed]").await?;
        page.see("[data-preset-row]").await?;
        assert_clean(&page, "shop").await?;
        page.go("/").await?;
        page.see("[role=option]").await?;
        page.press("n").await?;
        page.see("input[name=code]").await?;
        assert_clean(&page, "new build").await?;
        for station in ["M2", "M4", "M6", "M7"] {
            page.go(&format!("/builds/SL-041/bench/{station}")).await?;
            page.see("[data-state]").await?;
            assert_clean(&page, &format!("bench {station}")).await?;
        }
        page.press("t").await?;
        page.see("input[name=low]").await?;
        assert_clean(&page, "target").await?;
        page.press(Key::Escape + "").await?;
        page.gone("[role=dialog]").await?;
        page.click_text("All mains").await?;
        page.see("[data-view=crank]").await?;
        assert_clean(&page, "crank").await?;
        page.press("f").await?;
        page.press(Key::Enter + "").await?;
        page.see("[data-station=R1]").await?;
        assert_clean(&page, "rods").await?;
        page.go("/builds/SL-041/bench/R2").await?;
        page.see("[data-stale-clearance]").await?;
        assert_clean(&page, "stale").await?;
        page.press("w").await?;
        page.press(Key::Enter + "").await?;
        page.see("button[aria-label^='What was done']").await?;
        assert_clean(&page, "work").await?;
        page.press(Key::Escape + "").await?;
        page.gone("[role=dialog]").await?;
        page.press("g").await?;
        page.see("input[name=standard]").await?;
        assert_clean(&page, "check in").await?;
        page.press(Key::Escape + "").await?;
        page.gone("[role=dialog]").await?;
        page.go("/builds/SL-041/bench/M4").await?;
        page.see("[data-clearance]").await?;
        page.press("h").await?;
        page.press("u").await?;
        page.see("[data-budget]").await?;
        assert_clean(&page, "proof").await?;
        for (path, sign) in [
            ("/builds/SL-043/look", "[data-look='P1 journal']"),
            ("/builds/SL-046/parts", "[data-stands]"),
            ("/builds/SL-041/bench/E", "nav [data-station=E]"),
            ("/builds/SL-041/set-up", "[data-cap=M1]"),
            ("/builds/SL-041/shells", "[data-proven=true]"),
            ("/builds/SL-041/shells/crank", "[data-journal=M7]"),
            ("/builds/SL-043/shells/tray", "[data-tray='4']"),
            ("/builds/SL-041/shells/pins", "[data-rods='5']"),
            ("/builds/SL-041/shells/machining", "[data-no-grind]"),
            ("/builds/SL-044/shells/machining", "[data-order='SL-044-1']"),
            ("/shells", "[data-checked]"),
            ("/builds/SL-041/gauges", "[data-session]"),
            ("/gauges", "[data-gauge]"),
            ("/account", "[data-session=this]"),
            ("/invitation#none", "h1"),
        ] {
            page.go(path).await?;
            page.see(sign).await?;
            assert_clean(&page, path).await?;
        }
        for (path, view, sign) in [
            ("/builds/SL-041/bench/E", "Washers", "[data-washers='+5/std']"),
            ("/builds/SL-043/bench/S1", "Narrow", "[data-face='R1 front']"),
            ("/builds/SL-041/bench/C2", "Fit the cam", "[data-cam-journal=C2]"),
            ("/builds/SL-041/bench/FP2", "Section", "[data-take]"),
            ("/builds/SL-041/bench/B5", "All bores", "[data-bore=B5]"),
            ("/builds/SL-041/bench/B5", "Rings, deck", "svg[aria-label^='Barrel']"),
            ("/builds/SL-041/bench/M4", "Runout", "[data-main-throw=M4]"),
            ("/builds/SL-041/bench/FP2", "Pictures", "[data-pictures='1'] img"),
        ] {
            page.go(path).await?;
            page.see("[data-entry]").await?;
            page.click_text(view).await?;
            page.see(sign).await?;
            assert_clean(&page, view).await?;
        }
        page.go("/builds/SL-041/shells").await?;
        page.see("[data-proven=true]").await?;
        for (key, sign) in [("l", "[data-pick='M2 lower']"), ("f", "input[name=note]")] {
            page.press(key).await?;
            page.see(sign).await?;
            assert_clean(&page, sign).await?;
            page.press(Key::Escape + "").await?;
            page.gone("[role=dialog]").await?;
        }
        page.go("/shells").await?;
        page.click_text("Family").await?;
        page.see("input[name=grading]").await?;
        assert_clean(&page, "a family").await?;
        page.go("/builds/SL-044/shells/machining").await?;
        page.click_text("Print").await?;
        page.see("article.print-sheet").await?;
        assert_clean(&page, "a work order").await?;
        page.go("/gauges").await?;
        page.click_text("Register a gauge").await?;
        page.see("input[name='texts.resolution']").await?;
        assert_clean(&page, "a new gauge").await?;
        for sheet in ["SL-041", "SL-042"] {
            page.go(&format!("/builds/{sheet}/sheet")).await?;
            page.see("[data-row=M1]").await?;
            assert_clean(&page, sheet).await?;
        }
        // Nothing is cut off sideways.
        page.until("return document.documentElement.scrollWidth <= window.innerWidth", vec![], "the page is too wide")
            .await?;
        page.close().await?;
    }
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn pages_that_are_not_there_say_where_to_go() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("fenn", "learning-the-feel").await?;
    page.go("/builds/SL-404/bench").await?;
    page.read("main", "SL-404 is not here").await?;
    page.go("/nowhere").await?;
    page.read("main", "There is nothing here").await?;
    page.click_text("To the floor").await?;
    page.see("[role=option]").await?;
    page.close().await
}
