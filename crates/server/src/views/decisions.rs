//! What people did and decided, in words for the record: every fact that is not a reading.
use jagged_pin_core::engine::{BearingRow, Figure, Place, Scope};
use jagged_pin_core::log::{
    Fact, FastenerGroup, Fitting, GaugeCheck, Imported, Lifted, Mark, PartMove, SessionClosed, SetUp, SignerRole,
    Stroked, StrokesDone, TargetChange, TorqueStep, WasherIn, WashersIn, What, Work, WorkEvent,
};
use jagged_pin_core::maths::TargetRule;
use jagged_pin_core::units::{Person, Timestamp};
use jagged_pin_core::{Build, Length};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// A fact that is not a reading.
#[derive(Debug, Serialize, ToSchema)]
pub struct DecisionView {
    /// Identifier.
    pub id: Uuid,
    /// Place in the build's order.
    pub seq: u32,
    /// When.
    pub at: Timestamp,
    /// Who.
    pub by: Person,
    /// What sort of fact ([`What::kind`]).
    pub kind: String,
    /// The place it is about, if one.
    pub station: Option<Place>,
    /// What a target is of, with its window; absent for every other fact.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub about: Option<String>,
    /// What was done and why, in words.
    pub text: String,
}

/// The view of a fact; absent for a reading.
pub fn decision(build: &Build, fact: &Fact) -> Option<DecisionView> {
    let (station, text) = match &fact.what {
        What::Reading(_) => return None,
        What::Target(t) => (t.station, format!("{}{}", t.reason, lifts(build, &t.lifted))),
        What::Strike(s) => {
            (build.readings().find(|(f, _)| f.id == s.reading).map(|(_, r)| r.station), s.reason.clone())
        }
        What::Concession(c) => (Some(c.station), c.reason.clone()),
        What::Signature(s) => {
            let role = match s.role {
                SignerRole::Assembler => "assembler",
                SignerRole::Checker => "checker",
            };
            (None, format!("{role}, revision {}", s.revision))
        }
        What::SessionOpened(s) => (None, format!("{} checked in, {}", s.gauge.name, check(build, s.check.as_ref()))),
        What::SessionClosed(s) => (None, closed(build, s)),
        What::Work(w) => (one(w.on), work(w)),
        What::SetUp(s) => (None, set_up(build, s)),
        What::Inspection(l) => {
            let signs: Vec<String> = l.signs.iter().map(|s| name(s).replace('_', " ")).collect();
            let marks: String = l.marks.iter().map(|mark| seen_at(build, mark)).collect();
            (Some(l.station), format!("{}: {}{marks}", name(&l.part).replace('_', " "), signs.join(", ")))
        }
        What::Blind(b) => (
            Some(b.station),
            format!("{} is to measure the {} blind", b.whom.name, b.characteristic.name().replace('_', " ")),
        ),
        What::Rules(r) => {
            let touches = if r.rules.touches == 1 { "touch" } else { "touches" };
            let (preferred, count) = (r.rules.preferred.name(), r.rules.touches);
            let rounds = if r.rules.rounds { ", repeats in rounds" } else { "" };
            (
                None,
                format!(
                    "rules: {preferred} preferred, {count} {touches} a place{rounds}: {}{}",
                    r.reason,
                    lifts(build, &r.lifted)
                ),
            )
        }
        What::Plan(p) => {
            let feature = p.plan.characteristic.name().replace('_', " ");
            (None, format!("{feature} is touched at {} places: {}", p.plan.positions.len(), p.reason))
        }
        What::Fitting(f) => (None, fitting(f)),
        What::Stamps(s) => {
            let stamps: Vec<String> = s.stamps.iter().map(|s| format!("{} {}", s.station, s.text)).collect();
            (None, format!("old shells stamped {}", stamps.join(", ")))
        }
        What::Tray(t) => {
            let row = if t.row == BearingRow::Mains { "mains" } else { "rods" };
            (None, format!("a tray of {} halves measured for the {row}", t.shells.len()))
        }
        What::Order(o) => (None, format!("order {} to {}: {} features: {}", o.number, o.shop, o.items.len(), o.note)),
        What::OrderMoved(m) => {
            let order = build.facts.iter().find_map(|f| match &f.what {
                What::Order(o) if f.id == m.order => Some(o.number.as_str()),
                _ => None,
            });
            (None, format!("order {} {}: {}", order.unwrap_or_default(), name(&m.step), m.note))
        }
        What::Part(p) => (None, format!("{} {} entered: {}", p.kind.row().name, p.tag, p.provenance)),
        What::Assigned(a) => {
            let moves: Vec<String> = a.moves.iter().map(moved).collect();
            (None, format!("{}: {}", moves.join(", "), a.reason))
        }
        What::Condemned(c) => {
            let what = if c.lifted { "taken up again" } else { "condemned" };
            (None, format!("{} {what}: {}", c.part, c.reason))
        }
        What::Imported(i) => (None, imported(i)),
        What::Washers(w) => (Some(w.promise.station), washers(build, w)),
        What::Trial(t) => {
            (Some(Place::CAM_THRUST), format!("cam turned{}: {}", if t.oiled { ", oiled" } else { "" }, t.note))
        }
        What::Strokes(s) => (Some(s.at), strokes(build, s)),
        What::Checked(c) => (c.at, format!("{} {}: {}", name(&c.check).replace('_', " "), name(&c.found), c.note)),
        What::Grid(g) => (
            Some(g.at),
            format!(
                "bridge over {} lines{}",
                g.rows.len(),
                if g.note.is_empty() { String::new() } else { format!(": {}", g.note) }
            ),
        ),
        What::GaugePoint(g) => {
            let (from, coating) = (name(&g.from).replace('_', " "), name(&g.coating));
            let note = if g.note.is_empty() { String::new() } else { format!(": {}", g.note) };
            let off = g.thickness.map(|t| format!(", {} a side", t.show(build.unit))).unwrap_or_default();
            let height = g.height.show(build.unit);
            (None, format!("pistons measured {height} from {from}, coating {coating}{off}{note}"))
        }
        What::Noted(n) => {
            (Some(n.at), format!("{}: {}", name(&n.note).replace('_', " "), n.note.show(n.value, build.unit)))
        }
        What::Mishap(m) => (m.at, format!("{}: {}", name(&m.befell).replace('_', " "), m.note)),
        What::Picture(p) => (Some(p.place), format!("picture, {}: {}", name(&p.moment), p.note)),
    };
    let (id, seq, at, by) = (fact.id, fact.seq, fact.at, fact.by.clone());
    let about = if let What::Target(t) = &fact.what { Some(targeted(build, t)) } else { None };
    Some(DecisionView { id, seq, at, by, kind: fact.what.kind().into(), station, about, text })
}

