//! How what can be stood on or climbed is drawn: shelves, ladders, ramps, blocks, and what their tops do.

use super::frame::Frame;
use super::sheet::{
    Align, Area, CELADON, COBALT, Colour, INK, LegendEntry, Marker, OCHRE, Point, SMOKE, Sheet, TERRACOTTA, stroke,
};
use crate::files::Level;
use wumple_core::{Material, Ramp, Surface, Terrain};

/// What a tile is made of; nothing outside the map.
pub(super) fn surface_at(level: &Level, column: i32, row: i32) -> Surface {
    let grid = &level.grid;
    if grid.has_tile(column, row) { grid.tile(column, row).surface } else { Surface::Empty }
}

/// A ramp that fills a tile: what is under its line, the line, and its sides where nothing solid covers them.
pub(super) fn draw_tile_ramp(
    sheet: &mut Sheet<'_>,
    frame: &Frame,
    level: &Level,
    (column, row): (i32, i32),
    (colour, opacity): (Colour, f64),
) {
    let (grid, grid_lines) = (&level.grid, level.grid.grid_lines());
    let Some(ramp) = grid.ramp_at(column, row) else { return };
    let foot = grid_lines.line(row + 1);
    let (left, right) = (ramp.left_end(), ramp.right_end());
    let corners =
        [frame.at(left.x, left.y), frame.at(right.x, right.y), frame.at(right.x, foot), frame.at(left.x, foot)];
    sheet.fill(&corners, colour, opacity);
    sheet.line(&corners[..2], stroke(INK, 1.6));
    let filled =
        |column: i32, row: i32| matches!(surface_at(level, column, row), Surface::Solid | Surface::Ramp { .. });
    for (beside, side) in [(column - 1, [corners[0], corners[3]]), (column + 1, [corners[1], corners[2]])] {
        if !filled(beside, row) {
            sheet.line(&side, stroke(INK, 1.3));
        }
    }
    if !filled(column, row + 1) {
        sheet.line(&corners[2..], stroke(INK, 1.3));
    }
}

/// Everything but the tiles that stop from every side.
pub(super) fn draw(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let (grid, grid_lines) = (&level.grid, level.grid.grid_lines());
    let (columns, rows) = frame.tiles_of(&level.grid);
    for row in rows.0..rows.1 {
        for column in columns.0..columns.1 {
            let tile = grid.tile(column, row);
            if tile.surface == Surface::Empty {
                continue;
            }
            let (left, right) = (grid_lines.line(column), grid_lines.line(column + 1));
            let (top, bottom) = (grid_lines.line(row), grid_lines.line(row + 1));
            let Some(area) = frame.cut((left, right), (top, bottom)) else { continue };
            match tile.surface {
                Surface::OneWay => draw_shelf(sheet, &[frame.at(left, top), frame.at(right, top)]),
                Surface::Ladder => draw_ladder(sheet, &area),
                _ => {}
            }
            let surface = match grid.ramp_at(column, row) {
                Some(ramp) => (ramp.left_end().y, ramp.right_end().y),
                None => (top, top),
            };
            draw_material(sheet, &[frame.at(left, surface.0), frame.at(right, surface.1)], &tile.material);
        }
    }
    for (block, name) in grid.blocks().iter().zip(&level.names.blocks) {
        let Some(area) = frame.cut((block.left, block.right), (block.top, block.bottom)) else { continue };
        sheet.fill_area(&area, SMOKE, 0.5);
        sheet.outline(&area, stroke(INK, 1.3));
        if name.chars().any(|letter| !letter.is_ascii_digit()) && area.height() > 14.0 {
            let middle = ((area.left + area.right) / 2.0, (area.top + area.bottom) / 2.0 + 4.0);
            sheet.text(middle, 11.0, Align::Middle, name);
        }
        draw_material(sheet, &[(area.left, area.top), (area.right, area.top)], &block.material);
    }
    for ramp in grid.ramps() {
        let Some(ends) = frame.clip(ends_of(frame, ramp)) else { continue };
        draw_shelf(sheet, &ends);
        draw_material(sheet, &ends, &ramp.material);
    }
}

fn ends_of(frame: &Frame, ramp: &Ramp) -> [Point; 2] {
    let (left, right) = (ramp.left_end(), ramp.right_end());
    [frame.at(left.x, left.y), frame.at(right.x, right.y)]
}

/// A line that holds from above, with short strokes beneath.
pub(super) fn draw_shelf(sheet: &mut Sheet<'_>, ends: &[Point; 2]) {
    sheet.line(ends, stroke(INK, 2.4));
    let [(x0, y0), (x1, y1)] = *ends;
    let strokes = ((x1 - x0) / 6.0).round().max(1.0);
    for index in 0..strokes as u32 {
        let share = (f64::from(index) + 0.5) / strokes;
        let (x, y) = (x0 + (x1 - x0) * share, y0 + (y1 - y0) * share);
        sheet.line(&[(x, y + 1.0), (x - 2.5, y + 5.0)], stroke(INK, 0.9));
    }
}

