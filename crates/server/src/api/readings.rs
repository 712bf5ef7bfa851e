//! Readings: what a text would mean, keeping it, and striking one that is wrong.
use std::borrow::Cow;

use axum::Json;
use axum::extract::State;
use jagged_pin_core::build::{Build, open_request, redacted};
use jagged_pin_core::engine::{Axial, Characteristic, Place, Position, Read};
use jagged_pin_core::evidence::Sessions;
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::log::{Fact, Measure, SessionOpened, Source, Strike, What, ZeroSource};
use jagged_pin_core::maths::{How, Temperatures};
use jagged_pin_core::record::{TypedEntry, next_fact, understand_entry};
use jagged_pin_core::units::Timestamp;
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::Sent;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::clock;
use crate::http::answers::{answer, find, temperature};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// Longest text of an entry: longer ones are no figure and would not fit their column.
const LONGEST_ENTRY: usize = 60;
/// Whom an apprentice or a stranger asks.
const WHO_MEASURES: &str = "somebody who may measure";

/// A cell of the bench and a text in it.
#[derive(Debug, Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct EntryQuery {
    /// Where on the engine.
    #[param(value_type = String)]
    station: Place,
    /// On what.
    characteristic: Characteristic,
    /// Along the axis.
    axial: Axial,
    /// Degrees from vertical.
    angle: i16,
    /// Which track of a shared pin, from the front.
    track: Option<u8>,
    /// The part, where it is a candidate beside the one that stands there.
    part: Option<String>,
    /// On the dial, or as a size; a size where a dial says nothing about it.
    read: Read,
    /// For a dial: the size it was zeroed at, as typed.
    reference: Option<String>,
    /// The kind of gauge.
    gauge: String,
    /// The text.
    text: String,
    /// Unit of a bare figure.
    unit: Unit,
}

/// What a text would mean.
#[derive(Serialize, ToSchema)]
pub(super) struct EntryEcho {
    /// What was understood; absent when it was not.
    understood: Option<EntryUnderstood>,
    /// Why it was not.
    problem: Option<EntryProblem>,
}

/// A text that was understood.
#[derive(Serialize, ToSchema)]
struct EntryUnderstood {
    /// The figure as read aloud, in the unit of the request.
    shown: String,
    /// The size it amounts to.
    size: Length,
    /// For a dial, its deflection.
    dial: Option<Length>,
    /// For a dial, the size it was zeroed at, as it was understood.
    zeroed_at: Option<String>,
    /// How it was read.
    how: How,
    /// Whether it is a gap between two blades.
    between_blades: bool,
}

/// A text that was not understood, or not believed.
#[derive(Serialize, ToSchema)]
struct EntryProblem {
    /// Stable name.
    code: String,
    /// What to do.
    detail: String,
    /// Whether it can be kept all the same.
    can_force: bool,
}

/// Says what a text typed into a cell would mean, without keeping anything.
#[utoipa::path(get, path = "/api/v1/builds/{build}/understand",
    params(("build" = String, Path, description = "Short name or id"), EntryQuery),
    responses((status = 200, body = EntryEcho), (status = "4XX", body = ProblemBody)))]
pub(super) async fn echo(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Query(q): Query<EntryQuery>,
) -> Result<Json<EntryEcho>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let in_room = in_room(&state, &build, &q.gauge).await?;
    let typed = TypedEntry {
        in_room,
        station: q.station,
        characteristic: q.characteristic,
        position: Position { axial: q.axial, angle: q.angle, track: q.track },
        part: q.part,
        read: q.read,
        reference: q.reference,
        gauge: q.gauge,
        text: q.text,
        unit: q.unit,
        source: Source::Typed,
        taken: None,
        temperatures: None,
        blind: None,
        zero: None,
    };
    let viewer = who.account.person.id;
    let seen = redacted(&build, viewer);
    let echo = match understand_entry(&build, seen.as_ref().unwrap_or(&build), &typed, false) {
        Ok(u) => {
            let (dial, zeroed_at) = match u.reading.measure {
                Measure::Dial { dial, reference } => (Some(dial), Some(reference.show(typed.unit))),
                _ => (None, None),
            };
            let size = u.reading.measure.size();
            let shown = match u.reading.measure {
                Measure::Blades { passes, refuses } => {
                    let [passes, refuses] = [passes, refuses].map(|l| l.show(typed.unit));
                    format!("{} to {refuses}", passes.split(' ').next().unwrap_or(&passes))
                }
                _ => u.entry.value.show(typed.unit),
            };
            let how = u.entry.how;
            let between_blades = matches!(u.reading.measure, Measure::Blades { .. });
            let understood = EntryUnderstood { shown, size, dial, zeroed_at, how, between_blades };
            EntryEcho { understood: Some(understood), problem: None }
        }
        Err(refusal) => {
            let code = refusal.code().to_owned();
            let can_force = refusal.can_be_forced();
            EntryEcho { understood: None, problem: Some(EntryProblem { code, detail: refusal.to_string(), can_force }) }
        }
    };
    Ok(Json(echo))
}

