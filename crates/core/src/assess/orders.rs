//! Work orders for an outside shop: what it is to make of each part, and whether it did.
//!
//! An order is written, sent, and comes back. When it comes back, everything it touched is stale and measured
//! again, against the order: a size is accepted when the smallest and the largest place measured lie within
//! `to - minus` and `to + plus`, guarded by the uncertainty of the gauge as the rules say.
use std::collections::BTreeSet;

use serde::Serialize;
use uuid::Uuid;

use crate::build::last_step;
use crate::engine::Role;
use crate::evidence::SizeAssessment;
use crate::figure::{FigureAssessment, Measured};
use crate::log::{Fact, OrderItem, OrderStep, What, WorkOrder};
use crate::maths::{Acceptance, State, Window, verdict};
use crate::units::{Length, Person, Timestamp};

/// One feature of an order against what was measured since it came back.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OrderItemStatus {
    /// The feature.
    pub item: OrderItem,
    /// Smallest size measured since.
    pub smallest: Option<Length>,
    /// Largest.
    pub largest: Option<Length>,
    /// In: accepted. Tight: too small. Loose: too large. Edge: the gauge cannot tell. Absent while it is away or
    /// not measured.
    pub state: Option<State>,
}

/// How far an order is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OrderStatus {
    /// Identifier of the order.
    pub id: Uuid,
    /// The order.
    pub order: WorkOrder,
    /// Who wrote it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
    /// Its last step; absent while it is only written.
    pub step: Option<OrderStep>,
    /// When that was.
    pub step_at: Option<Timestamp>,
    /// Characteristic by feature.
    pub items: Vec<OrderItemStatus>,
    /// Whether every feature came back as ordered.
    pub accepted: bool,
}

/// Every order of a build, the first first.
pub(super) fn order_statuses(
    notes: &[&Fact],
    stations: &[FigureAssessment],
    acceptance: Acceptance,
    doubt: impl Fn(&SizeAssessment, Role) -> Length,
) -> Vec<OrderStatus> {
    let standing = |f: &Fact, order: &WorkOrder| {
        let moved = notes.iter().rev().find(|n| matches!(&n.what, What::OrderMoved(m) if m.order == f.id));
        let step = last_step(notes, f.id);
        let item = |item: &OrderItem| {
            let back = step == Some(OrderStep::Returned);
            against(item, stations, acceptance, &doubt).filter(|_| back).unwrap_or_else(|| OrderItemStatus {
                item: item.clone(),
                smallest: None,
                largest: None,
                state: None,
            })
        };
        let items: Vec<OrderItemStatus> = order.items.iter().map(item).collect();
        OrderStatus {
            id: f.id,
            order: order.clone(),
            by: f.by.clone(),
            at: f.at,
            step,
            step_at: moved.map(|m| m.at),
            accepted: items.iter().all(|i| i.state == Some(State::In)),
            items,
        }
    };
    let order = |f: &&Fact| match &f.what {
        What::Order(order) => Some(standing(f, order)),
        _ => None,
    };
    notes.iter().filter_map(order).collect()
}

fn against(
    item: &OrderItem,
    stations: &[FigureAssessment],
    acceptance: Acceptance,
    doubt: &impl Fn(&SizeAssessment, Role) -> Length,
) -> Option<OrderItemStatus> {
    let role = item.job.role();
    let ours = |m: &&Measured| m.place == item.station && m.role == role;
    let there: Vec<&Measured> = stations.iter().flat_map(|f| f.measured.iter().filter(ours)).collect();
    // Each track of a shared pin is held against the order; one way of reading it is enough.
    let tracks: BTreeSet<Option<u8>> = there.iter().map(|m| m.track).collect();
    let whole = |track: &Option<u8>| there.iter().find(|m| m.track == *track && m.size.complete).copied();
    let whole = tracks.iter().map(whole).collect::<Option<Vec<&Measured>>>()?;
    let sizes = whole.iter().map(|m| m.size.size.as_ref()).collect::<Option<Vec<_>>>()?;
    let (smallest, largest) = (sizes.iter().map(|s| s.smallest).min()?, sizes.iter().map(|s| s.largest).max()?);
    let expanded = whole.iter().map(|m| doubt(&m.size, role)).max()?;
    let window = Window::between(item.to - item.minus, item.to + item.plus)?;
    let state = verdict(smallest, largest, expanded, window, acceptance).state;
    let (smallest, largest) = (Some(smallest), Some(largest));
    Some(OrderItemStatus { item: item.clone(), smallest, largest, state: Some(state) })
}
