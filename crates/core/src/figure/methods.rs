//! The value of one figure by every method that has figures, which of them is judged, and whether they agree.
//!
//! What a method is made of stands in the catalogue ([`crate::engine::MethodRow`]); here its terms are added up
//! ([`crate::maths::combine_terms`]), their doubts combined, and the methods held against each other.
use smallvec::SmallVec;

use super::advice::{InReach, Warmth, advise, more_touches};
use super::result::{Agreement, Alike, ChosenBecause, EndClearance, Measured, MethodResult, SuspectPart};
use super::uncertainty::{Basis, Budget, Known, MeasuredBy};
use crate::build::Build;
use crate::engine::{
    Axial, Characteristic, Doubt, Figure, Judges, Method, MethodRow, Nominals, Place, Read, Role, Statistic, Term,
};
use crate::evidence::{Open, PositionAssessment, Sessions, Size, SizeAssessment, gauge_behind, material};
use crate::log::{NOTED_DOUBT_MK, Reckoning, Rules, ZeroSource};
use crate::maths::{Band, Extreme, SizeRule, Summand, combine_terms, combined, compare, share, worst_place};
use crate::units::Length;

/// The terms of a figure as numbers: few have more than six.
type Summands = SmallVec<[Summand; 8]>;

/// What one figure is made of.
#[derive(Clone, Copy)]
pub(crate) struct Inputs<'a> {
    pub build: &'a Build,
    pub rules: &'a Rules,
    pub sessions: &'a Sessions,
    /// What could be measured with.
    pub gauges: &'a [InReach<'a>],
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

    /// Each of the parts that a role stands for, read that way: one, or every rod on a pin.
    fn parts(&self, role: Role, read: Read) -> impl Iterator<Item = &'a SizeAssessment> {
        self.measured.iter().filter(move |m| m.role == role && m.read == read).map(|m| &m.size)
    }

    /// The size of a part, and whether every place behind it was touched.
    pub(super) fn size(&self, part: &'a SizeAssessment) -> Option<(&'a Size, bool)> {
        if self.former && !part.complete {
            let stale = part.stale.as_ref().and_then(|s| s.size.as_ref());
            return stale.map(|s| (s, true));
        }
        part.size.as_deref().map(|s| (s, part.complete))
    }

    pub(super) fn measured_by(&self, size: &Size) -> Option<MeasuredBy<'a>> {
        let gauge = gauge_behind(self.build, self.sessions, size)?;
        Some(MeasuredBy::of(gauge, size))
    }

    /// The same for the value that a term takes: the mean of several places has a part of the doubt of one, and nothing was
    /// picked.
    fn term_by(&self, term: &Term, size: &Size) -> Option<MeasuredBy<'a>> {
        let by = self.measured_by(size)?;
        let mean = matches!(term.statistic, Statistic::MeanOfPlaces | Statistic::EndByEnd | Statistic::MeanWithEnds);
        let one_of_two = matches!(
            term.statistic,
            Statistic::LargestTrack | Statistic::SmallestTrack | Statistic::LargestPlace | Statistic::SmallestPlace
        );
        let difference = matches!(term.statistic, Statistic::Taper | Statistic::OutOfRound | Statistic::Travel);
        let ends = term.statistic == Statistic::MeanWithEnds && self.rules.reckoning >= Reckoning::Third;
        let open = by.open.map(|open| match (mean, one_of_two) {
            (true, _) if ends => Open { picked: self.of_both_ends(term, size, &open), bias: Length::ZERO, ..open },
            (true, _) => Open { picked: 1.0 / (open.places.max(1) as f64).sqrt(), bias: Length::ZERO, ..open },
            // Two tracks, or two places, are held against each other.
            (_, true) => Open { picked: 1.0, bias: Length::ZERO, ..open },
            _ if difference => Open { picked: std::f64::consts::SQRT_2, bias: Length::ZERO, ..open },
            _ => open,
        });
        Some(MeasuredBy { open, ..by })
    }

    /// What picking the worst place on either side makes of the doubt of one: both ends of such a size are judged.
    fn of_both_ends(&self, term: &Term, size: &Size, open: &Open) -> f64 {
        let part = self.parts(term.role, term.read).find(|p| p.size.as_deref() == Some(size));
        let values: SmallVec<[f64; 8]> = part
            .into_iter()
            .flat_map(|p| &p.positions)
            .filter(|p| !p.advisory)
            .filter_map(|p| Some(p.value?.as_f64()))
            .collect();
        let doubt = open.hand.of(size.touches, open.median);
        let side = |extreme| worst_place(extreme, &values, doubt).standard;
        if doubt > 0.0 { side(Extreme::Smallest).max(side(Extreme::Largest)) / doubt } else { 1.0 }
    }

    /// What the bore gauge behind a method was zeroed in. Only a size of this very journal is carried across by a locked mic.
    fn zero(&self, terms: &[&Term], known: &[Known<'a>]) -> Option<ZeroSource> {
        let open = measured_by(terms, known, Doubt::Zeroed)?.open?;
        let journal = measured_by(terms, known, Doubt::Feel)?;
        let step = journal.gauge.resolution;
        let this_one = open
            .zeroed_at
            .is_some_and(|(low, high)| (journal.size - low).abs() <= step && (journal.size - high).abs() <= step);
        Some(if open.zero == ZeroSource::Locked && !this_one { ZeroSource::SameMic } else { open.zero })
    }

    pub(super) fn nominals(&self) -> Option<&'a Nominals> {
        self.build.layout.nominals(self.place.row())
    }

    /// Every method that has figures.
    pub fn methods(&self) -> Vec<MethodResult> {
        let rows = self.figure.row().methods;
        let mut methods = Vec::with_capacity(rows.len());
        methods.extend(rows.iter().filter_map(|m| self.method(m)));
        methods
    }

    fn method(&self, method: &'static MethodRow) -> Option<MethodResult> {
        if let Some(formula) = method.at_each_end {
            return self.worst_of_both_ends(method, formula);
        }
        // A term that stands for several parts is there once for each of them.
        let each = |term: &'static Term| self.parts(term.role, term.read).map(move |part| (term, part));
        let lacks = |(term, part): (&Term, &'a SizeAssessment)| !term.by_catalogue && self.size(part).is_none();
        if method.terms.iter().any(|term| each(term).next().is_none() || each(term).any(lacks)) {
            return None;
        }
        let (mut complete, mut noted) = (true, true);
        let mut terms: Vec<&'static Term> = Vec::with_capacity(method.terms.len());
        let mut summands: Summands = SmallVec::new();
        let mut known = Vec::with_capacity(method.terms.len());
        // What each term is moved by, beside what was read.
        let mut shifts: SmallVec<[Length; 8]> = SmallVec::new();
        let mut correction = Length::ZERO;
        // What is held against the two limits, where a term has two sides.
        let (mut below, mut above) = (Length::ZERO, Length::ZERO);
        for (term, part) in method.terms.iter().flat_map(each) {
            terms.push(term);
            // What the catalogue can stand in for counts only once it is measured whole.
            let size = self.size(part).filter(|(_, whole)| !term.by_catalogue || *whole);
            match size {
                Some((size, whole)) => {
                    let mut by = self.term_by(term, size)?;
                    let span = by.open.as_ref().and_then(|open| self.span(term, size, open));
                    let effective = term.statistic == Statistic::Effective;
                    let bias = match (span, &by.open) {
                        (Some(span), _) => span.read - span.value,
                        (None, Some(open)) if effective => open.bias,
                        _ => Length::ZERO,
                    };
                    let value = span.map_or_else(|| self.statistic(term, size), |span| Some(span.read))? - bias;
                    correction = correction + combine_terms([Summand::new(term.factor.saturating_neg(), bias)]).value;
                    if let (Some(span), Some(open)) = (span, &mut by.open) {
                        open.picked = span.picked;
                    }
                    shifts.push(Length::ZERO);
                    summands.push(Summand::new(term.factor, value));
                    if term.statistic == Statistic::MeanWithEnds {
                        // What is taken off leaves least where it is largest.
                        let (low, high) = (size.smallest - value, size.largest - value);
                        let (low, high) = if term.factor < 0 { (-high, -low) } else { (low, high) };
                        below = below + low;
                        above = above + high;
                    }
                    known.push(Known::Measured(by));
                    complete &= whole;
                    noted &= term.by_catalogue || size.noted_temperatures;
                }
                None => {
                    let (summand, by_book) = self.by_catalogue(term)?;
                    shifts.push(Length::ZERO);
                    summands.push(summand);
                    known.push(by_book);
                }
            }
        }
        let zero = self.zero(&terms, &known);
        if let Some(carried) = carried(&terms, &known).filter(|_| zero == Some(ZeroSource::Locked)) {
            // The mic stands at this journal: the dial shows the rest, whatever was read on the scale.
            for (((term, known), summand), shift) in terms.iter().zip(&known).zip(&mut summands).zip(&mut shifts) {
                if term.doubt != Doubt::Feel {
                    continue;
                }
                *shift = known.measured().map_or(Length::ZERO, |by| carried - by.size);
                let bias = known.measured().and_then(|by| by.open);
                let back = Summand::new(term.factor, bias.map_or(Length::ZERO, |open| open.bias));
                correction = correction + combine_terms([back]).value;
                summand.value = carried;
            }
        }
        let along = self.along(method, (&known, &summands, &shifts));
        if let Some(worst) = self.worst_end(method, &known).filter(|_| along.is_none()) {
            for (i, value) in worst.values {
                if let Some(summand) = summands.get_mut(i) {
                    summand.value = value;
                }
            }
            let parts = terms.iter().zip(&mut known).filter(|(t, _)| t.role != Role::JOURNAL);
            for (_, known) in parts {
                if let Known::Measured(MeasuredBy { open: Some(open), .. }) = known {
                    open.picked = worst.picked;
                }
            }
            summands.push(Summand::new(-1, worst.bias));
            correction = correction - worst.bias;
        }
        let band = combine_terms(summands.iter().copied());
        let ends = match &along {
            Some(along) => along.ends.clone(),
            None => {
                let at_ends = terms.iter().zip(&summands).filter(|(t, _)| t.ends);
                at_ends.flat_map(|(term, summand)| self.ends(term, *summand, band)).collect()
            }
        };
        let blades = self.between_blades(method);
        let mut value = band.value;
        let (mut smallest, mut largest) = (band.value + below, band.value + above);
        if let Some(along) = &along {
            (smallest, largest, correction) = (along.smallest, along.largest, along.correction);
            value = smallest;
            for open in known.iter_mut().filter_map(Known::open) {
                open.picked = along.picked;
            }
        } else if let Some([goes, stops]) = blades {
            (smallest, largest) = (goes, stops);
            value = Length::mean(&[goes, stops]).unwrap_or(value);
        }
        let moved = value - band.value;
        let pull = method.unclamped.map_or(Length::ZERO, |bare| self.pull(method, bare));
        let mut basis = Basis { method, terms, known, zero, weights: None, pull };
        let warmth = self.warmth(noted);
        let budget = basis.budget(warmth.standard());
        let more = if complete { more_touches(&mut basis, warmth) } else { None };
        Some(MethodResult {
            method: Method::of(method),
            complete,
            clearance: value,
            smallest,
            largest,
            low: band.low + moved,
            high: band.high + moved,
            correction,
            zero: basis.zero,
            advice: advise(self.figure, &mut basis, (warmth, budget.expanded), self.gauges),
            budget,
            ends,
            between_blades: blades.is_some(),
            more,
            alike: if complete { self.alike(basis, summands, warmth) } else { None },
        })
    }

    /// What a part that was measured unclamped may be pulled by: as much as it was here, where it was measured both ways,
    /// whatever ended since; else what the rules allow for. The reckonings of before did not ask.
    fn pull(&self, method: &MethodRow, bare: Role) -> Length {
        if self.rules.reckoning < Reckoning::Third {
            return Length::ZERO;
        }
        let clamped = self.figure.row().methods.iter().find(|m| method.judges == Judges::Unless(m.id));
        let same_part = |of: &Term| of.role != bare && method.terms.iter().all(|t| t.role != of.role);
        let clamped = clamped.and_then(|m| m.terms.iter().find(|of| same_part(of)));
        let seen = clamped.and_then(|of| pulled(self.part(of.role, of.read)?, self.part(bare, of.read)?));
        seen.map_or_else(|| self.rules.plate_pull(), Length::abs).min(Length::LIMIT)
    }

    /// What blades prove, where a figure is what they were pushed into.
    fn between_blades(&self, method: &'static MethodRow) -> Option<[Length; 2]> {
        let [term] = method.terms else { return None };
        let part = self.part(term.role, term.read).filter(|_| term.doubt == Doubt::BladeStep)?;
        let (size, _) = self.size(part)?;
        let between = size.between?;
        // Of several places the narrowest tells the lower end and the widest the upper one.
        let ends = [between.smallest[0], between.largest[1]];
        Some(if term.statistic == Statistic::LargestPlace { between.largest } else { ends })
    }

    pub(super) fn warmth(&self, noted: bool) -> Warmth {
        warmth(self.build, self.rules, self.place, self.measured.iter().map(|m| m.characteristic), noted)
    }

    /// The figure by the means of the places in line with the load; the journal is the same one in every method.
    fn alike(&self, mut basis: Basis<'a>, mut means: Summands, warmth: Warmth) -> Option<Alike> {
        // There is nothing to hold against what can be come by in one way only.
        if self.rules.reckoning == Reckoning::First || self.figure.row().methods.len() < 2 {
            return None;
        }
        means.truncate(basis.terms.len());
        for ((term, summand), known) in basis.terms.iter().zip(&mut means).zip(&mut basis.known) {
            // A width is the mean of its places as it is.
            let as_it_is =
                term.role == Role::JOURNAL || (term.statistic == Statistic::MeanWithEnds && term.read == Read::Size);
            if as_it_is {
                continue;
            }
            let along = [Axial::Front, Axial::Middle, Axial::Rear].into_iter();
            let values = along.filter_map(|axial| self.in_line(term, axial));
            if let Some(mean) = Length::mean_of(values.clone()) {
                summand.value = mean;
                if let Known::Measured(MeasuredBy { open: Some(open), .. }) = known {
                    open.picked = 1.0 / (values.count() as f64).sqrt();
                }
            }
        }
        Some(Alike { value: combine_terms(means).value, budget: basis.budget(warmth.standard()) })
    }

    /// The value of a part at one end, in line with the load.
    fn in_line(&self, term: &Term, axial: Axial) -> Option<Length> {
        let part = self.part(term.role, term.read)?;
        let here = |p: &&PositionAssessment| !p.advisory && p.position.axial == axial && p.position.angle == IN_LINE;
        part.positions.iter().find(here)?.value
    }

    /// Housing against the walls that lie in it, end by end: the values of the end with the least room, by the number of their
    /// term. A wall that has no place at that end counts as it does otherwise.
    fn worst_end(&self, method: &MethodRow, known: &[Known<'a>]) -> Option<WorstEnd> {
        // By the rule of the mean no end is picked.
        if self.rules.reckoning == Reckoning::First || self.rules.effective == SizeRule::Mean {
            return None;
        }
        let by_end = method.terms.iter().find(|t| t.statistic == Statistic::EndByEnd)?;
        let mut ends: Vec<(Length, Vec<(usize, Length)>)> = Vec::new();
        for axial in [Axial::Front, Axial::Middle, Axial::Rear] {
            if self.in_line(by_end, axial).is_none() {
                continue;
            }
            let here =
                method.terms.iter().enumerate().filter(|(_, t)| t.statistic == by_end.statistic || t.by_catalogue);
            let values: Vec<(usize, Length)> = here.filter_map(|(i, t)| Some((i, self.in_line(t, axial)?))).collect();
            let summand = |(i, value): &(usize, Length)| Some(Summand::new(method.terms.get(*i)?.factor, *value));
            ends.push((combine_terms(values.iter().filter_map(summand)).value, values));
        }
        let doubt = |k: &Known<'_>| match k {
            Known::Measured(MeasuredBy { open: Some(open), touches, .. }) => open.hand.of(*touches, open.median),
            _ => 0.0,
        };
        let parts = method.terms.iter().zip(known).filter(|(t, _)| t.role != Role::JOURNAL);
        let of_one = combined(parts.map(|(_, k)| doubt(k)));
        let rooms: Vec<f64> = ends.iter().map(|(room, _)| room.as_f64()).collect();
        let worst = worst_place(Extreme::Smallest, &rooms, of_one);
        let picked = if of_one > 0.0 { worst.standard / of_one } else { 1.0 };
        let (_, values) = ends.into_iter().min_by_key(|(room, _)| *room)?;
        Some(WorstEnd { values, picked, bias: Length::from_f64(worst.bias)? })
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
            Statistic::MeanOfPlaces | Statistic::EndByEnd | Statistic::MeanWithEnds => {
                Some(self.mean_of_places(term, size).unwrap_or(size.effective))
            }
            Statistic::LargestTrack => size.tracks.iter().copied().max(),
            Statistic::SmallestTrack => size.tracks.iter().copied().min(),
            Statistic::LargestPlace => Some(size.largest),
            Statistic::SmallestPlace => Some(size.smallest),
            Statistic::Taper => Some(size.taper),
            Statistic::OutOfRound => Some(size.out_of_round),
            Statistic::Travel => Some(size.largest - size.smallest),
        }
    }

    fn mean_of_places(&self, term: &Term, size: &Size) -> Option<Length> {
        let part = self.parts(term.role, term.read).find(|p| p.size.as_deref() == Some(size))?;
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
        places
            .filter_map(|p| Some(EndClearance { axial: p.position.axial, clearance: end(p.value?), widest: None }))
            .collect()
    }
}

