//! What machining would do for a row of bearings, beside other shells: grind the crank to an undersize, polish a
//! tight journal to size, resize a housing, or grind until clean and bore poured or one-off bearings to fit. Each
//! plan turns into the lines of a work order ([`crate::assess`]).
//!
//! * **grind**: [`crate::maths`], with what cleans a journal up:
//!   `out-of-round + taper + runout + 2 x depth of damage`.
//! * **polish**: `removal = aim - clearance`, at most the shop's limit; a polish is no grind.
//! * **resize**: the whole set of housings to the maker's size, as soon as one of them is outside its tolerance: crush comes
//!   before clearance, and shells are chosen after.
//! * **bore to fit**: the largest size that cleans every journal; each bearing is bored to
//!   `journal + aim`.
use serde::{Deserialize, Serialize};
use thiserror::Error;

use super::clean_up::{Allowed, KnownDamage};
use super::polish_log::{LearnedPolish, learned, polish_log};
use crate::assess::Assessment;
use crate::build::Build;
use crate::engine::{BearingRow, Place};
use crate::evidence::mean_housing;
use crate::figure::FigureAssessment;
use crate::log::{CleanUp, Job, OrderItem, Work, WorkEvent};
use crate::maths::{
    Estimate, Grind, GrindObstacle, GroundBearing, Side, State, Target, Task, grind_options, smallest_feasible,
};
use crate::shells::ShellFamily;
use crate::units::Length;

/// What is asked.
#[derive(Debug, Clone)]
pub struct MachiningWish {
    /// The row.
    pub row: BearingRow,
    /// What the other shop holds to either side.
    pub tolerance: Length,
    /// Runout to be ground out of every journal, as a dial shows it; as each was turned when absent.
    pub runout: Option<Length>,
    /// Depth of damage, by journal; as it was seen for those that are not named.
    pub damage: Vec<(Place, Length)>,
    /// Bearings that are put right another way: their journals are ground with the rest, their clearances do not
    /// count.
    pub without: Vec<Place>,
    /// Minutes of one grit on one journal as the shop booked them; the rules' figure where too few were booked.
    pub booked_per_grit: Option<u16>,
}

/// One bearing of the row as the plans see it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Machined {
    /// The bearing.
    pub station: Place,
    /// Where its journal is.
    pub journal_at: Place,
    /// The journal's effective size.
    pub journal: Length,
    /// Its smallest place.
    pub smallest: Length,
    /// What must come off to clean it up.
    pub clean_up: Length,
    /// What of that its runout takes.
    pub runout: Allowed,
    /// How deep its damage goes on one side; twice that comes off.
    pub damage: Allowed,
    /// The bearing's inside diameter over standard shells; absent where it is not known well enough.
    pub over_std: Option<Length>,
    /// Whether that was measured over shells; else it is the housing less catalogue walls.
    pub over_shells: bool,
}

/// What a ground size does to one bearing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GroundAt {
    /// The bearing.
    pub station: Place,
    /// Its clearance at the size.
    pub clearance: Length,
    /// With the journal at the grinder's upper limit.
    pub low: Length,
    /// At the lower limit.
    pub high: Length,
    /// Whether all of that is inside the window.
    pub inside: bool,
}

/// Why an undersize does not do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum GrindAgainst {
    /// The journals do not clean up at the size that the clearance wants.
    DoesNotCleanUp,
    /// One size does not serve every bearing at that tolerance.
    OneSizeDoesNotServe,
}

impl From<GrindObstacle> for GrindAgainst {
    fn from(against: GrindObstacle) -> Self {
        match against {
            GrindObstacle::DoesNotCleanUp => GrindAgainst::DoesNotCleanUp,
            GrindObstacle::OneSizeDoesNotServe => GrindAgainst::OneSizeDoesNotServe,
        }
    }
}

