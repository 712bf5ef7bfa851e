//! Plain bearings: journals, housings, shells, and the oil clearance between them.
//!
//! | characteristic | positions by default | counts |
//! |---|---|---|
//! | main journal, pin | front and rear of the oil hole by 0 and 90 degrees, never across the hole | all |
//! | main or rod housing, cap torqued, no shells | front and rear by vertical, +60, -60 | all |
//! | main or rod bearing, shells in, cap torqued | front and rear of the groove, vertical | +45 and -45 inform |
//! | shell wall | at the crown | 30 degrees off informs |
//! | crushed strip | front and rear, vertical | all |
//!
//! Builds that are opened now touch a rod's bore at front, middle and rear, since it has no groove, and the walls along the
//! shell: both lands of a grooved upper, front, middle and rear of a plain half.
//!
//! An engine may have plans of its own ([`crate::engine::Layout::plans`]), and a build may change them
//! ([`crate::log::PlanChange`]).

use super::super::characteristic::{
    Axial, CharacteristicRow, CutIn, Expects, GaugeUse, PartKind, Planned, Reach, Read, Role, Tag, UsualPlan, counts,
    informs,
};
use super::super::figure::{
    Asked, Believable, Doubt, FigureRow, Group, Input, Judges, Limits, MethodRow, Preset, PresetLimits, Statistic,
    Term, Transfer, Wanting,
};
use super::super::place::PlaceKind;
use crate::maths::Extreme;

/// Front and rear of the oil hole by 0 and 90 degrees, never across the hole.
const JOURNAL: [Planned; 4] =
    [counts(Axial::Front, 0), counts(Axial::Front, 90), counts(Axial::Rear, 0), counts(Axial::Rear, 90)];

/// Front and rear by the vertical and 60 degrees to both sides of it, clear of the parting line.
const HOUSING: [Planned; 6] = [
    counts(Axial::Front, 0),
    counts(Axial::Front, 60),
    counts(Axial::Front, -60),
    counts(Axial::Rear, 0),
    counts(Axial::Rear, 60),
    counts(Axial::Rear, -60),
];

/// Front and rear of the groove, vertical; two advisory touches toward the parting line.
const BEARING: [Planned; 4] =
    [counts(Axial::Front, 0), counts(Axial::Rear, 0), informs(Axial::Front, 45), informs(Axial::Front, -45)];

/// At the crown; 30 degrees off it shows the eccentric wall.
const WALL: [Planned; 2] = [counts(Axial::Middle, 0), informs(Axial::Middle, 30)];

/// A strip lies along the journal: its ends tell front from rear.
const STRIP: [Planned; 2] = [counts(Axial::Front, 0), counts(Axial::Rear, 0)];

/// A bore without a groove: front, middle and rear, vertical; the advisory touches in the middle.
const PLAIN_BORE: [Planned; 5] = [
    counts(Axial::Front, 0),
    counts(Axial::Middle, 0),
    counts(Axial::Rear, 0),
    informs(Axial::Middle, 45),
    informs(Axial::Middle, -45),
];

/// The crown of a grooved half on both lands: over the groove the anvil would fall in.
const GROOVED_WALL: [Planned; 2] = [counts(Axial::Front, 0), counts(Axial::Rear, 0)];

/// The crown of a plain half; front against rear is the shell's own taper.
const PLAIN_WALL: [Planned; 3] = [counts(Axial::Front, 0), counts(Axial::Middle, 0), counts(Axial::Rear, 0)];

const fn usual(of: &'static str, at: PlaceKind, positions: &'static [Planned]) -> UsualPlan {
    UsualPlan { of, at, positions }
}

/// Rods have no groove, and of the mains only the uppers.
pub(super) const PLANS: &[UsualPlan] = &[
    usual("rod_bearing", PlaceKind::Rod, &PLAIN_BORE),
    usual("upper_wall", PlaceKind::Main, &GROOVED_WALL),
    usual("lower_wall", PlaceKind::Main, &PLAIN_WALL),
    usual("upper_wall", PlaceKind::Rod, &PLAIN_WALL),
    usual("lower_wall", PlaceKind::Rod, &PLAIN_WALL),
];

const MAIN: &[PlaceKind] = &[PlaceKind::Main];
const PIN: &[PlaceKind] = &[PlaceKind::Pin];
const ROD: &[PlaceKind] = &[PlaceKind::Rod];
const BOTH: &[PlaceKind] = &[PlaceKind::Main, PlaceKind::Rod];

