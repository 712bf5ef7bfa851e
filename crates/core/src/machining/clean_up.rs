//! What has to come off a journal beside its own shape: how far it runs out, and how deep its damage goes.
//!
//! Both are taken from what is known, the first of these that there is: what is typed for a plan; how the main was turned,
//! or the deepest mark that a look at the journal says; what was allowed for in an order that is still open. So a plan
//! that is asked again tells the same size, whoever asks.
use serde::Serialize;

use crate::assess::Assessment;
use crate::build::{Build, last_step};
use crate::engine::{Figure, Place};
use crate::evidence::Inspections;
use crate::log::{CleanUp, InspectedPart, OrderStep, Sign, What};
use crate::units::Length;

/// Where an allowance comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum AllowedFrom {
    /// Typed for this plan.
    Typed,
    /// Measured, or seen with its depth.
    Found,
    /// Allowed for in an order that is still open.
    Ordered,
    /// Nobody said anything: none.
    Nothing,
}

/// How much, and where that comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Allowed {
    /// How much.
    pub by: Length,
    /// Where that comes from.
    pub from: AllowedFrom,
}

impl Allowed {
    fn first(of: [(Option<Length>, AllowedFrom); 3]) -> Self {
        let known = of.into_iter().find_map(|(by, from)| by.map(|by| Allowed { by, from }));
        known.unwrap_or(Allowed { by: Length::ZERO, from: AllowedFrom::Nothing })
    }
}

const FINEST: [u16; 1] = [1_600];
/// By hand: each grit is twice as fine as the one before.
const FROM_A_FELT_LINE: [u16; 3] = [400, 800, 1_600];

/// What is known of the journals of a build beside their sizes.
pub(super) struct KnownDamage<'a> {
    assessed: &'a Assessment,
    looks: Inspections<'a>,
    /// The depths that looks at journals say.
    seen: Vec<(Place, Length)>,
    ordered: Vec<CleanUp>,
}

impl<'a> KnownDamage<'a> {
    pub fn of(build: &'a Build, assessed: &'a Assessment) -> Self {
        let looks = Inspections::of_build(build);
        let of_journals = looks.all().into_iter().filter(|(.., look)| look.part == InspectedPart::Journal);
        let depths = of_journals.flat_map(|(at, _, look)| look.marks.iter().filter_map(move |m| Some((at, m.depth?))));
        let notes = build.notes();
        let open = |id| !matches!(last_step(&notes, id), Some(OrderStep::Returned | OrderStep::Withdrawn));
        let ordered = notes.iter().rev().filter_map(|f| match &f.what {
            What::Order(order) if open(f.id) => Some(order.clean_up.clone()),
            _ => None,
        });
        let (seen, ordered) = (depths.collect(), ordered.flatten().collect());
        KnownDamage { assessed, seen, ordered, looks }
    }

    /// Grits that a polish of a journal goes through, coarse to fine, by what a look at it says; a paste follows. What only
    /// stains needs the finest alone; a line that is felt, or a journal that nobody looked at, begins where lines go away.
    pub fn ladder(&self, journal: Place) -> &'static [u16] {
        let clean = self.looks.shows(journal, InspectedPart::Journal, &[Sign::Smooth, Sign::OilStain]);
        let felt = self.looks.shows(journal, InspectedPart::Journal, &[Sign::Felt, Sign::Groove, Sign::Ridge]);
        if clean && !felt { &FINEST } else { &FROM_A_FELT_LINE }
    }

    fn ordered(&self, journal: Place) -> Option<&CleanUp> {
        self.ordered.iter().find(|c| c.journal == journal)
    }

    /// Depth of damage on one side of a journal.
    pub fn damage(&self, typed: &[(Place, Length)], journal: Place) -> Allowed {
        let typed = typed.iter().find(|(at, _)| *at == journal).map(|(_, depth)| *depth);
        let seen = self.seen.iter().filter(|(at, _)| *at == journal).map(|(_, depth)| *depth).max();
        let ordered = self.ordered(journal).map(|c| c.damage);
        Allowed::first([(typed, AllowedFrom::Typed), (seen, AllowedFrom::Found), (ordered, AllowedFrom::Ordered)])
    }

    /// What a dial travels over a turn of a journal for its bend.
    pub fn runout(&self, typed: Option<Length>, journal: Place) -> Allowed {
        let turned = self.assessed.figure(Figure::MAIN_RUNOUT, journal).and_then(|f| f.judged.as_ref());
        let found = turned.map(|j| j.clearance.max(Length::ZERO));
        let ordered = self.ordered(journal).map(|c| c.runout);
        let from = [(typed, AllowedFrom::Typed), (found, AllowedFrom::Found), (ordered, AllowedFrom::Ordered)];
        Allowed::first(from)
    }
}
