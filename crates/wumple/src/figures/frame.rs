//! A frame around data: where px of the world lie on the page, grid lines, and the numbers at the sides.

use crate::units::short;

use wumple_core::{Grid, Terrain};

use super::sheet::{Align, Area, INK, Point, SMOKE, Sheet, stroke, text_width};

/// Where world places lie on the page, the same scale in both directions.
#[derive(Clone, Copy, Debug)]
pub(super) struct Frame {
    /// The framed part of the page.
    pub(super) area: Area,
    /// The world place at the frame's left bottom corner, px.
    origin: (f64, f64),
    /// Page px for a world px; down is positive for a map, negative for heights.
    scale: f64,
    upward: bool,
}

/// A value held to two ends; the middle of them where they have changed places, as in a very narrow frame.
pub(super) fn between(value: f64, low: f64, high: f64) -> f64 {
    if low <= high { value.clamp(low, high) } else { (low + high) / 2.0 }
}

/// Tiles that are smaller on the page are drawn several as one, px.
const SMALLEST: f64 = 3.0;

/// Whether the second coordinate grows upward (heights) or downward (maps).
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Vertical {
    Heights,
    Map,
}

impl Frame {
    /// Fits the world's `x` and `y` ranges into an area, centred, at one scale; what is left of the area
    /// shows more of the world if `fill`, else the frame is made smaller.
    pub(super) fn fit(area: Area, x: (f64, f64), y: (f64, f64), vertical: Vertical, fill: bool) -> Frame {
        let scale = (area.width() / (x.1 - x.0)).min(area.height() / (y.1 - y.0));
        let (width, height) = ((x.1 - x.0) * scale, (y.1 - y.0) * scale);
        let (spare_x, spare_y) = (area.width() - width, area.height() - height);
        let upward = vertical == Vertical::Heights;
        if fill {
            let bottom = if upward { y.0 - spare_y / 2.0 / scale } else { y.1 + spare_y / 2.0 / scale };
            return Frame { area, origin: (x.0 - spare_x / 2.0 / scale, bottom), scale, upward };
        }
        let area = Area {
            left: area.left + spare_x / 2.0,
            right: area.right - spare_x / 2.0,
            top: area.top + spare_y / 2.0,
            bottom: area.bottom - spare_y / 2.0,
        };
        Frame { area, origin: (x.0, if upward { y.0 } else { y.1 }), scale, upward }
    }

    /// What of the world the frame shows, along x and along y.
    pub(super) fn shown(&self) -> ((f64, f64), (f64, f64)) {
        let far = (self.origin.0 + self.area.width() / self.scale, self.area.height() / self.scale);
        let y =
            if self.upward { (self.origin.1, self.origin.1 + far.1) } else { (self.origin.1 - far.1, self.origin.1) };
        ((self.origin.0, far.0), y)
    }

    /// The columns and rows of a map that are shown, each from the first to the one after the last.
    pub(super) fn tiles_of(&self, grid: &Grid) -> ((i32, i32), (i32, i32)) {
        let (tile, (x, y)) = (grid.grid_lines().spacing(), self.shown());
        let span = |(low, high): (f64, f64), count: i32| {
            let first = ((low / tile + 1e-9).floor() as i32).clamp(0, count);
            (first, ((high / tile - 1e-9).ceil() as i32).clamp(first, count))
        };
        (span(x, grid.columns()), span(y, grid.rows()))
    }

    /// How many tiles along a side are drawn as one: one, unless they are too small on the page.
    pub(super) fn coarseness(&self, tile: f64) -> i32 {
        (SMALLEST / (tile * self.scale)).ceil().max(1.0) as i32
    }

    /// A point of the page, moved into the frame if it is outside.
    pub(super) fn held(&self, (x, y): Point) -> Point {
        let Area { left, right, top, bottom } = self.area;
        (between(x, left + 6.0, right - 6.0), between(y, top + 6.0, bottom - 6.0))
    }

