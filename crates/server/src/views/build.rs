//! What the API shows: projections of a build and its assessment.

use jagged_pin_core::assess::{Assessment, GaugeStatus, gauge_statuses};
use jagged_pin_core::build::Standing;
use jagged_pin_core::engine::{
    BearingRow, Characteristic, Expects, Layout, Place, PlaceKind, Plan, Planned, Read, Role,
};
use jagged_pin_core::evidence::{Endings, Inspections};
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::log::{
    BlindRequest, Fact, InspectedPart, LOOKS, LookRow, Mark, Measure, Mishap, SetUp, Sign, TorqueStep, What,
    tightening_order,
};
use jagged_pin_core::units::{Day, Person, Timestamp};
use jagged_pin_core::{Build, Unit};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::clock;
use crate::evaluated::Evaluated;
use crate::views::decisions::{DecisionView, decision};
use crate::views::parts::PartView;
use crate::views::reading::ReadingView;

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
    /// What a gauge is zeroed at unless said.
    pub references: Vec<ReferenceView>,
    /// Where each characteristic of the engine is touched.
    pub plans: Vec<PlanView>,
    /// The set-ups in force.
    pub set_ups: Vec<SetUpView>,
    /// The mains in the order in which their caps are drawn down.
    pub tightening: Vec<Place>,
    /// The parts, and where they stand.
    pub parts: Vec<PartView>,
    /// What the parts look like now.
    pub inspections: Vec<InspectionView>,
    /// What of this engine is looked at.
    pub looks: Vec<LookView>,
    /// What befell it, in the order recorded.
    pub mishaps: Vec<MishapView>,
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

/// Where a characteristic is touched.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
pub struct PlanView {
    /// The characteristic.
    pub characteristic: Characteristic,
    /// The kind of place it is for; every kind that has it when absent.
    pub at: Option<PlaceKind>,
    /// Its positions in the order they are touched.
    pub positions: Vec<Planned>,
}

impl PlanView {
    pub(crate) fn all(build: &Build) -> Vec<Self> {
        let view = |p: Plan| PlanView { characteristic: p.characteristic, at: p.at, positions: p.positions };
        build.plans().into_iter().map(view).collect()
    }
}

/// What a gauge is zeroed at unless said, for something that can be read on a dial.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
pub struct ReferenceView {
    /// The characteristic.
    pub characteristic: Characteristic,
    /// With the decimals of the unit.
    pub text: String,
}

impl ReferenceView {
    fn all(build: &Build) -> Vec<Self> {
        let on_dial = Characteristic::all().filter(|c| c.can_be_read(Read::Dial));
        let of = |characteristic: Characteristic| {
            let row = characteristic.row();
            let kind = row.at.iter().find(|kind| build.layout.count(**kind) > 0)?;
            let bearing_row = kind.row().row;
            let nominals = build.layout.nominals(bearing_row);
            let usual = match row.expects {
                Expects::Housing => nominals.map_or(build.layout.journal(bearing_row), |n| n.housing),
                _ => build.layout.journal(bearing_row),
            };
            // A bore gauge stays zeroed where it was last, whatever the drawing says.
            let last = build.readings().filter_map(|(_, reading)| match reading.measure {
                Measure::Dial { reference, .. } if reading.characteristic == characteristic => Some(reference),
                _ => None,
            });
            Some(ReferenceView { characteristic, text: last.last().unwrap_or(usual).show(build.unit) })
        };
        on_dial.filter_map(of).collect()
    }
}

/// The set-up of a row in force.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
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
    /// Those of its further groups, in their order.
    pub group_steps: Vec<Vec<String>>,
}

impl SetUpView {
    pub(crate) fn all(build: &Build) -> Vec<Self> {
        let notes = build.notes();
        let shown = |steps: &[TorqueStep]| steps.iter().map(|step| step.show(build.unit)).collect();
        let of = |row: BearingRow| {
            notes.iter().rev().find_map(|f| match &f.what {
                What::SetUp(s) if s.row == row => Some(SetUpView {
                    version: f.seq,
                    at: f.at,
                    by: f.by.clone(),
                    set_up: s.clone(),
                    steps: shown(&s.steps),
                    group_steps: s.groups.iter().map(|g| shown(&g.steps)).collect(),
                }),
                _ => None,
            })
        };
        BearingRow::ALL.into_iter().filter_map(of).collect()
    }
}

