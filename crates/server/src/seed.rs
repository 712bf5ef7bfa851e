//! Loads the demo shop into an empty database, through the same doors as any other data.

use jagged_pin_core::Unit;
use jagged_pin_demo as demo;
use jagged_pin_store::{EnginePattern, NewAccount, Store, StoreError};
use thiserror::Error;

use crate::password;

/// Name of the demo shop.
pub const SHOP: &str = "Saltmarsh Lane Engines";

/// Why the demo data could not be loaded.
#[derive(Debug, Error)]
#[error("the demo data could not be loaded: {0}")]
pub struct SeedError(String);

impl From<StoreError> for SeedError {
    fn from(error: StoreError) -> Self {
        SeedError(error.to_string())
    }
}

/// The set-up of the shop and its accounts, without builds. Safe to do again.
///
/// # Errors
/// [`SeedError`] when the database fails.
pub async fn shop(store: &Store) -> Result<(), SeedError> {
    for unit in [Unit::Inch, Unit::Mm] {
        store.add_gauges(unit, &demo::gauges(unit)).await?;
    }
    for p in demo::patterns() {
        let (id, engine) = (p.id.to_owned(), p.engine.to_owned());
        store
            .add_pattern(&EnginePattern {
                id,
                engine,
                unit: p.unit,
                layout: p.layout,
                target: p.target,
                rod_target: Some(p.rod_target),
            })
            .await?;
    }
    let shelf = demo::shelf();
    for (place, family) in (0..).zip(demo::families()) {
        let of_it = shelf.iter().filter(|(id, _)| *id == family.id).map(|(_, on)| on.clone());
        store.add_family(place, &family, &of_it.collect::<Vec<_>>()).await?;
    }
    for p in demo::people() {
        if store.account_by_login(p.login).await?.is_none() {
            let password_hash = password::hash(p.password).map_err(|e| SeedError(e.to_string()))?;
            let (login, role) = (p.login.into(), p.role.into());
            store.make_account(&NewAccount { person: p.person, login, password_hash, role }).await?;
        }
    }
    Ok(())
}

/// The whole demo: the shop and the builds on its floor, where they are not there yet.
///
/// # Errors
/// [`SeedError`] when the database fails.
pub async fn demo(store: &Store) -> Result<(), SeedError> {
    shop(store).await?;
    for build in demo::builds().map_err(|e| SeedError(e.to_string()))? {
        match store.open_build(&build).await {
            Ok(_) | Err(StoreError::BuildExists | StoreError::CodeTaken) => {}
            Err(other) => return Err(other.into()),
        }
    }
    Ok(())
}
