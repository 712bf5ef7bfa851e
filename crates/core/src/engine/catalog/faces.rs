//! Faces, deck and tunnel, and the heights that a deck clearance is stacked of.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | gap under a straight edge on a face, by blades | both edges, the middle, both diagonals, across at both ends | all |
//! | gap under a short edge, a span at a time, by blades | front, middle and rear of both edges | all |
//! | height of the deck over the mains' axis | the four corners | all |
//! | piston below the deck at dead centre, less than nothing where it stands proud | on the pin's axis to both sides | their mean: rock cancels |
//! | compression height, length of the rod | once | |
//! | height of a pin at its top and at its bottom, shown with the rods on it | once each | |
//! | height of a pin where it should be level with another | once | |
//! | gap under a straight edge in the tunnel, by blades, no caps | vertical and horizontal | all |
//!
//! A diagonal tells a twist that both edges hide. What lies under an edge in the tunnel is size and offset together; the
//! offset alone is worked out in [`crate::machining`], and so are the stack and the index of the pins.
use super::super::characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag, counts,
};
use super::super::figure::{
    Asked, Believable, Doubt, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, Statistic, Term, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::Extreme;
use crate::units::Length;

const FACES: &[PlaceKind] = &[PlaceKind::Deck, PlaceKind::Head];

const STRAIGHT_EDGE: [Planned; 7] = [
    counts(Axial::Middle, 0),
    counts(Axial::Middle, 180),
    counts(Axial::Middle, 90),
    counts(Axial::Middle, 45),
    counts(Axial::Middle, 135),
    counts(Axial::Front, 90),
    counts(Axial::Rear, 90),
];
const SPANS: [Planned; 6] = [
    counts(Axial::Front, 0),
    counts(Axial::Middle, 0),
    counts(Axial::Rear, 0),
    counts(Axial::Front, 180),
    counts(Axial::Middle, 180),
    counts(Axial::Rear, 180),
];
const CORNERS: [Planned; 4] =
    [counts(Axial::Front, 0), counts(Axial::Front, 180), counts(Axial::Rear, 180), counts(Axial::Rear, 0)];
const BOTH_SIDES: [Planned; 2] = [counts(Axial::Middle, 0), counts(Axial::Middle, 180)];
const BOTH_WAYS: [Planned; 2] = [counts(Axial::Middle, 0), counts(Axial::Middle, 90)];
const ONCE: [Planned; 1] = [counts(Axial::Middle, 0)];

const FACE: Role = Role::new("face_gap");
const SPAN: Role = Role::new("face_span_gap");
const CORNER: Role = Role::new("deck_corner");
const BELOW: Role = Role::new("below_deck");
const CROWN: Role = Role::new("compression_height");
const ROD: Role = Role::new("rod_length");
const TOP: Role = Role::new("pin_top");
const BOTTOM: Role = Role::new("pin_bottom");
const LEVEL: Role = Role::new("pin_level");
const TUNNEL: Role = Role::new("tunnel_gap");

const CORNER_ROW: CharacteristicRow = CharacteristicRow {
    id: "deck_corner",
    at: &[PlaceKind::Deck],
    role: CORNER,
    part: PartKind::Block,
    counts: Extreme::Smallest,
    gauge: GaugeUse::Height,
    reads: &[Read::Size],
    reads_apart: false,
    positions: &CORNERS,
    ended_by: &[(Tag::Deck, Reach::Here), (Tag::Tunnel, Reach::Anywhere)],
    torqued: false,
    relieved: false,
    signed: false,
    checked_gauge: true,
    places_within: None,
    expects: Expects::Anything,
    cut_in: CutIn::Block,
};

/// What blades say of something straight.
const fn under_the_edge(
    id: &'static str,
    at: &'static [PlaceKind],
    role: Role,
    positions: &'static [Planned],
    ended_by: &'static [(Tag, Reach)],
) -> CharacteristicRow {
    CharacteristicRow {
        id,
        at,
        role,
        counts: Extreme::Largest,
        gauge: GaugeUse::Blades,
        reads: &[Read::Blades],
        positions,
        ended_by,
        checked_gauge: false,
        ..CORNER_ROW
    }
}

/// A height of a pin over the plate.
const fn of_pin(id: &'static str, role: Role) -> CharacteristicRow {
    CharacteristicRow {
        id,
        at: &[PlaceKind::Pin],
        role,
        part: PartKind::Crank,
        positions: &ONCE,
        ended_by: &[(Tag::Journal, Reach::Here), (Tag::Straightness, Reach::Anywhere)],
        cut_in: CutIn::Steel,
        ..CORNER_ROW
    }
}

/// What is measured of faces, deck and tunnel.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[
    under_the_edge("face_gap", FACES, FACE, &STRAIGHT_EDGE, &[(Tag::Deck, Reach::Here)]),
    under_the_edge("face_span_gap", FACES, SPAN, &SPANS, &[(Tag::Deck, Reach::Here)]),
    CORNER_ROW,
    CharacteristicRow {
        id: "below_deck",
        at: &[PlaceKind::Cylinder],
        role: BELOW,
        gauge: GaugeUse::Depth,
        signed: true,
        positions: &BOTH_SIDES,
        ended_by: &[(Tag::Deck, Reach::Anywhere), (Tag::Tunnel, Reach::Anywhere), (Tag::Piston, Reach::OnJournal)],
        ..CORNER_ROW
    },
    CharacteristicRow {
        id: "compression_height",
        at: &[PlaceKind::WristPin],
        role: CROWN,
        part: PartKind::Piston,
        positions: &ONCE,
        ended_by: &[(Tag::Piston, Reach::Here)],
        cut_in: CutIn::Piston,
        ..CORNER_ROW
    },
    CharacteristicRow {
        id: "rod_length",
        at: &[PlaceKind::Rod],
        role: ROD,
        part: PartKind::Rod,
        positions: &ONCE,
        ended_by: &[(Tag::SmallEnd, Reach::Here), (Tag::Cap, Reach::Here)],
        cut_in: CutIn::Rod,
        ..CORNER_ROW
    },
    of_pin("pin_top", TOP),
    of_pin("pin_bottom", BOTTOM),
    of_pin("pin_level", LEVEL),
    under_the_edge("tunnel_gap", &[PlaceKind::Main], TUNNEL, &BOTH_WAYS, &[(Tag::Tunnel, Reach::Here)]),
];

