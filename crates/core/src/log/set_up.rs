//! Set-up conditions: what a cap was torqued with. A reading over a torqued cap is evidence for that
//! set-up only, so a change of it ends the evidence.
//!
//! | changed | ends the evidence about |
//! |---|---|
//! | fasteners of any group, washers, lubricant, torque steps, how the caps were drawn down | every housing and bore of the row |
//! | a cap's number or direction | that station's housing and bore |
//! | the shells in place | that station's bore |
//!
//! The first set-up that is recorded says what was so already; it ends nothing. Nor does saying for the first time which
//! shells are in, what lies under the nuts, or where the lubricant went.
use serde::{Deserialize, Serialize};

use super::ends::Ends;
use super::fasteners::{FastenerGroup, FastenerKind, Lubricated, MoreFasteners, Washers, differing};
use super::torque::{MOST_STEPS, TorqueStep};
use crate::engine::{BearingRow, Place, Scope, Tag};
use crate::units::{Flaw, LONGEST_TEXT, Wrong, must, must_be_text, must_count, must_differ};

/// Where one cap sits, if not on its own station and facing forward.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CapSeat {
    /// The station.
    pub station: Place,
    /// The number on the cap.
    pub cap: u8,
    /// Whether its mark faces the front.
    pub forward: bool,
}

/// Which shells are in a bearing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShellsIn {
    /// The station.
    pub station: Place,
    /// The upper one, in the shop's words.
    pub upper: String,
    /// The lower one.
    pub lower: String,
}

/// The set-up of a row of bearings.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SetUp {
    /// The row it is for.
    pub row: BearingRow,
    /// Studs or bolts.
    pub fastener: FastenerKind,
    /// Which set, in the shop's words.
    pub fasteners: String,
    /// What lies under head or nut; absent where nobody said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub washers: Option<Washers>,
    /// Whether it is the set that was in place when the bores were finished.
    pub as_finished: bool,
    /// The lubricant on thread and under head.
    pub lubricant: String,
    /// Where it goes; absent where nobody said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub lubricated: Option<Lubricated>,
    /// The steps of the inner group in order.
    pub steps: Vec<TorqueStep>,
    /// Further groups of each cap: outer ones, and those through the side.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub groups: Vec<MoreFasteners>,
    /// The caps were drawn down square by hand before any torque.
    pub drawn_square: bool,
    /// Chamfered washers lie with their chamfer toward the head.
    pub washers_chamfer_up: bool,
    /// The caps that do not sit on their own station facing forward.
    pub caps: Vec<CapSeat>,
    /// Shells in place, where they are known by name.
    pub shells: Vec<ShellsIn>,
}

/// What differs between two set-ups of a row.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum SetUpChange {
    /// Other fasteners.
    Fasteners,
    /// Another lubricant.
    Lubricant,
    /// Other torque steps.
    Torque,
    /// The caps were drawn down another way, or the washers are others or turned.
    Seating,
    /// The fasteners of a further group.
    Group {
        /// Which.
        group: FastenerGroup,
    },
    /// Another cap, or the other way round.
    Cap {
        /// Where.
        station: Place,
    },
    /// Other shells.
    Shells {
        /// Where.
        station: Place,
    },
}

impl SetUpChange {
    /// What it ends, for a set-up of that row.
    pub const fn ends(self, row: BearingRow) -> Ends {
        match self {
            SetUpChange::Cap { station } => Ends { scope: Scope::One(station), tags: &[Tag::Cap] },
            SetUpChange::Shells { station } => Ends { scope: Scope::One(station), tags: &[Tag::ShellsNamed] },
            _ => Ends { scope: row.scope(), tags: &[Tag::Cap] },
        }
    }
}

