//! Perfectly built engines, measured with the shop's own tenth gauges by a good hand, come to their seal: nothing is asked of
//! anybody but their two signatures.
use jagged_pin_core::Length;
use jagged_pin_core::assess::{Assessment, evaluate};
use jagged_pin_core::engine::{BearingRow, Crank, Cylinders, Figure, Layout, Place, Read, Rods, Role};
use jagged_pin_core::figure::Finding;
use jagged_pin_core::log::{SignerRole, TorqueStep, TorqueUnit, ZeroSource};
use jagged_pin_core::maths::TargetRule;
use jagged_pin_core::record::Refusal;
use jagged_pin_core::sheet::SealStatus;
use jagged_pin_workbench::{Bench, Pattern, patterns, person, torqued};

/// What shells are thinner by at forty-five degrees to either side, in tenths.
const RELIEF: f64 = 7.0;

type Outcome<T = ()> = Result<T, Refusal>;

/// A hand that repeats to three tenths of a tenth, and parts that differ by as much.
struct Hand(u64);

impl Hand {
    /// Near enough to a normal value: the sum of twelve even ones.
    fn normal(&mut self) -> f64 {
        let mut even = || {
            self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            f64::from(u32::try_from(self.0 >> 33).unwrap_or(0)) / f64::from(1_u32 << 31)
        };
        (0..12).map(|_| even()).sum::<f64>() - 6.0
    }

    /// Two touches of each of so many places of a part, on a gauge of so many steps to a tenth.
    fn touches(&mut self, size: f64, places: usize, steps: f64, show: fn(f64) -> String) -> Vec<String> {
        self.shell(size, places, 0, steps, show)
    }

    /// The same of a bearing, whose shells thin toward the parting line: so many places in line with the load, then those beside it.
    fn shell(&mut self, size: f64, along: usize, beside: usize, steps: f64, show: fn(f64) -> String) -> Vec<String> {
        let part = size + 0.2 * self.normal();
        let mut one = |place: f64| show(((place + 0.3 * self.normal()) * steps).round() / steps);
        let sizes = std::iter::repeat_n(part, along).chain(std::iter::repeat_n(part + RELIEF, beside));
        sizes.map(|size| [one(size), one(size)].join(" ")).collect()
    }
}

fn inches(tenths: f64) -> String {
    format!("{:.4}", tenths / 10_000.0)
}

fn tenths(tenths: f64) -> String {
    format!("{tenths}")
}

fn window(bench: &mut Bench, figure: &str, row: BearingRow, [low, aim, high]: [i64; 3]) -> Outcome {
    let [low, aim, high] = [low, aim, high].map(Length::tenths);
    let figure: Figure = figure.parse().map_err(|_| Refusal::NoTarget)?;
    bench.figure_target(figure, row, TargetRule::Range { low, aim: Some(aim), high }, "the maker's sheet")
}

/// Types all places of one part of one place.
fn all(bench: &mut Bench, at: Place, role: Role, read: Read, places: &[String]) -> Outcome {
    let places: Vec<&str> = places.iter().map(String::as_str).collect();
    match read {
        Read::Dial => bench.bore(at, read, &places)?,
        _ => bench.size(at, role, &places)?,
    };
    Ok(())
}

fn measured(layout: Layout, seed: u64) -> Outcome<Bench> {
    let six = patterns().into_iter().find(|p| p.id == "curlew-24").ok_or(Refusal::NoSuchReading)?;
    let per_pin = layout.rods.as_ref().map_or(1, |rods| rods.per_pin);
    let (mains, pins) = (layout.mains, u8::try_from(layout.pins()).unwrap_or(0));
    let pattern = Pattern { layout: layout.with_usual_plans(), ..six };
    let mut bench = Bench::book_in(60, "SL-060", &pattern, 1_780_000_000_000, person("harrow"))?;
    let mut hand = Hand(seed);
    bench.hand_over(person("oduya"), 60);
    for row in [BearingRow::Mains, BearingRow::Rods] {
        let step = TorqueStep::Torque { tenths: 600, unit: TorqueUnit::PoundFoot };
        bench.set_up(torqued(row, "new", vec![step]))?;
    }

    let mic = bench.open_session("mic-tenths", Some(("2.0000 in", "2.0000")))?;
    for at in (1..=mains).map(Place::main) {
        all(&mut bench, at, Role::JOURNAL, Read::Size, &hand.touches(26_238.0, 4, 1.0, inches))?;
    }
    for at in (1..=pins).map(Place::pin) {
        let places = 4 * usize::from(per_pin);
        all(&mut bench, at, Role::JOURNAL, Read::Size, &hand.touches(21_238.0, places, 1.0, inches))?;
    }
    bench.close_session(mic, Some(("2.0000 in", "2.0000")))?;

    bench.zeroed_in(ZeroSource::SameMic);
    let dial = bench.open_session("bore-half-tenths", Some(("2.6240 in", "0")))?;
    for at in (1..=mains).map(Place::main) {
        all(&mut bench, at, Role::BORE, Read::Dial, &hand.shell(23.0, 2, 2, 2.0, tenths))?;
    }
    bench.close_session(dial, Some(("2.6240 in", "0")))?;
    let dial = bench.open_session("bore-half-tenths", Some(("2.1240 in", "0")))?;
    for at in (1..=pins * per_pin).map(Place::rod) {
        all(&mut bench, at, Role::BORE, Read::Dial, &hand.shell(21.0, 3, 2, 2.0, tenths))?;
    }
    bench.close_session(dial, Some(("2.1240 in", "0")))?;
    along(&mut bench, pins, per_pin)?;
    top_end(&mut bench, pins * per_pin, &mut hand)?;
    Ok(bench)
}

