//! What is in groups, drawn on a level; and who meets whom, in words.

use std::fmt::Write as _;

use super::frame::Frame;
use super::platforms::area_of;
use super::sheet::{Area, INK, LegendEntry, Sheet, stroke};
use crate::files::Level;
use wumple_core::{Group, Hitbox, Surface, Terrain};

/// Between two strokes of a hatching, px of the page.
const BETWEEN: f64 = 9.0;

/// Hatches everything that is in a group, as much of it as is in the frame.
pub(super) fn draw(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let (grid, grid_lines) = (&level.grid, level.grid.grid_lines());
    let (columns, rows) = frame.tiles_of(grid);
    let of_tiles = level.letters.iter().any(|letter| letter.properties.group != Group::LEVEL);
    if of_tiles && frame.coarseness(grid_lines.spacing()) == 1 {
        for row in rows.0..rows.1 {
            for column in columns.0..columns.1 {
                let tile = grid.tile(column, row);
                let is_something = tile.surface != Surface::Empty || tile.zone.is_some();
                if tile.group != Group::LEVEL && is_something {
                    hatch(sheet, frame, &grid_lines.cell(column, row));
                }
            }
        }
    }
    for place in grouped_boxes(level) {
        hatch(sheet, frame, &place);
    }
}

/// The boxes of what is in groups off the grid, where it is at the start.
fn grouped_boxes(level: &Level) -> Vec<Hitbox> {
    let is_grouped = |group: Group| group != Group::LEVEL;
    let blocks = level.grid.blocks().iter().filter(|of| is_grouped(of.group)).map(|of| of.place());
    let zones = level.grid.zones().iter().filter(|of| is_grouped(of.group) && of.ramp.is_none()).map(|of| of.place);
    let platforms = level.platforms.iter().filter(|of| is_grouped(of.group)).map(|of| Hitbox::at(of.route[0], of.size));
    let props = level.props.iter().filter(|of| is_grouped(of.group)).map(|of| Hitbox::at(of.corner, of.size));
    blocks.chain(zones).chain(platforms).chain(props).collect()
}

fn hatch(sheet: &mut Sheet<'_>, frame: &Frame, place: &Hitbox) {
    if let Some(area) = area_of(frame, place) {
        hatch_area(sheet, &area);
    }
}

/// Thin strokes that fall to the left, at places of the page, so that they go on from one tile to the next.
fn hatch_area(sheet: &mut Sheet<'_>, area: &Area) {
    let (from, to) = (area.left + area.top, area.right + area.bottom);
    let mut sum = (from / BETWEEN).ceil() * BETWEEN;
    while sum < to {
        // Where x + y is this sum, from the upper right to the lower left.
        let (right, left) = ((sum - area.top).min(area.right), (sum - area.bottom).max(area.left));
        sheet.line(&[(right, sum - right), (left, sum - left)], stroke(INK, 0.9).faint(0.55));
        sum += BETWEEN;
    }
}

/// What the legend says of it.
pub(super) fn entry(level: &Level) -> Option<LegendEntry<'static>> {
    let of_tiles = level
        .letters
        .iter()
        .enumerate()
        .any(|(kind, letter)| letter.properties.group != Group::LEVEL && level.grid.has_kind(kind));
    let sample = |sheet: &mut Sheet<'_>, area: &Area| {
        hatch_area(sheet, area);
        sheet.outline(area, stroke(INK, 0.9));
    };
    (of_tiles || !grouped_boxes(level).is_empty())
        .then(|| LegendEntry { words: "in a group", sample: Box::new(sample) })
}

/// Who meets whom, to be added to a caption: `; jars meet level, apprentice`.
pub(super) fn in_words(level: &Level) -> String {
    let mut words = String::new();
    for (group, meets) in level.meetings.rows() {
        let meets: Vec<&str> = meets.iter().map(Group::word).collect();
        let meets = if meets.is_empty() { "nobody".to_owned() } else { meets.join(", ") };
        let _ = write!(words, "; {group} meet {meets}");
    }
    words
}
