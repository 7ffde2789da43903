use super::Zone;
use crate::groups::Group;
use crate::space::Hitbox;
use crate::tuning::{LIMIT_LENGTH, LIMIT_SPEED, Release, round_length};
use glam::DVec2;

/// What a top is like to stand on.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct Material {
    /// The share of the acceleration, braking and turning of a run that it lets through; from 0 up.
    pub grip: f64,
    /// It carries what stands on it sideways, px/s, positive to the right.
    pub surface_speed: f64,
    /// It throws up what comes onto it.
    pub bounce: Option<Bounce>,
}

impl Material {
    /// Full grip, at rest, no bounce.
    pub const PLAIN: Material = Material { grip: 1.0, surface_speed: 0.0, bounce: None };

    /// The greatest grip.
    pub const MOST_GRIP: f64 = 1000.0;

    /// Whether it is like plain ground.
    #[must_use]
    pub fn is_plain(&self) -> bool {
        *self == Material::PLAIN
    }

    /// Whether the grip is from 0 to [`Material::MOST_GRIP`], the surface speed within the limit of speeds,
    /// and the bounce a height above 0 with a release that is within its bounds.
    #[must_use]
    pub fn is_within_bounds(&self) -> bool {
        let bounce = self.bounce.is_none_or(|bounce| {
            bounce.height > 0.0 && bounce.height <= LIMIT_LENGTH && bounce.release.is_within_bounds()
        });
        (0.0..=Material::MOST_GRIP).contains(&self.grip) && self.surface_speed.abs() <= LIMIT_SPEED && bounce
    }

    /// The same with what is out of bounds held to them; what is not a number is as of plain ground.
    #[must_use]
    pub(crate) fn held(self) -> Material {
        if self.is_within_bounds() {
            return self;
        }
        let or_plain = |number: f64, plain: f64| if number.is_nan() { plain } else { number };
        let bounce = self.bounce.filter(|bounce| bounce.height > 0.0).map(|bounce| Bounce {
            height: bounce.height.min(LIMIT_LENGTH),
            release: if bounce.release.is_within_bounds() { bounce.release } else { Release::None },
        });
        Material {
            grip: or_plain(self.grip, 1.0).clamp(0.0, Material::MOST_GRIP),
            surface_speed: or_plain(self.surface_speed, 0.0).clamp(-LIMIT_SPEED, LIMIT_SPEED),
            bounce,
        }
    }
}

impl Default for Material {
    fn default() -> Material {
        Material::PLAIN
    }
}

/// How a surface throws up what comes onto it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct Bounce {
    /// How high, px, above 0.
    pub height: f64,
    /// What letting go of the jump button does to it.
    pub release: Release,
}

/// A solid rectangle off the grid, px, y down.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Block {
    /// Its left side.
    pub left: f64,
    /// Its right side, greater.
    pub right: f64,
    /// Its top.
    pub top: f64,
    /// Its bottom, greater.
    pub bottom: f64,
    /// What its top is like.
    pub material: Material,
    /// What it is besides, if it is a zone.
    pub zone: Option<Zone>,
    /// The group that it is in.
    pub group: Group,
}

impl Block {
    /// A block of plain material with its top-left corner here. Its sides are rounded to 1/1024 px.
    #[must_use]
    pub fn new(corner: DVec2, width: f64, height: f64) -> Block {
        let (left, top) = (round_length(corner.x), round_length(corner.y));
        let (right, bottom) = (left + round_length(width), top + round_length(height));
        Block { left, right, top, bottom, material: Material::PLAIN, zone: None, group: Group::LEVEL }
    }

    /// Its box.
    #[inline]
    #[must_use]
    pub fn place(&self) -> Hitbox {
        Hitbox { left: self.left, right: self.right, top: self.top, bottom: self.bottom }
    }
}

/// Ground along a straight line, px, y down: a ramp drawn in a level, or that of a tile.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Ramp {
    pub(crate) left: DVec2,
    pub(crate) right: DVec2,
    per_px: f64,
    /// Whether it is solid beneath: a tile's. A drawn ramp is a one-way line with nothing under it.
    pub(crate) solid: bool,
    /// What it is like to stand on.
    pub material: Material,
    /// The group that it is in.
    pub group: Group,
}

impl Ramp {
    /// A one-way line between two points, in any order, rounded to 1/1024 px. `None` if it would be
    /// upright.
    #[must_use]
    pub fn new(from: DVec2, to: DVec2) -> Option<Ramp> {
        let rounded = |point: DVec2| DVec2::new(round_length(point.x), round_length(point.y));
        let (from, to) = (rounded(from), rounded(to));
        let (left, right) = if from.x <= to.x { (from, to) } else { (to, from) };
        (left.x < right.x).then(|| Ramp::between(left, right, false, Material::PLAIN))
    }

    pub(crate) fn between(left: DVec2, right: DVec2, solid: bool, material: Material) -> Ramp {
        Ramp { left, right, per_px: (right.y - left.y) / (right.x - left.x), solid, material, group: Group::LEVEL }
    }

    /// The ramp that fills a tile: its heights above the tile's bottom edge on the left and on the right, px.
    pub(crate) fn of_tile(place: &Hitbox, left_height: f64, right_height: f64, material: Material) -> Ramp {
        let left = DVec2::new(place.left, place.bottom - left_height);
        Ramp::between(left, DVec2::new(place.right, place.bottom - right_height), true, material)
    }

    /// The box around its line.
    pub(crate) fn place(&self) -> Hitbox {
        let (left, right) = (self.left.x, self.right.x);
        Hitbox { left, right, top: self.left.y.min(self.right.y), bottom: self.left.y.max(self.right.y) }
    }

    /// Its left end, px, y down.
    #[must_use]
    pub fn left_end(&self) -> DVec2 {
        self.left
    }

    /// Its right end, px, y down.
    #[must_use]
    pub fn right_end(&self) -> DVec2 {
        self.right
    }

    /// How much it goes down, px for each px to the right.
    pub(crate) fn per_px(&self) -> f64 {
        self.per_px
    }

    /// How much it rises or falls, px for each px along.
    #[inline]
    #[must_use]
    pub fn slope(&self) -> f64 {
        self.per_px.abs()
    }

    /// Where the line is at this x, px, y down; beyond an end, that end's.
    #[inline]
    #[must_use]
    pub fn at(&self, x: f64) -> f64 {
        if x <= self.left.x {
            self.left.y
        } else if x >= self.right.x {
            self.right.y
        } else {
            self.left.y + (x - self.left.x) * self.per_px
        }
    }

    /// Where the line is at this height, px; one of its ends if it is nowhere. It must not be level.
    #[inline]
    pub(crate) fn place_at_height(&self, y: f64) -> f64 {
        (self.left.x + (y - self.left.y) / self.per_px).clamp(self.left.x, self.right.x)
    }

    /// Whether it is under or over this x, ends included.
    #[inline]
    pub(crate) fn spans(&self, x: f64) -> bool {
        self.left.x <= x && x <= self.right.x
    }

    /// The end that is met last on the way to the right, or to the left.
    #[inline]
    pub(crate) fn end(&self, to_right: bool) -> DVec2 {
        if to_right { self.right } else { self.left }
    }
}
