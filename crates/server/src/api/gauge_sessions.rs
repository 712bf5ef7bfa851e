//! Sittings with gauges: checked in on a standard, checked out on it again.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Unit;
use jagged_pin_core::build::Build;
use jagged_pin_core::evidence::Sessions;
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::log::{Fact, GaugeCheck, SessionClosed, SessionOpened, What, ZeroSource};
use jagged_pin_core::record::{Refusal, next_fact, understand_check};
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

/// Whom an apprentice or a stranger asks.
const WHO_MEASURES: &str = "somebody who may measure";

/// A check as typed.
#[derive(Debug, Clone, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct TypedCheck {
    /// The known size.
    standard: String,
    /// What the gauge showed on it: a size, or for a bore gauge its dial.
    shown: String,
}

impl TypedCheck {
    fn read(&self, gauge: &Gauge, unit: Unit) -> Result<GaugeCheck, Refusal> {
        understand_check(gauge, unit, &self.standard, &self.shown)
    }
}

/// A session to be opened.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewSession {
    /// Made by the client: sending it twice opens one session.
    id: Uuid,
    /// The gauge, by its name in the gauge room or on the build.
    gauge: String,
    /// The open check; without one the readings are unproven.
    check: Option<TypedCheck>,
    /// For a bore gauge: what it was zeroed in.
    #[serde(default)]
    zero: Option<ZeroSource>,
    /// Unit of bare figures.
    unit: Unit,
}

/// Opens a session with a gauge as it stands in the gauge room now.
#[utoipa::path(post, path = "/api/v1/builds/{build}/sessions", request_body = NewSession,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn open_session(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewSession>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.measure, WHO_MEASURES)?;
    let build = find(&state, &name).await?;
    let NewSession { id, gauge, check, zero, unit } = request;
    let room = state.gauge_room().await?;
    let now = room.into_iter().map(|g| g.gauge).find(|g| g.id == gauge);
    let by = who.account.person;
    let viewer = by.id;
    let sent = (gauge.clone(), check.is_some(), zero);
    let same = move |known: &Fact| match &known.what {
        What::SessionOpened(s) => (s.gauge.id.clone(), s.check.is_some(), s.zero) == sent,
        _ => false,
    };
    let decide = move |build: &Build| -> Result<Fact, Problem> {
        let known = now.or_else(|| build.gauge(&gauge).cloned()).ok_or(Refusal::UnknownGauge(gauge))?;
        let check = check.map(|c| c.read(&known, unit)).transpose()?;
        let what = What::SessionOpened(SessionOpened { gauge: known, check, zero });
        Ok(next_fact(build, id, clock::now(), by, what)?)
    };
    let recorded = state.store.record(build, Sent { id, by: viewer }, same, decide).await?;
    Ok(answer(&state, &recorded, viewer))
}

/// A session to be closed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct SessionEnd {
    /// Made by the client: sending it twice closes once.
    id: Uuid,
    /// The session.
    session: Uuid,
    /// The close check; without one nobody knows whether the gauge walked.
    check: Option<TypedCheck>,
    /// Unit of bare figures.
    unit: Unit,
}

/// Closes a session; its readings are corrected, or thrown out, by what the gauge shows now.
#[utoipa::path(post, path = "/api/v1/builds/{build}/sessions/close", request_body = SessionEnd,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn close_session(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<SessionEnd>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.measure, WHO_MEASURES)?;
    let build = find(&state, &name).await?;
    let SessionEnd { id, session, check, unit } = request;
    let by = who.account.person;
    let viewer = by.id;
    let same = move |known: &Fact| matches!(&known.what, What::SessionClosed(s) if s.session == session);
    let decide = move |build: &Build| -> Result<Fact, Problem> {
        let sessions = Sessions::of(&build.notes(), build.rules_now().reckoning);
        let gauge = &sessions.get(session).ok_or(Refusal::NoSuchSession)?.gauge;
        let check = check.map(|c| c.read(gauge, unit)).transpose()?;
        let what = What::SessionClosed(SessionClosed { session, check });
        Ok(next_fact(build, id, clock::now(), by, what)?)
    };
    let recorded = state.store.record(build, Sent { id, by: viewer }, same, decide).await?;
    Ok(answer(&state, &recorded, viewer))
}
