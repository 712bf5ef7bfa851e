//! What a change of a target or a rule would make pass that is tight now: that is the lead's to decide, as a concession of it
//! would be.
use crate::assess::evaluate;
use crate::build::Build;
use crate::figure::FigureAssessment;
use crate::log::{Fact, Lifted, What};
use crate::maths::State;
use crate::units::{Person, Timestamp};

fn is_tight(f: &FigureAssessment) -> bool {
    f.asked && f.judged.as_ref().is_some_and(|j| j.state == State::Tight)
}

/// The figures that are tight in `build` and not after `what`: for a target, a rule, the places that are touched, or where
/// pistons are measured; nothing for other facts, which bring evidence of their own. What has to be measured again after a
/// change of places lifts nothing: it blocks until it is.
pub fn lifts_tight(build: &Build, what: &What) -> Vec<Lifted> {
    let told = matches!(what, What::Target(_) | What::Rules(_));
    if !told && !matches!(what, What::Plan(_) | What::GaugePoint(_)) {
        return Vec::new();
    }
    let before = evaluate(build);
    if !before.figures.iter().any(is_tight) {
        return Vec::new();
    }
    let seq = build.seq().saturating_add(1);
    let by = Person { id: uuid::Uuid::nil(), name: String::new() };
    let mut then = build.clone();
    then.facts.push(Fact { id: uuid::Uuid::nil(), seq, at: Timestamp(build.opened_at.0), by, what: what.clone() });
    let after = evaluate(&then);
    let still = |f: &FigureAssessment| {
        let now = after.figure(f.figure, f.station);
        now.is_some_and(is_tight) || (!told && now.is_some_and(|f| f.asked && f.judged.is_none()))
    };
    let tight = before.figures.iter().filter(|f| is_tight(f) && !still(f));
    tight
        .filter_map(|f| {
            let (value, window) = (f.judged.as_ref()?.clearance, f.target.as_ref()?.window);
            Some(Lifted { figure: f.figure, station: f.station, value, window })
        })
        .collect()
}
