//! The shop's own set-up: kinds of gauge and engine patterns.

use diesel::prelude::*;
use diesel_async::RunQueryDsl;
use jagged_pin_core::gauge::GaugeKind;
use jagged_pin_core::layout::Layout;
use jagged_pin_core::target::TargetRule;
use jagged_pin_core::{Length, Unit};

use crate::pool::Store;
use crate::schema::{engine_patterns, gauge_kinds};
use crate::{StoreError, text};

/// An engine the shop knows.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct EnginePattern {
    /// Stable short name.
    pub id: String,
    /// The engine in words.
    pub engine: String,
    /// Working unit.
    pub unit: Unit,
    /// Its layout.
    pub layout: Layout,
    /// The usual target of its mains.
    pub target: TargetRule,
}

#[derive(Queryable, Insertable)]
#[diesel(table_name = engine_patterns)]
struct PatternRow {
    id: String,
    engine: String,
    unit: String,
    layout: String,
    target: String,
}

#[derive(Queryable, Insertable)]
#[diesel(table_name = gauge_kinds)]
struct GaugeRow {
    id: String,
    unit: String,
    name: String,
    measures: String,
    resolution_nm: i64,
    repeatability_nm: i64,
    calibration_nm: i64,
    place: i32,
}

impl Store {
    /// The shop's kinds of gauge for builds in `unit`, in their order.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn gauges(&self, unit: Unit) -> Result<Vec<GaugeKind>, StoreError> {
        let rows: Vec<GaugeRow> = gauge_kinds::table
            .filter(gauge_kinds::unit.eq(unit.symbol()))
            .order(gauge_kinds::place)
            .load(&mut self.connection().await?)
            .await?;
        let gauge = |r: GaugeRow| {
            Ok(GaugeKind {
                id: r.id,
                name: r.name,
                measures: text::named(r.measures)?,
                resolution: Length::from_nm(r.resolution_nm),
                repeatability: Length::from_nm(r.repeatability_nm),
                calibration: Length::from_nm(r.calibration_nm),
            })
        };
        rows.into_iter().map(gauge).collect()
    }

    /// Adds kinds of gauge that the shop does not have yet.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn add_gauges(&self, unit: Unit, gauges: &[GaugeKind]) -> Result<(), StoreError> {
        let row = |(place, g): (i32, &GaugeKind)| {
            Ok(GaugeRow {
                id: g.id.clone(),
                unit: unit.symbol().into(),
                name: g.name.clone(),
                measures: text::name_of(&g.measures)?,
                resolution_nm: g.resolution.nm(),
                repeatability_nm: g.repeatability.nm(),
                calibration_nm: g.calibration.nm(),
                place,
            })
        };
        let rows = (0..).zip(gauges).map(row).collect::<Result<Vec<_>, StoreError>>()?;
        diesel::insert_or_ignore_into(gauge_kinds::table).values(rows).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// The engines the shop knows, by name.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn patterns(&self) -> Result<Vec<EnginePattern>, StoreError> {
        let rows: Vec<PatternRow> =
            engine_patterns::table.order(engine_patterns::engine).load(&mut self.connection().await?).await?;
        let pattern = |r: PatternRow| {
            Ok(EnginePattern {
                id: r.id,
                engine: r.engine,
                unit: text::named(r.unit)?,
                layout: text::from_json(&r.layout)?,
                target: text::from_json(&r.target)?,
            })
        };
        rows.into_iter().map(pattern).collect()
    }

    /// Adds an engine that the shop does not know yet.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn add_pattern(&self, p: &EnginePattern) -> Result<(), StoreError> {
        let row = PatternRow {
            id: p.id.clone(),
            engine: p.engine.clone(),
            unit: p.unit.symbol().into(),
            layout: text::json_of(&p.layout)?,
            target: text::json_of(&p.target)?,
        };
        diesel::insert_or_ignore_into(engine_patterns::table)
            .values(row)
            .execute(&mut self.connection().await?)
            .await?;
        Ok(())
    }
}
