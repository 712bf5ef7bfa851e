//! Fitting the shells of a proposal, and what came of what they promised.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Build;
use jagged_pin_core::choose::{PickFrom, Proposal, ProposedPair};
use jagged_pin_core::engine::Place;
use jagged_pin_core::log::{FittedPair, Fitting, What};
use jagged_pin_core::record::next_fact;
use jagged_pin_core::shells::{Half, MoveKind};
use jagged_pin_store::{Recorded, Sent, ShelfMove};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::clock;
use crate::http::answers::{answer, find};
use crate::http::asked_shells::{AskShells, Asked};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// Shells to be fitted: a proposal as it was seen.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct FitShells {
    /// Made by the client: sending it twice fits them once.
    id: Uuid,
    /// What was asked.
    ask: AskShells,
    /// The pairs that change, as they were seen.
    pairs: Vec<SeenPair>,
    /// Whether the halves that come out go back on the shelf.
    back: bool,
    /// Minutes it took, where they are worth keeping.
    minutes: Option<u16>,
    /// Why, and what was seen.
    note: String,
}

/// A pair as it was seen in a proposal.
#[derive(Debug, Clone, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct SeenPair {
    /// The bearing.
    station: Place,
    /// Its upper.
    upper: String,
    /// Its lower.
    lower: String,
}

/// Fits a proposal: takes its halves off the shelf, and records the fitting with what is predicted. The bearings are
/// predicted until they are measured again. Refused when shelf or build are not as they were seen.
#[utoipa::path(post, path = "/api/v1/builds/{build}/fittings", request_body = FitShells,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn fit_shells(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<FitShells>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let id = find(&state, &name).await?;
    let viewer = who.account.person.id;
    let FitShells { id: fact_id, ask, pairs, back, minutes, note } = request;
    let known = state.store.build(id).await?;
    if let Some(fact) = known.facts.iter().find(|f| f.id == fact_id) {
        let kept = |f: &Fitting| {
            let kept = f.pairs.iter().map(|p| (p.station, p.upper.as_str(), p.lower.as_str()));
            let sent = pairs.iter().map(|p| (p.station, p.upper.as_str(), p.lower.as_str()));
            kept.eq(sent) && f.minutes == minutes && f.note == note.trim()
        };
        if fact.by.id != viewer || !matches!(&fact.what, What::Fitting(f) if kept(f)) {
            return Err(Problem::IdReused);
        }
        let seq = fact.seq;
        let again = Recorded { before: seq, build: known, seq, again: true };
        return Ok(answer(&state, &again, viewer));
    }
    if !ask.coating.trim().is_empty() {
        return Err(Problem::field("coating", "a coating here is a what-if: fit a family that comes coated"));
    }
    let (asked, proposal) = ask.asked(&state, &who, &name).await?.proposal(&state.limits).await?;
    let seen =
        |p: &ProposedPair| SeenPair { station: p.station, upper: p.pair.upper.clone(), lower: p.pair.lower.clone() };
    let changing = || proposal.places.iter().filter(|p| p.changes);
    if changing().map(seen).collect::<Vec<_>>() != pairs {
        return Err(Problem::ChangedMeanwhile);
    }
    let lacking = proposal.picks.iter().find_map(|p| match &p.from {
        PickFrom::Set { part_number } => Some(part_number.clone()),
        _ => None,
    });
    if let Some(part_number) = lacking {
        let detail = format!("{part_number} has to come in first: order it, then receive it on the shelf");
        return Err(Problem::Unanswerable { code: "not_received", detail });
    }
    let pair = |p: &ProposedPair| FittedPair {
        station: p.station,
        upper: p.pair.upper.clone(),
        lower: p.pair.lower.clone(),
        clearance: p.clearance,
        expanded: p.expanded,
    };
    let fitting = What::Fitting(Fitting {
        row: asked.wish.row,
        family: Some(asked.family.id.clone()),
        undersize: asked.wish.undersize,
        pairs: changing().map(pair).collect(),
        estimated: Some(proposal.estimate.minutes),
        minutes,
        note: note.trim().to_owned(),
    });
    let moves = moves(&asked, &proposal, back, &who);
    let (seq, by) = (asked.build.seq(), who.account.person.clone());
    let sent = fitting.clone();
    let decide = move |build: &Build| -> Result<_, Problem> {
        let fact = next_fact(build, fact_id, clock::now(), by, fitting)?;
        if build.seq() == seq { Ok((vec![fact], moves)) } else { Err(Problem::ChangedMeanwhile) }
    };
    let recorded = state
        .store
        .record_moving(id, Sent { id: fact_id, by: viewer }, move |known| known.what == sent, decide)
        .await?;
    Ok(answer(&state, &recorded, viewer))
}

/// What fitting takes off the shelf and puts back on it.
fn moves(asked: &Asked, proposal: &Proposal, back: bool, who: &Who) -> Vec<ShelfMove> {
    let kind = |half: Half| if asked.family.alike { Half::Either } else { half };
    let change = |half, class: &String, done, by, station: Place, how: &str| ShelfMove {
        id: Uuid::new_v4(),
        family: asked.family.id.clone(),
        half: kind(half),
        class: class.clone(),
        undersize: asked.wish.undersize,
        kind: done,
        by,
        reason: format!("{how} {} {station}", asked.build.code),
        who: who.account.person.clone(),
        at: clock::now(),
    };
    let picked = proposal.picks.iter().filter(|p| matches!(p.from, PickFrom::Shelf { .. }));
    let taken = picked.map(|p| change(p.half, &p.class, MoveKind::Picked, -1, p.station, "for"));
    // What is of another family does not go on this family's shelf.
    let freed = proposal.freed.iter().filter(|f| back && asked.family.class(&f.class).is_some());
    let returned = freed.map(|f| change(f.half, &f.class, MoveKind::Returned, 1, f.station, "out of"));
    taken.chain(returned).collect()
}
