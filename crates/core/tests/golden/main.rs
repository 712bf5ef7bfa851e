//! What an earlier version judged, this one judges the same.
//!
//! `tests/frozen` holds builds as they were exported by an earlier version, the demo shop's and 500 random
//! histories with every kind of fact, and what that version made of them: figures, uncertainties, states, findings,
//! blocks and the digests of seals. They must be read, verify and mean the same for ever. Where a change of the rules
//! is wanted, the file is written anew with `JAGGED_PIN_FREEZE=judged cargo test -p jagged-pin-core --test golden` and
//! the difference is read line by line.

#![allow(clippy::panic, reason = "a frozen file that cannot be read ends the test")]

#[path = "../histories/mod.rs"]
mod histories;
mod judged;
use std::collections::BTreeSet;
use std::fs;
use std::io::{Read, Write};
use std::path::{Path, PathBuf};

use flate2::Compression;
use flate2::read::GzDecoder;
use flate2::write::GzEncoder;
use histories::{deeds, history};
use jagged_pin_core::Build;
use jagged_pin_core::log::What;
use serde_json::Value;

/// Histories of each generation, and the seed of its first one. The second knows parts, tracks and pushes.
const GENERATIONS: [(&str, u64, u64); 2] = [("histories", 0, 500), ("histories-2", 10_000, 150)];

fn frozen(name: &str) -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/frozen").join(name)
}

fn unpack(name: &str) -> String {
    let file = fs::File::open(frozen(name)).unwrap_or_else(|e| panic!("{name}: {e}"));
    let mut text = String::new();
    GzDecoder::new(file).read_to_string(&mut text).unwrap_or_else(|e| panic!("{name}: {e}"));
    text
}

fn pack(name: &str, text: &str) {
    let file = fs::File::create(frozen(name)).unwrap_or_else(|e| panic!("{name}: {e}"));
    let mut packer = GzEncoder::new(file, Compression::best());
    packer.write_all(text.as_bytes()).unwrap_or_else(|e| panic!("{name}: {e}"));
}

/// The builds that were exported, in the order of their names.
fn exported() -> Vec<Build> {
    let mut files: Vec<PathBuf> =
        fs::read_dir(frozen("builds")).map(|d| d.flatten().map(|e| e.path()).collect()).unwrap_or_default();
    files.sort();
    let read = |path: &PathBuf| {
        let text = fs::read_to_string(path).unwrap_or_default();
        let file: Value = serde_json::from_str(&text).unwrap_or_default();
        assert_eq!(file["form"], "jagged-pin-build/1", "{}", path.display());
        serde_json::from_value(file["build"].clone()).unwrap_or_else(|e| panic!("{}: {e}", path.display()))
    };
    files.iter().map(read).collect()
}

fn random(generation: &str) -> Vec<Build> {
    let text = unpack(&format!("{generation}.jsonl.gz"));
    let read = |line: &str| serde_json::from_str(line).unwrap_or_else(|e| panic!("a frozen history: {e}"));
    text.lines().map(read).collect()
}

/// Writes what is frozen when that is asked for.
fn asked_for(what: &str) -> bool {
    std::env::var("JAGGED_PIN_FREEZE").is_ok_and(|asked| asked == what)
}

fn compare(name: &str, builds: &[Build]) {
    let now: String = builds.iter().map(judged::text).collect();
    if asked_for("judged") {
        pack(name, &now);
    }
    let then = unpack(name);
    let differs = then.lines().zip(now.lines()).enumerate().find(|(_, (then, now))| then != now);
    if let Some((line, (then, now))) = differs {
        let build = now_of(&now_lines(builds), line);
        panic!("{name}, line {}: {build}\n  then: {then}\n  now:  {now}", line + 1);
    }
    assert_eq!(then.lines().count(), now.lines().count(), "{name}: lines are missing or new");
}

fn now_lines(builds: &[Build]) -> Vec<(usize, String)> {
    let mut at = 0;
    let mut starts = Vec::new();
    for build in builds {
        starts.push((at, format!("build {} with {} facts", build.code, build.facts.len())));
        at += judged::text(build).lines().count();
    }
    starts
}

fn now_of(starts: &[(usize, String)], line: usize) -> String {
    starts.iter().rev().find(|(at, _)| *at <= line).map(|(_, name)| name.clone()).unwrap_or_default()
}

#[test]
fn what_was_exported_before_verifies_and_reads_back_as_it_was() {
    for (generation, first, count) in GENERATIONS.into_iter().filter(|(g, ..)| asked_for(g)) {
        let all = (first..first + count).filter_map(|seed| history(seed, &deeds(seed)));
        let lines: String = all.map(|b| serde_json::to_string(&b).unwrap_or_default() + "\n").collect();
        pack(&format!("{generation}.jsonl.gz"), &lines);
    }
    let builds = exported();
    assert_eq!(
        builds.iter().map(|b| b.code.as_str()).collect::<Vec<_>>(),
        ["SL-041", "SL-042", "SL-043", "SL-044", "SL-045", "SL-046"]
    );
    for build in &builds {
        assert_eq!(build.check(), Ok(()), "{}", build.code);
        let text = fs::read_to_string(frozen("builds").join(format!("{}.json", build.code))).unwrap_or_default();
        let file: Value = serde_json::from_str(&text).unwrap_or_default();
        assert_eq!(
            serde_json::to_value(build).unwrap_or_default(),
            file["build"],
            "{} is written as it was",
            build.code
        );
    }
}

#[test]
fn every_random_history_of_before_is_admitted_whole() {
    for (generation, _, count) in GENERATIONS {
        let text = unpack(&format!("{generation}.jsonl.gz"));
        let builds = random(generation);
        assert_eq!(builds.len() as u64, count);
        for (build, line) in builds.iter().zip(text.lines()) {
            assert_eq!(build.check(), Ok(()), "a history of {} facts", build.facts.len());
            assert_eq!(serde_json::to_string(build).unwrap_or_default(), line, "written as it was");
        }
    }
}

#[test]
fn the_histories_know_every_kind_of_fact_and_hold_seals() {
    let builds = random("histories");
    let kinds =
        |builds: &[Build]| -> BTreeSet<&str> { builds.iter().flat_map(|b| &b.facts).map(|f| f.what.kind()).collect() };
    let all = [
        "blind",
        "concession",
        "fitting",
        "look",
        "order",
        "order_moved",
        "plan",
        "reading",
        "rules",
        "session_closed",
        "session_opened",
        "set_up",
        "signature",
        "stamps",
        "strike",
        "target",
        "tray",
        "work",
    ];
    assert_eq!(kinds(&builds).into_iter().collect::<Vec<_>>(), all);
    let parts = random("histories-2");
    for kind in all.into_iter().chain(["part", "assigned", "condemned"]) {
        assert!(kinds(&parts).contains(kind), "{kind}");
    }
    let candidates = parts.iter().filter(|b| b.readings().any(|(_, r)| r.part.is_some()));
    assert!(candidates.count() >= 10);
    let sealed = |b: &&Build| b.facts.iter().filter(|f| matches!(f.what, What::Signature(_))).count() >= 2;
    assert!(builds.iter().filter(sealed).count() >= 20);
}

#[test]
fn the_demo_is_judged_as_before() {
    compare("builds.txt.gz", &exported());
}

#[test]
fn random_histories_are_judged_as_before() {
    for (generation, ..) in GENERATIONS {
        compare(&format!("{generation}.txt.gz"), &random(generation));
    }
}
