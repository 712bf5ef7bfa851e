//! The sheet: blocked, accepted, signed, sealed, broken; and files out and in.
use std::time::Duration;

use jagged_pin_e2e::{Page, Rig, Size, Step};
use thirtyfour::Key;

async fn measure_m7(page: &Page) -> Step {
    page.go("/builds/SL-047/bench/M7").await?;
    page.see("[data-entry]").await?;
    for entry in ["2.6238", "38", "38", "38", "38", "38", "38", "38"] {
        page.press(entry).await?;
        page.press(Key::Enter + "").await?;
    }
    page.press("b").await?;
    for entry in ["23", "23", "23", "23"] {
        page.press(entry).await?;
        page.press(Key::Enter + "").await?;
    }
    page.see("[data-station=M7][data-state=in]").await?;
    Ok(())
}

async fn accept(page: &Page, station: &str, reason: &str) -> Step {
    page.click(&format!("[data-block={station}] button")).await?;
    page.fill("reason", reason).await?;
    page.press(Key::Enter + "").await?;
    page.gone(&format!("[data-block={station}]")).await
}

async fn sign(page: &Page, role: &str, login: &str, password: &str) -> Step {
    page.click_text(&format!("Sign as {role}")).await?;
    page.fill("login", login).await?;
    page.fill("password", password).await?;
    page.press(Key::Enter + "").await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_mains_are_signed_by_two_people_and_a_later_reading_breaks_the_seal() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("harrow", "slack-water-lead").await?;
    // A build from another shop, of mains only: read from its file, it opens on its sheet.
    let file = page.folder().join("SL-047.json");
    let build = serde_json::json!({ "form": "jagged-pin-build/1", "build": jagged_pin_demo::mains_only()? });
    std::fs::write(&file, build.to_string())?;
    page.choose_file("input[type=file]", &file).await?;
    for (station, says) in [("M2", "TIGHT"), ("M5", "LOOSE"), ("M6", "EDGE"), ("M7", "OPEN")] {
        page.read(&format!("[data-block={station}]"), says).await?;
    }
    page.until(
        "return [...document.querySelectorAll('[data-signature] button')].every((b) => b.disabled)",
        vec![],
        "a blocked sheet can be signed",
    )
    .await?;
    measure_m7(&page).await?;
    page.click_text("Open the sheet").await?;
    accept(&page, "M6", "half a tenth, watched on the first pull").await?;
    accept(&page, "M5", "sprint use only").await?;
    page.click("[data-block=M2] button").await?;
    page.read("[role=dialog]", "A tight bearing can seize").await?;
    page.fill("reason", "run in with thin oil").await?;
    page.press(Key::Enter + "").await?;
    // What nobody signs past is the lead's to concede, once for the whole row.
    page.see("[data-block=M1][data-needs=remedy]").await?;
    for remark in ["No gauge was checked in for", "No set-up is recorded"] {
        page.read("[data-block=M1]", remark).await?;
        page.click("[data-block=M1] button").await?;
        page.fill("reason", "done in the other shop, by its own sheet").await?;
        page.press(Key::Enter + "").await?;
        page.gone("[role=dialog]").await?;
    }
    page.read("main", "Ready to sign").await?;

    sign(&page, "assembler", "oduya", "first-of-the-flood").await?;
    page.read("[data-signature=assembler]", "R. Oduya").await?;
    sign(&page, "checker", "oduya", "first-of-the-flood").await?;
    page.see("[role=dialog] [data-problem=not_allowed]").await?;
    // A wrong password is said in the dialog, and ends nobody's session.
    page.fill("login", "kell").await?;
    page.fill("password", "third-pair-of-eyes").await?;
    page.press(Key::Enter + "").await?;
    page.see("[role=dialog] [data-problem=wrong_password]").await?;
    page.fill("password", "second-pair-of-eyes").await?;
    page.press(Key::Enter + "").await?;
    page.see("[data-seal=sealed]").await?;
    let seal = page.attribute("[data-seal] > :nth-child(2) [data-digest]", "data-digest").await?.unwrap_or_default();
    assert_eq!(seal.len(), 64);

    page.go("/builds/SL-047/bench/M1").await?;
    page.press("b").await?;
    page.press("23").await?;
    page.press(Key::Enter + "").await?;
    page.read("section[aria-label='Readings of M1']", "7 of 7").await?;
    page.click_text("Open the sheet").await?;
    page.see("[data-seal=broken]").await?;
    page.read("[data-broken]", "a reading was taken by M. Harrow").await?;
    page.read("[data-seal=broken]", "Revision 2 is not sealed").await?;
    page.read("[data-seal=broken]", &seal[..4].to_uppercase()).await?;
    page.go("/").await?;
    page.read("[data-build=SL-047]", "Seal broken by a later change").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_exported_in_one_shop_is_imported_in_another() -> Step {
    let (here, there) = (Rig::start()?, Rig::of_another_shop()?);
    let page = here.page(Size::BENCH).await?;
    page.sign_in("oduya", "first-of-the-flood").await?;
    page.go("/builds/SL-042/sheet").await?;
    let digest = page.attribute("[data-seal] > :nth-child(2) [data-digest]", "data-digest").await?;
    page.click_text("JSON").await?;
    let file = page.folder().join("downloads/SL-042.json");
    let mut waited = 0;
    while !file.is_file() && waited < 1_200 {
        tokio::time::sleep(Duration::from_millis(50)).await;
        waited += 1;
    }
    // The other shop has this build already: it says so, and nothing else happens.
    let other = there.page(Size::BENCH).await?;
    other.sign_in("wick", "mudflat-morning").await?;
    other.choose_file("input[type=file]", &file).await?;
    other.see("[data-problem=build_exists]").await?;
    other.click_text("Close").await?;
    let broken = page.folder().join("broken.json");
    std::fs::write(&broken, std::fs::read_to_string(&file)?.replace("SL-042", "SL-142"))?;
    other.choose_file("input[type=file]", &broken).await?;
    other.read("[data-problem=bad_build]", "the seal does not match").await?;
    other.close().await?;
    assert!(digest.is_some_and(|d| std::fs::read_to_string(&file).is_ok_and(|text| text.contains(&d))));
    page.close().await
}
