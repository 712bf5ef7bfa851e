//! The engine layout: its mains, which of them carries thrust, and the crank as it is drawn.
use std::ops::RangeInclusive;

use serde::{Deserialize, Serialize};
use thiserror::Error;

use super::catalog::{Figure, Plan};
use super::place::{BearingRow, Place, PlaceKind};
use crate::maths::{Alloy, Material};
use crate::units::Length;

/// Most mains a layout can have.
pub const MOST_MAINS: u8 = 16;

/// Journals of plain-bearing engine cranks, with room on both sides: 10 to 250 mm.
pub const JOURNAL_RANGE: (Length, Length) = (Length::from_nm(10_000_000), Length::from_nm(250_000_000));

/// The layout of one engine.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Layout {
    /// Number of mains.
    pub mains: u8,
    /// The main that carries thrust.
    pub thrust: Place,
    /// Nominal diameter of the main journals.
    pub main_journal: Length,
    /// The crank's other dimensions, for drawing it to scale.
    pub crank: Crank,
    /// Housings and shells of the mains, where they are known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub main_nominals: Option<Nominals>,
    /// The rods; absent when only the mains are built here.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub rods: Option<Rods>,
    /// The cam; absent where it is not built here, or nobody knows it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cam: Option<Cam>,
    /// The cylinders; absent where the top end is not built here.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cylinders: Option<Cylinders>,
    /// Whether crank and rods run on rollers: nothing of shells is measured, and the crank is built up of its halves.
    #[serde(default, skip_serializing_if = "is_false")]
    pub rollers: bool,
    /// What the block is made of.
    #[serde(default, skip_serializing_if = "Material::is_iron")]
    pub block: Material,
    /// Plans of positions that differ from the usual ones.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub plans: Vec<Plan>,
}

/// Nominal housing and shells of a row of bearings.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Nominals {
    /// Nominal housing diameter.
    pub housing: Length,
    /// How far a housing may be off to either side.
    pub housing_tolerance: Length,
    /// Catalogue maximum of a standard shell's wall.
    pub wall: Length,
    /// The wall lies anywhere from the maximum down to this much less.
    pub wall_tolerance: Length,
    /// Undersizes the shells are made for, standard (0) first.
    pub undersizes: Vec<Length>,
}

impl Nominals {
    /// The inside diameter over standard shells in a housing of that size: two walls, each in the middle of its
    /// tolerance.
    pub fn over_standard(&self, housing: Length) -> Length {
        housing - self.wall - self.wall + self.wall_tolerance
    }
}

/// The rods of an engine.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rods {
    /// Rods side by side on one pin.
    pub per_pin: u8,
    /// Nominal diameter of a pin.
    pub pin: Length,
    /// Whether each rod's track of a shared pin is measured by itself. Builds opened by an earlier version measured the
    /// pin as one.
    #[serde(default, skip_serializing_if = "is_false")]
    pub tracks: bool,
    /// What the rods are made of.
    #[serde(default = "steel", skip_serializing_if = "is_steel")]
    pub material: Material,
    /// Housings and shells of the rods, where they are known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub nominals: Option<Nominals>,
}

/// The cam of an engine: its journals may step down from the front to the rear, so each has a nominal of its own.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Cam {
    /// Nominal diameters of its journals, from the front.
    pub journals: Vec<Length>,
    /// How deep its journals are hardened: what polishing may take is a part of it.
    pub hardened: Length,
}

impl Cam {
    /// Most journals a cam can have.
    const MOST: usize = 16;

    fn is_sound(&self) -> bool {
        let (smallest, largest) = JOURNAL_RANGE;
        let hard = self.hardened > Length::ZERO && self.hardened <= Length::microns(5_000);
        hard && (1..=Self::MOST).contains(&self.journals.len())
            && self.journals.iter().all(|j| (smallest..=largest).contains(j))
    }
}

