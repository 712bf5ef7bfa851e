//! The catalogue: everything that can be measured and judged, a row each, a file for each subject.

mod bearings;
mod cam;
mod crank;
mod crush;
mod cylinders;
mod faces;
mod fillet;
mod rod_side;
mod thrust;
mod wrist_pins;

use std::fmt;
use std::str::FromStr;

use serde::{Deserialize, Deserializer, Serialize, Serializer};
use thiserror::Error;

use super::characteristic::{CharacteristicRow, GaugeUse, Planned, Position, Read, Role};
use super::figure::{Believable, FigureRow, Input, Limits, MethodRow};
use super::place::{Place, PlaceKind};
use crate::maths::{Target, Window};
use crate::units::Length;

/// What one subject adds to the catalogue.
struct Subject {
    characteristics: &'static [CharacteristicRow],
    figures: &'static [FigureRow],
    /// Where a kind of place is touched otherwise than its row says, in builds that are opened now. What was opened before
    /// keeps the plan of its row.
    plans: &'static [UsualPlan],
}

/// Where a characteristic is touched at one kind of place.
struct UsualPlan {
    of: &'static str,
    at: PlaceKind,
    positions: &'static [Planned],
}

/// The subjects, in the order of the work.
const SUBJECTS: &[Subject] = &[
    Subject { characteristics: bearings::CHARACTERISTICS, figures: bearings::FIGURES, plans: bearings::PLANS },
    Subject { characteristics: thrust::CHARACTERISTICS, figures: thrust::FIGURES, plans: &[] },
    Subject { characteristics: rod_side::CHARACTERISTICS, figures: rod_side::FIGURES, plans: &[] },
    Subject { characteristics: cam::CHARACTERISTICS, figures: cam::FIGURES, plans: &[] },
    Subject { characteristics: fillet::CHARACTERISTICS, figures: fillet::FIGURES, plans: &[] },
    Subject { characteristics: crush::CHARACTERISTICS, figures: crush::FIGURES, plans: &[] },
    Subject { characteristics: crank::CHARACTERISTICS, figures: crank::FIGURES, plans: &[] },
    Subject { characteristics: wrist_pins::CHARACTERISTICS, figures: wrist_pins::FIGURES, plans: &[] },
    Subject { characteristics: cylinders::CHARACTERISTICS, figures: cylinders::FIGURES, plans: &[] },
    Subject { characteristics: faces::CHARACTERISTICS, figures: faces::FIGURES, plans: &[] },
];

const fn same(a: &str, b: &str) -> bool {
    let (a, b) = (a.as_bytes(), b.as_bytes());
    if a.len() != b.len() {
        return false;
    }
    let mut i = 0;
    while i < a.len() {
        if a[i] != b[i] {
            return false;
        }
        i += 1;
    }
    true
}

/// A characteristic of the catalogue.
///
/// ```
/// use jagged_pin_core::engine::{Characteristic, Place, Role};
/// assert_eq!("main_journal".parse(), Ok(Characteristic::MAIN_JOURNAL));
/// assert_eq!(Characteristic::at(Place::rod(1), Role::JOURNAL), None);
/// ```
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Characteristic {
    subject: u8,
    row: u8,
}

/// A name that the catalogue does not know.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("the catalogue has no \"{0}\"")]
pub struct NotInCatalog(String);

impl Characteristic {
    /// Outside diameter of a main journal.
    pub const MAIN_JOURNAL: Characteristic = Characteristic::named("main_journal");
    /// Outside diameter of a pin.
    pub const PIN_JOURNAL: Characteristic = Characteristic::named("pin_journal");
    /// Inside diameter of a main housing, cap torqued, no shells.
    pub const MAIN_HOUSING: Characteristic = Characteristic::named("main_housing");
    /// Inside diameter of a rod's big end, cap torqued, no shells.
    pub const ROD_HOUSING: Characteristic = Characteristic::named("rod_housing");
    /// Inside diameter of a main bearing, shells in and cap torqued.
    pub const MAIN_BEARING: Characteristic = Characteristic::named("main_bearing");
    /// Inside diameter of a rod bearing, shells in and cap torqued.
    pub const ROD_BEARING: Characteristic = Characteristic::named("rod_bearing");
    /// Wall of the upper shell.
    pub const UPPER_WALL: Characteristic = Characteristic::named("upper_wall");

