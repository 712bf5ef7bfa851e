//! A tray of shells whose walls were measured one by one, and which of them go into which housing.
//!
//! `clearance = housing - journal - upper wall - lower wall`; the housing by the mean of its places, since the
//! crushed shells fill the whole of it. The choice itself is [`jagged_pin_search::measured`].
use jagged_pin_search::by_class::SelectError;
use jagged_pin_search::one_by_one::{Housing, Tray as Choice, select};
use jagged_pin_search::{Quality, USUAL_EFFORT};
use serde::Serialize;
use thiserror::Error;

use crate::assess::Assessment;
use crate::build::Build;
use crate::engine::{Characteristic, Method, Place, Role, Term};
use crate::evidence::{Sessions, Size, gauge_behind, mean_housing};
use crate::figure::{Basis, FigureAssessment, Known, MeasuredBy, warmth};
use crate::log::{Tray, TrayShell};
use crate::maths::{Side, State, Target, Window, verdict};
use crate::shells::Half;
use crate::units::Length;

/// The pair chosen for one housing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrayPlace {
    /// The bearing.
    pub station: Place,
    /// Its housing.
    pub housing: Length,
    /// Its journal.
    pub journal: Length,
    /// Its window and aim.
    pub target: Target,
    /// The upper.
    pub upper: TrayShell,
    /// The lower.
    pub lower: TrayShell,
    /// The clearance expected.
    pub clearance: Length,
    /// How sure that is.
    pub expanded: Length,
    /// The state expected.
    pub state: State,
    /// The limit that is nearest.
    pub nearest: Side,
}

/// A choice from a tray, with its proof.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrayProposal {
    /// Each bearing whose housing and journal are measured.
    pub places: Vec<TrayPlace>,
    /// Bearings that are left out.
    pub open: Vec<Place>,
    /// Bearings that would be outside.
    pub outside: usize,
    /// The largest distance from the aim.
    pub worst: Length,
    /// All distances added.
    pub total: Length,
    /// Whether nothing better exists.
    pub proven: bool,
    /// How much the worst distance might still shrink.
    pub gap: Length,
    /// Halves that stay on the tray, by their marks.
    pub spare: Vec<String>,
}

/// Why nothing is chosen.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
pub enum NoTrayChoice {
    /// No bearing has both its housing and its journal.
    #[error("no bearing of the row has its housing and its journal measured yet")]
    NothingMeasured,
    /// Too few halves.
    #[error(transparent)]
    Select(#[from] SelectError),
}

struct Seat<'a> {
    station: &'a FigureAssessment,
    target: Target,
    housing: (Length, &'a Size),
    journal: &'a Size,
}

/// The best pairs of a tray for a row, proven.
///
/// # Errors
/// [`NoTrayChoice`] when nothing is measured or there are not enough halves.
pub fn choose_from_tray(build: &Build, assessed: &Assessment, tray: &Tray) -> Result<TrayProposal, NoTrayChoice> {
    let seat = |station| {
        let s: &FigureAssessment = station;
        let journal = s.journal().size.as_ref().filter(|_| s.journal().complete)?;
        Some(Seat { station: s, target: s.target.as_ref()?.window, housing: mean_housing(s.housing())?, journal })
    };
    let row = || assessed.bearings_of(tray.row);
    let seats: Vec<Seat<'_>> = row().filter_map(seat).collect();
    if seats.is_empty() {
        return Err(NoTrayChoice::NothingMeasured);
    }
    let halves = |half| tray.shells.iter().filter(|s| s.half == half).collect::<Vec<_>>();
    let (uppers, lowers) = (halves(Half::Upper), halves(Half::Lower));
    let choice = Choice {
        places: seats
            .iter()
            .map(|s| Housing { base: (s.housing.0 - s.journal.effective).nm(), target: s.target.into() })
            .collect(),
        uppers: uppers.iter().map(|s| s.wall.nm()).collect(),
        lowers: lowers.iter().map(|s| s.wall.nm()).collect(),
    };
    let selection = select(&choice, USUAL_EFFORT)?;
    let sessions = Sessions::of(&build.notes(), build.rules_now().reckoning);
    let place = |(seat, pick): (&Seat<'_>, &jagged_pin_search::one_by_one::Pick)| {
        let (upper, lower) = (uppers[pick.upper].clone(), lowers[pick.lower].clone());
        let clearance = Length::from_nm(pick.clearance);
        let expanded = doubt(build, &sessions, seat, &tray.gauge)?;
        let window = Window::between(seat.target.low, seat.target.high)?;
        let v = verdict(clearance, clearance, expanded, window, assessed.rules.acceptance);
        Some(TrayPlace {
            station: seat.station.station,
            housing: seat.housing.0,
            journal: seat.journal.effective,
            target: seat.target,
            upper,
            lower,
            clearance,
            expanded,
            state: v.state,
            nearest: v.nearest,
        })
    };
    let places: Vec<TrayPlace> = seats.iter().zip(&selection.picks).filter_map(place).collect();
    let used = |s: &&TrayShell| places.iter().any(|p| p.upper.mark == s.mark || p.lower.mark == s.mark);
    let Quality { outside, worst, total } = selection.quality;
    Ok(TrayProposal {
        open: row().map(|s| s.station).filter(|s| seats.iter().all(|seat| seat.station.station != *s)).collect(),
        spare: tray.shells.iter().filter(|s| !used(s)).map(|s| s.mark.clone()).collect(),
        places,
        outside,
        worst: Length::from_nm(worst),
        total: Length::from_nm(total),
        proven: selection.proven,
        gap: Length::from_nm(selection.gap),
    })
}

/// How sure a clearance from measured parts is: the same budget as that of the components method.
fn doubt(build: &Build, sessions: &Sessions, seat: &Seat<'_>, gauge: &str) -> Option<Length> {
    let of = |size: &crate::evidence::Size| Some(MeasuredBy::of(gauge_behind(build, sessions, size)?, size));
    let figure = seat.station.figure;
    let method = figure.method(Method::COMPONENTS)?;
    let known = |term: &Term| {
        let by = match term.role {
            role if role == Role::JOURNAL => of(seat.journal)?,
            role if role == Role::HOUSING => of(seat.housing.1)?,
            _ => MeasuredBy {
                gauge: build.gauge(gauge)?,
                touches: 1,
                size: Length::ZERO,
                interval: None,
                proves: false,
                open: None,
            },
        };
        Some(Known::Measured(by))
    };
    let known = method.terms.iter().map(known).collect::<Option<Vec<_>>>()?;
    let basis =
        Basis { method, terms: method.terms.iter().collect(), known, zero: None, weights: None, pull: Length::ZERO };
    let noted = seat.journal.noted_temperatures && seat.housing.1.noted_temperatures;
    let place = seat.station.station;
    let parts = figure.inputs().iter().filter_map(|input| {
        let at = build.layout.places_with(place, input.role).next()?;
        Characteristic::at(at, input.role)
    });
    Some(basis.budget(warmth(build, build.rules_now(), place, parts, noted).standard()).expanded)
}