impl SetUp {
    /// Checks its figures and texts.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        must_be_text(&self.fasteners, "fasteners", None, LONGEST_TEXT)?;
        must_be_text(&self.lubricant, "lubricant", None, LONGEST_TEXT)?;
        must_count(self.steps.len(), "steps", 1, MOST_STEPS)?;
        for (line, step) in self.steps.iter().enumerate() {
            step.check("steps", line)?;
        }
        for (line, group) in self.groups.iter().enumerate() {
            group.check(line)?;
        }
        must_differ(self.groups.iter().map(|g| g.group), "groups")?;
        let caps = self.caps.iter().map(|c| c.station);
        let shells = self.shells.iter().map(|s| s.station);
        for (part, places) in [("caps", caps.collect::<Vec<_>>()), ("shells", shells.collect())] {
            for (line, place) in places.iter().enumerate() {
                let here = place.row() == self.row && place.is_bearing();
                must(here, Flaw::at(part, line, Wrong::Elsewhere("a bearing of the row does")))?;
            }
            must_differ(places, part)?;
        }
        for (line, shells) in self.shells.iter().enumerate() {
            must_be_text(&shells.upper, "shells", Some(line), LONGEST_TEXT)?;
            must_be_text(&shells.lower, "shells", Some(line), LONGEST_TEXT)?;
        }
        Ok(())
    }

    fn cap(&self, station: Place) -> (u8, bool) {
        let own = self.caps.iter().find(|c| c.station == station);
        own.map_or((station.number(), true), |c| (c.cap, c.forward))
    }

    fn shells_at(&self, station: Place) -> Option<(&str, &str)> {
        self.shells.iter().find(|s| s.station == station).map(|s| (s.upper.as_str(), s.lower.as_str()))
    }

    /// What `next` changes. Naming shells nobody had named before changes nothing.
    pub fn changes(&self, next: &SetUp) -> Vec<SetUpChange> {
        let mut changes = Vec::new();
        let set = |s: &SetUp| (s.fastener, s.fasteners.clone(), s.as_finished);
        if set(self) != set(next) {
            changes.push(SetUpChange::Fasteners);
        }
        // What is said for the first time was so already.
        let elsewhere = self.lubricated.is_some() && self.lubricated != next.lubricated;
        if self.lubricant != next.lubricant || elsewhere {
            changes.push(SetUpChange::Lubricant);
        }
        if self.steps != next.steps {
            changes.push(SetUpChange::Torque);
        }
        let washers = self.washers.is_some() && self.washers != next.washers;
        if washers || (self.drawn_square, self.washers_chamfer_up) != (next.drawn_square, next.washers_chamfer_up) {
            changes.push(SetUpChange::Seating);
        }
        changes.extend(differing(&self.groups, &next.groups).into_iter().map(|group| SetUpChange::Group { group }));
        let mut capped: Vec<Place> = self.caps.iter().chain(&next.caps).map(|c| c.station).collect();
        capped.sort();
        capped.dedup();
        let turned = capped.into_iter().filter(|s| self.cap(*s) != next.cap(*s));
        changes.extend(turned.map(|station| SetUpChange::Cap { station }));
        let swapped = next
            .shells
            .iter()
            .map(|s| s.station)
            .filter(|s| self.shells_at(*s).is_some_and(|before| next.shells_at(*s) != Some(before)));
        changes.extend(swapped.map(|station| SetUpChange::Shells { station }));
        changes
    }
}

#[cfg(test)]
pub(crate) mod tests {
    use super::*;
    use crate::log::TorqueUnit;

    pub(crate) fn studs() -> SetUp {
        SetUp {
            row: BearingRow::Mains,
            fastener: FastenerKind::Studs,
            fasteners: "set A".into(),
            washers: None,
            as_finished: true,
            lubricant: "moly paste".into(),
            lubricated: None,
            groups: Vec::new(),
            steps: vec![TorqueStep::Torque { tenths: 600, unit: TorqueUnit::PoundFoot }],
            drawn_square: true,
            washers_chamfer_up: true,
            caps: Vec::new(),
            shells: Vec::new(),
        }
    }

    #[test]
    fn bolts_for_studs_end_what_every_main_bore_showed() {
        let bolts = SetUp { fastener: FastenerKind::Bolts, fasteners: "set B".into(), ..studs() };
        let changes = studs().changes(&bolts);
        assert_eq!(changes, [SetUpChange::Fasteners]);
        let ends: Vec<Ends> = changes.iter().map(|c| c.ends(BearingRow::Mains)).collect();
        assert_eq!(ends, [Ends { scope: Scope::Mains, tags: &[Tag::Cap] }]);
    }

