use core::fmt;

/// How a tile meets a body.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub enum Surface {
    /// Nothing is there.
    #[default]
    Empty,
    /// It stops a body from every side.
    Solid,
}

/// What a tile does besides stopping bodies: it is reported when a hitbox enters or leaves it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
pub enum Zone {
    /// It hurts.
    Hazard,
    /// It can be taken along.
    Pickup,
    /// The end of the level.
    Goal,
}

impl Zone {
    /// All kinds.
    pub const ALL: [Zone; 3] = [Zone::Hazard, Zone::Pickup, Zone::Goal];

    /// The word used in files and traces.
    pub fn name(self) -> &'static str {
        match self {
            Zone::Hazard => "hazard",
            Zone::Pickup => "pickup",
            Zone::Goal => "goal",
        }
    }
}

impl fmt::Display for Zone {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.write_str(self.name())
    }
}

/// A set of zones.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
pub struct Zones(u8);

impl Zones {
    /// No zone at all.
    pub const NONE: Zones = Zones(0);

    /// Adds a zone.
    pub fn insert(&mut self, zone: Zone) {
        self.0 |= 1 << zone as u8;
    }

    /// Whether the zone is in the set.
    pub fn contains(self, zone: Zone) -> bool {
        self.0 & (1 << zone as u8) != 0
    }

    /// Whether no zone is in the set.
    pub fn is_empty(self) -> bool {
        self.0 == 0
    }

    /// The zones in the set, in the order of [`Zone::ALL`].
    pub fn iter(self) -> impl Iterator<Item = Zone> {
        Zone::ALL.into_iter().filter(move |zone| self.contains(*zone))
    }
}

/// All that is known of one tile.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct TileProperties {
    /// How it meets a body.
    pub surface: Surface,
    /// What it does besides.
    pub zone: Option<Zone>,
}

impl TileProperties {
    /// Nothing.
    pub const EMPTY: TileProperties = TileProperties { surface: Surface::Empty, zone: None };
    /// Plain solid ground.
    pub const SOLID: TileProperties = TileProperties { surface: Surface::Solid, zone: None };

    /// An empty tile that is a zone.
    pub const fn zone(zone: Zone) -> TileProperties {
        TileProperties { surface: Surface::Empty, zone: Some(zone) }
    }
}
