//! Which shells would bring a row of bearings nearest its targets: from what was measured with the shells
//! that are in, to a proposal with its proof.
//!
//! A clearance measured with known halves is brought back to standard ones,
//! `clearance_std = clearance - (shift(upper) + shift(lower)) / 2`; a coating changes every pair by its allowance
//! (half of it for each half that is coated).
//!
//! A pair that stays is as well known as it was measured. One that is changed is *predicted*: each half that
//! goes out and each that comes in lies anywhere within its grading,
//! `U = 2 sqrt((U_measured / 2)^2 + 2 n grading^2 / 3)` for `n` halves changed.
use jagged_pin_search::by_class::{
    Alternative, Bearing, Objective, Odd, Pick, Problem, SelectError, Selection, next_best, select,
};
use jagged_pin_search::{Quality, USUAL_EFFORT};
use serde::Serialize;
use thiserror::Error;

use super::hot::{HotGrowth, hot_growth_at};
use super::pick::{Freed, PickLine, pick_list};
use super::proposed::{ProposedPair, ToBuy};
use super::remedies::{Remedies, remedies};
use crate::assess::Assessment;
use crate::build::{Build, last_fitting, shells_in};
use crate::engine::{BearingRow, Place};
use crate::figure::FigureAssessment;
use crate::log::{Fact, FittedPair, Fitting, Reckoning, What};
use crate::maths::{Acceptance, Estimate, Target, Task, Window, half_width, verdict};
use crate::shells::{ClassPair, Half, OnShelf, ShellClass, ShellFamily, class_by};
use crate::units::Length;

/// What is in the bearings of a row besides halves of the family that is asked for, as [`ProposalWish::foreign`] wants it.
/// Where nothing was fitted yet, the halves are taken for those of the first of the shop's `families` that goes round
/// these journals. Shells of a tray are known by their walls: against two standard ones in the middle of their
/// tolerance they add what they are thinner.
pub fn foreign_in(build: &Build, asked: &ShellFamily, families: &[ShellFamily]) -> Vec<(Place, ClassPair, Length)> {
    let notes = build.notes();
    let nominal = build.layout.journal(asked.row);
    let usual = families.iter().find(|f| f.row == asked.row && f.journal == nominal);
    let said = shells_in(&notes, asked.row);
    let of = |station: Place| {
        let (owner, upper, lower) = match last_fitting(&notes, station) {
            Some((Fitting { family: None, .. }, pair)) => {
                let named = ClassPair { upper: pair.upper.clone(), lower: pair.lower.clone() };
                return Some((station, named, thinner(&notes, asked, pair)));
            }
            Some((Fitting { family: Some(id), .. }, pair)) => {
                (families.iter().find(|f| f.id == *id)?, pair.upper.clone(), pair.lower.clone())
            }
            None => {
                let owner = usual?;
                let known = said.iter().find(|(s, ..)| *s == station).map(|(_, u, l)| (u.clone(), l.clone()));
                let standard = owner.standard().map(|c| c.id.clone()).unwrap_or_default();
                let (upper, lower) = known.unwrap_or_else(|| (standard.clone(), standard));
                (owner, upper, lower)
            }
        };
        let shift = owner.pair_shift(&upper, &lower).unwrap_or_default();
        let named = |class: String| format!("{} {class}", owner.id);
        (owner.id != asked.id).then(|| (station, ClassPair { upper: named(upper), lower: named(lower) }, shift))
    };
    build.layout.bearings(asked.row).filter_map(of).collect()
}

/// What two shells of a tray add to the clearance of two standard ones; nothing where their walls are not known.
fn thinner(notes: &[&Fact], family: &ShellFamily, pair: &FittedPair) -> Length {
    let wall = |mark: &str| {
        let trays = notes.iter().rev().filter_map(|f| match &f.what {
            What::Tray(tray) if tray.row == family.row => Some(tray),
            _ => None,
        });
        trays.flat_map(|t| &t.shells).find(|s| s.mark == mark).map(|s| s.wall)
    };
    let standard = family.wall + family.wall - family.wall_tolerance;
    wall(&pair.upper).zip(wall(&pair.lower)).map_or(Length::ZERO, |(upper, lower)| standard - upper - lower)
}

