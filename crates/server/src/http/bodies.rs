//! Bodies that arrive before anybody asks for them.
//!
//! A request may be refused for who sent it, before its body is read. What is left of the body then stands in the way of the
//! next request on the same connection, and the connection ends without a word. So a small body is read first, and a large one
//! that was not read says that the connection ends.
use axum::body::{Body, to_bytes};
use axum::extract::Request;
use axum::http::{HeaderValue, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

use crate::http::problem::Problem;

/// Bodies up to this size are read before anything else is looked at: nearly every write.
const SMALL: usize = 64 * 1024;

/// Reads small bodies first.
pub(crate) async fn first(request: Request, next: Next) -> Response {
    let length = request.headers().get(header::CONTENT_LENGTH).and_then(|v| v.to_str().ok());
    let Some(length) = length.and_then(|n| n.parse::<usize>().ok()) else { return next.run(request).await };
    if length > SMALL {
        let mut response = next.run(request).await;
        if response.status().is_client_error() {
            response.headers_mut().insert(header::CONNECTION, HeaderValue::from_static("close"));
        }
        return response;
    }
    let (parts, body) = request.into_parts();
    match to_bytes(body, SMALL).await {
        Ok(bytes) => next.run(Request::from_parts(parts, Body::from(bytes))).await,
        Err(_) => Problem::BadJson("it did not arrive whole".into()).into_response(),
    }
}
