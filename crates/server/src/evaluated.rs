//! Evaluated builds, kept for a while: what follows from a build is worked out once and shared by its view, the answer to
//! the write that made it, and whoever asks next. Nothing here is authority; all of it may be thrown away at any time.
use std::collections::HashMap;
use std::num::NonZeroUsize;
use std::sync::atomic::{AtomicU64, Ordering};
use std::sync::{Arc, Mutex, PoisonError};

use jagged_pin_core::Build;
use jagged_pin_core::assess::{Assessment, evaluate, evaluate_as_seen};
use jagged_pin_core::build::open_requests;
use jagged_pin_core::log::BlindRequest;
use jagged_pin_core::log::{Fact, What};
use jagged_pin_core::sheet::{SealFault, SealKey, SealProof, last_signature, missing, prove_seals};
use lru::LruCache;
use uuid::Uuid;

/// A build as somebody may see it, with everything that follows from it.
#[derive(Debug)]
pub struct Evaluated {
    /// The build, without what must stay hidden from them.
    pub build: Arc<Build>,
    /// What follows.
    pub assessment: Assessment,
    /// What they are asked to measure blind.
    pub asked: Vec<(Uuid, BlindRequest)>,
}

/// The build, its number and its last fact, and who sees it where something is hidden from them.
type Key = (Uuid, u32, Option<Uuid>, Option<Uuid>);

/// The seals of a build as they were last checked: up to its last signature.
type Seals = (Uuid, Uuid);

/// Builds evaluated lately.
pub struct EvaluatedBuilds {
    kept: Mutex<LruCache<Key, Arc<Evaluated>>>,
    proofs: Mutex<LruCache<Seals, SealProof>>,
    /// What was found wrong with what builds stand on beside their facts.
    beside: Mutex<HashMap<Uuid, Vec<SealFault>>>,
    key: Option<SealKey>,
    evaluations: AtomicU64,
}

impl std::fmt::Debug for EvaluatedBuilds {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        f.debug_struct("EvaluatedBuilds").finish_non_exhaustive()
    }
}

/// The fact of that number.
fn fact_at(build: &Build, seq: u32) -> Option<Uuid> {
    build.facts.binary_search_by_key(&seq, |f| f.seq).ok().and_then(|at| build.facts.get(at)).map(|f| f.id)
}

/// Builds whose seals are remembered.
const PROOFS: NonZeroUsize = NonZeroUsize::MIN.saturating_add(1_023);

/// Evaluated builds kept: the last two states of what a shop works on at one time.
const KEPT: NonZeroUsize = NonZeroUsize::MIN.saturating_add(63);

impl EvaluatedBuilds {
    /// None yet; seals are held against `key`.
    pub fn new(key: Option<SealKey>) -> Self {
        let (kept, proofs) = (Mutex::new(LruCache::new(KEPT)), Mutex::new(LruCache::new(PROOFS)));
        EvaluatedBuilds { kept, proofs, beside: Mutex::default(), key, evaluations: AtomicU64::new(0) }
    }

    /// What the seals of a build prove. What stands before its last signature is looked at once, until
    /// [`EvaluatedBuilds::prove_afresh`].
    pub fn proof(&self, build: &Build) -> SealProof {
        let mut proof = match last_signature(build) {
            None => SealProof::default(),
            Some(last) => {
                let seals = (build.id, last.id);
                let known = self.proofs().get(&seals).cloned();
                known.unwrap_or_else(|| {
                    let made = prove_seals(build, self.key.as_ref());
                    self.proofs().put(seals, made.clone());
                    made
                })
            }
        };
        proof.faults.extend(missing(build));
        proof.faults.extend(self.beside().get(&build.id).into_iter().flatten().cloned());
        proof
    }

    /// The same, whatever was found before, with what was found `beside` its facts now; what was worked out of that build is
    /// thrown away where it differs.
    pub fn prove_afresh(&self, build: &Build, beside: Vec<SealFault>) -> SealProof {
        let before = self.proof(build);
        if beside.is_empty() {
            self.beside().remove(&build.id);
        } else {
            self.beside().insert(build.id, beside);
        }
        if let Some(last) = last_signature(build) {
            self.proofs().pop(&(build.id, last.id));
        }
        let now = self.proof(build);
        if now != before {
            let mut kept = self.kept();
            let of_it: Vec<Key> = kept.iter().map(|(key, _)| *key).filter(|(id, ..)| *id == build.id).collect();
            of_it.iter().for_each(|key| drop(kept.pop(key)));
        }
        now
    }

    fn beside(&self) -> std::sync::MutexGuard<'_, HashMap<Uuid, Vec<SealFault>>> {
        self.beside.lock().unwrap_or_else(PoisonError::into_inner)
    }

    fn proofs(&self) -> std::sync::MutexGuard<'_, LruCache<Seals, SealProof>> {
        self.proofs.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// The build as `viewer` may see it, evaluated.
    pub fn of(&self, build: &Arc<Build>, viewer: Uuid) -> Arc<Evaluated> {
        let asked = open_requests(build, viewer);
        let last = build.facts.last().map(|f| f.id);
        let key = (build.id, build.seq(), last, (!asked.is_empty()).then_some(viewer));
        if let Some(known) = self.kept().get(&key) {
            return Arc::clone(known);
        }
        self.evaluations.fetch_add(1, Ordering::Relaxed);
        let hidden = evaluate_as_seen(build, viewer).map(|(seen, assessment)| (Arc::new(seen), assessment));
        let (seen, mut assessment) = hidden.unwrap_or_else(|| (Arc::clone(build), evaluate(build)));
        assessment.sign_off = assessment.sign_off.proven(self.proof(build));
        let evaluated = Arc::new(Evaluated { assessment, build: seen, asked });
        self.kept().put(key, Arc::clone(&evaluated));
        evaluated
    }

    /// The build with nothing hidden, evaluated.
    pub fn whole(&self, build: &Arc<Build>) -> Arc<Evaluated> {
        self.of(build, Uuid::nil())
    }

    /// The same, as the build was after fact `seq`.
    pub fn at(&self, build: &Arc<Build>, seq: u32, viewer: Uuid) -> Arc<Evaluated> {
        // Whoever was ever asked to measure blind may have been shown less then than now: that has to be looked at.
        let asked = |f: &Fact| matches!(&f.what, What::Blind(b) if b.whom.id == viewer);
        if !build.facts.iter().any(asked)
            && let Some(known) = self.kept().get(&(build.id, seq, fact_at(build, seq), None))
        {
            return Arc::clone(known);
        }
        let facts = build.facts.iter().take_while(|f| f.seq <= seq).cloned().collect();
        self.of(&Arc::new(Build { facts, ..build.without_facts() }), viewer)
    }

    /// How many builds were evaluated here so far.
    pub fn evaluations(&self) -> u64 {
        self.evaluations.load(Ordering::Relaxed)
    }

    fn kept(&self) -> std::sync::MutexGuard<'_, LruCache<Key, Arc<Evaluated>>> {
        self.kept.lock().unwrap_or_else(PoisonError::into_inner)
    }
}
