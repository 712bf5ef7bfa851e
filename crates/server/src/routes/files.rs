//! Open formats in and out: a build as JSON, its mains as CSV.

use axum::Json;
use axum::extract::{Path, State};
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::assessment::{Assessment, StationAssessment};
use jagged_pin_core::feature::Method;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_store::{Opened, StoreError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::builds::find;
use crate::auth::Who;
use crate::extract::Body;
use crate::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::view::BuildView;

/// Version of the exported form.
const FORM: &str = "jagged-pin-build/1";

/// An exported build (docs/formats.md).
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct BuildFile {
    /// `jagged-pin-build/1`.
    form: String,
    /// The build and its facts.
    #[schema(value_type = Object)]
    build: Build,
}

fn download(kind: &'static str, file: &str, body: String) -> Response {
    let mut response = body.into_response();
    let headers = response.headers_mut();
    headers.insert(header::CONTENT_TYPE, HeaderValue::from_static(kind));
    if let Ok(disposition) = HeaderValue::from_str(&format!("attachment; filename=\"{file}\"")) {
        headers.insert(header::CONTENT_DISPOSITION, disposition);
    }
    response
}

/// The whole build as a file that another shop can import.
#[utoipa::path(get, path = "/api/v1/builds/{build}/export.json",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = BuildFile), (status = "4XX", body = ProblemBody)))]
pub(super) async fn export_json(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Response, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let name = format!("{}.json", build.code);
    let file = BuildFile { form: FORM.into(), build: (*build).clone() };
    let text = serde_json::to_string_pretty(&file).map_err(|_| Problem::Internal)?;
    Ok(download("application/json", &name, text))
}

/// The mains of a build, a row each.
#[utoipa::path(get, path = "/api/v1/builds/{build}/mains.csv",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = String, content_type = "text/csv"), (status = "4XX", body = ProblemBody)))]
pub(super) async fn export_csv(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Response, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let text = mains_csv(&build, &evaluate(&build)).map_err(|_| Problem::Internal)?;
    Ok(download("text/csv; charset=utf-8", &format!("{}-mains.csv", build.code), text))
}

/// Columns of the CSV; `{u}` stands for the build's unit.
const COLUMNS: [&str; 17] = [
    "build",
    "station",
    "low_{u}",
    "aim_{u}",
    "high_{u}",
    "journal_{u}",
    "journal_taper_{u}",
    "journal_out_of_round_{u}",
    "bore_{u}",
    "bore_taper_{u}",
    "bore_relief_{u}",
    "method",
    "clearance_{u}",
    "expanded_uncertainty_{u}",
    "state",
    "margin_{u}",
    "concession",
];

fn mains_csv(build: &Build, assessed: &Assessment) -> Result<String, Box<dyn std::error::Error>> {
    let mut csv = csv::Writer::from_writer(Vec::new());
    csv.write_record(COLUMNS.map(|c| c.replace("{u}", build.unit.symbol())))?;
    for s in &assessed.stations {
        csv.write_record(mains_row(build, s))?;
    }
    Ok(String::from_utf8(csv.into_inner()?)?)
}

fn mains_row(build: &Build, s: &StationAssessment) -> Vec<String> {
    let show = |l: Option<Length>| l.map_or_else(String::new, |l| number(l, build.unit));
    let name = |v: Option<serde_json::Value>| v.and_then(|v| v.as_str().map(str::to_owned)).unwrap_or_default();
    let window = s.target.as_ref().map(|t| t.window);
    let journal = s.journal.size.as_ref();
    let judged = s.judged.as_ref();
    let bore = match judged.map(|j| j.method) {
        Some(Method::Subtract) => s.bore_subtract.size.as_ref(),
        _ => s.bore_direct.size.as_ref(),
    };
    vec![
        build.code.clone(),
        s.station.to_string(),
        show(window.map(|w| w.low)),
        show(window.map(|w| w.aim)),
        show(window.map(|w| w.high)),
        show(journal.map(|j| j.effective)),
        show(journal.map(|j| j.taper)),
        show(journal.map(|j| j.out_of_round)),
        show(bore.map(|b| b.effective)),
        show(bore.map(|b| b.taper)),
        show(bore.and_then(|b| b.relief)),
        name(judged.and_then(|j| serde_json::to_value(j.method).ok())),
        show(judged.map(|j| j.clearance)),
        show(judged.map(|j| j.expanded)),
        name(judged.and_then(|j| serde_json::to_value(j.state).ok())),
        show(judged.map(|j| j.margin)),
        s.concession.as_ref().map_or_else(String::new, |c| format!("{}: {}", c.by.name, c.reason)),
    ]
}

/// A figure that spreadsheets read as a number.
fn number(length: Length, unit: Unit) -> String {
    length.to_decimal(unit).to_string()
}

/// Imports an exported build: all of it, or nothing.
#[utoipa::path(post, path = "/api/v1/imports", request_body = BuildFile,
    responses((status = 201, body = BuildView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn import(
    State(state): State<AppState>,
    who: Who,
    Body(file): Body<BuildFile>,
) -> Result<(StatusCode, Json<BuildView>), Problem> {
    who.must(|c| c.open_builds, "an assembler or the lead")?;
    if file.form != FORM {
        return Err(Problem::field("form", format!("this file says \"{}\"; this product reads \"{FORM}\"", file.form)));
    }
    // Checking a long history takes a while: not on a thread that answers others.
    let checked = tokio::task::spawn_blocking(move || file.build.check().map(|()| file.build));
    let build = checked.await.map_err(|_| Problem::Internal)??;
    match state.store.open_build(&build).await {
        Ok(Opened::New) => {}
        Ok(Opened::Again) | Err(StoreError::BuildExists) => return Err(Problem::BuildExists(build.code)),
        Err(StoreError::CodeTaken) => return Err(Problem::CodeTaken(build.code)),
        Err(other) => return Err(other.into()),
    }
    tracing::info!(build = build.code, by = who.account.login, "imported");
    state.changes.nudge();
    Ok((StatusCode::CREATED, Json(BuildView::of(&build))))
}
