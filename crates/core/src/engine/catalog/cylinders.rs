//! Cylinders with their pistons and rings.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | bore, torque plate on | top, middle and bottom of the ring travel, across (0) and along (90) the crank | all |
//! | bore, plate off | the same | says what the plate does; judged only while none was measured with it |
//! | piston at its gauge point, square to the pin | once | |
//! | gaps of both rings by blades, squared in the smallest place | once | |
//! | rings in their grooves by blades | once around | |
//!
//! *Across* is thrust. The ends are called front, middle and rear in data for top, middle and bottom, as everywhere.
//! A bore that was measured without its plate leaves open what the plate would pull: the difference where both were measured
//! there, else what the rules allow for it.
//!
//! `piston to wall = bore - piston`, tight on the smallest place of the bore, loose on the largest. A piston is held against
//! its own sheet as well: below it, it is condemned.
use super::super::characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag, counts,
};
use super::super::figure::{
    Asked, Believable, Closes, Doubt, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, PresetLimits,
    Statistic, Term, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::Extreme;
use crate::units::Length;

const AT: &[PlaceKind] = &[PlaceKind::Cylinder];

const SIX_PLACES: [Planned; 6] = [
    counts(Axial::Front, 0),
    counts(Axial::Front, 90),
    counts(Axial::Middle, 0),
    counts(Axial::Middle, 90),
    counts(Axial::Rear, 0),
    counts(Axial::Rear, 90),
];
const ONCE: [Planned; 1] = [counts(Axial::Middle, 0)];

const BORE: Role = Role::new("cylinder");
const BARE: Role = Role::new("cylinder_bare");
const PISTON: Role = Role::new("piston");
const TOP_GAP: Role = Role::new("top_ring_gap");
const SECOND_GAP: Role = Role::new("second_ring_gap");
const TOP_SIDE: Role = Role::new("top_ring_side");

const CYLINDER: CharacteristicRow = CharacteristicRow {
    id: "cylinder",
    at: AT,
    role: BORE,
    part: PartKind::Block,
    counts: Extreme::Smallest,
    gauge: GaugeUse::Inside,
    reads: &[Read::Size],
    reads_apart: false,
    positions: &SIX_PLACES,
    ended_by: &[(Tag::Bore, Reach::Here)],
    torqued: false,
    relieved: false,
    signed: false,
    checked_gauge: true,
    places_within: None,
    expects: Expects::OwnNominal,
    cut_in: CutIn::Block,
};

/// A gap that blades say.
const fn gap(id: &'static str, role: Role, ended_by: &'static [(Tag, Reach)]) -> CharacteristicRow {
    CharacteristicRow {
        id,
        role,
        gauge: GaugeUse::Blades,
        reads: &[Read::Blades],
        positions: &ONCE,
        ended_by,
        checked_gauge: false,
        expects: Expects::Anything,
        cut_in: CutIn::Steel,
        ..CYLINDER
    }
}

/// The gap of a ring follows the bore it was filed in.
const IN_THE_BORE: &[(Tag, Reach)] = &[(Tag::Bore, Reach::Here), (Tag::Rings, Reach::Here)];

/// What is measured of the cylinders, in the order of the work.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[
    CYLINDER,
    CharacteristicRow { id: "cylinder_bare", role: BARE, ..CYLINDER },
    CharacteristicRow {
        id: "piston",
        at: &[PlaceKind::WristPin],
        role: PISTON,
        part: PartKind::Piston,
        counts: Extreme::Largest,
        gauge: GaugeUse::Outside,
        positions: &ONCE,
        ended_by: &[(Tag::Piston, Reach::Here), (Tag::GaugePoint, Reach::Anywhere)],
        cut_in: CutIn::Piston,
        ..CYLINDER
    },
    gap("top_ring_gap", TOP_GAP, IN_THE_BORE),
    gap("second_ring_gap", SECOND_GAP, IN_THE_BORE),
    gap("top_ring_side", TOP_SIDE, &[(Tag::Rings, Reach::Here)]),
];

