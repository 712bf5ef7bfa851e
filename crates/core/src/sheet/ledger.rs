//! The ledger of seals: a line for everything a shop did that its seals stand on, each bound to the line before it by the shop's
//! key. A build's own seals prove that nothing before them was changed; the ledger proves that none of them is gone.
use std::collections::{BTreeMap, HashMap};

use serde::{Deserialize, Serialize};
use uuid::Uuid;

use super::key::SealKey;
use super::proof::{SealFault, SealFlaw};
use crate::build::{Build, from_elsewhere};
use crate::log::What;
use crate::units::Timestamp;

/// What a line of the ledger tells.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum LedgerKind {
    /// From here on everything is written down.
    Begun,
    /// A signature that was there when the ledger was begun.
    TakenOver,
    /// A signature.
    Signed,
    /// A build was put away.
    PutAway,
    /// A build was taken out again.
    TakenOut,
    /// A build was removed for good.
    Removed,
    /// Somebody has a name.
    Named,
}

impl LedgerKind {
    const fn name(self) -> &'static str {
        match self {
            LedgerKind::Begun => "begun",
            LedgerKind::TakenOver => "taken_over",
            LedgerKind::Signed => "signed",
            LedgerKind::PutAway => "put_away",
            LedgerKind::TakenOut => "taken_out",
            LedgerKind::Removed => "removed",
            LedgerKind::Named => "named",
        }
    }
}

/// What is written down: everything of a line but its number and its link.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LedgerEntry {
    /// What it tells.
    pub kind: LedgerKind,
    /// The build, or the person; nobody for the first line.
    pub about: Uuid,
    /// Number of the signature among the facts of its build, else 0.
    pub seq: u32,
    /// The digest of a signature, the name of a person, else nothing.
    pub text: String,
    /// When it was written.
    pub at: Timestamp,
}

impl LedgerEntry {
    /// An entry about a build or a person as such.
    pub const fn about(about: Uuid, kind: LedgerKind, at: Timestamp) -> Self {
        LedgerEntry { kind, about, seq: 0, text: String::new(), at }
    }
}

/// A line of the ledger.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct LedgerLine {
    /// Its place, from 1.
    pub number: u32,
    /// What it tells.
    pub entry: LedgerEntry,
    /// Binds it to the line before.
    pub link: String,
}

impl LedgerLine {
    /// The line after one with that number and link; after none, 0 and nothing.
    pub fn after((number, link): (u32, &str), entry: LedgerEntry, key: &SealKey) -> Self {
        let number = number.saturating_add(1);
        let link = link_of(key, number, link, &entry);
        LedgerLine { number, entry, link }
    }
}

/// HMAC-SHA-256 over the link before, the number and the entry, in hex.
fn link_of(key: &SealKey, number: u32, before: &str, entry: &LedgerEntry) -> String {
    let LedgerEntry { kind, about, seq, text, at } = entry;
    key.mark(&format!("jagged-pin-ledger/1 {before} {number} {} {about} {seq} {} {text}", kind.name(), at.0))
}

/// What does not hold about the ledger itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(tag = "flaw", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum LedgerFault {
    /// There is no line of that number.
    Missing {
        /// The number that no line has.
        number: u32,
    },
    /// It is not as it was written.
    Changed {
        /// The number of the line.
        number: u32,
    },
    /// There is a line that the product did not write.
    Unreadable,
    /// A build that was signed is gone.
    BuildGone {
        /// Its identifier.
        build: Uuid,
    },
}

/// What a ledger tells, as far as it holds.
#[derive(Debug, Default, PartialEq, Eq)]
pub struct Ledger {
    /// The signatures of each build: their digests by their numbers, and whether they were made under the key.
    signatures: HashMap<Uuid, BTreeMap<u32, (String, bool)>>,
    /// Builds that were put away.
    away: HashMap<Uuid, bool>,
    names: HashMap<Uuid, String>,
    /// What does not hold about it.
    pub faults: Vec<LedgerFault>,
    /// How many signatures were there when it was begun.
    pub taken_over: usize,
}

impl Ledger {
    /// Reads the lines of a ledger, in the order of their numbers. One without a first line is not whole.
    pub fn of(lines: &[LedgerLine], key: &SealKey) -> Self {
        let mut ledger = Ledger::default();
        let (mut due, mut before) = (1_u32, "");
        if lines.is_empty() {
            ledger.faults.push(LedgerFault::Missing { number: due });
        }
        for line in lines {
            ledger.faults.extend((due..line.number).map(|number| LedgerFault::Missing { number }));
            let whole = line.number == due;
            due = line.number.saturating_add(1);
            if whole && link_of(key, line.number, before, &line.entry) == line.link {
                ledger.take_in(&line.entry);
            } else if whole {
                ledger.faults.push(LedgerFault::Changed { number: line.number });
            } else {
                // What it was bound to is gone; what it tells is still what the rest stands on.
                ledger.take_in(&line.entry);
            }
            before = &line.link;
        }
        ledger
    }

    /// A ledger with a line that cannot be read: nothing of it is relied on.
    pub fn unreadable() -> Self {
        Ledger { faults: vec![LedgerFault::Unreadable], ..Ledger::default() }
    }

