//! The calculators: single rules of the core, callable with one JSON object in and one out.
//!
//! Lengths are decimal numbers in the request's `unit` (`"in"` unless given, or `"mm"`), rounded to the
//! nanometre on the way in and printed so that they read back to the same nanometre. A request that
//! cannot be answered gets one [`CalcError`] naming the field; there is never a partial answer.
//!
//! ```
//! let request = r#"{"method": "subtract", "bore": 2.6262, "journal": 2.6238}"#;
//! let answer = jagged_pin_core::calc::answer("clearance", request).unwrap();
//! assert_eq!(answer["clearance"], 0.0024);
//! ```

mod assign;
mod balance;
mod body;
mod bore_plan;
mod cam_fit;
mod clearance;
mod compare;
mod compression;
mod crosshatch;
mod cylinder;
mod effective;
mod end_play;
mod fillet;
mod flatness;
mod gauge_study;
mod grind_plan;
mod hone_passes;
mod hot_gap;
mod identify_class;
mod json;
mod match_weights;
mod oversize;
mod parse_entry;
mod piston_fit;
mod piston_rank;
mod request;
mod ring_gap;
mod ring_groove;
mod runout;
mod select_measured;
mod select_shells;
mod side_clearance;
mod spring;
mod straightness;
mod target;
mod temperature;
mod thrust_washers;
mod uncertainty;
mod verdict;
mod worst_place;
use request::Fields;
use serde_json::{Value, json};
use thiserror::Error;

/// The stable names of what can be wrong with a request.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Code {
    /// Not JSON at all.
    BadJson,
    /// No calculator of that name.
    UnknownCalculator,
    /// A required field is absent.
    MissingField,
    /// A field this calculator does not know.
    UnknownField,
    /// A value of another JSON type.
    WrongType,
    /// A text that is not one of the allowed ones.
    NotAllowed,
    /// A number that is too large, too small or does not fit.
    OutOfRange,
    /// Below zero where that makes no sense.
    Negative,
    /// Zero or below where that makes no sense.
    NotPositive,
    /// An empty list.
    Empty,
    /// The same thing twice.
    Duplicate,
    /// A reference to something that is not in the request.
    UnknownId,
    /// A size class that is not among the classes.
    UnknownClass,
    /// Fields that contradict each other.
    Inconsistent,
    /// A tail that could be either of two sizes.
    AmbiguousTail,
    /// A figure that looks typed in another unit.
    AmbiguousUnit,
    /// Too far from what was expected.
    OutOfBand,
    /// A text that is no figure.
    NotANumber,
    /// Fewer angles, points, parts, people or repeats than it takes.
    TooFew,
    /// Fewer shells than the bearings need, even with what can be bought.
    NotEnoughShells,
}

impl Code {
    /// The code as written in an answer.
    pub const fn name(self) -> &'static str {
        match self {
            Code::BadJson => "bad_json",
            Code::UnknownCalculator => "unknown_calculator",
            Code::MissingField => "missing_field",
            Code::UnknownField => "unknown_field",
            Code::WrongType => "wrong_type",
            Code::NotAllowed => "not_allowed",
            Code::OutOfRange => "out_of_range",
            Code::Negative => "negative",
            Code::NotPositive => "not_positive",
            Code::Empty => "empty",
            Code::Duplicate => "duplicate",
            Code::UnknownId => "unknown_id",
            Code::UnknownClass => "unknown_class",
            Code::Inconsistent => "inconsistent",
            Code::AmbiguousTail => "ambiguous_tail",
            Code::AmbiguousUnit => "ambiguous_unit",
            Code::OutOfBand => "out_of_band",
            Code::NotANumber => "not_a_number",
            Code::TooFew => "too_few",
            Code::NotEnoughShells => "not_enough_shells",
        }
    }
}

