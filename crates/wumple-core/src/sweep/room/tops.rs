//! What can be stood on: the tops of tiles and blocks, and slopes.

use core::fmt;

use glam::DVec2;

use super::{Obstacle, RampId, Room, Thing};
use crate::geometry::Hitbox;
use crate::platform::{Carrier, Mover};
use crate::sweep::Swept;
use crate::terrain::{Edge, Features, Material, Side, Surface, Terrain};

/// What holds a character up.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Support {
    /// Nothing.
    None,
    /// A solid tile, or a solid edge of the map.
    Solid,
    /// A one-way tile.
    OneWay,
    /// A ramp, of a tile or drawn.
    Ramp,
    /// The top of a ladder.
    Ladder,
    /// A block, by its number from 0. Displayed with the number in its array, from 1.
    Block(usize),
    /// A platform, by its number from 0. Displayed with the number in its array, from 1.
    Platform(usize),
    /// A prop, by its number from 0. Displayed with the number in its array, from 1.
    Prop(usize),
}

impl Support {
    /// What moves and holds it up, if anything that moves does.
    pub fn carrier(self) -> Option<Carrier> {
        match self {
            Support::Platform(index) => Some(Carrier::Platform(index)),
            Support::Prop(index) => Some(Carrier::Prop(index)),
            _ => None,
        }
    }
}

impl From<Carrier> for Support {
    fn from(carrier: Carrier) -> Support {
        match carrier {
            Carrier::Platform(index) => Support::Platform(index),
            Carrier::Prop(index) => Support::Prop(index),
        }
    }
}

impl fmt::Display for Support {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Support::None => f.write_str("none"),
            Support::Solid => f.write_str("solid"),
            Support::OneWay => f.write_str("one-way"),
            Support::Ramp => f.write_str("ramp"),
            Support::Ladder => f.write_str("ladder"),
            Support::Block(index) => write!(f, "block:{}", index + 1),
            Support::Platform(index) => write!(f, "platform:{}", index + 1),
            Support::Prop(index) => write!(f, "prop:{}", index + 1),
        }
    }
}

/// A top under a body.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Top {
    pub(crate) y: f64,
    pub(crate) support: Support,
    pub(crate) material: Material,
    /// Whether it is solid: nothing that can be dropped through.
    pub(crate) solid: bool,
    /// Which ramp it is.
    pub(crate) ramp: Option<RampId>,
    /// What it is the top of, and from where to where it goes, px.
    pub(super) thing: Option<Thing>,
    pub(super) left: f64,
    under_feet: bool,
    overlap: f64,
}

impl Top {
    /// The edge of the map, or a plain tile, where nothing else can be.
    pub(crate) fn plain(y: f64) -> Top {
        Top {
            y,
            support: Support::Solid,
            material: Material::PLAIN,
            solid: true,
            ramp: None,
            thing: None,
            left: 0.0,
            under_feet: true,
            overlap: 0.0,
        }
    }

    /// Whether it is what [`Top::plain`] says of this height.
    #[inline]
    pub(crate) fn is_plain_at(&self, y: f64) -> bool {
        self.y == y && self.thing.is_none()
    }

    /// Whether it comes before another: the higher; at equal height what supported in the tick before, if the
    /// feet's middle is still on it, else what is under the middle, else what is overlapped more, else the
    /// unmoving, else the leftmost, else the first of the file; last of all a ramp.
    pub(crate) fn is_before(&self, other: &Top, supported: Support) -> bool {
        let key = |top: &Top| {
            let carrier = top.support.carrier();
            let stays = top.under_feet && top.support == supported;
            (top.y, !stays, !top.under_feet, -top.overlap, carrier.is_some(), top.left, carrier, top.ramp.is_some())
        };
        key(self) < key(other)
    }
}

