//! Whether the seals of a build still match what they stand under.
//!
//! A build that is kept well proves whole: its facts are numbered from 1 without gaps, every signature carries the digest of
//! what stands before it and the mark of the shop's key on that digest, and no seal was closed by one person twice. Whatever
//! was changed behind the product's back fails one of these.
use serde::Serialize;
use sha2::{Digest, Sha256};

use super::key::SealKey;
use super::seal::{RecordSoFar, hex};
use crate::build::{Build, from_elsewhere};
use crate::log::{Fact, Picture, SignerRole, What};
use crate::units::{Person, Timestamp};

/// Something about a build's record that does not hold.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SealFault {
    /// Number of the fact it shows at.
    pub seq: u32,
    /// What does not hold.
    #[serde(flatten)]
    pub flaw: SealFlaw,
}

/// What can be wrong with a record.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(tag = "flaw", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum SealFlaw {
    /// No fact of that number is here.
    Missing,
    /// More than one fact has that number.
    Twice,
    /// What a signature stands under is not what was signed: the set-up, a fact before it or the signature was changed.
    Changed {
        /// Signed as.
        role: SignerRole,
        /// By whom, as it says now.
        by: Person,
        /// When.
        at: Timestamp,
    },
    /// A signature does not carry the mark of this shop's key.
    NotOurs {
        /// Signed as.
        role: SignerRole,
        /// By whom, as it says.
        by: Person,
        /// When.
        at: Timestamp,
    },
    /// One person signed as both.
    SamePerson {
        /// Who.
        by: Person,
    },
    /// The shop's ledger has a signature here that is gone, or another one.
    SignatureGone,
    /// A signature of this shop that its ledger does not have.
    NotInLedger {
        /// Signed as.
        role: SignerRole,
        /// By whom, as it says.
        by: Person,
        /// When.
        at: Timestamp,
    },
    /// Whoever signed was given another name behind the product.
    Renamed {
        /// Who, as they signed.
        by: Person,
        /// What they are called now.
        now: String,
    },
    /// The build was put away, or taken out again, behind the product.
    PutAway {
        /// Whether it lies with those that were put away.
        away: bool,
    },
    /// A picture is gone.
    PictureGone {
        /// What it showed.
        note: String,
    },
    /// A picture is not the one that was kept.
    PictureChanged {
        /// What it showed.
        note: String,
    },
    /// The build was said to end before this fact.
    CountedShort,
}

impl SealFlaw {
    /// What does not hold about a picture, by the bytes that are kept of it.
    pub fn of_picture(picture: &Picture, kept: Option<&[u8]>) -> Option<SealFlaw> {
        let note = || picture.note.clone();
        match kept {
            Some(jpeg) if hex(&Sha256::digest(jpeg)) == picture.digest => None,
            Some(_) => Some(SealFlaw::PictureChanged { note: note() }),
            None => Some(SealFlaw::PictureGone { note: note() }),
        }
    }
}

/// What the seals of a build prove.
#[derive(Debug, Clone, PartialEq, Eq, Default, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SealProof {
    /// What does not hold; empty where everything does.
    pub faults: Vec<SealFault>,
    /// Numbers of the signatures that were made here before the shop had a key: their digests hold, and anybody could have
    /// made them.
    pub before_key: Vec<u32>,
}

impl SealProof {
    /// Whether nothing is wrong.
    pub fn holds(&self) -> bool {
        self.faults.is_empty()
    }
}

/// Facts that are missing: they are numbered from 1 without gaps.
pub fn missing(build: &Build) -> Vec<SealFault> {
    let mut faults = Vec::new();
    let mut due = 1_u32;
    for fact in &build.facts {
        faults.extend((due..fact.seq).map(|seq| SealFault { seq, flaw: SealFlaw::Missing }));
        // A number that stands twice shows as well.
        let twice = (fact.seq < due).then_some(SealFault { seq: fact.seq, flaw: SealFlaw::Twice });
        faults.extend(twice);
        due = due.max(fact.seq.saturating_add(1));
    }
    faults.extend((due..=build.known_to).map(|seq| SealFault { seq, flaw: SealFlaw::Missing }));
    faults
}

/// Checks the signers, and the digest and the mark of every signature. Without a key, marks are not looked at: so a file is
/// checked.
pub fn prove_seals(build: &Build, key: Option<&SealKey>) -> SealProof {
    let mut proof = SealProof::default();
    let Some(last) = last_signature(build) else { return proof };
    let notes = build.notes();
    let mut so_far = RecordSoFar::of(build);
    let mut standing: Vec<&Person> = Vec::new();
    for fact in build.facts.iter().take_while(|f| f.seq <= last.seq) {
        match &fact.what {
            What::Signature(s) => {
                let flaw = |flaw| SealFault { seq: fact.seq, flaw };
                let (role, by, at) = (s.role, fact.by.clone(), fact.at);
                if so_far.digest_of(fact) != s.digest {
                    proof.faults.push(flaw(SealFlaw::Changed { role, by: by.clone(), at }));
                } else if let Some(key) = key.filter(|_| !from_elsewhere(&notes, fact.seq)) {
                    match &s.mark {
                        Some(mark) if *mark == key.mark(&s.digest) => {}
                        // Made before this key was: without a mark, or with that of a key that was lost.
                        _ if at < key.since => proof.before_key.push(fact.seq),
                        _ => proof.faults.push(flaw(SealFlaw::NotOurs { role, by: by.clone(), at })),
                    }
                }
                if standing.iter().any(|other| other.id == by.id) {
                    proof.faults.push(flaw(SealFlaw::SamePerson { by }));
                }
                standing.push(&fact.by);
            }
            // Who signed in the file may sign here as well.
            What::Imported(import) if import.elsewhere().is_empty() => {}
            _ => standing.clear(),
        }
        so_far.add(fact);
    }
    proof
}

/// Everything that can be checked of a build's record.
pub fn prove(build: &Build, key: Option<&SealKey>) -> SealProof {
    let mut proof = prove_seals(build, key);
    proof.faults.extend(missing(build));
    proof
}

/// The last signature of a build: what stands before it is what its seals prove.
pub fn last_signature(build: &Build) -> Option<&Fact> {
    build.facts.iter().rev().find(|f| matches!(f.what, What::Signature(_)))
}
