//! What would help where no shells do: for every bearing that stays outside, how far it is off and the housing that
//! would put it on its aim; for the row, the grind that would.
use serde::Serialize;

use crate::assess::Assessment;
use crate::build::Build;
use crate::engine::Place;
use crate::evidence::mean_housing;
use crate::machining::{MachiningWish, machining_plans};
use crate::shells::ShellFamily;
use crate::units::Length;

/// A bearing that no shells bring inside.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HousingRemedy {
    /// The bearing.
    pub station: Place,
    /// What a pair would have to add to the clearance to put it on its aim.
    pub wants: Length,
    /// The housing size that would; absent while the housing is not measured.
    pub housing: Option<Length>,
}

/// A grind that would serve every bearing.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GrindRemedy {
    /// For shells of this undersize.
    pub undersize: Length,
    /// Every journal of the row to this size.
    pub size: Length,
}

/// What would help.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Remedies {
    /// Bearing by bearing.
    pub places: Vec<HousingRemedy>,
    /// The smallest grind that does; absent where none does.
    pub grind: Option<GrindRemedy>,
}

/// The tolerance a grinder is trusted with unless said: two tenths to either side.
pub const USUAL_GRIND_TOLERANCE: Length = Length::tenths(2);

/// What would help the bearings in `outside`: each with what a pair would have to add to its clearance.
pub(super) fn remedies(
    build: &Build,
    assessed: &Assessment,
    family: &ShellFamily,
    outside: impl Iterator<Item = (Place, Length)>,
) -> Remedies {
    let at = |(station, wants): (Place, Length)| {
        let housing = assessed.station(station).and_then(|s| mean_housing(s.housing())).map(|(h, _)| h + wants);
        HousingRemedy { station, wants, housing }
    };
    let wish = MachiningWish {
        row: family.row,
        tolerance: USUAL_GRIND_TOLERANCE,
        runout: None,
        damage: Vec::new(),
        without: Vec::new(),
        booked_per_grit: None,
    };
    let plan = machining_plans(build, assessed, Some(family), &wish).ok();
    let grind = plan.and_then(|m| m.grinds.into_iter().find(|g| g.chosen));
    Remedies {
        places: outside.map(at).collect(),
        grind: grind.map(|g| GrindRemedy { undersize: g.undersize, size: g.size }),
    }
}
