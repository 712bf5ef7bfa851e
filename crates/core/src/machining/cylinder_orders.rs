//! The lines of a work order for the honer, and for whoever bores: each cylinder with the piston it is made for.
use super::bores::{BoresPlan, CylinderPlan};
use super::boring::BoringPlan;
use crate::log::{Job, OrderItem};
use crate::units::{Length, Unit};

/// Every cylinder that a honer is to take something off, from its smallest place to the size its piston wants. Empty where
/// there is none.
pub fn hone_items(plan: &BoresPlan, unit: Unit) -> Vec<OrderItem> {
    let item = |c: &CylinderPlan| {
        let ([small, _], to, piston) = (c.bore?, c.finished.filter(|_| c.hone)?, c.piston?);
        Some(OrderItem {
            station: c.at,
            job: Job::HoneCylinder,
            from: Some(small),
            to,
            plus: plan.tolerance,
            minus: plan.tolerance,
            why: format!("piston {} plus {}; mark it with its piston", piston.show(unit), (to - piston).show(unit)),
        })
    };
    plan.cylinders.iter().filter_map(item).collect()
}

/// Every cylinder to the oversize that was proven smallest, held to `tolerance`. Empty where none serves.
pub fn bore_items(plan: &BoringPlan, tolerance: Length, unit: Unit) -> Vec<OrderItem> {
    let Some(found) = plan.options.iter().find(|o| Some(o.oversize) == plan.chosen) else { return Vec::new() };
    let why = format!(
        "{} over, which {} decides: bar to {}, then the stones, plate on",
        found.oversize.show(unit),
        plan.decided_by.map_or_else(|| "the worst".to_owned(), |at| at.to_string()),
        found.bar.show(unit)
    );
    let item = |at| OrderItem {
        station: at,
        job: Job::BoreCylinder,
        from: None,
        to: found.finished,
        plus: tolerance,
        minus: tolerance,
        why: why.clone(),
    };
    plan.cylinders.iter().map(|c| item(c.at)).collect()
}
