//! Changing numbers of a tuning file: comments, order and all other keys stay as they are.

use toml_edit::{DocumentMut, InlineTable, Item, Table, TableLike, Value};

/// A value to be written: its place in the file, `["jump", "height"]`, and itself. Of sections of one name the place among them,
/// from 0, comes after the name: `["pose", "2", "stride"]`.
pub(crate) struct Change {
    pub(crate) path: Vec<String>,
    pub(crate) value: Value,
}

impl Change {
    pub(crate) fn new(path: &[&str], value: impl Into<Value>) -> Change {
        Change { path: path.iter().map(|key| (*key).to_owned()).collect(), value: value.into() }
    }
}

/// The text with these values changed or added, and these keys taken out.
///
/// The text must be TOML; it is given back as it is where it is not.
pub(crate) fn changed(text: &str, changes: &[Change], removed: &[&[&str]]) -> String {
    let Ok(mut document) = text.parse::<DocumentMut>() else { return text.to_owned() };
    for path in removed {
        remove(document.as_table_mut(), path);
    }
    for change in changes {
        let path: Vec<&str> = change.path.iter().map(String::as_str).collect();
        set(document.as_table_mut(), true, &path, change.value.clone());
    }
    document.to_string()
}

/// Writes one value.
pub(crate) fn set_at(document: &mut DocumentMut, path: &[&str], value: Value) {
    set(document.as_table_mut(), true, path, value);
}

/// Takes one key out.
pub(crate) fn remove_at(document: &mut DocumentMut, path: &[&str]) {
    remove(document.as_table_mut(), path);
}

fn remove(table: &mut dyn TableLike, path: &[&str]) {
    let Some((key, before)) = path.split_last() else { return };
    if let Some(inner) = within(table, before) {
        inner.remove(key);
    }
}

/// The section at a path of keys, however it is written.
pub(crate) fn section_at_mut<'d>(document: &'d mut DocumentMut, path: &[&str]) -> Option<&'d mut dyn TableLike> {
    within(document.as_table_mut(), path)
}

/// The section at a path of keys within another.
fn within<'t>(table: &'t mut dyn TableLike, path: &[&str]) -> Option<&'t mut dyn TableLike> {
    match path {
        [] => Some(table),
        [key, rest @ ..] => {
            let item = table.get_mut(key)?;
            if item.is_array_of_tables() {
                let section = item.as_array_of_tables_mut()?.get_mut(rest.first()?.parse().ok()?)?;
                return within(section, &rest[1..]);
            }
            within(item.as_table_like_mut()?, rest)
        }
    }
}

/// What stands at a path of keys, however it is written: in sections, dotted or inline.
pub(crate) fn item_at<'d>(document: &'d DocumentMut, path: &[&str]) -> Option<&'d Item> {
    at_path(document.as_item(), path)
}

/// The same within an item.
pub(crate) fn at_path<'d>(item: &'d Item, path: &[&str]) -> Option<&'d Item> {
    path.iter().try_fold(item, |item, key| match key.parse::<usize>() {
        Ok(place) if item.is_array_of_tables() => item.get(place),
        _ => item.get(key),
    })
}

fn set(table: &mut dyn TableLike, is_top: bool, path: &[&str], value: Value) {
    let [key, rest @ ..] = path else { return };
    if rest.is_empty() {
        return set_value(table, key, value);
    }
    if let Some(sections) = table.get_mut(key).and_then(Item::as_array_of_tables_mut) {
        let section = rest[0].parse().ok().and_then(|place| sections.get_mut(place));
        return section.map_or((), |section| set(section, false, &rest[1..], value));
    }
    if table.get(key).is_none_or(|item| !item.is_table_like()) {
        // A section of the file; what is within one is written on its line.
        let new = if is_top { Item::Table(Table::new()) } else { Item::Value(InlineTable::new().into()) };
        table.insert(key, new);
    }
    if let Some(inner) = table.get_mut(key).and_then(Item::as_table_like_mut) {
        set(inner, false, rest, value);
    }
}

/// Puts a value in the place of another, keeping what stands around it.
fn set_value(table: &mut dyn TableLike, key: &str, mut value: Value) {
    match table.get_mut(key) {
        Some(item) => {
            if let Some(old) = item.as_value() {
                *value.decor_mut() = old.decor().clone();
                keep_column(old, &mut value);
            }
            *item = Item::Value(value);
        }
        None => {
            table.insert(key, Item::Value(value));
        }
    }
}

/// A comment after a value stays in its column, if there is room.
fn keep_column(old: &Value, new: &mut Value) {
    let Some(suffix) = old.decor().suffix().and_then(|suffix| suffix.as_str()) else { return };
    let comment = suffix.trim_start();
    if !comment.starts_with('#') {
        return;
    }
    let bare = |value: &Value| value.clone().decorated("", "").to_string().chars().count();
    let column = bare(old) + (suffix.len() - comment.len());
    let spaces = column.saturating_sub(bare(new)).max(1);
    let suffix = format!("{}{comment}", " ".repeat(spaces));
    new.decor_mut().set_suffix(suffix);
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_the_numbers_change() {
        let text = "# Dab\n[body]\nwidth = \"10 px\"   # narrow\n\n[jump]\nheight = 3 # up\nrelease = { style = \"cut\", keep = 0.4 } # short\n";
        let changes = [
            Change::new(&["jump", "height"], "4 tiles"),
            Change::new(&["jump", "release", "keep"], 0.5),
            Change::new(&["run", "top_speed"], 120.0),
        ];
        assert_eq!(
            changed(text, &changes, &[&["body", "height"]]),
            "# Dab\n[body]\nwidth = \"10 px\"   # narrow\n\n[jump]\nheight = \"4 tiles\" # up\nrelease = { style = \"cut\", keep = 0.5 } # short\n\n[run]\ntop_speed = 120.0\n"
        );
        let rows = "[[pose]]\nname = \"a\"\n[[pose]]\nstride = 6 # px\n";
        let stride = Change::new(&["pose", "1", "stride"], 12.0);
        assert_eq!(changed(rows, &[stride], &[]), "[[pose]]\nname = \"a\"\n[[pose]]\nstride = 12.0 # px\n");
        assert_eq!(changed(rows, &[], &[&["pose", "1", "stride"]]), "[[pose]]\nname = \"a\"\n[[pose]]\n");
        assert_eq!(changed(text, &[], &[&["jump", "release"]]).matches("release").count(), 0);
        assert_eq!(changed(text, &[], &[]), text);
    }
}
