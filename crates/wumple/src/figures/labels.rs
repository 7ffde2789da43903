//! Where labels go: beside their point, over nothing else, where the least is drawn.

use super::sheet::{Align, Area, PAPER, Point, SMOKE, Sheet, stroke, text_width};

const SIZE: f64 = 12.0;
const LINE: f64 = 15.0;
/// The side of a cell in which it is counted what is drawn, px.
const CELL: f64 = 4.0;
/// How bad it is to hide a point of the data, in px that a label would rather stand away.
const POINT: f64 = 25.0;

/// Places labels one after another; none overlaps another, the frame, or a point marked as important.
pub(super) struct Labels {
    bounds: Area,
    taken: Vec<Area>,
    ink: Ink,
    /// How far from its point a label may stand, px.
    farthest: f64,
}

/// How much is drawn where: what a label had better not hide.
struct Ink {
    columns: usize,
    rows: usize,
    /// Sums over all cells above and to the left, with a row and a column of zeros before the first.
    sums: Vec<f64>,
    cells: Vec<f64>,
}

impl Ink {
    fn new(bounds: &Area) -> Ink {
        let count = |length: f64| (length.max(0.0) / CELL).ceil() as usize + 1;
        let (columns, rows) = (count(bounds.width()), count(bounds.height()));
        Ink { columns, rows, sums: Vec::new(), cells: vec![0.0; columns * rows] }
    }

    /// The cells that an area of the bounds touches, from the first to the one after the last.
    fn cells_of(&self, bounds: &Area, area: &Area) -> ((usize, usize), (usize, usize)) {
        let span = |low: f64, high: f64, count: usize| {
            let first = ((low / CELL).floor().max(0.0) as usize).min(count);
            (first, ((high / CELL).floor().max(-1.0) + 1.0).clamp(first as f64, count as f64) as usize)
        };
        (
            span(area.left - bounds.left, area.right - bounds.left, self.columns),
            span(area.top - bounds.top, area.bottom - bounds.top, self.rows),
        )
    }

    fn add(&mut self, bounds: &Area, area: &Area, weight: f64) {
        let (columns, rows) = self.cells_of(bounds, area);
        for row in rows.0..rows.1 {
            self.cells[row * self.columns + columns.0..row * self.columns + columns.1]
                .iter_mut()
                .for_each(|cell| *cell += weight);
        }
        self.sums.clear();
    }

    fn sum(&mut self, bounds: &Area, area: &Area) -> f64 {
        let wide = self.columns + 1;
        if self.sums.is_empty() {
            self.sums = vec![0.0; wide * (self.rows + 1)];
            for row in 0..self.rows {
                for column in 0..self.columns {
                    self.sums[(row + 1) * wide + column + 1] = self.cells[row * self.columns + column]
                        + self.sums[row * wide + column + 1]
                        + self.sums[(row + 1) * wide + column]
                        - self.sums[row * wide + column];
                }
            }
        }
        let (columns, rows) = self.cells_of(bounds, area);
        let at = |column: usize, row: usize| self.sums[row * wide + column];
        at(columns.1, rows.1) - at(columns.0, rows.1) - at(columns.1, rows.0) + at(columns.0, rows.0)
    }
}

/// A label that has a place.
pub(super) struct Placed {
    pub(super) area: Area,
    /// Whether something is drawn beneath it.
    is_over: bool,
}

impl Labels {
    /// Labels within `bounds`, which should leave free what `data` shows.
    pub(super) fn new(bounds: Area, data: Vec<Point>) -> Labels {
        let mut labels = Labels { bounds, taken: Vec::new(), ink: Ink::new(&bounds), farthest: f64::INFINITY };
        for (x, y) in data {
            labels.avoid(&Area { left: x, right: x, top: y, bottom: y }, POINT);
        }
        labels
    }

    /// Keeps an area free of labels.
    pub(super) fn keep_free(&mut self, area: Area) {
        self.taken.push(area);
    }

    /// So many labels are to be placed: where they are many, those that find no place near their points are left out,
    /// instead of being tied to them by long lines across each other.
    pub(super) fn expect(&mut self, count: usize) {
        self.farthest = if count > 14 { 60.0 } else { f64::INFINITY };
    }

    /// From now on labels stand right beside their points, or nowhere.
    pub(super) fn stay_near(&mut self) {
        self.farthest = 16.0;
    }

    /// Had better leave an area free: `weight` for each cell of it that is hidden, in px that a label would rather
    /// stand away.
    pub(super) fn avoid(&mut self, area: &Area, weight: f64) {
        self.ink.add(&self.bounds, area, weight);
    }

