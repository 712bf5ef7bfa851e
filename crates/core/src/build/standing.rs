//! What stands where: the part on each seat, now and at any fact.
//!
//! Evidence belongs to the part. A reading taken at a place is of the part that stood there then; it counts at the place
//! where that part stands now, and nowhere while it stands nowhere.
use std::cell::OnceCell;
use std::collections::{BTreeMap, BTreeSet};

use super::model::Build;
use crate::engine::{Characteristic, Figure, Layout, PartKind, Place, Scope, Seat, Tag};
use crate::log::{Assignment, Condemnation, Ends, Fact, Part, What};

/// Which part stands on each seat.
type Seats = BTreeMap<Seat, String>;

/// The parts of a build and where they stand.
#[derive(Debug)]
pub struct Standing<'a> {
    layout: &'a Layout,
    /// Where the layout put them, once somebody asked: nobody does where nothing was moved or condemned.
    first: OnceCell<Seats>,
    /// Where they stood from an assignment on.
    moved: Vec<(u32, Seats)>,
    entered: Vec<(&'a Fact, &'a Part)>,
    condemned: BTreeMap<&'a str, (&'a Fact, &'a Condemnation)>,
    /// Seats on which now stands what the layout did not name: few, if any.
    changed: Vec<Seat>,
    /// Seats of parts that are condemned or missing.
    unfit: Vec<Seat>,
}

/// The seats after an assignment.
fn assigned(before: &Seats, assignment: &Assignment, kind_of: impl Fn(&str) -> Option<PartKind>) -> Seats {
    let moved: BTreeSet<&str> = assignment.moves.iter().map(|m| m.part.as_str()).collect();
    let mut seats: Seats =
        before.iter().filter(|(_, part)| !moved.contains(part.as_str())).map(|(s, p)| (*s, p.clone())).collect();
    for m in &assignment.moves {
        if let Some(kind) = kind_of(&m.part) {
            seats.insert(Seat { kind, place: m.place }, m.part.clone());
        }
    }
    seats
}