/// What is asked for.
#[derive(Debug, Clone)]
pub struct ProposalWish {
    /// The bearings.
    pub row: BearingRow,
    /// The undersize of the shells; zero for standard.
    pub undersize: Length,
    /// What is best.
    pub objective: Objective,
    /// Largest difference between the shifts of a pair; zero refuses to mix.
    pub max_step: Length,
    /// Where the odd half of a mixed pair belongs, if all else is equal.
    pub odd: Option<Odd>,
    /// Halves in now, by station; standard ones where nothing is said.
    pub fitted: Vec<(Place, ClassPair)>,
    /// Bearings whose halves are of another family, with what those add to the clearance of a standard pair: all of
    /// them change, and what comes out is no stock of this family.
    pub foreign: Vec<(Place, ClassPair, Length)>,
    /// Stations that keep what they have.
    pub kept: Vec<Place>,
    /// Classes that are not to be used.
    pub without: Vec<String>,
    /// What a coating on both halves changes of the clearance, such as -0.0005 in; zero for none.
    pub coating: Length,
    /// Whether sets may be bought.
    pub buy: bool,
    /// By how much every window and aim is moved, to see what another target would do; zero to leave them.
    pub moved: Length,
}

/// Halves to fetch for the pairs that change.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ToFetch {
    /// Which half.
    pub half: Half,
    /// Which class.
    pub class: String,
    /// How many.
    pub count: usize,
}

/// What comes next after the best.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NextBest {
    /// Bearings outside.
    pub outside: usize,
    /// The largest distance from the aim.
    pub worst: Length,
    /// All distances added.
    pub total: Length,
    /// What it costs, in ten-thousandths.
    pub cost: i64,
    /// What differs from the best.
    pub differs: Vec<PairAt>,
}

/// The pair of a bearing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PairAt {
    /// The bearing.
    pub station: Place,
    /// Its halves.
    pub pair: ClassPair,
}

/// A proposal with its proof.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Proposal {
    /// Each bearing of the row that is judged.
    pub places: Vec<ProposedPair>,
    /// Bearings of the row that are left out because nothing is proven of them yet.
    pub open: Vec<Place>,
    /// Bearings that would be outside their windows.
    pub outside: usize,
    /// The largest distance from the aim.
    pub worst: Length,
    /// All distances added.
    pub total: Length,
    /// What it costs, in ten-thousandths.
    pub cost: i64,
    /// Pairs of two classes.
    pub mixed: usize,
    /// What is fetched, from the shelf or out of what is bought.
    pub fetch: Vec<ToFetch>,
    /// What is bought.
    pub buy: Vec<ToBuy>,
    /// Half by half in bench order, with where it comes from.
    pub picks: Vec<PickLine>,
    /// What comes out of the engine and is fitted nowhere else.
    pub freed: Vec<Freed>,
    /// Whether nothing better exists.
    pub proven: bool,
    /// How much the worst distance might still shrink.
    pub gap: Length,
    /// The ways it was chosen from.
    pub ways: f64,
    /// The bearing that keeps the worst distance from shrinking.
    pub binding: Option<Place>,
    /// What comes next.
    pub next_best: Vec<NextBest>,
    /// How the housings open when hot, where they do.
    pub growth: Option<HotGrowth>,
    /// What would help, where a bearing stays outside.
    pub remedies: Option<Remedies>,
    /// How long fitting takes.
    pub estimate: Estimate,
}

/// Why nothing is proposed.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum NoProposal {
    /// No bearing of the row is judged.
    #[error("nothing is judged in this row yet: measure a bearing with the shells that are in")]
    NothingMeasured,
    /// A class or a station that the family or the row does not have.
    #[error("there is no {0} here")]
    Unknown(String),
    /// The journals do not belong to the family in that undersize.
    #[error("{station}'s journal does not belong to these shells: {why}. Stop before shells are ordered")]
    WrongFamily {
        /// The journal it is about.
        station: Place,
        /// What it measures as.
        why: String,
    },
    /// Too few halves.
    #[error(transparent)]
    Select(#[from] SelectError),
}

/// What is in a bearing now.
enum Now {
    /// Halves of the family, by their classes.
    Classes((usize, usize)),
    /// Halves of another family.
    Foreign { pair: ClassPair, shift: Length },
}

impl Now {
    const fn classes(&self) -> Option<(usize, usize)> {
        match self {
            Now::Classes(pair) => Some(*pair),
            Now::Foreign { .. } => None,
        }
    }

