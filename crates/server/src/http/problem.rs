//! Every way a request can be refused: one list, one shape (RFC 9457, `application/problem+json`).
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use jagged_pin_core::build::BuildError;
use jagged_pin_core::record::Refusal;
use jagged_pin_core::units::TextError;
use jagged_pin_store::{RecordError, StoreError};
use serde::Serialize;
use serde_json::{Value, json};
use thiserror::Error;
use utoipa::ToSchema;

use crate::http::refused::field_of;

/// The content type of every problem.
pub(crate) const PROBLEM_JSON: &str = "application/problem+json";

/// A refused request. The sentence says what to do.
#[derive(Debug, Error)]
pub enum Problem {
    /// No session, or it has ended.
    #[error("sign in first: there is no session, or it has ended")]
    NotSignedIn,
    /// Unknown login or wrong password; it is not said which.
    #[error("that name and password do not belong together")]
    WrongPassword,
    /// Too many wrong passwords.
    #[error("too many wrong passwords: wait {0} s, then try again")]
    SlowDown(u64),
    /// A write without the session's token.
    #[error("this write does not carry the session's token: reload the page and try again")]
    NoToken,
    /// A write that another person made.
    #[error("somebody else made this entry: it is kept under their name once they sign in")]
    SomebodyElse,
    /// The role does not allow it.
    #[error("your role ({role}) does not allow this: ask {ask}")]
    NotAllowed {
        /// The role.
        role: String,
        /// Who may.
        ask: &'static str,
    },
    /// No such build.
    #[error("there is no build of that name here")]
    NoSuchBuild,
    /// No such address.
    #[error("there is nothing at this address")]
    NoSuchAddress,
    /// No such method at an address.
    #[error("this address does not take that method")]
    NoSuchMethod,
    /// The body is not JSON.
    #[error("the body must be JSON with content type application/json: {0}")]
    BadJson(String),
    /// The body is JSON of another form.
    #[error("{message}")]
    BadField {
        /// The field.
        field: String,
        /// What is wrong.
        message: String,
    },
    /// The body is larger than anything sensible.
    #[error("the request is too large")]
    TooLarge,
    /// The picture is larger than is taken in.
    #[error("{0}")]
    PictureTooLarge(String),
    /// The identifier was used for something else.
    #[error("that id was used for something else: make a new one and send again")]
    IdReused,
    /// Another build has the short name.
    #[error("another build is called {0}: choose another name")]
    CodeTaken(String),
    /// The build is here already.
    #[error("{0} is here already: nothing was imported")]
    BuildExists(String),
    /// Somebody else changed the same thing meanwhile.
    #[error("somebody changed this meanwhile: look at the new state, then decide again")]
    ChangedMeanwhile,
    /// The core does not admit it.
    #[error(transparent)]
    Refused(#[from] Refusal),
    /// An imported file, or a new build, is not consistent.
    #[error("{0}")]
    BadBuild(#[from] BuildError),
    /// A person who is measuring blind may not take the values along.
    #[error("finish your blind second touch first: until then the values stay hidden from you")]
    BlindPending,
    /// No such family of shells.
    #[error("the shop has no shells of that name")]
    NoSuchFamily,
    /// Fewer halves on the shelf than were to be taken.
    #[error("only {left} left on the shelf: nothing was taken")]
    ShelfEmpty {
        /// How many lie there.
        left: u16,
    },
    /// What is asked cannot be answered by what is known of the build: no target, nothing measured, no shells that serve.
    #[error("{detail}")]
    Unanswerable {
        /// Stable name of the reason.
        code: &'static str,
        /// The reason.
        detail: String,
    },
    /// A text or a figure that the database does not take.
    #[error("something here is too long or out of range: shorten it and send again; nothing was kept")]
    NotTaken,
    /// A build whose record cannot be read.
    #[error(
        "something recorded of this build cannot be read ({0}): restore it from a backup, or have the lead remove it"
    )]
    Unreadable(String),
    /// An import that cannot be worked out.
    #[error("this file cannot be worked out: nothing was imported")]
    NotWorkable,
    /// A name that a file gives to one of the shop's people, and that they never had.
    #[error("the file says {said} of somebody who is {known} here: nothing was imported")]
    AnotherName {
        /// What the file says.
        said: String,
        /// What they are called here.
        known: String,
    },
    /// A sealed build that was to be removed.
    #[error("a sealed build is not removed: put it away instead")]
    SealedStays,
    /// Too much of the same is going on.
    #[error("the server is busy with others: try again in a moment")]
    TooBusy,
    /// It took longer than anybody waits.
    #[error("this took too long and was given up: try again, with less at once")]
    TooSlow,
    /// An invitation that is none any more.
    #[error("this invitation was used, or its time is over: ask the lead for a new one")]
    NoInvitation,
    /// No such person.
    #[error("there is nobody of that identifier here")]
    NoSuchPerson,
    /// Somebody signs in with that name already.
    #[error("somebody signs in as {0} already: choose another name")]
    LoginTaken(String),
    /// Nobody would be left to run the shop.
    #[error("somebody has to be left who runs the shop")]
    NobodyLeft,
    /// Others wrote to the same thing again and again.
    #[error("others were writing to the same thing: nothing was kept; send it again")]
    Overtaken,
    /// The database is away.
    #[error("the database does not answer: nothing was kept; try again in a moment")]
    DatabaseAway,
    /// Something that should not happen; the log says what.
    #[error("something went wrong here; the log has the details")]
    Internal,
}

