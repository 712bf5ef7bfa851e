//! A simulated shop: hands and gauges that err as they are told, measuring parts whose truth is known.
//!
//! A mic shows `round(truth + offset + feel)`; its offset is drawn once for an engine from its calibration, the feel anew at
//! every touch. A bore gauge is zeroed once at a size `R`, and what it was zeroed in decides what the zero is off by. A third
//! touch is taken where the plan asks for one. All figures in tenths.
use jagged_pin_core::engine::{Place, Read, Role};
use jagged_pin_core::evidence::touches_left;
use jagged_pin_core::log::{Rules, ZeroSource};
use jagged_pin_core::maths::{Material, TargetRule};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length};
use jagged_pin_workbench::{Bench, patterns, person};

use crate::chance::Chance;
use crate::parts::{Bearing, Form};

/// One tenth, in nanometres.
pub(crate) const TENTH: f64 = 2_540.0;

/// Nominal journal of the mains.
pub(crate) const JOURNAL: f64 = 26_240.0;

/// A gauge and the hand on it.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Instrument {
    /// Identifier in the build.
    pub id: &'static str,
    /// Name in the build.
    pub name: &'static str,
    /// Step.
    pub step: f64,
    /// How the hand repeats, as declared.
    pub repeat: f64,
    /// Calibration, k = 2.
    pub calibration: f64,
}

/// A gauge in tenths with the usual allowances.
const fn tenths(id: &'static str, name: &'static str) -> Instrument {
    Instrument { id, name, step: 1.0, repeat: 0.3, calibration: 1.0 }
}

/// The mic in tenths.
pub const MIC: Instrument = tenths("mic-tenths", "Outside mic 2-3 in, tenths");
/// The ball-anvil mic in tenths.
pub const BALL_MIC: Instrument = tenths("ball-tenths", "Ball-anvil mic, tenths");
/// The bore gauge in tenths.
pub const BORE_TENTHS: Instrument = tenths("bore-tenths", "Bore gauge, tenths");
/// The bore gauge in half tenths.
pub const BORE_HALF_TENTHS: Instrument =
    Instrument { step: 0.5, ..tenths("bore-half-tenths", "Bore gauge, half tenths") };

/// What may be wrong in a row, by so many tenths.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Fault {
    /// Nothing.
    None,
    /// The mic reads so much over.
    Mic(f64),
    /// The bore gauge was zeroed so much off.
    Zero(f64),
    /// The ring that the bore gauge is set on for sizes is so much off.
    Ring(f64),
    /// The ball mic reads so much over.
    BallMic(f64),
    /// Dirt behind the shells of the third main, over its whole width.
    Dirt(f64),
    /// The journal of the third main was misread.
    Journal(f64),
    /// The bores of the second and third main were read at each other's places.
    SwappedBores,
}

/// A shop and what happens in it.
#[derive(Debug, Clone)]
pub struct Shop {
    /// Forms of the parts.
    pub form: Form,
    /// Mains of a row, at most seven.
    pub mains: u8,
    /// The bore gauge.
    pub bore: Instrument,
    /// How the hand really repeats, as a multiple of what is declared.
    pub hand: f64,
    /// Touches wanted at each place.
    pub touches: u8,
    /// What the bore gauge is zeroed in, and is said to be.
    pub zero: ZeroSource,
    /// Offsets of gauges as a multiple of what their calibration allows.
    pub offsets: f64,
    /// What the mic is off beyond its calibration; found at its open check where both gauges are checked in.
    pub mic_off: f64,
    /// Whether both gauges are checked in before and after.
    pub checked: bool,
    /// What both gauges walk while they are in use, evenly.
    pub walk: f64,
    /// Degrees above 20 in the shop, noted nowhere.
    pub warm: f64,
    /// Material of the block.
    pub block: Material,
    /// Whether bores are also read as sizes of their own.
    pub subtract: bool,
    /// Whether housings and walls are measured too.
    pub components: bool,
    /// What is wrong.
    pub fault: Fault,
    /// Clearances of the row: the middle, and how far the bearings scatter around it.
    pub clearance: (f64, f64),
    /// By how many tenths journals of a row differ, as ground ones do; their shells are matched to them.
    pub journals: f64,
}

