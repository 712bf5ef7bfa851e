//! Looking through the seals of the whole shop: at the start, now and then, and when somebody asks.
use std::sync::Arc;
use std::time::Duration;

use jagged_pin_store::StoreError;
use tokio::time::{MissedTickBehavior, interval};
use uuid::Uuid;

use crate::doubts::{Doubt, Doubts};
use crate::state::AppState;

/// How often the whole shop is looked through unasked.
const EVERY: Duration = Duration::from_secs(60 * 60);

/// Looks at one build as the database has it now.
async fn look(state: &AppState, id: Uuid) -> Result<Option<Doubt>, StoreError> {
    let build = match state.store.build_afresh(id).await {
        Ok(build) => build,
        // Removed since it was listed.
        Err(StoreError::NotFound) => return Ok(None),
        Err(StoreError::Unreadable(why)) => return Ok(Some(Doubt::Unreadable { why })),
        Err(other) => return Err(other),
    };
    let evaluated = Arc::clone(&state.evaluated);
    // Hashing a long history takes a while: not on a thread that answers others.
    let proof = tokio::task::spawn_blocking(move || evaluated.prove_afresh(&build)).await;
    let faults = proof.map_err(|e| StoreError::Unreadable(e.to_string()))?.faults;
    Ok((!faults.is_empty()).then_some(Doubt::Seals { faults }))
}

/// Looks through every build, and remembers those with something wrong. Answers with how many were looked at.
///
/// # Errors
/// [`StoreError`] when the database fails.
pub async fn look_through(state: &AppState) -> Result<usize, StoreError> {
    let all = state.store.sequence().await?;
    let mut doubts = Doubts::new();
    for (id, _) in &all {
        if let Some(doubt) = look(state, *id).await? {
            tracing::error!(build = %id, ?doubt, "the record of a build does not hold");
            doubts.insert(*id, doubt);
        }
    }
    state.put_doubts(doubts);
    Ok(all.len())
}

/// Goes on looking through until the server stops.
pub fn watch(state: &AppState) {
    let (state, mut stopping) = (state.clone(), state.stopping.clone());
    tokio::spawn(async move {
        let mut every = interval(EVERY);
        every.set_missed_tick_behavior(MissedTickBehavior::Delay);
        let looking = async {
            loop {
                every.tick().await;
                if let Err(error) = look_through(&state).await {
                    tracing::warn!(%error, "the seals could not be looked through");
                }
            }
        };
        tokio::select! {
            () = looking => {}
            _ = stopping.wait_for(|s| *s) => {}
        }
    });
}