    /// Finds a place for a label of these lines beside a point. `None` if all around is taken.
    pub(super) fn place(&mut self, point: Point, lines: &[String]) -> Option<Placed> {
        let width = lines.iter().map(|line| text_width(line, SIZE)).fold(0.0, f64::max) + 6.0;
        let height = LINE * lines.len() as f64 + 3.0;
        let mut best: Option<(f64, Area, bool)> = None;
        let distances = [9.0, 16.0, 26.0, 40.0, 58.0, 80.0, 110.0, 150.0, 200.0, 260.0];
        let farthest = self.farthest;
        for distance in distances.into_iter().filter(|distance| *distance <= farthest) {
            for turn in 0..24 {
                let area = beside(point, distance, turn, width, height);
                if let Some(hidden) = self.hidden(&area)
                    && best.is_none_or(|(least, ..)| distance + hidden < least)
                {
                    // Sums of rounded numbers are never quite nothing.
                    best = Some((distance + hidden, area, hidden > 1e-6));
                }
            }
        }
        let (_, area, is_over) = best?;
        self.taken.push(area);
        Some(Placed { area, is_over })
    }

    /// How much a label would hide; `None` if it must not stand there.
    fn hidden(&mut self, area: &Area) -> Option<f64> {
        let inside = area.left >= self.bounds.left
            && area.right <= self.bounds.right
            && area.top >= self.bounds.top
            && area.bottom <= self.bounds.bottom;
        if !inside || self.taken.iter().any(|taken| taken.overlaps(&area.grown(2.0))) {
            return None;
        }
        Some(self.ink.sum(&self.bounds, &area.grown(2.0)))
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

/// Draws a placed label, with a thin line from its point if it stands apart. What is beneath it shines through.
pub(super) fn draw(sheet: &mut Sheet<'_>, point: Point, placed: &Placed, lines: &[String]) {
    let Placed { area, is_over } = placed;
    let near = (point.0.clamp(area.left, area.right), point.1.clamp(area.top, area.bottom));
    if (near.0 - point.0).hypot(near.1 - point.1) > 7.0 {
        sheet.line(&[point, near], stroke(SMOKE, 0.8));
    }
    if *is_over {
        sheet.fill_area(area, PAPER, 0.5);
    }
    for (number, line) in lines.iter().enumerate() {
        let base = area.top + LINE * (number as f64 + 1.0) - 2.5;
        sheet.text((area.left + 3.0, base), SIZE, Align::Left, line);
    }
}

/// A sentence in lines of about so many letters, the later ones set in.
pub(super) fn wrapped(words: &str, letters: usize) -> Vec<String> {
    let mut lines: Vec<String> = Vec::new();
    for word in words.split_whitespace() {
        match lines.last_mut().filter(|line| line.chars().count() + 1 + word.chars().count() <= letters) {
            Some(line) => *line += &format!(" {word}"),
            None => lines.push(if lines.is_empty() { word.to_owned() } else { format!("    {word}") }),
        }
    }
    lines
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
            (0..12).map(|n| labels.place((300.0 + f64::from(n), 200.0), &words).expect("room enough").area).collect();
        for (n, one) in placed.iter().enumerate() {
            assert!(one.left >= 0.0 && one.right <= 600.0 && one.top >= 0.0 && one.bottom <= 400.0);
            assert!(placed[n + 1..].iter().all(|other| !one.overlaps(other)));
        }
    }

    #[test]
    fn a_label_leaves_the_data_and_the_walls_free_if_it_can() {
        let data: Vec<Point> = (0..200).map(|n| (f64::from(n) * 3.0, 190.0)).collect();
        let mut labels = Labels::new(BOUNDS, data.clone());
        let wall = Area { bottom: 185.0, ..BOUNDS };
        labels.avoid(&wall, 0.6);
        let placed = labels.place((300.0, 190.0), &[String::from("apex")]).unwrap();
        assert!(data.iter().all(|point| !placed.area.contains(*point)));
        assert!(!placed.area.overlaps(&wall) && !placed.is_over, "{:?}", placed.area);
    }

    #[test]
    fn no_room_is_said() {
        let mut labels = Labels::new(Area { right: 20.0, ..BOUNDS }, Vec::new());
        assert!(labels.place((10.0, 200.0), &[String::from("far too long for this")]).is_none());
    }

    #[test]
    fn sentences_are_wrapped_and_not_cut() {
        let words = "stand on solid at (24, 32) px, no event; it is so in no tick of the run";
        let lines = wrapped(words, 30);
        assert!(lines.len() > 2 && lines.iter().all(|line| line.chars().count() <= 34));
        assert_eq!(lines.iter().map(|line| line.trim()).collect::<Vec<_>>().join(" "), words);
    }
}
