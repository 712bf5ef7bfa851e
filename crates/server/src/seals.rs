//! Looking through what the seals of the whole shop stand on: at the start, now and then, and when somebody asks.
use std::collections::{HashMap, HashSet};
use std::sync::Arc;
use std::time::Duration;

use jagged_pin_core::Build;
use jagged_pin_core::sheet::{Ledger, LedgerFault, SealFault, SealFlaw, SealKey};
use jagged_pin_store::{Store, StoreError};
use tokio::time::{MissedTickBehavior, interval};
use uuid::Uuid;

use crate::doubts::{Doubt, Doubts};
use crate::state::AppState;
use crate::views::picture::pictures_of;

/// How often the whole shop is looked through unasked.
const EVERY: Duration = Duration::from_secs(60 * 60);

/// What is written down about the shop, and what its people are called.
#[derive(Debug)]
pub struct WrittenDown {
    /// The ledger of its seals.
    pub ledger: Ledger,
    named: HashMap<Uuid, String>,
    key: SealKey,
}

impl WrittenDown {
    /// As it is now; `None` where the store has no key.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn of(store: &Store) -> Result<Option<Self>, StoreError> {
        let Some(key) = store.key() else { return Ok(None) };
        let ledger = match store.ledger().await {
            Ok(lines) => Ledger::of(&lines, key),
            // A line that is none of the product's was not written by it.
            Err(StoreError::Unreadable(_)) => Ledger::unreadable(),
            Err(other) => return Err(other),
        };
        let named = store.members().await?.into_iter().map(|m| (m.person.id, m.person.name)).collect();
        Ok(Some(WrittenDown { ledger, named, key: key.clone() }))
    }

    fn faults_of(&self, build: &Build, away: bool) -> Vec<SealFault> {
        let mut faults = self.ledger.faults_of(build, &self.key, |id| self.named.get(&id).cloned());
        if away != self.ledger.is_away(build.id) {
            faults.push(SealFault { seq: build.seq(), flaw: SealFlaw::PutAway { away } });
        }
        faults
    }
}

/// What does not hold about the pictures that a build names.
async fn pictures(store: &Store, build: &Build) -> Result<Vec<SealFault>, StoreError> {
    let mut faults = Vec::new();
    for (fact, picture) in pictures_of(build) {
        let kept = store.picture(build.id, &picture.digest).await?;
        let flaw = SealFlaw::of_picture(picture, kept.as_deref());
        faults.extend(flaw.map(|flaw| SealFault { seq: fact.seq, flaw }));
    }
    Ok(faults)
}

/// What does not hold about what a build stands on beside its own facts: pictures, the count of its facts, and what was written
/// down of it `before` it was read.
///
/// # Errors
/// [`StoreError`] when the database fails, or the build was removed.
pub async fn beside(store: &Store, build: &Build, before: Option<&WrittenDown>) -> Result<Vec<SealFault>, StoreError> {
    let mut faults = pictures(store, build).await?;
    let (counted, away) = store.as_counted(build.id).await?;
    if counted < build.seq() {
        faults.push(SealFault { seq: counted.saturating_add(1), flaw: SealFlaw::CountedShort });
    }
    let Some(before) = before else { return Ok(faults) };
    let at_first = before.faults_of(build, away);
    if !at_first.is_empty() {
        // Somebody may have signed, put away or been renamed since the ledger was read: what holds by one of two looks holds.
        let again = WrittenDown::of(store).await?.map(|now| now.faults_of(build, away)).unwrap_or_default();
        faults.extend(at_first.into_iter().filter(|fault| again.contains(fault)));
    }
    Ok(faults)
}

/// Looks at one build as the database has it now.
async fn look(state: &AppState, id: Uuid, written: Option<&WrittenDown>) -> Result<Option<Doubt>, StoreError> {
    let build = match state.store.build_afresh(id).await {
        Ok(build) => build,
        // Removed since it was listed.
        Err(StoreError::NotFound) => return Ok(None),
        Err(StoreError::Unreadable(why)) => return Ok(Some(Doubt::Unreadable { why })),
        Err(other) => return Err(other),
    };
    let beside = match beside(&state.store, &build, written).await {
        Err(StoreError::NotFound) => return Ok(None),
        other => other?,
    };
    let evaluated = Arc::clone(&state.evaluated);
    // Hashing a long history takes a while: not on a thread that answers others.
    let proof = tokio::task::spawn_blocking(move || evaluated.prove_afresh(&build, beside)).await;
    let faults = proof.map_err(|e| StoreError::Unreadable(e.to_string()))?.faults;
    Ok((!faults.is_empty()).then_some(Doubt::Seals { faults }))
}

/// What came of a look through the whole shop, beside the doubts about single builds.
#[derive(Debug, Default)]
pub struct LookedThrough {
    /// Builds looked at.
    pub builds: usize,
    /// What does not hold about the ledger of seals.
    pub ledger: Vec<LedgerFault>,
    /// Signatures that were there when the ledger was begun.
    pub taken_over: usize,
}

/// What does not hold about the ledger, and the signed builds that are not among those that are `there`.
///
/// # Errors
/// [`StoreError`] when the database fails.
pub async fn ledger_faults(
    store: &Store,
    written: &WrittenDown,
    there: HashSet<Uuid>,
) -> Result<Vec<LedgerFault>, StoreError> {
    let mut gone: Vec<Uuid> = written.ledger.signed_builds().filter(|id| !there.contains(id)).collect();
    if !gone.is_empty() {
        // Removed by the lead since the ledger was read, it is not looked for.
        let now = WrittenDown::of(store).await?.map(|now| now.ledger).unwrap_or_default();
        gone.retain(|id| now.signed_builds().any(|signed| signed == *id));
        gone.sort_unstable();
    }
    let gone = gone.into_iter().map(|build| LedgerFault::BuildGone { build });
    Ok(written.ledger.faults.iter().copied().chain(gone).collect())
}

/// Looks through every build, and remembers those with something wrong.
///
/// # Errors
/// [`StoreError`] when the database fails.
pub async fn look_through(state: &AppState) -> Result<LookedThrough, StoreError> {
    let written = WrittenDown::of(&state.store).await?;
    let all = state.store.sequence().await?;
    let mut doubts = Doubts::new();
    for (id, _) in &all {
        if let Some(doubt) = look(state, *id, written.as_ref()).await? {
            tracing::error!(build = %id, ?doubt, "the record of a build does not hold");
            doubts.insert(*id, doubt);
        }
    }
    state.put_doubts(doubts);
    let mut looked = LookedThrough { builds: all.len(), ..LookedThrough::default() };
    if let Some(written) = written {
        looked.ledger = ledger_faults(&state.store, &written, all.into_iter().map(|(id, _)| id).collect()).await?;
        looked.taken_over = written.ledger.taken_over;
    }
    if !looked.ledger.is_empty() {
        tracing::error!(faults = ?looked.ledger, "the ledger of seals does not hold");
    }
    Ok(looked)
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
