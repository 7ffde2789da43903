//! The group that something is in, as files say it.

use std::ops::Range;

use wumple_core::Group;

use super::diagnostic::Notes;
use super::fields::{Field, Value};
use super::reader::Section;

/// The key of the group that something is in.
pub(crate) const GROUP: &str = "group";
/// The same as a table.
pub(crate) const OF_GROUP: [Field; 1] = [Field::new(GROUP, Value::WORD, "the group that it is in")];

/// The group that a section says.
pub(crate) fn read_group(notes: &mut Notes, section: &Section<'_>) -> Group {
    let Some(word) = section.text(notes, GROUP, "jars") else { return Group::LEVEL };
    group_of(notes, word, &section.name_of(GROUP), section.place_of(GROUP))
}

pub(crate) fn group_of(notes: &mut Notes, word: &str, what: &str, place: Range<usize>) -> Group {
    Group::new(word).unwrap_or_else(|| {
        let message =
            format!("{what} is \"{word}\"; a group is a word of up to 16 letters a to z, digits, \"-\" and \"_\"");
        notes.error(place, message);
        Group::LEVEL
    })
}

/// Groups by their names: `["level", "jars"]`.
pub(crate) fn read_groups(notes: &mut Notes, section: &Section<'_>, key: &str) -> Option<Vec<Group>> {
    let value = section.value(notes, key)?;
    let (what, place) = (section.name_of(key), section.place_of(key));
    let words: Option<Vec<&str>> = value.as_array().and_then(|all| all.iter().map(|word| word.as_str()).collect());
    let Some(words) = words else {
        notes.error(place, format!("{what} needs groups, such as [\"level\", \"jars\"]"));
        return None;
    };
    Some(words.into_iter().map(|word| group_of(notes, word, &what, place.clone())).collect())
}
