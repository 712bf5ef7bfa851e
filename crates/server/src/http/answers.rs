//! What the routes share: the build an address names, the answer to a write, and texts as typed.
use std::sync::Arc;

use axum::Json;
use axum::http::{HeaderValue, header};
use axum::response::{IntoResponse, Response};
use jagged_pin_core::build::open_requests;
use jagged_pin_core::log::{Fact, What};
use jagged_pin_core::maths::parse_length;
use jagged_pin_core::record::next_fact;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_store::{Recorded, Sent};
use rust_decimal::Decimal;
use uuid::Uuid;

use crate::clock;
use crate::evaluated::Evaluated;
use crate::http::auth::Who;
use crate::http::problem::Problem;
use crate::state::AppState;
use crate::views::changes::{ChangesView, RecordedView};
use crate::views::floor::Summary;

/// Whom somebody asks whose change would lift what is tight.
pub(crate) const WHO_LIFTS: &str = "the lead: it would lift a figure that is tight, and a tight bearing can seize";

/// The build that an address names, by short name or identifier.
pub(crate) async fn find(state: &AppState, name: &str) -> Result<Uuid, Problem> {
    match name.parse() {
        Ok(id) => Ok(id),
        Err(_) => Ok(state.store.build_id(name).await?),
    }
}

/// The answer to a write of `viewer`: what it changed; and the nudge that tells others.
pub(crate) fn answer(state: &AppState, recorded: &Recorded, viewer: Uuid) -> Json<RecordedView> {
    if !recorded.again {
        state.changes.nudge();
    }
    let after = state.evaluated.of(&recorded.build, viewer);
    let room = state.gauges(recorded.build.unit);
    keep_summary(state, &recorded.build);
    // What had been sent before is answered as a whole: nobody knows what its sender has seen since.
    let changes = if recorded.again {
        ChangesView::whole(&after, &room)
    } else {
        let before = state.evaluated.at(&recorded.build, recorded.before, viewer);
        ChangesView::between(&before, &after, &room)
    };
    Json(RecordedView { seq: recorded.seq, again: recorded.again, changes })
}

/// Keeps what the floor shows of a build, after the answer: the floor makes it by itself where that is not done yet.
pub(crate) fn keep_summary(state: &AppState, build: &Arc<Build>) {
    let (state, build) = (state.clone(), Arc::clone(build));
    tokio::spawn(async move {
        let summary = Summary::of(&state.evaluated.whole(&build));
        let Ok(summary) = summary.kept((build.id, build.seq()), state.key.as_ref()) else { return };
        if let Err(error) = state.store.put_summary(build.id, build.seq(), &summary).await {
            tracing::warn!(%error, build = %build.code, "the summary for the floor was not kept");
        }
    });
}

/// A build as whoever asks may see it, evaluated.
pub(crate) async fn evaluated(state: &AppState, who: &Who, name: &str) -> Result<Arc<Evaluated>, Problem> {
    let build = state.store.build(find(state, name).await?).await?;
    Ok(state.evaluated.of(&build, who.account.person.id))
}

/// Records something that does not depend on what was recorded before it, for whoever asks.
pub(crate) async fn record_what(
    state: &AppState,
    who: Who,
    name: &str,
    id: Uuid,
    what: What,
) -> Result<Json<RecordedView>, Problem> {
    record_change(state, who, name, id, what, |_| true).await
}

/// Records a change of something that people look at and edit; refused when it is no longer as it was seen.
pub(crate) async fn record_change(
    state: &AppState,
    who: Who,
    name: &str,
    id: Uuid,
    what: What,
    as_seen: impl FnOnce(&Build) -> bool + Send,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.allow(&what), "somebody whose role allows it")?;
    let build = find(state, name).await?;
    let (by, sent) = (who.account.person, what.clone());
    let (viewer, role, capabilities) = (by.id, who.account.role, who.account.capabilities);
    let same = move |known: &Fact| known.what.is_as_sent(&sent);
    let decide = move |build: &Build| -> Result<Fact, Problem> {
        let fact = next_fact(build, id, clock::now(), by, what)?;
        if !as_seen(build) {
            return Err(Problem::ChangedMeanwhile);
        }
        // What it lifts is known only now.
        if capabilities.allow(&fact.what) { Ok(fact) } else { Err(Problem::NotAllowed { role, ask: WHO_LIFTS }) }
    };
    let recorded = state.store.record(build, Sent { id, by: viewer }, same, decide).await?;
    Ok(answer(state, &recorded, viewer))
}

/// A length as it would be typed: with the decimals of the unit and without its name.
pub(crate) fn typed(l: Length, unit: Unit) -> String {
    without_unit(&l.show(unit)).to_owned()
}

/// What is shown, without the name of its unit.
pub(crate) fn without_unit(shown: &str) -> &str {
    shown.trim_end_matches(|c: char| !c.is_ascii_digit())
}

/// A length as it was typed, with its sign: a minus where it takes away, or lies lower.
pub(crate) fn length(text: &str, unit: Unit, field: &'static str) -> Result<Length, Problem> {
    parse_length(text, unit).map_err(|e| Problem::field(field, e.to_string()))
}

/// A length above zero; nothing where the text is empty.
pub(crate) fn above_zero(text: &str, unit: Unit, field: &'static str) -> Result<Option<Length>, Problem> {
    match text.trim() {
        "" => Ok(None),
        text => match length(text, unit, field)? {
            l if l > Length::ZERO => Ok(Some(l)),
            _ => Err(Problem::field(field, "this is above zero")),
        },
    }
}

pub(crate) fn download(kind: &'static str, file: &str, body: impl IntoResponse) -> Response {
    let mut response = body.into_response();
    let headers = response.headers_mut();
    headers.insert(header::CONTENT_TYPE, HeaderValue::from_static(kind));
    if let Ok(disposition) = HeaderValue::from_str(&format!("attachment; filename=\"{file}\"")) {
        headers.insert(header::CONTENT_DISPOSITION, disposition);
    }
    response
}

/// A build that may leave the house in this person's hands.
pub(crate) async fn exportable(state: &AppState, who: &Who, name: &str) -> Result<Arc<Build>, Problem> {
    let build = state.store.build(find(state, name).await?).await?;
    let hidden = !open_requests(&build, who.account.person.id).is_empty();
    if hidden { Err(Problem::BlindPending) } else { Ok(build) }
}

/// Thousandths of a degree Celsius of a typed temperature: in Celsius unless an F stands behind it.
pub(crate) fn temperature(text: &str, field: &'static str) -> Result<Option<i32>, Problem> {
    let typed = text.trim().replace(',', ".");
    let fahrenheit = typed.ends_with(['F', 'f']);
    let figure = typed.trim_end_matches(['C', 'c', 'F', 'f', '\u{b0}', ' ']);
    if figure.is_empty() {
        return Ok(None);
    }
    let degrees = figure.parse::<Decimal>().ok();
    let celsius = degrees.and_then(|t| if fahrenheit { in_celsius(t) } else { Some(t) });
    let thousandths = celsius.and_then(|t| t.checked_mul(1_000.into()));
    let whole = thousandths.and_then(|t| i32::try_from(t.round()).ok());
    whole
        .map(Some)
        .ok_or_else(|| Problem::field(field, format!("\"{text}\" is no temperature: such as 20, 20C or 68F")))
}

/// Degrees Fahrenheit as degrees Celsius.
fn in_celsius(fahrenheit: Decimal) -> Option<Decimal> {
    fahrenheit.checked_sub(32.into())?.checked_mul(5.into())?.checked_div(9.into())
}
