//! Drawn stand-ins for what a camera would show.
use jagged_pin_core::engine::Place;
use jagged_pin_core::log::{Moment, Picture, What};
use jagged_pin_core::record::Refusal;
use jagged_pin_workbench::Bench;
use sha2::{Digest, Sha256};

/// Pixels of both drawings.
const SIZE: (u32, u32) = (960, 640);

const REAR_WASHER: &[u8] = include_bytes!("../pictures/rear-washer.jpg");
const ROD_2_SHELL: &[u8] = include_bytes!("../pictures/rod-2-shell.jpg");

/// A picture as it is kept beside the facts of a build.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct DemoPicture {
    /// SHA-256 of the JPEG, in hex.
    pub digest: String,
    /// The JPEG.
    pub jpeg: &'static [u8],
}

fn digest(jpeg: &[u8]) -> String {
    Sha256::digest(jpeg).iter().map(|byte| format!("{byte:02x}")).collect()
}

/// Every picture that the builds name.
pub fn pictures() -> Vec<DemoPicture> {
    [REAR_WASHER, ROD_2_SHELL].into_iter().map(|jpeg| DemoPicture { digest: digest(jpeg), jpeg }).collect()
}

/// The thrust and the second rod's shell of the six, as they were found.
pub fn of_the_six(bench: &mut Bench) -> Result<(), Refusal> {
    let found = [
        (Place::THRUST, REAR_WASHER, "rear washer, lower half: worn through at the outer edge"),
        (Place::pin_fillet(2), ROD_2_SHELL, "upper shell of rod 2: a bright band where it ran on the radius"),
    ];
    for (place, jpeg, note) in found {
        let (digest, (width, height)) = (digest(jpeg), SIZE);
        let picture = Picture { place, moment: Moment::Found, digest, width, height, note: note.into() };
        bench.record(What::Picture(picture))?;
    }
    Ok(())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_picture_that_a_build_names_is_there() {
        let kept: Vec<String> = pictures().into_iter().map(|p| p.digest).collect();
        let builds = crate::builds().unwrap_or_default();
        let named = builds.iter().flat_map(|b| &b.facts).filter_map(|f| match &f.what {
            What::Picture(p) => Some(&p.digest),
            _ => None,
        });
        let named: Vec<&String> = named.collect();
        assert_eq!(named.len(), 2);
        assert!(named.into_iter().all(|digest| kept.contains(digest)));
    }
}
