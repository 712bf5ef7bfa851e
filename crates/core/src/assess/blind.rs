//! What came of the blind second touches.
//!
//! When every place that counts was touched, both sizes are compared by `En`, leaving out what both share. Above 1 they
//! disagree and the sheet cannot be signed.

use serde::Serialize;
use uuid::Uuid;

use crate::build::{is_done, requests};
use crate::engine::{Feature, Method, Part, Station};
use crate::evidence::{Evidence, FeatureAssessment, FeatureSize, SlottedReadings, gauge_behind};
use crate::figure::{Budget, Context, Finding, MeasuredBy, StationAssessment, of_size};
use crate::log::BlindRequest;
use crate::maths::compare;
use crate::units::{Length, Person, Timestamp};

/// A blind second touch and what came of it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BlindTouch {
    /// Identifier of the request.
    pub id: Uuid,
    /// When it was asked for.
    pub at: Timestamp,
    /// Who asked.
    pub by: Person,
    /// Who measures.
    pub whom: Person,
    /// Where.
    pub station: Station,
    /// What.
    pub feature: Feature,
    /// Whether every place that counts was touched.
    pub done: bool,
    /// The size found first, as far as it still stands.
    pub first: Option<Length>,
    /// The size found blind.
    pub second: Option<Length>,
    /// How they compare, once both are there.
    pub comparison: Option<BlindComparison>,
}

/// First size against second.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BlindComparison {
    /// First less second.
    pub difference: Length,
    /// Difference over combined uncertainty; absent without any uncertainty.
    pub en: Option<f64>,
    /// At or below 1.
    pub agree: bool,
}

/// Works out every request, and leaves a remark at the bearings where the two sizes disagree.
pub(super) fn blind_touches(
    context: &Context<'_>,
    evidence: Evidence<'_>,
    stations: &mut [StationAssessment],
) -> Vec<BlindTouch> {
    let mut found = Vec::new();
    for (fact, request) in requests(context.notes) {
        let part = request.feature.part();
        let second = SlottedReadings::of(evidence, Some(fact.id));
        let bearing = context.build.layout.bearing_on(request.station);
        let Some(at) = stations.iter().find(|s| s.station == bearing) else { continue };
        let done = is_done(context.build, fact.id, request);
        let sizes = |method| {
            let again = context.feature(&second, (bearing, part, method), context.usual_journal(bearing));
            (again, at.feature(part, method).clone())
        };
        let direct = sizes(Method::Direct);
        let (second, first) = if part == Part::Bore && direct.0.complete { direct } else { sizes(Method::Subtract) };
        let comparison = done.then(|| comparison(context, part, &first, &second)).flatten();
        if let Some(difference) = comparison.filter(|c| !c.agree).map(|c| c.difference) {
            let there = |s: &&mut StationAssessment| at_place(s, request);
            for s in stations.iter_mut().filter(there) {
                s.findings.push(Finding::BlindDisagrees { part, difference });
            }
        }
        let effective = |f: FeatureAssessment| f.size.map(|s| s.effective);
        found.push(BlindTouch {
            id: fact.id,
            at: fact.at,
            by: fact.by.clone(),
            whom: request.whom.clone(),
            station: request.station,
            feature: request.feature,
            done,
            first: if done { effective(first) } else { None },
            second: if done { effective(second) } else { None },
            comparison,
        });
    }
    found
}

fn at_place(s: &StationAssessment, request: &BlindRequest) -> bool {
    match request.station {
        Station::Pin(_) => s.journal_at == request.station,
        other => s.station == other,
    }
}

fn comparison(
    context: &Context<'_>,
    part: Part,
    first: &FeatureAssessment,
    second: &FeatureAssessment,
) -> Option<BlindComparison> {
    let (a, b) = (first.size.as_ref()?, second.size.as_ref()?);
    let budget = |size: &FeatureSize| -> Option<Budget> {
        let gauge = gauge_behind(context.build, context.sessions, size)?;
        Some(of_size(part, MeasuredBy { gauge, touches: size.touches }))
    };
    let (of_a, of_b) = (budget(a)?, budget(b)?);
    // Only the scale of one gauge is shared: feel and step are read anew by the second person.
    let own = |x: &Budget, y: &Budget| {
        let shared = |p: &crate::figure::Contribution| {
            use crate::figure::DoubtSource::Calibration;
            p.source == Calibration && y.parts.iter().any(|q| q.source == Calibration && q.gauge == p.gauge)
        };
        Budget::combine(x.parts.iter().filter(|p| !shared(p)).cloned().collect()).expanded
    };
    let c = compare((a.effective, own(&of_a, &of_b)), (b.effective, own(&of_b, &of_a)));
    Some(BlindComparison { difference: c.difference, en: c.en, agree: c.agree })
}