/// The cylinders of an engine, with what runs in them.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Cylinders {
    /// Nominal bore, as it is bored now: with an oversize where it has one.
    pub bore: Length,
    /// Degrees between the banks, where there are two; a right angle where nobody said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub bank_angle: Option<u8>,
    /// Banks of cylinders, where it is not one, or two where two rods run on a pin: a flat engine, split pins, a narrow V.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub banks: Option<u8>,
    /// The oversize that it is bored to already, part of `bore`.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub present: Option<Length>,
    /// What the pistons run on, where it is not iron.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub wall: Option<Wall>,
    /// What the pistons are made of, where somebody said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub alloy: Option<Alloy>,
}

/// What pistons run on.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Wall {
    /// Iron: the block's own, or liners in a light block.
    Iron,
    /// The bare metal of a light block.
    Bare,
    /// A sprayed or plated coat on the metal of a light block: it is never bored.
    Coated,
}

impl Cylinders {
    /// Cylinders of that bore, of which nothing else is known.
    pub const fn of(bore: Length) -> Self {
        Cylinders { bore, bank_angle: None, banks: None, present: None, wall: None, alloy: None }
    }

    /// The bore as it left the factory: what oversizes are counted from.
    pub fn standard(&self) -> Length {
        self.bore - self.present.unwrap_or_default()
    }

    /// Whether another oversize can be bored.
    pub fn can_be_bored(&self) -> bool {
        self.wall != Some(Wall::Coated)
    }

    fn is_sound(&self) -> bool {
        let present = self.present.is_none_or(|p| p >= Length::ZERO && p.nm().saturating_mul(10) <= self.bore.nm());
        BORE_RANGE.contains(&self.bore) && present && self.banks.is_none_or(|banks| BANKS.contains(&banks))
    }
}

/// What lies between two banks where nobody said: the usual one.
const USUAL_BANK_ANGLE: u8 = 90;
/// From nearly one bank to flat.
const BANK_ANGLES: RangeInclusive<u8> = 10..=180;

/// Bores of engines that people build, with room on both sides: 20 to 400 mm.
const BORE_RANGE: RangeInclusive<Length> = Length::from_nm(20_000_000)..=Length::from_nm(400_000_000);

/// Banks that an engine can have.
const BANKS: RangeInclusive<u8> = 1..=4;

const fn steel() -> Material {
    Material::Steel
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "the form that serde calls")]
fn is_steel(material: &Material) -> bool {
    *material == Material::Steel
}

#[expect(clippy::trivially_copy_pass_by_ref, reason = "the form that serde calls")]
fn is_false(is: &bool) -> bool {
    !is
}

/// What the crank looks like from the side.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Crank {
    /// True when the dimensions below follow from the main journal by usual proportions instead of
    /// having been given.
    pub proportional: bool,
    /// Width of a main journal.
    pub main_width: Length,
    /// Diameter of a pin.
    pub pin_diameter: Length,
    /// Width of a pin.
    pub pin_width: Length,
    /// Thickness of a web.
    pub web: Length,
    /// Throw: half the stroke.
    pub throw: Length,
    /// Radius of the counterweights.
    pub counterweight: Length,
    /// For each gap between two mains, the phases of its pins in degrees, front to rear.
    pub bays: Vec<Vec<i16>>,
    /// Whether somebody said the phases of a crank in usual proportions; else they are a guess that serves for drawing.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub throws_said: bool,
}

/// Why a layout is refused.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Error)]
pub enum LayoutError {
    /// Too few or too many mains.
    #[error("an engine has 2 to {MOST_MAINS} mains")]
    Mains,
    /// The thrust main is not one of the mains.
    #[error("the thrust main must be one of the mains")]
    Thrust,
    /// A main journal nobody has seen.
    #[error("a main journal is 10 to 250 mm (0.4 to 9.8 in): is the figure in the right unit?")]
    Journal,
    /// The drawn crank does not belong to the mains.
    #[error("the crank must have pins between each two mains, and dimensions above zero")]
    Crank,
    /// Rods or pins that cannot be.
    #[error("a pin is 10 to 250 mm (0.4 to 9.8 in) and carries 1 to 4 rods")]
    Rods,
    /// A cam that cannot be.
    #[error("a cam has 1 to 16 journals of 10 to 250 mm, hardened to a depth of at most 5 mm")]
    Cam,
    /// A cylinder that cannot be.
    #[error("a cylinder's bore is 20 to 400 mm (0.8 to 15.7 in), at most a tenth of it oversize, in one to four banks")]
    Cylinders,
    /// Banks that stand as no two banks do.
    #[error("banks stand 10 to 180 degrees from each other")]
    BankAngle,
    /// Housing and shells that do not go round the journal.
    #[error("housing, walls and undersizes do not go round this journal: is a figure in the wrong unit?")]
    Nominals(BearingRow),
    /// A plan of positions nobody could work by.
    #[error("a plan needs positions that differ, at least one of them counting")]
    Plan,
}

