//! In the place of maps from CSV and PNG, where the library is built to read tunings and levels alone.

use super::LetterKind;
use crate::files::diagnostic::{Diagnostic, Notes};

/// No map comes from a CSV.
pub(super) enum Table {}

impl Table {
    pub(super) fn blank_at_end(&self) -> usize {
        match *self {}
    }

    pub(super) fn place(&self, _column: usize, _row: usize) -> Diagnostic {
        match *self {}
    }
}

pub(super) fn read_table(
    notes: &mut Notes,
    name: &str,
    _text: &str,
    _codes: &[(String, char)],
    _letters: &[LetterKind],
) -> Option<(Vec<Vec<char>>, Table)> {
    notes.error(0..0, format!("{name}: {}", not_read("CSV")));
    None
}

pub(super) fn read_picture(
    _bytes: &[u8],
    _colours: &[(String, char)],
    _letters: &[LetterKind],
) -> Result<(usize, Vec<u8>), Vec<String>> {
    Err(vec![not_read("PNG")])
}

fn not_read(what: &str) -> String {
    format!("wumple is built here without its feature \"instruments\", which reads {what}; write the map in letters")
}
