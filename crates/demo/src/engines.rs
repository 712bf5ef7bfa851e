//! The invented engines, named after waders.

use jagged_pin_core::feature::Station;
use jagged_pin_core::layout::{Crank, Layout};
use jagged_pin_core::target::TargetRule;
use jagged_pin_core::{Length, Unit};

/// An engine the shop has built before: what a new build of it starts from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Pattern {
    /// Stable short name.
    pub id: &'static str,
    /// The engine in words.
    pub engine: &'static str,
    /// Working unit.
    pub unit: Unit,
    /// Its layout.
    pub layout: Layout,
    /// The usual target of its mains.
    pub target: TargetRule,
}

/// Crank dimensions in the order they are drawn, in tenths or in micrometres.
struct Sizes {
    main: i64,
    main_width: i64,
    pin: i64,
    pin_width: i64,
    web: i64,
    throw: i64,
    counterweight: i64,
}

fn layout(step: Length, s: &Sizes, thrust: u8, bays: &[&[i16]]) -> Option<Layout> {
    let size = |n: i64| Length::from_nm(n * step.nm());
    Some(Layout {
        mains: u8::try_from(bays.len() + 1).ok()?,
        thrust: Station::main(thrust)?,
        main_journal: size(s.main),
        crank: Crank {
            proportional: false,
            main_width: size(s.main_width),
            pin_diameter: size(s.pin),
            pin_width: size(s.pin_width),
            web: size(s.web),
            throw: size(s.throw),
            counterweight: size(s.counterweight),
            bays: bays.iter().map(|b| b.to_vec()).collect(),
        },
    })
}

fn range(step: Length, low: i64, aim: i64, high: i64) -> TargetRule {
    let size = |n: i64| Length::from_nm(n * step.nm());
    TargetRule::Range { low: size(low), aim: Some(size(aim)), high: size(high) }
}

/// The engines the shop knows.
pub fn patterns() -> Vec<Pattern> {
    let (tenth, micron) = (Length::tenths(1), Length::microns(1));
    let curlew = Sizes {
        main: 26_240,
        main_width: 10_200,
        pin: 21_240,
        pin_width: 10_600,
        web: 7_400,
        throw: 12_870,
        counterweight: 28_600,
    };
    let dunlin = Sizes {
        main: 60_000,
        main_width: 26_000,
        pin: 50_000,
        pin_width: 27_000,
        web: 17_000,
        throw: 38_500,
        counterweight: 66_000,
    };
    let whimbrel = Sizes {
        main: 27_500,
        main_width: 11_000,
        pin: 22_500,
        pin_width: 18_800,
        web: 8_200,
        throw: 15_300,
        counterweight: 31_500,
    };
    let known = [
        layout(tenth, &curlew, 4, &[&[0], &[120], &[240], &[240], &[120], &[0]])
            .map(|layout| ("curlew-24", "Curlew 2.4 inline-six", Unit::Inch, layout, range(tenth, 22, 25, 28))),
        layout(micron, &dunlin, 3, &[&[0], &[180], &[180], &[0]])
            .map(|layout| ("dunlin-16", "Dunlin 1.6 flat-four", Unit::Mm, layout, range(micron, 52, 61, 72))),
        layout(tenth, &whimbrel, 3, &[&[0], &[120], &[240]])
            .map(|layout| ("whimbrel-31", "Whimbrel 3.1 V6", Unit::Inch, layout, range(tenth, 24, 28, 32))),
    ];
    let pattern = |(id, engine, unit, layout, target)| Pattern { id, engine, unit, layout, target };
    known.into_iter().flatten().map(pattern).collect()
}
