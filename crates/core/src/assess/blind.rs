//! What came of the blind second touches.
//!
//! When every place that counts was touched, both sizes are compared by `En`, leaving out what both share. Above 1 they
//! disagree and the sheet cannot be signed.
use std::collections::BTreeSet;

use serde::Serialize;
use uuid::Uuid;

use crate::build::{is_done, requests};
use crate::engine::{Characteristic, Place, Role};
use crate::evidence::{Evidence, Size, SizeAssessment, SlottedReadings, gauge_behind};
use crate::figure::{Budget, Context, FigureAssessment, Finding, Measured, MeasuredBy, of_size};
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
    pub station: Place,
    /// What.
    pub characteristic: Characteristic,
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

/// Works out every request, and leaves a remark at the figures where the two sizes disagree.
pub(super) fn blind_touches(
    context: &Context<'_>,
    evidence: Evidence<'_>,
    figures: &mut [FigureAssessment],
) -> Vec<BlindTouch> {
    let mut found = Vec::new();
    for (fact, request) in requests(context.notes) {
        let role = request.characteristic.role();
        let readings = SlottedReadings::of(evidence, Some(fact.id));
        let asked = |m: &Measured| (m.place, m.characteristic) == (request.station, request.characteristic);
        let mut there: Vec<(&FigureAssessment, &Measured)> = Vec::new();
        for (at, m) in figures.iter().flat_map(|f| f.measured.iter().filter(|m| asked(m)).map(move |m| (f, m))) {
            if !there.iter().any(|(_, known)| known.spot() == m.spot()) {
                there.push((at, m));
            }
        }
        let done = is_done(context.build, fact.id, request);
        // First and second size, read one way.
        let sizes = |(at, first): (&FigureAssessment, &Measured)| {
            let usual = context.usual_journal(at.station);
            let of = (at.station, context.window(at.figure, at.station));
            let again = context.measured(&readings, of, (first.role, first.read), (first.place, usual));
            (first.size.clone(), again.map(|m| m.size).unwrap_or_default())
        };
        let tracks: BTreeSet<Option<u8>> = there.iter().map(|(_, m)| m.track).collect();
        let of_track = |track: &Option<u8>| {
            let both: Vec<_> = there.iter().copied().filter(|(_, m)| m.track == *track).map(sizes).collect();
            let whole = both.iter().position(|(_, second)| second.complete);
            let (first, second) = both.into_iter().nth(whole.unwrap_or(0))?;
            let comparison = done.then(|| comparison(context, role, &first, &second)).flatten();
            Some((first, second, comparison))
        };
        // Of several tracks, the one that agrees least speaks for the pin.
        let en = |c: &Option<BlindComparison>| c.as_ref().and_then(|c| c.en).unwrap_or(0.0);
        let worst = tracks.iter().filter_map(of_track).max_by(|a, b| en(&a.2).total_cmp(&en(&b.2)));
        let Some((first, second, comparison)) = worst else { continue };
        if let Some(difference) = comparison.filter(|c| !c.agree).map(|c| c.difference) {
            for f in figures.iter_mut().filter(|f| f.measured.iter().any(asked)) {
                f.findings.push(Finding::BlindDisagrees { part: role, difference });
            }
        }
        let effective = |size: SizeAssessment| size.size.map(|s| s.effective);
        found.push(BlindTouch {
            id: fact.id,
            at: fact.at,
            by: fact.by.clone(),
            whom: request.whom.clone(),
            station: request.station,
            characteristic: request.characteristic,
            done,
            first: if done { effective(first) } else { None },
            second: if done { effective(second) } else { None },
            comparison,
        });
    }
    found
}

fn comparison(
    context: &Context<'_>,
    part: Role,
    first: &SizeAssessment,
    second: &SizeAssessment,
) -> Option<BlindComparison> {
    let (a, b) = (first.size.as_ref()?, second.size.as_ref()?);
    let budget = |size: &Size| -> Option<Budget> {
        let gauge = gauge_behind(context.build, context.sessions, size)?;
        Some(of_size(part, MeasuredBy::of(gauge, size)))
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
