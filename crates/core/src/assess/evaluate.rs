//! [`evaluate`]: from a build to everything that can be said about it now.
//!
//! One pure function, fast enough (about a millisecond for a big build) that nothing it derives is ever stored. The
//! readings are sorted to their places, without those that something ended ([`crate::evidence`]); each
//! characteristic gets its size, each figure its value by every method, its verdict and remarks; the rows
//! their spread and trend; the build what to touch next and what blocks the signature.
use super::assessment::{Assessment, Row, RowTrend};
use super::betrayed::say_what_is_betrayed;
use super::blind::blind_touches;
use super::condemned::condemn;
use super::exchanged::say_what_looks_exchanged;
use super::forced::{forced, in_the_way};
use super::hypotheses::{Known, hypotheses};
use super::orders::order_statuses;
use super::room::with_context;
use super::rounds::ask_for_more;
use super::row_values::{mean_of_places, open_of};
use super::suspects::name_suspects;
use super::tunnel::free_of_size;
use super::wanted::still_wanted;
use crate::build::Build;
use crate::engine::{BearingRow, Figure, GaugeUse, Input, Method, Place, Read, Role, Seat, Wanting};
use crate::evidence::{Checks, Evidence, TakenReading, as_it_was, size_before};
use crate::figure::{
    BladeAdvice, Context, FigureAssessment, Inputs, JournalClass, Judged, Measured, StandsHere, Targets, agreements,
    concession, hot_rooms, judge, judged_method, next_blade, prediction, shared_with_promise, stale_judged, too_coarse,
};
use crate::gauge::Gauge;
use crate::log::{Measure, Reckoning, Rules};
use crate::maths::{BELONGS_WITHIN, Trend, TrendPoint, Window, identify_undersize, lean_limit, odd_one, trend};
use crate::sheet::{not_checked, sign_off};
use crate::subjects::{Remarks, findings, shut_gates};
use crate::units::Length;

/// Works out everything that follows from a build's facts.
pub fn evaluate(build: &Build) -> Assessment {
    with_context(build, assess)
}

fn assess(context: &Context<'_>, evidence: Evidence<'_>) -> Assessment {
    let Context { build, notes, rules, inspections, .. } = *context;
    let at = |figure: Figure| figure.places(&build.layout).map(move |p| (figure, p));
    let all: Vec<(Figure, Place)> = Figure::all_in(&build.layout).flat_map(at).collect();
    let mut figures: Vec<FigureAssessment> = Vec::with_capacity(all.len());
    figures.extend(all.into_iter().filter_map(|(figure, place)| assess_figure(context, figure, place)));
    if rules.reckoning >= Reckoning::Second {
        for row in BearingRow::ALL {
            name_suspects((build, rules.reckoning), context.sessions, row, &mut figures);
            if rules.reckoning >= Reckoning::Third {
                say_what_looks_exchanged(row, &mut figures);
            }
        }
    }
    ask_for_more(rules, &mut figures);
    say_what_is_betrayed((build, context.sessions), rules.reckoning, &mut figures);
    let blind = blind_touches(context, evidence, &mut figures);
    let unfit = condemn(context, &mut figures);
    let checks = Checks::of(notes, context.endings);
    let forced =
        if rules.check_gate { forced(&build.layout, notes, context.endings, inspections, &checks) } else { Vec::new() };
    let ground = |f: &&FigureAssessment| f.class.and_then(|c| c.undersize).is_some_and(|u| u > Length::ZERO);
    let mut reground: Vec<Place> = Vec::new();
    for f in figures.iter().filter(ground) {
        if !reground.contains(&f.journal_at) {
            reground.push(f.journal_at);
        }
    }
    let known = Known {
        inspections,
        checks: &checks,
        layout: &build.layout,
        figures: &figures,
        all_signs: rules.reckoning >= Reckoning::Second,
    };
    let hypotheses = hypotheses(&known, &reground);
    Assessment {
        seq: build.seq(),
        rules: rules.clone(),
        rows: BearingRow::ALL.into_iter().map(|r| row(rules, &context.targets, r, &figures)).collect(),
        wanted: still_wanted(rules, &figures),
        orders: order_statuses(notes, &figures, rules.acceptance, |size, role| context.doubt_of(size, role)),
        hypotheses,
        end_play_first: figures.iter().any(|f| f.figure == Figure::END_PLAY && never_measured(f)),
        sign_off: sign_off((build, notes, rules), &figures, in_the_way(&forced, &figures)),
        forced,
        unfit,
        not_checked: not_checked(build, notes, inspections, &figures),
        blind,
        figures,
        sessions: context.sessions.all.clone(),
    }
}

