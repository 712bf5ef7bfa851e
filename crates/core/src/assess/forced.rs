//! Checks that something forces: they are done, or the sheet is not signed.
//!
//! * What befell the engine ([`crate::log::Mishap`]) forces what it can have harmed.
//! * A journal that a nail catches, that is cracked or got hot, is crack-tested before money is spent on it; so is a crank that
//!   was straightened or welded.
use serde::Serialize;

use crate::engine::{Characteristic, Layout, Place, Role};
use crate::evidence::{Checks, Endings, Inspections};
use crate::figure::FigureAssessment;
use crate::log::{Befell, Check, CheckFound, Fact, InspectedPart, Inspection, Mishap, Sign, What, Work};
use crate::sheet::{Block, Needs};

/// What forces a check.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ForcedBy {
    /// Something befell the engine.
    Mishap {
        /// What.
        befell: Befell,
    },
    /// A sign on a journal.
    Sign {
        /// Where.
        place: Place,
        /// Which.
        sign: Sign,
    },
    /// Work that can crack what it is done to.
    Work {
        /// Which.
        work: Work,
    },
}

/// A check or a look that is forced.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Forced {
    /// By what.
    pub because: ForcedBy,
    /// The fact that forces it, by its place in the order.
    pub seq: u32,
    /// The check; absent where something has to be looked at.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub check: Option<Check>,
    /// What has to be looked at.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub look: Option<InspectedPart>,
    /// The cylinder or journal it is about; absent for the engine as a whole.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub at: Option<Place>,
    /// Places that were not looked at since.
    pub left: Vec<Place>,
    /// What the check found.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub found: Option<CheckFound>,
}

impl Forced {
    /// Whether it is still in the way of a signature: not done since, or badly.
    pub fn is_open(&self) -> bool {
        match self.check {
            Some(_) => self.found != Some(CheckFound::Good),
            None => !self.left.is_empty(),
        }
    }
}

/// What is still forced, as it blocks the sheet: each check once, at the first figure of its place that is asked for.
pub(super) fn in_the_way(forced: &[Forced], figures: &[FigureAssessment]) -> Vec<Block> {
    let mut blocks: Vec<Block> = Vec::new();
    for open in forced.iter().filter(|f| f.is_open()) {
        let at = open.at.or_else(|| open.left.first().copied());
        let asked = |here: &dyn Fn(&FigureAssessment) -> bool| figures.iter().find(|f| f.asked && here(f));
        let there = asked(&|f| at.is_some_and(|at| f.station == at || f.journal_at == at));
        let Some(f) = there.or_else(|| asked(&|_| true)) else { continue };
        let block = Block { check: open.check, look: open.look, ..Block::of(f, Needs::Check) };
        if !blocks.contains(&block) {
            blocks.push(block);
        }
    }
    blocks
}

/// What is forced in a build, in the order of what forces it.
pub(super) fn forced(
    layout: &Layout,
    notes: &[&Fact],
    endings: &Endings<'_>,
    inspections: &Inspections<'_>,
    checks: &Checks<'_>,
) -> Vec<Forced> {
    let check = |because, seq, check, at: Option<Place>| {
        let done = checks.last(check, at.as_slice()).filter(|(fact, _)| fact.seq > seq);
        let found = done.map(|(_, done)| done.found);
        Forced { because, seq, check: Some(check), look: None, at, left: Vec::new(), found }
    };
    let mut all = Vec::new();
    for fact in notes {
        match &fact.what {
            What::Mishap(mishap) => {
                let because = ForcedBy::Mishap { befell: mishap.befell };
                all.extend(mishap.befell.checks().iter().map(|c| check(because, fact.seq, *c, mishap.at)));
                all.extend(looks(layout, inspections, fact.seq, mishap));
            }
            What::Work(w) if matches!(w.work, Work::CrankStraightened | Work::JournalWelded) => {
                all.push(check(ForcedBy::Work { work: w.work }, fact.seq, Check::CrackTest, None));
            }
            What::Inspection(look) if stops(look) && !taken_back(notes, endings, fact, look) => {
                let sign = look.signs.iter().copied().find(|s| s.is_stop()).unwrap_or(Sign::Crack);
                let because = ForcedBy::Sign { place: look.station, sign };
                all.push(check(because, fact.seq, Check::CrackTest, Some(look.station)));
            }
            _ => {}
        }
    }
    all
}

/// What has to be looked at after something befell the engine.
fn looks(layout: &Layout, inspections: &Inspections<'_>, seq: u32, mishap: &Mishap) -> Vec<Forced> {
    let because = ForcedBy::Mishap { befell: mishap.befell };
    let of = |part: &InspectedPart| {
        let there: Vec<Place> =
            part.places(layout).into_iter().filter(|place| mishap.reaches(layout, *place)).collect();
        let left = there.iter().copied().filter(|place| !inspections.seen_since(*place, *part, seq)).collect();
        let forced = Forced { because, seq, check: None, look: Some(*part), at: mishap.at, left, found: None };
        (!there.is_empty()).then_some(forced)
    };
    mishap.befell.looks().iter().filter_map(of).collect()
}

fn stops(look: &Inspection) -> bool {
    look.part == InspectedPart::Journal && look.signs.iter().any(|sign| sign.is_stop())
}

/// Whether a later look at the same journal, before anything was done to it, does not say so any more.
fn taken_back(notes: &[&Fact], endings: &Endings<'_>, fact: &Fact, look: &Inspection) -> bool {
    let again = notes.iter().filter(|later| later.seq > fact.seq).find_map(|later| match &later.what {
        What::Inspection(again) if (again.station, again.part) == (look.station, look.part) => Some((later.seq, again)),
        _ => None,
    });
    let journal = Characteristic::at(look.station, Role::JOURNAL);
    let reworked = journal.and_then(|journal| endings.ended(look.station, journal, fact.seq)).map(|e| e.seq);
    again.is_some_and(|(seq, again)| !stops(again) && reworked.is_none_or(|done| done > seq))
}
