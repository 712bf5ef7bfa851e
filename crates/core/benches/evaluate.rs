//! How long `evaluate` takes on a big build: 10 mains and 5 000 readings.

use criterion::{Criterion, criterion_group, criterion_main};
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::fact::{Fact, Measure, Person, Reading, Source, TargetChange, Timestamp, What};
use jagged_pin_core::feature::{Feature, Station};
use jagged_pin_core::layout::{Crank, Layout};
use jagged_pin_core::rules::Rules;
use jagged_pin_core::target::{TargetRule, TargetSource};
use jagged_pin_core::{Build, Length, Unit};
use uuid::Uuid;

const MAINS: u8 = 10;
const READINGS: u32 = 5_000;

/// A build on which every position of every main was touched over and over.
fn big_build() -> Option<Build> {
    let main_journal = Length::tenths(26_240);
    let crank = Crank::proportional(MAINS, main_journal, 2);
    let layout = Layout { mains: MAINS, thrust: Station::main(5)?, main_journal, crank };
    let by = Person { id: Uuid::nil(), name: "Bench".into() };
    let t = Length::tenths;
    let target = TargetChange {
        station: None,
        rule: Some(TargetRule::Range { low: t(22), aim: None, high: t(28) }),
        source: TargetSource::BuildersRule,
        reason: "for the benchmark".into(),
    };
    let places: Vec<_> = [Feature::MainJournal, Feature::MainBearing]
        .iter()
        .flat_map(|f| f.positions().iter().map(|p| (*f, p.position)))
        .collect();
    let reading = |n: u32| {
        let (feature, position) = places[n as usize % places.len()];
        let wobble = i64::from(n * 7919 % 3);
        let measure = match feature {
            Feature::MainJournal => Measure::Size { size: t(26_237 + wobble) },
            Feature::MainBearing => Measure::Dial { dial: t(22 + wobble), reference: main_journal },
        };
        let gauge = if feature == Feature::MainJournal { "mic-tenths" } else { "bore-tenths" };
        let station = Station::main((n / places.len() as u32 % u32::from(MAINS)) as u8 + 1)?;
        let (gauge, raw) = (gauge.into(), "38".into());
        Some(Reading { station, feature, position, measure, gauge, raw, source: Source::Typed, forced: false })
    };
    let fact = |seq: u32, what| Fact {
        id: Uuid::from_u128(u128::from(seq)),
        seq,
        at: Timestamp(i64::from(seq)),
        by: by.clone(),
        what,
    };
    let mut facts = vec![fact(1, What::Target(target))];
    for n in 0..READINGS {
        facts.push(fact(n + 2, What::Reading(reading(n)?)));
    }
    Some(Build {
        id: Uuid::nil(),
        code: "BIG".into(),
        engine: "Ten mains".into(),
        unit: Unit::Inch,
        layout,
        rules: Rules::standard(Unit::Inch),
        gauges: jagged_pin_demo::gauges(Unit::Inch),
        opened_at: Timestamp(0),
        opened_by: by.clone(),
        facts,
    })
}

fn bench(c: &mut Criterion) {
    let Some(build) = big_build() else { return };
    assert_eq!(build.check(), Ok(()));
    assert_eq!(evaluate(&build).row.measured, usize::from(MAINS));
    c.bench_function("evaluate 10 mains, 5000 readings", |b| b.iter(|| evaluate(std::hint::black_box(&build))));
}

criterion_group!(benches, bench);
criterion_main!(benches);
