//! The calculators.
use axum::Json;
use axum::extract::State;
use axum::extract::rejection::StringRejection;
use axum::http::StatusCode;
use axum::response::{IntoResponse, Response};
use jagged_pin_core::calc;
use serde_json::Value;

use crate::http::auth::Who;
use crate::http::extract::Path;
use crate::http::problem::Problem;
use crate::state::AppState;

/// Runs one calculator: the same request and the same answer as `jagged-pin calc`.
#[utoipa::path(post, path = "/api/v1/calc/{calculator}", request_body = Object,
    params(("calculator" = String, Path, description = "Its name, such as clearance")),
    responses((status = 200, body = Object), (status = 404, body = Object), (status = 422, body = Object)))]
pub(super) async fn calculate(
    State(state): State<AppState>,
    _: Who,
    Path(calculator): Path<String>,
    body: Result<String, StringRejection>,
) -> Response {
    let body = match body {
        Ok(body) => body,
        Err(e) if e.status() == StatusCode::PAYLOAD_TOO_LARGE => return Problem::TooLarge.into_response(),
        Err(e) => return Problem::BadJson(e.body_text()).into_response(),
    };
    // A choice of shells may search for seconds.
    let answer = match state.limits.search(move || calc::answer(&calculator, &body)).await {
        Ok(answer) => answer,
        Err(problem) => return problem.into_response(),
    };
    match answer {
        Ok(answer) => Json::<Value>(answer).into_response(),
        Err(error) => {
            let status = match error.code {
                calc::Code::UnknownCalculator => StatusCode::NOT_FOUND,
                _ => StatusCode::UNPROCESSABLE_ENTITY,
            };
            (status, Json(error.to_json())).into_response()
        }
    }
}
