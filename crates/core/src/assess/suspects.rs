//! Where methods disagree: which one fault explains the differences over the whole row.
//!
//! A wrong mic shifts every bearing by every method that takes its size in full, a wrong zero every dial, a wrong ball mic
//! every bearing by its parts; dirt behind one shell shifts one bearing, however its bore is read. Each such fault is a
//! pattern `a` over bearings and methods. With what every method says of a bearing (`v`, its own doubt `u`, all methods of one
//! bearing free to move together, and every gauge off by what it is allowed: `V`) the pattern explains
//!
//! ```text
//! B = (a.v)^2 / (a.a + 1/s^2) / 2 - ln(1 + s^2 a.a) / 2 + ln(weight),    a.v = a' V^-1 v
//! ```
//!
//! the logarithm of how much likelier the row is with a fault of about `s` = 4 tenths than without (Bayes factor of a normal
//! amplitude). The largest comes first. A gauge's scale is also held against the drawing: journals and housings that lie off
//! their nominal sizes all alike speak for their gauge.
use std::collections::{BTreeMap, BTreeSet};

use super::exchanged::say_swapped;
use crate::build::Build;
use crate::engine::{BearingRow, Doubt, Figure, Place, Read, Role, Term};
use crate::evidence::{Sessions, SizeAssessment, gauge_behind};
use crate::figure::{Alike, Contribution, DoubtSource, FigureAssessment, MethodResult, SuspectPart};
use crate::log::Reckoning;
use crate::maths::combined;
use crate::units::Length;

/// How large a fault usually is, in nanometres: four tenths.
const USUAL: f64 = 10_160.0;

/// How much likelier than a sound row two swapped neighbours have to be before it is said.
const SURE: f64 = 20.0;

/// How far the parts of a row lie off their drawing all alike, in nanometres: two tenths.
const OFF_DRAWING: f64 = 5_080.0;

/// Cosine between what two faults do to a row from which on nobody can tell them apart.
const SAME_WAY: f64 = 0.99;

/// Something that may be wrong.
#[derive(Debug, Clone, PartialEq, Eq, PartialOrd, Ord)]
enum Fault {
    /// The scale of a gauge, wherever a size is read with it in full.
    Scale(String),
    /// What the bore gauge was zeroed in, or how.
    Zero,
    /// Walls that were believed by the catalogue.
    Catalogue,
    /// Something between a shell and its seat at one bearing.
    Seat(Place),
    /// The touches of one part of one bearing.
    Touches(Place, Role, &'static str),
    /// The touches of one part written down at each other's bearings, each off by what the two parts differ.
    Swapped { places: [Place; 2], role: Role, apart: Length },
}

/// What one method says of one bearing.
struct Said<'a> {
    place: Place,
    result: &'a MethodResult,
    alike: &'a Alike,
    terms: &'static [Term],
    /// Its own doubt, without what it shares with the rest of the row or with the other methods.
    doubt: f64,
}

/// The gauge that a term was measured with.
fn gauge_of(figure: &FigureAssessment, term: &Term, build: &Build, sessions: &Sessions) -> Option<String> {
    let size = figure.part(term.role, term.read).size.as_ref()?;
    Some(gauge_behind(build, sessions, size)?.name.clone())
}

/// How a read is told apart in a fault.
const fn read_name(read: Read) -> &'static str {
    match read {
        Read::Dial => "dial",
        _ => "size",
    }
}

/// By how much a method moves for one nanometre of a fault.
fn effect(fault: &Fault, said: &Said<'_>, gauge: impl Fn(&Term) -> Option<String>) -> f64 {
    let in_full = |t: &Term| {
        let by_ring = t.doubt == Doubt::Feel && said.result.zero.is_some_and(|zero| !zero.set_by_the_mic());
        t.doubt == Doubt::InFull || by_ring
    };
    let by_book = said.result.low != said.result.high;
    let moved = |t: &&Term| match fault {
        Fault::Scale(name) => in_full(t) && !(by_book && t.by_catalogue) && gauge(t).as_deref() == Some(name.as_str()),
        Fault::Zero => t.doubt == Doubt::Zeroed,
        Fault::Catalogue => by_book && t.by_catalogue,
        Fault::Seat(place) => *place == said.place && t.role == Role::BORE,
        Fault::Touches(place, role, read) => {
            *place == said.place && t.role == *role && read_name(t.read) == *read && !(by_book && t.by_catalogue)
        }
        Fault::Swapped { places, role, .. } => {
            places.contains(&said.place) && t.role == *role && !(by_book && t.by_catalogue)
        }
    };
    let moves: f64 = said.terms.iter().filter(moved).map(|t| f64::from(t.factor)).sum();
    // Of two that were swapped one is too large by what the other is too small.
    let second = matches!(fault, Fault::Swapped { places, .. } if places[1] == said.place);
    if second { -moves } else { moves }
}

