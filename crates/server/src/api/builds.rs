//! Opening a build, and one build with everything that follows from it.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use jagged_pin_core::build::Build;
use jagged_pin_core::engine::{BearingRow, Crank, Cylinders, Layout, Nominals, Place, Rods, Wall, usual_undersizes};
use jagged_pin_core::gauge::Gauge;
use jagged_pin_core::log::{Rules, TargetChange, What};
use jagged_pin_core::maths::{Alloy, Material, Target, TargetRule, TargetSource};
use jagged_pin_core::record::next_fact;
use jagged_pin_core::units::Person;
use jagged_pin_core::{Length, Unit};
use jagged_pin_store::{EnginePattern, Opened, ShopNote, StoreError};
use serde::{Deserialize, Serialize};
use serde_json::json;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::clock;
use crate::http::answers::{evaluated, find, length, typed};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path, Query};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::build::BuildView;
use crate::views::changes::ChangesView;

/// One build.
#[utoipa::path(get, path = "/api/v1/builds/{build}", params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = BuildView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn build(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
) -> Result<Json<BuildView>, Problem> {
    let seen = evaluated(&state, &who, &name).await?;
    // Whoever opens a build finds the gauges of today at hand.
    state.gauge_room().await?;
    Ok(Json(BuildView::of(&seen, &state.gauges(seen.build.unit))))
}

/// What somebody knows of a build already.
#[derive(Deserialize, IntoParams)]
#[serde(deny_unknown_fields)]
#[into_params(parameter_in = Query)]
pub(super) struct Since {
    /// Place of the last fact that is known.
    since: u32,
}

/// What changed in a build since a fact, for whoever follows what others write.
#[utoipa::path(get, path = "/api/v1/builds/{build}/changes",
    params(("build" = String, Path, description = "Short name or id"), Since),
    responses((status = 200, body = ChangesView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn changes(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Query(Since { since }): Query<Since>,
) -> Result<Json<ChangesView>, Problem> {
    let build = state.store.build(find(&state, &name).await?).await?;
    let viewer = who.account.person.id;
    let after = state.evaluated.of(&build, viewer);
    let room = state.gauges(build.unit);
    if since == 0 || since > build.seq() {
        return Ok(Json(ChangesView::whole(&after, &room)));
    }
    Ok(Json(ChangesView::between(&state.evaluated.at(&build, since, viewer), &after, &room)))
}

/// What a new build can start from.
#[derive(Serialize, ToSchema)]
pub(super) struct ShopView {
    /// Engines the shop knows.
    patterns: Vec<PatternView>,
    /// Everybody who works here.
    people: Vec<Person>,
}

/// An engine the shop knows.
#[derive(Serialize, ToSchema)]
pub(super) struct PatternView {
    id: String,
    engine: String,
    unit: Unit,
    layout: Layout,
    target: Target,
    /// The main journal as it would be typed.
    main_journal_text: String,
    /// Low, aim and high of the mains as they would be typed, cold.
    target_texts: [String; 3],
    /// The pin as it would be typed; absent where only mains are built.
    pin_text: Option<String>,
    /// Low, aim and high of the rods as they would be typed.
    rod_target_texts: Option<[String; 3]>,
    /// The bore as it would be typed; absent where cylinders are not built here.
    bore_text: Option<String>,
    /// Housings and shells of the mains as they would be typed.
    shells: Option<NewNominals>,
    /// Housings and shells of the rods as they would be typed.
    rod_shells: Option<NewNominals>,
}

/// What a new build can start from.
#[utoipa::path(get, path = "/api/v1/shop",
    responses((status = 200, body = ShopView), (status = 401, body = ProblemBody)))]
