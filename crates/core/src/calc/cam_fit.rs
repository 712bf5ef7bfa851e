//! `cam_fit`: which cam journals are polished to fit their bearings, and which bind.
use serde_json::{Value, json};

use super::request::{Fields, Sign, number};
use super::target::{own_target, target};
use super::{CalcError, Code};
use crate::Length;
use crate::maths::{CamJournal, Fit, Reach, cam_fit};

pub(super) fn answer(mut f: Fields) -> Result<Value, CalcError> {
    let unit = f.unit()?;
    let of_all = target(f.need("target")?, unit)?;
    let hardened = f.need("hardened_depth")?.length(unit, Sign::NotNegative)?;
    let kept = f.take_length("keep_depth", unit, Sign::NotNegative)?;
    if kept.is_some_and(|kept| kept > hardened) {
        return Err(f.error(Code::Inconsistent, "keep_depth", "more of the hard skin is kept than there is"));
    }
    // On diameter: twice what may go, which is as much as the whole depth where half of it is kept.
    let most = kept.map_or(hardened, |kept| hardened - kept + hardened - kept);
    let mut journals: Vec<(String, CamJournal)> = Vec::new();
    for (id, mut j) in f.need("journals")?.listed()? {
        let journal = CamJournal {
            bearing: j.need("bearing")?.length(unit, Sign::Positive)?,
            journal: j.need("journal")?.length(unit, Sign::Positive)?,
            target: own_target(&mut j, of_all, unit)?,
            tir: j.take_length("tir", unit, Sign::NotNegative)?.unwrap_or_default(),
            offset: j.take_length("offset", unit, Sign::NotNegative)?.unwrap_or_default(),
        };
        j.finish()?;
        journals.push((id, journal));
    }
    f.finish()?;
    let show = |l: Length| number(l, unit);
    let each = journals.iter().map(|(id, journal)| {
        let fit = cam_fit(*journal, most);
        json!({
            "id": id,
            "clearance": show(fit.clearance),
            "state": match fit.fit { Fit::Tight => "tight", Fit::In => "in", Fit::Loose => "loose" },
            "removal": show(fit.removal),
            "size": show(journal.journal - fit.removal),
            "after": show(fit.after),
            "reach": match fit.reach {
                Reach::None => "none",
                Reach::Aim => "aim",
                Reach::Window => "window",
                Reach::NotByPolish => "not_by_polish",
            },
            "room": show(fit.room),
            "binds": fit.binds(),
        })
    });
    Ok(json!({ "most": show(most), "journals": each.collect::<Vec<_>>() }))
}
