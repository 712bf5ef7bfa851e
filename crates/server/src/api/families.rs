//! Families of shells as they are typed and changed, and part numbers read by their tables.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::Length;
use jagged_pin_core::shells::{DecodedNumber, NumberConflict, ShellFamily, decode_part_number, number_conflicts};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::family::{FamilyForm, FamilyView, family_view, known_family};

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
    decoded: DecodedNumber,
    /// What does not go together.
    conflicts: Vec<NumberConflict>,
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
    let read = families.iter().find_map(|f| Some((f, decode_part_number(&ask.number, &f.base, &f.suffixes)?)));
    let (family, decoded) =
        read.ok_or_else(|| Problem::field("number", "no family of the shop has numbers that begin like that"))?;
    let measured = if ask.mixed { Some(None) } else { ask.measured.map(Some) };
    let conflicts = number_conflicts(&decoded, &family.needs, measured);
    Ok(Json(NumberView { family: family.id.clone(), name: family.name.clone(), decoded, conflicts }))
}