/// A row as all complete methods see it.
struct Seen<'a> {
    build: &'a Build,
    sessions: &'a Sessions,
    figures: Vec<&'a FigureAssessment>,
    said: Vec<Vec<Said<'a>>>,
}

/// Sources that a bearing has for itself.
fn own(source: DoubtSource) -> bool {
    matches!(source, DoubtSource::Repeat | DoubtSource::Resolution | DoubtSource::PrintedStep)
}

impl<'a> Seen<'a> {
    fn of(build: &'a Build, sessions: &'a Sessions, figures: Vec<&'a FigureAssessment>) -> Self {
        let said = figures.iter().map(|f| {
            let one = |m: &'a MethodResult| {
                let alike = m.alike.as_ref()?;
                let ours = alike.budget.parts.iter().filter(|p| own(p.source) && p.of != Role::JOURNAL);
                let terms = f.figure.method(m.method)?.terms;
                Some(Said { place: f.station, result: m, alike, terms, doubt: combined(ours.map(|p| p.standard)) })
            };
            f.methods.iter().filter_map(one).filter(|s| s.doubt > 0.0).collect::<Vec<_>>()
        });
        let said = said.collect();
        Seen { build, sessions, figures, said }
    }

    fn faults(&self) -> BTreeSet<Fault> {
        let mut faults = BTreeSet::new();
        for (figure, said) in self.figures.iter().zip(&self.said) {
            for method in said {
                for term in method.terms {
                    match term.doubt {
                        Doubt::InFull => faults.extend(self.gauge(figure, term).map(Fault::Scale)),
                        Doubt::Zeroed => drop(faults.insert(Fault::Zero)),
                        _ => {}
                    }
                    if term.role == Role::BORE {
                        faults.insert(Fault::Seat(figure.station));
                    }
                    if term.role != Role::JOURNAL {
                        faults.insert(Fault::Touches(figure.station, term.role, read_name(term.read)));
                    }
                }
                if method.result.low != method.result.high {
                    faults.insert(Fault::Catalogue);
                }
            }
        }
        faults.extend(self.swaps());
        faults
    }

    /// Every part of two neighbours that may have been written down at each other's bearings.
    fn swaps(&self) -> impl Iterator<Item = Fault> {
        let neighbours = self.figures.windows(2).filter_map(|pair| <[&FigureAssessment; 2]>::try_from(pair).ok());
        neighbours.flat_map(|pair| {
            let each = [Role::BORE, Role::HOUSING, Role::UPPER_WALL, Role::LOWER_WALL].into_iter();
            each.filter_map(move |role| {
                let [a, b] = pair.map(|f| size_in_use(f, role));
                let apart = a? - b?;
                let places = pair.map(|f| f.station);
                (apart != Length::ZERO).then_some(Fault::Swapped { places, role, apart })
            })
        })
    }

    fn gauge(&self, figure: &FigureAssessment, term: &Term) -> Option<String> {
        gauge_of(figure, term, self.build, self.sessions)
    }

    /// What is seen, as values that faults may move.
    fn observed(&self) -> Vec<Observed> {
        let mut all = Vec::new();
        for (bearing, said) in self.said.iter().enumerate().filter(|(_, said)| said.len() > 1) {
            let first = said[0].alike.value;
            all.extend(said.iter().map(|s| Observed {
                bearing: Some(bearing),
                weight: 1.0 / (s.doubt * s.doubt),
                value: (s.alike.value - first).as_f64(),
            }));
        }
        // Journals and housings that all lie off the drawing alike speak for their gauge.
        for (_, mean) in self.off_drawing() {
            all.push(Observed { bearing: None, weight: 1.0 / (OFF_DRAWING * OFF_DRAWING), value: mean });
        }
        all
    }

    /// By how much each observed value moves for one nanometre of a fault.
    fn pattern(&self, fault: &Fault) -> Vec<f64> {
        let bearings = self.figures.iter().zip(&self.said).filter(|(_, said)| said.len() > 1);
        let methods =
            bearings.flat_map(|(figure, said)| said.iter().map(|s| effect(fault, s, |t| self.gauge(figure, t))));
        let drawing = self.off_drawing().into_iter().map(|(gauge, _)| match fault {
            Fault::Scale(name) if *name == gauge => 1.0,
            _ => 0.0,
        });
        methods.chain(drawing).collect()
    }

    /// How far journals and housings lie off their drawing on the mean, with the gauge they were read with.
    fn off_drawing(&self) -> Vec<(String, f64)> {
        let mean = |role: Role| {
            let offs: Vec<(String, f64)> = self.figures.iter().filter_map(|f| self.off_nominal(f, role)).collect();
            let (gauge, _) = offs.first()?.clone();
            let by_it: Vec<f64> = offs.iter().filter(|(g, _)| *g == gauge).map(|(_, off)| *off).collect();
            (by_it.len() > 1).then(|| (gauge, by_it.iter().sum::<f64>() / by_it.len() as f64))
        };
        [Role::JOURNAL, Role::HOUSING].into_iter().filter_map(mean).collect()
    }

    /// How far a part lies off its drawing, and the gauge it was read with.
    fn off_nominal(&self, figure: &FigureAssessment, role: Role) -> Option<(String, f64)> {
        let part: &SizeAssessment = figure.part(role, Read::Size);
        let size = part.size.as_ref().filter(|_| part.complete)?;
        let named = gauge_behind(self.build, self.sessions, size)?;
        let row = figure.station.row();
        let nominal = if role == Role::HOUSING {
            self.build.layout.nominals(row)?.housing
        } else {
            self.build.layout.journal(row) - figure.class?.undersize?
        };
        let mean = Length::mean(&[size.smallest, size.largest])?;
        Some((named.name.clone(), (mean - nominal).as_f64()))
    }

    /// How much of a fault is nothing unusual: what the gauges are allowed.
    fn allowed(&self, fault: &Fault) -> Option<f64> {
        let parts = || self.said.iter().flatten().flat_map(|s| &s.alike.budget.parts);
        let of = |wanted: &dyn Fn(&Contribution) -> bool| {
            let found = parts().filter(|p| wanted(p)).map(|p| p.standard).fold(0.0, f64::max);
            (found > 0.0).then_some(found)
        };
        match fault {
            Fault::Scale(name) => {
                let gauges = self.build.gauges.iter().chain(self.sessions.all.iter().map(|s| &s.gauge));
                gauges.filter(|g| g.name == *name).map(|g| g.calibration.as_f64() / 2.0).reduce(f64::max)
            }
            Fault::Zero => {
                let sources = [DoubtSource::Zeroing, DoubtSource::Setting, DoubtSource::Reference];
                let each = sources.into_iter().filter_map(|source| of(&|p| p.source == source));
                Some(combined(each))
            }
            Fault::Catalogue => of(&|p| p.source == DoubtSource::Catalogue).map(|both| both / 2.0),
            Fault::Seat(_) | Fault::Touches(..) | Fault::Swapped { .. } => None,
        }
        .filter(|allowed| *allowed > 0.0)
    }

    /// Gauges and zeroes that move the methods against each other just as the likeliest of them does: a mic that reads over, a
    /// bore gauge that reads under and a wrong zero look alike, and only the drawing or a check on a standard tells them apart.
    fn tied(&self, ranked: &[(Fault, f64, f64)]) -> Vec<Fault> {
        let observed: Vec<Observed> = self.observed().into_iter().filter(|o| o.bearing.is_some()).collect();
        let of = |fault: &Fault| -> Vec<f64> { self.pattern(fault).into_iter().take(observed.len()).collect() };
        let gauges = ranked.iter().map(|(fault, ..)| fault).filter(|f| matches!(f, Fault::Scale(_) | Fault::Zero));
        let with_patterns: Vec<(&Fault, Vec<f64>)> = gauges.map(|f| (f, of(f))).collect();
        let Some((_, first)) = with_patterns.first() else { return Vec::new() };
        let size = |v: &[f64]| plain(&observed, v, v).max(0.0).sqrt();
        let same = |(_, pattern): &&(&Fault, Vec<f64>)| {
            plain(&observed, first, pattern).abs() >= SAME_WAY * size(first) * size(pattern) && size(pattern) > 0.0
        };
        let tied: Vec<Fault> = with_patterns.iter().filter(same).map(|(fault, _)| (*fault).clone()).collect();
        if tied.len() > 1 { tied } else { Vec::new() }
    }

    /// Every fault with how well it explains the row, the best first.
    fn ranked(&self) -> Vec<(Fault, f64, f64)> {
        let observed = self.observed();
        let bearings = self.said.iter().filter(|s| s.len() > 1).count().max(1) as f64;
        let faults: Vec<(Fault, Vec<f64>)> =
            self.faults().into_iter().map(|f| (self.pattern(&f), f)).map(|(p, f)| (f, p)).collect();
        let usual = faults.iter().filter_map(|(f, pattern)| Some((pattern.as_slice(), self.allowed(f)?)));
        let row = Usual::of(&observed, usual.collect());
        let values: Vec<f64> = observed.iter().map(|o| o.value).collect();
        let mut ranked: Vec<(Fault, f64, f64)> = Vec::new();
        for (fault, pattern) in &faults {
            let (with_values, with_itself) = (row.product(pattern, &values), row.product(pattern, pattern));
            if with_itself <= 0.0 {
                continue;
            }
            // What two parts differ by is known, so nothing is fitted: the row has to show just that.
            if let Fault::Swapped { apart, .. } = fault {
                let by = apart.as_f64();
                let explains = by * with_values - by * by * with_itself / 2.0;
                ranked.push((fault.clone(), explains - (4.0 * bearings).ln(), explains));
                continue;
            }
            let weight = match fault {
                Fault::Seat(_) => -bearings.ln(),
                // Touches were repeated: what is wrong with them is rarer than dirt.
                Fault::Touches(..) => -bearings.ln() - 2f64.ln(),
                _ => 0.0,
            };
            let prior = 1.0 / (USUAL * USUAL);
            let explains = with_values * with_values / (with_itself + prior) / 2.0;
            let spread = (1.0 + with_itself / prior).ln() / 2.0;
            ranked.push((fault.clone(), explains - spread + weight, explains));
        }
        ranked.sort_by(|a, b| b.1.total_cmp(&a.1));
        ranked
    }
}

