//! [`evaluate`]: from a build to everything that can be said about it now.
//!
//! One pure function, fast enough (around a millisecond) that nothing it derives is ever stored. The
//! readings are sorted to their places, without those that something ended ([`crate::evidence`]); each
//! feature gets its size, each bearing its clearance by every method, its verdict and remarks; the rows
//! their spread and trend; the build what to touch next and what blocks the signature.

use super::assessment::{Assessment, Row, RowTrend};
use super::blind::blind_touches;
use super::hypotheses::hypotheses;
use super::orders::order_statuses;
use super::wanted::still_wanted;
use crate::build::{Build, struck_among};
use crate::engine::{BearingRow, Method, Part, Station};
use crate::evidence::{Endings, Evidence, Inspections, Plans, Sessions, SlottedReadings};
use crate::figure::{
    BearingSizes, Context, JournalClass, Judged, StationAssessment, Targets, agreements, concession, judge,
    judged_method, prediction, stale_judged, too_coarse, usual_journal,
};
use crate::maths::{BELONGS_WITHIN, TrendPoint, identify_undersize, trend};
use crate::sheet::sign_off;
use crate::subjects::{Remarks, findings};
use crate::units::Length;

/// Works out everything that follows from a build's facts.
pub fn evaluate(build: &Build) -> Assessment {
    let notes = build.notes();
    let rules = build.rules_among(&notes);
    let (plans, sessions) = (Plans::of(build, &notes), Sessions::of(&notes));
    let (endings, struck) = (Endings::of(&build.layout, &notes), struck_among(&notes));
    let evidence = Evidence { build, plans: &plans, sessions: &sessions, endings: &endings, struck: &struck };
    let touches = SlottedReadings::of(evidence, None);
    let inspections = Inspections::of(&notes, &endings);
    let usual_journals = BearingRow::ALL.map(|row| usual_journal(build, &touches, row));
    let targets = Targets::of(build, &notes);
    let context = Context {
        build,
        notes: &notes,
        rules,
        sessions: &sessions,
        touches: &touches,
        endings: &endings,
        inspections: &inspections,
        targets,
        usual_journals,
    };
    let mut stations: Vec<StationAssessment> =
        build.layout.stations().map(|station| assess_station(&context, station)).collect();
    let blind = blind_touches(&context, evidence, &mut stations);
    let reground: Vec<Station> = stations
        .iter()
        .filter(|s| s.class.and_then(|c| c.undersize).is_some_and(|u| u > Length::ZERO))
        .map(|s| s.journal_at)
        .collect();
    let mut seen = Vec::new();
    let reground: Vec<Station> = reground
        .into_iter()
        .filter(|s| {
            !seen.contains(s) && {
                seen.push(*s);
                true
            }
        })
        .collect();
    Assessment {
        seq: build.seq(),
        rules: rules.clone(),
        mains: row(&context.targets, BearingRow::Mains, &stations),
        rods: row(&context.targets, BearingRow::Rods, &stations),
        wanted: still_wanted(rules, &stations),
        orders: order_statuses(&notes, &stations, rules.acceptance, |feature, part| context.doubt_of(feature, part)),
        hypotheses: hypotheses(&inspections, &build.layout, &reground),
        sign_off: sign_off(build, &stations),
        blind,
        stations,
        sessions: sessions.all,
    }
}