    /// The one of that name; past the end of the catalogue when there is none, which a test rules out.
    const fn named(id: &str) -> Self {
        let mut subject = 0;
        while subject < SUBJECTS.len() {
            let rows = SUBJECTS[subject].characteristics;
            let mut row = 0;
            while row < rows.len() {
                if same(rows[row].id, id) {
                    return Characteristic { subject: subject as u8, row: row as u8 };
                }
                row += 1;
            }
            subject += 1;
        }
        Characteristic { subject: u8::MAX, row: u8::MAX }
    }

    /// Every one, in the order of the work.
    pub fn all() -> impl Iterator<Item = Characteristic> {
        let of = |(s, subject): (u8, &'static Subject)| {
            (0_u8..).zip(subject.characteristics).map(move |(row, _)| Characteristic { subject: s, row })
        };
        (0_u8..).zip(SUBJECTS).flat_map(of)
    }

    /// What is known about it.
    pub fn row(self) -> &'static CharacteristicRow {
        let rows = SUBJECTS.get(usize::from(self.subject)).map_or(&[][..], |s| s.characteristics);
        rows.get(usize::from(self.row)).unwrap_or(&bearings::CHARACTERISTICS[0])
    }

    /// The one of that role at a place; a pin has only its journal, a rod has none.
    pub fn at(place: Place, role: Role) -> Option<Self> {
        Characteristic::all().find(|c| c.row().role == role && c.row().at.contains(&place.kind()))
    }

    /// Every one that a place has.
    pub fn of(place: Place) -> impl Iterator<Item = Characteristic> {
        Characteristic::all().filter(move |c| c.row().at.contains(&place.kind()))
    }

    /// What it is in the figures made of it.
    pub fn role(self) -> Role {
        self.row().role
    }

    /// The usual plan of positions, in the order they are touched.
    pub fn positions(self) -> &'static [Planned] {
        self.row().positions
    }

    /// Whether a gauge can be put on it.
    pub fn fits(self, gauge: GaugeUse) -> bool {
        self.row().gauge == gauge
    }

    /// Whether it can be read that way.
    pub fn can_be_read(self, read: Read) -> bool {
        self.row().reads.contains(&read)
    }

    /// How it is written in data.
    pub fn name(self) -> &'static str {
        self.row().id
    }
}

impl fmt::Debug for Characteristic {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

impl FromStr for Characteristic {
    type Err = NotInCatalog;

    fn from_str(text: &str) -> Result<Self, NotInCatalog> {
        Characteristic::all().find(|c| c.name() == text).ok_or_else(|| NotInCatalog(text.to_owned()))
    }
}

impl Serialize for Characteristic {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name())
    }
}

impl<'de> Deserialize<'de> for Characteristic {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        String::deserialize(deserializer)?.parse().map_err(serde::de::Error::custom)
    }
}

/// A figure of the catalogue.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Figure {
    subject: u8,
    row: u8,
}

impl Figure {
    /// The oil clearance of a bearing.
    pub const OIL_CLEARANCE: Figure = Figure { subject: 0, row: 0 };

    /// The step between the tracks of a shared pin.
    pub const TRACK_STEP: Figure = Figure { subject: 0, row: 1 };

    /// How far the crank moves along its axis.
    pub const END_PLAY: Figure = Figure { subject: 1, row: 0 };

    /// What rods have to move beside each other on their pin.
    pub const ROD_SIDE: Figure = Figure { subject: 2, row: 0 };

    /// The clearance of a cam journal in its bearing.
    pub const CAM_CLEARANCE: Figure = Figure { subject: 3, row: 0 };

    /// What the edges of a bearing have to the fillets of its journal.
    pub const FILLET_ROOM: Figure = Figure { subject: 4, row: 0 };

    /// How far beyond its fillet the flat of a shell begins.
    pub const FILLET_FLAT: Figure = Figure { subject: 4, row: 1 };

    /// What a piston has to the wall of its cylinder.
    pub const PISTON_TO_WALL: Figure = Figure { subject: 8, row: 0 };

    /// How high the deck stands over the axis of the mains.
    pub const DECK_HEIGHT: Figure = Figure { subject: 9, row: 1 };

    /// How far a piston stays below the deck.
    pub const DECK_CLEARANCE: Figure = Figure { subject: 9, row: 3 };

    /// The way of a pin, from its bottom to its top; at every rod on it.
    pub const STROKE: Figure = Figure { subject: 9, row: 6 };

    /// What lies under a straight edge in the tunnel.
    pub const TUNNEL_GAP: Figure = Figure { subject: 9, row: 8 };

