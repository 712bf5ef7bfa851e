//! What wear patterns suggest: hypotheses over the whole engine, each with the checks that would confirm
//! or kill it. Never a verdict: a pattern has several causes, and a measurement decides.
//!
//! | pattern | hypothesis | confirm by |
//! |---|---|---|
//! | edges next to the fillets on most rods | shells ride on the fillet | fillet clearance |
//! | one edge, alternating side station by station, or opposite edges of one rod | bent or twisted rod | rod alignment |
//! | mains heavy in the middle, or upper at one and lower at the next | crank bent, tunnel out of line, cap shifted | runout, straight edge, housing size |
//! | everything down to the underlayer | clearance too tight or wrong undersize | journal sizes against the stamp |
//! | thrust main worn on one edge | thrust load or end play | end play, release load |
//! | spots, scored journal | dirt, oil starvation | cleaning, oil path |
//! | seam wear | cap shifted, too little crush, lugging | dowels, housing size |
//! | journals under by a class | reground before: buy by measurement | all journals, stamp |
//! | nail catches, crack, heat | stop: to the grinder | crack test, then size |
//!
//! By the second reckoning every sign has a consequence, *most* is enough for a pattern, thrust faces are looked at, and a
//! check that was measured confirms or kills ([`super::tested`]):
//!
//! | pattern | hypothesis | confirm by |
//! |---|---|---|
//! | one bearing of a row alone | its cap, dirt, its shell | housing, bore front against rear, wall along the shell |
//! | thrust face worn on one side | constant load, or end play | end play, release load |
//! | chatter | a seat that frets, or fasteners | journal size, runout |
//! | ridge | one rod tight or dirty, or a grinder's step | each track's size |
//! | oil stain | oil stood, acid | polish with the finest grit, size |
//! | seal groove | the lip has cut in | its depth, a sleeve |
//! | one side of a half, or heat | load from one side; lugging, detonation | dowels, rod alignment, oil path |
//!
//! What pistons, walls, rings, rods, faces and lobes show stands in [`super::patterns`], what may be behind each suspicion in
//! [`super::causes`].
use serde::Serialize;

use super::causes::{NextCheck, WeighedCause, minutes, weigh};
use super::patterns::SIGN_PATTERNS;
use super::suspicion::Suspicion;
use super::tested::{CheckSays, Tested, measured_at, stands_or_falls, tested};
use crate::engine::{BearingRow, Characteristic, Layout, Place, Role};
use crate::evidence::{Checks, Inspections};
use crate::figure::FigureAssessment;
use crate::log::{Check, CheckFound, InspectedPart, Sign};

/// A hypothesis with the places that suggest it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Hypothesis {
    /// What it might be.
    pub suspicion: Suspicion,
    /// Where it shows.
    pub stations: Vec<Place>,
    /// What would confirm or kill it, in this order.
    pub confirm: Vec<Confirm>,
    /// What the measured checks say together: killed by one, or confirmed by one.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub says: Option<CheckSays>,
    /// What may be behind it, with what the checks left of each.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub causes: Vec<WeighedCause>,
    /// The check that tells most per minute, of those that are open.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub next: Option<NextCheck>,
}

/// A check, and where in the product its figures are taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Confirm {
    /// The check.
    pub by: Check,
    /// How long it takes, in minutes; by the first reckoning nobody said.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub minutes: Option<u16>,
    /// Where its figures are taken here; absent for a check done elsewhere.
    pub at: Option<Place>,
    /// The part that is measured there.
    pub part: Option<Role>,
    /// What was measured of it says.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub tested: Option<Tested>,
    /// What somebody who did it by eye or hand, or elsewhere, found.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub found: Option<CheckFound>,
}

impl Confirm {
    /// How it came out: `true` where what was feared is there. A gauge outranks an eye.
    fn outcome(&self) -> Option<bool> {
        let measured = match self.tested.map(|t| t.says) {
            Some(CheckSays::Confirms) => Some(true),
            Some(CheckSays::Kills) => Some(false),
            Some(CheckSays::LeavesOpen) | None => None,
        };
        measured.or_else(|| self.found.map(|found| found == CheckFound::Bad))
    }
}

