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
//! use jagged_pin_core::engine::Role;
//! use jagged_pin_core::figure::{Budget, Contribution, DoubtSource};
//! use jagged_pin_core::maths::of_resolution;
//!
//! let budget = Budget::combine(vec![
//!     Contribution::new(Role::JOURNAL, DoubtSource::Repeat, 3_000.0),
//!     Contribution::new(Role::BORE, DoubtSource::Repeat, 4_000.0),
//! ]);
//! assert_eq!(budget.expanded.nm(), 10_000);
//! assert!((budget.parts[1].share - 0.64).abs() < 1e-9);
//! assert!((of_resolution(2_540.0) - 733.2).abs() < 0.1);
//! ```
use serde::Serialize;

use crate::engine::{Doubt, GaugeUse, MethodRow, Read, Role, Term};
use crate::evidence::{Open, Size};
use crate::gauge::Gauge;
use crate::log::ZeroSource;
use crate::maths::{combined, half_width, of_angle, of_repeat, of_resolution, share};
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
    /// A dial that does not stand straight on what moves.
    Angle,
    /// Setting the mic to a size by its scale, for the bore gauge to be zeroed in.
    Setting,
    /// The ring, block or other mic that a bore gauge was zeroed in.
    Reference,
    /// A check of a gauge that something was taken off by.
    Check,
    /// What a gauge may have walked since it was set.
    Walk,
    /// Something between a shell and its seat: dirt, a burr, a shell that is not home. Never part of a budget.
    Seating,
    /// What one person reads otherwise than another, from a study of hands.
    Person,
    /// What a torque plate that was left off would have pulled the part to.
    Plate,
}

/// One contribution.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Contribution {
    /// Which part's measurement it belongs to.
    pub of: Role,
    /// Where it comes from.
    pub source: DoubtSource,
    /// Standard uncertainty in nanometres.
    pub standard: f64,
    /// Its share of the whole, 0 to 1: its square over the sum of squares.
    pub share: f64,
    /// The gauge behind it.
    pub gauge: Option<String>,
    /// How the part was read.
    #[serde(skip)]
    pub read: Read,
}

