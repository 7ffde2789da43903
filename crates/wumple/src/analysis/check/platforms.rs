//! Ways of platforms, slabs that never come back, tops that do not bounce.

use wumple_core::{Hitbox, PlatformNumbers, Platforms, Surface, Terrain, ZoneOf};

use super::{Finding, FindingKind};
use crate::files::{Level, TuningFile, fall_time};
use crate::units::short;

/// Touching is no overlap: less than this is rounding, px.
const SKIN: f64 = 1.0 / 512.0;

/// Ways through what is solid, and out of the map.
pub(super) fn check_routes(level: &Level, found: &mut Vec<Finding>) {
    let map = Hitbox { left: 0.0, right: level.grid.width(), top: 0.0, bottom: level.grid.height() };
    for (index, platform) in level.platforms.iter().enumerate() {
        let name = &level.names.platforms[index];
        let place = level.places().platform(index);
        let out = platform.route.iter().position(|at| !Hitbox::at(*at, platform.size).overlaps(&map));
        if let Some(out) = out.filter(|_| platform.route.len() > 1) {
            let words = [
                format!("place {} of the route of platform {name} is outside the map", out + 1),
                "it is gone for a while, with whoever rides it".into(),
                "a route within the map".into(),
            ];
            found.push(Finding::new(FindingKind::RouteOutsideMap, place.clone(), words));
        }
        if let Some(what) = solid_on_route(level, platform) {
            let words = [
                format!("the route of platform {name} leads through {what}"),
                "who rides it is crushed or left behind there".into(),
                "a route past it".into(),
            ];
            found.push(Finding::new(FindingKind::RouteThroughSolid, place, words));
        }
    }
}

/// So many tiles are looked at for one platform; of one that would need more nothing is said.
const MOST_LOOKS: i64 = 2_000_000;

/// The first solid tile or block that a platform comes through, looked for at places that are no further apart than it is long.
fn solid_on_route(level: &Level, platform: &PlatformNumbers) -> Option<String> {
    let (grid, lines) = (&level.grid, level.grid.grid_lines());
    let step = (platform.size.min_element() / 2.0).max(lines.spacing() / 4.0);
    // The rate makes no difference to where it leads.
    let line = Platforms::new(std::slice::from_ref(platform), 60.0).ok()?.route(0).line();
    let legs = line.windows(2).map(|leg| (leg[0], leg[1]));
    let mut looks = 0;
    for (from, to) in legs {
        let steps = ((to - from).length() / step).ceil().max(1.0) as u32;
        for at in 0..=steps {
            let place = Hitbox::at(from.lerp(to, f64::from(at) / f64::from(steps)), platform.size).grown(-SKIN);
            let columns = lines.last_at_or_before(place.left, 0.0).max(0)
                ..=lines.last_before(place.right, 0.0).min(grid.columns() - 1);
            let rows = lines.last_at_or_before(place.top, 0.0).max(0)
                ..=lines.last_before(place.bottom, 0.0).min(grid.rows() - 1);
            let length = |of: &std::ops::RangeInclusive<i32>| i64::from(of.end() - of.start() + 1).max(0);
            looks += length(&columns) * length(&rows) + 1;
            if looks > MOST_LOOKS {
                return None;
            }
            let mut tiles = rows.flat_map(|row| columns.clone().map(move |column| (column, row)));
            if let Some((column, row)) = tiles.find(|(column, row)| grid.is_solid(*column, *row)) {
                return Some(format!("the solid tile at column {column}, row {row}"));
            }
            let mut block = None;
            grid.blocks_near(&place, &mut |at, of| block = block.or(of.place().overlaps(&place).then_some(at)));
            if let Some(block) = block {
                return Some(format!("block {}", level.names.blocks[block]));
            }
        }
    }
    None
}

/// As a character of a tuning meets them.
pub(super) fn check_with(level: &Level, tuning: &TuningFile, found: &mut Vec<Finding>) {
    let tops = tops_of(level);
    check_slabs(level, tuning, &tops, found);
    check_dead_tops(level, tuning, &tops, found);
}

/// Something to stand on.
struct Top {
    left: f64,
    right: f64,
    y: f64,
    bounces: bool,
    /// A slab that never comes back, by its number.
    slab: Option<usize>,
    what: String,
    of: ZoneOf,
}

