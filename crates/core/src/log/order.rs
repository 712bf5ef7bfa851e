//! Work orders for an outside shop: what it is to make of each part.
use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::ends::Ends;
use super::work::Work;
use crate::engine::{Characteristic, Place, PlaceKind, Role, Scope, Tag};
use crate::units::{Flaw, LONGEST_TEXT, Length, Wrong, must, must_be_text, must_count, must_differ};

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
    /// Bore a cylinder and hone it to size.
    BoreCylinder,
    /// Hone a cylinder to size.
    HoneCylinder,
}

/// A cylinder with the plate on, as it is judged.
const CYLINDER: Role = Role::new("cylinder");

impl Job {
    /// Every one.
    pub const ALL: [Job; 6] =
        [Job::Grind, Job::Polish, Job::ResizeHousing, Job::BoreBearing, Job::BoreCylinder, Job::HoneCylinder];

    /// What the size that is made is of.
    pub const fn role(self) -> Role {
        match self {
            Job::Grind | Job::Polish => Role::JOURNAL,
            Job::ResizeHousing => Role::HOUSING,
            Job::BoreBearing => Role::BORE,
            Job::BoreCylinder | Job::HoneCylinder => CYLINDER,
        }
    }

    /// The work of this shop that it is: it leaves the same grit.
    pub const fn as_work(self, on: Place) -> Work {
        match self {
            Job::Grind => Work::JournalGround,
            Job::Polish => Work::JournalPolished,
            Job::BoreCylinder => Work::CylinderBored,
            Job::HoneCylinder => Work::CylinderHoned,
            Job::ResizeHousing | Job::BoreBearing if matches!(on.kind(), PlaceKind::Rod) => Work::RodResized,
            Job::ResizeHousing | Job::BoreBearing => Work::TunnelHoned,
        }
    }

    /// What it changes.
    pub const fn changes(self) -> &'static [Tag] {
        match self {
            Job::Grind => &[Tag::Journal, Tag::Cheeks],
            Job::Polish => &[Tag::Journal],
            Job::ResizeHousing => &[Tag::Cap],
            Job::BoreBearing => &[Tag::Shells],
            Job::BoreCylinder | Job::HoneCylinder => &[Tag::Bore],
        }
    }
}

/// One feature of an order.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OrderItem {
    /// A main, a pin, a rod or a cylinder.
    pub station: Place,
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
    /// Why, in the words of whoever decided it.
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
    /// Characteristic by feature.
    pub items: Vec<OrderItem>,
    /// Radius of the fillets to be kept; absent where no journal is ground.
    pub fillet: Option<Length>,
    /// Surface finish, as it is written on the paper.
    pub finish: String,
    /// What else the other shop has to know.
    pub note: String,
    /// What its sizes allow for beside the shape of the journals.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub clean_up: Vec<CleanUp>,
}

/// What comes off a journal before it is clean, beside its own shape.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CleanUp {
    /// The journal it is about.
    pub journal: Place,
    /// What a dial travels over a turn of it.
    pub runout: Length,
    /// How deep its damage goes on one side.
    pub damage: Length,
}

/// Most features of one order.
const MOST_ITEMS: usize = 64;

impl WorkOrder {
    /// Checks that it can be sent: named, with sizes above zero and a tolerance, each feature once.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        let texts = [("number", &self.number), ("shop", &self.shop), ("finish", &self.finish), ("note", &self.note)];
        texts.into_iter().try_for_each(|(part, text)| must_be_text(text, part, None, LONGEST_TEXT))?;
        must_count(self.items.len(), "items", 1, MOST_ITEMS)?;
        let size = |l: Length| l > Length::ZERO && l.in_limits();
        for (line, i) in self.items.iter().enumerate() {
            let flaw = |wrong| Flaw::at("items", line, wrong);
            let here = Characteristic::at(i.station, i.job.role()).is_some();
            must(here, flaw(Wrong::Elsewhere("that work is not done to this place")))?;
            must(i.from.is_none_or(size) && size(i.to), flaw(Wrong::Figure("a size above zero")))?;
            // Limits before sums: a figure from a file may be anything.
            let limits = [i.plus, i.minus].into_iter().all(|l| l >= Length::ZERO && l < i.to);
            let tolerated = limits && i.plus + i.minus > Length::ZERO && i.plus + i.minus < i.to;
            must(tolerated, flaw(Wrong::Figure("a tolerance above zero and below the size")))?;
            must_be_text(&i.why, "items", Some(line), LONGEST_TEXT)?;
        }
        let depth = |l: Length| l >= Length::ZERO && l.in_limits();
        for (line, c) in self.clean_up.iter().enumerate() {
            must(depth(c.runout) && depth(c.damage), Flaw::at("clean_up", line, Wrong::Figure("zero or more")))?;
        }
        must_differ(self.clean_up.iter().map(|c| c.journal), "clean_up")?;
        must_differ(self.items.iter().map(|i| (i.station, i.job.role())), "items")?;
        must(self.fillet.is_none_or(size), Flaw::of("fillet", Wrong::Figure("a radius above zero")))
    }

    /// What its return ends, feature by feature.
    pub fn ends(&self) -> Vec<Ends> {
        self.items.iter().map(|i| Ends { scope: Scope::One(i.station), tags: i.job.changes() }).collect()
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
                station: Place::pin(2),
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
            clean_up: Vec::new(),
        }
    }

    #[test]
    fn an_order_without_a_tolerance_or_with_a_feature_twice_is_refused() {
        assert_eq!(order().check(), Ok(()));
        let changed = |change: fn(&mut WorkOrder)| {
            let mut o = order();
            change(&mut o);
            o.check().is_ok()
        };
        assert!(!changed(|o| (o.items[0].plus, o.items[0].minus) = (Length::ZERO, Length::ZERO)));
        assert!(!changed(|o| o.items.push(OrderItem { job: Job::Polish, ..o.items[0].clone() })));
        assert!(!changed(|o| o.items[0].station = Place::rod(1)));
        // A figure from a file may be anything: limits are looked at before sums are made.
        assert!(!changed(|o| o.items[0].plus = Length::from_nm(i64::MAX)));
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
