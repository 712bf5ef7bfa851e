//! Does `U` cover the truth, and what is called in that is not?
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{Figure, Method};
use jagged_pin_core::maths::State;

use crate::chance::Chance;
use crate::share::Share;
use crate::shop::{Shop, measure};

/// One tenth, in nanometres.
const TENTH: f64 = 2_540.0;

/// What a scenario came to for one method.
#[derive(Debug, Clone, Copy, Default)]
pub struct Coverage {
    /// Bearings whose truth lies within `U` of the figure.
    pub covered: Share,
    /// Bearings whose true largest clearance lies within `U` of the largest that is judged.
    pub widest: Share,
    /// Of what is called in: truly outside its window.
    pub false_in: Share,
    /// Sum of figure less truth, in tenths.
    bias: f64,
    /// Sum of expanded uncertainties, in tenths.
    expanded: f64,
}

impl Coverage {
    /// Holds a figure with its expanded uncertainty against the truth, in tenths.
    pub(crate) fn hold(&mut self, (value, expanded): (f64, f64), truth: f64) {
        let off = value - truth;
        self.covered.count(off.abs() <= expanded);
        self.bias += off;
        self.expanded += expanded;
    }

    /// Mean of figure less truth, in tenths.
    pub fn bias(&self) -> f64 {
        self.bias / f64::from(self.covered.of.max(1))
    }

    /// Mean expanded uncertainty, in tenths.
    pub fn expanded(&self) -> f64 {
        self.expanded / f64::from(self.covered.of.max(1))
    }
}

/// Measures `engines` in a shop and holds every figure of that method against the truth.
pub fn coverage(shop: &Shop, method: Method, engines: u32, seed: u64) -> Coverage {
    let mut chance = Chance::seeded(seed);
    let mut found = Coverage::default();
    for _ in 0..engines {
        let Ok(engine) = measure(shop, &mut chance) else { continue };
        let assessed = evaluate(&engine.build);
        let mains = assessed.figures.iter().filter(|f| f.figure == Figure::OIL_CLEARANCE);
        for (figure, bearing) in mains.zip(&engine.bearings) {
            let Some(m) = figure.methods.iter().find(|m| m.method == method && m.complete) else { continue };
            let (value, expanded) = (m.clearance.as_f64() / TENTH, m.budget.expanded.as_f64() / TENTH);
            found.hold((value, expanded), bearing.clearance());
            let off = m.largest.as_f64() / TENTH - bearing.widest();
            found.widest.count(off.abs() <= expanded);
            if figure.judged.as_ref().is_some_and(|j| j.method == method && j.state == State::In) {
                found.false_in.count(bearing.clearance() < 22.0 || bearing.widest() > 28.0);
            }
        }
    }
    found
}
