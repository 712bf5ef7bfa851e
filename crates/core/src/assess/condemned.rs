//! Parts that what was found condemns: what the rest of them would still have to prove is moot.
//!
//! * A piston below its own sheet is worn or collapsed: no bore mends it.
//! * A part by itself (a piston, a rod) with a sign that stops it.
//! * Other things with such a sign block where they are, once.
use serde::Serialize;

use crate::engine::{Figure, PartKind, Place, Seat};
use crate::figure::{Context, FigureAssessment, Finding, StandsHere};
use crate::log::{InspectedPart, Sign};
use crate::maths::State;
use crate::units::Length;

/// A part that cannot be used, and what says so.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Unfit {
    /// What it is.
    pub kind: PartKind,
    /// Its seat.
    pub place: Option<Place>,
    /// Its name.
    pub part: Option<String>,
    /// The sign that was seen on it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub sign: Option<Sign>,
    /// The figure that it fell below.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub figure: Option<Figure>,
    /// What it measured.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub value: Option<Length>,
}

/// What condemns a part, before it is known which part stands there.
struct Because {
    seat: Seat,
    sign: Option<Sign>,
    figure: Option<(Figure, Length)>,
}

fn by_looks(context: &Context<'_>) -> Vec<Because> {
    let of = |(place, part, signs): (Place, InspectedPart, &[Sign])| {
        let sign = signs.iter().copied().find(|sign| sign.is_stop());
        let kind = part.measured_at(place)?.row().part;
        let alone = kind.row().moves && kind.row().seats.is_some();
        Some(Because { seat: Seat::of(kind, place), sign: Some(sign?), figure: None }).filter(|_| alone)
    };
    context.inspections.all().into_iter().filter_map(|(place, _, look)| of((place, look.part, &look.signs))).collect()
}

fn by_figures(context: &Context<'_>, figures: &[FigureAssessment]) -> Vec<Because> {
    let below = |f: &FigureAssessment| {
        let judged = f.judged.as_ref().filter(|j| f.figure.row().condemns && j.state == State::Tight)?;
        let seat = context.standing.seats_under(f.figure, f.station).into_iter().next()?;
        Some(Because { seat, sign: None, figure: Some((f.figure, judged.clearance)) })
    };
    figures.iter().filter_map(below).collect()
}

/// Says of every figure which parts under it are condemned by what was found, and returns those parts.
pub(super) fn condemn(context: &Context<'_>, figures: &mut [FigureAssessment]) -> Vec<Unfit> {
    let mut unfit = Vec::new();
    let because = by_looks(context).into_iter().chain(by_figures(context, figures)).collect::<Vec<_>>();
    for Because { seat, sign, figure } in because {
        let part = context.standing.on(seat).map(str::to_owned);
        let stands = StandsHere { kind: seat.kind, place: seat.place, part: part.clone() };
        let rests = |f: &&mut FigureAssessment| context.standing.seats_under(f.figure, f.station).contains(&seat);
        for f in figures.iter_mut().filter(rests) {
            if !f.moot.contains(&stands) {
                f.moot.push(stands.clone());
            }
        }
        let (figure, value) = figure.unzip();
        unfit.push(Unfit { kind: seat.kind, place: seat.place, part, sign, figure, value });
    }
    stop_where_they_are(context, figures);
    unfit
}

/// What cannot be taken out by itself, and is no journal, blocks at the first figure of its place, or at the first of all
/// where nothing is asked for at its place.
fn stop_where_they_are(context: &Context<'_>, figures: &mut [FigureAssessment]) {
    for (place, _, look) in context.inspections.all() {
        let kind = look.part.measured_at(place).map(|c| c.row().part);
        let alone = kind.is_some_and(|kind| kind.row().moves && kind.row().seats.is_some());
        let stop = look.signs.iter().copied().find(|sign| sign.is_stop());
        let Some(sign) = stop.filter(|_| !alone && look.part != InspectedPart::Journal) else { continue };
        let here = figures.iter().position(|f| f.station == place && f.asked);
        let shown = here.or_else(|| figures.iter().position(|f| f.asked));
        if let Some(f) = shown.and_then(|i| figures.get_mut(i)) {
            let at = here.is_none().then_some(place);
            f.findings.push(Finding::Unusable { seen_on: look.part, sign, at });
        }
    }
}
