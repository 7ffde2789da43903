//! Places to stand on where nobody lives.

use wumple_core::{Felt, Hitbox, Surface, Terrain, Tuning, ZoneId, ZoneKind};

use super::places::{Spot, Target, Top, ZonePlace, zone_places};
use crate::files::Level;

/// What sums of rounded numbers may be off by, px.
const ROUND: f64 = 0.01;

/// The hazards of a round in which every hazard defeats.
pub(super) struct Deadly<'a> {
    level: &'a Level,
    tuning: &'a Tuning,
    /// Where each is felt for sure, px.
    felt: Vec<Hitbox>,
}

impl<'a> Deadly<'a> {
    pub(super) fn of(level: &'a Level, tuning: &'a Tuning) -> Deadly<'a> {
        let Some(round) = level.round.as_ref().filter(|round| round.rules.numbers().health.is_none()) else {
            return Deadly { level, tuning, felt: Vec::new() };
        };
        let feels = tuning.feels().of(ZoneKind::Hazard);
        let least = feels.left.min(feels.right).min(feels.above).min(feels.below) - ROUND;
        // What can be taken is not there for ever.
        let stays = |id: ZoneId| id.kind == ZoneKind::Hazard && round.rules.of(id).gives.is_none();
        let places = zone_places(level).into_iter().filter(|(id, _)| stays(*id)).map(|(_, place)| place);
        let felt = places.filter_map(|ZonePlace { zone, place, group }| {
            let is_felt = level.meetings.meet(tuning.group(), group) && zone.felt == Felt::Inside;
            is_felt.then(|| zone.margin.around(&place).grown(least))
        });
        Deadly { level, tuning, felt: felt.collect() }
    }

    /// Why nobody can be there, if wherever somebody can stand on a top there is a hazard.
    pub(super) fn why_not(&self, target: &Target) -> Option<String> {
        let (Spot::Top(top), body) = (&target.spot, self.tuning.body()) else { return None };
        // Of each: where the feet are of who stands there and is in it.
        let at_height = self.felt.iter().filter(|felt| felt.top < top.y && felt.bottom > top.y - body.height);
        let mut spans: Vec<(f64, f64)> =
            at_height.map(|felt| (felt.left - body.half_width(), felt.right + body.half_width())).collect();
        spans.sort_by(|one, other| one.0.total_cmp(&other.0));
        let (from, end) = feet_on(self.level, self.tuning, top);
        let covered =
            spans.iter().fold(from, |covered, (from, to)| if *from < covered { covered.max(*to) } else { covered });
        (covered > end).then(|| "deadly: whoever stands there is in a hazard, and defeated".to_owned())
    }
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
