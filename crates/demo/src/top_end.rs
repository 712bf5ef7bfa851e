//! The six above its crank and along it: fillets, cylinders with their pistons, wrist pins, how the crank runs, the cam's end
//! play.
use jagged_pin_core::engine::{BearingRow, Figure, Place, Role};
use jagged_pin_core::log::{
    Added, Adder, AimMade, Coating, GaugeEdge, GaugePoint, InspectedPart, Note, Noted, Sign, TargetChange, TorqueAt,
    Trial, What,
};
use jagged_pin_core::maths::{TargetRule, TargetSource, Temperatures};
use jagged_pin_core::record::Refusal;
use jagged_pin_core::{Length, Unit};
use jagged_pin_workbench::Bench;

/// Parts and gauges that stood in the room together over night.
const SOAKED: Temperatures = Temperatures { part_mc: Some(20_000), gauge_mc: Some(20_000) };

pub fn window(bench: &mut Bench, figure: &str, row: BearingRow, limits: [i64; 3], reason: &str) -> Result<(), Refusal> {
    let [low, aim, high] = limits.map(Length::tenths);
    let figure: Figure = figure.parse().map_err(|_| Refusal::NoTarget)?;
    bench.figure_target(figure, row, TargetRule::Range { low, aim: Some(aim), high }, reason)
}

/// The edges at both ends alike: radius, inset, chamfer along and up.
fn edges(bench: &mut Bench, at: Place, figures: [[&str; 2]; 4]) -> Result<(), Refusal> {
    let roles = ["fillet_radius", "shell_inset", "edge_along", "edge_up"].map(Role::new);
    for (role, ends) in roles.into_iter().zip(figures) {
        let twice = ends.map(|end| format!("{end} {end}"));
        bench.size(at, role, &[&twice[0], &twice[1]])?;
    }
    Ok(())
}

/// Fillets: P2 rides on its front one, M2 is on its edge until the end play is put right, P6 is not measured.
pub fn fillets(bench: &mut Bench) -> Result<(), Refusal> {
    for row in BearingRow::ALL {
        window(bench, "fillet_room", row, [20, 20, 2_500], "two thou, rods hard over, film nothing")?;
    }
    let pushed_to = ["20 30", "10 20", "10 20", "10 20", "10 20", "10 20", "10 20"];
    let inset = [".0405", ".0370", ".0395", ".0400", ".0405", ".0390", ".0425"];
    for (n, (gap, inset)) in (1..).zip(pushed_to.into_iter().zip(inset)) {
        let at = Place::main_fillet(n);
        edges(bench, at, [[".090"; 2], [inset; 2], [".052"; 2], [".018"; 2]])?;
        bench.pushes(at, Role::new("saddle_gap"), &[&[gap, gap], &[gap, gap]])?;
    }
    let plain = [[".090"; 2], [".0605"; 2], [".032"; 2], [".020"; 2]];
    let rides = [[".090"; 2], [".045", ".0605"], [".030", ".032"], [".020"; 2]];
    let closer = [[".090"; 2], [".0565", ".0605"], [".036", ".032"], [".020"; 2]];
    for (n, figures) in (1..).zip([plain, rides, plain, plain, closer]) {
        edges(bench, Place::pin_fillet(n), figures)?;
    }
    Ok(())
}

/// The sheet's smallest figure and what the coating adds: each counted once.
fn aim(bench: &mut Bench) -> Result<(), Refusal> {
    let t = Length::tenths;
    let adders = vec![Added { why: Adder::Coating, by: t(3) }];
    let change = TargetChange {
        figure: Some(Figure::PISTON_TO_WALL),
        station: None,
        row: BearingRow::Rods,
        kind: None,
        rule: Some(TargetRule::Range { low: t(30), aim: Some(t(33)), high: t(36) }),
        source: TargetSource::MakersSheet,
        made_of: Some(AimMade { sheet: Some(t(30)), per_million: None, covers: Vec::new(), adders }),
        wear: None,
        reason: "forged, low expansion; coated skirts are measured over the coating".into(),
        lifted: Vec::new(),
    };
    bench.record(What::Target(change)).map(drop)
}

/// Cylinders and pistons: the third on its edge; the fifth, read without the plate, under its window at the top and out of round; the
/// sixth not measured. One size does not serve these pistons.
pub fn cylinders(bench: &mut Bench) -> Result<(), Refusal> {
    let rods = BearingRow::Rods;
    aim(bench)?;
    window(bench, "piston_size", rods, [34_710, 34_715, 34_725], "printed on the box")?;
    window(bench, "cylinder_round", rods, [0, 1, 3], "race")?;
    window(bench, "cylinder_taper", rods, [0, 1, 3], "race")?;
    window(bench, "top_ring_gap", rods, [156, 176, 196], "0.0045 an inch of bore, circuit")?;
    window(bench, "second_ring_gap", rods, [174, 194, 214], "0.0050 an inch of bore")?;
    bench.take("bore-tenths");
    bench.take("mic-four-tenths");
    bench.noted(Some(SOAKED));
    let (bore, bare, piston) = (Role::new("cylinder"), Role::new("cylinder_bare"), Role::new("piston"));
    let pistons = ["3.4716 16", "19 19", "17 17", "14 14", "17 17", "16 16"];
    for (n, size) in (1..).zip(pistons) {
        bench.size(Place::wrist_pin(n), piston, &[size])?;
    }
    let bores = [
        ["3.4750 50", "49 49", "49 50", "49 49", "49 49", "48 49"],
        ["53 53", "53 53", "53 53", "52 53", "53 53", "52 53"],
        ["49 49", "48 48", "49 48", "48 48", "48 48", "47 48"],
        ["48 48", "47 47", "48 48", "47 47", "47 47", "47 47"],
    ];
    for (n, places) in (1..).zip(bores) {
        bench.size(Place::cylinder(n), bore, &places)?;
    }
    bench.size(Place::cylinder(5), bare, &["3.4749 49", "44 44", "47 48", "46 46", "46 46", "46 45"])?;
    bench.look(Place::cylinder(5), InspectedPart::Bore, &[Sign::ScoredOneSide])?;
    bench.look(Place::wrist_pin(5), InspectedPart::Piston, &[Sign::ScuffedThrust])?;
    bench.pushes(Place::cylinder(5), Role::new("top_ring_gap"), &[&["160 170", "160 170"]])?;
    bench.pushes(Place::cylinder(5), Role::new("second_ring_gap"), &[&["170 180", "170 180"]])?;
    Ok(())
}

