//! Role numbers, read by the shop's own table: what each letter of a supplier's number means.
//!
//! A number begins with the family's base and goes on with groups of letters or digits that the shop has given a
//! meaning. Spaces, hyphens, points and strokes are skipped. Of all ways to take it apart the one that leaves
//! least unread counts, longer groups first.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::shells::{Suffix, SuffixMeaning, decode_part_number};
//!
//! let table = [
//!     Suffix { letters: "K".into(), means: SuffixMeaning::Class { id: "-1".into() } },
//!     Suffix { letters: "25".into(), means: SuffixMeaning::Undersize { undersize: Length::tenths(100) } },
//!     Suffix { letters: "P".into(), means: SuffixMeaning::Dowel },
//! ];
//! let decoded = decode_part_number("cm-K25 PX", "CM", &table).unwrap();
//! assert_eq!((decoded.class.as_deref(), decoded.undersize), (Some("-1"), Some(Length::tenths(100))));
//! assert!(decoded.traits.contains(&jagged_pin_core::shells::ShellTrait::Dowel));
//! assert_eq!(decoded.unread, "X");
//! ```
use serde::Serialize;

use super::family::ShellFamily;
use super::marking::{ShellTrait, Suffix, SuffixMeaning};
use crate::units::{Length, Unit};

/// One group of a number that was read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NumberGroup {
    /// As it stands in the number.
    pub letters: String,
    /// What it means; absent where the table does not say.
    pub means: Option<SuffixMeaning>,
}

/// A number that was read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DecodedNumber {
    /// Group by group after the base.
    pub groups: Vec<NumberGroup>,
    /// The size class, if it names one.
    pub class: Option<String>,
    /// The undersize, if it names one.
    pub undersize: Option<Length>,
    /// The materials it names.
    pub materials: Vec<String>,
    /// What else it has.
    pub traits: Vec<ShellTrait>,
    /// What the table does not know.
    pub unread: String,
}

/// Something that does not go together.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[serde(tag = "kind", rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum NumberConflict {
    /// Letters that the shop's table does not know.
    Unread {
        /// The letters.
        letters: String,
    },
    /// Two groups say different things of the same matter.
    Twice {
        /// The groups.
        letters: String,
    },
    /// The engine needs something these shells have not.
    Lacks {
        /// What.
        needs: ShellTrait,
    },
    /// The crank measures as another undersize.
    Undersize {
        /// What the number says.
        number: Length,
        /// What the journals say; absent when they belong to none.
        measured: Option<Length>,
    },
    /// The number does not say which undersize, and the crank is not standard.
    NoUndersize {
        /// What the journals say.
        measured: Length,
    },
}

/// Takes a number apart. `None` when it does not begin with the base.
pub fn decode_part_number(text: &str, base: &str, table: &[Suffix]) -> Option<DecodedNumber> {
    let plain = |t: &str| t.chars().filter(char::is_ascii_alphanumeric).collect::<String>().to_ascii_uppercase();
    let (number, base) = (plain(text), plain(base));
    let rest = number.strip_prefix(&base).filter(|_| !base.is_empty())?;
    let mut known: Vec<(String, &SuffixMeaning)> = table.iter().map(|s| (plain(&s.letters), &s.means)).collect();
    known.sort_by_key(|(letters, _)| std::cmp::Reverse(letters.len()));
    let groups = apart(rest, &known);
    let unread = groups.iter().filter(|g| g.means.is_none()).map(|g| g.letters.as_str()).collect();
    let mut decoded =
        DecodedNumber { class: None, undersize: None, materials: Vec::new(), traits: Vec::new(), unread, groups };
    for group in &decoded.groups {
        match &group.means {
            Some(SuffixMeaning::Class { id }) => decoded.class = Some(id.clone()),
            Some(SuffixMeaning::Undersize { undersize }) => decoded.undersize = Some(*undersize),
            Some(SuffixMeaning::Material { name }) => decoded.materials.push(name.clone()),
            Some(SuffixMeaning::Coated) => decoded.traits.push(ShellTrait::Coated),
            Some(SuffixMeaning::Narrowed) => decoded.traits.push(ShellTrait::Narrowed),
            Some(SuffixMeaning::Dowel) => decoded.traits.push(ShellTrait::Dowel),
            Some(SuffixMeaning::Grooved) => decoded.traits.push(ShellTrait::Grooved),
            None => {}
        }
    }
    Some(decoded)
}

/// The way to take `rest` apart that leaves least unread: for each place from the end, the best from there on.
fn apart(rest: &str, known: &[(String, &SuffixMeaning)]) -> Vec<NumberGroup> {
    let len = rest.len();
    // Letters left unread from each place on, and the group that is taken there.
    let mut best: Vec<(usize, usize, Option<&SuffixMeaning>)> = vec![(0, 0, None); len + 1];
    for at in (0..len).rev() {
        best[at] = (best[at + 1].0 + 1, 1, None);
        for (letters, means) in known {
            let end = at + letters.len();
            if rest[at..].starts_with(letters.as_str()) && best[end].0 < best[at].0 {
                best[at] = (best[end].0, letters.len(), Some(means));
            }
        }
    }
    let mut groups: Vec<NumberGroup> = Vec::new();
    let mut at = 0;
    while at < len {
        let (_, long, means) = best[at];
        let letters = rest[at..at + long].to_owned();
        match groups.last_mut() {
            Some(last) if last.means.is_none() && means.is_none() => last.letters += &letters,
            _ => groups.push(NumberGroup { letters, means: means.cloned() }),
        }
        at += long;
    }
    groups
}

