//! How gates are drawn: bars where something is that goes away once it has what it needs.

use wumple_core::{Hitbox, Terrain, ZoneKind, ZoneOf};

use super::frame::Frame;
use super::platforms::area_of;
use super::sheet::{Area, INK, PAPER, Sheet, stroke};
use crate::files::Level;

/// Bars over an area.
pub(super) fn draw_bars(sheet: &mut Sheet<'_>, area: &Area) {
    sheet.fill_area(area, PAPER, 0.8);
    let bars = (area.width() / 6.0).round().max(2.0);
    for bar in 0..bars as u32 {
        let x = area.left + area.width() * (f64::from(bar) + 0.5) / bars;
        sheet.line(&[(x, area.top), (x, area.bottom)], stroke(INK, 1.6));
    }
    sheet.outline(area, stroke(INK, 1.6));
}

/// Every gate that a frame shows.
pub(super) fn draw(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let Some(round) = &level.round else { return };
    let (grid, lines) = (&level.grid, level.grid.grid_lines());
    for gate in round.rules.gates() {
        let place: Option<Hitbox> = match gate.of {
            ZoneOf::Block(block) => grid.blocks().get(block).map(wumple_core::Block::place),
            ZoneOf::Platform(platform) => level.platforms.get(platform).map(|of| Hitbox::at(of.route[0], of.size)),
            _ => None,
        };
        if let Some(area) = place.and_then(|place| area_of(frame, &place)) {
            draw_bars(sheet, &area);
        }
    }
    if !level.letters.iter().any(|letter| letter.is_gate()) {
        return;
    }
    let (columns, rows) = frame.tiles_of(grid);
    for row in rows.0..rows.1 {
        for column in columns.0..columns.1 {
            if level.letters[grid.kind(column, row)].is_gate()
                && let Some(area) = area_of(frame, &lines.cell(column, row))
            {
                draw_bars(sheet, &area);
            }
        }
    }
}

/// Whether zones of a kind are gates here.
pub(super) fn are_gates(level: &Level, kind: ZoneKind) -> bool {
    level.round.as_ref().is_some_and(|round| round.rules.gates().iter().any(|gate| gate.kind == kind))
}
