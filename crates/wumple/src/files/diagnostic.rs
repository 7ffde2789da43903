use std::fmt;
use std::ops::Range;
use std::sync::Arc;

use annotate_snippets::{AnnotationKind, Group, Level, Renderer, Snippet};

/// A text with the name that messages give it: a file's path, or `--press`.
#[derive(Debug, PartialEq, Eq)]
pub(crate) struct Source {
    pub(crate) name: String,
    pub(crate) text: String,
}

/// Something wrong, or worth a warning, at one place of a text.
///
/// Displayed as one line, `FILE:LINE:COLUMN: MESSAGE`; [`Diagnostic::render`] adds the text with the
/// place underlined.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Diagnostic {
    source: Arc<Source>,
    span: Range<usize>,
    message: String,
}

impl Diagnostic {
    pub(crate) fn new(source: &Arc<Source>, span: Range<usize>, message: String) -> Diagnostic {
        let end = span.end.min(source.text.len());
        Diagnostic { source: source.clone(), span: span.start.min(end)..end, message }
    }

    /// The same place with another message.
    pub(crate) fn with_message(&self, message: String) -> Diagnostic {
        Diagnostic { message, ..self.clone() }
    }

    /// What is wrong and what would be right, without the place.
    pub fn message(&self) -> &str {
        &self.message
    }

    /// The file's name as it was given.
    pub fn file(&self) -> &str {
        &self.source.name
    }

    /// The line, from 1.
    pub fn line(&self) -> usize {
        self.source.text[..self.span.start].matches('\n').count() + 1
    }

    /// The column in characters, from 1.
    pub fn column(&self) -> usize {
        let start = self.source.text[..self.span.start].rfind('\n').map_or(0, |at| at + 1);
        self.source.text[start..self.span.start].chars().count() + 1
    }

    /// The one-line form, and beneath it the line of the file with the place underlined; with colour if
    /// asked.
    pub fn render(&self, colour: bool) -> String {
        if self.source.text.is_empty() {
            return self.to_string();
        }
        let renderer = if colour { Renderer::styled() } else { Renderer::plain() };
        let snippet = Snippet::source(&self.source.text).annotation(AnnotationKind::Primary.span(self.underlined()));
        let group = [Group::with_level(Level::ERROR).element(snippet)];
        format!("{self}\n{}", renderer.render(&group))
    }

    /// The part of the span on its first line: a long section is not underlined whole.
    fn underlined(&self) -> Range<usize> {
        let text = &self.source.text[self.span.clone()];
        let length = text.find('\n').unwrap_or(text.len());
        self.span.start..self.span.start + length
    }
}

impl fmt::Display for Diagnostic {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{}:{}:{}: {}", self.source.name, self.line(), self.column(), self.message)
    }
}

impl std::error::Error for Diagnostic {}

/// All that is wrong with a text, in the order of the places. At least one.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Diagnostics(Vec<Diagnostic>);

impl Diagnostics {
    /// One by one.
    pub fn iter(&self) -> std::slice::Iter<'_, Diagnostic> {
        self.0.iter()
    }

    /// All of them as [`Diagnostic::render`] shows them.
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

impl std::error::Error for Diagnostics {}

/// Where a reader notes what it finds wrong; it reads on, so that several things are said at once.
#[derive(Debug)]
pub(crate) struct Notes {
    source: Arc<Source>,
    errors: Vec<Diagnostic>,
}

impl Notes {
    pub(crate) fn new(name: &str, text: &str) -> Notes {
        let source = Arc::new(Source { name: name.into(), text: text.into() });
        Notes { source, errors: Vec::new() }
    }

    pub(crate) fn source(&self) -> &Arc<Source> {
        &self.source
    }

    pub(crate) fn text(&self) -> &str {
        &self.source.text
    }

    pub(crate) fn error(&mut self, span: Range<usize>, message: impl Into<String>) {
        self.errors.push(Diagnostic::new(&self.source, span, message.into()));
    }

    /// A place of the text, with something to be said of it later.
    pub(crate) fn at(&self, span: Range<usize>, message: String) -> Diagnostic {
        Diagnostic::new(&self.source, span, message)
    }

    /// What was found wrong with another text that belongs to this one.
    pub(crate) fn add(&mut self, others: Diagnostics) {
        self.errors.extend(others.0);
    }

    pub(crate) fn has_errors(&self) -> bool {
        !self.errors.is_empty()
    }

    /// All that was noted.
    pub(crate) fn finish(mut self) -> Result<(), Diagnostics> {
        if self.errors.is_empty() {
            return Ok(());
        }
        // Those of its own text first, then each other's in order.
        let place = |error: &Diagnostic| (error.file() != self.source.name, error.file().to_owned(), error.span.start);
        self.errors.sort_by_cached_key(place);
        Err(Diagnostics(self.errors))
    }
}
