//! What the shop decides for itself: what each role allows, and the windows its targets start from.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::engine::{Figure, PlaceKind, PresetLimits, ShopPreset};
use jagged_pin_core::maths::parse_proportion;
use jagged_pin_core::record::Capabilities;
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::{PeopleOutcome, Role, ShopNote};
use serde::{Deserialize, Serialize};
use serde_json::json;
use utoipa::{IntoParams, ToSchema};

use crate::clock;
use crate::http::answers::{length, typed};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;

/// Whom somebody asks who may not change the shop.
const WHO_RUNS: &str = "the lead";

/// A role and what it allows.
#[derive(Serialize, ToSchema)]
pub(super) struct RoleView {
    /// Its name.
    name: String,
    /// What it allows.
    capabilities: Capabilities,
    /// Counts its changes.
    version: u32,
    /// Who has it.
    people: Vec<String>,
}

async fn roles_of(state: &AppState) -> Result<Vec<RoleView>, Problem> {
    let accounts = state.store.accounts().await?;
    let view = |role: Role| {
        let people = accounts.iter().filter(|a| a.role == role.name).map(|a| a.person.name.clone()).collect();
        RoleView { name: role.name, capabilities: role.capabilities, version: role.version, people }
    };
    Ok(state.store.roles().await?.into_iter().map(view).collect())
}

/// The roles of the shop and what each allows.
#[utoipa::path(get, path = "/api/v1/roles",
    responses((status = 200, body = Vec<RoleView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn roles(State(state): State<AppState>, _: Who) -> Result<Json<Vec<RoleView>>, Problem> {
    Ok(Json(roles_of(&state).await?))
}

/// What a role allows from now on.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewRole {
    /// What it allows.
    capabilities: Capabilities,
    /// The version that was looked at.
    version: u32,
}

/// Changes what a role allows.
#[utoipa::path(put, path = "/api/v1/roles/{role}", request_body = NewRole,
    params(("role" = String, Path, description = "Name of the role")),
    responses((status = 200, body = Vec<RoleView>), (status = "4XX", body = ProblemBody)))]
pub(super) async fn put_role(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewRole>,
) -> Result<Json<Vec<RoleView>>, Problem> {
    who.must(|c| c.run_shop, WHO_RUNS)?;
    let NewRole { capabilities, version } = request;
    // Whoever runs the shop cannot lock themselves out of it.
    if name == who.account.role && !capabilities.run_shop {
        return Err(Problem::field("capabilities", "your own role must go on running the shop"));
    }
    let detail = json!({ "role": name, "now": capabilities });
    let note = ShopNote { by: Some(who.account.person), at: clock::now(), kind: "role_changed", detail };
    match state.store.put_role(&Role { name, capabilities, version }, &note).await? {
        PeopleOutcome::Done => {}
        PeopleOutcome::NobodyLeft => {
            return Err(Problem::field("capabilities", "nobody would be left who runs the shop"));
        }
        PeopleOutcome::Changed | PeopleOutcome::LoginTaken => return Err(Problem::ChangedMeanwhile),
    }
    Ok(Json(roles_of(&state).await?))
}

/// For which shafts the windows are wanted.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct Shafts {
    /// Unit of bare figures, and of the texts in the answer.
    unit: Unit,
    /// The main journal as typed.
    #[serde(default)]
    main_journal: String,
    /// The pin as typed.
    #[serde(default)]
    pin: String,
    /// The bore as typed, for what runs in a cylinder.
    #[serde(default)]
    bore: String,
}

/// The windows the shop starts from.
#[derive(Serialize, ToSchema)]
pub(super) struct PresetsView {
    /// Counts their changes.
    version: u32,
    /// Each of them.
    presets: Vec<PresetView>,
}

/// One of them.
#[derive(Serialize, ToSchema)]
struct PresetView {
    /// What it is a window of.
    figure: Figure,
    /// The kind of place it is for.
    at: PlaceKind,
    /// What it is for.
    name: String,
    /// Whether it is in proportion to the shaft.
    per_shaft: bool,
    /// As it is stated: lengths, or parts of the shaft.
    low: String,
    /// The aim; empty where it is the middle.
    aim: String,
    /// Upper limit.
    high: String,
    /// Low, aim and high as they would be typed; absent where the shaft is not known.
    window: Option<[String; 3]>,
}

fn preset_view(p: ShopPreset, shaft: Option<Length>, unit: Unit) -> PresetView {
    let fixed = matches!(p.limits, PresetLimits::Fixed { .. });
    let texts = |shaft: Length| {
        let window = p.window(shaft, unit == Unit::Mm);
        [window.low, window.aim, window.high].map(|l| typed(l, unit))
    };
    let window = if fixed { Some(texts(Length::ZERO)) } else { shaft.map(texts) };
    let proportion = |millionths: u32| format!("0.{millionths:06}").trim_end_matches('0').to_owned();
    let [low, aim, high] = match p.limits {
        PresetLimits::Fixed { low, aim, high } => [low, aim, high].map(|l| typed(l, unit)),
        PresetLimits::PerShaft { low, aim, high } => {
            [proportion(low), aim.map(proportion).unwrap_or_default(), proportion(high)]
        }
    };
    PresetView { figure: p.figure, at: p.at, name: p.name, per_shaft: !fixed, low, aim, high, window }
}

