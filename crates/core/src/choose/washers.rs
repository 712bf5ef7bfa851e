//! Which thrust washers put end play right, proven, with what each choice does to the crank; and where metal comes off when
//! no washer makes more room.
use jagged_pin_search::washers::{Aim, Choice, Fitted, Play, washers};
use serde::{Deserialize, Serialize};
use thiserror::Error;

use crate::assess::{Assessment, evaluate};
use crate::build::Build;
use crate::engine::{Axial, Figure, Place, PlaceKind};
use crate::figure::{FigureAssessment, Judged, MethodResult};
use crate::log::What;
use crate::maths::{Acceptance, State, Target, Window, half_width, verdict};
use crate::shells::{ThrustLayout, ThrustSide, WasherBox};
use crate::units::Length;

/// Choices that are shown beside the best one, at most.
const MOST_SHOWN: usize = 8;

/// What is made better first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum WasherAim {
    /// Nearest to the aim.
    #[default]
    Closest,
    /// The cheapest.
    Thriftiest,
    /// The fewest sides changed.
    Fewest,
}

/// What is asked beside what was measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct WasherWish {
    /// What is made better first.
    pub aim: WasherAim,
    /// Whether washers may be lapped.
    pub lap: bool,
    /// How far forward of the middle of its rods the crank stands, where that is known; back where it is negative.
    pub stands: Option<Length>,
    /// How far forward it may stand.
    pub max_forward: Option<Length>,
    /// How far back it may stand.
    pub max_rearward: Option<Length>,
}

/// One side of a choice.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WasherSide {
    /// Which washer; absent where the one that is there stays.
    pub class: Option<String>,
    /// How it is called.
    pub name: String,
    /// Its thickness after lapping.
    pub thickness: Length,
    /// How much thicker than the one that is there.
    pub growth: Length,
    /// What is lapped off its steel back.
    pub lap: Length,
}

/// Halves to be bought.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WashersToBuy {
    /// Which.
    pub class: String,
    /// Its part number.
    pub part_number: String,
    /// How many halves.
    pub halves: u64,
    /// What they cost together, in ten-thousandths of the money.
    pub price: i64,
}

/// A choice of washers, and what comes of it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WasherChoice {
    /// The front side.
    pub front: WasherSide,
    /// The rear side.
    pub rear: WasherSide,
    /// End play, the smaller of its positions.
    pub smallest: Length,
    /// The larger.
    pub largest: Length,
    /// How sure that is: what was measured, and the washers' grading.
    pub expanded: Length,
    /// What it would be judged as.
    pub state: State,
    /// Distance of its middle from the aim.
    pub deviation: Length,
    /// Way of the crank, forward positive.
    pub shift: Length,
    /// How far forward of the middle it stands then, where that is known.
    pub stands: Option<Length>,
    /// Sides with another washer or lapped.
    pub sides_changed: u8,
    /// What is bought.
    pub buy: Vec<WashersToBuy>,
    /// What that costs.
    pub cost: i64,
    /// What it leaves of the rooms along the axis that are measured.
    pub leaves: Vec<RoomLeft>,
}

/// A room along the axis before and after: what a crank that moves, or plays more, takes of it,
/// `left = now - way - (play then - play now) / 2`. A crank that goes forward takes its way from what lies before its rear
/// cheeks and gives it to the front ones; beside the rods either cheek comes nearer to one of them.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RoomLeft {
    /// Of which figure: half the side clearance of rods, each cheek has a half; or a fillet's room with the crank pushed over.
    pub figure: Figure,
    /// Where it is least afterwards.
    pub at: Place,
    /// The room there is.
    pub now: Length,
    /// The room that is left.
    pub left: Length,
}

/// Where metal comes off when there is too little play and no thinner washer.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TightPlan {
    /// What comes off in all to reach the aim.
    pub total: Length,
    /// The side it comes off first: the one that carries no load, so that the loaded one keeps its face, its grooves and its
    /// relief.
    pub first: ThrustSide,
    /// What comes off that side.
    pub off_first: Length,
    /// What is left for the other.
    pub off_second: Length,
    /// What still lacks then: more than both sides may give.
    pub short: Length,
    /// Whether it comes off the bearing faces of flanged shells, and not off the steel backs of washers.
    pub off_faces: bool,
}

