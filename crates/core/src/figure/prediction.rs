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
use crate::engine::{Figure, Place};
use crate::log::{Fact, FittedPair, What};
use crate::maths::{Acceptance, Target, Window, verdict};
use crate::units::Length;

/// Difference, combined uncertainty and whether that explains it, of a measured and a predicted clearance with
/// their expanded uncertainties.
pub fn differs(measured: (Length, Length), predicted: (Length, Length)) -> (Length, Length, bool) {
    let difference = measured.0 - predicted.0;
    let combined = Length::from_f64(measured.1.as_f64().hypot(predicted.1.as_f64())).unwrap_or(Length::LIMIT);
    (difference, combined, difference.abs() <= combined)
}

/// The last fitting of a bearing whose prediction still rests on what it was made from.
fn standing<'a>(context: &Context<'a>, figure: Figure, place: Place) -> Option<(&'a Fact, &'a FittedPair)> {
    let (fact, pair) = context.notes.iter().rev().find_map(|f| match &f.what {
        What::Fitting(fitting) => Some((*f, fitting.pairs.iter().find(|p| p.station == place)?)),
        _ => None,
    })?;
    let moved = context.endings.next_at(figure, place, fact.seq).is_some();
    (!moved).then_some((fact, pair))
}

/// What was predicted of a bearing: while nothing is measured the prediction itself, afterwards its check.
pub(crate) fn prediction(
    context: &Context<'_>,
    (figure, place): (Figure, Place),
    measured: Option<(Length, Length)>,
    judge: Option<(Target, Acceptance)>,
) -> (Option<Predicted>, Option<PredictionCheck>) {
    let Some((fact, pair)) = standing(context, figure, place) else { return (None, None) };
    let (pair, by, at) = (pair.clone(), fact.by.clone(), fact.at);
    if let Some(measured) = measured {
        let (difference, combined, agrees) = differs(measured, (pair.clearance, pair.expanded));
        let (measured, measured_expanded) = measured;
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
