//! Which of many boxes are near: the cost does not grow with their number.

use alloc::vec::Vec;

use super::Hitbox;

/// Which boxes touch which cell of a coarse grid over all of them.
#[derive(Clone, Debug, Default, PartialEq)]
pub(crate) struct Index {
    left: f64,
    top: f64,
    per_cell: f64,
    columns: usize,
    rows: usize,
    /// Where the boxes of each cell begin in `boxes`, and at the end how many there are.
    starts: Vec<u32>,
    boxes: Vec<u32>,
    /// The boxes themselves.
    extents: Vec<Hitbox>,
}

/// The smallest cell, px.
const LEAST_CELL: f64 = 32.0;

impl Index {
    /// A box around all of them.
    pub(crate) fn whole(&self) -> Hitbox {
        self.extents.iter().copied().reduce(|whole, other| whole.around(&other)).unwrap_or(Hitbox::NOWHERE)
    }

    /// Cells are as small as keeps their number, and how often boxes are named, near the number of boxes.
    pub(crate) fn new(extents: impl Iterator<Item = Hitbox>) -> Index {
        let extents: Vec<Hitbox> = extents.collect();
        if extents.is_empty() {
            return Index::default();
        }
        let bound = |of: fn(&Hitbox) -> f64, least: bool| {
            extents.iter().map(of).fold(if least { f64::INFINITY } else { f64::NEG_INFINITY }, |a, b| {
                if least { a.min(b) } else { a.max(b) }
            })
        };
        let (left, right) = (bound(|area| area.left, true), bound(|area| area.right, false));
        let (top, bottom) = (bound(|area| area.top, true), bound(|area| area.bottom, false));
        let most = 8.0 * extents.len() as f64 + 1024.0;
        let mut cell = LEAST_CELL;
        loop {
            let along = |length: f64| (length / cell) as usize + 1;
            let (columns, rows) = (along(right - left), along(bottom - top));
            let per_cell = 1.0 / cell;
            let mut index = Index { left, top, per_cell, columns, rows, ..Index::default() };
            let named: f64 = extents.iter().map(|area| index.cells_touched(area)).sum();
            if (columns as f64 * rows as f64).max(named) <= most || columns * rows == 1 {
                index.fill(&extents);
                index.extents = extents;
                return index;
            }
            cell *= 2.0;
        }
    }

    fn cells_touched(&self, area: &Hitbox) -> f64 {
        self.cells(area).map_or(0.0, |(left, right, top, bottom)| ((right - left + 1) * (bottom - top + 1)) as f64)
    }

    fn fill(&mut self, extents: &[Hitbox]) {
        let mut counts = alloc::vec![0u32; self.columns * self.rows + 1];
        for area in extents {
            self.each_cell(area, |cell| counts[cell + 1] += 1);
        }
        for cell in 1..counts.len() {
            counts[cell] += counts[cell - 1];
        }
        let mut next = counts.clone();
        let mut boxes = alloc::vec![0u32; counts[counts.len() - 1] as usize];
        for (index, area) in extents.iter().enumerate() {
            self.each_cell(area, |cell| {
                boxes[next[cell] as usize] = index as u32;
                next[cell] += 1;
            });
        }
        (self.starts, self.boxes) = (counts, boxes);
    }

    fn each_cell(&self, area: &Hitbox, mut visit: impl FnMut(usize)) {
        if let Some((left, right, top, bottom)) = self.cells(area) {
            for row in top..=bottom {
                (left..=right).for_each(|column| visit(row * self.columns + column));
            }
        }
    }

    /// The first and last columns and rows of cells that an area touches, if any.
    #[inline]
    fn cells(&self, area: &Hitbox) -> Option<(usize, usize, usize, usize)> {
        let along = |from: f64, to: f64, start: f64, count: usize| {
            let (first, last) = ((from - start) * self.per_cell, (to - start) * self.per_cell);
            // A cast holds what is negative at 0.
            (count > 0 && last >= 0.0 && first < count as f64).then(|| (first as usize, (last as usize).min(count - 1)))
        };
        let (left, right) = along(area.left, area.right, self.left, self.columns)?;
        let (top, bottom) = along(area.top, area.bottom, self.top, self.rows)?;
        Some((left, right, top, bottom))
    }

    /// Every box that touches the area, each once, in no particular order.
    pub(crate) fn near(&self, area: &Hitbox, mut visit: impl FnMut(usize)) {
        let Some((left, right, top, bottom)) = self.cells(area) else { return };
        let one_cell = left == right && top == bottom;
        for row in top..=bottom {
            for column in left..=right {
                let cell = row * self.columns + column;
                for index in &self.boxes[self.starts[cell] as usize..self.starts[cell + 1] as usize] {
                    let index = *index as usize;
                    let other = &self.extents[index];
                    // Only in the first of the cells that both touch.
                    let is_first = || {
                        self.cells(other).is_some_and(|(its_left, _, its_top, _)| {
                            its_left.max(left) == column && its_top.max(top) == row
                        })
                    };
                    if other.touches(area) && (one_cell || is_first()) {
                        visit(index);
                    }
                }
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_is_near_is_found_once_and_nothing_else() {
        let mut seed = 5u64;
        let mut next = |most: f64| {
            seed = seed.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
            (seed >> 40) as f64 / (1u64 << 24) as f64 * most
        };
        for (count, size) in [(1, 10.0), (30, 300.0), (400, 20.0), (3, 5000.0)] {
            let mut a_box = |across: f64, down: f64, size: f64| {
                let (left, top) = (next(across) - 500.0, next(down) - 250.0);
                Hitbox { left, right: left + next(size) + 1.0, top, bottom: top + next(size) + 1.0 }
            };
            let boxes: Vec<Hitbox> = (0..count).map(|_| a_box(3000.0, 2000.0, size)).collect();
            let index = Index::new(boxes.iter().copied());
            for _ in 0..300 {
                let area = a_box(4000.0, 3000.0, 200.0);
                let expected: Vec<usize> = (0..boxes.len()).filter(|index| boxes[*index].touches(&area)).collect();
                let mut found = Vec::new();
                index.near(&area, |index| found.push(index));
                found.sort_unstable();
                assert_eq!(found, expected);
            }
        }
    }
}
