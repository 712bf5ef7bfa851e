//! Which parts are at another shop: what is made of them cannot be measured before they are back.
use crate::build::{Build, Standing, last_step};
use crate::engine::{Characteristic, Figure, Place, Seat};
use crate::log::{Fact, OrderItem, OrderStep, What};

/// The seats of parts on orders that were sent and did not return.
pub(super) struct Away<'a> {
    seats: Vec<Seat>,
    standing: Option<Standing<'a>>,
}

impl<'a> Away<'a> {
    /// What is away of a build.
    pub fn of(build: &'a Build, notes: &[&'a Fact]) -> Self {
        let out = notes.iter().filter_map(|f| match &f.what {
            What::Order(order) if last_step(notes, f.id) == Some(OrderStep::Sent) => Some(&order.items),
            _ => None,
        });
        let seats: Vec<Seat> = out.flatten().filter_map(seat).collect();
        // Where every part stands takes time to find out, and nearly always nothing is away.
        let standing = (!seats.is_empty()).then(|| Standing::of(&build.layout, notes));
        Away { seats, standing }
    }

    /// Whether a part that a figure is made of is away.
    pub fn has(&self, figure: Figure, place: Place) -> bool {
        let under = self.standing.as_ref().map(|standing| standing.seats_under(figure, place));
        under.is_some_and(|seats| seats.iter().any(|seat| self.seats.contains(seat)))
    }
}

/// The seat of the part that goes to the shop for one line of an order.
fn seat(item: &OrderItem) -> Option<Seat> {
    let part = Characteristic::at(item.station, item.job.role())?.row().part;
    Some(Seat::of(part, item.station))
}
