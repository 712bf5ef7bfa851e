//! The sheet: what still blocks the signatures, who has signed, and whether the seal holds.
//!
//! * A station blocks while it is open or stale; on its edge without an acknowledgement; outside without a
//!   concession (tight: the lead's).
//! * Two different people sign, an assembler and a checker. The second signature closes the seal.
//! * Whatever is recorded after a signature ends it: half a signature lapses, a closed seal is broken
//!   and stays on record, and the sheet asks for a new revision.
use serde::{Deserialize, Serialize};

use super::away::Away;
use super::block::{Block, Known, Needs};
use super::proof::SealProof;
use super::unclean::unclean;
use crate::build::{Build, struck_among};
use crate::engine::{BearingRow, Figure, Place, PlaceKind};
use crate::figure::{FigureAssessment, Finding, StandsHere};
use crate::log::{Fact, Gate, Imported, Lifted, Loosened, Moment, Rules, SignerRole, What, Work};
use crate::maths::State;
use crate::units::{Person, Timestamp};

/// How far the sheet is.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SignOff {
    /// Where it stands.
    pub status: SealStatus,
    /// The revision that is sealed, or that the next signatures will seal.
    pub revision: u32,
    /// Figures that block, from the front.
    pub blocks: Vec<Block>,
    /// Signatures under what is recorded now.
    pub signatures: Vec<Signed>,
    /// The last seal that a later change broke.
    pub broken: Option<Broken>,
    /// The signatures that a file brought along: checked against that file only, and never this shop's.
    pub elsewhere: Vec<Signed>,
    /// The file that the first facts came from, who imported it, and when.
    pub imported: Option<ImportedBy>,
    /// What a change of a target or a rule lifted that was tight until then, the latest first.
    pub lifted: Vec<LiftedBy>,
    /// What changes of the rules ask less of, the latest first; what a later change asked again is left out.
    pub loosened: Vec<LoosenedBy>,
    /// What the seals prove, where they were checked.
    pub proof: SealProof,
    /// What has to happen next.
    pub next: Next,
}

impl SignOff {
    /// The same, with what the seals prove. What does not match blocks every further signature.
    #[must_use]
    pub fn proven(mut self, proof: SealProof) -> Self {
        if !proof.holds() {
            (self.status, self.next) = (SealStatus::DoesNotMatch, Next::ClearUp);
        }
        self.proof = proof;
        self
    }
}

/// Where a sheet stands.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum SealStatus {
    /// Something blocks.
    Blocked,
    /// Nothing blocks; signatures are missing.
    Ready,
    /// Both have signed and nothing was recorded since.
    Sealed,
    /// A seal does not match what it stands under: something was changed behind the product's back.
    DoesNotMatch,
}

/// A signature that stands.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Signed {
    /// Signed as.
    pub role: SignerRole,
    /// By whom.
    pub by: Person,
    /// When.
    pub at: Timestamp,
    /// SHA-256 of what it stands under, hex.
    pub digest: String,
    /// The revision it belongs to.
    pub revision: u32,
}

/// A seal that was closed and then broken by a later change.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Broken {
    /// The signatures that had closed it.
    pub signatures: Vec<Signed>,
    /// Who changed something.
    pub by: Person,
    /// When.
    pub at: Timestamp,
    /// What sort of fact it was ([`crate::log::What::kind`]).
    pub change: String,
}

/// An import.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ImportedBy {
    /// The file, and how much of it was this shop's own.
    #[serde(flatten)]
    pub import: Imported,
    /// Who imported it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
}

/// Something that the rules ask less of since somebody changed them.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LoosenedBy {
    /// What they ask less of.
    #[serde(flatten)]
    pub what: Loosened,
    /// Who changed them.
    pub by: Person,
    /// When they were changed.
    pub at: Timestamp,
    /// Why, in the words of whoever decided it.
    pub reason: String,
}

/// A tight figure that a changed target or rule lifted, and who changed it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LiftedBy {
    /// What it was, and what it was held against.
    #[serde(flatten)]
    pub lifted: Lifted,
    /// Who changed it.
    pub by: Person,
    /// When.
    pub at: Timestamp,
    /// Why, in the words of whoever decided it.
    pub reason: String,
}

