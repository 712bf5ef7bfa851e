//! The shop's shell families and what lies on their shelves: looked at, edited, received, picked and counted anew.

use axum::Json;
use axum::extract::{Path, State};
use jagged_pin_core::fact::{Person, Timestamp};
use jagged_pin_core::part_number::{Conflict, Decoded, Means, ShellTrait, Suffix, conflicts, decode};
use jagged_pin_core::shell::{Half, MoveKind, Offer, OnShelf, ShellClass, ShellFamily};
use jagged_pin_core::station::BearingRow;
use jagged_pin_core::{Length, Unit, money};
use jagged_pin_store::{KnownFamily, MoveOutcome, Moved, ShelfMove};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::builds::{length, typed};
use crate::auth::Who;
use crate::clock;
use crate::extract::Body;
use crate::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// Changes of a shelf that are told.
const TOLD: i64 = 50;
/// Longest reason.
const LONGEST_REASON: usize = 400;
/// Longest list of a family: classes, undersizes, sets, letters.
const LONGEST_LIST: usize = 60;

/// A family with what lies on its shelf.
#[derive(Serialize, ToSchema)]
pub(super) struct FamilyView {
    /// The family.
    family: ShellFamily,
    /// The version that a change of it has to name.
    version: i32,
    /// The family as it would be typed.
    form: FamilyForm,
    /// Its halves on the shelf.
    shelf: Vec<OnShelf>,
}

/// A change of a shelf, as it was done.
#[derive(Serialize, ToSchema)]
pub(super) struct MoveView {
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
    /// Why.
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

async fn view(state: &AppState, known: KnownFamily) -> Result<FamilyView, Problem> {
    let shelf = state.store.shelf(&known.family.id).await?;
    let form = FamilyForm::of(&known);
    Ok(FamilyView { family: known.family, version: known.version, form, shelf })
}

/// Every family of the shop and its shelf.
#[utoipa::path(get, path = "/api/v1/shells",
    responses((status = 200, body = Vec<FamilyView>), (status = 401, body = ProblemBody)))]
pub(super) async fn shells(State(state): State<AppState>, _: Who) -> Result<Json<Vec<FamilyView>>, Problem> {
    let mut all = Vec::new();
    for known in state.store.shell_families().await? {
        all.push(view(&state, known).await?);
    }
    Ok(Json(all))
}

/// The family of that short name.
pub(super) async fn known_family(state: &AppState, id: &str) -> Result<KnownFamily, Problem> {
    let all = state.store.shell_families().await?;
    all.into_iter().find(|f| f.family.id == id).ok_or(Problem::NoSuchFamily)
}

