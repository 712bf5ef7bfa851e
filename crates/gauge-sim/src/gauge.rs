//! One simulated gauge: what it is put on, and what it makes of it.
use jagged_pin_core::gauge::SentFigure;
use jagged_pin_core::{Length, Unit};

/// A gauge that follows a scripted part.
#[derive(Debug, Clone)]
pub struct SimGauge {
    /// Short name, as in the gauge room.
    pub id: String,
    /// The unit its display is switched to.
    pub unit: Unit,
    /// Smallest step of its display.
    pub step: Length,
    /// True sizes (or for a bore gauge true deflections) of the places it will be put on, one a press;
    /// after the last one it begins again.
    pub script: Vec<Length>,
    /// One standard deviation of feel.
    pub feel: Length,
    /// How much it walks with every press.
    pub drift: Length,
    /// One line in this many is damaged on the way; 0 for none.
    pub damaged_one_in: u32,
    presses: u32,
    random: fastrand::Rng,
}

impl SimGauge {
    /// A gauge without feel, drift or damage; `seed` makes its noise the same every time.
    pub fn new(id: &str, unit: Unit, step: Length, seed: u64) -> Self {
        SimGauge {
            id: id.into(),
            unit,
            step,
            script: Vec::new(),
            feel: Length::ZERO,
            drift: Length::ZERO,
            damaged_one_in: 0,
            presses: 0,
            random: fastrand::Rng::with_seed(seed),
        }
    }

    /// Sum of twelve uniform draws less six: close enough to normal for a hand.
    fn hand(&mut self) -> f64 {
        (0..12).map(|_| self.random.f64()).sum::<f64>() - 6.0
    }

    /// The display when the button is pressed on the next place of the script.
    pub fn press(&mut self) -> SentFigure {
        let place = (self.presses as usize) % self.script.len().max(1);
        let truth = self.script.get(place).copied().unwrap_or_default();
        let off = self.feel.as_f64() * self.hand() + self.drift.as_f64() * f64::from(self.presses);
        self.presses += 1;
        let steps = ((truth.as_f64() + off) / self.step.as_f64()).round_ties_even();
        let shown = Length::from_f64(steps * self.step.as_f64()).unwrap_or_default();
        let mut figure = shown.to_decimal(self.unit).normalize();
        // A display shows all its decimals.
        figure.rescale(self.step.to_decimal(self.unit).normalize().scale());
        SentFigure { gauge: self.id.clone(), count: self.presses, figure: figure.to_string(), unit: self.unit }
    }

    /// The line of a press, now and then damaged.
    pub fn line(&mut self) -> String {
        let line = self.press().to_string();
        let damaged = self.damaged_one_in > 0 && self.random.u32(0..self.damaged_one_in) == 0;
        if damaged { line.replacen('.', "?", 1) } else { line }
    }
}

/// The gauges of the demo shop's inch bench, put on the open places of its main story: the journal and
/// the bore of the last main.
pub fn demo_gauges() -> Vec<SimGauge> {
    let t = Length::tenths;
    let feel = Length::from_nm(700);
    let mic = SimGauge {
        script: [26_238, 26_238, 26_238, 26_237, 26_238, 26_238, 26_237, 26_238].map(t).to_vec(),
        feel,
        ..SimGauge::new("mic-tenths", Unit::Inch, t(1), 7)
    };
    let bore = |id: &str, step| SimGauge {
        script: [23, 23, 24, 24, 31, 30].map(t).to_vec(),
        feel,
        drift: Length::from_nm(20),
        ..SimGauge::new(id, Unit::Inch, step, 11)
    };
    let indicator = SimGauge { drift: Length::from_nm(60), ..bore("indicator-tenths", t(1)) };
    vec![mic, bore("bore-tenths", t(1)), bore("bore-half-tenths", Length::from_nm(1_270)), indicator]
}

#[cfg(test)]
mod tests {
    use super::*;
    use jagged_pin_core::gauge::{LineError, read_line};

    #[test]
    fn a_gauge_without_noise_shows_its_script_and_begins_again() {
        let mut mic = SimGauge::new("mic", Unit::Inch, Length::tenths(1), 1);
        mic.script = vec![Length::tenths(26_238), Length::from_nm(66_641_000)];
        let shown: Vec<String> = (0..3).map(|_| mic.press().figure).collect();
        // 66.641 mm is 2.62366 in: the display rounds to its step.
        assert_eq!(shown, ["2.6238", "2.6237", "2.6238"]);
    }

    #[test]
    fn a_lossy_line_is_never_taken_for_a_reading() {
        let mut mic = SimGauge::new("mic", Unit::Mm, Length::microns(1), 3);
        mic.script = vec![Length::microns(59_991)];
        mic.damaged_one_in = 1;
        assert_eq!(read_line(&mic.line()), Err(LineError::Checksum));
        mic.damaged_one_in = 0;
        assert_eq!(read_line(&mic.line()).map(|s| (s.figure, s.count)), Ok(("59.991".into(), 2)));
    }

    #[test]
    fn drift_walks_and_feel_scatters_but_not_far() {
        let mut bore = SimGauge::new("bore", Unit::Inch, Length::from_nm(1_270), 5);
        bore.script = vec![Length::tenths(23)];
        bore.drift = Length::from_nm(127);
        let last = (0..21).map(|_| bore.press().figure).last();
        assert_eq!(last.as_deref(), Some("0.00240"), "twenty presses of a twentieth of a tenth");
    }
}