/// The next thing a build needs from a person.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Next {
    /// Measure a station.
    Measure {
        /// The first that is open.
        station: Place,
        /// How many are open.
        open: usize,
    },
    /// Wait for a part that is at another shop: all that is to be measured is made of it.
    Await {
        /// The first place that waits for it.
        station: Place,
    },
    /// Decide about a station that is not in.
    Decide {
        /// The first that needs a decision.
        station: Place,
        /// What it needs.
        needs: Needs,
        /// The figure that needs it; what was kept by an earlier version does not name it.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        figure: Option<Figure>,
    },
    /// Collect a signature.
    Sign {
        /// Whose.
        role: SignerRole,
    },
    /// Find out what was changed behind a seal.
    ClearUp,
    /// Nothing: it is sealed.
    Nothing,
}

fn block(f: &FigureAssessment) -> Option<Block> {
    let block = |needs| Some(Block::of(f, needs));
    if !f.asked {
        return None;
    }
    if !f.moot.is_empty() {
        return block(Needs::Part);
    }
    let shows = |of: fn(&Finding) -> bool| f.findings.iter().any(of);
    if shows(|finding| matches!(finding, Finding::Unusable { .. })) {
        return block(Needs::Part);
    }
    if shows(|finding| *finding == Finding::StopJournal) {
        return block(Needs::Grinder);
    }
    if shows(|finding| matches!(finding, Finding::BlindDisagrees { .. } | Finding::BladesContradict { .. })) {
        return block(Needs::Settle);
    }
    // Nobody concedes what breaks pistons.
    if f.hot.iter().any(|hot| hot.stops) {
        return block(Needs::HotRoom);
    }
    match (&f.judged, &f.concession) {
        (None, _) if f.stale.is_some() => block(Needs::MeasureAgain),
        (None, _) => block(Needs::Measure),
        (Some(_), Some(c)) if !c.elsewhere => None,
        (Some(j), _) => match j.state {
            State::In => None,
            State::Edge => block(Needs::Acknowledgement),
            State::Loose => block(Needs::Concession),
            State::Tight => block(Needs::LeadConcession),
        },
    }
}

/// What blocks, from the front. A part that is condemned or missing blocks once, however many figures rest on it: what
/// they would still have to prove is moot.
fn blocks(figures: &[FigureAssessment]) -> Vec<Block> {
    let mut seats: Vec<&StandsHere> = Vec::new();
    let mut all = Vec::new();
    for f in figures.iter().filter(|f| f.asked) {
        let said = !f.moot.is_empty() && f.moot.iter().all(|seat| seats.contains(&seat));
        seats.extend(&f.moot);
        all.extend(block(f).filter(|_| !said));
    }
    all
}

/// Remarks that nobody signs past, each once; what belongs to no single place once along its row.
fn remarks(figures: &[FigureAssessment]) -> Vec<Block> {
    let mut said: Vec<(Figure, BearingRow, Gate)> = Vec::new();
    let mut all = Vec::new();
    for f in figures.iter().filter(|f| f.asked && f.moot.is_empty()) {
        for shut in f.gates.iter().filter(|shut| shut.concession.is_none()) {
            let of_row = (f.figure, f.row, shut.gate);
            if shut.gate.is_of_row() && said.contains(&of_row) {
                continue;
            }
            said.push(of_row);
            all.push(Block { gate: Some(shut.gate), ..Block::of(f, Needs::Remedy) });
        }
    }
    all
}

/// Rings the wrong way round show in no figure either.
fn rings_without_a_picture((build, notes, rules): Known<'_>, figures: &[FigureAssessment]) -> Vec<Block> {
    if !rules.orientation_pictures {
        return Vec::new();
    }
    let struck = struck_among(notes);
    let last =
        |of: &dyn Fn(&What) -> bool| notes.iter().rev().find(|f| of(&f.what) && !struck.contains(&f.id)).map(|f| f.seq);
    let missing = |at: Place| {
        let fitted = last(&|what| matches!(what, What::Work(w) if w.work == Work::RingsFitted && w.on.covers(at)))?;
        let shown = last(&|what| matches!(what, What::Picture(p) if p.place == at && p.moment == Moment::Fitted));
        shown.is_none_or(|seq| seq < fitted).then_some(())
    };
    let of_cylinder = build.layout.of_kind(PlaceKind::Cylinder).filter(|at| missing(*at).is_some());
    let first = |at| figures.iter().find(|f| f.station == at && f.asked);
    of_cylinder.filter_map(first).map(|f| Block::of(f, Needs::Picture)).collect()
}

