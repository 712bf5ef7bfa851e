//! The invented engines, named after waders.
use jagged_pin_core::engine::{Cam, Crank, Cylinders, Layout, Nominals, Place, Rods, usual_undersizes};
use jagged_pin_core::maths::{Material, TargetRule};
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
    /// The usual target of its rods.
    pub rod_target: TargetRule,
}

/// Dimensions of an engine, in tenths or in micrometres.
struct Sizes {
    main: i64,
    main_width: i64,
    pin: i64,
    pin_width: i64,
    web: i64,
    throw: i64,
    counterweight: i64,
    /// Housing, its tolerance, wall, its tolerance: of the mains.
    mains: [i64; 4],
    /// The same of the rods.
    rods: [i64; 4],
    per_pin: u8,
}

/// A step of the unit an engine is drawn in.
const fn step(unit: Unit) -> i64 {
    match unit {
        Unit::Inch => Length::tenths(1).nm(),
        Unit::Mm => Length::microns(1).nm(),
    }
}

fn layout(unit: Unit, s: &Sizes, thrust: u8, bays: &[&[i16]]) -> Option<Layout> {
    let size = |n: i64| Length::from_nm(n * step(unit));
    let nominals = |[housing, housing_tolerance, wall, wall_tolerance]: [i64; 4]| Nominals {
        housing: size(housing),
        housing_tolerance: size(housing_tolerance),
        wall: size(wall),
        wall_tolerance: size(wall_tolerance),
        undersizes: usual_undersizes(unit),
    };
    let crank = Crank {
        proportional: false,
        throws_said: false,
        main_width: size(s.main_width),
        pin_diameter: size(s.pin),
        pin_width: size(s.pin_width),
        web: size(s.web),
        throw: size(s.throw),
        counterweight: size(s.counterweight),
        bays: bays.iter().map(|b| b.to_vec()).collect(),
    };
    let mains = u8::try_from(bays.len() + 1).ok()?;
    Some(Layout {
        main_nominals: Some(nominals(s.mains)),
        rods: Some(Rods {
            per_pin: s.per_pin,
            pin: size(s.pin),
            tracks: s.per_pin > 1,
            material: Material::Steel,
            nominals: Some(nominals(s.rods)),
        }),
        ..Layout::of_mains(mains, Place::main(thrust), size(s.main), crank)
    })
}

fn range(unit: Unit, [low, aim, high]: [i64; 3]) -> TargetRule {
    let size = |n: i64| Length::from_nm(n * step(unit));
    TargetRule::Range { low: size(low), aim: Some(size(aim)), high: size(high) }
}

/// The engines the shop knows.
pub fn patterns() -> Vec<Pattern> {
    let known = [curlew(), dunlin(), whimbrel(), turnstone(), sanderling()];
    known.into_iter().flatten().collect()
}

fn curlew() -> Option<Pattern> {
    let sizes = Sizes {
        main: 26_240,
        main_width: 10_200,
        pin: 21_240,
        pin_width: 10_600,
        web: 7_400,
        throw: 12_870,
        counterweight: 28_600,
        mains: [28_150, 5, 943, 3],
        rods: [22_490, 5, 613, 3],
        per_pin: 1,
    };
    Some(Pattern {
        id: "curlew-24",
        engine: "Curlew 2.4 inline-six",
        unit: Unit::Inch,
        layout: Layout {
            // Journals step down towards the rear; the second one drawn eight tenths under what this shop was sold.
            cam: Some(Cam {
                journals: [19_863, 19_760, 19_664, 19_161].map(Length::tenths).to_vec(),
                hardened: Length::tenths(10),
            }),
            cylinders: Some(Cylinders::of(Length::tenths(34_750))),
            ..layout(Unit::Inch, &sizes, 4, &[&[0], &[120], &[240], &[240], &[120], &[0]])?
        },
        target: range(Unit::Inch, [22, 25, 28]),
        rod_target: range(Unit::Inch, [20, 23, 26]),
    })
}