impl Contribution {
    /// A contribution whose share is not known yet.
    pub fn new(of: Role, source: DoubtSource, standard: f64) -> Self {
        Contribution { of, source, standard, share: 0.0, gauge: None, read: Read::Size }
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
    /// Shared are contributions of the same readings (same part read the same way, same source, same gauge) and the
    /// same gauge's calibration wherever it went in.
    pub fn against(&self, other: &Budget) -> Budget {
        let shared = |p: &Contribution| {
            other.parts.iter().any(|q| {
                let same_readings = (p.of, p.read, p.source, &p.gauge) == (q.of, q.read, q.source, &q.gauge);
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
    /// The size itself, where what it leaves open depends on it.
    pub size: Length,
    /// For blades: how far apart the two of them are between which it lies.
    pub interval: Option<Length>,
    /// Whether the interval between them is a proof of its own, so that only the blades themselves are in doubt.
    pub proves: bool,
    /// What its touches leave open, by the second reckoning.
    pub open: Option<Open>,
}

impl<'a> MeasuredBy<'a> {
    /// So many touches with a gauge, of which nothing else is known.
    pub const fn touched(gauge: &'a Gauge, touches: usize) -> Self {
        MeasuredBy { gauge, touches, size: Length::ZERO, interval: None, proves: false, open: None }
    }

    /// A size that was measured with a gauge.
    pub fn of(gauge: &'a Gauge, size: &Size) -> Self {
        MeasuredBy {
            gauge,
            touches: size.touches,
            size: size.effective,
            interval: size.interval,
            proves: size.between.is_some(),
            open: size.open,
        }
    }
}

/// How one term of a method is known.
#[derive(Debug, Clone, Copy)]
pub enum Known<'a> {
    /// It was measured.
    Measured(MeasuredBy<'a>),
    /// From the catalogue: by how much it may be less, and what it would be measured with.
    Catalogue {
        /// Its tolerance.
        less_by: Length,
        /// The gauge it would take.
        gauge: GaugeUse,
    },
}

impl<'a> Known<'a> {
    /// What its touches leave open, where they show it.
    pub(super) const fn open(&mut self) -> Option<&mut Open> {
        match self {
            Known::Measured(by) => by.open.as_mut(),
            Known::Catalogue { .. } => None,
        }
    }

    /// By what it was measured, where it was.
    pub(super) const fn measured(&self) -> Option<&MeasuredBy<'a>> {
        match self {
            Known::Measured(by) => Some(by),
            Known::Catalogue { .. } => None,
        }
    }
}

/// A contribution before it is written out.
#[derive(Debug, Clone, Copy)]
struct Raw<'a> {
    of: Role,
    read: Read,
    source: DoubtSource,
    standard: f64,
    gauge: Option<&'a Gauge>,
}

impl Raw<'_> {
    fn written(self) -> Contribution {
        let gauge = self.gauge.map(|g| g.name.clone());
        Contribution { gauge, read: self.read, ..Contribution::new(self.of, self.source, self.standard) }
    }
}

/// In full a size brings calibration, resolution and repeat along.
const IN_FULL: &[DoubtSource] = &[DoubtSource::Calibration, DoubtSource::Resolution, DoubtSource::Repeat];

/// The sources that a term of that doubt brings along, where a bore gauge was zeroed in that; by the first reckoning nobody
/// asks what it was.
const fn sources(doubt: Doubt, zero: Option<ZeroSource>) -> &'static [DoubtSource] {
    use DoubtSource::{Reference, Repeat, Resolution, Setting, Zeroing};
    match (doubt, zero) {
        (Doubt::Feel, Some(ZeroSource::SameMic)) => return &[Resolution, Repeat],
        (Doubt::Feel, Some(ZeroSource::Ring | ZeroSource::OtherMic)) => return IN_FULL,
        (Doubt::Zeroed, Some(ZeroSource::SameMic)) => return &[Setting, Zeroing, Resolution, Repeat],
        (Doubt::Zeroed, Some(ZeroSource::Ring)) => return &[Reference, Zeroing, Resolution, Repeat],
        (Doubt::Zeroed, Some(ZeroSource::OtherMic)) => return &[Reference, Setting, Zeroing, Resolution, Repeat],
        _ => {}
    }
    match doubt {
        Doubt::InFull => IN_FULL,
        Doubt::Feel => &[DoubtSource::Repeat],
        Doubt::Compared => &[DoubtSource::Resolution, DoubtSource::Repeat],
        Doubt::Zeroed => &[DoubtSource::Zeroing, DoubtSource::Resolution, DoubtSource::Repeat],
        Doubt::PrintedStep => &[DoubtSource::PrintedStep],
        Doubt::Pushed => &[DoubtSource::Resolution, DoubtSource::Repeat, DoubtSource::Angle],
        Doubt::BladeStep => &[DoubtSource::Resolution],
    }
}

/// Expanded uncertainty of a setting ring or a block, in nanometres: half a tenth.
const RING: f64 = 1_270.0;

impl MeasuredBy<'_> {
    fn standard(&self, source: DoubtSource) -> f64 {
        if let Some(standard) = self.open.as_ref().and_then(|open| self.by_touches(open, source)) {
            return standard;
        }
        let s = self.gauge.repeatability.as_f64();
        match source {
            DoubtSource::Repeat => of_repeat(s, self.touches),
            DoubtSource::Zeroing => s,
            DoubtSource::Calibration => self.gauge.calibration.as_f64() / 2.0,
            DoubtSource::Angle => of_angle(self.size.as_f64()),
            _ => of_resolution(self.gauge.resolution.as_f64()),
        }
    }
}