impl<T: Terrain + ?Sized> Room<'_, T> {
    /// The first top met on the way down from `from` to `to`, ends included, by a body with its feet at
    /// this x.
    pub(crate) fn first_top(&self, x: f64, from: f64, to: f64) -> Option<Top> {
        self.first_top_after(Support::None, x, from, to)
    }

    /// The same for a body that this supported in the tick before.
    pub(crate) fn first_top_after(&self, supported: Support, x: f64, from: f64, to: f64) -> Option<Top> {
        let mut first: Option<Top> = None;
        self.tops(x, from, to, |top| {
            if first.is_none_or(|first| top.is_before(&first, supported)) {
                first = Some(*top);
            }
        });
        first
    }

    /// Every top from `from` down to `to`, ends included, that would hold a body with its feet at this x.
    pub(crate) fn tops(&self, x: f64, from: f64, to: f64, mut visit: impl FnMut(&Top)) {
        if self.near.has(Features::RAMP | Features::LINE) {
            self.slopes(x, from, to, &mut visit);
        }
        self.tile_tops(x, from, to, &mut visit);
        let half = self.half();
        let area = Hitbox {
            left: x - half,
            right: x + half,
            top: from.min(self.began.map_or(from, |began| began.y)),
            bottom: to,
        };
        self.blocks(&area, |index, block| {
            let within = block.top >= from && block.top <= to && x > block.left - half && x < block.right + half;
            let (left, right, top, bottom) = (block.left, block.right, block.top, block.bottom);
            let obstacle = Obstacle { left, right, top, bottom, thing: Thing::Block(index) };
            if within && !self.is_buried_top(&obstacle, x) {
                visit(&Top { support: Support::Block(index), material: block.material, ..self.top_of(x, &obstacle) });
            }
        });
        self.movers(&area, |mover| {
            let Hitbox { left, right, top, bottom } = mover.now;
            if x > left - half && x < right + half && self.is_top_met(mover, x, from, to) {
                let obstacle = Obstacle { left, right, top, bottom, thing: Thing::Mover(mover.carrier) };
                let support = Support::from(mover.carrier);
                visit(&Top { support, solid: mover.solid, material: mover.material, ..self.top_of(x, &obstacle) });
            }
        });
        let floor = self.terrain.height();
        if floor >= from && floor <= to && self.terrain.edges().bottom == Edge::Solid {
            let far = f64::INFINITY;
            let obstacle =
                Obstacle { left: -far, right: far, top: floor, bottom: far, thing: Thing::Edge(Side::Bottom) };
            visit(&self.top_of(x, &obstacle));
        }
    }

    /// Whether a platform's top holds feet on their way down from one height to another. A one-way top also
    /// lifts feet that it came up past in this tick, unless the head meets something.
    fn is_top_met(&self, mover: &Mover, x: f64, from: f64, to: f64) -> bool {
        let top = mover.now.top;
        if !mover.solid && self.ignored.carriers.contains(&Some(mover.carrier)) {
            return false;
        }
        let on_the_way = top >= from && top <= to;
        match self.began {
            Some(began) => {
                let past = began.y <= mover.old.top && top <= to && self.may_lift(mover, began, from);
                (mover.solid && on_the_way) || (past && (top >= from || !self.rise(DVec2::new(x, from), top).blocked))
            }
            None => on_the_way,
        }
    }

    /// A solid platform that is far above the body by now has gone past it elsewhere, unless it was under it when
    /// the tick began: it lifts only what it would overlap.
    fn may_lift(&self, mover: &Mover, began: DVec2, feet: f64) -> bool {
        let half = self.half();
        let was_under = || began.x > mover.old.left - half && began.x < mover.old.right + half;
        !mover.solid || feet < mover.now.bottom + self.body.height || was_under()
    }

    /// The platform that lifts feet which it came up past in this tick, and how far: a one-way one only if the
    /// head has room.
    pub(crate) fn lifted_by(&self, feet: DVec2, counts: impl Fn(&Mover) -> bool) -> Option<(Mover, Swept)> {
        let lifted = |mover: Mover| (mover, self.rise(feet, mover.now.top));
        let highest = self.come_up_past(feet, counts).map(lifted);
        highest
            .filter(|(mover, lifted)| mover.solid || !lifted.blocked)
            .or_else(|| self.come_up_past(feet, |mover| mover.solid).map(lifted))
    }

    /// The platform with the highest top of those that came up past feet in this tick, which began it above.
    fn come_up_past(&self, feet: DVec2, counts: impl Fn(&Mover) -> bool) -> Option<Mover> {
        let (half, began) = (self.half(), self.began?);
        let mut found: Option<Mover> = None;
        self.movers(&self.area_between(feet, feet, 0.0), |mover| {
            let Hitbox { left, right, top, .. } = mover.now;
            let ignored = !mover.solid && self.ignored.carriers.contains(&Some(mover.carrier));
            let past = began.y <= mover.old.top && feet.y > top && feet.x > left - half && feet.x < right + half;
            if past
                && !ignored
                && self.may_lift(mover, began, feet.y)
                && counts(mover)
                && found.is_none_or(|found| top < found.now.top)
            {
                found = Some(*mover);
            }
        });
        found
    }

    /// The top of something solid.
    fn top_of(&self, x: f64, of: &Obstacle) -> Top {
        let (half, left, right) = (self.half(), of.left, of.right);
        let overlap = right.min(x + half) - left.max(x - half);
        Top { under_feet: left <= x && x < right, overlap, left, thing: Some(of.thing), ..Top::plain(of.top) }
    }

    /// Whether a body on a ladder goes through this top: a ladder's, or the shelf that its own ladder goes
    /// through.
    fn is_climbed_through(&self, support: Support, column: i32, row: i32) -> bool {
        self.climbing.is_some_and(|ladder| {
            support == Support::Ladder || (ladder.column == column && self.is_ladder(column, row))
        })
    }

    fn tile_tops(&self, x: f64, from: f64, to: f64, visit: &mut impl FnMut(&Top)) {
        let (lattice, half, rows) = (self.terrain.lattice(), self.half(), self.terrain.rows());
        if to < 0.0 {
            return;
        }
        let (left, right) = lattice.cells(x, half, half);
        let (left, right) = (left.max(0), right.min(self.terrain.columns() - 1));
        let first = (lattice.last_before(from.max(-1.0), 0.0) + 1).max(0);
        let last = lattice.last_at_or_before(to.min(lattice.line(rows)), 0.0).min(rows - 1);
        for row in first..=last {
            let y = lattice.line(row);
            for column in left..=right {
                let tile = self.terrain.tile(column, row);
                let (support, solid) = match tile.surface {
                    Surface::Solid if row == 0 || !self.terrain.is_solid(column, row - 1) => (Support::Solid, true),
                    Surface::OneWay => (Support::OneWay, false),
                    Surface::Ladder if self.is_ladder_top(column, row) => (Support::Ladder, false),
                    _ => continue,
                };
                if !solid && (self.ignored.height == Some(y) || self.is_climbed_through(support, column, row)) {
                    continue;
                }
                let (left, right, bottom) = (lattice.line(column), lattice.line(column + 1), lattice.line(row + 1));
                let obstacle = Obstacle { left, right, top: y, bottom, thing: Thing::Tile { column, row } };
                if !self.is_buried_top(&obstacle, x) {
                    visit(&Top { support, solid, material: tile.material, ..self.top_of(x, &obstacle) });
                }
            }
        }
    }

    /// Slopes under the feet, and the ends of ramps from which no other goes on, where the box still overlaps them.
    fn slopes(&self, x: f64, from: f64, to: f64, visit: &mut impl FnMut(&Top)) {
        let half = self.half();
        let area = Hitbox { left: x - half, right: x + half, top: from, bottom: to };
        self.ramps(&area, |id, ramp| {
            let y = ramp.at(x);
            let (left, right) = (ramp.left_end().x, ramp.right_end().x);
            let overlaps = x > left - half && x < right + half;
            if y < from || y > to || !(overlaps || ramp.spans(x)) {
                return;
            }
            let obstacle = Obstacle { left, right, top: y, bottom: y, thing: Thing::Ramp(id) };
            let right_end = x > right;
            if !ramp.spans(x) && self.is_end_taken_over(id, ramp, right_end) {
                return;
            }
            visit(&Top {
                support: Support::Ramp,
                solid: ramp.solid,
                material: ramp.material,
                ramp: Some(id),
                under_feet: ramp.spans(x),
                ..self.top_of(x, &obstacle)
            });
        });
    }
}
