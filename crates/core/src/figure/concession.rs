//! Acceptances: one holds for exactly the figure, the state and the window it was given for.
use super::context::Context;
use super::result::{ConcessionInForce, Judged};
use super::targets::TargetInForce;
use crate::build::from_elsewhere;
use crate::engine::{Figure, Place};
use crate::log::{Concession, Reckoning, What};
use crate::maths::{State, Target};
use crate::units::Length;

/// The last acceptance of a figure if it still holds; else its reason, when the figure needs a new one.
pub(crate) fn concession(
    context: &Context<'_>,
    (figure, place): (Figure, Place),
    judged: Option<&Judged>,
    target: Option<&TargetInForce>,
) -> (Option<ConcessionInForce>, Option<String>) {
    let last = context.notes.iter().rev().find_map(|f| match &f.what {
        What::Concession(c) if c.gate.is_none() && (c.of(), c.station) == (figure, place) => Some((f, c)),
        _ => None,
    });
    let Some((fact, c)) = last else { return (None, None) };
    // It was given to that evidence: what is measured after a deed may come out the same and is another piece of evidence.
    let ended = || context.endings.next_at(figure, place, fact.seq).is_some();
    let lapsed = context.rules.reckoning >= Reckoning::Second && ended();
    // By the third reckoning a doubt that all places share may move without what is read here: nothing of that shows.
    let shown = match context.rules.reckoning {
        Reckoning::First | Reckoning::Second => Length::ZERO,
        Reckoning::Third => Length::from_nm(context.build.unit.dial_step().nm() / 2),
    };
    let covered = |j: &Judged, t: &TargetInForce| {
        covers(c, j, &t.window)
            || (c.state == j.state && c.target == t.window && (c.clearance - j.clearance).abs() < shown)
    };
    if !lapsed && judged.zip(target).is_some_and(|(j, t)| covered(j, t)) {
        let (reason, by) = (c.reason.clone(), fact.by.clone());
        let elsewhere = from_elsewhere(context.notes, fact.seq);
        return (Some(ConcessionInForce { reason, by, at: fact.at, elsewhere }), None);
    }
    let needed = judged.is_some_and(|j| j.state != State::In);
    (None, needed.then(|| c.reason.clone()))
}

/// An acceptance holds for exactly the figure, the state and the window it was given for.
pub(crate) fn covers(c: &Concession, judged: &Judged, target: &Target) -> bool {
    c.state == judged.state && c.clearance == judged.clearance && c.target == *target
}
