//! How a crank runs: the throw of each turned main, of nose and flange apart from its form, and the bow along the crank.
//!
//! What an indicator travels counts bend and ovality alike and convicts the wrong one: the first harmonic of a turn is what
//! bend shows, the second what a mic finds out of round ([`crate::maths`]).
use crate::build::Build;
use crate::engine::{Figure, Place, PlaceKind, Read, Role};
use crate::figure::FigureAssessment;
use crate::maths::{ClockReading, Throw, bow, direction, packing, throw};
use crate::units::Length;

const TURN: Role = Role::new("main_turn");

/// How one main runs, or the nose or the flange.
#[derive(Debug, Clone, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MainThrow {
    /// Which.
    pub at: Place,
    /// What the indicator travels in all.
    pub travel: Length,
    /// What of it the bend shows: twice the eccentricity.
    pub bend: Length,
    /// Clock of its high side in degrees.
    pub high_side: i16,
    /// What a mic should find out of round; unknown of less than five clocks.
    pub oval: Option<Length>,
    /// What a mic did find.
    pub out_of_round: Option<Length>,
    /// How far it stands off the straight line between the outermost turned mains, as an indicator would show it; unknown
    /// of less than three.
    pub bow: Option<Length>,
    /// How far it stands off the line between its neighbours, likewise.
    pub step: Option<Length>,
    /// Whether the bend alone is more than the target allows.
    pub bent: bool,
    /// Whether the indicator travels more than the target allows and the bend does not: it is worn oval, or its supports are.
    pub oval_only: bool,
}

/// How a crank runs.
#[derive(Debug, Clone, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Straightness {
    /// The most an indicator may travel at a main, where there is a target.
    pub limit: Option<Length>,
    /// Everything that was turned, from the front: mains, nose and flange.
    pub mains: Vec<MainThrow>,
    /// Mains that were not turned all around, and ends that have a target and were not.
    pub open: Vec<Place>,
    /// What goes under the smaller of the seats it lies on, where both are measured and differ.
    pub packing: Option<Packing>,
}

/// What goes under one seat so that the crank lies level.
#[derive(Debug, Clone, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Packing {
    /// Under which end main.
    pub under: Place,
    /// How much.
    pub by: Length,
    /// The angle of the blocks' V, in degrees.
    pub v: f64,
}

/// The packing under the smaller of both end mains; none where they are alike to the micrometre, or not measured.
fn packed(build: &Build, figures: &[FigureAssessment], v: f64) -> Option<Packing> {
    let size = |p: &Place| {
        let f = figures.iter().find(|f| f.figure == Figure::OIL_CLEARANCE && f.station == *p)?;
        f.journal().size.as_ref().filter(|_| f.journal().complete).map(|s| s.effective)
    };
    let mains: Vec<Place> = build.layout.of_kind(PlaceKind::Main).collect();
    let (first, last) = (mains.first()?, mains.last()?);
    let (front, rear) = (size(first)?, size(last)?);
    let (under, larger, smaller) = if front < rear { (*first, rear, front) } else { (*last, front, rear) };
    let by = packing(larger, smaller, v).filter(|by| *by >= Length::microns(1))?;
    Some(Packing { under, by, v })
}

/// The turn of every main and both ends, told apart; the crank lies on blocks whose V has that angle in degrees.
pub fn straightness(build: &Build, figures: &[FigureAssessment], v: f64) -> Straightness {
    let turned = |f: &FigureAssessment| {
        let turn = f.part(TURN, Read::Turn);
        let clock = turn
            .positions
            .iter()
            .filter_map(|p| Some(ClockReading { angle: f64::from(p.position.angle), value: p.value?.as_f64() }));
        let found = throw(&clock.collect::<Vec<_>>()).filter(|_| turn.complete)?;
        Some((f.station, turn.size.as_ref()?.largest - turn.size.as_ref()?.smallest, found))
    };
    let is_turned = |f: &FigureAssessment| f.figure.inputs().iter().any(|input| input.role == TURN);
    let runout = |p: &Place| figures.iter().find(|f| f.station == *p && is_turned(f));
    // From the front. Both ends overhang: they bend nothing between the mains, so that the bow is of the mains alone.
    let mains = build.layout.of_kind(PlaceKind::Main);
    let places: Vec<Place> = [Place::NOSE].into_iter().chain(mains).chain([Place::FLANGE]).collect();
    let is_main = |p: &Place| p.kind() == PlaceKind::Main;
    let all: Vec<(Place, Length, Throw)> = places.iter().filter_map(|p| turned(runout(p)?)).collect();
    let turned_mains: Vec<&(Place, Length, Throw)> = all.iter().filter(|(p, ..)| is_main(p)).collect();
    let stations: Vec<(f64, [f64; 2])> = turned_mains.iter().map(|(p, _, t)| (f64::from(p.number()), t.by)).collect();
    let bowed = bow(&stations);
    let limit_at = |p: &Place| runout(p)?.target.as_ref().map(|t| t.window.high);
    // Off by a vector, an indicator shows twice its length.
    let shown = |by: [f64; 2]| Length::from_f64(2.0 * by[0].hypot(by[1]));
    let one = |(at, travel, found): &(Place, Length, Throw)| {
        let bend = Length::from_f64(2.0 * found.eccentricity())?;
        let clearance = figures.iter().find(|f| f.figure == Figure::OIL_CLEARANCE && f.station == *at);
        let journal = clearance.and_then(|f| f.journal().size.as_ref());
        let nth = turned_mains.iter().position(|(p, ..)| p == at);
        let here = bowed.as_ref().zip(nth).and_then(|(all, i)| all.get(i));
        let limit = limit_at(at);
        let over = |l: Length| limit.is_some_and(|limit| l > limit);
        Some(MainThrow {
            at: *at,
            travel: *travel,
            bend,
            high_side: direction(found.by).round() as i16,
            oval: found.oval.and_then(Length::from_f64),
            out_of_round: journal.map(|size| size.out_of_round),
            bow: here.and_then(|(bow, _)| shown(*bow)),
            step: here.and_then(|(_, step)| shown((*step)?)),
            bent: over(bend),
            oval_only: over(*travel) && !over(bend),
        })
    };
    let mains: Vec<MainThrow> = all.iter().filter_map(one).collect();
    let limit = places.iter().filter(|p| is_main(p)).find_map(limit_at);
    let asked = |p: &Place| is_main(p) || limit_at(p).is_some();
    let open = places.into_iter().filter(|p| asked(p) && mains.iter().all(|m| m.at != *p)).collect();
    Straightness { limit, mains, open, packing: packed(build, figures, v) }
}
