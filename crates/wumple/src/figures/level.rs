use super::Figure;
use super::frame::Frame;
use super::labels::{self, Labels};
use super::layout::{Layout, Page, draw_coarse};
use super::sheet::{COBALT, Colour, Dash, INK, LegendEntry, Marker, Point, SMOKE, Sheet, TERRACOTTA, Words, stroke};
use super::{gates, groups, surfaces, zones};
use crate::files::{LetterKind, Level, TuningFile};
use crate::units::short;
use wumple_core::{Edge, Side, Surface, Terrain};

/// Draws a level: its tiles, zones, edges and spawn; with a tuning also the hitbox and its wall probes at
/// the spawn, at scale.
#[must_use]
pub fn level_figure(level: &Level, tuning: Option<&TuningFile>, page: &Page) -> Figure {
    let title = match tuning {
        Some(tuning) => format!("{}, with the hitbox of {}", level.name, tuning.name),
        None => level.name.clone(),
    };
    let layout = Layout::new(level, page, None);
    let caption = caption(level, tuning, &layout);
    Sheet::page_of(layout.size, &Words { title: &title, caption: &caption }, |sheet| {
        for frame in &layout.frames {
            draw_map(sheet, frame, level);
            if let Some(tuning) = tuning {
                draw_body(sheet, frame, level, tuning);
            }
            finish_map(sheet, frame, level);
        }
        layout.finish(sheet, level, &tile_entries(level));
    })
}

fn caption(level: &Level, tuning: Option<&TuningFile>, layout: &Layout) -> String {
    let tile = level.grid.grid_lines().spacing();
    let mut caption = format!("{} x {} tiles of {} px", level.grid.columns(), level.grid.rows(), short(tile));
    let step = layout.coarseness(tile);
    if step > 1 {
        caption += &format!(", drawn in blocks of {step} x {step}");
    }
    if let Some(tuning) = tuning {
        let (body, probe) = (tuning.tuning.body(), tuning.tuning.wall_probe());
        caption += &format!(
            "; hitbox {} x {} px, feet at the dot, wall probe {} px on either side",
            short(body.width),
            short(body.height),
            short(probe)
        );
    }
    caption + &groups::in_words(level)
}

/// What a frame shows of a level's map: its tiles, zones, platforms and props.
pub(super) fn draw_map(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    frame.grid(sheet, level.grid.grid_lines().spacing());
    draw_tiles(sheet, frame, level);
    super::platforms::draw(sheet, frame, level);
    gates::draw(sheet, frame, level);
    groups::draw(sheet, frame, level);
}

/// The tiles, zones, blocks and ramps of a map, as much of them as is in the frame.
pub(super) fn draw_tiles(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let grid_lines = level.grid.grid_lines();
    if frame.coarseness(grid_lines.spacing()) > 1 {
        draw_coarse(sheet, frame, level);
        return draw_coarse_zones(sheet, frame, level);
    }
    let (shown, rows) = frame.tiles_of(&level.grid);
    for row in rows.0..rows.1 {
        for (columns, kind) in runs_of_kinds(level, row, shown) {
            let x = (grid_lines.line(columns.0), grid_lines.line(columns.1));
            let y = (grid_lines.line(row), grid_lines.line(row + 1));
            let letter = &level.letters[kind];
            match (frame.cut(x, y), letter.properties.surface) {
                (Some(area), Surface::Solid) => {
                    let (colour, opacity) = fill_of(letter);
                    sheet.fill_area(&area, colour, opacity);
                }
                (Some(_), Surface::Ramp { .. }) => {
                    for column in columns.0..columns.1 {
                        surfaces::draw_tile_ramp(sheet, frame, level, (column, row), fill_of(letter));
                    }
                }
                _ => {}
            }
            if let Some(zone) = letter.properties.zone.filter(|_| !letter.is_gate()) {
                for column in columns.0..columns.1 {
                    let x = (grid_lines.line(column), grid_lines.line(column + 1));
                    if let Some(area) = frame.cut(x, y) {
                        zones::draw_mark(sheet, &area, zone.kind);
                    }
                }
            }
        }
    }
    draw_faces(sheet, frame, level);
    surfaces::draw(sheet, frame, level);
    zones::draw(sheet, frame, level);
}

