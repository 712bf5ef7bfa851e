//! What is weighed, poured or read off parts beside the gauges.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Length;
use jagged_pin_core::engine::{Layout, Place, PlaceKind};
use jagged_pin_core::evidence::Notes;
use jagged_pin_core::log::{
    Coating, GaugeEdge, GaugePoint, NOTES, Note, NoteRow, Noted, Quantity, What, show_roughness,
};
use jagged_pin_core::units::{Person, Timestamp};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{find, length, record_what, without_unit};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// What can be noted, and what is.
#[derive(Serialize, ToSchema)]
pub(super) struct NotesView {
    /// Everything that can be noted of this engine, in the order of the work.
    columns: Vec<NoteColumn>,
    /// The figures in force.
    noted: Vec<NotedView>,
    /// Where pistons are measured, as far as somebody said.
    gauge_point: Option<GaugePoint>,
}

/// A kind of note.
#[derive(Serialize, ToSchema)]
pub(super) struct NoteColumn {
    /// Which.
    note: Note,
    /// What its figure counts.
    quantity: Quantity,
    /// What a bare figure is typed in; nothing where that is the unit of the build.
    unit: Option<&'static str>,
    /// Where it is noted, with every place that it is looked for at.
    places: Vec<NotePlace>,
}

/// Where a note is looked for, and where its part stands.
#[derive(Serialize, ToSchema)]
pub(super) struct NotePlace {
    /// A place that somebody stands at: that of the part, a bearing that runs on it, its cylinder.
    station: Place,
    /// Where the part stands.
    at: Place,
}

/// Everything that a note can be looked for at.
fn places(layout: &Layout, note: Note) -> Vec<NotePlace> {
    let noted = note.row().at.iter().flat_map(|kind| layout.of_kind(*kind));
    let stations = |at: Place| {
        let runs_on = move |s: Place| s.is_bearing() && layout.journal_of(s) == at;
        let in_cylinder = move |s: Place| s.kind() == PlaceKind::Cylinder && s.of_cylinder() == at.of_cylinder();
        let near = layout.places().filter(move |s| *s == at || runs_on(*s) || in_cylinder(*s));
        near.map(move |station| NotePlace { station, at })
    };
    noted.flat_map(stations).collect()
}

/// A figure in force.
#[derive(Serialize, ToSchema)]
pub(super) struct NotedView {
    /// What was noted.
    note: Note,
    /// Where its part stands now.
    at: Place,
    /// The figure as it is shown, with its unit where that is no length.
    text: String,
    /// The same as it would be typed, without its unit.
    typed: String,
    /// What it may be, where the rules have a limit.
    limit: Option<String>,
    /// Whether it is beyond that.
    beyond: bool,
    /// Who noted it.
    by: Person,
    /// When.
    when: Timestamp,
}

/// What is noted of the parts of a build; nothing is changed.
#[utoipa::path(get, path = "/api/v1/builds/{build}/noted", params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = NotesView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn notes_of(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Json<NotesView>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let column = |row: &NoteRow| NoteColumn {
        note: row.note,
        quantity: row.quantity,
        unit: row.quantity.unit(build.unit),
        places: places(&build.layout, row.note),
    };
    let columns = NOTES.iter().map(column).filter(|column| !column.places.is_empty()).collect();
    let (notes, finish) = (Notes::of_build(&build), build.rules_now().finish());
    let noted = notes.all().map(|(at, fact, noted)| {
        let text = noted.note.show(noted.value, build.unit);
        let typed = without_unit(&text).to_owned();
        let of_surface = noted.note == Note::Roughness;
        NotedView {
            note: noted.note,
            at,
            text,
            typed,
            limit: finish.at(at).filter(|_| of_surface).map(|limit| show_roughness(limit, build.unit)),
            beyond: of_surface && finish.exceeded(at, Length::from_nm(noted.value)).is_some(),
            by: fact.by.clone(),
            when: fact.at,
        }
    });
    let gauge_point = build.notes().iter().rev().find_map(|fact| match &fact.what {
        What::GaugePoint(point) => Some(point.clone()),
        _ => None,
    });
    Ok(Json(NotesView { columns, noted: noted.collect(), gauge_point }))
}

/// A figure as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewNoted {
    /// Made by the client: sending it twice notes it once.
    id: Uuid,
    /// What was noted.
    note: Note,
    /// Where the part stands.
    at: Place,
    /// The figure: grams, cubic centimetres, a length, Ra, degrees Rockwell C.
    text: String,
}

/// Notes what a part weighs or holds.
#[utoipa::path(post, path = "/api/v1/builds/{build}/noted", request_body = NewNoted,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn note_part(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(new): Body<NewNoted>,
) -> Result<Json<RecordedView>, Problem> {
    let unit = state.store.build(find(&state, &name).await?).await?.unit;
    let value = new.note.read(&new.text, unit).map_err(|wanted| Problem::field("text", wanted.to_string()))?;
    let noted = Noted { note: new.note, at: new.at, value, raw: new.text.trim().to_owned() };
    record_what(&state, who, &name, new.id, What::Noted(noted)).await
}

/// Where pistons are measured, as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewGaugePoint {
    /// Made by the client: sending it twice says it once.
    id: Uuid,
    /// From which edge.
    from: GaugeEdge,
    /// How far from it.
    height: String,
    /// What the coating is to the size.
    coating: Coating,
    /// How thick it is on one side, as typed: asked where the sheet means the metal under it.
    #[serde(default)]
    thickness: String,
    /// Which sheet says so.
    #[serde(default)]
    note: String,
}

/// Says where pistons are measured. Another place than before ends the sizes that were read there.
#[utoipa::path(post, path = "/api/v1/builds/{build}/gauge-point", request_body = NewGaugePoint,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn say_gauge_point(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(new): Body<NewGaugePoint>,
) -> Result<Json<RecordedView>, Problem> {
    let unit = state.store.build(find(&state, &name).await?).await?.unit;
    let height = length(&new.height, unit, "height")?;
    let thickness = match (new.coating, new.thickness.trim()) {
        (Coating::Under, "") => {
            return Err(Problem::field("thickness", "how thick the coating is on one side: twice that comes off"));
        }
        (Coating::Under, text) => Some(length(text, unit, "thickness")?),
        _ => None,
    };
    let note = new.note.trim().to_owned();
    let point = GaugePoint { from: new.from, height, coating: new.coating, thickness, note, lifted: Vec::new() };
    record_what(&state, who, &name, new.id, What::GaugePoint(point)).await
}