    /// Where a place of the world lies on the page.
    pub(super) fn at(&self, x: f64, y: f64) -> Point {
        let down = if self.upward { self.origin.1 - y } else { y - self.origin.1 };
        (self.area.left + (x - self.origin.0) * self.scale, self.area.bottom + down * self.scale)
    }

    /// A rectangle of the world on the page, cut at the frame.
    pub(super) fn cut(&self, x: (f64, f64), y: (f64, f64)) -> Option<Area> {
        let (a, b) = (self.at(x.0, y.0), self.at(x.1, y.1));
        let area = Area {
            left: a.0.min(b.0).max(self.area.left),
            right: a.0.max(b.0).min(self.area.right),
            top: a.1.min(b.1).max(self.area.top),
            bottom: a.1.max(b.1).min(self.area.bottom),
        };
        (area.left < area.right && area.top < area.bottom).then_some(area)
    }

    /// The part of a straight line on the page that is within the frame. Liang and Barsky's way.
    pub(super) fn clip(&self, [from, to]: [Point; 2]) -> Option<[Point; 2]> {
        let Area { left, right, top, bottom } = self.area;
        let (by, mut part) = ((to.0 - from.0, to.1 - from.1), (0.0f64, 1.0f64));
        for (by, room) in
            [(-by.0, from.0 - left), (by.0, right - from.0), (-by.1, from.1 - top), (by.1, bottom - from.1)]
        {
            if by == 0.0 && room < 0.0 {
                return None;
            }
            match room / by {
                share if by < 0.0 => part.0 = part.0.max(share),
                share if by > 0.0 => part.1 = part.1.min(share),
                _ => {}
            }
        }
        let at = |share: f64| (from.0 + by.0 * share, from.1 + by.1 * share);
        (part.0 <= part.1).then(|| [at(part.0), at(part.1)])
    }

    /// The parts of a path on the page that are within the frame.
    pub(super) fn clip_path(&self, path: &[Point]) -> Vec<Vec<Point>> {
        let mut parts: Vec<Vec<Point>> = Vec::new();
        for pair in path.windows(2) {
            let Some([from, to]) = self.clip([pair[0], pair[1]]) else { continue };
            match parts.last_mut().filter(|part| part.last() == Some(&from)) {
                Some(part) => part.push(to),
                None => parts.push(vec![from, to]),
            }
        }
        parts
    }

    /// The first and last multiple of `step` within the frame, along x and along y.
    fn lines(&self, step: f64) -> [(i64, i64); 2] {
        let far = (
            self.origin.0 + self.area.width() / self.scale,
            self.origin.1 + self.area.height() / self.scale * if self.upward { 1.0 } else { -1.0 },
        );
        let between = |a: f64, b: f64| {
            let (low, high) = (a.min(b), a.max(b));
            ((low / step - 1e-9).ceil() as i64, (high / step + 1e-9).floor() as i64)
        };
        [between(self.origin.0, far.0), between(self.origin.1, far.1)]
    }

    /// Grid lines, one a tile where there is room.
    pub(super) fn grid(&self, sheet: &mut Sheet<'_>, tile: f64) {
        let step = self.step(tile, 7.0);
        let [columns, rows] = self.lines(step);
        let line = stroke(SMOKE, 0.6).faint(0.45);
        for column in columns.0..=columns.1 {
            let x = self.at(column as f64 * step, 0.0).0;
            sheet.line(&[(x, self.area.top), (x, self.area.bottom)], line);
        }
        for row in rows.0..=rows.1 {
            let y = self.at(0.0, row as f64 * step).1;
            sheet.line(&[(self.area.left, y), (self.area.right, y)], line);
        }
    }