/// An aluminium case: its targets are stated hot, less what the mains open.
fn dunlin() -> Option<Pattern> {
    let sizes = Sizes {
        main: 60_000,
        main_width: 26_000,
        pin: 50_000,
        pin_width: 27_000,
        web: 17_000,
        throw: 38_500,
        counterweight: 66_000,
        mains: [64_060, 12, 2_002, 8],
        rods: [53_055, 12, 1_502, 8],
        per_pin: 1,
    };
    let um = Length::microns;
    let layout = layout(Unit::Mm, &sizes, 3, &[&[0], &[180], &[180], &[0]])?;
    Some(Pattern {
        id: "dunlin-16",
        engine: "Dunlin 1.6 flat-four",
        unit: Unit::Mm,
        layout: Layout { block: Material::Aluminium, ..layout },
        target: TargetRule::Hot { low: um(70), aim: Some(um(79)), high: um(90), growth: um(18) },
        rod_target: range(Unit::Mm, [46, 53, 62]),
    })
}

fn whimbrel() -> Option<Pattern> {
    let sizes = Sizes {
        main: 27_500,
        main_width: 11_000,
        pin: 22_500,
        pin_width: 18_800,
        web: 8_200,
        throw: 15_300,
        counterweight: 31_500,
        mains: [29_440, 5, 955, 3],
        rods: [23_762, 5, 618, 3],
        per_pin: 2,
    };
    Some(Pattern {
        id: "whimbrel-31",
        engine: "Whimbrel 3.1 V6",
        unit: Unit::Inch,
        layout: Layout {
            cylinders: Some(Cylinders::of(Length::tenths(36_220))),
            ..layout(Unit::Inch, &sizes, 3, &[&[0], &[120], &[240]])?
        },
        target: range(Unit::Inch, [24, 28, 32]),
        rod_target: range(Unit::Inch, [22, 25, 28]),
    })
}

/// An engine of 1928: bearings poured into the block and the rods, so there are no shells to choose.
fn turnstone() -> Option<Pattern> {
    let sizes = Sizes {
        main: 22_500,
        main_width: 15_000,
        pin: 21_250,
        pin_width: 14_000,
        web: 6_500,
        throw: 19_000,
        counterweight: 22_000,
        mains: [0; 4],
        rods: [0; 4],
        per_pin: 1,
    };
    let made = layout(Unit::Inch, &sizes, 2, &[&[0, 180], &[180, 0]])?;
    let rods = made.rods.map(|r| Rods { nominals: None, ..r });
    Some(Pattern {
        id: "turnstone-28",
        engine: "Turnstone four of 1928",
        unit: Unit::Inch,
        layout: Layout { main_nominals: None, rods, ..made },
        target: range(Unit::Inch, [18, 22, 27]),
        rod_target: range(Unit::Inch, [16, 20, 25]),
    })
}

/// A two-stroke twin on rollers: each half of its crank is pressed together, with a gear between them.
fn sanderling() -> Option<Pattern> {
    let sizes = Sizes {
        main: 25_000,
        main_width: 15_000,
        pin: 22_000,
        pin_width: 18_000,
        web: 14_000,
        throw: 27_250,
        counterweight: 44_000,
        mains: [0; 4],
        rods: [0; 4],
        per_pin: 1,
    };
    let made = layout(Unit::Mm, &sizes, 2, &[&[0], &[], &[180]])?;
    let rods = made.rods.map(|r| Rods { nominals: None, ..r });
    Some(Pattern {
        id: "sanderling-02",
        engine: "Sanderling two-stroke twin",
        unit: Unit::Mm,
        layout: Layout {
            main_nominals: None,
            rods,
            rollers: true,
            block: Material::Aluminium,
            cylinders: Some(Cylinders::of(Length::microns(54_000))),
            ..made
        },
        target: range(Unit::Mm, [20, 25, 30]),
        rod_target: range(Unit::Mm, [20, 25, 30]),
    })
}
