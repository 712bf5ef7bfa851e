//! Random histories of builds with every kind of fact: what people might do at the bench, in whatever order.
//!
//! A history is an engine and a list of numbers; each number is one thing that somebody tries. Refusals are part
//! of life: what is not admitted is left out.

#![allow(dead_code, reason = "each test binary uses a part of it")]
pub mod later;

use jagged_pin_core::build::open_requests;
use jagged_pin_core::engine::{
    Axial, BearingRow, Characteristic, Figure, Method, PART_KINDS, PartKind, Place, PlaceKind, Plan, Planned, Position,
    Read, Role, Scope,
};
use jagged_pin_core::log::{
    BlindRequest, CapSeat, FastenerGroup, FastenerKind, FittedPair, Fitting, InspectedPart, Inspection, Job,
    Lubricated, MoreFasteners, OrderItem, OrderMoved, OrderStep, PlanChange, RulesChange, SetUp, ShellsIn, Sign,
    SignerRole, TargetChange, TorqueStep, TorqueUnit, Tray, TrayShell, Washers, What, Work, WorkEvent, WorkOrder,
};
use jagged_pin_core::maths::{Acceptance, SizeRule, TargetRule, TargetSource};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::shells::Half;
use jagged_pin_core::{Build, Length, Unit};
use jagged_pin_workbench::{Bench, Pattern, patterns, person};
use uuid::Uuid;

/// Numbers drawn from one number, the same on every machine (splitmix64).
pub struct Dice(u64);

impl Dice {
    pub fn new(seed: u64) -> Self {
        Dice(seed)
    }

    pub fn roll(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    /// Below `n`.
    pub fn below(&mut self, n: u64) -> u64 {
        self.roll() % n.max(1)
    }

    /// From `low` to `high`, both possible.
    pub fn between(&mut self, low: i64, high: i64) -> i64 {
        let width = u64::try_from(high - low).unwrap_or(0) + 1;
        low + i64::try_from(self.below(width)).unwrap_or(0)
    }

    pub fn one_in(&mut self, n: u64) -> bool {
        self.below(n) == 0
    }

    pub fn of<T: Copy>(&mut self, all: &[T]) -> Option<T> {
        let n = usize::try_from(self.below(all.len() as u64)).unwrap_or(0);
        all.get(n).copied()
    }
}

/// Engines of every sort: one rod to a pin, two to a pin, metric in aluminium, poured, and mains only.
fn pattern(engine: u64) -> Option<Pattern> {
    let ids = ["curlew-24", "whimbrel-31", "dunlin-16", "turnstone-28", "whimbrel-31"];
    let which = usize::try_from(engine % 5).unwrap_or(0);
    let mut pattern = patterns().into_iter().find(|p| p.id == ids[which])?;
    if which == 4 {
        pattern.layout.rods = None;
    }
    Some(pattern)
}

const METHODS: [Method; 4] = [Method::DIRECT, Method::SUBTRACT, Method::COMPONENTS, Method::STRIP];

const FIRST: [&str; 4] = ["oduya", "wick", "kell", "harrow"];

struct History {
    bench: Bench,
    dice: Dice,
    /// Sizes this history measures near: so that most bearings come out somewhere near their targets.
    step: i64,
}

/// A build after everything that was tried.
pub fn history(engine: u64, deeds: &[u64]) -> Option<Build> {
    told(engine, deeds, History::attempt)
}

fn told(engine: u64, deeds: &[u64], attempt: impl Fn(&mut History) -> Result<(), Refusal>) -> Option<Build> {
    let pattern = pattern(engine)?;
    let bench = Bench::book_in(200 + u128::from(engine % 5), "T-200", &pattern, 0, person("harrow")).ok()?;
    let step = if pattern.unit == Unit::Inch { 2_540 } else { 1_000 };
    let mut h = History { bench, dice: Dice::new(0), step };
    for deed in deeds {
        h.dice = Dice::new(*deed);
        // Refused or not: the build must stay consistent either way.
        let _ = attempt(&mut h);
    }
    Some(h.bench.finish())
}

/// The numbers of one history; some end with a whole engine measured and signed.
pub fn deeds(seed: u64) -> Vec<u64> {
    let mut dice = Dice::new(seed);
    let count = 4 + dice.below(44);
    (0..count).map(|_| dice.roll()).collect()
}

impl History {
    fn build(&self) -> &Build {
        self.bench.build()
    }

    fn text(&mut self, size: Length) -> String {
        size.show(self.build().unit)
    }

