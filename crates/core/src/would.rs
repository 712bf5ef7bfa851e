//! What would help where no shells do: for every bearing that stays outside, how far it is off and the housing that
//! would put it on its aim; for the row, the grind that would.

use serde::Serialize;

use crate::Length;
use crate::assessment::Assessment;
use crate::build::Build;
use crate::machining::{MachiningWish, machining};
use crate::shell::ShellFamily;
use crate::station::Station;
use crate::tray::mean_housing;

/// A bearing that no shells bring inside.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WouldAt {
    /// The bearing.
    pub station: Station,
    /// What a pair would have to add to the clearance to put it on its aim.
    pub wants: Length,
    /// The housing size that would; absent while the housing is not measured.
    pub housing: Option<Length>,
}

/// A grind that would serve every bearing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WouldGrind {
    /// For shells of this undersize.
    pub undersize: Length,
    /// Every journal of the row to this size.
    pub size: Length,
}

/// What would help.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Would {
    /// Bearing by bearing.
    pub places: Vec<WouldAt>,
    /// The smallest grind that does; absent where none does.
    pub grind: Option<WouldGrind>,
}

/// The tolerance a grinder is trusted with unless said: two tenths to either side.
pub const USUAL_GRIND_TOLERANCE: Length = Length::tenths(2);

/// What would help the bearings in `outside`: each with what a pair would have to add to its clearance.
pub(crate) fn would(
    build: &Build,
    assessed: &Assessment,
    family: &ShellFamily,
    outside: impl Iterator<Item = (Station, Length)>,
) -> Would {
    let at = |(station, wants): (Station, Length)| {
        let housing = assessed.station(station).and_then(|s| mean_housing(&s.housing)).map(|(h, _)| h + wants);
        WouldAt { station, wants, housing }
    };
    let wish = MachiningWish {
        row: family.row,
        tolerance: USUAL_GRIND_TOLERANCE,
        runout: Length::ZERO,
        damage: Vec::new(),
        without: Vec::new(),
    };
    let plan = machining(build, assessed, Some(family), &wish).ok();
    let grind = plan.and_then(|m| m.grinds.into_iter().find(|g| g.chosen));
    Would {
        places: outside.map(at).collect(),
        grind: grind.map(|g| WouldGrind { undersize: g.undersize, size: g.size }),
    }
}