/// The first term of that doubt that was measured: how.
fn measured_by<'k, 'a>(terms: &[&Term], known: &'k [Known<'a>], doubt: Doubt) -> Option<&'k MeasuredBy<'a>> {
    terms.iter().zip(known).filter(|(t, _)| t.doubt == doubt).find_map(|(_, known)| known.measured())
}

/// The size that a locked mic carried into the bore gauge: what it was zeroed at.
fn carried(terms: &[&Term], known: &[Known<'_>]) -> Option<Length> {
    let (low, high) = measured_by(terms, known, Doubt::Zeroed)?.open?.zeroed_at?;
    Length::mean(&[low, high])
}

/// By how much a part is smaller clamped than it is free, by the middle of its smallest and largest place; `None` where it was
/// not measured both ways. What ended since still tells how far they lay apart.
pub(crate) fn pulled(clamped: &SizeAssessment, free: &SizeAssessment) -> Option<Length> {
    let size = |part: &SizeAssessment| {
        let now = part.size.as_deref().filter(|_| part.complete);
        let size = now.or_else(|| part.stale.as_ref()?.size.as_ref())?;
        Length::mean(&[size.smallest, size.largest])
    };
    Some(size(free)? - size(clamped)?)
}

/// The angle in line with the load.
pub(super) const IN_LINE: i16 = 0;

/// The end of a bearing with the least room.
struct WorstEnd {
    /// Values there, by the number of their term.
    values: Vec<(usize, Length)>,
    /// What picking the worst end makes of the doubt of one.
    picked: f64,
    /// By how much it reads too tight; not positive.
    bias: Length,
}

/// What a doubt about temperatures does to a figure.
pub(crate) fn warmth(
    build: &Build,
    rules: &Rules,
    place: Place,
    parts: impl Iterator<Item = Characteristic>,
    noted: bool,
) -> Warmth {
    // The parts of a main are a steel crank and a block; the larger expansion bounds their difference.
    let alpha = parts.map(|part| material(&build.layout, part).alpha());
    let usual = rules.temperature_doubt_mk;
    let (least, most) = alpha.fold((f64::MAX, 0.0), |(least, most): (f64, f64), a| (least.min(a), most.max(a)));
    let own = build.layout.own_nominal(place);
    let size = own.unwrap_or_else(|| build.layout.journal(place.row())).as_f64();
    let room = rules.reckoning >= Reckoning::Second && !noted;
    Warmth {
        per_kelvin: size * most,
        doubt_mk: if noted { usual.min(NOTED_DOUBT_MK) } else { usual },
        room: if room { size * (most - least).max(0.0) * ROOM_DOUBT_K } else { 0.0 },
    }
}

/// How far a shop's room lies from 20 degrees while nobody noted it: standard uncertainty in kelvin.
const ROOM_DOUBT_K: f64 = 4.0;

/// Half of an undersize: what each of two walls is thicker by.
pub(super) fn half(undersize: Length) -> Length {
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
            Some(Judges::Unless(better)) => methods.iter().all(|m| m.method.name() != better),
            Some(Judges::Always) | None => m.low == m.high,
        };
        m.complete && allowed
    };
    let preferred = methods.iter().filter(may).find(|m| m.method == rules.preferred);
    preferred.map(|m| (m, ChosenBecause::Preferred)).or_else(|| {
        match rules.reckoning {
            Reckoning::First => methods.iter().find(may),
            _ => methods.iter().filter(may).min_by_key(|m| m.budget.expanded),
        }
        .map(|m| (m, ChosenBecause::ProvesMost))
    })
}

