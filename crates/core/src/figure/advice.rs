//! What would shrink an uncertainty most: the same budget made again with one thing better.

use serde::Serialize;

use super::uncertainty::{Basis, MeasuredBy, Wall};
use crate::engine::Part;
use crate::gauge::Gauge;
use crate::log::NOTED_DOUBT_MK;
use crate::units::Length;

/// A way to a smaller uncertainty.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Improvement {
    /// Set the bore gauge in the mic that was locked on the journal.
    TransferMethod,
    /// Touch every place three times.
    ThreeTouches,
    /// Let parts and gauges soak, or note their temperatures.
    SoakOrNote,
    /// Measure the walls instead of believing the catalogue.
    MeasureWalls {
        /// With what.
        gauge: String,
    },
    /// Use a finer gauge.
    FinerGauge {
        /// On which part.
        of: Part,
        /// Which.
        gauge: String,
    },
}

/// A way to a smaller uncertainty, and what it would come to.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Advice {
    /// What to do.
    pub better: Improvement,
    /// The expanded uncertainty it would leave.
    pub expanded: Length,
}

/// The temperature part of a budget, `size x alpha x u(dT)`: what a kelvin makes, and how doubtful a
/// temperature stands behind it.
///
/// ```
/// use jagged_pin_core::Length;
/// use jagged_pin_core::figure::Warmth;
/// use jagged_pin_core::maths::Material;
///
/// // A main of 2.6240 in an iron block, half a kelvin of doubt: 390 nm, a sixth of a tenth.
/// let per_kelvin = Length::tenths(26_240).as_f64() * Material::Steel.alpha();
/// assert_eq!(Warmth { per_kelvin, doubt_mk: 500 }.standard().round(), 390.0);
/// ```
#[derive(Debug, Clone, Copy)]
pub struct Warmth {
    /// Standard uncertainty per kelvin of doubt, in nanometres.
    pub per_kelvin: f64,
    /// Doubt in thousandths of a kelvin.
    pub doubt_mk: u32,
}

impl Warmth {
    /// Standard uncertainty in nanometres.
    pub fn standard(self) -> f64 {
        self.per_kelvin * f64::from(self.doubt_mk) / 1_000.0
    }
}

fn three(t: MeasuredBy<'_>) -> MeasuredBy<'_> {
    MeasuredBy { touches: t.touches.max(3), ..t }
}

fn three_touches<'a>(basis: &Basis<'a>) -> Option<Basis<'a>> {
    let wall = |w| match w {
        Wall::Measured(t) => Wall::Measured(three(t)),
        book => book,
    };
    Some(match *basis {
        Basis::Direct { journal, bore } => Basis::Direct { journal: three(journal), bore: three(bore) },
        Basis::Subtract { journal, bore } => Basis::Subtract { journal: three(journal), bore: three(bore) },
        Basis::Components { journal, housing, upper, lower } => Basis::Components {
            journal: three(journal),
            housing: three(housing),
            upper: wall(upper),
            lower: wall(lower),
        },
        Basis::Strip { .. } => return None,
    })
}

fn transferred<'a>(basis: &Basis<'a>) -> Option<Basis<'a>> {
    match *basis {
        Basis::Subtract { journal, bore } | Basis::Components { journal, housing: bore, .. } => {
            Some(Basis::Direct { journal, bore })
        }
        _ => None,
    }
}

fn with_gauge<'a>(basis: &Basis<'a>, of: Part, gauge: &'a Gauge) -> Option<Basis<'a>> {
    if !gauge.measures.fits(of) {
        return None;
    }
    let swap = |t: MeasuredBy<'a>| MeasuredBy { gauge, ..t };
    match (*basis, of) {
        (Basis::Direct { journal, bore }, Part::Bore) => Some(Basis::Direct { journal, bore: swap(bore) }),
        (Basis::Subtract { journal, bore }, Part::Bore) => Some(Basis::Subtract { journal, bore: swap(bore) }),
        (Basis::Direct { journal, bore }, Part::Journal) => Some(Basis::Direct { journal: swap(journal), bore }),
        (Basis::Subtract { journal, bore }, Part::Journal) => Some(Basis::Subtract { journal: swap(journal), bore }),
        _ => None,
    }
}

