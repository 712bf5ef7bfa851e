//! The value of one figure by every method that has figures, which of them is judged, and whether they agree.
//!
//! What a method is made of stands in the catalogue ([`crate::engine::MethodRow`]); here its terms are added up
//! ([`crate::maths::combine_terms`]), their doubts combined, and the methods held against each other.
use super::advice::{Warmth, advise};
use super::result::{Agreement, ChosenBecause, EndClearance, Measured, MethodResult, SuspectPart};
use super::uncertainty::{Basis, Budget, Known, MeasuredBy};
use crate::build::Build;
use crate::engine::{Characteristic, Figure, Judges, Method, MethodRow, Nominals, Place, Read, Role, Statistic, Term};
use crate::evidence::{Sessions, Size, SizeAssessment, gauge_behind, material};
use crate::log::{NOTED_DOUBT_MK, Rules};
use crate::maths::{Band, Summand, combine_terms, compare, share};
use crate::units::Length;

/// What one figure is made of.
#[derive(Clone, Copy)]
pub(crate) struct Inputs<'a> {
    pub build: &'a Build,
    pub rules: &'a Rules,
    pub sessions: &'a Sessions,
    pub figure: Figure,
    pub place: Place,
    /// Undersize of its journal, for the walls that go with it.
    pub undersize: Length,
    pub measured: &'a [Measured],
    /// Whether what ended stands in for what is not measured again.
    pub former: bool,
}

impl<'a> Inputs<'a> {
    /// What is known of one of its parts, read that way.
    pub fn part(&self, role: Role, read: Read) -> Option<&'a SizeAssessment> {
        self.measured.iter().find(|m| m.role == role && m.read == read).map(|m| &m.size)
    }

    /// The size of a part, and whether every place behind it was touched.
    fn size(&self, role: Role, read: Read) -> Option<(&'a Size, bool)> {
        let part = self.part(role, read)?;
        if self.former && !part.complete {
            let stale = part.stale.as_ref().and_then(|s| s.size.as_ref());
            return stale.map(|s| (s, true));
        }
        part.size.as_ref().map(|s| (s, part.complete))
    }

    fn measured_by(&self, size: &Size) -> Option<MeasuredBy<'a>> {
        let gauge = gauge_behind(self.build, self.sessions, size)?;
        Some(MeasuredBy { gauge, touches: size.touches, size: size.effective })
    }

    fn nominals(&self) -> Option<&'a Nominals> {
        self.build.layout.nominals(self.place.row())
    }

    /// Every method that has figures.
    pub fn methods(&self) -> Vec<MethodResult> {
        self.figure.row().methods.iter().filter_map(|m| self.method(m)).collect()
    }

    fn method(&self, method: &'static MethodRow) -> Option<MethodResult> {
        let (mut complete, mut noted) = (true, true);
        let mut summands = Vec::with_capacity(method.terms.len());
        let mut known = Vec::with_capacity(method.terms.len());
        // What is held against the two limits, where a term has two sides.
        let (mut below, mut above) = (Length::ZERO, Length::ZERO);
        for term in method.terms {
            // What the catalogue can stand in for counts only once it is measured whole.
            let size = self.size(term.role, term.read).filter(|(_, whole)| !term.by_catalogue || *whole);
            match size {
                Some((size, whole)) => {
                    let value = self.statistic(term, size)?;
                    summands.push(Summand::new(term.factor, value));
                    if term.statistic == Statistic::MeanWithEnds {
                        below = below + size.smallest - value;
                        above = above + size.largest - value;
                    }
                    known.push(Known::Measured(self.measured_by(size)?));
                    complete &= whole;
                    noted &= term.by_catalogue || size.noted_temperatures;
                }
                None => {
                    let (summand, by_book) = self.by_catalogue(term)?;
                    summands.push(summand);
                    known.push(by_book);
                }
            }
        }
        let band = combine_terms(summands.iter().copied());
        let basis = Basis { method, known };
        let warmth = warmth(self.build, self.rules, (self.figure, self.place), noted);
        let ends = method.terms.iter().zip(&summands).filter(|(t, _)| t.ends);
        Some(MethodResult {
            method: Method::of(method),
            complete,
            clearance: band.value,
            smallest: band.value + below,
            largest: band.value + above,
            low: band.low,
            high: band.high,
            budget: basis.budget(warmth.standard()),
            advice: advise(self.figure, &basis, warmth, &self.build.gauges),
            ends: ends.flat_map(|(term, summand)| self.ends(term, *summand, band)).collect(),
        })
    }

    /// A wall of the catalogue: its maximum, thicker by half of what the journal is under, and how much less it may be.
    fn by_catalogue(&self, term: &Term) -> Option<(Summand, Known<'a>)> {
        let nominals = self.nominals().filter(|_| term.by_catalogue)?;
        let less_by = nominals.wall_tolerance;
        let gauge = Characteristic::at(self.place, term.role)?.row().gauge;
        let summand = Summand { factor: term.factor, value: nominals.wall + half(self.undersize), less_by };
        Some((summand, Known::Catalogue { less_by, gauge }))
    }

    fn statistic(&self, term: &Term, size: &Size) -> Option<Length> {
        match term.statistic {
            Statistic::Effective => Some(size.effective),
            Statistic::MeanOfPlaces | Statistic::MeanWithEnds => {
                Some(self.mean_of_places(term, size).unwrap_or(size.effective))
            }
            Statistic::LargestTrack => size.tracks.iter().copied().max(),
            Statistic::SmallestTrack => size.tracks.iter().copied().min(),
        }
    }

    fn mean_of_places(&self, term: &Term, size: &Size) -> Option<Length> {
        let part = self.part(term.role, term.read).filter(|p| p.size.as_ref() == Some(size))?;
        let values: Vec<Length> = part.positions.iter().filter(|p| !p.advisory).filter_map(|p| p.value).collect();
        Length::mean(&values)
    }

    /// The places of one term by themselves, everything else as it counts.
    fn ends(&self, term: &'static Term, summand: Summand, band: Band) -> Vec<EndClearance> {
        let places = self.part(term.role, term.read).into_iter().flat_map(|p| &p.positions).filter(|p| !p.advisory);
        let end = |value: Length| {
            let change = combine_terms([
                Summand::new(term.factor, value),
                Summand::new(term.factor.saturating_neg(), summand.value),
            ]);
            band.value + change.value
        };
        places.filter_map(|p| Some(EndClearance { axial: p.position.axial, clearance: end(p.value?) })).collect()
    }
}

