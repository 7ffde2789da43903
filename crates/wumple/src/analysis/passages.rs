//! The narrow places of a level, and which of them a body does not fit through.

use serde::Serialize;

use crate::files::Level;
use wumple_core::{Body, Terrain};

/// A gap between solid tiles that face each other.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Passage {
    /// The first and last columns of it, from 0.
    pub columns: (i32, i32),
    /// The first and last rows of it, from 0.
    pub rows: (i32, i32),
    /// Whether its height is meant, between a floor and a ceiling; else its width, between two walls.
    pub is_height: bool,
    /// How high or how wide it is, px.
    pub size_px: f64,
}

/// The passages between solid tiles of a level that are too low or too narrow for a body, the tightest
/// first. Blocks and ramps are not looked at.
#[must_use]
pub fn tight_passages(level: &Level, body: &Body) -> Vec<Passage> {
    let (columns, rows) = (level.grid.columns(), level.grid.rows());
    let solid = |column, row| level.grid.is_solid(column, row);
    let tile = level.grid.grid_lines().spacing();
    let mut low = gaps(columns, rows, solid);
    low.retain(|gap| f64::from(gap.1.1 - gap.1.0 + 1) * tile < body.height);
    let mut narrow = gaps(rows, columns, |row, column| solid(column, row));
    narrow.retain(|gap| f64::from(gap.1.1 - gap.1.0 + 1) * tile < body.width);
    let size = |gap: (i32, i32)| f64::from(gap.1 - gap.0 + 1) * tile;
    let mut tight: Vec<Passage> = low
        .into_iter()
        .map(|(columns, rows)| Passage { columns, rows, is_height: true, size_px: size(rows) })
        .chain(narrow.into_iter().map(|(rows, columns)| Passage {
            columns,
            rows,
            is_height: false,
            size_px: size(columns),
        }))
        .collect();
    tight.sort_by(|a, b| a.size_px.total_cmp(&b.size_px));
    tight
}

/// The first and last of a row of lines, and the first and last place of the gap in them.
type Gap = ((i32, i32), (i32, i32));

/// The gaps between two solid places along each line; neighbouring lines with the same gap are one.
fn gaps(lines: i32, length: i32, solid: impl Fn(i32, i32) -> bool) -> Vec<Gap> {
    let mut gaps: Vec<Gap> = Vec::new();
    for line in 0..lines {
        let mut wall = None;
        for place in 0..length {
            if !solid(line, place) {
                continue;
            }
            if let Some(before) = wall.filter(|before| before + 1 < place) {
                let gap = (before + 1, place - 1);
                match gaps.iter_mut().find(|known| known.1 == gap && known.0.1 + 1 == line) {
                    Some(known) => known.0.1 = line,
                    None => gaps.push(((line, line), gap)),
                }
            }
            wall = Some(place);
        }
    }
    gaps
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_a_body_does_not_fit_through_is_found_with_its_place() {
        let rows = "########\n#.@....#\n#......#\n#.####.#\n#.#..#.#\n#.#..###\n########";
        let level = Level::parse("room", &format!("[map]\nrows = '''\n{rows}\n'''")).unwrap();
        let tight = |width, height| tight_passages(&level, &Body { width, height });
        assert_eq!(tight(10.0, 14.0), []);
        let wide = tight(20.0, 14.0);
        assert_eq!(wide.len(), 2);
        assert_eq!((wide[0].columns, wide[0].rows, wide[0].size_px, wide[0].is_height), ((1, 1), (3, 5), 16.0, false));
        let tall: Vec<_> = tight(10.0, 40.0).iter().map(|gap| (gap.columns, gap.rows)).collect();
        assert_eq!(tall, [((2, 5), (1, 2)), ((3, 4), (4, 5))]);
    }
}
