//! A face by the grid of a bridge: what blades under a straight edge say of it does not stand against that.
use crate::build::struck_among;
use crate::engine::{Characteristic, Role};
use crate::figure::{Context, FigureAssessment, Finding};
use crate::log::{BridgeGrid, Reckoning, What};
use crate::units::Length;

const FACE: Role = Role::new("face_gap");

/// What the last grid of a face shows beyond its target, unless the face was machined since.
pub(super) fn beyond_on_grid(context: &Context<'_>, f: &FigureAssessment) -> Option<Finding> {
    if context.rules.reckoning < Reckoning::Third || f.figure.name() != "face_flatness" {
        return None;
    }
    let limit = f.target.as_ref()?.window.high;
    let grid_here = |what: &What| match what {
        What::Grid(grid) if grid.at == f.station => Some(grid.clone()),
        _ => None,
    };
    let struck = struck_among(context.notes);
    let standing = context.notes.iter().rev().filter(|fact| !struck.contains(&fact.id));
    let (seq, grid): (u32, BridgeGrid) =
        standing.into_iter().find_map(|fact| Some((fact.seq, grid_here(&fact.what)?)))?;
    let face = Characteristic::at(f.station, FACE)?;
    if context.endings.ended(f.station, face, seq).is_some() {
        return None;
    }
    let zone = Length::from_f64(grid.flatness()?.minimum_zone)?;
    (zone > limit).then_some(Finding::BeyondOnGrid { zone, limit })
}
