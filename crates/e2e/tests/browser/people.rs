//! Letting people in, and a record that does not match.
use std::fs;

use jagged_pin_e2e::{Rig, Size, Step};
use serde_json::json;

#[tokio::test(flavor = "multi_thread")]
async fn the_lead_adds_somebody_who_comes_in_by_the_invitation_and_measures() -> Step {
    let rig = Rig::start()?;
    let lead = rig.page(Size::BENCH).await?;
    lead.sign_in("harrow", "slack-water-lead").await?;
    lead.click_text("Shop").await?;
    lead.click_text("People").await?;
    lead.click_text("Add somebody").await?;
    lead.fill("name", "N. Sedge").await?;
    lead.fill("login", "oduya").await?;
    lead.click_text("Add and invite").await?;
    lead.see("[data-problem=login_taken]").await?;
    lead.fill("login", "sedge").await?;
    lead.click_text("Add and invite").await?;
    lead.see("[data-invitation]").await?;
    let address = lead.attribute("[data-invitation]", "data-invitation").await?.unwrap_or_default();
    let secret = address.split_once('#').map(|(_, secret)| secret.to_owned()).ok_or("a secret")?;
    lead.click_text("Done").await?;
    lead.see("[data-person=sedge] [data-standing=invited]").await?;

    let page = rig.page(Size::BENCH).await?;
    page.go(&format!("/invitation#{secret}")).await?;
    page.see("[data-invited=sedge]").await?;
    page.fill("password", "brackish-on-purpose").await?;
    page.fill("again", "brackish-by-mistake").await?;
    page.click_text("Come in").await?;
    page.see("[data-problem]").await?;
    page.fill("again", "brackish-on-purpose").await?;
    page.click_text("Come in").await?;
    page.see("[data-build='SL-046']").await?;
    page.go("/builds/SL-046/bench/M1").await?;
    page.see("[data-entry]").await?;

    // The lead shuts them out again: their session is over at once.
    lead.go("/people").await?;
    lead.see("[data-person=sedge] [data-standing='signs in']").await?;
    lead.click("[data-person=sedge] button:first-child").await?;
    lead.click("[name=disabled]").await?;
    lead.click_text("Change it").await?;
    lead.see("[data-person=sedge] [data-standing='cannot sign in']").await?;
    lead.read("[data-log=person_changed]", "shut out").await?;
    page.go("/").await?;
    page.see("[name=login]").await?;
    page.close().await?;
    lead.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn everybody_changes_their_own_password_and_ends_their_other_sessions() -> Step {
    let rig = Rig::start()?;
    let (here, elsewhere) = (rig.page(Size::BENCH).await?, rig.page(Size::TABLET).await?);
    elsewhere.sign_in("wick", "mudflat-morning").await?;
    here.sign_in("wick", "mudflat-morning").await?;
    here.click_text("J. Wick, assembler").await?;
    here.see("[data-session]:not([data-session=this])").await?;
    here.fill("old", "mudflat-morning").await?;
    here.fill("password", "short").await?;
    here.fill("again", "short").await?;
    here.click_text("Change it").await?;
    here.see("[data-problem=bad_field]").await?;
    here.fill("password", "brackish-on-purpose").await?;
    here.fill("again", "brackish-on-purpose").await?;
    here.click_text("Change it").await?;
    here.gone("[data-session]:not([data-session=this])").await?;
    elsewhere.go("/").await?;
    elsewhere.see("[name=login]").await?;
    elsewhere.close().await?;
    here.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_seal_over_changed_rows_is_named_on_floor_and_sheet() -> Step {
    let rig = Rig::start()?;
    let page = rig.page(Size::BENCH).await?;
    page.sign_in("harrow", "slack-water-lead").await?;
    page.go("/builds/SL-042/sheet").await?;
    page.see("[data-seal=sealed]").await?;
    rig.tamper(
        "UPDATE readings SET size_nm = size_nm - 2540 WHERE build_id = (SELECT id FROM builds WHERE code = 'SL-042') \
         ORDER BY seq LIMIT 1; \
         UPDATE readings SET feature = 'colour' WHERE build_id = (SELECT id FROM builds WHERE code = 'SL-044') \
         ORDER BY seq LIMIT 1",
    )?;
    page.go("/shop").await?;
    page.click_text("Look at every seal now").await?;
    page.see("[data-seals=doubt]").await?;
    page.see("[data-doubt='SL-042']").await?;
    page.go("/builds/SL-042/sheet").await?;
    page.see("[data-seal=does_not_match]").await?;
    page.read("[data-faults]", "is not what stands here").await?;
    page.go("/").await?;
    page.see("[data-build='SL-042'] [data-doubt]").await?;
    // The one that cannot be read stands by itself, and goes when the lead removes it.
    page.see("[data-unreadable='SL-044']").await?;
    page.click_text("Remove SL-044").await?;
    page.fill("code", "SL-044").await?;
    page.fill("reason", "the disk had a bad block").await?;
    page.click_text("Remove it for good").await?;
    page.gone("[data-unreadable]").await?;
    page.go("/people").await?;
    page.read("[data-log=build_removed]", "bad block").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_of_another_shop_is_signed_elsewhere() -> Step {
    let (there, here) = (Rig::of_another_shop()?, Rig::start()?);
    let page = there.page(Size::BENCH).await?;
    page.sign_in("harrow", "slack-water-lead").await?;
    let file = page
        .script_async("fetch('/api/v1/builds/SL-042/export.json').then((r) => r.text()).then(arguments[0])")
        .await?;
    let renamed = file.as_str().ok_or("a file")?.to_owned();
    let path = page.folder().join("SL-042.json");
    fs::write(&path, &renamed)?;
    let ours = here.page(Size::BENCH).await?;
    ours.sign_in("harrow", "slack-water-lead").await?;
    // Out of the way: this shop has the same demo.
    let tables = "strikes readings target_changes concessions signatures notes facts changes build_summaries";
    let of_it = "build_id = (SELECT id FROM builds WHERE code = 'SL-042')";
    let rows: Vec<String> = tables.split(' ').map(|table| format!("DELETE FROM {table} WHERE {of_it}; ")).collect();
    here.tamper(&format!("{} DELETE FROM builds WHERE code = 'SL-042'", rows.concat()))?;
    ours.choose_file("[aria-label='Build file to import']", &path).await?;
    ours.see("[data-imported]").await?;
    ours.see("[data-elsewhere=checker]").await?;
    assert!(ours.script("return document.querySelector('[data-seal]').dataset.seal").await? != json!("sealed"));
    ours.go("/").await?;
    ours.read("[data-build='SL-042']", "Signed elsewhere").await?;
    page.close().await?;
    ours.close().await
}
