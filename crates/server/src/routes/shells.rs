//! Which shells would fit a build best, what to fetch and to buy for them, and whether its crank belongs to them.

use axum::Json;
use axum::extract::{Path, Query, State};
use axum::http::header;
use axum::response::{IntoResponse, Response};
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::blind::veiled;
use jagged_pin_core::fact::What;
use jagged_pin_core::family_check::{FamilyCheck, Stamp, Stamps, family_check};
use jagged_pin_core::pick::PickFrom;
use jagged_pin_core::propose::{NoProposal, Proposal, ToBuy, Wish, fitted_in, foreign_in, propose};
use jagged_pin_core::select::shells::Objective;
use jagged_pin_core::shell::{Half, OnShelf, ShellFamily};
use jagged_pin_core::station::Station;
use jagged_pin_core::{Build, Length, money};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use super::builds::{find, length, record_what};
use super::shelf::known_family;
use crate::auth::Who;
use crate::extract::Body;
use crate::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::view::RecordedView;

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
#[derive(Debug, Clone, Deserialize, ToSchema)]
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
    pub(super) coating: String,
    /// By how many gauge steps every window is moved, to see what another target would do.
    #[serde(default)]
    moved: i16,
}

/// Farthest that a target is moved to see what would happen, in gauge steps.
const FARTHEST: i16 = 60;

/// A question with what it is asked of.
pub(super) struct Asked {
    pub(super) build: Build,
    pub(super) family: ShellFamily,
    shelf: Vec<OnShelf>,
    pub(super) wish: Wish,
}

impl AskShells {
    pub(super) async fn asked(self, state: &AppState, who: &Who, build: &str) -> Result<Asked, Problem> {
        let build = state.store.build(find(state, build).await?).await?;
        let families: Vec<ShellFamily> = state.store.shell_families().await?.into_iter().map(|k| k.family).collect();
        let family = families.iter().find(|f| f.id == self.family).cloned().ok_or(Problem::NoSuchFamily)?;
        let shelf = state.store.shelf(&family.id).await?;
        let coating = match self.coating.trim() {
            "" => Length::ZERO,
            text => length(text, build.unit, "coating")?,
        };
        let build = veiled(&build, who.account.person.id).unwrap_or_else(|| (*build).clone());
        let step = build.unit.dial_step().nm();
        let moved = i64::from(self.moved.clamp(-FARTHEST, FARTHEST));
        let wish = Wish {
            row: family.row,
            undersize: self.undersize,
            objective: match self.best {
                Best::Closest => Objective::Closest,
                Best::Thriftiest => Objective::Thriftiest,
            },
            max_step: if self.mix { family.step() } else { Length::ZERO },
            foreign: foreign_in(&build, &family, &families),
            fitted: fitted_in(&build, &family),
            kept: self.kept,
            without: self.without,
            coating,
            buy: self.buy,
            moved: Length::from_nm(moved * step),
        };
        Ok(Asked { build, family, shelf, wish })
    }
}

impl Asked {
    /// The search may take a while: it must not hold up the others.
    pub(super) async fn proposal(self) -> Result<(Self, Proposal), Problem> {
        let found = tokio::task::spawn_blocking(move || {
            let assessed = evaluate(&self.build);
            let found = propose(&self.build, &assessed, &self.family, &self.shelf, &self.wish);
            (self, found)
        });
        match found.await {
            Ok((asked, Ok(proposal))) => Ok((asked, proposal)),
            Ok((_, Err(reason))) => Err(no_proposal(&reason)),
            Err(_) => Err(Problem::Internal),
        }
    }
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
    let (_, proposal) = ask.asked(&state, &who, &name).await?.proposal().await?;
    Ok(Json(proposal))
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
        ask.asked(state, who, build).await?.proposal().await
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
    lines.try_for_each(|line| rows.write_record(line)).map_err(written)?;
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
    let line = |set: ToBuy| [set.part_number, name.clone(), set.sets.to_string(), money::show(set.price)];
    let headings = ["part_number", "family", "sets", "price"];
    csv_file(&format!("{}-order.csv", asked.build.code), headings, proposal.buy.into_iter().map(line))
}

/// Which family a crank is held against.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(super) struct Against {
    /// Short name of the family.
    family: String,
}

/// Holds the journals against a family's catalogue and the stamps of the old shells.
#[utoipa::path(get, path = "/api/v1/builds/{build}/shells/check",
    params(("build" = String, Path, description = "Short name or id"), Against),
    responses((status = 200, body = FamilyCheck), (status = "4XX", body = ProblemBody)))]
pub(super) async fn check_family(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Query(against): Query<Against>,
) -> Result<Json<FamilyCheck>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let family = known_family(&state, &against.family).await?.family;
    let veiled = veiled(&build, who.account.person.id);
    let build = veiled.as_ref().unwrap_or(&build);
    Ok(Json(family_check(build, &evaluate(build), &family)))
}

/// Stamps of old shells.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewStamps {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// Bearing by bearing.
    stamps: Vec<Stamp>,
}

/// Records what is stamped on the old shells.
#[utoipa::path(post, path = "/api/v1/builds/{build}/stamps", request_body = NewStamps,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_stamps(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewStamps>,
) -> Result<Json<RecordedView>, Problem> {
    record_what(&state, who, &name, request.id, What::Stamps(Stamps { stamps: request.stamps })).await
}
