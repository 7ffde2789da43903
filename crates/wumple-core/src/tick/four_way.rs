//! Steps 5 and 6 of a body that is seen from above: x, then y, and around corners.

use glam::DVec2;

use super::turn::Turn;
use super::{Decision, Listener};
use crate::collide::JOIN;
use crate::input::Facing;
use crate::states::Mode;
use crate::terrain::Terrain;

/// Step 6.
#[inline(never)]
pub(super) fn move_y<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, by: f64) {
    let by = turn.body.in_pixels(DVec2::new(0.0, by)).y;
    let (from, to) = (turn.feet, turn.feet.y + by);
    // From rest where places come first there is no way yet: a face right ahead stops it all the same.
    let heading = if by == 0.0 { turn.velocity.y } else { by };
    let reach = if by == 0.0 && heading != 0.0 { from.y + JOIN.copysign(heading) } else { to };
    let stopped_at = {
        let around = turn.around();
        let place = if heading < 0.0 { around.rise(from, reach).place } else { around.sink(from, reach) };
        (place != reach).then_some(place)
    };
    match stopped_at {
        Some(place) => {
            turn.feet.y = place;
            turn.velocity.y = 0.0;
            turn.body.outside.drop_rest_y();
            turn.body.report.contacts.above = heading < 0.0;
        }
        None => turn.feet.y = to,
    }
    let stopped = stopped_at.is_some().then_some(if heading < 0.0 { Facing::Up } else { Facing::Down });
    if let Mode::FourWay(four) = &mut turn.body.mode {
        four.stopped_below = stopped == Some(Facing::Down);
    }
    slide_around_corner(turn, stopped);
    turn.find_cells();
}

/// Who is stopped along one axis, holds on that way and nothing else, and is at rest along the other, goes along the face to the
/// nearest place from which the way is free.
fn slide_around_corner<T: Terrain, L: Listener>(turn: &mut Turn<'_, T, L>, stopped_y: Option<Facing>) {
    let ahead = turn.travelled.stopped_x.or(stopped_y);
    let Mode::FourWay(four) = turn.body.mode else { return };
    let slid = ahead.is_some_and(|ahead| slide(turn, ahead, |one, other| four.later_of(one, other)));
    if let Mode::FourWay(four) = &mut turn.body.mode {
        four.slid = slid;
    }
}

/// Whether it slides. By whole pixels it may come nowhere yet.
fn slide<T: Terrain, L: Listener>(
    turn: &mut Turn<'_, T, L>,
    ahead: Facing,
    later_of: impl Fn(Facing, Facing) -> Facing,
) -> bool {
    let Some(rules) = turn.body.tuning.four_way().copied() else { return false };
    let along_x = matches!(ahead, Facing::Left | Facing::Right);
    let (before, now) = (turn.start.velocity, turn.velocity);
    let (held_aside, rests, sides) = if along_x {
        (turn.intent.climbing, before.y == 0.0 && now.y == 0.0, [Facing::Up, Facing::Down])
    } else {
        (turn.intent.steering, before.x == 0.0 && now.x == 0.0, [Facing::Left, Facing::Right])
    };
    if rules.corner_slide == 0.0 || !turn.intent.is_held(ahead) || held_aside != 0.0 || !rests {
        return false;
    }
    let feet = turn.feet;
    let [one, other] = sides.map(|side| turn.around().past_corner(feet, ahead, side, rules.corner_slide));
    let by = |place: DVec2| (place - feet).abs().max_element();
    let goal = match (one, other) {
        (Some(one), Some(other)) => {
            let is_first =
                if by(one) == by(other) { later_of(sides[0], sides[1]) == sides[0] } else { by(one) < by(other) };
            Some(if is_first { one } else { other })
        }
        (one, other) => one.or(other),
    };
    let Some(goal) = goal else { return false };
    let most = rules.rates.top_speed * turn.body.tuning.tick_seconds();
    let way = (goal - feet).clamp(DVec2::splat(-most), DVec2::splat(most));
    let way = if along_x { DVec2::new(0.0, way.y) } else { DVec2::new(way.x, 0.0) };
    let moved = turn.body.in_pixels(way);
    if moved == DVec2::ZERO {
        return true;
    }
    // No further than the free way, to the bit, also by whole pixels.
    let is_there = moved.abs().max_element() >= by(goal);
    turn.feet = if is_there { goal } else { feet + moved };
    let px = by(turn.feet);
    turn.note(|| Decision::SlidAroundCorner { by: px });
    true
}
