//! The shop's shells: families and the shelf, and what would fit a build best.

use axum::Json;
use axum::extract::{Path, State};
use jagged_pin_core::Length;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::blind::veiled;
use jagged_pin_core::fact::{Person, Timestamp};
use jagged_pin_core::propose::{NoProposal, Proposal, Wish, fitted_in, propose};
use jagged_pin_core::select::shells::Objective;
use jagged_pin_core::shell::{Half, MoveKind, OnShelf, ShellFamily};
use jagged_pin_core::station::Station;
use jagged_pin_store::{MoveOutcome, Moved, ShelfMove};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::builds::{find, length};
use crate::auth::Who;
use crate::clock;
use crate::extract::Body;
use crate::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// Changes of a shelf that are told.
const TOLD: i64 = 50;
/// Longest reason.
const LONGEST_REASON: usize = 400;

/// A family with what lies on its shelf.
#[derive(Serialize, ToSchema)]
pub(super) struct FamilyView {
    /// The family.
    family: ShellFamily,
    /// Its halves on the shelf.
    shelf: Vec<OnShelf>,
}

/// A change of a shelf, as it was done.
#[derive(Serialize, ToSchema)]
pub(super) struct MoveView {
    /// Identifier.
    id: Uuid,
    /// Which half.
    half: Half,
    /// Which class.
    class: String,
    /// Which undersize.
    undersize: Length,
    /// What was done.
    kind: MoveKind,
    /// By how many.
    by: i32,
    /// How many were left.
    left: u16,
    /// Why.
    reason: String,
    /// Who did it.
    who: Person,
    /// When.
    at: Timestamp,
}

impl From<Moved> for MoveView {
    fn from(moved: Moved) -> Self {
        let Moved { done: d, left } = moved;
        MoveView {
            id: d.id,
            half: d.half,
            class: d.class,
            undersize: d.undersize,
            kind: d.kind,
            by: d.by,
            left,
            reason: d.reason,
            who: d.who,
            at: d.at,
        }
    }
}

/// Every family of the shop and its shelf.
#[utoipa::path(get, path = "/api/v1/shells",
    responses((status = 200, body = Vec<FamilyView>), (status = 401, body = ProblemBody)))]
pub(super) async fn shells(State(state): State<AppState>, _: Who) -> Result<Json<Vec<FamilyView>>, Problem> {
    let mut all = Vec::new();
    for family in state.store.shell_families().await? {
        let shelf = state.store.shelf(&family.id).await?;
        all.push(FamilyView { family, shelf });
    }
    Ok(Json(all))
}

async fn known_family(state: &AppState, id: &str) -> Result<ShellFamily, Problem> {
    let all = state.store.shell_families().await?;
    all.into_iter().find(|f| f.id == id).ok_or(Problem::NoSuchFamily)
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
    /// Why.
    reason: String,
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
    let family = known_family(&state, &id).await?;
    let reason = request.reason.trim().to_owned();
    if reason.is_empty() || reason.len() > LONGEST_REASON {
        return Err(Problem::field("reason", "say why, in a few words"));
    }
    if !family.has(request.half, &request.class, request.undersize) {
        return Err(Problem::field("class", "this family has no such half"));
    }
    if !request.kind.goes(request.by) {
        return Err(Problem::field("by", "received is more than none, picked is less, corrected is either"));
    }
    let change = ShelfMove {
        id: request.id,
        family: family.id.clone(),
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
        MoveOutcome::Done(_) => {
            let shelf = state.store.shelf(&family.id).await?;
            Ok(Json(FamilyView { family, shelf }))
        }
        MoveOutcome::NotThere(left) => Err(Problem::ShelfEmpty { left }),
    }
}

/// What is best.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum Best {
    /// Nearest the aims.
    Closest,
    /// The least bought.
    Thriftiest,
}

/// What is asked of the shells.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct AskShells {
    /// The family.
    family: String,
    /// The undersize, in nanometres.
    undersize: Length,
    /// What is best.
    best: Best,
    /// Whether halves of different classes may be mixed, up to a step.
    mix: bool,
    /// Whether sets may be bought.
    buy: bool,
    /// Stations that keep what they have.
    #[serde(default)]
    kept: Vec<Station>,
    /// Classes that are not to be used.
    #[serde(default)]
    without: Vec<String>,
    /// What a coating on both halves changes, as typed, such as `-0.0005`; empty for none.
    #[serde(default)]
    coating: String,
}

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
    let build = state.store.build(find(&state, &name).await?).await?;
    let family = known_family(&state, &ask.family).await?;
    let shelf = state.store.shelf(&family.id).await?;
    let coating = match ask.coating.trim() {
        "" => Length::ZERO,
        text => length(text, build.unit, "coating")?,
    };
    let build = veiled(&build, who.account.person.id).unwrap_or_else(|| (*build).clone());
    let wish = Wish {
        row: family.row,
        undersize: ask.undersize,
        objective: match ask.best {
            Best::Closest => Objective::Closest,
            Best::Thriftiest => Objective::Thriftiest,
        },
        max_step: if ask.mix { family.step() } else { Length::ZERO },
        fitted: fitted_in(&build, &family),
        kept: ask.kept,
        without: ask.without,
        coating,
        buy: ask.buy,
    };
    // The search may take a while: it must not hold up the others.
    let found = tokio::task::spawn_blocking(move || {
        let acceptance = build.rules_now().acceptance;
        propose(&evaluate(&build), acceptance, &family, &shelf, &wish)
    });
    match found.await {
        Ok(Ok(proposal)) => Ok(Json(proposal)),
        Ok(Err(reason)) => Err(no_proposal(&reason)),
        Err(_) => Err(Problem::Internal),
    }
}

fn no_proposal(reason: &NoProposal) -> Problem {
    let code = match reason {
        NoProposal::NothingMeasured => "nothing_measured",
        NoProposal::Unknown(_) => "unknown_shells",
        NoProposal::WrongFamily { .. } => "wrong_family",
        NoProposal::Select(_) => "not_enough_shells",
    };
    Problem::NoShells { code, detail: reason.to_string() }
}
