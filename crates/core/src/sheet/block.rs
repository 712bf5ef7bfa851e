//! What blocks a signature: a figure, and what lifts it.
use serde::{Deserialize, Serialize};

use crate::build::Build;
use crate::engine::{Figure, Place};
use crate::figure::FigureAssessment;
use crate::log::{Check, Fact, Gate, InspectedPart, Rules, Work};
use crate::maths::State;

/// A build with its notes and the rules in force.
pub(crate) type Known<'a> = (&'a Build, &'a [&'a Fact], &'a Rules);

/// One figure that blocks.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Block {
    /// The place.
    pub station: Place,
    /// The figure.
    pub figure: Figure,
    /// Its state; absent while open.
    pub state: Option<State>,
    /// What would lift the block.
    pub needs: Needs,
    /// The check that is to be done.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub check: Option<Check>,
    /// What is to be looked at.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub look: Option<InspectedPart>,
    /// The remark that blocks.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub gate: Option<Gate>,
    /// What has to be washed or flushed.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub wash: Option<Work>,
}

impl Block {
    /// A figure that blocks.
    pub(crate) fn of(f: &FigureAssessment, needs: Needs) -> Self {
        let state = f.judged.as_ref().map(|j| j.state);
        Block { station: f.station, figure: f.figure, state, needs, check: None, look: None, gate: None, wash: None }
    }
}

/// What lifts a block.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Needs {
    /// Measure it.
    Measure,
    /// Acknowledge the edge.
    Acknowledgement,
    /// Concede it.
    Concession,
    /// Have the lead concede it.
    LeadConcession,
    /// Measure it again: what was known ended.
    MeasureAgain,
    /// Settle two sizes that disagree: strike the wrong one.
    Settle,
    /// Take the journal to the grinder.
    Grinder,
    /// Put another part in: the one that stood there is condemned or was taken out.
    Part,
    /// Take a picture of how it faces: no figure shows it.
    Picture,
    /// Washed or flushed: stone or wheel was there, and grit ruins what was measured.
    Clean,
    /// A check by eye or hand, or a look, that something forces.
    Check,
    /// More room when hot: what is left would close.
    HotRoom,
    /// What a remark asks for, or the lead's concession of it.
    Remedy,
}
