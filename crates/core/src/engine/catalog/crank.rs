//! How straight the crank is: each main, its nose and its flange turned under an indicator, the crank on its end mains.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | main, nose or flange, turned on the end mains, clear of holes and keyway | eight clocks | all |
//!
//! What the indicator travels counts bend and ovality alike; their parts are told by the harmonics of the turn
//! ([`crate::machining`]).
use super::super::characteristic::{
    CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag,
};
use super::super::figure::{
    Asked, Believable, Doubt, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, Statistic, Term, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::Extreme;
use crate::units::Length;

const MAINS: &[PlaceKind] = &[PlaceKind::Main];
const ENDS: &[PlaceKind] = &[PlaceKind::CrankEnd];
const CLOCK: [Planned; 8] = super::cam::CLOCK;
const TURN: Role = Role::new("main_turn");

const MAIN_TURN: CharacteristicRow = CharacteristicRow {
    id: "main_turn",
    at: MAINS,
    role: TURN,
    part: PartKind::Crank,
    counts: Extreme::Largest,
    gauge: GaugeUse::Travel,
    reads: &[Read::Turn],
    reads_apart: false,
    positions: &CLOCK,
    ended_by: &[(Tag::Journal, Reach::Here), (Tag::Straightness, Reach::Here)],
    torqued: false,
    relieved: false,
    signed: false,
    checked_gauge: true,
    places_within: None,
    expects: Expects::Anything,
    cut_in: CutIn::Steel,
};

/// What is measured of the crank as a whole. How its ends run ends with any wheel on it: their axis is that of the mains.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[
    MAIN_TURN,
    CharacteristicRow {
        id: "end_turn",
        at: ENDS,
        ended_by: &[(Tag::Cheeks, Reach::Anywhere), (Tag::Straightness, Reach::Anywhere)],
        ..MAIN_TURN
    },
];

const RUNOUT: FigureRow = FigureRow {
    id: "main_runout",
    at: MAINS,
    inputs: &[Input::of(TURN, Read::Turn, Group::Beside, Asked::ByDefault)],
    methods: &[MethodRow::plain(
        "turned",
        &[Term { read: Read::Turn, statistic: Statistic::Travel, doubt: Doubt::Compared, ..Term::size(1, TURN) }],
        Judges::Always,
    )],
    wanted: Wanting::OnceBegun,
    // A tenth of an inch: more is a bent bar.
    believable: Believable::UpTo(2_540_000),
    limits: Limits::Maximum,
    presets: &[
        Preset::fixed(PlaceKind::Main, "race", [Length::ZERO, Length::tenths(5), Length::tenths(10)]),
        Preset::fixed(PlaceKind::Main, "street", [Length::ZERO, Length::tenths(10), Length::tenths(20)]),
        Preset::fixed(PlaceKind::Main, "built-up, metric", [Length::ZERO, Length::microns(20), Length::microns(40)]),
    ],
    fitted: false,
    promised: false,
    condemns: false,
    hot: None,
};

/// What is judged of it. Nose and flange have a target of their own: what is meant for the mains asks nothing of them.
pub(super) const FIGURES: &[FigureRow] = &[
    RUNOUT,
    FigureRow {
        id: "end_runout",
        at: ENDS,
        presets: &[
            Preset::fixed(PlaceKind::CrankEnd, "race", [Length::ZERO, Length::tenths(5), Length::tenths(10)]),
            Preset::fixed(PlaceKind::CrankEnd, "street", [Length::ZERO, Length::tenths(10), Length::tenths(20)]),
        ],
        ..RUNOUT
    },
];
