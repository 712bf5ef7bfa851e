//! What can be wrong with the record of a build.
use std::collections::HashMap;

use jagged_pin_core::sheet::SealFault;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// What is wrong with the record of a build.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Doubt {
    /// Something of it cannot be read.
    Unreadable {
        /// What the store said.
        why: String,
    },
    /// Its seals do not match, or facts are missing.
    Seals {
        /// Each fault.
        faults: Vec<SealFault>,
    },
}

/// Builds with something wrong.
pub type Doubts = HashMap<Uuid, Doubt>;