/// The last changes of a family's shelf, the latest first.
#[utoipa::path(get, path = "/api/v1/shells/{family}/moves",
    params(("family" = String, Path, description = "Short name of the family")),
    responses((status = 200, body = Vec<MoveView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn shelf_history(
    State(state): State<AppState>,
    _: Who,
    Path(family): Path<String>,
) -> Result<Json<Vec<MoveView>>, Problem> {
    known_family(&state, &family).await?;
    Ok(Json(state.store.shell_moves(&family, TOLD).await?.into_iter().map(MoveView::from).collect()))
}

/// A change of a shelf.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewMove {
    /// Made by the client: sending it twice does it once.
    id: Uuid,
    /// Which half.
    half: Half,
    /// Which class.
    class: String,
    /// Which undersize, in nanometres.
    undersize: Length,
    /// What was done.
    kind: MoveKind,
    /// By how many: received ones are more than none, picked ones less.
    by: i32,
    /// Why.
    reason: String,
}

fn reason(text: &str) -> Result<String, Problem> {
    let reason = text.trim().to_owned();
    let fits = !reason.is_empty() && reason.chars().count() <= LONGEST_REASON;
    if fits { Ok(reason) } else { Err(Problem::field("reason", "say why, in a few words")) }
}

/// Receives, picks or corrects halves. A shelf never goes below empty: what is not there is refused with what is
/// left.
#[utoipa::path(post, path = "/api/v1/shells/{family}/moves", request_body = NewMove,
    params(("family" = String, Path, description = "Short name of the family")),
    responses((status = 200, body = FamilyView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn move_shells(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(request): Body<NewMove>,
) -> Result<Json<FamilyView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let known = known_family(&state, &id).await?;
    let reason = reason(&request.reason)?;
    if !known.family.has(request.half, &request.class, request.undersize) {
        return Err(Problem::field("class", "this family has no such half"));
    }
    if !request.kind.goes(request.by) {
        return Err(Problem::field("by", "received is more than none, picked is less, corrected is either"));
    }
    let change = ShelfMove {
        id: request.id,
        family: known.family.id.clone(),
        half: request.half,
        class: request.class,
        undersize: request.undersize,
        kind: request.kind,
        by: request.by,
        reason,
        who: who.account.person,
        at: clock::now(),
    };
    match state.store.move_shells(&change).await? {
        MoveOutcome::Done(_) => Ok(Json(view(&state, known).await?)),
        MoveOutcome::NotThere(left) => Err(Problem::ShelfEmpty { left }),
    }
}

/// Sets that came in.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewSets {
    /// Made by the client: sending it twice does it once.
    id: Uuid,
    /// Part number of the set.
    part_number: String,
    /// How many sets.
    sets: u16,
    /// Why: the order, the delivery note.
    reason: String,
}

/// Receives whole sets: every half of them goes on the shelf.
#[utoipa::path(post, path = "/api/v1/shells/{family}/sets", request_body = NewSets,
    params(("family" = String, Path, description = "Short name of the family")),
    responses((status = 200, body = FamilyView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn receive_sets(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(request): Body<NewSets>,
) -> Result<Json<FamilyView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let known = known_family(&state, &id).await?;
    let offer = known.family.offers.iter().find(|o| o.part_number == request.part_number);
    let offer = offer.ok_or_else(|| Problem::field("part_number", "the shop buys no set of that number"))?;
    if !(1..=50).contains(&request.sets) {
        return Err(Problem::field("sets", "one to fifty sets at a time"));
    }
    let reason = format!("{} x {}: {}", request.sets, offer.part_number, reason(&request.reason)?);
    let pairs = i32::from(offer.pairs) * i32::from(request.sets);
    let halves = known.family.halves();
    let each = if halves.len() == 1 { 2 * pairs } else { pairs };
    let part = |(n, half): (u128, &Half)| ShelfMove {
        // One identifier for each half of the delivery, the same however often it is sent.
        id: Uuid::from_u128(request.id.as_u128().wrapping_add(n)),
        family: known.family.id.clone(),
        half: *half,
        class: offer.class.clone(),
        undersize: offer.undersize,
        kind: MoveKind::Received,
        by: each,
        reason: reason.clone(),
        who: who.account.person.clone(),
        at: clock::now(),
    };
    let moves: Vec<ShelfMove> = (0..).zip(halves).map(part).collect();
    state.store.move_all(&moves).await?;
    Ok(Json(view(&state, known).await?))
}

/// Where a kind of half lies.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewPlace {
    /// Which half.
    half: Half,
    /// Which class.
    class: String,
    /// Which undersize, in nanometres.
    undersize: Length,
    /// The place on the shelf.
    place: String,
}

/// Says where a kind of half lies.
#[utoipa::path(put, path = "/api/v1/shells/{family}/places", request_body = NewPlace,
    params(("family" = String, Path, description = "Short name of the family")),
    responses((status = 200, body = FamilyView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn put_place(
    State(state): State<AppState>,
    who: Who,
    Path(id): Path<String>,
    Body(request): Body<NewPlace>,
) -> Result<Json<FamilyView>, Problem> {
    who.must(|c| c.measure, "somebody who may measure")?;
    let known = known_family(&state, &id).await?;
    let NewPlace { half, class, undersize, place } = request;
    if !known.family.has(half, &class, undersize) {
        return Err(Problem::field("class", "this family has no such half"));
    }
    let place = place.trim().to_owned();
    if place.chars().count() > 20 {
        return Err(Problem::field("place", "a place on the shelf has at most 20 characters"));
    }
    state.store.put_place(&known.family.id, &OnShelf { half, class, undersize, count: 0, place }).await?;
    Ok(Json(view(&state, known).await?))
}

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
    fn of(known: &KnownFamily) -> Self {
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
    Ok(Json(view(&state, known_family(&state, &id).await?).await?))
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
