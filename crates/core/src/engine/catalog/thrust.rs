//! The crank along its axis: end play, by pushing, by blades, and from the parts where their sizes are known.
//!
//! Washers or flanges stand on a saddle between two cheeks of the crank, or a collar of the crank runs between two
//! washers; the sum is the same: `end play = space - (saddle or collar + washers)`, and with flanged shells
//! `end play = space - width over the flanges`.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | travel, all caps torqued | the crank at 0 and 180 degrees, a push forward, back and forward again each | all |
//! | travel at a first look, caps off | the same | says nothing about the assembled engine |
//! | gap by blades, crank held away | at the top and at the bottom | all |
//! | washer, each side | four places around | all |
//!
//! The first look is kept apart and never judged. A pair that does not come back to where it began counts for nothing
//! ([`crate::log::Measure::is_void`]).
use super::super::characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag, counts,
};
use super::super::figure::{
    Asked, Believable, Doubt, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, Statistic, Term, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::Extreme;
use crate::units::Length;

const AT: &[PlaceKind] = &[PlaceKind::Thrust];

/// The crank at two positions half a turn apart: a face out of square shows between them where the washers are halves.
const TURNED: [Planned; 2] = [counts(Axial::Middle, 0), counts(Axial::Middle, 180)];
/// Around a washer.
const AROUND: [Planned; 4] =
    [counts(Axial::Middle, 0), counts(Axial::Middle, 90), counts(Axial::Middle, 180), counts(Axial::Middle, -90)];
const ONCE: [Planned; 1] = [counts(Axial::Middle, 0)];

/// Half a thou between two positions of the crank says that a face is not square.
const SQUARE_WITHIN: i64 = 12_700;

const FIRST_LOOK: Role = Role::new("first_look");
const BLADES: Role = Role::new("blades");
const SPACE: Role = Role::new("space");
const SADDLE: Role = Role::new("saddle");
const FLANGES: Role = Role::new("flanges");
const WASHER_FRONT: Role = Role::new("washer_front");
const WASHER_REAR: Role = Role::new("washer_rear");

/// What ends a travel of the assembled engine.
const ASSEMBLED: &[(Tag, Reach)] = &[
    (Tag::Thrust, Reach::Here),
    (Tag::Pairing, Reach::Here),
    (Tag::Cap, Reach::OnJournal),
    (Tag::Shells, Reach::OnJournal),
    (Tag::ShellsNamed, Reach::OnJournal),
    (Tag::Cheeks, Reach::OnJournal),
];

const TRAVEL: CharacteristicRow = CharacteristicRow {
    id: "thrust_travel",
    at: AT,
    role: Role::TRAVEL,
    part: PartKind::Crank,
    counts: Extreme::Smallest,
    gauge: GaugeUse::Travel,
    reads: &[Read::Travel],
    reads_apart: false,
    positions: &TURNED,
    ended_by: ASSEMBLED,
    torqued: true,
    relieved: false,
    signed: false,
    checked_gauge: true,
    places_within: Some(SQUARE_WITHIN),
    expects: Expects::Aim,
    cut_in: CutIn::Steel,
};

/// A part of the sum, as a size.
const fn part(
    id: &'static str,
    role: Role,
    part: PartKind,
    gauge: GaugeUse,
    positions: &'static [Planned],
) -> CharacteristicRow {
    CharacteristicRow {
        id,
        role,
        part,
        counts: match gauge {
            GaugeUse::Inside => Extreme::Smallest,
            _ => Extreme::Largest,
        },
        gauge,
        reads: &[Read::Size],
        positions,
        ended_by: &[(Tag::Thrust, Reach::Here), (Tag::Pairing, Reach::Here)],
        torqued: false,
        places_within: None,
        expects: Expects::Anything,
        ..TRAVEL
    }
}

/// What is measured along the axis, in the order of the work.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[
    CharacteristicRow { id: "thrust_first_look", role: FIRST_LOOK, torqued: false, places_within: None, ..TRAVEL },
    TRAVEL,
    CharacteristicRow {
        id: "thrust_gap",
        role: BLADES,
        gauge: GaugeUse::Blades,
        reads: &[Read::Blades],
        checked_gauge: false,
        places_within: None,
        ..TRAVEL
    },
    part("thrust_space", SPACE, PartKind::Crank, GaugeUse::Inside, &ONCE),
    part("thrust_saddle", SADDLE, PartKind::Block, GaugeUse::Outside, &ONCE),
    part("thrust_flanges", FLANGES, PartKind::Shells, GaugeUse::Outside, &ONCE),
    part("washer_front", WASHER_FRONT, PartKind::Shells, GaugeUse::Wall, &AROUND),
    part("washer_rear", WASHER_REAR, PartKind::Shells, GaugeUse::Wall, &AROUND),
];

