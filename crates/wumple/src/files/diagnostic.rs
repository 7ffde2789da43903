use std::collections::HashMap;
use std::collections::hash_map::DefaultHasher;
use std::fmt;
use std::hash::{Hash, Hasher};
use std::ops::Range;
use std::sync::{Arc, OnceLock};

use annotate_snippets::{AnnotationKind, Group, Level, Renderer, Snippet};

/// A text with the name that messages give it: a file's path, or `--press`.
#[derive(Debug)]
pub(crate) struct Source {
    pub(crate) name: String,
    pub(crate) text: String,
    /// Where each line begins, found once somebody asks.
    lines: OnceLock<Vec<usize>>,
}

impl PartialEq for Source {
    fn eq(&self, other: &Source) -> bool {
        (&self.name, &self.text) == (&other.name, &other.text)
    }
}

impl Eq for Source {}

impl Source {
    /// The index of the line that a place is in, and where that line begins.
    fn line_of(&self, place: usize) -> (usize, usize) {
        let starts = self.lines.get_or_init(|| {
            let after = self.text.bytes().enumerate().filter(|(_, byte)| *byte == b'\n').map(|(at, _)| at + 1);
            std::iter::once(0).chain(after).collect()
        });
        let index = starts.partition_point(|start| *start <= place) - 1;
        (index, starts[index])
    }
}

/// A text on one line, without what a terminal would obey.
pub(crate) fn harmless(text: &str) -> String {
    if !text.contains(is_harmful) {
        return text.to_owned();
    }
    let escaped =
        |letter: char| if is_harmful(letter) { letter.escape_unicode().to_string() } else { letter.to_string() };
    text.chars().map(escaped).collect()
}

/// Whether a letter moves the cursor, starts a command of a terminal or turns the direction of what follows.
pub(crate) fn is_harmful(letter: char) -> bool {
    let turns = matches!(letter, '\u{200e}' | '\u{200f}' | '\u{202a}'..='\u{202e}' | '\u{2066}'..='\u{2069}');
    letter.is_control() || turns || matches!(letter, '\u{2028}' | '\u{2029}' | '\u{feff}')
}

/// Something wrong, or worth a warning, at one place of a text.
///
/// Displayed as one line, `FILE:LINE:COLUMN: MESSAGE`; [`Diagnostic::render`] adds the text with the
/// place underlined, and so does `Debug`: it is what `?` in a test shows.
#[derive(Clone, PartialEq, Eq)]
pub struct Diagnostic {
    source: Arc<Source>,
    span: Range<usize>,
    message: String,
}

impl Diagnostic {
    pub(crate) fn new(source: &Arc<Source>, span: Range<usize>, message: String) -> Diagnostic {
        let end = span.end.min(source.text.len());
        Diagnostic { source: source.clone(), span: span.start.min(end)..end, message: harmless(&message) }
    }

    /// The same place with another message.
    pub(crate) fn with_message(&self, message: String) -> Diagnostic {
        Diagnostic { message: harmless(&message), ..self.clone() }
    }

    /// What is wrong and what would be right, without the place.
    #[must_use]
    pub fn message(&self) -> &str {
        &self.message
    }

    /// The file's name as it was given.
    #[must_use]
    pub fn file(&self) -> &str {
        &self.source.name
    }

    /// The line, from 1.
    #[must_use]
    pub fn line(&self) -> usize {
        self.source.line_of(self.span.start).0 + 1
    }

    /// The column in characters, from 1.
    #[must_use]
    pub fn column(&self) -> usize {
        let (_, start) = self.source.line_of(self.span.start);
        self.source.text[start..self.span.start].chars().count() + 1
    }

    /// The one-line form, and beneath it the line of the file with the place underlined; with colour if
    /// asked.
    #[must_use]
    pub fn render(&self, colour: bool) -> String {
        if self.source.text.is_empty() {
            return self.to_string();
        }
        let renderer = if colour { Renderer::styled() } else { Renderer::plain() };
        let (line, underlined) = self.shown();
        let snippet = Snippet::source(line).line_start(self.line());
        let snippet = snippet.annotation(AnnotationKind::Primary.span(underlined));
        let group = [Group::with_level(Level::ERROR).element(snippet)];
        format!("{self}\n{}", renderer.render(&group))
    }

