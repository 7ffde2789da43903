//! What is asked after: goals, pickups, checkpoints, and every place to stand on.

use wumple_core::{Body, Edge, Group, Hitbox, Platforms, Surface, Terrain, Tuning, Zone, ZoneId, ZoneKind, ZoneOf};

use crate::files::Level;

/// A run of tops at one height.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Top {
    pub(super) left: f64,
    pub(super) right: f64,
    pub(super) y: f64,
}

impl Top {
    /// Where the middle of a hitbox is that stands on it.
    pub(super) fn middles(&self, body: &Body) -> Hitbox {
        let (half, middle) = (body.half_width(), self.y - body.height * 0.5);
        Hitbox { left: self.left - half, right: self.right + half, top: middle, bottom: middle }
    }
}

/// Where a target is.
#[derive(Clone, Debug, PartialEq)]
pub(super) enum Spot {
    /// Something to stand on.
    Top(Top),
    /// Something to stand on that goes somewhere.
    Platform {
        /// All its places.
        place: Hitbox,
        /// How far beneath its top its bottom is, px.
        thick: f64,
        /// Its number.
        index: usize,
    },
    /// Something that is felt in any of these boxes.
    Zone(Vec<Hitbox>),
    /// Something that can be carried anywhere.
    Unknown,
}

/// Something that is asked after.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Target {
    /// In the words of a trace; of a place to stand on, its columns and row.
    pub(super) name: String,
    pub(super) zone: Option<ZoneId>,
    pub(super) spot: Spot,
}

impl Spot {
    /// Where the middle of a hitbox is that is there.
    pub(super) fn middles(&self, body: &Body) -> impl Iterator<Item = Hitbox> + use<> {
        let (wide, high) = (body.half_width() + 1.0, body.height * 0.5 + 1.0);
        let around = move |place: &Hitbox| Hitbox {
            left: place.left - wide,
            right: place.right + wide,
            top: place.top - high,
            bottom: place.bottom + high,
        };
        let boxes: Vec<Hitbox> = match self {
            Spot::Top(top) => vec![top.middles(body)],
            Spot::Platform { place, thick, .. } => vec![on_top(place, *thick, body)],
            Spot::Zone(boxes) => boxes.iter().map(around).collect(),
            Spot::Unknown => Vec::new(),
        };
        boxes.into_iter()
    }

    /// A box around all of them.
    pub(super) fn middle_box(&self, body: &Body) -> Hitbox {
        let nowhere = Hitbox { left: 0.0, right: 0.0, top: 0.0, bottom: 0.0 };
        self.middles(body).reduce(|one, other| one.around(&other)).unwrap_or(nowhere)
    }
}

/// Where the middle of a hitbox is that stands on something so thick, which is anywhere in a place.
pub(super) fn on_top(place: &Hitbox, thick: f64, body: &Body) -> Hitbox {
    let (wide, half) = (body.half_width() + 1.0, body.height * 0.5);
    Hitbox {
        left: place.left - wide,
        right: place.right + wide,
        top: place.top - half - 1.0,
        bottom: place.bottom - thick - half + 1.0,
    }
}

/// Everything that is asked after in a level.
pub(super) fn targets(level: &Level, tuning: &Tuning) -> Vec<Target> {
    let zones = super::super::check::zones_of(level).into_iter();
    let wanted = zones.filter(|zone| matches!(zone.kind, ZoneKind::Goal | ZoneKind::Pickup | ZoneKind::Checkpoint));
    let places = zone_places(level);
    let mut all: Vec<Target> = wanted
        .map(|zone| Target {
            name: level.names.zone(zone),
            zone: Some(zone),
            spot: spot_of(level, tuning, &places, zone),
        })
        .collect();
    if tuning.numbers().four_way.is_some() {
        // Seen from above nobody stands on anything.
        return all;
    }
    let body = tuning.body();
    // Above the map is no place of the level.
    let within = tops(level, tuning).into_iter().filter(|top| top.y > 0.0);
    all.extend(within.filter(|top| fits(level, body, top)).map(|top| Target {
        name: name_of(level, &top),
        zone: None,
        spot: Spot::Top(top),
    }));
    let swept = swept(level, tuning).into_iter().enumerate();
    all.extend(swept.map(|(index, place)| Target {
        name: format!("platform:{}", level.names.platforms[index]),
        zone: None,
        spot: Spot::Platform { place, thick: level.platforms[index].size.y, index },
    }));
    all
}

/// The columns that a run of tops reaches over, and the row above it.
fn name_of(level: &Level, top: &Top) -> String {
    let lines = level.grid.grid_lines();
    let (first, last) = (lines.last_at_or_before(top.left, 0.0), lines.last_before(top.right, 0.0));
    let row = lines.last_before(top.y, 0.0);
    if first == last { format!("top@{first},{row}") } else { format!("top@{first}-{last},{row}") }
}

