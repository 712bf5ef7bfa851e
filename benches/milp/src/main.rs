//! The choice of shells against a general mixed-integer solver, on the same instances in one run.
//!
//! The solver gets the same problem goal by goal: the best value of one becomes a constraint for the next.
//! Both answers must agree before their times are compared.

#[path = "../../../crates/search/benches/instances/mod.rs"]
mod instances;
use std::time::{Duration, Instant};

use good_lp::{Expression, ProblemVariables, Solution, SolverModel, Variable, WithMipGap, constraint, highs, variable};
use instances::{Dice, by_class, by_wall};
use jagged_pin_search::{Quality, USUAL_EFFORT};
use jagged_pin_search::by_class::{Halves, Objective, Problem, ShellSet, select};
use jagged_pin_search::one_by_one::{Tray, self};

/// A pair that may go into a seat, in half nanometres.
struct Pair {
    seat: usize,
    upper: usize,
    lower: usize,
    off: i64,
    outside: bool,
}

/// A problem in the solver's terms.
struct Model {
    seats: usize,
    pairs: Vec<Pair>,
    /// Halves of each bin on the shelf.
    stock: Vec<u16>,
    /// Price, what is given of each bin, and how many there are.
    sets: Vec<(i64, Vec<u16>, u16)>,
    /// Goals before the cost; the cost is last or second.
    thrifty: bool,
}

#[derive(Clone, Copy, PartialEq)]
enum Goal {
    Outside,
    Worst,
    Total,
    Cost,
}

/// Scaled so that coefficients are near one: a step is a tenth of a micrometre.
const STEP: f64 = 200.0;

impl Model {
    /// The best value of each goal, in their order.
    fn solve(&self, goals: &[Goal]) -> Vec<i64> {
        let mut reached: Vec<(Goal, i64)> = Vec::new();
        for goal in goals {
            let value = self.best(*goal, &reached);
            reached.push((*goal, value));
        }
        reached.into_iter().map(|(_, value)| value).collect()
    }

    fn best(&self, goal: Goal, reached: &[(Goal, i64)]) -> i64 {
        let mut vars = ProblemVariables::new();
        let taken: Vec<Variable> = self.pairs.iter().map(|_| vars.add(variable().binary())).collect();
        let bought: Vec<Variable> =
            self.sets.iter().map(|(_, _, most)| vars.add(variable().integer().min(0).max(f64::from(*most)))).collect();
        let worst = vars.add(variable().min(0));
        let expression = |goal: Goal| -> Expression {
            match goal {
                Goal::Outside => self.pairs.iter().zip(&taken).filter(|(p, _)| p.outside).map(|(_, v)| *v).sum(),
                Goal::Worst => worst.into(),
                Goal::Total => self.pairs.iter().zip(&taken).map(|(p, v)| p.off as f64 / STEP * *v).sum(),
                Goal::Cost => self.sets.iter().zip(&bought).map(|(s, v)| s.0 as f64 / 10_000.0 * *v).sum(),
            }
        };
        let mut model = vars.minimise(expression(goal)).using(highs).with_mip_gap(0.0).expect("a gap of zero");
        for seat in 0..self.seats {
            let of_seat = || self.pairs.iter().zip(&taken).filter(move |(p, _)| p.seat == seat);
            let one: Expression = of_seat().map(|(_, v)| *v).sum();
            model = model.with(constraint!(one == 1));
            let off: Expression = of_seat().map(|(p, v)| p.off as f64 / STEP * *v).sum();
            model = model.with(constraint!(off <= worst));
        }
        for (bin, stock) in self.stock.iter().enumerate() {
            let used: Expression = self
                .pairs
                .iter()
                .zip(&taken)
                .filter(|(p, _)| p.upper == bin || p.lower == bin)
                .map(|(_, v)| *v)
                .sum();
            let more: Expression = self.sets.iter().zip(&bought).map(|(s, v)| f64::from(s.1[bin]) * *v).sum();
            model = model.with(constraint!(used <= f64::from(*stock) + more));
        }
        for (before, value) in reached {
            let scale = match before {
                Goal::Outside => 1.0,
                Goal::Worst | Goal::Total => STEP,
                Goal::Cost => 10_000.0,
            };
            let most = *value as f64 / scale + 1e-6;
            model = model.with(constraint!(expression(*before) <= most));
        }
        let solution = model.solve().expect("an answer");
        let on = |v: &Variable| solution.value(*v) > 0.5;
        let chosen = || self.pairs.iter().zip(&taken).filter(|(_, v)| on(v)).map(|(p, _)| p);
        match goal {
            Goal::Outside => chosen().filter(|p| p.outside).count() as i64,
            Goal::Worst => chosen().map(|p| p.off).max().unwrap_or(0),
            Goal::Total => chosen().map(|p| p.off).sum(),
            Goal::Cost => {
                self.sets.iter().zip(&bought).map(|(s, v)| s.0 * solution.value(*v).round() as i64).sum()
            }
        }
    }
}

