//! What is known of the sizes around one thing that is being measured: enough to read what is typed there, one reading or a
//! whole file of them.
use std::cell::OnceCell;

use super::room::{Along, with_room};
use crate::build::Build;
use crate::engine::{BearingRow, Characteristic, Figure, Input, Place, Read, Role};
use crate::figure::Measured;
use crate::log::{Fact, Rules};
use crate::units::Length;

/// What is known of the sizes around one thing that is being measured.
#[derive(Debug, Clone, PartialEq)]
pub struct Around {
    /// The figure it belongs to.
    pub row: BearingRow,
    /// What is measured.
    pub measured: Measured,
    /// The journal of the figure, as far as it is measured.
    pub journal: Option<Length>,
    /// What it is to come to, where the figure has a target.
    pub aim: Option<Length>,
    /// Whether a journal of the row is measured, so that the next one is expected near it.
    pub row_known: bool,
    /// The rules in force.
    pub rules: Rules,
}

/// Something that is measured, as it is typed: where, what, which way of reading it, and on which track.
pub type TypedAt = (Place, Characteristic, (Read, Option<u8>));

impl Along<'_> {
    /// The sizes around a characteristic of a place, without anything that is judged from them; `None` where no figure is made
    /// of it.
    pub fn around(&self, (place, characteristic, (read, track)): TypedAt) -> Option<Around> {
        let (context, layout) = (&self.context, &self.context.build.layout);
        let role = characteristic.role();
        let made_of = |figure: &Figure, at: Place| {
            let ours = |i: &&Input| i.role == role && (i.read == read || !characteristic.row().reads_apart);
            let input = figure.inputs().iter().find(ours)?;
            let of_track = track.is_none() || layout.track_of(at) == track;
            (figure.is_at(at) && of_track && layout.places_with(at, role).any(|p| p == place)).then_some(*input)
        };
        let (figure, at, input) = Figure::all()
            .find_map(|figure| layout.places().find_map(|at| made_of(&figure, at).map(|input| (figure, at, input))))?;
        let usual = context.usual_journal(at);
        let asked = (at, context.window(figure, at));
        let of = |role, read, there, shaft| context.measured(&context.touches, asked, (role, read), (there, shaft));
        let journal_at = layout.places_with(at, Role::JOURNAL).next().unwrap_or(at);
        let journal = of(Role::JOURNAL, Read::Size, journal_at, usual).and_then(|m| m.size.size).map(|s| s.effective);
        let measured = of(role, input.read, place, journal.unwrap_or(usual))?;
        let row_known = context.usual.is_known(at.row(), Role::JOURNAL);
        let aim = context.window(figure, at).map(|window| window.aim);
        Some(Around { row: at.row(), measured, journal, aim, row_known, rules: context.rules.clone() })
    }
}

/// The sizes around a characteristic of a place as a build stands.
pub fn around(build: &Build, at: TypedAt) -> Option<Around> {
    with_room(build, &[], |along| along.around(at))
}

/// Does something with a build on top of which at most `most` readings are put.
pub fn along<R>(build: &Build, most: usize, work: impl FnOnce(&mut Along<'_>) -> R) -> R {
    let room: Vec<OnceCell<Fact>> = (0..most).map(|_| OnceCell::new()).collect();
    with_room(build, &room, work)
}