/// The runs of tops that a character meets: of tiles, of blocks, of a solid bottom edge. From the left to the right, each row after the one
/// above it.
pub(super) fn tops(level: &Level, tuning: &Tuning) -> Vec<Top> {
    let grid = &level.grid;
    let meets = |group: Group| level.meetings.meet(tuning.group(), group);
    let lines = grid.grid_lines();
    let mut all = Vec::new();
    for row in 0..grid.rows() {
        let holds = |column: i32| {
            let above = match row {
                0 => Surface::Empty,
                _ if !meets(grid.tile(column, row - 1).group) => Surface::Empty,
                _ => grid.surface(column, row - 1),
            };
            let is_covered = matches!(above, Surface::Solid | Surface::Ramp { .. });
            match grid.surface(column, row) {
                _ if !meets(grid.tile(column, row).group) => false,
                Surface::Solid | Surface::OneWay => !is_covered,
                Surface::Ladder => !is_covered && above != Surface::Ladder,
                _ => false,
            }
        };
        let mut column = 0;
        while column < grid.columns() {
            let first = column;
            while column < grid.columns() && holds(column) {
                column += 1;
            }
            if column > first {
                all.push(Top { left: lines.line(first), right: lines.line(column), y: lines.line(row) });
            }
            column += 1;
        }
    }
    let blocks = grid.blocks().iter().filter(|block| meets(block.group));
    all.extend(blocks.map(|block| Top { left: block.left, right: block.right, y: block.top }));
    if grid.edges().bottom == Edge::Solid {
        all.push(Top { left: 0.0, right: grid.width(), y: grid.height() });
    }
    all
}

/// Whether a body can stand on it somewhere.
fn fits(level: &Level, body: &Body, top: &Top) -> bool {
    let grid = &level.grid;
    let lines = grid.grid_lines();
    let half = body.half_width();
    let is_free = |x: f64| {
        let hitbox = Hitbox { left: x - half, right: x + half, top: top.y - body.height, bottom: top.y };
        let columns = lines.last_at_or_before(hitbox.left, 0.0)..=lines.last_before(hitbox.right, 0.0);
        let rows = lines.last_at_or_before(hitbox.top, 0.0)..=lines.last_before(hitbox.bottom, 0.0);
        let is_solid = |column: i32, row: i32| grid.has_tile(column, row) && grid.is_solid(column, row);
        let in_tile = rows.clone().any(|row| columns.clone().any(|column| is_solid(column, row)));
        let in_block = grid.blocks().iter().any(|block| block.place().overlaps(&hitbox));
        !in_tile && !in_block
    };
    // A step is a quarter of a tile, and the ends where it stands on a corner alone.
    let (from, to) = (top.left - half + 0.5, top.right + half - 0.5);
    let steps = ((to - from) / (lines.spacing() * 0.25)).ceil().max(1.0) as i64;
    (0..=steps).any(|step| is_free(from + (to - from) * step as f64 / steps as f64))
}

/// All the places of each platform, px.
pub(super) fn swept(level: &Level, tuning: &Tuning) -> Vec<Hitbox> {
    let Ok(platforms) = Platforms::new(&level.platforms, tuning.rate()) else { return Vec::new() };
    (0..platforms.len()).map(|index| platforms.extent(index)).collect()
}

/// Something that is a zone, where it stands, and who meets it.
pub(super) struct ZonePlace {
    pub(super) zone: Zone,
    pub(super) place: Hitbox,
    pub(super) group: Group,
}

/// Every place of the zones that stay where they are: of each tile, block and drawn one.
pub(super) fn zone_places(level: &Level) -> Vec<(ZoneId, ZonePlace)> {
    let grid = &level.grid;
    let tiles = (0..grid.rows()).flat_map(|row| (0..grid.columns()).map(move |column| (column, row)));
    let tiles = tiles.filter_map(|(column, row)| {
        let tile = grid.tile(column, row);
        let zone = tile.zone?;
        let id = ZoneId { kind: zone.kind, of: grid.zone_of_tile(column, row, &zone) };
        Some((id, ZonePlace { zone, place: grid.grid_lines().cell(column, row), group: tile.group }))
    });
    let blocks = grid.blocks().iter().enumerate().filter_map(|(at, block)| {
        let zone = block.zone?;
        let id = ZoneId { kind: zone.kind, of: ZoneOf::Block(at) };
        Some((id, ZonePlace { zone, place: block.place(), group: block.group }))
    });
    let drawn = grid.zones().iter().enumerate().filter(|(_, drawn)| drawn.ramp.is_none()).map(|(at, drawn)| {
        let id = ZoneId { kind: drawn.zone.kind, of: ZoneOf::Drawn(at) };
        (id, ZonePlace { zone: drawn.zone, place: drawn.place, group: drawn.group })
    });
    tiles.chain(blocks).chain(drawn).collect()
}

/// Where a zone is felt.
fn spot_of(level: &Level, tuning: &Tuning, places: &[(ZoneId, ZonePlace)], id: ZoneId) -> Spot {
    let felt = |zone: &Zone, place: &Hitbox| place.grown(zone.margin.most() + tuning.feels().of(id.kind).most());
    match id.of {
        ZoneOf::Platform(at) => match &level.platforms[at].zone {
            Some(zone) => Spot::Zone(vec![felt(zone, &swept(level, tuning)[at])]),
            None => Spot::Unknown,
        },
        ZoneOf::Ramp(ramp) => {
            let drawn = level.grid.zones().iter().find(|drawn| drawn.ramp == Some(ramp));
            drawn.map_or(Spot::Unknown, |drawn| Spot::Zone(vec![felt(&drawn.zone, &drawn.place)]))
        }
        ZoneOf::Tile { .. } | ZoneOf::Block(_) | ZoneOf::Drawn(_) => {
            let own = places.iter().filter(|(of, _)| *of == id);
            Spot::Zone(own.map(|(_, of)| felt(&of.zone, &of.place)).collect())
        }
        _ => Spot::Unknown,
    }
}