/// What a target is of, and its window: a place has a column of its own.
fn targeted(build: &Build, t: &TargetChange) -> String {
    let figure = t.figure.unwrap_or(Figure::OIL_CLEARANCE).name().replace('_', " ");
    let row = match (t.station, t.kind) {
        (Some(_), _) => String::new(),
        (None, Some(kind)) => format!(" of every {}", name(&kind).replace('_', " ")),
        (None, None) => format!(" of the {}", name(&t.row)),
    };
    let window = match &t.rule {
        None => "follows the row again".to_owned(),
        Some(TargetRule::Range { low, high, .. }) => format!("{} to {}", low.show(build.unit), high.show(build.unit)),
        Some(TargetRule::Hot { low, high, .. }) => {
            format!("{} to {} hot", low.show(build.unit), high.show(build.unit))
        }
        Some(TargetRule::PerDiameter { .. }) => "by the diameter".to_owned(),
    };
    format!("{figure}{row}, {window}")
}

/// Where on a part a sign was seen, in words that follow the signs.
fn seen_at(build: &Build, mark: &Mark) -> String {
    let along = mark.along.map(|along| name(&along));
    let clock = mark.clock.map(|degrees| format!("{degrees} degrees"));
    let depth = mark.depth.map(|depth| format!("{} deep", depth.show(build.unit)));
    let parts: Vec<String> = [along, clock, depth].into_iter().flatten().collect();
    format!("; {} {}", name(&mark.sign).replace('_', " "), parts.join(", "))
}

/// An entry of a log of strokes.
fn strokes(build: &Build, s: &StrokesDone) -> String {
    let what = match s.on {
        Stroked::Bore => "hone",
        Stroked::TopRing => "file, top ring",
        Stroked::SecondRing => "file, second ring",
    };
    let warm = s.part_mc.map_or_else(String::new, |mc| format!(" at {} C", f64::from(mc) / 1_000.0));
    let note = if s.note.is_empty() { String::new() } else { format!(": {}", s.note) };
    format!("{what}: {} strokes, {}{warm}{note}", s.strokes, s.size.show(build.unit))
}

/// What was tight until then, in words that follow a reason.
fn lifts(build: &Build, lifted: &[Lifted]) -> String {
    let one = |l: &Lifted| {
        let [value, low, high] = [l.value, l.window.low, l.window.high].map(|x| x.show(build.unit));
        format!("{} was tight at {value} in {low} to {high}", l.station)
    };
    if lifted.is_empty() {
        return String::new();
    }
    format!(" ({})", lifted.iter().map(one).collect::<Vec<_>>().join("; "))
}

fn imported(i: &Imported) -> String {
    let file = i.file.get(..12).unwrap_or_default();
    let ours = match i.ours {
        0 => "none of it under this shop's mark".to_owned(),
        ours if ours == i.facts => "all of it under this shop's mark".to_owned(),
        ours => format!("the first {ours} under this shop's mark"),
    };
    format!("imported from file {file}: {} facts, {ours}", i.facts)
}

