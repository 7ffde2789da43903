//! The narrow places of a level, and which of them a body does not fit through.

use serde::Serialize;

use crate::files::Level;
use wumple_core::numbers::PlatformSurface;
use wumple_core::{Block, Body, DVec2, Edge, Hitbox, Terrain};

/// A gap between two solid faces: of tiles, blocks, platforms that stay, props, and solid edges of the map.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[non_exhaustive]
pub struct Passage {
    /// The first and last columns that it reaches into, from 0.
    pub columns: (i32, i32),
    /// The first and last rows that it reaches into, from 0.
    pub rows: (i32, i32),
    /// Whether its height is meant, between a floor and a ceiling; else its width, between two walls.
    pub is_height: bool,
    /// How high or how wide it is, px.
    pub size_px: f64,
}

/// The passages of a level that are too low or too narrow for a body, the tightest first.
///
/// Platforms that go somewhere and ramps are not looked at. Props are where the level puts them. The work grows
/// with the tiles of the map, and for each column and row with the boxes that reach into it.
#[must_use]
pub fn tight_passages(level: &Level, body: &Body) -> Vec<Passage> {
    let grid = &level.grid;
    let (columns, rows, tile) = (grid.columns(), grid.rows(), grid.grid_lines().spacing());
    let edges = grid.edges();
    let boxes = solid_boxes(level);
    let sideways = |of: &Hitbox| Span { from: of.left, to: of.right };
    let upright = |of: &Hitbox| Span { from: of.top, to: of.bottom };
    let low = Sweep {
        lines: columns,
        places: rows,
        tile,
        is_solid: |column, row| grid.is_solid(column, row),
        edges: [edges.top, edges.bottom],
        boxes: boxes.iter().map(|of| (sideways(of), upright(of))).collect(),
        needed: body.height,
    };
    let narrow = Sweep {
        lines: rows,
        places: columns,
        tile,
        is_solid: |row, column| grid.is_solid(column, row),
        edges: [edges.left, edges.right],
        boxes: boxes.iter().map(|of| (upright(of), sideways(of))).collect(),
        needed: body.width,
    };
    let passage = |gap: &Gap, is_height| {
        let (across, along) = (gap.across.tiles(tile), gap.along.tiles(tile));
        let (columns, rows) = if is_height { (across, along) } else { (along, across) };
        Passage { columns, rows, is_height, size_px: gap.along.length() }
    };
    let (low, narrow) = (low.gaps(), narrow.gaps());
    let mut tight: Vec<Passage> =
        low.iter().map(|gap| passage(gap, true)).chain(narrow.iter().map(|gap| passage(gap, false))).collect();
    tight.sort_by(|a, b| a.size_px.total_cmp(&b.size_px));
    tight
}

/// The boxes that are solid beside the tiles, and stay where they are.
fn solid_boxes(level: &Level) -> Vec<Hitbox> {
    let at = |corner: DVec2, size: DVec2| Hitbox {
        left: corner.x,
        right: corner.x + size.x,
        top: corner.y,
        bottom: corner.y + size.y,
    };
    let blocks = level.grid.blocks().iter().map(Block::place);
    let stays = level.platforms.iter().filter(|of| of.route.len() == 1 && of.surface == PlatformSurface::Solid);
    let props = level.props.iter().filter(|of| of.surface == PlatformSurface::Solid);
    blocks.chain(stays.map(|of| at(of.route[0], of.size))).chain(props.map(|of| at(of.corner, of.size))).collect()
}

/// A part of an axis, px.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Span {
    from: f64,
    to: f64,
}

impl Span {
    fn length(self) -> f64 {
        self.to - self.from
    }

    /// The first and last tile that it reaches into.
    fn tiles(self, tile: f64) -> (i32, i32) {
        ((self.from / tile).floor() as i32, (self.to / tile).ceil() as i32 - 1)
    }
}

/// A gap along the places of one or more lines.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Gap {
    across: Span,
    along: Span,
}

/// Looks for gaps line by line: columns from top to bottom, or rows from left to right.
struct Sweep<S> {
    lines: i32,
    places: i32,
    tile: f64,
    /// Whether a place of a line is solid.
    is_solid: S,
    /// What lies before the first place, and after the last.
    edges: [Edge; 2],
    /// Each box across the lines, and along their places.
    boxes: Vec<(Span, Span)>,
    /// Gaps of this length, px, are wide enough.
    needed: f64,
}

