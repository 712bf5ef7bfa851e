//! What the figures of a row of cylinders betray of how they were taken.
//!
//! * **Read off the box**: three or more pieces that show one and the same printed figure at every touch. Pieces differ, and
//!   hands do.
//! * **Directions exchanged**: cylinders wear and are honed alike; one that is wide the other way than all of the rest was
//!   touched with the names of the directions exchanged.
//! * **Plate forgotten**: a bore said to be read with the plate on that is round below and out of round at its top, where the
//!   others are round: that is what the plate would have pulled.
use crate::engine::{Axial, Figure, Position, Read, Role};
use crate::evidence::SizeAssessment;
use crate::figure::{FigureAssessment, Finding};
use crate::units::Length;

const BORE: Role = Role::new("cylinder");
const BARE: Role = Role::new("cylinder_bare");
const PISTON: Role = Role::new("piston");

/// Pieces that read alike before it is said.
const ALIKE: usize = 3;
/// What a direction differs by before it is one.
const CLEAR: Length = Length::tenths(2);
/// What a plate leaves at the top when it is missing, and what a round top may have.
const PLATE: Length = Length::tenths(3);

/// Puts what is betrayed with the figure of each cylinder it shows at; `nominal` is the bore as it is called.
pub(super) fn say_what_is_betrayed(nominal: Option<Length>, figures: &mut [FigureAssessment]) {
    let walls: Vec<usize> = (0..figures.len()).filter(|i| figures[*i].figure == Figure::PISTON_TO_WALL).collect();
    let of: Vec<&FigureAssessment> = walls.iter().filter_map(|i| figures.get(*i)).collect();
    let printed = printed(nominal, figures);
    let mut found: Vec<(usize, Finding)> = Vec::new();
    for role in [PISTON, BORE] {
        found.extend(copied(&of, role, &printed));
    }
    found.extend(exchanged(&of));
    found.extend(without_plate(&of));
    for (i, finding) in found {
        if let Some(f) = walls.get(i).and_then(|at| figures.get_mut(*at)) {
            f.findings.push(finding);
        }
    }
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

fn copied(of: &[&FigureAssessment], role: Role, printed: &[Length]) -> Vec<(usize, Finding)> {
    let values: Vec<(usize, Length)> =
        of.iter().enumerate().filter_map(|(i, f)| Some((i, one_value(f.part(role, Read::Size))?))).collect();
    let alike = |size: Length| values.iter().filter(|(_, v)| *v == size).count();
    let said = |(i, size): &(usize, Length)| {
        let count = alike(*size);
        let read_off = count >= ALIKE && printed.contains(size);
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