/// What does not go together: in the number itself, with what the engine needs, and with the crank as measured.
/// `measured` is the undersize of the journals: `None` while none is measured, `Some(None)` when they belong to
/// none or to several.
pub fn number_conflicts(
    decoded: &DecodedNumber,
    needs: &[ShellTrait],
    measured: Option<Option<Length>>,
) -> Vec<NumberConflict> {
    let mut found = Vec::new();
    if !decoded.unread.is_empty() {
        found.push(NumberConflict::Unread { letters: decoded.unread.clone() });
    }
    let of = |kind: fn(&SuffixMeaning) -> bool| {
        decoded.groups.iter().filter(|g| g.means.as_ref().is_some_and(kind)).map(|g| g.letters.as_str()).collect()
    };
    let pairs: [Vec<&str>; 2] =
        [of(|m| matches!(m, SuffixMeaning::Class { .. })), of(|m| matches!(m, SuffixMeaning::Undersize { .. }))];
    let twice = pairs.into_iter().filter(|letters| letters.len() > 1);
    found.extend(twice.map(|letters| NumberConflict::Twice { letters: letters.join(" and ") }));
    found.extend(
        needs.iter().filter(|n| !decoded.traits.contains(n)).map(|needs| NumberConflict::Lacks { needs: *needs }),
    );
    match (decoded.undersize, measured) {
        (Some(number), Some(measured)) if measured != Some(number) => {
            found.push(NumberConflict::Undersize { number, measured });
        }
        (None, Some(Some(measured))) if measured > Length::ZERO => found.push(NumberConflict::NoUndersize { measured }),
        _ => {}
    }
    found
}

/// Reads what is stamped on an old shell as an undersize: a part number of the family, `STD`, `10` (thousandths of
/// an inch), `.010` or `0.25`.
pub fn stamped_undersize(text: &str, family: Option<&ShellFamily>, unit: Unit) -> Option<Length> {
    let trimmed = text.trim();
    let decoded = family.and_then(|f| decode_part_number(trimmed, &f.base, &f.suffixes));
    if let Some(undersize) = decoded.and_then(|d| d.undersize) {
        return Some(undersize);
    }
    if ["STD", "STANDARD", "0"].contains(&trimmed.to_ascii_uppercase().as_str()) {
        return Some(Length::ZERO);
    }
    match trimmed.parse::<u8>() {
        // Thousandths of an inch, as shells are stamped.
        Ok(thou) => (unit == Unit::Inch && thou <= 60).then(|| Length::tenths(i64::from(thou).saturating_mul(10))),
        Err(_) => crate::maths::parse_length(trimmed, unit).ok().filter(|l| (Length::ZERO..MOST).contains(l)),
    }
}

/// More than any shell is made under: 2 mm.
const MOST: Length = Length::microns(2_000);

#[cfg(test)]
mod tests {
    use super::*;
    use proptest::prelude::*;

    fn table() -> Vec<Suffix> {
        let s = |letters: &str, means| Suffix { letters: letters.into(), means };
        vec![
            s("K", SuffixMeaning::Class { id: "-1".into() }),
            s("N", SuffixMeaning::Class { id: "+1".into() }),
            s("25", SuffixMeaning::Undersize { undersize: Length::tenths(100) }),
            s("2", SuffixMeaning::Material { name: "second".into() }),
            s("P", SuffixMeaning::Dowel),
            s("F", SuffixMeaning::Narrowed),
        ]
    }

    #[test]
    fn what_the_engine_needs_and_the_crank_says_is_held_against_the_number() {
        let d = decode_part_number("CMK25", "CM", &table());
        let found = d.map(|d| number_conflicts(&d, &[ShellTrait::Dowel], Some(Some(Length::ZERO))));
        let undersize = NumberConflict::Undersize { number: Length::tenths(100), measured: Some(Length::ZERO) };
        assert_eq!(found, Some(vec![NumberConflict::Lacks { needs: ShellTrait::Dowel }, undersize]));
        let clean = decode_part_number("CMK25P", "CM", &table());
        assert_eq!(
            clean.map(|d| number_conflicts(&d, &[ShellTrait::Dowel], Some(Some(Length::tenths(100))))),
            Some(vec![])
        );
        let silent = decode_part_number("CMK", "CM", &table());
        let measured = Length::tenths(100);
        assert_eq!(
            silent.map(|d| number_conflicts(&d, &[], Some(Some(measured)))),
            Some(vec![NumberConflict::NoUndersize { measured }])
        );
        let two = decode_part_number("CMKN", "CM", &table());
        assert_eq!(
            two.map(|d| number_conflicts(&d, &[], None)),
            Some(vec![NumberConflict::Twice { letters: "K and N".into() }])
        );
        assert_eq!(decode_part_number("DMK", "CM", &table()), None);
    }

    #[test]
    fn stamps_are_read_as_they_are_stamped() {
        let read = |text, unit| stamped_undersize(text, None, unit);
        assert_eq!(read("std", Unit::Inch), Some(Length::ZERO));
        assert_eq!(read("10", Unit::Inch), Some(Length::tenths(100)));
        assert_eq!(read(".010", Unit::Inch), Some(Length::tenths(100)));
        assert_eq!(read("0.25", Unit::Mm), Some(Length::microns(250)));
        assert_eq!(read("10", Unit::Mm), None);
        assert_eq!(read("worn off", Unit::Inch), None);
    }

    proptest! {
        #[test]
        fn a_number_of_known_groups_leaves_nothing_unread(picks in prop::collection::vec(0usize..6, 0..8)) {
            let table = table();
            let number: String = picks.iter().map(|i| table[*i].letters.as_str()).collect();
            let decoded = decode_part_number(&format!("CM {number}"), "CM", &table);
            prop_assert_eq!(decoded.map(|d| d.unread), Some(String::new()));
        }
    }
}
