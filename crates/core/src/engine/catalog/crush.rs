//! Crush: how far the halves of a pair of shells stand proud of their housing, so that it grips them.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | proud height of a half against its block, or at one joint released | upper at 0, lower at 180 degrees | both |
//!
//! Each half has the nip its maker wants; both together press on the housing as an interference of
//! `nip of both / pi` on the diameter. A housing that is larger by `D` takes `pi D / 2` of it from each half.
use super::super::characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag, counts,
};
use super::super::figure::{
    Asked, Believable, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, Statistic, Term, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::Extreme;
use crate::units::Length;

const AT: &[PlaceKind] = &[PlaceKind::Main, PlaceKind::Rod];
const HALVES: [Planned; 2] = [counts(Axial::Middle, 0), counts(Axial::Middle, 180)];
const NIP: Role = Role::new("nip");

/// What is measured of the grip.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[CharacteristicRow {
    id: "nip",
    at: AT,
    role: NIP,
    part: PartKind::Shells,
    counts: Extreme::Smallest,
    gauge: GaugeUse::Depth,
    reads: &[Read::Size],
    reads_apart: false,
    positions: &HALVES,
    ended_by: &[(Tag::Shells, Reach::Here), (Tag::ShellsNamed, Reach::Here), (Tag::Cap, Reach::Here)],
    torqued: false,
    relieved: false,
    signed: false,
    checked_gauge: false,
    places_within: None,
    expects: Expects::Anything,
    cut_in: CutIn::Steel,
}];

/// What is judged of it: the half with the least of it and the one with the most.
pub(super) const FIGURES: &[FigureRow] = &[FigureRow {
    id: "crush",
    at: AT,
    inputs: &[Input::of(NIP, Read::Size, Group::Beside, Asked::ByDefault)],
    methods: &[MethodRow::plain(
        "proud_height",
        &[Term { statistic: Statistic::MeanWithEnds, ..Term::size(1, NIP) }],
        Judges::Always,
    )],
    wanted: Wanting::OnceBegun,
    // A fiftieth of an inch: more is no pair of shells for that housing.
    believable: Believable::UpTo(508_000),
    limits: Limits::Both,
    presets: &[
        Preset::fixed(
            PlaceKind::Main,
            "usual at 2 to 2.5 in",
            [Length::tenths(10), Length::tenths(20), Length::tenths(30)],
        ),
        Preset::fixed(
            PlaceKind::Rod,
            "usual at 2 to 2.5 in",
            [Length::tenths(10), Length::tenths(20), Length::tenths(30)],
        ),
        Preset::fixed(
            PlaceKind::Main,
            "usual, metric",
            [Length::microns(25), Length::microns(50), Length::microns(75)],
        ),
        Preset::fixed(PlaceKind::Rod, "usual, metric", [Length::microns(25), Length::microns(50), Length::microns(75)]),
    ],
    fitted: false,
    promised: false,
    condemns: false,
    hot: None,
}];