/// Whether nothing was ever known of a figure.
const fn never_measured(f: &FigureAssessment) -> bool {
    f.judged.is_none() && f.stale.is_none() && f.predicted.is_none()
}

/// What is known about one figure; `None` where nobody asks for it.
fn assess_figure(context: &Context<'_>, figure: Figure, place: Place) -> Option<FigureAssessment> {
    let Context { build, rules, sessions, gauges, ref touches, .. } = *context;
    let target = context.targets.at(figure, place);
    if target.is_none() && figure.row().wanted == Wanting::WithTarget {
        return None;
    }
    let asked = target.map(|target| target.window);
    let mut shaft = context.usual_journal(place);
    let mut measured: Vec<Measured> = Vec::with_capacity(figure.inputs().len());
    let where_measured = |input: &'static Input| build.layout.places_with(place, input.role).map(move |at| (input, at));
    for (input, at) in figure.inputs().iter().flat_map(where_measured) {
        let found = context.measured(touches, (place, asked), (input.role, input.read), (at, shaft));
        // The journal comes first: what it measures is what the rest is expected around.
        if let Some(size) = found.as_ref().filter(|m| m.role == Role::JOURNAL).and_then(|m| m.size.size.as_ref()) {
            shaft = size.effective;
        }
        measured.extend(found);
    }
    let journal = measured.iter().find(|m| m.role == Role::JOURNAL).filter(|m| m.size.complete);
    let sized = journal.and_then(|m| m.size.size.as_ref()).filter(|_| figure.row().fitted);
    let class = sized.map(|s| class(build, place, s.effective));
    let undersize = class.and_then(|c| c.undersize).unwrap_or_default();
    let inputs =
        Inputs { build, rules, sessions, gauges, figure, place, undersize, measured: &measured, former: false };
    let mut methods = inputs.methods();
    if figure.row().methods.iter().any(|method| method.freed_of_size) {
        free_of_size(context, place, &mut methods);
    }
    let chosen = judged_method(figure, rules, &methods);
    let mut agreements = chosen.map(|(m, _)| agreements(figure, m, &methods)).unwrap_or_default();
    if rules.reckoning >= Reckoning::Third && context.named_shells.contains(&place) {
        let by_book = |name: Method| methods.iter().any(|m| m.method == name && m.low != m.high);
        agreements.retain(|a| !by_book(a.of) && !by_book(a.with));
    }
    let coarse = too_coarse(&inputs, chosen.map(|(m, _)| m.method));
    let window = target.and_then(|t| figure.window(&t.window));
    let judged = chosen.zip(window).map(|(m, window)| judge(rules, m, window, coarse));
    let then = judged.is_none().then(|| as_they_were(context, figure, &measured)).flatten();
    let former = Inputs { former: true, measured: then.as_deref().unwrap_or(&measured), ..inputs };
    let stale = judged.is_none().then(|| stale_judged(&former, target)).flatten();
    let promised = || {
        let shared = chosen.map_or(0.0, |(m, _)| shared_with_promise(rules, m));
        let value = judged.as_ref().map(|j| (j.clearance, j.expanded, shared));
        prediction(context, (figure, place), value, target.map(|t| (t.window, rules.acceptance)))
    };
    let (predicted, prediction) = if figure.row().promised { promised() } else { (None, None) };
    let (concession, lapsed) = concession(context, (figure, place), judged.as_ref(), target);
    let reckoned = judged.as_ref().zip(rules.hot);
    let hot = reckoned.map_or_else(Vec::new, |(j, hot)| {
        hot_rooms(&build.layout, figure, (j.smallest, j.expanded), (hot, rules.reckoning))
    });
    let (parts, moot) = stands_here(context, figure, place);
    let mut assessed = FigureAssessment {
        station: place,
        figure,
        row: place.row(),
        thrust: place == build.layout.thrust,
        journal_at: build.layout.journal_of(place),
        parts,
        moot,
        target: target.cloned().map(Box::new),
        asked: is_asked(context, (figure, place), target.is_some(), &measured),
        begun: measured.iter().any(|m| m.size.taken > 0),
        methods,
        agreements,
        judged,
        stale: stale.map(Box::new),
        predicted: predicted.map(Box::new),
        prediction: prediction.map(Box::new),
        class,
        concession,
        gates: Vec::new(),
        hot,
        blades: window.and_then(|window| blade_advice(context, window, &measured)),
        measured,
        findings: Vec::new(),
    };
    assessed.findings = findings(context, &assessed, Remarks { lapsed });
    assessed.gates = shut_gates(context, &assessed);
    Some(assessed)
}

