//! Builds to test with: those of an earlier version, as they were exported (`tests/frozen`). A story that the demo tells
//! anew changes nothing here.

#![allow(dead_code, reason = "each test binary uses a part of it")]

use std::sync::OnceLock;

use jagged_pin_core::Build;
use serde_json::Value;

const FILES: [&str; 5] = [
    include_str!("../frozen/builds/SL-041.json"),
    include_str!("../frozen/builds/SL-042.json"),
    include_str!("../frozen/builds/SL-043.json"),
    include_str!("../frozen/builds/SL-044.json"),
    include_str!("../frozen/builds/SL-046.json"),
];

/// All of them, by short name.
pub fn builds() -> &'static [Build] {
    static READ: OnceLock<Vec<Build>> = OnceLock::new();
    READ.get_or_init(|| {
        let read = |text: &&str| {
            let file: Value = serde_json::from_str(text).ok()?;
            serde_json::from_value(file["build"].clone()).ok()
        };
        FILES.iter().filter_map(read).collect()
    })
}

/// One of them.
pub fn build(code: &str) -> Option<&'static Build> {
    builds().iter().find(|b| b.code == code)
}