async fn presets_of(state: &AppState, shafts: &Shafts) -> Result<PresetsView, Problem> {
    let (presets, version) = state.store.presets().await?;
    // Half a figure that is still being typed is no shaft.
    let shaft = |text: &str| length(text, shafts.unit, "shaft").ok().filter(|l| *l > Length::ZERO);
    let (main, pin, bore) = (shaft(&shafts.main_journal), shaft(&shafts.pin), shaft(&shafts.bore));
    let view = |p: ShopPreset| {
        let shaft = match p.at {
            PlaceKind::Main => main,
            PlaceKind::Cylinder => bore,
            _ => pin,
        };
        preset_view(p, shaft, shafts.unit)
    };
    Ok(PresetsView { version, presets: presets.into_iter().map(view).collect() })
}

/// The windows the shop starts its targets from, worked out for the shafts that are named. The maker's sheet wins.
#[utoipa::path(get, path = "/api/v1/presets", params(Shafts),
    responses((status = 200, body = PresetsView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn presets(
    State(state): State<AppState>,
    _: Who,
    Query(shafts): Query<Shafts>,
) -> Result<Json<PresetsView>, Problem> {
    Ok(Json(presets_of(&state, &shafts).await?))
}

/// The windows the shop starts from, as somebody wants them.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewPresets {
    /// Unit of bare figures.
    unit: Unit,
    /// The version that was looked at.
    version: u32,
    /// Each of them.
    presets: Vec<NewPreset>,
}

/// One of them as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct NewPreset {
    /// What it is a window of.
    figure: Figure,
    /// The kind of place it is for.
    at: PlaceKind,
    /// What it is for.
    name: String,
    /// Whether it is in proportion to the shaft.
    per_shaft: bool,
    /// Lower limit: a length, or a part of the shaft.
    low: String,
    /// The aim; the middle when empty.
    aim: String,
    /// Upper limit.
    high: String,
}

impl NewPreset {
    fn read(&self, line: usize, unit: Unit) -> Result<ShopPreset, Problem> {
        let at = |field: &str| format!("presets.{line}.{field}");
        let wrong = |field: &str, why: &str| Problem::field(at(field), why.to_owned());
        let limits = if self.per_shaft {
            let part = |text: &str, field: &str| {
                let part = parse_proportion(text).and_then(|p| u32::try_from(p).ok());
                part.ok_or_else(|| wrong(field, "a part of the shaft such as 0.00095"))
            };
            let said = Some(&self.aim).filter(|aim| !aim.trim().is_empty());
            PresetLimits::PerShaft {
                low: part(&self.low, "low")?,
                aim: said.map(|aim| part(aim, "aim")).transpose()?,
                high: part(&self.high, "high")?,
            }
        } else {
            let size = |text: &str, field: &str| length(text, unit, "length").map_err(|e| wrong(field, &e.to_string()));
            let (low, high) = (size(&self.low, "low")?, size(&self.high, "high")?);
            let middle = Length::mean(&[low, high]).unwrap_or(low);
            let aim = if self.aim.trim().is_empty() { middle } else { size(&self.aim, "aim")? };
            PresetLimits::Fixed { low, aim, high }
        };
        let preset = ShopPreset { figure: self.figure, at: self.at, name: self.name.trim().to_owned(), limits };
        preset.check().map_err(|flaw| wrong(flaw.part, &flaw.to_string()))?;
        Ok(preset)
    }
}

/// Most windows a shop keeps.
const MOST_PRESETS: usize = 200;

/// Changes the windows the shop starts from.
#[utoipa::path(put, path = "/api/v1/presets", request_body = NewPresets,
    responses((status = 200, body = PresetsView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn put_presets(
    State(state): State<AppState>,
    who: Who,
    Body(request): Body<NewPresets>,
) -> Result<Json<PresetsView>, Problem> {
    who.must(|c| c.run_shop, WHO_RUNS)?;
    let NewPresets { unit, version, presets } = request;
    if presets.len() > MOST_PRESETS {
        return Err(Problem::field("presets", format!("a shop keeps at most {MOST_PRESETS}")));
    }
    let read: Vec<ShopPreset> =
        presets.iter().enumerate().map(|(line, p)| p.read(line, unit)).collect::<Result<_, _>>()?;
    if !state.store.put_presets(&read, version).await? {
        return Err(Problem::ChangedMeanwhile);
    }
    let detail = json!({ "presets": read });
    let note = ShopNote { by: Some(who.account.person), at: clock::now(), kind: "presets_changed", detail };
    state.store.note_shop(&note).await?;
    Ok(Json(
        presets_of(&state, &Shafts { unit, main_journal: String::new(), pin: String::new(), bore: String::new() })
            .await?,
    ))
}
