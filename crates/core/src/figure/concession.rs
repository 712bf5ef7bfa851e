//! Acceptances: one holds for exactly the figure, the state and the window it was given for.
use super::result::{ConcessionInForce, Judged};
use super::targets::TargetInForce;
use crate::engine::{Figure, Place};
use crate::log::{Concession, Fact, What};
use crate::maths::{State, Target};

/// The last acceptance of a figure if it still holds; else its reason, when the figure needs a new one.
pub(crate) fn concession(
    notes: &[&Fact],
    (figure, place): (Figure, Place),
    judged: Option<&Judged>,
    target: Option<&TargetInForce>,
) -> (Option<ConcessionInForce>, Option<String>) {
    let last = notes.iter().rev().find_map(|f| match &f.what {
        What::Concession(c) if (c.of(), c.station) == (figure, place) => Some((f, c)),
        _ => None,
    });
    let Some((fact, c)) = last else { return (None, None) };
    if judged.zip(target).is_some_and(|(j, t)| covers(c, j, &t.window)) {
        let (reason, by) = (c.reason.clone(), fact.by.clone());
        return (Some(ConcessionInForce { reason, by, at: fact.at }), None);
    }
    let needed = judged.is_some_and(|j| j.state != State::In);
    (None, needed.then(|| c.reason.clone()))
}

/// An acceptance holds for exactly the figure, the state and the window it was given for.
pub(crate) fn covers(c: &Concession, judged: &Judged, target: &Target) -> bool {
    c.state == judged.state && c.clearance == judged.clearance && c.target == *target
}