    /// Every one, in the order of the work.
    pub fn all() -> impl Iterator<Item = Figure> {
        let of = |(s, subject): (u8, &'static Subject)| {
            (0_u8..).zip(subject.figures).map(move |(row, _)| Figure { subject: s, row })
        };
        (0_u8..).zip(SUBJECTS).flat_map(of)
    }

    /// What is known about it.
    pub fn row(self) -> &'static FigureRow {
        let rows = SUBJECTS.get(usize::from(self.subject)).map_or(&[][..], |s| s.figures);
        rows.get(usize::from(self.row)).unwrap_or(&bearings::FIGURES[0])
    }

    /// How it is written in data.
    pub fn name(self) -> &'static str {
        self.row().id
    }

    /// Whether a place has it.
    pub fn is_at(self, place: Place) -> bool {
        self.row().at.contains(&place.kind())
    }

    /// The window of a target: a figure with a maximum only has no lower limit, one with a minimum only no upper one.
    pub fn window(self, target: &Target) -> Option<Window> {
        let low = (self.row().limits != Limits::Maximum).then_some(target.low);
        let high = (self.row().limits != Limits::Minimum).then_some(target.high);
        Window::new(low, high)
    }

    /// The largest value of it that anybody believes on a journal of that size.
    pub fn largest_believable(self, journal: Length) -> Length {
        match self.row().believable {
            Believable::PartOfJournal(part) => Length::from_nm(journal.nm().checked_div(part).unwrap_or_default()),
            Believable::UpTo(nm) => Length::from_nm(nm),
        }
    }

    /// The method of that name.
    pub fn method(self, method: Method) -> Option<&'static MethodRow> {
        self.row().methods.iter().find(|m| m.id == method.0)
    }

    /// What it is made of.
    pub fn inputs(self) -> &'static [Input] {
        self.row().inputs
    }
}

impl fmt::Debug for Figure {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

impl FromStr for Figure {
    type Err = NotInCatalog;

    fn from_str(text: &str) -> Result<Self, NotInCatalog> {
        Figure::all().find(|f| f.name() == text).ok_or_else(|| NotInCatalog(text.to_owned()))
    }
}

impl Serialize for Figure {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(self.name())
    }
}

impl<'de> Deserialize<'de> for Figure {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        String::deserialize(deserializer)?.parse().map_err(serde::de::Error::custom)
    }
}

/// How a figure is obtained, by the name of its row.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(transparent)]
pub struct Method(&'static str);

impl Method {
    /// Bore gauge zeroed at a stated reference; the dial is read.
    pub const DIRECT: Method = Method("direct");
    /// The bore is measured as a size and the journal taken off.
    pub const SUBTRACT: Method = Method("subtract");
    /// Housing less both walls less journal.
    pub const COMPONENTS: Method = Method("components");
    /// A crushed strip read against printed widths.
    pub const STRIP: Method = Method("strip");

    /// The method of a row.
    pub const fn of(row: &MethodRow) -> Self {
        Method(row.id)
    }

    /// How it is written in data.
    pub const fn name(self) -> &'static str {
        self.0
    }
}

impl FromStr for Method {
    type Err = NotInCatalog;

    fn from_str(text: &str) -> Result<Self, NotInCatalog> {
        let known = Figure::all().flat_map(|f| f.row().methods).find(|m| m.id == text);
        known.map(Method::of).ok_or_else(|| NotInCatalog(text.to_owned()))
    }
}

impl<'de> Deserialize<'de> for Method {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        String::deserialize(deserializer)?.parse().map_err(serde::de::Error::custom)
    }
}

/// The plan of one characteristic.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Plan {
    /// The characteristic.
    #[serde(rename = "feature")]
    pub characteristic: Characteristic,
    /// The kind of place it is for; every kind that has the characteristic when absent.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub at: Option<PlaceKind>,
    /// Its positions in the order they are touched.
    pub positions: Vec<Planned>,
}

/// Most positions a plan may have.
pub const MOST_POSITIONS: usize = 24;

