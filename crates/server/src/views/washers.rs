//! A box of thrust washers with its shelf.
use jagged_pin_core::shells::{Half, OnShelf, ThrustLayout, ThrustSide, WasherBox, WasherClass};
use jagged_pin_core::units::{parse_money, show_money};
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::KnownBox;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::http::answers::{length, typed};
use crate::http::problem::Problem;
use crate::state::AppState;

/// A box with what lies on its shelf.
#[derive(Serialize, ToSchema)]
pub(crate) struct WasherBoxView {
    /// The box.
    washers: WasherBox,
    /// The box as it is typed.
    form: WasherForm,
    /// Its halves on the shelf.
    shelf: Vec<WashersOnShelf>,
}

/// Halves of one thickness.
#[derive(Serialize, ToSchema)]
pub(crate) struct WashersOnShelf {
    /// Which.
    class: String,
    /// How many.
    count: u16,
    /// Where they lie.
    place: String,
}

/// The halves of one thickness, as the shelf counts them: a washer has no upper, no lower and no undersize.
pub(crate) fn on_shelf(class: &str, place: &str) -> OnShelf {
    let (class, place) = (class.to_owned(), place.to_owned());
    OnShelf { half: Half::Either, class, undersize: Length::ZERO, count: 0, place }
}

pub(crate) async fn box_view(state: &AppState, known: KnownBox) -> Result<WasherBoxView, Problem> {
    let shelf = state.store.shelf(&known.washers.id).await?;
    let shelf = shelf.into_iter().map(|s| WashersOnShelf { class: s.class, count: s.count, place: s.place });
    let form = WasherForm::of(&known);
    Ok(WasherBoxView { washers: known.washers, form, shelf: shelf.collect() })
}

/// The box of that name.
pub(crate) async fn known_box(state: &AppState, id: &str) -> Result<KnownBox, Problem> {
    let all = state.store.washer_boxes().await?;
    all.into_iter().find(|b| b.washers.id == id).ok_or(Problem::NoSuchFamily)
}

/// A box as it is typed. Lengths are texts, in `unit` unless they bring their own.
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct WasherForm {
    /// The version it was seen at; 0 for a new one.
    pub(crate) version: i32,
    /// Stable short name.
    id: String,
    /// Name people read.
    name: String,
    /// Unit of its thicknesses.
    unit: Unit,
    /// What the washers stand between.
    layout: ThrustLayout,
    /// The side that carries the load.
    loaded: ThrustSide,
    /// Thickness of the washers that come with the engine.
    standard: String,
    /// How far a washer may lie from its thickness.
    grading: String,
    /// Halves that one side takes.
    halves: u8,
    /// What may be lapped off the front side; zero where it is not done.
    lap_front: String,
    /// The same of the rear side.
    lap_rear: String,
    /// One step of lapping.
    lap_step: String,
    /// The thicknesses.
    classes: Vec<WasherClassForm>,
}

/// Washers of one thickness as they are typed.
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct WasherClassForm {
    /// How the shop calls it.
    id: String,
    /// Thickness of a half.
    thickness: String,
    /// The only side it fits, if only one.
    #[serde(default)]
    side: Option<ThrustSide>,
    /// Part number; empty where it cannot be ordered.
    part_number: String,
    /// What a half costs; empty where none are sold.
    price: String,
}

impl WasherForm {
    fn of(known: &KnownBox) -> Self {
        let b = &known.washers;
        let text = |l: Length| typed(l, b.unit);
        let class = |c: &WasherClass| WasherClassForm {
            id: c.id.clone(),
            thickness: text(c.thickness),
            side: c.side,
            part_number: c.part_number.clone(),
            price: c.price.map(show_money).unwrap_or_default(),
        };
        WasherForm {
            version: known.version,
            id: b.id.clone(),
            name: b.name.clone(),
            unit: b.unit,
            layout: b.layout,
            loaded: b.loaded,
            standard: text(b.standard),
            grading: text(b.grading),
            halves: b.halves,
            lap_front: text(b.lap_front),
            lap_rear: text(b.lap_rear),
            lap_step: text(b.lap_step),
            classes: b.classes.iter().map(class).collect(),
        }
    }

    /// What it says.
    ///
    /// # Errors
    /// [`Problem`] names the field that cannot be read.
    pub(crate) fn washers(self) -> Result<WasherBox, Problem> {
        let unit = self.unit;
        let class = |c: WasherClassForm| -> Result<WasherClass, Problem> {
            let price = match c.price.trim() {
                "" => None,
                text => {
                    Some(parse_money(text).ok_or_else(|| Problem::field("classes", "a price is a number like 8.00"))?)
                }
            };
            Ok(WasherClass {
                id: c.id.trim().to_owned(),
                thickness: length(&c.thickness, unit, "classes")?,
                side: c.side,
                part_number: c.part_number.trim().to_owned(),
                price,
            })
        };
        Ok(WasherBox {
            id: self.id.trim().to_owned(),
            name: self.name.trim().to_owned(),
            unit,
            layout: self.layout,
            loaded: self.loaded,
            standard: length(&self.standard, unit, "standard")?,
            grading: length(&self.grading, unit, "grading")?,
            halves: self.halves,
            lap_front: length(&self.lap_front, unit, "lap_front")?,
            lap_rear: length(&self.lap_rear, unit, "lap_rear")?,
            lap_step: length(&self.lap_step, unit, "lap_step")?,
            classes: self.classes.into_iter().map(class).collect::<Result<_, _>>()?,
        })
    }
}
