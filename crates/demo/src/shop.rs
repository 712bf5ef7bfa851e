//! The people of the shop and its kinds of gauge.

use jagged_pin_core::fact::Person;
use jagged_pin_core::gauge::{GaugeKind, GaugeUse};
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

/// The shop's kinds of gauge in `unit`, with its default allowances: feel of a ratchet mic about a third
/// of its step, and calibration to one step.
pub fn gauges(unit: Unit) -> Vec<GaugeKind> {
    let kind = |id: &str, name: &str, measures, resolution, repeatability, calibration| GaugeKind {
        id: id.into(),
        name: name.into(),
        measures,
        resolution: Length::from_nm(resolution),
        repeatability: Length::from_nm(repeatability),
        calibration: Length::from_nm(calibration),
    };
    use GaugeUse::{Inside, Outside};
    match unit {
        Unit::Inch => vec![
            kind("mic-tenths", "Outside mic, tenths", Outside, 2_540, 762, 2_540),
            kind("caliper-half-thou", "Caliper, half thou", Outside, 12_700, 10_160, 25_400),
            kind("bore-tenths", "Bore gauge, tenths", Inside, 2_540, 762, 2_540),
            kind("bore-half-tenths", "Bore gauge, half tenths", Inside, 1_270, 508, 2_540),
        ],
        Unit::Mm => vec![
            kind("mic-microns", "Outside mic, 1 \u{b5}m", Outside, 1_000, 800, 2_000),
            kind("caliper-hundredths", "Caliper, 0.01 mm", Outside, 10_000, 8_000, 20_000),
            kind("bore-microns", "Bore gauge, 1 \u{b5}m", Inside, 1_000, 1_000, 2_000),
        ],
    }
}
