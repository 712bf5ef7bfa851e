//! [`evaluate`]: from a build to everything that can be said about it now.
//!
//! One pure function, fast enough (around a millisecond) that nothing it derives is ever stored. The
//! readings are sorted to their places, without those that something ended ([`crate::stale`]); each
//! feature gets its size, each bearing its clearance by every method, its verdict and remarks; the rows
//! their spread and trend; the build what to touch next and what blocks the signature.

use std::collections::HashMap;

use crate::Length;
use crate::assessment::{
    Assessment, ConcessionInForce, Expansion, FeatureAssessment, JournalClass, Judged, MeasureAgain, MethodResult, Row,
    RowTrend, StaleJudged, StationAssessment, TargetInForce,
};
use crate::blind_touch::blind_touches;
use crate::build::{Build, struck_among};
use crate::fact::{Concession, Fact, TargetChange, What};
use crate::family;
use crate::family_check::BELONGS_WITHIN;
use crate::feature::{Feature, Method, Part};
use crate::features;
use crate::findings::{Remarks, findings};
use crate::fitting::prediction;
use crate::gauge::{GaugeFit, fit};
use crate::growth::{Assumptions, growth};
use crate::hypotheses::{Looks, hypotheses};
use crate::methods::{Bearing, agreements, choose, gauge_behind, uses};
use crate::order::orders;
use crate::plan::still_wanted;
use crate::rules::Rules;
use crate::session::Sessions;
use crate::signoff::sign_off;
use crate::stale::{Barriers, Stale};
use crate::station::{BearingRow, Station};
use crate::target::{Target, TargetRule};
use crate::touches::{Evidence, Plans, Touches};
use crate::trend::{Point, trend};
use crate::uncertainty::{Touched, of_size};
use crate::verdict::{State, Window, verdict};

/// What is worked out once for a whole build.
pub(crate) struct Whole<'a> {
    pub build: &'a Build,
    pub notes: &'a [&'a Fact],
    pub rules: &'a Rules,
    pub sessions: &'a Sessions,
    pub touches: &'a Touches<'a>,
    pub barriers: &'a Barriers<'a>,
    pub looks: &'a Looks<'a>,
    targets: Targets,
    /// What the journals of each row measure as a rule: a crank ground under shows by its first journal.
    usual_journals: [Length; 2],
}

/// Works out everything that follows from a build's facts.
pub fn evaluate(build: &Build) -> Assessment {
    let notes = build.notes();
    let rules = build.rules_among(&notes);
    let (plans, sessions) = (Plans::of(build, &notes), Sessions::of(&notes));
    let (barriers, struck) = (Barriers::of(&build.layout, &notes), struck_among(&notes));
    let evidence = Evidence { build, plans: &plans, sessions: &sessions, barriers: &barriers, struck: &struck };
    let touches = Touches::of(evidence, None);
    let looks = Looks::of(&notes, &barriers);
    let usual_journals = BearingRow::ALL.map(|row| usual_journal(build, &touches, row));
    let targets = Targets::of(build, &notes);
    let whole = Whole {
        build,
        notes: &notes,
        rules,
        sessions: &sessions,
        touches: &touches,
        barriers: &barriers,
        looks: &looks,
        targets,
        usual_journals,
    };
    let mut stations: Vec<StationAssessment> =
        build.layout.stations().map(|station| assess_station(&whole, station)).collect();
    let blind = blind_touches(&whole, evidence, &mut stations);
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
        mains: row(&whole.targets, BearingRow::Mains, &stations),
        rods: row(&whole.targets, BearingRow::Rods, &stations),
        wanted: still_wanted(rules, &stations),
        orders: orders(&notes, &stations, rules.acceptance, |feature, part| whole.doubt_of(feature, part)),
        hypotheses: hypotheses(&looks, &build.layout, &reground),
        sign_off: sign_off(build, &stations),
        blind,
        stations,
        sessions: sessions.all,
    }
}

/// The targets in force: those of the rows, and those of single stations.
struct Targets {
    rows: [Option<TargetInForce>; 2],
    own: HashMap<Station, TargetInForce>,
}