/// A value that faults may move. Values of one bearing are free to move together.
struct Observed {
    bearing: Option<usize>,
    weight: f64,
    value: f64,
}

/// Products of patterns over what is observed, with everything that is usual (each gauge off by what it is allowed) taken for
/// chance: `x' V^-1 y` with `V` the doubts of the values and the allowances together.
struct Usual<'a> {
    observed: &'a [Observed],
    patterns: Vec<&'a [f64]>,
    /// `(T^-1 + A' W A)`, `T` the squares of the allowances.
    matrix: Vec<Vec<f64>>,
}

impl<'a> Usual<'a> {
    fn of(observed: &'a [Observed], usual: Vec<(&'a [f64], f64)>) -> Self {
        let patterns: Vec<&[f64]> = usual.iter().map(|(p, _)| *p).collect();
        let matrix = usual.iter().enumerate().map(|(i, (a, allowed))| {
            let one =
                |(j, b): (usize, &&[f64])| plain(observed, a, b) + if i == j { 1.0 / (allowed * allowed) } else { 0.0 };
            patterns.iter().enumerate().map(one).collect()
        });
        let matrix = matrix.collect();
        Usual { observed, patterns, matrix }
    }

    fn product(&self, x: &[f64], y: &[f64]) -> f64 {
        let with = |v: &[f64]| -> Vec<f64> { self.patterns.iter().map(|p| plain(self.observed, p, v)).collect() };
        let solved = solve(self.matrix.clone(), with(y));
        plain(self.observed, x, y) - with(x).iter().zip(&solved).map(|(a, b)| a * b).sum::<f64>()
    }
}

