//! What is judged: figures, the methods that make each out of what was measured, and what each method leaves open.
//!
//! A figure is one row of the catalogue ([`super::catalog`]): `value = sum of factor x statistic` over the terms of a
//! method, and its doubt the terms' doubts combined. Advice on how to prove more is the same terms with one thing changed.
use serde::{Deserialize, Serialize};

use super::characteristic::{Read, Role, Tag};
use super::place::PlaceKind;
use crate::units::Length;

/// Something measured that a figure is made of.
#[derive(Debug, Clone, Copy)]
pub struct Input {
    /// What.
    pub role: Role,
    /// Read how.
    pub read: Read,
    /// What it is measured together with at the bench.
    pub group: Group,
    /// When touches of it are asked for.
    pub asked: Asked,
    /// Whether it is measured along the whole row before anything else of its group.
    pub along_row: bool,
}

/// What is measured together at the bench: the gauges for it lie at hand, and the hand goes from one to the next.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Group {
    /// What makes the figure: the running clearance of the assembled parts.
    Running,
    /// The parts around it, each by itself.
    Parts,
    /// What is found beside it, at another time and with other gauges.
    Beside,
}

/// When touches are asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Asked {
    /// Before everything else: journals along the whole crank.
    First,
    /// Always, unless the preferred method replaces it.
    ByDefault,
    /// When the preferred method is made of it, when it was begun, or when what was known ended.
    OnceBegun,
    /// Never by itself.
    Never,
}

/// Which value of a size a term takes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Statistic {
    /// The size that counts, by the shop's rule.
    Effective,
    /// The mean of the places that count.
    MeanOfPlaces,
    /// The place in line with the load, end by end with the other terms that have places there; by the first reckoning the
    /// mean of the places that count.
    EndByEnd,
    /// The largest of the tracks of a shared pin.
    LargestTrack,
    /// The smallest of the tracks of a shared pin.
    SmallestTrack,
    /// The largest of the places that count.
    LargestPlace,
    /// The smallest of the places that count.
    SmallestPlace,
    /// The mean of the places that count, with the smallest and the largest of them as its two sides.
    MeanWithEnds,
    /// The largest difference along the axis.
    Taper,
    /// The largest difference around.
    OutOfRound,
    /// The largest place less the smallest: what an indicator travels over a turn.
    Travel,
}

/// What a size leaves open in a figure.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Doubt {
    /// Calibration, resolution and repeat.
    InFull,
    /// Repeat only: the scale cancels.
    Feel,
    /// Resolution and repeat: the scale cancels against another reading of the same gauge.
    Compared,
    /// Zeroing, resolution and repeat of a gauge that was set to the other part.
    Zeroed,
    /// Half a printed step.
    PrintedStep,
    /// Two readings of a dial, the hand that pushes, and a dial that does not stand straight.
    Pushed,
    /// One step between two blades.
    BladeStep,
}

/// What closes when the engine is hot.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Closes {
    /// The gap of a ring.
    Ring,
    /// A piston in its bore.
    Piston,
}

/// One term of a method.
#[derive(Debug, Clone, Copy)]
pub struct Term {
    /// Added or taken off, and how often.
    pub factor: i8,
    /// What.
    pub role: Role,
    /// Read how.
    pub read: Read,
    /// Which of its values.
    pub statistic: Statistic,
    /// What it leaves open.
    pub doubt: Doubt,
    /// Whether the catalogue's figure serves while it is not measured.
    pub by_catalogue: bool,
    /// Whether a finer gauge on it is worth proposing.
    pub finer_gauge: bool,
    /// Whether its places are shown by themselves, as the ends of the bearing.
    pub ends: bool,
}

impl Input {
    /// Something measured that a figure is made of, by itself.
    pub(super) const fn of(role: Role, read: Read, group: Group, asked: Asked) -> Self {
        Input { role, read, group, asked, along_row: false }
    }
}

impl Term {
    /// A size as it counts, with all of its doubt.
    pub(super) const fn size(factor: i8, role: Role) -> Self {
        Term {
            factor,
            role,
            read: Read::Size,
            statistic: Statistic::Effective,
            doubt: Doubt::InFull,
            by_catalogue: false,
            finer_gauge: false,
            ends: false,
        }
    }
}

/// When a method may decide.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Judges {
    /// Always.
    Always,
    /// When everything was measured, or the shop prefers it in spite of catalogue figures.
    MeasuredOrPreferred,
    /// Only where the rules let it: else it is a cross-check.
    WhenRulesLetIt,
    /// Never: it is a cross-check.
    Never,
    /// Only while the method of that name has no figure: it says less, and serves until that one is there.
    Unless(&'static str),
}

/// The value of a method that no sum of terms can state, from the values at one end in the order of its terms and the wall
/// of a shell there where one is known; `None` where it has none. In nanometres.
pub type EndFormula = fn(&[Length], Option<Length>) -> Option<f64>;