/// What a doubt about temperatures does to a figure.
pub(crate) fn warmth(build: &Build, rules: &Rules, (figure, place): (Figure, Place), noted: bool) -> Warmth {
    // The parts of a main are a steel crank and a block; the larger expansion bounds their difference.
    let alpha = figure.inputs().iter().filter_map(|i| {
        let at = build.layout.place_with(place, i.role);
        Some(material(&build.layout, Characteristic::at(at, i.role)?).alpha())
    });
    let usual = rules.temperature_doubt_mk;
    Warmth {
        per_kelvin: build.layout.journal(place.row()).as_f64() * alpha.fold(0.0, f64::max),
        doubt_mk: if noted { usual.min(NOTED_DOUBT_MK) } else { usual },
    }
}

/// Half of an undersize: what each of two walls is thicker by.
fn half(undersize: Length) -> Length {
    Length::from_nm(undersize.nm() / 2)
}

/// The method that is judged: the preferred one where it is complete, else the one that proves most. A method that only
/// cross-checks decides where the rules let it; one with figures of the catalogue only where it is preferred, since
/// nobody measured the shells that are in.
pub(crate) fn judged_method<'m>(
    figure: Figure,
    rules: &Rules,
    methods: &'m [MethodResult],
) -> Option<(&'m MethodResult, ChosenBecause)> {
    let may = |m: &&MethodResult| {
        let allowed = match figure.method(m.method).map(|row| row.judges) {
            Some(Judges::WhenRulesLetIt) => rules.strip_judges,
            Some(Judges::MeasuredOrPreferred) => m.low == m.high || rules.preferred == m.method,
            Some(Judges::Never) => false,
            Some(Judges::Always) | None => m.low == m.high,
        };
        m.complete && allowed
    };
    let preferred = methods.iter().filter(may).find(|m| m.method == rules.preferred);
    preferred
        .map(|m| (m, ChosenBecause::Preferred))
        .or_else(|| methods.iter().find(may).map(|m| (m, ChosenBecause::ProvesMost)))
}

/// The judged method against each other complete one.
pub(crate) fn agreements(judged: &MethodResult, methods: &[MethodResult]) -> Vec<Agreement> {
    methods.iter().filter(|m| m.complete && m.method != judged.method).map(|m| agreement(judged, m)).collect()
}

fn agreement(a: &MethodResult, b: &MethodResult) -> Agreement {
    let (own_a, own_b) = (a.budget.against(&b.budget), b.budget.against(&a.budget));
    let c = compare((a.clearance, own_a.expanded), (b.clearance, own_b.expanded));
    let whole = own_a.standard.hypot(own_b.standard);
    let of = |method, budget: Budget| {
        budget.parts.into_iter().map(move |mut contribution| {
            contribution.share = share(contribution.standard, whole);
            SuspectPart { method, contribution }
        })
    };
    let mut suspects: Vec<SuspectPart> =
        if c.agree { Vec::new() } else { of(a.method, own_a).chain(of(b.method, own_b)).collect() };
    suspects.sort_by(|a, b| b.contribution.share.total_cmp(&a.contribution.share));
    Agreement { of: a.method, with: b.method, difference: c.difference, en: c.en, agree: c.agree, suspects }
}
