//! What every handler shares.
use std::num::NonZeroUsize;
use std::path::PathBuf;
use std::sync::{Arc, Mutex, PoisonError, RwLock};

use jagged_pin_core::Unit;
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::sheet::SealKey;
use jagged_pin_store::{ShopGauge, Store, StoreError};
use lru::LruCache;
use tokio::sync::watch;
use uuid::Uuid;

use crate::changes::Changes;
use crate::clock;
use crate::doubts::{Doubt, Doubts};
use crate::evaluated::EvaluatedBuilds;
use crate::limits::Limits;

/// Where the gauges that talk are plugged in unless said.
pub const GAUGE_HUB: &str = "127.0.0.1:8418";

/// Sessions whose use is remembered.
const USED: NonZeroUsize = NonZeroUsize::MIN.saturating_add(1_023);
/// How exactly the last use of a session is known, ms.
const USED_WITHIN: i64 = 60_000;
/// How long a session lasts after its last use, hours: a long working day.
pub(crate) const SESSION_HOURS: i64 = 14;
const SESSION_MS: i64 = SESSION_HOURS * 60 * 60 * 1_000;
/// How far the clocks of two servers of one shop may differ, ms.
const CLOCKS_DIFFER: i64 = 60 * 60 * 1_000;

/// Until when a session may last that was used by `now`.
pub(crate) const fn latest_end(now: i64) -> i64 {
    now.saturating_add(SESSION_MS).saturating_add(CLOCKS_DIFFER)
}

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
    /// When sessions were last noted as used, by their identifiers.
    used: Arc<Mutex<LruCache<String, i64>>>,
    /// Where the gauges that talk are plugged in.
    pub gauge_hub: Arc<str>,
    /// Marks what is sealed here; without one, seals carry a digest only.
    pub key: Option<SealKey>,
    /// Builds whose record does not hold, as they were last looked at.
    doubts: Arc<RwLock<Doubts>>,
    /// How much is done at once of what is costly.
    pub limits: Arc<Limits>,
    /// Whether addresses of browsers are what a proxy in front says they are.
    pub behind_proxy: bool,
    /// Turns true when the server is told to stop.
    pub stopping: watch::Receiver<bool>,
}

impl AppState {
    /// The state of a server over `store`, which serves the web application in `web`, until `stopping`.
    pub fn new(store: Store, web: PathBuf, shop: &str, stopping: watch::Receiver<bool>) -> Self {
        let changes = Changes::follow(store.clone(), stopping.clone());
        let evaluated = Arc::new(EvaluatedBuilds::new(None));
        AppState {
            store,
            room: Arc::default(),
            evaluated,
            changes,
            web,
            shop: shop.into(),
            secure: false,
            key: None,
            doubts: Arc::default(),
            limits: Arc::default(),
            used: Arc::new(Mutex::new(LruCache::new(USED))),
            behind_proxy: false,
            gauge_hub: GAUGE_HUB.into(),
            stopping,
        }
    }

    /// The same, with a key for its seals.
    #[must_use]
    pub fn with_key(self, key: SealKey) -> Self {
        let evaluated = Arc::new(EvaluatedBuilds::new(Some(key.clone())));
        AppState { store: self.store.with_key(key.clone()), evaluated, key: Some(key), ..self }
    }

    /// Notes that a session was used, once a minute: it lasts from its last use on.
    pub(crate) fn used(&self, session: &str) {
        let now = clock::now().0;
        {
            let mut used = self.used.lock().unwrap_or_else(PoisonError::into_inner);
            if used.get(session).is_some_and(|last| now.saturating_sub(*last) < USED_WITHIN) {
                return;
            }
            used.put(session.to_owned(), now);
        }
        let (store, session) = (self.store.clone(), session.to_owned());
        tokio::spawn(async move {
            if let Err(error) = store.touch_session(&session, now, now.saturating_add(SESSION_MS)).await {
                tracing::debug!(%error, "the use of a session was not noted");
            }
        });
    }

    /// The name of the shop: its own, or the one this server was started with.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn shop_name(&self) -> Result<String, StoreError> {
        match self.store.shop_name().await {
            // Nobody is kept from signing in by a name that cannot be read.
            Err(StoreError::Unreadable(why)) => {
                tracing::error!(why, "the name of the shop cannot be read");
                Ok(self.shop.to_string())
            }
            known => Ok(known?.unwrap_or_else(|| self.shop.to_string())),
        }
    }

    /// What is wrong with a build, as far as it is known.
    pub fn doubt(&self, build: Uuid) -> Option<Doubt> {
        self.doubts.read().unwrap_or_else(PoisonError::into_inner).get(&build).cloned()
    }

    /// Every build with something wrong.
    pub fn doubts(&self) -> Doubts {
        self.doubts.read().unwrap_or_else(PoisonError::into_inner).clone()
    }

    pub(crate) fn put_doubts(&self, doubts: Doubts) {
        *self.doubts.write().unwrap_or_else(PoisonError::into_inner) = doubts;
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