/// The body of a refusal.
#[derive(Debug, Serialize, ToSchema)]
pub struct ProblemBody {
    /// Stable address of the kind of problem.
    #[serde(rename = "type")]
    pub kind: String,
    /// HTTP status.
    pub status: u16,
    /// Stable name of the problem, for programs.
    pub code: String,
    /// A short name of the status.
    pub title: String,
    /// A sentence that says what to do.
    pub detail: String,
    /// The field of the request it is about.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub field: Option<String>,
    /// For `slow_down`: seconds to wait.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub retry_after: Option<u64>,
    /// For `blocked`: the stations that block.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<Vec<jagged_pin_core::sheet::Block>>)]
    pub blocks: Option<Value>,
}

impl Problem {
    /// HTTP status.
    pub fn status(&self) -> StatusCode {
        match self {
            Problem::NotSignedIn | Problem::WrongPassword => StatusCode::UNAUTHORIZED,
            Problem::Unreadable(_) | Problem::SealedStays | Problem::LoginTaken(_) | Problem::NobodyLeft => {
                StatusCode::CONFLICT
            }
            Problem::NotWorkable | Problem::AnotherName { .. } => StatusCode::UNPROCESSABLE_ENTITY,
            Problem::TooBusy | Problem::TooSlow => StatusCode::SERVICE_UNAVAILABLE,
            Problem::NoInvitation | Problem::NoSuchPerson => StatusCode::NOT_FOUND,
            Problem::SlowDown(_) => StatusCode::TOO_MANY_REQUESTS,
            Problem::NoToken | Problem::NotAllowed { .. } | Problem::BlindPending | Problem::SomebodyElse => {
                StatusCode::FORBIDDEN
            }
            Problem::NoSuchBuild | Problem::NoSuchAddress | Problem::NoSuchFamily => StatusCode::NOT_FOUND,
            Problem::NoSuchMethod => StatusCode::METHOD_NOT_ALLOWED,
            Problem::BadJson(_) => StatusCode::BAD_REQUEST,
            Problem::TooLarge | Problem::PictureTooLarge(_) => StatusCode::PAYLOAD_TOO_LARGE,
            Problem::IdReused | Problem::CodeTaken(_) | Problem::BuildExists(_) | Problem::ChangedMeanwhile => {
                StatusCode::CONFLICT
            }
            Problem::Refused(refusal) => match refusal {
                Refusal::AlreadyStruck
                | Refusal::SessionOpen(_)
                | Refusal::AlreadyAsked(_)
                | Refusal::FigureMoved(_)
                | Refusal::Blocked(_)
                | Refusal::AlreadySealed
                | Refusal::SealBroken
                | Refusal::Full
                | Refusal::AlreadySigned(_)
                | Refusal::OrderElsewhere
                | Refusal::WrongRevision(_) => StatusCode::CONFLICT,
                Refusal::NoSuchOrder => StatusCode::NOT_FOUND,
                _ => StatusCode::UNPROCESSABLE_ENTITY,
            },
            Problem::ShelfEmpty { .. } => StatusCode::CONFLICT,
            Problem::BadField { .. } | Problem::BadBuild(_) | Problem::Unanswerable { .. } | Problem::NotTaken => {
                StatusCode::UNPROCESSABLE_ENTITY
            }
            Problem::DatabaseAway | Problem::Overtaken => StatusCode::SERVICE_UNAVAILABLE,
            Problem::Internal => StatusCode::INTERNAL_SERVER_ERROR,
        }
    }

