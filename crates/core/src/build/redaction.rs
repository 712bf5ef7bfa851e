//! What a person who measures blind may see of a build.
//!
//! While a request is open its person gets the build *redacted*: the first readings of that place are taken out before
//! anything is worked out, so no view of the API can show them. What the person reads there is kept apart.
use std::collections::HashSet;

use uuid::Uuid;

use super::model::Build;
use crate::engine::{Characteristic, Place, Planned, Read};
use crate::log::{BlindRequest, Fact, FittedPair, Fitting, Reading, What, WorkOrder};

/// The requests among a build's notes, in order.
pub(crate) fn requests<'a>(notes: &[&'a Fact]) -> impl Iterator<Item = (&'a Fact, &'a BlindRequest)> {
    notes.iter().filter_map(|f| match &f.what {
        What::Blind(request) => Some((*f, request)),
        _ => None,
    })
}

/// Whether every place that counts was touched for a request, one way where there are two that are kept apart.
pub fn is_done(build: &Build, id: Uuid, request: &BlindRequest) -> bool {
    let struck = build.struck();
    let touched = build.readings().filter(|(f, r)| r.blind == Some(id) && !struck.contains(&f.id)).map(|(_, r)| r);
    is_answered_by(&touched.collect::<Vec<_>>(), &build.plan(request.characteristic, request.station.kind()), request)
}

/// Whether some readings are all that a request asks for.
pub(crate) fn is_answered_by(touched: &[&Reading], plan: &[Planned], request: &BlindRequest) -> bool {
    let row = request.characteristic.row();
    let whole = |counts: &dyn Fn(Read) -> bool| {
        let here = |p| touched.iter().any(|r| r.position == p && counts(r.measure.read()));
        plan.iter().filter(|p| !p.advisory).all(|p| here(p.position))
    };
    if row.reads_apart { row.reads.iter().any(|one| whole(&|read| read == *one)) } else { whole(&|_| true) }
}

/// The open request to a person about a characteristic of a place.
pub fn open_request(build: &Build, person: Uuid, station: Place, characteristic: Characteristic) -> Option<Uuid> {
    requests(&build.notes())
        .filter(|(_, r)| (r.whom.id, r.station, r.characteristic) == (person, station, characteristic))
        .find(|(f, r)| !is_done(build, f.id, r))
        .map(|(f, _)| f.id)
}

/// Every open request to a person.
pub fn open_requests(build: &Build, person: Uuid) -> Vec<(Uuid, BlindRequest)> {
    requests(&build.notes())
        .filter(|(_, r)| r.whom.id == person)
        .filter(|(f, r)| !is_done(build, f.id, r))
        .map(|(f, r)| (f.id, r.clone()))
        .collect()
}

/// The build as a person may see it: without the readings that must stay hidden from them, and without
/// the strikes, acceptances, signatures, predictions and orders that would tell of them. Their own blind readings stand in
/// the place of the first ones. `None` when nothing is hidden.
pub fn redacted(build: &Build, person: Uuid) -> Option<Build> {
    let open = open_requests(build, person);
    (!open.is_empty()).then(|| without(build, &open))
}

/// The build without what answers some open requests.
pub(crate) fn without(build: &Build, open: &[(Uuid, BlindRequest)]) -> Build {
    let answers = |blind: Option<Uuid>| open.iter().any(|(id, _)| blind == Some(*id));
    let hidden = |r: &Reading| {
        !answers(r.blind) && open.iter().any(|(_, q)| (q.station, q.characteristic) == (r.station, r.characteristic))
    };
    let readings: HashSet<Uuid> = build.readings().filter(|(_, r)| hidden(r)).map(|(f, _)| f.id).collect();
    let tells = |station: Place| {
        let journal = build.layout.journal_of(station);
        open.iter().any(|(_, r)| r.station == station || r.station == journal)
    };
    let shown = |fact: &&Fact| match &fact.what {
        What::Reading(_) => !readings.contains(&fact.id),
        What::Strike(s) => !readings.contains(&s.reading),
        What::Concession(c) => !tells(c.station),
        What::Signature(_) => false,
        What::Order(o) => o.items.iter().any(|i| !tells(i.station)),
        _ => true,
    };
    let as_first = |fact: &Fact| {
        let what = match &fact.what {
            What::Reading(r) if answers(r.blind) => What::Reading(Reading { blind: None, ..r.clone() }),
            // What was promised of a bearing, or ordered of a part, tells its size. That shells were changed does not, and
            // what they ended stays ended.
            What::Fitting(f) => {
                let unpromised = |p: &FittedPair| if tells(p.station) { p.without_promise() } else { p.clone() };
                What::Fitting(Fitting { pairs: f.pairs.iter().map(unpromised).collect(), ..f.clone() })
            }
            What::Order(o) => {
                let items = o.items.iter().filter(|i| !tells(i.station)).cloned().collect();
                let clean_up = o.clean_up.iter().filter(|c| !tells(c.journal)).copied().collect();
                What::Order(WorkOrder { items, clean_up, ..o.clone() })
            }
            other => other.clone(),
        };
        Fact { what, ..fact.clone() }
    };
    let facts = build.facts.iter().filter(shown).map(as_first).collect();
    Build { facts, known_to: build.seq(), ..build.without_facts() }
}
