//! How caps are torqued in this shop.
use jagged_pin_core::engine::BearingRow;
use jagged_pin_core::log::{FastenerKind, SetUp, TorqueStep};

/// A set-up of which everything is said that a row needs: studs or bolts of one set, moly paste, drawn down square, in those
/// steps.
pub fn torqued(row: BearingRow, fasteners: &str, steps: Vec<TorqueStep>) -> SetUp {
    SetUp {
        row,
        fastener: if row == BearingRow::Mains { FastenerKind::Studs } else { FastenerKind::Bolts },
        fasteners: fasteners.into(),
        as_finished: true,
        lubricant: "moly paste".into(),
        steps,
        drawn_square: true,
        washers_chamfer_up: true,
        washers: None,
        lubricated: None,
        groups: Vec::new(),
        caps: Vec::new(),
        shells: Vec::new(),
    }
}
