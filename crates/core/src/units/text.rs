//! How long a text may be that a person gives.
use thiserror::Error;

/// Longest identifier of a kind of gauge.
pub const LONGEST_GAUGE: usize = 60;

/// Longest text a person may give as a reason or a name.
pub const LONGEST_TEXT: usize = 300;

/// A text is empty, too long, or has control characters; the name of its field.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
#[error("{0} must have 1 to {LONGEST_TEXT} characters")]
pub struct TextError(pub &'static str);

/// Checks that a text a person gave is there and not too long.
///
/// # Errors
/// [`TextError`] with the name of the field.
pub fn check_text(text: &str, field: &'static str) -> Result<(), TextError> {
    let length = text.chars().count();
    let fits = !text.trim().is_empty() && length <= LONGEST_TEXT && !text.chars().any(char::is_control);
    if fits { Ok(()) } else { Err(TextError(field)) }
}
