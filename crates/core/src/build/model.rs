//! A build: one engine, its rules and gauges, and the facts recorded about it.
use std::borrow::Cow;
use std::collections::HashSet;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use uuid::Uuid;

use crate::engine::{Characteristic, Layout, LayoutError, PlaceKind, Plan, Planned, Position};
use crate::gauge::Gauge;
use crate::log::{Fact, Reading, Rules, What};
use crate::units::{Flaw, Person, TextError, Timestamp, Unit, check_text, must_differ};

/// Everything known about one build. Loaded whole, evaluated by [`crate::assess::evaluate`].
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Build {
    /// Identifier made by whoever opened it.
    pub id: Uuid,
    /// Short name on the floor, such as `SL-041`.
    pub code: String,
    /// The engine in words.
    pub engine: String,
    /// Working unit.
    pub unit: Unit,
    /// The engine layout.
    pub layout: Layout,
    /// The shop's rules for it.
    pub rules: Rules,
    /// The kinds of gauge it may be measured with.
    pub gauges: Vec<Gauge>,
    /// When it was opened.
    pub opened_at: Timestamp,
    /// Who opened it.
    pub opened_by: Person,
    /// What was recorded since, in order.
    pub facts: Vec<Fact>,
    /// Number of the last fact there is, where the facts here are not all of them; 0 where they are.
    #[serde(skip)]
    pub known_to: u32,
}

/// Longest short name of a build.
pub const LONGEST_CODE: usize = 24;