/// The weighted product with the mean of each bearing taken off.
fn plain(observed: &[Observed], x: &[f64], y: &[f64]) -> f64 {
    let mut sums: BTreeMap<Option<usize>, [f64; 4]> = BTreeMap::new();
    for ((o, x), y) in observed.iter().zip(x).zip(y) {
        let [w, wx, wy, wxy] = sums.entry(o.bearing).or_default();
        *w += o.weight;
        *wx += o.weight * x;
        *wy += o.weight * y;
        *wxy += o.weight * x * y;
    }
    sums.into_iter().map(|(bearing, [w, x, y, xy])| if bearing.is_some() { xy - x * y / w } else { xy }).sum()
}

/// Solves a small positive definite system by elimination, column by column.
fn solve(mut matrix: Vec<Vec<f64>>, mut right: Vec<f64>) -> Vec<f64> {
    for i in 0..right.len() {
        let (pivot, of_pivot) = (matrix[i].clone(), right[i]);
        for (row, value) in matrix.iter_mut().zip(&mut right).enumerate().filter(|(j, _)| *j != i).map(|(_, pair)| pair)
        {
            let times = row[i] / pivot[i];
            row.iter_mut().zip(&pivot).for_each(|(cell, above)| *cell -= times * above);
            *value -= times * of_pivot;
        }
    }
    right.iter().zip(&matrix).enumerate().map(|(i, (value, row))| value / row[i]).collect()
}

