//! The cam in its bearings: journals that may each have a size of their own, the bores they run in after fitting, and how
//! far each runs out while the shaft is turned on its end journals.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | cam journal | front and rear by 0 and 90 degrees | all |
//! | cam bearing, fitted: a pressed bush shrinks, so the size it was bought at is none | the same, clear of seam and hole | all |
//! | runout, turned on the end journals | eight clocks | all |
//! | travel along its axis, the gear or plate on | one push | all |
//! | the same by blades | once | |
//!
//! `clearance = smallest bore - largest journal`. What bend leaves of it is worked out with the plan that fits the cam
//! ([`crate::machining`]): size alone does not say that a shaft turns.
use super::super::characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag, counts,
};
use super::super::figure::{
    Asked, Believable, Doubt, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, Statistic, Term, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::Extreme;
use crate::units::Length;

const AT: &[PlaceKind] = &[PlaceKind::Cam];

const BOTH_ENDS: [Planned; 4] =
    [counts(Axial::Front, 0), counts(Axial::Front, 90), counts(Axial::Rear, 0), counts(Axial::Rear, 90)];
pub(super) const CLOCK: [Planned; 8] = [
    counts(Axial::Middle, 0),
    counts(Axial::Middle, 45),
    counts(Axial::Middle, 90),
    counts(Axial::Middle, 135),
    counts(Axial::Middle, 180),
    counts(Axial::Middle, -135),
    counts(Axial::Middle, -90),
    counts(Axial::Middle, -45),
];

const JOURNAL: Role = Role::new("cam_journal");
const BEARING: Role = Role::new("cam_bearing");
const TURN: Role = Role::new("cam_turn");
const TRAVEL: Role = Role::new("cam_travel");
const GAP: Role = Role::new("cam_gap");
const AT_THRUST: &[PlaceKind] = &[PlaceKind::CamThrust];
const ONCE: [Planned; 1] = [counts(Axial::Middle, 0)];

const CAM_JOURNAL: CharacteristicRow = CharacteristicRow {
    id: "cam_journal",
    at: AT,
    role: JOURNAL,
    part: PartKind::Cam,
    counts: Extreme::Largest,
    gauge: GaugeUse::Outside,
    reads: &[Read::Size],
    reads_apart: false,
    positions: &BOTH_ENDS,
    ended_by: &[(Tag::Journal, Reach::Here)],
    torqued: false,
    relieved: false,
    signed: false,
    checked_gauge: true,
    places_within: None,
    expects: Expects::OwnNominal,
    cut_in: CutIn::Steel,
};

/// What is measured of the cam, in the order of the work.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[
    CAM_JOURNAL,
    CharacteristicRow {
        id: "cam_bearing",
        role: BEARING,
        part: PartKind::Block,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Inside,
        ended_by: &[(Tag::Bush, Reach::Here)],
        expects: Expects::OwnNominalAndAim,
        cut_in: CutIn::Block,
        ..CAM_JOURNAL
    },
    CharacteristicRow {
        id: "cam_turn",
        role: TURN,
        gauge: GaugeUse::Travel,
        reads: &[Read::Turn],
        positions: &CLOCK,
        expects: Expects::Anything,
        ..CAM_JOURNAL
    },
    CharacteristicRow {
        id: "cam_travel",
        at: AT_THRUST,
        role: TRAVEL,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Travel,
        reads: &[Read::Travel],
        positions: &ONCE,
        ended_by: &[(Tag::CamThrust, Reach::Here)],
        expects: Expects::Aim,
        ..CAM_JOURNAL
    },
    CharacteristicRow {
        id: "cam_gap",
        at: AT_THRUST,
        role: GAP,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Blades,
        reads: &[Read::Blades],
        positions: &ONCE,
        ended_by: &[(Tag::CamThrust, Reach::Here)],
        checked_gauge: false,
        expects: Expects::Aim,
        ..CAM_JOURNAL
    },
];

/// A size that a finer gauge would prove better.
const fn sized(factor: i8, role: Role) -> Term {
    Term { finer_gauge: true, ..Term::size(factor, role) }
}

/// What is judged of the cam.
pub(super) const FIGURES: &[FigureRow] = &[CLEARANCE, END_PLAY];

const CLEARANCE: FigureRow = FigureRow {
    id: "cam_clearance",
    at: AT,
    inputs: &[
        Input::of(JOURNAL, Read::Size, Group::Running, Asked::ByDefault),
        Input::of(BEARING, Read::Size, Group::Running, Asked::ByDefault),
        Input::of(TURN, Read::Turn, Group::Parts, Asked::OnceBegun),
    ],
    methods: &[MethodRow {
        place_by_place: true,
        freed_of_size: false,
        ..MethodRow::plain("bore_less_journal", &[sized(1, BEARING), sized(-1, JOURNAL)], Judges::Always)
    }],
    wanted: Wanting::OnceBegun,
    // A twentieth of an inch.
    believable: Believable::UpTo(1_270_000),
    limits: Limits::Both,
    presets: &[
        Preset::fixed(PlaceKind::Cam, "tight, thin oil", [Length::tenths(10), Length::tenths(12), Length::tenths(15)]),
        Preset::fixed(PlaceKind::Cam, "usual", [Length::tenths(15), Length::tenths(20), Length::tenths(30)]),
        Preset::fixed(PlaceKind::Cam, "vintage", [Length::tenths(15), Length::tenths(25), Length::tenths(35)]),
        Preset::fixed(
            PlaceKind::Cam,
            "overhead, in head bores",
            [Length::microns(25), Length::microns(45), Length::microns(70)],
        ),
    ],
    fitted: false,
    promised: false,
    condemns: false,
    hot: None,
};

/// How far the cam travels along its axis, held by a plate, a shim or a button.
const END_PLAY: FigureRow = FigureRow {
    id: "cam_end_play",
    at: AT_THRUST,
    inputs: &[
        Input::of(TRAVEL, Read::Travel, Group::Running, Asked::ByDefault),
        Input::of(GAP, Read::Blades, Group::Running, Asked::Never),
    ],
    methods: &[
        MethodRow::plain(
            "pushed",
            &[Term {
                read: Read::Travel,
                statistic: Statistic::MeanWithEnds,
                doubt: Doubt::Pushed,
                ..Term::size(1, TRAVEL)
            }],
            Judges::Always,
        ),
        MethodRow::plain(
            "blades",
            &[Term { read: Read::Blades, doubt: Doubt::BladeStep, ..Term::size(1, GAP) }],
            Judges::Unless("pushed"),
        ),
    ],
    presets: &[
        Preset::fixed(PlaceKind::CamThrust, "plate", [Length::tenths(30), Length::tenths(50), Length::tenths(70)]),
        Preset::fixed(PlaceKind::CamThrust, "button", [Length::tenths(50), Length::tenths(75), Length::tenths(100)]),
        Preset::fixed(
            PlaceKind::CamThrust,
            "in the head, metric",
            [Length::microns(50), Length::microns(120), Length::microns(200)],
        ),
    ],
    ..CLEARANCE
};
