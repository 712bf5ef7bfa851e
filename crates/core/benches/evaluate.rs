//! How long `evaluate` takes on a big build: 10 mains, 16 pins with their rods, 16 cylinders with pistons and rings, a cam, and
//! 5 000 readings.
use criterion::{Criterion, criterion_group, criterion_main};
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{
    BearingRow, Cam, Characteristic, Crank, Cylinders, Layout, Place, PlaceKind, Position, Read, Rods,
};
use jagged_pin_core::log::{Fact, Measure, Reading, Rules, SessionClosed, SessionOpened, Source, TargetChange, What};
use jagged_pin_core::maths::{TargetRule, TargetSource};
use jagged_pin_core::record::{TextRow, read_rows};
use jagged_pin_core::units::{Person, Timestamp};
use jagged_pin_core::{Build, Length, Unit};
use mimalloc::MiMalloc;
use uuid::Uuid;

/// That of the product.
#[global_allocator]
static ALLOCATOR: MiMalloc = MiMalloc;

const MAINS: u8 = 10;
const READINGS: u32 = 5_000;

/// A build on which every position of every journal and bearing was touched over and over.
fn big_build() -> Option<Build> {
    let main_journal = Length::tenths(26_240);
    let mut crank = Crank::proportional(MAINS, main_journal, 2);
    // Sixteen pins in nine bays: the last two bays have one each.
    crank.bays.iter_mut().skip(7).for_each(|bay| bay.truncate(1));
    let rods = Rods {
        per_pin: 1,
        pin: Length::tenths(21_240),
        nominals: None,
        tracks: false,
        material: jagged_pin_core::maths::Material::Steel,
    };
    let layout = Layout {
        rods: Some(rods),
        cylinders: Some(Cylinders::of(Length::tenths(34_750))),
        cam: Some(Cam { journals: vec![Length::tenths(20_000); 9], hardened: Length::microns(1_000) }),
        ..Layout::of_mains(MAINS, Place::main(5), main_journal, crank)
    };
    let by = Person { id: Uuid::nil(), name: "Bench".into() };
    let t = Length::tenths;
    let target = TargetChange {
        figure: None,
        station: None,
        row: BearingRow::Mains,
        kind: None,
        rule: Some(TargetRule::Range { low: t(22), aim: None, high: t(28) }),
        made_of: None,
        wear: None,
        source: TargetSource::BuildersRule,
        reason: "for the benchmark".into(),
        lifted: Vec::new(),
    };
    let measured = ["journal", "bore", "cylinder", "piston", "top_ring_gap", "second_ring_gap", "top_ring_side"];
    let places: Vec<(Place, Characteristic, Position)> = layout
        .places()
        .flat_map(|station| Characteristic::of(station).map(move |c| (station, c)))
        .filter(|(_, c)| measured.contains(&c.role().name()))
        .flat_map(|(station, c)| c.positions().iter().map(move |p| (station, c, p.position)))
        .collect();
    let reading = |n: u32| {
        let (station, feature, position) = places[n as usize % places.len()];
        let wobble = i64::from(n * 7919 % 3);
        let nominal = match station.kind() {
            PlaceKind::Main => 26_240,
            PlaceKind::Pin | PlaceKind::Rod => 21_240,
            PlaceKind::Cam => 20_000,
            _ => 34_716,
        };
        let (measure, gauge) = match (feature.row().reads.first(), feature.role().name()) {
            (Some(Read::Blades), _) => (Measure::Blades { passes: t(160), refuses: t(170) }, "blades-thou"),
            (_, "bore") if feature.can_be_read(Read::Dial) => {
                (Measure::Dial { dial: t(22 + wobble), reference: t(nominal) }, "bore-tenths")
            }
            (_, "bore" | "cylinder") => (Measure::Size { size: t(nominal + 30 + wobble) }, "bore-tenths"),
            (_, "piston") => (Measure::Size { size: t(nominal - 3 + wobble) }, "mic-four-tenths"),
            _ => (Measure::Size { size: t(nominal - 3 + wobble) }, "mic-tenths"),
        };
        Reading {
            station,
            characteristic: feature,
            position,
            part: None,
            measure,
            gauge: gauge.into(),
            raw: "38".into(),
            source: Source::Typed,
            forced: false,
            taken: None,
            session: None,
            temperatures: None,
            blind: None,
            zero: None,
        }
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
        facts.push(fact(n + 2, What::Reading(reading(n))));
    }
    Some(Build {
        known_to: 0,
        id: Uuid::nil(),
        code: "BIG".into(),
        engine: "Ten mains".into(),
        unit: Unit::Inch,
        layout,
        rules: Rules::standard(Unit::Inch),
        gauges: jagged_pin_workbench::gauges(Unit::Inch),
        opened_at: Timestamp(0),
        opened_by: by.clone(),
        facts,
    })
}

