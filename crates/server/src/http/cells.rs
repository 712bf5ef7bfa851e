//! Cells of comma-separated files: a spreadsheet that opens one must not take a text for a formula.

/// Characters that begin a formula in one spreadsheet or another.
const BEGINNINGS: [char; 6] = ['=', '+', '-', '@', '\t', '\r'];
/// What stands before a text that would be one: spreadsheets show the text without it.
const GUARD: char = '\'';

/// A cell as it is written: a text that begins like a formula is guarded, a figure is not.
pub(crate) fn guarded(cell: String) -> String {
    let formula = cell.starts_with(BEGINNINGS) && cell.parse::<f64>().is_err();
    if formula { format!("{GUARD}{cell}") } else { cell }
}

/// A cell as it was meant, without its guard.
pub(crate) fn bare(cell: &str) -> &str {
    match cell.strip_prefix(GUARD) {
        Some(rest) if rest.starts_with(BEGINNINGS) => rest,
        _ => cell,
    }
}

/// What parts the cells of a file, by its heading line: spreadsheets of half the world write semicolons.
pub(crate) fn delimiter(text: &str) -> u8 {
    let heading = text.lines().next().unwrap_or_default();
    let count = |mark: char| heading.matches(mark).count();
    [';', '\t'].into_iter().filter(|m| count(*m) > count(',')).max_by_key(|m| count(*m)).map_or(b',', |m| m as u8)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_begins_like_a_formula_is_guarded_and_read_back_as_it_was() {
        for text in ["=1+1", "+A1", "-A1", "@SUM(A1)", "\t=1"] {
            let written = guarded(text.to_owned());
            assert_eq!((written.chars().next(), bare(&written)), (Some(GUARD), text));
        }
        for text in ["-12", "+0.5", "2.6238", "M4", "'quoted'", ""] {
            assert_eq!((guarded(text.to_owned()).as_str(), bare(text)), (text, text));
        }
    }

    #[test]
    fn the_heading_line_tells_what_parts_the_cells() {
        assert_eq!(delimiter("a,b,c\n1;2;3;4"), b',');
        assert_eq!(delimiter("a;b;c\n1,5;2;3"), b';');
        assert_eq!(delimiter("a\tb\tc"), b'\t');
        assert_eq!(delimiter(""), b',');
    }
}
