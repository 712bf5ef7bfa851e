//! The signed-in person.
use jagged_pin_core::record::Capabilities;
use jagged_pin_core::units::Person;
use jagged_pin_store::Account;
use serde::Serialize;
use utoipa::ToSchema;

use crate::http::auth::Who;

/// The signed-in person.
#[derive(Debug, Serialize, ToSchema)]
pub struct SessionView {
    /// Who it is.
    pub person: Person,
    /// The name they sign in with.
    pub login: String,
    /// Name of the role.
    pub role: String,
    /// What the role allows.
    pub capabilities: Capabilities,
    /// Token that every write must carry in the header `x-csrf-token`.
    pub token: String,
    /// Name of the shop.
    pub shop: String,
}

impl SessionView {
    /// The view of a session.
    pub fn of(who: Who, shop: &str) -> Self {
        let Who { account, token, .. } = who;
        let Account { person, login, role, capabilities, .. } = account;
        SessionView { person, login, role, capabilities, token, shop: shop.into() }
    }
}
