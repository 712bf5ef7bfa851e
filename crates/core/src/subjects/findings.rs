//! What a practised eye would remark on at a bearing.
use super::faces::beyond_on_grid;
use super::rings::in_new_bore;
use crate::engine::{Figure, Place, Role};
use crate::evidence::{Size, SizeAssessment, gauge_behind, material};
use crate::figure::{Context, FigureAssessment, Finding, Measured, pulled, shape_of};
use crate::gauge::{GaugeFit, steps_in_tenths};
use crate::log::{InspectedPart, Inspection, Note, Reckoning, SetUp, ShapeLimits, What};
use crate::maths::{Material, State, suspects};
use crate::units::{Day, Length};

/// What was found out on the way and is remarked on here.
pub(crate) struct Remarks {
    /// Reason of an acceptance that no longer holds.
    pub lapsed: Option<String>,
}

/// Every remark about a bearing, the gravest first.
pub(crate) fn findings(context: &Context<'_>, s: &FigureAssessment, remarks: Remarks) -> Vec<Finding> {
    let mut found = Vec::new();
    if s.figure.row().fitted {
        stops(context, s, &mut found);
        shape_of_the_bearing(context, s, &mut found);
    }
    for a in s.agreements.iter().filter(|a| !a.agree) {
        found.push(Finding::MethodsDisagree { of: a.of, with: a.with, difference: a.difference });
    }
    if let Some(check) = s.prediction.as_ref().filter(|p| !p.agrees) {
        let (difference, combined) = (check.difference, check.combined);
        found.push(Finding::PredictionMissed { difference, combined });
    }
    if s.judged.as_ref().is_some_and(|j| !j.decidable) {
        found.push(Finding::Undecidable);
    }
    found.extend(worn(s));
    if s.class.is_some_and(|c| c.undersize.is_none()) {
        found.push(Finding::NotOfFamily);
    }
    housing_size(context, s, &mut found);
    found.extend(beyond_on_grid(context, s));
    found.extend(below_floor(context, s));
    found.extend(rough(context, s));
    found.extend(plate_pulls(context, s));
    found.extend(in_new_bore(context, s));
    for m in &s.measured {
        of_part(context, s, m, &mut found);
    }
    set_up(context, s, &mut found);
    found.extend(remarks.lapsed.map(|reason| Finding::ConcessionLapsed { reason }));
    found
}

/// Less end play than three thou burns the thrust faces, whatever a window allows.
const THRUST_FLOOR: Length = Length::tenths(30);

/// An end play below that floor.
fn below_floor(context: &Context<'_>, s: &FigureAssessment) -> Option<Finding> {
    let third = context.rules.reckoning >= Reckoning::Third && s.figure == Figure::END_PLAY;
    let below = s.judged.as_ref().is_some_and(|j| j.smallest < THRUST_FLOOR);
    (third && below).then_some(Finding::BelowFloor { floor: THRUST_FLOOR })
}

/// What is read of the surface that a figure rests on, where it is rougher than it may be: the journal of a bearing, a face.
fn rough(context: &Context<'_>, s: &FigureAssessment) -> Option<Finding> {
    let is_its_surface = |at: Place| {
        let surface = Note::Roughness.parts_of(at).next().filter(|c| c.role() != Role::JOURNAL);
        surface.is_some_and(|surface| s.measured.iter().any(|m| m.characteristic == surface))
    };
    let fitted = s.figure.row().fitted;
    let at = if fitted { s.journal_at } else { s.station };
    let roughness = Length::from_nm(context.noted.value(at, Note::Roughness)?);
    if !fitted && !is_its_surface(at) {
        return None;
    }
    let limit = context.rules.finish().exceeded(at, roughness)?;
    Some(Finding::Rough { at, roughness, limit })
}

/// What a torque plate does to a bore that was measured with it and without.
fn plate_pulls(context: &Context<'_>, s: &FigureAssessment) -> Option<Finding> {
    let asked = context.rules.reckoning >= Reckoning::Third && s.figure == Figure::PISTON_TO_WALL;
    let bare = s.figure.row().methods.iter().find_map(|m| m.unclamped).filter(|_| asked)?;
    let clamped = s.figure.row().inputs.first()?;
    let (with, without) = (s.part(clamped.role, clamped.read), s.part(bare, clamped.read));
    let both = with.complete && without.complete;
    let by = pulled(with, without).filter(|by| both && *by != Length::ZERO)?;
    Some(Finding::PlatePulls { by })
}

