//! What would shrink an uncertainty most: the same budget made again with one thing better.
use serde::Serialize;

use super::uncertainty::{Basis, Known, MeasuredBy};
use crate::engine::{Figure, Role, Term};
use crate::evidence::{Hand, Open};
use crate::gauge::Gauge;
use crate::log::{NOTED_DOUBT_MK, ZeroSource};
use crate::maths::Touches;
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
        of: Role,
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
/// assert_eq!(Warmth { per_kelvin, doubt_mk: 500, room: 0.0 }.standard().round(), 390.0);
/// ```
#[derive(Debug, Clone, Copy)]
pub struct Warmth {
    /// Standard uncertainty per kelvin of doubt, in nanometres.
    pub per_kelvin: f64,
    /// Doubt in thousandths of a kelvin.
    pub doubt_mk: u32,
    /// Standard uncertainty from a room that may be warmer or colder than 20 degrees, where the parts grow differently, in
    /// nanometres; noted temperatures take it away.
    pub room: f64,
}

impl Warmth {
    /// Standard uncertainty in nanometres.
    pub fn standard(self) -> f64 {
        (self.per_kelvin * f64::from(self.doubt_mk) / 1_000.0).hypot(self.room)
    }
}

/// What a term would be known by, if something were better; `None` where it stays as it is.
type Better<'a, 'f> = dyn Fn(&Term, &Known<'a>) -> Option<Known<'a>> + 'f;

/// A budget made again and again with something better: many ways are tried, and each would otherwise take a copy of all.
struct Trial<'a, 'b> {
    basis: &'b mut Basis<'a>,
    /// What the one that is tried has put something in the place of, by number.
    aside: Vec<(usize, Known<'a>)>,
}

impl<'a, 'b> Trial<'a, 'b> {
    fn of(basis: &'b mut Basis<'a>) -> Self {
        Trial { basis, aside: Vec::new() }
    }

    /// Whether any of the terms is known that way.
    fn rests_on(&self, way: impl Fn(&Known<'a>) -> bool) -> bool {
        self.basis.known.iter().any(way)
    }

    /// The expanded uncertainty with another way of knowing some of the terms; `None` where none is changed.
    fn with(&mut self, temperature: f64, better: &Better<'a, '_>) -> Option<Length> {
        for (i, (term, known)) in self.basis.terms.iter().zip(&mut self.basis.known).enumerate() {
            if let Some(found) = better(term, known) {
                self.aside.push((i, std::mem::replace(known, found)));
            }
        }
        let expanded = (!self.aside.is_empty()).then(|| self.basis.expanded(temperature));
        for (i, was) in self.aside.drain(..) {
            if let Some(known) = self.basis.known.get_mut(i) {
                *known = was;
            }
        }
        expanded
    }
}

fn three_touches<'a>(_: &Term, known: &Known<'a>) -> Option<Known<'a>> {
    match known {
        Known::Measured(by) if by.touches < 3 => Some(Known::Measured(MeasuredBy { touches: 3, ..*by })),
        _ => None,
    }
}

/// More touches than anybody makes: what repeats leave is gone.
const ENDLESS: usize = 1_000_000;

/// What more touches at each place would leave of the expanded uncertainty; `None` where no hand shows in it.
pub(super) fn more_touches<'a>(basis: &mut Basis<'a>, warmth: Warmth) -> Option<Touches> {
    let by_hand = |known: &Known<'_>| known.measured().filter(|by| by.open.is_some()).map(|by| by.touches);
    let fewest = basis.known.iter().filter_map(by_hand).min()?;
    let mut with = |touches: &dyn Fn(usize) -> usize| {
        let better = |_: &Term, known: &Known<'a>| match known {
            Known::Measured(by) if by.open.is_some() => {
                Some(Known::Measured(MeasuredBy { touches: touches(by.touches), ..*by }))
            }
            _ => None,
        };
        Trial::of(basis).with(warmth.standard(), &better)
    };
    Some(Touches { fewest, once_more: with(&|now| now.saturating_add(1))?, endless: with(&|_| ENDLESS)? })
}

/// The same gauges, used by the method that carries one size across to the other.
fn transferred<'a>(figure: Figure, basis: &Basis<'a>) -> Option<Basis<'a>> {
    if basis.zero.is_some_and(|zero| zero != ZeroSource::Locked) {
        return Some(Basis { zero: Some(ZeroSource::Locked), ..basis.clone() });
    }
    let transfer = basis.method.transfer?;
    let method = figure.row().methods.iter().find(|m| m.id == transfer.to)?;
    let from = |role: Role| transfer.roles.iter().find(|(_, to)| *to == role).map_or(role, |(from, _)| *from);
    let known = |role| basis.terms().find(|(term, _)| term.role == from(role)).map(|(_, known)| *known);
    let known = method.terms.iter().map(|term| known(term.role)).collect::<Option<Vec<_>>>()?;
    let zero = basis.terms().any(|(_, known)| matches!(known, Known::Measured(by) if by.open.is_some()));
    Some(Basis {
        method,
        terms: method.terms.iter().collect(),
        known,
        zero: zero.then_some(ZeroSource::Locked),
        weights: None,
        pull: basis.pull,
    })
}

/// A gauge that could be taken instead, with the hand that the shop declares for it: every figure asks for it again.
#[derive(Debug, Clone, Copy)]
pub struct InReach<'a> {
    /// The gauge.
    pub gauge: &'a Gauge,
    /// How it repeats by the shop's figure.
    pub hand: Hand,
}

impl<'a> InReach<'a> {
    /// Each of the shop's gauges.
    pub fn all(gauges: &'a [Gauge]) -> Vec<Self> {
        gauges.iter().map(|gauge| InReach { gauge, hand: Hand::declared(gauge) }).collect()
    }
}

