//! What machining would do beside other shells, and the work orders that come of it.
use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use jagged_pin_core::assess::{Assessment, OrderStatus};
use jagged_pin_core::choose::USUAL_GRIND_TOLERANCE;
use jagged_pin_core::engine::{BearingRow, Place};
use jagged_pin_core::log::{OrderItem, OrderMoved, OrderStep, What, WorkOrder};
use jagged_pin_core::machining::{
    ChosenPlan, Machining, MachiningWish, NoPlan, booked_per_grit, clean_ups, machining_plans, order_items,
};
use jagged_pin_core::{Build, Length, Unit};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{evaluated, find, length, record_change, record_what};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;
use crate::views::family::known_family;

/// Name of the file format of a work order.
const FORMAT: &str = "jagged-pin-work-order";
/// Its version.
const FORMAT_VERSION: u32 = 1;

/// Damage of a journal as it is typed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct Damage {
    /// The journal: a main or a pin.
    station: Place,
    /// Its depth.
    depth: String,
}

/// What is asked of machining. Lengths are texts as typed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct AskMachining {
    /// The row.
    row: BearingRow,
    /// The family whose undersizes are planned for; without one, those of the engine.
    family: Option<String>,
    /// What the other shop holds to either side; two tenths when empty.
    #[serde(default)]
    tolerance: String,
    /// Runout to be ground out of every journal, as a dial shows it; as each main was turned when empty.
    #[serde(default)]
    runout: String,
    /// Journals with damage; the rest as they were seen, or as an open order has them.
    #[serde(default)]
    damage: Vec<Damage>,
    /// Bearings that are put right another way.
    #[serde(default)]
    without: Vec<Place>,
}

impl AskMachining {
    async fn plan(self, state: &AppState, build: &Build, assessed: &Assessment) -> Result<Machining, Problem> {
        let unit = build.unit;
        let or = |text: &str, field, usual| match text.trim() {
            "" => Ok(usual),
            text => length(text, unit, field).and_then(|l| {
                let sane = (Length::ZERO..=Length::microns(3_000)).contains(&l);
                if sane { Ok(l) } else { Err(Problem::field(field, "that is no depth or tolerance of a journal")) }
            }),
        };
        let family = match &self.family {
            Some(id) => Some(known_family(state, id).await?.family),
            None => None,
        };
        if family.as_ref().is_some_and(|f| f.row != self.row) {
            return Err(Problem::field("family", "that family is for the other row"));
        }
        let damage = self.damage.iter().map(|d| Ok((d.station, or(&d.depth, "damage", Length::ZERO)?)));
        let wish = MachiningWish {
            row: self.row,
            tolerance: or(&self.tolerance, "tolerance", USUAL_GRIND_TOLERANCE)?,
            runout: if self.runout.trim().is_empty() { None } else { Some(or(&self.runout, "runout", Length::ZERO)?) },
            damage: damage.collect::<Result<_, Problem>>()?,
            without: self.without.clone(),
            booked_per_grit: booked(state).await?,
        };
        machining_plans(build, assessed, family.as_ref(), &wish).map_err(no_plan)
    }
}

/// Minutes of one grit on one journal, from what was booked in the shop.
async fn booked(state: &AppState) -> Result<Option<u16>, Problem> {
    let events = state.store.booked_work().await?;
    let counted = events.iter().map(|(layout, event)| (event, event.on.journals(layout)));
    Ok(booked_per_grit(counted))
}

pub(super) fn no_plan(reason: NoPlan) -> Problem {
    let code = match reason {
        NoPlan::NothingMeasured => "nothing_measured",
        NoPlan::NoTarget => "no_target",
        NoPlan::TargetsApart => "targets_apart",
        NoPlan::NotWhole(_) => "not_whole",
        NoPlan::NoSuchPlan => "no_such_plan",
    };
    Problem::Unanswerable { code, detail: reason.to_string() }
}

