//! The verdict on a figure, and on one that was judged before its evidence ended.
use super::methods::{Inputs, judged_method};
use super::result::{ChosenBecause, Judged, MeasureAgain, Measured, MethodResult, MoreTouches, StaleJudged};
use super::targets::TargetInForce;
use crate::engine::{Limits, Method};
use crate::evidence::Ending;
use crate::gauge::GaugeFit;
use crate::log::{Reckoning, Rules};
use crate::maths::{Acceptance, Side, State, Window, another_touch, by_blades, verdict};
use crate::units::Length;

/// What a method is made of.
fn used<'a>(inputs: &Inputs<'a>, method: Method) -> impl Iterator<Item = &'a Measured> {
    let terms = inputs.figure.method(method).map_or(&[][..], |m| m.terms);
    inputs.measured.iter().filter(move |m| terms.iter().any(|t| t.role == m.role && t.read == m.read))
}

/// Whether a gauge behind the judged method is coarser than the hard floor allows.
///
/// By the third reckoning a single limit has no window to be coarse on: the uncertainty alone says what is proven.
pub(crate) fn too_coarse(inputs: &Inputs<'_>, method: Option<Method>) -> bool {
    if inputs.rules.reckoning >= Reckoning::Third && inputs.figure.row().limits != Limits::Both {
        return false;
    }
    let coarse = |m: &Measured| m.size.size.as_ref().and_then(|s| s.gauge_fit) == Some(GaugeFit::TooCoarse);
    method.is_some_and(|method| used(inputs, method).any(coarse))
}

/// Judges the value of a method against a window.
pub(crate) fn judge(
    rules: &Rules,
    (result, because): (&MethodResult, ChosenBecause),
    window: Window,
    too_coarse: bool,
) -> Judged {
    let expanded = result.budget.expanded;
    let v = verdict(result.smallest, result.largest, expanded, window, rules.acceptance);
    let proven = if result.between_blades {
        let doubt = if rules.acceptance == Acceptance::Guarded { expanded } else { Length::ZERO };
        by_blades(result.smallest, result.largest, doubt, window)
    } else {
        v.state
    };
    // A caliper must not decide a bore limit, whatever it happens to show.
    let state = if too_coarse && proven == State::In { State::Edge } else { proven };
    let open = state == State::Edge && !too_coarse && !result.between_blades;
    let touches = result.more.filter(|_| open && rules.acceptance == Acceptance::Guarded);
    Judged {
        method: result.method,
        because,
        clearance: result.clearance,
        smallest: result.smallest,
        largest: result.largest,
        worst: if v.nearest == Side::Low { result.smallest } else { result.largest },
        correction: result.correction,
        expanded,
        state,
        nearest: v.nearest,
        inside: v.inside,
        margin: v.margin,
        decidable: v.decidable && !too_coarse,
        another: touches.map(|touches| MoreTouches {
            does: another_touch(v.margin, expanded, touches),
            once_more: touches.once_more,
            endless: touches.endless,
        }),
    }
}

/// What was judged before something was done, from what ended where nothing is measured again.
pub(crate) fn stale_judged(former: &Inputs<'_>, target: Option<&TargetInForce>) -> Option<StaleJudged> {
    // Nothing ended: there is nothing to reckon anew.
    former.measured.iter().find(|m| m.size.stale.is_some())?;
    let methods = former.methods();
    let (method, because) = judged_method(former.figure, former.rules, &methods)?;
    let was = judge(former.rules, (method, because), former.figure.window(&target?.window)?, false);
    let ended = || used(former, method.method).filter(|m| m.size.stale.is_some());
    let again = ended().map(|m| MeasureAgain {
        station: m.place,
        part: m.role,
        touches: m.size.planned.saturating_sub(m.size.taken),
    });
    let mut causes: Vec<Ending> = ended().filter_map(|m| Some(m.size.stale.as_ref()?.because.clone())).collect();
    causes.sort_by_key(|s| s.seq);
    causes.dedup();
    (!causes.is_empty()).then(|| StaleJudged { was, because: causes, again: again.collect() })
}