/// Grinding to one undersize.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GrindPlan {
    /// The undersize of the shells.
    pub undersize: Length,
    /// The size of every journal.
    pub size: Length,
    /// What is against it.
    pub against: Option<GrindAgainst>,
    /// Whether it is the smallest that does.
    pub chosen: bool,
    /// Bearing by bearing.
    pub bearings: Vec<GroundAt>,
    /// How long measuring again takes.
    pub estimate: Estimate,
}

/// Grind until clean, and bore each bearing to its journal.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BorePlan {
    /// The largest size that cleans every journal.
    pub size: Length,
    /// The journal that decides it.
    pub decided_by: Place,
    /// What each bearing is bored to.
    pub bores: Vec<BoredTo>,
    /// How long measuring again takes.
    pub estimate: Estimate,
}

/// A bearing bored to fit.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BoredTo {
    /// The bearing.
    pub station: Place,
    /// To this size.
    pub to: Length,
}

/// A journal polished to size.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ToSize {
    /// The journal it is about.
    pub station: Place,
    /// Its size now.
    pub from: Length,
    /// The size that puts the clearance on its aim.
    pub to: Length,
    /// Grits that take that off, as the shop's own polishes went; absent while none was measured before and after.
    pub passes: Option<u16>,
    /// Whether that can be done: a polish takes little.
    pub possible: bool,
    /// Grits that it goes through, coarse to fine; a paste follows. A grit is left once the lines of the one before are gone.
    pub ladder: Vec<u16>,
    /// How long it takes here, wiping, looking and measuring included.
    pub minutes: u16,
}

/// Every plan for a row.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Machining {
    /// The window and the aim that hold for every bearing of the row.
    pub target: Target,
    /// What the grinder holds to either side.
    pub tolerance: Length,
    /// The bearings whose journals are measured.
    pub bearings: Vec<Machined>,
    /// Bearings that are left out until they are measured.
    pub open: Vec<Place>,
    /// By how much the bearings over standard shells differ: one size of journal passes all of that on.
    pub spread: Length,
    /// What the window leaves for that, the grinder's tolerance taken off both ends.
    pub room: Length,
    /// Undersize by undersize, where a bearing over shells is known.
    pub grinds: Vec<GrindPlan>,
    /// Grind until clean and bore to fit; absent while no journal is measured.
    pub bore: Option<BorePlan>,
    /// Tight journals polished to size.
    pub polish: Vec<ToSize>,
    /// Most that a polish takes off a diameter: where it is reached, the journal goes to the grinder.
    pub polish_limit: Length,
    /// Minutes of one grit on one journal that the polish is estimated with.
    pub per_grit: u16,
    /// Whether those were learned from what was booked.
    pub per_grit_booked: bool,
    /// Housings of the set that are to be brought to the maker's size; none while all are in its tolerance.
    pub resize: Vec<Resized>,
}

/// A housing brought to the maker's size.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Resized {
    /// The bearing.
    pub station: Place,
    /// Its size now: the mean of its places.
    pub from: Length,
    /// The maker's size.
    pub to: Length,
    /// By how much it is beyond its tolerance, below it negative; zero for one that goes along with the set.
    pub beyond: Length,
    /// Whether the cap is cut first: a bore that is too large can only be made smaller that way.
    pub cut_cap: bool,
    /// The clearance then, with the shells that are in; absent where it is not judged.
    pub clearance: Option<Length>,
    /// How much farther each half stands out of its seat then: a seat that is smaller by `d` is shorter by `pi d / 2` around
    /// half of it, and the shell keeps its length.
    pub crush: Length,
}

/// Why there is no plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum NoPlan {
    /// No journal of the row is measured.
    #[error("no journal of this row is measured yet: a grinder needs sizes")]
    NothingMeasured,
    /// The row has no target.
    #[error("this row has no target yet")]
    NoTarget,
    /// The bearings' own targets exclude each other.
    #[error("the bearings of this row have targets of their own that no single size meets")]
    TargetsApart,
    /// A journal of the row is not measured.
    #[error("the journal of {0} is not measured: a crank is ground as a whole, so measure it first")]
    NotWhole(Place),
    /// A choice that the plan does not hold.
    #[error("there is no such plan for this row")]
    NoSuchPlan,
}

