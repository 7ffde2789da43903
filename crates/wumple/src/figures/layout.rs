//! What of a level is shown, how large, and where on the page.

use super::frame::{Frame, Vertical};
use super::sheet::{Area, COBALT, INK, LegendEntry, SMOKE, Sheet, legend, stroke};
use super::surfaces::surface_at;
use crate::files::Level;
use wumple_core::{Hitbox, Surface, Terrain};

/// How a figure over a level is laid out.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct Page {
    /// Width and height, px, from 400 x 300 to 8000 x 8000 (held to that); none: 1280 wide, and 800 high or as much
    /// less as what is drawn needs.
    pub size: Option<(u32, u32)>,
    /// The tiles that are shown; none: the whole level if its tiles are large enough to be read, else the part that
    /// what is drawn is in, in several rows if it is long.
    pub area: Option<TileArea>,
}

/// Tiles of a level, from one to another, both included.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct TileArea {
    /// The first column and row.
    pub first: (u32, u32),
    /// The last column and row; not before the first.
    pub last: (u32, u32),
}

/// Left of a map, right of it, above and below: for its numbers, the title, the legend and the caption.
const LEFT: f64 = 76.0;
const TOP: f64 = 100.0;
const BELOW: f64 = 78.0;
/// Between two rows of a map that is broken.
const BETWEEN: f64 = 66.0;
/// Between two columns of it.
const BESIDE: f64 = 108.0;
/// A tile that is drawn smaller can hardly be read, px.
const LEGIBLE: f64 = 12.0;
/// Where a part is chosen, a tile is at most so large: more of what is around is shown instead.
const LARGE: f64 = 26.0;
/// So much around a path is shown, tiles.
const AROUND: f64 = 4.0;
/// No map is broken into more parts.
const MOST_PARTS: usize = 8;
/// A page is not lower.
const LOWEST: f64 = 380.0;

/// A span along one axis, px of the world.
type Span = (f64, f64);

/// Where the parts of a level are drawn.
pub(super) struct Layout {
    pub(super) size: (f64, f64),
    pub(super) frames: Vec<Frame>,
    /// Whether not all of the level is shown.
    is_part: bool,
}

impl Layout {
    /// Of a level, of which `seen` must be there to see.
    pub(super) fn new(level: &Level, page: &Page, seen: Option<Hitbox>) -> Layout {
        let grid = &level.grid;
        let tile = grid.grid_lines().spacing();
        let within = |value: u32, least: u32| f64::from(value.clamp(least, 8000));
        let (wide, tall) = page.size.map_or((1280.0, 800.0), |(wide, tall)| (within(wide, 400), within(tall, 300)));
        let room = (wide - 2.0 * LEFT, tall - TOP - BELOW);
        let whole = ((0.0, grid.width()), (0.0, grid.height()));
        let (x, y) = match (page.area, seen) {
            (Some(area), _) => shown_tiles(&area, grid.columns(), grid.rows(), tile),
            (None, Some(seen)) if tile * scale_of(whole, room) < LEGIBLE => around(&seen, whole, tile, room),
            _ => whole,
        };
        let (scale, parts) = broken((x, y), tile, room);
        let frames = place(&parts, scale, room, page.size.is_some());
        let lowest = frames.iter().map(|frame| frame.area.bottom).fold(0.0, f64::max);
        let tall = if page.size.is_some() { tall } else { (lowest + BELOW).clamp(LOWEST, tall) };
        Layout { size: (wide, tall), frames, is_part: (x, y) != whole }
    }

    /// How many tiles along a side are drawn as one, where they are too small to be drawn each.
    pub(super) fn coarseness(&self, tile: f64) -> i32 {
        self.frames.first().map_or(1, |frame| frame.coarseness(tile))
    }

    /// The legend, and a small plan of the level with what is shown of it.
    pub(super) fn finish(&self, sheet: &mut Sheet<'_>, level: &Level, entries: &[LegendEntry<'_>]) {
        legend(sheet, self.size.0 - LEFT, 64.0, entries);
        if !self.is_part {
            return;
        }
        let grid = &level.grid;
        let room = Area { left: self.size.0 - LEFT - 300.0, top: 8.0, right: self.size.0 - LEFT, bottom: 46.0 };
        let scale = (room.width() / grid.width()).min(room.height() / grid.height());
        let area = Area { left: room.right - grid.width() * scale, ..room };
        let area = Area { bottom: area.top + grid.height() * scale, ..area };
        let plan = Frame::fit(area, (0.0, grid.width()), (0.0, grid.height()), Vertical::Map, false);
        draw_coarse(sheet, &plan, level);
        sheet.outline(&area, stroke(SMOKE, 0.8));
        for frame in &self.frames {
            let (x, y) = frame.shown();
            if let Some(part) = plan.cut(x, y) {
                // Large enough to be seen, however small a part it is.
                let part = part.grown((2.0 - part.width().min(part.height()) / 2.0).max(0.0));
                sheet.fill_area(&part, COBALT, 0.15);
                sheet.outline(&part, stroke(COBALT, 1.4));
            }
        }
    }
}

