//! Part numbers, read by the shop's own table: what each letter of a supplier's number means.
//!
//! A number begins with the family's base and goes on with groups of letters or digits that the shop has given a
//! meaning. Spaces, hyphens, points and strokes are skipped. Of all ways to take it apart the one that leaves
//! least unread counts, longer groups first.
//!
//! ```
//! use jagged_pin_core::Length;
//! use jagged_pin_core::part_number::{Means, Suffix, decode};
//!
//! let table = [
//!     Suffix { letters: "K".into(), means: Means::Class { id: "-1".into() } },
//!     Suffix { letters: "25".into(), means: Means::Undersize { undersize: Length::tenths(100) } },
//!     Suffix { letters: "P".into(), means: Means::Dowel },
//! ];
//! let decoded = decode("cm-K25 PX", "CM", &table).unwrap();
//! assert_eq!((decoded.class.as_deref(), decoded.undersize), (Some("-1"), Some(Length::tenths(100))));
//! assert!(decoded.traits.contains(&jagged_pin_core::part_number::ShellTrait::Dowel));
//! assert_eq!(decoded.unread, "X");
//! ```

use serde::{Deserialize, Serialize};

use crate::shell::ShellFamily;
use crate::{Length, Unit};

/// Something a shell has or has not.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum ShellTrait {
    /// Coated.
    Coated,
    /// Narrowed, to clear the fillets.
    Narrowed,
    /// A hole for the dowel of the housing.
    Dowel,
    /// A groove in the upper.
    Grooved,
}

impl ShellTrait {
    /// As people say it.
    pub const fn words(self) -> &'static str {
        match self {
            ShellTrait::Coated => "coated",
            ShellTrait::Narrowed => "narrowed",
            ShellTrait::Dowel => "a dowel hole",
            ShellTrait::Grooved => "a grooved upper",
        }
    }
}

/// What a group of letters means.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(tag = "kind", rename_all = "snake_case", deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Means {
    /// The lining or backing, in the shop's words.
    Material {
        /// Its name.
        name: String,
    },
    /// Coated.
    Coated,
    /// Narrowed.
    Narrowed,
    /// A dowel hole.
    Dowel,
    /// A grooved upper.
    Grooved,
    /// A size class, such as one with extra clearance.
    Class {
        /// The class.
        id: String,
    },
    /// An undersize.
    Undersize {
        /// How much; zero for standard.
        undersize: Length,
    },
}

/// A group of letters and what it means.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[serde(deny_unknown_fields)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Suffix {
    /// The letters or digits.
    pub letters: String,
    /// What they mean.
    pub means: Means,
}

impl Suffix {
    /// Whether it can be read: one to eight letters or digits.
    pub fn is_sound(&self) -> bool {
        let plain = self.letters.chars().all(|c| c.is_ascii_alphanumeric());
        let named = match &self.means {
            Means::Material { name } | Means::Class { id: name } => !name.trim().is_empty() && name.len() <= 60,
            Means::Undersize { undersize } => *undersize >= Length::ZERO,
            _ => true,
        };
        (1..=8).contains(&self.letters.len()) && plain && named
    }
}

/// One group of a number that was read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Group {
    /// As it stands in the number.
    pub letters: String,
    /// What it means; absent where the table does not say.
    pub means: Option<Means>,
}