/// The window that lies in every bearing's own one, with the row's aim moved inside it.
fn common_target(row: &[&FigureAssessment]) -> Result<Target, NoPlan> {
    let windows: Vec<Target> = row.iter().filter_map(|s| s.target.as_ref()).map(|t| t.window).collect();
    let low = windows.iter().map(|w| w.low).max().ok_or(NoPlan::NoTarget)?;
    let high = windows.iter().map(|w| w.high).min().ok_or(NoPlan::NoTarget)?;
    if low > high {
        return Err(NoPlan::TargetsApart);
    }
    let aims: Vec<Length> = windows.iter().map(|w| w.aim).collect();
    let aim = Length::median(&aims).unwrap_or(low).clamp(low, high);
    Ok(Target { low, aim, high })
}

fn machined(
    build: &Build,
    shift: &impl Fn(Place) -> Length,
    (wish, known): (&MachiningWish, &KnownDamage<'_>),
    s: &FigureAssessment,
) -> Option<Machined> {
    let journal = s.journal().size.as_ref().filter(|_| s.journal().complete)?;
    let (damage, runout) = (known.damage(&wish.damage, s.journal_at), known.runout(wish.runout, s.journal_at));
    let undersize = s.class.and_then(|c| c.undersize).unwrap_or_default();
    let measured = s.judged.as_ref().map(|j| journal.effective + j.clearance - shift(s.station) + undersize);
    let by_book = || {
        let nominals = build.layout.nominals(wish.row)?;
        let (housing, _) = mean_housing(s.housing())?;
        Some(nominals.over_standard(housing))
    };
    Some(Machined {
        station: s.station,
        journal_at: s.journal_at,
        journal: journal.effective,
        smallest: journal.smallest,
        clean_up: journal.out_of_round + journal.taper + runout.by + damage.by + damage.by,
        runout,
        damage,
        over_shells: measured.is_some(),
        over_std: measured.or_else(by_book).filter(|_| !wish.without.contains(&s.station)),
    })
}

/// Every plan for a row, from what is measured. `family` says what the halves that are in do to the clearance, and
/// which undersizes there are.
///
/// # Errors
/// [`NoPlan`] when there is nothing to plan with.
pub fn machining_plans(
    build: &Build,
    assessed: &Assessment,
    family: Option<&ShellFamily>,
    wish: &MachiningWish,
) -> Result<Machining, NoPlan> {
    let row: Vec<&FigureAssessment> = assessed.bearings_of(wish.row).collect();
    let target = common_target(&row)?;
    let pairs = family.map(|f| crate::build::fitted_in(build, f)).unwrap_or_default();
    let shift = |station: Place| {
        let pair = pairs.iter().find(|(s, _)| *s == station).map(|(_, p)| p);
        family.zip(pair).and_then(|(f, p)| f.pair_shift(&p.upper, &p.lower)).unwrap_or_default()
    };
    let known = KnownDamage::of(build, assessed);
    let of_row = row.iter().filter_map(|s| machined(build, &shift, (wish, &known), s));
    let mut bearings: Vec<Machined> = of_row.collect();
    // Catalogue walls leave more open than a window is wide: they serve only where nothing better is known.
    if bearings.iter().any(|b| b.over_shells) {
        bearings.iter_mut().filter(|b| !b.over_shells).for_each(|b| b.over_std = None);
    }
    let undersizes = match (family, build.layout.nominals(wish.row)) {
        (Some(f), _) => f.undersizes.clone(),
        (None, Some(n)) => n.undersizes.clone(),
        (None, None) => Vec::new(),
    };
    let times = assessed.rules.times();
    let bore = bore(target, wish.tolerance, &bearings, |n| Estimate::of(&times, &[(Task::ReadingSet, n)]));
    let resize = resize(build, &row, wish.row);
    // A housing that is off has a plan before any journal is measured.
    if bore.is_none() && resize.is_empty() {
        return Err(NoPlan::NothingMeasured);
    }
    let per_grit = wish.booked_per_grit.unwrap_or(times.polish_step);
    Ok(Machining {
        target,
        tolerance: wish.tolerance,
        spread: Length::span(bearings.iter().filter_map(|b| b.over_std)),
        room: target.high - target.low - wish.tolerance - wish.tolerance,
        open: row.iter().map(|s| s.station).filter(|s| bearings.iter().all(|b| b.station != *s)).collect(),
        grinds: grinds(target, wish.tolerance, &bearings, &undersizes, |n| {
            Estimate::of(&times, &[(Task::ReadingSet, n)])
        }),
        bore,
        polish: polish(assessed, &row, (per_grit, &known), learned(&polish_log(build))),
        polish_limit: assessed.rules.polish_limit(),
        per_grit,
        per_grit_booked: wish.booked_per_grit.is_some(),
        resize,
        bearings,
    })
}

fn grinds(
    target: Target,
    tolerance: Length,
    bearings: &[Machined],
    undersizes: &[Length],
    estimate: impl Fn(usize) -> Estimate,
) -> Vec<GrindPlan> {
    let known: Vec<(&Machined, GroundBearing)> = bearings
        .iter()
        .filter_map(|b| Some((b, GroundBearing { over_std: b.over_std?, smallest: b.smallest, clean_up: b.clean_up })))
        .collect();
    if known.is_empty() {
        return Vec::new();
    }
    let plain: Vec<GroundBearing> = known.iter().map(|(_, b)| *b).collect();
    let all = grind_options(target, tolerance, &plain, undersizes);
    let best = smallest_feasible(&all).map(|g| g.undersize);
    let mut journals: Vec<Place> = known.iter().map(|(b, _)| b.journal_at).collect();
    journals.dedup();
    let plan = |g: Grind| GrindPlan {
        chosen: best == Some(g.undersize),
        undersize: g.undersize,
        size: g.size,
        against: g.against.map(Into::into),
        bearings: known
            .iter()
            .zip(&g.bearings)
            .map(|((b, _), p)| GroundAt {
                station: b.station,
                clearance: p.clearance,
                low: p.low,
                high: p.high,
                inside: p.inside,
            })
            .collect(),
        estimate: estimate(journals.len() + known.len()),
    };
    all.into_iter().map(plan).collect()
}

fn bore(
    target: Target,
    tolerance: Length,
    bearings: &[Machined],
    estimate: impl Fn(usize) -> Estimate,
) -> Option<BorePlan> {
    let clean = |b: &&Machined| b.smallest - b.clean_up;
    let decided = bearings.iter().min_by_key(clean)?;
    let size = clean(&decided) - tolerance;
    let bores: Vec<BoredTo> = bearings.iter().map(|b| BoredTo { station: b.station, to: size + target.aim }).collect();
    Some(BorePlan { size, decided_by: decided.journal_at, estimate: estimate(2 * bores.len()), bores })
}

/// Bearings that are not proven inside: how far they are from their aim, and the limit they are near.
fn off<'a>(row: &[&'a FigureAssessment]) -> Vec<(&'a FigureAssessment, Length, Side)> {
    let off = |s: &&'a FigureAssessment| {
        let (judged, target) = (s.judged.as_ref()?, s.target.as_ref()?);
        let outside = judged.state != State::In;
        outside.then(|| (*s, target.window.aim - judged.clearance, judged.nearest))
    };
    row.iter().filter_map(off).collect()
}

