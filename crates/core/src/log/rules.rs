//! What a shop decides once for a build: which size counts, how limits are guarded, how many touches.
use serde::{Deserialize, Serialize};

use super::gate::Gate;
use crate::engine::{BearingRow, Layout, Method, Place, PlaceKind};
use crate::maths::{Acceptance, Cell, CellKind, SizeRule, Times};
use crate::units::{Flaw, Length, Unit, Wrong, must, must_differ};

/// The rules of one build.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rules {
    /// Which of the places counts.
    pub effective: SizeRule,
    /// Whether the uncertainty guards the limits.
    pub acceptance: Acceptance,
    /// Touches wanted at each place before the next one, 1 to 9.
    pub touches: u8,
    /// Whether every place is touched once before any is touched again: the repeats that tell how a hand repeats are made on the
    /// way back, at three places of a row, and others only where another touch may still decide. A walk of the gauge that shows
    /// between them is taken off. Builds of before repeat each touch at once.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub rounds: bool,
    /// Largest believable distance of a size from the expected one.
    pub size_band: Length,
    /// Largest believable distance of a dial from the expected one.
    pub dial_band: Length,
    /// The method that is judged where it is complete; else the one that proves most.
    #[serde(default = "direct", skip_serializing_if = "is_direct")]
    pub preferred: Method,
    /// Whether a crushed strip may decide; by default it is a cross-check.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub strip_judges: bool,
    /// How much part and part, or part and gauge, may differ in temperature when nobody noted it:
    /// standard uncertainty in thousandths of a kelvin.
    #[serde(default = "usual_doubt", skip_serializing_if = "is_usual_doubt")]
    pub temperature_doubt_mk: u32,
    /// Limits of shape that are remarked on.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shape: Option<ShapeLimits>,
    /// The shop's own minutes, where they differ from the usual ones.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub times: Option<Times>,
    /// Most that is polished off a journal's diameter, where it is not the usual three tenths.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub polish_limit: Option<Length>,
    /// Most that is polished off a cam journal, where it is not the usual thou; never more than half of its hard skin.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cam_polish_limit: Option<Length>,
    /// What a torque plate may pull a bore by that was measured without one, where it is not the usual five tenths; zero where
    /// the cylinders are never pulled.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub plate_pull: Option<Length>,
    /// Most that the classes of a pair of shells may differ in what they shift, where it is not the usual thou; zero where
    /// classes are not mixed.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub max_step: Option<Length>,
    /// Where the odd half of a mixed pair belongs, if the shop has a preference.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub odd_half: Option<OddHalf>,
    /// How values and uncertainties are reckoned; builds of before keep what they were judged by.
    #[serde(default, skip_serializing_if = "Reckoning::is_first")]
    pub reckoning: Reckoning,
    /// Whether a grinding wheel on any journal puts every fillet of the crank to *measure*; builds of before did not ask.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub regrind_gate: bool,
    /// Whether washers and rings that were fitted want a picture of how they face before their figures may sign; builds of before did not.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub orientation_pictures: bool,
    /// Whether what was bored, honed, ground or polished has to be washed or flushed before it may sign; builds of before did
    /// not ask.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub cleaning_gate: bool,
    /// Whether what befell the engine, a journal that stops the work, and a crank that was straightened or welded force their
    /// checks before anybody signs; builds of before did not ask.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub check_gate: bool,
    /// How hot the engine runs, and what has to be left of a ring's gap then; builds of before did not reckon with it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub hot: Option<HotRunning>,
    /// How rough surfaces may be, where that is not the usual.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub finish: Option<FinishLimits>,
    /// Rows of which only the front and the rear bearing are measured, on purpose: of those between nothing is claimed.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub sampled: Vec<BearingRow>,
    /// Remarks that nobody signs past without the lead's concession; builds of before only said them.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub gates: Vec<Gate>,
}

/// How rough surfaces may be: Ra. A wall has no limit of its own here: what seats a ring is its hatch.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FinishLimits {
    /// Journals.
    pub journal: Length,
    /// Faces that a gasket seals on.
    pub face: Length,
}

impl FinishLimits {
    /// Eight millionths of an inch for a journal, sixty for a face under a composite gasket.
    pub const USUAL: FinishLimits = FinishLimits { journal: Length::from_nm(203), face: Length::from_nm(1_524) };

    /// What a surface at a place may have; absent where nothing is asked.
    pub const fn at(self, place: Place) -> Option<Length> {
        match place.kind() {
            PlaceKind::Main | PlaceKind::Pin => Some(self.journal),
            PlaceKind::Deck | PlaceKind::Head => Some(self.face),
            _ => None,
        }
    }

    /// What a surface may have, where what was read there is more.
    pub fn exceeded(self, place: Place, roughness: Length) -> Option<Length> {
        self.at(place).filter(|limit| roughness > *limit)
    }