/// What the factory's wear range says of a figure that is outside its window.
fn worn(s: &FigureAssessment) -> Option<Finding> {
    let range = s.target.as_ref()?.wear.as_ref()?;
    let judged = s.judged.as_ref().filter(|j| matches!(j.state, State::Tight | State::Loose))?;
    let by = (range.low - judged.smallest).max(judged.largest - range.high);
    Some(if by > Length::ZERO { Finding::BeyondWear { by } } else { Finding::WithinWear })
}

fn stops(context: &Context<'_>, s: &FigureAssessment, found: &mut Vec<Finding>) {
    let inspections = context.inspections.all();
    let journal = |at: Place, look: &Inspection| at == s.journal_at && look.part == InspectedPart::Journal;
    if inspections.iter().any(|(at, _, l)| journal(*at, l) && l.signs.iter().any(|sign| sign.is_stop())) {
        found.push(Finding::StopJournal);
    }
}

/// Difference of two expansions per kelvin from which the warmth of a room shows in a clearance: light alloy beside steel.
const GROWS_OTHERWISE: f64 = 5e-6;

/// Whether a part grows otherwise than its crank and nobody noted how warm it was.
fn unnoted_warmth(context: &Context<'_>, m: &Measured) -> bool {
    let otherwise = material(&context.build.layout, m.characteristic).alpha() - Material::Steel.alpha();
    let judged = m.role == Role::BORE || m.role == Role::HOUSING;
    let unnoted = m.size.size.as_ref().is_some_and(|s| !s.noted_temperatures);
    context.rules.reckoning >= Reckoning::Second && judged && unnoted && otherwise.abs() > GROWS_OTHERWISE
}

fn step(context: &Context<'_>, size: &Size) -> Length {
    gauge_behind(context.build, context.sessions, size).map_or(Length::ZERO, |g| g.resolution)
}

/// How much of a bearing's taper wants explaining: by the third reckoning what is left of it without the noise of its readings,
/// less the standard uncertainty of that. A row has many bearings, and one of them always reads a little more than it is.
fn taper_to_explain(context: &Context<'_>, bore: &SizeAssessment, size: &Size) -> Length {
    match shape_of(bore) {
        Some([taper, _]) if context.rules.reckoning >= Reckoning::Third => {
            taper.value - Length::from_nm(taper.expanded.nm() / 2)
        }
        _ => size.taper,
    }
}

fn shape_of_the_bearing(context: &Context<'_>, s: &FigureAssessment, found: &mut Vec<Finding>) {
    let (bore, journal) = (s.bore_in_use(), s.journal());
    let housing = s.housing().size.as_ref().filter(|_| s.housing().complete);
    if let (Some(b), Some(j), true, true) = (&bore.size, &journal.size, bore.complete, journal.complete) {
        let list = suspects(taper_to_explain(context, bore, b), housing.map(|h| h.taper), j.taper, step(context, b));
        if !list.is_empty() {
            let explained = housing.map_or(j.taper, |h| h.taper.max(j.taper));
            let shells = shells_taper(context, s);
            found.push(Finding::TaperOverBearing { taper: b.taper, explained, shells, suspects: list });
        }
    }
    let Some(limits) = context.rules.shape else { return };
    if context.rules.reckoning >= Reckoning::Third {
        shapes(s, limits, found);
        return;
    }
    let shapes = [
        (Role::JOURNAL, true, s.journal().size.as_ref().map(|z| z.taper), limits.journal_taper),
        (Role::JOURNAL, false, s.journal().size.as_ref().map(|z| z.out_of_round), limits.journal_round),
        (Role::HOUSING, false, s.housing().size.as_ref().map(|z| z.out_of_round), limits.housing_round),
    ];
    for (part, taper, value, limit) in shapes {
        if let Some(value) = value.filter(|v| *v > limit) {
            found.push(Finding::Shape { part, taper, value, limit, likely: false });
        }
    }
}

/// Shapes without the noise of their readings; what the gauges may only seem to see is said as likely.
fn shapes(s: &FigureAssessment, limits: ShapeLimits, found: &mut Vec<Finding>) {
    let housing_taper = limits.housing_taper.unwrap_or(limits.housing_round);
    let parts = [
        (Role::JOURNAL, s.journal(), [limits.journal_taper, limits.journal_round]),
        (Role::HOUSING, s.housing(), [housing_taper, limits.housing_round]),
    ];
    for (part, size, limits) in parts {
        let Some(spans) = shape_of(size) else { continue };
        for (taper, (span, limit)) in [true, false].into_iter().zip(spans.into_iter().zip(limits)) {
            if span.value > limit {
                let likely = span.value - span.expanded <= limit;
                found.push(Finding::Shape { part, taper, value: span.value, limit, likely });
            }
        }
    }
}