    fn place(&mut self) -> Place {
        let all: Vec<Place> = self.build().layout.places().collect();
        self.dice.of(&all).unwrap_or(Place::main(1))
    }

    fn bearing(&mut self) -> Place {
        let all: Vec<Place> = self.build().layout.all_bearings().collect();
        self.dice.of(&all).unwrap_or(Place::main(1))
    }

    fn row(&mut self) -> BearingRow {
        if self.dice.one_in(2) { BearingRow::Mains } else { BearingRow::Rods }
    }

    fn steps(&self, n: i64) -> Length {
        Length::from_nm(n * self.step)
    }

    fn attempt(&mut self) -> Result<(), Refusal> {
        match self.dice.below(48) {
            0..=9 => self.measure(),
            10..=15 => self.measure_whole(),
            16 => self.strike(),
            17 => self.target(),
            18..=19 => self.concede(),
            20..=21 => self.sign(),
            22..=23 => self.session(),
            24..=25 => self.work(),
            26 => self.set_up(),
            27..=28 => self.look(),
            29 => self.ask_blind(),
            30 => self.answer_blind(),
            31 => self.rules(),
            32 => self.plan(),
            33..=34 => self.fit(),
            35 => self.stamps(),
            36 => self.tray(),
            37 => self.order(),
            38 => self.move_order(),
            40..=41 => self.push(),
            42 => self.enter_part(),
            43..=44 => self.assign(),
            45 => self.condemn(),
            46 => self.measure_candidate(),
            47 => self.push_target(),
            _ => self.everything(),
        }
    }

    /// What a part of a bearing measures here, near enough to its nominal.
    fn around(&mut self, at: Place, part: Role) -> Length {
        let layout = &self.build().layout;
        let row = at.row();
        let (journal, aim) = (layout.journal(row), self.steps(24));
        let nominals = layout.nominals(row).cloned();
        let (housing, wall) = nominals.map_or((journal, Length::ZERO), |n| (n.housing, n.wall));
        let off = self.dice.between(-4, 4);
        let off = self.steps(off);
        match part.name() {
            "journal" => journal - self.steps(2) + off,
            "bore" => journal + aim + off,
            "housing" => housing + off,
            "upper_wall" | "lower_wall" => wall - self.steps(1),
            _ => aim + off,
        }
    }

    /// Some touches of one feature.
    fn measure(&mut self) -> Result<(), Refusal> {
        let (at, direct) = (self.place(), self.dice.one_in(2));
        let parts = [Role::JOURNAL, Role::JOURNAL, Role::BORE, Role::BORE, Role::BORE, Role::HOUSING, Role::UPPER_WALL];
        let part = self.dice.of(&parts).unwrap_or(Role::BORE);
        let part = if self.dice.one_in(12) { Role::STRIP } else { part };
        self.touch_all(at, part, direct)
    }

    fn touch_all(&mut self, at: Place, part: Role, direct: bool) -> Result<(), Refusal> {
        let size = self.around(at, part);
        let places = self.dice.below(7);
        let mut texts = Vec::new();
        for _ in 0..=places {
            let (a, b) = (self.dice.between(-1, 1), self.dice.between(-1, 1));
            let (a, b) = (size + self.steps(a), size + self.steps(b));
            let journal = self.build().layout.journal(at.row());
            let mut show = |size: Length| {
                let dial = direct && part == Role::BORE;
                let shown = if dial { size - journal } else { size };
                self.text(shown).replace(' ', "")
            };
            let (a, b) = (show(a), show(b));
            texts.push(if self.dice.one_in(5) { a } else { format!("{a} {b}") });
        }
        let texts: Vec<&str> = texts.iter().map(String::as_str).collect();
        let read = if direct { Read::Dial } else { Read::Size };
        if part == Role::BORE {
            let journal = self.build().layout.journal(at.row());
            let reference = self.text(journal);
            self.bench.zero_at(&reference);
            return self.bench.bore(at, read, &texts).map(drop);
        }
        self.bench.size(at, part, &texts).map(drop)
    }

    /// The crank pushed to and fro, at some of its positions.
    fn push(&mut self) -> Result<(), Refusal> {
        let (first_look, blades) = (Role::new("first_look"), Role::new("blades"));
        let role = self.dice.of(&[Role::TRAVEL, Role::TRAVEL, first_look, blades]).unwrap_or(Role::TRAVEL);
        let mut at = |n: i64| {
            let play = n + self.dice.between(-3, 3);
            if role == blades {
                format!("{play} {}", play + 10)
            } else {
                format!("0 {play} {}", self.dice.between(-1, 2))
            }
        };
        let texts = [at(62), at(63), at(61), at(64)];
        let [a, b, c, d] = [&texts[0], &texts[1], &texts[2], &texts[3]].map(String::as_str);
        self.bench.pushes(Place::THRUST, role, &[&[a, b], &[c, d]]).map(drop)
    }