    fn are_believable(self) -> bool {
        let rough = |l: Length| l > Length::ZERO && l <= Length::microns(50);
        rough(self.journal) && rough(self.face)
    }
}

/// How hot an engine runs: what ring gaps and pistons are reckoned with. Degrees Celsius.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HotRunning {
    /// The wall of a cylinder.
    pub bore_c: i16,
    /// A ring.
    pub ring_c: i16,
    /// The skirt of a piston.
    pub skirt_c: i16,
    /// What has to be left of a ring's gap.
    pub ring_floor: Length,
    /// What a piston closes by, by the builder's own figure.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub piston_closes: Option<Length>,
}

impl HotRunning {
    /// A wall 80 K over the room, a ring 130 K, a skirt fifteen over its wall; four thou are left of a ring's gap.
    pub const USUAL: HotRunning =
        HotRunning { bore_c: 100, ring_c: 150, skirt_c: 115, ring_floor: Length::tenths(40), piston_closes: None };

    fn is_believable(&self) -> bool {
        let warm = |c: i16| (20..=500).contains(&c);
        let small = |l: Length| l >= Length::ZERO && l <= Length::tenths(1_000);
        [self.bore_c, self.ring_c, self.skirt_c].into_iter().all(warm)
            && small(self.ring_floor)
            && self.piston_closes.is_none_or(small)
    }
}

/// How the touches of a build become values and uncertainties. What was judged by one reckoning means the same for ever;
/// new builds take the latest, and the lead can move a build on by a change of its rules.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Default, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Reckoning {
    /// Every dial counts as carried across from the journal; a hand as the shop declares it; the worst place as it was read.
    #[default]
    First,
    /// What a bore gauge was zeroed in decides; the hand as it shows in the repeats; the worst of several places corrected.
    Second,
    /// Both ends of a bearing are judged, the smallest clearance against the lower limit and the largest against the upper;
    /// single limits by the uncertainty alone; bends instead of what an indicator travels; shapes without the noise of their
    /// readings; between two blades by the interval that they prove; and few repeats tell less of a hand.
    Third,
}

/// The side of a mixed pair for the half that is farther from standard.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum OddHalf {
    /// In the block or the rod.
    Upper,
    /// In the cap.
    Lower,
}

impl Reckoning {
    fn is_first(&self) -> bool {
        *self == Reckoning::First
    }
}

/// Largest departures from a true cylinder.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ShapeLimits {
    /// Taper of a journal.
    pub journal_taper: Length,
    /// Out-of-round of a journal.
    pub journal_round: Length,
    /// Out-of-round of a housing.
    pub housing_round: Length,
    /// Taper of a housing; as much as it may be out of round where nobody said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub housing_taper: Option<Length>,
}

/// The method a shop prefers unless it says otherwise: the mic's error cancels.
const fn direct() -> Method {
    Method::DIRECT
}

fn is_direct(method: &Method) -> bool {
    *method == Method::DIRECT
}

/// Half a kelvin: parts and gauges that lay on one bench for an hour.
pub const USUAL_DOUBT_MK: u32 = 500;

/// A fifth of a kelvin: temperatures that were measured.
pub const NOTED_DOUBT_MK: u32 = 200;

const fn usual_doubt() -> u32 {
    USUAL_DOUBT_MK
}

fn is_usual_doubt(doubt: &u32) -> bool {
    *doubt == USUAL_DOUBT_MK
}

impl Rules {
    /// The rules a shop starts with: worst place, guarded limits, two touches.
    pub fn standard(unit: Unit) -> Self {
        Rules {
            effective: SizeRule::Worst,
            acceptance: Acceptance::Guarded,
            touches: 2,
            rounds: false,
            size_band: Cell::new(CellKind::Size, unit).band,
            dial_band: Cell::new(CellKind::Dial, unit).band,
            preferred: Method::DIRECT,
            strip_judges: false,
            temperature_doubt_mk: USUAL_DOUBT_MK,
            shape: Some(ShapeLimits {
                journal_taper: ENDURANCE_ROUND,
                journal_round: ENDURANCE_ROUND,
                housing_round: ENDURANCE_HOUSING,
                housing_taper: None,
            }),
            times: None,
            polish_limit: None,
            cam_polish_limit: None,
            plate_pull: None,
            max_step: None,
            odd_half: None,
            reckoning: Reckoning::Third,
            regrind_gate: true,
            orientation_pictures: true,
            cleaning_gate: true,
            check_gate: true,
            hot: Some(HotRunning::USUAL),
            finish: None,
            sampled: Vec::new(),
            gates: Gate::ALL.to_vec(),
        }
    }

    /// Whether a bearing lies between the two of its row that are measured as a sample.
    pub fn samples_around(&self, layout: &Layout, place: Place) -> bool {
        let ends = || [1, layout.count(place.kind())].contains(&usize::from(place.number()));
        self.sampled.contains(&place.row()) && !ends()
    }

