//! How the gauges of a build stand today, so that a gauge that must not decide is called out before the
//! first reading, not after.
use serde::Serialize;
use uuid::Uuid;

use super::assessment::Assessment;
use crate::build::Build;
use crate::engine::{BearingRow, GaugeUse};
use crate::evidence::{SessionProof, Sessions};
use crate::gauge::{Gauge, GaugeFit, gauge_fit, steps_in_tenths};
use crate::log::What;
use crate::units::Day;

/// One gauge as it stands on a build today.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GaugeStatus {
    /// The gauge, as in its running session if it has one.
    pub gauge: Gauge,
    /// The running session.
    pub session: Option<Uuid>,
    /// What that session's check says; absent without a session.
    pub proof: Option<SessionProof>,
    /// Its calibration no longer holds.
    pub past_due: bool,
    /// Its step against the window of the mains; absent without a target.
    pub mains: Option<GaugeFit>,
    /// Its step against the window of the rods.
    pub rods: Option<GaugeFit>,
    /// Steps of the gauge in the narrower of those windows, in tenths: 60 means 6 to 1.
    pub ratio_tenths: Option<i64>,
}

/// The gauges a build may be measured with on that day: its own, those brought by a session, and those that hang in the
/// gauge room (`room`) now. A gauge in use is as it was when it was checked in; any other is as it is in the room.
pub fn gauge_statuses(build: &Build, assessed: &Assessment, today: Option<Day>, room: &[Gauge]) -> Vec<GaugeStatus> {
    let notes = build.notes();
    let sessions = Sessions::of(&notes, build.rules_among(&notes).reckoning);
    let mut gauges: Vec<&Gauge> = build.gauges.iter().collect();
    for fact in &notes {
        if let What::SessionOpened(opened) = &fact.what {
            match gauges.iter_mut().find(|g| g.id == opened.gauge.id) {
                // The latest copy is the gauge as it is now.
                Some(known) => *known = &opened.gauge,
                None => gauges.push(&opened.gauge),
            }
        }
    }
    for gauge in room {
        match gauges.iter_mut().find(|g| g.id == gauge.id) {
            Some(known) if sessions.running(&known.id).is_none() => *known = gauge,
            Some(_) => {}
            None => gauges.push(gauge),
        }
    }
    let width = |row| assessed.row_target(row).map(|t| t.window.high - t.window.low);
    let windows = BearingRow::ALL.map(width);
    let standing = |gauge: &Gauge| {
        let running = sessions.running(&gauge.id);
        // A strip's step is its printed width; it decides nothing by default.
        let judged =
            |w: &crate::units::Length| (gauge.measures != GaugeUse::Gap).then(|| gauge_fit(gauge.resolution, *w));
        let narrowest = windows.iter().flatten().min();
        GaugeStatus {
            gauge: gauge.clone(),
            session: running.map(|s| s.id),
            proof: running.map(|s| s.proof),
            past_due: gauge.past_due(today),
            mains: windows[0].as_ref().and_then(judged),
            rods: windows[1].as_ref().and_then(judged),
            ratio_tenths: narrowest.map(|w| steps_in_tenths(gauge.resolution, *w)),
        }
    };
    gauges.into_iter().map(standing).collect()
}