const fn fixed(at: PlaceKind, name: &'static str, limits: [Length; 3]) -> Preset {
    Preset::fixed(at, name, limits)
}

const fn by_blades(role: Role) -> Term {
    Term { read: Read::Blades, statistic: Statistic::LargestPlace, doubt: Doubt::BladeStep, ..Term::size(1, role) }
}

const FLATNESS: FigureRow = FigureRow {
    id: "face_flatness",
    at: FACES,
    inputs: &[Input::of(FACE, Read::Blades, Group::Running, Asked::ByDefault)],
    methods: &[MethodRow::plain("blades", &[by_blades(FACE)], Judges::Always)],
    wanted: Wanting::OnceBegun,
    // A twentieth of an inch.
    believable: Believable::UpTo(1_270_000),
    limits: Limits::Maximum,
    presets: &[
        fixed(PlaceKind::Deck, "composite gasket", [Length::ZERO, Length::tenths(15), Length::tenths(30)]),
        fixed(PlaceKind::Deck, "thin metal gasket", [Length::ZERO, Length::tenths(10), Length::tenths(20)]),
        fixed(PlaceKind::Head, "head", [Length::ZERO, Length::tenths(10), Length::tenths(20)]),
        fixed(PlaceKind::Head, "small head", [Length::ZERO, Length::microns(20), Length::microns(30)]),
    ],
    fitted: false,
    promised: false,
    condemns: false,
    hot: None,
};

/// A height that is judged by the sheet alone.
const fn height(
    id: &'static str,
    at: &'static [PlaceKind],
    inputs: &'static [Input],
    methods: &'static [MethodRow],
) -> FigureRow {
    FigureRow {
        id,
        at,
        inputs,
        methods,
        wanted: Wanting::ForOthers,
        // A foot and a half.
        believable: Believable::UpTo(457_200_000),
        limits: Limits::Both,
        presets: &[],
        ..FLATNESS
    }
}

const fn mean(role: Role) -> Term {
    Term { statistic: Statistic::MeanOfPlaces, finer_gauge: true, ..Term::size(1, role) }
}

