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
            // A direction a hair below a whole turn is one a hair above none.
            let turn = if field == "long_axis" { 180.0 } else { 360.0 };
            let turns = field.ends_with("_angle") || field == "long_axis";
            let distance = if turns { distance.min((turn - distance).abs()) } else { distance };
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

/// The worked examples of one calculator.
fn examples(name: &str) -> String {
    let path = format!("{}/tests/vectors/{name}.jsonl", env!("CARGO_MANIFEST_DIR"));
    std::fs::read_to_string(&path).unwrap_or_default()
}

#[test]
fn every_calculator_answers_its_examples() {
    for name in calc::names() {
        let mut count = 0;
        for line in examples(name).lines().filter(|l| !l.trim().is_empty()) {
            let case: Value = serde_json::from_str(line).unwrap_or_default();
            assert_eq!(case["calc"], name, "an example of another calculator: {line}");
            assert_eq!(check(&case).err(), None, "{}\n{line}", case["why"]);
            count += 1;
        }
        assert!(count >= 3, "{name}: only {count} examples were read");
    }
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
fn what_a_choice_claims_adds_up() {
    for name in ["select_shells", "select_measured", "assign"] {
        check_choices(&examples(name));
    }
}
