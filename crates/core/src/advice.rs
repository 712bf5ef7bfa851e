//! What would shrink an uncertainty most: the same budget made again with one thing better.

use serde::Serialize;

use crate::Length;
use crate::feature::Part;
use crate::gauge::Gauge;
use crate::rules::NOTED_DOUBT_MK;
use crate::uncertainty::{Means, Touched, Wall};

/// A way to a smaller uncertainty.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Better {
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
    pub better: Better,
    /// The expanded uncertainty it would leave.
    pub expanded: Length,
}

/// The temperature part of a budget, `size x alpha x u(dT)`: what a kelvin makes, and how doubtful a
/// temperature stands behind it.
///
/// ```
/// use jagged_pin_core::Length;
/// use jagged_pin_core::advice::Warmth;
/// use jagged_pin_core::temperature::Material;
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

fn three(t: Touched<'_>) -> Touched<'_> {
    Touched { touches: t.touches.max(3), ..t }
}

fn three_touches<'a>(means: &Means<'a>) -> Option<Means<'a>> {
    let wall = |w| match w {
        Wall::Measured(t) => Wall::Measured(three(t)),
        book => book,
    };
    Some(match *means {
        Means::Direct { journal, bore } => Means::Direct { journal: three(journal), bore: three(bore) },
        Means::Subtract { journal, bore } => Means::Subtract { journal: three(journal), bore: three(bore) },
        Means::Components { journal, housing, upper, lower } => Means::Components {
            journal: three(journal),
            housing: three(housing),
            upper: wall(upper),
            lower: wall(lower),
        },
        Means::Strip { .. } => return None,
    })
}

fn transferred<'a>(means: &Means<'a>) -> Option<Means<'a>> {
    match *means {
        Means::Subtract { journal, bore } | Means::Components { journal, housing: bore, .. } => {
            Some(Means::Direct { journal, bore })
        }
        _ => None,
    }
}

fn with_gauge<'a>(means: &Means<'a>, of: Part, gauge: &'a Gauge) -> Option<Means<'a>> {
    if !gauge.measures.fits(of) {
        return None;
    }
    let swap = |t: Touched<'a>| Touched { gauge, ..t };
    match (*means, of) {
        (Means::Direct { journal, bore }, Part::Bore) => Some(Means::Direct { journal, bore: swap(bore) }),
        (Means::Subtract { journal, bore }, Part::Bore) => Some(Means::Subtract { journal, bore: swap(bore) }),
        (Means::Direct { journal, bore }, Part::Journal) => Some(Means::Direct { journal: swap(journal), bore }),
        (Means::Subtract { journal, bore }, Part::Journal) => Some(Means::Subtract { journal: swap(journal), bore }),
        _ => None,
    }
}

fn with_walls<'a>(means: &Means<'a>, gauge: &'a Gauge) -> Option<Means<'a>> {
    let measured = Wall::Measured(Touched { gauge, touches: 2 });
    match *means {
        Means::Components { journal, housing, upper, lower }
            if gauge.measures.fits(Part::UpperWall)
                && matches!((upper, lower), (Wall::Catalogue(_), _) | (_, Wall::Catalogue(_))) =>
        {
            Some(Means::Components { journal, housing, upper: measured, lower: measured })
        }
        _ => None,
    }
}

/// Ways that help, the best first.
pub fn advise(means: &Means<'_>, warmth: Warmth, gauges: &[Gauge]) -> Vec<Advice> {
    let warm = warmth.standard();
    let now = means.expanded(warm);
    // Under a hundredth less is not worth a walk to the gauge room.
    let worth_it = |expanded: &Length| expanded.nm() * 100 < now.nm() * 99;
    let mut advice: Vec<Advice> = Vec::new();
    let mut way = |better: &dyn Fn() -> Better, means: Option<Means<'_>>, warm: f64| {
        let expanded = means.map(|m| m.expanded(warm)).filter(worth_it);
        advice.extend(expanded.map(|expanded| Advice { better: better(), expanded }));
    };
    way(&|| Better::TransferMethod, transferred(means), warm);
    way(&|| Better::ThreeTouches, three_touches(means), warm);
    let noted = Warmth { doubt_mk: warmth.doubt_mk.min(NOTED_DOUBT_MK), ..warmth };
    way(&|| Better::SoakOrNote, Some(*means), noted.standard());
    for gauge in gauges {
        let name = || gauge.name.clone();
        way(&|| Better::MeasureWalls { gauge: name() }, with_walls(means, gauge), warm);
        for of in [Part::Journal, Part::Bore] {
            way(&|| Better::FinerGauge { of, gauge: name() }, with_gauge(means, of, gauge), warm);
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
        let touched = |gauge| Touched { gauge, touches: 1 };
        let means = Means::Subtract { journal: touched(&mic), bore: touched(&bore) };
        let warmth = Warmth { per_kelvin: 780.0, doubt_mk: 500 };
        let found = advise(&means, warmth, &[mic.clone(), bore.clone(), finer]);
        assert_eq!(found.first().map(|a| &a.better), Some(&Better::TransferMethod));
        assert!(found.iter().any(|a| a.better == Better::ThreeTouches));
        assert!(found.windows(2).all(|w| w[0].expanded <= w[1].expanded));
        // The gauge in hand is no better than itself.
        let named =
            |name: &str| found.iter().any(|a| matches!(&a.better, Better::FinerGauge { gauge, .. } if gauge == name));
        assert!(named("half tenths") && !named("bore"));
    }

    #[test]
    fn walls_by_the_book_are_best_measured() {
        let (mic, bore) = (gauge("mic", GaugeUse::Outside, 2_540), gauge("bore", GaugeUse::Inside, 2_540));
        let ball = gauge("ball mic", GaugeUse::Wall, 2_540);
        let touched = |gauge| Touched { gauge, touches: 2 };
        let by_book = Wall::Catalogue(Length::tenths(10));
        let means =
            Means::Components { journal: touched(&mic), housing: touched(&bore), upper: by_book, lower: by_book };
        let found = advise(&means, Warmth { per_kelvin: 0.0, doubt_mk: 500 }, std::slice::from_ref(&ball));
        assert!(found.iter().any(|a| a.better == Better::MeasureWalls { gauge: "ball mic".into() }));
        assert!(found.iter().all(|a| a.better != Better::SoakOrNote));
    }
}