/// What machining would do for a row; nothing is changed.
#[utoipa::path(post, path = "/api/v1/builds/{build}/machining", request_body = AskMachining,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = Machining), (status = "4XX", body = ProblemBody)))]
pub(super) async fn plan_machining(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(ask): Body<AskMachining>,
) -> Result<Json<Machining>, Problem> {
    let seen = evaluated(&state, &who, &name).await?;
    Ok(Json(ask.plan(&state, &seen.build, &seen.assessment).await?))
}

/// A work order to be written from a plan.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewOrder {
    /// Made by the client: sending it twice writes it once.
    id: Uuid,
    /// What was asked of machining.
    ask: AskMachining,
    /// Which of its plans.
    choice: ChosenPlan,
    /// Which shop.
    shop: String,
    /// Radius of the fillets to keep, as typed; empty where no journal is ground.
    fillet: String,
    /// Surface finish, as it is written on the paper.
    finish: String,
    /// What else the other shop has to know.
    note: String,
}

/// What stands on the paper beside the lines, as typed.
pub(super) struct Paper<'a> {
    /// Which shop.
    pub shop: &'a str,
    /// Radius of the fillets to keep; empty where no journal is ground.
    pub fillet: &'a str,
    /// Surface finish.
    pub finish: &'a str,
    /// What else the other shop has to know.
    pub note: &'a str,
}

impl Paper<'_> {
    fn is_of(&self, order: &WorkOrder) -> bool {
        let said = |text: &str, kept: &str| text.trim() == kept;
        said(self.shop, &order.shop) && said(self.finish, &order.finish) && said(self.note, &order.note)
    }

    /// What was written under that identifier, when this is it sent again.
    ///
    /// # Errors
    /// [`Problem::IdReused`] when something else was.
    pub(super) fn sent_before(&self, build: &Build, id: Uuid) -> Result<Option<What>, Problem> {
        match build.facts.iter().find(|f| f.id == id).map(|f| &f.what) {
            None => Ok(None),
            Some(What::Order(order)) if self.is_of(order) => Ok(Some(What::Order(order.clone()))),
            Some(_) => Err(Problem::IdReused),
        }
    }

    /// The order with these lines.
    ///
    /// # Errors
    /// A [`Problem`] that names the field the other shop needs.
    pub(super) fn order(&self, build: &Build, before: usize, items: Vec<OrderItem>) -> Result<WorkOrder, Problem> {
        let fillet = match self.fillet.trim() {
            "" => None,
            text => Some(length(text, build.unit, "fillet")?),
        };
        let text = |t: &str, field: &'static str| match t.trim() {
            "" => Err(Problem::field(field, "the other shop needs this")),
            t => Ok(t.to_owned()),
        };
        Ok(WorkOrder {
            number: format!("{}-{}", build.code, before + 1),
            shop: text(self.shop, "shop")?,
            items,
            fillet,
            finish: text(self.finish, "finish")?,
            note: text(self.note, "note")?,
            clean_up: Vec::new(),
        })
    }
}

/// Writes a work order from a plan.
#[utoipa::path(post, path = "/api/v1/builds/{build}/orders", request_body = NewOrder,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn write_order(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewOrder>,
) -> Result<Json<RecordedView>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let NewOrder { shop, fillet, finish, note, .. } = &request;
    let paper = Paper { shop, fillet, finish, note };
    if let Some(what) = paper.sent_before(&build, request.id)? {
        return record_what(&state, who, &name, request.id, what).await;
    }
    let whole = state.evaluated.whole(&build);
    let assessed = &whole.assessment;
    let plan = request.ask.clone().plan(&state, &build, assessed).await?;
    let items = order_items(&plan, &request.choice, build.unit).map_err(no_plan)?;
    let order = paper.order(&build, assessed.orders.len(), items)?;
    let what = What::Order(WorkOrder { clean_up: clean_ups(&plan, &request.choice), ..order });
    let seq = build.seq();
    record_change(&state, who, &name, request.id, what, move |build| build.seq() == seq).await
}

/// A step of an order.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewStep {
    /// Made by the client: sending it twice records once.
    id: Uuid,
    /// How it moved on.
    step: OrderStep,
    /// What was said or seen.
    note: String,
}