    fn shift(&self, family: &ShellFamily) -> Length {
        match self {
            Now::Classes(classes) => shift(family, *classes),
            Now::Foreign { shift, .. } => *shift,
        }
    }

    fn pair(&self, family: &ShellFamily) -> ClassPair {
        match self {
            Now::Classes(classes) => class_pair(family, *classes),
            Now::Foreign { pair, .. } => pair.clone(),
        }
    }

    /// The halves that another pair takes out, then those it brings in: two of one class as a group of two.
    fn steps(&self, pick: &Pick) -> [usize; 4] {
        let group = |a: Option<usize>, b: Option<usize>| match (a, b) {
            (Some(a), Some(b)) if a == b => [2, 0],
            (a, b) => [usize::from(a.is_some()), usize::from(b.is_some())],
        };
        let (out, into) = match self {
            Now::Classes((upper, lower)) => {
                let (u, l) = (*upper != pick.upper, *lower != pick.lower);
                (
                    group(u.then_some(*upper), l.then_some(*lower)),
                    group(u.then_some(pick.upper), l.then_some(pick.lower)),
                )
            }
            // What classes another family's halves are of says nothing of their box.
            Now::Foreign { .. } => ([1, 1], group(Some(pick.upper), Some(pick.lower))),
        };
        [out[0], out[1], into[0], into[1]]
    }

    /// How many halves another pair changes.
    fn changed(&self, pick: &Pick) -> usize {
        match self {
            Now::Classes((upper, lower)) => usize::from(*upper != pick.upper) + usize::from(*lower != pick.lower),
            Now::Foreign { .. } => 2,
        }
    }
}

/// A bearing that takes part.
struct Seat<'a> {
    station: &'a FigureAssessment,
    target: Target,
    now: Now,
    clearance: Length,
    expanded: Length,
    growth: Option<HotGrowth>,
}

/// The best shells for a row, as measured, with its proof.
///
/// # Errors
/// [`NoProposal`] when nothing is measured, the family is the wrong one, or there are not enough halves.
pub fn propose(
    build: &Build,
    assessed: &Assessment,
    family: &ShellFamily,
    shelf: &[OnShelf],
    wish: &ProposalWish,
) -> Result<Proposal, NoProposal> {
    let row: Vec<&FigureAssessment> = assessed.bearings_of(wish.row).collect();
    belongs(&row, family, wish.undersize)?;
    let mut seats = Vec::new();
    for station in &row {
        if let (Some(judged), Some(in_force)) = (&station.judged, &station.target) {
            let now = match wish.foreign.iter().find(|(s, ..)| *s == station.station) {
                Some((_, pair, shift)) => Now::Foreign { pair: pair.clone(), shift: *shift },
                None => {
                    let classes = fitted(family, wish, station.station)?;
                    let other = undersize_in(build, station).filter(|there| *there != wish.undersize);
                    match other {
                        // Walls of another undersize leave more room, or less, by what journals are ground between them.
                        Some(there) => Now::Foreign {
                            pair: class_pair(family, classes),
                            shift: shift(family, classes) + wish.undersize - there,
                        },
                        None => Now::Classes(classes),
                    }
                }
            };
            let (clearance, expanded) = (judged.clearance, judged.expanded);
            let growth = hot_growth_at(build, station.station, Some(in_force));
            let target = moved(in_force.window, wish.moved);
            seats.push(Seat { station, target, now, clearance, expanded, growth });
        }
    }
    if seats.is_empty() {
        return Err(NoProposal::NothingMeasured);
    }
    let problem = problem(family, shelf, wish, &seats)?;
    let selection = select(&problem, USUAL_EFFORT)?;
    let others = next_best(&problem, USUAL_EFFORT);
    let open = row.iter().filter(|s| s.judged.is_none()).map(|s| s.station).collect();
    let proposal = proposal(assessed, family, wish, &seats, &selection, others, open);
    let outside = proposal.places.iter().filter(|p| !(p.target.low..=p.target.high).contains(&p.clearance));
    let wants = outside.map(|p| (p.station, p.target.aim - p.clearance));
    let remedies = (proposal.outside > 0).then(|| remedies(build, assessed, family, wants));
    let (picks, freed) = pick_list(family, shelf, wish.undersize, &proposal.places, &proposal.buy);
    Ok(Proposal { remedies, picks, freed, ..proposal })
}

