//! Measuring as the product leads it, touch by touch: what do rounds spare, and is what they say as true?
use jagged_pin_core::assess::{Wanted, evaluate};
use jagged_pin_core::engine::{Figure, Position, Read, Role};
use jagged_pin_core::log::Rules;
use jagged_pin_core::maths::State;
use jagged_pin_core::record::Refusal;
use jagged_pin_workbench::Bench;

use crate::chance::Chance;
use crate::coverage::Coverage;
use crate::parts::Bearing;
use crate::share::Share;
use crate::shop::{JOURNAL, MIC, Shop, TENTH, Touching, inches, opened, zero_is_off};

/// What engines came to that were measured as the product led.
#[derive(Debug, Clone, Copy, Default)]
pub struct Led {
    /// Figures held against the truth.
    pub figures: Coverage,
    /// Bearings that are proven in or out.
    pub decided: Share,
    /// Touches of journals and bores at places that decide.
    touches: u32,
}

impl Led {
    /// Touches a bearing.
    pub fn touches(&self) -> f64 {
        f64::from(self.touches) / f64::from(self.decided.of.max(1))
    }
}

/// More than any plan asks for of seven mains.
const MOST: u32 = 400;

/// Measures `engines` with both gauges checked in and never checked out, touch by touch as the product asks, in rounds or each
/// place at once. A gauge walks by `shop.walk` over as many touches as two at every place are.
pub fn led(shop: &Shop, rounds: bool, engines: u32, seed: u64) -> Led {
    let mut chance = Chance::seeded(seed);
    let mut found = Led::default();
    for _ in 0..engines {
        if let Ok((bench, bearings, touches)) = measured(shop, rounds, &mut chance) {
            found.touches += touches;
            hold(&mut found, &bench, &bearings);
        }
    }
    found
}

fn hold(found: &mut Led, bench: &Bench, bearings: &[Bearing]) {
    let assessed = evaluate(bench.build());
    let mains = assessed.figures.iter().filter(|f| f.figure == Figure::OIL_CLEARANCE);
    for (figure, bearing) in mains.zip(bearings) {
        let Some(judged) = &figure.judged else { continue };
        found.decided.count(judged.state != State::Edge);
        let tenths = |nm: f64| nm / TENTH;
        found.figures.hold((tenths(judged.clearance.as_f64()), tenths(judged.expanded.as_f64())), bearing.clearance());
        if judged.state == State::In {
            found.figures.false_in.count(bearing.clearance() < 22.0 || bearing.widest() > 28.0);
        }
    }
}

/// The first thing that is wanted and that this shop measures: journals by the mic, bores by the dial.
fn next(bench: &Bench) -> Option<(Wanted, Vec<Position>)> {
    let assessed = evaluate(bench.build());
    let ours = |w: &&Wanted| {
        let role = w.characteristic.role();
        (role == Role::JOURNAL && w.read == Read::Size) || (role == Role::BORE && w.read == Read::Dial)
    };
    let wanted = assessed.wanted.iter().find(ours)?;
    let measured = assessed.figures.iter().flat_map(|f| &f.measured).find(|m| wanted.is_of(m))?;
    Some((*wanted, wanted.touches(measured)))
}

fn measured(shop: &Shop, rounds: bool, chance: &mut Chance) -> Result<(Bench, Vec<Bearing>, u32), Refusal> {
    let (mut bench, bearings) = opened(shop, chance)?;
    bench.rules(Rules { rounds, ..bench.build().rules.clone() }, "as the shop repeats its touches")?;
    bench.zeroed_in(shop.zero);
    let mic_off = chance.normal(shop.offsets * MIC.calibration / 2.0);
    let zero_off = zero_is_off(shop, chance, mic_off);
    bench.open_session(shop.bore.id, Some((&inches(JOURNAL), &inches(0.0))))?;
    bench.open_session(MIC.id, Some((&inches(20_000.0), &inches(20_000.0))))?;
    bench.zero_at(&inches(JOURNAL));
    // Four places of a journal and two of a bore, twice each.
    let whole = f64::from(shop.mains) * 12.0;
    let mut touches = 0;
    while touches < MOST
        && let Some((wanted, positions)) = next(&bench)
        && !positions.is_empty()
    {
        let Some(bearing) = bearings.get(usize::from(wanted.station.number()).saturating_sub(1)) else { break };
        let plan = bench.build().plan(wanted.characteristic, wanted.station.kind()).to_owned();
        let of_journal = wanted.characteristic.role() == Role::JOURNAL;
        let (gauge, off) = if of_journal { (MIC, mic_off) } else { (shop.bore, zero_off) };
        for position in positions {
            let Some(i) = plan.iter().position(|p| p.position == position) else { continue };
            let truths = if of_journal { &bearing.journal[..] } else { &bearing.bore[..] };
            // Toward the parting line nothing is decided: there it is as at the front.
            let decides = i < truths.len();
            let truth = truths.get(i).or(truths.first()).copied().unwrap_or_default();
            let walked = shop.walk * f64::from(touches) / whole;
            let set_at = if of_journal { 0.0 } else { JOURNAL };
            let mut hand = Touching { chance, gauge, hand: shop.hand, touches: 1 };
            let shown = inches(hand.read(truth + off + walked - set_at));
            let mut texts = vec![""; plan.len()];
            if let Some(text) = texts.get_mut(i) {
                *text = &shown;
            }
            bench.take(gauge.id);
            if of_journal {
                bench.size(wanted.station, Role::JOURNAL, &texts)?;
            } else {
                bench.bore(wanted.station, Read::Dial, &texts)?;
            }
            touches += u32::from(decides);
        }
    }
    Ok((bench, bearings, touches))
}