const fn journal(id: &'static str, at: &'static [PlaceKind]) -> CharacteristicRow {
    CharacteristicRow {
        id,
        at,
        role: Role::JOURNAL,
        part: PartKind::Crank,
        counts: Extreme::Largest,
        gauge: GaugeUse::Outside,
        reads: &[Read::Size],
        reads_apart: false,
        positions: &JOURNAL,
        ended_by: &[(Tag::Journal, Reach::Here)],
        torqued: false,
        relieved: false,
        signed: false,
        checked_gauge: true,
        places_within: None,
        expects: Expects::UsualJournal,
        cut_in: CutIn::Steel,
    }
}

const fn housing(id: &'static str, at: &'static [PlaceKind], part: PartKind, cut_in: CutIn) -> CharacteristicRow {
    CharacteristicRow {
        id,
        at,
        role: Role::HOUSING,
        part,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Inside,
        reads: &[Read::Size, Read::Dial],
        reads_apart: false,
        positions: &HOUSING,
        ended_by: &[(Tag::Cap, Reach::Here)],
        torqued: true,
        relieved: false,
        signed: false,
        checked_gauge: true,
        places_within: None,
        expects: Expects::Housing,
        cut_in,
    }
}

const fn bore(id: &'static str, at: &'static [PlaceKind], part: PartKind, cut_in: CutIn) -> CharacteristicRow {
    CharacteristicRow {
        id,
        at,
        role: Role::BORE,
        part,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Inside,
        reads: &[Read::Size, Read::Dial],
        reads_apart: true,
        positions: &BEARING,
        ended_by: &[
            (Tag::Cap, Reach::Here),
            (Tag::Shells, Reach::Here),
            (Tag::ShellsNamed, Reach::Here),
            (Tag::Pairing, Reach::Here),
        ],
        torqued: true,
        relieved: true,
        signed: false,
        checked_gauge: true,
        places_within: None,
        expects: Expects::JournalAndAim,
        cut_in,
    }
}

const fn wall(id: &'static str, role: Role) -> CharacteristicRow {
    CharacteristicRow {
        id,
        at: BOTH,
        role,
        part: PartKind::Shells,
        counts: Extreme::Largest,
        gauge: GaugeUse::Wall,
        reads: &[Read::Size],
        reads_apart: false,
        positions: &WALL,
        ended_by: &[(Tag::Shells, Reach::Here)],
        torqued: false,
        relieved: false,
        signed: false,
        checked_gauge: true,
        places_within: None,
        expects: Expects::Wall,
        cut_in: CutIn::Steel,
    }
}

/// What is measured at a bearing, in the order of the work.
pub(super) const CHARACTERISTICS: &[CharacteristicRow] = &[
    journal("main_journal", MAIN),
    journal("pin_journal", PIN),
    housing("main_housing", MAIN, PartKind::Block, CutIn::Block),
    housing("rod_housing", ROD, PartKind::Rod, CutIn::Rod),
    wall("upper_wall", Role::UPPER_WALL),
    wall("lower_wall", Role::LOWER_WALL),
    bore("main_bearing", MAIN, PartKind::Block, CutIn::Block),
    bore("rod_bearing", ROD, PartKind::Rod, CutIn::Rod),
    CharacteristicRow {
        id: "strip",
        at: BOTH,
        role: Role::STRIP,
        part: PartKind::Shells,
        counts: Extreme::Smallest,
        gauge: GaugeUse::Gap,
        reads: &[Read::Size],
        reads_apart: false,
        positions: &STRIP,
        // A strip crushed on a reworked journal says nothing about the new one.
        ended_by: &[
            (Tag::Cap, Reach::Here),
            (Tag::Shells, Reach::Here),
            (Tag::ShellsNamed, Reach::Here),
            (Tag::Pairing, Reach::Here),
            (Tag::Journal, Reach::OnJournal),
        ],
        // A cross-check: nothing rests on its set-up by itself.
        torqued: false,
        relieved: false,
        signed: false,
        checked_gauge: false,
        places_within: None,
        expects: Expects::Aim,
        cut_in: CutIn::Steel,
    },
];

/// The mic carries the journal across; its scale cancels and only its feel is left.
const CARRIED: Term = Term {
    factor: -1,
    role: Role::JOURNAL,
    read: Read::Size,
    statistic: Statistic::Effective,
    doubt: Doubt::Feel,
    by_catalogue: false,
    finer_gauge: true,
    ends: false,
};

