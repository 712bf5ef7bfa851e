//! Gauges: what each can measure and how well, and the line it sends.

mod instrument;
mod wire;

pub use instrument::{Gauge, GaugeFit, GaugeRange, GaugeType, gauge_fit, steps_in_tenths};
pub use wire::{LONGEST_LINE, LineError, SentFigure, read_line};