/// A window and its aim, moved as a whole.
fn moved(target: Target, by: Length) -> Target {
    Target { low: target.low + by, aim: target.aim + by, high: target.high + by }
}

/// Every journal that is measured must belong to the undersize.
fn belongs(row: &[&FigureAssessment], family: &ShellFamily, undersize: Length) -> Result<(), NoProposal> {
    for s in row {
        let Some(journal) = s.journal().size.as_ref().filter(|_| s.journal().complete) else { continue };
        let class = class_by(family, journal.effective);
        if class.map(|c| c.undersize) != Some(undersize) {
            let why = match class.map(|c| c.undersize) {
                Some(Length::ZERO) => "it is standard".to_owned(),
                Some(u) => format!("it is {} under", u.show(family.unit)),
                None => format!("at {} it is of no undersize of theirs", journal.effective.show(family.unit)),
            };
            return Err(NoProposal::WrongFamily { station: s.journal_at, why });
        }
    }
    Ok(())
}

/// The undersize of the shells that a bore was measured over, by what they leave of their housing; `None` where it is not
/// known, or lies between two of them.
fn undersize_in(build: &Build, s: &FigureAssessment) -> Option<Length> {
    let nominals = build.layout.nominals(s.row)?;
    let bore = s.bore_in_use().size.as_ref().filter(|_| s.bore_in_use().complete)?;
    let thicker = nominals.over_standard(nominals.housing) - bore.effective;
    let steps = nominals.undersizes.windows(2).map(|pair| pair[1] - pair[0]);
    let half_a_step = Length::from_nm(steps.min()?.nm() / 2);
    nominals.undersizes.iter().copied().find(|u| (thicker - *u).abs() < half_a_step)
}

fn fitted(family: &ShellFamily, wish: &ProposalWish, station: Place) -> Result<(usize, usize), NoProposal> {
    let class = |id: &str| family.class(id).ok_or_else(|| NoProposal::Unknown(format!("class {id}")));
    let standard = || family.standard().map(|c| c.id.clone()).unwrap_or_default();
    match wish.fitted.iter().find(|(s, _)| *s == station) {
        Some((_, pair)) => Ok((class(&pair.upper)?, class(&pair.lower)?)),
        None => Ok((class(&standard())?, class(&standard())?)),
    }
}

fn shift(family: &ShellFamily, pair: (usize, usize)) -> Length {
    Length::mean(&[family.classes[pair.0].shift, family.classes[pair.1].shift]).unwrap_or_default()
}

fn problem(
    family: &ShellFamily,
    shelf: &[OnShelf],
    wish: &ProposalWish,
    seats: &[Seat<'_>],
) -> Result<Problem, NoProposal> {
    for id in &wish.without {
        family.class(id).ok_or_else(|| NoProposal::Unknown(format!("class {id}")))?;
    }
    let place = |s: &Seat<'_>| {
        let kept = wish.kept.contains(&s.station.station);
        let clearance_std = s.clearance - s.now.shift(family) + wish.coating;
        Bearing { clearance_std: clearance_std.nm(), target: s.target.into(), locked: s.now.classes().filter(|_| kept) }
    };
    // What is in the engine can be put back: it counts as if it lay on the shelf.
    let mut stock = family.counted(shelf, wish.undersize);
    seats.iter().filter_map(|s| s.now.classes()).for_each(|pair| stock.add_pair(pair));
    for id in &wish.without {
        if let Some(class) = family.class(id) {
            let kept = seats.iter().filter(|s| wish.kept.contains(&s.station.station));
            stock.leave_only(class, kept.filter_map(|s| s.now.classes()));
        }
    }
    let sets = family.sets(wish.undersize).into_iter();
    let sets = sets.filter(|(o, _)| wish.buy && !wish.without.contains(&o.class)).map(|(_, set)| set).collect();
    Ok(Problem {
        places: seats.iter().map(place).collect(),
        shifts: family.classes.iter().map(|c| c.shift.nm()).collect(),
        max_step: wish.max_step.nm(),
        stock,
        sets,
        objective: wish.objective,
        odd: wish.odd,
    })
}

fn class_pair(family: &ShellFamily, pick: (usize, usize)) -> ClassPair {
    ClassPair { upper: family.classes[pick.0].id.clone(), lower: family.classes[pick.1].id.clone() }
}