/// The journal as a size of its own.
const JOURNAL_SIZE: Term = Term { doubt: Doubt::InFull, ..CARRIED };

const fn wall_term(role: Role) -> Term {
    Term {
        factor: -1,
        role,
        read: Read::Size,
        statistic: Statistic::Effective,
        doubt: Doubt::InFull,
        by_catalogue: true,
        finer_gauge: false,
        ends: false,
    }
}

const fn running(role: Role, read: Read, asked: Asked) -> Input {
    Input { role, read, group: Group::Running, asked, along_row: false }
}

const fn part(role: Role, asked: Asked, along_row: bool) -> Input {
    Input { role, read: Read::Size, group: Group::Parts, asked, along_row }
}

/// What is judged at a bearing.
pub(super) const FIGURES: &[FigureRow] = &[OIL_CLEARANCE, TRACK_STEP, UPPER_TAPER, LOWER_TAPER];

const fn per_inch(at: PlaceKind, name: &'static str, low: u32, high: u32) -> Preset {
    Preset { at, name, limits: PresetLimits::PerShaft { low, aim: None, high } }
}

/// The oil clearance of a bearing, on diameter.
///
/// * **direct** (transfer): the bore gauge is zeroed in the mic that was on the journal; its dial shows the rest.
/// * **subtract**: bore less journal, two sizes apart.
/// * **components**: housing (the mean of its places, since crush and walls fill the whole of it) less both walls less
///   journal. Walls that were not measured come from the catalogue: a band, judged by its middle.
/// * **strip**: what it reads; a cross-check unless the rules let it judge.
const OIL_CLEARANCE: FigureRow = FigureRow {
    id: "oil_clearance",
    at: BOTH,
    inputs: &[
        running(Role::JOURNAL, Read::Size, Asked::First),
        part(Role::HOUSING, Asked::OnceBegun, true),
        part(Role::UPPER_WALL, Asked::OnceBegun, false),
        part(Role::LOWER_WALL, Asked::OnceBegun, false),
        running(Role::BORE, Read::Dial, Asked::ByDefault),
        running(Role::BORE, Read::Size, Asked::ByDefault),
        part(Role::STRIP, Asked::Never, false),
    ],
    methods: &[
        MethodRow {
            id: "direct",
            terms: &[
                CARRIED,
                Term {
                    factor: 1,
                    role: Role::BORE,
                    read: Read::Dial,
                    statistic: Statistic::Effective,
                    doubt: Doubt::Zeroed,
                    by_catalogue: false,
                    finer_gauge: true,
                    ends: true,
                },
            ],
            judges: Judges::Always,
            replaces: &[],
            transfer: None,
            warm_at: Some(Role::BORE),
            unclamped: None,
            at_each_end: None,
            place_by_place: true,
            freed_of_size: false,
        },
        MethodRow {
            id: "subtract",
            terms: &[
                JOURNAL_SIZE,
                Term {
                    factor: 1,
                    role: Role::BORE,
                    read: Read::Size,
                    statistic: Statistic::Effective,
                    doubt: Doubt::InFull,
                    by_catalogue: false,
                    finer_gauge: true,
                    ends: true,
                },
            ],
            judges: Judges::Always,
            replaces: &[],
            transfer: Some(Transfer { to: "direct", roles: &[] }),
            warm_at: Some(Role::BORE),
            unclamped: None,
            at_each_end: None,
            place_by_place: true,
            freed_of_size: false,
        },
        MethodRow {
            id: "components",
            terms: &[
                Term { finer_gauge: false, ..JOURNAL_SIZE },
                Term {
                    factor: 1,
                    role: Role::HOUSING,
                    read: Read::Size,
                    statistic: Statistic::EndByEnd,
                    doubt: Doubt::InFull,
                    by_catalogue: false,
                    finer_gauge: false,
                    ends: false,
                },
                wall_term(Role::UPPER_WALL),
                wall_term(Role::LOWER_WALL),
            ],
            judges: Judges::MeasuredOrPreferred,
            replaces: &[Role::BORE],
            transfer: Some(Transfer { to: "direct", roles: &[(Role::HOUSING, Role::BORE)] }),
            warm_at: Some(Role::HOUSING),
            unclamped: None,
            at_each_end: None,
            place_by_place: true,
            freed_of_size: false,
        },
        MethodRow {
            id: "strip",
            terms: &[Term {
                factor: 1,
                role: Role::STRIP,
                read: Read::Size,
                statistic: Statistic::Effective,
                doubt: Doubt::PrintedStep,
                by_catalogue: false,
                finer_gauge: false,
                ends: true,
            }],
            judges: Judges::WhenRulesLetIt,
            replaces: &[],
            transfer: None,
            warm_at: None,
            unclamped: None,
            at_each_end: None,
            place_by_place: false,
            freed_of_size: false,
        },
    ],
    wanted: Wanting::Always,
    believable: Believable::PartOfJournal(50),
    limits: Limits::Both,
    presets: &[
        per_inch(PlaceKind::Main, "street", 850, 1_050),
        per_inch(PlaceKind::Main, "endurance", 950, 1_150),
        per_inch(PlaceKind::Main, "sprint, high output", 1_000, 1_250),
        per_inch(PlaceKind::Rod, "street", 900, 1_100),
        per_inch(PlaceKind::Rod, "endurance", 1_000, 1_200),
        per_inch(PlaceKind::Rod, "sprint, high output", 1_050, 1_300),
    ],
    fitted: true,
    promised: true,
    condemns: false,
    hot: None,
};

