//! Which shells a crank takes: catalogue, measurement and the stamp of the old shells side by side. The
//! measurement wins.
//!
//! All mains of a crank are normally one undersize, and all pins; a mixed result is flagged before anything is
//! ordered.
use serde::Serialize;

use crate::assess::Assessment;
use crate::build::Build;
use crate::engine::{BearingRow, Place};
use crate::log::What;
use crate::maths::{UndersizeClass, common_undersize};
use crate::shells::{ShellFamily, class_by, stamped_undersize};
use crate::units::Length;

/// What the sources say of one journal.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Says {
    /// Not measured yet.
    Open,
    /// It belongs to an undersize, and the stamp, if there is one, says the same.
    Agrees,
    /// The stamp says another undersize: measurement wins.
    StampDiffers,
    /// It belongs to no undersize of the family: stop before ordering.
    NotOfFamily,
}

/// One journal against the family.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JournalCheck {
    /// The bearing.
    pub station: Place,
    /// Where its journal is.
    pub journal_at: Place,
    /// Its size.
    pub measured: Option<Length>,
    /// The undersize it belongs to.
    pub undersize: Option<Length>,
    /// The size of that in the catalogue.
    pub catalogue: Option<Length>,
    /// What it is short of that; negative when over.
    pub worn: Option<Length>,
    /// The stamp of the old shells.
    pub stamp: Option<String>,
    /// The undersize the stamp means, where it can be read.
    pub stamped: Option<Length>,
    /// What follows.
    pub says: Says,
}

/// A crank against a family.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FamilyCheck {
    /// Nominal journal of the family.
    pub nominal: Length,
    /// Journal by journal.
    pub journals: Vec<JournalCheck>,
    /// The undersize that all measured journals belong to.
    pub undersize: Option<Length>,
    /// Whether they belong to different ones, or some to none: nothing is ordered for such a crank.
    pub mixed: bool,
}

/// Holds the journals of the family's row against its catalogue and the stamps of the old shells.
pub fn family_check(build: &Build, assessed: &Assessment, family: &ShellFamily) -> FamilyCheck {
    let stamps = stamps(build, family.row);
    let journals: Vec<JournalCheck> = assessed
        .bearings_of(family.row)
        .map(|s| {
            let measured = s.journal().size.as_ref().filter(|_| s.journal().complete).map(|j| j.effective);
            let class = measured.and_then(|size| class_by(family, size));
            let stamp = stamps.iter().find(|(at, _)| *at == s.station).map(|(_, text)| text.clone());
            let read = stamp.as_deref().and_then(|text| stamped_undersize(text, Some(family), build.unit));
            let says = match (measured, class) {
                (None, _) => Says::Open,
                (Some(_), None) => Says::NotOfFamily,
                (Some(_), Some(c)) if read.is_some_and(|r| r != c.undersize) => Says::StampDiffers,
                (Some(_), Some(_)) => Says::Agrees,
            };
            JournalCheck {
                station: s.station,
                journal_at: s.journal_at,
                measured,
                undersize: class.map(|c| c.undersize),
                catalogue: class.map(|c| family.journal - c.undersize),
                worn: class.map(|c| c.worn),
                stamp,
                stamped: read,
                says,
            }
        })
        .collect();
    let classes: Vec<Option<UndersizeClass>> =
        journals.iter().filter_map(|j| j.measured.map(|size| class_by(family, size))).collect();
    let undersize = common_undersize(&classes);
    FamilyCheck { nominal: family.journal, journals, undersize, mixed: !classes.is_empty() && undersize.is_none() }
}

/// The last stamp of each bearing of a row.
fn stamps(build: &Build, row: BearingRow) -> Vec<(Place, String)> {
    let mut all: Vec<(Place, String)> = Vec::new();
    for fact in &build.facts {
        let What::Stamps(s) = &fact.what else { continue };
        for stamp in s.stamps.iter().filter(|s| s.station.row() == row) {
            all.retain(|(at, _)| *at != stamp.station);
            all.push((stamp.station, stamp.text.trim().to_owned()));
        }
    }
    all
}
