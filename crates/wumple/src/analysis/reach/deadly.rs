//! Places to stand on where nobody lives.

use wumple_core::{Felt, Surface, Terrain, Tuning, ZoneKind};

use super::places::{Spot, Target, Top, ZonePlace, places_of};
use crate::analysis::check::zones_of;
use crate::files::Level;

/// What sums of rounded numbers may be off by, px.
const ROUND: f64 = 0.01;

/// Why nobody can be there, if wherever somebody can stand on a top there is a hazard, in a round in which every hazard defeats.
pub(super) fn why_deadly(level: &Level, tuning: &Tuning, target: &Target) -> Option<String> {
    let (Spot::Top(top), Some(round)) = (&target.spot, &level.round) else { return None };
    if round.rules.numbers().health.is_some() {
        return None;
    }
    let (body, feels) = (tuning.body(), tuning.feels().of(ZoneKind::Hazard));
    let least = feels.left.min(feels.right).min(feels.above).min(feels.below) - ROUND;
    let hazards = zones_of(level).into_iter().filter(|zone| {
        // What can be taken is not there for ever.
        zone.kind == ZoneKind::Hazard && round.rules.of(*zone).gives.is_none()
    });
    // Of each: where the feet are of who stands there and is in it.
    let felt = hazards.flat_map(|zone| places_of(level, zone)).filter_map(|ZonePlace { zone, place, group }| {
        let is_felt = level.meetings.meet(tuning.group(), group) && zone.felt == Felt::Inside;
        let place = zone.margin.around(&place).grown(least);
        (is_felt && place.top < top.y && place.bottom > top.y - body.height)
            .then_some((place.left - body.half_width(), place.right + body.half_width()))
    });
    let mut felt: Vec<(f64, f64)> = felt.collect();
    felt.sort_by(|one, other| one.0.total_cmp(&other.0));
    let (from, end) = feet_on(level, tuning, top);
    let covered =
        felt.iter().fold(from, |covered, (from, to)| if *from < covered { covered.max(*to) } else { covered });
    (covered > end).then(|| "deadly: whoever stands there is in a hazard, and defeated".to_owned())
}

/// From where to where the feet can be of who stands on a top: beyond its ends, but for where a wall stands.
fn feet_on(level: &Level, tuning: &Tuning, top: &Top) -> (f64, f64) {
    let (grid, half) = (&level.grid, tuning.body().half_width());
    let lines = grid.grid_lines();
    let row = lines.last_before(top.y, 0.0);
    let is_wall = |x: f64| {
        let column = lines.last_at_or_before(x, 0.0);
        if !grid.has_tile(column, row) {
            return false;
        }
        let tile = grid.tile(column, row);
        tile.surface == Surface::Solid && tile.zone.is_none() && level.meetings.meet(tuning.group(), tile.group)
    };
    let from = if is_wall(top.left - ROUND) { top.left + half } else { top.left - half };
    let end = if is_wall(top.right + ROUND) { top.right - half } else { top.right + half };
    (from, end)
}
