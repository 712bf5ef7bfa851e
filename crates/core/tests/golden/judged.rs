//! Everything that a version says about a build, a line for each thing: what must not change by itself.

use std::collections::BTreeMap;
use std::fmt::Write;

use jagged_pin_core::assess::{Assessment, Row, Wanted, evaluate};
use jagged_pin_core::engine::{BearingRow, Read, Role};
use jagged_pin_core::evidence::{Size, SizeAssessment};
use jagged_pin_core::figure::{FigureAssessment, Judged};
use jagged_pin_core::log::What;
use jagged_pin_core::sheet::{Needs, Next, seal_digest};
use jagged_pin_core::{Build, Length};
use serde::Serialize;
use serde_json::Value;

/// The same with its fields in the order of their names, whichever order this build of the library keeps.
fn sorted(value: Value) -> Value {
    match value {
        Value::Object(fields) => {
            let fields: BTreeMap<String, Value> = fields.into_iter().map(|(name, v)| (name, sorted(v))).collect();
            Value::Object(fields.into_iter().collect())
        }
        Value::Array(all) => Value::Array(all.into_iter().map(sorted).collect()),
        other => other,
    }
}

fn word(value: &impl Serialize) -> String {
    match serde_json::to_value(value).unwrap_or_default() {
        Value::String(text) => text,
        other => sorted(other).to_string(),
    }
}

fn length(l: Option<Length>) -> String {
    l.map_or_else(|| "-".into(), |l| l.nm().to_string())
}

/// The text of one build.
pub fn text(build: &Build) -> String {
    let a = evaluate(build);
    let mut out = String::new();
    let _ = writeln!(out, "build {} seq {}", build.code, a.seq);
    for row in BearingRow::ALL {
        if let Some(found) = a.row(row) {
            of_row(&mut out, row, found);
        }
    }
    for s in a.bearings() {
        station(&mut out, s);
    }
    rest(&mut out, &a);
    seals(&mut out, build);
    out
}

fn of_row(out: &mut String, name: BearingRow, row: &Row) {
    let target = row.target.as_ref().map(|t| [t.window.low, t.window.aim, t.window.high].map(Length::nm));
    let trend = row.trend.as_ref().map(|t| {
        let stations: Vec<String> = t.stations.iter().map(ToString::to_string).collect();
        let odd = t.odd.map(|s| s.to_string());
        format!("{} odd {odd:?} leans {} rise {}", stations.join(" "), t.leans, t.fit.rise.nm())
    });
    let _ = writeln!(
        out,
        "row {} target {target:?} measured {} spread {} undersize {} mixed {} trend {trend:?}",
        word(&name),
        row.measured,
        length(row.spread),
        length(row.undersize),
        row.mixed_undersizes,
    );
}

fn size(s: &Size) -> String {
    format!(
        "{} [{} {}] taper {} round {} relief {} spread {} by {} x{} proven {} noted {} fit {}",
        s.effective.nm(),
        s.smallest.nm(),
        s.largest.nm(),
        s.taper.nm(),
        s.out_of_round.nm(),
        length(s.relief),
        s.max_spread.nm(),
        s.gauge,
        s.touches,
        s.proven,
        s.noted_temperatures,
        word(&s.gauge_fit),
    )
}

fn judged(j: &Judged) -> String {
    format!(
        "{} {} {} +-{} {} {} inside {} margin {} decidable {}",
        word(&j.method),
        word(&j.because),
        j.clearance.nm(),
        j.expanded.nm(),
        word(&j.state),
        word(&j.nearest),
        j.inside,
        j.margin.nm(),
        j.decidable,
    )
}

fn feature(out: &mut String, name: &str, f: &SizeAssessment) {
    if f.taken == 0 && f.stale.is_none() {
        return;
    }
    let left: Vec<String> = f.positions.iter().map(|p| format!("{}/{}", p.touches.len(), p.left)).collect();
    let _ = write!(out, "  {name} {}/{} {} ", f.taken, f.planned, if f.complete { "complete" } else { "open" });
    let _ = writeln!(out, "{} {}", left.join(" "), f.size.as_deref().map(size).unwrap_or_default());
    if let Some(stale) = &f.stale {
        let was = stale.size.as_ref().map(size).unwrap_or_default();
        let _ = writeln!(out, "  {name} ended by {} was {was}", stale.because.seq);
    }
}