/// Signs of heavy wear of a shell.
const HEAVY: [Sign; 5] = [Sign::Centre, Sign::Band, Sign::Wiped, Sign::Underlayer, Sign::HeatDiscoloured];

fn edges(inspections: &Inspections<'_>, station: Place, part: InspectedPart) -> (bool, bool) {
    let both = inspections.shows(station, part, &[Sign::BothEdges]);
    (
        both || inspections.shows(station, part, &[Sign::EdgeFront]),
        both || inspections.shows(station, part, &[Sign::EdgeRear]),
    )
}

fn edges_of_both(inspections: &Inspections<'_>, station: Place) -> (bool, bool) {
    let (upper, lower) =
        (edges(inspections, station, InspectedPart::Upper), edges(inspections, station, InspectedPart::Lower));
    (upper.0 || lower.0, upper.1 || lower.1)
}

/// Whether wear shows where the shell would meet a fillet: a rod alone on its pin has one on each side,
/// of several only the outer ones have one each.
fn at_the_fillet(inspections: &Inspections<'_>, layout: &Layout, rod: Place) -> bool {
    let (front, rear) = edges_of_both(inspections, rod);
    let per_pin = layout.rods.as_ref().map_or(1, |r| r.per_pin.max(1));
    let place = usize::from(rod.number()).saturating_sub(1) % usize::from(per_pin);
    match (place == 0, place + 1 == usize::from(per_pin)) {
        (true, true) => front && rear,
        (true, false) => front,
        (false, true) => rear,
        (false, false) => false,
    }
}

fn on_fillet(inspections: &Inspections<'_>, layout: &Layout) -> Vec<Place> {
    let looked: Vec<Place> = layout.bearings(BearingRow::Rods).filter(|r| inspections.looked_at(*r)).collect();
    let riding: Vec<Place> = looked.iter().copied().filter(|r| at_the_fillet(inspections, layout, *r)).collect();
    if riding.len() >= 2 && riding.len() * 2 > looked.len() { riding } else { Vec::new() }
}

fn bent_rods(inspections: &Inspections<'_>, layout: &Layout) -> Vec<Place> {
    let rods: Vec<Place> = layout.bearings(BearingRow::Rods).collect();
    let one_sided = |(front, rear): (bool, bool)| (front != rear).then_some(front);
    let crossed = |r: &Place| {
        let upper = one_sided(edges(inspections, *r, InspectedPart::Upper));
        let lower = one_sided(edges(inspections, *r, InspectedPart::Lower));
        upper.zip(lower).is_some_and(|(u, l)| u != l)
    };
    let mut bent: Vec<Place> = rods.iter().copied().filter(crossed).collect();
    for three in rods.windows(3) {
        let sides: Option<Vec<bool>> = three.iter().map(|r| one_sided(edges_of_both(inspections, *r))).collect();
        if let Some(sides) = sides
            && sides[0] != sides[1]
            && sides[1] != sides[2]
        {
            bent.extend(three);
        }
    }
    bent.sort();
    bent.dedup();
    bent
}

fn uneven_mains(inspections: &Inspections<'_>, layout: &Layout) -> Vec<Place> {
    let mains: Vec<Place> = layout.bearings(BearingRow::Mains).collect();
    let heavy = |s: &Place| inspections.shells(*s, &HEAVY);
    let only = |s: Place, part, other| inspections.shows(s, part, &HEAVY) && !inspections.shows(s, other, &HEAVY);
    let mut found: Vec<Place> = mains
        .windows(2)
        .filter(|two| {
            let (up, down) = (InspectedPart::Upper, InspectedPart::Lower);
            (only(two[0], up, down) && only(two[1], down, up)) || (only(two[0], down, up) && only(two[1], up, down))
        })
        .flatten()
        .copied()
        .collect();
    if let [first, middle @ .., last] = mains.as_slice()
        && !middle.is_empty()
        && inspections.looked_at(*first)
        && inspections.looked_at(*last)
        && !heavy(first)
        && !heavy(last)
    {
        found.extend(middle.iter().copied().filter(heavy));
    }
    found.sort();
    found.dedup();
    found
}