/// The gauge of that name in the gauge room, where the build knows another one and no sitting runs with it: registered or
/// calibrated since the build was opened.
async fn in_room(state: &AppState, build: &Build, gauge: &str) -> Result<Option<Gauge>, Problem> {
    let running = || Sessions::of(&build.notes(), build.rules_now().reckoning).running(gauge).is_some();
    let of_room = |state: &AppState| state.gauges(build.unit).into_iter().find(|g| g.id == gauge);
    let now = match of_room(state) {
        Some(gauge) => Some(gauge),
        None if build.gauge(gauge).is_none() => {
            state.gauge_room().await?;
            of_room(state)
        }
        None => None,
    };
    Ok(now.filter(|now| build.gauge(gauge) != Some(now) && !running()))
}

/// A reading to be kept.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewReading {
    /// Made by the client: sending it twice keeps one reading.
    id: Uuid,
    /// Where on the engine.
    station: Place,
    /// On what.
    characteristic: Characteristic,
    /// Where on it.
    position: Position,
    /// The part, where it is a candidate beside the one that stands there.
    #[serde(default)]
    part: Option<String>,
    /// On the dial, or as a size; a size where a dial says nothing about it.
    read: Read,
    /// For a dial: the size it was zeroed at, as typed.
    reference: Option<String>,
    /// The kind of gauge.
    gauge: String,
    /// The text as typed.
    text: String,
    /// Unit of a bare figure.
    unit: Unit,
    /// Keep it although it lies outside the sanity band.
    #[serde(default)]
    force: bool,
    /// How it came in.
    #[serde(default = "typed_in")]
    source: Source,
    /// How long ago it was taken, in milliseconds: it may have waited for a connection.
    #[serde(default)]
    age_ms: u32,
    /// Temperature of the part in degrees Celsius, as typed; empty when nobody noted it.
    #[serde(default)]
    part_temperature: String,
    /// Temperature of the gauge.
    #[serde(default)]
    gauge_temperature: String,
    /// For a dial: what the gauge was zeroed in, where its sitting does not say so.
    #[serde(default)]
    zero: Option<ZeroSource>,
}

/// A reading that waited longer than this before it was sent keeps the time it was taken at.
const WAITED_MS: u32 = 10_000;

/// When a reading was taken that is kept `age_ms` later, where that is worth a mention.
fn taken(age_ms: u32) -> Option<Timestamp> {
    (age_ms > WAITED_MS).then(|| Timestamp(clock::now().0 - i64::from(age_ms)))
}

const fn typed_in() -> Source {
    Source::Typed
}

