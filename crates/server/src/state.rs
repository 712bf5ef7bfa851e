//! What every handler shares.
use std::path::PathBuf;
use std::sync::{Arc, PoisonError, RwLock};

use jagged_pin_core::Unit;
use jagged_pin_core::gauge::Gauge;
use jagged_pin_store::{ShopGauge, Store, StoreError};
use tokio::sync::watch;

use crate::changes::Changes;
use crate::evaluated::EvaluatedBuilds;

/// Where the gauges that talk are plugged in unless said.
pub const GAUGE_HUB: &str = "127.0.0.1:8418";

/// The state of one server. Cheap to clone.
#[derive(Clone, Debug)]
pub struct AppState {
    /// The database.
    pub store: Store,
    /// The gauge room as it was last looked at.
    room: Arc<RwLock<Vec<ShopGauge>>>,
    /// Builds evaluated lately.
    pub evaluated: Arc<EvaluatedBuilds>,
    /// Follows what changes in it.
    pub changes: Arc<Changes>,
    /// Folder of the built web application.
    pub web: PathBuf,
    /// Name of the shop, for the title.
    pub shop: Arc<str>,
    /// Whether browsers reach it over TLS only, so that the session's cookie may say so.
    pub secure: bool,
    /// Where the gauges that talk are plugged in.
    pub gauge_hub: Arc<str>,
    /// Turns true when the server is told to stop.
    pub stopping: watch::Receiver<bool>,
}

impl AppState {
    /// The state of a server over `store`, which serves the web application in `web`, until `stopping`.
    pub fn new(store: Store, web: PathBuf, shop: &str, stopping: watch::Receiver<bool>) -> Self {
        let changes = Changes::follow(store.clone(), stopping.clone());
        let evaluated = Arc::default();
        AppState {
            store,
            room: Arc::default(),
            evaluated,
            changes,
            web,
            shop: shop.into(),
            secure: false,
            gauge_hub: GAUGE_HUB.into(),
            stopping,
        }
    }

    /// The gauge room as it is now.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn gauge_room(&self) -> Result<Vec<ShopGauge>, StoreError> {
        let room = self.store.gauge_room().await?;
        room.clone_into(&mut self.room.write().unwrap_or_else(PoisonError::into_inner));
        Ok(room)
    }

    /// The gauges of the room for builds in `unit`, as they were last looked at.
    pub fn gauges(&self, unit: Unit) -> Vec<Gauge> {
        let room = self.room.read().unwrap_or_else(PoisonError::into_inner);
        room.iter().filter(|g| g.unit == unit).map(|g| g.gauge.clone()).collect()
    }
}
