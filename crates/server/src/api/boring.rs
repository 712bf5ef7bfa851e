//! Boring, honing and filing: the next oversize, the hatch, and the logs of strokes.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{Place, Position};
use jagged_pin_core::log::{Stroked, StrokesDone, What};
use jagged_pin_core::machining::{
    BoringPlan, BoringWish, Damage, LearnedPolish, Polished, StrokeLog, learned, plan_bores, plan_boring, polish_log,
    stroke_logs,
};
use jagged_pin_core::maths::{crosshatch_angle, cycles_for};
use jagged_pin_core::{Length, Unit};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{above_zero, find, length, record_change, temperature};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// A figure of one cylinder, as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct OfCylinder {
    /// Which.
    at: Place,
    /// The figure; empty where there is none.
    text: String,
}

/// A pit or a score, as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct TypedDamage {
    /// In which cylinder.
    at: Place,
    /// Near which of its measured places; absent where nobody said.
    #[serde(default)]
    near: Option<Position>,
    /// How deep; empty where there is none.
    text: String,
}

/// What is known beside the bores, as typed; what is empty holds as the shop has it.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct AskBoring {
    /// Diameter above the ring travel.
    #[serde(default)]
    unworn: String,
    /// Pits and scores.
    #[serde(default)]
    damage: Vec<TypedDamage>,
    /// Thinnest walls as measured.
    #[serde(default)]
    walls: Vec<OfCylinder>,
    /// Least wall that may be left.
    #[serde(default)]
    least_wall: String,
    /// Oversizes with blanks between.
    #[serde(default)]
    oversizes: String,
    /// What the bar may miss the old centre by.
    #[serde(default)]
    location: String,
    /// What the stones take after the bar.
    #[serde(default)]
    hone_stock: String,
    /// What a torque plate adds.
    #[serde(default)]
    plate: String,
}

/// Most oversizes of one question.
const MOST_OVERSIZES: usize = 20;

/// What holds where nothing is said.
struct Usual {
    location: Length,
    hone_stock: Length,
    least_wall: Length,
    oversizes: &'static str,
}

const fn usual(unit: Unit) -> Usual {
    match unit {
        Unit::Inch => Usual {
            location: Length::tenths(5),
            hone_stock: Length::tenths(50),
            least_wall: Length::tenths(1_200),
            oversizes: "0.010 0.020 0.030 0.040 0.060",
        },
        Unit::Mm => Usual {
            location: Length::microns(12),
            hone_stock: Length::microns(120),
            least_wall: Length::microns(3_000),
            oversizes: "0.25 0.50 0.75 1.00",
        },
    }
}

impl AskBoring {
    pub(super) fn wish(&self, unit: Unit) -> Result<BoringWish, Problem> {
        let usual = usual(unit);
        let by = |list: &[OfCylinder], field: &'static str| {
            let said = list.iter().filter(|one| !one.text.trim().is_empty());
            said.map(|one| Ok((one.at, length(&one.text, unit, field)?))).collect::<Result<Vec<_>, Problem>>()
        };
        let texts = if self.oversizes.trim().is_empty() { usual.oversizes } else { &self.oversizes };
        let texts: Vec<&str> = texts.split_whitespace().collect();
        if texts.len() > MOST_OVERSIZES {
            return Err(Problem::field("oversizes", "at most twenty"));
        }
        let sizes = texts.iter().map(|text| length(text, unit, "oversizes")).collect::<Result<Vec<_>, _>>()?;
        if sizes.iter().any(|o| *o < Length::ZERO) {
            return Err(Problem::field("oversizes", "zero or more"));
        }
        let damaged = self.damage.iter().filter(|d| !d.text.trim().is_empty());
        let damage = damaged.map(|d| Ok(Damage { at: d.at, near: d.near, depth: length(&d.text, unit, "damage")? }));
        let or = |text: &str, field, usual| Ok::<_, Problem>(above_zero(text, unit, field)?.unwrap_or(usual));
        Ok(BoringWish {
            unworn: above_zero(&self.unworn, unit, "unworn")?,
            damage: damage.collect::<Result<_, Problem>>()?,
            walls: by(&self.walls, "walls")?,
            least_wall: or(&self.least_wall, "least_wall", usual.least_wall)?,
            oversizes: sizes,
            location: or(&self.location, "location", usual.location)?,
            hone_stock: or(&self.hone_stock, "hone_stock", usual.hone_stock)?,
            plate: or(&self.plate, "plate", Length::ZERO)?,
        })
    }
}

fn no_cylinders() -> Problem {
    Problem::Unanswerable { code: "no_cylinders", detail: "this engine's cylinders are not known here".into() }
}

/// The next oversize that cleans every cylinder, with what the bar and each stone leave; nothing is changed.
#[utoipa::path(post, path = "/api/v1/builds/{build}/boring", request_body = AskBoring,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = BoringPlan), (status = "4XX", body = ProblemBody)))]
pub(super) async fn ask_boring(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
    Body(ask): Body<AskBoring>,
) -> Result<Json<BoringPlan>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let wish = ask.wish(build.unit)?;
    plan_boring(&build, &evaluate(&build).figures, &wish).map(Json).ok_or_else(no_cylinders)
}

