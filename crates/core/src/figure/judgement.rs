//! The verdict on a clearance, and on one that was judged before its evidence ended.

use super::methods::{BearingSizes, judged_method, uses};
use super::result::{Judged, MeasureAgain, MethodResult, StaleJudged};
use super::targets::TargetInForce;
use crate::engine::{Method, Part};
use crate::evidence::{Ending, FeatureAssessment};
use crate::gauge::GaugeFit;
use crate::log::Rules;
use crate::maths::{State, Target, Window, verdict};

/// Whether a gauge behind the judged method is coarser than the hard floor allows.
pub(crate) fn too_coarse(bearing: &BearingSizes<'_>, method: Option<Method>) -> bool {
    let bore = if method == Some(Method::Direct) { bearing.bore_direct } else { bearing.bore_subtract };
    let used = [
        (Part::Journal, bearing.journal),
        (Part::Housing, bearing.housing),
        (Part::Bore, bore),
        (Part::UpperWall, bearing.upper_wall),
        (Part::LowerWall, bearing.lower_wall),
    ];
    let coarse = |f: &FeatureAssessment| f.size.as_ref().and_then(|s| s.gauge_fit) == Some(GaugeFit::TooCoarse);
    method.is_some_and(|m| used.into_iter().any(|(part, f)| uses(m, part) && coarse(f)))
}

pub(crate) fn judge(
    rules: &Rules,
    (result, because): (&MethodResult, super::result::ChosenBecause),
    target: &Target,
    too_coarse: bool,
) -> Option<Judged> {
    let window = Window::between(target.low, target.high)?;
    let expanded = result.budget.expanded;
    let v = verdict(result.clearance, result.clearance, expanded, window, rules.acceptance);
    Some(Judged {
        method: result.method,
        because,
        clearance: result.clearance,
        expanded,
        // A caliper must not decide a bore limit, whatever it happens to show.
        state: if too_coarse && v.state == State::In { State::Edge } else { v.state },
        nearest: v.nearest,
        inside: v.inside,
        margin: v.margin,
        decidable: v.decidable && !too_coarse,
    })
}

/// What was judged before something was done, from what ended where nothing is measured again.
pub(crate) fn stale_judged(former: &BearingSizes<'_>, target: Option<&TargetInForce>) -> Option<StaleJudged> {
    let methods = former.methods();
    let (method, because) = judged_method(former.rules, &methods)?;
    let was = judge(former.rules, (method, because), &target?.window, false)?;
    let bore = if method.method == Method::Direct { former.bore_direct } else { former.bore_subtract };
    let layout = &former.build.layout;
    let used = [
        (Part::Journal, layout.journal_of(former.station), former.journal),
        (Part::Housing, former.station, former.housing),
        (Part::UpperWall, former.station, former.upper_wall),
        (Part::LowerWall, former.station, former.lower_wall),
        (Part::Bore, former.station, bore),
        (Part::Strip, former.station, former.strip),
    ];
    let ended = || used.into_iter().filter(|(part, _, f)| uses(method.method, *part) && f.stale.is_some());
    let again = ended().map(|(part, station, f)| MeasureAgain { station, part, touches: f.planned - f.taken });
    let mut causes: Vec<Ending> = ended().filter_map(|(_, _, f)| Some(f.stale.as_ref()?.because.clone())).collect();
    causes.sort_by_key(|s| s.seq);
    causes.dedup();
    (!causes.is_empty()).then(|| StaleJudged { was, because: causes, again: again.collect() })
}
