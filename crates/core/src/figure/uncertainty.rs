//! What the gauges leave open: contributions combined in quadrature, shown as `U = 2 u`.
//!
//! * resolution `r`: the value lies anywhere in one step, `r / (2 sqrt 3)`;
//! * repeatability `s`: `s / sqrt n` for the mean of `n` touches; a median of three costs a factor
//!   1.16, of more up to 1.25;
//! * calibration, an expanded uncertainty at k = 2: half of it;
//! * temperature: `size x alpha x u(dT)`;
//! * a wall known only from its catalogue maximum and tolerance `t`: anywhere in `t`; both halves of one
//!   batch err together, `t / sqrt 3`.
//!
//! How a clearance is obtained decides what counts. By the **direct** method the mic only carries the
//! size across, so its scale cancels: left are its feel on the journal, the zeroing of the bore gauge in
//! it, and the bore gauge's resolution and repeat. By **subtract** both instruments count in full, by
//! **components** housing, walls and journal do. A crushed **strip** leaves half a printed step open.
//!
//! ```
//! use jagged_pin_core::engine::Part;
//! use jagged_pin_core::figure::{Budget, Contribution, DoubtSource};
//! use jagged_pin_core::maths::of_resolution;
//!
//! let budget = Budget::combine(vec![
//!     Contribution::new(Part::Journal, DoubtSource::Repeat, 3_000.0),
//!     Contribution::new(Part::Bore, DoubtSource::Repeat, 4_000.0),
//! ]);
//! assert_eq!(budget.expanded.nm(), 10_000);
//! assert!((budget.parts[1].share - 0.64).abs() < 1e-9);
//! assert!((of_resolution(2_540.0) - 733.2).abs() < 0.1);
//! ```

use serde::Serialize;

use crate::engine::{Method, Part};
use crate::gauge::Gauge;
use crate::maths::{combined, half_width, of_repeat, of_resolution, share};
use crate::units::Length;

/// Where a contribution comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum DoubtSource {
    /// The step the gauge shows.
    Resolution,
    /// Feel and repeat of hand and gauge.
    Repeat,
    /// Setting the bore gauge to its reference.
    Zeroing,
    /// The gauge's calibration.
    Calibration,
    /// A wall known from the catalogue only.
    Catalogue,
    /// A printed width of a strip.
    PrintedStep,
    /// Parts and gauges that are not equally warm.
    Temperature,
}

/// One contribution.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Contribution {
    /// Which part's measurement it belongs to.
    pub of: Part,
    /// Where it comes from.
    pub source: DoubtSource,
    /// Standard uncertainty in nanometres.
    pub standard: f64,
    /// Its share of the whole, 0 to 1: its square over the sum of squares.
    pub share: f64,
    /// The gauge behind it.
    pub gauge: Option<String>,
}

impl Contribution {
    /// A contribution whose share is not known yet.
    pub fn new(of: Part, source: DoubtSource, standard: f64) -> Self {
        Contribution { of, source, standard, share: 0.0, gauge: None }
    }
}

/// The uncertainty of one value.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Budget {
    /// The contributions.
    pub parts: Vec<Contribution>,
    /// Combined standard uncertainty in nanometres.
    pub standard: f64,
    /// Expanded uncertainty: twice the combined one, whole nanometres.
    pub expanded: Length,
}

impl Budget {
    /// Combines contributions in quadrature.
    pub fn combine(mut parts: Vec<Contribution>) -> Self {
        let standard = combined(parts.iter().map(|p| p.standard));
        for part in &mut parts {
            part.share = share(part.standard, standard);
        }
        let expanded = Length::from_f64(2.0 * standard).unwrap_or(Length::LIMIT);
        Budget { parts, standard, expanded }
    }

    /// The uncertainty of this value against another one: what both share is left out.
    ///
    /// Shared are contributions of the same readings (same part, same source, same gauge) and the same
    /// gauge's calibration wherever it went in.
    pub fn against(&self, other: &Budget) -> Budget {
        let shared = |p: &Contribution| {
            other.parts.iter().any(|q| {
                let same_readings = (p.of, p.source, &p.gauge) == (q.of, q.source, &q.gauge) && p.of == Part::Journal;
                let same_scale = p.source == DoubtSource::Calibration && q.source == p.source && p.gauge == q.gauge;
                same_readings || same_scale
            })
        };
        Budget::combine(self.parts.iter().filter(|p| !shared(p)).cloned().collect())
    }
}

/// A size as it was come by: the gauge and the number of touches behind it.
#[derive(Debug, Clone, Copy)]
pub struct MeasuredBy<'a> {
    /// The gauge.
    pub gauge: &'a Gauge,
    /// Touches behind the value.
    pub touches: usize,
}

/// A contribution before it is written out.
type Raw<'a> = (Part, DoubtSource, f64, Option<&'a Gauge>);