/// The zones of a map whose tiles are too small to be drawn each: a dot for each block that has one.
fn draw_coarse_zones(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let grid_lines = level.grid.grid_lines();
    let step = frame.coarseness(grid_lines.spacing());
    let (columns, rows) = frame.tiles_of(&level.grid);
    for row in (rows.0..rows.1).step_by(step as usize) {
        for column in (columns.0..columns.1).step_by(step as usize) {
            let tiles = (row..(row + step).min(rows.1))
                .flat_map(|row| (column..(column + step).min(columns.1)).map(move |column| (column, row)));
            let zone = tiles.filter_map(|(column, row)| level.grid.tile(column, row).zone).next();
            let place = frame.at(
                grid_lines.line(column) + grid_lines.spacing() / 2.0,
                grid_lines.line(row) + grid_lines.spacing() / 2.0,
            );
            if let Some(zone) = zone {
                zones::draw_dot(sheet, place, zone.kind);
            }
        }
    }
}

/// Neighbouring tiles of one kind in a row: `(first column, column after the last), kind`.
fn runs_of_kinds(level: &Level, row: i32, shown: (i32, i32)) -> Vec<((i32, i32), usize)> {
    let mut runs: Vec<((i32, i32), usize)> = Vec::new();
    for column in shown.0..shown.1 {
        let kind = level.grid.kind(column, row);
        match runs.last_mut().filter(|(_, before)| *before == kind) {
            Some((columns, _)) => columns.1 = column + 1,
            None => runs.push(((column, column + 1), kind)),
        }
    }
    runs
}

fn fill_of(letter: &LetterKind) -> (Colour, f64) {
    let own = letter.colour.as_deref().and_then(|text| u32::from_str_radix(&text[1..], 16).ok());
    match own {
        Some(rgb) => (plotters::style::RGBColor((rgb >> 16) as u8, (rgb >> 8) as u8, rgb as u8), 0.75),
        None => (SMOKE, 0.5),
    }
}

/// A line wherever solid meets empty: solid against empty at a glance. Neighbouring ones are one.
fn draw_faces(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let grid_lines = level.grid.grid_lines();
    let solid = |column, row| surfaces::surface_at(level, column, row) == Surface::Solid;
    // A ramp's own lines are drawn with it.
    let ramp = |column, row| matches!(surfaces::surface_at(level, column, row), Surface::Ramp { .. });
    let (columns, rows) = frame.tiles_of(&level.grid);
    let mut face = |from: (i32, i32), to: (i32, i32)| {
        let at = |(column, row): (i32, i32)| frame.at(grid_lines.line(column), grid_lines.line(row));
        if let Some(ends) = frame.clip([at(from), at(to)]) {
            sheet.line(&ends, stroke(INK, 1.3));
        }
    };
    for row in rows.0..=rows.1 {
        let is_face = |column: i32| solid(column, row) != solid(column, row - 1) && !ramp(column, row - 1);
        runs(columns.0..columns.1, is_face).for_each(|(first, end)| face((first, row), (end, row)));
    }
    for column in columns.0..=columns.1 {
        let is_face =
            |row: i32| solid(column, row) != solid(column - 1, row) && !ramp(column, row) && !ramp(column - 1, row);
        runs(rows.0..rows.1, is_face).for_each(|(first, end)| face((column, first), (column, end)));
    }
}

/// Where something holds for several in a row: the first, and the one after the last.
fn runs(range: std::ops::Range<i32>, holds: impl Fn(i32) -> bool) -> impl Iterator<Item = (i32, i32)> {
    let mut all: Vec<(i32, i32)> = Vec::new();
    for index in range.filter(|index| holds(*index)) {
        match all.last_mut().filter(|run| run.1 == index) {
            Some(run) => run.1 = index + 1,
            None => all.push((index, index + 1)),
        }
    }
    all.into_iter()
}

/// Labels over a frame of a level: they leave free the points of the paths, zones, tops that are something to stand
/// on or do something, platforms and props, and rather stand where it is empty.
pub(super) fn labels_over(frame: &Frame, level: &Level, path: Vec<Point>) -> Labels {
    let (grid, grid_lines) = (&level.grid, level.grid.grid_lines());
    let visible = path.into_iter().filter(|point| frame.area.contains(*point)).collect();
    let mut labels = Labels::new(frame.area.grown(-3.0), visible);
    let (columns, rows) = frame.tiles_of(&level.grid);
    if frame.coarseness(grid_lines.spacing()) > 1 {
        return labels;
    }
    for row in rows.0..rows.1 {
        for column in columns.0..columns.1 {
            let (tile, top) = (grid.tile(column, row), grid_lines.line(row));
            let x = (grid_lines.line(column), grid_lines.line(column + 1));
            let whole = frame.cut(x, (top, grid_lines.line(row + 1)));
            if tile.zone.is_some() {
                whole.iter().for_each(|area| labels.keep_free(*area));
            }
            match tile.surface {
                Surface::OneWay => frame.cut(x, (top, top + 1.0)).iter().for_each(|area| labels.keep_free(*area)),
                Surface::Empty => {}
                _ => whole.iter().for_each(|area| labels.avoid(area, ON_SOLID)),
            }
            if !tile.material.is_plain() {
                let above = frame.cut(x, (top - 1.0, top + 1.0)).map(|area| area.grown(7.0));
                above.iter().for_each(|area| labels.keep_free(*area));
            }
        }
    }
    for block in grid.blocks() {
        let area = frame.cut((block.left, block.right), (block.top, block.bottom));
        area.iter().for_each(|area| labels.avoid(area, ON_SOLID));
        if !block.material.is_plain() {
            let above = frame.cut((block.left, block.right), (block.top - 1.0, block.top + 1.0));
            above.iter().for_each(|area| labels.keep_free(area.grown(7.0)));
        }
    }
    zones::kept_free(frame, level).into_iter().for_each(|area| labels.keep_free(area));
    super::platforms::kept_free(frame, level).into_iter().for_each(|area| labels.keep_free(area));
    labels
}

