//! A moment, and a person by the name they had then.
use serde::{Deserialize, Serialize};
use uuid::Uuid;

/// A moment: milliseconds since 1970-01-01 UTC. From outside, one between 1970 and [`Timestamp::LAST`].
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(transparent)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(value_type = i64))]
pub struct Timestamp(#[serde(deserialize_with = "in_limits")] pub i64);

fn in_limits<'de, D: serde::Deserializer<'de>>(from: D) -> Result<i64, D::Error> {
    let ms = i64::deserialize(from)?;
    Timestamp::checked(ms).map(|t| t.0).ok_or_else(|| serde::de::Error::custom("a time that is not from 1970 to 2199"))
}

impl Timestamp {
    /// The end of 2199: every calendar a page is shown in reaches that far.
    pub const LAST: Timestamp = Timestamp(7_258_118_399_999);

    /// A moment from outside; `None` before 1970 or after [`Timestamp::LAST`].
    pub fn checked(ms: i64) -> Option<Self> {
        (0..=Self::LAST.0).contains(&ms).then_some(Timestamp(ms))
    }
}

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
