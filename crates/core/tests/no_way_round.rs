//! No way round the lead: whatever somebody records who may not concede what is tight, an engine that is tight is not
//! signable, as long as what is measured is what it really is.
use jagged_pin_core::Length;
use jagged_pin_core::assess::evaluate;
use jagged_pin_core::build::Build;
use jagged_pin_core::engine::{
    BearingRow, Characteristic, Figure, Method, PartKind, Place, Plan, Planned, Read, Scope,
};
use jagged_pin_core::log::{
    Assignment, Condemnation, Gate, Part, PartMove, PlanChange, Reckoning, Rules, RulesChange, Strike, TargetChange,
    What, Work, WorkEvent,
};
use jagged_pin_core::maths::{Acceptance, SizeRule, State, TargetRule, TargetSource};
use jagged_pin_core::record::{Capabilities, Refusal, concession_now, next_fact};
use jagged_pin_core::sheet::SealStatus;
use jagged_pin_core::units::Timestamp;
use jagged_pin_workbench::{Bench, patterns, person};
use proptest::prelude::*;
use uuid::Uuid;

/// An assembler as every shop begins with.
const ASSEMBLER: Capabilities = Capabilities {
    open_builds: true,
    measure: true,
    set_targets: true,
    concede: true,
    concede_tight: false,
    sign_assembler: true,
    sign_checker: false,
    correct_shelf: true,
    strike_others: true,
    run_shop: false,
};

/// The main that is tight.
const TIGHT: Place = Place::main(1);

/// Something that an assembler does.
#[derive(Debug, Clone)]
enum Deed {
    /// Reads again what the nth touch of the tight main read.
    Touch {
        nth: usize,
    },
    /// Strikes the nth reading of it.
    Strike {
        nth: usize,
    },
    Plan {
        journal: bool,
        touched: u8,
    },
    Target {
        main: Option<u8>,
        low: i64,
        wide: i64,
    },
    Rules {
        which: u8,
        other: bool,
    },
    Work {
        which: usize,
        main: u8,
    },
    Concede {
        main: u8,
    },
    /// Enters another crank, which is no different.
    Enter,
    /// Puts one of the two cranks in.
    Fit {
        other: bool,
    },
    /// Condemns a crank, or takes it up again.
    Condemn {
        other: bool,
        lifted: bool,
    },
}

/// The cranks there are: the one that the engine came with, and another one.
fn crank(build: &Build, other: bool) -> Option<String> {
    let seat = build.layout.seats().into_iter().find(|seat| seat.kind == PartKind::Crank)?;
    Some(if other { "K-2".to_owned() } else { seat.first_part() })
}

fn deed() -> impl Strategy<Value = Deed> {
    prop_oneof![
        3 => (0usize..24).prop_map(|nth| Deed::Touch { nth }),
        8 => (0usize..24).prop_map(|nth| Deed::Strike { nth }),
        4 => (any::<bool>(), 1u8..16).prop_map(|(journal, touched)| Deed::Plan { journal, touched }),
        2 => (prop::option::of(1u8..=7), 5i64..28, 1i64..12).prop_map(|(main, low, wide)| Deed::Target { main, low, wide }),
        3 => (0u8..12, any::<bool>()).prop_map(|(which, other)| Deed::Rules { which, other }),
        1 => (0usize..5, 1u8..=7).prop_map(|(which, main)| Deed::Work { which, main }),
        1 => (1u8..=7).prop_map(|main| Deed::Concede { main }),
        1 => Just(Deed::Enter),
        2 => any::<bool>().prop_map(|other| Deed::Fit { other }),
        1 => (any::<bool>(), any::<bool>()).prop_map(|(other, lifted)| Deed::Condemn { other, lifted }),
    ]
}

/// Seven mains that are measured whole; the first is tight at its rear, unless it is sound as the others are.
fn measured(sound: bool) -> Result<Build, Refusal> {
    let known = patterns();
    let mut pattern = known.iter().find(|p| p.id == "curlew-24").unwrap_or(&known[0]).clone();
    pattern.layout.rods = None;
    let mut bench = Bench::book_in(94, "T-94", &pattern, 1_000, person("oduya"))?.without_gates();
    bench.take("bore-tenths");
    for number in 1..=7 {
        bench.journal(Place::main(number), ["2.6238 38", "38 38", "38 38", "38 38"])?;
        let rear = if number == 1 && !sound { "14 14" } else { "23 23" };
        bench.bore(Place::main(number), Read::Dial, &["23 23", rear])?;
    }
    Ok(bench.finish())
}

fn rules(now: &Rules, which: u8, other: bool) -> Rules {
    let now = now.clone();
    match which {
        0 => Rules { touches: if other { 1 } else { 2 }, ..now },
        1 => Rules { effective: if other { SizeRule::Mean } else { SizeRule::Worst }, ..now },
        2 => Rules { acceptance: if other { Acceptance::Simple } else { Acceptance::Guarded }, ..now },
        3 => Rules { preferred: if other { Method::DIRECT } else { Method::SUBTRACT }, ..now },
        4 => Rules { strip_judges: other, ..now },
        5 => Rules { temperature_doubt_mk: if other { 0 } else { 2_000 }, ..now },
        6 => Rules { reckoning: if other { Reckoning::First } else { Reckoning::Third }, ..now },
        7 => Rules { sampled: if other { vec![BearingRow::Mains] } else { Vec::new() }, ..now },
        8 => Rules { gates: if other { vec![Gate::Shape] } else { Vec::new() }, ..now },
        9 => Rules { cleaning_gate: !other, ..now },
        10 => Rules { shape: None, ..now },
        _ => Rules { size_band: Length::tenths(if other { 500 } else { 50 }), ..now },
    }
}