/// How a cylinder is stroked, as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct AskHatch {
    /// Length of the bore.
    length: String,
    /// How far the stone runs out at each end.
    over: String,
    /// Length of the stone.
    stone: String,
    /// Turns a minute.
    rpm: f64,
    /// Cycles a minute, up and down; absent where they are asked for.
    cycles: Option<f64>,
    /// The included angle that is wanted, in degrees.
    angle: f64,
}

/// The hatch of a hone.
#[derive(Serialize, ToSchema)]
pub(super) struct HatchView {
    /// How far the stone travels: bore and overtravel at both ends, less the stone.
    stroke: Length,
    /// Cycles a minute for the angle that is wanted.
    cycles: f64,
    /// The angle that is wanted as some say it: to the horizontal, half of the included one.
    to_horizontal: f64,
    /// The included angle that the cycles which were said give, in degrees.
    angle: Option<f64>,
}

/// The hatch angle, both ways; always the included one.
#[utoipa::path(post, path = "/api/v1/builds/{build}/crosshatch", request_body = AskHatch,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = HatchView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn ask_hatch(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
    Body(ask): Body<AskHatch>,
) -> Result<Json<HatchView>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let bore = build.layout.cylinders.as_ref().ok_or_else(no_cylinders)?.bore;
    let of = |text: &str, field| length(text, build.unit, field);
    let over = of(&ask.over, "over")?;
    let stroke = of(&ask.length, "length")? + over + over - of(&ask.stone, "stone")?;
    if stroke <= Length::ZERO {
        return Err(Problem::field("stone", "the stone is longer than its way: nothing is stroked"));
    }
    let turns = |x: f64| x.is_finite() && (1.0..=5_000.0).contains(&x);
    if !turns(ask.rpm) {
        return Err(Problem::field("rpm", "1 to 5 000 turns a minute"));
    }
    if !(1.0..=150.0).contains(&ask.angle) {
        return Err(Problem::field("angle", "1 to 150 degrees, included"));
    }
    if ask.cycles.is_some_and(|n| !turns(n)) {
        return Err(Problem::field("cycles", "1 to 5 000 a minute"));
    }
    let to_bore = stroke.as_f64() / bore.as_f64();
    Ok(Json(HatchView {
        stroke,
        cycles: cycles_for(to_bore, ask.angle, ask.rpm),
        to_horizontal: ask.angle / 2.0,
        angle: ask.cycles.map(|n| crosshatch_angle(to_bore, n, ask.rpm)),
    }))
}

/// Strokes as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewStrokes {
    /// Made by the client: sent twice, kept once.
    id: Uuid,
    /// The cylinder.
    at: Place,
    /// What is worked there.
    on: Stroked,
    /// Strokes since the entry before; none for what it measured before the first.
    strokes: u32,
    /// The bore, or the gap, after them.
    size: String,
    /// How warm the part was; empty where it was cool.
    #[serde(default)]
    temperature: String,
    /// The stone, and what was seen.
    #[serde(default)]
    note: String,
}

/// Records strokes under the hone or the file.
#[utoipa::path(post, path = "/api/v1/builds/{build}/strokes", request_body = NewStrokes,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn record_strokes(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(new): Body<NewStrokes>,
) -> Result<Json<RecordedView>, Problem> {
    let unit = state.store.build(find(&state, &name).await?).await?.unit;
    let done = StrokesDone {
        at: new.at,
        on: new.on,
        strokes: new.strokes,
        size: length(&new.size, unit, "size")?,
        raw: new.size.trim().to_owned(),
        part_mc: temperature(&new.temperature, "temperature")?,
        note: new.note.trim().to_owned(),
    };
    record_change(&state, who, &name, new.id, What::Strokes(done), |_| true).await
}

/// Every log of strokes that was begun: the rate that was learned, and the strokes before the next look.
#[utoipa::path(get, path = "/api/v1/builds/{build}/strokes", params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Vec<StrokeLog>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn stroke_logs_of(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Json<Vec<StrokeLog>>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let figures = evaluate(&build).figures;
    let bores = plan_bores(&build, &figures, Length::ZERO, &[]);
    Ok(Json(stroke_logs(&build, &figures, bores.as_ref())))
}

/// The polishes of a build, and what they teach.
#[derive(Serialize, ToSchema)]
pub(super) struct PolishLogView {
    /// Journal by journal, in order.
    polishes: Vec<Polished>,
    /// What a grit takes off here; absent while none was measured before and after.
    learned: Option<LearnedPolish>,
}

/// Every polish of a journal with its sizes before and after, and what they teach.
#[utoipa::path(get, path = "/api/v1/builds/{build}/polishes", params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = PolishLogView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn polishes_of(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
) -> Result<Json<PolishLogView>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let polishes = polish_log(&build);
    Ok(Json(PolishLogView { learned: learned(&polishes), polishes }))
}
