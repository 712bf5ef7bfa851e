//! Prints what the laboratory finds. `cargo run --release -p jagged-pin-truth-lab [engines]`.
#![allow(clippy::print_stdout, reason = "a report is printed")]

use jagged_pin_core::engine::Method;
use jagged_pin_core::log::ZeroSource;
use jagged_pin_core::maths::Material;
use jagged_pin_truth_lab::coverage::coverage;
use jagged_pin_truth_lab::faults::disagreement;
use jagged_pin_truth_lab::parts::Form;
use jagged_pin_truth_lab::predictions::{Boxes, predictions};
use jagged_pin_truth_lab::rounds::led;
use jagged_pin_truth_lab::rows::{matched_row, row_of, rows};
use jagged_pin_truth_lab::shop::{BORE_HALF_TENTHS, Fault, Shop};

/// Engines measured for each line of the report.
#[derive(Clone, Copy)]
struct Report {
    engines: u32,
}

impl Report {
    fn line(self, name: &str, shop: &Shop, method: Method) {
        let c = coverage(shop, method, self.engines, 1);
        let (method, bias, expanded) = (method.name(), c.bias(), c.expanded());
        println!(
            "{name:44} {method:10} covered {}  false in {}  bias {bias:+.2}  U {expanded:.2}",
            c.covered, c.false_in
        );
    }

    fn both(self, name: &str, shop: &Shop) {
        let shop = Shop { subtract: true, ..shop.clone() };
        self.line(name, &shop, Method::DIRECT);
        self.line(name, &shop, Method::SUBTRACT);
    }

    fn nominal(self) {
        println!("Everything errs as declared");
        for form in Form::ALL {
            self.both(&format!("{form:?}"), &Shop::nominal(form));
        }
        for form in [Form::Ideal, Form::Typical, Form::Worn] {
            let shop = Shop { components: true, ..Shop::nominal(form) };
            self.line(&format!("{form:?}, walls measured"), &shop, Method::COMPONENTS);
        }
    }

    fn zeroes(self) {
        println!("\nWhat the bore gauge was zeroed in");
        for zero in [ZeroSource::Locked, ZeroSource::SameMic, ZeroSource::Ring, ZeroSource::OtherMic] {
            for form in [Form::Ideal, Form::Typical] {
                let shop = Shop { zero, ..Shop::nominal(form) };
                self.line(&format!("{form:?}, {zero:?}"), &shop, Method::DIRECT);
                let finer = Shop { bore: BORE_HALF_TENTHS, ..shop };
                self.line(&format!("{form:?}, {zero:?}, half tenths"), &finer, Method::DIRECT);
            }
        }
    }

    fn hands(self) {
        println!("\nTouches and hands");
        for touches in [1, 3, 4] {
            for form in [Form::Ideal, Form::Typical] {
                self.line(
                    &format!("{form:?}, {touches} touches"),
                    &Shop { touches, ..Shop::nominal(form) },
                    Method::DIRECT,
                );
            }
        }
        for hand in [0.0, 0.5, 1.5, 2.0, 3.0] {
            self.both(&format!("Typical, hand x {hand}"), &Shop { hand, ..Shop::nominal(Form::Typical) });
        }
    }

    fn gauges(self) {
        println!("\nGauges that are off or walk, and a warm shop");
        for offsets in [0.0, 2.0] {
            let shop = Shop { offsets, ..Shop::nominal(Form::Typical) };
            self.line(&format!("Typical, offsets x {offsets}"), &shop, Method::DIRECT);
        }
        for (mic_off, walk) in [(0.0, 0.0), (1.0, 0.0), (0.0, 0.5), (0.0, 1.0)] {
            let shop = Shop { checked: true, mic_off, walk, ..Shop::nominal(Form::Typical) };
            self.both(&format!("Typical, checked, mic {mic_off} over, walk {walk}"), &shop);
        }
        for walk in [0.5, 1.0, 2.0] {
            self.line(
                &format!("Typical, unchecked walk {walk}"),
                &Shop { walk, ..Shop::nominal(Form::Typical) },
                Method::DIRECT,
            );
        }
        for warm in [0.0, 5.0] {
            for block in [Material::Iron, Material::Aluminium] {
                let shop = Shop { warm, block, ..Shop::nominal(Form::Typical) };
                self.line(&format!("Typical, {block:?}, {warm} K warm"), &shop, Method::DIRECT);
            }
        }
    }

