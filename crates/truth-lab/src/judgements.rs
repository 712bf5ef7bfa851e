//! Judgements that rest on one limit or on a difference: a least size, a bend, a line freed of its housings, an oversize.
//!
//! Each trial is a part just beyond what is asked of it, which must not be called good, and one just within it, which must
//! not be called bad. Gauges err by half their expanded uncertainty, the hand by what the shop says of it, and every figure
//! is rounded to the gauge's step.
use jagged_pin_core::Length;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Figure, Place, Role};
use jagged_pin_core::machining::{BoringWish, plan_boring};
use jagged_pin_core::maths::{State, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_workbench::{Bench, patterns, person};

use crate::chance::Chance;
use crate::share::Share;

/// What was said of parts on both sides of a limit.
#[derive(Debug, Clone, Copy, Default)]
pub struct BothSides {
    /// Parts beyond the limit that were called good.
    pub false_in: Share,
    /// Parts within it that were called bad.
    pub false_alarm: Share,
}

/// A judgement to be tried.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Judgement {
    /// A piston against the least size of its sheet.
    LeastSize,
    /// A main against the most that it may run out, on a crank that is bent and a little oval.
    Bend,
    /// A saddle against the most that the tunnel may be out of line, its housings of different sizes.
    Line,
    /// Six worn cylinders against the smallest oversize.
    Oversize,
}

impl Judgement {
    /// Every one.
    pub const ALL: [Judgement; 4] = [Judgement::LeastSize, Judgement::Bend, Judgement::Line, Judgement::Oversize];
}

/// Tries `trials` parts on each side of a limit, `off` tenths beyond it and within it.
///
/// # Errors
/// [`Refusal`] where the product takes nothing of it.
pub fn both_sides(of: Judgement, off: f64, trials: u32, seed: u64) -> Result<BothSides, Refusal> {
    let mut chance = Chance::seeded(seed);
    let mut seen = BothSides::default();
    for _ in 0..trials {
        for beyond in [true, false] {
            let by = if beyond { off } else { -off };
            let said = match of {
                Judgement::LeastSize => least_size(&mut chance, by)?,
                Judgement::Bend => bend(&mut chance, by)?,
                Judgement::Line => line(&mut chance, by)?,
                Judgement::Oversize => oversize(&mut chance, by)?,
            };
            let count = if beyond { &mut seen.false_in } else { &mut seen.false_alarm };
            count.count(said == if beyond { Said::Good } else { Said::Bad });
        }
    }
    Ok(seen)
}

/// What the product says of a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Said {
    Good,
    Bad,
    Open,
}

impl From<State> for Said {
    fn from(state: State) -> Self {
        match state {
            State::In => Said::Good,
            State::Edge => Said::Open,
            State::Tight | State::Loose => Said::Bad,
        }
    }
}

fn opened() -> Result<Bench, Refusal> {
    let six = patterns().into_iter().find(|p| p.id == "curlew-24").ok_or(Refusal::NoSuchReading)?;
    Bench::book_in(70, "T-70", &six, 0, person("harrow"))
}

fn named(figure: &str) -> Result<Figure, Refusal> {
    figure.parse().map_err(|_| Refusal::NoSuchReading)
}

fn tenths(value: f64) -> Length {
    Length::from_f64(value * 2_540.0).unwrap_or_default()
}

fn said(bench: &Bench, figure: Figure, at: Place) -> Said {
    let assessed = evaluate(bench.build());
    assessed.figure(figure, at).and_then(|f| f.judged.as_ref()).map_or(Said::Open, |j| j.state.into())
}

/// A gauge of the shop in a hand of the shop: its scale is off by the same all day, each touch by its own.
struct Reader {
    step: f64,
    repeat: f64,
    scale: f64,
}

impl Reader {
    fn of(bench: &Bench, gauge: &str, chance: &mut Chance) -> Result<Self, Refusal> {
        let gauge = bench.build().gauge(gauge).ok_or(Refusal::NoSuchReading)?;
        let of = |l: Length| l.as_f64() / 2_540.0;
        let scale = chance.normal(of(gauge.calibration) / 2.0);
        Ok(Reader { step: of(gauge.resolution), repeat: of(gauge.repeatability), scale })
    }

    fn read(&self, truth: f64, chance: &mut Chance) -> f64 {
        ((truth + self.scale + chance.normal(self.repeat)) / self.step).round() * self.step
    }

    /// Two touches as they are typed, in inches.
    fn twice(&self, truth: f64, chance: &mut Chance) -> String {
        let inch = |tenths: f64| format!("{:.5}", tenths / 10_000.0);
        format!("{} {}", inch(self.read(truth, chance)), inch(self.read(truth, chance)))
    }
}

fn least_size(chance: &mut Chance, beyond: f64) -> Result<Said, Refusal> {
    const LEAST: f64 = 34_710.0;
    let mut bench = opened()?;
    let figure = named("piston_size")?;
    let rule = TargetRule::Range { low: tenths(LEAST), aim: None, high: tenths(35_000.0) };
    bench.figure_target(figure, BearingRow::Rods, rule, "the sheet")?;
    bench.take("mic-four-tenths");
    let mic = Reader::of(&bench, "mic-four-tenths", chance)?;
    for n in 1..=6 {
        let size = if n == 1 { LEAST - beyond } else { LEAST + 5.0 + chance.normal(1.0) };
        bench.size(Place::wrist_pin(n), Role::new("piston"), &[mic.twice(size, chance).as_str()])?;
    }
    Ok(said(&bench, figure, Place::wrist_pin(1)))
}