/// What a figure was made of just before the first of what ended it: what was measured anew since is left out. By the first
/// reckoning what is newer stays in.
fn as_they_were(context: &Context<'_>, figure: Figure, measured: &[Measured]) -> Option<Vec<Measured>> {
    if context.rules.reckoning == Reckoning::First {
        return None;
    }
    if context.rules.reckoning >= Reckoning::Third {
        let before = last_judged_before(figure, measured)?;
        let as_was = |m: &Measured| {
            let size = as_it_was(context.rules, &context.touches, m.spot(), before, &m.size);
            Measured { size, ..m.clone() }
        };
        return Some(measured.iter().map(as_was).collect());
    }
    let before = measured.iter().filter_map(|m| m.size.stale.as_ref()).map(|s| s.because.seq).min()?;
    let as_was = |m: &Measured| {
        let mut was = m.clone();
        if m.size.stale.is_none() {
            was.size.size = size_before(context.rules, &context.touches, m.spot(), before).map(Box::new);
        }
        was
    };
    Some(measured.iter().map(as_was).collect())
}

/// What first ended the evidence of a method since it was last complete, of all methods the latest: walls that ended with the
/// shells of before say nothing of a bore that was measured since.
fn last_judged_before(figure: Figure, measured: &[Measured]) -> Option<u32> {
    let of_method = |method: &crate::engine::MethodRow| {
        let parts = || {
            let used = |m: &&Measured| method.terms.iter().any(|t| t.role == m.role && t.read == m.read);
            measured.iter().filter(used)
        };
        let was_known = |m: &Measured| m.size.complete || m.size.stale.as_ref().is_some_and(|s| s.size.is_some());
        let ended = parts().filter_map(|m| m.size.stale.as_ref()).map(|s| s.because.seq).min();
        ended.filter(|_| parts().all(was_known))
    };
    figure.row().methods.iter().filter_map(of_method).max()
}

/// What is tried next where something is gauged by blades: at the first of its places that is not decided yet.
fn blade_advice(context: &Context<'_>, window: Window, measured: &[Measured]) -> Option<BladeAdvice> {
    let Context { build, rules, ref touches, .. } = *context;
    let by_blades = |m: &&Measured| m.read == Read::Blades;
    let slots = measured.iter().filter(by_blades).flat_map(|m| touches.at(m.spot()));
    let advice = |last: Option<(&str, [Length; 2])>| {
        let used = |g: &&Gauge| last.is_none_or(|(id, _)| g.id == id) && g.measures == GaugeUse::Blades;
        let set = build.gauges.iter().find(used)?;
        // A blade on a limit proves nothing of it: it is as doubtful as every blade.
        let doubt = if rules.reckoning >= Reckoning::Third { set.calibration } else { Length::ZERO };
        let low = window.low().filter(|low| *low > Length::ZERO).map(|low| low + doubt);
        let within = Window::new(low, window.high().map(|high| high - doubt)).unwrap_or(window);
        next_blade(within, set.resolution, last.map(|(_, known)| known))
    };
    let all: Vec<BladeAdvice> = slots.filter_map(|(_, slot)| advice(slot.fresh.last().and_then(blades_of))).collect();
    all.iter().find(|a| a.next.is_some()).or_else(|| all.first()).cloned()
}

/// The blade that passed and the one that did not, with the set they are of.
const fn blades_of<'a>(touch: &TakenReading<'a>) -> Option<(&'a str, [Length; 2])> {
    match touch.reading.measure {
        Measure::Blades { passes, refuses } => Some((touch.reading.gauge.as_str(), [passes, refuses])),
        _ => None,
    }
}

/// Whether anybody asks for a figure. What befell an engine asks for what it can have harmed, though nobody ever measured it.
fn is_asked(context: &Context<'_>, (figure, place): (Figure, Place), targeted: bool, measured: &[Measured]) -> bool {
    let begun_by_touch = || measured.iter().any(|m| m.size.taken > 0 || m.size.stale.is_some());
    let begun = || targeted || begun_by_touch();
    let forces = context.rules.check_gate && context.rules.reckoning >= Reckoning::Third;
    match figure.row().wanted {
        Wanting::Always if context.rules.samples_around(&context.build.layout, place) => begun_by_touch(),
        Wanting::Always | Wanting::WithTarget => true,
        Wanting::OnceBegun => begun() || (forces && context.endings.befallen(figure, place)),
        Wanting::ForOthers => targeted,
        Wanting::OnceChanged(tag) => begun() || (context.rules.regrind_gate && context.endings.ever(tag)),
    }
}

