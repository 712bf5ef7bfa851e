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
            if let Some(says) = want["says"].as_str() {
                // Worked examples ask for a number by itself.
                let number = says.trim_start_matches("\\b").trim_end_matches("\\b");
                if !error.message.split(|c: char| !c.is_ascii_digit()).any(|word| word == number) {
                    return Err(format!("{number} is not said by {error:?}"));
                }
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
fn end_play_examples_are_answered() {
    check_file(include_str!("vectors/end_play.jsonl"), 4);
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

#[test]
fn grind_plan_examples_are_answered() {
    check_file(include_str!("vectors/grind_plan.jsonl"), 4);
}

/// What a choice claims, worked out again from its pairs: each station once, nothing used that is not there.
fn adds_up(request: &Value, answer: &Value) -> Result<(), String> {
    let number = |v: &Value| v.as_f64().unwrap_or(f64::NAN);
    let near = |a: f64, b: f64| (a - b).abs() < 1e-7;
    let by_id = |list: &str, id: &Value| {
        let items = request[list].as_array().into_iter().flatten();
        items.clone().find(|i| i["id"] == *id).cloned().unwrap_or_default()
    };
    let pairs = answer["pairs"].as_array().ok_or("no pairs")?;
    let rows = request["stations"].as_array().or(request["rows"].as_array()).ok_or("no stations")?;
    let named: Vec<&Value> = pairs.iter().map(|p| p.get("station").unwrap_or(&p["row"])).collect();
    if named != rows.iter().map(|s| &s["id"]).collect::<Vec<_>>() {
        return Err("the pairs are not those of the stations".into());
    }
    let (mut outside, mut worst, mut total) = (0, 0.0_f64, 0.0);
    for pair in pairs {
        let station = by_id("stations", &pair["station"]);
        let target = if station["target"].is_null() { &request["target"] } else { &station["target"] };
        let part = |list: &str, side: &str, what: &str| number(&by_id(list, &pair[side])[what]);
        let clearance = match request {
            r if r.get("classes").is_some() => {
                number(&station["clearance_std"])
                    + (part("classes", "upper", "shift") + part("classes", "lower", "shift")) / 2.0
            }
            r if r.get("uppers").is_some() => {
                number(&station["base"]) - part("uppers", "upper", "wall") - part("lowers", "lower", "wall")
            }
            _ => part("rows", "row", "size") - part("columns", "column", "size"),
        };
        let inside = clearance > number(&target["low"]) - 1e-9 && clearance < number(&target["high"]) + 1e-9;
        if !near(clearance, number(&pair["clearance"])) || pair["inside"] != inside {
            return Err(format!("{pair} has a clearance of {clearance}"));
        }
        let off = (clearance - number(&target["aim"])).abs();
        (outside, worst, total) = (outside + i64::from(!inside), worst.max(off), total + off);
    }
    let claims = [("worst_deviation", worst), ("total_deviation", total), ("outside", outside as f64)];
    match claims.iter().find(|(name, value)| !near(number(&answer[name]), *value)) {
        Some((name, value)) => Err(format!("{name} is {}, not {value}", answer[name])),
        None => Ok(()),
    }
}

fn check_choices(text: &str) {
    for line in text.lines().filter(|l| !l.trim().is_empty()) {
        let case: Value = serde_json::from_str(line).unwrap_or_default();
        let name = case["calc"].as_str().unwrap_or_default();
        if let Ok(answer) = calc::answer(name, &case["request"].to_string()) {
            assert_eq!(adds_up(&case["request"], &answer), Ok(()), "{line}");
        }
    }
}

#[test]
fn select_shells_examples_are_answered() {
    let examples = include_str!("vectors/select_shells.jsonl");
    check_file(examples, 5);
    check_choices(examples);
}

#[test]
fn select_measured_examples_are_answered() {
    let examples = include_str!("vectors/select_measured.jsonl");
    check_file(examples, 4);
    check_choices(examples);
}

#[test]
fn assign_examples_are_answered() {
    let examples = include_str!("vectors/assign.jsonl");
    check_file(examples, 4);
    check_choices(examples);
}
