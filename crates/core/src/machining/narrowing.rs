//! How to narrow the rods of a pin that have too little room beside them: what comes off which face, pass by pass.
//!
//! * Weight off: the ring of the face times what comes off it times the density of the rod; the balancer has to know.
//! * Rods that grow otherwise than their crank change what is beside them hot: `pin width x alpha crank x dT - the widths of
//!   the rods x alpha rod x dT`.
//!
//! The rods' own widths are what is cut, so they have to be measured; a pin that was only gauged by blades says how much room
//! there is, not whose it is.
use thiserror::Error;

use crate::build::Build;
use crate::engine::{Figure, Place, Read, Role};
use crate::evidence::Size;
use crate::figure::FigureAssessment;
use crate::maths::{Face, Material, Narrowing, NarrowingPlan, NoNarrowing, RodWidth, Share, Split, narrow};
use crate::units::Length;

/// What is asked beside what was measured.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct NarrowingWish {
    /// Most that a pass takes.
    pub rough: Length,
    /// What the last pass takes.
    pub finish: Length,
    /// Whether the slide's dial counts diameters, so that it shows twice the way.
    pub dial_in_diameter: bool,
    /// For beams that shall stand over their pistons: how far the axes of both cylinders stand apart; nothing for an even
    /// split.
    pub bank_offset: Option<Length>,
    /// From the front face of each rod to the plane of its beam, from the front; empty for an even split.
    pub beams: Vec<Length>,
    /// What a fillet-side face can give at most, such as by its chamfer.
    pub most_a_face: Option<Length>,
    /// Outside and inside diameter of the ring that is faced, for the weight that comes off.
    pub ring: Option<[Length; 2]>,
}

/// A cut of a facing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FacingPass {
    /// What it takes.
    pub cut: Length,
    /// What the dial shows after it, from where it touched.
    pub dial: Length,
}

/// What comes off one face.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FacePlan {
    /// In all.
    pub off: Length,
    /// Cut by cut; a spring pass repeats the last.
    pub passes: Vec<FacingPass>,
}

/// One rod of a plan.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RodPlan {
    /// Which.
    pub rod: Place,
    /// Its width as it is.
    pub now: Length,
    /// Its front face.
    pub front: FacePlan,
    /// Its rear face.
    pub rear: FacePlan,
    /// Its width after that.
    pub width: Length,
    /// What it loses, in milligrams, where the ring that is faced is known.
    pub mass_off: Option<i64>,
}

/// How to narrow the rods of a pin.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RodNarrowing {
    /// The sides that get room.
    pub at: Place,
    /// Their clearance as it is, from the widths.
    pub now: Length,
    /// What is wanted.
    pub aim: Length,
    /// What comes off in all.
    pub removal: Length,
    /// The clearance after that.
    pub clearance: Length,
    /// What then lacks to the aim.
    pub short: Length,
    /// By how much the clearance changes when rods of another metal than the crank are 80 kelvin warmer; absent of steel rods.
    pub hot_change: Option<Length>,
    /// The rods, from the front.
    pub rods: Vec<RodPlan>,
}

/// Why there is no plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum NoRodNarrowing {
    /// Not the sides of rods.
    #[error("{0} is not where rods stand beside each other")]
    NotSides(Place),
    /// No window to aim at.
    #[error("the side clearance has no target yet")]
    NoTarget,
    /// The width of the pin, or of a rod, is not known.
    #[error("measure the width of {0} first, caps torqued: blades say how much room there is, not whose it is")]
    NotMeasured(Place),
    /// A beam for each rod is needed.
    #[error("say where the beam of each rod stands, from its front face")]
    Beams,
    /// Beams alone do not say where two pistons stand.
    #[error("say how far the axes of both cylinders stand apart: the beams are split by that")]
    BankOffset,
    /// One rod or two can be split by their beams.
    #[error("one rod or two can be split by their beams")]
    TooManyForBeams,
    /// Nothing would be left of a rod, or a cut is too fine.
    #[error("nothing useful would be left: look at the figures again")]
    Impossible,
}

const PIN_WIDTH: Role = Role::new("pin_width");
const ROD_WIDTH: Role = Role::new("rod_width");