/// A size of which both ends are judged.
const fn sized(factor: i8, role: Role) -> Term {
    Term { statistic: Statistic::MeanWithEnds, finer_gauge: true, ..Term::size(factor, role) }
}

/// How much the places of a bore differ: one gauge on all of them, so that its scale cancels.
const fn shape(role: Role, statistic: Statistic) -> Term {
    Term { statistic, doubt: Doubt::Compared, ..Term::size(1, role) }
}

/// Without the plate, while nobody measured with it: what the plate would pull stays open.
const fn bare(terms: &'static [Term]) -> MethodRow {
    MethodRow { unclamped: Some(BARE), ..MethodRow::plain("plate_off", terms, Judges::Unless("plate_on")) }
}

const fn per_inch(name: &'static str, low: u32, high: u32) -> Preset {
    Preset { at: PlaceKind::Cylinder, name, limits: PresetLimits::PerShaft { low, aim: None, high } }
}

/// A gap by the factor it is filed to: a blade less is the least, four thou more the most, on a bore of three inches and a half.
const fn filed_to(name: &'static str, factor: u32) -> Preset {
    let limits = PresetLimits::PerShaft {
        low: factor.saturating_sub(290),
        aim: Some(factor),
        high: factor.saturating_add(1_150),
    };
    Preset { at: PlaceKind::Cylinder, name, limits }
}

const fn fixed(name: &'static str, limits: [Length; 3]) -> Preset {
    Preset::fixed(PlaceKind::Cylinder, name, limits)
}

const TO_WALL: FigureRow = FigureRow {
    id: "piston_to_wall",
    at: AT,
    inputs: &[
        Input::of(BORE, Read::Size, Group::Running, Asked::ByDefault),
        Input::of(PISTON, Read::Size, Group::Running, Asked::ByDefault),
        Input::of(BARE, Read::Size, Group::Parts, Asked::OnceBegun),
    ],
    methods: &[
        MethodRow {
            warm_at: Some(PISTON),
            ..MethodRow::plain("plate_on", &[sized(1, BORE), sized(-1, PISTON)], Judges::Always)
        },
        MethodRow { warm_at: Some(PISTON), ..bare(&[sized(1, BARE), sized(-1, PISTON)]) },
    ],
    wanted: Wanting::OnceBegun,
    // A twentieth of an inch.
    believable: Believable::UpTo(1_270_000),
    limits: Limits::Both,
    presets: &[
        per_inch("cast or hypereutectic, street", 500, 800),
        per_inch("cast or hypereutectic, race", 700, 1_000),
        per_inch("forged, low expansion, street", 600, 900),
        per_inch("forged, low expansion, race", 900, 1_200),
        per_inch("forged, high expansion, street", 900, 1_200),
        per_inch("forged, high expansion, race", 1_100, 1_400),
    ],
    fitted: false,
    promised: false,
    condemns: false,
    hot: Some(Closes::Piston),
};

/// A bore with the plate and without it.
const BOTH_WAYS: &[Input] = &[
    Input::of(BORE, Read::Size, Group::Running, Asked::ByDefault),
    Input::of(BARE, Read::Size, Group::Parts, Asked::OnceBegun),
];

/// The shape of a bore, with the plate and while there is none without it.
const fn shape_of(id: &'static str, methods: &'static [MethodRow], presets: &'static [Preset]) -> FigureRow {
    FigureRow {
        id,
        inputs: BOTH_WAYS,
        methods,
        wanted: Wanting::WithTarget,
        limits: Limits::Maximum,
        presets,
        hot: None,
        ..TO_WALL
    }
}

/// A ring by blades.
const fn ring(
    id: &'static str,
    inputs: &'static [Input],
    methods: &'static [MethodRow],
    presets: &'static [Preset],
) -> FigureRow {
    FigureRow { id, inputs, methods, presets, hot: None, ..TO_WALL }
}

