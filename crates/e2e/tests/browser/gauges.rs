//! Gauges: registered, checked in and out, called out, and talking.
use jagged_pin_core::{Length, Unit};
use jagged_pin_e2e::{Page, Rig, Size, Step};
use jagged_pin_gauge_sim::{Hub, SimGauge, press};
use thirtyfour::Key;
use tokio::net::TcpListener;

async fn oduya(rig: &Rig, path: &str) -> Step<Page> {
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("oduya", "first-of-the-flood").await?;
    page.go(path).await?;
    Ok(page)
}

#[tokio::test(flavor = "multi_thread")]
async fn a_gauge_is_registered_checked_in_and_checked_out() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/gauges").await?;
    page.read("[data-gauge=caliper-half-thou]", "Past due").await?;
    page.click_text("Register a gauge").await?;
    for (name, text) in [
        ("gauge", "mic-7"),
        ("name", "Outside mic 2-3 in, half tenths"),
        ("texts.resolution", ".00005"),
        ("texts.repeatability", ".00002"),
        ("texts.calibration", "0.00005"),
        ("texts.from", "2"),
        ("texts.to", "3"),
        ("texts.due", "2027-13-01"),
    ] {
        page.fill(name, text).await?;
    }
    page.click_text("Register it").await?;
    page.read("[id='texts.due-note']", "is not a day").await?;
    page.fill("texts.due", "2099-01-01").await?;
    page.click_text("Register it").await?;
    page.read("[data-gauge=mic-7]", "until 2099-01-01").await?;

    page.go("/builds/SL-046/bench/M1").await?;
    page.see("[data-gauge-standing=unproven]").await?;
    page.press("g").await?;
    page.fill("standard", "2.0000").await?;
    page.fill("shown", "2.0004").await?;
    page.press(Key::Enter + "").await?;
    page.see("[data-problem=not_zeroed]").await?;
    page.fill("shown", "2.0000").await?;
    page.press(Key::Enter + "").await?;
    page.gone("[role=dialog]").await?;
    page.press("2.6238").await?;
    page.press(Key::Enter + "").await?;
    page.read("section[aria-label='Readings of M1']", "1 of 8").await?;
    page.press("g").await?;
    page.fill("standard", "2.0000").await?;
    page.fill("shown", "2.0003").await?;
    page.click_text("Check out").await?;
    page.gone("[role=dialog]").await?;
    // It walked three tenths: what it read is stale.
    page.read("section[aria-label='Readings of M1']", "0 of 8").await?;
    page.see("td[data-stale]").await?;
    page.go("/builds/SL-046/gauges").await?;
    page.read("[data-session=thrown_out]", "Walked 3 tenths up").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_gauge_that_must_not_decide_is_called_out_before_the_first_reading() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-046/bench/M1").await?;
    page.click("button[aria-label^='Gauge on the journal']").await?;
    page.choose("Caliper, half thou").await?;
    page.read("[data-gauge-standing=stop]", "past due since 2026-10-31").await?;
    page.read("section[aria-label='Readings of M1']", "0 of 8").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_paired_gauge_drops_its_figure_into_the_active_cell() -> Step {
    let listener = TcpListener::bind("127.0.0.1:0").await?;
    let hub = listener.local_addr()?.to_string();
    let mut mic = SimGauge::new("mic-tenths", Unit::Inch, Length::tenths(1), 1);
    mic.script = vec![Length::tenths(26_238), Length::tenths(26_237)];
    tokio::spawn(Hub::new(vec![mic]).serve(listener));
    let rig = Rig::start_with_gauges(&hub)?;
    let page = oduya(&rig, "/builds/SL-046/bench/M1").await?;
    page.click_text("Pair").await?;
    page.see("[data-link=on]").await?;
    for touch in 1..=8 {
        press(&hub, "PRESS mic-tenths").await?;
        // The hand waits for nothing; the test looks that each press was taken before the next.
        page.until(
            "return fetch('/api/v1/builds/SL-046').then((r) => r.json()).then((b) => b.readings.length === arguments[0])",
            vec![touch.into()],
            "a press was not taken",
        )
        .await?;
    }
    page.stands_at("M2", "the hand did not move on").await?;
    page.until(
        "return fetch('/api/v1/builds/SL-046').then((r) => r.json()).then((b) => b.readings.every((r) => r.source === 'gauge') && b.readings[1].raw === '2.6237 in')",
        vec![],
        "the raw text was not kept",
    )
    .await?;
    press(&hub, "REPEAT mic-tenths").await?;
    page.read("[data-link]", "taken once").await?;
    press(&hub, "SAY mic-tenths #!?").await?;
    page.read("[data-link]", "garbled").await?;
    press(&hub, "UNPLUG mic-tenths").await?;
    page.see("[data-link=lost]").await?;
    page.read("[data-link]", "unplugged").await?;
    page.close().await
}