/// Washers the wrong way round show in no figure: once some were fitted, a picture says how they face.
fn washers_without_a_picture((_, notes, rules): Known<'_>, figures: &[FigureAssessment]) -> Option<Block> {
    let struck = struck_among(notes);
    let last =
        |of: fn(&What) -> bool| notes.iter().rev().find(|f| of(&f.what) && !struck.contains(&f.id)).map(|f| f.seq);
    let fitted = last(|what| matches!(what, What::Washers(_)))?;
    let shown = last(|what| matches!(what, What::Picture(p) if p.place == Place::THRUST && p.moment == Moment::Fitted));
    let play = figures.iter().find(|f| f.figure == Figure::END_PLAY)?;
    let missing = rules.orientation_pictures && shown.is_none_or(|seq| seq < fitted);
    missing.then(|| Block::of(play, Needs::Picture))
}

/// The signatures of a build as its facts came in.
#[derive(Default)]
struct Signatures {
    standing: Vec<Signed>,
    /// Numbers of the facts of those that stand.
    places: Vec<u32>,
    broken: Option<Broken>,
    sealed: u32,
    elsewhere: Vec<Signed>,
    imported: Option<ImportedBy>,
}

impl Signatures {
    /// What stood in a file: signatures without this shop's mark stand here no more, nor does a seal that was broken there.
    fn came_with(&mut self, fact: &Fact, import: &Imported) {
        let elsewhere = import.elsewhere();
        let (standing, places) = (std::mem::take(&mut self.standing), std::mem::take(&mut self.places));
        for (signed, seq) in standing.into_iter().zip(places) {
            if elsewhere.contains(&seq) {
                self.elsewhere.push(signed);
            } else {
                self.standing.push(signed);
                self.places.push(seq);
            }
        }
        if !elsewhere.is_empty()
            && let Some(broken) = self.broken.take()
        {
            self.elsewhere.extend(broken.signatures);
        }
        self.imported = Some(ImportedBy { import: import.clone(), by: fact.by.clone(), at: fact.at });
    }
}

/// What changes of targets and rules lifted, the latest first.
fn lifted(notes: &[&Fact]) -> Vec<LiftedBy> {
    let of = |fact: &&Fact| {
        let reason = match &fact.what {
            What::Target(t) => t.reason.clone(),
            What::Rules(r) => r.reason.clone(),
            What::Plan(p) => p.reason.clone(),
            What::GaugePoint(g) => g.note.clone(),
            _ => String::new(),
        };
        let (by, at) = (fact.by.clone(), fact.at);
        let one =
            move |lifted: &Lifted| LiftedBy { lifted: lifted.clone(), by: by.clone(), at, reason: reason.clone() };
        fact.what.lifted().iter().map(one).collect::<Vec<_>>()
    };
    notes.iter().rev().filter(|fact| !fact.what.lifted().is_empty()).flat_map(of).collect()
}

/// What the rules ask less of since they were changed, the latest first, as far as no later change asked for it again.
fn loosened(build: &Build, notes: &[&Fact], now: &Rules) -> Vec<LoosenedBy> {
    let mut before = &build.rules;
    let mut all = Vec::new();
    for fact in notes {
        let What::Rules(change) = &fact.what else { continue };
        let still = now.loosened_from(before);
        let here = change.loosened.iter().filter(|what| still.contains(what));
        all.extend(here.map(|what| LoosenedBy {
            what: *what,
            by: fact.by.clone(),
            at: fact.at,
            reason: change.reason.clone(),
        }));
        before = &change.rules;
    }
    all.reverse();
    all
}

