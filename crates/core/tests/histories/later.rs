//! What people do beside gauges and wrenches: they look, weigh, stroke, check, take pictures, and things befall the engine. The
//! frozen histories know nothing of it and keep their own numbers.
use jagged_pin_core::engine::{Axial, Characteristic, Place, PlaceKind, Read, Role, Scope};
use jagged_pin_core::log::{
    Befell, BridgeGrid, Check, CheckDone, CheckFound, Coating, GaugeEdge, GaugePoint, Inspection, LOOKS, Mark, Mishap,
    Moment, NOTES, Noted, Picture, Stroked, StrokesDone, TorqueAt, Trial, What, Work, WorkEvent,
};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Build, Length};

use super::{Dice, History};

/// A build after everything that was tried, the later kinds of fact among the others.
pub fn history_of_today(engine: u64, deeds: &[u64]) -> Option<Build> {
    super::told(engine, deeds, |history| if history.dice.one_in(2) { history.later() } else { history.attempt() })
}

impl History {
    pub(super) fn later(&mut self) -> Result<(), Refusal> {
        let what = match self.dice.below(12) {
            0 => self.picture(),
            1 => self.trial(),
            2 => self.strokes(),
            3 => self.check(),
            4 => self.mishap(),
            5 => self.grid(),
            6 => self.noted(),
            7 => self.marked_look(),
            8 => self.of_cylinder(),
            9 => self.gauge_point(),
            _ => return self.touch_anything(),
        };
        self.bench.record(what).map(drop)
    }

    /// A place of that kind; one that the engine may not have, where it has none of it.
    fn of_kind(&mut self, kind: PlaceKind) -> Place {
        let all: Vec<Place> = self.build().layout.of_kind(kind).collect();
        self.dice.of(&all).unwrap_or(Place::new(kind, 1))
    }

    fn picture(&mut self) -> What {
        let moments = [Moment::Found, Moment::Before, Moment::After, Moment::Fitted];
        let moment = self.dice.of(&moments).unwrap_or(Moment::Found);
        let digest = format!("{:016x}", self.dice.roll()).repeat(4);
        What::Picture(Picture { place: self.place(), moment, digest, width: 640, height: 480, note: "as it is".into() })
    }

    fn trial(&mut self) -> What {
        let count = self.dice.between(3, 12);
        let at = |dice: &mut Dice, n: i64| TorqueAt {
            angle: u16::try_from(n * 30).unwrap_or(0),
            torque: u32::try_from(dice.between(200, 900)).unwrap_or(0),
        };
        let turn = (0..count).map(|n| at(&mut self.dice, n)).collect();
        What::Trial(Trial { turn, oiled: self.dice.one_in(2), note: "turned by hand".into() })
    }

    fn strokes(&mut self) -> What {
        let on = self.dice.of(&[Stroked::Bore, Stroked::TopRing, Stroked::SecondRing]).unwrap_or(Stroked::Bore);
        let bore = self.build().layout.cylinders.as_ref().map_or(Length::microns(88_000), |c| c.bore);
        let off = self.dice.between(-8, 8);
        let size = if on == Stroked::Bore { bore + self.steps(off) } else { self.steps(150 + off) };
        What::Strokes(StrokesDone {
            at: self.of_kind(PlaceKind::Cylinder),
            on,
            strokes: u32::try_from(self.dice.below(40)).unwrap_or(0),
            size,
            raw: String::new(),
            part_mc: self.dice.one_in(2).then_some(24_000),
            note: String::new(),
        })
    }

    fn check(&mut self) -> What {
        let checks = [Check::CrackTest, Check::RodAlignment, Check::OilPath, Check::Fasteners, Check::Runout];
        let check = self.dice.of(&checks).unwrap_or(Check::CrackTest);
        let at = if self.dice.one_in(2) { Some(self.place()) } else { None };
        let found = if self.dice.one_in(4) { CheckFound::Bad } else { CheckFound::Good };
        What::Checked(CheckDone { check, at, found, note: "by the specialist".into() })
    }

    fn mishap(&mut self) -> What {
        let befell = self.dice.of(&Befell::ALL).unwrap_or(Befell::Water);
        let at = if self.dice.one_in(2) { Some(self.of_kind(PlaceKind::Cylinder)) } else { None };
        What::Mishap(Mishap { befell, at, note: "at the last meeting".into() })
    }