impl Targets {
    fn of(build: &Build, notes: &[&Fact]) -> Self {
        let mut targets = Targets { rows: [None, None], own: HashMap::new() };
        for fact in notes {
            let What::Target(change) = &fact.what else { continue };
            let TargetChange { station, row, rule, source, reason } = change;
            let row = station.map_or(*row, Station::row);
            let shaft = build.layout.journal(row);
            let in_force = rule.and_then(|rule| {
                let window = rule.resolve(shaft).ok()?;
                let (reason, by) = (reason.clone(), fact.by.clone());
                let own = station.is_some();
                let expansion = matches!(rule, TargetRule::Hot { .. }).then(|| {
                    let assumptions = Assumptions::usual(build.layout.block);
                    Expansion { growth: growth(shaft, assumptions), assumptions }
                });
                let (source, version) = (*source, fact.seq);
                Some(TargetInForce { window, rule, source, reason, by, at: fact.at, own, version, expansion })
            });
            match (station, in_force) {
                (Some(s), Some(t)) => drop(targets.own.insert(*s, t)),
                (Some(s), None) => drop(targets.own.remove(s)),
                (None, Some(t)) => targets.rows[row as usize] = Some(t),
                (None, None) => {}
            }
        }
        targets
    }

    fn at(&self, station: Station) -> Option<&TargetInForce> {
        self.own.get(&station).or(self.rows[station.row() as usize].as_ref())
    }
}

fn usual_journal(build: &Build, touches: &Touches<'_>, row: BearingRow) -> Length {
    let journal = match row {
        BearingRow::Mains => Feature::MainJournal,
        BearingRow::Rods => Feature::PinJournal,
    };
    let sizes: Vec<Length> = touches.fresh().filter(|t| t.reading.feature == journal).map(|t| t.size).collect();
    Length::median(&sizes).unwrap_or(build.layout.journal(row))
}

impl Whole<'_> {
    /// What a feature of a bearing is expected to measure while nothing is known of it.
    fn expected(&self, station: Station, part: Part, journal: Length) -> Length {
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
    pub fn feature(&self, touches: &Touches<'_>, at: (Station, Part, Method), journal: Length) -> FeatureAssessment {
        let (station, part, method) = at;
        let place = if part == Part::Journal { self.build.layout.journal_of(station) } else { station };
        let Some(feature) = Feature::at(place, part) else { return FeatureAssessment::default() };
        let mut assessed =
            features::assess(self.rules, touches, (place, feature, method), self.expected(station, part, journal));
        let window = self.targets.at(station).map(|t| t.window.high - t.window.low);
        if let Some(size) = &mut assessed.size {
            let gauge = gauge_behind(self.build, self.sessions, size);
            // What a wall or a housing may be off by goes into the clearance all the same.
            size.gauge_fit = gauge.zip(window).map(|(g, w)| fit(g.resolution, w)).filter(|_| part != Part::Strip);
        }
        assessed
    }

    /// How sure the size of a feature is by itself.
    fn doubt_of(&self, feature: &FeatureAssessment, part: Part) -> Length {
        let touched = feature.size.as_ref().and_then(|size| {
            let gauge = gauge_behind(self.build, self.sessions, size)?;
            Some(Touched { gauge, touches: size.touches })
        });
        touched.map_or(Length::ZERO, |by| of_size(part, by).expanded)
    }

    /// What the journals of a station's row measure as a rule.
    pub fn usual_journal(&self, station: Station) -> Length {
        self.usual_journals[station.row() as usize]
    }
}