impl MeasuredBy<'_> {
    /// What the touches themselves show, by the second reckoning; `None` of what they don't bear on.
    fn by_touches(&self, open: &Open, source: DoubtSource) -> Option<f64> {
        let (hand, n) = (&open.hand, self.touches.max(1) as f64);
        let touching = hand.touching;
        Some(match source {
            DoubtSource::Repeat if open.median => of_repeat(touching.s, self.touches) * hand.reach * open.picked,
            DoubtSource::Repeat => (hand.seen / n).sqrt() * hand.reach * open.picked,
            DoubtSource::Resolution if open.median => of_resolution(touching.step) * open.picked,
            DoubtSource::Resolution => hand.hidden.sqrt() * open.picked,
            // A zero that was checked is as good as the check.
            DoubtSource::Zeroing if open.check > 0.0 => open.check,
            DoubtSource::Zeroing => touching.s * hand.reach,
            DoubtSource::Check => open.check,
            DoubtSource::Walk => open.walk,
            DoubtSource::Person => self.gauge.between_people.map_or(0.0, Length::as_f64),
            _ => return None,
        })
    }

    /// What the setting of another gauge in this mic, or in one like it, leaves open.
    fn as_setter(&self, source: DoubtSource, zero: ZeroSource) -> f64 {
        match (source, zero) {
            (DoubtSource::Reference, ZeroSource::Ring) => RING / 2.0,
            (DoubtSource::Reference, _) => self.gauge.calibration.as_f64() / 2.0,
            _ => of_resolution(self.gauge.resolution.as_f64()),
        }
    }

    /// A mic that carries a size across brings along the feel of the one touch it was locked at, and no rounding.
    fn carried(open: &Open) -> f64 {
        open.hand.touching.s * open.hand.reach
    }
}

/// Everything a figure rests on by one method, so that its budget can be made, and made again with one thing better.
#[derive(Debug, Clone)]
pub struct Basis<'a> {
    /// The method.
    pub method: &'static MethodRow,
    /// Its terms, each once for every part that it stands for.
    pub terms: Vec<&'static Term>,
    /// How each of them is known, in their order.
    pub known: Vec<Known<'a>>,
    /// What its bore gauge was zeroed in, by the second reckoning.
    pub zero: Option<ZeroSource>,
    /// By how much each term moves the figure, where that is not its factor.
    pub weights: Option<Vec<f64>>,
    /// What a part that was measured unclamped may be pulled by, either way; nothing where all were clamped.
    pub pull: Length,
}

impl<'a> Basis<'a> {
    /// Its budget, with `temperature` as the standard uncertainty from unequal warmth in nanometres.
    pub fn budget(&self, temperature: f64) -> Budget {
        let mut parts = Vec::with_capacity(8);
        self.each(temperature, &mut |raw| parts.push(raw.written()));
        Budget::combine(parts)
    }

    /// The expanded uncertainty alone, for comparing many ways of measuring.
    pub fn expanded(&self, temperature: f64) -> Length {
        let mut squares = 0.0;
        self.each(temperature, &mut |raw| squares += raw.standard * raw.standard);
        Length::from_f64(2.0 * f64::sqrt(squares)).unwrap_or(Length::LIMIT)
    }

    /// The terms with how each is known.
    pub(crate) fn terms(&self) -> impl Iterator<Item = (&'static Term, &Known<'a>)> {
        self.terms.iter().copied().zip(&self.known)
    }

    /// The terms with how each is known and by how much each moves the figure.
    fn weighed(&self) -> impl Iterator<Item = (&'static Term, &Known<'a>, f64)> {
        let weight = |i: usize, term: &Term| {
            self.weights.as_ref().and_then(|w| w.get(i)).copied().unwrap_or_else(|| f64::from(term.factor))
        };
        self.terms().enumerate().map(move |(i, (term, known))| (term, known, weight(i, term)))
    }

