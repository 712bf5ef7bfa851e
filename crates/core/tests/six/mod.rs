//! The six-cylinder engine that several tests measure, as it is opened today.
use jagged_pin_core::record::Refusal;
use jagged_pin_workbench::{Bench, patterns, person};

/// A six that was just booked in.
pub fn opened(number: u128) -> Result<Bench, Refusal> {
    let known = patterns();
    let mut curlew = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]).clone();
    curlew.layout = curlew.layout.with_usual_plans();
    Bench::book_in(number, &format!("T-{number}"), &curlew, 0, person("oduya"))
}