/// Phases of evenly firing cranks whose shape everybody knows; others are spread around the circle.
fn phases(pins: usize) -> Vec<i16> {
    match pins {
        2 => vec![0, 180],
        4 => vec![0, 180, 180, 0],
        6 => vec![0, 120, 240, 240, 120, 0],
        n => (0..n).map(|i| i16::try_from(i * 360 / n.max(1)).unwrap_or(0)).collect(),
    }
}

impl Crank {
    /// A crank in usual proportions to its main journal, with `pins_per_bay` pins between two mains.
    /// It serves for drawing only; nothing is judged by it.
    pub fn proportional(mains: u8, main_journal: Length, pins_per_bay: u8) -> Self {
        let part = |percent: i64| Length::from_nm(main_journal.nm().saturating_mul(percent) / 100);
        let per_bay = usize::from(pins_per_bay.max(1));
        let bays = usize::from(mains.saturating_sub(1));
        Crank {
            proportional: true,
            main_width: part(42),
            pin_diameter: part(82),
            pin_width: part(46),
            web: part(27),
            throw: part(54),
            counterweight: part(116),
            bays: phases(bays * per_bay).chunks(per_bay).map(<[i16]>::to_vec).collect(),
            throws_said: false,
        }
    }

    /// The same crank with its pins at those phases, from the front; `None` where there are not as many of them as pins.
    #[must_use]
    pub fn with_throws(self, phases: &[i16]) -> Option<Self> {
        let pins: usize = self.bays.iter().map(Vec::len).sum();
        let mut rest = phases.iter().map(|p| p.rem_euclid(360));
        let bays = self.bays.iter().map(|bay| rest.by_ref().take(bay.len()).collect()).collect();
        (phases.len() == pins).then_some(Crank { bays, throws_said: true, ..self })
    }

    /// Whether the angles between its pins are known: of a crank in usual proportions they are only once somebody said them.
    pub const fn knows_its_throws(&self) -> bool {
        !self.proportional || self.throws_said
    }
}

/// Undersizes shells are commonly made for: ten, twenty and thirty thou, or quarter millimetres.
pub fn usual_undersizes(unit: crate::units::Unit) -> Vec<Length> {
    let step = match unit {
        crate::units::Unit::Inch => Length::tenths(100),
        crate::units::Unit::Mm => Length::microns(250),
    };
    (0..4).map(|n| Length::from_nm(step.nm().saturating_mul(n))).collect()
}

impl Nominals {
    /// Whether journal and shells fill the housing but for a clearance.
    fn goes_round(&self, journal: Length) -> bool {
        let within = |l: Length| (Length::ZERO..=JOURNAL_RANGE.1).contains(&l);
        let sizes = [self.housing, self.housing_tolerance, self.wall, self.wall_tolerance];
        let open = |housing: Length| housing - journal - self.wall - self.wall;
        // Never more room than a twentieth of the journal, nor a pinch of as much.
        sizes.into_iter().all(within)
            && self.wall > self.wall_tolerance
            && open(self.housing).nm().saturating_abs().saturating_mul(20) <= journal.nm()
            && self.undersizes.first() == Some(&Length::ZERO)
            && self.undersizes.windows(2).all(|w| w[0] < w[1])
            && self.undersizes.iter().all(|u| *u < journal)
            && self.undersizes.len() <= 12
    }
}

