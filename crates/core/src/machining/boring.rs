//! The next oversize of worn cylinders: the smallest that cleans every one of them, what the bar and each stone leave, and
//! what is left of the wall.
//!
//! * The smallest bore that cleans a place when the bar stands on the old centre: wear is nearly always one-sided, so
//!   `size + (size - unworn) + 2 damage + 2 location` ([`crate::maths::needs`]). The largest over all places of all cylinders
//!   decides.
//! * Damage is what was typed, and what a look at the walls says with a depth: the deeper of both counts.
//! * An oversize serves where `bore + oversize - hone stock` is not below it.
//! * Wall left `wall - (finished - unworn) / 2`.
use serde::Serialize;

use crate::build::Build;
use crate::engine::{Axial, Figure, Place, Position, Read, Role};
use crate::evidence::Inspections;
use crate::figure::FigureAssessment;
use crate::log::{InspectedPart, Mark};
use crate::maths::{BoredPlace, Boring, WornCylinder, bored, needs};
use crate::units::Length;

const BORE: Role = Role::new("cylinder");
const BARE: Role = Role::new("cylinder_bare");

/// What is known beside the bores, and what is wanted.
#[derive(Debug, Clone)]
pub struct BoringWish {
    /// Diameter where no ring ever ran.
    pub unworn: Option<Length>,
    /// Pits and scores.
    pub damage: Vec<Damage>,
    /// Thinnest wall as measured, by cylinder.
    pub walls: Vec<(Place, Length)>,
    /// Least wall that may be left.
    pub least_wall: Length,
    /// Oversizes of pistons that can be had.
    pub oversizes: Vec<Length>,
    /// What the bar may miss the old centre by.
    pub location: Length,
    /// What the stones take after the bar.
    pub hone_stock: Length,
    /// What a torque plate adds to a bore that was measured without.
    pub plate: Length,
}

/// A pit or a score.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Damage {
    /// In which cylinder.
    pub at: Place,
    /// Near which of its measured places; absent where nobody said: then at the largest, where it decides most.
    pub near: Option<Position>,
    /// How deep.
    pub depth: Length,
}

/// Pits and scores whose depth a look at the walls says, as the looks in force have them.
pub fn damage_seen(build: &Build) -> Vec<Damage> {
    let looks = Inspections::of_build(build).all();
    let of_wall = looks.into_iter().filter(|(_, _, look)| look.part == InspectedPart::Bore);
    let deep = |at: Place, mark: &Mark| {
        Some(Damage { at, near: mark.along.map(|a| nearest(a, mark.clock)), depth: mark.depth? })
    };
    of_wall.flat_map(|(at, _, look)| look.marks.iter().filter_map(move |m| deep(at, m)).collect::<Vec<_>>()).collect()
}

/// The measured place that is nearest to a mark: a bore is measured across the crank and along it. What nobody said the clock
/// of counts across, where thrust wears a wall.
fn nearest(along: Axial, clock: Option<u16>) -> Position {
    let from_across = clock.unwrap_or_default().checked_rem(180).unwrap_or_default();
    Position::at(along, if (45..135).contains(&from_across) { 90 } else { 0 })
}

/// One cylinder as it is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CylinderWorn {
    /// Which.
    pub at: Place,
    /// The smallest bore that cleans it; absent where it was not measured.
    pub needs: Option<Length>,
    /// The place that decides.
    pub decided_at: Option<Position>,
    /// Whether it was measured without a plate, so that what a plate adds was added.
    pub plate_off: bool,
    /// Its wall as measured.
    pub wall: Option<Length>,
    /// The deepest pit or score that a look at it says.
    pub seen: Option<Length>,
}

/// What one oversize does.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OversizeOption {
    /// The oversize.
    pub oversize: Length,
    /// The finished bore.
    pub finished: Length,
    /// What the bar is set to.
    pub bar: Length,
    /// Whether the bar cleans every cylinder.
    pub cleans: bool,
    /// Cylinders that it leaves dirty.
    pub dirty: Vec<Place>,
    /// Cylinders whose wall would be thinner than may be, with what would be left.
    pub thin: Vec<WallLeft>,
    /// The thinnest wall that is left, where any was measured.
    pub wall: Option<Length>,
}

/// A wall after boring.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WallLeft {
    /// Which cylinder.
    pub at: Place,
    /// What is left.
    pub left: Length,
}

/// One stage of the way to size.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BoringStage {
    /// With what.
    pub tool: BoringTool,
    /// The diameter it ends at.
    pub to: Length,
}

/// Tools in their order.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum BoringTool {
    /// The bar.
    Bar,
    /// A rough stone, 150 to 220.
    RoughStone,
    /// A finishing stone, 280 to 320.
    FinishStone,
    /// A plateau stone of 400 to 600, or a brush.
    Plateau,
}

/// The plan.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BoringPlan {
    /// Every cylinder.
    pub cylinders: Vec<CylinderWorn>,
    /// The cylinder that decides.
    pub decided_by: Option<Place>,
    /// The smallest bore that cleans them all.
    pub needs: Option<Length>,
    /// The oversizes, the smallest first.
    pub options: Vec<OversizeOption>,
    /// The smallest oversize that cleans every cylinder and leaves its wall; absent where none does, or a cylinder is not
    /// measured.
    pub chosen: Option<Length>,
    /// The stages to that size.
    pub stages: Vec<BoringStage>,
    /// Cylinders that are not measured.
    pub open: Vec<Place>,
}