/// Moves an order on: sent, returned or withdrawn. What comes back is stale and measured against the order.
#[utoipa::path(post, path = "/api/v1/builds/{build}/orders/{order}/steps", request_body = NewStep,
    params(("build" = String, Path, description = "Short name or id"), ("order" = Uuid, Path, description = "The order")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn move_order(
    State(state): State<AppState>,
    who: Who,
    Path((name, order)): Path<(String, Uuid)>,
    Body(request): Body<NewStep>,
) -> Result<Json<RecordedView>, Problem> {
    let note = request.note.trim().to_owned();
    let what = What::OrderMoved(OrderMoved { order, step: request.step, note });
    record_what(&state, who, &name, request.id, what).await
}

/// A work order as a file for the other shop. Lengths are nanometres; the texts beside them are in `unit`.
#[derive(Serialize, ToSchema)]
pub(super) struct OrderFile {
    /// Always `jagged-pin-work-order`.
    format: String,
    /// Version of the format.
    version: u32,
    /// The build.
    build: String,
    /// The engine.
    engine: String,
    /// Unit of the texts.
    unit: Unit,
    /// The shop that orders.
    from: String,
    /// The order and how far it is.
    order: OrderStatus,
    /// Characteristic by feature, in words.
    lines: Vec<OrderLine>,
    /// The fillet radius in words.
    fillet: Option<String>,
}

/// A feature of an order in words.
#[derive(Serialize, ToSchema)]
pub(super) struct OrderLine {
    /// Where.
    station: Place,
    /// What is done.
    job: &'static str,
    /// Size now.
    from: Option<String>,
    /// Size wanted.
    to: String,
    /// Tolerance.
    tolerance: String,
    /// Why, in the words of whoever decided it.
    why: String,
}

fn line(item: &OrderItem, unit: Unit) -> OrderLine {
    use jagged_pin_core::log::Job;
    let (plus, minus) = (item.plus.show(unit), item.minus.show(unit));
    OrderLine {
        station: item.station,
        job: match item.job {
            Job::Grind => "grind",
            Job::Polish => "polish to size",
            Job::ResizeHousing => "bring the housing to size",
            Job::BoreBearing => "bore the bearing to fit",
            Job::BoreCylinder => "bore and hone to size, plate on",
            Job::HoneCylinder => "hone to size, plate on",
        },
        from: item.from.map(|l| l.show(unit)),
        to: item.to.show(unit),
        tolerance: if item.plus == item.minus { format!("+/- {plus}") } else { format!("+{plus} -{minus}") },
        why: item.why.clone(),
    }
}

/// A work order as JSON.
#[utoipa::path(get, path = "/api/v1/builds/{build}/orders/{order}",
    params(("build" = String, Path, description = "Short name or id"), ("order" = Uuid, Path, description = "The order")),
    responses((status = 200, body = OrderFile), (status = "4XX", body = ProblemBody)))]
pub(super) async fn order_file(
    State(state): State<AppState>,
    who: Who,
    Path((name, order)): Path<(String, Uuid)>,
) -> Result<impl IntoResponse, Problem> {
    let seen = evaluated(&state, &who, &name).await?;
    let build = &seen.build;
    let standing = seen.assessment.orders.iter().find(|o| o.id == order);
    let order = standing.cloned().ok_or(Problem::Refused(jagged_pin_core::record::Refusal::NoSuchOrder))?;
    let unit = build.unit;
    let disposition = format!("attachment; filename=\"{}.json\"", order.order.number);
    let file = OrderFile {
        format: FORMAT.into(),
        version: FORMAT_VERSION,
        build: build.code.clone(),
        engine: build.engine.clone(),
        unit,
        from: state.shop.to_string(),
        lines: order.order.items.iter().map(|i| line(i, unit)).collect(),
        fillet: order.order.fillet.map(|f| f.show(unit)),
        order,
    };
    Ok(([(header::CONTENT_DISPOSITION, disposition)], Json(file)))
}
