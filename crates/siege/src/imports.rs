//! Killed in the middle of an import: the build is there with its pictures, or not at all.
use std::time::Duration;

use rustix::process::Signal;
use serde_json::Value;
use tokio::time::sleep;

use crate::hand::Hand;
use crate::{Besieged, Killed, Step, Tally};

/// The build that is read in.
const BUILD: &str = "SL-041";

/// A file of the demo's build with pictures, under identifiers of its own.
fn another(file: &Value, n: usize) -> Step<(String, Value)> {
    let code = format!("CUT-{n}");
    let text = file.to_string().replace("5a170001", &format!("{:08x}", 0x6b28_0000 + n));
    let mut file: Value = serde_json::from_str(&text)?;
    file["build"]["code"] = code.clone().into();
    Ok((code, file))
}

/// Kills server, database or both while a file is read in, and looks at what is there afterwards. In the tally, `acknowledged`
/// counts files that were answered, `lost` builds that came without a picture or a fact.
///
/// # Errors
/// When the siege itself fails.
pub async fn cut_imports(times: usize, rng: &mut fastrand::Rng) -> Step<Tally> {
    let mut tally = Tally::default();
    let mut shop = Besieged::new()?;
    shop.begin()?;
    shop.comes_up()?;
    let hand = Hand::sign_in(&shop.base, "oduya").await?;
    let file = hand.get(&format!("/builds/{BUILD}/export.json")).await?.ok_or("the demo has it")?;
    for n in 0..times {
        let (code, whole) = another(&file, n)?;
        let (sender, body) = (Hand::sign_in(&shop.base, "oduya").await?, whole.to_string().into_bytes());
        let sent = tokio::spawn(async move { sender.post("/imports", "application/json", body).await });
        sleep(Duration::from_millis(rng.u64(1..250))).await;
        shop.kill(if rng.bool() { Killed::Server } else { Killed::Everything });
        let answered = sent.await? == 201;
        tally.acknowledged += usize::from(answered);
        tally.times += 1;
        shop.begin()?;
        match shop.comes_up() {
            Ok(took) => tally.longest_ms = tally.longest_ms.max(took.as_millis()),
            Err(said) => {
                tally.hands += 1;
                tally.said.push(said);
                break;
            }
        }
        let hand = Hand::sign_in(&shop.base, "oduya").await?;
        let there = hand.get(&format!("/builds/{code}/export.json")).await?;
        let facts = |file: &Value| file["build"]["facts"].as_array().map_or(0, Vec::len);
        let is_whole = |back: &Value| {
            // That it was read in is a fact more.
            back["pictures"] == whole["pictures"] && facts(back) == facts(&whole) + 1
        };
        let lost = there.as_ref().map_or(answered, |back| !is_whole(back));
        tally.lost += usize::from(lost);
        if there.is_none() && hand.post("/imports", "application/json", whole.to_string().into_bytes()).await != 201 {
            tally.hands += 1;
            tally.said.push(format!("{code} was not read in again"));
        }
    }
    tally.left = shop.end(Signal::TERM)?.1;
    Ok(tally)
}