fn proposal(
    assessed: &Assessment,
    family: &ShellFamily,
    wish: &ProposalWish,
    seats: &[Seat<'_>],
    selection: &Selection,
    others: Vec<Alternative>,
    open: Vec<Place>,
) -> Proposal {
    let second = assessed.rules.reckoning >= Reckoning::Second;
    let regress = RowMean::of(family, seats).filter(|_| second);
    let place = |at: (&Seat<'_>, &Pick)| proposed(assessed.rules.acceptance, family, wish, at, regress);
    let offers: Vec<_> = family
        .sets(wish.undersize)
        .into_iter()
        .filter(|(o, _)| wish.buy && !wish.without.contains(&o.class))
        .map(|(o, _)| o)
        .collect();
    let to_buy = offers.iter().zip(&selection.bought).filter(|(_, n)| **n > 0);
    let Quality { outside, worst, total } = selection.quality;
    let next = |a: Alternative| NextBest {
        outside: a.quality.outside,
        worst: Length::from_nm(a.quality.worst),
        total: Length::from_nm(a.quality.total),
        cost: a.cost,
        differs: a
            .differs
            .iter()
            .map(|i| PairAt {
                station: seats[*i].station.station,
                pair: class_pair(family, (a.picks[*i].upper, a.picks[*i].lower)),
            })
            .collect(),
    };
    let places: Vec<ProposedPair> = seats.iter().zip(&selection.picks).filter_map(place).collect();
    Proposal {
        fetch: to_fetch(family, &places),
        growth: seats.iter().find_map(|s| s.growth),
        remedies: None,
        picks: Vec::new(),
        freed: Vec::new(),
        estimate: Estimate::of(&assessed.rules.times(), &[(Task::Swap, places.iter().filter(|p| p.changes).count())]),
        places,
        open,
        outside,
        worst: Length::from_nm(worst),
        total: Length::from_nm(total),
        cost: selection.cost,
        mixed: selection.mixed,
        buy: to_buy
            .map(|(o, n)| ToBuy {
                part_number: o.part_number.clone(),
                sets: *n,
                price: o.price.saturating_mul(i64::from(*n)),
            })
            .collect(),
        proven: selection.proven,
        gap: Length::from_nm(selection.gap),
        ways: selection.ways as f64,
        binding: selection.binding.map(|i| seats[i].station.station),
        next_best: others.into_iter().map(next).collect(),
    }
}

/// A half that stays in its place is not fetched.
fn to_fetch(family: &ShellFamily, places: &[ProposedPair]) -> Vec<ToFetch> {
    let wanted = |half: Half, class: &str| {
        let upper = |p: &&ProposedPair| p.pair.upper == class && p.now.upper != class;
        let lower = |p: &&ProposedPair| p.pair.lower == class && p.now.lower != class;
        match half {
            Half::Upper => places.iter().filter(upper).count(),
            Half::Lower => places.iter().filter(lower).count(),
            Half::Either => places.iter().filter(upper).count() + places.iter().filter(lower).count(),
        }
    };
    let of_class = |c: &ShellClass| {
        let fetch = |half: &Half| ToFetch { half: *half, class: c.id.clone(), count: wanted(*half, &c.id) };
        family.halves().iter().map(fetch).filter(|f| f.count > 0).collect::<Vec<_>>()
    };
    family.classes.iter().flat_map(of_class).collect()
}

/// A row's clearances with standard shells: what they have in common, and how much they differ by themselves.
#[derive(Debug, Clone, Copy)]
struct RowMean {
    mean: f64,
    /// Variance of what is measured.
    variance: f64,
}

impl RowMean {
    fn of(family: &ShellFamily, seats: &[Seat<'_>]) -> Option<Self> {
        let standard: Vec<f64> = seats.iter().map(|s| (s.clearance - s.now.shift(family)).as_f64()).collect();
        let n = standard.len() as f64;
        let mean = standard.iter().sum::<f64>() / n;
        let variance = standard.iter().map(|c| (c - mean).powi(2)).sum::<f64>() / (n - 1.0);
        (standard.len() > 2).then_some(RowMean { mean, variance })
    }

    /// The doubt that comes of choosing a bearing by its own measured figure: what was measured far from the others is in
    /// part measured wrong, by `(c - mean) u^2 / variance`; that far it may lie back, and anywhere between.
    fn doubt(self, clearance: Length, expanded: Length) -> f64 {
        let u = expanded.as_f64() / 2.0;
        let share = (u * u / self.variance.max(f64::MIN_POSITIVE)).min(1.0);
        (clearance.as_f64() - self.mean).abs() * share / 3.0_f64.sqrt()
    }
}

fn proposed(
    acceptance: Acceptance,
    family: &ShellFamily,
    wish: &ProposalWish,
    (seat, pick): (&Seat<'_>, &Pick),
    regress: Option<RowMean>,
) -> Option<ProposedPair> {
    let judged = seat.station.judged.as_ref()?;
    let target = seat.target;
    let changed = seat.now.changed(pick);
    let changes = changed > 0 || wish.coating != Length::ZERO;
    let expanded = match (changes, regress) {
        (false, _) => seat.expanded,
        (true, None) => predicted(seat.expanded, family.grading, changed),
        (true, Some(mean)) => {
            let chosen = mean.doubt(seat.clearance - seat.now.shift(family), seat.expanded);
            predicted_of_batch(seat.expanded, family.grading, seat.now.steps(pick), chosen)
        }
    };
    let clearance = if changes { Length::from_nm(pick.clearance) } else { seat.clearance };
    let window = Window::between(target.low, target.high)?;
    let v = verdict(clearance, clearance, expanded, window, acceptance);
    Some(ProposedPair {
        station: seat.station.station,
        measured: seat.clearance,
        measured_expanded: seat.expanded,
        was: judged.state,
        was_nearest: judged.nearest,
        target,
        now: seat.now.pair(family),
        pair: class_pair(family, (pick.upper, pick.lower)),
        changes,
        clearance,
        expanded,
        state: v.state,
        nearest: v.nearest,
        hot: seat.growth.map(|g| g.of(clearance)),
        measured_hot: seat.growth.map(|g| g.of(seat.clearance)),
    })
}

/// The same by the second reckoning: halves of one class come out of one box and err together, so that two of them count
/// double and not as two; `steps` are the halves that go out and come in, in groups of one class.
fn predicted_of_batch(measured: Length, grading: Length, steps: [usize; 4], chosen: f64) -> Length {
    let half = half_width(grading.as_f64());
    let walls = steps.iter().map(|n| (*n as f64 * half).powi(2)).sum::<f64>();
    let standard = (measured.as_f64() / 2.0).hypot(walls.sqrt()).hypot(chosen);
    Length::from_f64(2.0 * standard).unwrap_or(Length::LIMIT)
}

/// How sure a predicted clearance is.
fn predicted(measured: Length, grading: Length, changed: usize) -> Length {
    let half = half_width(grading.as_f64());
    let walls = 2.0 * changed as f64 * half * half;
    let standard = (measured.as_f64() / 2.0).hypot(walls.sqrt());
    Length::from_f64(2.0 * standard).unwrap_or(Length::LIMIT)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_changed_half_adds_its_grading_twice() {
        // 1 270 nm of standard uncertainty and twice 1 270 / sqrt 3: 2 sqrt(1270^2 + 2 x 733.2^2).
        let measured = Length::tenths(1);
        assert_eq!(predicted(measured, Length::from_nm(1_270), 1).nm(), 3_279);
        assert_eq!(predicted(measured, Length::from_nm(1_270), 0), measured);
    }

    #[test]
    fn halves_of_one_box_err_together() {
        let (measured, grading) = (Length::tenths(1), Length::from_nm(1_270));
        let of = |steps| predicted_of_batch(measured, grading, steps, 0.0);
        assert_eq!(of([1, 0, 1, 0]), predicted(measured, grading, 1));
        // Two of a kind out and two of another in: four times what one does, not twice.
        assert!(of([2, 0, 2, 0]) > predicted(measured, grading, 2));
        assert_eq!(of([1, 1, 1, 1]), predicted(measured, grading, 2));
    }

    #[test]
    fn what_lies_far_from_its_row_is_less_sure_where_the_row_hardly_differs() {
        let far = |variance: f64| RowMean { mean: 0.0, variance }.doubt(Length::tenths(2), Length::tenths(2));
        // The whole of two tenths is noise in a row that differs by no more than the gauges do.
        assert!((far(2_540.0_f64.powi(2)) - 5_080.0 / 3.0_f64.sqrt()).abs() < 1e-6);
        assert!(far(25_400.0_f64.powi(2)) < 60.0);
    }
}
