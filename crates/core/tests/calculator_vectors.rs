//! Worked examples of the calculators: every line of `tests/vectors` answered and compared.

use jagged_pin_core::calc;
use serde_json::Value;

/// A number of the answer against the expected one: whole numbers and flags are equal, decimals within
/// the tolerance of their field.
fn same(field: &str, got: &Value, want: &Value, tolerance: &Value) -> Result<(), String> {
    let differs = || Err(format!("{field}: got {got}, expected {want}"));
    match (got, want) {
        (_, Value::Null) if got.is_null() => Ok(()),
        (Value::Number(g), Value::Number(w)) => {
            let within = tolerance.get(field).or(tolerance.get("*")).and_then(Value::as_f64).unwrap_or(0.0);
            let distance = g.as_f64().zip(w.as_f64()).map_or(f64::INFINITY, |(g, w)| (g - w).abs());
            if distance <= within { Ok(()) } else { differs() }
        }
        (Value::Object(g), Value::Object(w)) => {
            w.iter().try_for_each(|(name, want)| same(name, g.get(name).unwrap_or(&Value::Null), want, tolerance))
        }
        (Value::Array(g), Value::Array(w)) if g.len() == w.len() => {
            g.iter().zip(w).try_for_each(|(g, w)| same(field, g, w, tolerance))
        }
        _ if got == want => Ok(()),
        _ => differs(),
    }
}

fn check(case: &Value) -> Result<(), String> {
    let name = case["calc"].as_str().ok_or("no calculator named")?;
    let answer = calc::answer(name, &case["request"].to_string());
    match (answer, case["expect"].get("error")) {
        (Ok(got), None) => same("answer", &got, &case["expect"], &case["tol"]),
        (Err(error), Some(want)) => {
            let names = want["names"].as_str().unwrap_or_default();
            if !error.path.contains(names) && !error.message.contains(names) {
                return Err(format!("\"{names}\" is not named by {error:?}"));
            }
            match want["code"].as_str() {
                Some(code) if code != error.code.name() => {
                    Err(format!("got code {}, expected {code}", error.code.name()))
                }
                _ => Ok(()),
            }
        }
        (got, _) => Err(format!("got {got:?}, expected {}", case["expect"])),
    }
}

fn check_file(text: &str, least: usize) {
    let mut count = 0;
    for line in text.lines().filter(|l| !l.trim().is_empty()) {
        let case: Value = serde_json::from_str(line).unwrap_or_default();
        assert_eq!(
            check(&case).err(),
            None,
            "{}
{line}",
            case["why"]
        );
        count += 1;
    }
    assert!(count >= least, "only {count} examples were read");
}

#[test]
fn clearance_examples_are_answered() {
    check_file(include_str!("vectors/clearance.jsonl"), 4);
}

#[test]
fn compare_examples_are_answered() {
    check_file(include_str!("vectors/compare.jsonl"), 4);
}

#[test]
fn effective_examples_are_answered() {
    check_file(include_str!("vectors/effective.jsonl"), 4);
}

#[test]
fn parse_entry_examples_are_answered() {
    check_file(include_str!("vectors/parse_entry.jsonl"), 7);
}

#[test]
fn uncertainty_examples_are_answered() {
    check_file(include_str!("vectors/uncertainty.jsonl"), 4);
}

#[test]
fn identify_class_examples_are_answered() {
    check_file(include_str!("vectors/identify_class.jsonl"), 4);
}

#[test]
fn temperature_examples_are_answered() {
    check_file(include_str!("vectors/temperature.jsonl"), 5);
}

#[test]
fn verdict_examples_are_answered() {
    check_file(include_str!("vectors/verdict.jsonl"), 6);
}
