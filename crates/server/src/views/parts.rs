//! The parts of a build: what each is, where it comes from, and where it stands.
use jagged_pin_core::Build;
use jagged_pin_core::build::Standing;
use jagged_pin_core::engine::{PartKind, Place};
use jagged_pin_core::units::{Person, Timestamp};
use serde::Serialize;
use utoipa::ToSchema;

/// A part.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
pub struct PartView {
    /// What it is called.
    pub tag: String,
    /// What it is.
    pub kind: PartKind,
    /// Where it comes from; empty for one that came with the engine.
    pub provenance: String,
    /// What is stamped, cast or painted on it.
    pub marks: String,
    /// Whether it stands in the engine.
    pub stands: bool,
    /// The place where it stands, where each has one of its own.
    pub place: Option<Place>,
    /// Who entered it, and when; absent for one that came with the engine.
    pub entered: Option<Entered>,
    /// Why it is condemned, if it is.
    pub condemned: Option<CondemnedView>,
    /// Whether it can be looked at as if it stood in the engine.
    pub candidate: bool,
}

/// Who entered a part.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
pub struct Entered {
    /// Who.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

/// Why a part is condemned.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
pub struct CondemnedView {
    /// Why, in the words of whoever decided it.
    pub reason: String,
    /// By whom.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

impl PartView {
    /// Every part of a build that can be put in or taken out: those of the layout, then those that were entered.
    pub(crate) fn all(build: &Build) -> Vec<Self> {
        let notes = build.notes();
        let standing = Standing::of(&build.layout, &notes);
        let view = |tag: String, kind: PartKind| {
            let seat = standing.seat_of(&tag);
            let condemned = standing.condemned(&tag).map(|(fact, c)| CondemnedView {
                reason: c.reason.clone(),
                by: fact.by.clone(),
                at: fact.at,
            });
            PartView {
                kind,
                provenance: String::new(),
                marks: String::new(),
                stands: seat.is_some(),
                place: seat.and_then(|s| s.place),
                entered: None,
                condemned,
                candidate: seat.is_none() && kind.row().seats.is_none(),
                tag,
            }
        };
        let first = build.layout.seats().into_iter().map(|seat| view(seat.first_part(), seat.kind));
        let entered = standing.entered().iter().map(|(fact, part)| PartView {
            provenance: part.provenance.clone(),
            marks: part.marks.clone(),
            entered: Some(Entered { by: fact.by.clone(), at: fact.at }),
            ..view(part.tag.clone(), part.kind)
        });
        first.chain(entered).collect()
    }
}
