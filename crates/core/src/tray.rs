//! A tray of shells whose walls were measured one by one, and which of them go into which housing.
//!
//! `clearance = housing - journal - upper wall - lower wall`; the housing by the mean of its places, since the
//! crushed shells fill the whole of it. The choice itself is [`crate::select::measured`].

use serde::{Deserialize, Serialize};
use thiserror::Error;

use crate::Length;
use crate::assessment::{Assessment, FeatureAssessment, FeatureSize, StationAssessment};
use crate::build::Build;
use crate::methods::{gauge_behind, warmth};
use crate::select::measured::{Place, Tray as Choice, select};
use crate::select::shells::SelectError;
use crate::select::{Quality, USUAL_EFFORT};
use crate::session::Sessions;
use crate::shell::Half;
use crate::station::{BearingRow, Station};
use crate::target::Target;
use crate::uncertainty::{Means, Touched, Wall};
use crate::verdict::{Side, State, Window, verdict};

/// One half on the tray.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrayShell {
    /// What is scribed on its back.
    pub mark: String,
    /// Upper or lower.
    pub half: Half,
    /// Its wall at the middle.
    pub wall: Length,
}

/// A tray for a row of bearings.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tray {
    /// The row.
    pub row: BearingRow,
    /// The gauge the walls were measured with, by its identifier in the build.
    pub gauge: String,
    /// The halves.
    pub shells: Vec<TrayShell>,
}

/// Most halves of one kind on a tray: what the choice is made for.
pub const MOST_ON_A_TRAY: usize = 64;

impl Tray {
    /// Whether it can be: every half marked once, upper or lower, with a wall; not too many of them.
    pub fn is_sound(&self) -> bool {
        let shell = |s: &TrayShell| {
            let mark = s.mark.trim();
            let wall = s.wall > Length::ZERO && s.wall <= Length::microns(20_000);
            !mark.is_empty() && mark.chars().count() <= 20 && s.half != Half::Either && wall
        };
        let count = |half| self.shells.iter().filter(|s| s.half == half).count();
        let once = (1..self.shells.len()).all(|i| self.shells[..i].iter().all(|s| s.mark != self.shells[i].mark));
        self.shells.iter().all(shell)
            && once
            && [Half::Upper, Half::Lower].into_iter().all(|h| count(h) <= MOST_ON_A_TRAY)
    }
}

/// The pair chosen for one housing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TrayPlace {
    /// The bearing.
    pub station: Station,
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
    pub open: Vec<Station>,
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
pub enum NoChoice {
    /// No bearing has both its housing and its journal.
    #[error("no bearing of the row has its housing and its journal measured yet")]
    NothingMeasured,
    /// Too few halves.
    #[error(transparent)]
    Select(#[from] SelectError),
}

/// What the crushed shells fill: the mean of the places that count, not the narrowest.
pub(crate) fn mean_housing(feature: &FeatureAssessment) -> Option<(Length, &FeatureSize)> {
    let size = feature.size.as_ref().filter(|_| feature.complete)?;
    let values: Vec<Length> = feature.positions.iter().filter(|p| !p.advisory).filter_map(|p| p.value).collect();
    Some((Length::mean(&values)?, size))
}

struct Seat<'a> {
    station: &'a StationAssessment,
    target: Target,
    housing: (Length, &'a FeatureSize),
    journal: &'a FeatureSize,
}

/// The best pairs of a tray for a row, proven.
///
/// # Errors
/// [`NoChoice`] when nothing is measured or there are not enough halves.
pub fn choose(build: &Build, assessed: &Assessment, tray: &Tray) -> Result<TrayProposal, NoChoice> {
    let seat = |station| {
        let s: &StationAssessment = station;
        let journal = s.journal.size.as_ref().filter(|_| s.journal.complete)?;
        Some(Seat { station: s, target: s.target.as_ref()?.window, housing: mean_housing(&s.housing)?, journal })
    };
    let row = || assessed.stations.iter().filter(|s| s.station.row() == tray.row);
    let seats: Vec<Seat<'_>> = row().filter_map(seat).collect();
    if seats.is_empty() {
        return Err(NoChoice::NothingMeasured);
    }
    let halves = |half| tray.shells.iter().filter(|s| s.half == half).collect::<Vec<_>>();
    let (uppers, lowers) = (halves(Half::Upper), halves(Half::Lower));
    let choice = Choice {
        places: seats.iter().map(|s| Place { base: s.housing.0 - s.journal.effective, target: s.target }).collect(),
        uppers: uppers.iter().map(|s| s.wall).collect(),
        lowers: lowers.iter().map(|s| s.wall).collect(),
    };
    let selection = select(&choice, USUAL_EFFORT)?;
    let sessions = Sessions::of(&build.notes());
    let place = |(seat, pick): (&Seat<'_>, &crate::select::measured::Pick)| {
        let (upper, lower) = (uppers[pick.upper].clone(), lowers[pick.lower].clone());
        let expanded = doubt(build, &sessions, seat, &tray.gauge)?;
        let window = Window::between(seat.target.low, seat.target.high)?;
        let v = verdict(pick.clearance, pick.clearance, expanded, window, assessed.rules.acceptance);
        Some(TrayPlace {
            station: seat.station.station,
            housing: seat.housing.0,
            journal: seat.journal.effective,
            target: seat.target,
            upper,
            lower,
            clearance: pick.clearance,
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
        worst,
        total,
        proven: selection.proven,
        gap: selection.gap,
    })
}

/// How sure a clearance from measured parts is: the same budget as that of the components method.
fn doubt(build: &Build, sessions: &Sessions, seat: &Seat<'_>, gauge: &str) -> Option<Length> {
    let touched = |size| Some(Touched { gauge: gauge_behind(build, sessions, size)?, touches: size.touches });
    let wall = Wall::Measured(Touched { gauge: build.gauge(gauge)?, touches: 1 });
    let means = Means::Components {
        journal: touched(seat.journal)?,
        housing: touched(seat.housing.1)?,
        upper: wall,
        lower: wall,
    };
    let noted = seat.journal.noted_temperatures && seat.housing.1.noted_temperatures;
    Some(means.budget(warmth(build, build.rules_now(), seat.station.station, noted).standard()).expanded)
}
