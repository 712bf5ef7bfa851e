//! A calendar day, as a calibration or a due date has it.
use std::fmt;
use std::str::FromStr;

use serde::{Deserialize, Serialize};
use time::format_description::well_known::Iso8601;
use time::{Date, OffsetDateTime};

use super::stamp::Timestamp;

/// A day in the calendar, written `2026-11-24`.
///
/// ```
/// use jagged_pin_core::units::Day;
/// let day: Day = "2026-02-28".parse().unwrap();
/// assert!(day < "2026-03-01".parse().unwrap());
/// assert!("2026-02-30".parse::<Day>().is_err());
/// assert_eq!(day.to_string(), "2026-02-28");
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(try_from = "String", into = "String")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[cfg_attr(feature = "schema", schema(value_type = String, format = Date, example = "2026-11-24"))]
pub struct Day(Date);

impl Day {
    /// The day of a moment, in UTC; absent beyond the calendar.
    pub fn of(at: Timestamp) -> Option<Self> {
        OffsetDateTime::from_unix_timestamp(at.0.div_euclid(1_000)).ok().map(|t| Day(t.date()))
    }
}

impl fmt::Display for Day {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{:04}-{:02}-{:02}", self.0.year(), u8::from(self.0.month()), self.0.day())
    }
}

impl FromStr for Day {
    type Err = String;
    fn from_str(text: &str) -> Result<Self, String> {
        Date::parse(text.trim(), &Iso8601::DATE)
            .map(Day)
            .map_err(|_| format!("\"{text}\" is not a day: write it like 2026-11-24"))
    }
}

impl TryFrom<String> for Day {
    type Error = String;
    fn try_from(text: String) -> Result<Self, String> {
        text.parse()
    }
}

impl From<Day> for String {
    fn from(day: Day) -> String {
        day.to_string()
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_moment_belongs_to_its_day() {
        // 2026-11-24 08:00 UTC.
        assert_eq!(Day::of(Timestamp(1_795_507_200_000)).map(|d| d.to_string()), Some("2026-11-24".into()));
        assert_eq!(Day::of(Timestamp(i64::MAX)), None);
    }
}
