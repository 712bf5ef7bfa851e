//! What stands on the floor, and how it got there.

use jagged_pin_core::Build;
use jagged_pin_core::fact::SignerRole;
use jagged_pin_core::feature::Method::{Direct, Subtract};
use jagged_pin_core::record::Refusal;

use crate::bench_work::Bench;
use crate::engines::{Pattern, patterns};
use crate::shop::person;

/// 2026-11-24 08:00 UTC, the morning the demo is set in, in milliseconds.
const MORNING: i64 = 1_795_507_200_000;
const DAY: i64 = 86_400_000;

/// The builds on the floor.
///
/// # Errors
/// [`Refusal`] when a story contradicts the core's rules: a mistake in this crate.
pub fn builds() -> Result<Vec<Build>, Refusal> {
    let mut floor = Vec::new();
    for pattern in patterns() {
        match pattern.id {
            "curlew-24" => {
                floor.push(sl_041(&pattern)?);
                floor.push(Bench::book_in(46, "SL-046", &pattern, MORNING - DAY, person("harrow"))?.finish());
            }
            "dunlin-16" => floor.push(sl_042(&pattern)?),
            _ => floor.push(sl_043(&pattern)?),
        }
    }
    floor.sort_by(|a, b| a.code.cmp(&b.code));
    Ok(floor)
}

/// The main story: a six in the middle of its mains. M2 tight by three tenths, M3 measured over a dinged
/// cap and again after it was dressed, M5 loose, M6 on its edge, M7 not measured yet.
fn sl_041(curlew: &Pattern) -> Result<Build, Refusal> {
    let mut bench = Bench::book_in(41, "SL-041", curlew, MORNING - 2 * DAY, person("harrow"))?;
    bench.hand_over(person("oduya"), 2 * 24 * 60);
    bench.journal(1, ["2.6238 38", "37 38", "38 38", "38 37"])?;
    bench.journal(2, ["39 39", "39 38", "39 39", "38 38"])?;
    bench.journal(3, ["38 38", "38 38", "38 37", "38 38"])?;
    bench.journal(4, ["38 39", "38 37", "38 38", "38 38"])?;
    bench.journal(5, ["37 37", "36 37", "37 37", "37 37"])?;
    bench.journal(6, ["38 38", "38 38", "37 38", "38 38"])?;
    bench.hand_over(person("oduya"), 35);
    bench.bore(1, Direct, &["23 23", "23 24", "31", "30"])?;
    bench.bore(2, Direct, &["18 18", "18 19", "25", "26"])?;
    let dinged = bench.bore(3, Direct, &["27 27", "19 19 20"])?;
    bench.strike(&dinged, "cap 3 dinged at the parting line: taper of 8 tenths; dressed, cleaned, torqued again")?;
    bench.bore(3, Direct, &["22 22", "22 23", "30", "29"])?;
    bench.bore(4, Direct, &["25 25", "25 24 25", "32", "32"])?;
    bench.bore(4, Subtract, &["2.6264 64", "64 65"])?;
    bench.bore(5, Direct, &["28 28", "29 28", "36", "35"])?;
    bench.bore(6, Direct, &["20 19", "20 20", "27", "27"])?;
    Ok(bench.finish())
}

/// Measured, checked and sealed: a flat-four in an aluminium case.
fn sl_042(dunlin: &Pattern) -> Result<Build, Refusal> {
    let mut bench = Bench::book_in(42, "SL-042", dunlin, MORNING - 6 * DAY, person("harrow"))?;
    bench.hand_over(person("wick"), 24 * 60);
    bench.journal(1, ["59.991 991", "991 990", "991 991", "990 990"])?;
    bench.journal(2, ["992 992", "991 991", "992 991", "991 991"])?;
    bench.journal(3, ["990 990", "990 991", "990 990", "990 990"])?;
    bench.journal(4, ["991 991", "991 991", "991 992", "991 991"])?;
    bench.journal(5, ["990 990", "989 990", "990 990", "990 989"])?;
    for (station, bore) in (1..).zip([
        ["51 51", "52 52", "70", "69"],
        ["53 53", "53 54", "71", "71"],
        ["50 51", "50 50", "68", "68"],
        ["52 52", "52 51", "69", "70"],
        ["49 50", "50 50", "67", "68"],
    ]) {
        bench.bore(station, Direct, &bore)?;
    }
    bench.sign(SignerRole::Assembler)?;
    bench.hand_over(person("kell"), 95);
    bench.sign(SignerRole::Checker)?;
    Ok(bench.finish())
}

/// A V6 whose journals are known and whose bearings wait.
fn sl_043(whimbrel: &Pattern) -> Result<Build, Refusal> {
    let mut bench = Bench::book_in(43, "SL-043", whimbrel, MORNING - 4 * DAY, person("harrow"))?;
    bench.hand_over(person("wick"), 3 * 24 * 60);
    bench.journal(1, ["2.7496 96", "96 95", "96 96", "96 96"])?;
    bench.journal(2, ["96 97", "96 96", "97 97", "96 96"])?;
    bench.journal(3, ["95 95", "95 95", "95 96", "95 95"])?;
    bench.journal(4, ["96 96", "96 96", "96 95", "96 96"])?;
    Ok(bench.finish())
}

#[cfg(test)]
mod tests {
    use super::*;
    use jagged_pin_core::assess::evaluate;
    use jagged_pin_core::assessment::Assessment;
    use jagged_pin_core::signoff::SealStatus;
    use jagged_pin_core::verdict::State;

    fn assessed(code: &str) -> Option<Assessment> {
        builds().ok()?.iter().find(|b| b.code == code).map(evaluate)
    }

    #[test]
    fn the_main_story_has_one_of_every_state() {
        use State::{Edge, In, Loose, Tight};
        let states = assessed("SL-041").map(|a| {
            a.stations.iter().map(|s| s.judged.as_ref().map(|j| (j.state, j.margin.nm() / 1_270))).collect::<Vec<_>>()
        });
        let expected = vec![
            Some((In, 6)),
            Some((Tight, -6)),
            Some((In, 4)),
            Some((In, 3)),
            Some((Loose, -6)),
            Some((Edge, -1)),
            None,
        ];
        assert_eq!(states, Some(expected));
    }

    #[test]
    fn the_sealed_build_is_sealed_and_every_build_is_consistent() {
        assert_eq!(assessed("SL-042").map(|a| a.sign_off.status), Some(SealStatus::Sealed));
        let checked = builds().map(|all| all.iter().map(Build::check).collect::<Result<Vec<_>, _>>());
        assert!(matches!(checked, Ok(Ok(all)) if all.len() == 4));
    }

    #[test]
    fn nobody_shares_a_login_and_every_layout_makes_sense() {
        let mut logins: Vec<_> = crate::people().iter().map(|p| p.login).collect();
        logins.sort_unstable();
        logins.dedup();
        assert_eq!(logins.len(), 5);
        assert_eq!(patterns().iter().map(|p| p.layout.check()).filter(Result::is_ok).count(), 3);
    }
}