    #[test]
    fn a_turned_cap_ends_its_own_bore_only_and_turning_it_back_does_so_again() {
        let turned = CapSeat { station: Place::main(3), cap: 3, forward: false };
        let other = SetUp { caps: vec![turned], ..studs() };
        assert_eq!(studs().changes(&other), [SetUpChange::Cap { station: Place::main(3) }]);
        assert_eq!(other.changes(&studs()), [SetUpChange::Cap { station: Place::main(3) }]);
        let ends = SetUpChange::Cap { station: Place::main(3) }.ends(BearingRow::Mains);
        assert_eq!(ends.scope, Scope::One(Place::main(3)));
    }

    #[test]
    fn naming_the_shells_for_the_first_time_changes_nothing() {
        let named = |upper: &str| vec![ShellsIn { station: Place::main(2), upper: upper.into(), lower: "std".into() }];
        let first = SetUp { shells: named("std"), ..studs() };
        assert_eq!(studs().changes(&first), []);
        let other = SetUp { shells: named("+1"), ..studs() };
        assert_eq!(first.changes(&other), [SetUpChange::Shells { station: Place::main(2) }]);
    }

    #[test]
    fn what_is_said_for_the_first_time_changes_nothing_and_then_it_counts() {
        let said = |washers, lubricated| SetUp { washers: Some(washers), lubricated: Some(lubricated), ..studs() };
        let first = said(Washers::Ground, Lubricated::ThreadAndFace);
        assert_eq!(studs().changes(&first), []);
        let other = said(Washers::None, Lubricated::Thread);
        assert_eq!(first.changes(&other), [SetUpChange::Lubricant, SetUpChange::Seating]);
        let text = serde_json::to_string(&studs()).unwrap_or_default();
        assert!(
            !text.contains("washers\"") && !text.contains("groups"),
            "older set-ups are written as they were: {text}"
        );
    }

    #[test]
    fn a_cap_of_six_bolts_has_studs_inside_bolts_outside_and_through_the_side() {
        let side = |tenths| MoreFasteners {
            group: FastenerGroup::Side,
            fastener: FastenerKind::Bolts,
            fasteners: "side bolts".into(),
            washers: Washers::Chamfered,
            lubricant: "oil".into(),
            lubricated: Lubricated::Thread,
            steps: vec![TorqueStep::Torque { tenths, unit: TorqueUnit::PoundFoot }],
        };
        let outer = MoreFasteners { group: FastenerGroup::Outer, ..side(550) };
        let with = |groups: &[MoreFasteners]| SetUp { groups: groups.to_vec(), ..studs() };
        let six = with(&[outer.clone(), side(250)]);
        assert_eq!(six.check(), Ok(()));
        assert_eq!(six.changes(&with(&[side(250), outer.clone()])), [], "in whatever order they are written");
        let changes = six.changes(&with(&[outer.clone(), side(300)]));
        assert_eq!(changes, [SetUpChange::Group { group: FastenerGroup::Side }]);
        assert_eq!(changes[0].ends(BearingRow::Mains), Ends { scope: Scope::Mains, tags: &[Tag::Cap] });
        assert_eq!(six.changes(&with(&[])).len(), 2);
        let twice = with(&[outer.clone(), outer.clone()]).check();
        assert_eq!(twice, Err(Flaw::at("groups", 1, Wrong::Twice)));
        let wild = MoreFasteners { steps: vec![TorqueStep::Angle { degrees: 900 }], ..outer };
        assert_eq!(with(&[side(250), wild]).check().map_err(|f| (f.part, f.line)), Err(("groups", Some(1))));
    }

    #[test]
    fn a_set_up_without_steps_or_with_a_cap_twice_is_refused() {
        assert_eq!(studs().check(), Ok(()));
        assert!(SetUp { steps: Vec::new(), ..studs() }.check().is_err());
        let turned_round = vec![studs().steps[0], TorqueStep::Angle { degrees: 900 }];
        let flaw = SetUp { steps: turned_round, ..studs() }.check();
        assert_eq!(flaw.map_err(|f| (f.part, f.line)), Err(("steps", Some(1))));
        let seat = CapSeat { station: Place::main(1), cap: 2, forward: true };
        assert_eq!(SetUp { caps: vec![seat, seat], ..studs() }.check(), Err(Flaw::at("caps", 1, Wrong::Twice)));
        let strange = CapSeat { station: Place::rod(1), cap: 1, forward: false };
        assert!(SetUp { caps: vec![strange], ..studs() }.check().is_err());
    }
}
