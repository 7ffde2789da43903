//! What is wrong with a level by itself: spawn, edges, goals, zones, checkpoints.

use std::collections::BTreeSet;

use wumple_core::rounds::{Item, Need};
use wumple_core::{DVec2, Edge, Felt, Hitbox, Terrain, World, Zone, ZoneId, ZoneKind, ZoneOf};

use super::{Finding, FindingKind};
use crate::files::{Level, LevelRound, TuningFile};

pub(super) fn check(level: &Level, from_above: bool, found: &mut Vec<Finding>) {
    for warning in level.warnings() {
        let words = [
            warning.message().to_owned(),
            "nobody will meet it".into(),
            "put it into the map, or take it out of the file".into(),
        ];
        found.push(Finding::new(FindingKind::OddLevel, warning.clone(), words));
    }
    if !from_above {
        check_spawn(level, found);
        check_edges(level, found);
    }
    check_felt(level, found);
    if let Some(round) = &level.round {
        check_goals(level, round, found);
    }
}

/// The tile in which the character starts.
fn spawn_box(level: &Level) -> Hitbox {
    let (column, row) = level.spawn_tile;
    level.grid.grid_lines().cell(column as i32, row as i32)
}

fn check_spawn(level: &Level, found: &mut Vec<Finding>) {
    if !level.grounds_to_stand_on().are_beneath(&spawn_box(level)) {
        let words = [
            "nothing is beneath the spawn".into(),
            "the character falls out of the map from the first tick on".into(),
            "ground beneath the \"@\", or the \"@\" above ground".into(),
        ];
        found.push(Finding::new(FindingKind::SpawnOverNothing, level.spawn_place(), words));
    }
    if let Some(hazard) = hazard_in(&World::new(&level.grid), &spawn_box(level)) {
        found.push(spawn_in(level, hazard));
    }
}

fn spawn_in(level: &Level, hazard: ZoneId) -> Finding {
    let words = [
        format!("the spawn is in {}", level.names.zone(hazard)),
        "the character is hurt in the first tick, and again at each restart there".into(),
        "the spawn elsewhere, or a smaller hazard (a negative margin)".into(),
    ];
    Finding::new(FindingKind::SpawnInHazard, level.spawn_place(), words)
}

fn hazard_in<T: Terrain>(world: &World<T>, area: &Hitbox) -> Option<ZoneId> {
    world.zones_in(area).into_iter().find(|zone| zone.kind == ZoneKind::Hazard)
}

/// The bottom is open, and somewhere nothing is above it.
fn check_edges(level: &Level, found: &mut Vec<Finding>) {
    let (grid, edges) = (&level.grid, level.grid.edges());
    if edges.bottom != Edge::Open {
        return;
    }
    let grounds = level.grounds_to_stand_on();
    let whole = |column: i32| Hitbox { top: grid.top(), bottom: grid.height(), ..grid.grid_lines().cell(column, 0) };
    let hole = (0..grid.columns()).find(|column| !grounds.are_beneath(&whole(*column)));
    let aside = [("left", edges.left), ("right", edges.right)].into_iter().find(|(_, edge)| *edge == Edge::Open);
    let what = match (hole, aside) {
        (Some(column), _) => format!("the bottom edge is open, and nothing is in column {column}"),
        (None, Some((side, _))) => format!("the bottom edge is open, and so is the {side} one"),
        (None, None) => return,
    };
    let words = [
        what,
        "whoever falls there falls until coordinates end: neither caught nor defeated".into(),
        "bottom = \"deadly\" in [edges], or \"solid\"".into(),
    ];
    found.push(Finding::new(FindingKind::OpenEdge, level.places().edges(), words));
}

/// Drawn zones that lie within solid tiles alone.
fn check_felt(level: &Level, found: &mut Vec<Finding>) {
    let (grid, lines) = (&level.grid, level.grid.grid_lines());
    for (index, drawn) in grid.zones().iter().enumerate().filter(|(_, drawn)| drawn.ramp.is_none()) {
        let place = drawn.zone.margin.around(&drawn.place);
        let (first_column, last_column) =
            (lines.last_at_or_before(place.left, 0.0), lines.last_before(place.right, 0.0));
        let (first_row, last_row) = (lines.last_at_or_before(place.top, 0.0), lines.last_before(place.bottom, 0.0));
        let is_solid = |column: i32, row: i32| grid.has_tile(column, row) && grid.is_solid(column, row);
        let buried = (first_row..=last_row).all(|row| (first_column..=last_column).all(|column| is_solid(column, row)));
        if buried && drawn.zone.felt == Felt::Inside {
            let kind = drawn.zone.kind;
            let words = [
                format!(
                    "{} lies wholly within solid tiles",
                    level.names.zone(ZoneId { kind, of: ZoneOf::Drawn(index) })
                ),
                "nobody can be in it, so it never fires".into(),
                "a place outside of them, a margin, or felt = \"touch\"".into(),
            ];
            found.push(Finding::new(FindingKind::ZoneNeverFelt, level.places().zone(ZoneOf::Drawn(index)), words));
        }
    }
}