fn signatures(build: &Build, notes: &[&Fact]) -> Signatures {
    let mut s = Signatures::default();
    // Before the first of them there is nothing that thousands of readings could break.
    let begins = |f: &&&Fact| matches!(f.what, What::Signature(_) | What::Imported(_));
    let Some(first) = notes.iter().find(begins) else { return s };
    let (_, since) = build.facts.split_at(build.facts.partition_point(|f| f.seq < first.seq));
    for fact in since {
        if let What::Signature(signature) = &fact.what {
            let (role, revision, digest) = (signature.role, signature.revision, signature.digest.clone());
            s.standing.push(Signed { role, by: fact.by.clone(), at: fact.at, digest, revision });
            s.places.push(fact.seq);
            if s.standing.len() == BOTH {
                s.sealed = s.sealed.saturating_add(1);
                s.broken = None;
            }
            continue;
        }
        if let What::Imported(import) = &fact.what {
            s.came_with(fact, import);
            continue;
        }
        if s.standing.is_empty() {
            continue;
        }
        let signatures = std::mem::take(&mut s.standing);
        s.places.clear();
        if signatures.len() == BOTH {
            let change = fact.what.kind().to_owned();
            s.broken = Some(Broken { signatures, by: fact.by.clone(), at: fact.at, change });
        }
    }
    s
}

/// An assembler and a checker close a seal.
const BOTH: usize = 2;

/// How far the sheet of a build is, from its facts, its assessed figures and what else is in the way.
pub(crate) fn sign_off(known: Known<'_>, figures: &[FigureAssessment], further: Vec<Block>) -> SignOff {
    let (build, notes, rules) = known;
    let mut blocks = blocks(figures);
    // One thing at a time: it is measured first, then cleaned, then shown.
    let unseen = washers_without_a_picture(known, figures).into_iter().chain(rings_without_a_picture(known, figures));
    let waits = |blocks: &[Block], more: &Block| {
        let same = |b: &&Block| (b.figure, b.station) == (more.figure, more.station);
        blocks
            .iter()
            .filter(same)
            .any(|b| more.needs == Needs::Picture || matches!(b.needs, Needs::Measure | Needs::MeasureAgain))
    };
    let dirty = unclean(known, figures, |block| waits(&blocks, block));
    for more in remarks(figures).into_iter().chain(dirty).chain(unseen) {
        if !waits(&blocks, &more) {
            blocks.push(more);
        }
    }
    blocks.extend(further);
    let Signatures { standing, broken, sealed, elsewhere, imported, .. } = signatures(build, notes);
    let status = match (standing.len(), blocks.is_empty()) {
        (BOTH, _) => SealStatus::Sealed,
        (_, true) => SealStatus::Ready,
        (_, false) => SealStatus::Blocked,
    };
    let measure = |b: &&Block| matches!(b.needs, Needs::Measure | Needs::MeasureAgain);
    let open = blocks.iter().filter(measure).count();
    let away = Away::of(build, notes);
    let out = |b: &&Block| away.has(b.figure, b.station);
    let here = blocks.iter().find(|b| measure(b) && !out(b));
    let decide = blocks.iter().find(|b| !measure(b));
    let awaited = blocks.iter().find(measure);
    let next = match (status, here, decide, awaited) {
        (SealStatus::Sealed, ..) => Next::Nothing,
        (_, Some(b), ..) => Next::Measure { station: b.station, open },
        (_, None, _, Some(b)) => Next::Await { station: b.station },
        (_, None, Some(b), None) => Next::Decide { station: b.station, needs: b.needs, figure: Some(b.figure) },
        (_, None, None, None) => {
            let signed = |role| standing.iter().any(|s| s.role == role);
            let role = if signed(SignerRole::Assembler) { SignerRole::Checker } else { SignerRole::Assembler };
            Next::Sign { role }
        }
    };
    let revision = if status == SealStatus::Sealed { sealed } else { sealed.saturating_add(1) };
    let lifted = lifted(notes);
    SignOff {
        status,
        revision,
        blocks,
        signatures: standing,
        broken,
        elsewhere,
        imported,
        lifted,
        loosened: loosened(build, notes, rules),
        proof: SealProof::default(),
        next,
    }
}
