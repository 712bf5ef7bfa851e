//! The shop's own set-up: its gauge room and the engines it knows.
use diesel::prelude::*;
use diesel_async::{AsyncConnection, RunQueryDsl};
use jagged_pin_core::engine::{Layout, ShopPreset};
use jagged_pin_core::gauge::{Gauge, GaugeRange};
use jagged_pin_core::log::{What, WorkEvent};
use jagged_pin_core::maths::TargetRule;
use jagged_pin_core::{Length, Unit};

use crate::pool::{Store, while_busy};
use crate::schema::{builds, engine_patterns, gauges, notes, shop_settings};
use crate::text::unreadable;
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
    /// The usual target of its rods.
    pub rod_target: Option<TargetRule>,
}

/// A gauge of the shop.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ShopGauge {
    /// The gauge as it is now.
    pub gauge: Gauge,
    /// Unit of the builds it is used on.
    pub unit: Unit,
    /// Counts its changes, from 1.
    pub version: u32,
}

#[derive(Queryable, Insertable)]
#[diesel(table_name = engine_patterns)]
struct PatternRow {
    id: String,
    engine: String,
    unit: String,
    layout: String,
    target: String,
    rod_target: Option<String>,
}

#[derive(Queryable, Insertable, AsChangeset)]
#[diesel(table_name = gauges)]
#[diesel(treat_none_as_null = true)]
struct GaugeRow {
    id: String,
    unit: String,
    name: String,
    serial: Option<String>,
    measures: String,
    resolution_nm: i64,
    repeatability_nm: i64,
    calibration_nm: i64,
    place: i32,
    kind: Option<String>,
    from_nm: Option<i64>,
    to_nm: Option<i64>,
    calibrated: Option<String>,
    due: Option<String>,
    people_nm: Option<i64>,
    version: i32,
}

impl GaugeRow {
    fn of(g: &Gauge, unit: Unit, place: i32, version: i32) -> Result<Self, StoreError> {
        Ok(GaugeRow {
            id: g.id.clone(),
            unit: unit.symbol().into(),
            name: g.name.clone(),
            serial: g.serial.clone(),
            measures: text::name_of(&g.measures)?,
            resolution_nm: g.resolution.nm(),
            repeatability_nm: g.repeatability.nm(),
            calibration_nm: g.calibration.nm(),
            place,
            kind: g.kind.as_ref().map(text::name_of).transpose()?,
            from_nm: g.range.map(|r| r.from.nm()),
            to_nm: g.range.map(|r| r.to.nm()),
            calibrated: g.calibrated.map(|d| d.to_string()),
            due: g.due.map(|d| d.to_string()),
            people_nm: g.between_people.map(|l| l.nm()),
            version,
        })
    }

    fn gauge(self) -> Result<ShopGauge, StoreError> {
        let range = self.from_nm.zip(self.to_nm);
        let day = |d: Option<String>| d.map(|d| d.parse()).transpose().map_err(unreadable);
        Ok(ShopGauge {
            unit: text::named(self.unit)?,
            version: self.version.try_into().map_err(unreadable)?,
            gauge: Gauge {
                id: self.id,
                name: self.name,
                serial: self.serial,
                measures: text::named(self.measures)?,
                resolution: Length::from_nm(self.resolution_nm),
                repeatability: Length::from_nm(self.repeatability_nm),
                calibration: Length::from_nm(self.calibration_nm),
                kind: self.kind.map(text::named).transpose()?,
                range: range.map(|(f, t)| GaugeRange { from: Length::from_nm(f), to: Length::from_nm(t) }),
                calibrated: day(self.calibrated)?,
                due: day(self.due)?,
                between_people: self.people_nm.map(Length::from_nm),
            },
        })
    }
}