/// What rough stone, finishing stone and plateau leave to the next, on diameter.
const STAGES: [(BoringTool, i64); 3] =
    [(BoringTool::RoughStone, 38_100), (BoringTool::FinishStone, 7_620), (BoringTool::Plateau, 0)];

/// The plan for the cylinders of a build; `None` where it has none.
pub fn plan_boring(build: &Build, figures: &[FigureAssessment], wish: &BoringWish) -> Option<BoringPlan> {
    let nominal = build.layout.cylinders.as_ref()?.bore;
    let work = Boring {
        aim: Length::ZERO,
        finish_stock: wish.location + wish.location,
        hone_stock: wish.hone_stock,
        plate_distortion: wish.plate,
    };
    let of_wall = figures.iter().filter(|f| f.figure == Figure::PISTON_TO_WALL);
    let seen = damage_seen(build);
    let worn: Vec<(Place, Worn)> = of_wall.map(|f| (f.station, Worn::of(f, wish, &seen))).collect();
    let deepest = |at: Place| seen.iter().filter(|d| d.at == at).map(|d| d.depth).max();
    let view = |(at, w): &(Place, Worn)| CylinderWorn { seen: deepest(*at), ..w.view(*at, work) };
    let cylinders: Vec<CylinderWorn> = worn.iter().map(view).collect();
    let decides = cylinders.iter().filter(|c| c.needs.is_some()).max_by_key(|c| c.needs);
    let open: Vec<Place> = cylinders.iter().filter(|c| c.needs.is_none()).map(|c| c.at).collect();
    let mut sizes = wish.oversizes.clone();
    sizes.sort_unstable();
    sizes.dedup();
    let option = |oversize: Length| {
        let finished = nominal + oversize;
        let each: Vec<_> = worn.iter().filter_map(|(at, w)| Some((*at, bored(&w.cylinder, finished, work)?))).collect();
        let left = |(at, w): &(Place, Worn)| {
            let from = wish.unworn.or_else(|| w.cylinder.places.iter().map(|p| p.size).min())?;
            Some(WallLeft { at: *at, left: w.wall? - Length::from_nm((finished - from).nm() / 2) })
        };
        let walls: Vec<WallLeft> = worn.iter().filter_map(left).collect();
        OversizeOption {
            oversize,
            finished,
            bar: finished - wish.hone_stock,
            cleans: each.iter().all(|(_, b)| b.cleans),
            dirty: each.iter().filter(|(_, b)| !b.cleans).map(|(at, _)| *at).collect(),
            wall: walls.iter().map(|w| w.left).min(),
            thin: walls.into_iter().filter(|w| w.left < wish.least_wall).collect(),
        }
    };
    let options: Vec<OversizeOption> = sizes.into_iter().map(option).collect();
    let chosen = options.iter().find(|o| open.is_empty() && o.cleans && o.thin.is_empty());
    Some(BoringPlan {
        decided_by: decides.map(|c| c.at),
        needs: decides.and_then(|c| c.needs),
        stages: chosen.map(|o| stages(o, wish.hone_stock)).unwrap_or_default(),
        chosen: chosen.map(|o| o.oversize),
        options,
        open,
        cylinders,
    })
}

fn stages(option: &OversizeOption, stock: Length) -> Vec<BoringStage> {
    let bar = BoringStage { tool: BoringTool::Bar, to: option.bar };
    let stones = STAGES.iter().filter(|(_, left)| *left < stock.nm());
    let stone =
        |(tool, left): &(BoringTool, i64)| BoringStage { tool: *tool, to: option.finished - Length::from_nm(*left) };
    std::iter::once(bar).chain(stones.map(stone)).collect()
}

/// A cylinder with where each of its places is.
struct Worn {
    cylinder: WornCylinder,
    positions: Vec<Position>,
    wall: Option<Length>,
}

impl Worn {
    fn of(f: &FigureAssessment, wish: &BoringWish, seen: &[Damage]) -> Self {
        let plated = f.part(BORE, Read::Size);
        let (part, plate) = if plated.complete { (plated, true) } else { (f.part(BARE, Read::Size), false) };
        let known = part.positions.iter().filter(|_| part.complete);
        let places: Vec<(Position, Length)> = known.filter_map(|p| Some((p.position, p.value?))).collect();
        let largest = places.iter().max_by_key(|(_, size)| *size).map(|(p, _)| *p);
        let damage = |position: Position| {
            let here = |d: &&Damage| d.at == f.station && d.near.or(largest) == Some(position);
            wish.damage.iter().chain(seen).filter(here).map(|d| d.depth).max().unwrap_or_default()
        };
        Worn {
            positions: places.iter().map(|(p, _)| *p).collect(),
            cylinder: WornCylinder {
                places: places.iter().map(|(p, size)| BoredPlace { size: *size, damage: damage(*p) }).collect(),
                unworn: wish.unworn,
                wear_offset: None,
                plate,
                max_bore: None,
            },
            wall: wish.walls.iter().find(|(at, _)| *at == f.station).map(|(_, wall)| *wall),
        }
    }

    fn view(&self, at: Place, work: Boring) -> CylinderWorn {
        let one = |i: usize| {
            let place = self.cylinder.places.get(i)?;
            needs(&WornCylinder { places: vec![*place], ..self.cylinder.clone() }, work)
        };
        let decides = (0..self.positions.len()).max_by_key(|i| one(*i));
        CylinderWorn {
            at,
            needs: needs(&self.cylinder, work),
            decided_at: decides.and_then(|i| self.positions.get(i).copied()),
            plate_off: !self.cylinder.plate && !self.cylinder.places.is_empty(),
            wall: self.wall,
            seen: None,
        }
    }
}
