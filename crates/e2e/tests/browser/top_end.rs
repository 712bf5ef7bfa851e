//! The top end and the fillets: layers of the line, bores with and without the plate, rings by blades, sections, pictures.
use std::path::Path;

use jagged_pin_e2e::{Rig, Step};
use thirtyfour::Key;

#[tokio::test(flavor = "multi_thread")]
async fn cylinders_are_a_layer_and_turn_to_their_wrist_pins() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/B5", "[data-entry]").await?;
    page.see("nav [data-station=B5][data-state=edge]").await?;
    page.see("svg[aria-label^='Barrel of B5']").await?;
    page.read("[aria-label='What it means']", "plate off").await?;
    page.click_text("All bores").await?;
    page.read("[data-bore=B5]", "plate off: not to cut by").await?;
    page.read("[data-one-size=none]", "One size does not serve all").await?;
    page.fill("tolerance", "-1").await?;
    page.see("[data-problem=bad_field]").await?;
    // The other face of the layer, and back.
    page.press(Key::Escape + "").await?;
    page.click("[data-face=wrists]").await?;
    page.stands_at("W1", "the word in the rule turns the layer").await?;
    page.see("nav [data-station=W2][data-state=in]").await?;
    page.press(Key::PageUp + "").await?;
    page.see("nav [data-station=C1]").await?;
    page.see("nav [data-station=CE][data-state=in]").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bore_is_measured_with_the_plate_and_its_rings_by_blades() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/B6", "[data-entry]").await?;
    page.type_along(&["3.4749", "49", "49", "49", "49", "49", "49", "49", "49", "49", "49", "49"]).await?;
    page.see("nav [data-station=D1]").await?;
    page.go("/builds/SL-041/bench/B6").await?;
    page.see("nav [data-station=B6][data-state=in], nav [data-station=B6][data-state=edge]").await?;
    page.click_text("Rings, deck").await?;
    page.type_along(&["150 200"]).await?;
    // Whether the lower limit is met decides: the blade nearest to it, still inside.
    page.see("[data-beside=top_ring_gap]").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_shell_that_rides_on_a_fillet_is_drawn_and_narrowed() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/E", "[data-entry]").await?;
    page.click("[data-face=fillets]").await?;
    page.stands_at("FM1", "the word in the rule leads to the fillets").await?;
    page.press("fp2").await?;
    page.stands_at("FP2", "fp2 did not lead to FP2").await?;
    page.see("nav [data-station=FP2][data-state=tight]").await?;
    page.click_text("Section").await?;
    page.see("[data-fillet='FP2 front'] [data-take='635000']").await?;
    page.fill("claimed", ".010").await?;
    page.read("[data-claimed]", "does not clear").await?;
    page.fill("contact", ".880").await?;
    page.read("[data-take]", "load up by 2.9 %").await?;
    page.click_text("Rear").await?;
    page.see("[data-fillet='FP2 rear'] [data-take='0']").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_turned_main_tells_bend_from_ovality() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/M4", "[data-clearance]").await?;
    page.click_text("Runout").await?;
    page.read("[data-main-throw=M4]", "45").await?;
    page.click_text("Runout, line").await?;
    page.read("section[aria-label='Readings of M4']", "16 of 16").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_picture_is_kept_with_its_place_and_shown_beside_the_one_before() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/E", "[data-entry]").await?;
    page.click_text("Pictures").await?;
    page.see("[data-pictures='1'] section[aria-label=Before] img").await?;
    let drawn = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/screenshots/bench-tight.png").canonicalize()?;
    page.choose_file("input[name=picture]", &drawn).await?;
    page.fill("note", "front washer, grooves to the crank").await?;
    page.click_text("Keep the picture").await?;
    page.see("[data-pictures='2'] section[aria-label=After] img").await?;
    page.read("section[aria-label=After]", "J. Wick").await?;
    let loads =
        "const i = document.querySelector('section[aria-label=After] img'); return i.complete && i.naturalWidth > 100";
    page.until(loads, vec![], "the picture is not shown").await?;
    // What is no picture is refused with its reason, and nothing typed is lost.
    let text = Path::new(env!("CARGO_MANIFEST_DIR")).join("Cargo.toml");
    page.choose_file("input[name=picture]", &text).await?;
    page.fill("note", "not one").await?;
    page.click_text("Keep the picture").await?;
    page.see("[data-problem]").await?;
    page.see("[data-pictures='2']").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_bore_is_honed_by_its_log_and_washed_before_it_signs() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/B1", "[data-entry]").await?;
    page.click_text("Hone log").await?;
    for (strokes, size, entries) in [("0", "3.4742", 1), ("20", "3.4746", 2)] {
        page.fill("strokes", strokes).await?;
        page.fill("size", size).await?;
        page.click_text("Keep it").await?;
        page.see(&format!("[data-strokes=B1] tbody tr:nth-child({entries})")).await?;
    }
    // A tenth takes five strokes; three tenths are left, and the first rate is trusted by half.
    page.see("[data-next='7']").await?;
    page.go("/builds/SL-041/bench/B1").await?;
    page.see("[data-entry]").await?;
    page.press(Key::Escape + "").await?;
    page.press("w").await?;
    page.press(Key::Enter + "").await?;
    page.click("button[aria-label^='What was done']").await?;
    page.choose("Cylinder washed").await?;
    page.fill("note", "hot, brush").await?;
    page.see("button[type=submit]:disabled").await?;
    for tick in ["scrubbed", "white_cloth", "oiled"] {
        page.click(&format!("input[name={tick}]")).await?;
    }
    page.click_text("Record it").await?;
    page.gone("[role=dialog]").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn decks_are_a_face_of_the_layer_and_the_block_names_the_stack_that_is_off() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/D1", "[data-entry]").await?;
    page.see("nav [data-station=D1]").await?;
    page.click_text("Block").await?;
    page.read("[data-deck=D1]", "twist").await?;
    page.read("[data-stack=B3]", "compression height").await?;
    page.fill("deck", "0.0040").await?;
    page.read("[data-changes='101600']", "every deck clearance loses").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn the_smallest_oversize_waits_for_every_cylinder() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-041/bench/B2", "[data-entry]").await?;
    page.click_text("Oversize").await?;
    page.read("[data-oversize=open]", "B6").await?;
    page.fill("unworn", "3.4740").await?;
    page.read("[data-worn=B1]", "3.4770").await?;
    for (name, text) in [("length", "6.0"), ("over", "0.787"), ("stone", "2.0"), ("rpm", "170")] {
        page.fill(name, text).await?;
    }
    page.see("[data-hatch='69']").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn pistons_are_weighed_in_their_line_and_the_bores_ordered_from_the_plan() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("oduya", "/builds/SL-041/bench/B1", "[data-entry]").await?;
    page.click_text("All bores").await?;
    page.click("[data-noted=B1] input[aria-label='Piston, g, W1']").await?;
    // What stands there is typed over.
    page.type_along(&["412,45"]).await?;
    let kept = "return document.querySelector(\"[data-noted=B1] input\")?.value === '412.45'";
    page.until(kept, vec![], "the weight does not stand in its cell").await?;
    page.read("[data-gauge-point=skirt_bottom]", "0.5000 up from the skirt").await?;
    page.read("[data-bore=B3]", "hone").await?;
    page.click_text("Order these bores").await?;
    page.fill("shop", "the honer").await?;
    page.click_text("Write it").await?;
    page.gone("[role=dialog]").await?;
    page.click("[data-cylinder-order=written]").await?;
    page.read("main", "hone to size").await?;
    page.read("main", "mark it with its piston").await?;
    page.close().await
}

#[tokio::test(flavor = "multi_thread")]
async fn a_piston_that_stands_proud_of_its_deck_is_typed_with_a_minus() -> Step {
    let rig = Rig::start()?;
    let page = rig.at("wick", "/builds/SL-043/bench/B1", "[data-entry]").await?;
    page.click_text("Rings, deck").await?;
    // Past both gaps and the groove.
    page.press(Key::Down + Key::Down + Key::Down).await?;
    page.see("td[data-active][data-cell^='B1 below_deck']").await?;
    page.type_along(&["-.0035", "-.0035", "-.0030", "-.0030"]).await?;
    // The hand goes on through what nobody asked for.
    page.see("[data-beside=deck_clearance]").await?;
    page.read("section[aria-label='Readings of B1']", "4 of 4").await?;
    page.read("section[aria-label='Readings of B1']", "\u{2212}0.0030").await?;
    page.close().await
}