fn pair(seat: usize, upper: usize, lower: usize, clearance: i64) -> Pair {
    let target = instances::window();
    let outside = clearance < 2 * target.low || clearance > 2 * target.high;
    Pair { seat, upper, lower, off: (clearance - 2 * target.aim).abs(), outside }
}

fn of_problem(problem: &Problem) -> Model {
    let classes = problem.shifts.len();
    let bins = |halves: &Halves| match halves {
        Halves::Apart { upper, lower } => upper.iter().chain(lower).copied().collect(),
        Halves::Alike(both) => both.clone(),
    };
    let mut pairs = Vec::new();
    for (seat, place) in problem.places.iter().enumerate() {
        for (u, upper) in problem.shifts.iter().enumerate() {
            for (l, lower) in problem.shifts.iter().enumerate() {
                if (*upper - *lower).abs() <= problem.max_step {
                    let clearance = 2 * place.clearance_std + upper + lower;
                    pairs.push(pair(seat, u, classes + l, clearance));
                }
            }
        }
    }
    let set = |s: &ShellSet| (s.price, bins(&s.holds), s.available.unwrap_or(9));
    Model {
        seats: problem.places.len(),
        pairs,
        stock: bins(&problem.stock),
        sets: problem.sets.iter().map(set).collect(),
        thrifty: problem.objective == Objective::Thriftiest,
    }
}

fn of_tray(tray: &Tray) -> Model {
    let mut pairs = Vec::new();
    for (seat, place) in tray.places.iter().enumerate() {
        for (u, upper) in tray.uppers.iter().enumerate() {
            for (l, lower) in tray.lowers.iter().enumerate() {
                let clearance = 2 * (place.base - *upper - *lower);
                pairs.push(pair(seat, u, tray.uppers.len() + l, clearance));
            }
        }
    }
    let stock = vec![1; tray.uppers.len() + tray.lowers.len()];
    Model { seats: tray.places.len(), pairs, stock, sets: Vec::new(), thrifty: false }
}

fn timed<T>(work: impl FnOnce() -> T) -> (T, Duration) {
    let began = Instant::now();
    let result = work();
    (result, began.elapsed())
}

fn median(mut times: Vec<Duration>) -> Duration {
    times.sort();
    times[times.len() / 2]
}

/// Compares both on some instances and tells the times and their ratio.
fn compare(name: &str, runs: impl Iterator<Item = (Vec<i64>, Duration, Model)>) {
    let (mut ours, mut theirs, mut ratios) = (Vec::new(), Vec::new(), Vec::new());
    for (answer, took, model) in runs {
        let goals: &[Goal] = match (model.sets.is_empty(), model.thrifty) {
            (true, _) => &[Goal::Outside, Goal::Worst, Goal::Total],
            (false, false) => &[Goal::Outside, Goal::Worst, Goal::Total, Goal::Cost],
            (false, true) => &[Goal::Outside, Goal::Cost, Goal::Worst, Goal::Total],
        };
        let (other, other_took) = timed(|| model.solve(goals));
        assert_eq!(answer, other, "{name}: the answers differ");
        ratios.push(other_took.as_secs_f64() / took.as_secs_f64());
        ours.push(took);
        theirs.push(other_took);
    }
    ratios.sort_by(f64::total_cmp);
    println!(
        "{name}: {} instances, median {:?} against {:?}; ratio median {:.0}, least {:.0}",
        ours.len(),
        median(ours),
        median(theirs),
        ratios[ratios.len() / 2],
        ratios[0],
    );
}

fn doubled(q: Quality) -> [i64; 3] {
    [q.outside as i64, 2 * q.worst, 2 * q.total]
}

fn main() {
    for (name, objective) in [("closest", Objective::Closest), ("thriftiest", Objective::Thriftiest)] {
        let mut dice = Dice(12_345);
        let runs = (0..20).map(|_| {
            let problem = by_class(&mut dice, objective);
            let (best, took) = timed(|| select(&problem, USUAL_EFFORT).expect("enough shells"));
            assert!(best.proven);
            let [outside, worst, total] = doubled(best.quality);
            let answer = match objective {
                Objective::Closest => vec![outside, worst, total, best.cost],
                Objective::Thriftiest => vec![outside, best.cost, worst, total],
            };
            (answer, took, of_problem(&problem))
        });
        compare(&format!("9 stations, 7 classes, 6 sets, {name}"), runs);
    }
    for grain in [2_540, 1_000] {
        let mut dice = Dice(54_321);
        let runs = (0..5).map(|_| {
            let tray = by_wall(&mut dice, grain);
            let (best, took) = timed(|| one_by_one::select(&tray, USUAL_EFFORT).expect("enough shells"));
            assert!(best.proven);
            (doubled(best.quality).to_vec(), took, of_tray(&tray))
        });
        compare(&format!("8 stations, 32 + 32 shells in steps of {grain} nm"), runs);
    }
}
