//! Grit: what was honed, ground, cut or blasted has to be washed or flushed before the sheet is signed. What stays in a
//! gallery or a drilling comes out with the first oil and ruins everything that was measured.
use super::block::{Block, Known, Needs};
use crate::build::order_of;
use crate::engine::{Place, Scope};
use crate::figure::FigureAssessment;
use crate::log::{Fact, OrderStep, Reckoning, What, Work, WorkEvent};

/// Work that left grit: its place among the facts, where it was done, and what it was.
type Gritty = (u32, Scope, Work);

/// Work that left grit, here or at another shop. The first reckonings knew stones in cylinders and on journals only.
fn gritty((_, notes, rules): Known<'_>) -> Vec<Gritty> {
    let here = works(notes).map(|(seq, done)| (seq, done.on, done.work));
    let back = notes.iter().filter_map(|f| match &f.what {
        What::OrderMoved(moved) if moved.step == OrderStep::Returned => Some((f.seq, order_of(notes, moved.order)?)),
        _ => None,
    });
    let elsewhere = back.flat_map(|(seq, order)| {
        order.items.iter().map(move |i| (seq, Scope::One(i.station), i.job.as_work(i.station)))
    });
    let asked = |(_, _, work): &Gritty| rules.reckoning >= Reckoning::Third || work.was_always_cleaned();
    here.chain(elsewhere).filter(asked).collect()
}

fn works<'a>(notes: &'a [&Fact]) -> impl Iterator<Item = (u32, &'a WorkEvent)> {
    notes.iter().filter_map(|f| if let What::Work(w) = &f.what { Some((f.seq, w)) } else { None })
}

/// The first figure of each place that has grit in it, with the washing that takes it away; figures that wait for something
/// else first are passed over.
pub(super) fn unclean(known: Known<'_>, figures: &[FigureAssessment], waits: impl Fn(&Block) -> bool) -> Vec<Block> {
    let (_, notes, rules) = known;
    if !rules.cleaning_gate {
        return Vec::new();
    }
    let gritty = gritty(known);
    let wash_of = |at: Place| {
        gritty.iter().filter(|(_, on, _)| on.covers(at)).find_map(|(seq, on, work)| {
            let cleaned = |by: Work| works(notes).any(|(s, w)| s > *seq && w.work == by && w.on.covers(at));
            work.cleaned_by(*on).iter().copied().find(|by| by.reaches(at) && !cleaned(*by))
        })
    };
    let mut said: Vec<(Place, Work)> = Vec::new();
    let mut blocks = Vec::new();
    for f in figures.iter().filter(|f| f.asked) {
        let journal = f.figure.row().fitted.then_some(f.journal_at);
        let places = journal.into_iter().chain((journal != Some(f.station)).then_some(f.station));
        for (at, wash) in places.filter_map(|at| Some((at, wash_of(at)?))) {
            // Nobody flushes a crank by its journals: one line asks for the whole of it.
            let whole = wash.done_to().1.is_empty() && rules.reckoning >= Reckoning::Third;
            let block = Block { wash: Some(wash), ..Block::of(f, Needs::Clean) };
            if !waits(&block) && !said.iter().any(|(there, by)| *by == wash && (whole || *there == at)) {
                said.push((at, wash));
                blocks.push(block);
            }
        }
    }
    blocks
}
