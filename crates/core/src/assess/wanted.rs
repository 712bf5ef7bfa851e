//! What to touch next: every journal along the crank first, then every pin, then bearing by bearing.

use rustc_hash::FxHashSet;
use serde::Serialize;

use crate::engine::{Asked, Characteristic, Group, Input, Place, Position, Read};
use crate::evidence::{PositionAssessment, Spot};
use crate::figure::{FigureAssessment, Measured};
use crate::log::Rules;

/// On which way along the engine something is touched, where it is measured in rounds.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Pass {
    /// On the way there: the first touch of each place.
    There,
    /// On the way back: the others, from the last place to the first.
    Back,
}

/// Something that still wants touches, by one way of reading it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wanted {
    /// Where on the engine.
    pub station: Place,
    /// Which track of it, where a shared pin has one for each rod.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub track: Option<u8>,
    /// What.
    pub characteristic: Characteristic,
    /// Read how.
    pub read: Read,
    /// What it is measured together with.
    pub group: Group,
    /// Whether it is measured along the whole row before the rest of its group.
    pub along_row: bool,
    /// Whether the figures need it; else it only could be measured as well.
    pub asked: bool,
    /// Touches still wanted, over all its places.
    pub left: usize,
    /// In rounds: which of them.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pass: Option<Pass>,
}

impl Wanted {
    fn of(m: &Measured, input: &Input, asked: bool) -> Option<Self> {
        let left = m.size.positions.iter().map(|p| usize::from(p.left)).sum();
        let (station, track, characteristic, read) = (m.place, m.track, m.characteristic, m.read);
        (left > 0).then_some(Wanted {
            station,
            track,
            characteristic,
            read,
            group: input.group,
            along_row: input.along_row,
            asked,
            left,
            pass: None,
        })
    }

    /// Whether it is of that.
    pub fn is_of(&self, m: &Measured) -> bool {
        let it = (m.place, m.track, m.characteristic, m.read);
        it == (self.station, self.track, self.characteristic, self.read)
    }

    /// Where each of its touches is made, in their order: on the way back from the last place to the first.
    pub fn touches(&self, m: &Measured) -> Vec<Position> {
        let of_place = |p: &PositionAssessment| std::iter::repeat_n(p.position, self.touches_at(p).count());
        let mut touches: Vec<Position> = m.size.positions.iter().flat_map(of_place).collect();
        if self.pass == Some(Pass::Back) {
            touches.reverse();
        }
        touches
    }

    /// Touches that are still wanted at a place of it, by number from 1.
    fn touches_at(&self, place: &PositionAssessment) -> std::ops::RangeInclusive<usize> {
        let taken = place.touches.len();
        let (first, last) = (taken.saturating_add(1), taken.saturating_add(usize::from(place.left)));
        match self.pass {
            None => first..=last,
            Some(Pass::There) => first..=last.min(1),
            Some(Pass::Back) => first.max(2)..=last,
        }
    }

    /// What of it is touched on that way; nothing where no touch is left for it.
    fn on_the_way(self, pass: Pass, m: &Measured) -> Option<Self> {
        let way = Wanted { pass: Some(pass), ..self };
        let left = way.touches(m).len();
        (left > 0).then_some(Wanted { left, ..way })
    }
}

/// Whether an input is asked for by the figure itself.
fn is_asked(rules: &Rules, f: &FigureAssessment, input: &Input, m: &Measured) -> bool {
    let preferred = f.figure.method(rules.preferred);
    match input.asked {
        Asked::First => true,
        Asked::Never => false,
        Asked::ByDefault => preferred.is_none_or(|p| !p.replaces.contains(&input.role)) || m.size.taken > 0,
        Asked::OnceBegun => {
            let made_of = preferred.is_some_and(|p| p.terms.iter().any(|t| t.role == input.role && !t.ends));
            made_of || m.size.stale.is_some() || m.size.taken > 0
        }
    }
}

/// Everything that still wants touches, in the order of the work. What can be read in two ways is listed by both: one of
/// them is enough, and whoever measures picks it. In rounds everything is listed by the way it is touched on.
pub fn still_wanted(rules: &Rules, figures: &[FigureAssessment]) -> Vec<Wanted> {
    let (mut first, mut each): (Vec<Listed<'_>>, Vec<Listed<'_>>) = Default::default();
    let mut listed: FxHashSet<(bool, Spot)> = FxHashSet::default();
    // What nobody asks for can be measured, and is not wanted.
    for f in figures.iter().filter(|f| f.asked) {
        for m in f.measured.iter().filter(|m| !m.moot) {
            let ours = |i: &&Input| i.role == m.role && i.read == m.read;
            let asked_for = |i: &&Input| ours(i) && i.asked != Asked::Never;
            let Some(input) = f.figure.inputs().iter().find(asked_for) else { continue };
            let goes_first = input.asked == Asked::First;
            let list = if goes_first { &mut first } else { &mut each };
            // Rods side by side run on one pin: it is measured once.
            if let Some(wanted) = Wanted::of(m, input, is_asked(rules, f, input, m))
                && listed.insert((goes_first, m.spot()))
            {
                list.push((wanted, m));
            }
        }
    }
    if !rules.rounds {
        return first.into_iter().chain(each).map(|(wanted, _)| wanted).collect();
    }
    let (along, others): (Vec<Listed<'_>>, Vec<Listed<'_>>) = each.into_iter().partition(|(w, _)| w.along_row);
    [first, along, others].into_iter().flat_map(ways).flat_map(there_and_back).collect()
}

/// What is wanted, with what is known of it.
type Listed<'a> = (Wanted, &'a Measured);

/// What is touched on one way along the engine stands together, in the order in which each way begins.
fn ways(list: Vec<Listed<'_>>) -> Vec<Vec<Listed<'_>>> {
    let way = |w: &Wanted| (w.characteristic, w.read, w.station.kind());
    let mut ways: Vec<Vec<Listed<'_>>> = Vec::new();
    for listed in list {
        let is_its_way = |known: &&mut Vec<Listed<'_>>| known.first().is_some_and(|(w, _)| way(w) == way(&listed.0));
        match ways.iter_mut().find(is_its_way) {
            Some(known) => known.push(listed),
            None => ways.push(vec![listed]),
        }
    }
    ways
}

/// The first touches of some places, and then the others from the last place to the first.
fn there_and_back(way: Vec<Listed<'_>>) -> Vec<Wanted> {
    let there = way.iter().filter_map(|(w, m)| w.on_the_way(Pass::There, m));
    let back = way.iter().rev().filter_map(|(w, m)| w.on_the_way(Pass::Back, m));
    there.chain(back).collect()
}
