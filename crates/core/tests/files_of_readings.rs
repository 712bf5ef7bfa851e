//! A file of readings means what its rows would mean typed one after the other.
use jagged_pin_core::Unit;
use jagged_pin_core::record::{TextRow, read_rows};
use jagged_pin_core::units::Timestamp;
use jagged_pin_workbench::{Bench, patterns, person};
use proptest::prelude::*;
use uuid::Uuid;

const FIRST: Uuid = Uuid::from_u128(5_000);

fn row(line: u64, (main, characteristic, angle, reading): (u8, &str, u16, String)) -> TextRow {
    let journal = characteristic == "main_journal";
    TextRow {
        line,
        station: format!("M{main}"),
        characteristic: characteristic.into(),
        axial: if line.is_multiple_of(2) { "front" } else { "rear" }.into(),
        angle: angle.to_string(),
        read: if journal { "" } else { "dial" }.into(),
        reference: "2.6240".into(),
        gauge: if journal { "mic-tenths" } else { "bore-tenths" }.into(),
        reading,
        ..TextRow::default()
    }
}

/// Texts of a hand that writes whole figures, tails and slips.
fn text() -> impl Strategy<Value = String> {
    prop_oneof![
        (20u32..60).prop_map(|t| format!("2.62{t}")),
        (0u32..100).prop_map(|t| format!("{t:02}")),
        (0u32..10).prop_map(|t| t.to_string()),
        Just("+23".to_owned()),
        Just("2.8".to_owned()),
        Just(String::new()),
        Just("many".to_owned()),
    ]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(60))]
    #[test]
    fn a_file_is_read_like_its_rows_typed_one_by_one(
        cells in prop::collection::vec((1u8..9, prop_oneof![3 => Just("main_journal"), 2 => Just("main_bearing")],
            prop_oneof![Just(0u16), Just(90)], text()), 1..40)
    ) {
        let pattern = patterns().into_iter().find(|p| p.id == "curlew-24");
        let bench = pattern.map(|p| Bench::book_in(1, "FILE", &p, 0, person("wick")));
        let Some(Ok(bench)) = bench else { return Err(TestCaseError::fail("no engine")) };
        let (build, by) = (bench.build(), person("wick"));
        let rows: Vec<TextRow> = cells.into_iter().zip(2..).map(|(cell, line)| row(line, cell)).collect();
        let whole = read_rows(build, &by, &rows, Unit::Inch, FIRST, Timestamp(5));
        let mut typed = build.clone();
        let mut one_by_one = Vec::new();
        for row in &rows {
            let id = Uuid::from_u128(FIRST.as_u128() + (typed.facts.len() - build.facts.len()) as u128);
            let read = read_rows(&typed, &by, std::slice::from_ref(row), Unit::Inch, id, Timestamp(5));
            typed.facts.extend(read.iter().filter_map(|r| r.read.as_ref().ok()).map(|(fact, _)| fact.clone()));
            one_by_one.extend(read);
        }
        prop_assert_eq!(whole, one_by_one);
    }
}