    fn push_target(&mut self) -> Result<(), Refusal> {
        let rule = TargetRule::Range { low: self.steps(50), aim: None, high: self.steps(80) };
        self.bench.figure_target(Figure::END_PLAY, BearingRow::Mains, rule, "the middle held")
    }

    fn kind(&mut self) -> PartKind {
        let all = PART_KINDS.map(|row| row.kind);
        self.dice.of(&all).unwrap_or(PART_KINDS[0].kind)
    }

    fn enter_part(&mut self) -> Result<(), Refusal> {
        let (kind, tag) = (self.kind(), format!("spare {}", self.dice.below(4)));
        self.bench.part(kind, &tag, "used", "from the shelf")
    }

    /// The tags of every part that was entered, and of rods that the layout names.
    fn tags(&self) -> Vec<String> {
        let entered = self.build().facts.iter().filter_map(|f| match &f.what {
            What::Part(p) => Some(p.tag.clone()),
            _ => None,
        });
        entered.chain((1..=4).map(|n| format!("R{n}"))).chain(["crank".to_owned()]).collect()
    }

    fn tag(&mut self) -> String {
        let tags = self.tags();
        let n = usize::try_from(self.dice.below(tags.len() as u64)).unwrap_or(0);
        tags.get(n).cloned().unwrap_or_default()
    }

    fn assign(&mut self) -> Result<(), Refusal> {
        let (first, second, at) = (self.tag(), self.tag(), self.place());
        let other = self.place();
        if self.dice.one_in(2) {
            return self.bench.assign(&[("R1", Some(Place::rod(2))), ("R2", Some(Place::rod(1)))], "the better pairs");
        }
        let place = (!self.dice.one_in(3)).then_some(at);
        self.bench
            .assign(&[(&first, place), (&second, place.map(|_| other))], "as it was agreed")
            .or_else(|_| self.bench.assign(&[(&first, place)], "as it was agreed"))
    }

    fn condemn(&mut self) -> Result<(), Refusal> {
        let part = self.tag();
        self.bench.condemn(&part, "a crack was found")
    }

    /// Another crank, measured beside the one that stands in the engine.
    fn measure_candidate(&mut self) -> Result<(), Refusal> {
        let tag = format!("crank {}", self.dice.below(2));
        let crank = Characteristic::at(Place::main(1), Role::JOURNAL).map_or(PART_KINDS[0].kind, |c| c.row().part);
        let _ = self.bench.part(crank, &tag, "used", "from the shelf");
        let at = self.place();
        self.bench.measure_candidate(Some(&tag));
        let measured = self.touch_all(at, Role::JOURNAL, false);
        self.bench.measure_candidate(None);
        measured
    }

    /// Journal and bore of one bearing, every place.
    fn measure_whole(&mut self) -> Result<(), Refusal> {
        let at = self.bearing();
        self.whole(at)
    }

    fn whole(&mut self, at: Place) -> Result<(), Refusal> {
        let journal_at = self.build().layout.journal_of(at);
        let (journal, aim) = (self.build().layout.journal(at.row()), self.steps(25));
        let under = self.dice.between(0, 2);
        let journal = journal - self.steps(under);
        let open = self.dice.between(-1, 1);
        let (bore, reference) = (aim + self.steps(open), self.text(journal));
        let text = reference.replace(' ', "");
        let both = format!("{text} {text}");
        self.bench.journal(journal_at, [&both, &both, &both, &both])?;
        self.bench.zero_at(&reference);
        let (dial, relief) = (self.text(bore).replace(' ', ""), self.text(bore + self.steps(7)).replace(' ', ""));
        let dial = format!("{dial} {dial}");
        self.bench.bore(at, Read::Dial, &[&dial, &dial, &relief, &relief]).map(drop)
    }

    /// The whole engine, then whatever still blocks is accepted, and two people sign.
    fn everything(&mut self) -> Result<(), Refusal> {
        let all: Vec<Place> = self.build().layout.all_bearings().collect();
        for at in all {
            self.whole(at)?;
        }
        for at in self.build().layout.all_bearings().collect::<Vec<_>>() {
            let _ = self.bench.concede(at, "seen and accepted");
        }
        self.bench.hand_over(person("wick"), 5);
        self.bench.sign(SignerRole::Assembler)?;
        self.bench.hand_over(person("kell"), 5);
        self.bench.sign(SignerRole::Checker)
    }