fn polish(
    assessed: &Assessment,
    row: &[&FigureAssessment],
    (per_grit, known): (u16, &KnownDamage<'_>),
    learned: Option<LearnedPolish>,
) -> Vec<ToSize> {
    let mut all: Vec<ToSize> = Vec::new();
    for (s, wanted, _) in off(row).into_iter().filter(|(.., side)| *side == Side::Low) {
        let Some(from) = s.journal().size.as_ref().map(|j| j.effective) else { continue };
        if wanted <= Length::ZERO {
            continue;
        }
        // Rods side by side run on one pin: what comes off it comes off for both.
        let shared = assessed.bearings().filter(|o| o.journal_at == s.journal_at).count() > 1;
        let ladder = known.ladder(s.journal_at);
        // The paste after the grits takes as long as one of them.
        let steps = u16::try_from(ladder.len().saturating_add(1)).unwrap_or(u16::MAX);
        let minutes = per_grit.saturating_mul(steps);
        let plan = ToSize {
            ladder: ladder.to_vec(),
            station: s.journal_at,
            from,
            to: from - wanted,
            passes: learned.map(|l| l.passes(wanted)),
            possible: wanted <= assessed.rules.polish_limit() && !shared,
            minutes,
        };
        if all.iter().all(|p| p.station != plan.station) {
            all.push(plan);
        }
    }
    all
}

/// The whole set to the maker's size, as soon as one housing of it is outside its tolerance.
fn resize(build: &Build, row: &[&FigureAssessment], which: BearingRow) -> Vec<Resized> {
    let Some(n) = build.layout.nominals(which) else { return Vec::new() };
    let plan = |s: &&FigureAssessment| {
        let (from, size) = mean_housing(s.housing())?;
        let (small, large) = (n.housing - n.housing_tolerance, n.housing + n.housing_tolerance);
        let beyond = (size.smallest - small).min(Length::ZERO) + (size.largest - large).max(Length::ZERO);
        let (station, to) = (s.station, n.housing);
        let clearance = s.judged.as_ref().map(|j| j.clearance + to - from);
        let crush = Length::from_f64((from - to).as_f64() * std::f64::consts::FRAC_PI_2).unwrap_or_default();
        Some(Resized { station, from, to, beyond, cut_cap: from > to, clearance, crush })
    };
    let all: Vec<Resized> = row.iter().filter_map(plan).collect();
    let one_is_off = all.iter().any(|r| r.beyond != Length::ZERO);
    all.into_iter().filter(|r| one_is_off && r.from != r.to).collect()
}

/// Booked minutes of polishing that are asked for before they say more than the rules' figure.
const BOOKED_ENOUGH: usize = 3;

/// Minutes of one grit on one journal, from what was booked on polishes: the middle one. Wiping, looking and measuring are
/// in it, as they were booked. `journals` says on how many journals each was done.
pub fn booked_per_grit<'a>(booked: impl Iterator<Item = (&'a WorkEvent, usize)>) -> Option<u16> {
    let each = |(event, journals): (&WorkEvent, usize)| {
        let steps = event.grits.len().checked_mul(journals).filter(|steps| *steps > 0)?;
        let minutes = usize::from(event.minutes.filter(|_| event.work == Work::JournalPolished)?);
        Some(minutes.div_ceil(steps))
    };
    let mut all: Vec<usize> = booked.filter_map(each).collect();
    all.sort_unstable();
    let middle = *all.get(all.len() / 2)?;
    (all.len() >= BOOKED_ENOUGH).then(|| u16::try_from(middle).unwrap_or(u16::MAX).max(1))
}

