//! All that a body can meet around it: tiles of every kind, blocks off the grid, ramps, the map's edges.
//!
//! The sweeps of the module above know plain tiles alone and are fast; these know everything, and are
//! asked where more than plain tiles is near.

mod buried;
mod faces;
mod follow;
mod ladders;
mod tops;
mod walk;
mod walls;

#[cfg(test)]
mod tests;

use glam::DVec2;

use crate::geometry::{Body, Hitbox};
use crate::platform::{Carrier, Mover, Movers};
use crate::terrain::{Block, Edge, Features, Ramp, Side, Surface, Terrain};

pub(crate) use ladders::Ladder;
pub use tops::Support;
pub(crate) use tops::Top;
pub(crate) use walk::Footing;
pub(crate) use walls::{Wall, Walls};

/// Ramps and ground that miss each other by no more than this meet, px.
pub(crate) const JOIN: f64 = 1.0 / 1024.0;

/// A terrain, and what moves in it, as one body meets them.
pub(crate) struct Room<'a, T: ?Sized> {
    pub(crate) terrain: &'a T,
    pub(crate) movers: &'a Movers<'a>,
    /// The platform that carries the body along, while it does: it is not met.
    pub(crate) carrier: Option<Carrier>,
    /// While the body moves: where its feet were when the tick began. A one-way top that was no higher then
    /// lifts them, one that was higher lets them through. `None`: tops as they lie now.
    pub(crate) began: Option<DVec2>,
    pub(crate) body: &'a Body,
    /// Whether ladders are there for it.
    pub(crate) ladders: bool,
    pub(crate) ignored: Ignored,
    /// The ladder it climbs: its own top, and those of others, do not stop it.
    pub(crate) climbing: Option<Ladder>,
    /// What there is where the body can come in this tick: the rest is not looked for.
    pub(crate) near: Features,
}

/// The tops that a body lets itself drop through.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Ignored {
    /// One-way tops and ladder tops at this height.
    pub(crate) height: Option<f64>,
    /// Drawn ramps, by number: two can meet under the feet.
    pub(crate) lines: [Option<usize>; 2],
    /// Platforms and props.
    pub(crate) carriers: [Option<Carrier>; 4],
}

impl Ignored {
    fn has_ramp(&self, id: RampId) -> bool {
        matches!(id, RampId::Line(line) if self.lines.contains(&Some(line)))
    }
}

/// Which ramp.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum RampId {
    Tile { column: i32, row: i32 },
    Line(usize),
}

/// What an obstacle is.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Thing {
    Tile { column: i32, row: i32 },
    Block(usize),
    Ramp(RampId),
    Mover(Carrier),
    Edge(Side),
}

/// A rectangle that stops a hitbox. Of a ramp it is the end face, and its underside.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Obstacle {
    pub(crate) left: f64,
    pub(crate) right: f64,
    pub(crate) top: f64,
    pub(crate) bottom: f64,
    pub(crate) thing: Thing,
}

/// Which way a body goes that may meet an obstacle.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Heading {
    Right,
    Left,
    Up,
}

impl Heading {
    pub(crate) fn along_x(to_right: bool) -> Heading {
        if to_right { Heading::Right } else { Heading::Left }
    }
}

