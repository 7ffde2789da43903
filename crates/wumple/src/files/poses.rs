//! `[[pose]]`: which picture is shown when.

use wumple_core::{Facing, State};

use super::diagnostic::Notes;
use super::fields::{Field, Value};
use super::reader::{Section, listed, nearest};
use crate::names::is_id;
use crate::poses::{Advance, Pose, PoseWhen};
use crate::units::Kind;

/// No clip has more pictures.
const MOST_PICTURES: u32 = 1000;

/// The keys of a `[[pose]]`.
pub(super) const POSE: [Field; 5] = [
    Field::new("name", Value::ID, "which clip the game shows").needed(),
    Field::new("when", Value::Section(&[&WHEN]), "all of this must be so; always unless given"),
    Field::new("pictures", Value::Whole(1, MOST_PICTURES), "how many it has; 1 unless given"),
    Field::new("pace", Value::NUMBER, "pictures a second"),
    Field::new("stride", Value::LENGTH, "the way gone for a picture; instead of a pace"),
];
const WHEN: [Field; 7] = [
    Field::new("state", Value::ManyWords(|| State::ALL.map(State::name).into()), "the state, or one of several"),
    Field::new("facing", Value::ManyWords(|| Facing::ALL.map(Facing::name).into()), "where it faces"),
    Field::new("support", Value::Switch, "whether something is stood on"),
    Field::new("moved", Value::Switch, "whether it moved in this tick"),
    Field::new("rising", Value::Switch, "whether it goes up"),
    Field::new("hurt", Value::Switch, "whether it was hurt and is spared"),
    Field::new("defeated", Value::Switch, "whether a defeat is shown"),
];

/// The poses of a tuning, in the order in which they are looked at.
pub(super) fn read_poses(notes: &mut Notes, top: &Section<'_>) -> Vec<Pose> {
    let sections = top.sections(notes, "pose");
    let mut poses: Vec<Pose> = Vec::new();
    for section in sections {
        let pose = read_pose(notes, &section);
        if poses.iter().any(|other| other.name == pose.name && !pose.name.is_empty()) {
            notes.error(section.place_of("name"), format!("{} is another pose's too", section.name_of("name")));
        }
        poses.push(pose);
    }
    poses
}

fn read_pose(notes: &mut Notes, section: &Section<'_>) -> Pose {
    section.knows(notes, &[&POSE]);
    let name = section.text(notes, "name", "run").unwrap_or_default();
    if !is_id(name) {
        let place = if section.has("name") { section.place_of("name") } else { section.span() };
        let what = section.name_of("name");
        notes.error(place, format!("{what} is needed, of letters, digits, \"-\" and \"_\": \"run\" or \"wall-slide\""));
    }
    let pictures = if section.has("pictures") { section.count(notes, "pictures", MOST_PICTURES) } else { 1 };
    if pictures == 0 {
        notes.error(section.place_of("pictures"), format!("{} must be at least 1", section.name_of("pictures")));
    }
    let when = section.section(notes, "when").map_or_else(PoseWhen::default, |when| read_when(notes, &when));
    Pose { name: name.to_owned(), when, pictures, advance: read_advance(notes, section, pictures) }
}

/// By the second, or by the way; one of them where there are several pictures.
fn read_advance(notes: &mut Notes, section: &Section<'_>, pictures: u32) -> Advance {
    let mut above_zero = |key: &str, kind| {
        let found = section.quantity(notes, key, kind)?;
        if found <= 0.0 {
            notes.error(section.place_of(key), format!("{} must be above 0", section.name_of(key)));
        }
        Some(found)
    };
    let (pace, stride) = (above_zero("pace", Kind::Number), above_zero("stride", Kind::Length));
    match (pace, stride) {
        (Some(_), Some(_)) => {
            let message = format!("{} is given beside pace; remove one of them", section.name_of("stride"));
            notes.error(section.place_of("stride"), message);
            Advance::Still
        }
        (Some(pace), None) => Advance::Pace(pace),
        (None, Some(stride)) => Advance::Stride(stride),
        (None, None) => {
            if pictures > 1 && !section.has("pace") && !section.has("stride") {
                let message = format!(
                    "{} is {pictures}, but nothing says when the next is shown; give pace (pictures a second) or stride (px gone for a \
                     picture)",
                    section.name_of("pictures")
                );
                notes.error(section.place_of("pictures"), message);
            }
            Advance::Still
        }
    }
}

fn read_when(notes: &mut Notes, section: &Section<'_>) -> PoseWhen {
    section.knows(notes, &[&WHEN]);
    let mut asked = |key: &str| section.has(key).then(|| section.switch(notes, key));
    let (support, moved, rising) = (asked("support"), asked("moved"), asked("rising"));
    let (hurt, defeated) = (asked("hurt"), asked("defeated"));
    let states = read_words(notes, section, "state", &State::ALL.map(|state| (state.name(), state)));
    let facings = read_words(notes, section, "facing", &Facing::ALL.map(|facing| (facing.name(), facing)));
    PoseWhen { states, facings, support, moved, rising, hurt, defeated }
}

/// `state = "rise"`, or a list.
fn read_words<W: Copy>(notes: &mut Notes, section: &Section<'_>, key: &str, known: &[(&'static str, W)]) -> Vec<W> {
    let all = || known.iter().map(|(word, _)| *word);
    if !section.has(key) {
        return Vec::new();
    }
    let words: Vec<&str> = section.peek_text(key).map_or_else(|| section.peek_texts(key), |word| vec![word]);
    if words.is_empty() {
        let message = format!("{} needs a word or a list of them: {}", section.name_of(key), listed(all()));
        notes.error(section.place_of(key), message);
    }
    let meant = |word: &&str| {
        let found = known.iter().find(|(other, _)| other == word);
        if found.is_none() {
            let remedy = match nearest(word, all()) {
                Some(near) => format!("did you mean \"{near}\"?"),
                None => format!("it must be one of {}", listed(all())),
            };
            notes.error(section.place_of(key), format!("{} is \"{word}\"; {remedy}", section.name_of(key)));
        }
        found.map(|(_, meant)| *meant)
    };
    words.iter().filter_map(meant).collect()
}
