//! The sides of the rods: what they have to move along their pin, by blades or from the widths.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | gap by blades, rods torqued and spread apart | two clocks of the crank half a turn apart | all |
//! | width of the pin between its thrust faces | four clocks, clear of the fillets | all |
//! | width of a rod over cap and body | four places, both sides of the split | all |
//!
//! `side clearance = pin width - the widths of all rods on it`, tight on the narrowest place of the pin with the widest of
//! the rods, loose on the reverse. A rod that was measured free stands proud at its cap: widths are taken torqued.
use super::super::characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag, counts,
};
use super::super::figure::{
    Asked, Believable, Doubt, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, Statistic, Term, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::Extreme;
use crate::units::Length;

const AT: &[PlaceKind] = &[PlaceKind::Side];

const TURNED: [Planned; 2] = [counts(Axial::Middle, 0), counts(Axial::Middle, 180)];
const AROUND: [Planned; 4] =
    [counts(Axial::Middle, 0), counts(Axial::Middle, 90), counts(Axial::Middle, 180), counts(Axial::Middle, -90)];

const GAP: Role = Role::new("side_gap");
const PIN_WIDTH: Role = Role::new("pin_width");
const ROD_WIDTH: Role = Role::new("rod_width");

const SIDE_GAP: CharacteristicRow = CharacteristicRow {
    id: "rod_side_gap",
    at: AT,
    role: GAP,
    part: PartKind::Crank,
    counts: Extreme::Smallest,
    gauge: GaugeUse::Blades,
    reads: &[Read::Blades],
    reads_apart: false,
    positions: &TURNED,
    ended_by: &[
        (Tag::Pairing, Reach::Here),
        (Tag::Cheeks, Reach::OnJournal),
        (Tag::Cap, Reach::OnBearings),
        (Tag::RodSides, Reach::OnBearings),
    ],
    torqued: true,
    relieved: false,
    signed: false,
    checked_gauge: false,
    places_within: None,
    expects: Expects::Aim,
    cut_in: CutIn::Steel,
};

/// What is measured at the sides of the rods, in the order of the work.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[
    SIDE_GAP,
    CharacteristicRow {
        id: "pin_width",
        role: PIN_WIDTH,
        gauge: GaugeUse::Inside,
        reads: &[Read::Size],
        positions: &AROUND,
        ended_by: &[(Tag::Cheeks, Reach::OnJournal)],
        torqued: false,
        checked_gauge: true,
        expects: Expects::Anything,
        ..SIDE_GAP
    },
    CharacteristicRow {
        id: "rod_width",
        at: &[PlaceKind::Rod],
        role: ROD_WIDTH,
        part: PartKind::Rod,
        counts: Extreme::Largest,
        gauge: GaugeUse::Outside,
        reads: &[Read::Size],
        positions: &AROUND,
        ended_by: &[(Tag::Cap, Reach::Here), (Tag::RodSides, Reach::Here)],
        checked_gauge: true,
        expects: Expects::Anything,
        cut_in: CutIn::Rod,
        ..SIDE_GAP
    },
];

const fn width(factor: i8, role: Role) -> Term {
    Term { statistic: Statistic::MeanWithEnds, finer_gauge: true, ..Term::size(factor, role) }
}

/// What is judged at the sides of the rods.
pub(super) const FIGURES: &[FigureRow] = &[FigureRow {
    id: "rod_side",
    at: AT,
    inputs: &[
        Input::of(GAP, Read::Blades, Group::Running, Asked::ByDefault),
        Input::of(PIN_WIDTH, Read::Size, Group::Parts, Asked::OnceBegun),
        Input::of(ROD_WIDTH, Read::Size, Group::Parts, Asked::OnceBegun),
    ],
    methods: &[
        MethodRow::plain(
            "blades",
            &[Term { read: Read::Blades, doubt: Doubt::BladeStep, finer_gauge: false, ..width(1, GAP) }],
            Judges::Always,
        ),
        MethodRow::plain("widths", &[width(1, PIN_WIDTH), width(-1, ROD_WIDTH)], Judges::Always),
    ],
    wanted: Wanting::OnceBegun,
    // A fifth of an inch: more is no rod beside its cheek.
    believable: Believable::UpTo(5_080_000),
    limits: Limits::Both,
    presets: &[
        Preset::fixed(
            PlaceKind::Side,
            "steel, one on a pin",
            [Length::tenths(60), Length::tenths(100), Length::tenths(140)],
        ),
        Preset::fixed(
            PlaceKind::Side,
            "race, one on a pin",
            [Length::tenths(100), Length::tenths(130), Length::tenths(160)],
        ),
        Preset::fixed(
            PlaceKind::Side,
            "steel, two on a pin",
            [Length::tenths(100), Length::tenths(150), Length::tenths(200)],
        ),
        Preset::fixed(
            PlaceKind::Side,
            "endurance, two on a pin",
            [Length::tenths(120), Length::tenths(160), Length::tenths(200)],
        ),
        Preset::fixed(
            PlaceKind::Side,
            "race, two on a pin",
            [Length::tenths(140), Length::tenths(190), Length::tenths(240)],
        ),
        Preset::fixed(
            PlaceKind::Side,
            "steel, two on a pin, metric",
            [Length::microns(250), Length::microns(375), Length::microns(500)],
        ),
        Preset::fixed(PlaceKind::Side, "aluminium", [Length::tenths(200), Length::tenths(250), Length::tenths(300)]),
        Preset::fixed(
            PlaceKind::Side,
            "steel, one on a pin, metric",
            [Length::microns(150), Length::microns(250), Length::microns(350)],
        ),
        Preset::fixed(
            PlaceKind::Side,
            "roller big ends",
            [Length::microns(200), Length::microns(500), Length::microns(800)],
        ),
    ],
    fitted: false,
    promised: false,
    condemns: false,
    hot: None,
}];
