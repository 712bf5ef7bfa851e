//! Setting targets.
use axum::Json;
use axum::extract::State;
use jagged_pin_core::assess::{Assessment, evaluate};
use jagged_pin_core::build::Build;
use jagged_pin_core::engine::{BearingRow, Figure, Limits, Place, PlaceKind};
use jagged_pin_core::figure::{FigureAssessment, TargetInForce};
use jagged_pin_core::log::{Added, Adder, AimMade, TargetChange, WearRange, What};
use jagged_pin_core::maths::{TargetRule, TargetSource, parse_proportion};
use jagged_pin_core::{Length, Unit};
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::http::answers::{find, length, record_change};
use crate::http::auth::Who;
use crate::http::extract::{Body, Path};
use crate::http::problem::{Problem, ProblemBody};
use crate::state::AppState;
use crate::views::changes::RecordedView;

/// A target to be set. Lengths are texts as typed, in `unit` unless they bring their own.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(super) struct NewTarget {
    /// Made by the client: sending it twice sets it once.
    id: Uuid,
    /// What it is a target of; the oil clearance unless said.
    #[serde(default)]
    figure: Option<Figure>,
    /// The one place it is for; the whole row when absent.
    station: Option<Place>,
    /// The row it is for when it is not for one station; the mains unless said.
    #[serde(default)]
    row: BearingRow,
    /// The one kind of place of the row it is for, such as heads and not decks.
    #[serde(default)]
    kind: Option<PlaceKind>,
    /// The target; absent to let a station follow the build again.
    rule: Option<TypedRule>,
    /// Where it comes from.
    source: TargetSource,
    /// What the aim is the sum of: the server adds it up, and the aim of the rule is left empty.
    #[serde(default)]
    made_of: Option<TypedAim>,
    /// The factory's wear range beside it.
    #[serde(default)]
    wear: Option<TypedWear>,
    /// Why, in the words of whoever decided it.
    reason: String,
    /// Unit of bare figures.
    unit: Unit,
    /// The `version` of the target that is being replaced; 0 where there is none.
    version: u32,
}

/// A factory's wear range as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct TypedWear {
    /// Lower limit.
    low: String,
    /// Upper limit.
    high: String,
}

impl TypedWear {
    fn read(&self, unit: Unit) -> Result<WearRange, Problem> {
        Ok(WearRange { low: length(&self.low, unit, "wear.low")?, high: length(&self.high, unit, "wear.high")? })
    }
}

/// What an aim is the sum of, as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct TypedAim {
    /// The smallest figure of the piston's sheet; empty where there is none.
    #[serde(default)]
    sheet: String,
    /// The shop's factor, such as 0.0009 an inch of bore; empty where there is none.
    #[serde(default)]
    factor: String,
    /// What the sheet's figure is for already.
    #[serde(default)]
    covers: Vec<Adder>,
    /// What is added.
    #[serde(default)]
    adders: Vec<TypedAdder>,
}

/// One adder as typed.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct TypedAdder {
    /// What for.
    why: Adder,
    /// How much; with a minus where it takes room away.
    by: String,
}

impl TypedAdder {
    fn read(&self, unit: Unit) -> Result<Added, Problem> {
        Ok(Added { why: self.why, by: length(&self.by, unit, "adders")? })
    }
}

impl TypedAim {
    fn read(&self, unit: Unit) -> Result<AimMade, Problem> {
        let typed = |text: &str| !text.trim().is_empty();
        let sheet = typed(&self.sheet).then(|| length(&self.sheet, unit, "sheet")).transpose()?;
        let factor =
            || parse_proportion(&self.factor).ok_or_else(|| Problem::field("factor", "a number such as 0.0009"));
        let per_million = typed(&self.factor).then(factor).transpose()?;
        let adders = self.adders.iter().map(|a| a.read(unit)).collect::<Result<_, _>>()?;
        Ok(AimMade { sheet, per_million, covers: self.covers.clone(), adders })
    }
}

/// A target as typed.
#[derive(Deserialize, ToSchema)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
enum TypedRule {
    /// Limits, and the aim unless it is the middle.
    Range { low: String, aim: String, high: String },
    /// In proportion to the shaft, such as 0.001 inch per inch.
    PerDiameter { per_diameter: String, adder: String, below: String, above: String },
    /// Limits of the running engine, and what the housing opens by.
    Hot { low: String, aim: String, high: String, growth: String },
}