/// The parts under a figure that are not those the layout named, and those of which nothing has to be proven any more.
fn stands_here(context: &Context<'_>, figure: Figure, place: Place) -> (Vec<StandsHere>, Vec<StandsHere>) {
    let standing = context.standing;
    if standing.is_as_laid_out() {
        return Default::default();
    }
    let seats = standing.seats_under(figure, place);
    let part = |seat: Seat| standing.on(seat).map(str::to_owned);
    let stands = |seat: &Seat| StandsHere { kind: seat.kind, place: seat.place, part: part(*seat) };
    let of = |chosen: &dyn Fn(&&Seat) -> bool| seats.iter().filter(chosen).map(stands).collect();
    (of(&|seat| standing.is_changed(**seat)), of(&|seat| !standing.is_fit(**seat)))
}

/// The undersize a journal belongs to, by measurement.
fn class(build: &Build, station: Place, size: Length) -> JournalClass {
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

/// Share of false alarms in a row where two of its series are tested for an odd one, and where three are.
const FALSE_ALARMS_OF_TWO: f64 = 0.04;
const FALSE_ALARMS_OF_THREE: f64 = 0.02;

/// Holds a row's lean and its odd one against chance. Journals and bores are looked at apart: what is wrong with one of them
/// shows more clearly there.
fn test_row(fit: &mut Trend, judged: &[(&FigureAssessment, &Judged)], reckoning: Reckoning) {
    let series = |value: &dyn Fn(&FigureAssessment, &Judged) -> Option<Length>| -> Vec<(f64, f64)> {
        let point =
            |(f, j): &(&FigureAssessment, &Judged)| Some((f64::from(f.station.number()), value(f, j)?.as_f64()));
        judged.iter().filter_map(point).collect()
    };
    let mean_open = |of: fn(Role) -> bool| {
        let all: Vec<f64> = judged.iter().map(|(f, _)| open_of(f, of)).collect();
        all.iter().sum::<f64>() / all.len().max(1) as f64
    };
    let clearances = series(&|_, j| Some(j.clearance));
    if let Some(limit) = lean_limit(&clearances, mean_open(|_| true)).and_then(Length::from_f64) {
        fit.doubt = limit;
    }
    let leans = fit.rise.abs() > fit.doubt;
    let under = |f: &FigureAssessment| f.class.and_then(|c| c.undersize).unwrap_or_default();
    let journals = series(&|f, _| Some(mean_of_places(f.journal())? + under(f)));
    let bores = series(&|f, _| Some(mean_of_places(f.bore_in_use())? + under(f)));
    let gaps = series(&|f, _| Some(mean_of_places(f.bore_in_use())? - mean_of_places(f.journal())?));
    let mut found = vec![(bores, mean_open(|of| of != Role::JOURNAL)), (journals, mean_open(|of| of == Role::JOURNAL))];
    let mut false_alarms = FALSE_ALARMS_OF_TWO;
    if reckoning >= Reckoning::Third {
        found.insert(0, (gaps, mean_open(|_| true)));
        false_alarms = FALSE_ALARMS_OF_THREE;
    }
    let whole = |points: &Vec<(f64, f64)>| points.len() == judged.len();
    let odd = |(points, open): &(Vec<(f64, f64)>, f64)| odd_one(points, (*open, false_alarms), leans);
    fit.odd = found.iter().filter(|(points, _)| whole(points)).find_map(odd);
}

fn row(rules: &Rules, targets: &Targets, row: BearingRow, figures: &[FigureAssessment]) -> Row {
    let of_row = |f: &&FigureAssessment| f.figure == Figure::OIL_CLEARANCE && f.row == row;
    let of_row: Vec<&FigureAssessment> = figures.iter().filter(of_row).collect();
    let judged: Vec<(Place, &Judged)> = of_row.iter().filter_map(|s| Some((s.station, s.judged.as_ref()?))).collect();
    let points: Vec<TrendPoint> = judged
        .iter()
        .map(|(s, j)| TrendPoint { station: s.number(), value: j.clearance, expanded: j.expanded })
        .collect();
    // A sample of two tells nothing of those between.
    let whole = !rules.sampled.contains(&row);
    let trend = trend(&points).filter(|_| whole).map(|mut fit| {
        let ends = points.first().zip(points.last());
        let mut doubt = ends.map_or(0.0, |(a, b)| a.expanded.as_f64().hypot(b.expanded.as_f64()));
        if rules.reckoning >= Reckoning::Second {
            let judged = of_row.iter().filter_map(|f| Some((*f, f.judged.as_ref()?)));
            test_row(&mut fit, &judged.collect::<Vec<_>>(), rules.reckoning);
            doubt = 0.0;
        }
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
        row,
        target: targets.of_row(Figure::OIL_CLEARANCE, row).cloned(),
        measured: points.len(),
        spread: (points.len() >= 2 && whole).then(|| Length::span(points.iter().map(|p| p.value))),
        trend,
        undersize: classes.first().copied().flatten().filter(|_| same),
        mixed_undersizes: !same || classes.contains(&None),
    }
}
