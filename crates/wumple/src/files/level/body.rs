//! Where a thing of a level is, how large, and what of it a body meets.

use wumple_core::DVec2;
use wumple_core::numbers::LIMIT_LENGTH;

use crate::files::diagnostic::Notes;
use crate::files::reader::Section;
use crate::units::Kind;

/// What of it a body meets.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Body {
    /// Nothing: it is only a place.
    None,
    /// It can be stood on, so that what is upon it or beside it touches it.
    Top,
    /// The same from all sides: nothing can be inside of it.
    Solid,
}

/// Lengths are whole numbers of these, px.
const SMALLEST: f64 = 1.0 / 1024.0;

/// `size`, above 0.
pub(super) fn read_size(notes: &mut Notes, section: &Section<'_>) -> DVec2 {
    let (width, height) = section.needed_pair(notes, "size", Kind::Length);
    if width < SMALLEST || height < SMALLEST {
        let message = format!(
            "{} is {width} x {height} px; both must be above 0, and at least {SMALLEST} px",
            section.name_of("size")
        );
        notes.error(section.place_of("size"), message);
    }
    DVec2::new(width, height)
}

/// Says so if a box with a corner here is beyond where coordinates end.
pub(super) fn check_place(notes: &mut Notes, section: &Section<'_>, key: &str, corner: DVec2, size: DVec2) {
    let end = corner + size;
    if [corner.x, corner.y, end.x, end.y].into_iter().any(|place| place.abs() > LIMIT_LENGTH) {
        let message = format!("{} is beyond where coordinates end, {LIMIT_LENGTH} px", section.name_of(key));
        notes.error(section.place_of(key), message);
    }
}

pub(super) fn read_corner(notes: &mut Notes, section: &Section<'_>, size: DVec2) -> DVec2 {
    let (left, top) = section.needed_pair(notes, "at", Kind::Length);
    let corner = DVec2::new(left, top);
    check_place(notes, section, "at", corner, size);
    corner
}