impl Layout {
    /// A layout of which only the mains are built.
    pub fn of_mains(mains: u8, thrust: Place, main_journal: Length, crank: Crank) -> Self {
        Layout {
            mains,
            thrust,
            main_journal,
            crank,
            main_nominals: None,
            rods: None,
            cam: None,
            cylinders: None,
            rollers: false,
            block: Material::Iron,
            plans: Vec::new(),
        }
    }

    /// The layout with the usual plans of today, beside its own.
    #[must_use]
    pub fn with_usual_plans(mut self) -> Self {
        let own = |p: &Plan| self.plans.iter().any(|mine| p.at.is_some_and(|at| mine.is_for((p.characteristic, at))));
        let more: Vec<Plan> = Plan::usual().filter(|p| !own(p)).collect();
        self.plans.extend(more);
        self
    }

    /// Number of pins on the crank.
    pub fn pins(&self) -> usize {
        self.crank.bays.iter().map(Vec::len).sum()
    }

    /// Banks of cylinders: as it was said, else two where two rods run side by side on a pin, as in a V; none where the top end
    /// is not built here.
    pub fn banks(&self) -> usize {
        let by_rods = if self.rods_per_pin() == 2 { 2 } else { 1 };
        self.cylinders.as_ref().map_or(0, |c| c.banks.map_or(by_rods, usize::from))
    }

    /// What the walls of the cylinders are made of: iron, unless the block's own metal carries the pistons.
    pub fn wall_material(&self) -> Material {
        match self.cylinders.as_ref().and_then(|c| c.wall) {
            Some(Wall::Bare | Wall::Coated) => self.block,
            Some(Wall::Iron) | None => Material::Iron,
        }
    }

    /// Degrees between the banks; zero where all cylinders stand in one.
    pub fn bank_angle(&self) -> u8 {
        let said = self.cylinders.as_ref().and_then(|c| c.bank_angle);
        if self.banks() > 1 { said.unwrap_or(USUAL_BANK_ANGLE) } else { 0 }
    }

    /// Number of rods.
    pub fn rod_count(&self) -> usize {
        self.rods.as_ref().map_or(0, |r| self.pins() * usize::from(r.per_pin))
    }

    /// Number of cylinders, one for each rod; none where the top end is not built here.
    pub fn cylinder_count(&self) -> usize {
        match (&self.cylinders, &self.rods) {
            (None, _) => 0,
            (Some(_), Some(_)) => self.rod_count(),
            (Some(_), None) => self.pins(),
        }
    }

    /// Rods side by side on one pin; 1 where none are built.
    pub fn rods_per_pin(&self) -> u8 {
        self.rods.as_ref().map_or(1, |r| r.per_pin.max(1))
    }

    /// Tracks of a place that are measured each by itself: one for each rod of a shared pin; 0 where there is only one.
    pub fn tracks(&self, place: Place) -> u8 {
        let shared = self.rods.as_ref().filter(|r| r.tracks && r.per_pin > 1 && place.kind() == PlaceKind::Pin);
        shared.map_or(0, |r| r.per_pin)
    }

    /// The track that a rod runs on, from the front of its pin; `None` where its pin has only one.
    ///
    /// ```
    /// use jagged_pin_core::engine::{Crank, Layout, Place, Rods};
    /// use jagged_pin_core::Length;
    /// use jagged_pin_core::maths::Material;
    ///
    /// let journal = Length::tenths(26_240);
    /// let rods = Rods { per_pin: 2, pin: Length::tenths(21_240), tracks: true, material: Material::Steel, nominals: None };
    /// let v6 = Layout::of_mains(4, Place::main(3), journal, Crank::proportional(4, journal, 1));
    /// let v6 = Layout { rods: Some(rods), ..v6 };
    /// assert_eq!((v6.track_of(Place::rod(3)), v6.track_of(Place::rod(4))), (Some(1), Some(2)));
    /// assert_eq!(v6.track_of(Place::main(1)), None);
    /// ```
    pub fn track_of(&self, bearing: Place) -> Option<u8> {
        let per_pin = self.tracks(self.journal_of(bearing));
        let of_rod = bearing.kind() == PlaceKind::Rod && per_pin > 1;
        let before = bearing.number().saturating_sub(1).checked_rem(per_pin)?;
        of_rod.then(|| before.saturating_add(1))
    }