pub(super) async fn shop(State(state): State<AppState>, _: Who) -> Result<Json<ShopView>, Problem> {
    let mut patterns = Vec::new();
    for p in state.store.patterns().await? {
        let Ok(target) = p.target.resolve(p.layout.main_journal) else { continue };
        let typed = |l: Length| typed(l, p.unit);
        patterns.push(PatternView {
            main_journal_text: typed(p.layout.main_journal),
            target_texts: [target.low, target.aim, target.high].map(typed),
            pin_text: p.layout.rods.as_ref().map(|r| typed(r.pin)),
            rod_target_texts: p
                .rod_target
                .and_then(|t| t.resolve(p.layout.journal(BearingRow::Rods)).ok())
                .map(|t| [t.low, t.aim, t.high].map(typed)),
            bore_text: p.layout.cylinders.as_ref().map(|c| typed(c.bore)),
            shells: p.layout.main_nominals.as_ref().map(|n| NewNominals::typed(n, p.unit)),
            rod_shells: p.layout.nominals(BearingRow::Rods).map(|n| NewNominals::typed(n, p.unit)),
            id: p.id,
            engine: p.engine,
            unit: p.unit,
            layout: p.layout,
            target,
        });
    }
    let people = state.store.accounts().await?.into_iter().map(|a| a.person).collect();
    Ok(Json(ShopView { patterns, people }))
}

/// A build to be opened. Lengths are texts as typed, in `unit` unless they bring their own.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewBuild {
    /// Made by the client: sending it twice opens one build.
    id: Uuid,
    /// Identifier of its first target, made by the client.
    target_id: Uuid,
    /// Short name.
    code: String,
    /// The engine in words.
    engine: String,
    /// Working unit.
    unit: Unit,
    /// Number of mains.
    mains: u8,
    /// The main that carries thrust.
    thrust: Place,
    /// Nominal main journal.
    main_journal: String,
    /// Pins between two mains.
    pins_per_bay: u8,
    /// Degrees of the pins from the front, such as `0 90 270 180`; as the engine it is like when empty, evenly firing where
    /// nobody knows.
    #[serde(default)]
    throws: String,
    /// The stroke as typed; as the engine it is like when empty.
    #[serde(default)]
    stroke: String,
    /// The engine it is like: its crank is drawn if mains and journal are the same.
    pattern: Option<String>,
    /// Lower limit of the main oil clearance.
    low: String,
    /// Aim; the middle when empty.
    aim: String,
    /// Upper limit.
    high: String,
    /// Nominal bore, where cylinders, pistons and rings are built here; as the engine it is like when absent, none when empty.
    #[serde(default)]
    bore: Option<String>,
    /// Degrees between two banks; as the engine it is like when empty, a right angle where nobody knows.
    #[serde(default)]
    bank_angle: String,
    /// Banks of cylinders; as the engine it is like when absent, else by the rods on a pin.
    #[serde(default)]
    banks: Option<u8>,
    /// The oversize that it is bored to already, part of the bore; as the engine it is like when empty.
    #[serde(default)]
    present_oversize: String,
    /// What the pistons run on; as the engine it is like when absent.
    #[serde(default)]
    wall: Option<Wall>,
    /// What the pistons are made of; as the engine it is like when absent.
    #[serde(default)]
    alloy: Option<Alloy>,
    /// What the block is made of; as the engine it is like when absent.
    block: Option<Material>,
    /// Housings and shells of the mains; as the engine it is like when absent.
    shells: Option<NewNominals>,
    /// The rods; absent to build the mains only.
    rods: Option<NewRods>,
    /// Whether the shop knows this engine from now on: for whoever runs the shop.
    #[serde(default)]
    keep_engine: bool,
}

/// Nominal housing and shells of a row as typed. All empty where nobody knows them; an empty tolerance is the usual one.
#[derive(Default, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct NewNominals {
    /// Housing.
    housing: String,
    /// How far a housing may be off to either side.
    housing_tolerance: String,
    /// Catalogue maximum of a standard wall.
    wall: String,
    /// How much less than that a wall may be.
    wall_tolerance: String,
}

impl NewNominals {
    fn typed(n: &Nominals, unit: Unit) -> Self {
        let [housing, housing_tolerance, wall, wall_tolerance] =
            [n.housing, n.housing_tolerance, n.wall, n.wall_tolerance].map(|l| typed(l, unit));
        NewNominals { housing, housing_tolerance, wall, wall_tolerance }
    }

