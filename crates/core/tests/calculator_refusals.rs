//! What the calculators refuse, with which code, and which field they name.

use jagged_pin_core::calc::{answer, names};
use proptest::prelude::*;

fn refused(name: &str, request: &str) -> (String, String) {
    match answer(name, request) {
        Ok(got) => (format!("answered {got}"), String::new()),
        Err(e) => (e.code.name().to_owned(), e.path),
    }
}

fn assert_refused(name: &str, request: &str, code: &str, path: &str) {
    assert_eq!(refused(name, request), (code.to_owned(), path.to_owned()), "{name} {request}");
}

#[test]
fn a_request_that_is_no_object_is_refused_as_a_whole() {
    assert_refused("verdict", "", "bad_json", "");
    assert_refused("verdict", "{\"value\": 0.002,}", "bad_json", "");
    assert_refused("verdict", "[]", "wrong_type", "");
    assert_refused("scraper", "{}", "unknown_calculator", "");
}

#[test]
fn the_field_that_is_wrong_is_named() {
    let c = "clearance";
    assert_refused(c, r#"{"bore": 2, "journal": 1}"#, "missing_field", "method");
    assert_refused(c, r#"{"method": "guess"}"#, "not_allowed", "method");
    assert_refused(c, r#"{"unit": "cm", "method": "subtract", "bore": 2, "journal": 1}"#, "not_allowed", "unit");
    assert_refused(c, r#"{"method": "subtract", "bore": "2.0", "journal": 1}"#, "wrong_type", "bore");
    assert_refused(c, r#"{"method": "subtract", "bore": 0, "journal": 1}"#, "not_positive", "bore");
    assert_refused(c, r#"{"method": "subtract", "bore": 1e30, "journal": 1}"#, "out_of_range", "bore");
    assert_refused(c, r#"{"method": "subtract", "bore": 2, "journal": null}"#, "missing_field", "journal");
    assert_refused(c, r#"{"method": "subtract", "bore": 2, "journal": 1, "journal": 1}"#, "duplicate", "journal");
    assert_refused(
        c,
        r#"{"method": "direct", "reference": 2, "journal": 2, "dial": 0.002, "elapsed_fraction": 1.5}"#,
        "out_of_range",
        "elapsed_fraction",
    );
}

#[test]
fn a_verdict_needs_one_kind_of_value_and_limits_the_right_way_round() {
    let v = "verdict";
    assert_refused(v, r#"{"low": 0.001}"#, "missing_field", "value");
    assert_refused(v, r#"{"value": 0.002, "smallest": 0.001, "largest": 0.003, "low": 0}"#, "inconsistent", "value");
    assert_refused(v, r#"{"smallest": 0.003, "largest": 0.002, "low": 0}"#, "inconsistent", "smallest");
    assert_refused(v, r#"{"smallest": 0.001, "low": 0}"#, "missing_field", "largest");
    assert_refused(v, r#"{"value": 0.002, "low": 0.003, "high": 0.001}"#, "inconsistent", "low");
    assert_refused(v, r#"{"value": 0.002, "low": 0.001, "expanded": -0.0001}"#, "negative", "expanded");
}

#[test]
fn positions_are_read_with_their_path() {
    let with = |positions: &str| format!(r#"{{"kind": "bore", "rule": "worst", "positions": {positions}}}"#);
    let e = "effective";
    assert_refused(e, &with("[]"), "empty", "positions");
    assert_refused(e, &with(r#"[{"axial": "front", "angle": 0, "readings": []}]"#), "empty", "positions[0].readings");
    assert_refused(
        e,
        &with(r#"[{"axial": "front", "angle": 0, "readings": [2, -1]}]"#),
        "not_positive",
        "positions[0].readings[1]",
    );
    let twice =
        r#"[{"axial": "front", "angle": 0, "readings": [2]}, {"axial": "front", "angle": 0.0, "readings": [2]}]"#;
    assert_refused(e, &with(twice), "duplicate", "positions[1].angle");
    let unmeasured = r#"{"kind": "bore", "rule": "worst", "effective_angles": [45], "positions": [{"axial": "front", "angle": 0, "readings": [2]}]}"#;
    assert_refused(e, unmeasured, "inconsistent", "effective_angles");
}

#[test]
fn nothing_is_colder_than_absolute_zero_nor_longer_than_the_shop() {
    let t = "temperature";
    assert_refused(t, r#"{"size": 2, "temperature_c": -300, "alpha_per_k": 1e-5}"#, "out_of_range", "temperature_c");
    assert_refused(t, r#"{"size": 2, "temperature_c": 30, "alpha_per_k": -0.1}"#, "out_of_range", "alpha_per_k");
    assert_refused(t, r#"{"size": 3900, "temperature_c": -270, "alpha_per_k": 0.003}"#, "out_of_range", "size");
}

#[test]
fn contributions_have_names_of_their_own_and_count_from_one() {
    let u = "uncertainty";
    let part = |rest: &str| format!(r#"{{"parts": [{{"name": "a", "kind": "standard", "value": 1e-5{rest}}}]}}"#);
    assert_refused(u, r#"{"parts": []}"#, "empty", "parts");
    assert_refused(u, &part(r#", "count": 0"#), "not_positive", "parts[0].count");
    assert_refused(u, &part(r#", "count": 1.5"#), "wrong_type", "parts[0].count");
    assert_refused(u, &part(r#", "sensitivity": 1e300"#), "out_of_range", "parts[0].value");
    assert_refused(u, r#"{"parts": [{"name": "a", "kind": "standard", "value": -1}]}"#, "negative", "parts[0].value");
    let twice =
        r#"{"parts": [{"name": "a", "kind": "standard", "value": 0}, {"name": "a", "kind": "standard", "value": 0}]}"#;
    assert_refused(u, twice, "duplicate", "parts[1].name");
}

#[test]
fn classes_are_asked_for_once_each() {
    let ask = |measured: &str, undersizes: &str| {
        format!(r#"{{"measured": {measured}, "nominal": 2, "undersizes": {undersizes}, "belongs_within": 0.0025}}"#)
    };
    let i = "identify_class";
    let one = r#"[{"id": "M1", "size": 1.99}]"#;
    assert_refused(i, &ask(one, "[0, 0.0]"), "duplicate", "undersizes[1]");
    assert_refused(i, &ask(one, "[-0.01]"), "negative", "undersizes[0]");
    assert_refused(
        i,
        &ask(r#"[{"id": "M1", "size": 2}, {"id": "M1", "size": 2}]"#, "[0]"),
        "duplicate",
        "measured[1].id",
    );
}

#[test]
fn entry_codes_are_those_of_the_bench() {
    let entry = |rest: &str| refused("parse_entry", &format!("{{{rest}}}")).0;
    assert_eq!(entry(r#""text": "5", "cell": "size", "expected": 2.0"#), "ambiguous_tail");
    assert_eq!(entry(r#""text": "0.002", "cell": "dial""#), "ambiguous_unit");
    assert_eq!(entry(r#""text": "200", "cell": "dial""#), "out_of_band");
    assert_eq!(entry(r#""text": "two", "cell": "size""#), "not_a_number");
    assert_eq!(entry(r#""text": "38", "cell": "size", "force": true"#), "unknown_field");
}

proptest! {
    #[test]
    fn no_request_makes_a_calculator_panic(name in prop::sample::select(names().collect::<Vec<_>>()), text in ".{0,200}") {
        // Random text is hardly ever a request; what matters is that an answer of some sort comes back.
        let answered = answer(name, &text).is_ok();
        let object = text.trim_start().starts_with('{');
        prop_assert!(!answered || object);
    }

    #[test]
    fn an_answer_reads_back_to_the_same_nanometre(bore in 20_000i64..30_000, journal in 20_000i64..30_000, half: bool) {
        // Bore and journal in tenths, one of them perhaps on a half tenth.
        let bore = bore as f64 / 10_000.0 + if half { 0.00005 } else { 0.0 };
        let journal = journal as f64 / 10_000.0;
        let answered = answer("clearance", &format!(r#"{{"method": "subtract", "bore": {bore}, "journal": {journal}}}"#));
        let clearance = answered.ok().and_then(|a| a["clearance"].as_f64()).unwrap_or(f64::NAN);
        let nm = (clearance * 25.4e6).round();
        prop_assert_eq!(nm, ((bore - journal) * 25.4e6).round());
    }
}

#[test]
fn a_choice_of_shells_names_what_is_wrong_with_it() {
    let with = |more: &str| {
        let base = r#""target": {"low": 0.0017, "aim": 0.002, "high": 0.0024}, "max_step": 0.001,
            "stations": [{"id": "P1", "clearance_std": 0.002}], "classes": [{"id": "std", "shift": 0}]"#;
        format!("{{{base}, {more}}}")
    };
    let s = "select_shells";
    let closest = r#""objective": "closest""#;
    let refused =
        |more: &str, code: &str, path: &str| assert_refused(s, &with(&format!("{more}, {closest}")), code, path);
    refused(r#""stock": {"upper": {"+1": 2}}"#, "unknown_class", "stock.upper.+1");
    refused(r#""stock": {"upper": {"std": -1}}"#, "negative", "stock.upper.std");
    refused(r#""stock": {"upper": {"std": 1.5}}"#, "wrong_type", "stock.upper.std");
    refused(r#""stock": {"sideways": {}}"#, "unknown_field", "stock.sideways");
    refused(r#""interchangeable": true, "stock": {"lower": {"std": 1}}"#, "inconsistent", "stock.lower.std");
    refused(r#""interchangeable": 1, "stock": {}"#, "wrong_type", "interchangeable");
    refused(r#""stock": {}"#, "not_enough_shells", "stock");
    let price = |p: &str| format!(r#""stock": {{}}, "purchase": [{{"id": "a", "price": {p}}}]"#);
    refused(&price("-1"), "negative", "purchase[0].price");
    refused(&price("1.00005"), "out_of_range", "purchase[0].price");
    assert_refused(s, &with(r#""stock": {}, "objective": "nearest""#), "not_allowed", "objective");
    let error = answer(s, &with(&format!(r#""stock": {{}}, {closest}"#))).err().map(|e| e.to_json());
    assert_eq!(error.map(|e| e["error"]["missing"].clone()), Some(2.into()));
}

#[test]
fn targets_and_pairs_that_contradict_themselves_are_refused() {
    let assign = |target: &str, fixed: &str| {
        format!(
            r#"{{"target": {target}, "rows": [{{"id": "R1", "size": 2}}, {{"id": "R2", "size": 2}}],
            "columns": [{{"id": "P1", "size": 1}}, {{"id": "P2", "size": 1}}], "fixed": {fixed}}}"#
        )
    };
    let good = r#"{"low": 0.001, "aim": 0.002, "high": 0.003}"#;
    assert_refused(
        "assign",
        &assign(r#"{"low": 0.003, "aim": 0.002, "high": 0.004}"#, "[]"),
        "inconsistent",
        "target.low",
    );
    assert_refused("assign", &assign(r#"{"low": 0.001, "aim": 0.002}"#, "[]"), "missing_field", "target.high");
    assert_refused("assign", &assign(good, r#"[["R3", "P1"]]"#), "unknown_id", "fixed[0][0]");
    assert_refused("assign", &assign(good, r#"[["R1", "P1"], ["R2", "P1"]]"#), "duplicate", "fixed[1][1]");
    assert_refused("assign", &assign(good, r#"[["R1"]]"#), "wrong_type", "fixed[0]");
    assert_refused(
        "assign",
        r#"{"target": {"low": 0, "aim": 0, "high": 0}, "rows": [{"id": "R1", "size": 2}],
        "columns": [{"id": "P1", "size": 1}, {"id": "P2", "size": 1}]}"#,
        "inconsistent",
        "columns",
    );
    let twice = r#"{"target": {"low": 0, "aim": 0, "high": 0}, "uppers": [{"id": "a", "wall": 1}, {"id": "a", "wall": 1}],
        "lowers": [{"id": "b", "wall": 1}], "stations": [{"id": "P1", "base": 2}]}"#;
    assert_refused("select_measured", twice, "duplicate", "uppers[1].id");
}
