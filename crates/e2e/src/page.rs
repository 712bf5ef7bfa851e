//! One browser, driven as a person would: keys, clicks, and looking at what is shown.
use std::path::Path;
use std::process::Command;
use std::time::Duration;

use jagged_pin_mariadb::free_port;
use serde_json::{Value, json};
use tempfile::TempDir;
use thirtyfour::common::print::PrintParameters;
use thirtyfour::error::WebDriverErrorInner;
use thirtyfour::prelude::*;

use crate::Step;
use crate::process::{Running, wait_for_port};

/// How long a state may take to show. Only a test that fails waits that long; a machine under load may be slow many times over.
const PATIENCE: Duration = Duration::from_secs(60);
const POLL: Duration = Duration::from_millis(40);

/// Size of the window's inside.
#[derive(Debug, Clone, Copy)]
pub struct Size(pub u32, pub u32);

impl Size {
    /// A bench computer.
    pub const BENCH: Size = Size(1280, 800);
    /// A tablet.
    pub const TABLET: Size = Size(1024, 768);
}

/// A browser with one window.
#[derive(Debug)]
pub struct Page {
    driver: WebDriver,
    base: String,
    // Ended after the browser's session, in this order.
    _chromedriver: Running,
    profile: TempDir,
}

/// Keys that change what the others say.
const MODIFIERS: [Key; 4] = [Key::Shift, Key::Control, Key::Alt, Key::Meta];

impl Page {
    /// Opens a browser whose addresses start with `base`.
    ///
    /// # Errors
    /// When ChromeDriver or Chromium does not come up.
    pub async fn open(base: String, size: Size) -> Step<Self> {
        let profile = TempDir::new()?;
        let port = free_port()?;
        let chromedriver = Running::start(Command::new("chromedriver").arg(format!("--port={port}")))?;
        wait_for_port(port)?;
        let mut caps = DesiredCapabilities::chrome();
        for argument in [
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-dev-shm-usage",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--hide-scrollbars",
            "--force-device-scale-factor=1",
        ] {
            caps.add_arg(argument)?;
        }
        caps.add_arg(&format!("--user-data-dir={}", profile.path().display()))?;
        caps.add_arg(&format!("--window-size={},{}", size.0, size.1))?;
        let downloads = profile.path().join("downloads").display().to_string();
        caps.add_experimental_option("prefs", serde_json::json!({ "download.default_directory": downloads }))?;
        let driver = WebDriver::new(format!("http://127.0.0.1:{port}"), caps).await?;
        let page = Page { driver, base, _chromedriver: chromedriver, profile };
        page.fit(size).await?;
        Ok(page)
    }

    /// Makes the inside of the window exactly that large.
    async fn fit(&self, size: Size) -> Step {
        let inside = self.script("return [window.innerWidth, window.innerHeight]").await?;
        let part = |i: usize, wanted: u32| {
            u32::try_from(inside[i].as_u64().unwrap_or(0)).map_or(0, |got| wanted.saturating_sub(got))
        };
        let (wider, higher) = (part(0, size.0), part(1, size.1));
        self.driver.set_window_rect(0, 0, size.0 + wider, size.1 + higher).await?;
        Ok(())
    }

    /// Goes to an address below the base, and waits until what stands there is drawn: what is typed before goes nowhere.
    ///
    /// # Errors
    /// When the browser fails.
    pub async fn go(&self, path: &str) -> Step {
        self.driver.goto(format!("{}{path}", self.base)).await?;
        let drawn = "return Boolean(document.querySelector('main'))";
        self.until(drawn, Vec::new(), &format!("nothing is drawn at {path}")).await
    }

    /// Signs in through the form and waits for the floor.
    ///
    /// # Errors
    /// When the floor does not show.
    pub async fn sign_in(&self, login: &str, password: &str) -> Step {
        self.go("/").await?;
        self.see("input[name=login]").await?.send_keys(login).await?;
        self.see("input[name=password]").await?.send_keys(password).await?;
        self.press(Key::Enter + "").await?;
        self.see("[data-build]").await?;
        Ok(())
    }

    /// Waits until an element shows, and returns it.
    ///
    /// # Errors
    /// When it does not show in time.
    pub async fn see(&self, css: &str) -> Step<WebElement> {
        self.shown(By::Css(css), css).await
    }

    /// What shows there, by whatever it is found.
    async fn shown(&self, by: By, called: &str) -> Step<WebElement> {
        let until = tokio::time::Instant::now() + PATIENCE;
        loop {
            let found = self.driver.query(by.clone()).wait(PATIENCE, POLL).and_displayed().first().await;
            match found {
                Ok(element) => return Ok(element),
                // Drawn anew between being found and being looked at: there is another one now.
                Err(error) if is_stale(&error) && tokio::time::Instant::now() < until => {}
                Err(error) => {
                    let shown = self.text("body").await.unwrap_or_default();
                    return Err(format!("{called} does not show: {error}\n{shown}").into());
                }
            }
        }
    }

