//! What a practised eye would remark on at a bearing.

use crate::engine::{Feature, Method, Part, Station};
use crate::evidence::{FeatureAssessment, FeatureSize, gauge_behind};
use crate::figure::{Context, Finding, StationAssessment};
use crate::gauge::GaugeFit;
use crate::log::{InspectedPart, SetUp, What};
use crate::maths::suspects;
use crate::units::{Day, Length};

/// What was found out on the way and is remarked on here.
pub(crate) struct Remarks {
    /// Reason of an acceptance that no longer holds.
    pub lapsed: Option<String>,
}

/// Every remark about a bearing, the gravest first.
pub(crate) fn findings(context: &Context<'_>, s: &StationAssessment, remarks: Remarks) -> Vec<Finding> {
    let mut found = Vec::new();
    stops(context, s, &mut found);
    shape_of_the_bearing(context, s, &mut found);
    for a in s.agreements.iter().filter(|a| !a.agree) {
        found.push(Finding::MethodsDisagree { of: a.of, with: a.with, difference: a.difference });
    }
    if let Some(check) = s.prediction.as_ref().filter(|p| !p.agrees) {
        let (difference, combined) = (check.difference, check.combined);
        found.push(Finding::PredictionMissed { difference, combined });
    }
    if s.judged.as_ref().is_some_and(|j| !j.decidable) {
        found.push(Finding::Undecidable);
    }
    if s.class.is_some_and(|c| c.undersize.is_none()) {
        found.push(Finding::NotOfFamily);
    }
    housing_size(context, s, &mut found);
    for (part, method, feature) in s.features() {
        of_feature(context, s, (part, method), feature, &mut found);
    }
    set_up(context, s, &mut found);
    found.extend(remarks.lapsed.map(|reason| Finding::ConcessionLapsed { reason }));
    found
}

fn stops(context: &Context<'_>, s: &StationAssessment, found: &mut Vec<Finding>) {
    let inspections = context.inspections.all();
    let journal = |look: &crate::log::Inspection| look.station == s.journal_at && look.part == InspectedPart::Journal;
    if inspections.iter().any(|(_, l)| journal(l) && l.signs.iter().any(|sign| sign.is_stop())) {
        found.push(Finding::StopJournal);
    }
}

/// The bore that counts: the one the judged method used, else whichever has figures.
fn bore(s: &StationAssessment) -> &FeatureAssessment {
    match s.judged.as_ref().map(|j| j.method) {
        Some(Method::Subtract) => &s.bore_subtract,
        Some(Method::Direct) => &s.bore_direct,
        _ if s.bore_direct.size.is_some() => &s.bore_direct,
        _ => &s.bore_subtract,
    }
}

fn step(context: &Context<'_>, size: &FeatureSize) -> Length {
    gauge_behind(context.build, context.sessions, size).map_or(Length::ZERO, |g| g.resolution)
}

fn shape_of_the_bearing(context: &Context<'_>, s: &StationAssessment, found: &mut Vec<Finding>) {
    let (bore, housing) = (bore(s), s.housing.size.as_ref().filter(|_| s.housing.complete));
    if let (Some(b), Some(j), true, true) = (&bore.size, &s.journal.size, bore.complete, s.journal.complete) {
        let list = suspects(b.taper, housing.map(|h| h.taper), j.taper, step(context, b));
        if !list.is_empty() {
            let explained = housing.map_or(j.taper, |h| h.taper.max(j.taper));
            found.push(Finding::TaperOverBearing { taper: b.taper, explained, suspects: list });
        }
    }
    let Some(limits) = context.rules.shape else { return };
    let shapes = [
        (Part::Journal, true, s.journal.size.as_ref().map(|z| z.taper), limits.journal_taper),
        (Part::Journal, false, s.journal.size.as_ref().map(|z| z.out_of_round), limits.journal_round),
        (Part::Housing, false, s.housing.size.as_ref().map(|z| z.out_of_round), limits.housing_round),
    ];
    for (part, taper, value, limit) in shapes {
        if let Some(value) = value.filter(|v| *v > limit) {
            found.push(Finding::Shape { part, taper, value, limit });
        }
    }
}

fn housing_size(context: &Context<'_>, s: &StationAssessment, found: &mut Vec<Finding>) {
    let nominals = context.build.layout.nominals(s.station.row());
    let (Some(n), Some(h), true) = (nominals, &s.housing.size, s.housing.complete) else { return };
    let off = |size: Length| size - n.housing;
    let by = if off(h.smallest) < -n.housing_tolerance {
        off(h.smallest) + n.housing_tolerance
    } else {
        (off(h.largest) - n.housing_tolerance).max(Length::ZERO)
    };
    if by != Length::ZERO {
        found.push(Finding::HousingOff { by });
    }
}

fn of_feature(
    context: &Context<'_>,
    s: &StationAssessment,
    (part, method): (Part, Option<Method>),
    assessed: &FeatureAssessment,
    found: &mut Vec<Finding>,
) {
    let Some(size) = &assessed.size else { return };
    let place = if part == Part::Journal { s.journal_at } else { s.station };
    let Some(feature) = Feature::at(place, part) else { return };
    let step = step(context, size);
    let spread_out = assessed.positions.iter().filter(|p| p.touches.len() >= 3 && p.spread > step);
    found.extend(spread_out.map(|p| Finding::RepeatsSpread { feature, position: p.position, spread: p.spread }));
    if let Some(relief) = size.relief.filter(|r| part == Part::Bore && *r <= Length::ZERO) {
        found.push(Finding::ReliefNotPositive { relief });
    }
    let fresh = || {
        let touched = context.touches.at(place, feature, method.unwrap_or(Method::Subtract));
        touched.flat_map(|(_, slot)| &slot.fresh)
    };
    if !size.proven && part != Part::Strip {
        found.push(Finding::Unproven { part });
    }
    // The latest touch tells: a gauge that was past due before it still is.
    let latest = fresh().max_by_key(|t| t.fact.seq);
    let late = latest.and_then(|t| t.gauge.filter(|g| g.past_due(Day::of(t.fact.at))));
    found.extend(late.map(|g| Finding::PastDue { part, gauge: g.name.clone() }));
    if size.gauge_fit == Some(GaugeFit::TooCoarse)
        && let Some((gauge, target)) = gauge_behind(context.build, context.sessions, size).zip(s.target.as_ref())
    {
        let width = target.window.high - target.window.low;
        let ratio_tenths = width.nm().saturating_mul(10) / gauge.resolution.nm().max(1);
        found.push(Finding::TooCoarse { part, gauge: gauge.name.clone(), ratio_tenths });
    }
    if fresh().any(|t| t.reading.temperatures.is_some_and(|t| t.let_it_soak())) {
        found.push(Finding::LetItSoak { part });
    }
}

/// The set-up in force for a row, by the last that was recorded.
fn set_up_of<'a>(context: &Context<'a>, station: Station) -> Option<&'a SetUp> {
    context.notes.iter().rev().find_map(|f| match &f.what {
        What::SetUp(set_up) if set_up.row == station.row() => Some(set_up),
        _ => None,
    })
}

fn set_up(context: &Context<'_>, s: &StationAssessment, found: &mut Vec<Finding>) {
    let torqued = [&s.housing, &s.bore_direct, &s.bore_subtract].iter().any(|f| f.taken > 0);
    if !torqued {
        return;
    }
    match set_up_of(context, s.station) {
        None => found.push(Finding::NoSetUp),
        Some(set_up) if !set_up.as_finished => found.push(Finding::OtherFasteners),
        Some(_) => {}
    }
}