/// The washers for a build.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WasherProposal {
    /// Place of the last fact it rests on.
    pub seq: u32,
    /// As it is: the choice that changes nothing.
    pub now: WasherChoice,
    /// The window and the aim.
    pub target: Target,
    /// The choices, the best first; the first is proven to be the best there is.
    pub choices: Vec<WasherChoice>,
    /// How many pairs of washers were weighed, and how many of them end inside.
    pub weighed: usize,
    /// See above.
    pub inside: usize,
    /// Where metal comes off, when play is tight and no washer brings it inside.
    pub tight: Option<TightPlan>,
    /// Whether the best choice does as well with its sides exchanged: where the crank stands decides, and nobody said it.
    pub either_side: bool,
}

/// What end play wants of washers, whatever lies on the shelf: `growth = end play - the end play wanted`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ThrustNeed {
    /// Place of the last fact it rests on.
    pub seq: u32,
    /// End play as it is, the smaller of its positions and the larger.
    pub play: [Length; 2],
    /// The window and the aim.
    pub target: Target,
    /// How much thicker both sides together have to be for the aim; thinner where it is below zero.
    pub growth: Length,
    /// The least that brings the larger position inside, and the most that leaves the smaller one inside; none where the
    /// positions differ by more than the window.
    pub within: Option<[Length; 2]>,
}

/// Why nothing is proposed.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum NoWashers {
    /// End play is not measured, or ended by something that was done.
    #[error("end play has to be measured first, with all caps torqued")]
    NotMeasured,
    /// It has no window.
    #[error("end play has no target yet")]
    NoTarget,
}

/// Thicknesses of the washers that are in: as they were fitted last, else the standard ones.
pub fn washers_in(build: &Build, of: &WasherBox) -> [Length; 2] {
    let fitted = build.facts.iter().rev().find_map(|f| match &f.what {
        What::Washers(w) => Some([w.front.thickness, w.rear.thickness]),
        _ => None,
    });
    fitted.unwrap_or([of.standard; 2])
}

/// What washers of a box would do to the end play of a build, with so many halves of each on the shelf.
///
/// # Errors
/// [`NoWashers`] where end play is not judged.
pub fn propose_washers(
    build: &Build,
    of: &WasherBox,
    on_shelf: impl Fn(&str) -> u16,
    wish: WasherWish,
) -> Result<WasherProposal, NoWashers> {
    let assessed = evaluate(build);
    let PlayNow { judged, ends, target } = PlayNow::of(&assessed)?;
    let stock = of.stock(on_shelf);
    let steps = |lap: Length| {
        let whole = lap.nm().checked_div(of.lap_step.nm()).unwrap_or(0);
        u16::try_from(whole).unwrap_or(u16::MAX)
    };
    let asked = Play {
        play: ends.map(Length::nm),
        target: target.into(),
        thrust: of.layout.as_searched(),
        fitted: washers_in(build, of).map(Length::nm),
        stock: &stock,
        halves: of.halves.into(),
        lap_steps: if wish.lap { [steps(of.lap_front), steps(of.lap_rear)] } else { [0, 0] },
        lap_step: of.lap_step.nm(),
        stands: wish.stands.unwrap_or_default().nm(),
        room: [wish.max_rearward.map(Length::nm), wish.max_forward.map(Length::nm)],
        aim: match wish.aim {
            WasherAim::Closest => Aim::Closest,
            WasherAim::Thriftiest => Aim::Thriftiest,
            WasherAim::Fewest => Aim::Fewest,
        },
    };
    let found = washers(&asked);
    let shown = Shown {
        of,
        target,
        open: judged.expanded,
        acceptance: assessed.rules.acceptance,
        wish,
        play: Length::mean(&ends).unwrap_or(judged.clearance),
        rooms: rooms_along(&assessed),
    };
    // With a stone at hand the washers that are in are among the choices only as lapped ones.
    let as_they_are = washers(&Play { stock: &[], lap_steps: [0, 0], ..asked });
    let as_it_is = |c: &&Choice| c.sides_changed == 0;
    let now = as_they_are.iter().find(as_it_is).map(|c| shown.choice(c)).ok_or(NoWashers::NotMeasured)?;
    let inside = found.iter().filter(|c| c.inside).count();
    let choices = found.iter().take(MOST_SHOWN).map(|c| shown.choice(c)).collect();
    let tight = (judged.state == State::Tight && inside == 0).then(|| tight_plan(of, &now, target));
    let either_side = wish.stands.is_none() && found.first().is_some_and(|best| has_a_twin(best, &found));
    Ok(WasherProposal { seq: assessed.seq, now, target, choices, weighed: found.len(), inside, tight, either_side })
}

