//! The next oversize of worn cylinders: the smallest that cleans every one of them for sure, what the bar and each stone leave,
//! and what is left of the wall.
//!
//! * The smallest bore that cleans a place when the bar stands on the old centre: wear is nearly always one-sided, so
//!   `size + (size - unworn) + 2 damage + 2 location` ([`crate::maths::clean_up`]). The largest over all places of all cylinders
//!   decides. Where nobody measured the bore that no ring touched, its nominal stands in, and nothing is proven.
//! * Oversizes are counted from the standard bore, whatever the block was bored to since.
//! * What is chosen cleans all cylinders with 97.5 % of all that the gauges leave open. Pistons are bought on it.
//! * Damage is what was typed, and what a look at the walls says with a depth: the deeper of both counts.
//! * The bar is set to `standard + oversize - hone stock`.
//! * Wall left `wall - (finished - unworn) / 2`.
use serde::Serialize;

use crate::build::Build;
use crate::engine::{Axial, Figure, Place, Position, Read, Role};
use crate::evidence::{Inspections, Sessions, SizeAssessment, gauge_behind};
use crate::figure::{FigureAssessment, MeasuredBy, of_size};
use crate::log::{InspectedPart, Mark};
use crate::maths::{Bar, CleanPlace, CleanUp, Wear, clean_up, combined};
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
    /// What the gauges leave open of that.
    pub expanded: Option<Length>,
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
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OversizeOption {
    /// The oversize.
    pub oversize: Length,
    /// The finished bore.
    pub finished: Length,
    /// What the bar is set to.
    pub bar: Length,
    /// Whether the bar cleans every cylinder, as surely as pistons are bought on.
    pub cleans: bool,
    /// How likely it cleans every cylinder, 0 to 1.
    pub probability: f64,
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
#[derive(Debug, Clone, PartialEq, Serialize)]
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
    /// The bore as it left the factory, and the oversize that it has already.
    pub standard: Length,
    /// The oversize that it is bored to already.
    pub present: Length,
    /// Whether the bore where no ring ran is only assumed to be its nominal: then nothing is proven.
    pub unworn_assumed: bool,
    /// Whether nothing is bored here, because what the pistons run on is a coat.
    pub coated: bool,
}

/// How sure an oversize is that pistons are bought on.
const SURE: f64 = 0.975;

/// What rough stone, finishing stone and plateau leave to the next, on diameter.
const STAGES: [(BoringTool, i64); 3] =
    [(BoringTool::RoughStone, 38_100), (BoringTool::FinishStone, 7_620), (BoringTool::Plateau, 0)];

/// The plan for the cylinders of a build; `None` where it has none.
pub fn plan_boring(build: &Build, figures: &[FigureAssessment], wish: &BoringWish) -> Option<BoringPlan> {
    let layout = build.layout.cylinders.as_ref()?;
    let around = Around { wish, nominal: layout.bore };
    let of_wall = figures.iter().filter(|f| f.figure == Figure::PISTON_TO_WALL);
    let seen = damage_seen(build);
    let sessions = Sessions::of(&build.notes(), build.rules_now().reckoning);
    let worn: Vec<(Place, Worn)> = of_wall.map(|f| (f.station, Worn::of((build, &sessions), f, wish, &seen))).collect();
    let deepest = |at: Place| seen.iter().filter(|d| d.at == at).map(|d| d.depth).max();
    let view = |(at, w): &(Place, Worn)| CylinderWorn { seen: deepest(*at), ..w.view(*at, around) };
    let cylinders: Vec<CylinderWorn> = worn.iter().map(view).collect();
    let decides = cylinders.iter().filter(|c| c.needs.is_some()).max_by_key(|c| c.needs);
    let open: Vec<Place> = cylinders.iter().filter(|c| c.needs.is_none()).map(|c| c.at).collect();
    let mut sizes = wish.oversizes.clone();
    sizes.sort_unstable();
    sizes.dedup();
    let option = |oversize: Length| {
        let finished = layout.standard() + oversize;
        let bar = finished - wish.hone_stock;
        let each: Vec<(Place, f64)> =
            worn.iter().filter_map(|(at, w)| Some((*at, w.clean_up(around)?.probability(bar)))).collect();
        let left = |(at, w): &(Place, Worn)| {
            let from = wish.unworn.or_else(|| w.places.iter().map(|p| p.size.0).min())?;
            Some(WallLeft { at: *at, left: w.wall? - Length::from_nm((finished - from).nm() / 2) })
        };
        let walls: Vec<WallLeft> = worn.iter().filter_map(left).collect();
        OversizeOption {
            oversize,
            finished,
            bar,
            probability: each.iter().map(|(_, p)| p).product(),
            cleans: each.iter().map(|(_, p)| p).product::<f64>() >= SURE,
            dirty: each.iter().filter(|(_, p)| *p < SURE).map(|(at, _)| *at).collect(),
            wall: walls.iter().map(|w| w.left).min(),
            thin: walls.into_iter().filter(|w| w.left < wish.least_wall).collect(),
        }
    };
    let options: Vec<OversizeOption> = sizes.into_iter().map(option).collect();
    let may = open.is_empty() && layout.can_be_bored();
    let chosen = options.iter().find(|o| may && o.cleans && o.thin.is_empty());
    Some(BoringPlan {
        decided_by: decides.map(|c| c.at),
        needs: decides.and_then(|c| c.needs),
        stages: chosen.map(|o| stages(o, wish.hone_stock)).unwrap_or_default(),
        chosen: chosen.map(|o| o.oversize),
        options,
        open,
        cylinders,
        standard: layout.standard(),
        present: layout.present.unwrap_or_default(),
        unworn_assumed: wish.unworn.is_none(),
        coated: !layout.can_be_bored(),
    })
}