/// What both shells taper together, where the walls of both were measured along them.
fn shells_taper(context: &Context<'_>, s: &FigureAssessment) -> Option<Length> {
    let taper = |role| {
        let wall = &s.measured.iter().find(|m| m.role == role)?.size;
        let along = wall.positions.iter().filter(|p| !p.advisory).count() > 1;
        wall.size.as_ref().filter(|_| wall.complete && along).map(|size| size.taper)
    };
    let both = taper(Role::UPPER_WALL)? + taper(Role::LOWER_WALL)?;
    (context.rules.reckoning >= Reckoning::Second).then_some(both)
}

fn housing_size(context: &Context<'_>, s: &FigureAssessment, found: &mut Vec<Finding>) {
    let nominals = context.build.layout.nominals(s.station.row());
    let (Some(n), Some(h), true) = (nominals, &s.housing().size, s.housing().complete) else { return };
    let off = |size: Length| size - n.housing;
    let by = if off(h.smallest) < -n.housing_tolerance {
        off(h.smallest) + n.housing_tolerance
    } else {
        (off(h.largest) - n.housing_tolerance).max(Length::ZERO)
    };
    if by != Length::ZERO {
        found.push(Finding::HousingOff { by });
    }
}

/// What is to be said about one part of a figure and the gauge on it.
fn of_part(context: &Context<'_>, s: &FigureAssessment, m: &Measured, found: &mut Vec<Finding>) {
    let Some(size) = &m.size.size else { return };
    let (part, characteristic, row) = (m.role, m.characteristic, m.characteristic.row());
    let step = step(context, size);
    let spread_out = m.size.positions.iter().filter(|p| p.touches.len() >= 3 && p.spread > step);
    found.extend(spread_out.map(|p| Finding::RepeatsSpread { characteristic, position: p.position, spread: p.spread }));
    if let Some(relief) = size.relief.filter(|r| row.relieved && *r <= Length::ZERO) {
        found.push(Finding::ReliefNotPositive { relief });
    }
    if size.between.is_some_and(|between| between.contradicted) {
        found.push(Finding::BladesContradict { part });
    }
    let gain = m.size.positions.iter().filter_map(|p| p.not_seated).max();
    found.extend(gain.map(|gain| Finding::NotSeated { gain }));
    let void = m.size.positions.iter().map(|p| p.void.len()).sum();
    if void > 0 {
        found.push(Finding::PushVoid { part, count: void });
    }
    let difference = size.largest - size.smallest;
    if let Some(limit) = row.places_within.map(Length::from_nm).filter(|limit| difference > *limit) {
        found.push(Finding::PlacesDiffer { part, difference, limit });
    }
    let slots = context.touches.at(m.spot()).map(|(_, slot)| slot);
    if !size.proven && row.checked_gauge {
        found.push(Finding::Unproven { part });
    }
    // The latest touch tells: a gauge that was past due before it still is.
    let latest = slots.clone().filter_map(|slot| slot.fresh.last()).max_by_key(|t| t.fact.seq);
    let late = latest.and_then(|t| t.gauge.filter(|g| g.past_due(Day::of(t.fact.at))));
    found.extend(late.map(|g| Finding::PastDue { part, gauge: g.name.clone() }));
    if size.gauge_fit == Some(GaugeFit::TooCoarse)
        && let Some((gauge, target)) = gauge_behind(context.build, context.sessions, size).zip(s.target.as_ref())
    {
        let width = target.window.high - target.window.low;
        let ratio_tenths = steps_in_tenths(gauge.resolution, width);
        found.push(Finding::TooCoarse { part, gauge: gauge.name.clone(), ratio_tenths });
    }
    if unnoted_warmth(context, m) {
        found.push(Finding::RoomUnknown { part });
    }
    if slots.flat_map(|slot| &slot.fresh).any(|t| t.to_soak) {
        found.push(Finding::LetItSoak { part });
    }
}

/// The set-up in force for a row, by the last that was recorded.
fn set_up_of<'a>(context: &Context<'a>, station: Place) -> Option<&'a SetUp> {
    context.notes.iter().rev().find_map(|f| match &f.what {
        What::SetUp(set_up) if set_up.row == station.row() => Some(set_up),
        _ => None,
    })
}

fn set_up(context: &Context<'_>, s: &FigureAssessment, found: &mut Vec<Finding>) {
    let torqued = s.measured.iter().any(|m| m.characteristic.row().torqued && m.size.taken > 0);
    if !torqued {
        return;
    }
    match set_up_of(context, s.station) {
        None => found.push(Finding::NoSetUp),
        Some(set_up) if !set_up.as_finished => found.push(Finding::OtherFasteners),
        Some(_) => {}
    }
}
