//! Under the hone and under the file: what the log of strokes has taught, and how many may be made before the next look.
//!
//! Every entry says how far the size went in so many strokes; the next are chosen so that even the fastest of all entries
//! does not go past the goal ([`crate::maths::strokes_to_go`]). A bore that is warm is larger than it will be:
//! `cool = size (1 - alpha (t - 20))`. The log of a part begins anew when the work on it was recorded as done.
use serde::Serialize;
use uuid::Uuid;

use super::bores::BoresPlan;
use crate::build::{Build, struck_among};
use crate::engine::{Place, Role};
use crate::figure::FigureAssessment;
use crate::log::{Fact, Stroked, StrokesDone, What, Work};
use crate::maths::{Material, Strokes, strokes_to_go};
use crate::units::{Length, Person, Timestamp};

/// One entry as it was made.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StrokeEntry {
    /// Its identifier: what it is struck by.
    pub id: Uuid,
    /// Place of its fact.
    pub seq: u32,
    /// When.
    pub when: Timestamp,
    /// By whom.
    pub by: Person,
    /// What was done.
    #[serde(flatten)]
    pub done: StrokesDone,
    /// The size when cool.
    pub cool: Length,
    /// What these strokes removed; absent for the first.
    pub removed: Option<Length>,
}

/// What is still to be done.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StrokesLeft {
    /// Strokes to the goal by the rate that was learned; absent while that is nothing.
    pub strokes: Option<u64>,
    /// Strokes to be made before the next look: at the fastest of the log they do not go past.
    pub next: u64,
    /// Strokes that take a tenth of a thou, or 2.54 micrometres, by the rate that was learned.
    pub per_tenth: Option<f64>,
}

/// The log of one part.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StrokeLog {
    /// The cylinder.
    pub at: Place,
    /// What is worked there.
    pub on: Stroked,
    /// Where it is to end, where that is known: the bore its piston wants, or the gap's aim.
    pub goal: Option<Length>,
    /// From the last size to the goal; negative past it.
    pub to_go: Option<Length>,
    /// What is still to be done, once an entry taught a rate.
    pub left: Option<StrokesLeft>,
    /// The entries since the work was last recorded as done.
    pub entries: Vec<StrokeEntry>,
}

const TOP_GAP: Role = Role::new("top_ring_gap");
const SECOND_GAP: Role = Role::new("second_ring_gap");

/// A tenth, in nanometres.
const TENTH: f64 = 2_540.0;

/// The size that is left when the part has cooled.
fn cool(done: &StrokesDone, of: Material) -> Length {
    let warm = done.part_mc.map_or(0.0, |mc| f64::from(mc) / 1_000.0 - 20.0);
    Length::from_f64(done.size.as_f64() * (1.0 - of.alpha() * warm)).unwrap_or(done.size)
}

/// Every log of a build that was begun, in the order of the cylinders.
pub fn stroke_logs(build: &Build, figures: &[FigureAssessment], bores: Option<&BoresPlan>) -> Vec<StrokeLog> {
    let mut all = Vec::new();
    for at in build.layout.of_kind(crate::engine::PlaceKind::Cylinder) {
        for on in [Stroked::Bore, Stroked::TopRing, Stroked::SecondRing] {
            let entries = entries(build, at, on);
            if entries.is_empty() {
                continue;
            }
            let goal = match on {
                Stroked::Bore => bores.and_then(|b| b.cylinders.iter().find(|c| c.at == at)?.finished),
                Stroked::TopRing => aim_of(figures, at, TOP_GAP),
                Stroked::SecondRing => aim_of(figures, at, SECOND_GAP),
            };
            let size = entries.last().map(|e| e.cool);
            all.push(StrokeLog {
                at,
                on,
                goal,
                to_go: goal.zip(size).map(|(goal, size)| goal - size),
                left: goal.zip(size).and_then(|(goal, size)| left(&entries, size, goal)),
                entries,
            });
        }
    }
    all
}

fn aim_of(figures: &[FigureAssessment], at: Place, role: Role) -> Option<Length> {
    let gap = figures.iter().find(|f| f.station == at && f.measured.iter().any(|m| m.role == role))?;
    Some(gap.target.as_ref()?.window.aim)
}

fn left(entries: &[StrokeEntry], size: Length, goal: Length) -> Option<StrokesLeft> {
    let log: Vec<Strokes> = entries
        .iter()
        .filter_map(|e| Some(Strokes { strokes: e.done.strokes, removed: e.removed?.max(Length::ZERO) }))
        .collect();
    let next = strokes_to_go(size, goal, &log, None)?;
    let per_tenth = (next.rate > 0.0).then(|| TENTH / next.rate);
    Some(StrokesLeft { strokes: next.strokes_left, next: next.next_strokes, per_tenth })
}

fn entries(build: &Build, at: Place, on: Stroked) -> Vec<StrokeEntry> {
    let (material, closed_by) = match on {
        Stroked::Bore => (build.layout.wall_material(), [Work::CylinderHoned, Work::CylinderBored]),
        Stroked::TopRing | Stroked::SecondRing => (Material::Steel, [Work::RingsFiled, Work::RingsFitted]),
    };
    let closes = |f: &Fact| matches!(&f.what, What::Work(w) if closed_by.contains(&w.work) && w.on.covers(at));
    let since = build.facts.iter().filter(|f| closes(f)).map(|f| f.seq).max().unwrap_or(0);
    let struck = struck_among(&build.notes());
    let standing = build.facts.iter().filter(|f| f.seq > since && !struck.contains(&f.id));
    let ours = standing.filter_map(|f| match &f.what {
        What::Strokes(s) if s.at == at && s.on == on => Some((f, s)),
        _ => None,
    });
    let mut all: Vec<StrokeEntry> = Vec::new();
    for (fact, done) in ours {
        let cool = cool(done, material);
        let removed = all.last().filter(|_| done.strokes > 0).map(|before| cool - before.cool);
        let (id, seq, when, by) = (fact.id, fact.seq, fact.at, fact.by.clone());
        all.push(StrokeEntry { id, seq, when, by, done: done.clone(), cool, removed });
    }
    all
}
