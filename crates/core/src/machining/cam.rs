//! Fitting a cam: which of its journals are polished, by how much, and which bind however good their sizes look.
use super::polish_log::{LearnedPolish, Polished, learned, polish_log};
use super::trials::{TrialRead, trials};
use crate::build::Build;
use crate::engine::{Figure, Place, PlaceKind, Read, Role};
use crate::figure::FigureAssessment;
use crate::maths::{CamFit, CamJournal, ClockReading, Fit, Reach, cam_fit, throw};
use crate::units::Length;

const JOURNAL: Role = Role::new("cam_journal");
const TURN: Role = Role::new("cam_turn");

/// What a journal's figures come to.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum CamOutcome {
    /// It binds by its bend: straighten or replace first. Nothing is polished that a press may move.
    Straighten,
    /// It has no room at all and was never turned: whether by size or by a bend, only turning it tells.
    TurnFirst,
    /// Polish it down to its aim.
    PolishToAim,
    /// Polish it into its window, not to the aim: the hard skin is not deep enough.
    PolishIntoWindow,
    /// Polishing does not reach the window: another bush.
    OtherBush,
    /// It has room.
    Leave,
}

/// One journal of the cam.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CamJournalPlan {
    /// Which.
    pub at: Place,
    /// Its clearance as it is.
    pub clearance: Length,
    /// By how much it lies over its drawing, where it is tight: that is claimed before anything is touched.
    pub claim: Option<Length>,
    /// What it runs out by the indicator; absent where it was not turned.
    pub runout: Option<Length>,
    /// What is polished off its diameter: nothing while it is bent.
    pub removal: Length,
    /// The size to polish to.
    pub size: Length,
    /// Its clearance after that.
    pub after: Length,
    /// Grits that take that off, as the shop's own polishes went; absent while none was measured before and after.
    pub passes: Option<u16>,
    /// What it comes to.
    pub outcome: CamOutcome,
    /// What bend leaves of the clearance as it is.
    pub room_now: Length,
    /// What it leaves of the clearance after that.
    pub room: Length,
}

/// What fits a cam to its bearings.
#[derive(Debug, Clone, PartialEq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CamPlan {
    /// What may be polished off a diameter: as much as leaves half of the hard skin.
    pub most: Length,
    /// Every journal that is measured with its bearing and has a window, from the front.
    pub journals: Vec<CamJournalPlan>,
    /// Journals that are not.
    pub open: Vec<Place>,
    /// What it took to turn it, trial by trial.
    pub trials: Vec<TrialRead>,
    /// What polishes of this build teach: those of cam journals, else those of any.
    pub learned: Option<LearnedPolish>,
}

/// The plan for the cam of a build; `None` where the engine has no known cam.
pub fn fit_cam(build: &Build, figures: &[FigureAssessment]) -> Option<CamPlan> {
    let cam = build.layout.cam.as_ref()?;
    // On diameter, twice half of the depth.
    let most = cam.hardened.min(build.rules_now().cam_polish_limit());
    let of_cam = figures.iter().filter(|f| f.figure == Figure::CAM_CLEARANCE);
    let log = polish_log(build);
    let of_cams: Vec<Polished> = log.iter().filter(|p| p.at.kind() == PlaceKind::Cam).cloned().collect();
    let learned = learned(&of_cams).or_else(|| learned(&log));
    let mut plan = CamPlan { most, journals: Vec::new(), open: Vec::new(), trials: trials(build), learned };
    for figure in of_cam {
        match journal(build, figure, (most, learned)) {
            Some(planned) => plan.journals.push(planned),
            None => plan.open.push(figure.station),
        }
    }
    Some(plan)
}

fn journal(
    build: &Build,
    figure: &FigureAssessment,
    (most, learned): (Length, Option<LearnedPolish>),
) -> Option<CamJournalPlan> {
    let target = figure.target.as_ref()?.window;
    let method = figure.methods.iter().find(|m| m.complete)?;
    let size = figure.part(JOURNAL, Read::Size).size.as_ref()?.effective;
    let turned = figure.part(TURN, Read::Turn);
    // A bend takes room all the way round, an oval journal does not.
    let clock = turned.positions.iter().filter(|_| turned.complete);
    let clock =
        clock.filter_map(|p| Some(ClockReading { angle: f64::from(p.position.angle), value: p.value?.as_f64() }));
    let bend = throw(&clock.collect::<Vec<_>>()).and_then(|found| Length::from_f64(2.0 * found.eccentricity()));
    let runout = bend.filter(|_| turned.complete);
    // The clearance as it is judged, with what several places read too tight taken off.
    let bearing = size + method.clearance;
    let of = CamJournal { bearing, journal: size, target, tir: runout.unwrap_or_default(), offset: Length::ZERO };
    let fit = cam_fit(of, most);
    let CamFit { clearance, removal, after, reach, room, .. } = fit;
    let room_now = room - removal;
    let outcome = match reach {
        // A bend is what takes room that size leaves: without room there is nothing for it to take.
        _ if room_now <= Length::ZERO && clearance > Length::ZERO => CamOutcome::Straighten,
        Reach::Aim | Reach::Window | Reach::NotByPolish if runout.is_none() && clearance <= Length::ZERO => {
            CamOutcome::TurnFirst
        }
        Reach::Aim => CamOutcome::PolishToAim,
        Reach::Window => CamOutcome::PolishIntoWindow,
        Reach::NotByPolish => CamOutcome::OtherBush,
        Reach::None => CamOutcome::Leave,
    };
    let polished = matches!(outcome, CamOutcome::PolishToAim | CamOutcome::PolishIntoWindow);
    let (removal, after, room) = if polished { (removal, after, room) } else { (Length::ZERO, clearance, room_now) };
    let over = size - build.layout.own_nominal(figure.station).unwrap_or(size);
    Some(CamJournalPlan {
        at: figure.station,
        clearance,
        claim: (fit.fit == Fit::Tight && over > Length::ZERO).then_some(over),
        runout,
        removal,
        size: size - removal,
        after,
        passes: learned.filter(|_| removal > Length::ZERO).map(|l| l.passes(removal)),
        outcome,
        room_now,
        room,
    })
}
