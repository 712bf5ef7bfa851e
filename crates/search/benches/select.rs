//! How long it takes to choose shells: 9 stations, 7 classes and 6 sets to buy; 8 stations and 32 + 32
//! measured shells. Each round chooses for twenty instances.

mod instances;
use criterion::{BatchSize, Criterion, criterion_group, criterion_main};
use instances::{Dice, by_class, by_wall};
use jagged_pin_search::by_class::{Objective, next_best, select};
use jagged_pin_search::{USUAL_EFFORT, one_by_one};

const ROUND: usize = 20;

fn classes(c: &mut Criterion) {
    for (name, objective) in [("closest", Objective::Closest), ("thriftiest", Objective::Thriftiest)] {
        let mut dice = Dice(12_345);
        let problems: Vec<_> = (0..ROUND).map(|_| by_class(&mut dice, objective)).collect();
        assert!(problems.iter().all(|p| select(p, USUAL_EFFORT).is_ok_and(|s| s.proven)));
        c.bench_function(&format!("select_shells {name}, {ROUND} times"), |b| {
            b.iter(|| problems.iter().filter(|p| select(p, USUAL_EFFORT).is_ok()).count());
        });
        c.bench_function(&format!("select_shells {name} with alternatives, {ROUND} times"), |b| {
            b.iter(|| problems.iter().map(|p| next_best(p, USUAL_EFFORT).len()).sum::<usize>());
        });
    }
}

fn trays(c: &mut Criterion) {
    for grain in [2_540, 1_000, 100] {
        let mut dice = Dice(54_321);
        let all: Vec<_> = (0..ROUND).map(|_| by_wall(&mut dice, grain)).collect();
        assert!(all.iter().all(|t| one_by_one::select(t, USUAL_EFFORT).is_ok_and(|s| s.proven)));
        c.bench_function(&format!("select_measured in steps of {grain} nm, {ROUND} times"), |b| {
            b.iter_batched(
                || &all,
                |all| all.iter().filter(|t| one_by_one::select(t, USUAL_EFFORT).is_ok()).count(),
                BatchSize::SmallInput,
            );
        });
    }
}

criterion_group! {
    name = benches;
    config = Criterion::default().sample_size(10);
    targets = classes, trays
}
criterion_main!(benches);
