//! How gauges walked in their sittings, as the touches that were repeated on the way back show it.
use uuid::Uuid;

use super::hands::Hand;
use super::sessions::{Session, SessionProof, unchecked_walk};
use super::taken::TakenReading;
use crate::maths::{Repeated, Walk, walk_among};
use crate::units::{Length, Timestamp};

/// Repeats of one place that lie farther apart than so many steps are a slip, or another place.
const SLIP_STEPS: i64 = 8;

/// Milliseconds of an hour.
const HOUR: f64 = 3_600_000.0;

/// What every sitting of a build shows of its gauge.
#[derive(Debug, Default, PartialEq)]
pub(crate) struct Walks(Vec<(Uuid, Walk)>);

/// A sitting whose checks leave open how far its gauge walked. Where both were made they tell it.
fn unchecked<'a>(touch: &TakenReading<'a>) -> Option<&'a Session> {
    touch.session.filter(|s| s.drift.is_none() && s.proof != SessionProof::ThrownOut)
}

/// Hours from the beginning of a sitting to a touch.
fn hours(session: &Session, touch: &TakenReading<'_>) -> f64 {
    let Timestamp(at) = touch.reading.taken.unwrap_or(touch.fact.at);
    at.saturating_sub(session.opened_at.0) as f64 / HOUR
}

/// A sitting with what was repeated in it.
struct Sitting<'s> {
    session: &'s Session,
    /// Hours to its last touch.
    long: f64,
    places: Vec<Repeated>,
}

impl Sitting<'_> {
    fn walk(&self) -> Option<Walk> {
        let gauge = &self.session.gauge;
        let far = (self.long, gauge.resolution.as_f64());
        walk_among(self.places.iter().copied(), Hand::declared(gauge).seen, far)
    }
}

/// What the touches of a place by one hand in one sitting come to; `None` where one of them is a slip.
fn repeated(place: &[TakenReading<'_>], session: &Session, hand: u32) -> Option<Repeated> {
    let same = |t: &&TakenReading<'_>| t.hand == Some(hand) && t.session.is_some_and(|s| s.id == session.id);
    let by_hand = || place.iter().filter(same);
    let apart = session.gauge.resolution.nm().saturating_mul(SLIP_STEPS);
    if Length::span(by_hand().map(|t| t.read)).nm() > apart {
        return None;
    }
    let touches: Vec<(f64, f64)> = by_hand().map(|t| (hours(session, t), t.read.as_f64())).collect();
    Some(Repeated::of(&touches))
}

impl Walks {
    /// The walks among the touches of each place, as they were read.
    pub fn of<'t, 'a: 't>(places: impl Iterator<Item = &'t [TakenReading<'a>]>) -> Self {
        let mut sittings: Vec<Sitting<'_>> = Vec::new();
        for place in places {
            let mut seen: Vec<(Uuid, u32)> = Vec::new();
            for (touch, session, hand) in place.iter().filter_map(|t| Some((t, unchecked(t)?, t.hand?))) {
                let number = sittings.iter().position(|s| s.session.id == session.id).unwrap_or_else(|| {
                    sittings.push(Sitting { session, long: 0.0, places: Vec::new() });
                    sittings.len() - 1
                });
                let Some(sitting) = sittings.get_mut(number) else { continue };
                sitting.long = sitting.long.max(hours(session, touch));
                if !seen.contains(&(session.id, hand)) {
                    seen.push((session.id, hand));
                    sitting.places.extend(repeated(place, session, hand));
                }
            }
        }
        Walks(sittings.iter().filter_map(|sitting| Some((sitting.session.id, sitting.walk()?))).collect())
    }

    /// Whether no gauge is known to have walked.
    pub const fn is_empty(&self) -> bool {
        self.0.is_empty()
    }

    fn at<'a>(&self, touch: &TakenReading<'a>) -> Option<(Walk, &'a Session)> {
        let session = unchecked(touch)?;
        let (_, walk) = self.0.iter().find(|(id, _)| *id == session.id)?;
        Some((*walk, session))
    }

    /// By how much a touch reads too much.
    fn walked(&self, touch: &TakenReading<'_>) -> Option<Length> {
        let (walk, session) = self.at(touch)?;
        Length::from_f64(walk.slope * hours(session, touch))
    }

    /// Takes what its gauge had walked off a touch; puts it on again where `back`.
    pub fn take_off(&self, touch: &mut TakenReading<'_>, back: bool) {
        let Some(walked) = self.walked(touch) else { return };
        let walked = if back { -walked } else { walked };
        touch.size = touch.size - walked;
        touch.read = touch.read - walked;
    }

    /// Standard uncertainty of what was taken off a touch, in nanometres, with what a walk that is not steady leaves; `None` where
    /// its gauge is not known to have walked.
    pub fn doubt_at(&self, touch: &TakenReading<'_>) -> Option<f64> {
        let (walk, session) = self.at(touch)?;
        let step = session.gauge.resolution.as_f64();
        Some((walk.standard * hours(session, touch)).hypot(unchecked_walk(step) / 2.0))
    }
}
