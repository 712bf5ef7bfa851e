//! The tunnel judged by its line, by the third reckoning: a straight edge shows size and offset together, and a larger housing
//! is no crooked one.
//!
//! `offset = gap - (D - D0) / 2`, `D0` the mean of the end housings where the edge rests, as on the drawing of the block
//! ([`crate::machining`]). Nothing is freed before the sizes are measured.
use crate::engine::{Place, PlaceKind, Read, Role};
use crate::evidence::mean_housing;
use crate::figure::{Context, MethodResult};
use crate::log::Reckoning;
use crate::units::Length;

/// What a housing is larger than the two that the edge rests on, halved, and what that leaves open; `None` while one of the
/// sizes is not known.
fn larger(context: &Context<'_>, place: Place) -> Option<(Length, Length)> {
    let size = |at: Place| {
        let journal = context.usual_journal(at);
        let housing = context.measured(&context.touches, (at, None), (Role::HOUSING, Read::Size), (at, journal))?;
        let (mean, _) = mean_housing(&housing.size)?;
        Some((mean, context.doubt_of(&housing.size, Role::HOUSING)))
    };
    let mut mains = context.build.layout.of_kind(PlaceKind::Main);
    let (first, last) = (mains.next()?, mains.last()?);
    let ((front, _), (rear, _), (here, doubt)) = (size(first)?, size(last)?, size(place)?);
    let rests = Length::mean(&[front, rear])?;
    Some((Length::from_nm((here - rests).nm() / 2), Length::from_nm(doubt.nm() / 2)))
}

/// Frees what an edge showed in the tunnel of the sizes of its housings.
pub(super) fn free_of_size(context: &Context<'_>, place: Place, methods: &mut [MethodResult]) {
    if context.rules.reckoning < Reckoning::Third {
        return;
    }
    let Some((larger, doubt)) = larger(context, place) else { return };
    for method in methods {
        let (low, high) = (method.smallest - larger, method.largest - larger);
        // Off its line either way.
        let (near, far) = (low.abs().min(high.abs()), low.abs().max(high.abs()));
        let straddles = low < Length::ZERO && high > Length::ZERO;
        method.smallest = if straddles { Length::ZERO } else { near };
        method.largest = far;
        let value = Length::mean(&[low, high]).unwrap_or(low).abs();
        method.correction = value - method.clearance;
        method.clearance = value;
        method.budget.expanded =
            Length::from_f64(method.budget.expanded.as_f64().hypot(doubt.as_f64())).unwrap_or(Length::LIMIT);
    }
}