    /// Stable name of the problem.
    pub fn code(&self) -> &'static str {
        match self {
            Problem::NotSignedIn => "not_signed_in",
            Problem::WrongPassword => "wrong_password",
            Problem::SlowDown(_) => "slow_down",
            Problem::NoToken => "no_token",
            Problem::NotAllowed { .. } => "not_allowed",
            Problem::NoSuchBuild => "no_such_build",
            Problem::NoSuchAddress => "no_such_address",
            Problem::NoSuchMethod => "no_such_method",
            Problem::BadJson(_) => "bad_json",
            Problem::BadField { .. } => "bad_field",
            Problem::TooLarge | Problem::PictureTooLarge(_) => "too_large",
            Problem::IdReused => "id_reused",
            Problem::CodeTaken(_) => "code_taken",
            Problem::BuildExists(_) => "build_exists",
            Problem::ChangedMeanwhile => "changed_meanwhile",
            Problem::Refused(refusal) => refusal.code(),
            Problem::BadBuild(BuildError::Time | BuildError::Ahead { .. }) => "clock_ahead",
            Problem::BadBuild(_) => "bad_build",
            Problem::BlindPending => "blind_pending",
            Problem::SomebodyElse => "somebody_else",
            Problem::NoSuchFamily => "no_such_family",
            Problem::ShelfEmpty { .. } => "shelf_empty",
            Problem::Unanswerable { code, .. } => code,
            Problem::NotTaken => "not_taken",
            Problem::Unreadable(_) => "unreadable",
            Problem::NotWorkable => "not_workable",
            Problem::AnotherName { .. } => "another_name",
            Problem::SealedStays => "sealed_stays",
            Problem::TooBusy => "too_busy",
            Problem::TooSlow => "too_slow",
            Problem::NoInvitation => "no_invitation",
            Problem::NoSuchPerson => "no_such_person",
            Problem::LoginTaken(_) => "login_taken",
            Problem::NobodyLeft => "nobody_left",
            Problem::Overtaken => "overtaken",
            Problem::DatabaseAway => "database_away",
            Problem::Internal => "internal",
        }
    }

    /// A problem with one field.
    pub fn field(field: impl Into<String>, message: impl Into<String>) -> Self {
        Problem::BadField { field: field.into(), message: message.into() }
    }

    fn about(&self) -> Option<String> {
        match self {
            Problem::BadField { field, .. } => Some(field.clone()),
            Problem::CodeTaken(_) => Some("code".into()),
            Problem::PictureTooLarge(_) => Some("picture".into()),
            Problem::LoginTaken(_) => Some("login".into()),
            Problem::Refused(refusal) => field_of(refusal),
            Problem::BadBuild(BuildError::Code) => Some("code".into()),
            Problem::BadBuild(BuildError::Text(TextError("the engine"))) => Some("engine".into()),
            _ => None,
        }
    }

    /// The body of the answer.
    pub fn body(&self) -> ProblemBody {
        let status = self.status();
        ProblemBody {
            kind: format!("urn:jagged-pin:problem:{}", self.code()),
            status: status.as_u16(),
            code: self.code().into(),
            title: status.canonical_reason().unwrap_or("Problem").into(),
            detail: self.to_string(),
            field: self.about(),
            retry_after: match self {
                Problem::SlowDown(seconds) => Some(*seconds),
                _ => None,
            },
            blocks: match self {
                Problem::Refused(Refusal::Blocked(blocks)) => Some(json!(blocks)),
                _ => None,
            },
        }
    }
}

impl IntoResponse for Problem {
    fn into_response(self) -> Response {
        let body = serde_json::to_string(&self.body()).unwrap_or_default();
        let mut response = (self.status(), body).into_response();
        let headers = response.headers_mut();
        headers.insert(header::CONTENT_TYPE, HeaderValue::from_static(PROBLEM_JSON));
        match self {
            Problem::SlowDown(seconds) => drop(headers.insert(header::RETRY_AFTER, HeaderValue::from(seconds))),
            Problem::TooBusy => drop(headers.insert(header::RETRY_AFTER, HeaderValue::from(1))),
            _ => {}
        }
        response
    }
}

impl From<StoreError> for Problem {
    fn from(error: StoreError) -> Self {
        match error {
            StoreError::NotFound => Problem::NoSuchBuild,
            StoreError::IdReused => Problem::IdReused,
            StoreError::NotOnShelf { left, .. } => Problem::ShelfEmpty { left },
            StoreError::Data(what) => {
                tracing::warn!(%what, "the database does not take what was sent");
                Problem::NotTaken
            }
            StoreError::Overtaken | StoreError::Busy | StoreError::Held => Problem::Overtaken,
            StoreError::Unreadable(why) => {
                tracing::error!(%why, "something in the database cannot be read");
                Problem::Unreadable(why)
            }
            StoreError::Connection(_) | StoreError::Database(_) => {
                tracing::error!(%error, "the database failed");
                Problem::DatabaseAway
            }
            other => {
                tracing::error!(error = %other, "the store failed");
                Problem::Internal
            }
        }
    }
}

impl From<RecordError<Problem>> for Problem {
    fn from(error: RecordError<Problem>) -> Self {
        match error {
            RecordError::Store(store) => store.into(),
            RecordError::Refused(problem) => problem,
        }
    }
}