    /// Touches that a place is asked for before anything is known of its figure. In rounds the first, the middle and the last
    /// place of a row show how a hand repeats, and elsewhere one is enough.
    pub fn touches_at(&self, layout: &Layout, place: Place) -> u8 {
        let (last, number) = (layout.count(place.kind()), usize::from(place.number()));
        let shows_the_hand = [1, last.div_ceil(2), last].contains(&number);
        if self.rounds && !shows_the_hand { 1 } else { self.touches }
    }

    /// How rough surfaces may be.
    pub fn finish(&self) -> FinishLimits {
        self.finish.unwrap_or(FinishLimits::USUAL)
    }

    /// Most that is polished off a diameter.
    pub fn polish_limit(&self) -> Length {
        self.polish_limit.unwrap_or(USUAL_POLISH)
    }

    /// Most that is polished off a cam journal.
    pub fn cam_polish_limit(&self) -> Length {
        self.cam_polish_limit.unwrap_or(USUAL_CAM_POLISH)
    }

    /// What a torque plate may pull a bore by that was measured without one; nothing by the reckonings of before.
    pub fn plate_pull(&self) -> Length {
        let asked = self.reckoning >= Reckoning::Third;
        if asked { self.plate_pull.unwrap_or(USUAL_PULL) } else { Length::ZERO }
    }

    /// Most that the classes of a pair may differ.
    pub fn max_step(&self) -> Length {
        self.max_step.unwrap_or(USUAL_STEP)
    }

    /// How long work takes here.
    pub fn times(&self) -> Times {
        self.times.unwrap_or(Times::USUAL)
    }

    /// Checks that they can be worked by.
    ///
    /// # Errors
    /// [`Flaw`] names the part and the line that cannot be.
    pub fn check(&self) -> Result<(), Flaw> {
        let positive = |l: Length| l > Length::ZERO && l <= Length::LIMIT;
        must((1..=9).contains(&self.touches), Flaw::of("touches", Wrong::Figure("1 to 9")))?;
        must(positive(self.size_band), Flaw::of("size_band", Wrong::Figure("above zero")))?;
        must(positive(self.dial_band), Flaw::of("dial_band", Wrong::Figure("above zero")))?;
        let doubt = Flaw::of("temperature_doubt_mk", Wrong::Figure("at most 20 kelvin"));
        must(self.temperature_doubt_mk <= 20_000, doubt)?;
        let shape = |s: &ShapeLimits| {
            let all = [s.journal_taper, s.journal_round, s.housing_round];
            all.into_iter().chain(s.housing_taper).all(positive)
        };
        must(self.shape.as_ref().is_none_or(shape), Flaw::of("shape", Wrong::Figure("above zero")))?;
        let small = |l: Option<Length>, most: Length| l.is_none_or(|l| (Length::ZERO..=most).contains(&l));
        let polish = Flaw::of("polish_limit", Wrong::Figure("at most a thou: more is a grind"));
        must(small(self.polish_limit, Length::tenths(10)), polish)?;
        let of_cam = Flaw::of("cam_polish_limit", Wrong::Figure("at most three thou"));
        must(small(self.cam_polish_limit, Length::tenths(30)), of_cam)?;
        let pull = Flaw::of("plate_pull", Wrong::Figure("at most five thou"));
        must(small(self.plate_pull, Length::tenths(50)), pull)?;
        let step = Flaw::of("max_step", Wrong::Figure("at most three thou"));
        must(small(self.max_step, Length::tenths(30)), step)?;
        let hot = self.hot.is_none_or(|hot| hot.is_believable());
        must(hot, Flaw::of("hot", Wrong::Figure("20 to 500 degrees, and a tenth of an inch at most")))?;
        let finish = self.finish.is_none_or(FinishLimits::are_believable);
        must(finish, Flaw::of("finish", Wrong::Figure("above zero, fifty micrometres at most")))?;
        must_differ(self.gates.iter().copied(), "gates")?;
        must_differ(self.sampled.iter().copied(), "sampled")?;
        let times = self.times.is_none_or(|t| t.are_believable());
        must(times, Flaw::of("times", Wrong::Figure("a minute to a working day each")))
    }
}

/// Three tenths: a polish corrects a finish, and hardly a size.
const USUAL_POLISH: Length = Length::tenths(3);

/// A thou: a cam is polished to fit where a crank is not, and its hard skin is thin.
const USUAL_CAM_POLISH: Length = Length::tenths(10);

/// Five tenths: what a plate pulls a bore of a usual block by.
const USUAL_PULL: Length = Length::tenths(5);

/// A thou: with classes half a thou apart, two steps are exact and allowed.
const USUAL_STEP: Length = Length::tenths(10);

/// Taper and out-of-round of a journal built to last: two tenths.
const ENDURANCE_ROUND: Length = Length::tenths(2);

/// Out-of-round of its housing: four tenths.
const ENDURANCE_HOUSING: Length = Length::tenths(4);
