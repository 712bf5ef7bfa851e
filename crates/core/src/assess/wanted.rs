//! What to touch next: every journal along the crank first, then every pin, then bearing by bearing.

use rustc_hash::FxHashSet;
use serde::Serialize;

use crate::engine::{Asked, Characteristic, Group, Input, Place, Read};
use crate::evidence::Spot;
use crate::figure::{FigureAssessment, Measured};
use crate::log::Rules;

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
        })
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
/// them is enough, and whoever measures picks it.
pub fn still_wanted(rules: &Rules, figures: &[FigureAssessment]) -> Vec<Wanted> {
    let (mut first, mut each): (Vec<Wanted>, Vec<Wanted>) = Default::default();
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
                list.push(wanted);
            }
        }
    }
    first.append(&mut each);
    first
}
