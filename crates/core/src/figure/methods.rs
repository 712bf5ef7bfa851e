//! The clearance of one bearing by every method that has figures, which of them is judged, and whether
//! they agree.
//!
//! * **direct** and **subtract**: effective bore less effective journal; a dial was turned into a size with
//!   its own reference.
//! * **components**: housing (mean of its places, since crush and walls fill the whole of it) less both
//!   walls less journal. Walls that were not measured come from the catalogue: a band, judged by its
//!   middle.
//! * **strip**: what it reads, vertical only; a cross-check unless the rules let it judge.

use super::advice::{Warmth, advise};
use super::result::{Agreement, ChosenBecause, EndClearance, MethodResult, SuspectPart};
use super::uncertainty::{Basis, MeasuredBy, Wall};
use crate::build::Build;
use crate::engine::{Method, Nominals, Part, Station};
use crate::evidence::{FeatureAssessment, FeatureSize, Sessions, gauge_behind};
use crate::log::{NOTED_DOUBT_MK, Rules};
use crate::maths::{Clearance, Material, bore_less_journal, compare};
use crate::units::Length;

/// The features of one bearing that clearances are made of.
pub(crate) struct BearingSizes<'a> {
    pub build: &'a Build,
    pub rules: &'a Rules,
    pub sessions: &'a Sessions,
    pub station: Station,
    /// Undersize of its journal, for the walls that go with it.
    pub undersize: Length,
    pub journal: &'a FeatureAssessment,
    pub housing: &'a FeatureAssessment,
    pub bore_direct: &'a FeatureAssessment,
    pub bore_subtract: &'a FeatureAssessment,
    pub upper_wall: &'a FeatureAssessment,
    pub lower_wall: &'a FeatureAssessment,
    pub strip: &'a FeatureAssessment,
    /// Whether what ended stands in for what is not measured again.
    pub former: bool,
}

impl<'a> BearingSizes<'a> {
    /// The size of a feature, and whether every place behind it was touched.
    fn size(&self, feature: &'a FeatureAssessment) -> Option<(&'a FeatureSize, bool)> {
        if self.former && !feature.complete {
            let stale = feature.stale.as_ref().and_then(|s| s.size.as_ref());
            return stale.map(|s| (s, true));
        }
        feature.size.as_ref().map(|s| (s, feature.complete))
    }

    fn touched(&self, size: &FeatureSize) -> Option<MeasuredBy<'a>> {
        Some(MeasuredBy { gauge: gauge_behind(self.build, self.sessions, size)?, touches: size.touches })
    }

    fn nominals(&self) -> Option<&'a Nominals> {
        self.build.layout.nominals(self.station.row())
    }

    /// Every method that has figures.
    pub fn methods(&self) -> Vec<MethodResult> {
        Method::ALL.into_iter().filter_map(|m| self.method(m)).collect()
    }

    fn method(&self, method: Method) -> Option<MethodResult> {
        match method {
            Method::Direct => self.over_bore(method, self.bore_direct),
            Method::Subtract => self.over_bore(method, self.bore_subtract),
            Method::Components => self.components(),
            Method::Strip => self.strip(),
        }
    }

    fn over_bore(&self, method: Method, bore: &'a FeatureAssessment) -> Option<MethodResult> {
        let ((j, j_complete), (b, b_complete)) = (self.size(self.journal)?, self.size(bore)?);
        let (journal, by) = (self.touched(j)?, self.touched(b)?);
        let basis = match method {
            Method::Direct => Basis::Direct { journal, bore: by },
            _ => Basis::Subtract { journal, bore: by },
        };
        let ends = bore.positions.iter().filter(|p| !p.advisory).filter_map(|p| {
            let clearance = bore_less_journal(p.value?, j.effective);
            Some(EndClearance { axial: p.position.axial, clearance })
        });
        let clearance = bore_less_journal(b.effective, j.effective);
        let noted = j.noted_temperatures && b.noted_temperatures;
        let result = self.result(basis, j_complete && b_complete, clearance.into(), noted);
        Some(MethodResult { ends: ends.collect(), ..result })
    }

    fn components(&self) -> Option<MethodResult> {
        let ((j, j_complete), (h, h_complete)) = (self.size(self.journal)?, self.size(self.housing)?);
        let (journal, housing) = (self.touched(j)?, self.touched(h)?);
        let book = self.nominals().map(|n| (n.wall + half(self.undersize), n.wall_tolerance));
        // A wall in use: its largest, how it is known, and by how much it may be less.
        let wall = |feature: &'a FeatureAssessment| -> Option<(Length, Wall<'a>, Length)> {
            match self.size(feature).filter(|(_, complete)| *complete) {
                Some((size, _)) => Some((size.effective, Wall::Measured(self.touched(size)?), Length::ZERO)),
                None => book.map(|(wall, tolerance)| (wall, Wall::Catalogue(tolerance), tolerance)),
            }
        };
        let ((upper, by_upper, may_upper), (lower, by_lower, may_lower)) =
            (wall(self.upper_wall)?, wall(self.lower_wall)?);
        let bore = self.mean_of_housing(h);
        let low = bore - j.effective - upper - lower;
        let high = low + may_upper + may_lower;
        let middle = Length::mean(&[low, high]).unwrap_or(low);
        let band = Clearance { clearance: middle, low, high };
        let basis = Basis::Components { journal, housing, upper: by_upper, lower: by_lower };
        let noted = j.noted_temperatures && h.noted_temperatures;
        Some(self.result(basis, j_complete && h_complete, band, noted))
    }

    /// Walls fill the housing all around: its mean counts here, not its narrowest place.
    fn mean_of_housing(&self, size: &FeatureSize) -> Length {
        let values: Vec<Length> =
            self.housing.positions.iter().filter(|p| !p.advisory).filter_map(|p| p.value).collect();
        let measured = self.housing.size.as_ref() == Some(size);
        measured.then(|| Length::mean(&values)).flatten().unwrap_or(size.effective)
    }

    fn strip(&self) -> Option<MethodResult> {
        let (size, complete) = self.size(self.strip)?;
        let strip = self.touched(size)?;
        let ends = self
            .strip
            .positions
            .iter()
            .filter(|p| !p.advisory)
            .filter_map(|p| Some(EndClearance { axial: p.position.axial, clearance: p.value? }));
        let result = self.result(Basis::Strip { strip }, complete, size.effective.into(), false);
        Some(MethodResult { ends: ends.collect(), ..result })
    }

    fn result(&self, basis: Basis<'_>, complete: bool, c: Clearance, noted: bool) -> MethodResult {
        let warmth = warmth(self.build, self.rules, self.station, noted);
        MethodResult {
            method: basis.method(),
            complete,
            clearance: c.clearance,
            low: c.low,
            high: c.high,
            budget: basis.budget(warmth.standard()),
            advice: advise(&basis, warmth, &self.build.gauges),
            ends: Vec::new(),
        }
    }
}

