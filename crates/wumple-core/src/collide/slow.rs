//! The slow obvious sweep: tiny steps, and after each a look at every tile of the map.
//!
//! It exists to be compared with the fast one; nothing else should call it.

use glam::DVec2;

use super::Swept;
use crate::space::Body;
use crate::terrain::{Edge, Terrain};

/// No step is longer than this, px: half the smallest tile, so that none is stepped over.
const STEP: f64 = 0.5;

/// A solid rectangle, px: a tile, or one of the half-planes outside the map.
#[derive(Clone, Copy)]
struct Block {
    left: f64,
    right: f64,
    top: f64,
    bottom: f64,
}

impl Block {
    fn overlaps_in_width(&self, body: &Body, x: f64) -> bool {
        x > self.left - body.half_width() && x < self.right + body.half_width()
    }

    fn overlaps_in_height(&self, body: &Body, y: f64) -> bool {
        y > self.top && y < self.bottom + body.height
    }
}

fn any_block<T: Terrain + ?Sized>(terrain: &T, mut found: impl FnMut(Block) -> bool) -> bool {
    const FAR: f64 = f64::INFINITY;
    let (grid_lines, edges) = (terrain.grid_lines(), terrain.edges());
    let plane = Block { left: -FAR, right: FAR, top: -FAR, bottom: FAR };
    for (edge, block) in [
        (edges.left, Block { right: terrain.left(), ..plane }),
        (edges.right, Block { left: terrain.width(), ..plane }),
        (edges.top, Block { bottom: terrain.top(), ..plane }),
        (edges.bottom, Block { top: terrain.height(), ..plane }),
    ] {
        if edge == Edge::Solid && found(block) {
            return true;
        }
    }
    for row in terrain.first_row()..terrain.rows() {
        for column in terrain.first_column()..terrain.columns() {
            let block = Block {
                left: grid_lines.line(column),
                right: grid_lines.line(column + 1),
                top: grid_lines.line(row),
                bottom: grid_lines.line(row + 1),
            };
            if terrain.is_solid(column, row) && found(block) {
                return true;
            }
        }
    }
    false
}

/// Walks from `from` to `to` in tiny steps until `stop` names a place to stop at.
fn walk(from: f64, to: f64, mut stop: impl FnMut(f64, f64) -> Option<f64>) -> Swept {
    let steps = ((to - from).abs() / STEP) as u64 + 1;
    let mut before = from;
    for step in 1..=steps {
        let after = if step == steps { to } else { from + (to - from) * (step as f64 / steps as f64) };
        if let Some(place) = stop(before, after) {
            return Swept { place, blocked: true };
        }
        before = after;
    }
    Swept { place: to, blocked: false }
}

/// From `feet` along x to `to`, px: a face stops what would pass it; to touch it is free.
pub fn sweep_x<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2, to: f64) -> Swept {
    let half = body.half_width();
    walk(feet.x, to, |_, x| {
        let mut stop: Option<f64> = None;
        any_block(terrain, |block| {
            if block.overlaps_in_height(body, feet.y) && block.overlaps_in_width(body, x) {
                stop = Some(if to > feet.x {
                    stop.unwrap_or(f64::INFINITY).min(block.left - half)
                } else {
                    stop.unwrap_or(f64::NEG_INFINITY).max(block.right + half)
                });
            }
            false
        });
        stop
    })
}

/// From `feet` along y to `to`, px: downward a floor stops what would reach it, upward a ceiling what would pass it. A sweep
/// to where the body already is goes downward.
pub fn sweep_y<T: Terrain + ?Sized>(terrain: &T, body: &Body, feet: DVec2, to: f64) -> Swept {
    walk(feet.y, to, |before, y| {
        let mut stop: Option<f64> = None;
        any_block(terrain, |block| {
            if !block.overlaps_in_width(body, feet.x) {
                return false;
            }
            if to >= feet.y && before <= block.top && y >= block.top {
                stop = Some(stop.unwrap_or(f64::INFINITY).min(block.top));
            }
            if to < feet.y && block.overlaps_in_height(body, y) {
                stop = Some(stop.unwrap_or(f64::NEG_INFINITY).max(block.bottom + body.height));
            }
            false
        });
        stop
    })
}