impl Store {
    /// The shop's gauges for builds in `unit`, in their order.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn gauges(&self, unit: Unit) -> Result<Vec<Gauge>, StoreError> {
        let all = self.gauge_room().await?;
        Ok(all.into_iter().filter(|g| g.unit == unit).map(|g| g.gauge).collect())
    }

    /// Every gauge of the shop, in its order.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn gauge_room(&self) -> Result<Vec<ShopGauge>, StoreError> {
        let rows: Vec<GaugeRow> =
            gauges::table.order((gauges::unit, gauges::place)).load(&mut self.connection().await?).await?;
        Ok(text::readable("gauges", rows.into_iter().map(|row| (row.id.clone(), row.gauge()))))
    }

    /// Adds gauges that the shop does not have yet.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn add_gauges(&self, unit: Unit, new: &[Gauge]) -> Result<(), StoreError> {
        let rows = (0..).zip(new).map(|(place, g)| GaugeRow::of(g, unit, place, 1));
        let rows = rows.collect::<Result<Vec<_>, StoreError>>()?;
        diesel::insert_or_ignore_into(gauges::table).values(rows).execute(&mut self.connection().await?).await?;
        Ok(())
    }

    /// Registers a gauge, or changes one: `seen` is the version the change was made on, 0 for a new one.
    /// Answers with its version now; with `None`, and without a change, when somebody else was quicker.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_gauge(&self, gauge: &Gauge, unit: Unit, seen: u32) -> Result<Option<u32>, StoreError> {
        let mut conn = self.connection().await?;
        let done: Result<Option<u32>, StoreError> = while_busy!({
            let gauge = gauge.clone();
            conn.transaction(async move |conn| {
                let now: Option<(i32, i32)> = gauges::table
                    .find(&gauge.id)
                    .select((gauges::version, gauges::place))
                    .for_update()
                    .first(conn)
                    .await
                    .optional()?;
                let version = now.map_or(0, |(version, _)| version);
                if u32::try_from(version).ok() != Some(seen) {
                    return Ok(None);
                }
                let last: Option<i32> = gauges::table.select(diesel::dsl::max(gauges::place)).first(conn).await?;
                let place = now.map_or(last.unwrap_or(0) + 1, |(_, place)| place);
                let row = GaugeRow::of(&gauge, unit, place, version + 1)?;
                if now.is_some() {
                    diesel::update(gauges::table.find(&gauge.id)).set(row).execute(conn).await?;
                } else {
                    match diesel::insert_into(gauges::table).values(row).execute(conn).await {
                        Err(e) if StoreError::is_duplicate(&e) => return Ok(None),
                        other => other?,
                    };
                }
                Ok(Some(seen + 1))
            })
            .await
        });
        done
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
                rod_target: r.rod_target.as_deref().map(text::from_json).transpose()?,
            })
        };
        Ok(text::readable("engine patterns", rows.into_iter().map(|row| (row.id.clone(), pattern(row)))))
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
            rod_target: p.rod_target.as_ref().map(text::json_of).transpose()?,
        };
        diesel::insert_or_ignore_into(engine_patterns::table)
            .values(row)
            .execute(&mut self.connection().await?)
            .await?;
        Ok(())
    }

    /// Work of the shop that minutes were booked on, with the engine it was done on, the latest first.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn booked_work(&self) -> Result<Vec<(Layout, WorkEvent)>, StoreError> {
        let rows: Vec<(String, String)> = notes::table
            .inner_join(builds::table.on(builds::id.eq(notes::build_id)))
            .filter(notes::kind.eq("work"))
            .filter(notes::detail.like("%\"minutes\"%"))
            .order((builds::opened_at.desc(), notes::seq.desc()))
            .limit(BOOKED)
            .select((builds::layout, notes::detail))
            .load(&mut self.connection().await?)
            .await?;
        let mut all = Vec::with_capacity(rows.len());
        for (layout, detail) in rows {
            // What cannot be read there is said of its build.
            if let (Ok(What::Work(event)), Ok(layout)) = (text::from_json(&detail), text::from_json(&layout)) {
                all.push((layout, event));
            }
        }
        Ok(all)
    }

    /// The windows the shop starts its targets from, and how often they were changed: 0 where it goes by the usual ones.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn presets(&self) -> Result<(Vec<ShopPreset>, u32), StoreError> {
        let found: Option<(String, i32)> = shop_settings::table
            .find(PRESETS)
            .select((shop_settings::detail, shop_settings::version))
            .first(&mut self.connection().await?)
            .await
            .optional()?;
        match found {
            Some((detail, version)) => Ok((text::from_json(&detail)?, version.try_into().map_err(unreadable)?)),
            None => Ok((ShopPreset::usual(), 0)),
        }
    }

    /// Changes them, if they are still as they were seen; says whether they were.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_presets(&self, presets: &[ShopPreset], seen: u32) -> Result<bool, StoreError> {
        let (detail, seen) = (text::json_of(&presets)?, text::version_column(seen));
        let next = shop_settings::version.eq(seen.saturating_add(1));
        let mut conn = self.connection().await?;
        let written = if seen == 0 {
            let row = (shop_settings::name.eq(PRESETS), shop_settings::detail.eq(detail), next);
            diesel::insert_or_ignore_into(shop_settings::table).values(row).execute(&mut conn).await?
        } else {
            let at = shop_settings::table.find(PRESETS).filter(shop_settings::version.eq(seen));
            diesel::update(at).set((shop_settings::detail.eq(detail), next)).execute(&mut conn).await?
        };
        Ok(written == 1)
    }
}

impl Store {
    /// The name of the shop, where it has one of its own.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn shop_name(&self) -> Result<Option<String>, StoreError> {
        self.setting(NAME).await
    }

    /// Gives the shop its name.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_shop_name(&self, name: &str) -> Result<(), StoreError> {
        self.put_setting(NAME, name).await
    }
}

impl Store {
    /// Short name of the key that this shop's seals are marked with.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn key_name(&self) -> Result<Option<String>, StoreError> {
        self.setting(KEY).await
    }

    /// Notes that key.
    ///
    /// # Errors
    /// [`StoreError`] when the database fails.
    pub async fn put_key_name(&self, name: &str) -> Result<(), StoreError> {
        self.put_setting(KEY, name).await
    }

    async fn setting(&self, name: &str) -> Result<Option<String>, StoreError> {
        let found: Option<String> = shop_settings::table
            .find(name)
            .select(shop_settings::detail)
            .first(&mut self.connection().await?)
            .await
            .optional()?;
        found.as_deref().map(text::from_json).transpose()
    }

    async fn put_setting(&self, name: &str, value: &str) -> Result<(), StoreError> {
        let row = (
            shop_settings::name.eq(name),
            shop_settings::detail.eq(text::json_of(&value)?),
            shop_settings::version.eq(1),
        );
        diesel::replace_into(shop_settings::table).values(row).execute(&mut self.connection().await?).await?;
        Ok(())
    }
}

/// The setting that holds the name of the shop's key.
const KEY: &str = "key";

/// The setting that holds the shop's name.
const NAME: &str = "name";

/// The setting that holds the presets.
const PRESETS: &str = "presets";

/// Booked work that is looked at: what a shop does in a year or two.
const BOOKED: i64 = 300;