    fn methods(self) {
        println!("\nMethods side by side");
        for form in [Form::Ideal, Form::Good, Form::Typical, Form::Worn] {
            let shop = Shop { subtract: true, components: true, ..Shop::nominal(form) };
            let d = disagreement(&shop, self.engines, 2);
            println!("{form:?}: pairs that disagree {}, neighbours said to be swapped {}", d.pairs, d.others_swapped);
            let swapped = disagreement(&Shop { fault: Fault::SwappedBores, ..shop }, self.engines, 2).swapped;
            println!("{form:?}, bores of two mains swapped: said {swapped}");
            let alone = Shop { journals: 3.0, clearance: (25.0, 0.5), ..Shop::nominal(form) };
            let sound = disagreement(&alone, self.engines, 2).others_swapped;
            let swapped = disagreement(&Shop { fault: Fault::SwappedBores, ..alone }, self.engines, 2).swapped;
            println!("{form:?}, by one method: said of sound rows {sound}, of swapped bores {swapped}");
        }
        for by in [4.0, 2.0] {
            for fault in [Fault::Mic(by), Fault::Zero(by), Fault::Ring(by), Fault::BallMic(by), Fault::Dirt(by)] {
                // Housings and journals on their drawing.
                let shop = Shop {
                    subtract: true,
                    components: true,
                    fault,
                    clearance: (27.0, 3.0),
                    ..Shop::nominal(Form::Good)
                };
                let d = disagreement(&shop, self.engines, 3);
                println!("{fault:?}: engines that disagree {}, the right suspect first {}", d.engines, d.right);
            }
        }
    }

    fn chosen(self) {
        println!("\nShells that were chosen by what was measured");
        for form in [Form::Ideal, Form::Typical, Form::Worn] {
            for boxes in [Boxes::Apart, Boxes::Together] {
                let shop = Shop { clearance: (25.0, 5.0), ..Shop::nominal(form) };
                let c = predictions(&shop, boxes, self.engines, 6);
                let (bias, expanded) = (c.bias(), c.expanded());
                println!(
                    "{form:?}, halves {boxes:?}: covered {}  false in {}  bias {bias:+.2}  U {expanded:.2}",
                    c.covered, c.false_in
                );
            }
        }
    }

    fn rounds(self) {
        println!("\nTouch by touch as the product leads");
        for rounds in [false, true] {
            for walk in [0.0, 1.0, 2.0, 3.0] {
                for (form, hand) in [(Form::Good, 1.0), (Form::Typical, 1.0), (Form::Typical, 2.0)] {
                    let shop = Shop { walk, hand, ..Shop::nominal(form) };
                    let found = led(&shop, rounds, self.engines.div_ceil(5), 8);
                    let (figures, touches) = (found.figures, found.touches());
                    println!(
                        "{form:?}, hand x {hand}, walk {walk}, {}: {touches:.1} touches  decided {}  covered {}  U {:.2}  false in {}",
                        if rounds { "rounds" } else { "at once" },
                        found.decided,
                        figures.covered,
                        figures.expanded(),
                        figures.false_in
                    );
                }
            }
        }
    }

    fn rows(self) {
        println!("\nRows");
        for mains in [3, 4, 5, 7] {
            for scatter in [0.0, 0.5, 1.0, 2.0, 4.0] {
                let seen = rows(&row_of(mains, scatter, 0.0), self.engines, 4);
                println!("{mains} mains, scatter {scatter}: leaning {}, odd {}", seen.leaning, seen.odd);
            }
        }
        for off in [2.0, 3.0, 4.0] {
            let named = rows(&row_of(7, 0.5, off), self.engines, 5).third;
            println!("7 mains, scatter 0.5, one {off} off: named {named}");
            let matched = rows(&matched_row(7, 0.5, off), self.engines, 5).third;
            println!("the same, journals 3 apart and shells matched: named {matched}");
        }
    }
}

fn main() {
    let engines = std::env::args().nth(1).and_then(|n| n.parse().ok()).unwrap_or(1_000);
    let report = Report { engines };
    report.nominal();
    report.zeroes();
    report.hands();
    report.gauges();
    report.methods();
    report.chosen();
    report.rows();
    report.rounds();
}
