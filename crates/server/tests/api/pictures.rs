//! Pictures as evidence: kept without what the camera says, shown to whoever signed in, exported, and noticed when changed.
use base64::Engine as _;
use serde_json::{Value, json};
use sha2::{Digest, Sha256};
use uuid::Uuid;

use crate::house::{House, Outcome};

/// A small PNG, drawn here.
fn png(width: u32, height: u32, red: u8) -> Vec<u8> {
    let mut out = Vec::new();
    let picture = image::RgbImage::from_pixel(width, height, image::Rgb([red, 60, 90]));
    let written =
        image::DynamicImage::ImageRgb8(picture).write_to(&mut std::io::Cursor::new(&mut out), image::ImageFormat::Png);
    assert!(written.is_ok());
    out
}

fn way(build: &str, place: &str, moment: &str, id: Uuid) -> String {
    format!("/builds/{build}/pictures?id={id}&place={place}&moment={moment}&note=as%20it%20stands")
}

#[tokio::test(flavor = "multi_thread")]
async fn a_picture_is_kept_once_shown_again_and_exported_with_its_build() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let id = Uuid::new_v4();
    let way = way("SL-046", "M3", "after", id);
    let kept = person.send_bytes(&way, "image/png", png(60, 40, 200)).await?;
    assert_eq!(kept.status, 200, "{:?}", kept.body);
    assert_eq!(person.send_bytes(&way, "image/png", png(60, 40, 200)).await?.body["again"], json!(true));
    // Another picture under that id is another write.
    assert_eq!(person.send_bytes(&way, "image/png", png(60, 40, 10)).await?.problem().1, "id_reused");
    // And it left nothing behind.
    let refused = jagged_pin_pictures::prepare(&png(60, 40, 10))?.jpeg;
    let its: String = Sha256::digest(&refused).iter().map(|byte| format!("{byte:02x}")).collect();
    assert_eq!(person.get(&format!("/builds/SL-046/pictures/{its}")).await?.status, 404);
    let list = person.get("/builds/SL-046/pictures").await?.body;
    let [one] = list.as_array().map(Vec::as_slice).unwrap_or_default() else { return Err("there is one".into()) };
    assert_eq!((&one["place"], &one["moment"], &one["width"]), (&json!("M3"), &json!("after"), &json!(60)));
    let digest = one["digest"].as_str().unwrap_or_default().to_owned();
    let shown = person.get_bytes(&format!("/builds/SL-046/pictures/{digest}")).await?;
    assert!(shown.starts_with(&[0xff, 0xd8]), "it is a JPEG");
    assert_eq!(person.get(&format!("/builds/SL-046/pictures/{}", "0".repeat(64))).await?.status, 404);
    // In the file of the build, and back again in an empty shop, under the same digest.
    let file = person.get("/builds/SL-046/export.json").await?.body;
    assert_eq!(file["pictures"][0]["digest"], json!(digest));
    let empty = House::empty().await?;
    let other = empty.person("harrow").await?;
    let imported = other.post("/imports", file.clone()).await?;
    assert_eq!(imported.status, 201, "{:?}", imported.body);
    assert_eq!(other.get_bytes(&format!("/builds/SL-046/pictures/{digest}")).await?, shown);
    // A file whose picture is not what its fact names, or not in it, is refused whole.
    let mut without = file.clone();
    without["pictures"] = json!([]);
    let mut forged = file;
    forged["pictures"][0]["jpeg"] = Value::from(base64::engine::general_purpose::STANDARD.encode(png(8, 8, 1)));
    let third = House::empty().await?;
    for refused in [forged, without] {
        let harrow = third.person("harrow").await?;
        assert_eq!(harrow.post("/imports", refused).await?.problem(), (422, "bad_field", "pictures"));
    }
    // Struck, it stays on the record and proves nothing.
    let strike = json!({ "id": Uuid::new_v4(), "reading": id, "reason": "another main" });
    let fenn = house.person("fenn").await?;
    assert_eq!(fenn.post("/builds/SL-046/strikes", strike.clone()).await?.problem(), (403, "not_allowed", ""));
    assert_eq!(person.post("/builds/SL-046/strikes", strike).await?.status, 200);
    assert_eq!(person.get("/builds/SL-046/pictures").await?.body[0]["struck"], true);
    Ok(())
}

#[tokio::test(flavor = "multi_thread")]
async fn what_is_no_picture_is_refused_and_nothing_is_kept() -> Outcome {
    let house = House::demo().await?;
    let person = house.person("oduya").await?;
    let at = |place: &str| way("SL-046", place, "found", Uuid::new_v4());
    let no = person.send_bytes(&at("M3"), "image/jpeg", b"a text".to_vec()).await?;
    assert_eq!(no.problem(), (422, "bad_field", "picture"));
    assert_eq!(person.send_bytes(&at("M3"), "text/html", png(4, 4, 0)).await?.problem(), (422, "bad_field", "picture"));
    let large = person.send_bytes(&at("M3"), "image/jpeg", vec![0; 13 * 1024 * 1024]).await?;
    assert_eq!(large.problem(), (413, "too_large", "picture"), "{:?}", large.body);
    assert!(large.body["detail"].as_str().is_some_and(|d| d.contains("12 MB")), "{:?}", large.body);
    assert_eq!(person.send_bytes(&at("M9"), "image/png", png(4, 4, 0)).await?.status, 422);
    let nameless = format!("/builds/SL-046/pictures?id={}&place=M3&moment=found&note=", Uuid::new_v4());
    assert_eq!(person.send_bytes(&nameless, "image/png", png(4, 4, 0)).await?.status, 422);
    assert_eq!(person.get("/builds/SL-046/pictures").await?.body, json!([]));
    Ok(())
}
