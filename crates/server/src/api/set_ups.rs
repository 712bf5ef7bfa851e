//! Set-ups of the caps, with what a change of them ends.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Unit;
use jagged_pin_core::build::Build;
use jagged_pin_core::engine::BearingRow;
use jagged_pin_core::log::{
    CapSeat, FastenerGroup, FastenerKind, Lubricated, MoreFasteners, SetUp, ShellsIn, TorqueStep, Washers, What,
};
use jagged_pin_core::record::{Impact, impact};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{find, record_change};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// A set-up of a row. Steps are texts as they are written in the shop.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewSetUp {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// The `version` of the set-up that is being replaced; 0 where there is none.
    version: u32,
    /// The row.
    row: BearingRow,
    /// Studs or bolts.
    fastener: FastenerKind,
    /// Which set.
    fasteners: String,
    /// What lies under head or nut, where somebody says so.
    #[serde(default)]
    washers: Option<Washers>,
    /// Whether it is the set that was in place when the bores were finished.
    as_finished: bool,
    /// The lubricant.
    lubricant: String,
    /// Where it goes, where somebody says so.
    #[serde(default)]
    lubricated: Option<Lubricated>,
    /// Such as `25 lb-ft`, `60 deg`, `0.0060 stretch`.
    steps: Vec<String>,
    /// Further groups of each cap.
    #[serde(default)]
    groups: Vec<NewGroup>,
    /// Drawn down square by hand first.
    drawn_square: bool,
    /// Washers with their chamfer toward the head.
    washers_chamfer_up: bool,
    /// Caps that are not on their own station facing forward.
    caps: Vec<CapSeat>,
    /// Shells in place, where they are known by name.
    shells: Vec<ShellsIn>,
    /// Unit of a bare stretch.
    unit: Unit,
}

/// A further group of fasteners, its steps as texts.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct NewGroup {
    /// Which.
    group: FastenerGroup,
    /// Studs or bolts.
    fastener: FastenerKind,
    /// Which set.
    fasteners: String,
    /// What lies under head or nut.
    washers: Washers,
    /// The lubricant.
    lubricant: String,
    /// Where it goes.
    lubricated: Lubricated,
    /// As the steps of the set-up.
    steps: Vec<String>,
}

/// Reads steps as they are written in the shop, passing over empty ones.
fn steps_of(texts: &[String], unit: Unit, field: &'static str) -> Result<Vec<TorqueStep>, Problem> {
    let written = texts.iter().filter(|s| !s.trim().is_empty());
    written.map(|text| TorqueStep::parse(text, unit).map_err(|e| Problem::field(field, e))).collect()
}

impl NewGroup {
    fn group(&self, unit: Unit) -> Result<MoreFasteners, Problem> {
        Ok(MoreFasteners {
            group: self.group,
            fastener: self.fastener,
            fasteners: self.fasteners.trim().to_owned(),
            washers: self.washers,
            lubricant: self.lubricant.trim().to_owned(),
            lubricated: self.lubricated,
            steps: steps_of(&self.steps, unit, "groups")?,
        })
    }
}

/// What recording a set-up would end, and what its steps were understood as.
#[derive(Serialize, ToSchema)]
pub(crate) struct SetUpImpact {
    /// What it would end.
    impact: Impact,
    /// The steps of the inner group.
    steps: Vec<TorqueStep>,
}

impl NewSetUp {
    fn set_up(&self) -> Result<SetUp, Problem> {
        Ok(SetUp {
            row: self.row,
            fastener: self.fastener,
            fasteners: self.fasteners.trim().to_owned(),
            as_finished: self.as_finished,
            washers: self.washers,
            lubricant: self.lubricant.trim().to_owned(),
            lubricated: self.lubricated,
            steps: steps_of(&self.steps, self.unit, "steps")?,
            groups: self.groups.iter().map(|g| g.group(self.unit)).collect::<Result<_, _>>()?,
            drawn_square: self.drawn_square,
            washers_chamfer_up: self.washers_chamfer_up,
            caps: self.caps.clone(),
            shells: self.shells.clone(),
        })
    }
}

/// Records a set-up; what was measured over the caps it changes ends.
#[utoipa::path(post, path = "/api/v1/builds/{build}/set-ups", request_body = NewSetUp,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(crate) async fn record_set_up(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewSetUp>,
) -> Result<Json<RecordedView>, Problem> {
    let what = What::SetUp(request.set_up()?);
    let (version, row) = (request.version, request.row);
    let as_seen = move |build: &Build| {
        let in_force = build.facts.iter().rev().find(|f| matches!(&f.what, What::SetUp(s) if s.row == row));
        version == in_force.map_or(0, |f| f.seq)
    };
    record_change(&state, who, &name, request.id, what, as_seen).await
}

/// Says what recording a set-up would end, without recording it.
#[utoipa::path(post, path = "/api/v1/builds/{build}/set-ups/impact", request_body = NewSetUp,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = SetUpImpact), (status = "4XX", body = ProblemBody)))]
pub(crate) async fn impact_of_set_up(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewSetUp>,
) -> Result<Json<SetUpImpact>, Problem> {
    let set_up = request.set_up()?;
    let steps = set_up.steps.clone();
    let build = state.store.build(find(&state, &name).await?).await?;
    Ok(Json(SetUpImpact { impact: impact(&build, who.account.person, What::SetUp(set_up))?, steps }))
}
