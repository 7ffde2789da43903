//! The least that a loop written by hand does.

use super::common::{HEIGHT, Keys, TILE, TOP_SPEED, WIDTH, start};

/// What a hand-written loop does at the least: gravity, run, jump, a byte grid, two axes. It tests the
/// tiles where the body would be and puts it back beside the one it met.
pub(crate) struct Bare<'a> {
    tiles: &'a [u8],
    side: usize,
    x: f64,
    y: f64,
    vx: f64,
    vy: f64,
    grounded: bool,
    held: bool,
}

impl<'a> Bare<'a> {
    pub(crate) fn new(tiles: &'a [u8], side: usize) -> Bare<'a> {
        let (x, y) = start(side);
        Bare { tiles, side, x, y, vx: 0.0, vy: 0.0, grounded: false, held: false }
    }

    fn solid(&self, x: f64, y: f64) -> bool {
        let (column, row) = ((x / TILE) as usize, (y / TILE) as usize);
        self.tiles[row * self.side + column] != 0
    }

    fn hits(&self) -> bool {
        let (left, right) = (self.x - WIDTH / 2.0, self.x + WIDTH / 2.0 - 0.001);
        let (top, bottom) = (self.y - HEIGHT, self.y - 0.001);
        self.solid(left, top) || self.solid(right, top) || self.solid(left, bottom) || self.solid(right, bottom)
    }

    pub(crate) fn tick(&mut self, held: &Keys) {
        const DT: f64 = 1.0 / 60.0;
        let target = (f64::from(u8::from(held.right)) - f64::from(u8::from(held.left))) * TOP_SPEED;
        let step = 1200.0 * DT;
        self.vx = if self.vx < target { (self.vx + step).min(target) } else { (self.vx - step).max(target) };
        if held.jump && !self.held && self.grounded {
            self.vy = -308.0;
        }
        self.held = held.jump;
        self.vy = (self.vy + 881.0 * DT).min(260.0);
        self.x += self.vx * DT;
        if self.hits() {
            self.x = if self.vx > 0.0 {
                ((self.x + WIDTH / 2.0) / TILE).floor() * TILE - WIDTH / 2.0
            } else {
                ((self.x - WIDTH / 2.0) / TILE).floor() * TILE + TILE + WIDTH / 2.0
            };
            self.vx = 0.0;
        }
        self.y += self.vy * DT;
        self.grounded = false;
        if self.hits() {
            if self.vy > 0.0 {
                self.y = (self.y / TILE).floor() * TILE;
                self.grounded = true;
            } else {
                self.y = ((self.y - HEIGHT) / TILE).floor() * TILE + TILE + HEIGHT;
            }
            self.vy = 0.0;
        }
    }
}