fn tops_of(level: &Level) -> Vec<Top> {
    let (grid, lines) = (&level.grid, level.grid.grid_lines());
    let mut tops = Vec::new();
    for row in 0..grid.rows() {
        for column in 0..grid.columns() {
            let tile = grid.tile(column, row);
            let stands = !matches!(tile.surface, Surface::Empty | Surface::Ladder);
            let covered = row > 0 && grid.is_solid(column, row - 1);
            if stands && !covered {
                let place = lines.cell(column, row);
                tops.push(Top {
                    left: place.left,
                    right: place.right,
                    y: place.top,
                    bounces: tile.material.bounce.is_some(),
                    slab: None,
                    what: format!("the tile at column {column}, row {row}"),
                    of: ZoneOf::Tile { column, row },
                });
            }
        }
    }
    for (at, block) in grid.blocks().iter().enumerate() {
        let what = format!("block {}", level.names.blocks[at]);
        let bounces = block.material.bounce.is_some();
        let (left, right, y) = (block.left, block.right, block.top);
        tops.push(Top { left, right, y, bounces, slab: None, what, of: ZoneOf::Block(at) });
    }
    for (at, platform) in level.platforms.iter().enumerate() {
        let crumbles = platform.crumble.is_some_and(|crumble| crumble.back_after.is_none());
        for corner in &platform.route {
            tops.push(Top {
                left: corner.x,
                right: corner.x + platform.size.x,
                y: corner.y,
                bounces: platform.material.bounce.is_some(),
                slab: crumbles.then_some(at),
                what: format!("platform {}", level.names.platforms[at]),
                of: ZoneOf::Platform(at),
            });
        }
    }
    tops
}

/// A slab that never comes back, between grounds that are further apart than a jump.
fn check_slabs(level: &Level, tuning: &TuningFile, tops: &[Top], found: &mut Vec<Finding>) {
    let (apex, height) = tuning.tuning.full_jump();
    let flight = apex + fall_time(&tuning.tuning, height);
    let tile = level.grid.grid_lines().spacing();
    let reach = tuning.tuning.run().top_speed * flight + tuning.tuning.body().width;
    for slab in tops.iter().filter(|top| top.slab.is_some()) {
        let others = || tops.iter().filter(|top| top.slab.is_none() && (top.y - slab.y).abs() <= height.max(tile));
        let left = others().map(|top| top.right).filter(|right| *right <= slab.right).fold(f64::NEG_INFINITY, f64::max);
        let right = others().map(|top| top.left).filter(|left| *left >= slab.left).fold(f64::INFINITY, f64::min);
        let gap = right - left;
        if gap.is_finite() && gap > reach {
            let words = [
                format!(
                    "{} never comes back, and the ground on both sides is {} tiles apart; a running jump reaches {}",
                    slab.what,
                    short(gap / tile),
                    short(reach / tile)
                ),
                "whoever is on the wrong side when it is gone cannot go on".into(),
                "back_after in its crumble, or ground that can be jumped from".into(),
            ];
            let place = level.places().zone(slab.of);
            found.push(Finding::new(FindingKind::SlabNeverBack, place, words));
        }
    }
}

/// Who cannot jump, climb or hold on goes up by bounces alone.
fn check_dead_tops(level: &Level, tuning: &TuningFile, tops: &[Top], found: &mut Vec<Finding>) {
    let wall = tuning.tuning.wall();
    let rises_by_itself = tuning.tuning.jump().is_some()
        || tuning.tuning.ladder().is_some()
        || wall.hold.is_some()
        || wall.jump.is_some();
    let lowest = tops.iter().filter(|top| top.bounces).map(|top| top.y).fold(f64::NEG_INFINITY, f64::max);
    if rises_by_itself || !lowest.is_finite() {
        return;
    }
    let mut dead: Vec<&Top> = tops.iter().filter(|top| !top.bounces && top.y < lowest).collect();
    dead.sort_by(|one, other| one.y.total_cmp(&other.y).then(one.left.total_cmp(&other.left)));
    let mut before: Option<&Top> = None;
    for dead in dead {
        // Tiles side by side are one top.
        let goes_on = before.replace(dead).is_some_and(|before| before.right == dead.left && before.y == dead.y);
        if goes_on {
            continue;
        }
        let words = [
            format!("{} does not bounce, in a course of tops that do", dead.what),
            format!("{} cannot jump: whoever comes down on it stays there", tuning.name),
            "a bounce on it, or a jump for the character".into(),
        ];
        found.push(Finding::new(FindingKind::DeadTop, level.places().zone(dead.of), words));
    }
}
