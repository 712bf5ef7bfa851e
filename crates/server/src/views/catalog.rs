//! The catalogue as the API shows it: what can be measured where, and which figures are made of it.
use jagged_pin_core::engine::{
    BearingRow, Characteristic, Figure, GaugeUse, Group, Input, Limits, Method, MethodRow, PLACE_KINDS, PartKind,
    PlaceKind, Read, Role, Scope,
};
use jagged_pin_core::log::{FinishLimits, HotRunning, Rules, Tick, Work};
use jagged_pin_core::maths::Times;
use jagged_pin_core::{Length, Unit};
use serde::Serialize;
use utoipa::ToSchema;

/// Everything that can be measured and judged.
#[derive(Debug, Serialize, ToSchema)]
pub struct CatalogView {
    /// The kinds of place, in the order of the work.
    pub places: Vec<PlaceKindView>,
    /// What can be measured, in the order of the work.
    pub characteristics: Vec<CharacteristicView>,
    /// What is judged.
    pub figures: Vec<FigureView>,
    /// What can be done to parts.
    pub works: Vec<WorkView>,
    /// What rules count with where nobody has said otherwise.
    pub usual: UsualRules,
}

/// What rules count with where nobody has said otherwise.
#[derive(Debug, Serialize, ToSchema)]
pub struct UsualRules {
    /// How hot an engine runs.
    pub hot: HotRunning,
    /// How long work takes.
    pub times: Times,
    /// Most that is polished off a diameter.
    pub polish_limit: Length,
    /// Most that is polished off a cam journal.
    pub cam_polish_limit: Length,
    /// What a torque plate may pull a bore by that was measured without one.
    pub plate_pull: Length,
    /// Most that the classes of a pair differ.
    pub max_step: Length,
    /// How rough surfaces may be.
    pub finish: FinishLimits,
}

/// Something that can be done to parts.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkView {
    /// What.
    pub id: Work,
    /// The groups it is done to as a whole.
    pub groups: Vec<Scope>,
    /// The kinds of place it is done to one by one.
    pub kinds: Vec<PlaceKind>,
    /// What has to be looked at before it may be called done.
    pub ticks: &'static [Tick],
}

/// A kind of place.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlaceKindView {
    /// The kind.
    pub kind: PlaceKind,
    /// The letter its places are written with.
    pub letter: &'static str,
    /// Whether they are numbered: an engine has many of them.
    pub numbered: bool,
    /// All of them together, as a deed names them.
    pub plural: &'static str,
    /// The row of bearings it belongs to.
    pub row: BearingRow,
    /// Whether it is a bearing.
    pub bearing: bool,
}

/// Something that can be measured.
#[derive(Debug, Serialize, ToSchema)]
pub struct CharacteristicView {
    /// Its name in data.
    pub id: Characteristic,
    /// The kinds of place that have it.
    pub at: Vec<PlaceKind>,
    /// What it is in the figures made of it.
    pub role: Role,
    /// The part whose evidence it is.
    pub part: PartKind,
    /// What it is measured with.
    pub gauge: GaugeUse,
    /// How it can be read.
    pub reads: Vec<Read>,
    /// Whether what was read one way is kept apart from what was read another way.
    pub reads_apart: bool,
    /// Whether the gauge is checked in before it is used.
    pub checked_gauge: bool,
}

/// Something that is judged.
#[derive(Debug, Serialize, ToSchema)]
pub struct FigureView {
    /// Its name in data.
    pub id: Figure,
    /// The kinds of place that have it.
    pub at: Vec<PlaceKind>,
    /// What it is made of, in the order it is looked at.
    pub inputs: Vec<InputView>,
    /// The methods, the one that proves most first.
    pub methods: Vec<MethodView>,
    /// Which limits it has.
    pub limits: Limits,
    /// Whether it is the room between a journal and its shells.
    pub fitted: bool,
}

/// Something measured that a figure is made of.
#[derive(Debug, Serialize, ToSchema)]
pub struct InputView {
    /// What.
    pub role: Role,
    /// Read how.
    pub read: Read,
    /// What it is measured together with at the bench.
    pub group: Group,
}

/// A method.
#[derive(Debug, Serialize, ToSchema)]
pub struct MethodView {
    /// Its name in data.
    pub id: Method,
    /// What it is made of.
    pub terms: Vec<TermView>,
}

/// A term of a method.
#[derive(Debug, Serialize, ToSchema)]
pub struct TermView {
    /// Added or taken off, and how often.
    pub factor: i8,
    /// What.
    pub role: Role,
    /// Read how.
    pub read: Read,
}

fn characteristic(id: Characteristic) -> CharacteristicView {
    let row = id.row();
    CharacteristicView {
        id,
        at: row.at.to_vec(),
        role: row.role,
        part: row.part,
        gauge: row.gauge,
        reads: row.reads.to_vec(),
        reads_apart: row.reads_apart,
        checked_gauge: row.checked_gauge,
    }
}

fn figure(id: Figure) -> FigureView {
    let input = |i: &Input| InputView { role: i.role, read: i.read, group: i.group };
    let method = |m: &MethodRow| MethodView {
        id: Method::of(m),
        terms: m.terms.iter().map(|t| TermView { factor: t.factor, role: t.role, read: t.read }).collect(),
    };
    FigureView {
        id,
        at: id.row().at.to_vec(),
        inputs: id.inputs().iter().map(input).collect(),
        methods: id.row().methods.iter().map(method).collect(),
        limits: id.row().limits,
        fitted: id.row().fitted,
    }
}

impl CatalogView {
    /// The whole catalogue.
    pub fn whole() -> Self {
        let place = |k: &jagged_pin_core::engine::PlaceKindRow| PlaceKindView {
            kind: k.kind,
            letter: k.letter,
            numbered: k.numbered,
            plural: k.plural,
            row: k.row,
            bearing: k.bearing,
        };
        CatalogView {
            places: PLACE_KINDS.iter().map(place).collect(),
            characteristics: Characteristic::all().map(characteristic).collect(),
            figures: Figure::all().map(figure).collect(),
            works: Work::ALL
                .into_iter()
                .map(|id| {
                    let (groups, kinds) = id.done_to();
                    WorkView { id, groups: groups.to_vec(), kinds: kinds.to_vec(), ticks: id.ticks() }
                })
                .collect(),
            usual: usual_rules(),
        }
    }
}

/// The same in either unit: what is typed in the other one is rounded by nobody.
fn usual_rules() -> UsualRules {
    let rules = Rules::standard(Unit::Inch);
    UsualRules {
        hot: HotRunning::USUAL,
        times: rules.times(),
        polish_limit: rules.polish_limit(),
        cam_polish_limit: rules.cam_polish_limit(),
        plate_pull: rules.plate_pull(),
        max_step: rules.max_step(),
        finish: rules.finish(),
    }
}