impl TypedRule {
    /// A figure with a lower limit only reaches as high as anybody believes, and is aimed at no more than its limit.
    fn read(&self, unit: Unit, figure: Figure) -> Result<TargetRule, Problem> {
        match self {
            TypedRule::Range { low, high, .. } if figure.row().limits == Limits::Minimum && high.trim().is_empty() => {
                let low = length(low, unit, "low")?;
                Ok(TargetRule::Range { low, aim: Some(low), high: figure.largest_believable(Length::LIMIT) })
            }
            TypedRule::Range { low, aim, high } => {
                let aim = Some(aim).filter(|a| !a.trim().is_empty());
                Ok(TargetRule::Range {
                    low: length(low, unit, "low")?,
                    aim: aim.map(|a| length(a, unit, "aim")).transpose()?,
                    high: length(high, unit, "high")?,
                })
            }
            TypedRule::Hot { low, aim, high, growth } => {
                let aim = Some(aim).filter(|a| !a.trim().is_empty());
                Ok(TargetRule::Hot {
                    low: length(low, unit, "low")?,
                    aim: aim.map(|a| length(a, unit, "aim")).transpose()?,
                    high: length(high, unit, "high")?,
                    growth: length(growth, unit, "growth")?,
                })
            }
            TypedRule::PerDiameter { per_diameter, adder, below, above } => {
                let per_million = parse_proportion(per_diameter).ok_or_else(|| {
                    Problem::field(
                        "per_diameter",
                        "give the proportion as a number such as 0.00100, at most six decimals",
                    )
                })?;
                Ok(TargetRule::PerDiameter {
                    per_million,
                    adder: length(adder, unit, "adder")?,
                    below: length(below, unit, "below")?,
                    above: length(above, unit, "above")?,
                })
            }
        }
    }
}

/// Sets the target of a row of bearings or of one place; everything is judged anew.
#[utoipa::path(post, path = "/api/v1/builds/{build}/targets", request_body = NewTarget,
    params(("build" = String, Path, description = "Short name or id")),
    responses((status = 200, body = RecordedView), (status = "4XX", body = ProblemBody)))]
pub(super) async fn set(
    State(state): State<AppState>,
    who: Who,
    Path(name): Path<String>,
    Body(request): Body<NewTarget>,
) -> Result<Json<RecordedView>, Problem> {
    who.must(|c| c.set_targets, "an assembler, a checker or the lead")?;
    let of = request.figure.unwrap_or(Figure::OIL_CLEARANCE);
    let made_of = request.made_of.as_ref().map(|made| made.read(request.unit)).transpose()?;
    let mut rule = request.rule.as_ref().map(|r| r.read(request.unit, of)).transpose()?;
    if let (Some(made), Some(TargetRule::Range { aim, .. })) = (&made_of, &mut rule) {
        let id = find(&state, &name).await?;
        let layout = state.store.build(id).await?.layout.clone();
        let row = request.station.map_or(request.row, Place::row);
        *aim = made.aim(layout.shaft_of(of, row));
    }
    let wear = request.wear.as_ref().map(|w| w.read(request.unit)).transpose()?;
    let figure = request.figure.filter(|f| *f != Figure::OIL_CLEARANCE);
    let (station, source, reason) = (request.station, request.source, request.reason.trim().to_owned());
    let row = station.map_or(request.row, Place::row);
    let kind = request.kind.filter(|_| station.is_none());
    if kind.is_some_and(|kind| !of.row().at.contains(&kind)) {
        return Err(Problem::field("kind", "no such place has this figure"));
    }
    let lifted = Vec::new();
    let what = What::Target(TargetChange { figure, station, row, kind, rule, source, made_of, wear, reason, lifted });
    let as_seen = move |build: &Build| {
        let assessed = evaluate(build);
        request.version == target_in_force(&assessed, of, station, (row, kind)).map_or(0, |t| t.version)
    };
    record_change(&state, who, &name, request.id, what, as_seen).await
}

/// The target that a change for this scope replaces: what whoever changes it was looking at.
pub(super) fn target_in_force(
    assessed: &Assessment,
    figure: Figure,
    station: Option<Place>,
    (row, kind): (BearingRow, Option<PlaceKind>),
) -> Option<&TargetInForce> {
    match station {
        None if figure == Figure::OIL_CLEARANCE => assessed.row_target(row),
        None => {
            let is_kind = |f: &FigureAssessment| kind.is_none_or(|kind| f.station.kind() == kind);
            let of_row = |f: &&FigureAssessment| f.figure == figure && f.row == row && is_kind(f);
            let targets = assessed.figures.iter().filter(of_row).filter_map(|f| f.target.as_deref());
            targets.rev().find(|t| !t.own)
        }
        Some(place) => assessed.figure(figure, place).and_then(|f| f.target.as_deref()),
    }
}