fn assess_station(whole: &Whole<'_>, station: Station) -> StationAssessment {
    let Whole { build, rules, sessions, touches, .. } = *whole;
    let target = whole.targets.at(station);
    let feature = |part, method, journal| whole.feature(touches, (station, part, method), journal);
    let journal = feature(Part::Journal, Method::Subtract, whole.usual_journal(station));
    let shaft = journal.size.as_ref().map_or(whole.usual_journal(station), |s| s.effective);
    let other = |part, method| feature(part, method, shaft);
    let (housing, strip) = (other(Part::Housing, Method::Subtract), other(Part::Strip, Method::Subtract));
    let (bore_direct, bore_subtract) = (other(Part::Bore, Method::Direct), other(Part::Bore, Method::Subtract));
    let (upper_wall, lower_wall) = (other(Part::UpperWall, Method::Subtract), other(Part::LowerWall, Method::Subtract));
    let class = journal.size.as_ref().filter(|_| journal.complete).map(|s| class(build, station, s.effective));
    let bearing = Bearing {
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
    let chosen = choose(rules, &methods);
    let agreements = chosen.map(|(m, _)| agreements(m, &methods)).unwrap_or_default();
    let coarse = too_coarse(&bearing, chosen.map(|(m, _)| m.method));
    let judged = chosen.zip(target).and_then(|(m, t)| judge(rules, m, &t.window, coarse));
    let former = Bearing { former: true, ..bearing };
    let stale = judged.is_none().then(|| stale_judged(&former, target)).flatten();
    let (predicted, prediction) = prediction(
        whole.notes,
        &build.layout,
        whole.barriers,
        station,
        judged.as_ref().map(|j| (j.clearance, j.expanded)),
        target.map(|t| (t.window, rules.acceptance)),
    );
    let (concession, lapsed) = concession(whole.notes, station, judged.as_ref(), target);
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
    assessed.findings = findings(whole, &assessed, Remarks { lapsed });
    assessed
}

/// Whether a gauge behind the judged method is coarser than the hard floor allows.
fn too_coarse(bearing: &Bearing<'_>, method: Option<Method>) -> bool {
    let bore = if method == Some(Method::Direct) { bearing.bore_direct } else { bearing.bore_subtract };
    let used = [
        (Part::Journal, bearing.journal),
        (Part::Housing, bearing.housing),
        (Part::Bore, bore),
        (Part::UpperWall, bearing.upper_wall),
        (Part::LowerWall, bearing.lower_wall),
    ];
    let coarse = |f: &FeatureAssessment| f.size.as_ref().and_then(|s| s.gauge_fit) == Some(GaugeFit::TooCoarse);
    method.is_some_and(|m| used.into_iter().any(|(part, f)| uses(m, part) && coarse(f)))
}

fn judge(
    rules: &Rules,
    (result, because): (&MethodResult, crate::assessment::ChosenBecause),
    target: &Target,
    too_coarse: bool,
) -> Option<Judged> {
    let window = Window::between(target.low, target.high)?;
    let expanded = result.budget.expanded;
    let v = verdict(result.clearance, result.clearance, expanded, window, rules.acceptance);
    Some(Judged {
        method: result.method,
        because,
        clearance: result.clearance,
        expanded,
        // A caliper must not decide a bore limit, whatever it happens to show.
        state: if too_coarse && v.state == State::In { State::Edge } else { v.state },
        nearest: v.nearest,
        inside: v.inside,
        margin: v.margin,
        decidable: v.decidable && !too_coarse,
    })
}

/// What was judged before something was done, from what ended where nothing is measured again.
fn stale_judged(former: &Bearing<'_>, target: Option<&TargetInForce>) -> Option<StaleJudged> {
    let methods = former.methods();
    let (method, because) = choose(former.rules, &methods)?;
    let was = judge(former.rules, (method, because), &target?.window, false)?;
    let bore = if method.method == Method::Direct { former.bore_direct } else { former.bore_subtract };
    let layout = &former.build.layout;
    let used = [
        (Part::Journal, layout.journal_of(former.station), former.journal),
        (Part::Housing, former.station, former.housing),
        (Part::UpperWall, former.station, former.upper_wall),
        (Part::LowerWall, former.station, former.lower_wall),
        (Part::Bore, former.station, bore),
        (Part::Strip, former.station, former.strip),
    ];
    let ended = || used.into_iter().filter(|(part, _, f)| uses(method.method, *part) && f.stale.is_some());
    let again = ended().map(|(part, station, f)| MeasureAgain { station, part, touches: f.planned - f.taken });
    let mut causes: Vec<Stale> = ended().filter_map(|(_, _, f)| Some(f.stale.as_ref()?.because.clone())).collect();
    causes.sort_by_key(|s| s.seq);
    causes.dedup();
    (!causes.is_empty()).then(|| StaleJudged { was, because: causes, again: again.collect() })
}

/// The undersize a journal belongs to, by measurement.
fn class(build: &Build, station: Station, size: Length) -> JournalClass {
    let row = station.row();
    let usual;
    let undersizes = match build.layout.nominals(row) {
        Some(n) => &n.undersizes,
        None => {
            usual = crate::layout::usual_undersizes(build.unit);
            &usual
        }
    };
    let found = family::identify(size, build.layout.journal(row), undersizes, BELONGS_WITHIN);
    JournalClass { undersize: found.map(|c| c.undersize), worn: found.map(|c| c.worn) }
}

/// The last acceptance of a station if it still holds; else its reason, when the station needs a new one.
fn concession(
    notes: &[&Fact],
    station: Station,
    judged: Option<&Judged>,
    target: Option<&TargetInForce>,
) -> (Option<ConcessionInForce>, Option<String>) {
    let last = notes.iter().rev().find_map(|f| match &f.what {
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

fn row(targets: &Targets, row: BearingRow, stations: &[StationAssessment]) -> Row {
    let of_row: Vec<&StationAssessment> = stations.iter().filter(|s| s.station.row() == row).collect();
    let judged: Vec<(Station, &Judged)> = of_row.iter().filter_map(|s| Some((s.station, s.judged.as_ref()?))).collect();
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
