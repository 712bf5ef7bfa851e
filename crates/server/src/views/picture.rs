//! A picture as it travels in a file.
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use jagged_pin_core::Build;
use jagged_pin_core::log::{Fact, Picture, What};
use jagged_pin_core::sheet::{SealFault, SealFlaw};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::secrets::digest;

/// A picture in an exported file.
#[derive(Debug, Serialize, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct PictureFile {
    /// SHA-256 of the JPEG, in hex.
    pub digest: String,
    /// The JPEG, in base64.
    jpeg: String,
}

impl PictureFile {
    /// A picture as it goes into a file.
    pub fn of(digest: &str, jpeg: &[u8]) -> Self {
        PictureFile { digest: digest.to_owned(), jpeg: STANDARD.encode(jpeg) }
    }

    /// Its bytes, where they are what its digest says.
    pub fn read(&self) -> Option<Vec<u8>> {
        STANDARD.decode(&self.jpeg).ok().filter(|jpeg| digest(jpeg) == self.digest)
    }
}

/// The pictures of a build that count, with their facts: one that was struck need not be there.
pub fn pictures_of(build: &Build) -> impl Iterator<Item = (&Fact, &Picture)> {
    let struck = build.struck();
    build.facts.iter().filter_map(move |f| match &f.what {
        What::Picture(picture) if !struck.contains(&f.id) => Some((f, picture)),
        _ => None,
    })
}

/// What does not hold about the pictures of a file.
pub fn picture_faults(build: &Build, files: &[PictureFile]) -> Vec<SealFault> {
    let fault = |(fact, picture): (&Fact, &Picture)| {
        let file = files.iter().find(|file| file.digest == picture.digest);
        let kept = file.map(|file| file.read().unwrap_or_default());
        SealFlaw::of_picture(picture, kept.as_deref()).map(|flaw| SealFault { seq: fact.seq, flaw })
    };
    pictures_of(build).filter_map(fault).collect()
}
