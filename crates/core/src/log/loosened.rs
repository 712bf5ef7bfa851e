//! What a change of rules asks less of: what protected somebody until then and does not any more. Fewer touches are none of
//! it: what they leave open goes into every verdict.
use serde::{Deserialize, Serialize};

use super::gate::Gate;
use super::rules::{FinishLimits, HotRunning, Rules, ShapeLimits};
use crate::engine::BearingRow;
use crate::maths::Acceptance;

/// Something that the rules of a build ask less of than before.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Loosened {
    /// A remark that nobody signed past.
    Gate {
        /// The kind of remark that may be signed past now.
        gate: Gate,
    },
    /// Parts that stone or wheel touched are washed before they sign.
    Cleaning,
    /// A mishap, a crack or a straightened crank forces its checks.
    Checks,
    /// Washers and rings are shown by a picture.
    Pictures,
    /// A ground journal puts its fillets to measure.
    Fillets,
    /// The uncertainty guards the limits.
    Guard,
    /// What is left of a ring's gap and of a piston's room when the engine is hot.
    Hot,
    /// Limits of taper and out-of-round.
    Shape,
    /// Limits of roughness.
    Finish,
    /// What unequal temperatures leave open.
    Temperature,
    /// What a torque plate that was left off leaves open.
    Plate,
    /// How touches become values and uncertainties: an earlier reckoning.
    Reckoning,
    /// A crushed strip may decide.
    Strip,
    /// A row is sampled instead of measured.
    Sampled {
        /// The row of which only the front and the rear bearing are measured.
        row: BearingRow,
    },
}

fn shape_is_wider(now: Option<ShapeLimits>, before: Option<ShapeLimits>) -> bool {
    let limits = |s: ShapeLimits| {
        [s.journal_taper, s.journal_round, s.housing_round, s.housing_taper.unwrap_or(s.housing_round)]
    };
    match (now, before) {
        (Some(now), Some(before)) => limits(now).iter().zip(limits(before)).any(|(now, before)| *now > before),
        (None, Some(_)) => true,
        (_, None) => false,
    }
}

fn finish_is_rougher(now: FinishLimits, before: FinishLimits) -> bool {
    now.journal > before.journal || now.face > before.face
}

fn hot_asks_less(now: Option<HotRunning>, before: Option<HotRunning>) -> bool {
    match (now, before) {
        (Some(now), Some(before)) => now.ring_floor < before.ring_floor || now.ring_c < before.ring_c,
        (None, Some(_)) => true,
        (_, None) => false,
    }
}

impl Rules {
    /// What these ask less of than the ones before.
    pub fn loosened_from(&self, before: &Rules) -> Vec<Loosened> {
        let off = |now: bool, then: bool| then && !now;
        let gates = before.gates.iter().filter(|gate| !self.gates.contains(gate));
        let rows = self.sampled.iter().filter(|row| !before.sampled.contains(row));
        let single = [
            (off(self.cleaning_gate, before.cleaning_gate), Loosened::Cleaning),
            (off(self.check_gate, before.check_gate), Loosened::Checks),
            (off(self.orientation_pictures, before.orientation_pictures), Loosened::Pictures),
            (off(self.regrind_gate, before.regrind_gate), Loosened::Fillets),
            (before.acceptance == Acceptance::Guarded && self.acceptance != before.acceptance, Loosened::Guard),
            (hot_asks_less(self.hot, before.hot), Loosened::Hot),
            (shape_is_wider(self.shape, before.shape), Loosened::Shape),
            (finish_is_rougher(self.finish(), before.finish()), Loosened::Finish),
            (self.temperature_doubt_mk < before.temperature_doubt_mk, Loosened::Temperature),
            (self.plate_pull() < before.plate_pull(), Loosened::Plate),
            (self.reckoning < before.reckoning, Loosened::Reckoning),
            (self.strip_judges && !before.strip_judges, Loosened::Strip),
        ];
        gates
            .map(|gate| Loosened::Gate { gate: *gate })
            .chain(single.into_iter().filter_map(|(is, what)| is.then_some(what)))
            .chain(rows.map(|row| Loosened::Sampled { row: *row }))
            .collect()
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::units::{Length, Unit};

    #[test]
    fn what_is_switched_off_is_named_and_what_is_asked_besides_is_not() {
        let usual = Rules::standard(Unit::Inch);
        assert_eq!(usual.loosened_from(&usual), []);
        let less = Rules {
            cleaning_gate: false,
            gates: vec![Gate::Shape],
            plate_pull: Some(Length::ZERO),
            sampled: vec![BearingRow::Mains],
            ..usual.clone()
        };
        let named = less.loosened_from(&usual);
        assert_eq!(named.iter().filter(|l| matches!(l, Loosened::Gate { .. })).count(), Gate::ALL.len() - 1);
        for what in [Loosened::Cleaning, Loosened::Plate, Loosened::Sampled { row: BearingRow::Mains }] {
            assert!(named.contains(&what), "{named:?}");
        }
        assert_eq!(usual.loosened_from(&less), [], "the way back asks more");
    }
}
