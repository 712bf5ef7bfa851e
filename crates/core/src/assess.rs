//! [`evaluate`]: from a build to everything that can be said about it now.
//!
//! One pure function, fast enough (well under a millisecond) that nothing it derives is ever stored.
//! Per station: the journal and the bore by each method, clearance, uncertainty and verdict; for the
//! crank: spread and trend; for the build: what to touch next and what blocks the signature.

use std::collections::HashMap;

use uuid::Uuid;

use crate::assessment::{
    Agreement, Assessment, ConcessionInForce, EndClearance, FeatureAssessment, FeatureSize, Finding, Judged,
    MethodResult, PositionAssessment, Row, RowTrend, StationAssessment, TargetInForce,
};
use crate::build::Build;
use crate::compare::compare;
use crate::effective::{Place, effective};
use crate::fact::{Concession, Reading, TargetChange, What};
use crate::feature::{Axial, Feature, Method, Position, Station};
use crate::gauge::GaugeKind;
use crate::plan::{still_wanted, touches_left};
use crate::signoff::sign_off;
use crate::target::Target;
use crate::trend::{Point, trend};
use crate::uncertainty::{Touched, direct, subtract, without_journal};
use crate::verdict::{State, Window, verdict};
use crate::{Length, clearance};

/// The readings that count, sorted to the positions of each feature, and bores by method.
struct Touches<'a>(Vec<Vec<(Uuid, &'a Reading)>>);

/// Journal, bore by dial, bore by size.
const FEATURES: usize = 3;
/// Room for the positions of one feature.
const PLACES: usize = 8;

impl<'a> Touches<'a> {
    /// Where the readings of a position stand; a plain index, since there may be thousands of them.
    fn slot(station: Station, feature: Feature, method: Method, position: Position) -> Option<usize> {
        let place = feature.positions().iter().position(|p| p.position == position)?;
        // A journal is one size however it was come by; only bores are told apart by method.
        let measured = match (feature, method) {
            (Feature::MainJournal, _) => 0,
            (Feature::MainBearing, Method::Direct) => 1,
            (Feature::MainBearing, Method::Subtract) => 2,
        };
        let station = usize::from(station.number()) - 1;
        (place < PLACES).then_some((station * FEATURES + measured) * PLACES + place)
    }

    fn of(build: &'a Build) -> Self {
        let struck = build.struck();
        let mut sorted = vec![Vec::new(); usize::from(build.layout.mains) * FEATURES * PLACES];
        for (fact, r) in build.readings().filter(|(f, _)| struck.is_empty() || !struck.contains(&f.id)) {
            let slot = Self::slot(r.station, r.feature, r.measure.method(), r.position);
            if let Some(place) = slot.and_then(|s| sorted.get_mut(s)) {
                place.push((fact.id, r));
            }
        }
        Touches(sorted)
    }

    fn at(&self, station: Station, feature: Feature, method: Method, position: Position) -> &[(Uuid, &'a Reading)] {
        let slot = Self::slot(station, feature, method, position);
        slot.and_then(|s| self.0.get(s)).map_or(&[], Vec::as_slice)
    }
}

/// Works out everything that follows from a build's facts.
pub fn evaluate(build: &Build) -> Assessment {
    let touches = Touches::of(build);
    let targets = Targets::of(build);
    let usual_journal = usual_journal(build, &touches);
    let stations: Vec<StationAssessment> = build
        .layout
        .stations()
        .map(|station| assess_station(build, &touches, &targets, usual_journal, station))
        .collect();
    let wanted = still_wanted(&stations);
    let sign_off = sign_off(build, &stations);
    Assessment { seq: build.seq(), target: targets.build, row: row(&stations), stations, wanted, sign_off }
}

/// The targets in force: the build's, and those of single stations.
struct Targets {
    build: Option<TargetInForce>,
    own: HashMap<Station, TargetInForce>,
}

impl Targets {
    fn of(build: &Build) -> Self {
        let mut targets = Targets { build: None, own: HashMap::new() };
        for fact in &build.facts {
            let What::Target(change) = &fact.what else { continue };
            let TargetChange { station, rule, source, reason } = change;
            let in_force = rule.and_then(|rule| {
                let window = rule.resolve(build.layout.main_journal).ok()?;
                let (reason, by) = (reason.clone(), fact.by.clone());
                let own = station.is_some();
                Some(TargetInForce { window, rule, source: *source, reason, by, at: fact.at, own, version: fact.seq })
            });
            match (station, in_force) {
                (Some(s), Some(t)) => drop(targets.own.insert(*s, t)),
                (Some(s), None) => drop(targets.own.remove(s)),
                (None, Some(t)) => targets.build = Some(t),
                (None, None) => {}
            }
        }
        targets
    }