impl Shop {
    /// A shop where everything errs as declared.
    pub fn nominal(form: Form) -> Self {
        Shop {
            form,
            mains: 7,
            bore: BORE_TENTHS,
            hand: 1.0,
            touches: 2,
            zero: ZeroSource::SameMic,
            offsets: 1.0,
            mic_off: 0.0,
            checked: false,
            walk: 0.0,
            warm: 0.0,
            block: Material::Iron,
            subtract: false,
            components: false,
            fault: Fault::None,
            clearance: (25.0, 3.0),
            journals: 0.0,
        }
    }
}

/// An engine measured in a shop, beside what is true of it.
#[derive(Debug)]
pub struct Engine {
    /// The build, as the product knows it.
    pub build: Build,
    /// Its mains as they are.
    pub bearings: Vec<Bearing>,
}

/// A hand on a gauge that is off by `offset`.
pub(crate) struct Touching<'c> {
    pub chance: &'c mut Chance,
    pub gauge: Instrument,
    pub hand: f64,
    pub touches: u8,
}

impl Touching<'_> {
    /// What the gauge shows of a truth at one touch, rounded to its step.
    pub fn read(&mut self, truth: f64) -> f64 {
        let felt = truth + self.chance.normal(self.gauge.repeat * self.hand);
        (felt / self.gauge.step).round() * self.gauge.step
    }

    /// The touches of one place, a third one where the plan asks for it.
    fn place(&mut self, truth: f64) -> Vec<f64> {
        let mut touched = Vec::new();
        loop {
            let spread = Length::span(touched.iter().map(|t| length(*t)));
            if touches_left(self.touches, false, touched.len(), spread, length(self.gauge.step)) == 0 {
                return touched;
            }
            touched.push(self.read(truth));
        }
    }

    fn texts(&mut self, truths: &[f64]) -> Vec<String> {
        let text = |touched: Vec<f64>| touched.iter().map(|t| inches(*t)).collect::<Vec<_>>().join(" ");
        truths.iter().map(|truth| text(self.place(*truth))).collect()
    }
}

fn length(tenths: f64) -> Length {
    Length::from_f64(tenths * TENTH).unwrap_or_default()
}

/// As it is typed.
pub(crate) fn inches(tenths: f64) -> String {
    format!("{:.5}in", tenths / 10_000.0)
}

