//! The texts of files that are changed in place, key by key or letter by letter: comments and all else stay.

use toml_edit::{Document, DocumentMut, Item, Value};

use super::edit::{item_at, remove_at, set_at};

/// The text of a tuning file, to be changed key by key. Whether it is right then, [`TuningFile::parse`](super::TuningFile::parse)
/// says.
///
/// ```
/// use wumple::files::TuningText;
///
/// let mut text = TuningText::new("[jump]\nheight = \"3 tiles\"  # up\n").ok_or("it is TOML")?;
/// assert_eq!(text.written("jump.height").as_deref(), Some("3 tiles"));
/// text.set("jump.height", "3.5 tiles");
/// text.set("jump.air_jumps", "1");
/// assert_eq!(text.to_string(), "[jump]\nheight = \"3.5 tiles\" # up\nair_jumps = 1\n");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[derive(Clone, Debug)]
pub struct TuningText {
    document: DocumentMut,
}

impl TuningText {
    /// None if the text is no TOML.
    #[must_use]
    pub fn new(text: &str) -> Option<TuningText> {
        Some(TuningText { document: text.parse().ok()? })
    }

    /// What is written for a key, without quotes; none if nothing is, or a section.
    #[must_use]
    pub fn written(&self, key: &str) -> Option<String> {
        let value = item_at(&self.document, &path(key))?.as_value()?;
        Some(match value {
            Value::String(text) => text.value().clone(),
            Value::InlineTable(_) => return None,
            other => other.clone().decorated("", "").to_string(),
        })
    }

    /// Whether a section, or a key, is there.
    #[must_use]
    pub fn has(&self, key: &str) -> bool {
        item_at(&self.document, &path(key)).is_some()
    }

    /// Writes a value as somebody would type it: a number or `true` as it is, a quantity or a word in quotes. Sections that are
    /// missing are added.
    pub fn set(&mut self, key: &str, words: &str) {
        let plain = words.parse::<Value>().ok().filter(|value| !value.is_str() && !value.is_array());
        let value = plain.unwrap_or_else(|| Value::from(words));
        set_at(&mut self.document, &path(key), value);
    }

    /// Takes a key, or a whole section, out.
    pub fn remove(&mut self, key: &str) {
        remove_at(&mut self.document, &path(key));
    }

    /// A key or a section as it stands there, to be put [back](TuningText::put).
    #[must_use]
    pub fn part(&self, key: &str) -> Option<TuningPart> {
        item_at(&self.document, &path(key)).cloned().map(TuningPart)
    }

    /// Puts a key or a section there, as it stood; or takes it out.
    pub fn put(&mut self, key: &str, part: Option<&TuningPart>) {
        let path = path(key);
        match (part, path.split_last()) {
            (Some(part), Some((last, before))) => {
                let parent = before.iter().try_fold(self.document.as_item_mut(), |item, key| item.get_mut(key));
                if let Some(table) = parent.and_then(Item::as_table_like_mut) {
                    table.insert(last, part.0.clone());
                }
            }
            _ => self.remove(key),
        }
    }
}

impl std::fmt::Display for TuningText {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.document.fmt(f)
    }
}

/// A key or a section of a [`TuningText`].
#[derive(Clone, Debug)]
pub struct TuningPart(Item);

fn path(key: &str) -> Vec<&str> {
    key.split('.').collect()
}

/// The text of a level file with another letter in one tile of its `rows`; all else stays as it is. None if the map is not in the
/// file, is not written in lines between `'''`, or has no such tile.
///
/// ```
/// let text = "[map]\nrows = '''\n@..\n###\n'''\n";
/// let painted = wumple::files::with_letter(text, 2, 0, 'H').ok_or("it has that tile")?;
/// assert_eq!(painted, "[map]\nrows = '''\n@.H\n###\n'''\n");
/// # Ok::<(), Box<dyn std::error::Error>>(())
/// ```
#[must_use]
pub fn with_letter(text: &str, column: usize, row: usize, letter: char) -> Option<String> {
    let document = Document::parse(text).ok()?;
    let span = document.get("map")?.get("rows")?.span()?;
    // In other strings a backslash would be no letter of the map.
    let inside = text[span.clone()].strip_prefix("'''")?;
    let (first, inside) = match inside.strip_prefix("\r\n").or_else(|| inside.strip_prefix('\n')) {
        Some(rest) => (span.start + 3 + inside.len() - rest.len(), rest),
        None => (span.start + 3, inside),
    };
    let line = inside.strip_suffix("'''")?.split('\n').nth(row)?;
    let (offset, old) = line.trim_end_matches('\r').char_indices().nth(column)?;
    let at = first + (line.as_ptr() as usize - inside.as_ptr() as usize) + offset;
    let mut painted = text.to_owned();
    painted.replace_range(at..at + old.len_utf8(), letter.encode_utf8(&mut [0; 4]));
    Some(painted)
}
