//! What the cylinders are honed to for the pistons that there are, and which piston belongs into which bore.
//!
//! * A finished bore is `piston + aim`. **One size for all serves iff** the pistons differ by no more than the window leaves
//!   beside what the honer holds and what the gauges leave open:
//!   `(largest - smallest piston) + 2 tolerance + 2 U <= high - low`.
//! * Pistons to bores that are finished: the assignment with the fewest outside, then the smallest worst and the smallest
//!   total distance from the aim, proven best ([`jagged_pin_search`]). Among those that are equally good, the one whose pistons
//!   and rods together weigh most alike: a heavier piston to a lighter rod.
use jagged_pin_search::assignment::assign_with;

use crate::build::Build;
use crate::engine::{Axial, Figure, PartKind, Place, PlaceKind, Position, Read, Role, Seat};
use crate::evidence::{Notes, SizeAssessment};
use crate::figure::FigureAssessment;
use crate::log::Note;
use crate::maths::Target;
use crate::units::Length;

const BORE: Role = Role::new("cylinder");
const BARE: Role = Role::new("cylinder_bare");
const PISTON: Role = Role::new("piston");

/// A cylinder with the piston that stands in it.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CylinderPlan {
    /// Which.
    pub at: Place,
    /// Its piston's size, where it was measured and may stay.
    pub piston: Option<Length>,
    /// Whether that piston is condemned: another one will stand there.
    pub condemned: bool,
    /// Its smallest and its largest place, where it was measured.
    pub bore: Option<[Length; 2]>,
    /// Whether that was without the torque plate: nothing to cut by.
    pub plate_off: bool,
    /// What its piston wants it to be.
    pub finished: Option<Length>,
    /// What is to come off at its smallest place and at its largest; negative where it is too large already.
    pub take: Option<[Length; 2]>,
    /// Whether it is larger than its piston's window allows anywhere: honing does not mend that.
    pub too_large: bool,
    /// Whether a honer is to take something: more than they hold to either side, off a bore that was measured as it is cut.
    pub hone: bool,
    /// What its piston has at each place.
    pub gaps: Vec<WallGap>,
    /// How far it is out of round at each depth.
    pub rounds: Vec<DepthRound>,
}

/// What a piston has at one place of its wall.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WallGap {
    /// At which depth: front is the top, rear the bottom.
    pub depth: Axial,
    /// In which direction: across the crank at 0, along it at 90 degrees.
    pub angle: i16,
    /// The clearance there.
    pub clearance: Length,
    /// Whether it is inside the window.
    pub inside: bool,
}

/// How far a bore is out of round at one depth.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DepthRound {
    /// At which depth.
    pub depth: Axial,
    /// The largest direction less the smallest.
    pub out_of_round: Length,
    /// Whether it is widest across the crank, where thrust wears it.
    pub wide_across: bool,
}

/// Whether one bore serves every piston.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OneSize {
    /// From the smallest piston to the largest.
    pub spread: Length,
    /// That, twice the tolerance and twice the uncertainty.
    pub needs: Length,
    /// What the window has.
    pub has: Length,
    /// The bore for all, where it serves.
    pub bore: Option<Length>,
}

/// A piston and the bore it belongs into.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PistonTo {
    /// The wrist pin's place where it is now.
    pub from: Place,
    /// The cylinder it belongs into.
    pub to: Place,
    /// At the tight place there.
    pub clearance: Length,
    /// At the wide place there.
    pub largest: Length,
    /// Whether that is inside the window.
    pub inside: bool,
    /// Whether it was said to stay with its rod.
    pub married: bool,
}

/// The pistons where they belong.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PistonAssignment {
    /// Every piston.
    pub pistons: Vec<PistonTo>,
    /// How many are outside, as they are and as they would be.
    pub outside: [usize; 2],
    /// Whether any of them moves.
    pub moves: bool,
    /// How far pistons and rods together differ in weight from the lightest cylinder to the heaviest, in milligrams, as they
    /// are and as they would be; absent where one of them was not weighed.
    pub weights: Option<[i64; 2]>,
}

/// What the cylinders are honed to.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BoresPlan {
    /// The window.
    pub target: Target,
    /// What the honer holds to either side.
    pub tolerance: Length,
    /// The largest uncertainty of a piston to its wall.
    pub expanded: Length,
    /// Whether one bore serves all; absent while less than two pistons are measured.
    pub one_size: Option<OneSize>,
    /// Every cylinder, from the front.
    pub cylinders: Vec<CylinderPlan>,
    /// The best assignment, where every bore and every piston is measured.
    pub assignment: Option<PistonAssignment>,
}