    fn grid(&mut self) -> What {
        let at = self.of_kind(PlaceKind::Deck);
        let rows = (0..3).map(|_| (0..4).map(|_| self.shown()).collect()).collect();
        let (along, across) = (Length::microns(75_000), Length::microns(50_000));
        What::Grid(BridgeGrid { at, along, across, rows, note: String::new() })
    }

    fn shown(&mut self) -> Length {
        let off = self.dice.between(-12, 12);
        self.steps(off)
    }

    fn noted(&mut self) -> What {
        // The notes that there were at first: the same dice tell the same histories.
        let which = usize::try_from(self.dice.below(6)).unwrap_or(0);
        let row = &NOTES[which];
        // Now and then beyond what anybody believes.
        let value = self.dice.between(row.least, row.most + row.most / 8);
        What::Noted(Noted { note: row.note, at: self.of_kind(row.at[0]), value, raw: String::new() })
    }

    /// A look at anything that is looked at, with marks.
    fn marked_look(&mut self) -> What {
        let which = usize::try_from(self.dice.below(LOOKS.len() as u64)).unwrap_or(0);
        let row = &LOOKS[which];
        let all: Vec<Place> = row.part.places(&self.build().layout);
        let station = self.dice.of(&all).unwrap_or(Place::main(1));
        let sign = self.dice.of(row.signs).unwrap_or(row.signs[0]);
        let mark = Mark {
            sign,
            along: self.dice.of(&[None, Some(Axial::Front), Some(Axial::Rear)]).flatten(),
            clock: self.dice.one_in(2).then_some(u16::try_from(self.dice.below(365)).unwrap_or(0)),
            depth: self.dice.one_in(2).then_some(self.steps(9)),
        };
        let marks = if self.dice.one_in(2) { vec![mark] } else { Vec::new() };
        What::Inspection(Inspection { station, part: row.part, signs: vec![sign], marks })
    }

    fn gauge_point(&mut self) -> What {
        let edges = [GaugeEdge::SkirtBottom, GaugeEdge::OilGroove, GaugeEdge::Crown, GaugeEdge::PinAxis];
        let from = self.dice.of(&edges).unwrap_or(GaugeEdge::Crown);
        let coating = self.dice.of(&[Coating::None, Coating::Over, Coating::Under]).unwrap_or(Coating::None);
        let height = Length::microns(self.dice.between(-1_000, 20_000));
        What::GaugePoint(GaugePoint { from, height, coating, thickness: None, note: String::new(), lifted: Vec::new() })
    }

    fn of_cylinder(&mut self) -> What {
        let works =
            [Work::CylinderHoned, Work::CylinderBored, Work::CylinderWashed, Work::RingsFitted, Work::RingsFiled];
        let work = self.dice.of(&works).unwrap_or(Work::CylinderHoned);
        let on = Scope::One(self.of_kind(PlaceKind::Cylinder));
        let (grits, ticks) = (Vec::new(), work.ticks().to_vec());
        What::Work(WorkEvent { work, on, grits, minutes: None, ticks, note: "as agreed".into() })
    }

    /// Some touches of anything that is read as a size or by blades, proud pistons among them.
    fn touch_anything(&mut self) -> Result<(), Refusal> {
        let at = self.place();
        let all: Vec<Characteristic> = Characteristic::of(at).collect();
        let characteristic = self.dice.of(&all).ok_or(Refusal::NoSuchFeature(at))?;
        let read = characteristic.row().reads.first().copied().unwrap_or(Read::Size);
        let off = self.dice.between(-6, 6);
        let size = match (characteristic.row().signed, characteristic.role().name()) {
            (true, _) => self.steps(off * 10),
            (false, "piston") => self.bore() - self.steps(33),
            (false, "cylinder" | "cylinder_bare") => self.bore(),
            _ => self.steps(8_000),
        } + self.steps(off);
        let role: Role = characteristic.role();
        match read {
            Read::Size => {
                let text = self.text(size).replace(' ', "");
                let texts: Vec<&str> = characteristic.positions().iter().map(|_| text.as_str()).collect();
                self.bench.size(at, role, &texts).map(drop)
            }
            Read::Blades => self.bench.pushes(at, role, &[&["150 160", "160 170"]]).map(drop),
            _ => Ok(()),
        }
    }

    fn bore(&self) -> Length {
        self.build().layout.cylinders.as_ref().map_or(Length::microns(88_000), |c| c.bore)
    }
}