/// Whether another choice differs from the best one only in the way that the crank goes.
fn has_a_twin(best: &Choice, all: &[Choice]) -> bool {
    let alike = |c: &&Choice| {
        (c.play, c.cost, c.sides_changed) == (best.play, best.cost, best.sides_changed)
            && c.twice_shift.checked_add(best.twice_shift) == Some(0)
    };
    best.twice_shift != 0 && all.iter().any(|c| alike(&c))
}

/// End play as it is judged, with the ends of its positions and its window.
struct PlayNow<'a> {
    judged: &'a Judged,
    ends: [Length; 2],
    target: Target,
}

impl<'a> PlayNow<'a> {
    fn of(assessed: &'a Assessment) -> Result<Self, NoWashers> {
        let figure = assessed.figure(Figure::END_PLAY, Place::THRUST).ok_or(NoWashers::NotMeasured)?;
        let judged = figure.judged.as_ref().ok_or(NoWashers::NotMeasured)?;
        let method = figure.methods.iter().find(|m| m.method == judged.method).ok_or(NoWashers::NotMeasured)?;
        let target = figure.target.as_ref().ok_or(NoWashers::NoTarget)?.window;
        Ok(PlayNow { judged, ends: [method.smallest, method.largest], target })
    }
}

/// What end play wants of washers where no box of them is on the shelf.
///
/// # Errors
/// [`NoWashers`] where end play is not judged.
pub fn thrust_need(build: &Build) -> Result<ThrustNeed, NoWashers> {
    let assessed = evaluate(build);
    let PlayNow { judged, ends: [smallest, largest], target } = PlayNow::of(&assessed)?;
    let growth = Length::mean(&[smallest, largest]).unwrap_or(judged.clearance) - target.aim;
    let (least, most) = (largest - target.high, smallest - target.low);
    let within = (least <= most).then_some([least, most]);
    Ok(ThrustNeed { seq: assessed.seq, play: [smallest, largest], target, growth, within })
}

/// A room that a crank takes from when it moves.
struct Room {
    at: Place,
    now: Length,
    /// At which end of its journal it lies; absent where it is alike at both.
    end: Option<Axial>,
}

impl Room {
    /// What is left of it once the crank stands `shift` farther forward.
    fn after(&self, shift: Length) -> Length {
        match self.end {
            Some(Axial::Front) => self.now + shift,
            Some(Axial::Rear) => self.now - shift,
            _ => self.now - shift.abs(),
        }
    }
}

/// The rooms along the axis that a crank that moves takes from, by figure.
fn rooms_along(assessed: &Assessment) -> Vec<(Figure, Vec<Room>)> {
    let of = |figure: Figure, kind: PlaceKind| {
        assessed.figures.iter().filter(move |f| f.figure == figure && f.station.kind() == kind)
    };
    let side = |f: &FigureAssessment| {
        let now = f.judged.as_ref()?.clearance;
        Some(Room { at: f.station, now: Length::from_nm(now.nm() / 2), end: None })
    };
    let fillets = |f: &FigureAssessment| -> Vec<Room> {
        // Reckoned hard over, an edge lies as near as it ever can: no washer takes more of it.
        let as_pushed = |m: &&MethodResult| {
            f.judged.as_ref().is_some_and(|j| j.method == m.method) && m.method.name() == "as_pushed"
        };
        let ends = f.methods.iter().find(as_pushed).into_iter().flat_map(|m| &m.ends);
        ends.map(|e| Room { at: f.station, now: e.clearance, end: Some(e.axial) }).collect()
    };
    vec![
        (Figure::ROD_SIDE, of(Figure::ROD_SIDE, PlaceKind::Side).filter_map(side).collect()),
        (Figure::FILLET_ROOM, of(Figure::FILLET_ROOM, PlaceKind::MainFillet).flat_map(fillets).collect()),
    ]
}

