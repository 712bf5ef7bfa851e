//! Which shells are in, by the last set-up or fitting of each bearing.
use super::model::Build;
use crate::engine::{BearingRow, Place};
use crate::log::{Fact, FittedPair, Fitting, What};
use crate::shells::{ClassPair, ShellFamily};

/// The last fitting of a bearing, with its pair.
pub fn last_fitting<'a>(notes: &[&'a Fact], station: Place) -> Option<(&'a Fitting, &'a FittedPair)> {
    notes.iter().rev().find_map(|f| match &f.what {
        What::Fitting(f) => Some((f, f.pairs.iter().find(|p| p.station == station)?)),
        _ => None,
    })
}

/// The halves that are in, by bearing: what set-ups and fittings say, the last word of each bearing. A set-up that
/// repeats what the one before it said says nothing new.
pub fn shells_in(notes: &[&Fact], row: BearingRow) -> Vec<(Place, String, String)> {
    let mut all: Vec<(Place, String, String)> = Vec::new();
    let mut said: Vec<(Place, String, String)> = Vec::new();
    let put = |all: &mut Vec<(Place, String, String)>, new: (Place, String, String)| {
        all.retain(|(s, ..)| *s != new.0);
        all.push(new);
    };
    for fact in notes {
        match &fact.what {
            What::SetUp(s) if s.row == row => {
                let says: Vec<_> = s.shells.iter().map(|s| (s.station, s.upper.clone(), s.lower.clone())).collect();
                says.iter().filter(|new| !said.contains(new)).for_each(|new| put(&mut all, new.clone()));
                said = says;
            }
            What::Fitting(f) if f.row == row => {
                f.pairs.iter().for_each(|p| put(&mut all, (p.station, p.upper.clone(), p.lower.clone())));
            }
            _ => {}
        }
    }
    all
}

/// The halves that a build's set-ups and fittings say are in, where their names are those of classes.
pub fn fitted_in(build: &Build, family: &ShellFamily) -> Vec<(Place, ClassPair)> {
    let known =
        |(_, upper, lower): &(Place, String, String)| family.class(upper).is_some() && family.class(lower).is_some();
    let all = shells_in(&build.notes(), family.row).into_iter().filter(known);
    all.map(|(station, upper, lower)| (station, ClassPair { upper, lower })).collect()
}