    /// The frame itself, with tiles counted on the left and bottom, px on the right and top.
    pub(super) fn sides(&self, sheet: &mut Sheet<'_>, tile: f64, names: (&str, &str)) {
        let Area { left, top, right, bottom } = self.area;
        sheet.outline(&self.area, stroke(INK, 1.0));
        let step = self.step(tile, 30.0);
        let [columns, rows] = self.lines(step);
        let tick = stroke(INK, 1.0);
        for column in columns.0..=columns.1 {
            let place = column as f64 * step;
            let x = self.at(place, 0.0).0;
            sheet.line(&[(x, bottom), (x, bottom + 5.0)], tick);
            sheet.line(&[(x, top), (x, top - 5.0)], tick);
            sheet.text((x, bottom + 18.0), 12.0, Align::Middle, &short(place / tile));
            sheet.text((x, top - 9.0), 11.0, Align::Middle, &short(place));
        }
        for row in rows.0..=rows.1 {
            let place = row as f64 * step;
            let y = self.at(0.0, place).1;
            sheet.line(&[(left, y), (left - 5.0, y)], tick);
            sheet.line(&[(right, y), (right + 5.0, y)], tick);
            sheet.text((left - 9.0, y + 4.0), 12.0, Align::Right, &short(place / tile));
            sheet.text((right + 9.0, y + 4.0), 11.0, Align::Left, &short(place));
        }
        let middle = (top + bottom) / 2.0;
        let widest =
            (rows.0..=rows.1).map(|row| text_width(&short(row as f64 * step / tile), 12.0)).fold(16.0, f64::max);
        sheet.text(((left + right) / 2.0, bottom + 36.0), 12.0, Align::Middle, names.0);
        sheet.upward_text((left - widest - 22.0, middle), 12.0, Align::Middle, names.1);
        sheet.text((right + 9.0, top - 23.0), 11.0, Align::Left, "px");
    }

    /// A whole number of tiles that is at least so many px of the page long: 1, 2, 5, 10, 20, ...
    fn step(&self, tile: f64, least: f64) -> f64 {
        let mut factor = 1.0;
        for next in [2.0, 2.5, 2.0].into_iter().cycle().take(18) {
            if factor * tile * self.scale >= least {
                break;
            }
            factor *= next;
        }
        factor * tile
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const AREA: Area = Area { left: 100.0, top: 50.0, right: 500.0, bottom: 250.0 };

    #[test]
    fn one_scale_in_both_directions_heights_up_and_maps_down() {
        let heights = Frame::fit(AREA, (0.0, 100.0), (0.0, 100.0), Vertical::Heights, true);
        let (a, b) = (heights.at(0.0, 0.0), heights.at(10.0, 10.0));
        assert_eq!((b.0 - a.0, a.1 - b.1), (20.0, 20.0));
        let map = Frame::fit(AREA, (0.0, 100.0), (0.0, 100.0), Vertical::Map, false);
        assert_eq!((map.at(0.0, 0.0), map.at(100.0, 100.0)), ((200.0, 50.0), (400.0, 250.0)));
    }

    #[test]
    fn a_path_is_cut_where_it_leaves_the_frame() {
        let frame = Frame::fit(AREA, (0.0, 400.0), (0.0, 200.0), Vertical::Map, false);
        let inside = [(120.0, 60.0), (130.0, 70.0), (140.0, 60.0)];
        assert_eq!(frame.clip_path(&inside), [inside.to_vec()]);
        let out_and_back = [(120.0, 60.0), (120.0, 20.0), (160.0, 20.0), (160.0, 80.0)];
        let parts = [vec![(120.0, 60.0), (120.0, 50.0)], vec![(160.0, 50.0), (160.0, 80.0)]];
        assert_eq!(frame.clip_path(&out_and_back), parts);
        assert!(frame.clip_path(&[(0.0, 0.0), (20.0, 0.0)]).is_empty());
    }

    #[test]
    fn grid_lines_thin_out_where_tiles_are_small() {
        let frame = Frame::fit(AREA, (0.0, 16000.0), (0.0, 100.0), Vertical::Map, true);
        assert_eq!(frame.step(16.0, 7.0), 16.0 * 20.0);
    }
}
