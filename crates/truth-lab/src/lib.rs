//! A laboratory of simulated shops with known truth: parts, hands, gauges, rooms and slips are made, the product measures
//! them as the bench would, and what it says is held against what is so. Seeds make every run the same.
//!
//! `cargo run --release -p jagged-pin-truth-lab` prints every scenario with its confidence interval; a short seeded run is
//! among the tests. It is not shipped.

pub mod chance;
pub mod coverage;
pub mod faults;
pub mod judgements;
pub mod parts;
pub mod predictions;
pub mod rounds;
pub mod rows;
pub mod share;
pub mod shop;
