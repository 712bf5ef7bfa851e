//! Which shells would fit a build best, what to fetch and to buy for them, and whether its crank belongs to them.
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::{IntoResponse, Response};
use jagged_pin_core::choose::{PickFrom, Proposal, ToBuy};
use jagged_pin_core::shells::Half;
use jagged_pin_core::units::show_money;
use serde::Deserialize;
use utoipa::IntoParams;

use crate::http::asked_shells::{AskShells, Asked};
use crate::http::auth::Who;
use crate::http::cells::guarded;
use crate::http::extract::{Body, Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// The shells that would bring a row of bearings nearest its targets, proven; nothing is changed.
#[utoipa::path(post, path = "/api/v1/builds/{build}/shells", request_body = AskShells,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Proposal), (status = "4XX", body = ProblemBody)))]
pub(super) async fn propose_shells(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(ask): Body<AskShells>,
) -> Result<Json<Proposal>, Problem> {
    let (_, proposal) = ask.asked(&state, &who, &name).await?.proposal(&state.limits).await?;
    Ok(Json(proposal))
}

/// A question as a link carries it.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(super) struct AskedByLink {
    /// What is asked, as JSON, in the form of `AskShells`.
    ask: String,
}

impl AskedByLink {
    async fn proposal(&self, state: &AppState, who: &Who, build: &str) -> Result<(Asked, Proposal), Problem> {
        let ask: AskShells = serde_json::from_str(&self.ask).map_err(|e| Problem::field("ask", e.to_string()))?;
        ask.asked(state, who, build).await?.proposal(&state.limits).await
    }
}

/// A table as a file to keep.
fn csv_file<const N: usize>(
    name: &str,
    headings: [&str; N],
    mut lines: impl Iterator<Item = [String; N]>,
) -> Result<Response, Problem> {
    let mut rows = csv::Writer::from_writer(Vec::new());
    let written = |e: csv::Error| Problem::field("ask", e.to_string());
    rows.write_record(headings).map_err(written)?;
    lines.try_for_each(|line| rows.write_record(line.map(guarded))).map_err(written)?;
    rows.flush().map_err(|_| Problem::Internal)?;
    let bytes = rows.into_inner().map_err(|_| Problem::Internal)?;
    let kind = "text/csv; charset=utf-8".to_owned();
    let disposition = format!("attachment; filename=\"{name}\"");
    Ok(([(header::CONTENT_TYPE, kind), (header::CONTENT_DISPOSITION, disposition)], bytes).into_response())
}

/// As a list names it.
const fn half_name(half: Half) -> &'static str {
    match half {
        Half::Upper => "upper",
        Half::Lower => "lower",
        Half::Either => "half",
    }
}

/// The pick list of a proposal as CSV: every half in bench order, and where it comes from.
#[utoipa::path(get, path = "/api/v1/builds/{build}/shells/pick.csv",
    params(("build" = String, Path, description = "Short name or id"), AskedByLink),
    responses((status = 200, description = "The list", content_type = "text/csv"), (status = "4XX", body = ProblemBody)))]
pub(super) async fn pick_csv(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Query(link): Query<AskedByLink>,
) -> Result<Response, Problem> {
    let (asked, proposal) = link.proposal(&state, &who, &name).await?;
    let under = asked.wish.undersize.show(asked.family.unit);
    let lines = proposal.picks.into_iter().map(|line| {
        let (from, place) = match line.from {
            PickFrom::Shelf { place } => ("shelf", place),
            PickFrom::Engine { station } => ("engine", station.to_string()),
            PickFrom::Set { part_number } => ("order", part_number),
        };
        [line.station.to_string(), half_name(line.half).into(), line.class, under.clone(), from.into(), place]
    });
    let headings = ["station", "half", "class", "undersize", "from", "where"];
    csv_file(&format!("{}-pick.csv", asked.build.code), headings, lines)
}

/// The order list of a proposal as CSV: the sets to buy, with their prices.
#[utoipa::path(get, path = "/api/v1/builds/{build}/shells/order.csv",
    params(("build" = String, Path, description = "Short name or id"), AskedByLink),
    responses((status = 200, description = "The list", content_type = "text/csv"), (status = "4XX", body = ProblemBody)))]
pub(super) async fn order_csv(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Query(link): Query<AskedByLink>,
) -> Result<Response, Problem> {
    let (asked, proposal) = link.proposal(&state, &who, &name).await?;
    let name = asked.family.name;
    let line = |set: ToBuy| [set.part_number, name.clone(), set.sets.to_string(), show_money(set.price)];
    let headings = ["part_number", "family", "sets", "price"];
    csv_file(&format!("{}-order.csv", asked.build.code), headings, proposal.buy.into_iter().map(line))
}