impl<T: Terrain + ?Sized> Room<'_, T> {
    /// A terrain in which nothing moves, for tests.
    #[cfg(test)]
    pub(crate) fn without_movers<'a>(terrain: &'a T, body: &'a Body, ladders: bool) -> Room<'a, T> {
        use alloc::boxed::Box;
        let none = Box::leak(Box::new(crate::platform::Platforms::none()));
        let movers = Box::leak(Box::new(Movers::looked_up(none, 0, false)));
        let ignored = Ignored::default();
        let near = terrain.features();
        Room { terrain, movers, carrier: None, began: None, body, ladders, ignored, climbing: None, near }
    }

    pub(crate) fn half(&self) -> f64 {
        self.body.half_width()
    }

    /// The box that the body covers between two places, and as much more on every side, px.
    pub(crate) fn area_between(&self, from: DVec2, to: DVec2, more: f64) -> Hitbox {
        let half = self.half() + more;
        Hitbox {
            left: from.x.min(to.x) - half,
            right: from.x.max(to.x) + half,
            top: from.y.min(to.y) - self.body.height - more,
            bottom: from.y.max(to.y) + more,
        }
    }

    /// The columns and rows of tiles that touch an area, held to the map, and perhaps one more on each side.
    #[inline]
    fn cells(&self, area: &Hitbox) -> (core::ops::Range<i32>, core::ops::Range<i32>) {
        let lattice = self.terrain.lattice();
        (
            lattice.cells_about(area.left, area.right, self.terrain.columns()),
            lattice.cells_about(area.top, area.bottom, self.terrain.rows()),
        )
    }

    /// Every obstacle that touches an area, for a body with this heading.
    pub(crate) fn obstacles(&self, area: &Hitbox, heading: Heading, mut visit: impl FnMut(&Obstacle)) {
        let lattice = self.terrain.lattice();
        let (columns, rows) = self.cells(area);
        // The nearest first: of what lies behind them less is asked.
        let back = columns.start + columns.end - 1;
        for row in rows {
            for column in columns.clone() {
                let column = if heading == Heading::Left { back - column } else { column };
                let tile = self.terrain.tile(column, row);
                let (left, right) = (lattice.line(column), lattice.line(column + 1));
                let (top, bottom) = (lattice.line(row), lattice.line(row + 1));
                match tile.surface {
                    Surface::Solid => {
                        visit(&Obstacle { left, right, top, bottom, thing: Thing::Tile { column, row } });
                    }
                    Surface::Ramp { left_height, right_height } => {
                        let thing = Thing::Ramp(RampId::Tile { column, row });
                        let Some(top) = (match heading {
                            Heading::Right => self.face_top(column, row, bottom - left_height, false),
                            Heading::Left => self.face_top(column, row, bottom - right_height, true),
                            Heading::Up => Some(bottom),
                        }) else {
                            continue;
                        };
                        visit(&Obstacle { left, right, top, bottom, thing });
                    }
                    Surface::Empty | Surface::OneWay | Surface::Ladder => {}
                }
            }
        }
        self.blocks(area, |index, block| {
            let (left, right, top, bottom) = (block.left, block.right, block.top, block.bottom);
            visit(&Obstacle { left, right, top, bottom, thing: Thing::Block(index) });
        });
        self.movers(area, |mover| {
            // What began the tick below the feet is over no head, however far up it has come.
            let from_below = heading == Heading::Up && self.began.is_some_and(|began| began.y <= mover.old.top);
            if mover.solid && !from_below {
                let (Hitbox { left, right, top, bottom }, thing) = (mover.now, Thing::Mover(mover.carrier));
                visit(&Obstacle { left, right, top, bottom, thing });
            }
        });
        self.edges(visit);
    }

    /// The top of the end face of a tile's ramp, unless something solid beside it covers all of it.
    fn face_top(&self, column: i32, row: i32, top: f64, right_end: bool) -> Option<f64> {
        let lattice = self.terrain.lattice();
        let beside = if right_end { column + 1 } else { column - 1 };
        let (x, foot) = (lattice.line(column.max(beside)), lattice.line(row + 1));
        let mut covered = false;
        if (0..self.terrain.columns()).contains(&beside) {
            covered = match self.terrain.tile(beside, row).surface {
                Surface::Solid => true,
                Surface::Ramp { left_height, right_height } => {
                    top < foot && foot - if right_end { left_height } else { right_height } <= top
                }
                Surface::Empty | Surface::OneWay | Surface::Ladder => false,
            };
        }
        if !covered {
            let face = Hitbox { left: x, right: x, top, bottom: foot };
            self.blocks(&face, |_, block| {
                covered |= block.left <= x && x <= block.right && block.top <= top && block.bottom >= foot;
            });
        }
        (!covered).then_some(top)
    }

    /// Every block that touches an area.
    #[inline]
    pub(crate) fn blocks(&self, area: &Hitbox, mut visit: impl FnMut(usize, &Block)) {
        if self.near.has(Features::BLOCK) {
            self.terrain.blocks_near(area, &mut visit);
        }
    }

    /// Every platform and prop whose way in this tick touches an area, but the body's own.
    #[inline]
    pub(crate) fn movers(&self, area: &Hitbox, mut visit: impl FnMut(&Mover)) {
        if self.near.has(Features::MOVER) {
            self.movers.each_near(area, &mut |mover| {
                if self.carrier != Some(mover.carrier) {
                    visit(mover);
                }
            });
        }
    }

    /// The solid edges of the map, as the half-planes they are.
    fn edges(&self, mut visit: impl FnMut(&Obstacle)) {
        const FAR: f64 = f64::INFINITY;
        let (edges, width, height) = (self.terrain.edges(), self.terrain.width(), self.terrain.height());
        let plane = |side| Obstacle { left: -FAR, right: FAR, top: -FAR, bottom: FAR, thing: Thing::Edge(side) };
        for (edge, obstacle) in [
            (edges.left, Obstacle { right: 0.0, ..plane(Side::Left) }),
            (edges.right, Obstacle { left: width, ..plane(Side::Right) }),
            (edges.top, Obstacle { bottom: 0.0, ..plane(Side::Top) }),
            (edges.bottom, Obstacle { top: height, ..plane(Side::Bottom) }),
        ] {
            if edge == Edge::Solid {
                visit(&obstacle);
            }
        }
    }

    /// Every ramp that may touch an area, but those the body drops through.
    pub(crate) fn ramps(&self, area: &Hitbox, mut visit: impl FnMut(RampId, &Ramp)) {
        self.ramps_drawn(area, |id, ramp| {
            if !self.ignored.has_ramp(id) {
                visit(id, ramp);
            }
        });
    }

    /// Every ramp that may touch an area.
    fn ramps_drawn(&self, area: &Hitbox, mut visit: impl FnMut(RampId, &Ramp)) {
        if self.near.has(Features::RAMP) {
            let (columns, rows) = self.cells(area);
            for row in rows {
                for column in columns.clone() {
                    if let Some(ramp) = self.terrain.tile_ramp(column, row) {
                        visit(RampId::Tile { column, row }, &ramp);
                    }
                }
            }
        }
        if self.near.has(Features::LINE) {
            self.terrain.ramps_near(area, &mut |index, ramp| visit(RampId::Line(index), ramp));
        }
    }

    /// Whether a body with its feet here would overlap nothing solid that is not buried; and whether the feet
    /// are not inside a solid ramp.
    pub(crate) fn fits(&self, feet: DVec2) -> bool {
        self.overlapped(feet).is_none()
    }

    /// What a hitbox with these feet overlaps though it may not.
    pub(crate) fn overlapped(&self, feet: DVec2) -> Option<Thing> {
        let area = self.area_between(feet, feet, 0.0);
        let mut found = None;
        self.obstacles(&area, Heading::Up, |obstacle| {
            if found.is_none() && self.overlaps(obstacle, feet) && !self.is_buried(obstacle, feet) {
                found = Some(obstacle.thing);
            }
        });
        if found.is_none() && self.near.has(Features::RAMP) {
            self.ramps(&area, |id, ramp| {
                if found.is_none() && self.is_in_ramp(id, ramp, feet) {
                    found = Some(Thing::Ramp(id));
                }
            });
        }
        found
    }

    pub(super) fn overlaps(&self, obstacle: &Obstacle, feet: DVec2) -> bool {
        let half = self.half();
        feet.x > obstacle.left - half && feet.x < obstacle.right + half && self.overlaps_in_height(obstacle, feet.y)
    }

    /// Whether the feet are inside a tile's ramp, or the hitbox is, below the end on the middle's side.
    fn is_in_ramp(&self, id: RampId, ramp: &Ramp, feet: DVec2) -> bool {
        let RampId::Tile { column, row } = id else { return false };
        let foot = self.terrain.lattice().line(row + 1);
        if ramp.spans(feet.x) {
            return feet.y > ramp.at(feet.x) && feet.y <= foot;
        }
        let (left, right, right_end) = (ramp.left.x, ramp.right.x, feet.x > ramp.right.x);
        let Some(top) = self.face_top(column, row, ramp.end(right_end).y, right_end) else { return false };
        let face = Obstacle { left, right, top, bottom: foot, thing: Thing::Ramp(id) };
        self.overlaps(&face, feet) && !self.is_buried(&face, feet)
    }
}
