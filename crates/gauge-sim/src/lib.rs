//! Bench gauges that talk, simulated on a TCP loopback port.
//!
//! A [`Hub`] holds [`SimGauge`]s. Each follows a script of true sizes and adds what a hand and a gauge add:
//! feel, drift, and now and then a damaged line. A bench connects, says `HELLO gauge` and gets a line for
//! every press of that gauge's button. The buttons are pressed through the same port: `PRESS gauge`, and
//! what else can happen to a cable: `UNPLUG`, `PLUG`, `REPEAT`, `SAY`. The lines are those of
//! [`jagged_pin_core::gauge_line`].

mod gauge;
mod hub;
mod part;

pub use gauge::{SimGauge, demo_gauges};
pub use hub::{Hub, press};
pub use part::put_on;
