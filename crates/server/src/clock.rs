//! The time facts are stamped with.
use std::time::{SystemTime, UNIX_EPOCH};

use jagged_pin_core::units::Timestamp;

/// Now, in whole milliseconds.
pub fn now() -> Timestamp {
    let since = SystemTime::now().duration_since(UNIX_EPOCH).unwrap_or_default();
    Timestamp(i64::try_from(since.as_millis()).unwrap_or(i64::MAX))
}
