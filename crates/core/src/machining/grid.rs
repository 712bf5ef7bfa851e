//! Faces by bridge readings on a grid: over the plane of least squares, and between the nearest two planes with all of them
//! between ([`crate::maths`]), held against the target of the face.
use crate::build::{Build, Standing, struck_among};
use crate::engine::{Characteristic, Place, Role};
use crate::evidence::Endings;
use crate::figure::FigureAssessment;
use crate::log::{BridgeGrid, Fact, What};
use crate::maths::range;
use crate::units::{Length, Person, Timestamp};

const FACE: Role = Role::new("face_gap");

/// One face by its grid.
#[derive(Debug, Clone, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GridFace {
    /// Which.
    pub at: Place,
    /// When it was read.
    pub when: Timestamp,
    /// By whom.
    pub by: Person,
    /// Line by line how far each place stands over the plane of least squares.
    pub off: Vec<Vec<Length>>,
    /// From the lowest to the highest over that plane.
    pub least_squares: Length,
    /// Between the nearest two planes with all places between: never more.
    pub minimum_zone: Length,
    /// The most that is allowed, where there is a target.
    pub limit: Option<Length>,
    /// Whether it is flat by that.
    pub flat: Option<bool>,
}

/// The last grid of every face, unless the face was machined since.
pub fn grid_faces(build: &Build, figures: &[FigureAssessment]) -> Vec<GridFace> {
    let notes = build.notes();
    let standing = Standing::of(&build.layout, &notes);
    let endings = Endings::of(&build.layout, &notes, &standing, build.rules_now().reckoning);
    let holds = |fact: &Fact, grid: &BridgeGrid| {
        Characteristic::at(grid.at, FACE).is_some_and(|face| endings.ended(grid.at, face, fact.seq).is_none())
    };
    let struck = struck_among(&notes);
    let mut last: Vec<(&Fact, &BridgeGrid)> = Vec::new();
    for fact in &notes {
        if let What::Grid(grid) = &fact.what
            && !struck.contains(&fact.id)
        {
            last.retain(|(_, before)| before.at != grid.at);
            last.push((fact, grid));
        }
    }
    last.retain(|(fact, grid)| holds(fact, grid));
    last.into_iter().filter_map(|(fact, grid)| face(figures, fact, grid)).collect()
}

fn face(figures: &[FigureAssessment], fact: &Fact, grid: &BridgeGrid) -> Option<GridFace> {
    let columns = grid.rows.first()?.len();
    let found = grid.flatness()?;
    let off: Vec<Length> = found.residuals.iter().map(|z| Length::from_f64(*z)).collect::<Option<_>>()?;
    let minimum_zone = Length::from_f64(found.minimum_zone)?;
    let of_face = figures.iter().find(|f| f.figure.name() == "face_flatness" && f.station == grid.at);
    let limit = of_face.and_then(|f| f.target.as_ref()).map(|t| t.window.high);
    Some(GridFace {
        at: grid.at,
        when: fact.at,
        by: fact.by.clone(),
        off: off.chunks(columns.max(1)).map(<[Length]>::to_vec).collect(),
        least_squares: Length::from_f64(range(&found.residuals))?,
        minimum_zone,
        limit,
        flat: limit.map(|limit| minimum_zone <= limit),
    })
}