/// What a deed would record; nothing where it makes no sense.
fn what(build: &Build, touches: &[What], deed: &Deed) -> Option<What> {
    let reason = "it has to go out".to_owned();
    Some(match *deed {
        Deed::Touch { nth } => touches.get(nth % touches.len())?.clone(),
        Deed::Strike { nth } => {
            let of_tight: Vec<Uuid> = build.readings().filter(|(_, r)| r.station == TIGHT).map(|(f, _)| f.id).collect();
            What::Strike(Strike { reading: *of_tight.get(nth % of_tight.len())?, reason })
        }
        Deed::Plan { journal, touched } => {
            let of = if journal { Characteristic::MAIN_JOURNAL } else { Characteristic::MAIN_BEARING };
            let usual = of.positions().iter().enumerate();
            let positions: Vec<Planned> = usual.filter(|(i, _)| touched >> i & 1 == 1).map(|(_, p)| *p).collect();
            let plan = Plan { characteristic: of, at: None, positions };
            What::Plan(PlanChange { plan, reason, lifted: Vec::new() })
        }
        Deed::Target { main, low, wide } => What::Target(TargetChange {
            figure: None,
            station: main.map(Place::main),
            row: BearingRow::Mains,
            kind: None,
            rule: Some(TargetRule::Range { low: Length::tenths(low), aim: None, high: Length::tenths(low + wide) }),
            source: TargetSource::BuildersRule,
            made_of: None,
            wear: None,
            reason,
            lifted: Vec::new(),
        }),
        Deed::Rules { which, other } => {
            let rules = rules(build.rules_now(), which, other);
            What::Rules(RulesChange { rules, reason, lifted: Vec::new(), loosened: Vec::new() })
        }
        Deed::Work { which, main } => {
            let work =
                [Work::JournalPolished, Work::CapDeburred, Work::ShellsFitted, Work::CapTurned, Work::CapReplaced];
            let (work, on) = (*work.get(which)?, Scope::One(Place::main(main)));
            let ticks = work.ticks().to_vec();
            What::Work(WorkEvent { work, on, grits: Vec::new(), minutes: None, ticks, note: reason })
        }
        Deed::Enter => What::Part(Part {
            tag: crank(build, true)?,
            kind: PartKind::Crank,
            provenance: "from the shelf".into(),
            marks: String::new(),
        }),
        Deed::Fit { other } => {
            let moves = vec![PartMove { part: crank(build, other)?, place: None }];
            What::Assigned(Assignment { moves, reason })
        }
        Deed::Condemn { other, lifted } => What::Condemned(Condemnation { part: crank(build, other)?, lifted, reason }),
        Deed::Concede { main } => {
            let figure = Figure::OIL_CLEARANCE;
            What::Concession(concession_now(build, figure, Place::main(main), reason).ok()?)
        }
    })
}

/// The build after what an assembler is let do of some deeds; before each of them, whether it could be signed.
fn after(mut build: Build, deeds: &[Deed], capabilities: &Capabilities) -> (Build, bool) {
    let of_tight = build.readings().filter(|(_, r)| r.station == TIGHT);
    let touches: Vec<What> = of_tight.map(|(_, r)| What::Reading(r.clone())).collect();
    let mut signable = false;
    for (n, deed) in (1_u128..).zip(deeds) {
        let Some(what) = what(&build, &touches, deed) else { continue };
        let at = Timestamp(build.opened_at.0 + 10_000_000 + i64::try_from(n).unwrap_or_default());
        let Ok(fact) = next_fact(&build, Uuid::from_u128((7 << 64) + n), at, person("oduya"), what) else { continue };
        if capabilities.allow(&fact.what) {
            build.facts.push(fact);
            signable |= evaluate(&build).sign_off.status == SealStatus::Ready;
        }
    }
    (build, signable)
}

fn worst(build: &Build) -> Option<State> {
    let main = evaluate(build).bearings().next().cloned()?;
    main.judged.map(|judged| judged.state)
}

#[test]
fn only_the_tight_main_keeps_it_from_being_signed() -> Result<(), Refusal> {
    assert_eq!(evaluate(&measured(true)?).sign_off.status, SealStatus::Ready);
    let tight = measured(false)?;
    assert_eq!((worst(&tight), evaluate(&tight).sign_off.status), (Some(State::Tight), SealStatus::Blocked));
    // The lead can: the test below says something.
    let low = Deed::Target { main: Some(1), low: 5, wide: 40 };
    let lead = Capabilities { concede_tight: true, ..ASSEMBLER };
    assert!(after(tight.clone(), std::slice::from_ref(&low), &lead).1);
    assert!(!after(tight, &[low], &ASSEMBLER).1);
    Ok(())
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(256))]

    #[test]
    fn nobody_makes_what_is_tight_signable_without_the_lead(deeds in prop::collection::vec(deed(), 1..25)) {
        let Ok(tight) = measured(false) else { return Err(TestCaseError::fail("no build")) };
        let (_, signable) = after(tight, &deeds, &ASSEMBLER);
        prop_assert!(!signable);
    }
}