/// A number that was read.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Decoded {
    /// Group by group after the base.
    pub groups: Vec<Group>,
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
pub enum Conflict {
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
pub fn decode(text: &str, base: &str, table: &[Suffix]) -> Option<Decoded> {
    let plain = |t: &str| t.chars().filter(char::is_ascii_alphanumeric).collect::<String>().to_ascii_uppercase();
    let (number, base) = (plain(text), plain(base));
    let rest = number.strip_prefix(&base).filter(|_| !base.is_empty())?;
    let mut known: Vec<(String, &Means)> = table.iter().map(|s| (plain(&s.letters), &s.means)).collect();
    known.sort_by_key(|(letters, _)| std::cmp::Reverse(letters.len()));
    let groups = apart(rest, &known);
    let unread = groups.iter().filter(|g| g.means.is_none()).map(|g| g.letters.as_str()).collect();
    let mut decoded =
        Decoded { class: None, undersize: None, materials: Vec::new(), traits: Vec::new(), unread, groups };
    for group in &decoded.groups {
        match &group.means {
            Some(Means::Class { id }) => decoded.class = Some(id.clone()),
            Some(Means::Undersize { undersize }) => decoded.undersize = Some(*undersize),
            Some(Means::Material { name }) => decoded.materials.push(name.clone()),
            Some(Means::Coated) => decoded.traits.push(ShellTrait::Coated),
            Some(Means::Narrowed) => decoded.traits.push(ShellTrait::Narrowed),
            Some(Means::Dowel) => decoded.traits.push(ShellTrait::Dowel),
            Some(Means::Grooved) => decoded.traits.push(ShellTrait::Grooved),
            None => {}
        }
    }
    Some(decoded)
}

/// The way to take `rest` apart that leaves least unread: for each place from the end, the best from there on.
fn apart(rest: &str, known: &[(String, &Means)]) -> Vec<Group> {
    let len = rest.len();
    // Letters left unread from each place on, and the group that is taken there.
    let mut best: Vec<(usize, usize, Option<&Means>)> = vec![(0, 0, None); len + 1];
    for at in (0..len).rev() {
        best[at] = (best[at + 1].0 + 1, 1, None);
        for (letters, means) in known {
            let end = at + letters.len();
            if rest[at..].starts_with(letters.as_str()) && best[end].0 < best[at].0 {
                best[at] = (best[end].0, letters.len(), Some(means));
            }
        }
    }
    let mut groups: Vec<Group> = Vec::new();
    let mut at = 0;
    while at < len {
        let (_, long, means) = best[at];
        let letters = rest[at..at + long].to_owned();
        match groups.last_mut() {
            Some(last) if last.means.is_none() && means.is_none() => last.letters += &letters,
            _ => groups.push(Group { letters, means: means.cloned() }),
        }
        at += long;
    }
    groups
}

/// What does not go together: in the number itself, with what the engine needs, and with the crank as measured.
/// `measured` is the undersize of the journals: `None` while none is measured, `Some(None)` when they belong to
/// none or to several.
pub fn conflicts(decoded: &Decoded, needs: &[ShellTrait], measured: Option<Option<Length>>) -> Vec<Conflict> {
    let mut found = Vec::new();
    if !decoded.unread.is_empty() {
        found.push(Conflict::Unread { letters: decoded.unread.clone() });
    }
    let of = |kind: fn(&Means) -> bool| {
        decoded.groups.iter().filter(|g| g.means.as_ref().is_some_and(kind)).map(|g| g.letters.as_str()).collect()
    };
    let pairs: [Vec<&str>; 2] =
        [of(|m| matches!(m, Means::Class { .. })), of(|m| matches!(m, Means::Undersize { .. }))];
    let twice = pairs.into_iter().filter(|letters| letters.len() > 1);
    found.extend(twice.map(|letters| Conflict::Twice { letters: letters.join(" and ") }));
    found.extend(needs.iter().filter(|n| !decoded.traits.contains(n)).map(|needs| Conflict::Lacks { needs: *needs }));
    match (decoded.undersize, measured) {
        (Some(number), Some(measured)) if measured != Some(number) => {
            found.push(Conflict::Undersize { number, measured });
        }
        (None, Some(Some(measured))) if measured > Length::ZERO => found.push(Conflict::NoUndersize { measured }),
        _ => {}
    }
    found
}

/// Reads what is stamped on an old shell as an undersize: a part number of the family, `STD`, `10` (thousandths of
/// an inch), `.010` or `0.25`.
pub fn stamped(text: &str, family: Option<&ShellFamily>, unit: Unit) -> Option<Length> {
    let trimmed = text.trim();
    let decoded = family.and_then(|f| decode(trimmed, &f.base, &f.suffixes));
    if let Some(undersize) = decoded.and_then(|d| d.undersize) {
        return Some(undersize);
    }
    if ["STD", "STANDARD", "0"].contains(&trimmed.to_ascii_uppercase().as_str()) {
        return Some(Length::ZERO);
    }
    match trimmed.parse::<u8>() {
        // Thousandths of an inch, as shells are stamped.
        Ok(thou) => (unit == Unit::Inch && thou <= 60).then(|| Length::tenths(10 * i64::from(thou))),
        Err(_) => crate::entry::parse_length(trimmed, unit).ok().filter(|l| (Length::ZERO..MOST).contains(l)),
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
            s("K", Means::Class { id: "-1".into() }),
            s("N", Means::Class { id: "+1".into() }),
            s("25", Means::Undersize { undersize: Length::tenths(100) }),
            s("2", Means::Material { name: "second".into() }),
            s("P", Means::Dowel),
            s("F", Means::Narrowed),
        ]
    }

    #[test]
    fn what_the_engine_needs_and_the_crank_says_is_held_against_the_number() {
        let d = decode("CMK25", "CM", &table());
        let found = d.map(|d| conflicts(&d, &[ShellTrait::Dowel], Some(Some(Length::ZERO))));
        let undersize = Conflict::Undersize { number: Length::tenths(100), measured: Some(Length::ZERO) };
        assert_eq!(found, Some(vec![Conflict::Lacks { needs: ShellTrait::Dowel }, undersize]));
        let clean = decode("CMK25P", "CM", &table());
        assert_eq!(clean.map(|d| conflicts(&d, &[ShellTrait::Dowel], Some(Some(Length::tenths(100))))), Some(vec![]));
        let silent = decode("CMK", "CM", &table());
        let measured = Length::tenths(100);
        assert_eq!(
            silent.map(|d| conflicts(&d, &[], Some(Some(measured)))),
            Some(vec![Conflict::NoUndersize { measured }])
        );
        let two = decode("CMKN", "CM", &table());
        assert_eq!(two.map(|d| conflicts(&d, &[], None)), Some(vec![Conflict::Twice { letters: "K and N".into() }]));
        assert_eq!(decode("DMK", "CM", &table()), None);
    }

    #[test]
    fn stamps_are_read_as_they_are_stamped() {
        let read = |text, unit| stamped(text, None, unit);
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
            let decoded = decode(&format!("CM {number}"), "CM", &table);
            prop_assert_eq!(decoded.map(|d| d.unread), Some(String::new()));
        }
    }
}