/// Keeps a reading and answers with the whole new assessment.
#[utoipa::path(post, path = "/api/v1/builds/{build}/readings", request_body = NewReading,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewReading>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.measure, WHO_MEASURES)?;
    if request.text.len() > LONGEST_ENTRY {
        return Err(Problem::field("text", format!("an entry has at most {LONGEST_ENTRY} characters")));
    }
    let part_mc = temperature(&request.part_temperature, "part_temperature")?;
    let gauge_mc = temperature(&request.gauge_temperature, "gauge_temperature")?;
    let build = find(&state, &name).await?;
    let known = state.store.build(build).await?;
    let in_room = in_room(&state, &known, &request.gauge).await?;
    let (id, force, by) = (request.id, request.force, who.account.person);
    let viewer = by.id;
    let typed = TypedEntry {
        in_room,
        station: request.station,
        characteristic: request.characteristic,
        position: request.position,
        part: request.part,
        read: request.read,
        reference: request.reference,
        gauge: request.gauge,
        text: request.text,
        unit: request.unit,
        source: request.source,
        taken: taken(request.age_ms),
        temperatures: Some(Temperatures { part_mc, gauge_mc }),
        blind: None,
        zero: request.zero,
    };
    let sent = typed.clone();
    let same = move |known: &Fact| match &known.what {
        What::Reading(r) => {
            (r.station, r.characteristic, r.position, &r.part, &r.gauge, &r.raw)
                == (sent.station, sent.characteristic, sent.position, &sent.part, &sent.gauge, &sent.text)
        }
        _ => false,
    };
    let decide = move |build: &Build| -> Result<Vec<Fact>, Problem> {
        let mut facts = Vec::new();
        let mut with_gauge = Cow::Borrowed(build);
        // Nobody checked in the gauge that hangs in the room now: the build is told which one it was, once.
        if let Some(gauge) = typed.in_room.clone()
            && Sessions::of(&build.notes(), build.rules_now().reckoning).running(&gauge.id).is_none()
        {
            let sitting = What::SessionOpened(SessionOpened { gauge, check: None, zero: None });
            let fact = next_fact(build, Uuid::new_v4(), clock::now(), by.clone(), sitting)?;
            with_gauge.to_mut().facts.push(fact.clone());
            facts.push(fact);
        }
        let build = &*with_gauge;
        // A person who is asked to measure blind is held against nothing they must not see.
        let seen = redacted(build, by.id);
        let blind = open_request(build, by.id, typed.station, typed.characteristic);
        let typed = TypedEntry { blind, ..typed };
        let understood = understand_entry(build, seen.as_ref().unwrap_or(build), &typed, force)?;
        facts.push(next_fact(build, id, clock::now(), by, What::Reading(understood.reading))?);
        Ok(facts)
    };
    let recorded = state.store.record_all(build, Sent { id, by: viewer }, same, decide).await?;
    Ok(answer(&state, &recorded, viewer))
}

/// An entry to be struck: a reading, strokes, a trial, a grid or a picture.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewStrike {
    /// Made by the client: sending it twice strikes once.
    id: Uuid,
    /// The entry.
    reading: Uuid,
    /// Why, in the words of whoever decided it.
    reason: String,
}

/// Strikes an entry: it stays visible and counts no more.
#[utoipa::path(post, path = "/api/v1/builds/{build}/strikes", request_body = NewStrike,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn strike(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewStrike>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.measure, WHO_MEASURES)?;
    let build = find(&state, &name).await?;
    let strike = Strike { reading: request.reading, reason: request.reason.trim().to_owned() };
    let others = who.account.capabilities.strike_others;
    let not_yours =
        Problem::NotAllowed { role: who.account.role.clone(), ask: "whoever made the entry, or an assembler" };
    let (id, by, sent) = (request.id, who.account.person, strike.clone());
    let viewer = by.id;
    let same = move |known: &Fact| known.what == What::Strike(sent);
    let decide = move |build: &Build| -> Result<Fact, Problem> {
        let of_another = |f: &Fact| f.id == strike.reading && f.by.id != viewer;
        if !others && build.facts.iter().any(of_another) {
            return Err(not_yours);
        }
        Ok(next_fact(build, id, clock::now(), by, What::Strike(strike))?)
    };
    let recorded = state.store.record(build, Sent { id, by: viewer }, same, decide).await?;
    Ok(answer(&state, &recorded, viewer))
}

#[cfg(test)]
mod tests {
    use super::temperature;

    #[test]
    fn a_temperature_is_in_celsius_unless_it_says_otherwise() {
        let read = |text| temperature(text, "part_temperature").ok().flatten();
        assert_eq!(
            [read("20"), read("20,5 C"), read("68F"), read("77.0 \u{b0}F")],
            [20_000, 20_500, 20_000, 25_000].map(Some)
        );
        assert_eq!(read(" "), None);
        assert!(temperature("warm", "part_temperature").is_err());
    }
}