fn stages(option: &OversizeOption, stock: Length) -> Vec<BoringStage> {
    let bar = BoringStage { tool: BoringTool::Bar, to: option.bar };
    let stones = STAGES.iter().filter(|(_, left)| *left < stock.nm());
    let stone =
        |(tool, left): &(BoringTool, i64)| BoringStage { tool: *tool, to: option.finished - Length::from_nm(*left) };
    std::iter::once(bar).chain(stones.map(stone)).collect()
}

/// What every cylinder is worked out with.
#[derive(Clone, Copy)]
struct Around<'a> {
    wish: &'a BoringWish,
    /// The bore by the drawing as it is bored now: what no ring touched, while nobody measured it.
    nominal: Length,
}

/// A cylinder with where each of its places is.
struct Worn {
    places: Vec<CleanPlace>,
    positions: Vec<Position>,
    plate_off: bool,
    wall: Option<Length>,
}

/// What a size leaves open by itself: in the figure that it is part of, else as it was measured. Pistons are seldom there
/// when a block is bored, and without them there is no figure.
fn doubt_of(
    (build, sessions): (&Build, &Sessions),
    f: &FigureAssessment,
    (role, part): (Role, &SizeAssessment),
) -> Length {
    let in_figure = f.methods.iter().find(|m| m.budget.parts.iter().any(|p| p.of == role)).map(|m| {
        let own = m.budget.parts.iter().filter(|p| p.of == role).map(|p| p.standard);
        Length::from_f64(2.0 * combined(own)).unwrap_or_default()
    });
    let alone = || {
        let size = part.size.as_ref()?;
        let gauge = gauge_behind(build, sessions, size)?;
        Some(of_size(role, MeasuredBy::of(gauge, size)).expanded)
    };
    in_figure.or_else(alone).unwrap_or_default()
}

impl Worn {
    fn of(known_by: (&Build, &Sessions), f: &FigureAssessment, wish: &BoringWish, seen: &[Damage]) -> Self {
        let plated = f.part(BORE, Read::Size);
        let (role, part, plate) =
            if plated.complete { (BORE, plated, true) } else { (BARE, f.part(BARE, Read::Size), false) };
        let known = part.positions.iter().filter(|_| part.complete);
        let places: Vec<(Position, Length)> = known.filter_map(|p| Some((p.position, p.value?))).collect();
        let largest = places.iter().max_by_key(|(_, size)| *size).map(|(p, _)| *p);
        let damage = |position: Position| {
            let here = |d: &&Damage| d.at == f.station && d.near.or(largest) == Some(position);
            wish.damage.iter().chain(seen).filter(here).map(|d| d.depth).max().unwrap_or_default()
        };
        let doubt = doubt_of(known_by, f, (role, part));
        let place = |(position, size): &(Position, Length)| CleanPlace {
            size: (*size, doubt),
            damage: (damage(*position), Length::ZERO),
        };
        Worn {
            positions: places.iter().map(|(p, _)| *p).collect(),
            places: places.iter().map(place).collect(),
            plate_off: !plate,
            wall: wish.walls.iter().find(|(at, _)| *at == f.station).map(|(_, wall)| *wall),
        }
    }

    /// What it takes to clean it; `None` where it was not measured. What a plate adds to a bore that was measured without is
    /// added, and in doubt by as much.
    fn clean_up(&self, Around { wish, nominal }: Around<'_>) -> Option<CleanUp> {
        let plate = if self.plate_off { wish.plate } else { Length::ZERO };
        let half = Length::from_nm(plate.nm() / 2);
        let bar = Bar { error: wish.location + half, expanded: plate };
        clean_up(Wear::OneSided, (wish.unworn.unwrap_or(nominal), Length::ZERO), bar, &self.places)
    }

    fn view(&self, at: Place, around: Around<'_>) -> CylinderWorn {
        let found = self.clean_up(around);
        CylinderWorn {
            at,
            needs: found.as_ref().map(|c| c.needs),
            expanded: found.as_ref().and_then(|c| Length::from_f64(c.expanded)),
            decided_at: found.and_then(|c| self.positions.get(c.decides).copied()),
            plate_off: self.plate_off && !self.places.is_empty(),
            wall: self.wall,
            seen: None,
        }
    }
}
