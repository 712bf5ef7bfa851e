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
    /// Where the figure that blocks stands.
    pub station: Place,
    /// The figure that blocks.
    pub figure: Figure,
    /// The state it is judged to be in; absent while it is open.
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
    /// The figure has to be measured.
    Measure,
    /// Somebody has to acknowledge that it lies on the edge.
    Acknowledgement,
    /// Somebody has to concede it.
    Concession,
    /// The lead has to concede it.
    LeadConcession,
    /// It has to be measured again: what was known of it ended.
    MeasureAgain,
    /// Two sizes disagree: the wrong one has to be struck.
    Settle,
    /// The journal has to go to the grinder.
    Grinder,
    /// Another part has to be put in: the one that stood there is condemned or was taken out.
    Part,
    /// How it faces has to be shown by a picture: no figure shows it.
    Picture,
    /// The part has to be washed or flushed: a stone or a wheel was there, and grit ruins what was measured.
    Clean,
    /// A check by eye or hand, or a look, has to be done because something forces it.
    Check,
    /// The part needs more room when it is hot: what is left would close.
    HotRoom,
    /// What a remark asks for has to be done, or the lead has to concede it.
    Remedy,
}