/// The gap of a ring, which closes when it is hot.
const fn gap_of(
    id: &'static str,
    inputs: &'static [Input],
    methods: &'static [MethodRow],
    presets: &'static [Preset],
) -> FigureRow {
    FigureRow { hot: Some(Closes::Ring), ..ring(id, inputs, methods, presets) }
}

const fn blades(role: Role) -> Term {
    Term { read: Read::Blades, doubt: Doubt::BladeStep, ..Term::size(1, role) }
}

/// What is judged of the cylinders.
pub(super) const FIGURES: &[FigureRow] = &[
    TO_WALL,
    shape_of(
        "cylinder_round",
        &[
            MethodRow::plain("plate_on", &[shape(BORE, Statistic::OutOfRound)], Judges::Always),
            bare(&[shape(BARE, Statistic::OutOfRound)]),
        ],
        &[
            fixed("race", [Length::ZERO, Length::tenths(1), Length::tenths(3)]),
            fixed("street", [Length::ZERO, Length::tenths(2), Length::tenths(5)]),
            fixed("new rings without boring", [Length::ZERO, Length::tenths(5), Length::tenths(10)]),
            fixed("small two-stroke", [Length::ZERO, Length::microns(5), Length::microns(10)]),
        ],
    ),
    shape_of(
        "cylinder_taper",
        &[
            MethodRow::plain("plate_on", &[shape(BORE, Statistic::Taper)], Judges::Always),
            bare(&[shape(BARE, Statistic::Taper)]),
        ],
        &[
            fixed("race", [Length::ZERO, Length::tenths(1), Length::tenths(3)]),
            fixed("street", [Length::ZERO, Length::tenths(2), Length::tenths(5)]),
            fixed("new rings without boring", [Length::ZERO, Length::tenths(10), Length::tenths(25)]),
            fixed("small two-stroke", [Length::ZERO, Length::microns(20), Length::microns(50)]),
        ],
    ),
    gap_of(
        "top_ring_gap",
        &[Input::of(TOP_GAP, Read::Blades, Group::Beside, Asked::ByDefault)],
        &[MethodRow::plain("blades", &[blades(TOP_GAP)], Judges::Always)],
        &[
            filed_to("street", 4_000),
            filed_to("circuit", 4_500),
            filed_to("drag, no boost", 5_000),
            filed_to("boost", 5_500),
            filed_to("nitrous", 6_500),
        ],
    ),
    gap_of(
        "second_ring_gap",
        &[Input::of(SECOND_GAP, Read::Blades, Group::Beside, Asked::ByDefault)],
        &[MethodRow::plain("blades", &[blades(SECOND_GAP)], Judges::Always)],
        &[
            filed_to("equal to the top, street", 4_000),
            filed_to("wider than the top, circuit", 5_000),
            filed_to("wider than the top, boost", 6_000),
        ],
    ),
    ring(
        "top_ring_side",
        &[Input::of(TOP_SIDE, Read::Blades, Group::Beside, Asked::ByDefault)],
        &[MethodRow::plain("blades", &[blades(TOP_SIDE)], Judges::Always)],
        &[
            fixed("usual", [Length::tenths(10), Length::tenths(17), Length::tenths(25)]),
            fixed("thin steel rings", [Length::tenths(8), Length::tenths(14), Length::tenths(20)]),
            fixed("usual, metric", [Length::microns(25), Length::microns(45), Length::microns(65)]),
        ],
    ),
    // Below its own sheet a skirt is worn or collapsed: a new bore would not mend it.
    FigureRow {
        id: "piston_size",
        at: &[PlaceKind::WristPin],
        inputs: &[Input::of(PISTON, Read::Size, Group::Running, Asked::ByDefault)],
        methods: &[MethodRow {
            warm_at: Some(PISTON),
            ..MethodRow::plain("sheet", &[Term::size(1, PISTON)], Judges::Always)
        }],
        wanted: Wanting::WithTarget,
        // Two hundred millimetres.
        believable: Believable::UpTo(200_000_000),
        limits: Limits::Minimum,
        presets: &[],
        condemns: true,
        hot: None,
        ..TO_WALL
    },
];
