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

/// A fact as it stands in a record. The mark of a shop's key is made of a digest and so is not under it.
fn in_record(fact: &Fact, closing: bool) -> String {
    let mut value = json!(fact);
    if let (What::Signature(_), Some(what)) = (&fact.what, value["what"].as_object_mut()) {
        what.remove("mark");
        if closing {
            what.remove("digest");
        }
    }
    canonical_json(&value)
}

/// The record of a build as its facts come in, hashed as far as they came.
#[derive(Clone)]
pub(crate) struct RecordSoFar {
    hash: Sha256,
    facts: usize,
    previous: Option<String>,
}

impl RecordSoFar {
    /// The record of a build before its first fact.
    pub fn of(build: &Build) -> Self {
        let set_up = json!({ "id": build.id, "code": build.code, "engine": build.engine, "unit": build.unit,
            "layout": build.layout, "rules": build.rules, "gauges": build.gauges,
            "opened_at": build.opened_at, "opened_by": build.opened_by });
        // The keys of the record in their order: build, facts, form, previous.
        let mut hash = Sha256::new();
        hash.update(format!("{{\"build\":{},\"facts\":[", canonical_json(&set_up)));
        RecordSoFar { hash, facts: 0, previous: None }
    }

    /// Takes in the next fact.
    pub fn add(&mut self, fact: &Fact) {
        self.put(&in_record(fact, false));
        if let What::Signature(s) = &fact.what {
            self.previous = Some(s.digest.clone());
        }
    }

    fn put(&mut self, fact: &str) {
        if self.facts > 0 {
            self.hash.update(",");
        }
        self.hash.update(fact);
        self.facts += 1;
    }

    /// The digest that `signature` has as the next fact.
    pub fn digest_of(&self, signature: &Fact) -> String {
        let mut closed = self.clone();
        closed.put(&in_record(signature, true));
        let end = format!("],\"form\":{},\"previous\":{}}}", json!(FORM), json!(self.previous));
        closed.hash.update(end);
        hex(&closed.hash.finalize())
    }
}

/// Bytes in lower-case hex.
pub(crate) fn hex(bytes: &[u8]) -> String {
    bytes.iter().map(|byte| format!("{byte:02x}")).collect()
}

/// SHA-256, in lower-case hex, of the canonical record that `signature` stands under as the next fact
/// of `build`. The digest the signature may carry already is left out.
pub fn seal_digest(build: &Build, signature: &Fact) -> String {
    let mut so_far = RecordSoFar::of(build);
    build.facts.iter().for_each(|fact| so_far.add(fact));
    so_far.digest_of(signature)
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