fn bench(c: &mut Criterion) {
    let Some(build) = big_build() else { return };
    assert_eq!(build.check(), Ok(()));
    assert_eq!(evaluate(&build).rows[0].measured, usize::from(MAINS));
    c.bench_function("evaluate 10 mains, 16 rods, 16 cylinders, cam, 5000 readings", |b| {
        b.iter(|| evaluate(std::hint::black_box(&build)))
    });
}

/// A file of so many rows, every place in turn, as whole figures.
fn rows_of(build: &Build, rows: usize) -> Vec<TextRow> {
    let journals = build.layout.of_kind(jagged_pin_core::engine::PlaceKind::Main);
    let places: Vec<(Place, Position)> = journals
        .flat_map(|at| Characteristic::MAIN_JOURNAL.positions().iter().map(move |p| (at, p.position)))
        .collect();
    let row = |n: usize| {
        let (station, position) = places[n % places.len()];
        TextRow {
            line: n as u64 + 2,
            station: station.to_string(),
            characteristic: "main_journal".into(),
            axial: format!("{:?}", position.axial).to_lowercase(),
            angle: position.angle.to_string(),
            gauge: "mic-tenths".into(),
            reading: format!("2.62{}", 38 + n % 3),
            ..TextRow::default()
        }
    };
    (0..rows).map(row).collect()
}

fn reading_a_file(c: &mut Criterion) {
    let Some(build) = big_build() else { return };
    let rows = rows_of(&build, 2_000);
    let read = || read_rows(&build, &build.opened_by, &rows, Unit::Inch, Uuid::from_u128(1 << 64), Timestamp(9_000));
    assert!(read().iter().all(|r| r.read.is_ok()), "{:?}", read().iter().find(|r| r.read.is_err()));
    c.benchmark_group("files")
        .sample_size(10)
        .bench_function("2000 rows on top of 5000 readings", |b| b.iter(|| std::hint::black_box(read())));
}

/// A build in which so many sittings with one mic were opened and closed, and a size was read in each.
fn with_sittings(sittings: u32) -> Option<Build> {
    let mut build = big_build()?;
    let reading = build.facts.iter().find(|f| matches!(f.what, What::Reading(_)))?.what.clone();
    let gauge = build.gauge("mic-tenths")?.clone();
    build.facts.clear();
    let mut put = |what: What| {
        let seq = build.seq() + 1;
        let id = Uuid::from_u128(u128::from(seq));
        let by = build.opened_by.clone();
        build.facts.push(Fact { id, seq, at: Timestamp(i64::from(seq)), by, what });
        id
    };
    for _ in 0..sittings {
        let session = put(What::SessionOpened(SessionOpened { gauge: gauge.clone(), check: None, zero: None }));
        let mut read = reading.clone();
        if let What::Reading(read) = &mut read {
            read.session = Some(session);
        }
        put(read);
        put(What::SessionClosed(SessionClosed { session, check: None }));
    }
    Some(build)
}

/// Four times the facts may cost four times as long.
fn checking_a_build(c: &mut Criterion) {
    let mut group = c.benchmark_group("check");
    for sittings in [1_000_u32, 4_000, 16_000] {
        let Some(build) = with_sittings(sittings) else { return };
        assert_eq!(build.check(), Ok(()));
        group
            .sample_size(10)
            .bench_function(format!("{sittings} sittings, each with a reading"), |b| b.iter(|| build.check()));
    }
    group.finish();
}

criterion_group!(benches, bench, reading_a_file, checking_a_build);
criterion_main!(benches);
