//! Narrowing rods that have too little room beside them.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Length;
use jagged_pin_core::Unit;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::engine::{BearingRow, Place};
use jagged_pin_core::machining::{NarrowingWish, NoRodNarrowing, RodNarrowing, narrow_rods};
use serde::Deserialize;
use utoipa::ToSchema;

use crate::http::answers::{above_zero, find, length};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// What is asked of a narrowing, as typed; empty texts leave what is usual.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct AskNarrowing {
    /// The sides that want room.
    at: Place,
    /// Most that a pass takes.
    #[serde(default)]
    rough: String,
    /// What the last pass takes.
    #[serde(default)]
    finish: String,
    /// Whether the slide's dial counts diameters.
    #[serde(default)]
    dial_in_diameter: bool,
    /// How far the axes of both cylinders stand apart, where the beams shall stand over their pistons.
    #[serde(default)]
    bank_offset: String,
    /// From the front face of each rod to the plane of its beam, from the front.
    #[serde(default)]
    beams: Vec<String>,
    /// What a face can give at most.
    #[serde(default)]
    most_a_face: String,
    /// Outside diameter of the ring that is faced, for the weight that comes off.
    #[serde(default)]
    ring_outside: String,
    /// Its inside diameter; the housing where it is left empty.
    #[serde(default)]
    ring_inside: String,
}

/// Most rods on a pin.
const MOST_RODS: usize = 4;

impl AskNarrowing {
    fn wish(&self, unit: Unit, housing: Option<Length>) -> Result<NarrowingWish, Problem> {
        // Facing in passes of twenty thou, the last of four; half a millimetre, and a tenth.
        let (rough, finish) = match unit {
            Unit::Inch => (Length::tenths(200), Length::tenths(40)),
            Unit::Mm => (Length::microns(500), Length::microns(100)),
        };
        let beams = self.beams.iter().take(MOST_RODS).filter(|b| !b.trim().is_empty());
        let inside = above_zero(&self.ring_inside, unit, "ring_inside")?.or(housing);
        let outside = above_zero(&self.ring_outside, unit, "ring_outside")?;
        let ring = match (outside, inside) {
            (Some(outside), Some(inside)) if outside > inside => Some([outside, inside]),
            (Some(_), Some(_)) => {
                return Err(Problem::field("ring_outside", "the outside of the ring is larger than its inside"));
            }
            (Some(_), None) => return Err(Problem::field("ring_inside", "say the inside of the ring as well")),
            (None, _) => None,
        };
        Ok(NarrowingWish {
            ring,
            rough: above_zero(&self.rough, unit, "rough")?.unwrap_or(rough),
            finish: above_zero(&self.finish, unit, "finish")?.unwrap_or(finish),
            dial_in_diameter: self.dial_in_diameter,
            bank_offset: above_zero(&self.bank_offset, unit, "bank_offset")?,
            beams: beams.map(|b| length(b, unit, "beams")).collect::<Result<_, _>>()?,
            most_a_face: above_zero(&self.most_a_face, unit, "most_a_face")?,
        })
    }
}

/// How to narrow the rods of a pin to the aim of their side clearance; nothing is changed.
#[utoipa::path(post, path = "/api/v1/builds/{build}/narrowing", request_body = AskNarrowing,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RodNarrowing), (status = "4XX", body = ProblemBody)))]
pub(super) async fn plan_narrowing(
    State(state): State<AppState>,
    _: Who,
    Path(name): Path<String>,
    Body(ask): Body<AskNarrowing>,
) -> Result<Json<RodNarrowing>, Problem> {
    let id = find(&state, &name).await?;
    let build = state.store.build(id).await?;
    let housing = build.layout.nominals(BearingRow::Rods).map(|n| n.housing);
    let wish = ask.wish(build.unit, housing)?;
    let plan = narrow_rods(&build, &evaluate(&build).figures, ask.at, &wish).map_err(|why| match why {
        NoRodNarrowing::NotSides(_) => Problem::field("at", why.to_string()),
        NoRodNarrowing::BankOffset => Problem::field("bank_offset", why.to_string()),
        NoRodNarrowing::Beams | NoRodNarrowing::TooManyForBeams => Problem::field("beams", why.to_string()),
        NoRodNarrowing::Impossible => Problem::field("most_a_face", why.to_string()),
        NoRodNarrowing::NoTarget | NoRodNarrowing::NotMeasured(_) => {
            Problem::Unanswerable { code: "nothing_measured", detail: why.to_string() }
        }
    })?;
    Ok(Json(plan))
}
