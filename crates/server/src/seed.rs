//! Loads the demo shop into an empty database, through the same doors as any other data.

use jagged_pin_core::log::{Fact, What};
use jagged_pin_core::{Build, Unit};
use jagged_pin_demo as demo;
use jagged_pin_store::{EnginePattern, NewAccount, Store, StoreError};
use thiserror::Error;

use crate::{clock, password};

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
    for (place, (washers, shelf)) in (100..).zip(demo::washer_boxes()) {
        store.add_washers(place, &washers, &shelf).await?;
    }
    for p in demo::people() {
        if store.account_by_login(p.login).await?.is_none() {
            let password_hash = password::hash(p.password).map_err(|e| SeedError(e.to_string()))?;
            let (login, role) = (p.login.into(), p.role.into());
            store.make_account(&NewAccount { person: p.person, login, password_hash, role }, clock::now()).await?;
        }
    }
    Ok(())
}

/// Whether a shop has people of its own: then the demo has no business there.
async fn is_a_real_shop(store: &Store) -> Result<bool, StoreError> {
    let members = store.members().await?;
    let of_demo = |id| demo::people().iter().any(|p| p.person.id == id);
    Ok(!members.is_empty() && !members.iter().any(|m| of_demo(m.person.id)))
}

/// Keeps the pictures that a build names.
async fn keep_pictures(store: &Store, build: &Build) -> Result<(), StoreError> {
    for picture in demo::pictures() {
        let names = |f: &Fact| matches!(&f.what, What::Picture(p) if p.digest == picture.digest);
        if build.facts.iter().any(names) {
            store.keep_picture(build.id, &picture.digest, picture.jpeg.to_vec()).await?;
        }
    }
    Ok(())
}

/// The whole demo: the shop and the builds on its floor, where they are not there yet. A shop with people of its own is
/// left alone; says whether it is a demo shop. The seals of its builds get the mark of the store's key.
///
/// # Errors
/// [`SeedError`] when the database fails.
pub async fn demo(store: &Store) -> Result<bool, SeedError> {
    // Servers that start at once take turns.
    let _turn = store.turn("people").await?;
    if is_a_real_shop(store).await? {
        return Ok(false);
    }
    shop(store).await?;
    for mut build in demo::builds().map_err(|e| SeedError(e.to_string()))? {
        if let Some(key) = store.key() {
            build.facts.iter_mut().for_each(|fact| key.put_on(fact));
        }
        match store.open_build(&build).await {
            Ok(_) => keep_pictures(store, &build).await?,
            Err(StoreError::BuildExists | StoreError::CodeTaken) => {}
            Err(other) => return Err(other.into()),
        }
    }
    Ok(true)
}