    fn take_in(&mut self, entry: &LedgerEntry) {
        match entry.kind {
            LedgerKind::Begun => {}
            LedgerKind::Signed | LedgerKind::TakenOver => {
                self.taken_over += usize::from(entry.kind == LedgerKind::TakenOver);
                let signed = (entry.text.clone(), entry.kind == LedgerKind::Signed);
                self.signatures.entry(entry.about).or_default().insert(entry.seq, signed);
            }
            LedgerKind::PutAway => drop(self.away.insert(entry.about, true)),
            LedgerKind::TakenOut => drop(self.away.remove(&entry.about)),
            LedgerKind::Removed => {
                self.signatures.remove(&entry.about);
                self.away.remove(&entry.about);
            }
            LedgerKind::Named => drop(self.names.insert(entry.about, entry.text.clone())),
        }
    }

    /// Whether a build is put away, by what is written down.
    pub fn is_away(&self, build: Uuid) -> bool {
        self.away.contains_key(&build)
    }

    /// How many signatures a build was given here.
    pub fn signatures_of(&self, build: Uuid) -> usize {
        self.signatures.get(&build).map_or(0, BTreeMap::len)
    }

    /// Builds with signatures, to be looked for among those that are there.
    pub fn signed_builds(&self) -> impl Iterator<Item = Uuid> {
        self.signatures.keys().copied()
    }

    /// What is written down under `key` and does not stand in a build, or stands there and is not written down. `named` tells
    /// what people of the shop are called now.
    pub fn faults_of(&self, build: &Build, key: &SealKey, named: impl Fn(Uuid) -> Option<String>) -> Vec<SealFault> {
        let notes = build.notes();
        let written = self.signatures.get(&build.id);
        let mut faults = Vec::new();
        let mut found = Vec::new();
        for fact in &notes {
            let What::Signature(signature) = &fact.what else { continue };
            let fault = |flaw| SealFault { seq: fact.seq, flaw };
            let (role, by, at) = (signature.role, fact.by.clone(), fact.at);
            let known = written.and_then(|w| w.get(&fact.seq)).filter(|(digest, _)| *digest == signature.digest);
            if let Some((digest, marked)) = known {
                found.push(fact.seq);
                // By its date it could be older than the key, and by the ledger it is not.
                let is_marked = signature.mark.as_ref() == Some(&key.mark(digest));
                if *marked && !is_marked && at < key.since {
                    faults.push(fault(SealFlaw::NotOurs { role, by: by.clone(), at }));
                }
            } else if !from_elsewhere(&notes, fact.seq) {
                faults.push(fault(SealFlaw::NotInLedger { role, by: by.clone(), at }));
            }
            let name = self.names.get(&by.id).zip(named(by.id));
            if let Some((_, now)) = name.filter(|(known, now)| *known != now) {
                faults.push(fault(SealFlaw::Renamed { by, now }));
            }
        }
        let gone = written.into_iter().flat_map(BTreeMap::keys).filter(|seq| !found.contains(seq));
        faults.extend(gone.map(|seq| SealFault { seq: *seq, flaw: SealFlaw::SignatureGone }));
        faults
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn key(byte: u8) -> SealKey {
        SealKey::new([byte; 32], Timestamp(0))
    }

    fn ledger(count: u32) -> Vec<LedgerLine> {
        let mut lines: Vec<LedgerLine> = Vec::new();
        for n in 0..count {
            let before = lines.last().map_or((0, ""), |l| (l.number, l.link.as_str()));
            let (kind, text) = (LedgerKind::Signed, format!("digest {n}"));
            let entry = LedgerEntry { kind, about: Uuid::from_u128(7), seq: n + 1, text, at: Timestamp(i64::from(n)) };
            lines.push(LedgerLine::after(before, entry, &key(1)));
        }
        lines
    }

    #[test]
    fn a_ledger_that_nobody_touched_holds_under_its_own_key_only() {
        let lines = ledger(5);
        let read = Ledger::of(&lines, &key(1));
        assert!(read.faults.is_empty());
        assert_eq!(read.signed_builds().collect::<Vec<_>>(), [Uuid::from_u128(7)]);
        assert_eq!(Ledger::of(&lines, &key(2)).faults.len(), 5);
        assert_eq!(Ledger::of(&[], &key(1)).faults, [LedgerFault::Missing { number: 1 }]);
    }

    proptest! {
        #[test]
        fn a_line_that_is_changed_moved_or_left_out_is_named(count in 2_u32..20, at in 0_usize..20, what in 0_u8..6) {
            let mut lines = ledger(count);
            let at = at % (lines.len() - 1);
            match what {
                0 => lines[at].entry.text.push('x'),
                1 => lines[at].entry.seq += 1,
                2 => lines[at].entry.about = Uuid::from_u128(8),
                3 => drop(lines.remove(at)),
                4 => {
                    let other = lines[at + 1].entry.clone();
                    lines[at].entry = other;
                }
                _ => lines[at].link = "0".repeat(64),
            }
            prop_assert!(!Ledger::of(&lines, &key(1)).faults.is_empty());
        }
    }
}
