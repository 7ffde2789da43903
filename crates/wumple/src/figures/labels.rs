//! Where labels go: beside their point, over nothing else.

use super::paper::{Align, Area, PAPER, Point, SMOKE, Sheet, stroke, text_width};

const SIZE: f64 = 12.0;
const LINE: f64 = 15.0;

/// Places labels one after another; none overlaps another, the frame, or a point marked as important.
pub(super) struct Labels {
    bounds: Area,
    taken: Vec<Area>,
    /// Points of the data that a label had better not hide.
    data: Vec<Point>,
}

impl Labels {
    /// Labels within `bounds`, which should leave free what `data` shows.
    pub(super) fn new(bounds: Area, data: Vec<Point>) -> Labels {
        Labels { bounds, taken: Vec::new(), data }
    }

    /// Keeps an area free of labels.
    pub(super) fn keep_free(&mut self, area: Area) {
        self.taken.push(area);
    }

    /// Finds a place for a label of these lines beside a point. `None` if all around is taken.
    pub(super) fn place(&mut self, point: Point, lines: &[String]) -> Option<Area> {
        let width = lines.iter().map(|line| text_width(line, SIZE)).fold(0.0, f64::max) + 6.0;
        let height = LINE * lines.len() as f64 + 3.0;
        let mut best: Option<(f64, Area)> = None;
        for distance in [9.0, 16.0, 26.0, 40.0, 58.0, 80.0, 110.0, 150.0, 200.0] {
            for turn in 0..24 {
                let area = beside(point, distance, turn, width, height);
                if let Some(cost) = self.cost(&area, distance)
                    && best.is_none_or(|(least, _)| cost < least)
                {
                    best = Some((cost, area));
                }
            }
        }
        let (_, area) = best?;
        self.taken.push(area);
        Some(area)
    }

    /// How bad a place is; `None` if it must not be taken.
    fn cost(&self, area: &Area, distance: f64) -> Option<f64> {
        let inside = area.left >= self.bounds.left
            && area.right <= self.bounds.right
            && area.top >= self.bounds.top
            && area.bottom <= self.bounds.bottom;
        if !inside || self.taken.iter().any(|taken| taken.overlaps(&area.grown(2.0))) {
            return None;
        }
        let hidden = self.data.iter().filter(|point| area.grown(2.0).contains(**point)).count();
        Some(distance + 25.0 * hidden as f64)
    }
}

/// The area whose nearest edge is this far from the point, in one of 24 directions, first above right.
fn beside((x, y): Point, distance: f64, turn: u32, width: f64, height: f64) -> Area {
    let order = [21, 3, 18, 15, 9, 6, 0, 12, 20, 22, 2, 4, 16, 14, 8, 10, 19, 23, 1, 5, 17, 13, 7, 11][turn as usize];
    let angle = f64::from(order) * std::f64::consts::TAU / 24.0;
    let (sin, cos) = angle.sin_cos();
    let centre = (x + cos * (distance + width / 2.0), y + sin * (distance + height / 2.0));
    Area {
        left: centre.0 - width / 2.0,
        top: centre.1 - height / 2.0,
        right: centre.0 + width / 2.0,
        bottom: centre.1 + height / 2.0,
    }
}

/// Draws a placed label, with a thin line from its point if it stands apart.
pub(super) fn draw(sheet: &mut Sheet<'_>, point: Point, area: &Area, lines: &[String]) {
    let near = (point.0.clamp(area.left, area.right), point.1.clamp(area.top, area.bottom));
    if (near.0 - point.0).hypot(near.1 - point.1) > 7.0 {
        sheet.line(&[point, near], stroke(SMOKE, 0.8));
    }
    sheet.fill_area(area, PAPER, 0.85);
    for (number, line) in lines.iter().enumerate() {
        let base = area.top + LINE * (number as f64 + 1.0) - 2.5;
        sheet.text((area.left + 3.0, base), SIZE, Align::Left, line);
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const BOUNDS: Area = Area { left: 0.0, top: 0.0, right: 600.0, bottom: 400.0 };

    #[test]
    fn crowded_labels_overlap_neither_each_other_nor_the_frame() {
        let mut labels = Labels::new(BOUNDS, Vec::new());
        let words = [String::from("3.4 tiles at 0.35 s")];
        let placed: Vec<Area> =
            (0..12).map(|n| labels.place((300.0 + f64::from(n), 200.0), &words).expect("room enough")).collect();
        for (n, one) in placed.iter().enumerate() {
            assert!(one.left >= 0.0 && one.right <= 600.0 && one.top >= 0.0 && one.bottom <= 400.0);
            assert!(placed[n + 1..].iter().all(|other| !one.overlaps(other)));
        }
    }

    #[test]
    fn a_label_leaves_the_data_free_if_it_can() {
        let data: Vec<Point> = (0..200).map(|n| (f64::from(n) * 3.0, 190.0)).collect();
        let mut labels = Labels::new(BOUNDS, data.clone());
        let area = labels.place((300.0, 190.0), &[String::from("apex")]).unwrap();
        assert!(data.iter().all(|point| !area.contains(*point)));
    }

    #[test]
    fn no_room_is_said() {
        let mut labels = Labels::new(Area { right: 20.0, ..BOUNDS }, Vec::new());
        assert_eq!(labels.place((10.0, 200.0), &[String::from("far too long for this")]), None);
    }
}
