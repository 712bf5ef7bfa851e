//! Trays of shells measured one by one, and rods to pins.
use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use jagged_pin_core::choose::{NoTrayChoice, TrayProposal, choose_from_tray};
use jagged_pin_core::engine::BearingRow;
use jagged_pin_core::log::{Fact, FittedPair, Fitting, Tray, TrayShell, What};
use jagged_pin_core::shells::Half;
use jagged_pin_core::{Build, Length};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::http::answers::{evaluated, find, length, record_change, typed};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// Which row a tray is for.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
#[serde(deny_unknown_fields)]
pub(super) struct OfRow {
    /// The row.
    row: BearingRow,
}

/// A tray, and what is chosen from it.
#[derive(Serialize, ToSchema)]
pub(super) struct TrayView {
    /// Place of the fact that recorded the tray; 0 where there is none.
    version: u32,
    /// The tray.
    tray: Option<Tray>,
    /// The halves as they would be typed.
    typed: Vec<TypedShell>,
    /// What is chosen from it.
    proposal: Option<TrayProposal>,
    /// Why nothing is chosen.
    why_not: Option<String>,
}

/// A half as it is typed.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct TypedShell {
    /// What is scribed on it.
    mark: String,
    /// Upper or lower.
    half: Half,
    /// Its wall.
    wall: String,
}

fn tray_of(build: &Build, row: BearingRow) -> Option<(&Fact, &Tray)> {
    build.facts.iter().rev().find_map(|f| match &f.what {
        What::Tray(t) if t.row == row => Some((f, t)),
        _ => None,
    })
}

/// The tray of a row and the best pairs from it, proven.
#[utoipa::path(get, path = "/api/v1/builds/{build}/tray",
    params(("build" = String, Path, description = "Short name or id"), OfRow),
    responses((status = 200, body = TrayView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn tray(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Query(OfRow { row }): Query<OfRow>,
) -> Result<Json<TrayView>, Problem> {
    let seen = evaluated(&state, &who, &name).await?;
    let build = &seen.build;
    let Some((fact, tray)) = tray_of(build, row) else {
        return Ok(Json(TrayView { version: 0, tray: None, typed: Vec::new(), proposal: None, why_not: None }));
    };
    let (version, tray) = (fact.seq, tray.clone());
    let shell = |s: &TrayShell| TypedShell { mark: s.mark.clone(), half: s.half, wall: typed(s.wall, build.unit) };
    let typed_shells = tray.shells.iter().map(shell).collect();
    let asked = tray.clone();
    let on = Arc::clone(&seen);
    let chosen = state.limits.search(move || choose_from_tray(&on.build, &on.assessment, &asked)).await?;
    let (proposal, why_not) = match chosen {
        Ok(proposal) => (Some(proposal), None),
        Err(NoTrayChoice::Select(_)) => {
            (None, Some("the tray has fewer uppers or lowers than there are housings".into()))
        }
        Err(other) => (None, Some(other.to_string())),
    };
    Ok(Json(TrayView { version, tray: Some(tray), typed: typed_shells, proposal, why_not }))
}

/// A tray as it is typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewTray {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// The `version` of the tray that is being replaced; 0 where there is none.
    version: u32,
    /// The row.
    row: BearingRow,
    /// The gauge the walls were measured with.
    gauge: String,
    /// The halves.
    shells: Vec<TypedShell>,
}

/// Records a tray in place of the one before.
#[utoipa::path(post, path = "/api/v1/builds/{build}/tray", request_body = NewTray,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_tray(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewTray>,
) -> Result<Json<RecordedView>, Problem> {
    let NewTray { id, version, row, gauge, shells } = request;
    let unit = state.store.build(find(&state, &name).await?).await?.unit;
    let shell = |s: TypedShell| -> Result<TrayShell, Problem> {
        Ok(TrayShell { mark: s.mark.trim().to_owned(), half: s.half, wall: length(&s.wall, unit, "wall")? })
    };
    let shells = shells.into_iter().map(shell).collect::<Result<_, _>>()?;
    let what = What::Tray(Tray { row, gauge, shells });
    let as_seen = move |build: &Build| version == tray_of(build, row).map_or(0, |(f, _)| f.seq);
    record_change(&state, who, &name, id, what, as_seen).await
}

/// A choice from a tray to be fitted.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct FitTray {
    /// Made by the client: sending it twice fits them once.
    id: Uuid,
    /// The row.
    row: BearingRow,
    /// The `version` of the tray that was seen.
    version: u32,
    /// Sequence number of the build that was seen.
    seq: u32,
    /// Minutes it took, where they are worth keeping.
    minutes: Option<u16>,
    /// Why, and what was seen.
    note: String,
}

/// Fits what was chosen from a tray; the bearings are predicted until they are measured again.
#[utoipa::path(post, path = "/api/v1/builds/{build}/tray/fittings", request_body = FitTray,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn fit_tray(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<FitTray>,
) -> Result<Json<RecordedView>, Problem> {
    let FitTray { id, row, version, seq, minutes, note } = request;
    let build = state.store.build(find(&state, &name).await?).await?;
    // Sent again after it was kept: answered with what is kept, if that is what was sent.
    if let Some(known) = build.facts.iter().find(|f| f.id == id) {
        let sent = |f: &Fitting| f.row == row && f.family.is_none() && f.minutes == minutes && f.note == note.trim();
        return match &known.what {
            What::Fitting(f) if sent(f) => record_change(&state, who, &name, id, known.what.clone(), |_| true).await,
            _ => Err(Problem::IdReused),
        };
    }
    let (fact, tray) = tray_of(&build, row).ok_or(Problem::ChangedMeanwhile)?;
    if fact.seq != version || build.seq() != seq {
        return Err(Problem::ChangedMeanwhile);
    }
    let whole = state.evaluated.whole(&build);
    let assessed = &whole.assessment;
    let proposal = choose_from_tray(&build, assessed, tray)
        .map_err(|e| Problem::Unanswerable { code: "nothing_measured", detail: e.to_string() })?;
    let pair = |p: &jagged_pin_core::choose::TrayPlace| FittedPair {
        station: p.station,
        upper: p.upper.mark.clone(),
        lower: p.lower.mark.clone(),
        clearance: p.clearance,
        expanded: p.expanded,
    };
    let tasks = [(jagged_pin_core::maths::Task::Swap, proposal.places.len())];
    let estimated = jagged_pin_core::maths::Estimate::of(&assessed.rules.times(), &tasks).minutes;
    let what = What::Fitting(Fitting {
        row,
        family: None,
        undersize: Length::ZERO,
        pairs: proposal.places.iter().map(pair).collect(),
        estimated: Some(estimated),
        minutes,
        note: note.trim().to_owned(),
    });
    record_change(&state, who, &name, id, what, move |build| build.seq() == seq).await
}
