//! Families of shells as they are typed and changed, and part numbers read by their tables.

use axum::Json;
use axum::extract::{Path, State};
use jagged_pin_core::part_number::{Conflict, Decoded, Means, ShellTrait, Suffix, conflicts, decode};
use jagged_pin_core::shell::{Offer, ShellClass, ShellFamily};
use jagged_pin_core::station::BearingRow;
use jagged_pin_core::{Length, Unit, money};
use jagged_pin_store::KnownFamily;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::builds::{length, typed};
use super::shelf::{FamilyView, family_view, known_family};
use crate::auth::Who;
use crate::extract::Body;
use crate::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// Longest list of a family: classes, undersizes, sets, letters.
const LONGEST_LIST: usize = 60;

/// A family as it is typed. Lengths are texts, in `unit` unless they bring their own.
#[derive(Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct FamilyForm {
    /// The version it was seen at; 0 for a new one.
    version: i32,
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
    pub(super) fn of(known: &KnownFamily) -> Self {
        let f = &known.family;
        let text = |l: Length| typed(l, f.unit);
        let suffix = |s: &Suffix| {
            let (means, said) = match &s.means {
                Means::Material { name } => (MeansKind::Material, name.clone()),
                Means::Coated => (MeansKind::Coated, String::new()),
                Means::Narrowed => (MeansKind::Narrowed, String::new()),
                Means::Dowel => (MeansKind::Dowel, String::new()),
                Means::Grooved => (MeansKind::Grooved, String::new()),
                Means::Class { id } => (MeansKind::Class, id.clone()),
                Means::Undersize { undersize } => (MeansKind::Undersize, text(*undersize)),
            };
            SuffixForm { letters: s.letters.clone(), means, text: said }
        };
        let offer = |o: &Offer| OfferForm {
            part_number: o.part_number.clone(),
            class: o.class.clone(),
            undersize: text(o.undersize),
            pairs: o.pairs,
            price: money::show(o.price),
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

    fn family(self) -> Result<ShellFamily, Problem> {
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
                money::parse(&o.price).ok_or_else(|| Problem::field("offers", "a price is a number like 149.80"))?;
            let undersize = length(&o.undersize, unit, "offers")?;
            Ok(Offer { part_number: o.part_number.trim().to_owned(), class: o.class, undersize, pairs: o.pairs, price })
        };
        let suffix = |s: SuffixForm| -> Result<Suffix, Problem> {
            let text = s.text.trim().to_owned();
            let means = match s.means {
                MeansKind::Material => Means::Material { name: text },
                MeansKind::Coated => Means::Coated,
                MeansKind::Narrowed => Means::Narrowed,
                MeansKind::Dowel => Means::Dowel,
                MeansKind::Grooved => Means::Grooved,
                MeansKind::Class => Means::Class { id: text },
                MeansKind::Undersize => Means::Undersize { undersize: length(&text, unit, "suffixes")? },
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

/// Opens a new family, or changes one; refused when somebody changed it meanwhile.
#[utoipa::path(put, path = "/api/v1/shells/{family}", request_body = FamilyForm,
    params(("family" = String, Path, description = "Short name of the family")),
    responses((status = 200, body = FamilyView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn put_family(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(form): Body<FamilyForm>,
) -> Result<Json<FamilyView>, Problem> {
    who.must(|c| c.set_targets, "an assembler or the lead")?;
    let version = form.version;
    let family = form.family()?;
    let plain = |c: char| c.is_ascii_alphanumeric() || c == '-';
    if family.id != id || family.id.is_empty() || family.id.len() > 40 || !family.id.chars().all(plain) {
        return Err(Problem::field("id", "a short name of letters, digits and hyphens"));
    }
    if !family.is_sound() {
        let why = "it needs a name, sizes that go round each other, one class without a shift, and sets of classes \
                   and undersizes it has";
        return Err(Problem::field("family", why));
    }
    for on in state.store.shelf(&family.id).await?.iter().filter(|on| on.count > 0) {
        if !family.has(on.half, &on.class, on.undersize) {
            let what = format!("{} halves of class {} lie on the shelf: count them out first", on.count, on.class);
            return Err(Problem::field("classes", what));
        }
    }
    if !state.store.put_family(version, &family).await? {
        return Err(Problem::ChangedMeanwhile);
    }
    Ok(Json(family_view(&state, known_family(&state, &id).await?).await?))
}

/// A part number to be read.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct AskNumber {
    /// As typed.
    number: String,
    /// The undersize that the crank measures as, in nanometres, where that is known.
    measured: Option<Length>,
    /// Whether the journals belong to several undersizes or to none.
    #[serde(default)]
    mixed: bool,
}

/// A part number that was read.
#[derive(Serialize, ToSchema)]
pub(super) struct NumberView {
    /// The family whose numbers begin so.
    family: String,
    /// The family's name.
    name: String,
    /// Group by group.
    decoded: Decoded,
    /// What does not go together.
    conflicts: Vec<Conflict>,
}

/// Reads a part number by the shop's table, and says what does not go together.
#[utoipa::path(post, path = "/api/v1/shells/read-number", request_body = AskNumber,
    responses((status = 200, body = NumberView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn read_number(
    State(state): State<AppState>,
    _: Who,
    Body(ask): Body<AskNumber>,
) -> Result<Json<NumberView>, Problem> {
    if ask.number.chars().count() > 60 {
        return Err(Problem::field("number", "a part number has at most 60 characters"));
    }
    let mut families: Vec<ShellFamily> = state.store.shell_families().await?.into_iter().map(|k| k.family).collect();
    // A longer base is the nearer one.
    families.sort_by_key(|f| std::cmp::Reverse(f.base.len()));
    let read = families.iter().find_map(|f| Some((f, decode(&ask.number, &f.base, &f.suffixes)?)));
    let (family, decoded) =
        read.ok_or_else(|| Problem::field("number", "no family of the shop has numbers that begin like that"))?;
    let measured = if ask.mixed { Some(None) } else { ask.measured.map(Some) };
    let conflicts = conflicts(&decoded, &family.needs, measured);
    Ok(Json(NumberView { family: family.id.clone(), name: family.name.clone(), decoded, conflicts }))
}