/// How much a label would rather not stand on what is solid: see [`Labels::avoid`].
const ON_SOLID: f64 = 0.6;

/// What is drawn over everything else: the spawn, the edges, the frame.
pub(super) fn finish_map(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let spawn = level.spawn();
    let at = frame.at(spawn.x, spawn.y);
    if frame.area.contains(at) {
        sheet.marker(at, Marker::Disc, 3.4, INK);
    }
    frame.sides(sheet, level.grid.grid_lines().spacing(), ("columns", "rows"));
    let area = frame.area;
    let corners = |side| match side {
        Side::Left => ((area.left, area.top), (area.left, area.bottom)),
        Side::Right => ((area.right, area.top), (area.right, area.bottom)),
        Side::Top => ((area.left, area.top), (area.right, area.top)),
        Side::Bottom => ((area.left, area.bottom), (area.right, area.bottom)),
    };
    let ((left, right), (top, bottom)) = frame.shown();
    let grid = &level.grid;
    let is_there = |side| match side {
        Side::Left => left <= 1e-6,
        Side::Right => right >= grid.width() - 1e-6,
        Side::Top => top <= 1e-6,
        Side::Bottom => bottom >= grid.height() - 1e-6,
    };
    for side in Side::ALL.into_iter().filter(|side| is_there(*side)) {
        let (from, to) = corners(side);
        match level.grid.edges().on(side) {
            Edge::Solid => sheet.line(&[from, to], stroke(INK, 3.5)),
            Edge::Deadly => sheet.line(&[from, to], stroke(TERRACOTTA, 3.5).dashed(Dash::Long)),
            Edge::Open => {}
        }
    }
}

/// What the legend says of the tiles, zones and edges that this level has.
pub(super) fn tile_entries(level: &Level) -> Vec<LegendEntry<'_>> {
    let mut entries: Vec<LegendEntry<'_>> = Vec::new();
    entries.extend(zones::entries(level));
    entries.extend(surfaces::entries(level));
    entries.extend(super::platforms::entries(level));
    entries.extend(groups::entry(level));
    let edges = level.grid.edges();
    for (edge, words) in [(Edge::Solid, "solid edge"), (Edge::Deadly, "deadly edge")] {
        if Side::ALL.iter().any(|side| edges.on(*side) == edge) {
            let line = match edge {
                Edge::Deadly => stroke(TERRACOTTA, 3.5).dashed(Dash::Long),
                _ => stroke(INK, 3.5),
            };
            entries.push(LegendEntry { words, sample: super::sheet::line_sample(line) });
        }
    }
    entries
}

fn draw_body(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level, tuning: &TuningFile) {
    let (body, probe) = (tuning.tuning.body(), tuning.tuning.wall_probe());
    let hitbox = body.hitbox_at(level.spawn());
    let y = (hitbox.top, hitbox.bottom);
    let mut labels = labels_over(frame, level, Vec::new());
    for x in [(hitbox.left - probe, hitbox.left), (hitbox.right, hitbox.right + probe)] {
        if let Some(area) = frame.cut(x, y) {
            sheet.fill_area(&area, TERRACOTTA, 0.7);
        }
    }
    if let Some(area) = frame.cut((hitbox.left, hitbox.right), y) {
        sheet.fill_area(&area, COBALT, 0.3);
        sheet.outline(&area, stroke(COBALT, 1.4));
        labels.keep_free(area.grown(3.0));
        let words = [
            format!("hitbox {} x {} px", short(body.width), short(body.height)),
            format!("{} x {} tiles", short(body.width / tuning.scale.tile), short(body.height / tuning.scale.tile)),
        ];
        let point = (area.right, area.top);
        if let Some(place) = labels.place(point, &words) {
            labels::draw(sheet, point, &place, &words);
        }
    }
}
