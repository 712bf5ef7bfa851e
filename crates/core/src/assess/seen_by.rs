//! A build as somebody sees it who measures blind: what is hidden is hidden, and everything else reads as it does for
//! everybody.
//!
//! The readings that must not be seen are left out before anything is worked out. What is common to a whole build, such as
//! how surely a hand repeats, would then be known a little worse, and figures far away from what is hidden would change
//! their doubt and even their verdict. So figures that take nothing of what is hidden are shown as the whole build has them,
//! without the remarks that hold them against it.
use uuid::Uuid;

use super::assessment::Assessment;
use super::evaluate::evaluate;
use super::forced::in_the_way;
use super::wanted::still_wanted;
use crate::build::{Build, open_requests, without};
use crate::figure::FigureAssessment;
use crate::log::BlindRequest;
use crate::sheet::sign_off;

/// The build as a person sees it while they are asked to measure blind, with what follows from it; `None` where nothing is
/// hidden from them.
pub fn evaluate_as_seen(build: &Build, person: Uuid) -> Option<(Build, Assessment)> {
    let requests = open_requests(build, person);
    if requests.is_empty() {
        return None;
    }
    let seen = without(build, &requests);
    let mut assessed = evaluate(&seen);
    let whole = evaluate(build);
    for f in assessed.figures.iter_mut().filter(|f| !takes_of_hidden(f, &requests)) {
        if let Some(known) = whole.figure(f.figure, f.station) {
            let (findings, gates) = (std::mem::take(&mut f.findings), std::mem::take(&mut f.gates));
            *f = FigureAssessment { findings, gates, ..known.clone() };
        }
    }
    assessed.wanted = still_wanted(&assessed.rules, &assessed.figures);
    let in_the_way = in_the_way(&assessed.forced, &assessed.figures);
    assessed.sign_off = sign_off((&seen, &seen.notes(), &assessed.rules), &assessed.figures, in_the_way);
    Some((seen, assessed))
}

/// Whether a figure is of a place that somebody measures blind, or made of what they measure.
fn takes_of_hidden(f: &FigureAssessment, requests: &[(Uuid, BlindRequest)]) -> bool {
    requests.iter().any(|(_, r)| {
        let measured = || f.measured.iter().any(|m| (m.place, m.characteristic) == (r.station, r.characteristic));
        f.station == r.station || f.journal_at == r.station || measured()
    })
}
