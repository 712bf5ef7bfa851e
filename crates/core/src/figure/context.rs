//! What is worked out once for a whole build and used by every figure.

use super::targets::Targets;
use super::uncertainty::{MeasuredBy, of_size};
use crate::build::Build;
use crate::engine::{BearingRow, Feature, Method, Part, Station};
use crate::evidence::{Endings, FeatureAssessment, Inspections, Sessions, SlottedReadings, assess_size, gauge_behind};
use crate::gauge::gauge_fit;
use crate::log::{Fact, Rules};
use crate::maths::BELONGS_WITHIN;
use crate::units::Length;

/// What is worked out once for a whole build.
pub(crate) struct Context<'a> {
    pub build: &'a Build,
    pub notes: &'a [&'a Fact],
    pub rules: &'a Rules,
    pub sessions: &'a Sessions,
    pub touches: &'a SlottedReadings<'a>,
    pub endings: &'a Endings<'a>,
    pub inspections: &'a Inspections<'a>,
    pub targets: Targets,
    /// What the journals of each row measure as a rule: a crank ground under shows by its first journal.
    pub usual_journals: [Length; 2],
}

pub(crate) fn usual_journal(build: &Build, touches: &SlottedReadings<'_>, row: BearingRow) -> Length {
    let journal = match row {
        BearingRow::Mains => Feature::MainJournal,
        BearingRow::Rods => Feature::PinJournal,
    };
    let sizes: Vec<Length> = touches.fresh().filter(|t| t.reading.feature == journal).map(|t| t.size).collect();
    Length::median(&sizes).unwrap_or(build.layout.journal(row))
}

impl Context<'_> {
    /// What a feature of a bearing is expected to measure while nothing is known of it.
    pub fn expected(&self, station: Station, part: Part, journal: Length) -> Length {
        let row = station.row();
        let nominals = self.build.layout.nominals(row);
        let aim = self.targets.at(station).map_or(Length::ZERO, |t| t.window.aim);
        // A journal that is under by a class has walls that are thicker by half of it.
        let under = self.build.layout.journal(row) - journal;
        match part {
            Part::Journal => journal,
            Part::Bore => journal + aim,
            Part::Housing => nominals.map_or(journal + aim, |n| n.housing),
            Part::UpperWall | Part::LowerWall => nominals.map_or(Length::ZERO, |n| {
                let middle = n.wall - Length::from_nm(n.wall_tolerance.nm() / 2);
                if under > BELONGS_WITHIN { middle + Length::from_nm(under.nm() / 2) } else { middle }
            }),
            Part::Strip => aim,
        }
    }

    /// One feature of a bearing.
    pub fn feature(
        &self,
        touches: &SlottedReadings<'_>,
        at: (Station, Part, Method),
        journal: Length,
    ) -> FeatureAssessment {
        let (station, part, method) = at;
        let place = if part == Part::Journal { self.build.layout.journal_of(station) } else { station };
        let Some(feature) = Feature::at(place, part) else { return FeatureAssessment::default() };
        let mut assessed =
            assess_size(self.rules, touches, (place, feature, method), self.expected(station, part, journal));
        let window = self.targets.at(station).map(|t| t.window.high - t.window.low);
        if let Some(size) = &mut assessed.size {
            let gauge = gauge_behind(self.build, self.sessions, size);
            // What a wall or a housing may be off by goes into the clearance all the same.
            size.gauge_fit = gauge.zip(window).map(|(g, w)| gauge_fit(g.resolution, w)).filter(|_| part != Part::Strip);
        }
        assessed
    }

    /// How sure the size of a feature is by itself.
    pub fn doubt_of(&self, feature: &FeatureAssessment, part: Part) -> Length {
        let touched = feature.size.as_ref().and_then(|size| {
            let gauge = gauge_behind(self.build, self.sessions, size)?;
            Some(MeasuredBy { gauge, touches: size.touches })
        });
        touched.map_or(Length::ZERO, |by| of_size(part, by).expanded)
    }

    /// What the journals of a station's row measure as a rule.
    pub fn usual_journal(&self, station: Station) -> Length {
        self.usual_journals[station.row() as usize]
    }
}