/// What is judged of them.
pub(super) const FIGURES: &[FigureRow] = &[
    FLATNESS,
    height(
        "deck_height",
        &[PlaceKind::Deck],
        &[Input::of(CORNER, Read::Size, Group::Parts, Asked::ByDefault)],
        &[MethodRow::plain("corners", &[mean(CORNER)], Judges::Always)],
    ),
    FigureRow {
        limits: Limits::Maximum,
        believable: Believable::UpTo(1_270_000),
        wanted: Wanting::WithTarget,
        presets: &[
            fixed(PlaceKind::Deck, "race", [Length::ZERO, Length::tenths(5), Length::tenths(10)]),
            fixed(PlaceKind::Deck, "street", [Length::ZERO, Length::tenths(10), Length::tenths(20)]),
        ],
        ..height(
            "deck_parallel",
            &[PlaceKind::Deck],
            &[Input::of(CORNER, Read::Size, Group::Parts, Asked::ByDefault)],
            &[MethodRow::plain(
                "corners",
                &[Term { statistic: Statistic::Travel, doubt: Doubt::Compared, ..Term::size(1, CORNER) }],
                Judges::Always,
            )],
        )
    },
    FigureRow {
        wanted: Wanting::OnceBegun,
        believable: Believable::ToEitherSide(12_700_000),
        presets: &[
            fixed(
                PlaceKind::Cylinder,
                "below the deck, its gasket decides the rest",
                [Length::tenths(20), Length::tenths(80), Length::tenths(140)],
            ),
            fixed(PlaceKind::Cylinder, "level with the deck", [Length::tenths(-20), Length::ZERO, Length::tenths(20)]),
            fixed(
                PlaceKind::Cylinder,
                "as it was made",
                [Length::tenths(100), Length::tenths(200), Length::tenths(300)],
            ),
        ],
        ..height(
            "deck_clearance",
            &[PlaceKind::Cylinder],
            &[Input::of(BELOW, Read::Size, Group::Beside, Asked::ByDefault)],
            &[MethodRow::plain("both_sides", &[mean(BELOW)], Judges::Always)],
        )
    },
    height(
        "crown_height",
        &[PlaceKind::WristPin],
        &[Input::of(CROWN, Read::Size, Group::Beside, Asked::ByDefault)],
        &[MethodRow::plain("measured", &[mean(CROWN)], Judges::Always)],
    ),
    height(
        "rod_centres",
        &[PlaceKind::Rod],
        &[Input::of(ROD, Read::Size, Group::Beside, Asked::ByDefault)],
        &[MethodRow::plain("measured", &[mean(ROD)], Judges::Always)],
    ),
    height(
        "stroke",
        &[PlaceKind::Rod],
        &[
            Input::of(TOP, Read::Size, Group::Beside, Asked::ByDefault),
            Input::of(BOTTOM, Read::Size, Group::Beside, Asked::ByDefault),
        ],
        &[MethodRow::plain(
            "top_less_bottom",
            &[
                Term { doubt: Doubt::Compared, ..mean(TOP) },
                Term { factor: -1, doubt: Doubt::Compared, ..mean(BOTTOM) },
            ],
            Judges::Always,
        )],
    ),
    height(
        "pin_height",
        &[PlaceKind::Rod],
        &[Input::of(LEVEL, Read::Size, Group::Beside, Asked::ByDefault)],
        &[MethodRow::plain("level", &[mean(LEVEL)], Judges::Always)],
    ),
    FigureRow {
        at: &[PlaceKind::Main],
        wanted: Wanting::ForOthers,
        id: "tunnel_gap",
        inputs: &[Input::of(TUNNEL, Read::Blades, Group::Beside, Asked::ByDefault)],
        methods: &[MethodRow {
            freed_of_size: true,
            ..MethodRow::plain("blades", &[by_blades(TUNNEL)], Judges::Always)
        }],
        presets: &[
            fixed(PlaceKind::Main, "in line, race", [Length::ZERO, Length::tenths(5), Length::tenths(15)]),
            fixed(PlaceKind::Main, "in line, street", [Length::ZERO, Length::tenths(10), Length::tenths(20)]),
        ],
        ..FLATNESS
    },
    FigureRow {
        id: "face_span",
        inputs: &[Input::of(SPAN, Read::Blades, Group::Beside, Asked::ByDefault)],
        methods: &[MethodRow::plain("blades", &[by_blades(SPAN)], Judges::Always)],
        wanted: Wanting::WithTarget,
        presets: &[
            fixed(
                PlaceKind::Deck,
                "composite gasket, any 6 in",
                [Length::ZERO, Length::tenths(15), Length::tenths(30)],
            ),
            fixed(
                PlaceKind::Deck,
                "thin metal gasket, any 3 in",
                [Length::ZERO, Length::tenths(5), Length::tenths(10)],
            ),
            fixed(
                PlaceKind::Head,
                "composite gasket, any 6 in",
                [Length::ZERO, Length::tenths(15), Length::tenths(30)],
            ),
            fixed(
                PlaceKind::Head,
                "thin metal gasket, any 3 in",
                [Length::ZERO, Length::tenths(5), Length::tenths(10)],
            ),
        ],
        ..FLATNESS
    },
];
