//! A build: one engine, its rules and gauges, and the facts recorded about it.

use std::collections::HashSet;

use serde::{Deserialize, Serialize};
use thiserror::Error;
use uuid::Uuid;

use crate::engine::{Feature, FeaturePlan, Layout, LayoutError, Planned};
use crate::gauge::Gauge;
use crate::log::{Fact, Reading, Rules, What};
use crate::units::{Person, TextError, Timestamp, Unit, check_text};

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
    #[error("{0}")]
    SetUp(&'static str),
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
    /// Sequence number of the last fact; 0 before the first.
    pub fn seq(&self) -> u32 {
        self.facts.last().map_or(0, |f| f.seq)
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

    /// The positions of a feature: its last change, else the engine's plan, else the usual one.
    pub fn plan(&self, feature: Feature) -> &[Planned] {
        self.plan_among(&self.notes(), feature)
    }

    pub(crate) fn plan_among<'a>(&'a self, notes: &[&'a Fact], feature: Feature) -> &'a [Planned] {
        let changed = notes.iter().rev().find_map(|f| match &f.what {
            What::Plan(change) if change.plan.feature == feature => Some(&change.plan),
            _ => None,
        });
        let own = || self.layout.plans.iter().find(|p| p.feature == feature);
        changed.or_else(own).map_or(feature.positions(), |p| &p.positions)
    }

    /// The plans in force of every feature this engine has, in the order of the work.
    pub fn plans(&self) -> Vec<FeaturePlan> {
        let notes = self.notes();
        let there = |f: &Feature| self.layout.rods.is_some() || !f.belongs_to_rods();
        let plan = |feature| FeaturePlan { feature, positions: self.plan_among(&notes, feature).to_vec() };
        Feature::ALL.into_iter().filter(there).map(plan).collect()
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
        if !self.rules.are_sound() {
            return Err(BuildError::SetUp("the rules need 1 to 9 touches and bands above zero"));
        }
        let ids: HashSet<&str> = self.gauges.iter().map(|g| g.id.as_str()).collect();
        if ids.len() != self.gauges.len() || !self.gauges.iter().all(Gauge::is_sound) {
            return Err(BuildError::SetUp("every gauge needs a name of its own and a resolution above zero"));
        }
        Ok(())
    }
}
