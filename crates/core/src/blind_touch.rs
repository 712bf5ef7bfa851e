//! What came of the blind second touches ([`crate::blind`]).

use crate::assess::Whole;
use crate::assessment::{FeatureAssessment, FeatureSize, Finding, StationAssessment};
use crate::blind::{BlindComparison, BlindRequest, BlindTouch, is_done, requests};
use crate::compare::compare;
use crate::feature::{Method, Part};
use crate::methods::gauge_behind;
use crate::station::Station;
use crate::touches::{Evidence, Touches};
use crate::uncertainty::{Budget, Touched, of_size};

/// Works out every request, and leaves a remark at the bearings where the two sizes disagree.
pub(crate) fn blind_touches(
    whole: &Whole<'_>,
    evidence: Evidence<'_>,
    stations: &mut [StationAssessment],
) -> Vec<BlindTouch> {
    let mut found = Vec::new();
    for (fact, request) in requests(whole.notes) {
        let part = request.feature.part();
        let second = Touches::of(evidence, Some(fact.id));
        let bearing = whole.build.layout.bearing_on(request.station);
        let Some(at) = stations.iter().find(|s| s.station == bearing) else { continue };
        let done = is_done(whole.build, fact.id, request);
        let sizes = |method| {
            let again = whole.feature(&second, (bearing, part, method), whole.usual_journal(bearing));
            (again, at.feature(part, method).clone())
        };
        let direct = sizes(Method::Direct);
        let (second, first) = if part == Part::Bore && direct.0.complete { direct } else { sizes(Method::Subtract) };
        let comparison = done.then(|| comparison(whole, part, &first, &second)).flatten();
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
    whole: &Whole<'_>,
    part: Part,
    first: &FeatureAssessment,
    second: &FeatureAssessment,
) -> Option<BlindComparison> {
    let (a, b) = (first.size.as_ref()?, second.size.as_ref()?);
    let budget = |size: &FeatureSize| -> Option<Budget> {
        let gauge = gauge_behind(whole.build, whole.sessions, size)?;
        Some(of_size(part, Touched { gauge, touches: size.touches }))
    };
    let (of_a, of_b) = (budget(a)?, budget(b)?);
    // Only the scale of one gauge is shared: feel and step are read anew by the second person.
    let own = |x: &Budget, y: &Budget| {
        let shared = |p: &crate::uncertainty::Contribution| {
            use crate::uncertainty::DoubtSource::Calibration;
            p.source == Calibration && y.parts.iter().any(|q| q.source == Calibration && q.gauge == p.gauge)
        };
        Budget::combine(x.parts.iter().filter(|p| !shared(p)).cloned().collect()).expanded
    };
    let c = compare((a.effective, own(&of_a, &of_b)), (b.effective, own(&of_b, &of_a)));
    Some(BlindComparison { difference: c.difference, en: c.en, agree: c.agree })
}
