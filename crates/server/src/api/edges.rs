//! What stands beside a fillet, and how a shell is narrowed until it clears.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Length;
use jagged_pin_core::Unit;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{Axial, Place};
use jagged_pin_core::machining::{FilletPlan, FilletWish, NoFillet, plan_fillet};
use serde::Deserialize;
use utoipa::ToSchema;

use crate::http::answers::{above_zero, find};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// What is asked of the section at one end of a journal, as typed; empty texts leave what is usual.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct AskFillet {
    /// Whose fillets.
    at: Place,
    /// Which end.
    end: Axial,
    /// Width over which the shell bears.
    #[serde(default)]
    contact: String,
    /// How much farther in a narrow series says that its edge stands.
    #[serde(default)]
    claimed: String,
    /// Most that a pass takes.
    #[serde(default)]
    rough: String,
    /// What the last pass takes.
    #[serde(default)]
    finish: String,
    /// Thickness of the tape between shell and mandrel.
    #[serde(default)]
    tape: String,
}

impl AskFillet {
    fn wish(&self, unit: Unit) -> Result<FilletWish, Problem> {
        // Shells are faced in passes of ten thou, the last of three; a quarter of a millimetre, and under a tenth.
        let (rough, finish) = match unit {
            Unit::Inch => (Length::tenths(100), Length::tenths(30)),
            Unit::Mm => (Length::microns(250), Length::microns(80)),
        };
        Ok(FilletWish {
            end: self.end,
            contact: above_zero(&self.contact, unit, "contact")?,
            claimed: above_zero(&self.claimed, unit, "claimed")?,
            rough: above_zero(&self.rough, unit, "rough")?.unwrap_or(rough),
            finish: above_zero(&self.finish, unit, "finish")?.unwrap_or(finish),
            tape: above_zero(&self.tape, unit, "tape")?.unwrap_or_default(),
        })
    }
}

/// The section at one end of a journal, and the least narrowing that clears it; nothing is changed.
#[utoipa::path(post, path = "/api/v1/builds/{build}/fillet", request_body = AskFillet,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = FilletPlan), (status = "4XX", body = ProblemBody)))]
pub(super) async fn fillet_section(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
    Body(ask): Body<AskFillet>,
) -> Result<Json<FilletPlan>, Problem> {
    let id = find(&state, &name).await?;
    let build = state.store.build(id).await?;
    let wish = ask.wish(build.unit)?;
    let plan = plan_fillet(&build, &evaluate(&build).figures, ask.at, &wish).map_err(|why| match why {
        NoFillet::NotFillets(_) => Problem::field("at", why.to_string()),
        NoFillet::NoSuchEnd => Problem::field("end", why.to_string()),
        NoFillet::Impossible => Problem::field("finish", why.to_string()),
        NoFillet::NotMeasured => Problem::Unanswerable { code: "nothing_measured", detail: why.to_string() },
    })?;
    Ok(Json(plan))
}
