//! A box of thrust washers with its shelf.
use jagged_pin_core::Length;
use jagged_pin_core::shells::{Half, OnShelf, WasherBox};
use jagged_pin_store::KnownBox;
use serde::Serialize;
use utoipa::ToSchema;

use crate::http::problem::Problem;
use crate::state::AppState;

/// A box with what lies on its shelf.
#[derive(Serialize, ToSchema)]
pub(crate) struct WasherBoxView {
    /// The box.
    washers: WasherBox,
    /// The version that a change of it has to name.
    version: i32,
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
    Ok(WasherBoxView { washers: known.washers, version: known.version, shelf: shelf.collect() })
}

/// The box of that name.
pub(crate) async fn known_box(state: &AppState, id: &str) -> Result<KnownBox, Problem> {
    let all = state.store.washer_boxes().await?;
    all.into_iter().find(|b| b.washers.id == id).ok_or(Problem::NoSuchFamily)
}
