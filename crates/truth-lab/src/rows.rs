//! Does a straight row lean, and is one of it named odd that is like the others?
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Place};

use crate::chance::Chance;
use crate::share::Share;
use crate::shop::{Fault, Shop, measure};

/// What was said of rows.
#[derive(Debug, Clone, Copy, Default)]
pub struct RowsSeen {
    /// Rows said to lean.
    pub leaning: Share,
    /// Rows of which one was named odd.
    pub odd: Share,
    /// Rows of which the third main was named.
    pub third: Share,
}

/// Measures `engines` directly and looks at what is said of their rows.
pub fn rows(shop: &Shop, engines: u32, seed: u64) -> RowsSeen {
    let mut chance = Chance::seeded(seed);
    let mut seen = RowsSeen::default();
    for _ in 0..engines {
        let Ok(engine) = measure(shop, &mut chance) else { continue };
        let assessed = evaluate(&engine.build);
        let Some(trend) = assessed.row(BearingRow::Mains).and_then(|r| r.trend.as_ref()) else { continue };
        seen.leaning.count(trend.leans);
        seen.odd.count(trend.odd.is_some());
        seen.third.count(trend.odd == Some(Place::main(3)));
    }
    seen
}

/// A shop whose parts scatter by so many tenths from main to main, with one of them that much off.
pub fn row_of(mains: u8, scatter: f64, off: f64) -> Shop {
    let fault = if off > 0.0 { Fault::Dirt(off) } else { Fault::None };
    Shop { mains, fault, clearance: (25.0, scatter), ..Shop::nominal(crate::parts::Form::Good) }
}

/// The same with journals that differ by three tenths, as ground ones do, and shells that were matched to them.
pub fn matched_row(mains: u8, scatter: f64, off: f64) -> Shop {
    Shop { journals: 3.0, ..row_of(mains, scatter, off) }
}
