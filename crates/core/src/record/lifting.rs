//! What a change of a target or a rule would make pass that is tight: that is the lead's to decide, as a concession of it
//! would be.
use std::collections::HashSet;

use crate::assess::{Assessment, evaluate};
use crate::build::Build;
use crate::engine::{Figure, Place, Plan, Planned};
use crate::figure::FigureAssessment;
use crate::log::{Fact, Lifted, PlanChange, What};
use crate::maths::State;
use crate::units::{Person, Timestamp};

fn is_tight(f: &FigureAssessment) -> bool {
    f.asked && f.judged.as_ref().is_some_and(|j| j.state == State::Tight)
}

fn is_open(f: &FigureAssessment) -> bool {
    f.asked && f.judged.is_none()
}

/// Whether a figure keeps the sheet from being signed in an assessment: it is tight, or has to be measured.
fn blocks_in(assessment: &Assessment, f: &FigureAssessment) -> bool {
    assessment.figure(f.figure, f.station).is_some_and(|now| is_tight(now) || is_open(now))
}

/// Whether a fact decides how evidence is judged, and brings none of its own.
const fn decides(what: &What) -> bool {
    matches!(what, What::Target(_) | What::Rules(_) | What::Plan(_) | What::GaugePoint(_))
}

/// Whether evidence may have ended with a fact.
const fn may_end(what: &What) -> bool {
    !matches!(
        what,
        What::Reading(_)
            | What::SessionOpened(_)
            | What::Target(_)
            | What::Concession(_)
            | What::Signature(_)
            | What::Picture(_)
            | What::Part(_)
            | What::Order(_)
            | What::Tray(_)
            | What::Stamps(_)
    )
}

fn with(build: &Build, what: &What) -> Build {
    let seq = build.seq().saturating_add(1);
    let by = Person { id: uuid::Uuid::nil(), name: String::new() };
    let mut then = build.clone();
    then.facts.push(Fact { id: uuid::Uuid::nil(), seq, at: Timestamp(build.opened_at.0), by, what: what.clone() });
    then
}

/// The figures that are tight in one assessment and pass in another.
fn lifted(before: &Assessment, passes: impl Fn(&FigureAssessment) -> bool) -> Vec<Lifted> {
    let tight = before.figures.iter().filter(|f| is_tight(f) && passes(f));
    let said = |f: &FigureAssessment| {
        let (value, window) = (f.judged.as_ref()?.clearance, f.target.as_ref()?.window);
        Some(Lifted { figure: f.figure, station: f.station, value, window })
    };
    tight.filter_map(said).collect()
}

/// Of a plan only what it leaves of the places so far: what it adds says nothing of the places that it drops. Nothing for other
/// decisions.
fn without_what_is_new(build: &Build, what: &What) -> Option<What> {
    let What::Plan(change) = what else { return None };
    let of = change.plan.characteristic;
    let kinds = change.plan.at.map_or_else(|| of.row().at.to_vec(), |kind| vec![kind]);
    let counted = |p: &&Planned| {
        let mut so_far = kinds.iter().flat_map(|kind| build.plan_as_written(of, *kind));
        so_far.any(|was| was.position == p.position && (was.advisory || !p.advisory))
    };
    let positions = change.plan.positions.iter().filter(counted).copied().collect();
    Some(What::Plan(PlanChange { plan: Plan { positions, ..change.plan.clone() }, ..change.clone() }))
}

/// The figures that are tight in `build` and not after `what`: for a target, a rule, the places that are touched, or where
/// pistons are measured; nothing for other facts, which bring evidence of their own. What has to be measured again after the
/// point of the pistons was moved lifts nothing: it blocks until it is.
///
/// A figure whose evidence was struck, or ended, counts as it was judged last: what was tight then is still tight as far as
/// anybody knows, until it is measured anew.
pub fn lifts_tight(build: &Build, what: &What) -> Vec<Lifted> {
    if !decides(what) {
        return Vec::new();
    }
    let before = evaluate(build);
    let mut all = Vec::new();
    if before.figures.iter().any(is_tight) {
        let after = After::of(build, build, what);
        all = lifted(&before, |f| !after.blocks(f));
    }
    all.extend(lifts_what_was_tight(build, &before, what));
    all
}

/// What follows from a decision.
struct After {
    /// As it is: what has to be touched first blocks until it is.
    whole: Assessment,
    /// By what it leaves of the places so far; absent where it is about none.
    left: Option<Assessment>,
}

impl After {
    /// On top of some facts of `build`.
    fn of(facts: &Build, build: &Build, what: &What) -> Self {
        let left = without_what_is_new(build, what).map(|left| evaluate(&with(facts, &left)));
        After { whole: evaluate(&with(facts, what)), left }
    }

    /// Whether a figure that was tight still blocks.
    fn blocks(&self, f: &FigureAssessment) -> bool {
        let left = self.left.as_ref().is_none_or(|left| left.figure(f.figure, f.station).is_some_and(is_tight));
        left && blocks_in(&self.whole, f)
    }
}

/// The same for figures that cannot be judged any more, as they were when they could be.
fn lifts_what_was_tight(build: &Build, now: &Assessment, what: &What) -> Vec<Lifted> {
    let struck = build.struck();
    let struck_at: HashSet<Place> =
        build.readings().filter(|(f, _)| struck.contains(&f.id)).map(|(_, r)| r.station).collect();
    let had_evidence =
        |f: &FigureAssessment| f.stale.is_some() || f.measured.iter().any(|m| struck_at.contains(&m.place));
    let lost = now.figures.iter().filter(|f| is_open(f) && had_evidence(f));
    let mut lost: Vec<(Figure, Place)> = lost.map(|f| (f.figure, f.station)).collect();
    let mut all = Vec::new();
    // A figure is judged up to the fact that ended its evidence: looked for backwards.
    for (ended, _) in build.facts.iter().enumerate().rev().filter(|(_, f)| may_end(&f.what)) {
        if lost.is_empty() {
            break;
        }
        let prefix = |facts| Build { facts, known_to: build.seq(), ..build.without_facts() };
        let before: Vec<Fact> = build.facts.iter().take(ended).cloned().collect();
        let was = evaluate(&prefix(before.clone()));
        let judged = |(figure, place): (Figure, Place)| was.figure(figure, place).is_some_and(|f| f.judged.is_some());
        let known: Vec<(Figure, Place)> = lost.iter().copied().filter(|of| judged(*of)).collect();
        if known.is_empty() {
            continue;
        }
        lost.retain(|of| !known.contains(of));
        // By everything that was decided since, and by what is decided now.
        let since = build.facts.iter().skip(ended).filter(|f| decides(&f.what)).cloned();
        let then = prefix(before.into_iter().chain(since).collect());
        let (until_now, after) = (evaluate(&then), After::of(&then, build, what));
        let is_known = |f: &FigureAssessment| known.contains(&(f.figure, f.station));
        all.extend(lifted(&was, |f| is_known(f) && blocks_in(&until_now, f) && !after.blocks(f)));
    }
    all
}