    /// Clicks what shows there; what is drawn anew under the mouse is clicked as it is then.
    async fn click_on(&self, by: By, called: &str) -> Step {
        let until = tokio::time::Instant::now() + PATIENCE;
        loop {
            match self.shown(by.clone(), called).await?.click().await {
                Err(error) if is_stale(&error) && tokio::time::Instant::now() < until => {}
                clicked => return Ok(clicked?),
            }
        }
    }

    /// Waits until an element is gone.
    ///
    /// # Errors
    /// When it stays.
    pub async fn gone(&self, css: &str) -> Step {
        let gone = self.driver.query(By::Css(css)).wait(PATIENCE, POLL).not_exists().await?;
        if gone {
            return Ok(());
        }
        let shown = self.text("body").await.unwrap_or_default();
        Err(format!("{css} is still there; the page shows:\n{shown}").into())
    }

    /// Waits until the text of an element holds `part`.
    ///
    /// # Errors
    /// When it does not in time.
    pub async fn read(&self, css: &str, part: &str) -> Step {
        let script = "const e = document.querySelector(arguments[0]); return !!e && e.innerText.replace(/\\s+/g, ' ').includes(arguments[1])";
        self.until(script, vec![css.into(), part.into()], &format!("{css} does not say \"{part}\"")).await
    }

    /// Waits until a script returns true.
    ///
    /// # Errors
    /// With `otherwise`, when it does not in time.
    pub async fn until(&self, script: &str, arguments: Vec<Value>, otherwise: &str) -> Step {
        let until = tokio::time::Instant::now() + PATIENCE;
        loop {
            let now = self.driver.execute(script, arguments.clone()).await?;
            if now.json().as_bool() == Some(true) {
                return Ok(());
            }
            if tokio::time::Instant::now() > until {
                let shown = self.text("body").await.unwrap_or_default();
                return Err(format!("{otherwise}; the page shows:\n{shown}").into());
            }
            tokio::time::sleep(POLL).await;
        }
    }

    /// Waits until the bench stands at a station: the address says so, and so does what is drawn. A key that is pressed
    /// between the two acts on the station before.
    ///
    /// # Errors
    /// With `otherwise`, when it does not in time.
    pub async fn stands_at(&self, station: &str, otherwise: &str) -> Step {
        let both = "return location.pathname.endsWith(`/${arguments[0]}`) && \
                    !!document.querySelector(`section[aria-label='Readings of ${arguments[0]}']`)";
        self.until(both, vec![station.into()], otherwise).await
    }

    /// Clicks an element that shows.
    ///
    /// # Errors
    /// When it does not show, or cannot be clicked.
    pub async fn click(&self, css: &str) -> Step {
        self.click_on(By::Css(css), css).await
    }

    /// Takes an element and drags it sideways by so many pixels.
    ///
    /// # Errors
    /// When it does not show, or the browser fails.
    pub async fn drag(&self, css: &str, by: i64) -> Step {
        let handle = self.see(css).await?;
        let chain = self.driver.action_chain().click_and_hold_element(&handle);
        chain.move_by_offset(by, 0).release().perform().await?;
        Ok(())
    }

    /// Prints the page as it would come out on paper; returns the PDF.
    ///
    /// # Errors
    /// When the browser fails.
    pub async fn print(&self) -> Step<Vec<u8>> {
        Ok(self.driver.print_page(PrintParameters::default()).await?)
    }

    /// Clicks the button or link with that text.
    ///
    /// # Errors
    /// When there is none.
    pub async fn click_text(&self, text: &str) -> Step {
        let path = format!("//*[self::button or self::a][normalize-space()='{text}']");
        self.click_on(By::XPath(path.as_str()), &format!("the button \"{text}\"")).await
    }

    /// Chooses from a list that is open.
    ///
    /// # Errors
    /// When the list has no such choice.
    pub async fn choose(&self, text: &str) -> Step {
        let path = format!("//*[@role='option'][normalize-space()='{text}']");
        self.click_on(By::XPath(path.as_str()), &format!("the choice \"{text}\"")).await
    }

    /// Replaces what is in a field.
    ///
    /// # Errors
    /// When the field does not show.
    pub async fn fill(&self, name: &str, text: &str) -> Step {
        let field = self.see(&format!("input[name='{name}']")).await?;
        field.send_keys(Key::Control + "a").await?;
        field.send_keys(Key::Delete + "").await?;
        field.send_keys(text).await?;
        Ok(())
    }

