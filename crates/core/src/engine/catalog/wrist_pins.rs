//! Wrist pins: in their pistons, in the small ends of their rods, and between their locks.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | wrist pin, outside | three places by 0 and 90 degrees | all |
//! | boss of the piston, inside | both bosses by 0 and 90 degrees | all |
//! | bush or eye of the rod, inside, the rod held by its beam | front and rear by 0 and 90 degrees | all |
//! | length of the pin, distance between the locks | once | |
//! | rock of the small end, at a stated radius | one push | |
//!
//! `clearance = bush or boss - pin`; a pressed pin is judged by its interference, `pin - eye`.
use super::super::characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag, counts,
};
use super::super::figure::{
    Asked, Believable, Doubt, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, Statistic, Term, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::Extreme;
use crate::units::Length;

const AT: &[PlaceKind] = &[PlaceKind::WristPin];
const AT_RODS: &[PlaceKind] = &[PlaceKind::Rod];

const ALONG_THE_PIN: [Planned; 6] = [
    counts(Axial::Front, 0),
    counts(Axial::Front, 90),
    counts(Axial::Middle, 0),
    counts(Axial::Middle, 90),
    counts(Axial::Rear, 0),
    counts(Axial::Rear, 90),
];
const BOTH_ENDS: [Planned; 4] =
    [counts(Axial::Front, 0), counts(Axial::Front, 90), counts(Axial::Rear, 0), counts(Axial::Rear, 90)];
const ONCE: [Planned; 1] = [counts(Axial::Middle, 0)];

const PIN: Role = Role::new("wrist_pin");
const BOSS: Role = Role::new("pin_boss");
const EYE: Role = Role::new("rod_eye");
const LENGTH: Role = Role::new("wrist_pin_length");
const LOCKS: Role = Role::new("lock_distance");
const ROCK: Role = Role::new("small_end_rock");

const WRIST_PIN: CharacteristicRow = CharacteristicRow {
    id: "wrist_pin",
    at: AT,
    role: PIN,
    part: PartKind::Piston,
    counts: Extreme::Largest,
    gauge: GaugeUse::Outside,
    reads: &[Read::Size],
    reads_apart: false,
    positions: &ALONG_THE_PIN,
    ended_by: &[(Tag::Piston, Reach::Here)],
    torqued: false,
    relieved: false,
    signed: false,
    checked_gauge: true,
    places_within: None,
    expects: Expects::Anything,
    cut_in: CutIn::Steel,
};

/// What is measured of the wrist pins, in the order of the work.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[
    WRIST_PIN,
    CharacteristicRow {
        id: "pin_boss",
        role: BOSS,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Inside,
        positions: &BOTH_ENDS,
        cut_in: CutIn::Piston,
        ..WRIST_PIN
    },
    CharacteristicRow {
        id: "rod_eye",
        at: AT_RODS,
        role: EYE,
        part: PartKind::Rod,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Inside,
        positions: &BOTH_ENDS,
        ended_by: &[(Tag::SmallEnd, Reach::Here)],
        cut_in: CutIn::Rod,
        ..WRIST_PIN
    },
    CharacteristicRow { id: "wrist_pin_length", role: LENGTH, positions: &ONCE, ..WRIST_PIN },
    CharacteristicRow {
        id: "lock_distance",
        role: LOCKS,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Inside,
        positions: &ONCE,
        cut_in: CutIn::Piston,
        ..WRIST_PIN
    },
    CharacteristicRow {
        id: "small_end_rock",
        at: AT_RODS,
        role: ROCK,
        part: PartKind::Rod,
        gauge: GaugeUse::Travel,
        reads: &[Read::Travel],
        positions: &ONCE,
        ended_by: &[(Tag::SmallEnd, Reach::Here)],
        ..WRIST_PIN
    },
];

/// A size that a finer gauge would prove better.
const fn sized(factor: i8, role: Role) -> Term {
    Term { finer_gauge: true, ..Term::size(factor, role) }
}