    /// What the texts say; `known` has the undersizes of the engine it is like.
    fn read(
        &self,
        unit: Unit,
        fields: [&'static str; 4],
        known: Option<&Nominals>,
    ) -> Result<Option<Nominals>, Problem> {
        let usual = |text: &str, field: &'static str, otherwise: (i64, i64)| match (text.trim(), unit) {
            ("", Unit::Inch) => Ok(Length::tenths(otherwise.0)),
            ("", Unit::Mm) => Ok(Length::microns(otherwise.1)),
            (text, _) => length(text, unit, field),
        };
        if self.housing.trim().is_empty() && self.wall.trim().is_empty() {
            return Ok(None);
        }
        let [housing, housing_tolerance, wall, wall_tolerance] = fields;
        Ok(Some(Nominals {
            housing: length(&self.housing, unit, housing)?,
            housing_tolerance: usual(&self.housing_tolerance, housing_tolerance, (5, 12))?,
            wall: length(&self.wall, unit, wall)?,
            wall_tolerance: usual(&self.wall_tolerance, wall_tolerance, (3, 8))?,
            undersizes: known.map_or_else(|| usual_undersizes(unit), |n| n.undersizes.clone()),
        }))
    }
}

/// The rods of a new build.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct NewRods {
    /// Identifier of their first target, made by the client.
    target_id: Uuid,
    /// Rods side by side on one pin.
    per_pin: u8,
    /// Nominal pin.
    pin: String,
    /// What they are made of; as the engine it is like, or steel, when absent.
    material: Option<Material>,
    /// Housings and shells; as the engine it is like when absent.
    shells: Option<NewNominals>,
    /// Lower limit of the rod oil clearance.
    low: String,
    /// Aim; the middle when empty.
    aim: String,
    /// Upper limit.
    high: String,
}

/// A range as typed; the aim may be empty.
fn typed_range(low: &str, aim: &str, high: &str, unit: Unit, rods: bool) -> Result<TargetRule, Problem> {
    let fields = if rods { ["rods.low", "rods.aim", "rods.high"] } else { ["low", "aim", "high"] };
    let aim = Some(aim).filter(|a| !a.trim().is_empty());
    Ok(TargetRule::Range {
        low: length(low, unit, fields[0])?,
        aim: aim.map(|a| length(a, unit, fields[1])).transpose()?,
        high: length(high, unit, fields[2])?,
    })
}

/// Opens a build.
#[utoipa::path(post, path = "/api/v1/builds", request_body = NewBuild,
    responses((status = 201, body = BuildView), (status = 200, description = "Opened before", body = BuildView),
        (status = "4XX", body = ProblemBody)))]
