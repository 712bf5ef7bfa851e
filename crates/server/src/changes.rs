//! Live events: following the changes that the database lists.
//!
//! One task per server looks at what was written since its last look, a few times a second while anybody listens, and at
//! once after a write of its own. What another server writes is therefore seen as well.
use std::collections::HashMap;
use std::sync::Arc;
use std::time::Duration;

use jagged_pin_store::{Store, StoreError};
use tokio::sync::{Notify, watch};
use tokio::time::timeout;
use uuid::Uuid;

/// How often the database is asked: well within the second that others may wait.
const EVERY: Duration = Duration::from_millis(200);

/// The last known sequence number of every build.
pub type Sequence = Arc<HashMap<Uuid, u32>>;

/// Follows the database.
#[derive(Debug)]
pub struct Changes {
    known: watch::Sender<Sequence>,
    nudge: Notify,
}

/// The first look finds where every build is; later ones find what moved since.
async fn look(store: &Store, last: Option<i64>) -> Result<(i64, Vec<(Uuid, u32)>), StoreError> {
    match last {
        Some(last) => store.changes_since(last).await,
        None => {
            let newest = store.last_change().await?;
            Ok((newest, store.sequence().await?))
        }
    }
}

impl Changes {
    /// Starts following until `stopping` turns true.
    pub fn follow(store: Store, mut stopping: watch::Receiver<bool>) -> Arc<Self> {
        let changes = Arc::new(Changes { known: watch::Sender::default(), nudge: Notify::new() });
        let following = Arc::clone(&changes);
        tokio::spawn(async move {
            tokio::select! {
                () = following.run(store) => {}
                _ = stopping.wait_for(|s| *s) => {}
            }
        });
        changes
    }

    async fn run(&self, store: Store) {
        // Where every build is, and the last change behind that; only what comes after it is asked for.
        let mut last: Option<i64> = None;
        let mut away = false;
        loop {
            // Running out of time is the usual case: then it is time to look again.
            let _ = timeout(EVERY, self.nudge.notified()).await;
            if self.known.receiver_count() == 0 {
                continue;
            }
            match look(&store, last).await {
                Ok((newest, rows)) => {
                    if std::mem::take(&mut away) {
                        tracing::info!("the changes can be read again");
                    }
                    last = Some(newest);
                    self.known.send_if_modified(|known| {
                        let news: Vec<_> = rows.into_iter().filter(|(id, seq)| known.get(id) < Some(seq)).collect();
                        let moved = !news.is_empty();
                        if moved {
                            let now = Arc::make_mut(known);
                            news.into_iter().for_each(|(id, seq)| {
                                let place = now.entry(id).or_default();
                                *place = seq.max(*place);
                            });
                        }
                        moved
                    });
                }
                // Said once: a database that is away for an hour fills no log.
                Err(error) if !std::mem::replace(&mut away, true) => {
                    tracing::warn!(%error, "the changes could not be read");
                }
                Err(_) => {}
            }
        }
    }

    /// Looks at once: something was written here.
    pub fn nudge(&self) {
        self.nudge.notify_one();
    }

    /// Listens. What is known already counts as news to whoever joins; it may be older than the subscription, so a look
    /// follows at once.
    pub fn listen(&self) -> watch::Receiver<Sequence> {
        let mut receiver = self.known.subscribe();
        receiver.mark_changed();
        self.nudge();
        receiver
    }
}
