//! The house is kept in order: a room of the core imports only rooms below it, the search knows no engines, and no two
//! files of a crate import each other in a circle.

use std::collections::{BTreeMap, BTreeSet};
use std::fs;
use std::path::{Path, PathBuf};

/// The rooms of the core, from the ground up (docs/architecture.md).
const ROOMS: [&str; 15] = [
    "units",
    "maths",
    "engine",
    "gauge",
    "shells",
    "log",
    "build",
    "evidence",
    "figure",
    "subjects",
    "sheet",
    "assess",
    "record",
    "machining",
    "choose",
];

fn sources(krate: &str) -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("..").join(krate).join("src")
}

/// Every Rust file below a folder, by its module path, with its code: no comments, no inline tests.
fn files(folder: &Path) -> BTreeMap<Vec<String>, String> {
    let mut found = BTreeMap::new();
    let mut folders = vec![(folder.to_path_buf(), Vec::new())];
    while let Some((folder, path)) = folders.pop() {
        for entry in fs::read_dir(&folder).into_iter().flatten().flatten() {
            let name = entry.file_name().to_string_lossy().into_owned();
            let mut module = path.clone();
            if entry.path().is_dir() {
                module.push(name);
                folders.push((entry.path(), module));
            } else if let Some(name) = name.strip_suffix(".rs") {
                if !matches!(name, "mod" | "lib" | "main") {
                    module.push(name.to_owned());
                }
                let text = fs::read_to_string(entry.path()).unwrap_or_default();
                let code = text.split("\n#[cfg(test)]").next().unwrap_or_default();
                let lines = code.lines().filter(|l| !l.trim_start().starts_with("//"));
                found.insert(module, lines.collect::<Vec<_>>().join("\n"));
            }
        }
    }
    found
}

/// Words of an `a::b::{c, d::e}` path, one list for each leaf.
fn leaves(path: &str, before: &[String], found: &mut Vec<Vec<String>>) {
    let path = path.trim();
    if let Some((head, rest)) = path.split_once('{').filter(|(head, _)| !head.contains(',')) {
        let mut before = before.to_vec();
        before.extend(head.split("::").map(str::trim).filter(|w| !w.is_empty()).map(str::to_owned));
        let (mut depth, mut leaf) = (0, String::new());
        for c in rest.trim_end_matches('}').chars().chain([',']) {
            match c {
                '{' => depth += 1,
                '}' => depth -= 1,
                _ => {}
            }
            if c == ',' && depth == 0 {
                leaves(&leaf, &before, found);
                leaf.clear();
            } else {
                leaf.push(c);
            }
        }
    } else if !path.is_empty() {
        let words = path.split("::").map(|w| w.split(" as ").next().unwrap_or_default().trim().to_owned());
        found.push(before.iter().cloned().chain(words).collect());
    }
}

/// What a file imports or names, as absolute module paths of its crate.
fn imports(module: &[String], is_folder: bool, code: &str) -> Vec<Vec<String>> {
    let mut all = Vec::new();
    for (at, _) in code.match_indices("crate::").chain(code.match_indices("super::")) {
        let rest = &code[at..];
        let path = if rest.find('{').is_some_and(|b| !rest[..b].contains([';', '\n', '(', ' ', ','])) {
            rest.split(';').next().unwrap_or_default()
        } else {
            rest.split(|c: char| !(c.is_alphanumeric() || c == '_' || c == ':')).next().unwrap_or_default()
        };
        leaves(path, &[], &mut all);
    }
    let parent = |up: usize| {
        let depth = if is_folder { module.len() } else { module.len().saturating_sub(1) };
        module[..depth.saturating_sub(up)].to_vec()
    };
    let absolute = |path: Vec<String>| {
        let ups = path.iter().take_while(|w| *w == "super").count();
        let base = if ups == 0 { Vec::new() } else { parent(ups - usize::from(!is_folder)) };
        base.into_iter().chain(path.into_iter().skip(ups.max(1))).collect()
    };
    all.into_iter().map(absolute).collect()
}

#[test]
fn a_room_of_the_core_imports_only_rooms_below_it() {
    let files = files(&sources("core"));
    let order = |room: &str| ROOMS.iter().position(|r| *r == room);
    let rooms: BTreeSet<&str> = files.keys().filter_map(|m| m.first()).map(String::as_str).collect();
    let expected: BTreeSet<&str> = ROOMS.into_iter().chain(["calc"]).collect();
    assert_eq!(rooms, expected, "every folder of the core is a room with its place in the order");
    let mut wrong = Vec::new();
    for (module, code) in &files {
        let Some(room) = module.first() else { continue };
        for import in imports(module, module.len() == 1, code) {
            let Some(other) = import.first().filter(|o| *o != room) else { continue };
            let below = match (order(room), order(other)) {
                // The calculators expose formulas and nothing else.
                (None, there) => {
                    matches!(there, Some(0 | 1)) || order(other).is_none() && !rooms.contains(other.as_str())
                }
                (Some(here), Some(there)) => there < here,
                (Some(_), None) => !rooms.contains(other.as_str()),
            };
            if !below {
                wrong.push(format!("{} imports {}", module.join("/"), import.join("::")));
            }
        }
    }
    assert!(wrong.is_empty(), "{wrong:#?}");
    assert!(files.len() > 60, "the core was read");
}

#[test]
fn the_search_knows_no_engines() {
    let manifest = fs::read_to_string(sources("search").join("../Cargo.toml")).unwrap_or_default();
    let dependencies = manifest.split("[dependencies]").nth(1).unwrap_or_default();
    let own = dependencies.split("\n[").next().unwrap_or_default();
    assert!(own.contains("thiserror") && !own.contains("jagged-pin"), "{own}");
}

/// The file that a path of a crate leads to: the longest beginning that is one.
fn file_of<'a>(files: &'a BTreeMap<Vec<String>, String>, path: &[String]) -> Option<&'a Vec<String>> {
    (1..=path.len()).rev().find_map(|n| files.get_key_value(&path[..n]).map(|(k, _)| k))
}

fn circles(krate: &str) -> Vec<String> {
    let files = files(&sources(krate));
    let is_folder = |m: &[String]| files.keys().any(|k| k.len() > m.len() && k.starts_with(m));
    let edges: BTreeMap<&Vec<String>, BTreeSet<&Vec<String>>> = files
        .iter()
        .map(|(module, code)| {
            let to = imports(module, is_folder(module), code);
            let to = to.iter().filter_map(|path| file_of(&files, path)).filter(|other| *other != module);
            (module, to.collect())
        })
        .collect();
    let reaches = |from: &Vec<String>| {
        let (mut seen, mut next) = (BTreeSet::new(), vec![from]);
        while let Some(file) = next.pop() {
            for other in edges.get(file).into_iter().flatten() {
                if *other == from {
                    return true;
                }
                if seen.insert(*other) {
                    next.push(other);
                }
            }
        }
        false
    };
    files.keys().filter(|m| !m.is_empty() && reaches(m)).map(|m| m.join("/")).collect()
}

#[test]
fn no_files_import_each_other_in_a_circle() {
    for krate in ["core", "search", "store", "server", "demo", "workbench", "gauge-sim", "mariadb"] {
        assert_eq!(circles(krate), Vec::<String>::new(), "in {krate}");
    }
}
