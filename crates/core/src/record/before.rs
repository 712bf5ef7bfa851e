//! What stands in a build before its next fact, as far as admission asks for it.
use std::borrow::Cow;
use std::collections::{HashMap, HashSet};

use uuid::Uuid;

use crate::build::{Build, Standing, is_answered_by};
use crate::engine::{Characteristic, Place, PlaceKind, Planned};
use crate::evidence::Sessions;
use crate::gauge::Gauge;
use crate::log::{BlindRequest, Fact, OrderStep, Reading, Rules, What};

/// Who is asked to read what blind, and where.
type Asked = (Uuid, Place, Characteristic);

/// The facts so far, sorted by what they say. Kept up fact by fact where a whole file is looked at, so that looking takes as
/// long as the file is long.
pub(super) struct Before<'a> {
    /// The build as it was opened; its facts are not looked at.
    set_up: &'a Build,
    /// Of every fact, where a whole file is looked at: whether it can be struck.
    known: Option<HashMap<Uuid, bool>>,
    rules: &'a Rules,
    sessions: Sessions,
    struck: HashSet<Uuid>,
    /// Where characteristics are touched.
    plans: Vec<&'a Fact>,
    /// What says where parts stand.
    parts: Vec<&'a Fact>,
    /// How far each order is; nothing where it is only written.
    orders: HashMap<Uuid, Option<OrderStep>>,
    requests: HashMap<Asked, Vec<(Uuid, &'a BlindRequest)>>,
    /// Blind readings by their requests.
    answers: HashMap<Uuid, Vec<(Uuid, &'a Reading)>>,
    pictures: usize,
}

impl<'a> Before<'a> {
    /// Before the first fact of a build that is looked at whole.
    pub fn first_of(set_up: &'a Build) -> Self {
        Before { known: Some(HashMap::new()), ..Self::nothing(set_up) }
    }

    /// Before the next fact of a build.
    pub fn next_of(build: &'a Build) -> Self {
        let mut before = Self::nothing(build);
        build.facts.iter().for_each(|fact| before.take_in(fact));
        before
    }

    fn nothing(set_up: &'a Build) -> Self {
        Before {
            set_up,
            known: None,
            rules: &set_up.rules,
            sessions: Sessions::default(),
            struck: HashSet::new(),
            plans: Vec::new(),
            parts: Vec::new(),
            orders: HashMap::new(),
            requests: HashMap::new(),
            answers: HashMap::new(),
            pictures: 0,
        }
    }

    /// Takes in the next fact. A file in which an identifier stands twice is refused before it comes here.
    pub fn take_in(&mut self, fact: &'a Fact) {
        if let Some(known) = &mut self.known {
            known.insert(fact.id, fact.what.can_be_struck());
        }
        match &fact.what {
            What::Reading(reading) => {
                if let Some(request) = reading.blind {
                    self.answers.entry(request).or_default().push((fact.id, reading));
                }
            }
            What::Strike(strike) => drop(self.struck.insert(strike.reading)),
            What::Rules(change) => self.rules = &change.rules,
            What::SessionOpened(_) | What::SessionClosed(_) => self.sessions.take_in(fact, self.rules.reckoning),
            What::Plan(_) => self.plans.push(fact),
            What::Part(_) | What::Assigned(_) | What::Condemned(_) => self.parts.push(fact),
            What::Order(_) => drop(self.orders.insert(fact.id, None)),
            What::OrderMoved(moved) => drop(self.orders.insert(moved.order, Some(moved.step))),
            What::Blind(request) => {
                let asked = (request.whom.id, request.station, request.characteristic);
                self.requests.entry(asked).or_default().push((fact.id, request));
            }
            What::Picture(_) => self.pictures = self.pictures.saturating_add(1),
            _ => {}
        }
    }

    /// Whether there is such a fact among those of `build`, the facts so far, and it can be struck.
    pub fn can_be_struck(&self, build: &Build, id: Uuid) -> bool {
        match &self.known {
            Some(known) => known.get(&id).copied().unwrap_or_default(),
            None => build.facts.iter().any(|f| f.id == id && f.what.can_be_struck()),
        }
    }

    /// Whether it was struck already.
    pub fn is_struck(&self, id: Uuid) -> bool {
        self.struck.contains(&id)
    }

    /// Every reading that was struck.
    pub const fn struck(&self) -> &HashSet<Uuid> {
        &self.struck
    }

    /// The sittings so far.
    pub const fn sessions(&self) -> &Sessions {
        &self.sessions
    }

    /// How many pictures were kept.
    pub const fn pictures(&self) -> usize {
        self.pictures
    }

    /// The gauge of that identifier, as the build was opened with it.
    pub fn gauge(&self, id: &str) -> Option<&'a Gauge> {
        self.set_up.gauge(id)
    }

    /// What stands where.
    pub fn standing(&self) -> Standing<'a> {
        Standing::of(&self.set_up.layout, &self.parts)
    }

    /// Where a characteristic is touched.
    pub fn plan(&self, characteristic: Characteristic, at: PlaceKind) -> Cow<'a, [Planned]> {
        self.set_up.positions_among(&self.plans, (characteristic, at))
    }

    /// How far an order is; `None` where there is no such order.
    pub fn order(&self, id: Uuid) -> Option<Option<OrderStep>> {
        self.orders.get(&id).copied()
    }

    /// The open request to a person about a characteristic of a place.
    pub fn open_request(&self, person: Uuid, station: Place, characteristic: Characteristic) -> Option<Uuid> {
        let asked = self.requests.get(&(person, station, characteristic))?;
        let plan = self.plan(characteristic, station.kind());
        let is_open = |(id, request): &&(Uuid, &BlindRequest)| {
            let answers = self.answers.get(id).into_iter().flatten();
            let touched: Vec<&Reading> = answers.filter(|(fact, _)| !self.is_struck(*fact)).map(|(_, r)| *r).collect();
            !is_answered_by(&touched, &plan, request)
        };
        asked.iter().find(is_open).map(|(id, _)| *id)
    }
}