/// The size of a part that figures are made of, where all of it is measured.
fn size_in_use(figure: &FigureAssessment, role: Role) -> Option<Length> {
    let part = if role == Role::BORE { figure.bore_in_use() } else { figure.part(role, Read::Size) };
    part.size.as_ref().filter(|_| part.complete).map(|s| s.effective)
}

/// A fault as a contribution of a method, with how much of the best explanation it gives.
fn part(fault: &Fault, share: f64, said: &Said<'_>) -> SuspectPart {
    let (of, source, gauge) = match fault {
        Fault::Scale(name) => (Role::JOURNAL, DoubtSource::Calibration, Some(name.clone())),
        Fault::Zero => (Role::BORE, DoubtSource::Zeroing, None),
        Fault::Catalogue => (Role::UPPER_WALL, DoubtSource::Catalogue, None),
        Fault::Seat(_) => (Role::BORE, DoubtSource::Seating, None),
        Fault::Touches(_, role, _) | Fault::Swapped { role, .. } => (*role, DoubtSource::Repeat, None),
    };
    let everywhere = !matches!(fault, Fault::Seat(_) | Fault::Touches(..) | Fault::Swapped { .. });
    let contribution = Contribution { share, gauge, ..Contribution::new(of, source, 0.0) };
    SuspectPart { method: said.result.method, contribution, everywhere, tied: false }
}

/// Says that two neighbours' touches were written down at each other's bearings, where nothing explains the row better and
/// it is twenty times as likely as a row without a fault.
fn say_what_was_swapped(ranked: &[(Fault, f64, f64)], figures: &mut [FigureAssessment]) {
    let Some((Fault::Swapped { places, role, .. }, likely, _)) = ranked.first() else { return };
    if *likely < SURE.ln() {
        return;
    }
    say_swapped(*places, *role, figures);
}

/// Those that nobody can tell apart stand together, where the likeliest of them stands.
fn together(parts: Vec<SuspectPart>) -> Vec<SuspectPart> {
    let Some(first) = parts.iter().position(|p| p.tied) else { return parts };
    let (mut tied, apart): (Vec<SuspectPart>, Vec<SuspectPart>) = parts.into_iter().partition(|p| p.tied);
    let mut all: Vec<SuspectPart> = apart;
    let after = all.split_off(first.min(all.len()));
    all.append(&mut tied);
    all.extend(after);
    all
}

/// Names the suspects of every disagreement in a row, by how well each fits all its bearings.
pub(super) fn name_suspects(
    (build, reckoning): (&Build, Reckoning),
    sessions: &Sessions,
    row: BearingRow,
    figures: &mut [FigureAssessment],
) {
    let of_row = |f: &FigureAssessment| f.figure == Figure::OIL_CLEARANCE && f.row == row;
    let disagrees = |f: &FigureAssessment| of_row(f) && f.agreements.iter().any(|a| !a.agree);
    if !figures.iter().any(|f| of_row(f) && !f.agreements.is_empty()) {
        return;
    }
    let seen = Seen::of(build, sessions, figures.iter().filter(|f| of_row(f)).collect());
    let ranked = seen.ranked();
    let tied = if reckoning >= Reckoning::Third { seen.tied(&ranked) } else { Vec::new() };
    let best = ranked.first().map_or(0.0, |(.., explains)| *explains).max(f64::MIN_POSITIVE);
    let mut named: Vec<(Place, Vec<SuspectPart>)> = Vec::new();
    for (figure, said) in seen.figures.iter().zip(&seen.said) {
        let here = |fault: &Fault| match fault {
            Fault::Seat(place) | Fault::Touches(place, ..) => *place == figure.station,
            Fault::Swapped { places, .. } => places.contains(&figure.station),
            _ => true,
        };
        let parts = ranked.iter().filter(|(fault, ..)| here(fault)).filter_map(|(fault, _, explains)| {
            let moved = |s: &&Said<'_>| effect(fault, s, |t| seen.gauge(figure, t)) != 0.0;
            let by = said.iter().find(moved)?;
            Some(SuspectPart { tied: tied.contains(fault), ..part(fault, (explains / best).min(1.0), by) })
        });
        named.push((figure.station, together(parts.collect())));
    }
    say_what_was_swapped(&ranked, figures);
    for figure in figures.iter_mut().filter(|f| disagrees(f)) {
        let Some((_, parts)) = named.iter().find(|(place, _)| *place == figure.station) else { continue };
        for agreement in figure.agreements.iter_mut().filter(|a| !a.agree) {
            agreement.suspects.clone_from(parts);
        }
    }
}
