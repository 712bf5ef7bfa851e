//! What fitted shells promise of a bearing, and how the promise compares with what is measured afterwards.
//!
//! `difference = measured - predicted`; beyond `sqrt(U_measured^2 + U_predicted^2)` something is not as it was thought: a
//! half of another class, a shell not seated, a gauge that drifted.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::figure::differs;
//!
//! let t = Length::tenths;
//! // 2.4 thou predicted, 2.6 measured, each to a tenth: two tenths are more than 1.4.
//! let (difference, combined, agrees) = differs((t(26), t(1)), (t(24), t(1)));
//! assert_eq!((difference, combined.nm(), agrees), (t(2), 3_592, false));
//! ```

use super::context::Context;
use super::promise::{Predicted, PredictionCheck};
use super::result::MethodResult;
use super::uncertainty::{Contribution, DoubtSource};
use crate::engine::{Figure, Place, Role};
use crate::log::{Fact, FittedPair, Reckoning, Rules, What};
use crate::maths::{Acceptance, Target, Window, combined, verdict};
use crate::units::Length;

/// Difference, combined uncertainty and whether that explains it, of a measured and a predicted clearance with
/// their expanded uncertainties.
pub fn differs(measured: (Length, Length), predicted: (Length, Length)) -> (Length, Length, bool) {
    let difference = measured.0 - predicted.0;
    let combined = Length::from_f64(measured.1.as_f64().hypot(predicted.1.as_f64())).unwrap_or(Length::LIMIT);
    (difference, combined, difference.abs() <= combined)
}

/// What is left of an expanded uncertainty without a part that it shares with what it is held against.
fn without(expanded: Length, shared: f64) -> Length {
    let own = (expanded.as_f64().powi(2) - shared.powi(2)).max(0.0).sqrt();
    Length::from_f64(own).unwrap_or(expanded)
}

/// What a measurement shares with a promise that was made from the one before it: the same journal, as it was read then, and
/// the calibration of the same gauges. Expanded, in nanometres; nothing by the first reckoning.
pub(crate) fn shared_with_promise(rules: &Rules, measured: &MethodResult) -> f64 {
    if rules.reckoning == Reckoning::First {
        return 0.0;
    }
    let shared = |p: &&Contribution| p.of == Role::JOURNAL || p.source == DoubtSource::Calibration;
    2.0 * combined(measured.budget.parts.iter().filter(shared).map(|p| p.standard))
}

/// The last fitting of a bearing whose prediction still rests on what it was made from.
fn standing<'a>(context: &Context<'a>, figure: Figure, place: Place) -> Option<(&'a Fact, &'a FittedPair)> {
    let (fact, pair) = context.notes.iter().rev().find_map(|f| match &f.what {
        What::Fitting(fitting) => Some((*f, fitting.pairs.iter().find(|p| p.station == place)?)),
        What::Washers(washers) => Some((*f, &washers.promise)).filter(|(_, p)| p.station == place),
        _ => None,
    })?;
    let moved = context.endings.next_at(figure, place, fact.seq).is_some();
    (!moved && pair.promises()).then_some((fact, pair))
}

/// What was predicted of a bearing: while nothing is measured the prediction itself, afterwards its check.
pub(crate) fn prediction(
    context: &Context<'_>,
    (figure, place): (Figure, Place),
    measured: Option<(Length, Length, f64)>,
    judge: Option<(Target, Acceptance)>,
) -> (Option<Predicted>, Option<PredictionCheck>) {
    let Some((fact, pair)) = standing(context, figure, place) else { return (None, None) };
    let (pair, by, at) = (pair.clone(), fact.by.clone(), fact.at);
    if let Some(measured) = measured {
        let (measured, measured_expanded, shared) = measured;
        let own = |expanded| without(expanded, shared);
        let promised = (pair.clearance, own(pair.expanded));
        let (difference, combined, agrees) = differs((measured, own(measured_expanded)), promised);
        let check = PredictionCheck { pair, measured, measured_expanded, difference, combined, agrees, at, by };
        return (None, Some(check));
    }
    let predicted = judge.and_then(|(target, acceptance)| {
        let window = Window::between(target.low, target.high)?;
        let v = verdict(pair.clearance, pair.clearance, pair.expanded, window, acceptance);
        Some(Predicted { pair, state: v.state, nearest: v.nearest, seq: fact.seq, by, at })
    });
    (predicted, None)
}