fn station(out: &mut String, s: &FigureAssessment) {
    let _ = writeln!(out, " {} journal at {}", s.station, s.journal_at);
    if let Some(t) = &s.target {
        let window = [t.window.low, t.window.aim, t.window.high].map(Length::nm);
        let _ = writeln!(out, "  target {window:?} own {} version {}", t.own, t.version);
    }
    let kinds = [
        (Role::JOURNAL, Read::Size, "journal"),
        (Role::HOUSING, Read::Size, "housing"),
        (Role::UPPER_WALL, Read::Size, "upper"),
        (Role::LOWER_WALL, Read::Size, "lower"),
        (Role::BORE, Read::Dial, "bore on a dial"),
        (Role::BORE, Read::Size, "bore"),
        (Role::STRIP, Read::Size, "strip"),
    ];
    for (role, read, name) in kinds {
        feature(out, name, s.part(role, read));
    }
    for m in &s.methods {
        let (low, high) = (m.low.nm(), m.high.nm());
        let ends: Vec<i64> = m.ends.iter().map(|e| e.clearance.nm()).collect();
        let complete = if m.complete { "complete" } else { "open" };
        let _ = writeln!(
            out,
            "  by {} {complete} {} [{low} {high}] +-{} ends {ends:?} from {} advice {}",
            word(&m.method),
            m.clearance.nm(),
            m.budget.expanded.nm(),
            m.budget.parts.len(),
            m.advice.iter().map(|a| a.expanded.nm().to_string()).collect::<Vec<_>>().join(" "),
        );
    }
    for a in &s.agreements {
        let _ = writeln!(out, "  {} with {} {} {}", word(&a.of), word(&a.with), a.difference.nm(), a.agree);
    }
    if let Some(j) = &s.judged {
        let _ = writeln!(out, "  judged {}", judged(j));
    }
    if let Some(stale) = &s.stale {
        let because: Vec<u32> = stale.because.iter().map(|b| b.seq).collect();
        let again: Vec<String> = stale.again.iter().map(|a| format!("{} {}", a.station, a.touches)).collect();
        let _ = writeln!(out, "  stale {because:?} again {again:?} was {}", judged(&stale.was));
    }
    if let Some(p) = &s.predicted {
        let _ = writeln!(out, "  predicted {} {}", p.pair.clearance.nm(), word(&p.state));
    }
    if let Some(p) = &s.prediction {
        let _ = writeln!(out, "  promise {} {} {}", p.difference.nm(), p.combined.nm(), p.agrees);
    }
    if let Some(c) = &s.class {
        let _ = writeln!(out, "  class {} worn {}", length(c.undersize), length(c.worn));
    }
    if let Some(c) = &s.concession {
        let _ = writeln!(out, "  conceded {} by {}", c.reason, c.by.name);
    }
    for f in &s.findings {
        // A place is told by its characteristic now, by its feature then.
        let _ = writeln!(out, "  finds {}", word(f).replace("\"characteristic\":", "\"feature\":"));
    }
}

fn rest(out: &mut String, a: &Assessment) {
    let asked = || a.wanted.iter().filter(|w| w.asked);
    let touch = |w: &Wanted| {
        let ours = a.figures.iter().flat_map(|f| &f.measured);
        let ours = ours.filter(|m| (m.place, m.characteristic, m.read) == (w.station, w.characteristic, w.read));
        ours.flat_map(|m| &m.size.positions).find(|p| p.left > 0).map_or(0, |p| p.touches.len() + 1)
    };
    let first = asked().next().map(|w| format!("{} touch {}", w.station, touch(w))).unwrap_or_default();
    let _ = writeln!(out, " wanted {} first {first}", asked().map(|w| w.left).sum::<usize>());
    for s in &a.sessions {
        let _ = writeln!(out, " session of {} {} drift {}", s.gauge.id, word(&s.proof), length(s.drift));
    }
    for h in &a.hypotheses {
        let _ = writeln!(out, " suspects {}", word(h));
    }
    for b in &a.blind {
        let agree = b.comparison.map(|c| (c.difference.nm(), c.agree));
        let _ =
            writeln!(out, " blind {} done {} {} {} {agree:?}", b.station, b.done, length(b.first), length(b.second));
    }
    for o in &a.orders {
        let items: Vec<String> = o.items.iter().map(|i| format!("{} {}", i.item.station, word(&i.state))).collect();
        let _ = writeln!(out, " order {} {} accepted {}", word(&o.step), items.join(" "), o.accepted);
    }
    let s = &a.sign_off;
    let blocks: Vec<String> =
        s.blocks.iter().map(|b| format!("{} {} {}", b.station, word(&b.state), word(&b.needs))).collect();
    // What was frozen knows a decision by its place; of which figure it is was added later, and that a part is away.
    let open: Vec<_> = s.blocks.iter().filter(|b| matches!(b.needs, Needs::Measure | Needs::MeasureAgain)).collect();
    let next = match s.next {
        Next::Measure { .. } | Next::Await { .. } => Next::Measure { station: open[0].station, open: open.len() },
        Next::Decide { station, needs, .. } => Next::Decide { station, needs, figure: None },
        other => other,
    };
    let _ = writeln!(out, " sheet {} revision {} blocks {blocks:?} next {}", word(&s.status), s.revision, word(&next));
    let _ = writeln!(out, " signed {} broken {:?}", s.signatures.len(), s.broken.as_ref().map(|b| &b.change));
}

/// The digest of every signature, made anew.
fn seals(out: &mut String, build: &Build) {
    for (n, fact) in build.facts.iter().enumerate() {
        if matches!(fact.what, What::Signature(_)) {
            let before = Build { facts: build.facts[..n].to_vec(), ..build.clone() };
            let _ = writeln!(out, " seal {}", seal_digest(&before, fact));
        }
    }
}