    /// The line of the place, or what is around it in a very long one, and what of that is underlined: a long
    /// section is not underlined whole.
    fn shown(&self) -> (&str, Range<usize>) {
        let text = &self.source.text;
        let (_, start) = self.source.line_of(self.span.start);
        let end = text[start..].find('\n').map_or(text.len(), |at| start + at);
        let near = |from: usize, back: usize| (from - back.min(from)..=from).find(|at| text.is_char_boundary(*at));
        let from = near(self.span.start, MOST_SHOWN).unwrap_or(self.span.start).max(start);
        let to = (self.span.start + MOST_SHOWN).min(end);
        let to = (to..=end).find(|at| text.is_char_boundary(*at)).unwrap_or(end);
        let underlined = self.span.start - from..self.span.end.min(to).max(self.span.start) - from;
        (text[from..to].trim_end_matches('\r'), underlined)
    }
}

/// So much of a line is shown before and after a place, bytes.
const MOST_SHOWN: usize = 100;

impl fmt::Display for Diagnostic {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}:{}:{}: {}", harmless(&self.source.name), self.line(), self.column(), self.message)
    }
}

impl fmt::Debug for Diagnostic {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.render(false))
    }
}

impl std::error::Error for Diagnostic {}

/// All that is wrong with a text, in the order of the places: at least one. There are at most twenty of one kind,
/// and then how many more.
#[derive(Clone, PartialEq, Eq)]
pub struct Diagnostics(Vec<Diagnostic>);

impl Diagnostics {
    /// One by one.
    pub fn iter(&self) -> std::slice::Iter<'_, Diagnostic> {
        self.0.iter()
    }

    pub(crate) fn into_vec(self) -> Vec<Diagnostic> {
        self.0
    }

    /// All of them as [`Diagnostic::render`] shows them.
    #[must_use]
    pub fn render(&self, colour: bool) -> String {
        self.0.iter().map(|one| one.render(colour)).collect::<Vec<_>>().join("\n")
    }
}

impl From<Diagnostic> for Diagnostics {
    fn from(one: Diagnostic) -> Diagnostics {
        Diagnostics(vec![one])
    }
}

impl fmt::Display for Diagnostics {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let lines: Vec<String> = self.0.iter().map(Diagnostic::to_string).collect();
        f.write_str(&lines.join("\n"))
    }
}

impl fmt::Debug for Diagnostics {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(&self.render(false))
    }
}

impl std::error::Error for Diagnostics {}

/// So many diagnostics of one kind are kept, and then how many more there are.
pub(crate) const MOST_OF_A_KIND: usize = 20;

/// Where a reader notes what it finds wrong; it reads on, so that several things are said at once.
#[derive(Debug)]
pub(crate) struct Notes {
    source: Arc<Source>,
    errors: Vec<Diagnostic>,
    /// How many there are of each kind, and the first that is not kept.
    kinds: HashMap<u64, (usize, Option<Diagnostic>)>,
}

impl Notes {
    pub(crate) fn new(name: &str, text: &str) -> Notes {
        let source = Source { name: name.into(), text: text.into(), lines: OnceLock::new() };
        Notes::of_source(&Arc::new(source))
    }

    /// More about a text that was read before.
    pub(crate) fn of_source(source: &Arc<Source>) -> Notes {
        Notes { source: source.clone(), errors: Vec::new(), kinds: HashMap::new() }
    }

    pub(crate) fn source(&self) -> &Arc<Source> {
        &self.source
    }

    pub(crate) fn text(&self) -> &str {
        &self.source.text
    }

    pub(crate) fn error(&mut self, span: Range<usize>, message: impl Into<String>) {
        self.push(Diagnostic::new(&self.source, span, message.into()));
    }

