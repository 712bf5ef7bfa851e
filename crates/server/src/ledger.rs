//! Beginning the ledger of seals: what was there before is taken over, once.
use std::sync::Arc;

use jagged_pin_core::Build;
use jagged_pin_core::build::from_elsewhere;
use jagged_pin_core::log::What;
use jagged_pin_core::sheet::{LedgerEntry, LedgerKind, SealKey, prove_seals};
use jagged_pin_core::units::Timestamp;
use jagged_pin_store::{Store, StoreError};

use crate::clock;

/// The signatures of a build that hold: with the key's mark, or from before there was that key.
fn signatures(build: &Build, key: &SealKey) -> Vec<LedgerEntry> {
    let proof = prove_seals(build, Some(key));
    let notes = build.notes();
    let holds = |seq: u32| !from_elsewhere(&notes, seq) && proof.faults.iter().all(|fault| fault.seq != seq);
    let entry = |seq, text: &str, at: Timestamp| {
        let (kind, text) = (LedgerKind::TakenOver, text.to_owned());
        LedgerEntry { kind, about: build.id, seq, text, at }
    };
    let signed = notes.iter().filter_map(|f| match &f.what {
        What::Signature(s) if holds(f.seq) => Some(entry(f.seq, &s.digest, f.at)),
        _ => None,
    });
    signed.collect()
}

/// What is taken over when a ledger is begun.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum TakeOver {
    /// Nothing: there was a ledger under this key before, and what it had is not made up for.
    Nothing,
    /// What there is, where no ledger was begun yet.
    WhatThereIs,
    /// What there is, in the place of an earlier ledger.
    Anew,
}

/// Begins the ledger of a shop: with the signatures that hold, what was put away, and what people are called. Answers how many
/// signatures were taken over, where it was begun now.
///
/// # Errors
/// [`StoreError`] when the database fails.
pub async fn begin(store: &Store, key: &SealKey, take_over: TakeOver) -> Result<Option<usize>, StoreError> {
    let _turn = store.turn("ledger").await?;
    let anew = take_over == TakeOver::Anew;
    if !anew && !store.ledger().await?.is_empty() {
        return Ok(None);
    }
    let at = clock::now();
    let mut known = Vec::new();
    if take_over == TakeOver::Nothing {
        return Ok(store.begin_ledger(at, &known, anew).await?.then_some(0));
    }
    for member in store.members().await? {
        let named = LedgerEntry::about(member.person.id, LedgerKind::Named, at);
        known.push(LedgerEntry { text: member.person.name, ..named });
    }
    let mut taken_over = 0_usize;
    for (id, _) in store.sequence().await? {
        if store.as_counted(id).await?.1 {
            known.push(LedgerEntry::about(id, LedgerKind::PutAway, at));
        }
        let build: Arc<Build> = match store.build(id).await {
            Ok(build) => build,
            // What cannot be read proves nothing; the look at the seals says so.
            Err(StoreError::Unreadable(_)) => continue,
            Err(other) => return Err(other),
        };
        let signed = signatures(&build, key);
        taken_over = taken_over.saturating_add(signed.len());
        known.extend(signed);
    }
    let begun = store.begin_ledger(at, &known, anew).await?;
    Ok(begun.then_some(taken_over))
}