/// Where the maker of the pistons wants them measured, and what pistons and rods weigh: the rods are matched to within half a
/// gram, the pistons as they came.
pub fn weights(bench: &mut Bench) -> Result<(), Refusal> {
    let point = GaugePoint {
        from: GaugeEdge::SkirtBottom,
        height: Length::tenths(5_000),
        coating: Coating::Over,
        thickness: None,
        note: "the sheet in the box".into(),
        lifted: Vec::new(),
    };
    bench.record(What::GaugePoint(point))?;
    let of_pistons = ["412.35", "411.90", "412.60", "412.10", "412.40", "411.95"];
    let of_rods = ["601.2", "600.9", "601.0", "601.3", "600.8", "601.1"];
    for (n, (piston, rod)) in (1..).zip(of_pistons.into_iter().zip(of_rods)) {
        noted(bench, Note::PistonWeight, Place::wrist_pin(n), piston)?;
        noted(bench, Note::RodWeight, Place::rod(n), rod)?;
    }
    Ok(())
}

/// How smooth the journals of the six are, and how hard its first and last pin.
pub fn surfaces(bench: &mut Bench) -> Result<(), Refusal> {
    for (n, rough) in (1..).zip(["6", "6", "5", "7", "6", "5.5", "6"]) {
        noted(bench, Note::Roughness, Place::main(n), rough)?;
    }
    for (n, rough) in (1..).zip(["7", "6", "6", "6.5", "7.5", "6"]) {
        noted(bench, Note::Roughness, Place::pin(n), rough)?;
    }
    noted(bench, Note::Hardness, Place::pin(1), "52")?;
    noted(bench, Note::Hardness, Place::pin(6), "52.5")
}

fn noted(bench: &mut Bench, note: Note, at: Place, raw: &str) -> Result<(), Refusal> {
    let value = note.read(raw, Unit::Inch).map_err(|_| Refusal::NoSuchReading)?;
    bench.record(What::Noted(Noted { note, at, value, raw: raw.into() })).map(drop)
}

/// The wrist pins of the first two: free in their pistons and in their rods.
pub fn wrist_pins(bench: &mut Bench) -> Result<(), Refusal> {
    window(bench, "pin_in_piston", BearingRow::Rods, [2, 6, 10], "floating, forged")?;
    window(bench, "pin_in_rod", BearingRow::Rods, [5, 8, 12], "bronze bush")?;
    bench.take("mic-inch-tenths");
    bench.take("bore-small-tenths");
    for (n, [boss, eye]) in (1..).zip([[".9276 .9276", ".9278 .9278"], [".9276 .9276", ".9277 .9278"]]) {
        let at = Place::wrist_pin(n);
        bench.size(at, Role::new("wrist_pin"), &[".9270 .9270"; 6])?;
        bench.size(at, Role::new("pin_boss"), &[boss; 4])?;
        bench.size(Place::rod(n), Role::new("rod_eye"), &[eye; 4])?;
    }
    bench.noted(None);
    Ok(())
}

/// How the crank runs on its end mains: M4 travels five tenths, most of which is bend. And the cam behind its plate.
pub fn runout_and_cam_thrust(bench: &mut Bench) -> Result<(), Refusal> {
    window(bench, "main_runout", BearingRow::Mains, [0, 5, 10], "race")?;
    window(bench, "cam_end_play", BearingRow::Mains, [30, 50, 70], "plate")?;
    let turned = [
        (3, ["3", "3", "2", "1", "0", "0.5", "1", "2"]),
        (4, ["5.5", "5", "3.5", "3", "2.5", "1", "0.5", "3"]),
        (5, ["3", "2.5", "2", "1", "0.5", "0", "1", "2"]),
    ];
    for (main, clock) in turned {
        let twice = clock.map(|shown| [shown; 2]);
        let places: Vec<&[&str]> = twice.iter().map(<[&str; 2]>::as_slice).collect();
        bench.pushes(Place::main(main), Role::new("main_turn"), &places)?;
    }
    bench.pushes(Place::CAM_THRUST, Role::new("cam_travel"), &[&["0 55 0", "0 55 0"]])?;
    // Dry, a film of oil only: it drags once a turn, at the bend.
    let torques = [2_600, 2_100, 1_200, 800, 900, 1_400, 2_200, 2_700];
    let turn = (0_u16..).step_by(45).zip(torques).map(|(angle, torque)| TorqueAt { angle, torque }).collect();
    let trial = Trial { turn, oiled: false, note: "first trial, a film of oil, no followers".into() };
    bench.record(What::Trial(trial)).map(drop)
}
