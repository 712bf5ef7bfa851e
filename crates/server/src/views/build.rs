//! What the API shows: projections of a build and its assessment.
use std::collections::HashMap;

use jagged_pin_core::assess::{Assessment, GaugeStatus, evaluate, gauge_statuses};
use jagged_pin_core::build::{open_requests, redacted};
use jagged_pin_core::engine::{BearingRow, Feature, FeaturePlan, Layout, Part, Station};
use jagged_pin_core::evidence::{Endings, Inspections};
use jagged_pin_core::log::{Fact, InspectedPart, SetUp, Sign, What};
use jagged_pin_core::units::{Day, Person, Timestamp};
use jagged_pin_core::{Build, Unit};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::clock;
use crate::views::decisions::{DecisionView, decision};
use crate::views::reading::{ReadingView, StruckView, reading_view};

/// A build with everything that follows from it.
#[derive(Debug, Serialize, ToSchema)]
pub struct BuildView {
    /// Identifier.
    pub id: Uuid,
    /// Short name.
    pub code: String,
    /// The engine in words.
    pub engine: String,
    /// Working unit.
    pub unit: Unit,
    /// The engine layout.
    pub layout: Layout,
    /// Gauges it may be measured with, as they stand today.
    pub gauges: Vec<GaugeStatus>,
    /// What a bore gauge is zeroed at unless said, with the decimals of the unit.
    pub usual_references: UsualReferences,
    /// Where each feature of the engine is touched.
    pub plans: Vec<FeaturePlan>,
    /// The set-ups in force.
    pub set_ups: Vec<SetUpView>,
    /// What the parts look like now.
    pub inspections: Vec<InspectionView>,
    /// What the signed-in person is asked to measure blind.
    pub asked: Vec<AskedView>,
    /// When it was opened.
    pub opened_at: Timestamp,
    /// Who opened it.
    pub opened_by: Person,
    /// Every reading, struck ones as well, in order.
    pub readings: Vec<ReadingView>,
    /// What people did and decided, in order: everything recorded that is not a reading.
    pub decisions: Vec<DecisionView>,
    /// Everything that follows.
    pub assessment: Assessment,
}

/// What a bore gauge is zeroed at unless said.
#[derive(Debug, Serialize, ToSchema)]
pub struct UsualReferences {
    /// The main journal.
    pub mains: String,
    /// The pin.
    pub rods: String,
    /// The main housing, where it is known.
    pub main_housings: Option<String>,
    /// The rod housing, where it is known.
    pub rod_housings: Option<String>,
}

impl UsualReferences {
    fn of(build: &Build) -> Self {
        let journal = |row| build.layout.journal(row).show(build.unit);
        let housing = |row| build.layout.nominals(row).map(|n| n.housing.show(build.unit));
        UsualReferences {
            mains: journal(BearingRow::Mains),
            rods: journal(BearingRow::Rods),
            main_housings: housing(BearingRow::Mains),
            rod_housings: housing(BearingRow::Rods),
        }
    }
}

/// The set-up of a row in force.
#[derive(Debug, Serialize, ToSchema)]
pub struct SetUpView {
    /// Place of the fact that recorded it: its version.
    pub version: u32,
    /// When it was recorded.
    pub at: Timestamp,
    /// By whom.
    pub by: Person,
    /// The set-up.
    pub set_up: SetUp,
    /// Its steps as they are written in the shop.
    pub steps: Vec<String>,
}

impl SetUpView {
    fn all(build: &Build, notes: &[&Fact]) -> Vec<Self> {
        let of = |row: BearingRow| {
            notes.iter().rev().find_map(|f| match &f.what {
                What::SetUp(s) if s.row == row => Some(SetUpView {
                    version: f.seq,
                    at: f.at,
                    by: f.by.clone(),
                    set_up: s.clone(),
                    steps: s.steps.iter().map(|step| step.show(build.unit)).collect(),
                }),
                _ => None,
            })
        };
        BearingRow::ALL.into_iter().filter_map(of).collect()
    }
}

/// What a part inspections like now.
#[derive(Debug, Serialize, ToSchema)]
pub struct InspectionView {
    /// Where.
    pub station: Station,
    /// On what.
    pub part: InspectedPart,
    /// What was seen.
    pub signs: Vec<Sign>,
    /// By whom.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

impl InspectionView {
    fn all(build: &Build, notes: &[&Fact]) -> Vec<Self> {
        let endings = Endings::of(&build.layout, notes);
        let inspections = Inspections::of(notes, &endings);
        let view = |(f, l): (&Fact, &jagged_pin_core::log::Inspection)| {
            let (by, at) = (f.by.clone(), f.at);
            InspectionView { station: l.station, part: l.part, signs: l.signs.clone(), by, at }
        };
        inspections.all().into_iter().map(view).collect()
    }
}

/// A place that the signed-in person is asked to measure blind.
#[derive(Debug, Serialize, ToSchema)]
pub struct AskedView {
    /// Identifier of the request.
    pub id: Uuid,
    /// Where.
    pub station: Station,
    /// What.
    pub feature: Feature,
    /// What it is in its bearing.
    pub part: Part,
}

/// The answer to a write: the build as it is then.
#[derive(Debug, Serialize, ToSchema)]
pub struct RecordedView {
    /// Place of the fact in the build's order.
    pub seq: u32,
    /// The same fact had been sent before: nothing was written this time.
    pub again: bool,
    /// The build with the fact in it.
    pub build: BuildView,
}

impl BuildView {
    /// The view of a build, evaluated, as `viewer` may see it: what must stay hidden from somebody who is
    /// measuring blind is taken out before anything is worked out.
    pub fn of(build: &Build, viewer: Uuid) -> Self {
        let redacted = redacted(build, viewer);
        let asked = open_requests(build, viewer).into_iter().map(|(id, r)| {
            let part = r.feature.part();
            AskedView { id, station: r.station, feature: r.feature, part }
        });
        Self::seen(redacted.as_ref().unwrap_or(build), asked.collect())
    }

    fn seen(build: &Build, asked: Vec<AskedView>) -> Self {
        let assessment = evaluate(build);
        let notes = build.notes();
        let mut struck = HashMap::new();
        for fact in &build.facts {
            if let What::Strike(s) = &fact.what {
                let view = StruckView { reason: s.reason.clone(), by: fact.by.clone(), at: fact.at };
                struck.insert(s.reading, view);
            }
        }
        BuildView {
            id: build.id,
            code: build.code.clone(),
            engine: build.engine.clone(),
            unit: build.unit,
            layout: build.layout.clone(),
            gauges: gauge_statuses(build, &assessment, Day::of(clock::now())),
            usual_references: UsualReferences::of(build),
            plans: build.plans(),
            set_ups: SetUpView::all(build, &notes),
            inspections: InspectionView::all(build, &notes),
            asked,
            opened_at: build.opened_at,
            opened_by: build.opened_by.clone(),
            decisions: notes.iter().filter_map(|f| decision(build, f)).collect(),
            // What somebody read blind belongs to the comparison, not to the bench.
            readings: build
                .readings()
                .filter(|(_, r)| r.blind.is_none())
                .map(|(f, r)| reading_view(f, r, struck.remove(&f.id)))
                .collect(),
            assessment,
        }
    }
}