    /// The nominal of a place that has one of its own: a journal of the cam, a cylinder.
    pub fn own_nominal(&self, place: Place) -> Option<Length> {
        match place.kind() {
            PlaceKind::Cam => self.cam.as_ref()?.journals.get(usize::from(place.number().checked_sub(1)?)).copied(),
            PlaceKind::Cylinder => Some(self.cylinders.as_ref()?.bore),
            _ => None,
        }
    }

    /// Nominal journal of a row.
    pub fn journal(&self, row: BearingRow) -> Length {
        match (row, &self.rods) {
            (BearingRow::Rods, Some(rods)) => rods.pin,
            _ => self.main_journal,
        }
    }

    /// What a window in proportion is reckoned by: the journal of a row, or the bore for whatever runs in a cylinder.
    pub fn shaft_of(&self, figure: Figure, row: BearingRow) -> Length {
        let in_cylinder = figure.row().at.contains(&PlaceKind::Cylinder);
        let bore = self.cylinders.as_ref().filter(|_| in_cylinder).map(|c| c.bore);
        bore.unwrap_or_else(|| self.journal(row))
    }

    /// Housings and shells of a row.
    pub fn nominals(&self, row: BearingRow) -> Option<&Nominals> {
        match row {
            BearingRow::Mains => self.main_nominals.as_ref(),
            BearingRow::Rods => self.rods.as_ref().and_then(|r| r.nominals.as_ref()),
        }
    }

