//! What stands beside a fillet, true to its sizes, and how to narrow a shell that rides on it.
//!
//! A shell is narrowed by the least that clears: the corner of its chamfer, and its flat beyond the end of the arc. What a
//! maker's number claims of a narrow series is computed like any other edge, never believed.
use thiserror::Error;

use super::narrowing::FacingPass;
use crate::build::Build;
use crate::engine::{Axial, Characteristic, Figure, Place, Read, Role};
use crate::figure::FigureAssessment;
use crate::maths::{
    Corner, FilletEdge, body_room, edge_room, facing_passes, fillet, usual_fillet_margin, usual_flat_margin,
};
use crate::units::Length;

const RADIUS: Role = Role::new("fillet_radius");
const INSET: Role = Role::new("shell_inset");
const ALONG: Role = Role::new("edge_along");
const UP: Role = Role::new("edge_up");
const STANDOFF: Role = Role::new("saddle_gap");
const BODY_ALONG: Role = Role::new("body_along");
const BODY_UP: Role = Role::new("body_up");

/// What is asked beside what was measured.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct FilletWish {
    /// Which end of the journal.
    pub end: Axial,
    /// Width over which the shell bears, for what narrowing costs.
    pub contact: Option<Length>,
    /// How much farther in a narrow series says that its edge stands.
    pub claimed: Option<Length>,
    /// Most that a pass takes.
    pub rough: Length,
    /// What the last pass takes.
    pub finish: Length,
    /// Thickness of the tape between shell and mandrel; nothing where none is wound on.
    pub tape: Length,
}

/// An edge beside a fillet, measured from the face of the cheek and from the journal.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Edge {
    /// From the cheek to the edge.
    pub inset: Length,
    /// From the cheek to where its flat begins.
    pub flat: Length,
    /// Height of its outer corner over the journal.
    pub corner: Length,
    /// Its room, as it is judged: negative where it rides on the arc.
    pub room: Length,
    /// What the outer corner of its chamfer has by itself.
    pub corner_room: Length,
    /// Whether the room is as much as is wanted.
    pub clears: bool,
}

/// What narrowing a shell costs, in thousandths.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NarrowingCost {
    /// Width over which it bears then.
    pub contact: Length,
    /// Share of the width that is lost.
    pub lost: u32,
    /// By how much the load on the rest rises.
    pub load: u32,
    /// Whether so much is the lead's to decide.
    pub ask_the_lead: bool,
}

/// The rod's own edge beside a fillet.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BodyEdge {
    /// Its chamfer along the axis.
    pub along: Length,
    /// Its chamfer across.
    pub up: Length,
    /// Its room.
    pub room: Length,
    /// Whether that is as much as is wanted.
    pub clears: bool,
}

/// One end of a journal with what stands beside it.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FilletPlan {
    /// Whose fillets.
    pub at: Place,
    /// Which end.
    pub end: Axial,
    /// The radius.
    pub radius: Length,
    /// What the shell's rod or saddle stands off the cheek at the worst.
    pub standoff: Length,
    /// The wall of the shell, where it is known.
    pub wall: Option<Length>,
    /// The shell's edge as it is.
    pub now: Edge,
    /// The room that is wanted.
    pub margin: Length,
    /// How far beyond the arc the flat begins once it is cut: as its target says, else ten thou or a quarter of a millimetre.
    pub beyond: Option<Length>,
    /// What is taken off the edge: the least that clears.
    pub take: Length,
    /// The edge after that.
    pub after: Edge,
    /// Cut by cut; a spring pass repeats the last.
    pub passes: Vec<FacingPass>,
    /// What it costs, where the width is known.
    pub cost: Option<NarrowingCost>,
    /// What the mandrel for the shell is turned to when cool: below the shell's bore, as measured or else by the drawing, less the
    /// tape on both sides.
    pub mandrel: Option<Length>,
    /// The edge of a narrow series as its maker claims it.
    pub claimed: Option<Edge>,
    /// The rod's own edge, where it was measured.
    pub body: Option<BodyEdge>,
}

/// Why there is no section.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum NoFillet {
    /// Not where fillets are.
    #[error("{0} has no fillets: they are called FM1, ... and FP1, ...")]
    NotFillets(Place),
    /// An end that a journal does not have.
    #[error("a journal has fillets at its front and at its rear")]
    NoSuchEnd,
    /// Something of the edge is not measured.
    #[error("measure the radius and the edge of the shell at that end first: R, i, a and r")]
    NotMeasured,
    /// A radius larger than everything around it, or cuts that are too fine.
    #[error("nothing useful would be left: look at the figures again")]
    Impossible,
}

/// Loss of width, in thousandths, above which the lead decides.
const LEAD_DECIDES: i128 = 100;

/// Under the bore of the shell: it slides on and does not tilt.
const MANDREL_UNDER: Length = Length::tenths(15);

