//! Core values as the text of a column and back.
use jagged_pin_core::Length;
use jagged_pin_core::units::Timestamp;
use serde::Serialize;
use serde::de::DeserializeOwned;
use uuid::Uuid;

use crate::StoreError;

/// The name of a plain enum, such as `main_journal`.
pub(crate) fn name_of<T: Serialize>(value: &T) -> Result<String, StoreError> {
    match serde_json::to_value(value) {
        Ok(serde_json::Value::String(name)) => Ok(name),
        other => Err(StoreError::Unreadable(format!("{other:?} has no name"))),
    }
}

/// The plain enum of that name.
pub(crate) fn named<T: DeserializeOwned>(name: String) -> Result<T, StoreError> {
    serde_json::from_value(serde_json::Value::String(name)).map_err(unreadable)
}

/// A structured value as JSON text.
pub(crate) fn json_of<T: Serialize>(value: &T) -> Result<String, StoreError> {
    serde_json::to_string(value).map_err(unreadable)
}

/// The structured value of a JSON text.
pub(crate) fn from_json<T: DeserializeOwned>(text: &str) -> Result<T, StoreError> {
    serde_json::from_str(text).map_err(unreadable)
}

/// An identifier.
pub(crate) fn uuid(text: &str) -> Result<Uuid, StoreError> {
    text.parse().map_err(unreadable)
}

pub(crate) fn unreadable(error: impl std::fmt::Display) -> StoreError {
    StoreError::Unreadable(error.to_string())
}

/// A sequence number as its column holds it.
pub(crate) fn seq_column(seq: u32) -> Result<i32, StoreError> {
    seq.try_into().map_err(unreadable)
}

/// A sequence number out of its column.
pub(crate) fn seq_value(column: i32) -> Result<u32, StoreError> {
    column.try_into().map_err(unreadable)
}

/// A version that somebody saw, as its column holds it: one beyond that was never there.
pub(crate) fn version_column(version: u32) -> i32 {
    i32::try_from(version).unwrap_or(i32::MAX)
}

/// Those of some rows that can be read, by their names: one that cannot harms nothing but itself.
pub(crate) fn readable<T>(of: &str, rows: impl IntoIterator<Item = (String, Result<T, StoreError>)>) -> Vec<T> {
    let read = |(name, row): (String, Result<T, StoreError>)| match row {
        Ok(row) => Some(row),
        Err(error) => {
            tracing::error!(of, name, %error, "a row cannot be read and is left out");
            None
        }
    };
    rows.into_iter().filter_map(read).collect()
}

/// A moment out of its column.
pub(crate) fn moment(column: i64) -> Result<Timestamp, StoreError> {
    Timestamp::checked(column).ok_or_else(|| unreadable(format!("{column} is no moment of ours")))
}

/// A length out of its column.
pub(crate) fn length(column: i64) -> Result<Length, StoreError> {
    Length::checked(column).ok_or_else(|| unreadable(format!("{column} nm is no length of ours")))
}
