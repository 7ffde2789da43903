//! Who meets whom in a level: `[meets]`, and the groups that its things are in.

use std::ops::Range;

use wumple_core::{Group, MeetingError, Meetings, Tuning};

use crate::files::diagnostic::Notes;
use crate::files::group::{GROUP, group_of, read_groups};
use crate::files::reader::{Section, nearest};

/// The arrays of tables whose things can be in groups.
const THINGS: [&str; 5] = ["block", "ramp", "platform", "prop", "zone"];
/// The keys of a platform that name groups.
const RIDERS: [&str; 2] = ["starts_for", "crumbles_for"];

/// `[meets]`, and where it stands in the file.
pub(super) fn read_meetings(notes: &mut Notes, top: &Section<'_>) -> (Meetings, Range<usize>) {
    let Some(section) = top.section(notes, "meets") else { return (Meetings::default(), 0..0) };
    let mut rows: Vec<(Group, Vec<Group>)> = Vec::new();
    for key in section.keys() {
        let group = group_of(notes, key, "a key of [meets]", section.place_of(key));
        if let Some(meets) = read_groups(notes, &section, key) {
            rows.push((group, meets));
        }
    }
    if notes.has_errors() {
        return (Meetings::default(), section.span());
    }
    let borrowed: Vec<(Group, &[Group])> = rows.iter().map(|(group, meets)| (*group, meets.as_slice())).collect();
    let meetings = Meetings::new(&borrowed).unwrap_or_else(|error| {
        let (key, remedy) = match error {
            MeetingError::OneSided { group, other } => {
                (group.word().to_owned(), format!(": add \"{group}\" to {other}, or take \"{other}\" from {group}"))
            }
            MeetingError::Twice { group } => (group.word().to_owned(), String::new()),
            _ => (Group::LEVEL.word().to_owned(), String::new()),
        };
        notes.error(section.place_of(&key), format!("[meets]: {error}{remedy}"));
        Meetings::default()
    });
    note_unknown(notes, top, &section, &meetings);
    (meetings, section.span())
}

/// Says which words are no group of this level.
fn note_unknown(notes: &mut Notes, top: &Section<'_>, meets: &Section<'_>, meetings: &Meetings) {
    let mut things: Vec<Section<'_>> = THINGS.iter().flat_map(|kind| top.sections(notes, kind)).collect();
    if let Some(letters) = top.section(notes, "letters") {
        things.extend(letters.keys().filter_map(|key| letters.section(notes, key)));
    }
    let known: Vec<Group> = meetings.groups().chain([Group::LEVEL]).collect();
    let mut unknown = |word: &str, what: String, place: Range<usize>| {
        if known.iter().any(|group| group.word() == word) || Group::new(word).is_none() {
            return;
        }
        notes.error(place, said_nothing_of(&what, word, &known));
    };
    for thing in &things {
        if let Some(word) = thing.peek_text(GROUP) {
            unknown(word, thing.name_of(GROUP), thing.place_of(GROUP));
        }
        for key in RIDERS {
            let words = thing.peek_texts(key);
            words.iter().for_each(|word| unknown(word, thing.name_of(key), thing.place_of(key)));
        }
    }
    // A word that only stands in a list is the group of a tuning, or a slip.
    let keys: Vec<&str> = meets.keys().collect();
    let used: Vec<&str> = things.iter().filter_map(|thing| thing.peek_text(GROUP)).collect();
    let here = || keys.iter().chain(&used).copied().chain([Group::LEVEL.word()]);
    for key in &keys {
        for word in meets.peek_texts(key) {
            if here().all(|known| known != word)
                && let Some(near) = nearest(word, here())
            {
                let message =
                    format!("[meets] {key} has \"{word}\", which nothing here is in; did you mean \"{near}\"?");
                notes.error(meets.place_of(key), message);
            }
        }
    }
}

fn said_nothing_of(what: &str, word: &str, known: &[Group]) -> String {
    let remedy = match nearest(word, known.iter().map(Group::word)) {
        Some(near) => format!("did you mean \"{near}\"?"),
        None => format!("say there whom it meets, as in {word} = [\"level\"]"),
    };
    format!("{what} is \"{word}\", of which [meets] says nothing; {remedy}")
}

/// Whether what is in a group falls for ever.
pub(super) fn falls_for_ever(meetings: &Meetings, grounds: &[Group], group: Group) -> bool {
    !meetings.is_empty() && !grounds.iter().any(|ground| meetings.meet(group, *ground))
}

/// What is wrong with a group that meets no ground.
pub(super) fn no_ground(group: Group) -> String {
    format!("the group \"{group}\" meets no ground here: it would fall for ever; add \"level\" to {group} in [meets]")
}

/// Why a character of this tuning makes no sense in a level, if it does not.
pub(super) fn wrong_group(meetings: &Meetings, grounds: &[Group], tuning: &Tuning) -> Option<String> {
    let group = tuning.group();
    if meetings.is_empty() || group == Group::LEVEL {
        return None;
    }
    if !meetings.groups().any(|known| known == group) {
        let known: Vec<Group> = meetings.groups().collect();
        return Some(said_nothing_of("the tuning's group", group.word(), &known));
    }
    falls_for_ever(meetings, grounds, group).then(|| no_ground(group))
}
