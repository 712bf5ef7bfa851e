//! Steps of tightening: to a torque, by an angle, to a stretch; read and shown as they are written in the shop.
use serde::{Deserialize, Serialize};

use crate::units::{Flaw, Length, Wrong, must};

/// Longest list of steps anybody tightens by.
pub(super) const MOST_STEPS: usize = 12;

/// Unit of a torque.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TorqueUnit {
    /// Newton metres.
    NewtonMetre,
    /// Pound feet.
    PoundFoot,
}

/// One step of tightening.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum TorqueStep {
    /// To a torque.
    Torque {
        /// Tenths of the unit, 1 to 20 000.
        tenths: u16,
        /// The unit.
        unit: TorqueUnit,
    },
    /// By an angle.
    Angle {
        /// Degrees, 1 to 720.
        degrees: u16,
    },
    /// To a stretch of the fastener.
    Stretch {
        /// The stretch.
        stretch: Length,
    },
}

impl TorqueStep {
    /// Reads a step as it is written in the shop: `65 lb-ft`, `88 Nm`, `60 deg`, `0.0060 stretch`.
    ///
    /// ```
    /// use jagged_pin_core::log::{TorqueStep, TorqueUnit};
    /// use jagged_pin_core::{Unit};
    ///
    /// let step = TorqueStep::parse("22.5 lb-ft", Unit::Inch);
    /// assert_eq!(step, Ok(TorqueStep::Torque { tenths: 225, unit: TorqueUnit::PoundFoot }));
    /// assert_eq!(step.map(|s| s.show(Unit::Inch)), Ok("22.5 lb-ft".to_owned()));
    /// assert!(TorqueStep::parse("65", Unit::Inch).is_err());
    /// ```
    ///
    /// # Errors
    /// A sentence that says how steps are written.
    pub fn parse(text: &str, unit: crate::units::Unit) -> Result<Self, String> {
        let wrong = || format!("\"{text}\" is no step: write it like 65 lb-ft, 88 Nm, 60 deg or 0.0060 stretch");
        let trimmed = text.trim();
        let split = trimmed.find(|c: char| !(c.is_ascii_digit() || c == '.' || c == ',')).ok_or_else(wrong)?;
        let (figure, name) = trimmed.split_at(split);
        let name = name.trim().to_ascii_lowercase().replace(['-', ' ', '.'], "");
        let tenths = || -> Option<u16> {
            let value: rust_decimal::Decimal = figure.replace(',', ".").parse().ok()?;
            let tenths = value.checked_mul(rust_decimal::Decimal::TEN)?.normalize();
            if tenths.scale() == 0 { tenths.try_into().ok() } else { None }
        };
        let torque = |unit| tenths().map(|tenths| TorqueStep::Torque { tenths, unit });
        let step = match name.as_str() {
            "nm" => torque(TorqueUnit::NewtonMetre),
            "lbft" | "ftlb" | "ftlbs" | "lbsft" => torque(TorqueUnit::PoundFoot),
            "deg" | "\u{b0}" | "degrees" => figure.parse().ok().map(|degrees| TorqueStep::Angle { degrees }),
            "stretch" => crate::maths::parse_length(figure, unit).ok().map(|stretch| TorqueStep::Stretch { stretch }),
            _ => None,
        };
        step.ok_or_else(wrong)
    }

    /// Checks its figure; `part` and `line` are where it stands.
    ///
    /// # Errors
    /// [`Flaw`] when nothing is tightened by that much.
    pub(super) fn check(self, part: &'static str, line: usize) -> Result<(), Flaw> {
        let (fits, what) = match self {
            TorqueStep::Torque { tenths, .. } => ((1..=20_000).contains(&tenths), "a torque of 0.1 to 2000"),
            TorqueStep::Angle { degrees } => ((1..=720).contains(&degrees), "an angle of 1 to 720 degrees"),
            TorqueStep::Stretch { stretch } => {
                (stretch > Length::ZERO && stretch <= Length::microns(5_000), "a stretch of up to 5 mm")
            }
        };
        must(fits, Flaw::at(part, line, Wrong::Figure(what)))
    }

    /// As [`TorqueStep::parse`] reads it.
    pub fn show(self, unit: crate::units::Unit) -> String {
        match self {
            TorqueStep::Torque { tenths, unit } => {
                let name = match unit {
                    TorqueUnit::NewtonMetre => "Nm",
                    TorqueUnit::PoundFoot => "lb-ft",
                };
                if tenths % 10 == 0 {
                    format!("{} {name}", tenths / 10)
                } else {
                    format!("{}.{} {name}", tenths / 10, tenths % 10)
                }
            }
            TorqueStep::Angle { degrees } => format!("{degrees} deg"),
            TorqueStep::Stretch { stretch } => {
                let shown = stretch.show(unit);
                format!("{} stretch", shown.split(' ').next().unwrap_or_default())
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_step_reads_back_as_it_is_shown() {
        let stretch = TorqueStep::Stretch { stretch: Length::tenths(60) };
        let torque = TorqueStep::Torque { tenths: 550, unit: TorqueUnit::NewtonMetre };
        for step in [stretch, torque, TorqueStep::Angle { degrees: 60 }] {
            assert_eq!(TorqueStep::parse(&step.show(crate::units::Unit::Inch), crate::units::Unit::Inch), Ok(step));
        }
        for wrong in ["", "Nm", "60", "6.25 Nm", "60.5 deg", "tight", "99999999 Nm", "9 stones"] {
            assert!(TorqueStep::parse(wrong, crate::units::Unit::Inch).is_err(), "{wrong}");
        }
    }
}