/// Bearings worn to the underlayer, where all of those that were looked at are, or by the second reckoning most.
fn worn_through(inspections: &Inspections<'_>, layout: &Layout, most: bool) -> Vec<Place> {
    let looked: Vec<Place> = layout.all_bearings().filter(|s| inspections.looked_at(*s)).collect();
    let through: Vec<Place> = looked.iter().copied().filter(|s| inspections.shells(*s, &[Sign::Underlayer])).collect();
    let enough = if most { through.len() * 2 > looked.len() } else { through.len() == looked.len() };
    if through.len() >= 2 && enough { through } else { Vec::new() }
}

/// Bearings that alone of their row, of three or more that were looked at, are worn heavily or at an edge.
fn alone(inspections: &Inspections<'_>, layout: &Layout) -> Vec<Place> {
    let worn = |s: &Place| {
        let (front, rear) = edges_of_both(inspections, *s);
        inspections.shells(*s, &HEAVY) || front || rear
    };
    let of_row = |row: BearingRow| {
        let looked: Vec<Place> = layout.bearings(row).filter(|s| inspections.looked_at(*s)).collect();
        let found: Vec<Place> = looked.iter().copied().filter(worn).collect();
        found.into_iter().next().filter(|_| looked.len() > 2 && looked.iter().filter(|s| worn(s)).count() == 1)
    };
    BearingRow::ALL.into_iter().filter_map(of_row).collect()
}

/// The thrust main, where its shells are worn at one edge.
fn thrust_edge(inspections: &Inspections<'_>, layout: &Layout) -> Vec<Place> {
    let (front, rear) = edges_of_both(inspections, layout.thrust);
    if front == rear { Vec::new() } else { vec![layout.thrust] }
}

/// The thrust, where one of its faces is worn.
fn thrust_faces(inspections: &Inspections<'_>) -> Vec<Place> {
    let worn = |part| inspections.shows(Place::THRUST, part, &Sign::THRUST[1..]);
    let shows = worn(InspectedPart::ThrustFront) || worn(InspectedPart::ThrustRear);
    if shows { vec![Place::THRUST] } else { Vec::new() }
}

/// A suspicion, where it shows, and its checks with the part each is measured on.
type Pattern = (Suspicion, Vec<Place>, Vec<(Check, Option<Role>)>);

/// The same with its checks as they stand in a table.
type Row = (Suspicion, Vec<Place>, &'static [(Check, Option<Role>)]);

/// What the looks are held against.
pub(crate) struct Known<'a> {
    pub inspections: &'a Inspections<'a>,
    pub checks: &'a Checks<'a>,
    pub layout: &'a Layout,
    pub figures: &'a [FigureAssessment],
    /// Whether no sign is without a hypothesis, and what was measured of its checks confirms or kills it.
    pub all_signs: bool,
}

/// Every hypothesis that the looks suggest; `reground` are journals found under by a whole class.
pub(crate) fn hypotheses(known: &Known<'_>, reground: &[Place]) -> Vec<Hypothesis> {
    let Known { inspections, layout, all_signs, .. } = *known;
    let mut patterns = first_patterns(inspections, layout, reground, all_signs);
    if all_signs {
        for (suspicion, places, checks) in
            further_patterns(inspections, layout).into_iter().chain(by_signs(inspections))
        {
            match patterns.iter_mut().find(|(same, found, _)| *same == suspicion && !found.is_empty()) {
                Some((_, found, by)) => {
                    found.extend(places.into_iter().filter(|p| !found.contains(p)).collect::<Vec<_>>());
                    let known = |check: &Check| by.iter().any(|(known, _)| known == check);
                    by.extend(checks.into_iter().filter(|(check, _)| !known(check)).collect::<Vec<_>>());
                }
                None => patterns.push((suspicion, places, checks)),
            }
        }
    }
    let found = patterns.into_iter().filter(|(_, stations, _)| !stations.is_empty());
    let mut all: Vec<Hypothesis> = found.map(|pattern| hypothesis(known, pattern)).collect();
    mark_the_first(&mut all);
    all
}