/// What is judged along the axis: the end play, tight on its smallest and loose on its largest.
pub(super) const FIGURES: &[FigureRow] = &[FigureRow {
    id: "end_play",
    at: AT,
    inputs: &[
        Input::of(Role::TRAVEL, Read::Travel, Group::Running, Asked::ByDefault),
        Input::of(BLADES, Read::Blades, Group::Running, Asked::Never),
        Input::of(FIRST_LOOK, Read::Travel, Group::Parts, Asked::Never),
        Input::of(SPACE, Read::Size, Group::Parts, Asked::Never),
        Input::of(SADDLE, Read::Size, Group::Parts, Asked::Never),
        Input::of(FLANGES, Read::Size, Group::Parts, Asked::Never),
        Input::of(WASHER_FRONT, Read::Size, Group::Parts, Asked::Never),
        Input::of(WASHER_REAR, Read::Size, Group::Parts, Asked::Never),
    ],
    methods: &[
        MethodRow::plain(
            "pushed",
            &[Term {
                read: Read::Travel,
                statistic: Statistic::MeanWithEnds,
                doubt: Doubt::Pushed,
                ..Term::size(1, Role::TRAVEL)
            }],
            Judges::Always,
        ),
        MethodRow::plain(
            "blades",
            &[Term { read: Read::Blades, doubt: Doubt::BladeStep, ..Term::size(1, BLADES) }],
            Judges::Never,
        ),
        MethodRow::plain(
            "thicknesses",
            &[Term::size(1, SPACE), Term::size(-1, SADDLE), Term::size(-1, WASHER_FRONT), Term::size(-1, WASHER_REAR)],
            Judges::Never,
        ),
        MethodRow::plain("flanged", &[Term::size(1, SPACE), Term::size(-1, FLANGES)], Judges::Never),
    ],
    wanted: Wanting::OnceBegun,
    // A tenth of an inch: more is no bearing that holds a crank.
    believable: Believable::UpTo(2_540_000),
    limits: Limits::Both,
    presets: &[
        Preset::fixed(
            PlaceKind::Thrust,
            "close, hand-built race",
            [Length::tenths(40), Length::tenths(50), Length::tenths(60)],
        ),
        Preset::fixed(PlaceKind::Thrust, "general", [Length::tenths(40), Length::tenths(60), Length::tenths(80)]),
        Preset::fixed(
            PlaceKind::Thrust,
            "race, middle held",
            [Length::tenths(50), Length::tenths(65), Length::tenths(80)],
        ),
        Preset::fixed(
            PlaceKind::Thrust,
            "heavy clutch, converter, blown",
            [Length::tenths(60), Length::tenths(80), Length::tenths(100)],
        ),
        Preset::fixed(
            PlaceKind::Thrust,
            "small high-speed, metric",
            [Length::microns(50), Length::microns(100), Length::microns(150)],
        ),
    ],
    fitted: false,
    promised: true,
    condemns: false,
    hot: None,
}];
