//! Parts: entering one, putting parts somewhere, condemning one, and looking at a candidate beside what stands.
use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::build::{Standing, with_part_in};
use jagged_pin_core::choose::{Candidate, cranks};
use jagged_pin_core::engine::{Characteristic, PartKind};
use jagged_pin_core::log::{Assignment, Condemnation, Part, PartMove, What};
use jagged_pin_core::record::{Impact, Refusal, impact};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::evaluated::Evaluated;
use crate::http::answers::{evaluated, find, record_what};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::build::BuildView;
use crate::views::changes::RecordedView;

/// A part to be entered.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewPart {
    /// Made by the client: sending it twice enters it once.
    id: Uuid,
    /// What it is called in this build.
    tag: String,
    /// What it is.
    kind: PartKind,
    /// Where it comes from.
    provenance: String,
    /// What is stamped, cast or painted on it.
    #[serde(default)]
    marks: String,
}

/// Enters a part that the layout did not name: another crank, a spare rod.
#[utoipa::path(post, path = "/api/v1/builds/{build}/parts", request_body = NewPart,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn enter_part(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewPart>,
) -> Result<Json<RecordedView>, Problem> {
    let NewPart { id, tag, kind, provenance, marks } = request;
    let [tag, provenance, marks] = [tag, provenance, marks].map(|text| text.trim().to_owned());
    record_what(&state, who, &name, id, What::Part(Part { tag, kind, provenance, marks })).await
}

/// Parts to be put somewhere.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewAssignment {
    /// Made by the client: sending it twice puts them once.
    id: Uuid,
    /// Part by part.
    moves: Vec<PartMove>,
    /// Why, in the words of whoever decided it.
    reason: String,
}

impl NewAssignment {
    fn what(self) -> What {
        What::Assigned(Assignment { moves: self.moves, reason: self.reason.trim().to_owned() })
    }
}

/// Puts parts somewhere: rods on other pins, another crank into the engine. Their evidence goes with them; pairs that
/// are no longer together are to be measured again.
#[utoipa::path(post, path = "/api/v1/builds/{build}/assignments", request_body = NewAssignment,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn assign(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewAssignment>,
) -> Result<Json<RecordedView>, Problem> {
    let id = request.id;
    record_what(&state, who, &name, id, request.what()).await
}

/// What putting parts somewhere would end; nothing is kept.
#[utoipa::path(post, path = "/api/v1/builds/{build}/assignments/impact", request_body = NewAssignment,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Impact), (status = "4XX", body = ProblemBody)))]
pub(super) async fn impact_of_assignment(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewAssignment>,
) -> Result<Json<Impact>, Problem> {
    let build = evaluated(&state, &who, &name).await?;
    Ok(Json(impact(&build.build, who.account.person, request.what())?))
}

/// A part to be condemned, or to be taken up again.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewCondemnation {
    /// Made by the client: sending it twice condemns once.
    id: Uuid,
    /// The part.
    part: String,
    /// Whether a condemnation is taken back.
    #[serde(default)]
    lifted: bool,
    /// Why, in the words of whoever decided it.
    reason: String,
}

/// Condemns a part, or takes it up again: what it would still have to prove is moot while it is condemned.
#[utoipa::path(post, path = "/api/v1/builds/{build}/condemnations", request_body = NewCondemnation,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn condemn(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewCondemnation>,
) -> Result<Json<RecordedView>, Problem> {
    let NewCondemnation { id, part, lifted, reason } = request;
    let what = What::Condemned(Condemnation { part, lifted, reason: reason.trim().to_owned() });
    record_what(&state, who, &name, id, what).await
}

/// Every crank of a build side by side: sizes, classes, and what each would need.
#[utoipa::path(get, path = "/api/v1/builds/{build}/cranks",
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Vec<Candidate>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn compare_cranks(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
) -> Result<Json<Vec<Candidate>>, Problem> {
    Ok(Json(cranks(&evaluated(&state, &who, &name).await?.build)))
}

/// The build as if a candidate stood in it: for measuring it beside the part that does. Nothing is changed.
#[utoipa::path(get, path = "/api/v1/builds/{build}/as-if/{part}",
    params(("build" = String, Path, description = "Short name or id"), ("part" = String, Path, description = "The part")),
    responses((status = 200, body = BuildView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn as_if(
    State(state): State<AppState>,
    who: Who,
    Path((name, part)): Path<(String, String)>,
) -> Result<Json<BuildView>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let seen = state.evaluated.of(&build, who.account.person.id);
    let with = with_part_in(&seen.build, &part).ok_or_else(|| Refusal::NoSuchPart(part.clone()))?;
    let mut assessment = evaluate(&with);
    // What is measured of a candidate is its own: the parts it would stand with are no business of this bench.
    let notes = with.notes();
    let kind = Standing::of(&with.layout, &notes).kind_of(&part);
    let own = |of: Characteristic| Some(of.row().part) == kind;
    assessment.wanted.retain(|w| own(w.characteristic));
    assessment.figures.iter_mut().for_each(|f| f.measured.retain(|m| own(m.characteristic)));
    let room = state.gauges(with.unit);
    let seen = Evaluated { build: Arc::new(with), assessment, asked: seen.asked.clone() };
    Ok(Json(BuildView::of(&seen, &room)))
}