    fn reading(&mut self) -> Uuid {
        let ids: Vec<Uuid> = self.build().readings().map(|(f, _)| f.id).collect();
        self.dice.of(&ids).unwrap_or_default()
    }

    fn strike(&mut self) -> Result<(), Refusal> {
        let reading = self.reading();
        self.bench.strike(&[reading], "a slip of the hand")
    }

    fn target(&mut self) -> Result<(), Refusal> {
        let (low, wide) = (self.dice.between(15, 25), self.dice.between(-1, 10));
        let range = TargetRule::Range { low: self.steps(low), aim: None, high: self.steps(low + wide) };
        let rule = match self.dice.below(4) {
            0 => TargetRule::PerDiameter {
                per_million: self.dice.between(800, 1_200),
                adder: self.steps(2),
                below: self.steps(4),
                above: self.steps(6),
            },
            1 => TargetRule::Hot { low: self.steps(40), aim: None, high: self.steps(52), growth: self.steps(18) },
            _ => range,
        };
        let station = if self.dice.one_in(2) { Some(self.bearing()) } else { None };
        let row = station.map_or_else(|| self.row(), Place::row);
        let rule = (station.is_none() || !self.dice.one_in(4)).then_some(rule);
        let source = TargetSource::MakersSheet;
        self.bench
            .record(What::Target(TargetChange {
                figure: None,
                station,
                row,
                kind: None,
                rule,
                source,
                made_of: None,
                wear: None,
                reason: "agreed anew".into(),
                lifted: Vec::new(),
            }))
            .map(drop)
    }

    fn concede(&mut self) -> Result<(), Refusal> {
        let at = self.bearing();
        self.bench.concede(at, "seen and accepted")
    }

    fn somebody(&mut self) {
        let name = self.dice.of(&FIRST).unwrap_or("oduya");
        let minutes = self.dice.between(1, 90);
        self.bench.hand_over(person(name), minutes);
    }

    fn sign(&mut self) -> Result<(), Refusal> {
        self.somebody();
        let role = if self.dice.one_in(2) { SignerRole::Assembler } else { SignerRole::Checker };
        self.bench.sign(role)
    }

    /// Opens a session, or closes the last one: held, walked a little, walked too far, or not checked.
    fn session(&mut self) -> Result<(), Refusal> {
        let gauges: Vec<(String, Length)> = self.build().gauges.iter().map(|g| (g.id.clone(), g.resolution)).collect();
        let open = self.build().facts.iter().rev().find_map(|f| match &f.what {
            What::SessionOpened(s) => Some((f.id, s.gauge.resolution, s.check.clone())),
            _ => None,
        });
        if let Some((id, step, check)) = open.filter(|_| !self.dice.one_in(3)) {
            let minutes = self.dice.between(1, 120);
            self.bench.hand_over(person("oduya"), minutes);
            let walked = Length::from_nm(step.nm() * self.dice.between(-2, 2) / 2);
            let shown = check.map(|c| (self.text(c.standard), self.text(c.standard + walked)));
            let inside = shown.as_ref().map(|_| self.text(walked));
            let outside = shown.as_ref().map(|(_, s)| s.clone());
            let standard = shown.map(|(s, _)| s);
            for shows in [outside, inside].into_iter().flatten() {
                if let Some(standard) = &standard
                    && self.bench.close_session(id, Some((standard, &shows))).is_ok()
                {
                    return Ok(());
                }
            }
            return self.bench.close_session(id, None);
        }
        let n = usize::try_from(self.dice.below(gauges.len() as u64)).unwrap_or(0);
        let gauge = gauges.get(n).map(|(id, _)| id.clone()).unwrap_or_default();
        let standard = if self.build().unit == Unit::Inch { "2.0000 in" } else { "50.000 mm" };
        let inside = gauge.contains("bore") || gauge.contains("indicator");
        let check = if inside { (standard, "0") } else { (standard, standard) };
        self.bench.open_session(&gauge, (!self.dice.one_in(4)).then_some(check)).map(drop)
    }

