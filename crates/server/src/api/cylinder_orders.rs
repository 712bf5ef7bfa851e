//! Work orders for cylinders: honed to their pistons, or bored to the next oversize.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::log::What;
use jagged_pin_core::machining::{NoPlan, bore_items, hone_items, plan_bores, plan_boring};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::bores::honer_holds;
use super::boring::AskBoring;
use super::orders::{Paper, no_plan};
use crate::http::answers::{find, record_change, record_what};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// A work order for the cylinders. Lengths are texts as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewCylinderOrder {
    /// Made by the client: sending it twice writes it once.
    id: Uuid,
    /// For the next oversize that cleans them all, what was asked of it; honed to the pistons that there are when absent.
    #[serde(default)]
    oversize: Option<AskBoring>,
    /// What the other shop holds to either side; a tenth, or three thousandths of a millimetre, when empty.
    #[serde(default)]
    tolerance: String,
    /// Which shop.
    shop: String,
    /// Hatch and finish, as they are written on the paper.
    finish: String,
    /// What else the other shop has to know.
    note: String,
}

/// Writes a work order for the cylinders.
#[utoipa::path(post, path = "/api/v1/builds/{build}/cylinder-orders", request_body = NewCylinderOrder,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn write_cylinder_order(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewCylinderOrder>,
) -> Result<Json<RecordedView>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let paper = Paper { shop: &request.shop, fillet: "", finish: &request.finish, note: &request.note };
    if let Some(what) = paper.sent_before(&build, request.id)? {
        return record_what(&state, who, &name, request.id, what).await;
    }
    let whole = state.evaluated.whole(&build);
    let (unit, assessed) = (build.unit, &whole.assessment);
    let tolerance = honer_holds(&request.tolerance, unit)?;
    let items = match &request.oversize {
        Some(ask) => {
            let wish = ask.wish(unit)?;
            plan_boring(&build, &assessed.figures, &wish).map(|plan| bore_items(&plan, tolerance, unit))
        }
        None => plan_bores(&build, &assessed.figures, tolerance, &[]).map(|plan| hone_items(&plan, unit)),
    };
    let items = items.filter(|items| !items.is_empty()).ok_or_else(|| no_plan(NoPlan::NoSuchPlan))?;
    let what = What::Order(paper.order(&build, assessed.orders.len(), items)?);
    let seq = build.seq();
    record_change(&state, who, &name, request.id, what, move |build| build.seq() == seq).await
}
