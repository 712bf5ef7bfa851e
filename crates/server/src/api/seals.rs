//! Looking through the seals of the whole shop on demand.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::sheet::LedgerFault;
use jagged_pin_store::FloorQuery;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::doubts::Doubt;
use crate::http::auth::Who;
use crate::http::problem::{Problem, ProblemBody};
use crate::seals::{LookedThrough, look_through};
use crate::state::AppState;

/// What came of it.
#[derive(Serialize, ToSchema)]
pub(super) struct SealsView {
    /// Builds looked at.
    looked_at: usize,
    /// Short name of the shop's key; absent where it has none.
    key: Option<String>,
    /// Builds whose record does not hold.
    doubts: Vec<DoubtView>,
    /// What does not hold about the ledger of seals.
    ledger: Vec<LedgerFault>,
    /// Signatures that were there when the ledger was begun: what was forged before then shows in nothing.
    taken_over: usize,
}

/// A build whose record does not hold.
#[derive(Serialize, ToSchema)]
struct DoubtView {
    /// Identifier.
    id: Uuid,
    /// Short name.
    code: String,
    /// What does not hold.
    #[serde(flatten)]
    doubt: Doubt,
}

/// Looks through the record of every build as the database has it now.
#[utoipa::path(post, path = "/api/v1/seals",
    responses((status = 200, body = SealsView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn look_at_seals(State(state): State<AppState>, who: Who) -> Result<Json<SealsView>, Problem> {
    who.must(|c| c.sign_assembler || c.run_shop, "an assembler or the lead")?;
    let _turn = state.limits.working().await?;
    let LookedThrough { builds: looked_at, ledger, taken_over } = look_through(&state).await?;
    let mut doubts = Vec::new();
    for (id, doubt) in state.doubts() {
        let found = state.store.floor(&FloorQuery { only: Some(id), most: 1, ..FloorQuery::default() }).await?;
        doubts.extend(found.into_iter().map(|row| DoubtView { id, code: row.code, doubt: doubt.clone() }));
    }
    doubts.sort_by(|a, b| a.code.cmp(&b.code));
    let key = state.key.as_ref().map(jagged_pin_core::sheet::SealKey::fingerprint);
    Ok(Json(SealsView { looked_at, key, doubts, ledger, taken_over }))
}