/// Marks the check that tells most per minute of all that are open.
fn mark_the_first(hypotheses: &mut [Hypothesis]) {
    let open = || hypotheses.iter().enumerate().filter_map(|(i, h)| Some((i, h.next?)));
    let first = open().reduce(|best, next| if next.1.beats(&best.1) { next } else { best }).map(|(i, _)| i);
    if let Some(next) = first.and_then(|i| hypotheses.get_mut(i)).and_then(|h| h.next.as_mut()) {
        next.first = true;
    }
}

/// What the signs of a part suggest by themselves.
fn by_signs(inspections: &Inspections<'_>) -> Vec<Pattern> {
    let shows = |seen: &[(InspectedPart, &[Sign])]| -> Vec<Place> {
        let mut places: Vec<Place> = Vec::new();
        for (place, _, look) in inspections.all() {
            let here =
                seen.iter().any(|(part, signs)| *part == look.part && look.signs.iter().any(|s| signs.contains(s)));
            if here && !places.contains(&place) {
                places.push(place);
            }
        }
        places.sort();
        places
    };
    let of_part = |check: &Check| (*check, None);
    SIGN_PATTERNS.iter().map(|p| (p.suspicion, shows(p.seen), p.checks.iter().map(of_part).collect())).collect()
}

fn hypothesis(known: &Known<'_>, (suspicion, stations, checks): Pattern) -> Hypothesis {
    let Known { layout, figures, all_signs, .. } = *known;
    let first = stations.first().copied();
    let place = |check: Check, part: Option<Role>| match part {
        Some(role) if role == Role::JOURNAL => first.map(|s| layout.journal_of(s)),
        Some(role) if role == Role::TRAVEL => Some(Place::THRUST),
        Some(_) => first.map(|s| layout.bearing_on(s)),
        None if all_signs => first.and_then(|s| measured_at(check, s, layout)),
        None => None,
    };
    let all: Vec<Confirm> = checks
        .iter()
        .map(|(by, part)| Confirm {
            by: *by,
            minutes: all_signs.then(|| minutes(*by)),
            at: place(*by, *part),
            part: *part,
            tested: tested(suspicion, *by, &stations, figures, layout).filter(|_| all_signs),
            found: known.checks.last(*by, &stations).map(|(_, done)| done.found),
        })
        .collect();
    let done: Vec<(Check, bool)> = all.iter().filter_map(|c| Some((c.by, c.outcome()?))).collect();
    let undecided = all.iter().filter(|c| c.outcome().is_none());
    let all_decided = undecided.clone().next().is_none();
    // What was measured and says nothing is not measured again for it.
    let open: Vec<Check> = undecided.filter(|c| c.tested.is_none()).map(|c| c.by).collect();
    let (causes, next) = if all_signs { weigh(suspicion, &done, &open) } else { (Vec::new(), None) };
    let killed = done.iter().any(|(_, bad)| !bad) && (stands_or_falls(suspicion) || all_decided);
    let says =
        if done.iter().any(|(_, bad)| *bad) { Some(CheckSays::Confirms) } else { killed.then_some(CheckSays::Kills) };
    Hypothesis { suspicion, stations, confirm: all, says, causes, next: next.filter(|_| says.is_none()) }
}