    /// Checks the layout for sense.
    ///
    /// # Errors
    /// [`LayoutError`] names the first thing that cannot be.
    pub fn check(&self) -> Result<(), LayoutError> {
        let (smallest, largest) = JOURNAL_RANGE;
        let c = &self.crank;
        let sizes = [c.main_width, c.pin_diameter, c.pin_width, c.web, c.throw, c.counterweight];
        let journal = |l: Length| (smallest..=largest).contains(&l);
        let misfit = |row: &BearingRow| self.nominals(*row).is_some_and(|f| !f.goes_round(self.journal(*row)));
        if !(2..=MOST_MAINS).contains(&self.mains) {
            Err(LayoutError::Mains)
        } else if self.thrust.kind() != PlaceKind::Main || self.thrust.number() > self.mains {
            Err(LayoutError::Thrust)
        } else if !journal(self.main_journal) {
            Err(LayoutError::Journal)
        } else if c.bays.len() + 1 != usize::from(self.mains)
            || c.bays.iter().any(|pins| pins.len() > 4 || (pins.is_empty() && !self.rollers))
            || self.pins() == 0
            || sizes.iter().any(|s| *s <= Length::ZERO || *s > largest)
        {
            Err(LayoutError::Crank)
        } else if self.rods.as_ref().is_some_and(|r| !(1..=4).contains(&r.per_pin) || !journal(r.pin)) {
            Err(LayoutError::Rods)
        } else if self.cam.as_ref().is_some_and(|c| !c.is_sound()) {
            Err(LayoutError::Cam)
        } else if self.cylinders.as_ref().is_some_and(|c| !c.is_sound()) {
            Err(LayoutError::Cylinders)
        } else if self.cylinders.as_ref().and_then(|c| c.bank_angle).is_some_and(|a| !BANK_ANGLES.contains(&a)) {
            Err(LayoutError::BankAngle)
        } else if let Some(row) = BearingRow::ALL.into_iter().find(misfit) {
            Err(LayoutError::Nominals(row))
        } else if !self.plans.iter().all(|p| p.check().is_ok()) {
            Err(LayoutError::Plan)
        } else {
            Ok(())
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn layout(mains: u8, thrust: u8) -> Option<Layout> {
        let main_journal = Length::tenths(26_240);
        let crank = Crank::proportional(mains, main_journal, 1);
        Some(Layout::of_mains(mains, Place::main(thrust), main_journal, crank))
    }

    #[test]
    fn two_rods_to_a_pin_are_counted_along_the_pins() {
        let rods =
            Rods { per_pin: 2, pin: Length::tenths(21_240), tracks: false, material: Material::Steel, nominals: None };
        let v6 = layout(4, 3).map(|l| Layout { rods: Some(rods), ..l });
        let names: Vec<String> = v6.iter().flat_map(Layout::places).map(|s| s.to_string()).collect();
        assert_eq!(
            names.join(" "),
            "M1 M2 M3 M4 P1 P2 P3 R1 R2 R3 R4 R5 R6 E S1 S2 S3 FM1 FM2 FM3 FM4 FP1 FP2 FP3 K1 K2 OP"
        );
        assert_eq!(v6.as_ref().map(|l| l.journal_of(Place::rod(4))), Some(Place::pin(2)));
        assert_eq!(v6.map(|l| l.bearing_on(Place::pin(3))), Some(Place::rod(5)));
    }

    #[test]
    fn shells_that_do_not_go_round_the_journal_are_refused() {
        let t = Length::tenths;
        let fit = |housing, wall| Nominals {
            housing: t(housing),
            housing_tolerance: t(5),
            wall: t(wall),
            wall_tolerance: t(3),
            undersizes: usual_undersizes(crate::units::Unit::Inch),
        };
        let with = |fit| layout(7, 4).map(|l| Layout { main_nominals: Some(fit), ..l }.check());
        assert_eq!(with(fit(28_150, 943)), Some(Ok(())));
        assert_eq!(with(fit(28_150, 94)), Some(Err(LayoutError::Nominals(BearingRow::Mains))));
        assert_eq!(
            with(Nominals { undersizes: vec![t(100)], ..fit(28_150, 943) }),
            Some(Err(LayoutError::Nominals(BearingRow::Mains)))
        );
    }

    #[test]
    fn a_six_has_a_pin_between_each_two_of_its_seven_mains() {
        let six = layout(7, 4);
        assert_eq!(six.as_ref().map(Layout::check), Some(Ok(())));
        assert_eq!(six.map(|l| l.crank.bays.concat()), Some(vec![0, 120, 240, 240, 120, 0]));
        assert_eq!(Crank::proportional(3, Length::tenths(20_000), 2).bays, [[0, 180], [180, 0]]);
    }

    #[test]
    fn halves_of_a_built_up_crank_may_stand_apart() {
        let twin = layout(4, 2).map(|l| {
            let bays = vec![vec![0], Vec::new(), vec![180]];
            Layout { crank: Crank { bays, ..l.crank.clone() }, ..l }
        });
        let rollers = twin.clone().map(|l| Layout { rollers: true, ..l });
        assert_eq!(rollers.as_ref().map(|l| (l.check(), l.pins())), Some((Ok(()), 2)));
        assert_eq!(
            twin.map(|l| l.check()),
            Some(Err(LayoutError::Crank)),
            "a crank of one piece has a pin in every bay"
        );
        let none = rollers.map(|l| Layout { crank: Crank { bays: vec![Vec::new(); 3], ..l.crank.clone() }, ..l });
        assert_eq!(none.map(|l| l.check()), Some(Err(LayoutError::Crank)));
    }

    #[test]
    fn a_layout_that_cannot_be_is_refused() {
        let check = |l: Option<Layout>| l.map(|l| l.check());
        assert_eq!(check(layout(1, 1)), Some(Err(LayoutError::Mains)));
        assert_eq!(check(layout(5, 6)), Some(Err(LayoutError::Thrust)));
        let small = layout(5, 3).map(|l| Layout { main_journal: Length::tenths(67), ..l });
        assert_eq!(check(small), Some(Err(LayoutError::Journal)));
        let odd = layout(5, 3).map(|l| Layout { crank: Crank::proportional(4, l.main_journal, 1), ..l });
        assert_eq!(check(odd), Some(Err(LayoutError::Crank)));
    }
}