impl<S: Fn(i32, i32) -> bool> Sweep<S> {
    fn gaps(mut self) -> Vec<Gap> {
        self.boxes.sort_by(|a, b| a.0.from.total_cmp(&b.0.from));
        let mut to_come = self.boxes.iter().peekable();
        let mut reached: Vec<(Span, Span)> = Vec::new();
        let mut found = Found::default();
        for line in 0..self.lines {
            let across = Span { from: f64::from(line) * self.tile, to: f64::from(line + 1) * self.tile };
            reached.retain(|of| of.0.to > across.from);
            while let Some(of) = to_come.next_if(|of| of.0.from < across.to) {
                reached.push(*of);
            }
            let tiles = self.spans_of_tiles(line);
            // Between two of the cuts nothing begins and nothing ends.
            let mut cuts = vec![across.from, across.to];
            let ends = reached.iter().flat_map(|of| [of.0.from, of.0.to]);
            cuts.extend(ends.filter(|cut| (across.from..across.to).contains(cut)));
            cuts.sort_by(f64::total_cmp);
            cuts.dedup();
            for cut in cuts.windows(2) {
                let across = Span { from: cut[0], to: cut[1] };
                let here = reached.iter().filter(|of| of.0.from < across.to && of.0.to > across.from);
                let mut solid: Vec<Span> = tiles.iter().copied().chain(here.map(|of| of.1)).collect();
                solid.sort_by(|a, b| a.from.total_cmp(&b.from));
                found.add(across, self.between(&solid));
            }
        }
        found.gaps
    }

    /// The solid tiles of a line with the edges of the map beside them, as few spans as there can be.
    fn spans_of_tiles(&self, line: i32) -> Vec<Span> {
        let solid = |place| match place {
            -1 => self.edges[0] == Edge::Solid,
            place if place == self.places => self.edges[1] == Edge::Solid,
            place => (self.is_solid)(line, place),
        };
        let mut spans: Vec<Span> = Vec::new();
        for place in (-1..=self.places).filter(|place| solid(*place)) {
            let span = Span { from: f64::from(place) * self.tile, to: f64::from(place + 1) * self.tile };
            match spans.last_mut() {
                Some(last) if last.to == span.from => last.to = span.to,
                _ => spans.push(span),
            }
        }
        spans
    }

    /// What is left free between spans in order, where it is too little.
    fn between(&self, solid: &[Span]) -> impl Iterator<Item = Span> {
        let mut to = f64::INFINITY;
        solid.iter().filter_map(move |span| {
            let free = Span { from: to, to: span.from };
            to = if to == f64::INFINITY { span.to } else { to.max(span.to) };
            (free.length() > 0.0 && free.length() < self.needed).then_some(free)
        })
    }
}

/// The gaps found so far; those of neighbouring lines that are alike are one.
#[derive(Default)]
struct Found {
    gaps: Vec<Gap>,
    /// Which of them reach to the line before, in order.
    open: Vec<usize>,
}

