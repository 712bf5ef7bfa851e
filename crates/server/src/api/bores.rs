//! What the cylinders are honed to.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::Place;
use jagged_pin_core::machining::{BlockCut, BlockPlan, BoresPlan, block_plan, plan_bores};
use jagged_pin_core::{Length, Unit};
use serde::Deserialize;
use utoipa::IntoParams;

use crate::http::answers::{above_zero, find};
use crate::http::auth::Who;
use crate::http::extract::{Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// What the honer is asked for.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct AskBores {
    /// What the honer holds to either side, as typed; a tenth, or three thousandths of a millimetre, when empty.
    #[serde(default)]
    tolerance: String,
    /// Wrist pins whose pistons stay with their rods, such as `W1 W3`.
    #[serde(default)]
    married: String,
}

/// What a honer holds to either side, as typed; what they usually hold when empty.
pub(super) fn honer_holds(text: &str, unit: Unit) -> Result<Length, Problem> {
    let usual = match unit {
        Unit::Inch => Length::tenths(1),
        Unit::Mm => Length::microns(3),
    };
    Ok(above_zero(text, unit, "tolerance")?.unwrap_or(usual))
}

/// The bore that each piston wants, whether one size serves all, and which piston belongs into which bore; nothing is changed.
#[utoipa::path(get, path = "/api/v1/builds/{build}/bores", params(("build" = String, Path, description = "Short name or id"), AskBores),
    responses((status = 200, body = BoresPlan), (status = "4XX", body = ProblemBody)))]
pub(super) async fn plan_bores_of(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
    Query(ask): Query<AskBores>,
) -> Result<Json<BoresPlan>, Problem> {
    let id = find(&state, &name).await?;
    let build = state.store.build(id).await?;
    let tolerance = honer_holds(&ask.tolerance, build.unit)?;
    let pin = |text: &str| text.parse::<Place>().map_err(|_| Problem::field("married", "wrist pins, such as W1 W3"));
    let married = ask.married.split_whitespace().map(pin).collect::<Result<Vec<_>, _>>()?;
    let plan = plan_bores(&build, &evaluate(&build).figures, tolerance, &married);
    plan.map(Json).ok_or_else(|| Problem::Unanswerable {
        code: "no_target",
        detail: "say what a piston has to the wall first: there is no target yet".into(),
    })
}

/// What is asked to be cut.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct AskBlock {
    /// What comes off every deck, as typed; nothing when empty.
    #[serde(default)]
    deck: String,
    /// What comes off the faces of the main caps before a line hone, as typed; nothing when empty.
    #[serde(default)]
    caps: String,
}

/// Decks, stacks, tunnel, strokes and index, and what a cut changes elsewhere; nothing is changed.
#[utoipa::path(get, path = "/api/v1/builds/{build}/block", params(("build" = String, Path, description = "Short name or id"), AskBlock),
    responses((status = 200, body = BlockPlan), (status = "4XX", body = ProblemBody)))]
pub(super) async fn block_of(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
    Query(ask): Query<AskBlock>,
) -> Result<Json<BlockPlan>, Problem> {
    let id = find(&state, &name).await?;
    let build = state.store.build(id).await?;
    let off = |text: &str, field| Ok::<_, Problem>(above_zero(text, build.unit, field)?.unwrap_or_default());
    let cut = BlockCut { deck: off(&ask.deck, "deck")?, caps: off(&ask.caps, "caps")? };
    let plan = block_plan(&build, &evaluate(&build).figures, cut);
    plan.map(Json).ok_or_else(|| Problem::Unanswerable {
        code: "no_cylinders",
        detail: "this engine's cylinders are not known here".into(),
    })
}