/// The section at one end of a journal, and the plan that clears it.
///
/// # Errors
/// [`NoFillet`] where something it takes is not known.
pub fn plan_fillet(
    build: &Build,
    figures: &[FigureAssessment],
    at: Place,
    wish: &FilletWish,
) -> Result<FilletPlan, NoFillet> {
    let room =
        figures.iter().find(|f| f.figure == Figure::FILLET_ROOM && f.station == at).ok_or(NoFillet::NotFillets(at))?;
    if wish.end == Axial::Middle {
        return Err(NoFillet::NoSuchEnd);
    }
    let radius = measured(room, RADIUS, wish.end).ok_or(NoFillet::NotMeasured)?;
    let of_shell = |role| measured(room, role, wish.end).ok_or(NoFillet::NotMeasured);
    let standoff = measured(room, STANDOFF, wish.end).unwrap_or_default();
    let edge = FilletEdge {
        inset: of_shell(INSET)? + standoff,
        chamfer_axial: of_shell(ALONG)?,
        chamfer_radial: of_shell(UP)?,
        film: Length::ZERO,
    };
    let margin = room.target.as_ref().map_or_else(|| usual_fillet_margin(build.unit), |t| t.window.low);
    let flat = figures.iter().find(|f| f.figure == Figure::FILLET_FLAT && f.station == at);
    let asked = flat.and_then(|f| f.target.as_ref()).map(|t| t.window.low);
    // What is cut anyway is cut so that the flat begins well beyond the arc; what clears is left as it is.
    let cut = fillet(radius, edge, margin, asked).extra_inset > Length::ZERO;
    let beyond = asked.or(cut.then(|| usual_flat_margin(build.unit)));
    let take = fillet(radius, edge, margin, beyond).extra_inset;
    let shown = |more: Length| shown(radius, FilletEdge { inset: edge.inset + more, ..edge }, margin);
    let passes = facing_passes(take, wish.rough, wish.finish).ok_or(NoFillet::Impossible)?;
    let wall = build.layout.nominals(at.row()).map(|n| n.wall);
    let body = figures
        .iter()
        .find(|f| f.station == at && f.figure != Figure::FILLET_ROOM && f.part(BODY_UP, Read::Size).complete);
    let body = body.and_then(|f| Some((measured(f, BODY_ALONG, wish.end)?, measured(f, BODY_UP, wish.end)?)));
    Ok(FilletPlan {
        at,
        end: wish.end,
        radius,
        standoff,
        wall,
        now: shown(Length::ZERO).ok_or(NoFillet::Impossible)?,
        margin,
        beyond,
        take,
        after: shown(take).ok_or(NoFillet::Impossible)?,
        passes: passes.into_iter().map(|(cut, dial)| FacingPass { cut, dial }).collect(),
        cost: wish.contact.filter(|_| take > Length::ZERO).and_then(|contact| cost(contact, take)),
        mandrel: shell_bore(build, figures, at).map(|bore| bore - MANDREL_UNDER - wish.tape - wish.tape),
        claimed: wish.claimed.and_then(shown),
        body: body.zip(wall).and_then(|((along, up), wall)| {
            let room = Length::from_f64(body_room(radius, (along, up), wall))?;
            Some(BodyEdge { along, up, room, clears: room >= margin })
        }),
    })
}

/// The value of something at one end.
fn measured(figure: &FigureAssessment, role: Role, end: Axial) -> Option<Length> {
    let of_role = figure.measured.iter().filter(|m| m.role == role);
    of_role.flat_map(|m| &m.size.positions).find(|p| p.position.axial == end)?.value
}

fn shown(radius: Length, edge: FilletEdge, margin: Length) -> Option<Edge> {
    let outer = Corner { x: edge.inset, y: edge.film + edge.chamfer_radial };
    // An edge whose flat stands beyond the arc has only its corner near it.
    let corner_only = FilletEdge { chamfer_axial: radius.max(edge.chamfer_axial), ..edge };
    let room = Length::from_f64(edge_room(radius, edge))?;
    Some(Edge {
        inset: edge.inset,
        flat: edge.inset + edge.chamfer_axial,
        corner: outer.y,
        room,
        clears: room >= margin,
        corner_room: Length::from_f64(edge_room(radius, corner_only))?,
    })
}

/// What is lost of a width, and how much more the rest carries.
fn cost(contact: Length, take: Length) -> Option<NarrowingCost> {
    let (width, off) = (i128::from(contact.nm()), i128::from(take.nm()));
    let left = width.checked_sub(off).filter(|left| *left > 0)?;
    // To the nearest thousandth: 8.39 per cent is not 8.3.
    let thousandths =
        |of: i128, whole: i128| of.checked_mul(2_000)?.checked_add(whole)?.checked_div(whole.checked_mul(2)?);
    let (lost, load) = (thousandths(off, width)?, thousandths(off, left)?);
    Some(NarrowingCost {
        contact: contact - take,
        lost: u32::try_from(lost).ok()?,
        load: u32::try_from(load).ok()?,
        ask_the_lead: lost > LEAD_DECIDES,
    })
}

/// The bore of the shells on that journal: as measured, else what the drawing leaves between two walls in their housing.
fn shell_bore(build: &Build, figures: &[FigureAssessment], at: Place) -> Option<Length> {
    let bearing = build.layout.bearing_on(at);
    let clearance = figures.iter().find(|f| f.figure == Figure::OIL_CLEARANCE && f.station == bearing)?;
    let of_bore = |m: &&crate::figure::Measured| Characteristic::at(bearing, Role::BORE) == Some(m.characteristic);
    let measured = clearance.measured.iter().filter(of_bore).find_map(|m| m.size.size.as_ref()).map(|s| s.smallest);
    measured.or_else(|| build.layout.nominals(at.row()).map(|n| n.housing - n.wall - n.wall))
}