    fn push(&mut self, error: Diagnostic) {
        let (count, beyond) = self.kinds.entry(kind_of(&error.message)).or_default();
        *count += 1;
        if *count <= MOST_OF_A_KIND {
            self.errors.push(error);
        } else if beyond.is_none() {
            *beyond = Some(error);
        }
    }

    /// A place of the text, with something to be said of it later.
    pub(crate) fn at(&self, span: Range<usize>, message: String) -> Diagnostic {
        Diagnostic::new(&self.source, span, message)
    }

    /// What was found wrong with another text that belongs to this one.
    pub(crate) fn add(&mut self, others: Diagnostics) {
        others.0.into_iter().for_each(|other| self.push(other));
    }

    pub(crate) fn has_errors(&self) -> bool {
        !self.errors.is_empty()
    }

    /// All that was noted.
    pub(crate) fn finish(mut self) -> Result<(), Diagnostics> {
        if self.errors.is_empty() {
            return Ok(());
        }
        for (count, beyond) in self.kinds.into_values() {
            let more = count.saturating_sub(MOST_OF_A_KIND);
            self.errors
                .extend(beyond.map(|first| first.with_message(format!("and {more} more of this kind, from here on"))));
        }
        // Those of its own text first, then each other's in order.
        let place = |error: &Diagnostic| (error.file() != self.source.name, error.file().to_owned(), error.span.start);
        self.errors.sort_by_cached_key(place);
        Err(Diagnostics(self.errors))
    }
}

/// What a message says, whatever it says it of: its words without numbers, colours and what is quoted.
fn kind_of(message: &str) -> u64 {
    let mut hasher = DefaultHasher::new();
    let (mut quoted, mut colour) = (false, false);
    for letter in message.chars() {
        quoted ^= letter == '"';
        colour = letter == '#' || (colour && letter.is_ascii_hexdigit());
        if !quoted && !colour && !letter.is_ascii_digit() {
            letter.hash(&mut hasher);
        }
    }
    hasher.finish()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn twenty_of_a_kind_and_then_how_many_more() {
        let text = "x\n".repeat(1000);
        let mut notes = Notes::new("file", &text);
        for line in 0..1000 {
            notes.error(
                2 * line..2 * line + 1,
                format!("row {line} is \"{}\", of #{line:06x}", ["wrong", "bad"][line % 2]),
            );
        }
        notes.error(0..1, "something else is wrong");
        let said: Vec<String> = notes.finish().unwrap_err().iter().map(Diagnostic::to_string).collect();
        assert_eq!(said.len(), 22);
        assert_eq!(said[1], "file:1:1: something else is wrong");
        assert_eq!(said[20], "file:20:1: row 19 is \"bad\", of #000013");
        assert_eq!(said[21], "file:21:1: and 980 more of this kind, from here on");
    }

    #[test]
    fn a_place_in_a_very_long_line_is_shown_with_what_is_around_it() {
        let text = format!("first\n{}ö!{}\nlast", "ä".repeat(5000), "b".repeat(5000));
        let mut notes = Notes::new("file", &text);
        let at = text.find('!').unwrap();
        notes.error(at..at + 1, "here");
        let rendered = notes.finish().unwrap_err().render(false);
        assert!(rendered.starts_with("file:2:5002: here\n"), "{rendered}");
        assert!(rendered.contains("ö!b") && rendered.len() < 1000, "{rendered}");
    }

    #[test]
    fn what_a_terminal_would_obey_is_shown_and_not_sent() {
        let mut notes = Notes::new("a\u{1b}]0;b\nc", "name = \"\u{1b}]0;x\u{7}\u{202e}\"\n");
        notes.error(0..4, "is \"\u{9b}2J\nFAKE passed\"");
        let rendered = notes.finish().unwrap_err().render(false);
        assert!(!rendered.contains(|letter: char| is_harmful(letter) && letter != '\n'), "{rendered:?}");
        assert_eq!(rendered.lines().next().unwrap(), "a\\u{1b}]0;b\\u{a}c:1:1: is \"\\u{9b}2J\\u{a}FAKE passed\"");
    }
}
