//! A refusal of the core as the API tells it: which field of the request it is about.
use jagged_pin_core::engine::PlanError;
use jagged_pin_core::record::Refusal;
use jagged_pin_core::units::Flaw;

/// The field of the request that a refusal is about, where there is one; the line of a list as `steps.1`.
pub(crate) fn field_of(refusal: &Refusal) -> Option<String> {
    let field = match refusal {
        Refusal::Flawed(Flaw { part, line, .. }) => return Some(with_line(part, *line)),
        Refusal::Plan(e) => return Some(with_line("positions", line_of(*e))),
        Refusal::NoSuchStation { .. } | Refusal::NothingToConcede(_) | Refusal::FigureMoved(_) => "station",
        Refusal::NoSuchPosition => "position",
        Refusal::DialOnJournal => "read",
        Refusal::NoSuchFeature(_) => "characteristic",
        Refusal::UnknownGauge(_) | Refusal::GaugeDoesNotFit(_) | Refusal::SessionOpen(_) => "gauge",
        Refusal::OutOfRange(_)
        | Refusal::Entry(_)
        | Refusal::NoSize
        | Refusal::Figures { .. }
        | Refusal::BladesReversed
        | Refusal::LoneDigit
        | Refusal::NoSuchBlade { .. }
        | Refusal::OneTurn { .. }
        | Refusal::OverDrawing { .. }
        | Refusal::BeyondParts { .. } => "text",
        Refusal::NoSuchSession => "session",
        Refusal::NotTicked(_) => "ticks",
        Refusal::NotZeroed => "check",
        Refusal::TakenBefore => "age_ms",
        Refusal::BadTemperature => "temperatures",
        Refusal::AlreadyAsked(_) | Refusal::OwnReadings(_) => "whom",
        Refusal::WorkElsewhere(_) => "on",
        Refusal::Reference(_) | Refusal::ReferenceDiffers { .. } | Refusal::NoReference => "reference",
        Refusal::NoSuchReading | Refusal::AlreadyStruck => "reading",
        Refusal::NoReason => "reason",
        Refusal::Target(_) | Refusal::NoTarget => "rule",
        Refusal::AlreadySigned(_) | Refusal::SamePerson => "role",
        Refusal::WrongRevision(_) => "revision",
        Refusal::NoSuchPart(_) | Refusal::PartElsewhere(_) | Refusal::PartCondemned(_) => "part",
        Refusal::PartNamed(_) => "tag",
        Refusal::NothingMoves => "moves",
        Refusal::NoSuchOrder => "order",
        Refusal::OrderElsewhere => "step",
        Refusal::BlindMismatch
        | Refusal::NothingToCompare
        | Refusal::Blocked(_)
        | Refusal::SealBroken
        | Refusal::Full
        | Refusal::AlreadySealed => {
            return None;
        }
    };
    Some(field.to_owned())
}

fn with_line(part: &str, line: Option<usize>) -> String {
    line.map_or_else(|| part.to_owned(), |line| format!("{part}.{line}"))
}

const fn line_of(error: PlanError) -> Option<usize> {
    match error {
        PlanError::Angle { line }
        | PlanError::Twice { line }
        | PlanError::Track { line }
        | PlanError::NotApart { line } => Some(line),
        PlanError::Count | PlanError::NothingCounts | PlanError::Elsewhere => None,
    }
}