/// Why a request got no answer.
#[derive(Debug, Clone, PartialEq, Eq, Error)]
#[error("{message}")]
pub struct CalcError {
    /// What is wrong.
    pub code: Code,
    /// A sentence a person can act on.
    pub message: String,
    /// Where, such as `positions[0].readings[1]`; empty for the whole request.
    pub path: String,
    /// For [`Code::NotEnoughShells`]: how many.
    pub missing: Option<usize>,
}

impl CalcError {
    /// An error at `path`.
    pub fn new(code: Code, path: impl Into<String>, message: impl Into<String>) -> Self {
        CalcError { code, message: message.into(), path: path.into(), missing: None }
    }

    /// So many shells are missing.
    fn not_enough(missing: usize, path: &str, message: String) -> Self {
        CalcError { missing: Some(missing), ..CalcError::new(Code::NotEnoughShells, path, message) }
    }

    /// The answer's error object.
    pub fn to_json(&self) -> Value {
        let mut error = json!({ "code": self.code.name(), "message": self.message, "path": self.path });
        if let Some(missing) = self.missing {
            error["missing"] = missing.into();
        }
        json!({ "error": error })
    }
}

type Calculator = fn(Fields) -> Result<Value, CalcError>;

/// Every calculator by name.
const CALCULATORS: &[(&str, Calculator)] = &[
    ("assign", assign::answer),
    ("balance", balance::answer),
    ("bob_weight", match_weights::bob_weight),
    ("bore_plan", bore_plan::answer),
    ("cam_fit", cam_fit::answer),
    ("clearance", clearance::answer),
    ("compare", compare::answer),
    ("compression", compression::answer),
    ("crosshatch", crosshatch::answer),
    ("cylinder", cylinder::answer),
    ("effective", effective::answer),
    ("end_play", end_play::answer),
    ("fillet", fillet::answer),
    ("flatness", flatness::answer),
    ("gauge_study", gauge_study::answer),
    ("grind_plan", grind_plan::answer),
    ("hone_passes", hone_passes::answer),
    ("hot_gap", hot_gap::answer),
    ("identify_class", identify_class::answer),
    ("match_weights", match_weights::answer),
    ("oversize", oversize::answer),
    ("parse_entry", parse_entry::answer),
    ("piston_fit", piston_fit::answer),
    ("piston_rank", piston_rank::answer),
    ("ring_gap", ring_gap::answer),
    ("ring_groove", ring_groove::answer),
    ("runout", runout::answer),
    ("select_measured", select_measured::answer),
    ("select_shells", select_shells::answer),
    ("side_clearance", side_clearance::answer),
    ("spring", spring::answer),
    ("straightness", straightness::answer),
    ("temperature", temperature::answer),
    ("thrust_washers", thrust_washers::answer),
    ("uncertainty", uncertainty::answer),
    ("verdict", verdict::answer),
    ("worst_place", worst_place::answer),
];

/// Refuses lists that are too short to say anything or too long to be worked out.
fn too_few_or_many(f: &Fields, count: usize, fewest: usize, most: usize) -> Result<(), CalcError> {
    match count {
        n if n < fewest => Err(f.error(Code::TooFew, "points", format!("it takes {fewest} points to say anything"))),
        n if n > most => Err(f.error(Code::OutOfRange, "points", format!("at most {most} points are taken"))),
        _ => Ok(()),
    }
}

/// The names of the calculators.
pub fn names() -> impl Iterator<Item = &'static str> {
    CALCULATORS.iter().map(|(name, _)| *name)
}

/// Answers one request.
///
/// # Errors
/// [`CalcError`] when there is no such calculator or the request cannot be answered.
pub fn answer(name: &str, request: &str) -> Result<Value, CalcError> {
    let (_, calculator) = CALCULATORS.iter().find(|(known, _)| *known == name).ok_or_else(|| {
        let known = names().collect::<Vec<_>>().join(", ");
        CalcError::new(Code::UnknownCalculator, "", format!("there is no calculator \"{name}\": there are {known}"))
    })?;
    calculator(Fields::of(json::parse(request)?, "")?)
}
