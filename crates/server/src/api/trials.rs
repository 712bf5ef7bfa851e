//! Trials of the cam in its bearings.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::log::{TorqueAt, Trial, What};
use rust_decimal::Decimal;
use rust_decimal::prelude::ToPrimitive;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::record_change;
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// What torques are typed in.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
enum TypedTorque {
    /// Newton metres.
    #[serde(rename = "N m")]
    NewtonMetre,
    /// Inch-pounds.
    #[serde(rename = "lb in")]
    PoundInch,
}

/// A trial as typed: the torques of one turn, evenly around from 0 degrees.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewTrial {
    /// Made by the client: sent twice, kept once.
    id: Uuid,
    /// What it took, with blanks between: eight figures are one for every 45 degrees.
    torques: String,
    /// Their unit.
    unit: TypedTorque,
    /// Whether the bearings were oiled.
    oiled: bool,
    /// What was done before, and what was seen.
    note: String,
}

/// Most figures of one turn.
const MOST: usize = 24;

impl NewTrial {
    fn turn(&self) -> Result<Vec<TorqueAt>, Problem> {
        // A pound-inch is 0.112 984 8 N m.
        let thousandths = match self.unit {
            TypedTorque::NewtonMetre => Decimal::from(1_000),
            TypedTorque::PoundInch => Decimal::new(1_129_848, 4),
        };
        let texts: Vec<&str> = self.torques.split_whitespace().take(MOST + 1).collect();
        let count = u16::try_from(texts.len()).unwrap_or(u16::MAX);
        let even = (4..=MOST).contains(&texts.len()) && 360_u16.checked_rem(count) == Some(0);
        if !even {
            return Err(Problem::field(
                "torques",
                "type 8 or 12 figures with blanks between, evenly around from 0 degrees",
            ));
        }
        let step = 360_u16.checked_div(count).unwrap_or_default();
        let figure = |(i, text): (u16, &&str)| {
            let torque = text.parse::<Decimal>().ok().and_then(|t| t.checked_mul(thousandths));
            let torque = torque.filter(|t| !t.is_sign_negative()).and_then(|t| t.round().to_u32());
            let torque = torque.ok_or_else(|| Problem::field("torques", format!("\"{text}\" is no torque")))?;
            Ok(TorqueAt { angle: i.saturating_mul(step), torque })
        };
        (0_u16..).zip(&texts).map(figure).collect()
    }
}

/// Records what it took to turn the cam.
#[utoipa::path(post, path = "/api/v1/builds/{build}/trials", request_body = NewTrial,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn turn_cam(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(new): Body<NewTrial>,
) -> Result<Json<RecordedView>, Problem> {
    let what = What::Trial(Trial { turn: new.turn()?, oiled: new.oiled, note: new.note.trim().to_owned() });
    record_change(&state, who, &name, new.id, what, |_| true).await
}
