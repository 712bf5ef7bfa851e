//! A build as a row of the floor.
use jagged_pin_core::assess::OrderStatus;
use jagged_pin_core::engine::{Layout, Place};
use jagged_pin_core::log::OrderStep;
use jagged_pin_core::maths::{Side, State};
use jagged_pin_core::sheet::{Next, SealKey, SealStatus};
use jagged_pin_core::units::{Person, Timestamp};
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::OnFloor;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::evaluated::Evaluated;

/// A build on the floor.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct FloorRow {
    /// Identifier.
    pub id: Uuid,
    /// Short name.
    pub code: String,
    /// The engine in words.
    pub engine: String,
    /// Working unit.
    pub unit: Unit,
    /// The engine layout, for its miniature.
    pub layout: Layout,
    /// Every bearing's state: mains, then rods.
    pub stations: Vec<FloorStation>,
    /// How far the sheet is.
    pub status: SealStatus,
    /// Whether a seal was broken by a later change.
    pub broken: bool,
    /// Whether a file brought signatures along, and nobody has signed here since.
    #[serde(default)]
    pub elsewhere: bool,
    /// What it needs next.
    pub next: Next,
    /// Orders whose parts are at another shop.
    pub away: Vec<AwayView>,
    /// When something was last recorded, or it was opened.
    pub touched_at: Timestamp,
    /// By whom.
    pub touched_by: Person,
    /// When and why it was put away, if it was.
    #[serde(default)]
    pub archived: Option<ArchivedView>,
}

/// A build that was put away.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct ArchivedView {
    /// When.
    pub at: Timestamp,
    /// Why, in the words of whoever decided it.
    pub reason: String,
}

/// A page of the floor.
#[derive(Debug, Serialize, ToSchema)]
pub struct FloorPage {
    /// The builds, by short name.
    pub rows: Vec<FloorRow>,
    /// Builds of this page that cannot be read.
    pub unreadable: Vec<UnreadableRow>,
    /// Whether there are more after the last one.
    pub more: bool,
    /// Short name of the last build looked at, to ask for those after it.
    pub last: Option<String>,
}

/// A build that cannot be read.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnreadableRow {
    /// Identifier.
    pub id: Uuid,
    /// Short name.
    pub code: String,
    /// The engine in words.
    pub engine: String,
    /// What cannot be read.
    pub why: String,
}

/// What is kept of a build for the floor.
#[derive(Debug, Serialize, Deserialize)]
pub(crate) struct Summary {
    /// Its row, with nothing hidden.
    pub row: FloorRow,
    /// Who measures blind there and so must not see that row.
    pub hidden_from: Vec<Uuid>,
}

impl Summary {
    /// The summary of a build with nothing hidden.
    pub fn of(whole: &Evaluated) -> Self {
        let asked = whole.assessment.blind.iter().filter(|b| !b.done).map(|b| b.whom.id);
        Summary { row: FloorRow::of(whole), hidden_from: asked.collect() }
    }

    /// The text in which it is kept of a build at a fact: with the mark of the shop's key, so that what somebody else wrote
    /// there is not shown.
    ///
    /// # Errors
    /// What `serde_json` says of it.
    pub fn kept(&self, of: (Uuid, u32), key: Option<&SealKey>) -> serde_json::Result<String> {
        let text = serde_json::to_string(self)?;
        let mark = key.map(|key| mark_of(key, of, &text));
        serde_json::to_string(&Kept { text, mark })
    }

    /// What was kept of a build; nothing where it was not written by a server with that key, or not of that build as it is.
    pub fn read(text: &str, of: &OnFloor, key: Option<&SealKey>) -> Option<Self> {
        let Kept { text, mark } = serde_json::from_str(text).ok()?;
        let due = key.map(|key| mark_of(key, (of.id, of.seq), &text));
        if mark != due {
            return None;
        }
        serde_json::from_str(&text).ok()
    }
}

/// A summary as it lies in its row.
#[derive(Serialize, Deserialize)]
struct Kept {
    text: String,
    mark: Option<String>,
}

fn mark_of(key: &SealKey, (build, seq): (Uuid, u32), text: &str) -> String {
    key.mark(&format!("jagged-pin-summary/1 {build} {seq} {text}"))
}

/// Parts that are at another shop.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct AwayView {
    /// Number of the order.
    pub number: String,
    /// Which shop.
    pub shop: String,
    /// Since when.
    pub since: Timestamp,
}

impl AwayView {
    fn of(order: OrderStatus) -> Option<Self> {
        let since = order.step_at.filter(|_| order.step == Some(OrderStep::Sent))?;
        Some(AwayView { number: order.order.number, shop: order.order.shop, since })
    }
}

/// A bearing on the floor.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
pub struct FloorStation {
    /// The station.
    pub station: Place,
    /// Its state; absent while open.
    pub state: Option<State>,
    /// The limit that is nearest.
    pub nearest: Option<Side>,
    /// Its clearance.
    pub clearance: Option<Length>,
    /// Whether something was done since it was judged.
    pub stale: bool,
    /// Whether other shells were fitted and nothing was measured over them yet.
    pub predicted: bool,
    /// Whether any touch was taken on it so far.
    pub touched: bool,
}

impl FloorRow {
    /// The row of an evaluated build.
    pub fn of(evaluated: &Evaluated) -> Self {
        let (build, assessed) = (&*evaluated.build, &evaluated.assessment);
        let last = build.facts.last();
        FloorRow {
            id: build.id,
            code: build.code.clone(),
            engine: build.engine.clone(),
            unit: build.unit,
            layout: build.layout.clone(),
            stations: assessed
                .bearings()
                .filter(|s| s.asked)
                .map(|s| FloorStation {
                    station: s.station,
                    state: s.judged.as_ref().map(|j| j.state),
                    nearest: s.judged.as_ref().map(|j| j.nearest),
                    clearance: s.judged.as_ref().map(|j| j.clearance),
                    stale: s.stale.is_some(),
                    predicted: s.predicted.is_some(),
                    touched: s.begun,
                })
                .collect(),
            status: assessed.sign_off.status,
            broken: assessed.sign_off.broken.is_some(),
            elsewhere: !assessed.sign_off.elsewhere.is_empty() && assessed.sign_off.signatures.is_empty(),
            next: assessed.sign_off.next,
            away: assessed.orders.iter().cloned().filter_map(AwayView::of).collect(),
            touched_at: last.map_or(build.opened_at, |f| f.at),
            touched_by: last.map_or_else(|| build.opened_by.clone(), |f| f.by.clone()),
            archived: None,
        }
    }
}
