//! The people of the shop and its gauge room.
use jagged_pin_core::gauge::{Gauge, GaugeRange, GaugeType};
use jagged_pin_core::units::Person;
use jagged_pin_core::{Length, Unit};
use uuid::Uuid;

/// An account of the demo shop.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct DemoPerson {
    /// Who it is.
    pub person: Person,
    /// Name to sign in with.
    pub login: &'static str,
    /// Password; works with demo data only.
    pub password: &'static str,
    /// Name of the role.
    pub role: &'static str,
}

const PEOPLE: [(u128, &str, &str, &str, &str); 5] = [
    (1, "M. Harrow", "harrow", "slack-water-lead", "lead"),
    (2, "R. Oduya", "oduya", "first-of-the-flood", "assembler"),
    (3, "J. Wick", "wick", "mudflat-morning", "assembler"),
    (4, "T. Kell", "kell", "second-pair-of-eyes", "checker"),
    (5, "A. Fenn", "fenn", "learning-the-feel", "apprentice"),
];

/// Everybody in the shop.
pub fn people() -> Vec<DemoPerson> {
    let account = |(n, name, login, password, role): (u128, &str, _, _, _)| {
        let person = Person { id: Uuid::from_u128(0x5a17_0000_0000_4000_8000_0000_0000_0000 + n), name: name.into() };
        DemoPerson { person, login, password, role }
    };
    PEOPLE.into_iter().map(account).collect()
}

/// The person who signs in as `login`; the lead when there is no such account.
pub fn person(login: &str) -> Person {
    let known = people();
    let found = known.iter().find(|p| p.login == login).or(known.first());
    found.map_or_else(|| Person { id: Uuid::nil(), name: "Nobody".into() }, |p| p.person.clone())
}

