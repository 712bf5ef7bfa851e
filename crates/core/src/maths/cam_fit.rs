//! Cam journals in their bearings: which are polished to fit, by how much, and which bind however good they look.
//!
//! * Only a tight journal is polished, by `aim - clearance`, at most `2 (hardened depth - depth kept)` on diameter; where
//!   that leaves it below the window it is left alone.
//! * `room = clearance - TIR - 2 offset`: what is left to a shaft that is bent there, in a bore off its neighbours' line. At
//!   zero or below it binds.
use super::Target;
use crate::units::Length;

/// A journal of the cam in its bearing.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct CamJournal {
    /// Bore of the bearing after fitting.
    pub bearing: Length,
    /// Diameter of the journal.
    pub journal: Length,
    /// Its own window and aim.
    pub target: Target,
    /// Full indicator travel of its runout.
    pub tir: Length,
    /// How far its bore stands off the line of its neighbours.
    pub offset: Length,
}

/// What polishing can do.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Reach {
    /// It need not be polished, or cannot help.
    None,
    /// Down to the aim.
    Aim,
    /// Into the window, not to the aim.
    Window,
    /// Not even into the window: by another bush, or by honing this one.
    NotByPolish,
}

/// How a clearance stands to its window, without any doubt.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Fit {
    /// Below it.
    Tight,
    /// In it.
    In,
    /// Above it.
    Loose,
}

/// One journal of a plan.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct CamFit {
    /// As it is.
    pub clearance: Length,
    /// How that stands to the window.
    pub fit: Fit,
    /// What is polished off its diameter.
    pub removal: Length,
    /// Its clearance after that.
    pub after: Length,
    /// How far polishing reaches.
    pub reach: Reach,
    /// Free room after that.
    pub room: Length,
}

impl CamFit {
    /// Whether the shaft binds there, whatever its size.
    pub fn binds(&self) -> bool {
        self.room <= Length::ZERO
    }
}

/// How one journal fits, with at most `most` polished off its diameter.
pub fn cam_fit(journal: CamJournal, most: Length) -> CamFit {
    let CamJournal { bearing, journal, target, tir, offset } = journal;
    let clearance = bearing - journal;
    let fit = if clearance < target.low {
        Fit::Tight
    } else if clearance > target.high {
        Fit::Loose
    } else {
        Fit::In
    };
    let wanted = target.aim - clearance;
    let (removal, reach) = match fit {
        Fit::Tight if wanted <= most => (wanted, Reach::Aim),
        Fit::Tight if clearance + most >= target.low => (most, Reach::Window),
        Fit::Tight => (Length::ZERO, Reach::NotByPolish),
        Fit::In | Fit::Loose => (Length::ZERO, Reach::None),
    };
    let after = clearance + removal;
    CamFit { clearance, fit, removal, after, reach, room: after - tir - offset - offset }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_bent_journal_binds_though_its_size_would_let_it_turn() {
        let t = Length::tenths;
        let target = Target { low: t(15), aim: t(20), high: t(30) };
        let of = |bearing, journal, tir, offset| {
            let journal =
                CamJournal { bearing: t(bearing), journal: t(journal), target, tir: t(tir), offset: t(offset) };
            cam_fit(journal, t(10))
        };
        let bent = of(19_775, 19_768, 6, 1);
        assert_eq!((bent.clearance, bent.removal, bent.reach), (t(7), t(10), Reach::Window));
        assert!(!bent.binds(), "with a thou off it there would be room: {bent:?}");
        let tight = of(19_677, 19_664, 4, 1);
        assert_eq!((tight.removal, tight.after, tight.reach), (t(7), t(20), Reach::Aim));
        assert!(of(19_680, 19_664, 12, 2).binds(), "in its window, and it binds");
    }
}
