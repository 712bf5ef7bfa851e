//! Fillets: the radii at both ends of a journal, and what shells and rods leave free beside them.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | fillet radius, always measured after a regrind | both ends | the largest |
//! | shell edge behind the face of its rod or saddle | both ends | the smallest |
//! | chamfer of the shell's edge, along and up | both ends | the smallest |
//! | cheek to saddle, the crank pushed hard towards it (mains) | both ends | the smallest |
//! | chamfer of the rod's own edge, along and up (pins) | both ends | the smallest |
//!
//! A rod lies hard against its cheek at the worst; a main lies as far from its cheek as the end play lets the crank come,
//! and flush with it while nobody measured that. The shell runs on the journal without a film. At each end
//! `room = distance of the chamfer's corner to the arc`, and less than nothing where the flat begins before the radius ends
//! ([`crate::maths::edge_room`]); the worse end counts. On a shared pin the front end belongs to the front rod, the rear
//! end to the rear one.
use super::super::characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag, counts,
};
use super::super::figure::{
    Asked, Believable, Doubt, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, Term, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::{Extreme, FilletEdge, body_room, edge_room};
use crate::units::Length;

const AT: &[PlaceKind] = &[PlaceKind::MainFillet, PlaceKind::PinFillet];
const AT_MAINS: &[PlaceKind] = &[PlaceKind::MainFillet];
const AT_PINS: &[PlaceKind] = &[PlaceKind::PinFillet];

const BOTH_ENDS: [Planned; 2] = [counts(Axial::Front, 0), counts(Axial::Rear, 0)];

const RADIUS: Role = Role::new("fillet_radius");
const INSET: Role = Role::new("shell_inset");
const ALONG: Role = Role::new("edge_along");
const UP: Role = Role::new("edge_up");
const STANDOFF: Role = Role::new("saddle_gap");
const BODY_ALONG: Role = Role::new("body_along");
const BODY_UP: Role = Role::new("body_up");

const FILLET_RADIUS: CharacteristicRow = CharacteristicRow {
    id: "fillet_radius",
    at: AT,
    role: RADIUS,
    part: PartKind::Crank,
    counts: Extreme::Largest,
    gauge: GaugeUse::Radius,
    reads: &[Read::Size],
    reads_apart: false,
    positions: &BOTH_ENDS,
    // A wheel leaves its own radius on every journal it goes over: one ground journal puts all fillets of a crank in doubt.
    ended_by: &[(Tag::Cheeks, Reach::Anywhere)],
    torqued: false,
    relieved: false,
    signed: false,
    checked_gauge: false,
    places_within: None,
    expects: Expects::Anything,
    cut_in: CutIn::Steel,
};

/// Of the edge of a shell.
const fn of_shell(id: &'static str, role: Role) -> CharacteristicRow {
    CharacteristicRow {
        id,
        role,
        part: PartKind::Shells,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Depth,
        ended_by: &[
            (Tag::Shells, Reach::OnBearings),
            (Tag::ShellsNamed, Reach::OnBearings),
            (Tag::RodSides, Reach::OnBearings),
        ],
        ..FILLET_RADIUS
    }
}

/// Of the edge of a rod.
const fn of_rod(id: &'static str, role: Role) -> CharacteristicRow {
    CharacteristicRow { at: AT_PINS, ended_by: &[(Tag::RodSides, Reach::OnBearings)], ..of_shell(id, role) }
}

/// What is measured at the ends of the journals, in the order of the work.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[
    FILLET_RADIUS,
    of_shell("shell_inset", INSET),
    of_shell("edge_along", ALONG),
    of_shell("edge_up", UP),
    CharacteristicRow {
        id: "saddle_gap",
        at: AT_MAINS,
        role: STANDOFF,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Blades,
        reads: &[Read::Blades],
        ended_by: &[(Tag::Cheeks, Reach::Anywhere), (Tag::Thrust, Reach::Anywhere), (Tag::Cap, Reach::OnJournal)],
        torqued: true,
        ..FILLET_RADIUS
    },
    of_rod("body_along", BODY_ALONG),
    of_rod("body_up", BODY_UP),
];

/// The room of a shell's edge whose rod or saddle stands `away` from the cheek.
fn room(radius: Length, [inset, along, up]: [Length; 3], away: Length) -> f64 {
    let edge = FilletEdge { inset: inset + away, chamfer_axial: along, chamfer_radial: up, film: Length::ZERO };
    edge_room(radius, edge)
}

fn hard_over(values: &[Length], _: Option<Length>) -> Option<f64> {
    let &[radius, inset, along, up] = values else { return None };
    Some(room(radius, [inset, along, up], Length::ZERO))
}

fn as_pushed(values: &[Length], _: Option<Length>) -> Option<f64> {
    let &[radius, inset, along, up, away] = values else { return None };
    Some(room(radius, [inset, along, up], away))
}

/// How far beyond the end of the arc the flat begins.
fn flat_hard_over(values: &[Length], _: Option<Length>) -> Option<f64> {
    let &[radius, inset, along] = values else { return None };
    Some((inset + along - radius).as_f64())
}

fn flat_as_pushed(values: &[Length], _: Option<Length>) -> Option<f64> {
    let &[radius, inset, along, away] = values else { return None };
    Some((inset + along + away - radius).as_f64())
}