/// What the shop allows one of its gauges.
struct Allowed {
    id: &'static str,
    name: &'static str,
    kind: GaugeType,
    /// Step, one standard deviation of repeats, expanded uncertainty of the calibration, in nanometres.
    figures: [i64; 3],
    /// Smallest and largest size, in tenths of a thou or in micrometres.
    range: [i64; 2],
    /// Calibrated and due.
    days: Option<[&'static str; 2]>,
}

/// The gauge room in `unit`: feel of a ratchet mic about a third of its step, and calibration to one
/// step. The caliper is past due.
pub fn gauges(unit: Unit) -> Vec<Gauge> {
    use GaugeType::{
        BallMic, BaseIndicator, Blades, BoreGauge, Caliper, DepthMic, HeightGauge, Indicator, OutsideMic, RadiusGauges,
        Strip,
    };
    let known = match unit {
        Unit::Inch => vec![
            Allowed {
                id: "mic-tenths",
                name: "Outside mic 2-3 in, tenths",
                kind: OutsideMic,
                figures: [2_540, 762, 2_540],
                range: [20_000, 30_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "caliper-half-thou",
                name: "Caliper, half thou",
                kind: Caliper,
                figures: [12_700, 10_160, 25_400],
                range: [0, 60_000],
                days: Some(["2025-10-31", "2026-10-31"]),
            },
            Allowed {
                id: "bore-tenths",
                name: "Bore gauge, tenths",
                kind: BoreGauge,
                figures: [2_540, 762, 2_540],
                range: [14_000, 60_000],
                days: Some(["2026-05-11", "2027-05-11"]),
            },
            Allowed {
                id: "bore-half-tenths",
                name: "Bore gauge, half tenths",
                kind: BoreGauge,
                figures: [1_270, 508, 2_540],
                range: [18_000, 32_000],
                days: Some(["2026-05-11", "2027-05-11"]),
            },
            Allowed {
                id: "ball-tenths",
                name: "Ball-anvil mic, tenths",
                kind: BallMic,
                figures: [2_540, 762, 2_540],
                range: [0, 10_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "strip-fine",
                name: "Strip, 1 to 3 thou",
                kind: Strip,
                figures: [12_700, 0, 0],
                range: [10, 30],
                days: None,
            },
            Allowed {
                id: "indicator-tenths",
                name: "Indicator in the bore head, tenths",
                kind: Indicator,
                figures: [2_540, 1_016, 2_540],
                range: [14_000, 60_000],
                days: Some(["2026-02-16", "2027-02-16"]),
            },
            Allowed {
                id: "indicator-base-tenths",
                name: "Indicator on a base, tenths",
                kind: BaseIndicator,
                figures: [2_540, 5_080, 2_540],
                range: [0, 1_000],
                days: Some(["2026-02-16", "2027-02-16"]),
            },
            Allowed {
                id: "blades-thou",
                name: "Blades, a thou apart",
                kind: Blades,
                figures: [25_400, 0, 5_080],
                range: [0, 400],
                days: None,
            },
            Allowed {
                id: "mic-two-tenths",
                name: "Outside mic 1-2 in, tenths",
                kind: OutsideMic,
                figures: [2_540, 762, 2_540],
                range: [10_000, 20_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "mic-inch-tenths",
                name: "Outside mic 0-1 in, tenths",
                kind: OutsideMic,
                figures: [2_540, 762, 2_540],
                range: [0, 10_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "mic-four-tenths",
                name: "Outside mic 3-4 in, tenths",
                kind: OutsideMic,
                figures: [2_540, 762, 2_540],
                range: [30_000, 40_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "bore-small-tenths",
                name: "Small bore gauge, 0.4-1.4 in, tenths",
                kind: BoreGauge,
                figures: [2_540, 762, 2_540],
                range: [4_000, 14_000],
                days: Some(["2026-05-11", "2027-05-11"]),
            },
            Allowed {
                id: "contour-half-thou",
                name: "Contour tracer, half a thou",
                kind: RadiusGauges,
                figures: [12_700, 2_540, 12_700],
                range: [150, 3_000],
                days: Some(["2026-04-20", "2027-04-20"]),
            },
            Allowed {
                id: "radius-gauges",
                name: "Radius gauges, five thou apart",
                kind: RadiusGauges,
                figures: [127_000, 12_700, 12_700],
                range: [150, 3_000],
                days: None,
            },
            Allowed {
                id: "depth-half-thou",
                name: "Depth mic and shadow scale, half a thou",
                kind: DepthMic,
                figures: [12_700, 5_080, 5_080],
                range: [0, 30_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "height-half-thou",
                name: "Height gauge 0-18 in, half a thou",
                kind: HeightGauge,
                figures: [12_700, 5_080, 10_160],
                range: [0, 180_000],
                days: Some(["2026-04-20", "2027-04-20"]),
            },
        ],
        Unit::Mm => vec![
            Allowed {
                id: "mic-microns",
                name: "Outside mic 50-75, 1 \u{b5}m",
                kind: OutsideMic,
                figures: [1_000, 800, 2_000],
                range: [45_000, 80_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "caliper-hundredths",
                name: "Caliper, 0.01 mm",
                kind: Caliper,
                figures: [10_000, 8_000, 20_000],
                range: [0, 150_000],
                days: Some(["2025-10-31", "2026-10-31"]),
            },
            Allowed {
                id: "bore-microns",
                name: "Bore gauge, 1 \u{b5}m",
                kind: BoreGauge,
                figures: [1_000, 1_000, 2_000],
                range: [45_000, 90_000],
                days: Some(["2026-05-11", "2027-05-11"]),
            },
            Allowed {
                id: "ball-microns",
                name: "Ball-anvil mic, 1 \u{b5}m",
                kind: BallMic,
                figures: [1_000, 800, 2_000],
                range: [0, 25_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "strip-hundredths",
                name: "Strip, 25 to 75 \u{b5}m",
                kind: Strip,
                figures: [10_000, 0, 0],
                range: [25, 75],
                days: None,
            },
            Allowed {
                id: "indicator-base-microns",
                name: "Indicator on a base, 1 \u{b5}m",
                kind: BaseIndicator,
                figures: [1_000, 4_000, 2_000],
                range: [0, 25_000],
                days: Some(["2026-02-16", "2027-02-16"]),
            },
            Allowed {
                id: "blades-hundredths",
                name: "Blades, 0.01 mm apart",
                kind: Blades,
                figures: [10_000, 0, 4_000],
                range: [0, 1_000],
                days: None,
            },
            Allowed {
                id: "mic-small-microns",
                name: "Outside mic 0-25, 1 \u{b5}m",
                kind: OutsideMic,
                figures: [1_000, 800, 2_000],
                range: [0, 25_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "radius-gauges-metric",
                name: "Radius gauges, 0.1 mm apart",
                kind: RadiusGauges,
                figures: [100_000, 10_000, 10_000],
                range: [500, 8_000],
                days: None,
            },
            Allowed {
                id: "depth-hundredths",
                name: "Depth mic and shadow scale, 0.01 mm",
                kind: DepthMic,
                figures: [10_000, 4_000, 4_000],
                range: [0, 75_000],
                days: Some(["2026-03-02", "2027-03-02"]),
            },
            Allowed {
                id: "height-hundredths",
                name: "Height gauge 0-450, 0.01 mm",
                kind: HeightGauge,
                figures: [10_000, 4_000, 10_000],
                range: [0, 450_000],
                days: Some(["2026-04-20", "2027-04-20"]),
            },
        ],
    };
    let step = match unit {
        Unit::Inch => Length::tenths(1),
        Unit::Mm => Length::microns(1),
    };
    known.into_iter().map(|a| gauge(&a, step)).collect()
}

fn gauge(a: &Allowed, step: Length) -> Gauge {
    let [resolution, repeatability, calibration] = a.figures.map(Length::from_nm);
    let [from, to] = a.range.map(|n| Length::from_nm(n * step.nm()));
    let day = |which: usize| a.days.and_then(|d| d[which].parse().ok());
    Gauge {
        id: a.id.into(),
        name: a.name.into(),
        serial: a.days.map(|_| serial(a.id)),
        measures: a.kind.measures(),
        resolution,
        repeatability,
        calibration,
        kind: Some(a.kind),
        range: Some(GaugeRange { from, to }),
        calibrated: day(0),
        due: day(1),
        between_people: None,
    }
}

/// The number on a gauge: invented from its name, so that it is the same on every day.
fn serial(id: &str) -> String {
    let sum = id.bytes().fold(7_u32, |sum, b| sum.wrapping_mul(31).wrapping_add(u32::from(b)));
    format!("SM-{:05}", sum % 100_000)
}