fn draw_ladder(sheet: &mut Sheet<'_>, area: &Area) {
    let (left, right) = (area.left + area.width() * 0.2, area.right - area.width() * 0.2);
    let line = stroke(OCHRE, 1.8);
    sheet.line(&[(left, area.top), (left, area.bottom)], line);
    sheet.line(&[(right, area.top), (right, area.bottom)], line);
    for rung in 0..3 {
        let y = area.top + area.height() * (f64::from(rung) + 0.5) / 3.0;
        sheet.line(&[(left, y), (right, y)], stroke(OCHRE, 1.3));
    }
}

/// Belts have arrows along their top, slippery tops drops of slip, bellows a zigzag.
pub(super) fn draw_material(sheet: &mut Sheet<'_>, top: &[Point; 2], material: &Material) {
    let [(x0, y0), (x1, y1)] = *top;
    let at = |share: f64, above: f64| (x0 + (x1 - x0) * share, y0 + (y1 - y0) * share - above);
    let count = ((x1 - x0) / 14.0).round().max(1.0);
    for index in 0..count as u32 {
        let middle = (f64::from(index) + 0.5) / count;
        let part = 3.5 / (x1 - x0).max(1.0);
        if material.surface_speed != 0.0 {
            let towards = part.copysign(material.surface_speed);
            let arrow = [at(middle - towards, 6.5), at(middle + towards, 3.5), at(middle - towards, 0.5)];
            sheet.line(&arrow, stroke(COBALT, 1.6));
        }
        if material.bounce.is_some() {
            let zigzag = [at(middle - part, 0.5), at(middle, 6.5), at(middle + part, 0.5)];
            sheet.line(&zigzag, stroke(TERRACOTTA, 1.8));
        }
    }
    if material.grip < 1.0 {
        // Drops of slip, in a row: no line, which a path is.
        let drops = ((x1 - x0) / 7.0).round().max(1.0);
        for index in 0..drops as u32 {
            sheet.marker(at((f64::from(index) + 0.5) / drops, 2.2), Marker::Disc, 2.0, CELADON);
        }
    }
}

/// What the legend says of the surfaces that this level has.
pub(super) fn entries(level: &Level) -> Vec<LegendEntry<'static>> {
    let grid = &level.grid;
    let kinds =
        || level.letters.iter().enumerate().filter(|(kind, _)| grid.has_kind(*kind)).map(|(_, kind)| kind.properties);
    let any_material = |is: fn(&Material) -> bool| {
        kinds().any(|kind| is(&kind.material))
            || grid.blocks().iter().any(|block| is(&block.material))
            || grid.ramps().iter().any(|ramp| is(&ramp.material))
    };
    type Draw = fn(&mut Sheet<'_>, &Area);
    let rows: [(bool, &'static str, Draw); 5] = [
        (kinds().any(|kind| kind.surface == Surface::OneWay) || !grid.ramps().is_empty(), "one-way", |sheet, area| {
            let y = (area.top + area.bottom) / 2.0;
            draw_shelf(sheet, &[(area.left, y), (area.right, y)]);
        }),
        (kinds().any(|kind| kind.surface == Surface::Ladder), "ladder", |sheet, area| {
            let middle = (area.left + area.right) / 2.0;
            draw_ladder(
                sheet,
                &Area { left: middle - 8.0, right: middle + 8.0, top: area.top - 1.5, bottom: area.bottom + 1.5 },
            );
        }),
        (any_material(|material| material.surface_speed != 0.0), "belt", |sheet, area| {
            let material = Material { surface_speed: 1.0, ..Material::PLAIN };
            draw_material(sheet, &[(area.left, area.bottom), (area.right, area.bottom)], &material);
        }),
        (any_material(|material| material.grip < 1.0), "slippery", |sheet, area| {
            let material = Material { grip: 0.0, ..Material::PLAIN };
            let y = (area.top + area.bottom) / 2.0;
            draw_material(sheet, &[(area.left, y), (area.right, y)], &material);
        }),
        (any_material(|material| material.bounce.is_some()), "bounces", |sheet, area| {
            let bounce =
                Some(wumple_core::numbers::Bounce { height: 1.0, release: wumple_core::numbers::Release::None });
            let material = Material { bounce, ..Material::PLAIN };
            draw_material(sheet, &[(area.left, area.bottom), (area.right, area.bottom)], &material);
        }),
    ];
    let present = rows.into_iter().filter(|(present, ..)| *present);
    present.map(|(_, words, draw)| LegendEntry { words, sample: Box::new(draw) }).collect()
}
