use super::Figure;
use super::frame::{Frame, Vertical};
use super::labels::{self, Labels};
use super::paper::{
    Area, CELADON, COBALT, Colour, Dash, INK, LegendEntry, Marker, OCHRE, SMOKE, Sheet, TERRACOTTA, Words, legend,
    stroke,
};
use super::surfaces;
use crate::files::{LetterKind, Level, TuningFile};
use crate::quantity::short;
use wumple_core::{Edge, Side, Surface, Terrain, TileProperties, Zone};

/// The part of the page that the map gets.
const AREA: Area = Area { left: 76.0, top: 100.0, right: 1204.0, bottom: 722.0 };

/// Draws a level: its tiles, zones, edges and spawn; with a tuning also the hitbox and its wall probes at
/// the spawn, at scale.
pub fn level_figure(level: &Level, tuning: Option<&TuningFile>) -> Figure {
    let title = match tuning {
        Some(tuning) => format!("{}, with the hitbox of {}", level.name, tuning.name),
        None => level.name.clone(),
    };
    let caption = caption(level, tuning);
    Sheet::page(&Words { title: &title, caption: &caption }, |sheet| {
        let frame = draw_map(sheet, level);
        if let Some(tuning) = tuning {
            draw_body(sheet, &frame, level, tuning);
        }
        finish_map(sheet, &frame, level);
        let entries = tile_entries(level);
        legend(sheet, AREA.right, 64.0, &entries);
    })
}

fn caption(level: &Level, tuning: Option<&TuningFile>) -> String {
    let tile = level.grid.lattice().tile();
    let mut caption = format!("{} x {} tiles of {} px", level.grid.columns(), level.grid.rows(), short(tile));
    if let Some(tuning) = tuning {
        let (body, probe) = (tuning.tuning.body(), tuning.tuning.wall_probe());
        caption += &format!(
            "; hitbox {} x {} px, feet at the dot, wall probe {} px on either side",
            short(body.width),
            short(body.height),
            short(probe)
        );
    }
    caption
}

/// The frame of a level's map, its tiles and zones.
pub(super) fn draw_map(sheet: &mut Sheet<'_>, level: &Level) -> Frame {
    let grid = &level.grid;
    let frame = Frame::fit(AREA, (0.0, grid.width()), (0.0, grid.height()), Vertical::Map, false);
    frame.grid(sheet, grid.lattice().tile());
    draw_tiles(sheet, &frame, level);
    super::platforms::draw(sheet, &frame, level);
    frame
}

/// The tiles, zones, blocks and ramps of a map, as much of them as is in the frame.
pub(super) fn draw_tiles(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let grid = &level.grid;
    for row in 0..grid.rows() {
        for (columns, kind) in runs_of_kinds(level, row) {
            let lattice = grid.lattice();
            let x = (lattice.line(columns.0), lattice.line(columns.1));
            let y = (lattice.line(row), lattice.line(row + 1));
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
            for column in columns.0..columns.1 {
                let x = (lattice.line(column), lattice.line(column + 1));
                if let Some(area) = frame.cut(x, y) {
                    draw_zone(sheet, &area, level.letters[kind].properties);
                }
            }
        }
    }
    draw_faces(sheet, frame, level);
    surfaces::draw(sheet, frame, level);
}

