//! Where the records of a CSV stand in its text.

/// Where a record of a CSV begins: its reader may still stand before the end of the line above.
pub(crate) fn record_start(text: &str, position: Option<&csv::Position>) -> usize {
    let at = position.map_or(0, |position| position.byte() as usize);
    at + text[at..].len() - text[at..].trim_start_matches(['\r', '\n']).len()
}
