//! What is wrong with something that was sent: which part of it, which line, and why.
use std::fmt;

use thiserror::Error;

/// What is wrong.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Wrong {
    /// A text that is empty, too long, or has control characters.
    Text {
        /// Most characters.
        most: usize,
    },
    /// Too few or too many.
    Count {
        /// At least.
        least: usize,
        /// At most.
        most: usize,
    },
    /// A figure that cannot be; what it may be, as a sentence goes on after *must be*.
    Figure(&'static str),
    /// The same one stands in an earlier line.
    Twice,
    /// Something that does not belong there; what does.
    Elsewhere(&'static str),
}

impl fmt::Display for Wrong {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Wrong::Text { most } => write!(f, "must have 1 to {most} characters"),
            Wrong::Count { least, most } => write!(f, "there must be {least} to {most} of them"),
            Wrong::Figure(what) => write!(f, "must be {what}"),
            Wrong::Twice => f.write_str("stands there already"),
            Wrong::Elsewhere(what) => write!(f, "does not belong there: {what}"),
        }
    }
}

/// A flaw of something that was sent.
///
/// ```
/// use jagged_pin_core::units::{Flaw, Wrong};
/// let flaw = Flaw::at("steps", 1, Wrong::Figure("0.1 to 2000 of its unit"));
/// assert_eq!(flaw.to_string(), "steps, line 2: must be 0.1 to 2000 of its unit");
/// assert_eq!((flaw.part, flaw.line), ("steps", Some(1)));
/// ```
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub struct Flaw {
    /// Which part of it, as it is called in data.
    pub part: &'static str,
    /// Which line of that part, from 0, where it has lines.
    pub line: Option<usize>,
    /// What is wrong.
    pub wrong: Wrong,
}

impl fmt::Display for Flaw {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let part = self.part.replace('_', " ");
        match self.line {
            Some(line) => write!(f, "{part}, line {}: {}", line.saturating_add(1), self.wrong),
            None => write!(f, "{part}: {}", self.wrong),
        }
    }
}

impl Flaw {
    /// A flaw of a part as a whole.
    pub const fn of(part: &'static str, wrong: Wrong) -> Self {
        Flaw { part, line: None, wrong }
    }

    /// A flaw in a line of a part, counted from 0.
    pub const fn at(part: &'static str, line: usize, wrong: Wrong) -> Self {
        Flaw { part, line: Some(line), wrong }
    }
}

/// Checks that something holds.
///
/// # Errors
/// The flaw, when it does not.
pub const fn must(holds: bool, flaw: Flaw) -> Result<(), Flaw> {
    if holds { Ok(()) } else { Err(flaw) }
}

/// Checks a text: there, not too long, no control characters.
///
/// # Errors
/// [`Wrong::Text`] of that part.
pub fn must_be_text(text: &str, part: &'static str, line: Option<usize>, most: usize) -> Result<(), Flaw> {
    let fits = !text.trim().is_empty() && text.chars().count() <= most && !text.chars().any(char::is_control);
    must(fits, Flaw { part, line, wrong: Wrong::Text { most } })
}

/// Checks a text that may be left out.
///
/// # Errors
/// [`Wrong::Text`] of that part.
pub fn must_be_text_or_none(text: &str, part: &'static str, most: usize) -> Result<(), Flaw> {
    if text.is_empty() { Ok(()) } else { must_be_text(text, part, None, most) }
}

/// Checks a number of lines.
///
/// # Errors
/// [`Wrong::Count`] of that part.
pub const fn must_count(count: usize, part: &'static str, least: usize, most: usize) -> Result<(), Flaw> {
    must(least <= count && count <= most, Flaw::of(part, Wrong::Count { least, most }))
}

/// Checks that no line is the same as an earlier one.
///
/// # Errors
/// [`Wrong::Twice`] with the first line that is.
pub fn must_differ<T: PartialEq>(lines: impl IntoIterator<Item = T>, part: &'static str) -> Result<(), Flaw> {
    let mut seen: Vec<T> = Vec::new();
    for (line, item) in lines.into_iter().enumerate() {
        must(!seen.contains(&item), Flaw::at(part, line, Wrong::Twice))?;
        seen.push(item);
    }
    Ok(())
}
