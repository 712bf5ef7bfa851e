//! What the figures of a row of cylinders betray of how they were taken.
//!
//! * **Read off the box**: three or more pieces that show one and the same printed figure at every touch, touched so often that
//!   a hand would make as many touches alike less than once in a hundred rows. Matched pieces at their sheet's figure are what
//!   one pays for: only touches that never differ betray.
//! * **Directions exchanged**: cylinders wear and are honed alike; one that is wide the other way than all of the rest was
//!   touched with the names of the directions exchanged.
//! * **Plate forgotten**: a bore said to be read with the plate on that is round below and out of round at its top, where the
//!   others are round: that is what the plate would have pulled.
//! * **A piston apart**: pistons of a set differ by tenths. One that is several thou smaller than all others was touched across the
//!   pin or near the crown, where skirts are oval and tapered; or its skirt collapsed.
//! * **Touched in the ridge**: rings wear what they run on, most at the top. A top that is narrower than middle and bottom, across
//!   and along, lies over the rings' travel.
//! * **A gap in a tapered bore**: it opens by pi times what the bore does, so that a ring squared high reads a gap that is not there
//!   in the smallest part of its travel.
//! * **Ends that are not parallel**: two touches of one gap whose blades shut each other out were taken at different places of the
//!   ends, inside and outside, or with the ring at a slant. The narrow side is the one that touches first when hot.
use crate::build::Build;
use crate::engine::{Axial, Figure, Place, Position, Read, Role};
use crate::evidence::{Sessions, SizeAssessment, gauge_behind};
use crate::figure::{FigureAssessment, Finding, Measured};
use crate::log::Reckoning;
use crate::maths::Touching;
use crate::units::Length;

const BORE: Role = Role::new("cylinder");
const BARE: Role = Role::new("cylinder_bare");
const PISTON: Role = Role::new("piston");
/// Gaps that follow their bore.
const GAPS: [&str; 2] = ["top_ring_gap", "second_ring_gap"];

/// Pieces that read alike before it is said.
const ALIKE: usize = 3;
/// How rarely a hand may make so many touches alike before they are said to be read off.
const RARE: f64 = 0.01;
/// What a direction differs by before it is one.
const CLEAR: Length = Length::tenths(2);
/// What a plate leaves at the top when it is missing, and what a round top may have.
const PLATE: Length = Length::tenths(3);

/// What a piston lies under its set before it is said, and how far the rest of the set may spread.
const APART: Length = Length::tenths(40);
const SET: Length = Length::tenths(15);
/// What a ridge stands out by before it is one.
const RIDGE: Length = Length::tenths(5);
/// What a gap differs by along a bore before it matters: a blade.
const BLADE: Length = Length::tenths(10);

/// Puts what is betrayed with the figure of each cylinder it shows at.
pub(super) fn say_what_is_betrayed(
    (build, sessions): (&Build, &Sessions),
    reckoning: Reckoning,
    figures: &mut [FigureAssessment],
) {
    let walls: Vec<usize> = (0..figures.len()).filter(|i| figures[*i].figure == Figure::PISTON_TO_WALL).collect();
    let of: Vec<&FigureAssessment> = walls.iter().filter_map(|i| figures.get(*i)).collect();
    let printed = printed(build.layout.cylinders.as_ref().map(|c| c.bore), figures);
    let mut found: Vec<(usize, Finding)> = Vec::new();
    for role in [PISTON, BORE] {
        // By the first reckonings a printed figure was enough.
        let unlikely = |alike: &[&SizeAssessment]| {
            reckoning < Reckoning::Third || chance_of_alike((build, sessions), alike) < RARE
        };
        found.extend(copied(&of, role, &printed, unlikely));
    }
    found.extend(exchanged(&of));
    found.extend(without_plate(&of));
    found.extend(apart(&of));
    found.extend(of.iter().enumerate().filter_map(|(i, f)| Some((i, in_the_ridge(f)?))));
    let tapered: Vec<(Place, Finding)> = of.iter().filter_map(|f| Some((f.station, along_the_bore(f)?))).collect();
    for (i, finding) in found {
        if let Some(f) = walls.get(i).and_then(|at| figures.get_mut(*at)) {
            f.findings.push(finding);
        }
    }
    let gauged = |f: &&mut FigureAssessment| GAPS.contains(&f.figure.name()) && f.begun;
    for f in figures.iter_mut().filter(gauged) {
        f.findings.extend(tapered.iter().find(|(at, _)| *at == f.station).map(|(_, finding)| finding.clone()));
        f.findings.extend(ends_apart(f));
    }
}

