//! Rows that are changed behind a sealed sheet: each change is named by the look at the seals.
use rustix::process::Signal;
use serde_json::{Value, json};

use crate::hand::Hand;
use crate::{Besieged, Step};

/// The sealed build of the demo in a statement.
const IT: &str = "(SELECT id FROM (SELECT id FROM builds WHERE code = 'SL-042') b)";

/// What came of it.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Tampered {
    /// Changes that were made, each on a whole shop.
    pub changes: usize,
    /// Those that nothing was said of.
    pub silent: Vec<String>,
    /// Whether anything was said of the shop that nobody touched.
    pub false_alarm: bool,
}

/// What whoever can write rows may try.
fn changes() -> Vec<String> {
    let first = format!("(SELECT seq FROM (SELECT MIN(seq) AS seq FROM signatures WHERE build_id = {IT}) s)");
    let of_it = |statement: &str| format!("{statement} WHERE build_id = {IT}");
    vec![
        of_it("UPDATE readings SET size_nm = size_nm - 25400") + " ORDER BY seq LIMIT 1",
        of_it("UPDATE readings SET raw = '2.6'") + " ORDER BY seq LIMIT 1",
        of_it("UPDATE readings SET gauge = 'mic-thou'") + " ORDER BY seq LIMIT 1",
        of_it("UPDATE facts SET by_name = 'Somebody Else'") + " ORDER BY seq LIMIT 1",
        of_it("UPDATE facts SET by_id = (SELECT id FROM people WHERE login = 'fenn')") + " ORDER BY seq LIMIT 1",
        of_it("UPDATE facts SET at = at - 3600000") + " ORDER BY seq LIMIT 1",
        of_it("DELETE FROM facts") + " ORDER BY seq LIMIT 1",
        of_it("DELETE FROM readings") + " ORDER BY seq DESC LIMIT 1",
        of_it("UPDATE signatures SET digest = REPEAT('0', 64)"),
        of_it("UPDATE signatures SET mark = REPEAT('0', 64)"),
        of_it("UPDATE signatures SET mark = NULL"),
        of_it("UPDATE signatures SET role = 'checker'"),
        of_it("DELETE FROM signatures"),
        of_it("UPDATE notes SET detail = REPLACE(detail, '2', '3')"),
        of_it("UPDATE target_changes SET rule = REPLACE(rule, '2', '1')"),
        format!("UPDATE builds SET engine = CONCAT(engine, ' II') WHERE id = {IT}"),
        format!("UPDATE builds SET rules = REPLACE(rules, 'guarded', 'simple') WHERE id = {IT}"),
        format!("UPDATE builds SET seq = seq - 1 WHERE id = {IT}"),
        format!("UPDATE builds SET archived = TRUE, archived_at = 1 WHERE id = {IT}"),
        format!(
            "UPDATE builds SET seq = {first} - 1 WHERE id = {IT}; \
             DELETE FROM facts WHERE build_id = {IT} AND seq >= {first}; DELETE FROM signatures WHERE build_id = {IT}"
        ),
        format!("DELETE FROM builds WHERE id = {IT}"),
        "UPDATE pictures SET jpeg = 'x' LIMIT 1".into(),
        "DELETE FROM pictures LIMIT 1".into(),
        format!("UPDATE people SET name = 'Somebody Else' WHERE id IN (SELECT by_id FROM facts WHERE build_id = {IT})"),
        "DELETE FROM seal_ledger".into(),
        "DELETE FROM seal_ledger WHERE kind = 'signed' ORDER BY number LIMIT 1".into(),
        "UPDATE seal_ledger SET text = REPEAT('0', 64) WHERE kind = 'signed' LIMIT 1".into(),
        "UPDATE seal_ledger SET about = UUID() WHERE kind = 'signed' LIMIT 1".into(),
    ]
}

/// Whether the look at the seals has something to say.
async fn says_something(hand: &Hand) -> Step<bool> {
    let looked = hand.ask("/seals", &json!({})).await?;
    let none = |what: &Value| what.as_array().is_some_and(Vec::is_empty);
    Ok(!none(&looked["doubts"]) || !none(&looked["ledger"]))
}

/// Changes rows in some of the ways that there are, on a whole shop each time.
///
/// # Errors
/// When the siege itself fails.
pub async fn tampering(times: usize) -> Step<Tampered> {
    let mut shop = Besieged::new()?;
    shop.begin()?;
    shop.comes_up()?;
    let whole = shop.dump()?;
    let mut tampered = Tampered::default();
    for change in changes().into_iter().take(times) {
        let hand = Hand::sign_in(&shop.base, "harrow").await?;
        tampered.false_alarm |= says_something(&hand).await?;
        shop.tamper(&format!("SET foreign_key_checks = 0; {change}"))?;
        tampered.changes += 1;
        if !says_something(&hand).await? {
            tampered.silent.push(change);
        }
        shop.tamper(&whole)?;
    }
    shop.end(Signal::TERM)?;
    Ok(tampered)
}