/// Neighbouring tiles of one kind in a row: `(first column, column after the last), kind`.
fn runs_of_kinds(level: &Level, row: i32) -> Vec<((i32, i32), usize)> {
    let mut runs: Vec<((i32, i32), usize)> = Vec::new();
    for column in 0..level.grid.columns() {
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

/// A line wherever solid meets empty: solid against empty at a glance.
fn draw_faces(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let grid = &level.grid;
    let lattice = grid.lattice();
    let solid = |column, row| surfaces::surface_at(level, column, row) == Surface::Solid;
    // A ramp's own lines are drawn with it.
    let ramp = |column, row| matches!(surfaces::surface_at(level, column, row), Surface::Ramp { .. });
    let mut face = |ends| {
        if let Some(ends) = frame.clip(ends) {
            sheet.line(&ends, stroke(INK, 1.3));
        }
    };
    for row in 0..=grid.rows() {
        for column in 0..=grid.columns() {
            let (x, y) = (lattice.line(column), lattice.line(row));
            if solid(column, row) != solid(column, row - 1) && !ramp(column, row - 1) {
                face([frame.at(x, y), frame.at(lattice.line(column + 1), y)]);
            }
            if solid(column, row) != solid(column - 1, row) && !ramp(column, row) && !ramp(column - 1, row) {
                face([frame.at(x, y), frame.at(x, lattice.line(row + 1))]);
            }
        }
    }
}

fn draw_zone(sheet: &mut Sheet<'_>, area: &Area, properties: TileProperties) {
    let Some(zone) = properties.zone else { return };
    let centre = ((area.left + area.right) / 2.0, (area.top + area.bottom) / 2.0);
    let size = area.width().min(area.height()) * 0.3;
    match zone {
        Zone::Hazard => sheet.marker(centre, Marker::Triangle, size, TERRACOTTA),
        Zone::Pickup => sheet.marker(centre, Marker::Diamond, size * 0.8, OCHRE),
        Zone::Goal => {
            sheet.fill_area(&area.grown(-size * 0.4), CELADON, 0.35);
            sheet.outline(&area.grown(-size * 0.4), stroke(CELADON, 1.8));
        }
    }
}

/// Where zones and the tops of shelves are drawn: no label should hide them.
pub(super) fn kept_free(frame: &Frame, level: &Level) -> Vec<Area> {
    let (grid, lattice) = (&level.grid, level.grid.lattice());
    let tiles = (0..grid.rows()).flat_map(|row| (0..grid.columns()).map(move |column| (column, row)));
    tiles
        .filter_map(|(column, row)| {
            let (tile, top) = (grid.tile(column, row), lattice.line(row));
            let x = (lattice.line(column), lattice.line(column + 1));
            match (tile.zone, tile.surface) {
                (Some(_), _) => frame.cut(x, (top, lattice.line(row + 1))),
                (None, Surface::OneWay) => frame.cut(x, (top, top + 1.0)),
                _ => None,
            }
        })
        .chain(super::platforms::kept_free(frame, level))
        .collect()
}

/// What is drawn over everything else: the spawn, the edges, the frame.
pub(super) fn finish_map(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let spawn = level.spawn();
    let at = frame.at(spawn.x, spawn.y);
    sheet.marker(at, Marker::Disc, 3.4, INK);
    frame.sides(sheet, level.grid.lattice().tile(), ("columns", "rows"));
    let area = frame.area;
    let corners = |side| match side {
        Side::Left => ((area.left, area.top), (area.left, area.bottom)),
        Side::Right => ((area.right, area.top), (area.right, area.bottom)),
        Side::Top => ((area.left, area.top), (area.right, area.top)),
        Side::Bottom => ((area.left, area.bottom), (area.right, area.bottom)),
    };
    for side in Side::ALL {
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
    let kinds = || level.letters.iter().enumerate().filter(|(kind, _)| level.grid.has_kind(*kind));
    let zone = |zone: Zone| kinds().any(|(_, letter)| letter.properties.zone == Some(zone));
    let mut entries: Vec<LegendEntry<'_>> = Vec::new();
    for named in Zone::ALL.into_iter().filter(|named| zone(*named)) {
        entries.push(LegendEntry {
            words: named.name(),
            sample: Box::new(move |sheet, area| {
                let middle = (area.left + area.right) / 2.0;
                let square =
                    Area { left: middle - 8.0, right: middle + 8.0, top: area.top - 1.5, bottom: area.bottom + 1.5 };
                draw_zone(sheet, &square, TileProperties::zone(named));
            }),
        });
    }
    entries.extend(surfaces::entries(level));
    entries.extend(super::platforms::entries(level));
    let edges = level.grid.edges();
    for (edge, words) in [(Edge::Solid, "solid edge"), (Edge::Deadly, "deadly edge")] {
        if Side::ALL.iter().any(|side| edges.on(*side) == edge) {
            let line = match edge {
                Edge::Deadly => stroke(TERRACOTTA, 3.5).dashed(Dash::Long),
                _ => stroke(INK, 3.5),
            };
            entries.push(LegendEntry { words, sample: super::paper::line_sample(line) });
        }
    }
    entries
}

fn draw_body(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level, tuning: &TuningFile) {
    let (body, probe) = (tuning.tuning.body(), tuning.tuning.wall_probe());
    let hitbox = body.hitbox_at(level.spawn());
    let y = (hitbox.top, hitbox.bottom);
    let mut labels = Labels::new(frame.area.grown(-3.0), Vec::new());
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
