//! True parts: forms that nobody ever sees but through a gauge. All figures in tenths (0.0001 in).
use crate::chance::Chance;

/// How far parts lie from true cylinders: standard deviation of taper and ovality.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Form {
    /// Perfect.
    Ideal,
    /// Half a tenth.
    Good,
    /// A tenth.
    Typical,
    /// Three tenths.
    Worn,
    /// Three of ten perfect, five typical, two worn.
    Mix,
}

impl Form {
    /// Every form.
    pub const ALL: [Form; 5] = [Form::Ideal, Form::Good, Form::Typical, Form::Worn, Form::Mix];

    fn deviation(self, chance: &mut Chance) -> f64 {
        match self {
            Form::Ideal => 0.0,
            Form::Good => 0.5,
            Form::Typical => 1.0,
            Form::Worn => 3.0,
            Form::Mix if chance.percent(30.0) => 0.0,
            Form::Mix if chance.percent(500.0 / 7.0) => 1.0,
            Form::Mix => 3.0,
        }
    }
}

/// One main bearing as it really is.
#[derive(Debug, Clone, PartialEq)]
pub struct Bearing {
    /// Journal at front and rear, at 0 and 90 degrees each.
    pub journal: [f64; 4],
    /// Bore over the shells at front and rear, vertical.
    pub bore: [f64; 2],
    /// Walls of the upper and the lower shell at front and rear.
    pub walls: [[f64; 2]; 2],
}

impl Bearing {
    /// A bearing whose cylinders would leave `clearance`, on a journal of that size, with walls near `wall`.
    pub fn make(chance: &mut Chance, form: Form, (journal, clearance, wall): (f64, f64, f64)) -> Self {
        let spread = form.deviation(chance);
        let (taper, oval, bore) =
            (chance.normal(spread) / 2.0, chance.normal(spread) / 2.0, chance.normal(spread) / 2.0);
        let around = [-taper - oval, -taper + oval, taper - oval, taper + oval];
        let walls = [0, 1].map(|_| {
            let wall = wall - chance.between(0.0, 3.0);
            [wall, wall]
        });
        Bearing {
            journal: around.map(|off| journal + off),
            bore: [-bore, bore].map(|off| journal + clearance + off),
            walls,
        }
    }

    /// The largest journal.
    pub fn largest_journal(&self) -> f64 {
        self.journal.into_iter().fold(f64::MIN, f64::max)
    }

    /// Journal sizes at an end, the smaller first.
    fn journal_at(&self, end: usize) -> [f64; 2] {
        let [a, b] = [self.journal[2 * end], self.journal[2 * end + 1]];
        [a.min(b), a.max(b)]
    }

    /// The least clearance at any end, over the thickest of the journal there: what is held against the lower limit.
    pub fn clearance(&self) -> f64 {
        let at = |end: usize| self.bore[end] - self.journal_at(end)[1];
        at(0).min(at(1))
    }

    /// The largest clearance at any end, over the thinnest of the journal there: what is held against the upper limit.
    pub fn widest(&self) -> f64 {
        let at = |end: usize| self.bore[end] - self.journal_at(end)[0];
        at(0).max(at(1))
    }

    /// The housing at front and rear, vertical: what bore and walls leave.
    pub fn housing(&self) -> [f64; 2] {
        [0, 1].map(|end| self.bore[end] + self.walls[0][end] + self.walls[1][end])
    }
}
