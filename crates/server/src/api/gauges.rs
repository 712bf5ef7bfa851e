//! The gauge room: the shop's instruments, what they reach and how long their calibration holds.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::gauge::{Gauge, GaugeRange, GaugeType};
use jagged_pin_core::maths::parse_length;
use jagged_pin_core::units::Day;
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::{ShopGauge, ShopNote};
use serde::{Deserialize, Serialize};
use serde_json::json;
use utoipa::ToSchema;

use crate::clock;
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// A gauge of the shop.
#[derive(Serialize, ToSchema)]
pub(super) struct ShopGaugeView {
    /// The gauge.
    gauge: Gauge,
    /// Unit of the builds it is used on.
    unit: Unit,
    /// Counts its changes.
    version: u32,
    /// Its calibration no longer holds.
    past_due: bool,
    /// Its figures as they would be typed.
    texts: GaugeTexts,
}

/// The figures of a gauge as typed, in its unit.
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct GaugeTexts {
    /// Smallest step it shows.
    resolution: String,
    /// Its repeatability: one standard deviation.
    repeatability: String,
    /// Its calibration: expanded uncertainty.
    calibration: String,
    /// Smallest size it reaches; empty when that does not matter.
    from: String,
    /// Largest size it reaches.
    to: String,
    /// When it was calibrated, such as 2026-03-02; empty when it never was.
    calibrated: String,
    /// The last day that holds.
    due: String,
    /// What one person reads otherwise than another with it: one standard deviation; empty where nobody studied it.
    #[serde(default)]
    between_people: String,
}

impl GaugeTexts {
    fn of(g: &Gauge, unit: Unit) -> Self {
        let typed = |l: Length| l.to_decimal(unit).normalize().to_string();
        let day = |d: Option<Day>| d.map(|d| d.to_string()).unwrap_or_default();
        GaugeTexts {
            resolution: typed(g.resolution),
            repeatability: typed(g.repeatability),
            calibration: typed(g.calibration),
            from: g.range.map(|r| typed(r.from)).unwrap_or_default(),
            to: g.range.map(|r| typed(r.to)).unwrap_or_default(),
            calibrated: day(g.calibrated),
            due: day(g.due),
            between_people: g.between_people.map(typed).unwrap_or_default(),
        }
    }
}

/// Every gauge of the shop.
#[utoipa::path(get, path = "/api/v1/gauges",
    responses((status = 200, body = Vec<ShopGaugeView>), (status = 401, body = ProblemBody)))]
pub(super) async fn gauge_room(State(state): State<AppState>, _: Who) -> Result<Json<Vec<ShopGaugeView>>, Problem> {
    let today = Day::of(clock::now());
    let view = |g: ShopGauge| ShopGaugeView {
        past_due: g.gauge.past_due(today),
        texts: GaugeTexts::of(&g.gauge, g.unit),
        unit: g.unit,
        version: g.version,
        gauge: g.gauge,
    };
    Ok(Json(state.gauge_room().await?.into_iter().map(view).collect()))
}

/// A gauge as somebody wants it in the gauge room.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct PutGauge {
    /// Name people read.
    name: String,
    /// The number on it; empty where it has none.
    #[serde(default)]
    serial: String,
    /// Kind of instrument.
    kind: GaugeType,
    /// Unit of its figures and of the builds it is used on.
    unit: Unit,
    /// Its figures.
    texts: GaugeTexts,
    /// The version that was looked at; 0 for a new gauge.
    version: u32,
}

impl PutGauge {
    fn gauge(&self, id: String) -> Result<Gauge, Problem> {
        let typed = |text: &str, field: &'static str| {
            parse_length(text, self.unit).map_err(|e| Problem::field(format!("texts.{field}"), e.to_string()))
        };
        let day = |text: &str, field: &'static str| -> Result<Option<Day>, Problem> {
            let text = Some(text.trim()).filter(|t| !t.is_empty());
            text.map(|t| t.parse().map_err(|e: String| Problem::field(format!("texts.{field}"), e))).transpose()
        };
        let t = &self.texts;
        let range = if t.from.trim().is_empty() && t.to.trim().is_empty() {
            None
        } else {
            Some(GaugeRange { from: typed(&t.from, "from")?, to: typed(&t.to, "to")? })
        };
        let gauge = Gauge {
            id,
            name: self.name.trim().to_owned(),
            serial: Some(self.serial.trim().to_owned()).filter(|s| !s.is_empty()),
            measures: self.kind.measures(),
            resolution: typed(&t.resolution, "resolution")?,
            repeatability: typed(&t.repeatability, "repeatability")?,
            calibration: typed(&t.calibration, "calibration")?,
            kind: Some(self.kind),
            range,
            calibrated: day(&t.calibrated, "calibrated")?,
            due: day(&t.due, "due")?,
            between_people: if t.between_people.trim().is_empty() {
                None
            } else {
                Some(typed(&t.between_people, "between_people")?)
            },
        };
        // The form has its figures in one group.
        gauge.check().map_err(|flaw| match flaw.part {
            "name" | "id" => Problem::field("name", flaw.to_string()),
            "serial" => Problem::field("serial", flaw.to_string()),
            part => Problem::field(format!("texts.{part}"), flaw.to_string()),
        })?;
        Ok(gauge)
    }
}

/// Registers a gauge, or changes one. Builds and sessions keep the gauge as it was when they began.
#[utoipa::path(put, path = "/api/v1/gauges/{gauge}", request_body = PutGauge,
    params(("gauge" = String, Path, description = "Short name of the gauge")),
    responses((status = 200, body = Vec<ShopGaugeView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn put_gauge(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(request): Body<PutGauge>,
) -> Result<Json<Vec<ShopGaugeView>>, Problem> {
    who.must(|c| c.open_builds, "an assembler or the lead")?;
    let plain = |c: char| c.is_ascii_alphanumeric() || matches!(c, '-' | '.' | '_');
    if id.is_empty() || id.len() > 40 || !id.chars().all(plain) {
        return Err(Problem::field("gauge", "a gauge's short name has 1 to 40 letters, digits, hyphens or points"));
    }
    let gauge = request.gauge(id)?;
    let before = state.gauges(request.unit).into_iter().find(|known| known.id == gauge.id);
    // What a gauge is allowed leaves every verdict open by as much: less of it is the lead's to say.
    let doubts = |g: &Gauge| [g.resolution, g.repeatability, g.calibration, g.between_people.unwrap_or_default()];
    let less =
        before.as_ref().is_some_and(|then| doubts(&gauge).iter().zip(doubts(then)).any(|(now, then)| *now < then));
    if less {
        who.must(|c| c.concede_tight, "the lead: less doubt of a gauge makes verdicts surer everywhere")?;
    }
    if state.store.put_gauge(&gauge, request.unit, request.version).await?.is_none() {
        return Err(Problem::ChangedMeanwhile);
    }
    let unit = request.unit;
    let shown = |g: &Gauge| {
        let [resolution, repeatability, calibration] =
            [g.resolution, g.repeatability, g.calibration].map(|l| l.show(unit).to_string());
        json!({ "resolution": resolution, "repeatability": repeatability, "calibration": calibration })
    };
    let detail = json!({ "gauge": gauge.name, "before": before.as_ref().map(shown), "now": shown(&gauge) });
    let by = Some(who.account.person.clone());
    state.store.note_shop(&ShopNote { by, at: clock::now(), kind: "gauge_changed", detail }).await?;
    gauge_room(State(state), who).await
}