/// The solid tiles of a level as a few blocks: dark where most of what a block holds is solid.
pub(super) fn draw_coarse(sheet: &mut Sheet<'_>, frame: &Frame, level: &Level) {
    let (grid, grid_lines) = (&level.grid, level.grid.grid_lines());
    let step = frame.coarseness(grid_lines.spacing());
    let (columns, rows) = frame.tiles_of(grid);
    let is_solid = |column: i32, row: i32| {
        let all = || {
            (row..(row + step).min(rows.1)).flat_map(|r| (column..(column + step).min(columns.1)).map(move |c| (c, r)))
        };
        let solid = |(column, row)| matches!(surface_at(level, column, row), Surface::Solid | Surface::Ramp { .. });
        2 * all().filter(|at| solid(*at)).count() >= all().count()
    };
    for row in (rows.0..rows.1).step_by(step as usize) {
        let mut from = None;
        for column in (columns.0..=columns.1 + step).step_by(step as usize) {
            let solid = column < columns.1 && is_solid(column, row);
            match (solid, from) {
                (true, None) => from = Some(column),
                (false, Some(first)) => {
                    let x = (grid_lines.line(first), grid_lines.line(column));
                    if let Some(area) = frame.cut(x, (grid_lines.line(row), grid_lines.line(row + step))) {
                        sheet.fill_area(&area, INK, 0.45);
                    }
                    from = None;
                }
                _ => {}
            }
        }
    }
}

fn scale_of((x, y): (Span, Span), room: (f64, f64)) -> f64 {
    (room.0 / (x.1 - x.0)).min(room.1 / (y.1 - y.0))
}

fn shown_tiles(area: &TileArea, columns: i32, rows: i32, tile: f64) -> (Span, Span) {
    let span = |first: u32, last: u32, count: i32| {
        let first = f64::from(first).min(f64::from(count) - 1.0);
        let last = f64::from(last).clamp(first, f64::from(count) - 1.0);
        (first * tile, (last + 1.0) * tile)
    };
    (span(area.first.0, area.last.0, columns), span(area.first.1, area.last.1, rows))
}

/// Whole tiles around what is seen; where they would be larger than they need be, or there is room beside them, more.
fn around(seen: &Hitbox, whole: (Span, Span), tile: f64, room: (f64, f64)) -> (Span, Span) {
    let spans = [((seen.left, seen.right), whole.0), ((seen.top, seen.bottom), whole.1)];
    // Moved, rather than cut, at the ends of the level.
    let of_length = |(low, high): Span, (first, last): Span, length: f64| {
        let length = length.min(last - first);
        let low = ((low + high - length) / 2.0).clamp(first, last - length);
        ((low / tile).floor() * tile, ((low + length) / tile).ceil().min(last / tile) * tile)
    };
    let [x, y] = spans.map(|(span, whole)| of_length(span, whole, span.1 - span.0 + 2.0 * AROUND * tile));
    let side = tile * scale_of((x, y), room);
    if side < LEGIBLE {
        return (x, y);
    }
    let fill = |span: Span, whole, room: f64| of_length(span, whole, (room / side.min(LARGE)).floor() * tile);
    (fill(x, whole.0, room.0), fill(y, whole.1, room.1))
}

/// Broken into rows, or columns, if that makes its tiles markedly larger.
fn broken((x, y): (Span, Span), tile: f64, room: (f64, f64)) -> (f64, Vec<Vec<(Span, Span)>>) {
    let plain = scale_of((x, y), room);
    let mut best = (plain, vec![vec![(x, y)]]);
    if plain * tile >= LEGIBLE {
        return best;
    }
    let cut = |(low, high): Span, parts: usize| -> Vec<Span> {
        let length = (((high - low) / tile / parts as f64).ceil() * tile).max(tile);
        (0..parts)
            .map(|part| (low + part as f64 * length, (low + (part + 1) as f64 * length).min(high)))
            .filter(|part| part.0 < part.1)
            .collect()
    };
    for parts in 2..=MOST_PARTS {
        let spare = (parts - 1) as f64;
        let (rows, columns) = (cut(x, parts), cut(y, parts));
        let as_rows =
            ((room.0) / (rows[0].1 - rows[0].0)).min((room.1 - spare * BETWEEN) / (parts as f64 * (y.1 - y.0)));
        let as_columns =
            ((room.0 - spare * BESIDE) / (parts as f64 * (x.1 - x.0))).min(room.1 / (columns[0].1 - columns[0].0));
        if as_rows > best.0 && as_rows > plain * 1.25 {
            best = (as_rows, rows.iter().map(|x| vec![(*x, y)]).collect());
        }
        if as_columns > best.0 && as_columns > plain * 1.25 {
            best = (as_columns, vec![columns.iter().map(|y| (x, *y)).collect()]);
        }
    }
    best
}

/// A frame for each part, in rows from above and in each from the left.
fn place(parts: &[Vec<(Span, Span)>], scale: f64, room: (f64, f64), is_sized: bool) -> Vec<Frame> {
    let mut frames = Vec::new();
    let height = |row: &Vec<(Span, Span)>| row.iter().map(|(_, y)| (y.1 - y.0) * scale).fold(0.0, f64::max);
    let width = |row: &Vec<(Span, Span)>| {
        row.iter().map(|(x, _)| (x.1 - x.0) * scale).sum::<f64>() + BESIDE * (row.len() - 1) as f64
    };
    let all = parts.iter().map(height).sum::<f64>() + BETWEEN * (parts.len() - 1) as f64;
    // A page of a size that was asked for has its map in the middle.
    let mut top = TOP + if is_sized { (room.1 - all) / 2.0 } else { 0.0 };
    for row in parts {
        let mut left = LEFT + if parts.len() == 1 { (room.0 - width(row)) / 2.0 } else { 0.0 };
        for (x, y) in row {
            let area = Area { left, right: left + (x.1 - x.0) * scale, top, bottom: top + (y.1 - y.0) * scale };
            frames.push(Frame::fit(area, *x, *y, Vertical::Map, false));
            left = area.right + BESIDE;
        }
        top += height(row) + BETWEEN;
    }
    frames
}