fn with_gauge<'a>(of: Role, InReach { gauge, hand }: InReach<'a>) -> impl Fn(&Term, &Known<'a>) -> Option<Known<'a>> {
    move |term, known| match known {
        Known::Measured(by) if term.finer_gauge && term.role == of && by.gauge.measures == gauge.measures => {
            let open = by.open.map(|open| Open { hand, ..open });
            Some(Known::Measured(MeasuredBy { gauge, open, ..*by }))
        }
        _ => None,
    }
}

/// What the catalogue says of is measured instead, all of it.
fn with_walls<'a>(gauge: &'a Gauge) -> impl Fn(&Term, &Known<'a>) -> Option<Known<'a>> {
    let measured = Known::Measured(MeasuredBy::touched(gauge, 2));
    move |term, _| term.by_catalogue.then_some(measured)
}

/// Ways that help, the best first; `now` is the expanded uncertainty as it is. The basis is as it was afterwards.
pub fn advise<'a>(
    figure: Figure,
    basis: &mut Basis<'a>,
    (warmth, now): (Warmth, Length),
    gauges: &[InReach<'a>],
) -> Vec<Advice> {
    let warm = warmth.standard();
    // Under a hundredth less is not worth the way to the gauge room.
    let worth_it = |expanded: &Length| expanded.nm().saturating_mul(100) < now.nm().saturating_mul(99);
    let mut advice: Vec<Advice> = Vec::new();
    let mut way = |better: &dyn Fn() -> Improvement, expanded: Option<Length>| {
        let expanded = expanded.filter(worth_it);
        advice.extend(expanded.map(|expanded| Advice { better: better(), expanded }));
    };
    way(&|| Improvement::TransferMethod, transferred(figure, basis).map(|b| b.expanded(warm)));
    let mut trial = Trial::of(basis);
    way(&|| Improvement::ThreeTouches, trial.with(warm, &three_touches));
    let noted = Warmth { doubt_mk: warmth.doubt_mk.min(NOTED_DOUBT_MK), room: 0.0, ..warmth };
    way(&|| Improvement::SoakOrNote, Some(trial.basis.expanded(noted.standard())));
    for in_reach @ InReach { gauge, .. } in gauges {
        let (name, used) = (|| gauge.name.clone(), gauge.measures);
        if trial.rests_on(|known| matches!(known, Known::Catalogue { gauge, .. } if *gauge == used)) {
            way(&|| Improvement::MeasureWalls { gauge: name() }, trial.with(warm, &with_walls(gauge)));
        }
        if trial.rests_on(|known| matches!(known, Known::Measured(by) if by.gauge.measures == used)) {
            for of in trial.basis.method.terms.iter().filter(|t| t.finer_gauge).map(|t| t.role) {
                way(&|| Improvement::FinerGauge { of, gauge: name() }, trial.with(warm, &with_gauge(of, *in_reach)));
            }
        }
    }
    advice.sort_by_key(|a| a.expanded);
    advice
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::engine::GaugeUse;

    fn gauge(id: &str, measures: GaugeUse, resolution: i64) -> Gauge {
        Gauge {
            id: id.into(),
            name: id.into(),
            serial: None,
            measures,
            resolution: Length::from_nm(resolution),
            repeatability: Length::from_nm(762),
            calibration: Length::tenths(1),
            kind: None,
            range: None,
            calibrated: None,
            due: None,
            between_people: None,
        }
    }

    fn basis<'a>(method: &str, known: Vec<Known<'a>>) -> Basis<'a> {
        let method = method.parse().ok().and_then(|m| Figure::OIL_CLEARANCE.method(m));
        let method = method.unwrap_or(&Figure::OIL_CLEARANCE.row().methods[0]);
        Basis { method, terms: method.terms.iter().collect(), known, zero: None, weights: None, pull: Length::ZERO }
    }

    #[test]
    fn two_sizes_apart_are_best_helped_by_carrying_one_across() {
        let (mic, bore) = (gauge("mic", GaugeUse::Outside, 2_540), gauge("bore", GaugeUse::Inside, 2_540));
        let finer = gauge("half tenths", GaugeUse::Inside, 1_270);
        let touched = |gauge| {
            Known::Measured(MeasuredBy {
                gauge,
                touches: 1,
                size: Length::ZERO,
                interval: None,
                proves: false,
                open: None,
            })
        };
        let mut basis = basis("subtract", vec![touched(&mic), touched(&bore)]);
        let warmth = Warmth { per_kelvin: 780.0, doubt_mk: 500, room: 0.0 };
        let now = (warmth, basis.expanded(warmth.standard()));
        let found = advise(Figure::OIL_CLEARANCE, &mut basis, now, &InReach::all(&[mic.clone(), bore.clone(), finer]));
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
        let touched = |gauge| Known::Measured(MeasuredBy::touched(gauge, 2));
        let by_book = Known::Catalogue { less_by: Length::tenths(10), gauge: GaugeUse::Wall };
        let mut basis = basis("components", vec![touched(&mic), touched(&bore), by_book, by_book]);
        let now = (Warmth { per_kelvin: 0.0, doubt_mk: 500, room: 0.0 }, basis.expanded(0.0));
        let found = advise(Figure::OIL_CLEARANCE, &mut basis, now, &InReach::all(std::slice::from_ref(&ball)));
        assert!(found.iter().any(|a| a.better == Improvement::MeasureWalls { gauge: "ball mic".into() }));
        assert!(found.iter().all(|a| a.better != Improvement::SoakOrNote));
    }
}