impl<'a> Standing<'a> {
    /// What stands where, by a build's notes ([`Build::notes`]).
    pub fn of(layout: &'a Layout, notes: &[&'a Fact]) -> Self {
        let mut standing = Standing {
            layout,
            first: OnceCell::new(),
            moved: Vec::new(),
            entered: Vec::new(),
            condemned: BTreeMap::new(),
            changed: Vec::new(),
            unfit: Vec::new(),
        };
        for fact in notes {
            match &fact.what {
                What::Part(part) => standing.entered.push((fact, part)),
                What::Assigned(assignment) => {
                    let next = assigned(standing.now(), assignment, |p| standing.kind_of(p));
                    standing.moved.push((fact.seq, next));
                }
                What::Condemned(c) if c.lifted => drop(standing.condemned.remove(c.part.as_str())),
                What::Condemned(c) => drop(standing.condemned.insert(&c.part, (fact, c))),
                _ => {}
            }
        }
        if standing.is_first() && standing.condemned.is_empty() {
            return standing;
        }
        let fit = |seat: &Seat| standing.on(*seat).is_some_and(|part| standing.condemned(part).is_none());
        let unfit = layout.seats().into_iter().filter(|seat| !fit(seat)).collect();
        let as_named = |seat: &Seat| standing.on(*seat) == standing.first().get(seat).map(String::as_str);
        let changed = layout.seats().into_iter().filter(|seat| !as_named(seat)).collect();
        Standing { changed, unfit, ..standing }
    }

    /// Whether nothing was ever moved from where the layout put it.
    pub const fn is_first(&self) -> bool {
        self.moved.is_empty()
    }

    /// Where the layout put them.
    fn first(&self) -> &Seats {
        self.first.get_or_init(|| self.layout.seats().into_iter().map(|seat| (seat, seat.first_part())).collect())
    }

    /// Where they stand now.
    fn now(&self) -> &Seats {
        self.moved.last().map_or_else(|| self.first(), |(_, seats)| seats)
    }

    /// The kind of a part; `None` where there is no such part.
    pub fn kind_of(&self, part: &str) -> Option<PartKind> {
        let entered = self.entered.iter().find(|(_, p)| p.tag == part).map(|(_, p)| p.kind);
        entered.or_else(|| self.layout.seats().into_iter().find(|s| s.first_part() == part).map(|s| s.kind))
    }

    /// The parts that were entered, in order.
    pub fn entered(&self) -> &[(&'a Fact, &'a Part)] {
        &self.entered
    }

    /// Why a part is condemned, if it is.
    pub fn condemned(&self, part: &str) -> Option<(&'a Fact, &'a Condemnation)> {
        self.condemned.get(part).copied()
    }

    /// Where they stood when the fact of that number was kept.
    fn at(&self, seq: u32) -> &Seats {
        let moved = self.moved.iter().rev().find(|(from, _)| *from <= seq);
        moved.map_or_else(|| self.first(), |(_, seats)| seats)
    }

    /// The part on a seat now.
    pub fn on(&self, seat: Seat) -> Option<&str> {
        self.now().get(&seat).map(String::as_str)
    }

    /// The seat of a part now.
    pub fn seat_of(&self, part: &str) -> Option<Seat> {
        self.now().iter().find(|(_, p)| p.as_str() == part).map(|(seat, _)| *seat)
    }

    /// The part that something at a place is evidence about: the one named with it, else the one that stood there then;
    /// `None` for a kind of part that does not move, or where none stood.
    pub fn part_then(&self, kind: PartKind, place: Place, named: Option<&'a str>, seq: u32) -> Option<&str> {
        named.or_else(|| self.at(seq).get(&Seat::of(kind, place)).map(String::as_str))
    }

    /// Where what was found of a part at `place` as fact `seq` stood when fact `then` was kept.
    pub fn follow(
        &self,
        (kind, place): (PartKind, Place),
        named: Option<&'a str>,
        (seq, then): (u32, u32),
    ) -> Option<Place> {
        if !kind.row().moves || (named.is_none() && self.is_first()) {
            return Some(place);
        }
        let part = self.part_then(kind, place, named, seq)?;
        let seats = self.at(then);
        // A part that fills the whole engine is met at the same place of it.
        let seat = seats.iter().find(|(seat, p)| seat.kind == kind && p.as_str() == part).map(|(seat, _)| seat)?;
        Some(seat.place.unwrap_or(place))
    }

    /// What an assignment ends: where another part stands from then on, the pairs it was half of.
    pub fn ends(&self, seq: u32) -> Vec<Ends> {
        let Some(i) = self.moved.iter().position(|(from, _)| *from == seq) else { return Vec::new() };
        let after = &self.moved[i].1;
        let before = i.checked_sub(1).map_or_else(|| self.first(), |before| &self.moved[before].1);
        let changed: Vec<Seat> =
            self.layout.seats().into_iter().filter(|seat| before.get(seat) != after.get(seat)).collect();
        let rests = |place: Place| self.rests_on(place).iter().any(|seat| changed.contains(seat));
        let ended = self.layout.places().filter(|place| rests(*place));
        ended.map(|place| Ends { scope: Scope::One(place), tags: &[Tag::Pairing] }).collect()
    }

    /// The seats of the parts that the figures of a place are made of.
    fn rests_on(&self, place: Place) -> Vec<Seat> {
        Figure::all().filter(|f| f.is_at(place)).flat_map(|f| self.seats_under(f, place)).collect()
    }

    /// The seats of the parts that one figure of a place is made of.
    pub fn seats_under(&self, figure: Figure, place: Place) -> Vec<Seat> {
        let mut seats: Vec<Seat> = Vec::new();
        let at = |role| self.layout.places_with(place, role).map(move |at| (role, at));
        for (role, at) in figure.inputs().iter().flat_map(|input| at(input.role)) {
            let kind = Characteristic::at(at, role).map(|c| c.row().part).filter(|kind| kind.row().moves);
            let seat = kind.map(|kind| Seat::of(kind, at)).filter(|seat| !seats.contains(seat));
            seats.extend(seat);
        }
        seats
    }

    /// Whether the part on a seat still has to prove anything: not while it is condemned, or none is there.
    pub fn is_fit(&self, seat: Seat) -> bool {
        !self.unfit.contains(&seat)
    }

    /// Whether the part on a seat is not the one that the layout named.
    pub fn is_changed(&self, seat: Seat) -> bool {
        self.changed.contains(&seat)
    }

    /// Whether every part stands where the layout put it, and none is condemned.
    pub const fn is_as_laid_out(&self) -> bool {
        self.changed.is_empty() && self.unfit.is_empty()
    }
}

/// The build as it would be with a part in its seat: for looking at a candidate. `None` where there is no such part, or
/// it has no seat by itself.
pub fn with_part_in(build: &Build, part: &str) -> Option<Build> {
    let notes = build.notes();
    let standing = Standing::of(&build.layout, &notes);
    let kind = standing.kind_of(part).filter(|kind| kind.row().seats.is_none())?;
    if standing.on(Seat { kind, place: None }) == Some(part) {
        return Some(build.clone());
    }
    let moves = vec![crate::log::PartMove { part: part.to_owned(), place: None }];
    let what = What::Assigned(Assignment { moves, reason: "to look at it".into() });
    let at = build.facts.last().map_or(build.opened_at, |f| f.at);
    let (id, by, seq) = (uuid::Uuid::nil(), build.opened_by.clone(), build.seq().saturating_add(1));
    let mut with = build.clone();
    with.facts.push(Fact { id, seq, at, by, what });
    Some(with)
}
