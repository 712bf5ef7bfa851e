//! What was typed and what was understood of it: they must agree, or somebody wrote one of them into a file.
use super::typed::stamped;
use crate::build::Build;
use crate::evidence::Sessions;
use crate::log::{Measure, Reading};
use crate::maths::{Cell, CellKind, parse_entry};
use crate::units::{Length, Unit};

/// Whether the text, read as a figure of that kind, can mean that length: what a tail leaves out is taken from the length
/// itself.
fn can_mean(text: &str, kind: CellKind, meant: Length, units: &[Unit], resolutions: &[Length]) -> bool {
    let read = |unit: Unit, resolution: Length| {
        let cell = Cell { resolution, band: Length::LIMIT, ..Cell::new(kind, unit).expecting(meant) };
        parse_entry(text, &cell).is_ok_and(|entry| entry.value == meant)
    };
    units.iter().copied().any(|unit| resolutions.iter().any(|r| read(unit, *r)) || read(unit, unit.dial_step()))
}

/// Whether the text of a reading can mean what the reading says, in either unit and by any step its gauge may have.
/// `sessions` are those of the whole build.
pub(super) fn agrees(build: &Build, sessions: &Sessions, reading: &Reading) -> bool {
    agrees_in(&[Unit::Inch, Unit::Mm], build, sessions, reading)
}

/// The same in some units only.
pub(super) fn agrees_in(units: &[Unit], build: &Build, sessions: &Sessions, reading: &Reading) -> bool {
    let session = reading.session.and_then(|id| sessions.get(id));
    let gauge = session.map(|s| &s.gauge).or_else(|| build.gauge(&reading.gauge));
    let steps: Vec<Length> = gauge.map(|g| g.resolution).into_iter().collect();
    let parts: Vec<&str> =
        reading.raw.split(|c: char| c.is_whitespace() || c == '/').filter(|t| !t.is_empty()).collect();
    let each = |meant: &[Length]| {
        parts.len() == meant.len()
            && parts.iter().zip(meant).all(|(text, meant)| can_mean(text, CellKind::Dial, *meant, units, &steps))
    };
    match reading.measure {
        Measure::Size { size } => can_mean(&reading.raw, reading.characteristic.cell(), size, units, &steps),
        Measure::Dial { dial, .. } => can_mean(&reading.raw, CellKind::Dial, dial, units, &steps),
        Measure::Travel { first, second, again } => each(&[first, second, again]),
        Measure::Blades { passes, refuses } => {
            let [first, second] = parts.as_slice() else { return false };
            let typed = [(*first).to_owned(), (*second).to_owned()];
            let means = |unit| stamped(unit, &typed) == Some([passes, refuses]);
            each(&[passes, refuses]) || units.iter().copied().any(means)
        }
        Measure::Turn { shown } => can_mean(&reading.raw, CellKind::Dial, shown, units, &steps),
    }
}