/// Why a build, such as one from a file, is not consistent in itself.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum BuildError {
    /// The short name is missing, too long, or has characters that do not belong in an address.
    #[error("a build's name has 1 to {LONGEST_CODE} letters, digits, hyphens, points or underscores")]
    Code,
    /// A text is empty or too long.
    #[error(transparent)]
    Text(#[from] TextError),
    /// The layout makes no sense.
    #[error(transparent)]
    Layout(#[from] LayoutError),
    /// The rules or the gauges make no sense.
    #[error(transparent)]
    SetUp(#[from] Flaw),
    /// It was opened after today.
    #[error("it says that it was opened in the future: is the clock of one of the machines wrong?")]
    Time,
    /// It holds more than any engine does.
    #[error("it holds more than a build can")]
    Size,
    /// Something of it was recorded after today.
    #[error("fact {seq} says that it was recorded in the future: was the clock of that machine wrong?")]
    Ahead {
        /// Number of the fact.
        seq: u32,
    },
    /// Whoever asked is gone.
    #[error("nobody waits for the answer any more")]
    GivenUp,
    /// A fact contradicts the ones before it.
    #[error("fact {seq}: {why}")]
    Fact {
        /// Its place in the order.
        seq: u32,
        /// What is wrong with it.
        why: String,
    },
}

/// Identifiers of the readings that notes strike.
pub(crate) fn struck_among(notes: &[&Fact]) -> HashSet<Uuid> {
    let strike = |f: &&Fact| match &f.what {
        What::Strike(s) => Some(s.reading),
        _ => None,
    };
    notes.iter().filter_map(strike).collect()
}

impl Build {
    /// Sequence number of the last fact, whether it is shown here or not; 0 before the first.
    pub fn seq(&self) -> u32 {
        self.facts.last().map_or(0, |f| f.seq).max(self.known_to)
    }

    /// The build as it was opened, before anything was recorded.
    pub fn without_facts(&self) -> Build {
        Build {
            id: self.id,
            code: self.code.clone(),
            engine: self.engine.clone(),
            unit: self.unit,
            layout: self.layout.clone(),
            rules: self.rules.clone(),
            gauges: self.gauges.clone(),
            opened_at: self.opened_at,
            opened_by: self.opened_by.clone(),
            facts: Vec::new(),
            known_to: 0,
        }
    }

    /// The gauge of that identifier.
    pub fn gauge(&self, id: &str) -> Option<&Gauge> {
        self.gauges.iter().find(|g| g.id == id)
    }

    /// The facts that are not readings, in order: few, so that they can be looked through again and again.
    pub fn notes(&self) -> Vec<&Fact> {
        self.facts.iter().filter(|f| !matches!(f.what, What::Reading(_))).collect()
    }

    /// The rules in force: those it was opened with, or the last change of them.
    pub fn rules_now(&self) -> &Rules {
        self.rules_among(&self.notes())
    }

    pub(crate) fn rules_among<'a>(&'a self, notes: &[&'a Fact]) -> &'a Rules {
        let changed = notes.iter().rev().find_map(|f| match &f.what {
            What::Rules(change) => Some(&change.rules),
            _ => None,
        });
        changed.unwrap_or(&self.rules)
    }

    /// Where a characteristic is touched: its plan in force, once for each track of a shared pin.
    pub fn plan(&self, characteristic: Characteristic, at: PlaceKind) -> Vec<Planned> {
        self.positions_among(&self.notes(), (characteristic, at)).into_owned()
    }

    pub(crate) fn positions_among<'a>(
        &'a self,
        notes: &[&'a Fact],
        what: (Characteristic, PlaceKind),
    ) -> Cow<'a, [Planned]> {
        let plan = self.plan_among(notes, what);
        let first = self.layout.of_kind(what.1).next();
        match first.map_or(0, |place| self.layout.tracks(place)) {
            0 => Cow::Borrowed(plan),
            tracks => {
                let on = |track| {
                    let on_it = move |p: &Planned| Planned { position: Position { track, ..p.position }, ..*p };
                    plan.iter().map(on_it)
                };
                Cow::Owned((1..=tracks).flat_map(|track| on(Some(track))).collect())
            }
        }
    }

    /// The plan of a characteristic at a kind of place, or of one track of it: its last change, else the engine's, else the
    /// usual one.
    pub fn plan_as_written(&self, characteristic: Characteristic, at: PlaceKind) -> &[Planned] {
        self.plan_among(&self.notes(), (characteristic, at))
    }

    fn plan_among<'a>(&'a self, notes: &[&'a Fact], what: (Characteristic, PlaceKind)) -> &'a [Planned] {
        let changed = notes.iter().rev().find_map(|f| match &f.what {
            What::Plan(change) if change.plan.is_for(what) => Some(&change.plan),
            _ => None,
        });
        let own = || self.layout.plans.iter().find(|p| p.is_for(what));
        changed.or_else(own).map_or(what.0.positions(), |p| &p.positions)
    }

    /// The plans in force of every characteristic this engine has, in the order of the work: one for all kinds of place that
    /// have it where they are touched alike, else one for each.
    pub fn plans(&self) -> Vec<Plan> {
        let notes = self.notes();
        let of = |characteristic: Characteristic| {
            let there = characteristic.row().at.iter().copied().filter(|kind| self.layout.count(*kind) > 0);
            let plan = |kind| (kind, self.plan_among(&notes, (characteristic, kind)));
            let mut plans: Vec<(PlaceKind, &[Planned])> = there.map(plan).collect();
            let alike = plans.iter().all(|(_, p)| plans.first().is_some_and(|(_, first)| p == first));
            if alike {
                plans.truncate(1);
            }
            let at = |kind| Some(kind).filter(|_| !alike);
            plans
                .into_iter()
                .map(|(kind, p)| Plan { characteristic, at: at(kind), positions: p.to_vec() })
                .collect::<Vec<_>>()
        };
        Characteristic::all().flat_map(of).collect()
    }

    /// Every reading with its fact, in order.
    pub fn readings(&self) -> impl Iterator<Item = (&Fact, &Reading)> {
        self.facts.iter().filter_map(|f| match &f.what {
            What::Reading(r) => Some((f, r)),
            _ => None,
        })
    }

    /// Identifiers of the readings that were struck.
    pub fn struck(&self) -> HashSet<Uuid> {
        struck_among(&self.notes())
    }

    /// Checks the set-up alone: names, layout, rules, gauges.
    ///
    /// # Errors
    /// [`BuildError`] names the first thing that does not hold.
    pub fn check_set_up(&self) -> Result<(), BuildError> {
        let plain = |c: char| c.is_ascii_alphanumeric() || matches!(c, '-' | '.' | '_');
        let starts_well = self.code.starts_with(|c: char| c.is_ascii_alphanumeric());
        if !starts_well || self.code.len() > LONGEST_CODE || !self.code.chars().all(plain) {
            return Err(BuildError::Code);
        }
        check_text(&self.engine, "the engine")?;
        check_text(&self.opened_by.name, "the name of who opened it")?;
        self.layout.check()?;
        self.rules.check()?;
        must_differ(self.gauges.iter().map(|g| g.id.as_str()), "gauges")?;
        self.gauges.iter().try_for_each(Gauge::check)?;
        Ok(())
    }
}
