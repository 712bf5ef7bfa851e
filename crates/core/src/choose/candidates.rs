//! Cranks side by side: the one that stands in the engine and those that were entered beside it, by what was measured
//! of each and what each would need.
//!
//! A row whose journals all belong to one undersize, and differ by no more than its window is wide, takes shells of that
//! undersize; else it is ground to the first undersize at which every journal cleans up:
//! `size <= smallest - out-of-round - taper`, the same arithmetic as a grind plan's ([`crate::machining`]).
use serde::Serialize;

use crate::assess::{Assessment, evaluate};
use crate::build::{Build, Standing, with_part_in};
use crate::engine::{BearingRow, Figure, PartKind, Place, Role, Seat, usual_undersizes};
use crate::evidence::{Sessions, gauge_behind};
use crate::figure::{FigureAssessment, MeasuredBy, of_size};
use crate::units::Length;

/// One journal of a crank, or one track of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CandidateJournal {
    /// Where.
    pub place: Place,
    /// Which track of a shared pin.
    pub track: Option<u8>,
    /// The size that counts; absent while it is not measured whole.
    pub size: Option<Length>,
    /// How sure that is.
    pub expanded: Option<Length>,
    /// The undersize it belongs to; absent where it belongs to none.
    pub undersize: Option<Length>,
    /// What is missing to the size of that undersize.
    pub worn: Option<Length>,
    /// Largest difference along the axis.
    pub taper: Option<Length>,
    /// Largest difference around.
    pub out_of_round: Option<Length>,
}

/// What the journals of a row would need.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CrankNeed {
    /// Journals are not measured yet.
    Measure {
        /// How many.
        open: usize,
    },
    /// Shells of one undersize, and nothing else.
    Shells {
        /// The undersize; zero for standard.
        undersize: Length,
    },
    /// All journals ground to one undersize.
    Grind {
        /// The undersize.
        undersize: Length,
        /// The size of every journal.
        size: Length,
    },
    /// No undersize cleans every journal.
    NothingServes,
}

/// The journals of one row of a crank.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CandidateRow {
    /// The row.
    pub row: BearingRow,
    /// Journal by journal, from the front.
    pub journals: Vec<CandidateJournal>,
    /// Largest less smallest size, where two or more are measured.
    pub spread: Option<Length>,
    /// What they would need.
    pub needs: CrankNeed,
}

/// A crank.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Candidate {
    /// The part.
    pub part: String,
    /// Whether it stands in the engine.
    pub stands: bool,
    /// Whether it is condemned.
    pub condemned: bool,
    /// The mains, then the pins, as far as shells run on them.
    pub rows: Vec<CandidateRow>,
}

/// Every crank of a build: the first one, then those that were entered.
pub fn cranks(build: &Build) -> Vec<Candidate> {
    let notes = build.notes();
    let standing = Standing::of(&build.layout, &notes);
    let seat = Seat { kind: PartKind::Crank, place: None };
    let entered = standing.entered().iter().filter(|(_, p)| p.kind == seat.kind).map(|(_, p)| p.tag.clone());
    let crank = |part: String| {
        let assessed = evaluate(&with_part_in(build, &part)?);
        // What runs on rollers has no journals that a shell is fitted to: there is nothing to choose by.
        let rows = BearingRow::ALL.into_iter().map(|row| one_row(build, &assessed, row));
        Some(Candidate {
            stands: standing.on(seat) == Some(part.as_str()),
            condemned: standing.condemned(&part).is_some(),
            rows: rows.filter(|row| !row.journals.is_empty()).collect(),
            part,
        })
    };
    std::iter::once(seat.first_part()).chain(entered).filter_map(crank).collect()
}

fn one_row(build: &Build, assessed: &Assessment, row: BearingRow) -> CandidateRow {
    let sessions = Sessions::of(&build.notes(), build.rules_now().reckoning);
    let mut journals: Vec<CandidateJournal> = Vec::new();
    for s in assessed.figures.iter().filter(|f| f.figure == Figure::OIL_CLEARANCE && f.row == row) {
        let one = journal(build, &sessions, s);
        // Rods side by side share a pin that is measured as one.
        if !journals.iter().any(|j| (j.place, j.track) == (one.place, one.track)) {
            journals.push(one);
        }
    }
    let sizes: Vec<Length> = journals.iter().filter_map(|j| j.size).collect();
    let spread = (sizes.len() > 1).then(|| Length::span(sizes.iter().copied()));
    let window = assessed.row_target(row).map(|t| t.window.high - t.window.low);
    let alike = window.is_none_or(|window| spread.is_none_or(|spread| spread <= window));
    CandidateRow { row, spread, needs: needs(build, row, &journals, alike), journals }
}

fn journal(build: &Build, sessions: &Sessions, s: &FigureAssessment) -> CandidateJournal {
    let measured = s.measured.iter().find(|m| m.role == Role::JOURNAL);
    let size = measured.filter(|m| m.size.complete).and_then(|m| m.size.size.as_ref());
    let gauge = size.and_then(|size| gauge_behind(build, sessions, size));
    let doubt = size.zip(gauge).map(|(size, gauge)| MeasuredBy::of(gauge, size));
    CandidateJournal {
        place: s.journal_at,
        track: measured.and_then(|m| m.track),
        size: size.map(|z| z.effective),
        expanded: doubt.map(|by| of_size(Role::JOURNAL, by).expanded),
        undersize: s.class.and_then(|c| c.undersize),
        worn: s.class.and_then(|c| c.worn),
        taper: size.map(|z| z.taper),
        out_of_round: size.map(|z| z.out_of_round),
    }
}

fn needs(build: &Build, row: BearingRow, journals: &[CandidateJournal], alike: bool) -> CrankNeed {
    let open = journals.iter().filter(|j| j.size.is_none()).count();
    if open > 0 {
        return CrankNeed::Measure { open };
    }
    let first = journals.first().and_then(|j| j.undersize);
    if let Some(undersize) = first.filter(|u| alike && journals.iter().all(|j| j.undersize == Some(*u))) {
        return CrankNeed::Shells { undersize };
    }
    let shape = |j: &CandidateJournal| j.taper.unwrap_or_default() + j.out_of_round.unwrap_or_default();
    let clean = journals.iter().filter_map(|j| Some(j.size? - shape(j))).min();
    let usual;
    let undersizes = match build.layout.nominals(row) {
        Some(n) => &n.undersizes,
        None => {
            usual = usual_undersizes(build.unit);
            &usual
        }
    };
    let nominal = build.layout.journal(row);
    let serves = |u: &&Length| clean.is_some_and(|clean| nominal - **u <= clean);
    undersizes.iter().find(serves).map_or(CrankNeed::NothingServes, |u| {
        let (undersize, size) = (*u, nominal - *u);
        CrankNeed::Grind { undersize, size }
    })
}