/// In full a size brings calibration, resolution and repeat along.
const IN_FULL: [DoubtSource; 3] = [DoubtSource::Calibration, DoubtSource::Resolution, DoubtSource::Repeat];

impl<'a> MeasuredBy<'a> {
    fn part(&self, of: Part, source: DoubtSource) -> Raw<'a> {
        let s = self.gauge.repeatability.as_f64();
        let standard = match source {
            DoubtSource::Repeat => of_repeat(s, self.touches),
            DoubtSource::Zeroing => s,
            DoubtSource::Calibration => self.gauge.calibration.as_f64() / 2.0,
            _ => of_resolution(self.gauge.resolution.as_f64()),
        };
        (of, source, standard, Some(self.gauge))
    }
}

fn written((of, source, standard, gauge): Raw<'_>) -> Contribution {
    Contribution { gauge: gauge.map(|g| g.name.clone()), ..Contribution::new(of, source, standard) }
}

/// How the wall of one shell half is known.
#[derive(Debug, Clone, Copy)]
pub enum Wall<'a> {
    /// It was measured.
    Measured(MeasuredBy<'a>),
    /// From the catalogue, with its tolerance.
    Catalogue(Length),
}

/// Everything a clearance rests on, so that its budget can be made, and made again with one thing better.
#[derive(Debug, Clone, Copy)]
pub enum Basis<'a> {
    /// Bore gauge set in the mic that was locked on the journal.
    Direct {
        /// The mic on the journal.
        journal: MeasuredBy<'a>,
        /// The bore gauge.
        bore: MeasuredBy<'a>,
    },
    /// Two sizes apart.
    Subtract {
        /// The mic on the journal.
        journal: MeasuredBy<'a>,
        /// The bore gauge.
        bore: MeasuredBy<'a>,
    },
    /// Housing less walls less journal.
    Components {
        /// The mic on the journal.
        journal: MeasuredBy<'a>,
        /// The bore gauge in the housing.
        housing: MeasuredBy<'a>,
        /// The upper wall.
        upper: Wall<'a>,
        /// The lower wall.
        lower: Wall<'a>,
    },
    /// A crushed strip.
    Strip {
        /// The strip.
        strip: MeasuredBy<'a>,
    },
}

impl<'a> Basis<'a> {
    /// The method it belongs to.
    pub const fn method(&self) -> Method {
        match self {
            Basis::Direct { .. } => Method::Direct,
            Basis::Subtract { .. } => Method::Subtract,
            Basis::Components { .. } => Method::Components,
            Basis::Strip { .. } => Method::Strip,
        }
    }

    /// Its budget, with `temperature` as the standard uncertainty from unequal warmth in nanometres.
    pub fn budget(&self, temperature: f64) -> Budget {
        let mut parts = Vec::with_capacity(8);
        self.each(temperature, &mut |raw| parts.push(written(raw)));
        Budget::combine(parts)
    }

    /// The expanded uncertainty alone, for comparing many ways of measuring.
    pub fn expanded(&self, temperature: f64) -> Length {
        let mut squares = 0.0;
        self.each(temperature, &mut |(_, _, u, _)| squares += u * u);
        Length::from_f64(2.0 * f64::sqrt(squares)).unwrap_or(Length::LIMIT)
    }

    fn each(&self, temperature: f64, add: &mut impl FnMut(Raw<'a>)) {
        use DoubtSource::{Repeat, Resolution, Zeroing};
        match self {
            Basis::Direct { journal, bore } => {
                add(journal.part(Part::Journal, Repeat));
                [Zeroing, Resolution, Repeat].into_iter().for_each(|s| add(bore.part(Part::Bore, s)));
            }
            Basis::Subtract { journal, bore } => {
                IN_FULL.into_iter().for_each(|s| add(journal.part(Part::Journal, s)));
                IN_FULL.into_iter().for_each(|s| add(bore.part(Part::Bore, s)));
            }
            Basis::Components { journal, housing, upper, lower } => {
                IN_FULL.into_iter().for_each(|s| add(journal.part(Part::Journal, s)));
                IN_FULL.into_iter().for_each(|s| add(housing.part(Part::Housing, s)));
                walls(*upper, *lower, add);
            }
            Basis::Strip { strip } => {
                let step = of_resolution(strip.gauge.resolution.as_f64());
                add((Part::Strip, DoubtSource::PrintedStep, step, Some(strip.gauge)));
            }
        }
        if temperature > 0.0 && !matches!(self, Basis::Strip { .. }) {
            let bore = if matches!(self, Basis::Components { .. }) { Part::Housing } else { Part::Bore };
            add((bore, DoubtSource::Temperature, temperature, None));
        }
    }
}

fn walls<'a>(upper: Wall<'a>, lower: Wall<'a>, add: &mut impl FnMut(Raw<'a>)) {
    let by_book = |t: Length| half_width(t.as_f64() / 2.0);
    if let (Wall::Catalogue(u), Wall::Catalogue(l)) = (upper, lower) {
        // Halves of one batch err together: what they are off by adds before it is squared.
        return add((Part::UpperWall, DoubtSource::Catalogue, by_book(u) + by_book(l), None));
    }
    for (of, wall) in [(Part::UpperWall, upper), (Part::LowerWall, lower)] {
        match wall {
            Wall::Measured(touched) => IN_FULL.into_iter().for_each(|s| add(touched.part(of, s))),
            Wall::Catalogue(t) => add((of, DoubtSource::Catalogue, by_book(t), None)),
        }
    }
}