/// What a part looks like now.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
pub struct InspectionView {
    /// Where.
    pub station: Place,
    /// On what.
    pub part: InspectedPart,
    /// What was seen.
    pub signs: Vec<Sign>,
    /// Where on the part, and how deep.
    pub marks: Vec<Mark>,
    /// By whom.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

/// A part that can be looked at in this engine.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
pub struct LookView {
    /// The part.
    pub part: InspectedPart,
    /// Where there is one, from the front.
    pub places: Vec<Place>,
    /// The signs that are looked for, the good one first.
    pub signs: Vec<Sign>,
    /// Those of them that stop the part.
    pub stops: Vec<Sign>,
}

impl LookView {
    pub(crate) fn all(build: &Build) -> Vec<Self> {
        let view = |row: &LookRow| {
            let places = row.part.places(&build.layout);
            let stops = row.signs.iter().copied().filter(|sign| sign.is_stop()).collect();
            (!places.is_empty()).then(|| LookView { part: row.part, places, signs: row.signs.to_vec(), stops })
        };
        LOOKS.iter().filter_map(view).collect()
    }
}

/// Something that befell the engine.
#[derive(Debug, PartialEq, Serialize, ToSchema)]
pub struct MishapView {
    /// What.
    pub mishap: Mishap,
    /// Who recorded it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

impl MishapView {
    pub(crate) fn all(build: &Build) -> Vec<Self> {
        let of = |fact: &Fact| match &fact.what {
            What::Mishap(mishap) => Some(MishapView { mishap: mishap.clone(), by: fact.by.clone(), at: fact.at }),
            _ => None,
        };
        build.facts.iter().filter_map(of).collect()
    }
}

impl InspectionView {
    pub(crate) fn all(build: &Build) -> Vec<Self> {
        let notes = build.notes();
        let standing = Standing::of(&build.layout, &notes);
        let endings = Endings::of(&build.layout, &notes, &standing, build.rules_now().reckoning);
        let inspections = Inspections::of(&notes, &standing, &endings);
        let view = |(station, f, l): (Place, &Fact, &jagged_pin_core::log::Inspection)| {
            let (by, at) = (f.by.clone(), f.at);
            InspectionView { station, part: l.part, signs: l.signs.clone(), marks: l.marks.clone(), by, at }
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
    pub station: Place,
    /// What.
    pub characteristic: Characteristic,
    /// What it is in its bearing.
    pub part: Role,
}

impl AskedView {
    fn all(evaluated: &Evaluated) -> Vec<Self> {
        let view = |(id, r): &(Uuid, BlindRequest)| AskedView {
            id: *id,
            station: r.station,
            characteristic: r.characteristic,
            part: r.characteristic.role(),
        };
        evaluated.asked.iter().map(view).collect()
    }
}

impl BuildView {
    /// The view of an evaluated build, with the gauges that hang in the gauge room.
    pub fn of(evaluated: &Evaluated, room: &[Gauge]) -> Self {
        let build = &*evaluated.build;
        BuildView {
            id: build.id,
            code: build.code.clone(),
            engine: build.engine.clone(),
            unit: build.unit,
            layout: build.layout.clone(),
            gauges: Self::gauges(evaluated, room),
            references: ReferenceView::all(build),
            plans: PlanView::all(build),
            set_ups: SetUpView::all(build),
            tightening: tightening_order(build.layout.mains),
            parts: PartView::all(build),
            inspections: InspectionView::all(build),
            looks: LookView::all(build),
            mishaps: MishapView::all(build),
            asked: AskedView::all(evaluated),
            opened_at: build.opened_at,
            opened_by: build.opened_by.clone(),
            decisions: Self::decisions(build, 0),
            readings: ReadingView::some(build, |_| true),
            assessment: evaluated.assessment.clone(),
        }
    }

    /// The gauges as they stand today, those of the gauge room among them.
    pub(crate) fn gauges(evaluated: &Evaluated, room: &[Gauge]) -> Vec<GaugeStatus> {
        gauge_statuses(&evaluated.build, &evaluated.assessment, Day::of(clock::now()), room)
    }

    /// What was done and decided after `since`.
    pub(crate) fn decisions(build: &Build, since: u32) -> Vec<DecisionView> {
        build.notes().iter().filter(|f| f.seq > since).filter_map(|f| decision(build, f)).collect()
    }
}