    fn each(&self, temperature: f64, add: &mut impl FnMut(Raw<'a>)) {
        let mut by_book = self.by_catalogue();
        let setter = self.terms().find_map(|(term, known)| match known {
            Known::Measured(by) if term.doubt == Doubt::Feel => Some(by),
            _ => None,
        });
        for (term, known, weight) in self.weighed() {
            let (of, read) = (term.role, term.read);
            match known {
                Known::Measured(by) => {
                    for source in sources(term.doubt, self.zero) {
                        let twice = term.doubt == Doubt::Pushed && *source == DoubtSource::Resolution;
                        // Both ends of a travel are read off the same dial, a step each.
                        let readings = if twice { 2f64.sqrt() } else { 1.0 };
                        let (standard, gauge) = match (source, self.zero, &by.open) {
                            (DoubtSource::Setting | DoubtSource::Reference, Some(zero), _) => {
                                let mic = setter.unwrap_or(by);
                                (mic.as_setter(*source, zero), Some(mic.gauge).filter(|_| zero != ZeroSource::Ring))
                            }
                            (DoubtSource::Repeat, Some(ZeroSource::Locked), Some(open))
                                if term.doubt == Doubt::Feel =>
                            {
                                (MeasuredBy::carried(open), Some(by.gauge))
                            }
                            (DoubtSource::Calibration, _, Some(_)) => {
                                match self.scale_of(by.gauge).filter(|(first, _)| std::ptr::eq(*first, term)) {
                                    Some((_, standard)) => (standard, Some(by.gauge)),
                                    None => continue,
                                }
                            }
                            (DoubtSource::Resolution, ..) if term.doubt == Doubt::BladeStep && by.proves => {
                                (by.standard(DoubtSource::Calibration), Some(by.gauge))
                            }
                            // Anywhere between two blades, wherever one looks again.
                            (DoubtSource::Resolution, ..) if term.doubt == Doubt::BladeStep => {
                                let between = by.interval.unwrap_or(by.gauge.resolution);
                                (of_resolution(between.as_f64()), Some(by.gauge))
                            }
                            _ => (by.standard(*source), Some(by.gauge)),
                        };
                        let of_blades = term.doubt == Doubt::BladeStep && by.proves;
                        let source = if of_blades { &DoubtSource::Calibration } else { source };
                        let whole = *source == DoubtSource::Calibration && by.open.is_some();
                        let times = if whole { 1.0 } else { weight.abs() };
                        let standard = standard * readings * times;
                        add(Raw { of, read, source: *source, standard, gauge });
                    }
                }
                Known::Catalogue { .. } => {
                    if let Some(standard) = by_book.take() {
                        add(Raw { of, read, source: DoubtSource::Catalogue, standard, gauge: None });
                    }
                }
            }
        }
        for (term, known, weight) in self.weighed() {
            let Known::Measured(by @ MeasuredBy { open: Some(open), .. }) = known else { continue };
            for source in [DoubtSource::Check, DoubtSource::Walk, DoubtSource::Person] {
                // What the mic was off when the gauge was set in it goes off both, so that its check drops out.
                let cancels = source == DoubtSource::Check && matches!(term.doubt, Doubt::Feel | Doubt::Zeroed);
                let standard = by.by_touches(open, source).unwrap_or_default();
                // A sum takes each of its terms once; a formula as much as it moves.
                let standard = if self.weights.is_some() { standard * weight.abs() } else { standard };
                if standard > 0.0 && !cancels {
                    add(Raw { of: term.role, read: term.read, source, standard, gauge: Some(by.gauge) });
                }
            }
        }
        let unclamped = self.method.terms.iter().find(|t| Some(t.role) == self.method.unclamped);
        if let Some(term) = unclamped.filter(|_| self.pull > Length::ZERO) {
            let standard = half_width(self.pull.as_f64());
            add(Raw { of: term.role, read: term.read, source: DoubtSource::Plate, standard, gauge: None });
        }
        let warm = self.method.terms.iter().find(|t| Some(t.role) == self.method.warm_at);
        if let Some(term) = warm.filter(|_| temperature > 0.0) {
            let (of, read) = (term.role, term.read);
            add(Raw { of, read, source: DoubtSource::Temperature, standard: temperature, gauge: None });
        }
    }

    /// What the scale of a gauge does to the whole: what it is off goes into every size that was read in full with it, alike.
    /// Written at the first of them.
    fn scale_of(&self, gauge: &Gauge) -> Option<(&'static Term, f64)> {
        let read_with = |(term, known, _): &(&'static Term, &Known<'a>, f64)| {
            let in_full = sources(term.doubt, self.zero).contains(&DoubtSource::Calibration);
            let same = |by: &MeasuredBy<'_>| std::ptr::eq(by.gauge, gauge) || by.gauge.id == gauge.id;
            in_full && matches!(known, Known::Measured(by) if same(by))
        };
        let (first, ..) = self.weighed().find(read_with)?;
        let times: f64 = self.weighed().filter(read_with).map(|(.., weight)| weight).sum();
        Some((first, times.abs() * gauge.calibration.as_f64() / 2.0))
    }

    /// Parts of one batch err together: what they are off by adds before it is squared.
    fn by_catalogue(&self) -> Option<f64> {
        let of = |known: &Known<'_>| match known {
            Known::Catalogue { less_by, .. } => Some(half_width(less_by.as_f64() / 2.0)),
            Known::Measured(_) => None,
        };
        self.known.iter().filter_map(of).reduce(|a, b| a + b)
    }
}