    fn work(&mut self) -> Result<(), Refusal> {
        let work = self.dice.of(&Work::ALL).unwrap_or(Work::ShellsFitted);
        let at = self.place();
        let scopes = [Scope::One(at), Scope::One(at), Scope::Mains, Scope::Rods, Scope::Pins, Scope::Crank];
        let on = self.dice.of(&scopes).unwrap_or(Scope::Mains);
        let minutes = self.dice.one_in(2).then_some(25);
        let grits = if work == Work::JournalPolished { vec![800, 1_200] } else { Vec::new() };
        self.bench.event(WorkEvent { work, on, grits, minutes, ticks: work.ticks().to_vec(), note: "as agreed".into() })
    }

    fn set_up(&mut self) -> Result<(), Refusal> {
        let row = self.row();
        let at = self.bearing();
        let seat = CapSeat { station: at, cap: 2, forward: self.dice.one_in(2) };
        let shells = ShellsIn { station: at, upper: "A1".into(), lower: format!("B{}", self.dice.below(3)) };
        let tenths = if self.dice.one_in(3) { 700 } else { 650 };
        let side = MoreFasteners {
            group: FastenerGroup::Side,
            fastener: FastenerKind::Bolts,
            fasteners: "side bolts".into(),
            washers: Washers::Chamfered,
            lubricant: "oil".into(),
            lubricated: Lubricated::Thread,
            steps: vec![TorqueStep::Torque { tenths: 250, unit: TorqueUnit::PoundFoot }],
        };
        let groups = if self.dice.one_in(4) { vec![side] } else { Vec::new() };
        self.bench.set_up(SetUp {
            row,
            fastener: if self.dice.one_in(4) { FastenerKind::Bolts } else { FastenerKind::Studs },
            fasteners: "set 12".into(),
            as_finished: !self.dice.one_in(5),
            lubricant: if self.dice.one_in(4) { "oil".into() } else { "moly paste".into() },
            steps: vec![
                TorqueStep::Torque { tenths, unit: TorqueUnit::PoundFoot },
                TorqueStep::Angle { degrees: 60 },
                TorqueStep::Stretch { stretch: Length::microns(150) },
            ],
            drawn_square: !self.dice.one_in(5),
            washers_chamfer_up: true,
            washers: self.dice.one_in(3).then_some(Washers::Ground),
            lubricated: self.dice.one_in(3).then_some(Lubricated::Thread),
            groups,
            caps: if at.row() == row && self.dice.one_in(3) { vec![seat] } else { Vec::new() },
            shells: if at.row() == row && self.dice.one_in(2) { vec![shells] } else { Vec::new() },
        })
    }

    fn look(&mut self) -> Result<(), Refusal> {
        let station = self.place();
        let journal = station.kind() == PlaceKind::Pin || (self.dice.one_in(3) && station.kind() != PlaceKind::Rod);
        let part = if journal {
            InspectedPart::Journal
        } else if self.dice.one_in(2) {
            InspectedPart::Upper
        } else {
            InspectedPart::Lower
        };
        // The signs that the frozen histories were made of.
        let all: &[Sign] = if journal { &Sign::JOURNAL } else { &Sign::SHELL[..12] };
        let signs = self.dice.of(all).into_iter().collect();
        self.bench.record(What::Inspection(Inspection { station, part, signs, marks: Vec::new() })).map(drop)
    }

    fn ask_blind(&mut self) -> Result<(), Refusal> {
        let reading = self.reading();
        let found = self.build().readings().find(|(f, _)| f.id == reading).map(|(_, r)| (r.station, r.characteristic));
        let (station, feature) = found.ok_or(Refusal::NothingToCompare)?;
        let whom = person(self.dice.of(&FIRST).unwrap_or("kell"));
        self.bench.record(What::Blind(BlindRequest { whom, station, characteristic: feature })).map(drop)
    }

    fn answer_blind(&mut self) -> Result<(), Refusal> {
        for name in FIRST {
            let open = open_requests(self.build(), person(name).id);
            if let Some((_, request)) = open.first() {
                self.bench.hand_over(person(name), 5);
                let (at, part) = (request.station, request.characteristic.role());
                let size = self.around(at, part);
                let text = self.text(size).replace(' ', "");
                let texts = [text.as_str(); 6];
                if part == Role::BORE {
                    return self.bench.bore(at, Read::Size, &texts).map(drop);
                }
                return self.bench.size(at, part, &texts).map(drop);
            }
        }
        Ok(())
    }

