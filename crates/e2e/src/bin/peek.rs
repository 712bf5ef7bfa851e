use jagged_pin_e2e::{Rig, Size, Step};
use std::path::PathBuf;
#[tokio::main]
async fn main() -> Step {
    let folder = PathBuf::from("/tmp/shots");
    std::fs::create_dir_all(&folder)?;
    let rig = Rig::start()?;
    let args: Vec<String> = std::env::args().skip(1).collect();
    let page = rig.page(if args[0] == "tablet" { Size::TABLET } else { Size::BENCH }).await?;
    page.sign_in("harrow", "slack-water-lead").await?;
    // name path [steps...] separated by --
    for group in args[1..].split(|a| a == "--") {
        let [name, path, steps @ ..] = group else { continue };
        page.go(path).await?;
        tokio::time::sleep(std::time::Duration::from_millis(1200)).await;
        for step in steps {
            let (kind, rest) = step.split_once(':').unwrap_or((step, ""));
            let done = match kind {
                "press" => page.press(rest).await,
                "click" => page.click(rest).await,
                "text" => page.click_text(rest).await,
                "choose" => page.choose(rest).await,
                "fill" => {
                    let (n, t) = rest.split_once('=').unwrap_or((rest, ""));
                    page.fill(n, t).await
                }
                _ => Ok(()),
            };
            if let Err(e) = done {
                println!("{name} {step}: {e}");
            }
            tokio::time::sleep(std::time::Duration::from_millis(500)).await;
        }
        page.picture(&folder.join(format!("{name}.png"))).await?;
    }
    page.close().await
}
