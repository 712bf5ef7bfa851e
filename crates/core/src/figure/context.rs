//! What is worked out once for a whole build and used by every figure.
use std::cell::OnceCell;

use rustc_hash::FxHashMap;

use super::advice::InReach;
use super::result::Measured;
use super::targets::Targets;
use super::uncertainty::{MeasuredBy, of_size};
use crate::build::{Build, Standing};
use crate::engine::{BearingRow, Characteristic, Expects, Figure, Place, Read, Role, Seat};
use crate::evidence::{
    Endings, Inspections, Notes, Sessions, SizeAssessment, SlottedReadings, Spot, TakenReading, assess_size,
    gauge_behind,
};
use crate::gauge::gauge_fit;
use crate::log::{Fact, Reckoning, Rules};
use crate::maths::{BELONGS_WITHIN, Target};
use crate::units::Length;

/// What is worked out once for a whole build.
pub(crate) struct Context<'a> {
    pub build: &'a Build,
    pub notes: &'a [&'a Fact],
    pub rules: &'a Rules,
    pub sessions: &'a Sessions,
    /// What could be measured with.
    pub gauges: &'a [InReach<'a>],
    pub touches: SlottedReadings<'a>,
    pub standing: &'a Standing<'a>,
    pub endings: &'a Endings<'a>,
    pub inspections: &'a Inspections<'a>,
    pub noted: &'a Notes<'a>,
    pub targets: Targets,
    /// Bearings with shells that somebody named, and not as standard: what the catalogue says of walls is not of them.
    pub named_shells: Vec<Place>,
    /// What is measured along each row, as a rule: a crank ground under shows by its first journal.
    pub usual: UsualSizes,
}

/// What the journals, housings and walls of each row measure as a rule: the median of every touch that counts.
#[derive(Debug, Default)]
pub(crate) struct UsualSizes(FxHashMap<(BearingRow, Role), Sizes>);

/// Sizes in no order, and their median once somebody asked for it.
#[derive(Debug, Default)]
struct Sizes {
    all: Vec<Length>,
    median: OnceCell<Option<Length>>,
}

impl Sizes {
    fn median(&self) -> Option<Length> {
        *self.median.get_or_init(|| Length::median(&self.all))
    }
}

/// Whether the rest of a row is expected around it, or it stands in for what the catalogue would tell.
fn tells_of_row(of: Characteristic) -> bool {
    of.role() == Role::JOURNAL || matches!(of.row().expects, Expects::Housing | Expects::Wall)
}

impl UsualSizes {
    pub fn of(touches: &SlottedReadings<'_>) -> Self {
        let mut sizes: FxHashMap<(BearingRow, Role), Sizes> = FxHashMap::default();
        for (place, characteristic, touches) in touches.fresh().filter(|(_, of, _)| tells_of_row(*of)) {
            let mut touches = touches.map(|t| t.size).peekable();
            if touches.peek().is_some() {
                sizes.entry((place.row(), characteristic.role())).or_default().all.extend(touches);
            }
        }
        UsualSizes(sizes)
    }

    /// One more touch that counts.
    pub fn add(&mut self, touch: &TakenReading<'_>) {
        if !tells_of_row(touch.reading.characteristic) {
            return;
        }
        let of = (touch.reading.station.row(), touch.reading.characteristic.role());
        let sizes = self.0.entry(of).or_default();
        sizes.all.push(touch.size);
        sizes.median.take();
    }

    /// Whether anything is measured of a row.
    pub fn is_known(&self, row: BearingRow, role: Role) -> bool {
        self.0.contains_key(&(row, role))
    }

    fn get(&self, row: BearingRow, role: Role) -> Option<Length> {
        self.0.get(&(row, role))?.median()
    }
}

impl Context<'_> {
    /// The window that a figure is held to at a place.
    pub fn window(&self, figure: Figure, place: Place) -> Option<Target> {
        self.targets.at(figure, place).map(|target| target.window)
    }

    /// What an input of a figure of that place is expected to measure while nothing is known of it, on a journal of that size.
    fn expected(&self, place: Place, target: Option<Target>, of: Characteristic, journal: Length) -> Length {
        let row = place.row();
        // Of an engine the shop does not know, the first of a row tells what the next ones are.
        let unknown = |before: Length| match self.rules.reckoning {
            Reckoning::First => before,
            _ => self.usual.get(row, of.role()).unwrap_or_default(),
        };
        let nominals = self.build.layout.nominals(row);
        let aim = target.map_or(Length::ZERO, |window| window.aim);
        // A journal that is under by a class has walls that are thicker by half of it.
        let under = self.build.layout.journal(row) - journal;
        match of.row().expects {
            Expects::OwnNominal => self.build.layout.own_nominal(place).unwrap_or_default(),
            Expects::OwnNominalAndAim => self.build.layout.own_nominal(place).map_or(Length::ZERO, |n| n + aim),
            Expects::UsualJournal => journal,
            Expects::JournalAndAim => journal + aim,
            Expects::Housing => nominals.map_or_else(|| unknown(journal + aim), |n| n.housing),
            Expects::Wall => nominals.map_or_else(
                || unknown(Length::ZERO),
                |n| {
                    let middle = n.wall - Length::from_nm(n.wall_tolerance.nm() / 2);
                    if under > BELONGS_WITHIN { middle + Length::from_nm(under.nm() / 2) } else { middle }
                },
            ),
            Expects::Aim => aim,
            Expects::Anything => Length::ZERO,
        }
    }

    /// One input of a figure, measured at `at`; `None` where that place has no such thing.
    pub fn measured(
        &self,
        touches: &SlottedReadings<'_>,
        (place, target): (Place, Option<Target>),
        (role, read): (Role, Read),
        (at, journal): (Place, Length),
    ) -> Option<Measured> {
        let characteristic = Characteristic::at(at, role)?;
        let expected = self.expected(place, target, characteristic, journal);
        let track = self.build.layout.track_of(place).filter(|_| at != place);
        let spot = Spot { place: at, characteristic, read, track };
        let wanted = match read {
            Read::Size | Read::Dial => self.rules.touches_at(&self.build.layout, at),
            _ => self.rules.touches,
        };
        let mut size = assess_size((self.rules, wanted), touches, spot, expected);
        let window = target.map(|window| window.high - window.low);
        if let Some(size) = &mut size.size {
            let gauge = gauge_behind(self.build, self.sessions, size);
            // What a wall or a housing may be off by goes into the clearance all the same.
            let fit = gauge.zip(window).map(|(g, w)| gauge_fit(g.resolution, w));
            size.gauge_fit = fit.filter(|_| characteristic.row().checked_gauge);
        }
        let kind = characteristic.row().part;
        let fit = !kind.row().moves || self.standing.is_fit(Seat::of(kind, at));
        Some(Measured { role, read, place: at, track, characteristic, moot: !fit, size })
    }

    /// How sure a size is by itself.
    pub fn doubt_of(&self, size: &SizeAssessment, role: Role) -> Length {
        let by = size.size.as_ref().and_then(|size| {
            let gauge = gauge_behind(self.build, self.sessions, size)?;
            Some(MeasuredBy::of(gauge, size))
        });
        by.map_or(Length::ZERO, |by| of_size(role, by).expanded)
    }

    /// What the journals of a place's row measure as a rule.
    pub fn usual_journal(&self, place: Place) -> Length {
        let row = place.row();
        self.usual.get(row, Role::JOURNAL).unwrap_or_else(|| self.build.layout.journal(row))
    }
}