/// Every zone of a level.
pub(in super::super) fn zones_of(level: &Level) -> BTreeSet<ZoneId> {
    let grid = &level.grid;
    let tiles = (0..grid.rows()).flat_map(|row| (0..grid.columns()).map(move |column| (column, row)));
    let tiles = tiles.filter_map(|(column, row)| {
        let zone = grid.tile(column, row).zone?;
        Some(ZoneId { kind: zone.kind, of: grid.zone_of_tile(column, row, &zone) })
    });
    let of = |of: ZoneOf, zone: Option<Zone>| zone.map(|zone| ZoneId { kind: zone.kind, of });
    let blocks = grid.blocks().iter().enumerate().filter_map(|(at, block)| of(ZoneOf::Block(at), block.zone));
    let platforms = level.platforms.iter().enumerate().filter_map(|(at, thing)| of(ZoneOf::Platform(at), thing.zone));
    let props = level.props.iter().enumerate().filter_map(|(at, thing)| of(ZoneOf::Prop(at), thing.zone));
    let drawn = grid
        .zones()
        .iter()
        .enumerate()
        .filter_map(|(at, drawn)| of(drawn.ramp.map_or(ZoneOf::Drawn(at), ZoneOf::Ramp), Some(drawn.zone)));
    tiles.chain(blocks).chain(platforms).chain(props).chain(drawn).collect()
}

fn check_goals(level: &Level, round: &LevelRound, found: &mut Vec<Finding>) {
    let zones = zones_of(level);
    let goals: Vec<ZoneId> = zones.iter().copied().filter(|zone| zone.kind == ZoneKind::Goal).collect();
    if goals.is_empty() {
        let words = [
            "a level with a [round] and no goal".into(),
            "the round can be lost, and never finished".into(),
            "a goal: \"!\" in the map, or zone = \"goal\"".into(),
        ];
        found.push(Finding::new(FindingKind::NoGoal, level.places().file(), words));
        return;
    }
    let had = Had::all(&zones, round);
    let rules = &round.rules;
    let opens = |goal: &&ZoneId| had.meets(rules.of(**goal).needs) && had.meets(rules.numbers().goal_needs);
    if goals.iter().any(|goal| opens(&goal)) {
        return;
    }
    let words = [
        format!("no goal can ever be open: {} pickups can be taken, and of items {}", had.pickups, had.words()),
        "the level is never finished".into(),
        "fewer asked for, or pickups that ask for nothing that lies behind themselves".into(),
    ];
    found.push(Finding::new(FindingKind::GoalClosedForEver, level.places().zone(goals[0].of), words));
}

/// What can be had in a level at all, wherever it lies.
struct Had {
    pickups: u32,
    items: BTreeSet<Item>,
}

impl Had {
    fn all(zones: &BTreeSet<ZoneId>, round: &LevelRound) -> Had {
        let mut had = Had { pickups: 0, items: BTreeSet::new() };
        let mut left: Vec<ZoneId> = zones.iter().copied().collect();
        loop {
            let before = left.len();
            left.retain(|zone| {
                let rule = round.rules.of(*zone);
                let is_taken = zone.kind == ZoneKind::Pickup || rule.gives.is_some();
                if !is_taken || !had.meets(rule.needs) {
                    return true;
                }
                if zone.kind == ZoneKind::Pickup {
                    had.pickups = had.pickups.saturating_add(rule.worth);
                }
                had.items.extend(rule.gives);
                false
            });
            if left.len() == before {
                return had;
            }
        }
    }

    fn meets(&self, need: Option<Need>) -> bool {
        match need {
            None => true,
            Some(Need::Pickups(needed)) => self.pickups >= needed,
            Some(Need::Has(item)) => self.items.contains(&item),
        }
    }

    fn words(&self) -> String {
        let words: Vec<String> = self.items.iter().map(|item| format!("\"{item}\"")).collect();
        if words.is_empty() { "none".into() } else { words.join(", ") }
    }
}

/// As a character of a tuning meets it.
pub(super) fn check_with(level: &Level, tuning: &TuningFile, found: &mut Vec<Finding>) {
    let Ok((world, id)) = level.world(&tuning.tuning) else { return };
    let spawned = world.character(id).hitbox();
    let hit = hazard_in(&world, &spawned);
    if let Some(hazard) = hit.filter(|_| !found.iter().any(|of| of.kind == FindingKind::SpawnInHazard)) {
        found.push(spawn_in(level, hazard));
    }
    if level.round.is_none() {
        return;
    }
    let probe = world.probe(&tuning.tuning);
    let lines = level.grid.grid_lines();
    for zone in zones_of(level).into_iter().filter(|zone| zone.kind == ZoneKind::Checkpoint) {
        let place = match zone.of {
            ZoneOf::Tile { column, row } => lines.cell(column, row),
            ZoneOf::Drawn(at) => level.grid.zones()[at].place,
            _ => continue,
        };
        let middle = DVec2::new((place.left + place.right) * 0.5, place.bottom);
        if !probe.fits(middle) {
            continue;
        }
        let rest = probe.first_met_y(middle, level.grid.height() + tuning.tuning.body().height);
        if rest.piece.is_none() {
            continue;
        }
        if let Some(hazard) = hazard_in(&world, &tuning.tuning.body().hitbox_at(rest.feet)) {
            let words = [
                format!("{} stands over {}", level.names.zone(zone), level.names.zone(hazard)),
                "whoever starts again there is hurt at once".into(),
                "the checkpoint over safe ground".into(),
            ];
            found.push(Finding::new(FindingKind::CheckpointOverHazard, level.places().zone(zone.of), words));
        }
    }
}