fn moved(m: &PartMove) -> String {
    m.place.map_or_else(|| format!("{} put in", m.part), |place| format!("{} put at {place}", m.part))
}

fn fitting(f: &Fitting) -> String {
    let pairs: Vec<String> = f.pairs.iter().map(|p| format!("{} {}/{}", p.station, p.upper, p.lower)).collect();
    format!("fitted {}: {}", pairs.join(", "), f.note)
}

fn washers(build: &Build, w: &WashersIn) -> String {
    let side = |name: &str, side: &WasherIn| match side.lap {
        Length::ZERO => name.to_owned(),
        lap => format!("{name} lapped by {}", lap.show(build.unit)),
    };
    let (front, rear) = (side(&w.promise.upper, &w.front), side(&w.promise.lower, &w.rear));
    let promised = w.promise.clearance.show(build.unit);
    format!("washers {front} front, {rear} rear, backs to the housing, promise {promised}: {}", w.note)
}

const fn one(on: Scope) -> Option<Place> {
    match on {
        Scope::One(station) => Some(station),
        _ => None,
    }
}

fn name(value: &impl Serialize) -> String {
    let value = serde_json::to_value(value).unwrap_or_default();
    value.as_str().unwrap_or_default().to_owned()
}

fn check(build: &Build, check: Option<&GaugeCheck>) -> String {
    match check {
        Some(c) => format!("showed {} on {}", c.shown.show(build.unit), c.standard.show(build.unit)),
        None => "without a check".into(),
    }
}

fn closed(build: &Build, s: &SessionClosed) -> String {
    let gauge = build.facts.iter().find_map(|f| match &f.what {
        What::SessionOpened(o) if f.id == s.session => Some(o.gauge.name.as_str()),
        _ => None,
    });
    format!("{} checked out, {}", gauge.unwrap_or("gauge"), check(build, s.check.as_ref()))
}

/// What was done, as people say it.
pub fn work_words(work: Work) -> &'static str {
    match work {
        Work::JournalPolished => "journal polished",
        Work::JournalGround => "journal ground",
        Work::JournalWelded => "journal welded up",
        Work::CrankStraightened => "crank straightened",
        Work::CapDeburred => "cap deburred",
        Work::CapReplaced => "cap replaced",
        Work::CapTurned => "cap fitted the other way",
        Work::TunnelHoned => "tunnel honed or bored",
        Work::RodResized => "rod resized",
        Work::ShellsFitted => "other shells fitted",
        Work::ShellsCoated => "shells coated",
        Work::ShellsNarrowed => "shells narrowed",
        Work::ThrustSeated => "thrust seated",
        Work::WashersFitted => "other thrust washers fitted",
        Work::RodNarrowed => "rod narrowed",
        Work::BushFitted => "cam bush fitted",
        Work::CamPlateFitted => "what holds the cam fitted",
        Work::CylinderBored => "cylinder bored",
        Work::CylinderHoned => "cylinder honed",
        Work::PistonMachined => "piston coated or machined",
        Work::SmallEndHoned => "small end honed or bushed",
        Work::RingsFiled => "rings filed or changed",
        Work::CylinderWashed => "cylinder washed",
        Work::CrankFlushed => "crank brushed and flushed",
        Work::RingsFitted => "rings fitted for good",
        Work::FaceMachined => "face machined",
        Work::BlockFlushed => "block brushed and flushed",
        Work::RodWashed => "rod washed",
        Work::HeadWashed => "head washed",
        Work::Blasted => "blasted or dressed with a disc",
    }
}

fn work(w: &WorkEvent) -> String {
    let grits: Vec<String> = w.grits.iter().map(ToString::to_string).collect();
    let mut how = Vec::new();
    if !grits.is_empty() {
        how.push(format!("grits {}", grits.join("/")));
    }
    how.extend(w.minutes.map(|m| format!("{m} min")));
    let how = if how.is_empty() { String::new() } else { format!(" ({})", how.join(", ")) };
    format!("{}, {}{how}: {}", work_words(w.work), w.on, w.note)
}

fn set_up(build: &Build, s: &SetUp) -> String {
    let row = if s.row == BearingRow::Mains { "mains" } else { "rods" };
    let held = |fasteners: &str, lubricant: &str, steps: &[TorqueStep]| {
        let steps: Vec<String> = steps.iter().map(|step| step.show(build.unit)).collect();
        format!("{fasteners}, {lubricant}, {}", steps.join(" then "))
    };
    let mut text = format!("{row}: {}", held(&s.fasteners, &s.lubricant, &s.steps));
    for g in &s.groups {
        let name = match g.group {
            FastenerGroup::Outer => "outer",
            FastenerGroup::Side => "side",
        };
        text.push_str(&format!("; {name}: {}", held(&g.fasteners, &g.lubricant, &g.steps)));
    }
    text
}
