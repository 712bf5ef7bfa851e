//! What changed in a build: the answer to a write, and to whoever follows what others write.
use jagged_pin_core::assess::{
    Assessment, BlindTouch, Forced, GaugeStatus, Hypothesis, OrderStatus, Row, Unfit, Wanted,
};
use jagged_pin_core::evidence::Session;
use jagged_pin_core::figure::FigureAssessment;
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::log::{Rules, What};
use jagged_pin_core::sheet::{NotChecked, SignOff};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::build::{AskedView, BuildView, InspectionView, MishapView, PlanView, SetUpView};
use super::decisions::DecisionView;
use super::parts::PartView;
use super::reading::ReadingView;
use crate::evaluated::Evaluated;

/// What changed in a build between two of its facts. What is absent is as it was.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChangesView {
    /// The build.
    pub id: Uuid,
    /// Its short name.
    pub code: String,
    /// Place of the last fact that is taken for known.
    pub since: u32,
    /// Place of the last fact there is.
    pub seq: u32,
    /// The build as a whole, where what changed cannot be told apart from the rest.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub whole: Option<Box<BuildView>>,
    /// Readings that are new, or struck since.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub readings: Vec<ReadingView>,
    /// What was done and decided since.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub decisions: Vec<DecisionView>,
    /// Gauges, if any of them stands otherwise.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub gauges: Option<Vec<GaugeStatus>>,
    /// Where things are touched, if that changed.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub plans: Option<Vec<PlanView>>,
    /// The set-ups, if one is new.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub set_ups: Option<Vec<SetUpView>>,
    /// What parts look like, if that changed.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub inspections: Option<Vec<InspectionView>>,
    /// What befell the engine, if something did.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub mishaps: Option<Vec<MishapView>>,
    /// The parts, if something is otherwise about them.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub parts: Option<Vec<PartView>>,
    /// What the signed-in person is asked to measure blind, if that changed.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub asked: Option<Vec<AskedView>>,
    /// What follows.
    pub assessment: AssessmentChanges,
}

/// What changed of what follows from a build.
#[derive(Debug, Default, Serialize, ToSchema)]
pub struct AssessmentChanges {
    /// The figures that are otherwise now, whole.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub figures: Vec<FigureAssessment>,
    /// The rules.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rules: Option<Rules>,
    /// The rows.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub rows: Option<Vec<Row>>,
    /// What still wants touches.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub wanted: Option<Vec<Wanted>>,
    /// Sittings with gauges.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sessions: Option<Vec<Session>>,
    /// What the wear patterns suggest.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub hypotheses: Option<Vec<Hypothesis>>,
    /// Checks and looks that are forced.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub forced: Option<Vec<Forced>>,
    /// Parts that are condemned by what was found.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub unfit: Option<Vec<Unfit>>,
    /// Blind second touches.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub blind: Option<Vec<BlindTouch>>,
    /// Work orders.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub orders: Option<Vec<OrderStatus>>,
    /// How far the sheet is.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sign_off: Option<SignOff>,
    /// What the sheet says nothing about.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub not_checked: Option<Vec<NotChecked>>,
}

/// The answer to a write.
#[derive(Debug, Serialize, ToSchema)]
pub struct RecordedView {
    /// Place of the fact in the build's order.
    pub seq: u32,
    /// The same fact had been sent before: nothing was written this time.
    pub again: bool,
    /// What it changed.
    pub changes: ChangesView,
}

/// The new value where it is another one.
fn other<T: PartialEq>(before: &T, after: T) -> Option<T> {
    (*before != after).then_some(after)
}

/// A copy of the new value where it is another one.
fn copied<T: PartialEq + Clone>(before: &T, after: &T) -> Option<T> {
    (before != after).then(|| after.clone())
}

impl AssessmentChanges {
    fn between(before: &Assessment, after: &Assessment) -> Self {
        let figures = before.figures.iter().zip(&after.figures).filter(|(was, is)| was != is);
        AssessmentChanges {
            figures: figures.map(|(_, is)| is.clone()).collect(),
            rules: copied(&before.rules, &after.rules),
            rows: copied(&before.rows, &after.rows),
            wanted: copied(&before.wanted, &after.wanted),
            sessions: copied(&before.sessions, &after.sessions),
            hypotheses: copied(&before.hypotheses, &after.hypotheses),
            forced: copied(&before.forced, &after.forced),
            unfit: copied(&before.unfit, &after.unfit),
            blind: copied(&before.blind, &after.blind),
            orders: copied(&before.orders, &after.orders),
            sign_off: copied(&before.sign_off, &after.sign_off),
            not_checked: copied(&before.not_checked, &after.not_checked),
        }
    }
}

impl ChangesView {
    /// Everything, for whoever knows nothing yet.
    pub fn whole(after: &Evaluated, room: &[Gauge]) -> Self {
        ChangesView { whole: Some(Box::new(BuildView::of(after, room))), ..Self::nothing(after, 0) }
    }

    fn nothing(after: &Evaluated, since: u32) -> Self {
        ChangesView {
            id: after.build.id,
            code: after.build.code.clone(),
            since,
            seq: after.build.seq(),
            whole: None,
            readings: Vec::new(),
            decisions: Vec::new(),
            gauges: None,
            plans: None,
            set_ups: None,
            inspections: None,
            mishaps: None,
            parts: None,
            asked: None,
            assessment: AssessmentChanges::default(),
        }
    }

    /// What changed from `before` to `after`, two states of one build as one person sees them.
    pub fn between(before: &Evaluated, after: &Evaluated, room: &[Gauge]) -> Self {
        let since = before.build.seq();
        // What is hidden from somebody who measures blind comes and goes with the request.
        // So do figures that are asked for only where they have a target.
        let list = |of: &Evaluated| of.assessment.figures.iter().map(|f| (f.figure, f.station)).collect::<Vec<_>>();
        if before.asked.iter().map(|(id, _)| id).ne(after.asked.iter().map(|(id, _)| id)) || list(before) != list(after)
        {
            return ChangesView { since, ..Self::whole(after, room) };
        }
        let struck: Vec<Uuid> = after
            .build
            .facts
            .iter()
            .filter(|f| f.seq > since)
            .filter_map(|f| match &f.what {
                What::Strike(s) => Some(s.reading),
                _ => None,
            })
            .collect();
        ChangesView {
            readings: ReadingView::some(&after.build, |f| f.seq > since || struck.contains(&f.id)),
            decisions: BuildView::decisions(&after.build, since),
            gauges: other(&BuildView::gauges(before, room), BuildView::gauges(after, room)),
            plans: other(&PlanView::all(&before.build), PlanView::all(&after.build)),
            set_ups: other(&SetUpView::all(&before.build), SetUpView::all(&after.build)),
            parts: other(&PartView::all(&before.build), PartView::all(&after.build)),
            mishaps: other(&MishapView::all(&before.build), MishapView::all(&after.build)),
            inspections: other(&InspectionView::all(&before.build), InspectionView::all(&after.build)),
            assessment: AssessmentChanges::between(&before.assessment, &after.assessment),
            ..Self::nothing(after, since)
        }
    }
}
