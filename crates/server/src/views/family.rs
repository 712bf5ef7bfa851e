//! A shell family with its shelf, and the form it is edited by.
use jagged_pin_core::engine::BearingRow;
use jagged_pin_core::shells::{
    Half, MoveKind, Offer, OnShelf, ShellClass, ShellFamily, ShellTrait, Suffix, SuffixMeaning,
};
use jagged_pin_core::units::{Person, Timestamp, parse_money, show_money};
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::{KnownFamily, Moved};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{length, typed};
use crate::http::problem::Problem;
use crate::state::AppState;

/// A family with what lies on its shelf.
#[derive(Serialize, ToSchema)]
pub(crate) struct FamilyView {
    /// The family.
    family: ShellFamily,
    /// The version that a change of it has to name.
    pub(crate) version: i32,
    /// The family as it would be typed.
    form: FamilyForm,
    /// Its halves on the shelf.
    shelf: Vec<OnShelf>,
}

/// A change of a shelf, as it was done.
#[derive(Serialize, ToSchema)]
pub(crate) struct MoveView {
    /// Identifier.
    id: Uuid,
    /// Which half.
    half: Half,
    /// Which class.
    class: String,
    /// Which undersize.
    undersize: Length,
    /// What was done.
    kind: MoveKind,
    /// By how many.
    by: i32,
    /// How many were left.
    left: u16,
    /// Why, in the words of whoever decided it.
    reason: String,
    /// Who did it.
    who: Person,
    /// When.
    at: Timestamp,
}

impl From<Moved> for MoveView {
    fn from(moved: Moved) -> Self {
        let Moved { done: d, left } = moved;
        MoveView {
            id: d.id,
            half: d.half,
            class: d.class,
            undersize: d.undersize,
            kind: d.kind,
            by: d.by,
            left,
            reason: d.reason,
            who: d.who,
            at: d.at,
        }
    }
}

pub(crate) async fn family_view(state: &AppState, known: KnownFamily) -> Result<FamilyView, Problem> {
    let shelf = state.store.shelf(&known.family.id).await?;
    let form = FamilyForm::of(&known);
    Ok(FamilyView { family: known.family, version: known.version, form, shelf })
}

/// The family of that short name.
pub(crate) async fn known_family(state: &AppState, id: &str) -> Result<KnownFamily, Problem> {
    let all = state.store.shell_families().await?;
    all.into_iter().find(|f| f.family.id == id).ok_or(Problem::NoSuchFamily)
}

/// Longest list of a family: classes, undersizes, sets, letters.
const LONGEST_LIST: usize = 60;

/// A family as it is typed. Lengths are texts, in `unit` unless they bring their own.
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct FamilyForm {
    /// The version it was seen at; 0 for a new one.
    pub(crate) version: i32,
    /// Stable short name.
    id: String,
    /// Name people read.
    name: String,
    /// Unit of its sizes.
    unit: Unit,
    /// The bearings it is for.
    row: BearingRow,
    /// Nominal journal.
    journal: String,
    /// Nominal housing.
    housing: String,
    /// Catalogue maximum of a standard wall.
    wall: String,
    /// How much less it may be.
    wall_tolerance: String,
    /// How far a half may lie from its class.
    grading: String,
    /// What a coating on both halves changes; empty where it comes uncoated.
    coating: String,
    /// Whether upper and lower are one part.
    alike: bool,
    /// What every half must have.
    needs: Vec<ShellTrait>,
    /// How its part numbers begin.
    base: String,
    /// Undersizes, standard (0) first.
    undersizes: Vec<String>,
    /// Classes.
    classes: Vec<ClassForm>,
    /// Sets to buy.
    offers: Vec<OfferForm>,
    /// What the letters mean.
    suffixes: Vec<SuffixForm>,
}

/// A class as it is typed.
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct ClassForm {
    id: String,
    shift: String,
}

/// A set as it is typed.
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct OfferForm {
    part_number: String,
    class: String,
    undersize: String,
    pairs: u16,
    /// The one half that is in it; absent where it holds whole pairs.
    #[serde(default)]
    only: Option<Half>,
    price: String,
}

/// What letters of a part number mean.
#[derive(Debug, Clone, Copy, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum MeansKind {
    Material,
    Coated,
    Narrowed,
    Dowel,
    Grooved,
    Class,
    Undersize,
}

/// Letters as they are typed.
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct SuffixForm {
    letters: String,
    means: MeansKind,
    /// The material, the class or the undersize; empty for the others.
    text: String,
}