/// Why nobody could work by a plan; the line is counted from 0.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum PlanError {
    /// No position, or too many.
    #[error("a plan has 1 to {MOST_POSITIONS} positions")]
    Count,
    /// An angle that is none.
    #[error("position {}: an angle lies from -180 to 180 degrees", .line + 1)]
    Angle {
        /// Which line.
        line: usize,
    },
    /// The same position twice.
    #[error("position {}: this place is in the plan already", .line + 1)]
    Twice {
        /// Which line.
        line: usize,
    },
    /// Every position only informs.
    #[error("at least one position must count")]
    NothingCounts,
    /// A position that names a track: a plan is one track's, and every track of a pin follows it.
    #[error("position {}: a plan is for one track, and serves each of them", .line + 1)]
    Track {
        /// Which line.
        line: usize,
    },
    /// A kind of place that has nothing of the kind.
    #[error("that is not measured at this kind of place")]
    Elsewhere,
    /// An advisory position at an angle that counts elsewhere.
    #[error("position {}: what informs lies elsewhere around than what counts", .line + 1)]
    NotApart {
        /// Which line.
        line: usize,
    },
}

impl Plan {
    /// The plans that a build opened now starts with, where they differ from the rows of the catalogue.
    pub fn usual() -> impl Iterator<Item = Plan> {
        let plan = |p: &UsualPlan| {
            let characteristic = p.of.parse().ok()?;
            Some(Plan { characteristic, at: Some(p.at), positions: p.positions.to_vec() })
        };
        SUBJECTS.iter().flat_map(|s| s.plans).filter_map(plan)
    }

    /// Whether it says where a characteristic is touched at a kind of place.
    pub(crate) fn is_for(&self, (characteristic, at): (Characteristic, PlaceKind)) -> bool {
        self.characteristic == characteristic && self.at.is_none_or(|kind| kind == at)
    }

    /// Checks that it can be worked by: positions that differ, at least one of which counts; advisory places of a bore
    /// or a wall are elsewhere around than those that count.
    ///
    /// # Errors
    /// [`PlanError`] with the first line that cannot be.
    pub fn check(&self) -> Result<(), PlanError> {
        if self.at.is_some_and(|kind| !self.characteristic.row().at.contains(&kind)) {
            return Err(PlanError::Elsewhere);
        }
        if !(1..=MOST_POSITIONS).contains(&self.positions.len()) {
            return Err(PlanError::Count);
        }
        let before = |line: usize, p: Position| self.positions.iter().take(line).any(|q| q.position == p);
        for (line, p) in self.positions.iter().enumerate() {
            if !(-180..=180).contains(&p.position.angle) {
                return Err(PlanError::Angle { line });
            }
            if p.position.track.is_some() {
                return Err(PlanError::Track { line });
            }
            if before(line, p.position) {
                return Err(PlanError::Twice { line });
            }
            let counted = self.positions.iter().any(|q| !q.advisory && q.position.angle == p.position.angle);
            if p.advisory && counted {
                return Err(PlanError::NotApart { line });
            }
        }
        if self.positions.iter().all(|p| p.advisory) { Err(PlanError::NothingCounts) } else { Ok(()) }
    }
}

/// Names of the catalogue are written as texts in the API document.
#[cfg(feature = "schema")]
mod schema {
    use std::borrow::Cow;

    use utoipa::openapi::RefOr;
    use utoipa::openapi::schema::{ObjectBuilder, Schema, Type};
    use utoipa::{PartialSchema, ToSchema};

    use super::{Characteristic, Figure, Method};
    use crate::engine::Role;

    fn names(all: impl Iterator<Item = &'static str>) -> RefOr<Schema> {
        let mut known: Vec<&str> = all.collect();
        known.sort_unstable();
        known.dedup();
        ObjectBuilder::new().schema_type(Type::String).enum_values(Some(known)).into()
    }

    macro_rules! named {
        ($($type:ident: $names:expr),*) => {
            $(impl PartialSchema for $type {
                fn schema() -> RefOr<Schema> {
                    names($names)
                }
            }

            impl ToSchema for $type {
                fn name() -> Cow<'static, str> {
                    stringify!($type).into()
                }
            })*
        };
    }

    named! {
        Characteristic: Characteristic::all().map(Characteristic::name),
        Figure: Figure::all().map(Figure::name),
        Method: Figure::all().flat_map(|f| f.row().methods).map(|m| m.id),
        Role: Characteristic::all().map(|c| c.role().name())
    }
}

#[cfg(test)]
mod tests {
    use super::super::characteristic::{Axial, Reach, counts, informs};
    use super::*;