/// The one piston that lies far under all others, where those are a set.
fn apart(of: &[&FigureAssessment]) -> Option<(usize, Finding)> {
    let size = |f: &FigureAssessment| {
        Some(f.part(PISTON, Read::Size)).filter(|p| p.complete)?.size.as_ref().map(|s| s.effective)
    };
    let mut sizes: Vec<(Length, usize)> = of.iter().enumerate().filter_map(|(i, f)| Some((size(f)?, i))).collect();
    sizes.sort_unstable();
    let ((smallest, at), rest) = sizes.split_first()?;
    let others: Vec<Length> = rest.iter().map(|(size, _)| *size).collect();
    let by = Length::median(&others)? - *smallest;
    let is_set = others.len() >= ALIKE.saturating_sub(1) && Length::span(others.iter().copied()) <= SET;
    (is_set && by >= APART).then_some((*at, Finding::PistonApart { by }))
}

/// What a bore measures at a depth, every way.
fn at_depth(size: &SizeAssessment, depth: Axial) -> Vec<Length> {
    size.positions.iter().filter(|p| p.position.axial == depth).filter_map(|p| p.value).collect()
}

/// A top that is narrower than anything below it, every way.
fn in_the_ridge(f: &FigureAssessment) -> Option<Finding> {
    let size = Some(bore(f)).filter(|size| size.complete)?;
    let top = at_depth(size, Axial::Front).into_iter().max()?;
    let below = [Axial::Middle, Axial::Rear].iter().flat_map(|depth| at_depth(size, *depth)).min()?;
    let by = below - top;
    (by >= RIDGE).then_some(Finding::TouchedInTheRidge { by })
}

/// What a bore that tapers makes of a gap, from its widest depth to its narrowest.
fn along_the_bore(f: &FigureAssessment) -> Option<Finding> {
    let size = Some(bore(f)).filter(|size| size.complete)?;
    let depths = [Axial::Front, Axial::Middle, Axial::Rear].map(|depth| Length::mean(&at_depth(size, depth)));
    let taper = Length::span(depths.into_iter().flatten());
    let by = Length::from_f64(std::f64::consts::PI * taper.as_f64())?;
    (by >= BLADE).then_some(Finding::GapFollowsTaper { by })
}

/// Touches of one gap that lie farther apart than the blades of one touch: each says that the gap is where the other says that it
/// is not.
fn ends_apart(f: &FigureAssessment) -> Option<Finding> {
    let of_gap = |p: &&Measured| p.read == Read::Blades && GAPS.contains(&p.role.name());
    let gap = &f.measured.iter().find(of_gap)?.size;
    let between = gap.size.as_ref()?.interval?;
    let by = gap.positions.iter().map(|p| p.spread).max()?;
    (by > between).then_some(Finding::GapEndsApart { by })
}

/// Figures that somebody printed: the bore as it is called, that less the aim, and what a piston's own sheet says.
fn printed(nominal: Option<Length>, figures: &[FigureAssessment]) -> Vec<Length> {
    let window = |name: &str| figures.iter().find(|f| f.figure.name() == name)?.target.as_ref().map(|t| t.window);
    let aim = window("piston_to_wall").map(|w| w.aim);
    let less = nominal.zip(aim).map(|(bore, aim)| bore - aim);
    let sheet = window("piston_size").into_iter().flat_map(|w| [w.low, w.aim, w.high]);
    nominal.into_iter().chain(less).chain(sheet).collect()
}

/// The one value that every place of a size shows, touched more than once without any spread.
fn one_value(size: &SizeAssessment) -> Option<Length> {
    let counted = || size.positions.iter().filter(|p| !p.advisory);
    let first = counted().next()?.value?;
    let same = |p: &crate::evidence::PositionAssessment| {
        p.value == Some(first) && p.touches.len() > 1 && p.spread == Length::ZERO
    };
    (size.complete && counted().all(same)).then_some(first)
}

/// How likely a usual hand makes all touches of each place of some sizes alike, by what the shop says of their gauges: what
/// repeats without any spread would speak for a hand of its own.
fn chance_of_alike((build, sessions): (&Build, &Sessions), sizes: &[&SizeAssessment]) -> f64 {
    let of_size = |size: &&SizeAssessment| {
        let gauge = gauge_behind(build, sessions, size.size.as_ref()?)?;
        let hand = Touching { s: gauge.repeatability.as_f64(), step: gauge.resolution.as_f64() };
        let places = size.positions.iter().filter(|p| !p.advisory);
        let again: usize = places.map(|p| p.touches.len().saturating_sub(1)).sum();
        Some(hand.alike().powi(i32::try_from(again).unwrap_or(i32::MAX)))
    };
    sizes.iter().filter_map(of_size).product()
}

