//! `[camera]`: what of the level is seen.

use wumple_core::DVec2;
use wumple_core::camera::{CameraNumbers, Follow};

use crate::files::diagnostic::Notes;
use crate::files::fields::{Field, Value, words_of};
use crate::files::reader::Section;
use crate::units::Kind;

/// The keys of `[camera]`.
pub(super) const CAMERA: [Field; 8] = [
    Field::new("view", Value::Pair(Kind::Length), "what is seen, px of the level").needed(),
    Field::new("follow", Value::Words(|| words_of(&Follow::NAMES)), "both ways, along one, or never back"),
    Field::new(
        "still",
        Value::Pair(Kind::Length),
        "a box in the middle; while the hitbox's middle is in it, nothing moves",
    ),
    Field::new("ahead", Value::LENGTH, "how far it looks ahead where the character faces"),
    Field::new("ahead_over", Value::TIME, "how long it takes to that"),
    Field::new("limits", Value::Words(|| words_of(&LIMITS)), "within the level, or not"),
    Field::new("behind", Value::Words(|| words_of(&BEHIND)), "whether it ends the run of who is wholly behind it"),
    Field::new("scale", Value::NUMBER, "px of the screen for one px of the level"),
];
const LIMITS: [(&str, bool); 2] = [("level", true), ("none", false)];
const BEHIND: [(&str, bool); 2] = [("open", false), ("deadly", true)];

/// The camera of a level, if it has one; that its numbers are within bounds is seen to here.
pub(super) fn read_camera(notes: &mut Notes, top: &Section<'_>) -> Option<CameraNumbers> {
    let section = top.section(notes, "camera")?;
    section.knows(notes, &[&CAMERA]);
    let pair = |(x, y): (f64, f64)| DVec2::new(x, y);
    let view = pair(section.needed_pair(notes, "view", Kind::Length));
    let mut numbers = CameraNumbers::new(view);
    if let Some(follow) = section.word(notes, "follow", &Follow::NAMES) {
        numbers.follow = follow;
    }
    if section.has("still") {
        numbers.still = section.pair(notes, "still", Kind::Length).map_or(DVec2::ZERO, pair);
    }
    numbers.ahead = section.quantity(notes, "ahead", Kind::Length).unwrap_or(numbers.ahead);
    numbers.ahead_over = section.quantity(notes, "ahead_over", Kind::Time).unwrap_or(numbers.ahead_over);
    numbers.scale = section.quantity(notes, "scale", Kind::Number).unwrap_or(numbers.scale);
    if let Some(within) = section.word(notes, "limits", &LIMITS) {
        numbers.within_level = within;
    }
    if let Some(deadly) = section.word(notes, "behind", &BEHIND) {
        numbers.deadly_behind = deadly;
    }
    if notes.has_errors() {
        return None;
    }
    if let Err(error) = numbers.check() {
        notes.error(section.span(), format!("[camera]: {error}"));
        return None;
    }
    Some(numbers)
}
