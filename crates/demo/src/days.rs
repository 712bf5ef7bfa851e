//! The days the demo is set in.

/// 2026-11-24 08:00 UTC, the morning the demo is set in, in milliseconds.
pub(crate) const MORNING: i64 = 1_795_507_200_000;
/// A day in milliseconds.
pub(crate) const DAY: i64 = 86_400_000;
