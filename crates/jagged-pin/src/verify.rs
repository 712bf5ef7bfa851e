//! `verify`: looks through the seals of files, or of a whole database.
use std::fs;
use std::path::{Path, PathBuf};

use clap::Args;
use jagged_pin_core::Build;
use jagged_pin_core::log::{Signature, What};
use jagged_pin_core::sheet::{LedgerFault, SealFault, SealFlaw, SealKey, prove};
use jagged_pin_server::seals::{self, WrittenDown};
use jagged_pin_server::views::picture::{PictureFile, picture_faults};
use jagged_pin_store::{Store, StoreError};
use serde::Deserialize;

use crate::database::Database;
use crate::key;

#[derive(Args)]
pub struct Verify {
    /// Exported builds; a database instead where there are none.
    files: Vec<PathBuf>,
    #[command(flatten)]
    database: Database,
    /// File of the shop's key, to look at the marks as well. Without it only digests are looked at.
    #[arg(long, env = "JAGGED_PIN_KEY_FILE")]
    key_file: Option<PathBuf>,
}

#[derive(Deserialize)]
struct BuildFile {
    build: Build,
    #[serde(default)]
    pictures: Vec<PictureFile>,
}

fn said(fault: &SealFault) -> String {
    let at = fault.seq;
    match &fault.flaw {
        SealFlaw::Missing => format!("fact {at} is missing"),
        SealFlaw::Twice => format!("fact {at} is there twice"),
        SealFlaw::Changed { by, .. } => format!("fact {at}: what {} signed is not what stands here", by.name),
        SealFlaw::NotOurs { by, .. } => format!("fact {at}: the signature of {} has no mark of this key", by.name),
        SealFlaw::SamePerson { by } => format!("fact {at}: {} signed as both", by.name),
        SealFlaw::SignatureGone => format!("fact {at}: the ledger has a signature here that is gone"),
        SealFlaw::NotInLedger { by, .. } => format!("fact {at}: the ledger does not have the signature of {}", by.name),
        SealFlaw::Renamed { by, now } => format!("fact {at}: {} was renamed {now} behind the product", by.name),
        SealFlaw::PutAway { away: true } => "it was put away behind the product".into(),
        SealFlaw::PutAway { away: false } => "it was taken out again behind the product".into(),
        SealFlaw::PictureGone { note } => format!("fact {at}: the picture \"{note}\" is gone"),
        SealFlaw::PictureChanged { note } => format!("fact {at}: the picture \"{note}\" is not the one that was kept"),
        SealFlaw::CountedShort => format!("the build was said to end before fact {at}"),
    }
}

/// How many signatures of this shop a build has, and how many of them bear the mark of a key.
fn marked(build: &Build, key: &SealKey) -> (usize, usize) {
    let signed = build.facts.iter().filter_map(|f| if let What::Signature(s) = &f.what { Some(s) } else { None });
    let bears = |s: &&Signature| s.mark.as_ref().is_some_and(|mark| *mark == key.mark(&s.digest));
    (signed.clone().count(), signed.filter(bears).count())
}

/// What else is known of a build: beside its facts.
struct Beside {
    faults: Vec<SealFault>,
    /// Whether a ledger tells which signatures there were before the key.
    ledger: bool,
}

/// Says what became of a build; whether it holds. What was signed before there was a key, or says so, cannot be told from what
/// was made up, unless the ledger has it: with a key at hand it does not hold.
fn tell(name: &str, build: &Build, key: Option<&SealKey>, beside: &Beside) -> bool {
    let proof = prove(build, key);
    let marks = key.map(|key| marked(build, key)).filter(|(signed, _)| *signed > 0);
    let marks =
        marks.map_or_else(String::new, |(signed, bear)| format!(", {bear} of {signed} signatures bear the mark"));
    let before = match proof.before_key.len() {
        0 => String::new(),
        n if beside.ledger => format!(", {n} from before the key and in the ledger"),
        n => format!(", {n} dated before the key"),
    };
    let holds = proof.holds() && beside.faults.is_empty() && (beside.ledger || proof.before_key.is_empty());
    let verdict = if holds { "holds" } else { "DOES NOT HOLD" };
    println!("{name}: {verdict}, {} facts{marks}{before}", build.facts.len());
    proof.faults.iter().chain(&beside.faults).for_each(|fault| println!("  {}", said(fault)));
    holds
}

fn said_of_ledger(fault: &LedgerFault) -> String {
    match fault {
        LedgerFault::Missing { number } => format!("line {number} is missing"),
        LedgerFault::Changed { number } => format!("line {number} is not as it was written"),
        LedgerFault::Unreadable => "a line cannot be read".into(),
        LedgerFault::BuildGone { build } => format!("the signed build {build} is gone"),
    }
}

fn tell_ledger(written: &WrittenDown, faults: &[LedgerFault]) -> bool {
    let verdict = if faults.is_empty() { "holds" } else { "DOES NOT HOLD" };
    println!("ledger of seals: {verdict}, {} signatures were there when it was begun", written.ledger.taken_over);
    faults.iter().for_each(|fault| println!("  {}", said_of_ledger(fault)));
    faults.is_empty()
}

fn file(path: &Path) -> Result<BuildFile, String> {
    let failed = |e: &dyn std::fmt::Display| format!("{}: {e}", path.display());
    let text = fs::read_to_string(path).map_err(|e| failed(&e))?;
    serde_json::from_str(&text).map_err(|e| failed(&e))
}

/// Looks through a whole database: how many builds do not hold, the ledger of its seals counted among them.
async fn database(url: &str, key: Option<&SealKey>) -> Result<usize, StoreError> {
    let store = Store::connect_as_it_is(url).await?;
    let store = match key {
        Some(key) => store.with_key(key.clone()),
        None => store,
    };
    let written = WrittenDown::of(&store).await?;
    let all = store.sequence().await?;
    let mut bad = 0_usize;
    for (id, _) in &all {
        match store.build(*id).await {
            Ok(build) => {
                let faults = seals::beside(&store, &build, written.as_ref()).await?;
                let beside = Beside { faults, ledger: written.is_some() };
                bad += usize::from(!tell(&build.code, &build, key, &beside));
            }
            Err(StoreError::Unreadable(why)) => {
                println!("{id}: CANNOT BE READ: {why}");
                bad += 1;
            }
            Err(other) => return Err(other),
        }
    }
    if let Some(written) = &written {
        let there = all.into_iter().map(|(id, _)| id).collect();
        let faults = seals::ledger_faults(&store, written, there).await?;
        bad += usize::from(!tell_ledger(written, &faults));
    }
    Ok(bad)
}

impl Verify {
    pub async fn run(self) -> Result<(), String> {
        let key = match &self.key_file {
            Some(path) if path.exists() => Some(key::at(path)?),
            Some(path) => return Err(format!("there is no key {}", path.display())),
            None => None,
        };
        let mut bad = 0_usize;
        if self.files.is_empty() {
            bad = database(&self.database.url()?, key.as_ref()).await.map_err(|e| e.to_string())?;
        }
        for path in &self.files {
            let BuildFile { build, pictures } = file(path)?;
            let beside = Beside { faults: picture_faults(&build, &pictures), ledger: false };
            bad += usize::from(!tell(&path.display().to_string(), &build, key.as_ref(), &beside));
        }
        if bad == 0 { Ok(()) } else { Err(format!("{bad} do not hold")) }
    }
}