fn copied(
    of: &[&FigureAssessment],
    role: Role,
    printed: &[Length],
    unlikely: impl Fn(&[&SizeAssessment]) -> bool,
) -> Vec<(usize, Finding)> {
    let values: Vec<(usize, Length)> =
        of.iter().enumerate().filter_map(|(i, f)| Some((i, one_value(f.part(role, Read::Size))?))).collect();
    let alike = |size: Length| values.iter().filter(|(_, v)| *v == size).count();
    let sizes = |size: Length| -> Vec<&SizeAssessment> {
        let of_size = values.iter().filter(|(_, v)| *v == size).filter_map(|(i, _)| of.get(*i));
        of_size.map(|f| f.part(role, Read::Size)).collect()
    };
    let said = |(i, size): &(usize, Length)| {
        let count = alike(*size);
        let read_off = count >= ALIKE && printed.contains(size) && unlikely(&sizes(*size));
        read_off.then_some((*i, Finding::ReadOffTheBox { part: role, size: *size, count }))
    };
    values.iter().filter_map(said).collect()
}

/// A bore with the plate, or while there is none without it.
fn bore(f: &FigureAssessment) -> &SizeAssessment {
    let plated = f.part(BORE, Read::Size);
    if plated.complete { plated } else { f.part(BARE, Read::Size) }
}

/// How much wider a bore is across the crank than along it, in the mean of its depths.
fn wider_across(f: &FigureAssessment) -> Option<Length> {
    let mean = |angle: i16| {
        let at = bore(f).positions.iter().filter(|p| p.position.angle == angle);
        Length::mean(&at.filter_map(|p| p.value).collect::<Vec<_>>())
    };
    Some(mean(0)? - mean(90)?)
}

fn exchanged(of: &[&FigureAssessment]) -> Vec<(usize, Finding)> {
    let clear: Vec<(usize, Length)> = of
        .iter()
        .enumerate()
        .filter_map(|(i, f)| Some((i, wider_across(f)?)))
        .filter(|(_, by)| by.abs() >= CLEAR)
        .collect();
    let along = clear.iter().filter(|(_, by)| *by < Length::ZERO).count();
    let across = clear.len().saturating_sub(along);
    // The few stand against the many: at least three to one.
    let (few, many) = (along.min(across), along.max(across));
    if few == 0 || many < ALIKE.saturating_mul(few) {
        return Vec::new();
    }
    let odd = |by: Length| (by < Length::ZERO) == (along < across);
    clear.iter().filter(|(_, by)| odd(*by)).map(|(i, by)| (*i, Finding::DirectionsExchanged { by: by.abs() })).collect()
}

/// How far a bore is out of round at one depth.
fn out_of_round(size: &SizeAssessment, depth: Axial) -> Option<Length> {
    let here = |p: &Position| p.axial == depth;
    let values: Vec<Length> = size.positions.iter().filter(|p| here(&p.position)).filter_map(|p| p.value).collect();
    (values.len() > 1).then(|| Length::span(values.iter().copied()))
}

fn without_plate(of: &[&FigureAssessment]) -> Vec<(usize, Finding)> {
    let top = |f: &FigureAssessment| {
        let size = Some(f.part(BORE, Read::Size)).filter(|size| size.complete)?;
        let at = |depth| out_of_round(size, depth);
        Some((at(Axial::Front)?, at(Axial::Middle)?.max(at(Axial::Rear)?)))
    };
    let tops: Vec<(usize, Length, Length)> =
        of.iter().enumerate().filter_map(|(i, f)| top(f).map(|(top, below)| (i, top, below))).collect();
    let round = |(_, top, _): &&(usize, Length, Length)| *top < PLATE;
    let others = tops.iter().filter(round).count();
    let pulled = |(_, top, below): &&(usize, Length, Length)| *top >= PLATE && *top >= *below + CLEAR;
    let said = tops.iter().filter(pulled).map(|(i, top, _)| (*i, Finding::PlateForgotten { top: *top }));
    if others < ALIKE.saturating_sub(1) { Vec::new() } else { said.collect() }
}