/// What a doubt about temperatures does at a bearing.
pub(crate) fn warmth(build: &Build, rules: &Rules, station: Station, noted: bool) -> Warmth {
    // The parts of a main are a steel crank and a block; the larger expansion bounds their difference.
    let alpha = match station {
        Station::Main(_) => build.layout.block.alpha().max(Material::Steel.alpha()),
        _ => Material::Steel.alpha(),
    };
    let usual = rules.temperature_doubt_mk;
    Warmth {
        per_kelvin: build.layout.journal(station.row()).as_f64() * alpha,
        doubt_mk: if noted { usual.min(NOTED_DOUBT_MK) } else { usual },
    }
}

/// Half of an undersize: what each of two walls is thicker by.
fn half(undersize: Length) -> Length {
    Length::from_nm(undersize.nm() / 2)
}

/// The method that is judged: the preferred one where it is complete, else the one that proves most. A
/// strip only where the rules let it; walls by the catalogue only where components are preferred, since
/// nobody measured the shells that are in.
pub(crate) fn judged_method<'m>(
    rules: &Rules,
    methods: &'m [MethodResult],
) -> Option<(&'m MethodResult, ChosenBecause)> {
    let measured = |m: &&MethodResult| m.low == m.high || rules.preferred == Method::Components;
    let may = |m: &&MethodResult| m.complete && measured(m) && (m.method != Method::Strip || rules.strip_judges);
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
    let context = own_a.standard.hypot(own_b.standard);
    let of = |method, budget: super::uncertainty::Budget| {
        budget.parts.into_iter().map(move |mut contribution| {
            contribution.share = crate::maths::share(contribution.standard, context);
            SuspectPart { method, contribution }
        })
    };
    let mut suspects: Vec<SuspectPart> =
        if c.agree { Vec::new() } else { of(a.method, own_a).chain(of(b.method, own_b)).collect() };
    suspects.sort_by(|a, b| b.contribution.share.total_cmp(&a.contribution.share));
    Agreement { of: a.method, with: b.method, difference: c.difference, en: c.en, agree: c.agree, suspects }
}

/// Whether a part's measurement is used by a method.
pub(super) const fn uses(method: Method, part: Part) -> bool {
    match method {
        Method::Direct | Method::Subtract => matches!(part, Part::Journal | Part::Bore),
        Method::Components => matches!(part, Part::Journal | Part::Housing | Part::UpperWall | Part::LowerWall),
        Method::Strip => matches!(part, Part::Strip),
    }
}