/// The plan for the rods on a pin, to the aim of their side clearance.
///
/// # Errors
/// [`NoRodNarrowing`] where something it takes is not known.
pub fn narrow_rods(
    build: &Build,
    figures: &[FigureAssessment],
    at: Place,
    wish: &NarrowingWish,
) -> Result<RodNarrowing, NoRodNarrowing> {
    let figure = figures.iter().find(|f| f.figure == Figure::ROD_SIDE && f.station == at);
    let figure = figure.ok_or(NoRodNarrowing::NotSides(at))?;
    let aim = figure.target.as_ref().ok_or(NoRodNarrowing::NoTarget)?.window.aim;
    let size = |role, place| {
        let m = figure.measured.iter().find(|m| m.role == role && m.place == place && m.read == Read::Size);
        m.filter(|m| m.size.complete).and_then(|m| m.size.size.as_ref()).ok_or(NoRodNarrowing::NotMeasured(place))
    };
    let middle = |s: &Size| Length::mean(&[s.smallest, s.largest]).unwrap_or(s.effective);
    let pin = middle(size(PIN_WIDTH, at)?);
    let places: Vec<Place> = build.layout.places_with(at, ROD_WIDTH).collect();
    let rods: Vec<RodWidth> = places
        .iter()
        .enumerate()
        .map(|(i, rod)| {
            let (width, most) = (middle(size(ROD_WIDTH, *rod)?), wish.most_a_face);
            Ok(RodWidth { width, front_max: most, rear_max: most, beam: wish.beams.get(i).copied() })
        })
        .collect::<Result<_, NoRodNarrowing>>()?;
    let split = match wish.bank_offset {
        Some(bank_offset) => Split::Beam { bank_offset },
        None if wish.beams.is_empty() => Split::Even,
        // A rod alone on its pin stands over its piston in the middle of it.
        None if rods.len() == 1 => Split::Beam { bank_offset: Length::ZERO },
        None => return Err(NoRodNarrowing::BankOffset),
    };
    let wanted = Narrowing { aim, rough: wish.rough, finish: wish.finish, split };
    let plan = narrow(pin, &rods, wanted).map_err(|why| match why {
        NoNarrowing::BeamUnknown(_) => NoRodNarrowing::Beams,
        NoNarrowing::TooManyForBeams => NoRodNarrowing::TooManyForBeams,
        NoNarrowing::NothingLeft(_) | NoNarrowing::TooManyPasses => NoRodNarrowing::Impossible,
    })?;
    let widths: Vec<Length> = rods.iter().map(|r| r.width).collect();
    let metal = build.layout.rods.as_ref().map_or(Material::Steel, |rods| rods.material);
    let narrowed: Length = plan.rods.iter().map(|r| r.width.length()).fold(Length::ZERO, |sum, width| sum + width);
    let hot_change = (metal != Material::Steel).then(|| {
        let grown = |width: Length, metal: Material| width.as_f64() * metal.alpha() * WARMER_BY_K;
        Length::from_f64(grown(pin, Material::Steel) - grown(narrowed, metal)).unwrap_or_default()
    });
    Ok(RodNarrowing { hot_change, ..shown(at, aim, (&places, &widths), (&plan, metal), wish) })
}

/// How much warmer rods and crank run than the bench, in kelvin.
const WARMER_BY_K: f64 = 80.0;

/// What a ring of that metal weighs by which a face goes back, in milligrams.
fn ring_mass([outside, inside]: [Length; 2], off: Length, metal: Material) -> Option<i64> {
    let square_mm = |d: Length| std::f64::consts::FRAC_PI_4 * (d.as_f64() / 1e6).powi(2);
    let cubic_mm = (square_mm(outside) - square_mm(inside)) * off.as_f64() / 1e6;
    // A gram a cubic centimetre is a milligram a cubic millimetre.
    Length::from_f64((cubic_mm * metal.density()).max(0.0)).map(Length::nm)
}

fn shown(
    at: Place,
    aim: Length,
    (places, widths): (&[Place], &[Length]),
    (plan, metal): (&NarrowingPlan, Material),
    wish: &NarrowingWish,
) -> RodNarrowing {
    let shows = if wish.dial_in_diameter { 2 } else { 1 };
    let pass = |(cut, sum): &(Share, Share)| FacingPass { cut: cut.length(), dial: sum.times(shows).length() };
    let face = |f: &Face| FacePlan { off: f.off.length(), passes: f.passes.iter().map(pass).collect() };
    let each = places.iter().zip(widths).zip(&plan.rods);
    let rods = each.map(|((rod, now), planned)| RodPlan {
        rod: *rod,
        now: *now,
        front: face(&planned.front),
        rear: face(&planned.rear),
        width: planned.width.length(),
        mass_off: wish.ring.and_then(|ring| ring_mass(ring, *now - planned.width.length(), metal)),
    });
    RodNarrowing {
        at,
        now: plan.clearance.length() - plan.removal.length(),
        aim,
        removal: plan.removal.length(),
        clearance: plan.clearance.length(),
        short: plan.short.length(),
        hot_change: None,
        rods: rods.collect(),
    }
}
