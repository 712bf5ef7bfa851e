//! Work orders for an outside shop: what it is to make of each part.

use serde::{Deserialize, Serialize};
use uuid::Uuid;

use crate::engine::{Layout, Part, Station};
use crate::units::{Length, check_text};

/// What an outside shop is to do.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Job {
    /// Grind a journal.
    Grind,
    /// Polish a journal to a size.
    Polish,
    /// Bring a housing to another size.
    ResizeHousing,
    /// Pour or make a bearing and bore it to fit its journal.
    BoreBearing,
}

impl Job {
    /// The part whose size is made.
    pub const fn part(self) -> Part {
        match self {
            Job::Grind | Job::Polish => Part::Journal,
            Job::ResizeHousing => Part::Housing,
            Job::BoreBearing => Part::Bore,
        }
    }

    /// The parts of a bearing whose evidence ends when it was done.
    pub const fn ends(self) -> &'static [Part] {
        match self {
            Job::Grind | Job::Polish => &[Part::Journal],
            Job::ResizeHousing => &[Part::Housing, Part::Bore, Part::Strip],
            Job::BoreBearing => &[Part::Bore, Part::UpperWall, Part::LowerWall, Part::Strip],
        }
    }
}

/// One feature of an order.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OrderItem {
    /// A main, a pin or a rod.
    pub station: Station,
    /// What is done to it.
    pub job: Job,
    /// Its size as measured; absent where there is none yet, as in a bearing to be poured.
    pub from: Option<Length>,
    /// The size wanted.
    pub to: Length,
    /// How much more it may be.
    pub plus: Length,
    /// How much less it may be.
    pub minus: Length,
    /// Why.
    pub why: String,
}

/// A work order.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WorkOrder {
    /// Number on the paper.
    pub number: String,
    /// Which shop, in this shop's words.
    pub shop: String,
    /// Feature by feature.
    pub items: Vec<OrderItem>,
    /// Radius of the fillets to be kept; absent where no journal is ground.
    pub fillet: Option<Length>,
    /// Surface finish, as it is written on the paper.
    pub finish: String,
    /// What else the other shop has to know.
    pub note: String,
}

/// Most features of one order.
const MOST_ITEMS: usize = 64;

impl WorkOrder {
    /// Whether it can be sent: named, with sizes above zero, each feature once.
    pub fn is_sound(&self) -> bool {
        let texts = [&self.number, &self.shop, &self.finish, &self.note];
        let size = |l: Length| l > Length::ZERO && l.in_limits();
        let item = |i: &OrderItem| {
            let here = match i.job {
                Job::Grind | Job::Polish => matches!(i.station, Station::Main(_) | Station::Pin(_)),
                Job::ResizeHousing | Job::BoreBearing => matches!(i.station, Station::Main(_) | Station::Rod(_)),
            };
            let tolerated = i.plus >= Length::ZERO && i.minus >= Length::ZERO && i.plus + i.minus > Length::ZERO;
            let sizes = i.from.is_none_or(size) && size(i.to) && i.plus + i.minus < i.to;
            here && tolerated && sizes && check_text(&i.why, "the reason").is_ok()
        };
        let same = |a: &OrderItem, b: &OrderItem| (a.station, a.job.part()) == (b.station, b.job.part());
        let once = (1..self.items.len()).all(|i| self.items[..i].iter().all(|a| !same(a, &self.items[i])));
        texts.iter().all(|t| check_text(t, "a text").is_ok())
            && (1..=MOST_ITEMS).contains(&self.items.len())
            && self.items.iter().all(item)
            && self.fillet.is_none_or(size)
            && once
    }

    /// Whether its return ends the evidence about that part of a station.
    pub fn ends(&self, layout: &Layout, station: Station, part: Part) -> bool {
        self.items.iter().any(|i| {
            let own = i.station == station && i.job.ends().contains(&part);
            let under_the_strip =
                part == Part::Strip && i.job.part() == Part::Journal && layout.journal_of(station) == i.station;
            own || under_the_strip
        })
    }
}

/// What happens to an order.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum OrderStep {
    /// The parts left.
    Sent,
    /// The parts came back.
    Returned,
    /// Nothing comes of it.
    Withdrawn,
}

/// An order was moved on.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OrderMoved {
    /// The order.
    pub order: Uuid,
    /// How.
    pub step: OrderStep,
    /// What was said or seen.
    pub note: String,
}

/// Whether a step may follow another.
pub const fn may_follow(before: Option<OrderStep>, next: OrderStep) -> bool {
    use OrderStep::{Returned, Sent, Withdrawn};
    matches!((before, next), (None, Sent | Withdrawn) | (Some(Sent), Returned))
}

#[cfg(test)]
mod tests {
    use super::*;

    fn order() -> WorkOrder {
        let t = Length::tenths;
        WorkOrder {
            number: "041-1".into(),
            shop: "the grinder".into(),
            items: vec![OrderItem {
                station: Station::Pin(2),
                job: Job::Grind,
                from: Some(t(21_236)),
                to: t(21_140),
                plus: t(2),
                minus: t(2),
                why: "scored".into(),
            }],
            fillet: Some(t(1_000)),
            finish: "0.2 um Ra".into(),
            note: "crack test first".into(),
        }
    }

    #[test]
    fn an_order_without_a_tolerance_or_with_a_feature_twice_is_refused() {
        assert!(order().is_sound());
        let changed = |change: fn(&mut WorkOrder)| {
            let mut o = order();
            change(&mut o);
            o.is_sound()
        };
        assert!(!changed(|o| (o.items[0].plus, o.items[0].minus) = (Length::ZERO, Length::ZERO)));
        assert!(!changed(|o| o.items.push(OrderItem { job: Job::Polish, ..o.items[0].clone() })));
        assert!(!changed(|o| o.items[0].station = Station::Rod(1)));
        assert!(!changed(|o| o.items.clear()));
        assert!(!changed(|o| o.shop.clear()));
    }

    #[test]
    fn what_was_not_sent_does_not_come_back() {
        use OrderStep::{Returned, Sent, Withdrawn};
        assert!(may_follow(None, Sent) && may_follow(Some(Sent), Returned) && may_follow(None, Withdrawn));
        assert!(!may_follow(None, Returned) && !may_follow(Some(Returned), Sent) && !may_follow(Some(Sent), Withdrawn));
        assert!(!may_follow(Some(Withdrawn), Sent));
    }
}
