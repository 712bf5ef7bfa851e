//! `verify`: looks through the seals of files, or of a whole database.
use std::fs;
use std::path::{Path, PathBuf};

use clap::Args;
use jagged_pin_core::Build;
use jagged_pin_core::log::{Signature, What};
use jagged_pin_core::sheet::{SealFault, SealFlaw, SealKey, prove};
use jagged_pin_store::Store;
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
}

fn said(fault: &SealFault) -> String {
    let at = fault.seq;
    match &fault.flaw {
        SealFlaw::Missing => format!("fact {at} is missing"),
        SealFlaw::Twice => format!("fact {at} is there twice"),
        SealFlaw::Changed { by, .. } => format!("fact {at}: what {} signed is not what stands here", by.name),
        SealFlaw::NotOurs { by, .. } => format!("fact {at}: the signature of {} has no mark of this key", by.name),
        SealFlaw::SamePerson { by } => format!("fact {at}: {} signed as both", by.name),
    }
}

/// How many signatures of this shop a build has, and how many of them bear the mark of a key.
fn marked(build: &Build, key: &SealKey) -> (usize, usize) {
    let signed = build.facts.iter().filter_map(|f| if let What::Signature(s) = &f.what { Some(s) } else { None });
    let bears = |s: &&Signature| s.mark.as_ref().is_some_and(|mark| *mark == key.mark(&s.digest));
    (signed.clone().count(), signed.filter(bears).count())
}

/// Says what became of a build; whether it holds. What was signed before there was a key, or says so, cannot be told from what
/// was made up: with a key at hand it does not hold.
fn tell(name: &str, build: &Build, key: Option<&SealKey>) -> bool {
    let proof = prove(build, key);
    let marks = key.map(|key| marked(build, key)).filter(|(signed, _)| *signed > 0);
    let marks =
        marks.map_or_else(String::new, |(signed, bear)| format!(", {bear} of {signed} signatures bear the mark"));
    let before = match proof.before_key.len() {
        0 => String::new(),
        n => format!(", {n} dated before the key"),
    };
    let holds = proof.holds() && proof.before_key.is_empty();
    let verdict = if holds { "holds" } else { "DOES NOT HOLD" };
    println!("{name}: {verdict}, {} facts{marks}{before}", build.facts.len());
    proof.faults.iter().for_each(|fault| println!("  {}", said(fault)));
    holds
}

fn file(path: &Path) -> Result<Build, String> {
    let failed = |e: &dyn std::fmt::Display| format!("{}: {e}", path.display());
    let text = fs::read_to_string(path).map_err(|e| failed(&e))?;
    serde_json::from_str::<BuildFile>(&text).map(|f| f.build).map_err(|e| failed(&e))
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
            let store = Store::connect_as_it_is(&self.database.url()?).await.map_err(|e| e.to_string())?;
            for (id, _) in store.sequence().await.map_err(|e| e.to_string())? {
                match store.build(id).await {
                    Ok(build) => bad += usize::from(!tell(&build.code, &build, key.as_ref())),
                    Err(error) => {
                        println!("{id}: CANNOT BE READ: {error}");
                        bad += 1;
                    }
                }
            }
        }
        for path in &self.files {
            bad += usize::from(!tell(&path.display().to_string(), &file(path)?, key.as_ref()));
        }
        if bad == 0 { Ok(()) } else { Err(format!("{bad} do not hold")) }
    }
}
