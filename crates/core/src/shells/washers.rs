//! Thrust washers as a shop keeps them: for one engine's thrust, a thickness each, counted in halves.
use jagged_pin_search::washers::{Facing, Thrust, Washer};
use serde::{Deserialize, Serialize};

use crate::units::{Flaw, Length, Unit, Wrong, must, must_be_text, must_count, must_differ};

/// Front or rear of the thrust.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ThrustSide {
    /// Toward the front of the engine.
    Front,
    /// Toward its rear.
    Rear,
}

/// What the washers stand between.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ThrustLayout {
    /// Washers on a saddle of the block, between two cheeks of the crank.
    Saddle,
    /// A collar of the crank, between two washers.
    Collar,
    /// Flanges of a bearing's own shells on a saddle of the block, between two cheeks of the crank.
    Flanged,
}

impl ThrustLayout {
    /// As the search calls it.
    pub const fn as_searched(self) -> Thrust {
        match self {
            ThrustLayout::Saddle | ThrustLayout::Flanged => Thrust::Saddle,
            ThrustLayout::Collar => Thrust::Collar,
        }
    }
}

/// Washers of one thickness.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WasherClass {
    /// How the shop calls it, such as `+5`.
    pub id: String,
    /// Thickness of a half.
    pub thickness: Length,
    /// The only side it fits, if only one: oil grooves or a tang may say so.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub side: Option<ThrustSide>,
    /// Part number, where it can be ordered.
    #[serde(default)]
    pub part_number: String,
    /// What a half costs, in ten-thousandths of the money; none are sold without.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub price: Option<i64>,
}

/// What the shop knows of the washers of one engine's thrust.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WasherBox {
    /// Stable short name.
    pub id: String,
    /// Name people read.
    pub name: String,
    /// Unit its thicknesses are spoken of in.
    pub unit: Unit,
    /// What the washers stand between.
    pub layout: ThrustLayout,
    /// The side that carries the load of the clutch or the converter.
    pub loaded: ThrustSide,
    /// Thickness of the washers that come with the engine.
    pub standard: Length,
    /// How far a washer may lie from its thickness to either side.
    pub grading: Length,
    /// Halves that one side takes.
    pub halves: u8,
    /// What may be lapped off the steel backs of the front side; zero where it is not done.
    pub lap_front: Length,
    /// The same of the rear side.
    pub lap_rear: Length,
    /// One step of lapping.
    pub lap_step: Length,
    /// The thicknesses there are, beside the standard one.
    pub classes: Vec<WasherClass>,
}

/// Thicknesses of a box, at most.
const MOST_CLASSES: usize = 40;
/// Longest name of a box or a washer.
const LONGEST_NAME: usize = 60;
/// Longest short name: as long as the shelf's labels.
const LONGEST_ID: usize = 20;
/// Thickest washer: a quarter of an inch.
const THICKEST: Length = Length::from_nm(6_350_000);
/// Steps that a side may be lapped.
const MOST_STEPS: i64 = 100;

impl WasherBox {
    /// Checks that it makes sense.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_be_text(&self.id, "id", None, LONGEST_ID)?;
        must_be_text(&self.name, "name", None, LONGEST_NAME)?;
        let thick = |l: Length| l > Length::ZERO && l <= THICKEST;
        must(thick(self.standard), Flaw::of("standard", Wrong::Figure("above zero and a quarter of an inch at most")))?;
        let graded = self.grading >= Length::ZERO && self.grading < self.standard;
        must(graded, Flaw::of("grading", Wrong::Figure("zero or more, and less than the washer")))?;
        must((1..=4).contains(&self.halves), Flaw::of("halves", Wrong::Figure("1 to 4 a side")))?;
        must(self.lap_step > Length::ZERO, Flaw::of("lap_step", Wrong::Figure("above zero")))?;
        for (part, lap) in [("lap_front", self.lap_front), ("lap_rear", self.lap_rear)] {
            let fits = lap >= Length::ZERO
                && lap.nm().checked_div(self.lap_step.nm()).is_some_and(|n| n <= MOST_STEPS)
                && lap < self.standard;
            must(
                fits,
                Flaw::of(part, Wrong::Figure("zero or more, at most a hundred steps, and less than the washer")),
            )?;
        }
        must_count(self.classes.len(), "classes", 0, MOST_CLASSES)?;
        for (line, class) in self.classes.iter().enumerate() {
            must_be_text(&class.id, "classes", Some(line), LONGEST_ID)?;
            must(
                class.part_number.len() <= LONGEST_NAME,
                Flaw::at("classes", line, Wrong::Text { most: LONGEST_NAME }),
            )?;
            let sound = thick(class.thickness) && class.price.is_none_or(|p| p >= 0);
            must(
                sound,
                Flaw::at("classes", line, Wrong::Figure("a thickness above zero, and a price of zero or more")),
            )?;
        }
        must_differ(self.classes.iter().map(|c| &c.id), "classes")
    }

    /// The thicknesses as they are searched, with so many halves of each on the shelf.
    pub fn stock(&self, on_shelf: impl Fn(&str) -> u16) -> Vec<Washer> {
        let facing = |side: ThrustSide| match side {
            ThrustSide::Front => Facing::Front,
            ThrustSide::Rear => Facing::Rear,
        };
        let washer = |c: &WasherClass| Washer {
            thickness: c.thickness.nm(),
            side: c.side.map(facing),
            count: on_shelf(&c.id).into(),
            price: c.price,
        };
        self.classes.iter().map(washer).collect()
    }

    /// How a washer of it is called: its own name, or the standard one's.
    pub fn name_of(&self, class: Option<&str>) -> String {
        class.unwrap_or("std").to_owned()
    }
}