impl FamilyForm {
    pub(crate) fn of(known: &KnownFamily) -> Self {
        let f = &known.family;
        let text = |l: Length| typed(l, f.unit);
        let suffix = |s: &Suffix| {
            let (means, said) = match &s.means {
                SuffixMeaning::Material { name } => (MeansKind::Material, name.clone()),
                SuffixMeaning::Coated => (MeansKind::Coated, String::new()),
                SuffixMeaning::Narrowed => (MeansKind::Narrowed, String::new()),
                SuffixMeaning::Dowel => (MeansKind::Dowel, String::new()),
                SuffixMeaning::Grooved => (MeansKind::Grooved, String::new()),
                SuffixMeaning::Class { id } => (MeansKind::Class, id.clone()),
                SuffixMeaning::Undersize { undersize } => (MeansKind::Undersize, text(*undersize)),
            };
            SuffixForm { letters: s.letters.clone(), means, text: said }
        };
        let offer = |o: &Offer| OfferForm {
            part_number: o.part_number.clone(),
            class: o.class.clone(),
            undersize: text(o.undersize),
            pairs: o.pairs,
            only: o.only,
            price: show_money(o.price),
        };
        FamilyForm {
            version: known.version,
            id: f.id.clone(),
            name: f.name.clone(),
            unit: f.unit,
            row: f.row,
            journal: text(f.journal),
            housing: text(f.housing),
            wall: text(f.wall),
            wall_tolerance: text(f.wall_tolerance),
            grading: text(f.grading),
            coating: if f.coating == Length::ZERO { String::new() } else { text(f.coating) },
            alike: f.alike,
            needs: f.needs.clone(),
            base: f.base.clone(),
            undersizes: f.undersizes.iter().map(|u| text(*u)).collect(),
            classes: f.classes.iter().map(|c| ClassForm { id: c.id.clone(), shift: text(c.shift) }).collect(),
            offers: f.offers.iter().map(offer).collect(),
            suffixes: f.suffixes.iter().map(suffix).collect(),
        }
    }

    pub(crate) fn family(self) -> Result<ShellFamily, Problem> {
        let unit = self.unit;
        let lists = [self.undersizes.len(), self.classes.len(), self.offers.len(), self.suffixes.len()];
        if lists.into_iter().any(|n| n > LONGEST_LIST) {
            return Err(Problem::field("classes", "at most sixty of a kind"));
        }
        let class = |c: ClassForm| -> Result<ShellClass, Problem> {
            Ok(ShellClass { id: c.id.trim().to_owned(), shift: length(&c.shift, unit, "classes")? })
        };
        let offer = |o: OfferForm| -> Result<Offer, Problem> {
            let price =
                parse_money(&o.price).ok_or_else(|| Problem::field("offers", "a price is a number like 149.80"))?;
            let undersize = length(&o.undersize, unit, "offers")?;
            Ok(Offer {
                part_number: o.part_number.trim().to_owned(),
                class: o.class,
                undersize,
                pairs: o.pairs,
                price,
                only: o.only,
            })
        };
        let suffix = |s: SuffixForm| -> Result<Suffix, Problem> {
            let text = s.text.trim().to_owned();
            let means = match s.means {
                MeansKind::Material => SuffixMeaning::Material { name: text },
                MeansKind::Coated => SuffixMeaning::Coated,
                MeansKind::Narrowed => SuffixMeaning::Narrowed,
                MeansKind::Dowel => SuffixMeaning::Dowel,
                MeansKind::Grooved => SuffixMeaning::Grooved,
                MeansKind::Class => SuffixMeaning::Class { id: text },
                MeansKind::Undersize => SuffixMeaning::Undersize { undersize: length(&text, unit, "suffixes")? },
            };
            Ok(Suffix { letters: s.letters.trim().to_owned(), means })
        };
        let mut classes = self.classes.into_iter().map(class).collect::<Result<Vec<_>, _>>()?;
        classes.sort_by_key(|c| c.shift);
        Ok(ShellFamily {
            id: self.id.trim().to_owned(),
            name: self.name.trim().to_owned(),
            unit,
            row: self.row,
            journal: length(&self.journal, unit, "journal")?,
            housing: length(&self.housing, unit, "housing")?,
            wall: length(&self.wall, unit, "wall")?,
            wall_tolerance: length(&self.wall_tolerance, unit, "wall_tolerance")?,
            grading: length(&self.grading, unit, "grading")?,
            coating: match self.coating.trim() {
                "" => Length::ZERO,
                text => length(text, unit, "coating")?,
            },
            alike: self.alike,
            needs: self.needs,
            base: self.base.trim().to_owned(),
            classes,
            undersizes: self.undersizes.iter().map(|u| length(u, unit, "undersizes")).collect::<Result<_, _>>()?,
            offers: self.offers.into_iter().map(offer).collect::<Result<_, _>>()?,
            suffixes: self.suffixes.into_iter().map(suffix).collect::<Result<_, _>>()?,
        })
    }
}