/// A method by which the same gauges would prove more.
#[derive(Debug, Clone, Copy)]
pub struct Transfer {
    /// The method.
    pub to: &'static str,
    /// Which measured thing's gauge would be used for which of its terms, where they differ.
    pub roles: &'static [(Role, Role)],
}

/// How a figure is obtained.
#[derive(Debug)]
pub struct MethodRow {
    /// How it is written in data.
    pub id: &'static str,
    /// What it is made of.
    pub terms: &'static [Term],
    /// When it may decide.
    pub judges: Judges,
    /// What need not be measured where this method is preferred.
    pub replaces: &'static [Role],
    /// The method that would prove more.
    pub transfer: Option<Transfer>,
    /// The term that unequal temperatures are written down at.
    pub warm_at: Option<Role>,
    /// The part that was measured without the plate or cap that pulls it out of shape in the engine.
    pub unclamped: Option<Role>,
    /// Where its terms are not added up: what the places of one end make. The worst end counts.
    pub at_each_end: Option<EndFormula>,
    /// Whether its parts meet place by place along the axis, so that each end has a smallest and a largest.
    pub place_by_place: bool,
    /// Whether what it reads holds the size of the housing it is read in, which is taken out of it before it is judged: a
    /// straight edge shows how large a housing is together with how far it stands off the line.
    pub freed_of_size: bool,
}

impl MethodRow {
    /// A method that replaces nothing and carries nothing across.
    pub(super) const fn plain(id: &'static str, terms: &'static [Term], judges: Judges) -> Self {
        MethodRow {
            id,
            terms,
            judges,
            replaces: &[],
            transfer: None,
            warm_at: None,
            unclamped: None,
            at_each_end: None,
            place_by_place: false,
            freed_of_size: false,
        }
    }

    /// A method whose terms are not added up.
    pub(super) const fn by_formula(
        id: &'static str,
        terms: &'static [Term],
        judges: Judges,
        formula: EndFormula,
    ) -> Self {
        MethodRow { at_each_end: Some(formula), ..MethodRow::plain(id, terms, judges) }
    }
}

/// When a figure is wanted.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Wanting {
    /// Of every engine that has the place.
    Always,
    /// Once it was begun or has a target.
    OnceBegun,
    /// Where it has a target.
    WithTarget,
    /// Other figures are made of it: nobody asks for it by itself before it has a target.
    ForOthers,
    /// Once it was begun, has a target, or a deed changed what it stands on.
    OnceChanged(Tag),
}

/// Which limits a figure has.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Limits {
    /// A lower and an upper one.
    Both,
    /// An upper one only: less is always better.
    Maximum,
    /// A lower one only: more is always better.
    Minimum,
}

/// The values that anybody believes.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Believable {
    /// A fraction of the journal: 50 is a fiftieth.
    PartOfJournal(i64),
    /// So many nanometres.
    UpTo(i64),
    /// So many nanometres, and as many less than nothing.
    ToEitherSide(i64),
}

/// A window that the trade starts from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Preset {
    /// The kind of place it is for.
    pub at: PlaceKind,
    /// What it is for, as the shop calls it.
    pub name: &'static str,
    /// The window.
    pub limits: PresetLimits,
}

impl Preset {
    /// A window in lengths.
    pub(super) const fn fixed(at: PlaceKind, name: &'static str, [low, aim, high]: [Length; 3]) -> Self {
        Preset { at, name, limits: PresetLimits::Fixed { low, aim, high } }
    }
}

/// How a window that the trade starts from is stated.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum PresetLimits {
    /// As lengths.
    Fixed {
        /// Lower limit.
        low: Length,
        /// Aim.
        aim: Length,
        /// Upper limit.
        high: Length,
    },
    /// In proportion to the shaft: millionths, so that 1 000 is a thou per inch.
    PerShaft {
        /// Lower limit.
        low: u32,
        /// Aim; the middle where it is not said.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        aim: Option<u32>,
        /// Upper limit.
        high: u32,
    },
}

/// What is known about a figure: one row of the catalogue.
#[derive(Debug)]
pub struct FigureRow {
    /// How it is written in data.
    pub id: &'static str,
    /// The kinds of place that have it, in the order of the work.
    pub at: &'static [PlaceKind],
    /// What it is made of, in the order it is looked at.
    pub inputs: &'static [Input],
    /// The methods, the one that proves most first.
    pub methods: &'static [MethodRow],
    /// When it is wanted.
    pub wanted: Wanting,
    /// The largest value anybody believes.
    pub believable: Believable,
    /// Which limits it has.
    pub limits: Limits,
    /// Windows that the trade uses, for whoever sets one.
    pub presets: &'static [Preset],
    /// Whether it is the room between a journal and its shells: the shape of the bearing is remarked on with it.
    pub fitted: bool,
    /// Whether what is fitted promises it: shells a clearance, washers an end play.
    pub promised: bool,
    /// Whether what is below it condemns its part: no other part of the engine mends that.
    pub condemns: bool,
    /// What of it closes when the engine is hot.
    pub hot: Option<Closes>,
}
