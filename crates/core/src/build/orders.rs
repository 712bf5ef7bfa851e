//! How far the orders of a build are.
use uuid::Uuid;

use crate::log::{Fact, OrderStep, What, WorkOrder};

/// The order of that identifier among a build's notes.
pub fn order_of<'a>(notes: &[&'a Fact], id: Uuid) -> Option<&'a WorkOrder> {
    notes.iter().find_map(|f| match &f.what {
        What::Order(order) if f.id == id => Some(order),
        _ => None,
    })
}

/// The last step of an order; absent while it is only written.
pub fn last_step(notes: &[&Fact], id: Uuid) -> Option<OrderStep> {
    notes.iter().rev().find_map(|f| match &f.what {
        What::OrderMoved(m) if m.order == id => Some(m.step),
        _ => None,
    })
}