    #[test]
    fn every_row_has_a_name_of_its_own_and_can_be_measured() {
        let names: Vec<&str> = Characteristic::all().map(Characteristic::name).collect();
        for (i, characteristic) in Characteristic::all().enumerate() {
            let row = characteristic.row();
            assert!(!names[..i].contains(&row.id), "{} stands twice", row.id);
            assert_eq!(row.id.parse(), Ok(characteristic));
            assert!(!row.at.is_empty() && !row.reads.is_empty() && !row.ended_by.is_empty(), "{}", row.id);
            let plan = Plan { characteristic, at: None, positions: row.positions.to_vec() };
            assert_eq!(plan.check(), Ok(()), "{}", row.id);
        }
        let named = [
            Characteristic::MAIN_JOURNAL,
            Characteristic::PIN_JOURNAL,
            Characteristic::MAIN_HOUSING,
            Characteristic::ROD_HOUSING,
            Characteristic::MAIN_BEARING,
            Characteristic::ROD_BEARING,
            Characteristic::UPPER_WALL,
        ];
        assert!(named.into_iter().all(|c| c.subject != u8::MAX));
    }

    #[test]
    fn every_usual_plan_is_of_a_row_and_can_be_worked_by() {
        let listed: usize = SUBJECTS.iter().map(|s| s.plans.len()).sum();
        let plans: Vec<Plan> = Plan::usual().collect();
        assert_eq!(plans.len(), listed);
        for plan in plans {
            assert_eq!(plan.check(), Ok(()), "{}", plan.characteristic.name());
        }
        let elsewhere = Plan { at: Some(PlaceKind::Pin), ..Plan::usual().next().expect("there are some") };
        assert_eq!(elsewhere.check(), Err(PlanError::Elsewhere));
    }

    #[test]
    fn a_place_has_one_characteristic_of_each_role() {
        for kind in [PlaceKind::Main, PlaceKind::Pin, PlaceKind::Rod] {
            let roles: Vec<Role> = Characteristic::of(Place::new(kind, 1)).map(Characteristic::role).collect();
            for (i, role) in roles.iter().enumerate() {
                assert!(!roles[..i].contains(role), "{kind:?} has {role:?} twice");
            }
        }
        assert_eq!(Characteristic::at(Place::rod(1), Role::JOURNAL), None);
        assert_eq!(Characteristic::at(Place::pin(1), Role::HOUSING), None);
    }

    #[test]
    fn every_term_of_a_method_is_an_input_of_its_figure() {
        for figure in Figure::all() {
            assert_eq!(figure.name().parse(), Ok(figure));
            for method in figure.row().methods {
                assert!(!method.terms.is_empty());
                for term in method.terms {
                    let here = figure.inputs().iter().any(|i| i.role == term.role && i.read == term.read);
                    assert!(here, "{} by {}: {:?}", figure.name(), method.id, term.role);
                }
                let known = |to: &str| figure.row().methods.iter().any(|m| m.id == to);
                assert!(method.transfer.is_none_or(|t| known(t.to)));
                assert_eq!(method.id.parse(), Ok(Method::of(method)));
            }
        }
        assert_eq!(Figure::OIL_CLEARANCE.name(), "oil_clearance");
        assert_eq!(Figure::TRACK_STEP.name(), "track_step");
        assert_eq!("upper_taper".parse::<Figure>().map(|f| f.row().limits), Ok(Limits::Maximum));
        assert_eq!(Figure::END_PLAY.name(), "end_play");
    }

    #[test]
    fn what_ends_at_the_journal_is_not_the_journal_itself() {
        for row in Characteristic::all().map(Characteristic::row) {
            let on_journal = row.ended_by.iter().any(|(_, reach)| *reach == Reach::OnJournal);
            assert!(!on_journal || row.role != Role::JOURNAL);
        }
    }

    #[test]
    fn a_plan_without_a_place_that_counts_or_with_one_twice_names_its_line() {
        let check = |positions: &[Planned]| {
            Plan { characteristic: Characteristic::MAIN_BEARING, at: None, positions: positions.to_vec() }.check()
        };
        let (front, rear) = (Axial::Front, Axial::Rear);
        assert_eq!(check(&[]), Err(PlanError::Count));
        assert_eq!(check(&[informs(front, 45)]), Err(PlanError::NothingCounts));
        assert_eq!(check(&[counts(front, 0), counts(front, 0)]), Err(PlanError::Twice { line: 1 }));
        assert_eq!(check(&[counts(front, 0), counts(rear, 270)]), Err(PlanError::Angle { line: 1 }));
        // The same direction cannot both count and not count.
        assert_eq!(check(&[counts(front, 0), informs(rear, 0)]), Err(PlanError::NotApart { line: 1 }));
    }
}
