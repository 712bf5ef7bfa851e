//! What nobody believes of an entry that is made now. What was kept before stays as it is, whatever it says.
use super::refusal::Refusal;
use crate::build::Build;
use crate::log::{Stroked, StrokesDone, What};
use crate::units::{Flaw, Length, Wrong, must};

/// A bore under a hone is never so far from what it is bored to: a tenth of an inch.
const FAR_FROM_THE_BORE: Length = Length::tenths(1_000);

/// Nobody makes more strokes before looking again.
const MOST_AT_ONCE: u32 = 1_000;

/// Refuses what can only be a slip.
pub(super) fn believe(build: &Build, what: &What) -> Result<(), Refusal> {
    match what {
        What::Strokes(done) => strokes(build, done),
        _ => Ok(()),
    }
}

fn strokes(build: &Build, done: &StrokesDone) -> Result<(), Refusal> {
    let few = done.strokes <= MOST_AT_ONCE;
    must(few, Flaw::of("strokes", Wrong::Figure("a thousand at most between two looks")))?;
    let bore = build.layout.cylinders.as_ref().map(|c| c.bore).filter(|_| done.on == Stroked::Bore);
    let near = bore.is_none_or(|bore| (done.size - bore).abs() <= FAR_FROM_THE_BORE);
    Ok(must(near, Flaw::of("size", Wrong::Figure("within a tenth of an inch of the bore")))?)
}
