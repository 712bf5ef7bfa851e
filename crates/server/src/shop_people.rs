//! Opening a shop: its name and its first lead.
use jagged_pin_core::units::{Person, Timestamp};
use jagged_pin_store::{NewAccount, ShopNote, Store, StoreError};
use serde_json::json;
use thiserror::Error;
use uuid::Uuid;

use crate::http::problem::Problem;
use crate::password;

/// Role of whoever opens a shop.
pub const LEAD: &str = "lead";

/// A shop to be opened.
#[derive(Debug, Clone)]
pub struct NewShop {
    /// Its name.
    pub shop: String,
    /// Name of its first lead.
    pub name: String,
    /// The name they sign in with.
    pub login: String,
    /// Their password.
    pub password: String,
}

/// Why a shop was not opened.
#[derive(Debug, Error)]
pub enum OpenError {
    /// There are people already.
    #[error("this shop has people already: the lead adds others on the page People")]
    Open,
    /// Something about what was typed.
    #[error("{0}")]
    Typed(Problem),
    /// The database failed.
    #[error(transparent)]
    Store(#[from] StoreError),
}

/// Opens a shop over a database that has nobody yet.
///
/// # Errors
/// [`OpenError`] when it has people, when what was typed will not do, or when the database fails.
pub async fn open(store: &Store, new: &NewShop, at: Timestamp) -> Result<(), OpenError> {
    let _turn = store.turn("people").await?;
    if !store.members().await?.is_empty() {
        return Err(OpenError::Open);
    }
    let text = |what: &str, field: &'static str| match what.trim() {
        "" => Err(OpenError::Typed(Problem::field(field, format!("the {field} is missing")))),
        text => Ok(text.to_owned()),
    };
    let (shop, name) = (text(&new.shop, "shop")?, text(&new.name, "name")?);
    let login = password::new_login(&new.login).map_err(OpenError::Typed)?;
    password::will_do(&new.password, &login).map_err(OpenError::Typed)?;
    let password_hash = password::hash(&new.password).map_err(OpenError::Typed)?;
    let person = Person { id: Uuid::new_v4(), name };
    let detail = json!({ "shop": shop, "name": person.name, "login": login, "role": LEAD });
    let account = NewAccount { person, login, password_hash, role: LEAD.into() };
    store.put_shop_name(&shop).await?;
    store.make_account(&account, at).await?;
    store.note_shop(&ShopNote { by: Some(account.person), at, kind: "shop_opened", detail }).await?;
    Ok(())
}