fn bend(chance: &mut Chance, beyond: f64) -> Result<Said, Refusal> {
    const MOST: f64 = 10.0;
    let mut bench = opened()?;
    let rule = TargetRule::Range { low: Length::ZERO, aim: None, high: tenths(MOST) };
    bench.figure_target(Figure::MAIN_RUNOUT, BearingRow::Mains, rule, "as agreed")?;
    let dial = Reader::of(&bench, "indicator-base-tenths", chance)?;
    let (way, oval_way) = (chance.between(0.0, 360.0), chance.between(0.0, 360.0));
    let oval = chance.between(0.0, 3.0);
    let clock = (0..8).map(|i| {
        let at = f64::from(i) * 45.0;
        let thrown = (MOST + beyond) / 2.0 * (at - way).to_radians().cos();
        thrown + oval / 2.0 * (2.0 * (at - oval_way)).to_radians().cos() + 20.0
    });
    let typed: Vec<String> = clock.map(|v| format!("{:.1}", dial.read(v, chance))).collect();
    let each: Vec<[&str; 1]> = typed.iter().map(|t| [t.as_str()]).collect();
    let places: Vec<&[&str]> = each.iter().map(|t| t.as_slice()).collect();
    bench.pushes(Place::main(4), Role::new("main_turn"), &places)?;
    Ok(said(&bench, Figure::MAIN_RUNOUT, Place::main(4)))
}

fn line(chance: &mut Chance, beyond: f64) -> Result<Said, Refusal> {
    const MOST: f64 = 10.0;
    let mut bench = opened()?;
    bench.take("bore-tenths");
    let rule = TargetRule::Range { low: Length::ZERO, aim: None, high: tenths(MOST) };
    bench.figure_target(Figure::TUNNEL_GAP, BearingRow::Mains, rule, "in line")?;
    let gauge = Reader::of(&bench, "bore-tenths", chance)?;
    for n in 1..=7 {
        let larger = chance.normal(2.0);
        let size = 28_145.0 + larger;
        let six: Vec<String> = (0..6).map(|_| gauge.twice(size, chance)).collect();
        let six: Vec<&str> = six.iter().map(String::as_str).collect();
        bench.size(Place::main(n), Role::HOUSING, &six)?;
        // What lies under the edge: how far the saddle is down, and half of what its housing is larger.
        let down = if n == 4 { MOST + beyond } else { 0.0 };
        let gap = (down + larger / 2.0).max(0.0);
        // Blades half a thou apart.
        let passes = (gap / 5.0).floor() * 5.0;
        let blades = format!(".{:04} .{:04}", passes, passes + 5.0);
        bench.pushes(Place::main(n), Role::new("tunnel_gap"), &[&[&blades, &blades], &["0 .0005", "0 .0005"]])?;
    }
    Ok(said(&bench, Figure::TUNNEL_GAP, Place::main(4)))
}

fn oversize(chance: &mut Chance, beyond: f64) -> Result<Said, Refusal> {
    const STANDARD: f64 = 34_750.0;
    const OVER: f64 = 100.0;
    const STOCK: f64 = 50.0;
    /// What certainty keeps back: nearer than that the next size is no false alarm, pistons are bought on it.
    const KEPT_BACK: f64 = 6.0;
    let beyond = if beyond < 0.0 { beyond - KEPT_BACK } else { beyond };
    let mut bench = opened()?;
    bench.take("bore-tenths");
    let gauge = Reader::of(&bench, "bore-tenths", chance)?;
    // Worn to one side: the bar cleans a place that is as much under it as half its wear and the whole of it again.
    let worst = (STANDARD + OVER - STOCK + beyond + STANDARD) / 2.0;
    for n in 1..=6 {
        let most = if n == 2 { worst } else { worst - chance.between(2.0, 12.0) };
        let places = [most, most - 2.0, most - 9.0, most - 8.0, most - 14.0, most - 13.0];
        let places: Vec<String> = places.iter().map(|p| gauge.twice(*p, chance)).collect();
        let places: Vec<&str> = places.iter().map(String::as_str).collect();
        bench.size(Place::cylinder(n), Role::new("cylinder"), &places)?;
    }
    let wish = BoringWish {
        unworn: Some(tenths(STANDARD)),
        damage: Vec::new(),
        walls: Vec::new(),
        least_wall: Length::ZERO,
        oversizes: [OVER, 2.0 * OVER].map(tenths).to_vec(),
        location: Length::ZERO,
        hone_stock: tenths(STOCK),
        plate: Length::ZERO,
    };
    let plan = plan_boring(bench.build(), &evaluate(bench.build()).figures, &wish);
    Ok(match plan.and_then(|p| p.chosen) {
        Some(chosen) if chosen == tenths(OVER) => Said::Good,
        Some(_) => Said::Bad,
        None => Said::Open,
    })
}
