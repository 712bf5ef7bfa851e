//! What a sheet says nothing about: as much a part of it as what was measured.
//!
//! * a figure that nobody asked for and nobody began;
//! * a part of a bearing that was measured nowhere, or not everywhere;
//! * touches that inform and were left out: relief stays unknown;
//! * readings of gauges that nobody checked;
//! * journals and shells that nobody looked at, and set-ups that nobody wrote down.
use rustc_hash::FxHashSet;
use serde::Serialize;

use crate::build::Build;
use crate::engine::{BearingRow, Figure, Place, Role, Wanting};
use crate::evidence::Inspections;
use crate::figure::{FigureAssessment, Finding, Measured};
use crate::log::{Fact, InspectedPart, LOOKS, What};

/// Something that was not checked, and where.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum NotChecked {
    /// A figure of the engine that nobody asked for.
    Figure {
        /// Which.
        figure: Figure,
        /// Where.
        places: Vec<Place>,
    },
    /// A part of bearings that was not measured.
    Part {
        /// Which.
        role: Role,
        /// Where.
        places: Vec<Place>,
    },
    /// Whether bores are wider toward the parting line.
    Relief {
        /// Where.
        places: Vec<Place>,
    },
    /// What was read with a gauge that nobody checked on a standard.
    Unproven {
        /// Where.
        places: Vec<Place>,
    },
    /// A part that nobody looked at.
    Look {
        /// Which.
        part: InspectedPart,
        /// Where.
        places: Vec<Place>,
    },
    /// Bearings that were left out on purpose, where a row was sampled: nothing is claimed of them, nor of how the row lies.
    Sampled {
        /// The bearings between the two that were measured.
        places: Vec<Place>,
    },
    /// What caps were torqued with.
    SetUp {
        /// For which row.
        row: BearingRow,
    },
}

impl NotChecked {
    /// Where it was not checked.
    pub fn places(&self) -> &[Place] {
        match self {
            NotChecked::Figure { places, .. }
            | NotChecked::Part { places, .. }
            | NotChecked::Relief { places }
            | NotChecked::Unproven { places }
            | NotChecked::Sampled { places }
            | NotChecked::Look { places, .. } => places,
            NotChecked::SetUp { .. } => &[],
        }
    }
}

/// Parts of a bearing whose sizes a blueprint has, beside what its clearance is made of.
const PARTS: [Role; 5] = [Role::JOURNAL, Role::BORE, Role::HOUSING, Role::UPPER_WALL, Role::LOWER_WALL];

/// What was not checked, in the order of the work.
pub(crate) fn not_checked(
    build: &Build,
    notes: &[&Fact],
    inspections: &Inspections<'_>,
    figures: &[FigureAssessment],
) -> Vec<NotChecked> {
    let mut all = Vec::new();
    for row in BearingRow::ALL {
        let bearings: Vec<&FigureAssessment> =
            figures.iter().filter(|f| f.figure.row().fitted && f.row == row).collect();
        if bearings.is_empty() {
            continue;
        }
        let left_out = |f: &&&FigureAssessment| !f.asked;
        let places: Vec<Place> = bearings.iter().filter(left_out).map(|f| f.station).collect();
        put(&mut all, !places.is_empty(), NotChecked::Sampled { places });
        let places = |lacks: &dyn Fn(&FigureAssessment) -> bool| -> Vec<Place> {
            bearings.iter().filter(|f| f.asked).filter(|f| lacks(f)).map(|f| f.station).collect()
        };
        for role in PARTS {
            let places = places(&|f| lacks_size(f, role));
            put(&mut all, !places.is_empty(), NotChecked::Part { role, places });
        }
        let unrelieved = places(&|f| !lacks_size(f, Role::BORE) && !f.measured.iter().any(shows_relief));
        put(&mut all, !unrelieved.is_empty(), NotChecked::Relief { places: unrelieved });
        let unproven = |f: &FigureAssessment| f.findings.iter().any(|x| matches!(x, Finding::Unproven { .. }));
        let places = places(&unproven);
        put(&mut all, !places.is_empty(), NotChecked::Unproven { places });
        let set_up = notes.iter().any(|f| matches!(&f.what, What::SetUp(s) if s.row == row));
        put(&mut all, !set_up, NotChecked::SetUp { row });
    }
    for look in &LOOKS {
        let there = look.part.places(&build.layout).into_iter();
        let places: Vec<Place> = there.filter(|place| inspections.signs(*place, look.part).is_empty()).collect();
        put(&mut all, !places.is_empty(), NotChecked::Look { part: look.part, places });
    }
    let asked: FxHashSet<(Figure, Place)> = figures.iter().filter(|f| f.asked).map(|f| (f.figure, f.station)).collect();
    // What only other figures are made of is known without anybody asking for it.
    let known: FxHashSet<(Figure, Place)> =
        figures.iter().filter(|f| f.methods.iter().any(|m| m.complete)).map(|f| (f.figure, f.station)).collect();
    for figure in Figure::all_in(&build.layout).filter(|f| f.row().wanted != Wanting::Always) {
        let covered = |p: Place| {
            asked.contains(&(figure, p)) || (figure.row().wanted == Wanting::ForOthers && known.contains(&(figure, p)))
        };
        let places: Vec<Place> = figure.places(&build.layout).filter(|p| !covered(*p)).collect();
        put(&mut all, !places.is_empty(), NotChecked::Figure { figure, places });
    }
    all
}

fn put(all: &mut Vec<NotChecked>, there_is: bool, what: NotChecked) {
    all.extend(there_is.then_some(what));
}

/// Whether a part of a bearing has no whole size that counts, by any way of reading it.
fn lacks_size(f: &FigureAssessment, role: Role) -> bool {
    !f.measured.iter().any(|m| m.role == role && m.size.complete)
}

fn shows_relief(m: &Measured) -> bool {
    m.role == Role::BORE && m.size.size.as_ref().is_some_and(|s| s.relief.is_some())
}
