//! `[camera]`: what of the level is seen.

use wumple_core::DVec2;
use wumple_core::camera::{CameraNumbers, Follow};

use crate::files::diagnostic::Notes;
use crate::files::reader::Section;
use crate::units::Kind;

/// The camera of a level, if it has one; that its numbers are within bounds is seen to here.
pub(super) fn read_camera(notes: &mut Notes, top: &Section<'_>) -> Option<CameraNumbers> {
    let section = top.section(notes, "camera")?;
    section.knows(notes, &["view", "follow", "still", "ahead", "ahead_over", "limits", "behind", "scale"]);
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
    if let Some(within) = section.word(notes, "limits", &[("level", true), ("none", false)]) {
        numbers.within_level = within;
    }
    if let Some(deadly) = section.word(notes, "behind", &[("open", false), ("deadly", true)]) {
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
