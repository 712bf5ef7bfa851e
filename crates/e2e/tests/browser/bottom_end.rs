//! Rods, staleness, set-ups, looks, blind second touches, proof, and files of readings.
use jagged_pin_e2e::{Page, Rig, Size, Step};
use thirtyfour::Key;

async fn signed_in(rig: &Rig, login: &str, password: &str, path: &str) -> Step<Page> {
    let page = rig.page(Size::BENCH).await?;
    page.sign_in(login, password).await?;
    page.go(path).await?;
    Ok(page)
}

async fn oduya(rig: &Rig, path: &str) -> Step<Page> {
    signed_in(rig, "oduya", "first-of-the-flood", path).await
}

/// One touch a place instead of two: a first look, by the rules of the build.
async fn one_touch_a_place(page: &Page) -> Step {
    page.go("/builds/SL-046/set-up").await?;
    page.see("[data-cap=M1]").await?;
    page.click("button[aria-label^='Touches a place']").await?;
    page.choose("1").await?;
    page.fill("reason", "a first look").await?;
    page.click_text("Change the rules").await?;
    page.read("[data-work=rules]", "1 touch a place").await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_full_crank_is_typed_with_values_and_enter_alone() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/").await?;
    one_touch_a_place(&page).await?;
    page.go("/builds/SL-046/bench").await?;
    page.see("[data-entry]").await?;
    page.script("window.presses = 0; addEventListener('keydown', () => { window.presses += 1 }, true); return true")
        .await?;
    // Seven mains and six pins of four places; the first of each row in full, then tails.
    let mut entries: Vec<&str> = vec!["2.6238"];
    entries.extend(["38"; 27]);
    entries.push("2.1238");
    entries.extend(["38"; 23]);
    // Seven main bearings of two places, six rod bearings of three, and two toward the parting line each.
    for _ in 0..7 {
        entries.extend(["21", "22", "30", "30"]);
    }
    for _ in 0..6 {
        entries.extend(["21", "22", "21", "30", "30"]);
    }
    page.type_along(&entries).await?;
    page.until(
        "return fetch('/api/v1/builds/SL-046').then((r) => r.json()).then((b) => b.readings.length === 110 && b.assessment.figures.every((s) => s.judged || !s.asked))",
        vec![],
        "not every bearing is judged",
    )
    .await?;
    let typed: usize = entries.iter().map(|e| e.len() + 1).sum();
    let pressed = page.script("return window.presses").await?;
    assert_eq!(pressed.as_u64(), u64::try_from(typed).ok(), "value and Enter, and no other key");
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn work_on_a_journal_ends_its_evidence_and_the_way_back_is_offered() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-041/bench/M4").await?;
    page.see("[data-clearance]").await?;
    page.press("w").await?;
    page.press(Key::Enter + "").await?;
    page.click("button[aria-label^='What was done']").await?;
    page.choose("Journal polished").await?;
    // What it ends is said before it is recorded.
    page.see("[data-impact='26']").await?;
    page.read("[data-impact]", "journal of M4 (8), strip of M4 (2), runout of M4 (16)").await?;
    page.fill("note", "to take the blue off").await?;
    page.fill("grits", "800/1200/1500").await?;
    page.fill("minutes", "25").await?;
    page.click_text("Record it").await?;
    page.gone("[role=dialog]").await?;
    page.see("[data-station=M4][data-state=stale]").await?;
    page.read("[aria-label='Figures of M4']", "Journal polished, M4: to take the blue off").await?;
    page.see("td[data-stale]").await?;
    page.click("[data-again=journal]").await?;
    page.type_along(&["2.6237", "37", "37", "37", "37", "37", "37", "37"]).await?;
    page.press("m4").await?;
    page.see("[data-station=M4][data-state=edge], [data-station=M4][data-state=in]").await?;
    page.go("/builds/SL-041/set-up").await?;
    page.read("[data-work=work]", "grits 800/1200/1500, 25 min").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn another_set_up_asks_what_it_ends_and_ends_it() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-041/set-up").await?;
    page.see("[data-cap=M3]").await?;
    page.click("[data-cap=M3]").await?;
    page.read("[data-impact]", "bore of M3").await?;
    page.click("[data-cap=M3]").await?;
    page.gone("[data-impact]").await?;
    page.click_text("Bolts").await?;
    page.read("[data-impact]", "M1, M2, M3, M4, M5, M6").await?;
    page.click_text("Record the change").await?;
    page.see("[data-station=M1][data-state=stale]").await?;
    page.see("[data-station=P1][data-state=in]").await?;
    page.click("[data-station=M1]").await?;
    page.read("[aria-label='Figures of M1']", "Set-up of the mains changed: other fasteners").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_cap_held_by_more_than_one_group_says_so_and_what_it_ends() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-041/set-up").await?;
    page.see("[data-cap=M1]").await?;
    page.see("svg[aria-label='Order of the caps: M4, M3, M5, M2, M6, M1, M7, right nut before left']").await?;
    page.click("[data-add-group=side]").await?;
    page.read("[aria-label='If this is recorded']", "name the set, the lubricant and at least one step").await?;
    page.fill("side-set", "side bolts").await?;
    page.fill("side-lubricant", "oil").await?;
    page.fill("side-steps", "tight").await?;
    page.read("[aria-label='If this is recorded']", "\"tight\" is no step").await?;
    page.fill("side-steps", "15 lb-ft, 25 lb-ft").await?;
    page.read("[data-impact]", "M1, M2, M3, M4, M5, M6").await?;
    page.click_text("Record the change").await?;
    page.read("[data-work=set_up]", "side: side bolts, oil, 15 lb-ft then 25 lb-ft").await?;
    page.see("[data-station=M1][data-state=stale]").await?;
    page.until(
        "return document.querySelector('input[name=side-steps]').value === '15 lb-ft, 25 lb-ft'",
        vec![],
        "what was recorded stands in the form",
    )
    .await?;
    page.click("[data-station=M1]").await?;
    page.read("[aria-label='Figures of M1']", "other fasteners through the side").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_places_of_a_feature_are_changed_for_a_build_with_a_reason() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-046/set-up").await?;
    // From touching at 90 degrees to informing there, and then not at all; the middle is added.
    for place in ["front 90\u{b0}", "front 90\u{b0}", "rear 90\u{b0}", "rear 90\u{b0}", "middle 0\u{b0}"] {
        page.click(&format!("[data-place='{place}']")).await?;
    }
    page.fill("plan-reason", "narrow journals, one direction is reachable").await?;
    page.click_text("Change the places").await?;
    page.read("[data-work=plan]", "main journal is touched at 3 places").await?;
    page.go("/builds/SL-046/bench").await?;
    page.see("[data-position='journal middle 0']").await?;
    page.until("return document.querySelectorAll(\"[data-position^='journal']\").length === 3", vec![], "other places")
        .await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_seen_is_entered_by_keys_and_leads_to_the_check() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-046/look").await?;
    page.see("[data-look='M1 journal'][aria-current]").await?;
    page.read("section[aria-label='What it suggests']", "Nothing was looked at yet").await?;
    page.press(Key::Right + "").await?;
    page.see("[data-look='M2 journal'][aria-current]").await?;
    page.press("3").await?;
    page.see("[data-look='M2 journal'][data-signs=catches_nail]").await?;
    page.read("[data-suspicion=stop_journal]", "To the grinder").await?;
    page.read("section[aria-label='What is seen']", "crack test first").await?;
    page.click("[data-suspicion=stop_journal] a").await?;
    page.stands_at("M2", "the check is not linked").await?;
    page.read("[aria-label='Figures of M2']", "To the grinder").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_second_person_measures_blind_and_both_are_compared() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-041/bench/M5").await?;
    page.click_text("Ask for a blind touch").await?;
    page.click("button[aria-label^='Who measures']").await?;
    page.choose("T. Kell").await?;
    page.click_text("Ask").await?;
    page.gone("[role=dialog]").await?;
    page.read("[data-blind=asked]", "asked, not yet measured").await?;
    let other = signed_in(&rig, "kell", "second-pair-of-eyes", "/builds/SL-041/bench/M1").await?;
    other.click("[data-asked=M5]").await?;
    other.see("[data-station=M5][data-state=open]").await?;
    other.read("section[aria-label='Readings of M5']", "0 of 8").await?;
    other.press("j").await?;
    other.type_along(&["2.6237", "37", "37", "37", "37", "37", "37"]).await?;
    // The last place has one touch: every place that counts was touched, and the veil is lifted.
    other.gone("[data-asked]").await?;
    other.see("[data-station=M5][data-state=loose]").await?;
    page.read("[data-blind=agrees]", "they agree").await?;
    other.close().await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_proof_shows_every_method_its_budget_and_what_would_help() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-041/bench/M4").await?;
    page.see("[data-clearance]").await?;
    page.press("u").await?;
    for method in ["direct", "subtract", "components", "strip"] {
        page.see(&format!("[data-method={method}]")).await?;
    }
    page.read("[data-method=direct]", "judged").await?;
    page.read("[data-method=components]", "agree, En").await?;
    page.read("[data-budget=direct]", "What would shrink it most").await?;
    page.read("[data-view=proof]", "this build's rules prefer it").await?;
    // Walls by the catalogue leave a band.
    page.press("r1").await?;
    page.read("[data-method=components]", "walls by the catalogue").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_rods_are_a_second_line_one_key_away() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-043/bench/M1").await?;
    page.see("[data-station=P2]").await?;
    page.press("f").await?;
    page.press(Key::Enter + "").await?;
    page.see("[data-station=R6]").await?;
    page.gone("[data-station=M1]").await?;
    page.click("[data-station=R4]").await?;
    page.read("section[aria-label='Readings of R4']", "Pin P2").await?;
    page.press("f").await?;
    page.press(Key::Enter + "").await?;
    page.press("p3").await?;
    page.read("section[aria-label='Readings of R5']", "Pin P3").await?;
    // Housing and shells of the same bearing.
    page.press("h").await?;
    page.read("section[aria-label='Readings of R5']", "Housing, no shells").await?;
    page.type_along(&["0"]).await?;
    page.read("section[aria-label='Readings of R5']", "1 of 12").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_file_of_readings_is_shown_row_by_row_before_anything_is_kept() -> Step {
    let rig = Rig::start()?;
    let page = oduya(&rig, "/builds/SL-046/sheet").await?;
    let file = page.folder().join("readings.csv");
    let rows = "station,feature,axial,angle,method,reference,gauge,reading\n\
        M1,main_journal,front,0,,,mic-tenths,2.6238\nM1,main_journal,front,90,,,mic-tenths,x\n";
    std::fs::write(&file, rows)?;
    page.click_text("Readings from a file").await?;
    page.choose_file("[role=dialog] input[type=file]", &file).await?;
    page.see("[data-good='1'][data-bad='1']").await?;
    page.read("[data-line='3']", "is not a figure").await?;
    page.click_text("Keep 1").await?;
    page.gone("[role=dialog]").await?;
    page.go("/builds/SL-046/bench/M1").await?;
    page.read("section[aria-label='Readings of M1']", "1 of 8").await?;
    page.close().await
}
