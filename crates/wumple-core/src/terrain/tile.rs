use super::{Material, Zone, ZoneKind};
use crate::groups::Group;

/// How a tile meets a body.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Surface {
    /// Nothing is there.
    #[default]
    Empty,
    /// It stops a body from every side.
    Solid,
    /// Its top edge holds a body that comes from above; from below and the sides it is free.
    OneWay,
    /// It can be climbed; the top of the uppermost of a column is a surface like a one-way tile's. To a
    /// character without a ladder in its tuning it is empty.
    Ladder,
    /// Solid beneath a straight line from its left to its right side. Only the feet meet the slope.
    Ramp {
        /// The line's height above the tile's bottom edge on the left side, px, from 0 to the tile's side.
        left_height: f64,
        /// The same on the right side.
        right_height: f64,
    },
}

/// All that is known of one tile.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct TileProperties {
    /// How it meets a body.
    pub surface: Surface,
    /// What it does besides.
    pub zone: Option<Zone>,
    /// What its top is like to stand on.
    pub material: Material,
    /// The group that it is in.
    #[cfg_attr(feature = "serde", serde(default))]
    pub group: Group,
}

impl TileProperties {
    /// Nothing.
    pub const EMPTY: TileProperties = TileProperties::of(Surface::Empty);
    /// Plain solid ground.
    pub const SOLID: TileProperties = TileProperties::of(Surface::Solid);
    /// A plain shelf.
    pub const ONE_WAY: TileProperties = TileProperties::of(Surface::OneWay);
    /// A ladder.
    pub const LADDER: TileProperties = TileProperties::of(Surface::Ladder);

    /// A tile with this surface, of plain material, no zone, in no group.
    #[must_use]
    pub const fn of(surface: Surface) -> TileProperties {
        TileProperties { surface, zone: None, material: Material::PLAIN, group: Group::LEVEL }
    }

    /// An empty tile that is a zone of this kind.
    #[must_use]
    pub const fn zone(kind: ZoneKind) -> TileProperties {
        TileProperties { zone: Some(Zone::of(kind)), ..TileProperties::EMPTY }
    }

    /// What of it a body can meet.
    #[must_use]
    pub fn features(&self) -> Features {
        let surface = match self.surface {
            Surface::Empty => return Features::NONE.with_zone(self.zone).with_group(self.zone.is_some(), self.group),
            Surface::Solid => Features::SOLID,
            Surface::OneWay => Features::ONE_WAY,
            Surface::Ladder => Features::LADDER,
            Surface::Ramp { .. } => Features::RAMP,
        };
        let material = if self.material.is_plain() { Features::NONE } else { Features::MATERIAL };
        (surface | material).with_zone(self.zone).with_group(true, self.group)
    }
}

/// A set of the things that a part of a terrain has: what is not there need not be looked for.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Features(u16);

impl Features {
    /// None of them.
    pub const NONE: Features = Features(0);
    /// Solid tiles.
    pub const SOLID: Features = Features(1);
    /// One-way tiles.
    pub const ONE_WAY: Features = Features(1 << 1);
    /// Ladders.
    pub const LADDER: Features = Features(1 << 2);
    /// Ramps that fill a tile.
    pub const RAMP: Features = Features(1 << 3);
    /// Surfaces with a grip, a speed or a bounce of their own.
    pub const MATERIAL: Features = Features(1 << 4);
    /// Zones.
    pub const ZONE: Features = Features(1 << 5);
    /// Solid rectangles off the grid.
    pub const BLOCK: Features = Features(1 << 6);
    /// Ramps drawn as a line.
    pub const DRAWN_RAMP: Features = Features(1 << 7);
    /// Things in groups.
    pub const GROUP: Features = Features(1 << 8);
    /// All that a terrain can have.
    pub const ALL: Features = Features(0x1FF);

    /// Whether any of `other` is among these.
    #[inline]
    #[must_use]
    pub fn has(self, other: Features) -> bool {
        self.0 & other.0 != 0
    }

    /// These and those.
    #[must_use]
    pub const fn with(self, other: Features) -> Features {
        Features(self.0 | other.0)
    }

    pub(super) fn with_group(self, is_there: bool, group: Group) -> Features {
        if is_there && group != Group::LEVEL { self | Features::GROUP } else { self }
    }

    fn with_zone(self, zone: Option<Zone>) -> Features {
        if zone.is_some() { self | Features::ZONE } else { self }
    }
}

impl core::ops::BitOr for Features {
    type Output = Features;
    #[inline]
    fn bitor(self, other: Features) -> Features {
        self.with(other)
    }
}

impl core::ops::BitOrAssign for Features {
    #[inline]
    fn bitor_assign(&mut self, other: Features) {
        self.0 |= other.0;
    }
}