const IN_PISTON: FigureRow = FigureRow {
    id: "pin_in_piston",
    at: AT,
    inputs: &[
        Input::of(PIN, Read::Size, Group::Running, Asked::ByDefault),
        Input::of(BOSS, Read::Size, Group::Running, Asked::ByDefault),
    ],
    methods: &[MethodRow::plain("bore_less_pin", &[sized(1, BOSS), sized(-1, PIN)], Judges::Always)],
    wanted: Wanting::OnceBegun,
    // A hundredth of an inch.
    believable: Believable::UpTo(254_000),
    limits: Limits::Both,
    presets: &[
        Preset::fixed(PlaceKind::WristPin, "floating", [Length::tenths(2), Length::tenths(4), Length::tenths(6)]),
        Preset::fixed(
            PlaceKind::WristPin,
            "floating, forged",
            [Length::tenths(6), Length::tenths(8), Length::tenths(10)],
        ),
        Preset::fixed(
            PlaceKind::WristPin,
            "floating, metric",
            [Length::microns(5), Length::microns(10), Length::microns(15)],
        ),
    ],
    fitted: false,
    promised: false,
    condemns: false,
    hot: None,
};

/// What is judged of the wrist pins.
pub(super) const FIGURES: &[FigureRow] = &[
    IN_PISTON,
    FigureRow {
        id: "pin_in_rod",
        inputs: &[
            Input::of(PIN, Read::Size, Group::Running, Asked::ByDefault),
            Input::of(EYE, Read::Size, Group::Running, Asked::ByDefault),
        ],
        methods: &[MethodRow::plain("bore_less_pin", &[sized(1, EYE), sized(-1, PIN)], Judges::Always)],
        // A pin is either free in its rod or pressed into it: the target says which.
        wanted: Wanting::WithTarget,
        presets: &[
            Preset::fixed(
                PlaceKind::WristPin,
                "bronze bush, street",
                [Length::tenths(5), Length::tenths(7), Length::tenths(9)],
            ),
            Preset::fixed(
                PlaceKind::WristPin,
                "bronze bush, race",
                [Length::tenths(8), Length::tenths(10), Length::tenths(12)],
            ),
            Preset::fixed(
                PlaceKind::WristPin,
                "bronze bush, metric",
                [Length::microns(12), Length::microns(17), Length::microns(22)],
            ),
        ],
        ..IN_PISTON
    },
    FigureRow {
        id: "pin_press",
        inputs: &[
            Input::of(PIN, Read::Size, Group::Running, Asked::ByDefault),
            Input::of(EYE, Read::Size, Group::Running, Asked::ByDefault),
        ],
        methods: &[MethodRow::plain("pin_less_eye", &[sized(1, PIN), sized(-1, EYE)], Judges::Always)],
        wanted: Wanting::WithTarget,
        presets: &[Preset::fixed(
            PlaceKind::WristPin,
            "pressed",
            [Length::tenths(8), Length::tenths(11), Length::tenths(15)],
        )],
        ..IN_PISTON
    },
    FigureRow {
        id: "lock_to_lock",
        inputs: &[
            Input::of(LENGTH, Read::Size, Group::Parts, Asked::ByDefault),
            Input::of(LOCKS, Read::Size, Group::Parts, Asked::ByDefault),
        ],
        methods: &[MethodRow::plain("between_locks", &[sized(1, LOCKS), sized(-1, LENGTH)], Judges::Always)],
        // A tenth of an inch.
        believable: Believable::UpTo(2_540_000),
        presets: &[
            Preset::fixed(PlaceKind::WristPin, "wire locks", [Length::ZERO, Length::tenths(25), Length::tenths(50)]),
            Preset::fixed(PlaceKind::WristPin, "spiral locks", [Length::ZERO, Length::tenths(10), Length::tenths(20)]),
            Preset::fixed(
                PlaceKind::WristPin,
                "wire locks, metric",
                [Length::ZERO, Length::microns(60), Length::microns(120)],
            ),
        ],
        ..IN_PISTON
    },
    FigureRow {
        id: "small_end_rock",
        inputs: &[Input::of(ROCK, Read::Travel, Group::Beside, Asked::ByDefault)],
        methods: &[MethodRow::plain(
            "pushed",
            &[Term {
                read: Read::Travel,
                statistic: Statistic::MeanWithEnds,
                doubt: Doubt::Pushed,
                ..Term::size(1, ROCK)
            }],
            Judges::Always,
        )],
        // A small end on rollers leans a millimetre or two.
        believable: Believable::UpTo(10_000_000),
        limits: Limits::Maximum,
        presets: &[Preset::fixed(
            PlaceKind::WristPin,
            "rollers, by the maker at a stated radius",
            [Length::ZERO, Length::microns(400), Length::microns(2_000)],
        )],
        ..IN_PISTON
    },
];