/// The edge of a rod stands a wall above the journal.
fn of_body(values: &[Length], wall: Option<Length>) -> Option<f64> {
    let &[radius, along, up] = values else { return None };
    Some(body_room(radius, (along, up), wall?))
}

const PUSHED: Term = Term { read: Read::Blades, doubt: Doubt::BladeStep, ..Term::size(1, STANDOFF) };

const ROOM: FigureRow = FigureRow {
    id: "fillet_room",
    at: AT,
    inputs: &[
        Input::of(RADIUS, Read::Size, Group::Running, Asked::ByDefault),
        Input::of(INSET, Read::Size, Group::Running, Asked::ByDefault),
        Input::of(ALONG, Read::Size, Group::Running, Asked::ByDefault),
        Input::of(UP, Read::Size, Group::Running, Asked::ByDefault),
        Input::of(STANDOFF, Read::Blades, Group::Parts, Asked::OnceBegun),
    ],
    methods: &[
        MethodRow::by_formula(
            "as_pushed",
            &[Term::size(-1, RADIUS), Term::size(1, INSET), Term::size(1, ALONG), Term::size(1, UP), PUSHED],
            Judges::Always,
            as_pushed,
        ),
        MethodRow::by_formula(
            "hard_over",
            &[Term::size(-1, RADIUS), Term::size(1, INSET), Term::size(1, ALONG), Term::size(1, UP)],
            Judges::Unless("as_pushed"),
            hard_over,
        ),
    ],
    wanted: Wanting::OnceChanged(Tag::Cheeks),
    // A quarter of an inch.
    believable: Believable::UpTo(6_350_000),
    limits: Limits::Minimum,
    presets: &[
        Preset::fixed(
            PlaceKind::MainFillet,
            "usual margin",
            [Length::tenths(20), Length::tenths(50), Length::tenths(2_500)],
        ),
        Preset::fixed(
            PlaceKind::PinFillet,
            "usual margin",
            [Length::tenths(20), Length::tenths(50), Length::tenths(2_500)],
        ),
        Preset::fixed(
            PlaceKind::MainFillet,
            "usual margin, metric",
            [Length::microns(50), Length::microns(130), Length::microns(6_000)],
        ),
        Preset::fixed(
            PlaceKind::PinFillet,
            "usual margin, metric",
            [Length::microns(50), Length::microns(130), Length::microns(6_000)],
        ),
    ],
    fitted: false,
    promised: false,
    condemns: false,
    hot: None,
};

/// What is judged at the ends of the journals.
pub(super) const FIGURES: &[FigureRow] = &[
    ROOM,
    FigureRow {
        id: "fillet_flat",
        inputs: &[
            Input::of(RADIUS, Read::Size, Group::Running, Asked::ByDefault),
            Input::of(INSET, Read::Size, Group::Running, Asked::ByDefault),
            Input::of(ALONG, Read::Size, Group::Running, Asked::ByDefault),
            Input::of(STANDOFF, Read::Blades, Group::Parts, Asked::OnceBegun),
        ],
        methods: &[
            MethodRow::by_formula(
                "as_pushed",
                &[Term::size(-1, RADIUS), Term::size(1, INSET), Term::size(1, ALONG), PUSHED],
                Judges::Always,
                flat_as_pushed,
            ),
            MethodRow::by_formula(
                "hard_over",
                &[Term::size(-1, RADIUS), Term::size(1, INSET), Term::size(1, ALONG)],
                Judges::Unless("as_pushed"),
                flat_hard_over,
            ),
        ],
        wanted: Wanting::WithTarget,
        presets: &[
            Preset::fixed(
                PlaceKind::MainFillet,
                "ten thou",
                [Length::tenths(100), Length::tenths(200), Length::tenths(2_500)],
            ),
            Preset::fixed(
                PlaceKind::PinFillet,
                "ten thou",
                [Length::tenths(100), Length::tenths(200), Length::tenths(2_500)],
            ),
            Preset::fixed(
                PlaceKind::PinFillet,
                "five thou",
                [Length::tenths(50), Length::tenths(150), Length::tenths(2_500)],
            ),
            Preset::fixed(
                PlaceKind::MainFillet,
                "metric",
                [Length::microns(250), Length::microns(500), Length::microns(6_000)],
            ),
            Preset::fixed(
                PlaceKind::PinFillet,
                "metric",
                [Length::microns(250), Length::microns(500), Length::microns(6_000)],
            ),
        ],
        ..ROOM
    },
    FigureRow {
        id: "rod_edge_room",
        at: AT_PINS,
        inputs: &[
            Input::of(RADIUS, Read::Size, Group::Running, Asked::ByDefault),
            Input::of(BODY_ALONG, Read::Size, Group::Parts, Asked::ByDefault),
            Input::of(BODY_UP, Read::Size, Group::Parts, Asked::ByDefault),
        ],
        methods: &[MethodRow::by_formula(
            "rod_body",
            &[Term::size(-1, RADIUS), Term::size(1, BODY_ALONG), Term::size(1, BODY_UP)],
            Judges::Always,
            of_body,
        )],
        wanted: Wanting::WithTarget,
        presets: &[
            Preset::fixed(
                PlaceKind::PinFillet,
                "usual margin",
                [Length::tenths(20), Length::tenths(50), Length::tenths(2_500)],
            ),
            Preset::fixed(
                PlaceKind::PinFillet,
                "metric",
                [Length::microns(50), Length::microns(130), Length::microns(6_000)],
            ),
        ],
        ..ROOM
    },
];
