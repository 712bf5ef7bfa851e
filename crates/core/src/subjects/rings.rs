//! What is known of a ring's gap without measuring it again.
use crate::engine::{Characteristic, Closes, Read, Role, Tag};
use crate::evidence::{EndingCause, Spot, size_before};
use crate::figure::{Context, FigureAssessment, Finding};
use crate::log::Reckoning;
use crate::maths::gap_in;
use crate::units::Length;

const BORE: Role = Role::new("cylinder");

/// What a gap comes to in a bore that was bored or honed since it was measured, once the bore is measured again: a ring's gap
/// follows its bore by pi times the difference. It is worked out and never judged: blades decide.
pub(super) fn in_new_bore(context: &Context<'_>, s: &FigureAssessment) -> Option<Finding> {
    let is_gap = s.figure.row().hot == Some(Closes::Ring) && context.rules.reckoning >= Reckoning::Third;
    let stale = s.stale.as_ref().filter(|_| is_gap)?;
    // A ring that was filed or changed is another one.
    let only_bore = |cause: &EndingCause| match cause {
        EndingCause::Work { event } => !event.ends().tags.contains(&Tag::Rings),
        _ => false,
    };
    let first = stale.because.first().filter(|_| stale.because.iter().all(|e| only_bore(&e.cause)))?.seq;
    let characteristic = Characteristic::at(s.station, BORE)?;
    let spot = Spot { place: s.station, characteristic, read: Read::Size, track: None };
    let none = (s.station, None);
    let now = context.measured(&context.touches, none, (BORE, Read::Size), (s.station, Length::ZERO))?.size;
    let now = now.size.as_ref().filter(|_| now.complete)?;
    let then = size_before(context.rules, &context.touches, spot, first)?;
    // A gap is read where the ring is squared: in the smallest part of its travel.
    let (now, then) = (now.smallest, then.smallest);
    let gap = gap_in(now, stale.was.clearance, then)?;
    (now != then).then_some(Finding::GapInNewBore { gap, by: now - then })
}