fn assess_station(context: &Context<'_>, station: Station) -> StationAssessment {
    let Context { build, rules, sessions, touches, .. } = *context;
    let target = context.targets.at(station);
    let feature = |part, method, journal| context.feature(touches, (station, part, method), journal);
    let journal = feature(Part::Journal, Method::Subtract, context.usual_journal(station));
    let shaft = journal.size.as_ref().map_or(context.usual_journal(station), |s| s.effective);
    let other = |part, method| feature(part, method, shaft);
    let (housing, strip) = (other(Part::Housing, Method::Subtract), other(Part::Strip, Method::Subtract));
    let (bore_direct, bore_subtract) = (other(Part::Bore, Method::Direct), other(Part::Bore, Method::Subtract));
    let (upper_wall, lower_wall) = (other(Part::UpperWall, Method::Subtract), other(Part::LowerWall, Method::Subtract));
    let class = journal.size.as_ref().filter(|_| journal.complete).map(|s| class(build, station, s.effective));
    let bearing = BearingSizes {
        build,
        rules,
        sessions,
        station,
        undersize: class.and_then(|c| c.undersize).unwrap_or_default(),
        journal: &journal,
        housing: &housing,
        bore_direct: &bore_direct,
        bore_subtract: &bore_subtract,
        upper_wall: &upper_wall,
        lower_wall: &lower_wall,
        strip: &strip,
        former: false,
    };
    let methods = bearing.methods();
    let chosen = judged_method(rules, &methods);
    let agreements = chosen.map(|(m, _)| agreements(m, &methods)).unwrap_or_default();
    let coarse = too_coarse(&bearing, chosen.map(|(m, _)| m.method));
    let judged = chosen.zip(target).and_then(|(m, t)| judge(rules, m, &t.window, coarse));
    let former = BearingSizes { former: true, ..bearing };
    let stale = judged.is_none().then(|| stale_judged(&former, target)).flatten();
    let (predicted, prediction) = prediction(
        context.notes,
        &build.layout,
        context.endings,
        station,
        judged.as_ref().map(|j| (j.clearance, j.expanded)),
        target.map(|t| (t.window, rules.acceptance)),
    );
    let (concession, lapsed) = concession(context.notes, station, judged.as_ref(), target);
    let mut assessed = StationAssessment {
        station,
        thrust: station == build.layout.thrust,
        journal_at: build.layout.journal_of(station),
        target: target.cloned(),
        journal,
        housing,
        bore_direct,
        bore_subtract,
        upper_wall,
        lower_wall,
        strip,
        methods,
        agreements,
        judged,
        stale,
        predicted,
        prediction,
        class,
        concession,
        findings: Vec::new(),
    };
    assessed.findings = findings(context, &assessed, Remarks { lapsed });
    assessed
}

/// The undersize a journal belongs to, by measurement.
fn class(build: &Build, station: Station, size: Length) -> JournalClass {
    let row = station.row();
    let usual;
    let undersizes = match build.layout.nominals(row) {
        Some(n) => &n.undersizes,
        None => {
            usual = crate::engine::usual_undersizes(build.unit);
            &usual
        }
    };
    let found = identify_undersize(size, build.layout.journal(row), undersizes, BELONGS_WITHIN);
    JournalClass { undersize: found.map(|c| c.undersize), worn: found.map(|c| c.worn) }
}

fn row(targets: &Targets, row: BearingRow, stations: &[StationAssessment]) -> Row {
    let of_row: Vec<&StationAssessment> = stations.iter().filter(|s| s.station.row() == row).collect();
    let judged: Vec<(Station, &Judged)> = of_row.iter().filter_map(|s| Some((s.station, s.judged.as_ref()?))).collect();
    let points: Vec<TrendPoint> = judged
        .iter()
        .map(|(s, j)| TrendPoint { station: s.number(), value: j.clearance, expanded: j.expanded })
        .collect();
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
    let classes: Vec<Option<Length>> = of_row.iter().filter_map(|s| s.class).map(|c| c.undersize).collect();
    let same = classes.windows(2).all(|w| w[0] == w[1]);
    Row {
        target: targets.rows[row as usize].clone(),
        measured: points.len(),
        spread: (points.len() >= 2).then(|| Length::span(points.iter().map(|p| p.value))),
        trend,
        undersize: classes.first().copied().flatten().filter(|_| same),
        mixed_undersizes: !same || classes.contains(&None),
    }
}