/// The patterns of both reckonings.
fn first_patterns(inspections: &Inspections<'_>, layout: &Layout, reground: &[Place], most: bool) -> Vec<Pattern> {
    use Check as By;
    let journals: Vec<Place> = layout.places().filter(|p| Characteristic::at(*p, Role::JOURNAL).is_some()).collect();
    let journals_with = |any: &[Sign]| -> Vec<Place> {
        journals.iter().copied().filter(|s| inspections.shows(*s, InspectedPart::Journal, any)).collect()
    };
    let bearings_with =
        |any: &[Sign]| -> Vec<Place> { layout.all_bearings().filter(|s| inspections.shells(*s, any)).collect() };
    let stops: Vec<Place> = journals
        .iter()
        .copied()
        .filter(|s| inspections.signs(*s, InspectedPart::Journal).iter().any(|s| s.is_stop()))
        .collect();
    let mut dirty = bearings_with(&[Sign::Spots]);
    dirty.extend(journals_with(&[Sign::Groove, Sign::Felt, Sign::CatchesNail]));
    // By the second reckoning it is told with the thrust faces.
    let thrust = if most { Vec::new() } else { thrust_edge(inspections, layout) };
    let patterns: [Row; 9] = [
        (Suspicion::StopJournal, stops, &[(By::CrackTest, None), (By::JournalSize, Some(Role::JOURNAL))]),
        (Suspicion::ShellsOnFillet, on_fillet(inspections, layout), &[(By::FilletClearance, None)]),
        (
            Suspicion::BentRod,
            bent_rods(inspections, layout),
            &[(By::RodAlignment, None), (By::BearingTaper, Some(Role::BORE))],
        ),
        (
            Suspicion::CrankOrTunnel,
            uneven_mains(inspections, layout),
            &[(By::Runout, None), (By::StraightEdge, None), (By::HousingSize, Some(Role::HOUSING))],
        ),
        (
            Suspicion::TightOrWrongUndersize,
            worn_through(inspections, layout, most),
            &[(By::JournalSize, Some(Role::JOURNAL)), (By::ShellStamp, None)],
        ),
        (Suspicion::ThrustLoad, thrust, &[(By::EndPlay, None), (By::ReleaseLoad, None)]),
        (Suspicion::DirtOrStarvation, dirty, &[(By::OilPath, None)]),
        (
            Suspicion::CapShiftedOrCrush,
            bearings_with(&[Sign::Seam]),
            &[(By::Dowels, None), (By::HousingSize, Some(Role::HOUSING))],
        ),
        (
            Suspicion::RegroundBefore,
            reground.to_vec(),
            &[(By::JournalSize, Some(Role::JOURNAL)), (By::ShellStamp, None)],
        ),
    ];
    patterns.into_iter().map(|(suspicion, places, checks)| (suspicion, places, checks.to_vec())).collect()
}

/// What no pattern of the first reckoning speaks of.
fn further_patterns(inspections: &Inspections<'_>, layout: &Layout) -> Vec<Pattern> {
    use Check as By;
    let journals_with = |any: &[Sign]| -> Vec<Place> {
        let with = |p: &Place| inspections.shows(*p, InspectedPart::Journal, any);
        layout.places().filter(with).collect()
    };
    let bearings_with =
        |any: &[Sign]| -> Vec<Place> { layout.all_bearings().filter(|s| inspections.shells(*s, any)).collect() };
    let patterns: [Row; 7] = [
        (
            Suspicion::OneBearing,
            alone(inspections, layout),
            &[
                (By::HousingSize, Some(Role::HOUSING)),
                (By::BearingTaper, Some(Role::BORE)),
                (By::WallTaper, Some(Role::LOWER_WALL)),
            ],
        ),
        (
            Suspicion::ThrustLoad,
            [thrust_faces(inspections), thrust_edge(inspections, layout)].concat(),
            &[(By::EndPlay, Some(Role::TRAVEL)), (By::ReleaseLoad, None)],
        ),
        (
            Suspicion::OneSidedLoad,
            bearings_with(&[Sign::OneSide]),
            &[(By::RodAlignment, None), (By::Dowels, None), (By::HousingSize, Some(Role::HOUSING))],
        ),
        (
            Suspicion::HotOrOverloaded,
            bearings_with(&[Sign::HeatDiscoloured, Sign::Wiped, Sign::Centre, Sign::Band]),
            &[(By::OilPath, None), (By::JournalSize, Some(Role::JOURNAL))],
        ),
        (
            Suspicion::FrettingSeat,
            journals_with(&[Sign::Chatter]),
            &[(By::JournalSize, Some(Role::JOURNAL)), (By::Runout, None), (By::Fasteners, None)],
        ),
        (Suspicion::RidgeBetweenTracks, journals_with(&[Sign::Ridge]), &[(By::JournalSize, Some(Role::JOURNAL))]),
        (
            Suspicion::OilStood,
            journals_with(&[Sign::OilStain]),
            &[(By::FinestPolish, None), (By::JournalSize, Some(Role::JOURNAL))],
        ),
    ];
    patterns.into_iter().map(|(suspicion, places, checks)| (suspicion, places, checks.to_vec())).collect()
}
