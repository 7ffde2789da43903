//! The texts of files that are changed in place, key by key or letter by letter: comments and all else stay.

use toml_edit::{Document, DocumentMut, Item, Value};

use super::edit::{item_at, remove_at, section_at_mut, set_at};

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

    /// Every key that has a value, in the order of the file, as the other calls take them: `"jump.release.style"`. Of sections of one
    /// name the place among them, from 0, comes after the name: `"pose.2.stride"`.
    #[must_use]
    pub fn keys(&self) -> Vec<String> {
        fn add(item: &Item, name: &str, keys: &mut Vec<String>) {
            let within = |key: &str| if name.is_empty() { key.to_owned() } else { format!("{name}.{key}") };
            if let Some(table) = item.as_table_like() {
                table.iter().for_each(|(key, item)| add(item, &within(key), keys));
            } else if let Some(sections) = item.as_array_of_tables() {
                for (place, section) in sections.iter().enumerate() {
                    let name = within(&place.to_string());
                    section.iter().for_each(|(key, item)| add(item, &format!("{name}.{key}"), keys));
                }
            } else if item.is_value() {
                keys.push(name.to_owned());
            }
        }
        let mut keys = Vec::new();
        add(self.document.as_item(), "", &mut keys);
        keys
    }

    /// Writes a value as somebody would type it: a number, `true` or a list as it is, a quantity or a word in quotes. Sections that
    /// are missing are added.
    pub fn set(&mut self, key: &str, words: &str) {
        let plain = words.parse::<Value>().ok().filter(|value| !value.is_str());
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

    /// Puts a key or a section there, as it stood, with the sections it is in if they are missing; or takes it out.
    pub fn put(&mut self, key: &str, part: Option<&TuningPart>) {
        let Some(part) = part else { return self.remove(key) };
        let path = path(key);
        if item_at(&self.document, &path).is_none() {
            set_at(&mut self.document, &path, Value::from(false));
        }
        let Some((last, before)) = path.split_last() else { return };
        if let Some(section) = section_at_mut(&mut self.document, before) {
            section.insert(last, part.0.clone());
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

impl std::fmt::Display for TuningPart {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        self.0.fmt(f)
    }
}

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