/// The uncertainty of a size by itself, for comparing two sizes of one part. A gauge's calibration drops
/// out when both were measured with it ([`Budget::against`]).
pub fn of_size(of: Role, by: MeasuredBy<'_>) -> Budget {
    let raw = |source: &DoubtSource| Raw {
        of,
        read: Read::Size,
        source: *source,
        standard: by.standard(*source),
        gauge: Some(by.gauge),
    };
    let since: &[DoubtSource] =
        if by.open.is_some() { &[DoubtSource::Check, DoubtSource::Walk, DoubtSource::Person] } else { &[] };
    Budget::combine(IN_FULL.iter().chain(since).map(|source| raw(source).written()).collect())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::engine::Figure;
    use proptest::prelude::*;

    fn gauge(name: &str) -> Gauge {
        Gauge {
            id: name.into(),
            name: name.into(),
            serial: None,
            measures: GaugeUse::Inside,
            resolution: Length::tenths(1),
            repeatability: Length::from_nm(762),
            calibration: Length::tenths(1),
            kind: None,
            range: None,
            calibrated: None,
            due: None,
            between_people: None,
        }
    }

    fn by(gauge: &Gauge, touches: usize) -> Known<'_> {
        Known::Measured(MeasuredBy::touched(gauge, touches))
    }

    fn basis<'a>(method: &str, known: &[Known<'a>]) -> Basis<'a> {
        let method = method.parse().ok().and_then(|m| Figure::OIL_CLEARANCE.method(m));
        let method = method.unwrap_or(&Figure::OIL_CLEARANCE.row().methods[0]);
        Basis {
            method,
            terms: method.terms.iter().collect(),
            known: known.to_vec(),
            zero: None,
            weights: None,
            pull: Length::ZERO,
        }
    }

    #[test]
    fn zeroed_together_proves_a_tenth_and_zeroed_apart_less() {
        let (mic, bore) = (gauge("mic"), gauge("bore"));
        let (journal, bore) = (by(&mic, 2), by(&bore, 2));
        // 538.8^2 + 762^2 + 733.2^2 + 538.8^2 = 1303.4^2, doubled.
        let direct = basis("direct", &[journal, bore]).budget(0.0);
        assert_eq!(direct.expanded.nm(), 2_607);
        // Two calibrations of 1270 on top of 733.2 and 538.8 each: 2209.5^2, doubled.
        let subtract = basis("subtract", &[journal, bore]).budget(0.0);
        assert_eq!(subtract.expanded.nm(), 4_419);
        // Both carry the feel of the mic on the journal: 1303.4^2 - 538.8^2 = 1186.9^2, doubled.
        assert_eq!(direct.against(&subtract).expanded.nm(), 2_374);
    }

    #[test]
    fn catalogue_walls_of_one_batch_err_together() {
        let (mic, bore) = (gauge("mic"), gauge("bore"));
        let (journal, housing) = (by(&mic, 2), by(&bore, 2));
        let by_book = Known::Catalogue { less_by: Length::tenths(3), gauge: GaugeUse::Wall };
        let budget = basis("components", &[journal, housing, by_book, by_book]).budget(0.0);
        let walls = budget.parts.last().map(|p| p.standard);
        // t / sqrt 3 of three tenths.
        assert_eq!(walls.map(f64::round), Some((7_620.0 / 3f64.sqrt()).round()));
    }

    #[test]
    fn one_gauge_in_housing_and_bore_cannot_explain_a_difference_between_them() {
        let (mic, bore) = (gauge("mic"), gauge("bore"));
        let (journal, bore) = (by(&mic, 1), by(&bore, 1));
        let subtract = basis("subtract", &[journal, bore]).budget(0.0);
        let components = basis("components", &[journal, bore, journal, journal]).budget(0.0);
        let left = subtract.against(&components);
        assert!(left.parts.iter().all(|p| p.of == Role::BORE && p.source != DoubtSource::Calibration));
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
            let parts = parts.into_iter().map(|u| Contribution::new(Role::BORE, DoubtSource::Repeat, u)).collect();
            let sum: f64 = Budget::combine(parts).parts.iter().map(|p| p.share).sum();
            prop_assert!((sum - 1.0).abs() < 1e-9);
        }
    }
}
