//! Accepting a figure that is on the edge or outside.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Length;
use jagged_pin_core::build::Build;
use jagged_pin_core::engine::{Figure, Place};
use jagged_pin_core::log::{Fact, Gate, What};
use jagged_pin_core::maths::State as Judgement;
use jagged_pin_core::record::{Refusal, concession_now, next_fact, remark_accepted_now};
use jagged_pin_store::Sent;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::clock;
use crate::http::answers::{answer, find};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// An acceptance.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewConcession {
    /// Made by the client: sending it twice accepts once.
    id: Uuid,
    /// What is accepted; the oil clearance unless said.
    #[serde(default = "oil_clearance")]
    figure: Figure,
    /// The place.
    station: Place,
    /// The remark that is accepted, where it is not the figure itself: the lead's.
    #[serde(default)]
    gate: Option<Gate>,
    /// Its clearance as whoever accepts it saw it, nm; of a remark, how much of it there is.
    clearance: Length,
    /// Its state as whoever accepts it saw it.
    state: Judgement,
    /// Why it is acceptable.
    reason: String,
}

const fn oil_clearance() -> Figure {
    Figure::OIL_CLEARANCE
}

/// Acknowledges an edge, or concedes what is outside, under one's own name.
#[utoipa::path(post, path = "/api/v1/builds/{build}/concessions", request_body = NewConcession,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn accept(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewConcession>,
) -> Result<Json<RecordedView>, Problem> {
    let build = find(&state, &name).await?;
    let NewConcession { id, figure, station, gate, clearance, state: judgement, reason } = request;
    let (role, capabilities, by) = (who.account.role, who.account.capabilities, who.account.person);
    let viewer = by.id;
    let reason = reason.trim().to_owned();
    let said = reason.clone();
    let same = move |known: &Fact| match &known.what {
        What::Concession(c) => (c.of(), c.station, c.gate) == (figure, station, gate) && c.reason == said,
        _ => false,
    };
    let decide = move |build: &Build| -> Result<Fact, Problem> {
        let concession = match gate {
            Some(gate) => remark_accepted_now(build, (figure, station), gate, reason)?,
            None => concession_now(build, figure, station, reason)?,
        };
        if (concession.clearance, concession.state) != (clearance, judgement) {
            return Err(Refusal::FigureMoved(station).into());
        }
        let what = What::Concession(concession);
        if !capabilities.allow(&what) {
            let ask = match (gate, capabilities.concede) {
                (Some(_), _) => "the lead: the rules of this build let nobody sign past it",
                (None, true) => "the lead: a tight bearing can seize",
                (None, false) => "an assembler or the lead",
            };
            return Err(Problem::NotAllowed { role, ask });
        }
        Ok(next_fact(build, id, clock::now(), by, what)?)
    };
    let recorded = state.store.record(build, Sent { id, by: viewer }, same, decide).await?;
    Ok(answer(&state, &recorded, viewer))
}