/// Measures an engine in a shop.
///
/// # Errors
/// [`Refusal`] when the product takes a reading for impossible.
pub fn measure(shop: &Shop, chance: &mut Chance) -> Result<Engine, Refusal> {
    let (mut bench, bearings) = opened(shop, chance)?;

    // What each gauge is off in this engine.
    let drawn = |chance: &mut Chance, calibration: f64| chance.normal(shop.offsets * calibration / 2.0);
    let fault = |wanted: fn(Fault) -> Option<f64>| wanted(shop.fault).unwrap_or(0.0);
    let mic =
        drawn(chance, MIC.calibration) + shop.mic_off + fault(|f| if let Fault::Mic(by) = f { Some(by) } else { None });
    let size_of_bores =
        drawn(chance, shop.bore.calibration) - fault(|f| if let Fault::Ring(by) = f { Some(by) } else { None });
    let zero = zero_is_off(shop, chance, mic) + fault(|f| if let Fault::Zero(by) = f { Some(by) } else { None });
    let ball = drawn(chance, 1.0) + fault(|f| if let Fault::BallMic(by) = f { Some(by) } else { None });
    // The crank is steel; what the block grows more shows in the bore.
    let grown = JOURNAL * shop.warm * (shop.block.alpha() - Material::Steel.alpha());
    let apart = chance.normal(0.5) * JOURNAL * shop.block.alpha().max(Material::Steel.alpha());

    let sessions = checks(shop, &mut bench, chance, mic)?;
    let places = f64::from(shop.mains) * 2.0;
    for (i, bearing) in bearings.iter().enumerate() {
        let at = Place::main(u8::try_from(i + 1).unwrap_or(1));
        let walked = shop.walk * (i as f64) / places;
        let misread = match shop.fault {
            Fault::Journal(by) if i == 2 => by,
            _ => 0.0,
        };
        let truths = bearing.journal.map(|j| j + mic + walked + misread);
        let mut hand = Touching { chance, gauge: MIC, hand: shop.hand, touches: shop.touches };
        let texts = hand.texts(&truths);
        let [a, b, c, d] = [&texts[0], &texts[1], &texts[2], &texts[3]].map(String::as_str);
        bench.journal(at, [a, b, c, d])?;
    }
    bench.take(shop.bore.id);
    let mut bores: Vec<&Bearing> = bearings.iter().collect();
    if shop.fault == Fault::SwappedBores && bores.len() > 2 {
        bores.swap(1, 2);
    }
    for (i, bearing) in bearings.iter().enumerate() {
        let at = Place::main(u8::try_from(i + 1).unwrap_or(1));
        let walked = shop.walk * (i as f64 + f64::from(shop.mains)) / places;
        let dirt = match shop.fault {
            Fault::Dirt(by) if i == 2 => by,
            _ => 0.0,
        };
        // Locked on this journal: the mic stands at what the hand felt there, and its figure is what was read.
        let reference = match shop.zero {
            ZeroSource::Locked => bearing.largest_journal() + mic + chance.normal(MIC.repeat * shop.hand),
            _ => JOURNAL,
        };
        let set_at = match shop.zero {
            ZeroSource::Locked => reference - mic,
            _ => reference,
        };
        let mut hand = Touching { chance, gauge: shop.bore, hand: shop.hand, touches: shop.touches };
        let read = bores[i].bore;
        let dials: Vec<f64> = read.iter().map(|b| b - dirt + grown + apart - set_at + zero + walked).collect();
        let texts = hand.texts(&dials);
        bench.zero_at(&inches(reference.round()));
        bench.bore(at, Read::Dial, &[&texts[0], &texts[1]])?;
        if shop.subtract {
            let sizes: Vec<f64> = read.iter().map(|b| b - dirt + grown + apart + size_of_bores + walked).collect();
            let texts = hand.texts(&sizes);
            bench.bore(at, Read::Size, &[&texts[0], &texts[1]])?;
        }
        if shop.components {
            parts_of(shop, &mut bench, hand.chance, (at, bearing), (size_of_bores + grown + apart, ball))?;
        }
    }
    for (id, standard, shown) in sessions {
        bench.close_session(id, Some((&standard, &inches(shown))))?;
    }
    Ok(Engine { build: bench.finish(), bearings })
}

/// A build of a row of mains held to 22 to 28 tenths, and its bearings as they are.
pub(crate) fn opened(shop: &Shop, chance: &mut Chance) -> Result<(Bench, Vec<Bearing>), Refusal> {
    let known = patterns();
    let six = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]);
    let mut pattern = six.clone();
    pattern.layout.rods = None;
    pattern.layout.block = shop.block;
    pattern.layout.mains = shop.mains;
    pattern.layout.crank.bays.truncate(usize::from(shop.mains).saturating_sub(1));
    pattern.layout.thrust = Place::main(shop.mains.min(4));
    pattern.target = TargetRule::Range { low: length(22.0), aim: None, high: length(28.0) };
    let mut bench = Bench::book_in(1, "LAB-1", &pattern, 0, person("oduya"))?;
    if shop.touches != 2 {
        let rules = Rules { touches: shop.touches, ..bench.build().rules.clone() };
        bench.rules(rules, "as many touches as this")?;
    }
    let wall = pattern.layout.main_nominals.as_ref().map_or(943.0, |n| n.wall.as_f64() / TENTH);
    let middle = shop.clearance.0;
    let bearings: Vec<Bearing> = (0..shop.mains)
        .map(|_| {
            let clearance = middle + chance.normal(shop.clearance.1);
            let apart = if shop.journals > 0.0 { chance.normal(shop.journals) } else { 0.0 };
            Bearing::make(chance, shop.form, (JOURNAL + apart, clearance, wall))
        })
        .collect();
    Ok((bench, bearings))
}

