//! What is to be fetched lies where the hitbox does not fit.

use wumple_core::{Terrain, World, ZoneKind, ZoneOf};

use super::{Finding, FindingKind};
use crate::analysis::tight_passages;
use crate::files::{Level, TuningFile};
use crate::units::short;

/// Passages too tight for the body are often meant. One with a pickup, a checkpoint or a goal in it is not, if nothing of that is felt
/// from outside.
pub(super) fn check(level: &Level, tuning: &TuningFile, found: &mut Vec<Finding>) {
    let (grid, lines) = (&level.grid, level.grid.grid_lines());
    let world = World::new(grid);
    let body = tuning.tuning.body();
    for passage in tight_passages(level, body) {
        let (first, last) =
            (lines.cell(passage.columns.0, passage.rows.0), lines.cell(passage.columns.1, passage.rows.1));
        let area = first.around(&last);
        let wanted = world.zones_in(&area).into_iter().find(|zone| {
            matches!(zone.kind, ZoneKind::Pickup | ZoneKind::Checkpoint | ZoneKind::Goal)
                && matches!(zone.of, ZoneOf::Tile { column, row }
                    if area.contains(&lines.cell(column, row)) && !is_felt_beyond(level, column, row))
        });
        let Some(zone) = wanted else { continue };
        let (across, needed) = if passage.is_height { ("high", body.height) } else { ("wide", body.width) };
        let words = [
            format!(
                "{} is in a passage that is {} px {across}; the hitbox of {} is {} px {across}",
                level.names.zone(zone),
                short(passage.size_px),
                tuning.name,
                short(needed)
            ),
            "it is seen, and never come to".into(),
            "a passage of another tile, or the thing at its mouth".into(),
        ];
        found.push(Finding::new(FindingKind::TightPassage, level.places().zone(zone.of), words));
    }
}

/// Whether a tile's zone is felt beyond the tile: then it may be come to from the passage's mouth.
fn is_felt_beyond(level: &Level, column: i32, row: i32) -> bool {
    level.grid.tile(column, row).zone.is_some_and(|zone| zone.margin.most() > 0.0)
}
