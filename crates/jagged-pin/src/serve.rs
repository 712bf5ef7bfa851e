//! `serve`: the application over a given database.
use std::net::SocketAddr;
use std::path::PathBuf;

use clap::Args;
use jagged_pin_core::sheet::SealKey;
use jagged_pin_server::{AppState, seed};
use jagged_pin_store::Store;
use tokio::net::TcpListener;

use crate::database::Database;
use crate::stopping::Stopping;
use crate::{Web, key, listening};

#[derive(Args)]
pub struct Serve {
    #[command(flatten)]
    database: Database,
    /// Address to listen on.
    #[arg(long, env = "JAGGED_PIN_LISTEN", default_value = "127.0.0.1:8417")]
    listen: SocketAddr,
    /// Load the demo shop where it is not there yet; a shop with people of its own is left alone.
    #[arg(long)]
    demo: bool,
    /// Leave the tables as they are: for an account that may not change them. `jagged-pin tables` brings them up to date.
    #[arg(long)]
    tables_as_they_are: bool,
    /// File of the shop's key, made where there is none. Keep it apart from the database, and back it up.
    #[arg(long, env = "JAGGED_PIN_KEY_FILE", default_value = "var/shop.key")]
    key_file: PathBuf,
    /// Go on with this key although seals were made with another one, which is lost.
    #[arg(long)]
    another_key: bool,
    #[command(flatten)]
    web: Web,
}

impl Serve {
    pub async fn run(self) -> Result<(), String> {
        let stopping = Stopping::listen()?;
        match stopping.unless(self.start()).await {
            Some(started) => {
                let (store, listener, web, key) = started?;
                serve(store, listener, web, key, stopping).await
            }
            None => Ok(()),
        }
    }

    async fn start(self) -> Result<(Store, TcpListener, Web, SealKey), String> {
        let url = self.database.url()?;
        let store =
            if self.tables_as_they_are { Store::connect_as_it_is(&url).await } else { Store::connect(&url).await };
        let store = store.map_err(|e| e.to_string())?;
        let (store, key) = key::of(store, &self.key_file, self.another_key).await?;
        if self.demo {
            seed::demo(&store).await.map_err(|e| e.to_string())?;
        }
        let listener = listening::at(self.listen);
        let listener =
            listener.map_err(|e| format!("cannot listen on {}: {e}; choose another --listen", self.listen))?;
        Ok((store, listener, self.web, key))
    }
}

/// Serves until the process is asked to stop, then finishes what has begun.
pub async fn serve(
    store: Store,
    listener: TcpListener,
    web: Web,
    key: SealKey,
    stopping: Stopping,
) -> Result<(), String> {
    if !web.web.join("index.html").is_file() {
        return Err(format!("{} has no index.html: build the web application first", web.web.display()));
    }
    if !store.somebody_can_sign_in().await.map_err(|e| e.to_string())? {
        tracing::warn!("nobody can sign in yet: open the shop with `jagged-pin shop open`");
    }
    // Its turning true ends the event streams, which would otherwise go on for ever.
    let mut state = AppState::new(store, web.web, &web.shop, stopping.watch()).with_key(key);
    state.secure = web.secure_cookie;
    state.behind_proxy = web.behind_proxy;
    state.gauge_hub = web.gauges.as_str().into();
    let at = listener.local_addr().map_err(|e| e.to_string())?;
    tracing::info!(%at, "serving");
    let asked = async move {
        stopping.asked().await;
        tracing::info!("stopping");
    };
    jagged_pin_server::serve(listener, state, asked).await.map_err(|e| e.to_string())
}