/// What the dial shows too much because of what it was zeroed in.
pub(crate) fn zero_is_off(shop: &Shop, chance: &mut Chance, mic: f64) -> f64 {
    let zeroing = chance.normal(shop.bore.repeat * shop.hand);
    zeroing
        + match shop.zero {
            // The size came from the journal itself.
            ZeroSource::Locked => 0.0,
            // Set to R by a scale that reads `mic` over, the mic stands that much too narrow; the line is met within a step.
            ZeroSource::SameMic => mic + chance.between(-0.5, 0.5) * MIC.step,
            ZeroSource::Ring => chance.normal(0.25),
            ZeroSource::OtherMic => {
                chance.normal(shop.offsets * MIC.calibration / 2.0) + chance.between(-0.5, 0.5) * MIC.step
            }
        }
}

/// Housing and walls of one bearing.
fn parts_of(
    shop: &Shop,
    bench: &mut Bench,
    chance: &mut Chance,
    (at, bearing): (Place, &Bearing),
    (housing_off, ball): (f64, f64),
) -> Result<(), Refusal> {
    let [front, rear] = bearing.housing();
    // Around the vertical a housing is round to a few tenths.
    let mut truths = Vec::new();
    for end in [front, rear] {
        truths.extend([end, end + chance.normal(0.5), end + chance.normal(0.5)].map(|h| h + housing_off));
    }
    let mut hand = Touching { chance, gauge: shop.bore, hand: shop.hand, touches: shop.touches };
    let texts = hand.texts(&truths);
    bench.size(at, Role::HOUSING, &texts.iter().map(String::as_str).collect::<Vec<_>>())?;
    for (role, walls) in [Role::UPPER_WALL, Role::LOWER_WALL].into_iter().zip(&bearing.walls) {
        let mut hand = Touching { chance, gauge: BALL_MIC, hand: shop.hand, touches: shop.touches };
        let texts = hand.texts(&walls.map(|w| w + ball));
        bench.size(at, role, &texts.iter().map(String::as_str).collect::<Vec<_>>())?;
    }
    Ok(())
}

/// A sitting that is open: its identifier, the standard as typed, and what the gauge will show there at the end.
type Sitting = (uuid::Uuid, String, f64);

/// Checks both gauges in, where the shop does.
fn checks(shop: &Shop, bench: &mut Bench, chance: &mut Chance, mic: f64) -> Result<Vec<Sitting>, Refusal> {
    if !shop.checked {
        bench.zeroed_in(shop.zero);
        return Ok(Vec::new());
    }
    bench.zeroed_in(shop.zero);
    let standard = 20_000.0;
    let mut hand = Touching { chance, gauge: MIC, hand: shop.hand, touches: shop.touches };
    // The mic is adjusted to its standard but for what it is off by; what its scale is off elsewhere does not show here.
    let scale_at_standard = shop.mic_off;
    let _ = mic;
    let (open, close) = (hand.read(standard + scale_at_standard), hand.read(standard + scale_at_standard + shop.walk));
    let mic = bench.open_session(MIC.id, Some((&inches(standard), &inches(open))))?;
    let mut hand = Touching { chance, gauge: shop.bore, hand: shop.hand, touches: shop.touches };
    let (open, close_bore) = (hand.read(0.0), hand.read(shop.walk));
    let bore = bench.open_session(shop.bore.id, Some((&inches(JOURNAL), &inches(open))))?;
    bench.take(MIC.id);
    Ok(vec![(mic, inches(standard), close), (bore, inches(JOURNAL), close_bore)])
}
