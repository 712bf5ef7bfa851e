//! What is worked out once for a whole build, with room for readings that come on top of it.
use std::cell::OnceCell;
use std::slice::Iter;

use crate::build::{Build, Standing, shells_in, struck_among};
use crate::engine::{BearingRow, Place};
use crate::evidence::{Endings, Evidence, Inspections, Notes, Plans, Sessions, SlottedReadings};
use crate::figure::{Context, InReach, Targets, UsualSizes};
use crate::log::{Fact, What};

/// A build while readings are put on top of it.
///
/// Nothing but readings may come: what ends, moves or plans is worked out once.
pub struct Along<'a> {
    pub(super) context: Context<'a>,
    pub(super) evidence: Evidence<'a>,
    pub(super) room: Iter<'a, OnceCell<Fact>>,
}

impl Along<'_> {
    /// Puts a reading on top. Anything else, and what finds no room, changes nothing.
    pub fn keep(&mut self, fact: Fact) {
        let Some(cell) = self.room.next() else { return };
        let fact = cell.get_or_init(|| fact);
        let What::Reading(reading) = &fact.what else { return };
        if reading.blind.is_none()
            && let Some(touch) = self.context.touches.put(self.evidence, fact, reading)
        {
            self.context.touches.learn_hands(&touch);
            if self.evidence.rounds {
                self.context.usual = UsualSizes::of(&self.context.touches);
            } else {
                self.context.usual.add(&touch);
            }
        }
    }
}

/// What a pair of standard halves is called.
const STANDARD: [&str; 4] = ["std", "standard", "0", "STD"];

/// Bearings whose shells are named, and not as standard ones.
fn named_shells(notes: &[&Fact]) -> Vec<Place> {
    let is_standard = |name: &String| STANDARD.contains(&name.trim());
    let named = BearingRow::ALL.into_iter().flat_map(|row| shells_in(notes, row));
    named.filter(|(_, upper, lower)| !(is_standard(upper) && is_standard(lower))).map(|(at, ..)| at).collect()
}

/// Does something with what is worked out once for a whole build.
pub(super) fn with_context<R>(build: &Build, work: impl FnOnce(&Context<'_>, Evidence<'_>) -> R) -> R {
    with_room(build, &[], |along| work(&along.context, along.evidence))
}

/// The same, with room for readings that come on top of the build one after the other.
pub(super) fn with_room<R>(build: &Build, room: &[OnceCell<Fact>], work: impl FnOnce(&mut Along<'_>) -> R) -> R {
    let notes = build.notes();
    let rules = build.rules_among(&notes);
    let (plans, sessions) = (Plans::of(build, &notes), Sessions::of(&notes, build.rules_among(&notes).reckoning));
    let standing = Standing::of(&build.layout, &notes);
    let (endings, struck) = (Endings::of(&build.layout, &notes, &standing, rules.reckoning), struck_among(&notes));
    let evidence = Evidence {
        build,
        plans: &plans,
        sessions: &sessions,
        standing: &standing,
        endings: &endings,
        struck: &struck,
        reckoning: rules.reckoning,
        rounds: rules.rounds,
    };
    let readings = SlottedReadings::of(evidence, None);
    let inspections = Inspections::of(&notes, &standing, &endings);
    let noted = Notes::of(&notes, &standing, &endings);
    let gauges = InReach::all(&build.gauges);
    let targets = Targets::of(build, &notes);
    let context = Context {
        build,
        notes: &notes,
        rules,
        sessions: &sessions,
        gauges: &gauges,
        named_shells: named_shells(&notes),
        usual: UsualSizes::of(&readings),
        touches: readings,
        standing: &standing,
        endings: &endings,
        inspections: &inspections,
        noted: &noted,
        targets,
    };
    work(&mut Along { context, evidence, room: room.iter() })
}
