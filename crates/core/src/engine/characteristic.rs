//! What is measured and where it is touched: features, and the positions of each.
//!
//! | feature | positions by default | counts |
//! |---|---|---|
//! | main journal, pin | front and rear of the oil hole by 0 and 90 degrees, never across the hole | all |
//! | main or rod housing, cap torqued, no shells | front and rear by vertical, +60, -60 | all |
//! | main or rod bearing, shells in, cap torqued | front and rear of the groove, vertical | +45 and -45 inform |
//! | shell wall | at the crown | 30 degrees off informs |
//! | crushed strip | front and rear, vertical | all |
//!
//! An engine may have plans of its own ([`crate::engine::Layout::plans`]), and a build may change them
//! ([`crate::log::PlanChange`]).

use serde::{Deserialize, Serialize};

use super::place::Station;
use crate::maths::Counts;

/// A measurable thing at a station.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Feature {
    /// Outside diameter of a main journal.
    MainJournal,
    /// Outside diameter of a pin.
    PinJournal,
    /// Inside diameter of a main housing, cap torqued, no shells.
    MainHousing,
    /// Inside diameter of a rod's big end, cap torqued, no shells.
    RodHousing,
    /// Inside diameter of a main bearing, shells in and cap torqued.
    MainBearing,
    /// Inside diameter of a rod bearing, shells in and cap torqued.
    RodBearing,
    /// Wall of the upper shell.
    UpperWall,
    /// Wall of the lower shell.
    LowerWall,
    /// Oil clearance read off a crushed strip.
    Strip,
}

/// What a feature is in its bearing, main or rod alike. The order is that of [`crate::evidence`]'s table.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Part {
    /// The journal or pin.
    Journal,
    /// The housing.
    Housing,
    /// The bore over the shells.
    Bore,
    /// The wall of the upper shell.
    UpperWall,
    /// The wall of the lower shell.
    LowerWall,
    /// The crushed strip.
    Strip,
}

/// How a clearance is obtained.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Method {
    /// Bore gauge zeroed at a stated reference; the dial is read.
    Direct,
    /// The bore is measured as a size and the journal taken off.
    Subtract,
    /// Housing less both walls less journal.
    Components,
    /// A crushed strip read against printed widths.
    Strip,
}

impl Method {
    /// All of them, the one that proves most first: by the direct method the mic's error cancels.
    pub const ALL: [Method; 4] = [Method::Direct, Method::Subtract, Method::Components, Method::Strip];

    /// How it is written in data.
    pub const fn name(self) -> &'static str {
        match self {
            Method::Direct => "direct",
            Method::Subtract => "subtract",
            Method::Components => "components",
            Method::Strip => "strip",
        }
    }
}

/// Axial place on a feature.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Axial {
    /// In front of the oil hole or groove.
    Front,
    /// Half way along.
    Middle,
    /// Behind it.
    Rear,
}

impl Axial {
    /// How it is written in data.
    pub const fn name(self) -> &'static str {
        match self {
            Axial::Front => "front",
            Axial::Middle => "middle",
            Axial::Rear => "rear",
        }
    }
}

/// Where a feature is touched.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Position {
    /// Along the axis.
    pub axial: Axial,
    /// Degrees from vertical, or for a wall from the crown.
    pub angle: i16,
}

/// A position of a feature's plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Planned {
    /// Where.
    pub position: Position,
    /// Advisory positions inform (relief) but do not count for the size.
    pub advisory: bool,
}

/// The plan of one feature.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FeaturePlan {
    /// The feature.
    pub feature: Feature,
    /// Its positions in the order they are touched.
    pub positions: Vec<Planned>,
}

/// Most positions a plan may have.
pub const MOST_POSITIONS: usize = 24;

impl FeaturePlan {
    /// Whether it can be worked by: positions that differ, at least one of which counts; advisory
    /// places of a bore or a wall are elsewhere around than those that count.
    pub fn is_sound(&self) -> bool {
        let positions = &self.positions;
        let distinct = positions.iter().enumerate().all(|(i, p)| {
            (-180..=180).contains(&p.position.angle) && positions.iter().skip(i + 1).all(|q| q.position != p.position)
        });
        let counts = positions.iter().any(|p| !p.advisory);
        let apart = positions
            .iter()
            .filter(|p| p.advisory)
            .all(|p| positions.iter().all(|q| q.advisory || q.position.angle != p.position.angle));
        (1..=MOST_POSITIONS).contains(&positions.len()) && distinct && counts && apart
    }
}

const fn planned(axial: Axial, angle: i16, advisory: bool) -> Planned {
    Planned { position: Position { axial, angle }, advisory }
}

/// Front and rear of the oil hole by 0 and 90 degrees, never across the hole.
const JOURNAL: [Planned; 4] = [
    planned(Axial::Front, 0, false),
    planned(Axial::Front, 90, false),
    planned(Axial::Rear, 0, false),
    planned(Axial::Rear, 90, false),
];

/// Front and rear by the vertical and 60 degrees to both sides of it, clear of the parting line.
const HOUSING: [Planned; 6] = [
    planned(Axial::Front, 0, false),
    planned(Axial::Front, 60, false),
    planned(Axial::Front, -60, false),
    planned(Axial::Rear, 0, false),
    planned(Axial::Rear, 60, false),
    planned(Axial::Rear, -60, false),
];