    fn rules(&mut self) -> Result<(), Refusal> {
        let mut rules = self.build().rules_now().clone();
        match self.dice.below(7) {
            0 => rules.effective = if rules.effective == SizeRule::Worst { SizeRule::Mean } else { SizeRule::Worst },
            1 => rules.acceptance = Acceptance::Simple,
            2 => rules.touches = 1 + u8::try_from(self.dice.below(3)).unwrap_or(1),
            3 => rules.preferred = self.dice.of(&METHODS).unwrap_or(Method::DIRECT),
            4 => rules.strip_judges = !rules.strip_judges,
            5 => rules.shape = None,
            _ => rules.temperature_doubt_mk = 1_000,
        }
        self.bench
            .record(What::Rules(RulesChange {
                rules,
                reason: "agreed in the shop".into(),
                lifted: Vec::new(),
                loosened: Vec::new(),
            }))
            .map(drop)
    }

    fn plan(&mut self) -> Result<(), Refusal> {
        let plans = self.build().plans();
        let n = usize::try_from(self.dice.below(plans.len() as u64)).unwrap_or(0);
        let mut plan: Plan = plans.get(n).cloned().ok_or(Refusal::NoSuchPosition)?;
        if self.dice.one_in(2) && plan.positions.len() > 1 {
            plan.positions.pop();
        } else {
            let position = Position::at(Axial::Middle, 15);
            plan.positions.push(Planned { position, advisory: self.dice.one_in(2) });
        }
        self.bench
            .record(What::Plan(PlanChange { plan, reason: "the grinder asks for it".into(), lifted: Vec::new() }))
            .map(drop)
    }

    fn fit(&mut self) -> Result<(), Refusal> {
        let at = self.bearing();
        let off = self.dice.between(-4, 4);
        let clearance = self.steps(25 + off);
        let pair =
            FittedPair { station: at, upper: "std".into(), lower: "+1".into(), clearance, expanded: self.steps(2) };
        self.bench.fit(Fitting {
            row: at.row(),
            family: self.dice.one_in(2).then(|| "CM".into()),
            undersize: Length::ZERO,
            pairs: vec![pair],
            estimated: Some(18),
            minutes: self.dice.one_in(2).then_some(22),
            note: "nearer the aim".into(),
        })
    }

    fn stamps(&mut self) -> Result<(), Refusal> {
        let at = self.bearing();
        self.bench.stamps(&[(at, self.dice.of(&["STD", "CMGS00", "25"]).unwrap_or("STD"))])
    }

    fn tray(&mut self) -> Result<(), Refusal> {
        let row = self.row();
        let wall = self.build().layout.nominals(row).map_or(Length::microns(2_000), |n| n.wall);
        let gauges = self.build().gauges.iter().find(|g| g.id.starts_with("ball")).map(|g| g.id.clone());
        let shell = |(n, half): (i64, Half)| TrayShell {
            mark: format!("{half:?}{n}"),
            half,
            wall: wall - Length::from_nm(n * 1_000),
        };
        let shells = [(1, Half::Upper), (2, Half::Upper), (1, Half::Lower), (2, Half::Lower)].map(shell).to_vec();
        self.bench.tray(Tray { row, gauge: gauges.unwrap_or_default(), shells })
    }

    fn order(&mut self) -> Result<(), Refusal> {
        let station = self.place();
        // The jobs that the frozen histories were made of.
        let job = self.dice.of(&Job::ALL[..4]).unwrap_or(Job::Grind);
        let from = self.around(station, job.role());
        let item = OrderItem {
            station,
            job,
            from: self.dice.one_in(2).then_some(from),
            to: from - self.steps(3),
            plus: self.steps(2),
            minus: self.steps(2),
            why: "so that it fits".into(),
        };
        let order = WorkOrder {
            number: "T-1".into(),
            shop: "the grinder".into(),
            items: vec![item],
            fillet: None,
            finish: "polished".into(),
            note: "call when it is done".into(),
            clean_up: Vec::new(),
        };
        self.bench.order(order).map(drop)
    }

    fn move_order(&mut self) -> Result<(), Refusal> {
        let orders: Vec<Uuid> =
            self.build().facts.iter().filter(|f| matches!(f.what, What::Order(_))).map(|f| f.id).collect();
        let order = self.dice.of(&orders).ok_or(Refusal::NoSuchOrder)?;
        let steps = [OrderStep::Sent, OrderStep::Sent, OrderStep::Returned, OrderStep::Returned, OrderStep::Withdrawn];
        let step = self.dice.of(&steps).unwrap_or(OrderStep::Sent);
        self.bench.record(What::OrderMoved(OrderMoved { order, step, note: "so it goes".into() })).map(drop)
    }
}