/// Off the side that carries no load first, and no more than a side may give.
fn tight_plan(of: &WasherBox, now: &WasherChoice, target: Target) -> TightPlan {
    let (first, most, other) = match of.loaded {
        ThrustSide::Rear => (ThrustSide::Front, of.lap_front, of.lap_rear),
        ThrustSide::Front => (ThrustSide::Rear, of.lap_rear, of.lap_front),
    };
    let middle = Length::mean(&[now.smallest, now.largest]).unwrap_or(now.smallest);
    let total = target.aim - middle;
    let off_first = total.min(most);
    let off_second = (total - off_first).min(other);
    let off_faces = of.layout == ThrustLayout::Flanged;
    TightPlan { total, first, off_first, off_second, short: total - off_first - off_second, off_faces }
}

/// What every choice is shown with.
struct Shown<'a> {
    of: &'a WasherBox,
    target: Target,
    open: Length,
    acceptance: Acceptance,
    wish: WasherWish,
    /// End play as it is, the middle of its positions.
    play: Length,
    rooms: Vec<(Figure, Vec<Room>)>,
}

impl Shown<'_> {
    fn side(&self, side: &Fitted) -> WasherSide {
        let class = side.item.and_then(|i| self.of.classes.get(i)).map(|c| c.id.clone());
        WasherSide {
            name: self.of.name_of(class.as_deref()),
            class,
            thickness: Length::from_nm(side.thickness),
            growth: Length::from_nm(side.growth),
            lap: Length::from_nm(side.lap),
        }
    }

    /// The room of each kind that is least once the crank stands there.
    fn left(&self, shift: Length, play: [Length; 2]) -> Vec<RoomLeft> {
        let more = Length::mean(&play).unwrap_or(self.play) - self.play;
        let least = |(figure, rooms): &(Figure, Vec<Room>)| {
            let room = rooms.iter().min_by_key(|room| room.after(shift))?;
            let left = room.after(shift) - Length::from_nm(more.nm() / 2);
            Some(RoomLeft { figure: *figure, at: room.at, now: room.now, left })
        };
        self.rooms.iter().filter_map(least).collect()
    }

    fn choice(&self, choice: &Choice) -> WasherChoice {
        let half = |twice: i64| Length::mean(&[Length::from_nm(twice), Length::ZERO]).unwrap_or_default();
        let [smallest, largest] = choice.play.map(Length::from_nm);
        // What a new washer may be off from its thickness, beside what was measured.
        let graded = choice.sides.iter().filter(|s| s.item.is_some()).count() as f64;
        let grading = 2.0 * half_width(self.of.grading.as_f64()) * graded.sqrt();
        let expanded = Length::from_f64(self.open.as_f64().hypot(grading)).unwrap_or(self.open);
        let window = Window::between(self.target.low, self.target.high);
        let state = window.map_or(State::Edge, |w| verdict(smallest, largest, expanded, w, self.acceptance).state);
        let buy = choice.bought.iter().filter_map(|(i, halves)| {
            let class = self.of.classes.get(*i)?;
            let price = class.price.unwrap_or_default().saturating_mul(i64::try_from(*halves).unwrap_or(i64::MAX));
            Some(WashersToBuy {
                class: class.id.clone(),
                part_number: class.part_number.clone(),
                halves: *halves,
                price,
            })
        });
        WasherChoice {
            front: self.side(&choice.sides[0]),
            rear: self.side(&choice.sides[1]),
            smallest,
            largest,
            expanded,
            state,
            deviation: half(choice.twice_deviation),
            shift: half(choice.twice_shift),
            stands: self.wish.stands.map(|_| half(choice.twice_stands)),
            sides_changed: choice.sides_changed,
            buy: buy.collect(),
            cost: choice.cost,
            leaves: self.left(half(choice.twice_shift), [smallest, largest]),
        }
    }
}