/// Front and rear of the groove, vertical; two advisory touches toward the parting line.
const BEARING: [Planned; 4] = [
    planned(Axial::Front, 0, false),
    planned(Axial::Rear, 0, false),
    planned(Axial::Front, 45, true),
    planned(Axial::Front, -45, true),
];

/// At the crown; 30 degrees off it shows the eccentric wall.
const WALL: [Planned; 2] = [planned(Axial::Middle, 0, false), planned(Axial::Middle, 30, true)];

/// A strip lies along the journal: its ends tell front from rear.
const STRIP: [Planned; 2] = [planned(Axial::Front, 0, false), planned(Axial::Rear, 0, false)];

impl Feature {
    /// All of them, in the order of the work.
    pub const ALL: [Feature; 9] = [
        Feature::MainJournal,
        Feature::PinJournal,
        Feature::MainHousing,
        Feature::RodHousing,
        Feature::UpperWall,
        Feature::LowerWall,
        Feature::MainBearing,
        Feature::RodBearing,
        Feature::Strip,
    ];

    /// The usual plan of positions, in the order they are touched.
    pub const fn positions(self) -> &'static [Planned] {
        match self.part() {
            Part::Journal => &JOURNAL,
            Part::Housing => &HOUSING,
            Part::Bore => &BEARING,
            Part::UpperWall | Part::LowerWall => &WALL,
            Part::Strip => &STRIP,
        }
    }

    /// What it is in its bearing.
    pub const fn part(self) -> Part {
        match self {
            Feature::MainJournal | Feature::PinJournal => Part::Journal,
            Feature::MainHousing | Feature::RodHousing => Part::Housing,
            Feature::MainBearing | Feature::RodBearing => Part::Bore,
            Feature::UpperWall => Part::UpperWall,
            Feature::LowerWall => Part::LowerWall,
            Feature::Strip => Part::Strip,
        }
    }

    /// The feature of that part at a station; a pin has only its journal, a rod has none.
    pub const fn at(station: Station, part: Part) -> Option<Self> {
        Some(match (station, part) {
            (Station::Main(_), Part::Journal) => Feature::MainJournal,
            (Station::Pin(_), Part::Journal) => Feature::PinJournal,
            (Station::Pin(_), _) | (Station::Rod(_), Part::Journal) => return None,
            (Station::Main(_), Part::Housing) => Feature::MainHousing,
            (Station::Rod(_), Part::Housing) => Feature::RodHousing,
            (Station::Main(_), Part::Bore) => Feature::MainBearing,
            (Station::Rod(_), Part::Bore) => Feature::RodBearing,
            (_, Part::UpperWall) => Feature::UpperWall,
            (_, Part::LowerWall) => Feature::LowerWall,
            (_, Part::Strip) => Feature::Strip,
        })
    }

    /// Whether it is measured over a torqued cap, and so belongs to one set-up.
    pub const fn torqued(self) -> bool {
        matches!(self.part(), Part::Housing | Part::Bore | Part::Strip)
    }

    /// Whether only an engine with pins and rods has it.
    pub const fn belongs_to_rods(self) -> bool {
        matches!(self, Feature::PinJournal | Feature::RodHousing | Feature::RodBearing)
    }

    /// How it is written in data.
    pub const fn name(self) -> &'static str {
        match self {
            Feature::MainJournal => "main_journal",
            Feature::PinJournal => "pin_journal",
            Feature::MainHousing => "main_housing",
            Feature::RodHousing => "rod_housing",
            Feature::MainBearing => "main_bearing",
            Feature::RodBearing => "rod_bearing",
            Feature::UpperWall => "upper_wall",
            Feature::LowerWall => "lower_wall",
            Feature::Strip => "strip",
        }
    }
}

impl Part {
    /// Shaft or hole: which place is the worst. The thicker wall leaves less clearance, the smaller gap
    /// is the clearance.
    pub const fn kind(self) -> Counts {
        match self {
            Part::Journal | Part::UpperWall | Part::LowerWall => Counts::Journal,
            Part::Housing | Part::Bore | Part::Strip => Counts::Bore,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_usual_plan_is_sound() {
        for feature in Feature::ALL {
            let plan = FeaturePlan { feature, positions: feature.positions().to_vec() };
            assert!(plan.is_sound(), "{feature:?}");
        }
    }

    #[test]
    fn a_plan_without_a_place_that_counts_or_with_one_twice_is_not() {
        let plan = |positions: &[Planned]| FeaturePlan { feature: Feature::MainBearing, positions: positions.to_vec() };
        assert!(!plan(&[]).is_sound());
        assert!(!plan(&[planned(Axial::Front, 45, true)]).is_sound());
        assert!(!plan(&[planned(Axial::Front, 0, false), planned(Axial::Front, 0, false)]).is_sound());
        // The same direction cannot both count and not count.
        assert!(!plan(&[planned(Axial::Front, 0, false), planned(Axial::Rear, 0, true)]).is_sound());
    }

    #[test]
    fn a_rod_has_no_journal_and_a_pin_no_housing() {
        assert_eq!(Feature::at(Station::Rod(1), Part::Journal), None);
        assert_eq!(Feature::at(Station::Pin(1), Part::Housing), None);
        for feature in Feature::ALL {
            let there = [Station::Main(1), Station::Pin(1), Station::Rod(1)];
            assert!(there.into_iter().any(|s| Feature::at(s, feature.part()) == Some(feature)), "{feature:?}");
        }
    }
}