fn with_walls<'a>(basis: &Basis<'a>, gauge: &'a Gauge) -> Option<Basis<'a>> {
    let measured = Wall::Measured(MeasuredBy { gauge, touches: 2 });
    match *basis {
        Basis::Components { journal, housing, upper, lower }
            if gauge.measures.fits(Part::UpperWall)
                && matches!((upper, lower), (Wall::Catalogue(_), _) | (_, Wall::Catalogue(_))) =>
        {
            Some(Basis::Components { journal, housing, upper: measured, lower: measured })
        }
        _ => None,
    }
}

/// Ways that help, the best first.
pub fn advise(basis: &Basis<'_>, warmth: Warmth, gauges: &[Gauge]) -> Vec<Advice> {
    let warm = warmth.standard();
    let now = basis.expanded(warm);
    // Under a hundredth less is not worth a walk to the gauge room.
    let worth_it = |expanded: &Length| expanded.nm() * 100 < now.nm() * 99;
    let mut advice: Vec<Advice> = Vec::new();
    let mut way = |better: &dyn Fn() -> Improvement, basis: Option<Basis<'_>>, warm: f64| {
        let expanded = basis.map(|m| m.expanded(warm)).filter(worth_it);
        advice.extend(expanded.map(|expanded| Advice { better: better(), expanded }));
    };
    way(&|| Improvement::TransferMethod, transferred(basis), warm);
    way(&|| Improvement::ThreeTouches, three_touches(basis), warm);
    let noted = Warmth { doubt_mk: warmth.doubt_mk.min(NOTED_DOUBT_MK), ..warmth };
    way(&|| Improvement::SoakOrNote, Some(*basis), noted.standard());
    for gauge in gauges {
        let name = || gauge.name.clone();
        way(&|| Improvement::MeasureWalls { gauge: name() }, with_walls(basis, gauge), warm);
        for of in [Part::Journal, Part::Bore] {
            way(&|| Improvement::FinerGauge { of, gauge: name() }, with_gauge(basis, of, gauge), warm);
        }
    }
    advice.sort_by_key(|a| a.expanded);
    advice
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::gauge::GaugeUse;

    fn gauge(id: &str, measures: GaugeUse, resolution: i64) -> Gauge {
        Gauge {
            id: id.into(),
            name: id.into(),
            measures,
            resolution: Length::from_nm(resolution),
            repeatability: Length::from_nm(762),
            calibration: Length::tenths(1),
            kind: None,
            range: None,
            calibrated: None,
            due: None,
        }
    }

    #[test]
    fn two_sizes_apart_are_best_helped_by_carrying_one_across() {
        let (mic, bore) = (gauge("mic", GaugeUse::Outside, 2_540), gauge("bore", GaugeUse::Inside, 2_540));
        let finer = gauge("half tenths", GaugeUse::Inside, 1_270);
        let touched = |gauge| MeasuredBy { gauge, touches: 1 };
        let basis = Basis::Subtract { journal: touched(&mic), bore: touched(&bore) };
        let warmth = Warmth { per_kelvin: 780.0, doubt_mk: 500 };
        let found = advise(&basis, warmth, &[mic.clone(), bore.clone(), finer]);
        assert_eq!(found.first().map(|a| &a.better), Some(&Improvement::TransferMethod));
        assert!(found.iter().any(|a| a.better == Improvement::ThreeTouches));
        assert!(found.windows(2).all(|w| w[0].expanded <= w[1].expanded));
        // The gauge in hand is no better than itself.
        let named = |name: &str| {
            found.iter().any(|a| matches!(&a.better, Improvement::FinerGauge { gauge, .. } if gauge == name))
        };
        assert!(named("half tenths") && !named("bore"));
    }

    #[test]
    fn walls_by_the_book_are_best_measured() {
        let (mic, bore) = (gauge("mic", GaugeUse::Outside, 2_540), gauge("bore", GaugeUse::Inside, 2_540));
        let ball = gauge("ball mic", GaugeUse::Wall, 2_540);
        let touched = |gauge| MeasuredBy { gauge, touches: 2 };
        let by_book = Wall::Catalogue(Length::tenths(10));
        let basis =
            Basis::Components { journal: touched(&mic), housing: touched(&bore), upper: by_book, lower: by_book };
        let found = advise(&basis, Warmth { per_kelvin: 0.0, doubt_mk: 500 }, std::slice::from_ref(&ball));
        assert!(found.iter().any(|a| a.better == Improvement::MeasureWalls { gauge: "ball mic".into() }));
        assert!(found.iter().all(|a| a.better != Improvement::SoakOrNote));
    }
}