/// The plan of the cylinders; `None` without a target or without cylinders.
///
/// Pistons in `married` stay in their bores; a condemned one is reckoned with nowhere.
pub fn plan_bores(
    build: &Build,
    figures: &[FigureAssessment],
    tolerance: Length,
    married: &[Place],
) -> Option<BoresPlan> {
    let of_wall: Vec<&FigureAssessment> = figures.iter().filter(|f| f.figure == Figure::PISTON_TO_WALL).collect();
    let target = of_wall.iter().find_map(|f| f.target.as_ref())?.window;
    let cylinders: Vec<CylinderPlan> = of_wall.iter().map(|f| cylinder(f, target, tolerance)).collect();
    let expanded = of_wall.iter().filter_map(|f| f.judged.as_ref()).map(|j| j.expanded).max().unwrap_or_default();
    let pistons: Vec<Length> = cylinders.iter().filter_map(|c| c.piston).collect();
    Some(BoresPlan {
        target,
        tolerance,
        expanded,
        one_size: one_size(target, &pistons, tolerance, expanded),
        assignment: assignment(build, target, &cylinders, married),
        cylinders,
    })
}

fn cylinder(f: &FigureAssessment, target: Target, tolerance: Length) -> CylinderPlan {
    let size = |role| f.part(role, Read::Size);
    let ends = |role| size(role).size.as_ref().filter(|_| size(role).complete).map(|s| [s.smallest, s.largest]);
    let (plated, bare) = (ends(BORE), ends(BARE));
    let bore = plated.or(bare);
    // What was begun with the plate is shown, however far it is.
    let touched = if size(BORE).taken > 0 { BORE } else { BARE };
    // A condemned piston wants no bore: another one will stand there.
    let fit = !f.moot.iter().any(|seat| seat.kind == PartKind::Piston);
    let piston = size(PISTON).size.as_ref().filter(|_| size(PISTON).complete && fit).map(|s| s.effective);
    let own = f.target.as_ref().map_or(target, |t| t.window);
    let finished = piston.map(|p| p + own.aim);
    let plate_off = plated.is_none() && bare.is_some();
    let too_large = piston.zip(bore).is_some_and(|(p, [_, large])| large - p > own.high);
    let take = finished.zip(bore).map(|(wanted, [small, large])| [wanted - small, wanted - large]);
    CylinderPlan {
        at: f.station,
        piston,
        condemned: !fit,
        bore,
        plate_off,
        finished,
        take,
        too_large,
        hone: !plate_off && !too_large && take.is_some_and(|[tight, _]| tight > tolerance),
        gaps: piston.map(|p| gaps(size(touched), p, own)).unwrap_or_default(),
        rounds: rounds(size(touched)),
    }
}

fn gaps(bore: &SizeAssessment, piston: Length, target: Target) -> Vec<WallGap> {
    let places = bore.positions.iter().filter_map(|p| Some((p.position, p.value?)));
    let gap = |(position, value): (Position, Length)| {
        let clearance = value - piston;
        let inside = (target.low..=target.high).contains(&clearance);
        WallGap { depth: position.axial, angle: position.angle, clearance, inside }
    };
    places.map(gap).collect()
}

fn rounds(bore: &SizeAssessment) -> Vec<DepthRound> {
    let at = |depth: Axial| {
        let here = bore.positions.iter().filter(|p| p.position.axial == depth);
        let values: Vec<(i16, Length)> = here.filter_map(|p| Some((p.position.angle, p.value?))).collect();
        let (widest, large) = values.iter().copied().max_by_key(|(_, value)| *value)?;
        let small = values.iter().map(|(_, value)| *value).min()?;
        (values.len() > 1).then_some(DepthRound { depth, out_of_round: large - small, wide_across: widest == 0 })
    };
    [Axial::Front, Axial::Middle, Axial::Rear].into_iter().filter_map(at).collect()
}

fn one_size(target: Target, pistons: &[Length], tolerance: Length, expanded: Length) -> Option<OneSize> {
    let (small, large) = (pistons.iter().min()?, pistons.iter().max()?);
    let spread = *large - *small;
    let needs = spread + tolerance + tolerance + expanded + expanded;
    let has = target.high - target.low;
    let middle = Length::mean(&[*small, *large])?;
    let serves = needs <= has;
    (pistons.len() > 1).then_some(OneSize { spread, needs, has, bore: serves.then(|| middle + target.aim) })
}

