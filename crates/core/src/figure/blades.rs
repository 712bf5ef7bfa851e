//! Which blade is tried next, and what a set of them can never prove.
//!
//! A gap lies between the largest blade that passes and the smallest that does not. What decides is a limit of the window
//! inside that interval: the blade nearest to it, still inside. A limit that lies between two blades of the set leaves gaps
//! there that no blade tells in from out.
use serde::Serialize;

use crate::maths::Window;
use crate::units::Length;

/// What blades tell of a gap, and what they do not.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BladeAdvice {
    /// The blade to try next; nothing once the interval decides, or the set has none between.
    pub next: Option<Length>,
    /// Gaps that this set never tells in from out: between two of its blades with a limit among them.
    pub never: Vec<[Length; 2]>,
}

/// The blade at or below a size, counted from zero.
fn at_or_below(size: Length, step: Length) -> Option<Length> {
    let n = size.nm().checked_div_euclid(step.nm()).filter(|_| step > Length::ZERO)?;
    n.checked_mul(step.nm()).map(Length::from_nm)
}

fn at_or_above(size: Length, step: Length) -> Option<Length> {
    let below = at_or_below(size, step)?;
    Some(if below == size { below } else { below + step })
}

/// What to try next with blades `step` apart; `known` is the interval that a gap lies in as far as it was tried.
///
/// ```
/// use jagged_pin_core::Length;
/// use jagged_pin_core::figure::next_blade;
/// use jagged_pin_core::maths::Window;
///
/// let t = Length::tenths;
/// let window = Window::new(Some(t(156)), Some(t(196))).unwrap();
/// let first = next_blade(window, t(10), None).unwrap();
/// assert_eq!(first.next, Some(t(160)), "whether the lower limit is met, as far as a thou tells");
/// assert_eq!(first.never, [[t(150), t(160)], [t(190), t(200)]]);
/// let decided = next_blade(window, t(10), Some([t(160), t(190)])).unwrap();
/// assert_eq!(decided.next, None);
/// ```
pub fn next_blade(window: Window, step: Length, known: Option<[Length; 2]>) -> Option<BladeAdvice> {
    let around = |limit: Length| Some([at_or_below(limit, step)?, at_or_above(limit, step)?]);
    let (low, high) = (window.low().and_then(around), window.high().and_then(around));
    // Inside is above the lower limit and below the upper one; what fails there is held against the other side.
    let toward = low.map(|[below, above]| [above, below]).into_iter().chain(high).flatten();
    let open = |blade: &Length| known.is_none_or(|[passes, refuses]| passes < *blade && *blade < refuses);
    let next = toward.into_iter().find(|blade| *blade > Length::ZERO && open(blade));
    let never = [low, high].into_iter().flatten().filter(|[below, above]| below != above).collect();
    (step > Length::ZERO).then_some(BladeAdvice { next, never })
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    proptest! {
        #[test]
        fn trying_what_is_proposed_decides_all_that_the_set_can(
            gap in 1i64..4_000, low in 1i64..3_000, width in 1i64..900, step in 1i64..200,
        ) {
            let t = Length::tenths;
            let (gap, step) = (t(gap), t(step));
            let Some(window) = Window::new(Some(t(low)), Some(t(low + width))) else { return Ok(()) };
            let mut known: Option<[Length; 2]> = None;
            for _ in 0..4 {
                let Some(advice) = next_blade(window, step, known) else { break };
                let Some(blade) = advice.next else { break };
                let [passes, refuses] = known.unwrap_or([Length::ZERO, t(1_000_000)]);
                known = Some(if blade <= gap { [blade, refuses] } else { [passes, blade] });
            }
            let advice = next_blade(window, step, known);
            prop_assert_eq!(advice.as_ref().and_then(|a| a.next), None, "two limits take two blades");
            let [passes, refuses] = known.unwrap_or([Length::ZERO, t(1_000_000)]);
            let inside = t(low) <= passes && refuses <= t(low + width);
            let outside = refuses <= t(low) || passes >= t(low + width);
            let never = advice.map(|a| a.never).unwrap_or_default();
            let among = never.iter().any(|[a, b]| *a <= gap && gap <= *b);
            prop_assert!(inside || outside || among, "{known:?}");
        }
    }

    #[test]
    fn a_set_without_steps_proposes_nothing() {
        let window = Window::new(None, Some(Length::tenths(50)));
        assert_eq!(window.and_then(|w| next_blade(w, Length::ZERO, None)), None);
    }
}