/// Which plan goes on the order.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ChosenPlan {
    /// Grind every journal of the row for an undersize.
    Grind {
        /// The undersize.
        undersize: Length,
    },
    /// Grind until clean and bore the bearings to fit.
    BoreToFit,
    /// Polish these journals.
    Polish {
        /// The journals.
        stations: Vec<Place>,
    },
    /// Bring these housings to size.
    Resize {
        /// The bearings.
        stations: Vec<Place>,
    },
}

/// What a plan allows for beside the shape of the journals that are ground by it: kept with its order.
pub fn clean_ups(plan: &Machining, choice: &ChosenPlan) -> Vec<CleanUp> {
    let ground = matches!(choice, ChosenPlan::Grind { .. } | ChosenPlan::BoreToFit);
    let mut all: Vec<CleanUp> = Vec::new();
    for b in plan.bearings.iter().filter(|_| ground) {
        let known = CleanUp { journal: b.journal_at, runout: b.runout.by, damage: b.damage.by };
        let says = known.runout > Length::ZERO || known.damage > Length::ZERO;
        if says && all.iter().all(|c| c.journal != known.journal) {
            all.push(known);
        }
    }
    all
}

/// The lines of a work order for a plan.
///
/// # Errors
/// [`NoPlan::NoSuchPlan`] when the plan does not hold what was chosen; [`NoPlan::NotWhole`] when a journal that would
/// be ground is not measured.
pub fn order_items(plan: &Machining, choice: &ChosenPlan, unit: crate::units::Unit) -> Result<Vec<OrderItem>, NoPlan> {
    if let (ChosenPlan::Grind { .. } | ChosenPlan::BoreToFit, Some(open)) = (choice, plan.open.first()) {
        return Err(NoPlan::NotWhole(*open));
    }
    let tolerance = plan.tolerance;
    let item =
        |station, job, from, to, why| OrderItem { station, job, from, to, plus: tolerance, minus: tolerance, why };
    let journals = |to: Length, why: &dyn Fn(&Machined) -> String| {
        let mut items: Vec<OrderItem> = Vec::new();
        for b in &plan.bearings {
            if items.iter().all(|i| i.station != b.journal_at) {
                // Of a shared pin the largest track says how far it is to go.
                let on_it = plan.bearings.iter().filter(|o| o.journal_at == b.journal_at);
                let from = on_it.map(|o| o.journal).max();
                items.push(item(b.journal_at, Job::Grind, from, to, why(b)));
            }
        }
        items
    };
    let items = match choice {
        ChosenPlan::Grind { undersize } => {
            let grind = plan.grinds.iter().find(|g| g.undersize == *undersize).ok_or(NoPlan::NoSuchPlan)?;
            journals(grind.size, &|b| {
                let at = grind.bearings.iter().find(|g| g.station == b.station);
                let clearance = at.map_or_else(String::new, |g| format!(", clearance {} then", g.clearance.show(unit)));
                format!("{} under{clearance}", undersize.show(unit))
            })
        }
        ChosenPlan::BoreToFit => {
            let bore = plan.bore.as_ref().ok_or(NoPlan::NoSuchPlan)?;
            let clean = format!("until clean; {} decides", bore.decided_by);
            let mut items = journals(bore.size, &|_| clean.clone());
            let aim = plan.target.aim.show(unit);
            items.extend(bore.bores.iter().map(|b| {
                item(
                    b.station,
                    Job::BoreBearing,
                    None,
                    b.to,
                    format!("journal as ground plus {aim}: bore after grinding"),
                )
            }));
            items
        }
        ChosenPlan::Polish { stations } => to_size(&plan.polish, stations, |p| {
            item(p.station, Job::Polish, Some(p.from), p.to, format!("tight by {}", (p.from - p.to).show(unit)))
        }),
        ChosenPlan::Resize { stations } => {
            let why = |r: &Resized| {
                let cut = if r.cut_cap { "cut the cap, then hone" } else { "hone" };
                format!("{cut} to the maker's size with the whole set: crush first, shells after")
            };
            let chosen = plan.resize.iter().filter(|r| stations.contains(&r.station));
            chosen.map(|r| item(r.station, Job::ResizeHousing, Some(r.from), r.to, why(r))).collect()
        }
    };
    if items.is_empty() { Err(NoPlan::NoSuchPlan) } else { Ok(items) }
}

fn to_size(all: &[ToSize], stations: &[Place], item: impl Fn(&ToSize) -> OrderItem) -> Vec<OrderItem> {
    all.iter().filter(|p| p.possible && stations.contains(&p.station)).map(item).collect()
}
