//! What lies on the shop's shelves of shells: looked at, received, picked and counted anew.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Length;
use jagged_pin_core::shells::{Half, MoveKind, OnShelf};
use jagged_pin_store::{MoveOutcome, ShelfMove};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::clock;
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::family::{FamilyView, MoveView, family_view, known_family};

/// Changes of a shelf that are told.
const TOLD: i64 = 50;

/// Longest reason.
const LONGEST_REASON: usize = 400;

/// Every family of the shop and its shelf.
#[utoipa::path(get, path = "/api/v1/shells",
    responses((status = 200, body = Vec<FamilyView>), (status = 401, body = ProblemBody)))]
pub(super) async fn shells(State(state): State<AppState>, _: Who) -> Result<Json<Vec<FamilyView>>, Problem> {
    let mut all = Vec::new();
    for known in state.store.shell_families().await? {
        all.push(family_view(&state, known).await?);
    }
    Ok(Json(all))
}

/// The last changes of a family's shelf, the latest first.
#[utoipa::path(get, path = "/api/v1/shells/{family}/moves",
    params(("family" = String, Path, description = "Short name of the family")),
    responses((status = 200, body = Vec<MoveView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn shelf_history(
    State(state): State<AppState>,
    _: Who,
    Path(family): Path<String>,
) -> Result<Json<Vec<MoveView>>, Problem> {
    known_family(&state, &family).await?;
    Ok(Json(state.store.shell_moves(&family, TOLD).await?.into_iter().map(MoveView::from).collect()))
}

/// A change of a shelf.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewMove {
    /// Made by the client: sending it twice does it once.
    id: Uuid,
    /// Which half.
    half: Half,
    /// Which class.
    class: String,
    /// Which undersize, in nanometres.
    undersize: Length,
    /// What was done.
    kind: MoveKind,
    /// By how many: received ones are more than none, picked ones less.
    by: i32,
    /// Why, in the words of whoever decided it.
    reason: String,
}

fn reason(text: &str) -> Result<String, Problem> {
    let reason = text.trim().to_owned();
    let fits = !reason.is_empty() && reason.chars().count() <= LONGEST_REASON;
    if fits { Ok(reason) } else { Err(Problem::field("reason", "say why, in a few words")) }
}

/// Receives, picks or corrects halves. A shelf never goes below empty: what is not there is refused with what is
/// left.
#[utoipa::path(post, path = "/api/v1/shells/{family}/moves", request_body = NewMove,
    params(("family" = String, Path, description = "Short name of the family")),
    responses((status = 200, body = FamilyView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn move_shells(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(request): Body<NewMove>,
) -> Result<Json<FamilyView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    if request.kind == MoveKind::Corrected {
        who.must(|c| c.correct_shelf, "somebody who may correct the shelf")?;
    }
    let known = known_family(&state, &id).await?;
    let reason = reason(&request.reason)?;
    if !known.family.has(request.half, &request.class, request.undersize) {
        return Err(Problem::field("class", "this family has no such half"));
    }
    if !request.kind.goes(request.by) {
        return Err(Problem::field("by", "received is more than none, picked is less, corrected is either"));
    }
    let change = ShelfMove {
        id: request.id,
        family: known.family.id.clone(),
        half: request.half,
        class: request.class,
        undersize: request.undersize,
        kind: request.kind,
        by: request.by,
        reason,
        who: who.account.person,
        at: clock::now(),
    };
    match state.store.move_shells(&change).await? {
        MoveOutcome::Done(_) => Ok(Json(family_view(&state, known).await?)),
        MoveOutcome::NotThere(left) => Err(Problem::ShelfEmpty { left }),
    }
}

/// Sets that came in.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewSets {
    /// Made by the client: sending it twice does it once.
    id: Uuid,
    /// Role number of the set.
    part_number: String,
    /// How many sets.
    sets: u16,
    /// Why: the order, the delivery note.
    reason: String,
}

/// Receives whole sets: every half of them goes on the shelf.
#[utoipa::path(post, path = "/api/v1/shells/{family}/sets", request_body = NewSets,
    params(("family" = String, Path, description = "Short name of the family")),
    responses((status = 200, body = FamilyView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn receive_sets(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(request): Body<NewSets>,
) -> Result<Json<FamilyView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let known = known_family(&state, &id).await?;
    let offer = known.family.offers.iter().find(|o| o.part_number == request.part_number);
    let offer = offer.ok_or_else(|| Problem::field("part_number", "the shop buys no set of that number"))?;
    if !(1..=50).contains(&request.sets) {
        return Err(Problem::field("sets", "one to fifty sets at a time"));
    }
    let reason = format!("{} x {}: {}", request.sets, offer.part_number, reason(&request.reason)?);
    let sets = i32::from(request.sets);
    let part = |(n, (half, each)): (u128, (Half, i32))| ShelfMove {
        // One identifier for each half of the delivery, the same however often it is sent.
        id: Uuid::from_u128(request.id.as_u128().wrapping_add(n)),
        family: known.family.id.clone(),
        half,
        class: offer.class.clone(),
        undersize: offer.undersize,
        kind: MoveKind::Received,
        by: each.saturating_mul(sets),
        reason: reason.clone(),
        who: who.account.person.clone(),
        at: clock::now(),
    };
    let moves: Vec<ShelfMove> = (0..).zip(offer.halves_of(&known.family)).map(part).collect();
    state.store.move_all(&moves).await?;
    Ok(Json(family_view(&state, known).await?))
}

/// Where a kind of half lies.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewPlace {
    /// Which half.
    half: Half,
    /// Which class.
    class: String,
    /// Which undersize, in nanometres.
    undersize: Length,
    /// The place on the shelf.
    place: String,
}

/// Says where a kind of half lies.
#[utoipa::path(put, path = "/api/v1/shells/{family}/places", request_body = NewPlace,
    params(("family" = String, Path, description = "Short name of the family")),
    responses((status = 200, body = FamilyView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn put_place(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(request): Body<NewPlace>,
) -> Result<Json<FamilyView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let known = known_family(&state, &id).await?;
    let NewPlace { half, class, undersize, place } = request;
    if !known.family.has(half, &class, undersize) {
        return Err(Problem::field("class", "this family has no such half"));
    }
    let place = place.trim().to_owned();
    if place.chars().count() > 20 {
        return Err(Problem::field("place", "a place on the shelf has at most 20 characters"));
    }
    state.store.put_place(&known.family.id, &OnShelf { half, class, undersize, count: 0, place }).await?;
    Ok(Json(family_view(&state, known).await?))
}