fn along(bench: &mut Bench, pins: u8, per_pin: u8) -> Outcome {
    window(bench, "end_play", BearingRow::Mains, [50, 65, 80])?;
    window(bench, "rod_side", BearingRow::Rods, if per_pin == 1 { [100, 130, 160] } else { [120, 150, 200] })?;
    let dial = bench.open_session("indicator-base-tenths", Some(("0.1000 in", "0.1000")))?;
    bench.pushes(Place::THRUST, Role::TRAVEL, &[&["0 65 0", "0 65 0"], &["0 66 0", "0 65 0"]])?;
    bench.close_session(dial, Some(("0.1000 in", "0.1000")))?;
    for at in (1..=pins).map(Place::side) {
        let between = if per_pin == 1 { "12 13" } else { "15 16" };
        bench.pushes(at, Role::new("side_gap"), &[&[between; 2], &[between; 2]])?;
    }
    Ok(())
}

fn top_end(bench: &mut Bench, cylinders: u8, hand: &mut Hand) -> Outcome {
    let rods = BearingRow::Rods;
    window(bench, "piston_to_wall", rods, [27, 33, 40])?;
    window(bench, "cylinder_round", rods, [0, 1, 3])?;
    window(bench, "cylinder_taper", rods, [0, 1, 3])?;
    window(bench, "top_ring_gap", rods, [146, 156, 196])?;
    window(bench, "second_ring_gap", rods, [164, 174, 214])?;
    let mic = bench.open_session("mic-four-tenths", Some(("3.0000 in", "3.0000")))?;
    for at in (1..=cylinders).map(Place::wrist_pin) {
        all(bench, at, Role::new("piston"), Read::Size, &hand.touches(34_716.0, 1, 1.0, inches))?;
    }
    bench.close_session(mic, Some(("3.0000 in", "3.0000")))?;
    let bores = bench.open_session("bore-tenths", Some(("3.4750 in", "0")))?;
    for at in (1..=cylinders).map(Place::cylinder) {
        all(bench, at, Role::new("cylinder"), Read::Size, &hand.touches(34_749.0, 6, 1.0, inches))?;
        bench.pushes(at, Role::new("top_ring_gap"), &[&["15 16", "15 16"]])?;
        bench.pushes(at, Role::new("second_ring_gap"), &[&["17 18", "17 18"]])?;
    }
    bench.close_session(bores, Some(("3.4750 in", "0")))
}

fn six() -> Outcome<Layout> {
    let six = patterns().into_iter().find(|p| p.id == "curlew-24").ok_or(Refusal::NoSuchReading)?;
    Ok(Layout { cam: None, ..six.layout })
}

/// Five mains, two rods on a pin: of the six's own sizes, in two banks.
fn eight() -> Outcome<Layout> {
    let six = six()?;
    let rods = six.rods.map(|rods| Rods { per_pin: 2, tracks: true, ..rods });
    let cylinders = Some(Cylinders { bank_angle: Some(90), ..Cylinders::of(Length::tenths(34_750)) });
    let crank = Crank::proportional(5, six.main_journal, 1);
    let eight = Layout::of_mains(5, Place::main(3), six.main_journal, crank);
    Ok(Layout { main_nominals: six.main_nominals, rods, cylinders, ..eight })
}

/// What is asked of anybody before it can be signed, and what is said beside a figure.
fn said(a: &Assessment) -> (Vec<String>, Vec<String>) {
    let blocks =
        a.sign_off.blocks.iter().map(|b| format!("{} {}: {:?} {:?}", b.station, b.figure.name(), b.needs, b.gate));
    let remarks = a.figures.iter().flat_map(|f| {
        // A gauge that is coarse for a window is coarse for it, whatever it finds.
        let more = f.findings.iter().filter(|finding| !matches!(finding, Finding::TooCoarse { .. }));
        more.map(|finding| format!("{} {}: {finding:?}", f.station, f.figure.name())).collect::<Vec<_>>()
    });
    (blocks.collect(), remarks.collect())
}

#[test]
fn a_sound_six_is_sealed_by_two_signatures_and_nothing_else() -> Outcome {
    let mut bench = measured(six()?, 1)?;
    bench.sign(SignerRole::Assembler)?;
    bench.hand_over(person("kell"), 30);
    bench.sign(SignerRole::Checker)?;
    assert_eq!(evaluate(bench.build()).sign_off.status, SealStatus::Sealed);
    Ok(())
}

#[test]
fn no_sound_engine_is_asked_for_anything() -> Outcome {
    for layout in [six()?, eight()?] {
        for engine in 1..=60 {
            let a = evaluate(measured(layout.clone(), engine)?.build());
            assert_eq!(said(&a), (Vec::new(), Vec::new()), "engine {engine} of {} mains", layout.mains);
            assert_eq!(a.sign_off.status, SealStatus::Ready);
        }
    }
    Ok(())
}
