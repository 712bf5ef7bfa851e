//! What nobody signs past, beside the figures: remarks that block where the rules of a build say so.
use serde::{Deserialize, Serialize};

/// A kind of remark that blocks.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Gate {
    /// Taper or out-of-round beyond the limits of the rules, proven.
    Shape,
    /// A housing whose size is off by more than its tolerance, proven.
    Housing,
    /// A surface that is rougher than the rules allow.
    Surface,
    /// Methods that disagree by more than one and a half times what both leave open.
    Methods,
    /// A journal that belongs to no undersize of its shells.
    Family,
    /// Bores over torqued caps of which nobody said how they were torqued.
    SetUp,
    /// Readings of a gauge that was never checked in, or that is past its due day.
    Gauge,
    /// End play so small that the thrust faces burn, whatever the window allows.
    EndPlay,
    /// A face that a grid of a bridge shows out of flat.
    Grid,
}

impl Gate {
    /// All of them, as a new build has them.
    pub const ALL: [Gate; 9] = [
        Gate::Shape,
        Gate::Housing,
        Gate::Surface,
        Gate::Methods,
        Gate::Family,
        Gate::SetUp,
        Gate::Gauge,
        Gate::EndPlay,
        Gate::Grid,
    ];

    /// Whether one decision about it holds for a figure along its whole row: nothing of it belongs to one place.
    pub const fn is_of_row(self) -> bool {
        matches!(self, Gate::SetUp | Gate::Gauge)
    }
}
