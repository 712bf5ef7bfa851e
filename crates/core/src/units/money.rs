//! Money as shops write it, kept in ten-thousandths so that no cent is lost.
//!
//! ```
//! use jagged_pin_core::units::{parse_money, show_money};
//!
//! assert_eq!(parse_money("149.80"), Some(1_498_000));
//! assert_eq!(show_money(1_498_000), "149.80");
//! assert_eq!(parse_money("-1"), None);
//! ```
use rust_decimal::Decimal;
use rust_decimal::prelude::ToPrimitive;

/// Ten-thousandths in one.
const SCALE: i64 = 10_000;

/// Largest believable price.
const MOST: i64 = 1_000_000 * SCALE;

/// A price as typed; `None` when it is none, is negative, or has more than four decimals.
pub fn parse_money(text: &str) -> Option<i64> {
    let value: Decimal = text.trim().replace(',', ".").parse().ok()?;
    let scaled = value.checked_mul(Decimal::from(SCALE))?.normalize();
    let whole = if scaled.scale() == 0 { scaled.to_i64() } else { None };
    whole.filter(|w| (0..=MOST).contains(w))
}

/// As it is written: two decimals, more only where they are needed.
pub fn show_money(price: i64) -> String {
    let value = Decimal::new(price, 4).normalize();
    if value.scale() <= 2 { format!("{value:.2}") } else { value.to_string() }
}
