use super::Hitbox;

/// Added to a number below 2^31 and taken off again, it leaves the nearest whole number: 1.5 * 2^52, at
/// which doubles are one apart. Cheaper than a conversion there and back, and the same everywhere.
const ROUNDER: f64 = 6_755_399_441_055_744.0;

/// A whole number of at most 2^31 as an integer: the low bits of its sum with [`ROUNDER`].
#[inline]
fn whole(number: f64) -> i32 {
    (number + ROUNDER).to_bits() as i32
}

/// Evenly spaced lines, `index * spacing`, along one axis.
///
/// Every answer is estimated by a multiplication and then settled by comparison, with the place asked
/// for alone on one side, so that a place exactly on a line never falls to the wrong cell.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct GridLines {
    spacing: f64,
    per_spacing: f64,
}

impl GridLines {
    /// Lines `spacing` px apart, above 0.
    #[must_use]
    pub fn new(spacing: f64) -> GridLines {
        debug_assert!(spacing > 0.0);
        GridLines { spacing, per_spacing: 1.0 / spacing }
    }

    /// The distance between two lines, px.
    #[inline]
    #[must_use]
    pub fn spacing(&self) -> f64 {
        self.spacing
    }

    /// Where line `index` lies, px.
    #[inline]
    #[must_use]
    pub fn line(&self, index: i32) -> f64 {
        f64::from(index) * self.spacing
    }

    /// The box of the cell in this column and row, px.
    #[inline]
    #[must_use]
    pub fn cell(&self, column: i32, row: i32) -> Hitbox {
        Hitbox {
            left: self.line(column),
            right: self.line(column + 1),
            top: self.line(row),
            bottom: self.line(row + 1),
        }
    }

    /// The greatest index whose line, moved by `offset`, is at or before `place`.
    #[inline]
    #[must_use]
    pub fn last_at_or_before(&self, place: f64, offset: f64) -> i32 {
        let mut index = self.estimate(place - offset);
        while place < index * self.spacing + offset {
            index -= 1.0;
        }
        while place >= (index + 1.0) * self.spacing + offset {
            index += 1.0;
        }
        whole(index)
    }

    /// The greatest index whose line, moved by `offset`, is strictly before `place`.
    #[inline]
    #[must_use]
    pub fn last_before(&self, place: f64, offset: f64) -> i32 {
        let mut index = self.estimate(place - offset);
        while place <= index * self.spacing + offset {
            index -= 1.0;
        }
        while place > (index + 1.0) * self.spacing + offset {
            index += 1.0;
        }
        whole(index)
    }

    /// A whole number near the index wanted: within one of it, unless rounding has its say.
    #[inline]
    fn estimate(&self, place: f64) -> f64 {
        (place * self.per_spacing - 0.5 + ROUNDER) - ROUNDER
    }

    /// The first and last cells that a span `[place - before, place + after)` overlaps.
    #[inline]
    #[must_use]
    pub fn cells(&self, place: f64, before: f64, after: f64) -> (i32, i32) {
        (self.last_at_or_before(place, before), self.last_before(place, -after))
    }
}

impl GridLines {
    /// The cells of a range that a span `[from, to]` touches, and perhaps one more at either end: for whoever
    /// compares places anyway.
    #[inline]
    pub(crate) fn cells_about(&self, from: f64, to: f64, cells: core::ops::Range<i32>) -> core::ops::Range<i32> {
        // A cast holds what is beyond every cell at the end of its range, and rounds towards 0.
        let begin = from * self.per_spacing - 1e-6;
        let first = begin as i32 - i32::from(begin < 0.0);
        let last = (to * self.per_spacing + 1e-6) as i32;
        first.max(cells.start)..last.min(cells.end - 1) + 1
    }

    /// All cells between where coordinates end, for a terrain without ends.
    #[must_use]
    pub fn all_cells(&self) -> core::ops::Range<i32> {
        let most = (crate::tuning::LIMIT_LENGTH * self.per_spacing) as i32;
        -most..most
    }
}

#[cfg(test)]
mod tests {
    use super::GridLines;

    #[test]
    fn a_place_on_a_line_belongs_to_the_cell_after_it() {
        for tile in [16.0, 10.0, 7.0, 0.1, 12.5, 1.0 / 3.0] {
            let lines = GridLines::new(tile);
            for index in -3000..3000 {
                let line = lines.line(index);
                assert_eq!(lines.last_at_or_before(line, 0.0), index);
                assert_eq!(lines.last_before(line, 0.0), index - 1);
                assert_eq!(lines.last_at_or_before(line.next_down(), 0.0), index - 1);
                assert_eq!(lines.last_before(line.next_up(), 0.0), index);
            }
        }
    }

    #[test]
    fn the_cells_about_a_span_are_all_that_it_touches() {
        for tile in [16.0, 7.0, 12.5, 1.0 + 1.0 / 1024.0] {
            let lines = GridLines::new(tile);
            for step in -200..4000 {
                let (from, to) = (f64::from(step) * tile / 8.0, f64::from(step + 11) * tile / 8.0);
                let about = lines.cells_about(from, to, 0..400);
                for cell in 0..400 {
                    let touched = lines.line(cell) <= to && lines.line(cell + 1) >= from;
                    assert!(!touched || about.contains(&cell), "{tile} {from} {to} {cell}");
                }
                assert!(about.len() <= 4);
            }
        }
    }

    #[test]
    fn edges_that_only_touch_do_not_overlap() {
        let lines = GridLines::new(16.0);
        assert_eq!(lines.cells(24.0, 8.0, 8.0), (1, 1));
        assert_eq!(lines.cells(24.0, 8.5, 8.0), (0, 1));
        assert_eq!(lines.cells(24.0, 8.0, 8.5), (1, 2));
        assert_eq!(lines.cells(32.0, 22.0, 0.0), (0, 1));
    }
}
