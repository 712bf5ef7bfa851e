//! One server with its own database.
use std::sync::Arc;

use jagged_pin_mariadb::{MariaDb, free_port};
use tempfile::TempDir;

use crate::process::{NO_GAUGES, Running, serve};
use crate::template::Template;
use crate::{Page, Size, Step};

/// A server, its database and the demo shop.
#[derive(Debug)]
pub struct Rig {
    server: Running,
    port: u16,
    database: Option<MariaDb>,
    folder: TempDir,
    /// Where the gauges that talk are plugged in.
    gauges: String,
    _template: Arc<Template>,
}

impl Rig {
    /// Starts a server over a database of its own with the demo shop: the same one, under the same key, in every rig.
    ///
    /// # Errors
    /// When the database or the server does not come up.
    pub fn start() -> Step<Self> {
        Self::start_with_gauges(NO_GAUGES)
    }

    /// The same, with gauges plugged in at an address.
    ///
    /// # Errors
    /// When the database or the server does not come up.
    pub fn start_with_gauges(gauges: &str) -> Step<Self> {
        Self::over(Template::shared()?, gauges)
    }

    /// Another shop: people, builds and gauges as everywhere, under a key that no other rig has.
    ///
    /// # Errors
    /// When the database or the server does not come up.
    pub fn of_another_shop() -> Step<Self> {
        Self::over(Arc::new(Template::made()?), NO_GAUGES)
    }

    fn over(template: Arc<Template>, gauges: &str) -> Step<Self> {
        let folder = template.copy()?;
        let database = MariaDb::start(folder.path())?;
        let port = free_port()?;
        let server = serve(&database, folder.path(), (port, true), gauges)?;
        Ok(Rig { server, port, database: Some(database), folder, gauges: gauges.to_owned(), _template: template })
    }

    /// Address of the application.
    pub fn url(&self, path: &str) -> String {
        format!("http://127.0.0.1:{}{path}", self.port)
    }

    /// Kills the server and then the database in the middle of whatever they do, and starts both again
    /// over the same files.
    ///
    /// # Errors
    /// When they do not come up again.
    pub fn crash_and_restart(&mut self) -> Step {
        self.server.kill();
        let port = self.database.as_ref().map_or(0, MariaDb::port);
        if let Some(database) = self.database.take() {
            database.kill();
        }
        let database = MariaDb::start_on(self.folder.path(), port)?;
        self.server = serve(&database, self.folder.path(), (self.port, false), &self.gauges)?;
        self.database = Some(database);
        Ok(())
    }

    /// Changes rows behind the server's back.
    ///
    /// # Errors
    /// When there is no database, or it does not take the statements.
    pub fn tamper(&self, statements: &str) -> Step {
        let database = self.database.as_ref().ok_or("there is no database")?;
        Ok(database.run("jagged_pin", statements)?)
    }

    /// Kills the server; its database stays.
    pub fn kill_server(&mut self) {
        self.server.kill();
    }

    /// Starts the server again where it was.
    ///
    /// # Errors
    /// When it does not come up.
    pub fn restart_server(&mut self) -> Step {
        let database = self.database.as_ref().ok_or("there is no database")?;
        self.server = serve(database, self.folder.path(), (self.port, false), &self.gauges)?;
        Ok(())
    }

    /// A browser at the bench in which somebody has signed in and gone somewhere, as soon as `sign` shows there.
    ///
    /// # Errors
    /// When the browser fails or the sign does not show.
    pub async fn at(&self, login: &str, path: &str, sign: &str) -> Step<Page> {
        let known = jagged_pin_demo::people();
        let person = known.iter().find(|p| p.login == login).ok_or("no such person in the demo")?;
        let page = self.page(Size::BENCH).await?;
        page.sign_in(login, person.password).await?;
        page.go(path).await?;
        page.see(sign).await?;
        Ok(page)
    }

    /// Opens a browser on it.
    ///
    /// # Errors
    /// When the browser does not come up.
    pub async fn page(&self, size: Size) -> Step<Page> {
        Page::open(self.url(""), size).await
    }
}
