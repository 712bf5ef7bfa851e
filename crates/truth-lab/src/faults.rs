//! Do methods disagree where nothing is wrong, and is the right thing suspected where something is?
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{Figure, Role};
use jagged_pin_core::figure::{Contribution, DoubtSource, FigureAssessment, Finding};

use crate::chance::Chance;
use crate::share::Share;
use crate::shop::{BALL_MIC, Fault, MIC, Shop, measure};

/// What was found in rows with one fault.
#[derive(Debug, Clone, Copy, Default)]
pub struct Disagreement {
    /// Pairs of methods of one bearing that disagree.
    pub pairs: Share,
    /// Engines in which any does.
    pub engines: Share,
    /// Of those: engines whose first suspect is the fault.
    pub right: Share,
    /// Engines in which the second and third main were said to be swapped.
    pub swapped: Share,
    /// Engines in which any other two were.
    pub others_swapped: Share,
}

/// Whether a suspect is what is wrong.
fn is_the(fault: Fault, suspect: &Contribution, bore: &str) -> bool {
    let gauge = |wanted: &str| suspect.gauge.as_deref().is_some_and(|name| name == wanted);
    match fault {
        Fault::Mic(_) => suspect.source == DoubtSource::Calibration && gauge(MIC.name),
        Fault::Ring(_) => suspect.source == DoubtSource::Calibration && gauge(bore),
        Fault::BallMic(_) => suspect.source == DoubtSource::Calibration && gauge(BALL_MIC.name),
        Fault::Zero(_) => suspect.source == DoubtSource::Zeroing,
        Fault::Dirt(_) => suspect.of == Role::BORE && suspect.source == DoubtSource::Seating,
        Fault::None | Fault::Journal(_) | Fault::SwappedBores => false,
    }
}

/// Measures `engines` in a shop by every method and looks at what disagrees.
pub fn disagreement(shop: &Shop, engines: u32, seed: u64) -> Disagreement {
    let mut chance = Chance::seeded(seed);
    let mut found = Disagreement::default();
    for _ in 0..engines {
        let Ok(engine) = measure(shop, &mut chance) else { continue };
        let assessed = evaluate(&engine.build);
        let mut first = None;
        let said = |f: &FigureAssessment| f.findings.iter().any(|x| matches!(x, Finding::Swapped { .. }));
        let (second_or_third, others): (Vec<_>, Vec<_>) =
            assessed.figures.iter().filter(|f| said(f)).partition(|f| matches!(f.station.number(), 2 | 3));
        found.swapped.count(second_or_third.len() == 2);
        found.others_swapped.count(!others.is_empty());
        for figure in assessed.figures.iter().filter(|f| f.figure == Figure::OIL_CLEARANCE) {
            for agreement in &figure.agreements {
                found.pairs.count(!agreement.agree);
                // One bearing alone is looked at where it is.
                let here = !matches!(shop.fault, Fault::Dirt(_)) || figure.station.number() == 3;
                if !agreement.agree && here {
                    first = first.or_else(|| agreement.suspects.first().map(|s| s.contribution.clone()));
                }
            }
        }
        found.engines.count(first.is_some());
        if let Some(first) = first {
            found.right.count(is_the(shop.fault, &first, shop.bore.name));
        }
    }
    found
}