    /// Types into whatever holds the focus at each stroke, as a keyboard does: what the page draws anew meanwhile is no
    /// matter. A modifier is held until the last key is up.
    ///
    /// # Errors
    /// When the browser fails.
    pub async fn press(&self, keys: impl Into<TypingData>) -> Step {
        let mut strokes = self.driver.action_chain();
        let mut held = Vec::new();
        for key in keys.into().as_vec() {
            strokes = strokes.key_down(key);
            if MODIFIERS.iter().any(|m| m.value() == key) {
                held.push(key);
            } else {
                strokes = strokes.key_up(key);
            }
        }
        for key in held {
            strokes = strokes.key_up(key);
        }
        strokes.perform().await?;
        Ok(())
    }

    /// Types each entry and Enter, as a hand at the bench does: nothing in between.
    ///
    /// # Errors
    /// When the browser fails.
    pub async fn type_along(&self, entries: &[&str]) -> Step {
        for entry in entries {
            self.press(*entry).await?;
            self.press(Key::Enter + "").await?;
        }
        Ok(())
    }

    /// Types at an even pace, whatever the page does meanwhile: as a hand that does not look up. A line's end is Enter.
    ///
    /// # Errors
    /// When the browser fails.
    pub async fn type_at(&self, text: &str, pace: Duration) -> Step {
        let tools = self.driver.cdp();
        let mut beat = tokio::time::interval(pace);
        for c in text.chars() {
            beat.tick().await;
            let (key, code) = if c == '\n' { ("Enter".to_owned(), 13) } else { (c.to_string(), u32::from(c)) };
            let typed = if c == '\n' { "\r".to_owned() } else { key.clone() };
            let down = json!({ "type": "keyDown", "key": key, "text": typed, "windowsVirtualKeyCode": code });
            tools.send_raw("Input.dispatchKeyEvent", down).await?;
            let up = json!({ "type": "keyUp", "key": key, "windowsVirtualKeyCode": code });
            tools.send_raw("Input.dispatchKeyEvent", up).await?;
        }
        Ok(())
    }

    /// Text of the first element.
    ///
    /// # Errors
    /// When the browser fails.
    pub async fn text(&self, css: &str) -> Step<String> {
        let script = "const e = document.querySelector(arguments[0]); return e ? e.innerText : ''";
        let found = self.driver.execute(script, vec![css.into()]).await?;
        Ok(found.json().as_str().unwrap_or_default().to_owned())
    }

    /// An attribute of the first element.
    ///
    /// # Errors
    /// When the browser fails.
    pub async fn attribute(&self, css: &str, name: &str) -> Step<Option<String>> {
        Ok(self.see(css).await?.attr(name).await?)
    }

    /// Runs a script and returns what it returns.
    ///
    /// # Errors
    /// When the script throws.
    pub async fn script(&self, script: &str) -> Step<Value> {
        Ok(self.driver.execute(script, Vec::new()).await?.json().clone())
    }

    /// Runs an asynchronous script, which calls its last argument with the result.
    ///
    /// # Errors
    /// When the script throws.
    pub async fn script_async(&self, script: &str) -> Step<Value> {
        Ok(self.driver.execute_async(script, Vec::new()).await?.json().clone())
    }

    /// Puts a file into a file input, hidden or not.
    ///
    /// # Errors
    /// When there is no such input.
    pub async fn choose_file(&self, css: &str, file: &Path) -> Step {
        let input = self.driver.query(By::Css(css)).wait(PATIENCE, POLL).first().await?;
        input.send_keys(file.display().to_string()).await?;
        Ok(())
    }

    /// Forgets the cookies, as the end of a session would.
    ///
    /// # Errors
    /// When the browser fails.
    pub async fn forget_session(&self) -> Step {
        self.driver.delete_all_cookies().await?;
        Ok(())
    }

    /// A folder that lives as long as the page.
    pub fn folder(&self) -> &Path {
        self.profile.path()
    }

    /// Saves a picture of the window.
    ///
    /// # Errors
    /// When it cannot be written.
    pub async fn picture(&self, path: &Path) -> Step {
        // Fonts first: a picture in a stand-in font shows nothing.
        self.script_async(
            "const done = arguments[0]; document.fonts.ready.then(() => requestAnimationFrame(() => done(true)))",
        )
        .await?;
        self.driver.screenshot(path).await?;
        Ok(())
    }

    /// Ends the browser in order.
    ///
    /// # Errors
    /// When the browser fails.
    pub async fn close(self) -> Step {
        self.driver.quit().await?;
        Ok(())
    }
}

fn is_stale(error: &thirtyfour::error::WebDriverError) -> bool {
    matches!(error.as_inner(), WebDriverErrorInner::StaleElementReference(_))
}
