//! How straight the crank is: each main turned under an indicator, the crank on its end mains.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | main, turned on the end mains, clear of the oil hole | eight clocks | all |
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

const AT: &[PlaceKind] = &[PlaceKind::Main];
const CLOCK: [Planned; 8] = super::cam::CLOCK;
const TURN: Role = Role::new("main_turn");

/// What is measured of the crank as a whole.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[CharacteristicRow {
    id: "main_turn",
    at: AT,
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
}];

/// What is judged of it.
pub(super) const FIGURES: &[FigureRow] = &[FigureRow {
    id: "main_runout",
    at: AT,
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
}];