/// The uncertainty of a size by itself, for comparing two sizes of one part. A gauge's calibration drops
/// out when both were measured with it ([`Budget::against`]).
pub fn of_size(of: Part, by: MeasuredBy<'_>) -> Budget {
    Budget::combine(IN_FULL.into_iter().map(|s| written(by.part(of, s))).collect())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::gauge::GaugeUse;
    use proptest::prelude::*;

    fn gauge(name: &str) -> Gauge {
        Gauge {
            id: name.into(),
            name: name.into(),
            measures: GaugeUse::Inside,
            resolution: Length::tenths(1),
            repeatability: Length::from_nm(762),
            calibration: Length::tenths(1),
            kind: None,
            range: None,
            calibrated: None,
            due: None,
        }
    }

    #[test]
    fn zeroed_together_proves_a_tenth_and_zeroed_apart_less() {
        let (mic, bore) = (gauge("mic"), gauge("bore"));
        let (journal, bore) = (MeasuredBy { gauge: &mic, touches: 2 }, MeasuredBy { gauge: &bore, touches: 2 });
        // 538.8^2 + 762^2 + 733.2^2 + 538.8^2 = 1303.4^2, doubled.
        let direct = Basis::Direct { journal, bore }.budget(0.0);
        assert_eq!(direct.expanded.nm(), 2_607);
        // Two calibrations of 1270 on top of 733.2 and 538.8 each: 2209.5^2, doubled.
        let subtract = Basis::Subtract { journal, bore }.budget(0.0);
        assert_eq!(subtract.expanded.nm(), 4_419);
        // Both carry the feel of the mic on the journal: 1303.4^2 - 538.8^2 = 1186.9^2, doubled.
        assert_eq!(direct.against(&subtract).expanded.nm(), 2_374);
    }

    #[test]
    fn catalogue_walls_of_one_batch_err_together() {
        let (mic, bore) = (gauge("mic"), gauge("bore"));
        let (journal, housing) = (MeasuredBy { gauge: &mic, touches: 2 }, MeasuredBy { gauge: &bore, touches: 2 });
        let by_book = Wall::Catalogue(Length::tenths(3));
        let budget = Basis::Components { journal, housing, upper: by_book, lower: by_book }.budget(0.0);
        let walls = budget.parts.last().map(|p| p.standard);
        // t / sqrt 3 of three tenths.
        assert_eq!(walls.map(f64::round), Some((7_620.0 / 3f64.sqrt()).round()));
    }

    #[test]
    fn one_gauge_in_housing_and_bore_cannot_explain_a_difference_between_them() {
        let (mic, bore) = (gauge("mic"), gauge("bore"));
        let (journal, bore) = (MeasuredBy { gauge: &mic, touches: 1 }, MeasuredBy { gauge: &bore, touches: 1 });
        let wall = Wall::Measured(journal);
        let subtract = Basis::Subtract { journal, bore }.budget(0.0);
        let components = Basis::Components { journal, housing: bore, upper: wall, lower: wall }.budget(0.0);
        let left = subtract.against(&components);
        assert!(left.parts.iter().all(|p| p.of == Part::Bore && p.source != DoubtSource::Calibration));
        // Nothing is left of a value against itself but what is read anew each time.
        assert!(components.against(&components).parts.iter().all(|p| p.source != DoubtSource::Calibration));
    }

    #[test]
    fn the_second_touch_helps_and_a_median_pays_for_its_calm() {
        assert!(of_repeat(100.0, 2) < of_repeat(100.0, 1));
        assert!((of_repeat(100.0, 3) - 66.97).abs() < 0.01);
        assert_eq!(of_repeat(100.0, 0), 100.0);
    }

    proptest! {
        #[test]
        fn shares_add_up_to_one(parts in prop::collection::vec(0.1f64..9_000.0, 1..8)) {
            let parts = parts.into_iter().map(|u| Contribution::new(Part::Bore, DoubtSource::Repeat, u)).collect();
            let sum: f64 = Budget::combine(parts).parts.iter().map(|p| p.share).sum();
            prop_assert!((sum - 1.0).abs() < 1e-9);
        }
    }
}
