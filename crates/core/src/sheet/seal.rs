//! Seals: a digest over everything a signature stands under, that anybody can compute again.
//!
//! The sealed record is the build's set-up, every fact up to and with the signature (without the
//! digest that is being made), and the digest of the signature before it, so that seals form a chain.
//! It is written as canonical JSON: keys sorted, no white space, whole numbers only (RFC 8785 for this
//! subset), and hashed with SHA-256.
//!
//! Derived figures are not part of it: they follow from the evidence and the rules, which are.
use std::collections::BTreeMap;

use serde_json::{Value, json};
use sha2::{Digest, Sha256};

use crate::build::Build;
use crate::log::{Fact, What};

/// Version of the sealed record's form.
const FORM: &str = "jagged-pin-seal/1";

/// Canonical JSON of a value without floating-point numbers.
pub fn canonical_json(value: &Value) -> String {
    sorted(value).to_string()
}

/// The same value with every object's keys in order, however its map was filled.
fn sorted(value: &Value) -> Value {
    match value {
        Value::Object(map) => {
            let ordered: BTreeMap<&String, Value> = map.iter().map(|(k, v)| (k, sorted(v))).collect();
            ordered.into_iter().map(|(k, v)| (k.clone(), v)).collect()
        }
        Value::Array(items) => items.iter().map(sorted).collect(),
        plain => plain.clone(),
    }
}

/// The record that `signature` (the next fact of `build`) stands under.
fn record(build: &Build, signature: &Fact) -> Value {
    let mut closing = json!(signature);
    if let Some(what) = closing["what"].as_object_mut() {
        what.remove("digest");
    }
    let mut facts: Vec<Value> = build.facts.iter().map(|f| json!(f)).collect();
    facts.push(closing);
    let previous = build.facts.iter().rev().find_map(|f| match &f.what {
        What::Signature(s) => Some(s.digest.as_str()),
        _ => None,
    });
    json!({
        "form": FORM,
        "previous": previous,
        "build": json!({ "id": build.id, "code": build.code, "engine": build.engine, "unit": build.unit,
            "layout": build.layout, "rules": build.rules, "gauges": build.gauges,
            "opened_at": build.opened_at, "opened_by": build.opened_by }),
        "facts": facts,
    })
}

/// SHA-256, in lower-case hex, of the canonical record that `signature` stands under as the next fact
/// of `build`. The digest the signature may carry already is left out.
pub fn seal_digest(build: &Build, signature: &Fact) -> String {
    let hash = Sha256::digest(canonical_json(&record(build, signature)).as_bytes());
    hash.iter().map(|byte| format!("{byte:02x}")).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn canonical_json_sorts_keys_and_wastes_no_space() {
        let value: Value = json!({ "b": [1, null, "\u{e9}\n"], "a": { "d": true, "c": -2 } });
        assert_eq!(canonical_json(&value), "{\"a\":{\"c\":-2,\"d\":true},\"b\":[1,null,\"\u{e9}\\n\"]}");
    }
}
