//! Changing numbers of a tuning file: comments, order and all other keys stay as they are.

use toml_edit::{DocumentMut, InlineTable, Item, Table, Value};

/// A value to be written: its place in the file, `["jump", "height"]`, and itself.
pub(crate) struct Change {
    pub(crate) path: Vec<&'static str>,
    pub(crate) value: Value,
}

impl Change {
    pub(crate) fn new(path: &[&'static str], value: impl Into<Value>) -> Change {
        Change { path: path.to_vec(), value: value.into() }
    }
}

/// The text with these values changed or added, and these keys taken out.
///
/// The text must be TOML; it is given back as it is where it is not.
pub(crate) fn changed(text: &str, changes: &[Change], removed: &[&[&str]]) -> String {
    let Ok(mut document) = text.parse::<DocumentMut>() else { return text.to_owned() };
    for path in removed {
        remove(document.as_item_mut(), path);
    }
    for change in changes {
        set(document.as_table_mut(), &change.path, change.value.clone());
    }
    document.to_string()
}

fn remove(item: &mut Item, path: &[&str]) {
    match path {
        [key] => {
            if let Some(table) = item.as_table_like_mut() {
                table.remove(key);
            }
        }
        [key, rest @ ..] => {
            if let Some(inner) = item.get_mut(key) {
                remove(inner, rest);
            }
        }
        [] => {}
    }
}

fn set(table: &mut Table, path: &[&str], value: Value) {
    match path {
        [key] => set_value(table.entry(key).or_insert(Item::None), value),
        [section, key] => match table.entry(section).or_insert(Item::Table(Table::new())) {
            Item::Table(inner) => set(inner, &[key], value),
            other => set_inline(other, key, value),
        },
        [section, key, rest @ ..] => {
            let inner = table.entry(section).or_insert(Item::Table(Table::new()));
            if let Some(inner) = inner.as_table_mut() {
                let item = inner.entry(key).or_insert(Item::Value(Value::InlineTable(InlineTable::new())));
                match item {
                    Item::Table(deeper) => set(deeper, rest, value),
                    other => set_inline(other, rest[0], value),
                }
            }
        }
        [] => {}
    }
}

/// Puts a value in the place of another, keeping what stands around it.
fn set_value(item: &mut Item, mut value: Value) {
    if let Some(old) = item.as_value() {
        *value.decor_mut() = old.decor().clone();
    }
    *item = Item::Value(value);
}

fn set_inline(item: &mut Item, key: &str, value: Value) {
    let Some(table) = item.as_inline_table_mut() else { return };
    match table.get_mut(key) {
        Some(old) => {
            let decor = old.decor().clone();
            *old = value;
            *old.decor_mut() = decor;
        }
        None => {
            table.insert(key, value);
        }
    }
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
        assert_eq!(changed(text, &[], &[&["jump", "release"]]).matches("release").count(), 0);
        assert_eq!(changed(text, &[], &[]), text);
    }
}