pub(super) async fn open(
    State(state): State<AppState>,
    who: Who,
    Body(request): Body<NewBuild>,
) -> Result<(StatusCode, Json<BuildView>), Problem> {
    who.must(|c| c.open_builds, "an assembler or the lead")?;
    if request.keep_engine {
        who.must(|c| c.run_shop, "the lead")?;
    }
    let by = who.account.person;
    let unit = request.unit;
    let main_journal = length(&request.main_journal, unit, "main_journal")?;
    let main_rule = typed_range(&request.low, &request.aim, &request.high, unit, false)?;
    let known = pattern(&state, &request).await?;
    let layout = layout(known.as_ref(), &request, main_journal)?;
    // A pattern's own target is kept as it is stated, hot or in proportion, unless it was changed here.
    let stated = known.as_ref().filter(|p| p.target.resolve(main_journal) == main_rule.resolve(main_journal));
    let main_rule = stated.map_or(main_rule, |p| p.target);
    layout.check().map_err(|e| Problem::field(layout_field(e), e.to_string()))?;
    let opened_at = clock::now();
    let mut build = Build {
        id: request.id,
        code: request.code.trim().to_owned(),
        engine: request.engine.trim().to_owned(),
        unit,
        layout,
        rules: Rules::standard(unit),
        gauges: gauges_for(&state, unit).await?,
        opened_at,
        opened_by: by.clone(),
        facts: Vec::new(),
        known_to: 0,
    };
    build.check_set_up()?;
    let mut targets = vec![(request.target_id, BearingRow::Mains, main_rule)];
    if let Some(rods) = &request.rods {
        let rule = typed_range(&rods.low, &rods.aim, &rods.high, unit, true)?;
        targets.push((rods.target_id, BearingRow::Rods, rule));
    }
    let engine = EnginePattern {
        id: format!("own-{}", build.id.simple()),
        engine: build.engine.clone(),
        unit,
        layout: build.layout.clone(),
        target: main_rule,
        rod_target: targets.get(1).map(|(_, _, rule)| *rule),
    };
    for (id, row, rule) in targets {
        let (reason, source) = ("agreed at booking".to_owned(), TargetSource::BuildersRule);
        let what = What::Target(TargetChange {
            figure: None,
            station: None,
            row,
            kind: None,
            rule: Some(rule),
            source,
            made_of: None,
            wear: None,
            reason,
            lifted: Vec::new(),
        });
        let fact = next_fact(&build, id, opened_at, by.clone(), what)?;
        build.facts.push(fact);
    }
    let opened = state.store.open_build(&build).await.map_err(|e| match e {
        StoreError::CodeTaken => Problem::CodeTaken(build.code.clone()),
        StoreError::BuildExists => Problem::IdReused,
        other => other.into(),
    })?;
    if request.keep_engine && opened == Opened::New {
        state.store.add_pattern(&engine).await?;
        let detail = json!({ "engine": engine.engine, "id": engine.id });
        let note = ShopNote { by: Some(by.clone()), at: clock::now(), kind: "engine_added", detail };
        state.store.note_shop(&note).await?;
    }
    state.changes.nudge();
    let status = if opened == Opened::New { StatusCode::CREATED } else { StatusCode::OK };
    let opened = state.store.build(build.id).await?;
    Ok((status, Json(BuildView::of(&state.evaluated.of(&opened, by.id), &state.gauges(unit)))))
}

/// The gauges of the room for builds in `unit`.
async fn gauges_for(state: &AppState, unit: Unit) -> Result<Vec<Gauge>, Problem> {
    state.gauge_room().await?;
    Ok(state.gauges(unit))
}

/// The engine the shop knows that a new build is like.
async fn pattern(state: &AppState, request: &NewBuild) -> Result<Option<EnginePattern>, Problem> {
    match &request.pattern {
        Some(id) => Ok(state.store.patterns().await?.into_iter().find(|p| p.id == *id)),
        None => Ok(None),
    }
}