fn assignment(
    build: &Build,
    target: Target,
    cylinders: &[CylinderPlan],
    married: &[Place],
) -> Option<PistonAssignment> {
    let known = |c: &CylinderPlan| Some((c.piston?, c.bore?));
    let sizes: Vec<(Length, [Length; 2])> = cylinders.iter().map(known).collect::<Option<_>>()?;
    let bores: Vec<[i64; 2]> = sizes.iter().map(|(_, bore)| bore.map(Length::nm)).collect();
    let pistons: Vec<i64> = sizes.iter().map(|(piston, _)| piston.nm()).collect();
    // A row is a bore: what is over it less what goes into it, as for rods and pins.
    let stays: Vec<(usize, usize)> = cylinders
        .iter()
        .enumerate()
        .filter(|(_, c)| married.contains(&build.layout.journal_of(c.at)))
        .map(|(i, _)| (i, i))
        .collect();
    let weights = Weights::of(build, cylinders);
    let wish = |bore: usize, piston: usize| weights.as_ref().map_or(0, |w| w.off(bore, piston));
    let best = assign_with(target.into(), &bores, &pistons, &stays, wish)?;
    let inside =
        |bore: [Length; 2], piston| bore.iter().all(|end| (target.low..=target.high).contains(&(*end - piston)));
    let mut found = Vec::with_capacity(cylinders.len());
    for (row, column) in best.columns.iter().enumerate() {
        let (bore, piston) = (sizes.get(row)?.1, sizes.get(*column)?.0);
        let from = cylinders.get(*column)?.at;
        let seat = Seat::of(PartKind::Piston, build.layout.journal_of(from));
        found.push(PistonTo {
            from: seat.place?,
            to: cylinders.get(row)?.at,
            clearance: bore[0] - piston,
            largest: bore[1] - piston,
            inside: inside(bore, piston),
            married: seat.place.is_some_and(|from| married.contains(&from)),
        });
    }
    let outside_now = sizes.iter().filter(|(piston, bore)| !inside(*bore, *piston)).count();
    let stays = |p: &PistonTo| p.from.number() == p.to.number() && p.to.kind() == PlaceKind::Cylinder;
    Some(PistonAssignment {
        weights: weights.map(|w| {
            let as_they_are: Vec<usize> = (0..cylinders.len()).collect();
            [w.spread(&as_they_are), w.spread(&best.columns)]
        }),
        outside: [outside_now, best.quality.outside],
        moves: !found.iter().all(stays),
        pistons: found,
    })
}

/// What pistons and rods weigh, cylinder by cylinder.
struct Weights {
    pistons: Vec<i64>,
    rods: Vec<i64>,
    /// A cylinder's share of all.
    mean: i64,
}

impl Weights {
    /// `None` where one of them was not weighed.
    fn of(build: &Build, cylinders: &[CylinderPlan]) -> Option<Self> {
        let notes = Notes::of_build(build);
        let weighed = |note, kind| {
            let at = |c: &CylinderPlan| notes.value(Place::new(kind, c.at.number()), note);
            cylinders.iter().map(at).collect::<Option<Vec<i64>>>()
        };
        let pistons = weighed(Note::PistonWeight, PlaceKind::WristPin)?;
        let rods = weighed(Note::RodWeight, PlaceKind::Rod)?;
        let all = pistons.iter().chain(&rods).fold(0_i64, |sum, w| sum.saturating_add(*w));
        let mean = all.checked_div(i64::try_from(rods.len()).ok()?)?;
        Some(Weights { pistons, rods, mean })
    }

    fn together(&self, bore: usize, piston: usize) -> i64 {
        let weight = |of: &[i64], i: usize| of.get(i).copied().unwrap_or_default();
        weight(&self.rods, bore).saturating_add(weight(&self.pistons, piston))
    }

    fn off(&self, bore: usize, piston: usize) -> i64 {
        self.together(bore, piston).saturating_sub(self.mean).saturating_abs()
    }

    fn spread(&self, columns: &[usize]) -> i64 {
        let each = || columns.iter().enumerate().map(|(bore, piston)| self.together(bore, *piston));
        each().max().unwrap_or_default().saturating_sub(each().min().unwrap_or_default())
    }
}