    fn at(&self, station: Station) -> Option<&TargetInForce> {
        self.own.get(&station).or(self.build.as_ref())
    }
}

/// What the journals of this crank measure as a rule: a crank ground under shows by its first journal.
fn usual_journal(build: &Build, touches: &Touches<'_>) -> Length {
    let journals = touches.0.iter().flatten().filter(|(_, r)| r.feature == Feature::MainJournal);
    let sizes: Vec<Length> = journals.map(|(_, r)| r.measure.size()).collect();
    Length::median(&sizes).unwrap_or(build.layout.main_journal)
}

fn assess_station(
    build: &Build,
    touches: &Touches<'_>,
    targets: &Targets,
    usual_journal: Length,
    station: Station,
) -> StationAssessment {
    let target = targets.at(station);
    let feature = |f, method, expected| assess_feature(build, touches, (station, f, method), expected);
    let journal = feature(Feature::MainJournal, Method::Subtract, usual_journal);
    let shaft = journal.size.as_ref().map_or(usual_journal, |s| s.effective);
    let bore_size = shaft + target.map_or(Length::ZERO, |t| t.window.aim);
    let bore_direct = feature(Feature::MainBearing, Method::Direct, bore_size);
    let bore_subtract = feature(Feature::MainBearing, Method::Subtract, bore_size);

    let bore = |method| match method {
        Method::Direct => &bore_direct,
        Method::Subtract => &bore_subtract,
    };
    let methods: Vec<MethodResult> =
        Method::ALL.into_iter().filter_map(|m| method_result(build, m, &journal, bore(m))).collect();
    let complete: Vec<&MethodResult> = methods.iter().filter(|m| m.complete).collect();
    let agreement = match complete.as_slice() {
        [a, b] => {
            let own = |m: &MethodResult| (m.clearance, without_journal(&m.budget));
            let c = compare(own(a), own(b));
            Some(Agreement { difference: c.difference, en: c.en, agree: c.agree })
        }
        _ => None,
    };
    let judged = complete.first().zip(target).and_then(|(m, t)| judge(build, m, &t.window));
    let (concession, lapsed) = concession(build, station, judged.as_ref(), target);
    let mut findings = findings(build, [&journal, &bore_direct, &bore_subtract]);
    if let Some(a) = agreement.as_ref().filter(|a| !a.agree) {
        findings.push(Finding::MethodsDisagree { difference: a.difference });
    }
    if judged.as_ref().is_some_and(|j| !j.decidable) {
        findings.push(Finding::Undecidable);
    }
    findings.extend(lapsed.map(|reason| Finding::ConcessionLapsed { reason }));
    StationAssessment {
        station,
        thrust: station == build.layout.thrust,
        target: target.cloned(),
        journal,
        bore_direct,
        bore_subtract,
        methods,
        agreement,
        judged,
        concession,
        findings,
    }
}

fn assess_feature(
    build: &Build,
    touches: &Touches<'_>,
    (station, feature, method): (Station, Feature, Method),
    otherwise: Length,
) -> FeatureAssessment {
    let at = |position| touches.at(station, feature, method, position);
    let sizes = |position| at(position).iter().map(|(_, r)| r.measure.size()).collect::<Vec<_>>();
    let places: Vec<Place<Axial, i16>> = feature
        .positions()
        .iter()
        .map(|p| Place { axial: p.position.axial, angle: p.position.angle, readings: sizes(p.position) })
        .filter(|p| !p.readings.is_empty())
        .collect();
    let angles: Vec<i16> = feature.positions().iter().filter(|p| !p.advisory).map(|p| p.position.angle).collect();
    let size = effective(feature.kind(), build.rules.effective, Some(&angles), &places);
    let expected = size.as_ref().map_or(otherwise, |s| s.effective);
    let positions: Vec<PositionAssessment> = feature
        .positions()
        .iter()
        .map(|p| {
            let readings = sizes(p.position);
            let step =
                at(p.position).last().and_then(|(_, r)| build.gauge(&r.gauge)).map_or(Length::ZERO, |g| g.resolution);
            let value = crate::effective::position_value(&readings);
            let spread = Length::span(readings.iter().copied());
            PositionAssessment {
                position: p.position,
                advisory: p.advisory,
                touches: at(p.position).iter().map(|(id, _)| *id).collect(),
                value,
                spread,
                left: touches_left(build.rules.touches, p.advisory, readings.len(), spread, step),
                expected: value.unwrap_or(expected),
            }
        })
        .collect();
    let size = size.map(|e| {
        let deciding = &places[e.deciding];
        let position = Position { axial: deciding.axial, angle: deciding.angle };
        let touches = match build.rules.effective {
            crate::effective::Rule::Worst => deciding.readings.len(),
            crate::effective::Rule::Mean => {
                places.iter().filter(|p| angles.contains(&p.angle)).map(|p| p.readings.len()).sum()
            }
        };
        FeatureSize {
            effective: e.effective,
            smallest: e.smallest,
            largest: e.largest,
            taper: e.taper,
            out_of_round: e.out_of_round,
            relief: e.relief,
            max_spread: e.max_spread,
            gauge: at(position).last().map(|(_, r)| r.gauge.clone()).unwrap_or_default(),
            touches,
        }
    });
    let taken: usize = positions.iter().map(|p| p.touches.len()).sum();
    FeatureAssessment {
        taken,
        planned: taken + positions.iter().map(|p| usize::from(p.left)).sum::<usize>(),
        complete: positions.iter().all(|p| p.advisory || p.value.is_some()),
        positions,
        size,
    }
}

fn method_result(
    build: &Build,
    method: Method,
    journal: &FeatureAssessment,
    bore: &FeatureAssessment,
) -> Option<MethodResult> {
    let (j, b) = (journal.size.as_ref()?, bore.size.as_ref()?);
    let touched = |s: &FeatureSize| -> Option<(&GaugeKind, usize)> { Some((build.gauge(&s.gauge)?, s.touches)) };
    let (journal_by, bore_by) = (touched(j)?, touched(b)?);
    let touched = |(gauge, touches)| Touched { gauge, touches };
    let budget = match method {
        Method::Direct => direct(touched(journal_by), touched(bore_by)),
        Method::Subtract => subtract(touched(journal_by), touched(bore_by)),
    };
    let ends = bore
        .positions
        .iter()
        .filter(|p| !p.advisory)
        .filter_map(|p| {
            let clearance = clearance::subtract(p.value?, j.effective);
            Some(EndClearance { axial: p.position.axial, clearance })
        })
        .collect();
    Some(MethodResult {
        method,
        complete: journal.complete && bore.complete,
        // Dials were turned into sizes with their own references, so both methods subtract here.
        clearance: clearance::subtract(b.effective, j.effective),
        budget,
        ends,
    })
}

fn judge(build: &Build, result: &MethodResult, target: &Target) -> Option<Judged> {
    let window = Window::between(target.low, target.high)?;
    let v = verdict(result.clearance, result.clearance, result.budget.expanded, window, build.rules.acceptance);
    Some(Judged {
        method: result.method,
        clearance: result.clearance,
        expanded: result.budget.expanded,
        state: v.state,
        nearest: v.nearest,
        inside: v.inside,
        margin: v.margin,
        decidable: v.decidable,
    })
}

/// The last acceptance of a station if it still holds; else its reason, when the station needs a new one.
fn concession(
    build: &Build,
    station: Station,
    judged: Option<&Judged>,
    target: Option<&TargetInForce>,
) -> (Option<ConcessionInForce>, Option<String>) {
    let last = build.facts.iter().rev().find_map(|f| match &f.what {
        What::Concession(c) if c.station == station => Some((f, c)),
        _ => None,
    });
    let Some((fact, c)) = last else { return (None, None) };
    if judged.zip(target).is_some_and(|(j, t)| covers(c, j, &t.window)) {
        let (reason, by) = (c.reason.clone(), fact.by.clone());
        return (Some(ConcessionInForce { reason, by, at: fact.at }), None);
    }
    let needed = judged.is_some_and(|j| j.state != State::In);
    (None, needed.then(|| c.reason.clone()))
}

/// An acceptance holds for exactly the figure, the state and the window it was given for.
pub(crate) fn covers(c: &Concession, judged: &Judged, target: &Target) -> bool {
    c.state == judged.state && c.clearance == judged.clearance && c.target == *target
}

fn findings(build: &Build, features: [&FeatureAssessment; 3]) -> Vec<Finding> {
    let names = [Feature::MainJournal, Feature::MainBearing, Feature::MainBearing];
    let mut found = Vec::new();
    for (feature, assessed) in names.into_iter().zip(features) {
        let Some(size) = &assessed.size else { continue };
        let step = build.gauge(&size.gauge).map_or(Length::ZERO, |g| g.resolution);
        let spread_out = assessed.positions.iter().filter(|p| p.touches.len() >= 3 && p.spread > step);
        found.extend(spread_out.map(|p| Finding::RepeatsSpread { feature, position: p.position, spread: p.spread }));
        if let Some(relief) = size.relief.filter(|r| *r <= Length::ZERO) {
            found.push(Finding::ReliefNotPositive { relief });
        }
    }
    found
}

fn row(stations: &[StationAssessment]) -> Row {
    let judged: Vec<(Station, &Judged)> =
        stations.iter().filter_map(|s| Some((s.station, s.judged.as_ref()?))).collect();
    let points: Vec<Point> =
        judged.iter().map(|(s, j)| Point { station: s.number(), value: j.clearance, expanded: j.expanded }).collect();
    let trend = trend(&points).map(|fit| {
        let doubt =
            points.first().zip(points.last()).map_or(0.0, |(a, b)| a.expanded.as_f64().hypot(b.expanded.as_f64()));
        RowTrend {
            stations: judged.iter().map(|(s, _)| *s).collect(),
            odd: fit.odd.and_then(|i| judged.get(i)).map(|(s, _)| *s),
            leans: fit.rise.as_f64().abs() > doubt.max(fit.doubt.as_f64()),
            fit,
        }
    });
    Row {
        measured: points.len(),
        spread: (points.len() >= 2).then(|| Length::span(points.iter().map(|p| p.value))),
        trend,
    }
}