/// A known engine's layout where mains and journals are the same; else one in usual proportions. What is typed of housings
/// and shells holds against what is known.
fn layout(known: Option<&EnginePattern>, request: &NewBuild, main_journal: Length) -> Result<Layout, Problem> {
    let (mains, thrust, unit) = (request.mains, request.thrust, request.unit);
    let pin = request.rods.as_ref().map(|r| length(&r.pin, unit, "rods.pin")).transpose()?;
    let known = known.map(|p| &p.layout).filter(|l| l.mains == mains && l.main_journal == main_journal);
    let own = match known {
        Some(layout) => Layout { thrust, ..layout.clone() },
        None => {
            let crank = Crank::proportional(mains, main_journal, request.pins_per_bay);
            let crank = Crank { pin_diameter: pin.unwrap_or(crank.pin_diameter), ..crank };
            Layout::of_mains(mains, thrust, main_journal, crank)
        }
    };
    let own = Layout { crank: crank_as_typed(own.crank, request)?, ..own };
    let main_nominals = match &request.shells {
        Some(typed) => typed.read(unit, MAIN_SHELLS, own.main_nominals.as_ref())?,
        None => own.main_nominals.clone(),
    };
    let rods = match (request.rods.as_ref(), pin) {
        (Some(new), Some(pin)) => {
            let same = own.rods.as_ref().filter(|r| r.pin == pin && r.per_pin == new.per_pin);
            let nominals = same.and_then(|r| r.nominals.as_ref());
            Some(Rods {
                per_pin: new.per_pin,
                pin,
                // A pattern of an earlier version says nothing of tracks; a new build measures each by itself.
                tracks: new.per_pin > 1,
                material: new.material.or(same.map(|r| r.material)).unwrap_or(Material::Steel),
                nominals: match &new.shells {
                    Some(typed) => typed.read(unit, ROD_SHELLS, nominals)?,
                    None => nominals.cloned(),
                },
            })
        }
        _ => None,
    };
    let block = request.block.unwrap_or(own.block);
    let bored = request.bore.as_deref().filter(|text| !text.trim().is_empty());
    let cylinders = match bored {
        Some(text) => Some(Cylinders {
            bore: length(text, unit, "bore")?,
            bank_angle: match request.bank_angle.trim() {
                "" => own.cylinders.as_ref().and_then(|c| c.bank_angle),
                text => Some(text.parse().map_err(|_| Problem::field("bank_angle", "whole degrees, such as 90"))?),
            },
            banks: request.banks.or(own.cylinders.as_ref().and_then(|c| c.banks)),
            present: match request.present_oversize.trim() {
                "" => own.cylinders.as_ref().and_then(|c| c.present),
                text => Some(length(text, unit, "present_oversize")?).filter(|present| *present > Length::ZERO),
            },
            wall: request.wall.or(own.cylinders.as_ref().and_then(|c| c.wall)),
            alloy: request.alloy.or(own.cylinders.as_ref().and_then(|c| c.alloy)),
        }),
        // Left empty on purpose, or by a client that knows nothing of cylinders.
        None => own.cylinders.clone().filter(|_| request.bore.is_none()),
    };
    Ok(Layout { block, main_nominals, rods, cylinders, ..own }.with_usual_plans())
}

/// A crank with the throws and the stroke that were typed for it.
fn crank_as_typed(crank: Crank, request: &NewBuild) -> Result<Crank, Problem> {
    let crank = match request.stroke.trim() {
        "" => crank,
        text => {
            let stroke = length(text, request.unit, "stroke")?;
            if stroke <= Length::ZERO || stroke > LONGEST_STROKE {
                return Err(Problem::field("stroke", "a stroke is above zero and half a metre at most"));
            }
            Crank { throw: Length::from_nm(stroke.nm() / 2), ..crank }
        }
    };
    let typed = request.throws.trim();
    if typed.is_empty() {
        return Ok(crank);
    }
    let pins = crank.bays.iter().map(Vec::len).sum::<usize>();
    let wanted = || Problem::field("throws", format!("{pins} whole degrees from the front, such as 0 90 270 180"));
    let read = |text: &str| text.parse::<i16>().ok().filter(|d| (-360..=360).contains(d));
    let degrees = typed.split([' ', ',', ';']).filter(|text| !text.is_empty()).map(read);
    let degrees: Vec<i16> = degrees.collect::<Option<_>>().ok_or_else(wanted)?;
    crank.with_throws(&degrees).ok_or_else(wanted)
}

/// No engine of these shops strokes longer: half a metre.
const LONGEST_STROKE: Length = Length::microns(500_000);

/// Where what is typed of the shells stands in a request.
const MAIN_SHELLS: [&str; 4] = ["shells.housing", "shells.housing_tolerance", "shells.wall", "shells.wall_tolerance"];
const ROD_SHELLS: [&str; 4] =
    ["rods.shells.housing", "rods.shells.housing_tolerance", "rods.shells.wall", "rods.shells.wall_tolerance"];

fn layout_field(error: jagged_pin_core::engine::LayoutError) -> &'static str {
    use jagged_pin_core::engine::LayoutError::{
        BankAngle, Cam, Crank, Cylinders, Journal, Mains, Nominals, Plan, Rods, Thrust,
    };
    match error {
        Rods => "rods.pin",
        Nominals(BearingRow::Mains) => "shells.housing",
        Nominals(BearingRow::Rods) => "rods.shells.housing",
        Plan | Cam => "pattern",
        Cylinders => "bore",
        BankAngle => "bank_angle",
        Mains => "mains",
        Thrust => "thrust",
        Journal => "main_journal",
        Crank => "pins_per_bay",
    }
}
