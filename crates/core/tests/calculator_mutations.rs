//! Every worked example with one value of it made strange: a calculator answers in whole or names the field, and nothing
//! makes it fall over.
use jagged_pin_core::calc::{answer, names};
use serde_json::{Value, json};

/// Paths of all values of a request, without the request itself.
fn paths(value: &Value, here: &str, all: &mut Vec<String>) {
    match value {
        Value::Object(fields) => fields.iter().for_each(|(name, v)| {
            let path = format!("{here}/{}", name.replace('~', "~0").replace('/', "~1"));
            all.push(path.clone());
            paths(v, &path, all);
        }),
        Value::Array(items) => items.iter().enumerate().for_each(|(i, v)| {
            let path = format!("{here}/{i}");
            all.push(path.clone());
            paths(v, &path, all);
        }),
        _ => {}
    }
}

#[test]
fn a_strange_value_is_answered_in_whole_or_refused_by_name() {
    let strange = [
        json!(null),
        json!(true),
        json!("x"),
        json!([]),
        json!({}),
        json!(0),
        json!(-1),
        json!(1e-12),
        json!(0.5),
        json!(7),
        json!(359.5),
        json!(3_900),
        json!(1e12),
        json!(1e300),
        json!(-1e300),
    ];
    let (mut answered, mut refused) = (0, 0);
    for name in names() {
        let path = format!("{}/tests/vectors/{name}.jsonl", env!("CARGO_MANIFEST_DIR"));
        let examples = std::fs::read_to_string(path).unwrap_or_default();
        for line in examples.lines() {
            let case: Value = serde_json::from_str(line).unwrap_or_default();
            let mut all = Vec::new();
            paths(&case["request"], "", &mut all);
            for path in all {
                for value in &strange {
                    let mut request = case["request"].clone();
                    if let Some(here) = request.pointer_mut(&path) {
                        *here = value.clone();
                    }
                    match answer(name, &request.to_string()) {
                        Ok(got) => {
                            answered += 1;
                            assert!(got.is_object() && got.get("error").is_none(), "{name} {request}: {got}");
                        }
                        Err(error) => {
                            refused += 1;
                            assert!(!error.message.is_empty(), "{name} {request}");
                        }
                    }
                }
            }
        }
    }
    assert!(answered > 1_000 && refused > 10_000, "{answered} answered, {refused} refused");
}

fn code(name: &str, request: Value) -> (String, String) {
    answer(name, &request.to_string())
        .map_or_else(|e| (e.code.name().to_owned(), e.path), |got| ("answered".to_owned(), got.to_string()))
}

#[test]
fn what_contradicts_itself_is_refused_where_it_stands() {
    let wrong = [
        ("side_clearance", json!({"method": "feeler", "goes": 0.01, "stops": 0.01}), "inconsistent", "stops"),
        (
            "fillet",
            json!({"radius": 0.1, "inset": 0, "chamfer_axial": 0, "chamfer_radial": 0.01}),
            "inconsistent",
            "chamfer_axial",
        ),
        (
            "crosshatch",
            json!({"bore": 3, "stroke": 4, "bore_length": 5, "angle": 45, "rpm": 90}),
            "inconsistent",
            "stroke",
        ),
        ("crosshatch", json!({"bore": 3, "stroke": 4, "angle": 180, "rpm": 90}), "out_of_range", "angle"),
        (
            "hone_passes",
            json!({"size": 3, "goal": 4, "log": [{"strokes": 1, "removed": 0.1}], "caution": 1.01}),
            "out_of_range",
            "caution",
        ),
        ("ring_gap", json!({"bore": 3, "factor": 0.004, "measured_in": 3.1}), "missing_field", "gap"),
        (
            "straightness",
            json!({"points": [{"id": "a", "at": 0, "z": 0, "size": 2}, {"id": "b", "at": 1, "z": 0}]}),
            "inconsistent",
            "points[1].size",
        ),
        (
            "flatness",
            json!({"points": [{"x": 0, "y": 0, "z": 0}, {"x": 1, "y": 1, "z": 0}, {"x": 2, "y": 2, "z": 0}, {"x": 3, "y": 3, "z": 1}]}),
            "inconsistent",
            "points",
        ),
        (
            "match_weights",
            json!({"parts": [{"id": "R1", "weights": {"big": 0}}]}),
            "not_positive",
            "parts[0].weights.big",
        ),
        (
            "match_weights",
            json!({"parts": [{"id": "R1", "weights": {"big": 4}}], "limits": {"small": 1}}),
            "unknown_id",
            "limits.small",
        ),
        (
            "balance",
            json!({"method": "direct", "planes": [{"id": "a", "grams": 1, "angle": 0, "radius": 2}]}),
            "inconsistent",
            "planes[0].fit_radius",
        ),
        (
            "balance",
            json!({"method": "direct", "planes": [{"id": "a", "grams": 1, "angle": 361}]}),
            "out_of_range",
            "planes[0].angle",
        ),
        (
            "runout",
            json!({"stations": [{"id": "a", "readings": [{"angle": 0, "value": 0}, {"angle": 360, "value": 0}, {"angle": 90, "value": 0}]}]}),
            "too_few",
            "stations[0].readings",
        ),
        (
            "compression",
            json!({"bore": 3, "stroke": 3, "gasket_bore": 3, "gasket_thickness": 0, "cylinders": [{"id": "1", "chamber": 10, "deck": 0, "piston": -10}]}),
            "out_of_range",
            "cylinders[0].chamber",
        ),
        (
            "gauge_study",
            json!({"readings": [{"part": "a", "person": "x", "values": [1, 1]}, {"part": "a", "person": "y", "values": [1, 1]}, {"part": "b", "person": "x", "values": [1, 1]}]}),
            "inconsistent",
            "readings",
        ),
        (
            "thrust_washers",
            json!({"end_play": 0.01, "largest": 0.009, "target": {"low": 0, "aim": 0, "high": 0}, "layout": "saddle", "fitted": {"front": 1, "rear": 1}, "objective": "closest"}),
            "inconsistent",
            "largest",
        ),
        (
            "end_play",
            json!({"positions": [{"angle": 400, "caps": "loose", "readings": [0.01]}]}),
            "out_of_range",
            "positions[0].angle",
        ),
    ];
    for (name, request, wanted, path) in wrong {
        assert_eq!(code(name, request), (wanted.to_owned(), path.to_owned()), "{name}");
    }
}

#[test]
fn a_lap_that_would_take_a_day_or_a_rod_to_nothing_is_refused() {
    let washers = json!({"end_play": 0.01, "target": {"low": 0.005, "aim": 0.006, "high": 0.008}, "layout": "saddle",
        "fitted": {"front": 0.09, "rear": 0.09}, "objective": "closest", "max_lap": {"front": 0.02}});
    assert_eq!(code("thrust_washers", washers), ("out_of_range".to_owned(), "max_lap.front".to_owned()));
    let rods = json!({"method": "widths", "pin_width": 1.0, "rods": [{"id": "R1", "width": 0.9}],
        "plan": {"aim": 1.0, "rough": 0.02, "finish": 0.004}});
    assert_eq!(code("side_clearance", rods), ("out_of_range".to_owned(), "plan.aim".to_owned()));
}
