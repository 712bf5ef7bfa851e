//! Do predictions of chosen shells cover what the bearing has once they are in?
//!
//! A choice favours lucky noise: the bearing that happened to read loose gets the thicker half. Here a row is measured with
//! standard halves in, the best shells are proposed, and the true clearance afterwards is the true one before, less what the
//! halves that go out really added, plus what those that come in add.
use std::collections::BTreeMap;

use jagged_pin_core::Length;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::choose::{Objective, ProposalWish, ProposedPair, propose};
use jagged_pin_core::engine::BearingRow;
use jagged_pin_core::maths::State;
use jagged_pin_core::shells::ShellFamily;
use jagged_pin_workbench::families;

use crate::chance::Chance;
use crate::coverage::Coverage;
use crate::shop::{Shop, measure};

/// One tenth, in nanometres.
const TENTH: f64 = 2_540.0;

/// How halves err around their class.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Boxes {
    /// Each half for itself.
    Apart,
    /// All halves of one class and place alike: they come out of one box.
    Together,
}

/// What each half adds beside its class, in tenths.
struct Halves<'c> {
    chance: &'c mut Chance,
    boxes: Boxes,
    grading: f64,
    drawn: BTreeMap<String, f64>,
}

impl Halves<'_> {
    fn of(&mut self, class: &str) -> f64 {
        let fresh = self.chance.between(-self.grading, self.grading);
        match self.boxes {
            Boxes::Apart => fresh,
            Boxes::Together => *self.drawn.entry(class.to_owned()).or_insert(fresh),
        }
    }

    /// What the new halves of a bearing add to its clearance.
    fn change(&mut self, family: &ShellFamily, place: &ProposedPair) -> f64 {
        let shift =
            |class: &str| family.classes.iter().find(|c| c.id == class).map_or(0.0, |c| c.shift.as_f64() / TENTH);
        let halves = [(&place.now.upper, &place.pair.upper), (&place.now.lower, &place.pair.lower)];
        let changed = halves.into_iter().filter(|(now, then)| now != then);
        changed.map(|(now, then)| (shift(then) - shift(now)) / 2.0 + self.of(then) - self.of(now)).sum()
    }
}

/// Measures `engines` in a shop, proposes shells for each row, and holds what is predicted of every bearing whose halves
/// change against the truth with them in.
pub fn predictions(shop: &Shop, boxes: Boxes, engines: u32, seed: u64) -> Coverage {
    let mut chance = Chance::seeded(seed);
    let mut found = Coverage::default();
    let Some(family) = families().into_iter().find(|f| f.id == "CX") else { return found };
    let wish = ProposalWish {
        row: BearingRow::Mains,
        undersize: Length::ZERO,
        objective: Objective::Closest,
        max_step: Length::tenths(10),
        odd: None,
        fitted: Vec::new(),
        foreign: Vec::new(),
        kept: Vec::new(),
        without: Vec::new(),
        coating: Length::ZERO,
        buy: true,
        moved: Length::ZERO,
    };
    for _ in 0..engines {
        let Ok(engine) = measure(shop, &mut chance) else { continue };
        let assessed = evaluate(&engine.build);
        let Ok(proposal) = propose(&engine.build, &assessed, &family, &[], &wish) else { continue };
        let grading = family.grading.as_f64() / TENTH;
        let mut halves = Halves { chance: &mut chance, boxes, grading, drawn: BTreeMap::new() };
        for place in proposal.places.iter().filter(|p| p.changes) {
            let bearing = &engine.bearings[usize::from(place.station.number()) - 1];
            let truth = bearing.clearance() + halves.change(&family, place);
            let window = place.target.low.as_f64() / TENTH..=place.target.high.as_f64() / TENTH;
            found.hold((place.clearance.as_f64() / TENTH, place.expanded.as_f64() / TENTH), truth);
            if place.state == State::In {
                found.false_in.count(!window.contains(&truth));
            }
        }
    }
    found
}
