//! Reading requests: JSON bodies and queries whose mistakes come back as problems with a field.
use axum::body::Bytes;
use axum::extract::{FromRequest, FromRequestParts, Request};
use axum::http::request::Parts;
use axum::http::{StatusCode, header};
use serde::de::DeserializeOwned;

use crate::http::problem::Problem;

/// A JSON body.
#[derive(Debug)]
pub struct Body<T>(pub T);

impl<S: Send + Sync, T: DeserializeOwned> FromRequest<S> for Body<T> {
    type Rejection = Problem;

    async fn from_request(request: Request, state: &S) -> Result<Self, Problem> {
        let JsonBytes(bytes) = JsonBytes::from_request(request, state).await?;
        if turns_writing(&bytes) {
            return Err(Problem::BadJson("it holds characters that turn the direction of writing".into()));
        }
        json(&bytes).map(Body)
    }
}

/// Whether a text holds characters that turn the direction of writing, as they are or escaped: a name or a reason could read
/// as another one. Files of before may hold them; what is sent now may not.
fn turns_writing(bytes: &[u8]) -> bool {
    let text = String::from_utf8_lossy(bytes);
    let turns = |c: char| matches!(c, '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}');
    let escaped = |rest: &str| {
        let code = rest.get(..4).and_then(|hex| u32::from_str_radix(hex, 16).ok());
        code.and_then(char::from_u32).is_some_and(turns)
    };
    text.chars().any(turns) || text.split("\\u").skip(1).any(escaped)
}

/// A content type without its parameters.
pub(crate) fn essence(kind: &str) -> &str {
    kind.split(';').next().unwrap_or_default().trim()
}

/// A body that says it is JSON, as it came.
#[derive(Debug)]
pub struct JsonBytes(pub Bytes);

impl<S: Send + Sync> FromRequest<S> for JsonBytes {
    type Rejection = Problem;

    async fn from_request(request: Request, state: &S) -> Result<Self, Problem> {
        let kind = request.headers().get(header::CONTENT_TYPE).and_then(|v| v.to_str().ok()).unwrap_or_default();
        // Other sites cannot send this content type without asking first.
        if essence(kind) != "application/json" {
            return Err(Problem::BadJson(format!("it came as \"{kind}\"")));
        }
        let bytes = Bytes::from_request(request, state).await.map_err(|e| match e.status() {
            StatusCode::PAYLOAD_TOO_LARGE => Problem::TooLarge,
            _ => Problem::BadJson(e.body_text()),
        })?;
        Ok(JsonBytes(bytes))
    }
}

/// Reads JSON; what does not fit is said with the field it is in.
///
/// # Errors
/// [`Problem::BadJson`] or [`Problem::BadField`].
pub(crate) fn json<T: DeserializeOwned>(bytes: &[u8]) -> Result<T, Problem> {
    let mut json = serde_json::Deserializer::from_slice(bytes);
    let value = serde_path_to_error::deserialize(&mut json).map_err(|e| problem(&e))?;
    json.end().map_err(|e| Problem::BadJson(e.to_string()))?;
    Ok(value)
}

fn problem(error: &serde_path_to_error::Error<serde_json::Error>) -> Problem {
    use serde_json::error::Category;
    match error.inner().classify() {
        Category::Data => {
            let path = error.path().to_string();
            let field = if path == "." { named_in(&error.inner().to_string()) } else { path };
            Problem::field(field, format!("the request does not fit: {}", error.inner()))
        }
        _ => Problem::BadJson(error.inner().to_string()),
    }
}

/// The field that serde names between back-ticks in its message, such as an unknown or missing one.
fn named_in(message: &str) -> String {
    message.split('`').nth(1).unwrap_or_default().to_owned()
}

/// A query string.
#[derive(Debug)]
pub struct Query<T>(pub T);

impl<S: Send + Sync, T: DeserializeOwned> FromRequestParts<S> for Query<T> {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        let read = axum::extract::Query::<T>::from_request_parts(parts, state).await;
        read.map(|q| Query(q.0)).map_err(|e| Problem::field(named_in(&e.body_text()), e.body_text()))
    }
}

/// Parts of the address.
#[derive(Debug)]
pub struct Path<T>(pub T);

impl<S: Send + Sync, T: DeserializeOwned + Send> FromRequestParts<S> for Path<T> {
    type Rejection = Problem;

    async fn from_request_parts(parts: &mut Parts, state: &S) -> Result<Self, Problem> {
        // An address whose parts are of another kind leads nowhere.
        let read = axum::extract::Path::<T>::from_request_parts(parts, state).await;
        read.map(|p| Path(p.0)).map_err(|_| Problem::NoSuchAddress)
    }
}
