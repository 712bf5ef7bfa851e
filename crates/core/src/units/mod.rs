//! What everything is counted in: lengths, money, days, moments, people by name, and how long a text may be.

mod day;
mod flaw;
mod length;
mod money;
mod stamp;
mod text;

pub use day::Day;
pub use flaw::{Flaw, Wrong};
pub(crate) use flaw::{must, must_be_text, must_be_text_or_none, must_count, must_differ};
pub use length::{Length, Unit};
pub use money::{parse_money, show_money};
pub use stamp::{Person, Timestamp};
pub use text::{LONGEST_GAUGE, LONGEST_TEXT, TextError, check_text};