/// A track of a shared pin against another one: one mic on both, so that its scale cancels.
const fn track(factor: i8, statistic: Statistic) -> Term {
    Term { factor, statistic, doubt: Doubt::Compared, ..CARRIED }
}

/// The step between the tracks of a shared pin: a ridge that one rod wears, or a grinder leaves.
const TRACK_STEP: FigureRow = FigureRow {
    id: "track_step",
    at: PIN,
    inputs: &[running(Role::JOURNAL, Read::Size, Asked::First)],
    methods: &[MethodRow {
        id: "tracks",
        terms: &[track(1, Statistic::LargestTrack), track(-1, Statistic::SmallestTrack)],
        judges: Judges::Always,
        replaces: &[],
        transfer: None,
        warm_at: None,
        unclamped: None,
        at_each_end: None,
        place_by_place: false,
        freed_of_size: false,
    }],
    wanted: Wanting::WithTarget,
    believable: Believable::PartOfJournal(200),
    limits: Limits::Maximum,
    presets: &[],
    fitted: false,
    promised: false,
    condemns: false,
    hot: None,
};

/// A wall at one place against its wall at another: one ball mic on both, so that its scale cancels.
const fn place(role: Role, factor: i8, statistic: Statistic) -> Term {
    Term { factor, role, statistic, doubt: Doubt::Compared, ..CARRIED }
}

const UPPER_TERMS: [Term; 2] =
    [place(Role::UPPER_WALL, 1, Statistic::LargestPlace), place(Role::UPPER_WALL, -1, Statistic::SmallestPlace)];
const LOWER_TERMS: [Term; 2] =
    [place(Role::LOWER_WALL, 1, Statistic::LargestPlace), place(Role::LOWER_WALL, -1, Statistic::SmallestPlace)];

const fn along_the_shell(terms: &'static [Term]) -> MethodRow {
    MethodRow {
        id: "along",
        terms,
        judges: Judges::Always,
        replaces: &[],
        transfer: None,
        warm_at: None,
        unclamped: None,
        at_each_end: None,
        place_by_place: false,
        freed_of_size: false,
    }
}

/// How much a shell's wall at its crown differs along it: the shell's own taper, the last suspect where a bearing tapers more
/// than its housing and its journal do.
const fn shell_taper(id: &'static str, inputs: &'static [Input], methods: &'static [MethodRow]) -> FigureRow {
    FigureRow {
        id,
        at: BOTH,
        inputs,
        methods,
        wanted: Wanting::WithTarget,
        believable: Believable::PartOfJournal(200),
        limits: Limits::Maximum,
        presets: &[],
        fitted: false,
        promised: false,
        condemns: false,
        hot: None,
    }
}

const UPPER_TAPER: FigureRow =
    shell_taper("upper_taper", &[part(Role::UPPER_WALL, Asked::First, false)], &[along_the_shell(&UPPER_TERMS)]);
const LOWER_TAPER: FigureRow =
    shell_taper("lower_taper", &[part(Role::LOWER_WALL, Asked::First, false)], &[along_the_shell(&LOWER_TERMS)]);