/// The judged method against each other complete one.
pub(crate) fn agreements(figure: Figure, judged: &MethodResult, methods: &[MethodResult]) -> Vec<Agreement> {
    // What only stands in for a better method says something else.
    let stands_in =
        |m: &&MethodResult| figure.method(m.method).is_some_and(|row| matches!(row.judges, Judges::Unless(_)));
    let others = methods.iter().filter(|m| m.complete && m.method != judged.method && !stands_in(m));
    others.map(|m| agreement(judged, m)).collect()
}

fn agreement(a: &MethodResult, b: &MethodResult) -> Agreement {
    let of = |m: &MethodResult| m.alike.clone().map_or((m.clearance, m.budget.clone()), |a| (a.value, a.budget));
    let ((value_a, budget_a), (value_b, budget_b)) = (of(a), of(b));
    let (own_a, own_b) = (budget_a.against(&budget_b), budget_b.against(&budget_a));
    let c = compare((value_a, own_a.expanded), (value_b, own_b.expanded));
    let whole = own_a.standard.hypot(own_b.standard);
    let of = |method, budget: Budget| {
        budget.parts.into_iter().map(move |mut contribution| {
            contribution.share = share(contribution.standard, whole);
            SuspectPart { method, contribution, everywhere: false, tied: false }
        })
    };
    let mut suspects: Vec<SuspectPart> =
        if c.agree { Vec::new() } else { of(a.method, own_a).chain(of(b.method, own_b)).collect() };
    suspects.sort_by(|a, b| b.contribution.share.total_cmp(&a.contribution.share));
    Agreement { of: a.method, with: b.method, difference: c.difference, en: c.en, agree: c.agree, suspects }
}