impl Found {
    fn add(&mut self, across: Span, gaps: impl Iterator<Item = Span>) {
        let mut before = core::mem::take(&mut self.open).into_iter().peekable();
        for along in gaps {
            while before.next_if(|index| self.gaps[*index].along.from < along.from).is_some() {}
            let alike = before.next_if(|index| self.gaps[*index].along == along);
            let index = alike.unwrap_or(self.gaps.len());
            match self.gaps.get_mut(index) {
                Some(known) => known.across.to = across.to,
                None => self.gaps.push(Gap { across, along }),
            }
            self.open.push(index);
        }
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn tight(level: &Level, width: f64, height: f64) -> Vec<Passage> {
        tight_passages(level, &Body { width, height })
    }

    #[test]
    fn what_a_body_does_not_fit_through_is_found_with_its_place() {
        let rows = "########\n#.@....#\n#......#\n#.####.#\n#.#..#.#\n#.#..###\n########";
        let level = Level::parse("room", &format!("[map]\nrows = '''\n{rows}\n'''")).unwrap();
        assert_eq!(tight(&level, 10.0, 14.0), []);
        let wide = tight(&level, 20.0, 14.0);
        assert_eq!(wide.len(), 2);
        assert_eq!((wide[0].columns, wide[0].rows, wide[0].size_px, wide[0].is_height), ((1, 1), (3, 5), 16.0, false));
        let tall = tight(&level, 10.0, 40.0);
        let tall: Vec<_> = tall.iter().map(|gap| (gap.columns, gap.rows)).collect();
        assert_eq!(tall, [((2, 5), (1, 2)), ((3, 4), (4, 5))]);
    }

    #[test]
    fn blocks_still_platforms_props_and_solid_edges_bound_passages_as_tiles_do() {
        let rows = ["........", "@.......", "........", "########"].join("\n");
        let room = |things: &str| Level::parse("room", &format!("{things}\n[map]\nrows = '''\n{rows}\n'''")).unwrap();
        let low = |things: &str| -> Vec<_> {
            tight(&room(things), 4.0, 22.0).iter().map(|gap| (gap.columns, gap.rows, gap.size_px)).collect()
        };
        let over_the_floor = [((2, 3), (1, 2), 18.0)];
        assert_eq!(low("[[block]]\nat = [40, 20]\nsize = [16, 10]"), over_the_floor);
        assert_eq!(low("[[platform]]\nroute = [[40, 20]]\nsize = [16, 10]"), over_the_floor);
        assert_eq!(low("[[prop]]\nat = [40, 20]\nsize = [16, 10]"), over_the_floor);
        assert_eq!(low("[[platform]]\nroute = [[40, 20]]\nsize = [16, 10]\nsurface = \"one-way\""), []);
        assert_eq!(low("[[platform]]\nroute = [[40, 20], [80, 20]]\nspeed = 10\nsize = [16, 10]"), []);
        let narrow = tight(&room("[[block]]\nat = [12, 32]\nsize = [16, 16]"), 14.0, 4.0);
        let narrow: Vec<_> = narrow.iter().map(|gap| (gap.columns, gap.rows, gap.size_px)).collect();
        assert_eq!(narrow, [((0, 0), (2, 2), 12.0)], "between the left edge, which is solid, and the block");
    }

    #[test]
    fn a_map_of_a_thousand_blocks_is_done_at_once() {
        let blocks: String = (0..40)
            .flat_map(|column| {
                (0..25).map(move |row| format!("[[block]]\nat = [{}, {}]\nsize = [9, 9]\n", column * 13, row * 13 + 20))
            })
            .collect();
        let row = ".".repeat(40);
        let rows = format!("@{}\n{}", ".".repeat(39), [row.as_str(); 24].join("\n"));
        let level = Level::parse("room", &format!("{blocks}[map]\nrows = '''\n{rows}\n'''")).unwrap();
        let gaps = tight(&level, 4.0, 4.5);
        assert_eq!(gaps.len(), 24 * 40, "each gap is one, across the lines of the map");
        assert!(gaps.iter().all(|gap| gap.size_px == 4.0));
    }

    proptest! {
        /// Asked pixel by pixel: a pixel is in a tight passage if what is free around it, up and down, is too little.
        #[test]
        fn passages_are_those_that_are_seen_pixel_by_pixel(
            tiles in prop::collection::vec(0u8..5, 24),
            blocks in prop::collection::vec((0i32..22, 0i32..14, 1i32..9, 1i32..9), 0..6),
            needed in 1i32..14,
        ) {
            let rows: Vec<String> = tiles
                .chunks(6)
                .map(|row| row.iter().map(|tile| if *tile == 0 { '#' } else { '.' }).collect())
                .collect();
            let mut text = String::from("tile = \"4 px\"\n[edges]\ntop = \"open\"\nbottom = \"open\"\n");
            for (x, y, width, height) in &blocks {
                text += &format!("[[block]]\nat = [{x}, {y}]\nsize = [{width}, {height}]\n");
            }
            let level = Level::parse("room", &format!("{text}[map]\nrows = '''\n@.....\n{}\n'''", rows.join("\n"))).unwrap();
            let solid = |x: i32, y: i32| {
                level.grid.is_solid(x / 4, y / 4)
                    || blocks.iter().any(|(left, top, width, height)| {
                        (*left..left + width).contains(&x) && (*top..top + height).contains(&y)
                    })
            };
            let mut seen = Vec::new();
            for x in 0..24 {
                let mut wall = None;
                for y in (0..24).filter(|y| y / 4 < 5 && solid(x, *y)) {
                    if let Some(wall) = wall.filter(|wall| wall + 1 < y && y - wall - 1 < needed) {
                        seen.push((f64::from(x), f64::from(wall + 1), f64::from(y)));
                    }
                    wall = Some(y);
                }
            }
            let sweep = Sweep {
                lines: 6,
                places: 5,
                tile: 4.0,
                is_solid: |column, row| level.grid.is_solid(column, row),
                edges: [Edge::Open; 2],
                boxes: blocks
                    .iter()
                    .map(|(x, y, width, height)| {
                        let span = |from: i32, length: i32| Span { from: f64::from(from), to: f64::from(from + length) };
                        (span(*x, *width), span(*y, *height))
                    })
                    .collect(),
                needed: f64::from(needed),
            };
            let mut found: Vec<(f64, f64, f64)> = Vec::new();
            for gap in sweep.gaps() {
                let pixels = gap.across.from as i32..gap.across.to as i32;
                found.extend(pixels.map(|x| (f64::from(x), gap.along.from, gap.along.to)));
            }
            let order = |a: &(f64, f64, f64), b: &(f64, f64, f64)| a.partial_cmp(b).unwrap();
            found.sort_by(order);
            seen.sort_by(order);
            prop_assert_eq!(found, seen);
        }
    }
}
