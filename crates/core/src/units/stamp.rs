//! A moment, and a person by the name they had then.
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A moment: milliseconds since 1970-01-01 UTC.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(value_type = i64))]
pub struct Timestamp(pub i64);

/// Who recorded a fact, by the name they had then.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Person {
    /// Identifier of the person.
    pub id: Uuid,
    /// Name at the time.
    pub name: String,
}
