//! Following the ground down: what a body that walked is set down on.

use glam::DVec2;

use super::{JOIN, Room};
use crate::geometry::Hitbox;
use crate::terrain::{Ramp, Terrain};

impl<T: Terrain + ?Sized> Room<'_, T> {
    /// The height on which a body is set down that walked from one place to another and has nothing under
    /// its feet there: the first top below, if it is a ramp within `follow` px or the way that the ramps passed
    /// go down, or a flat within `step` px, or one to which a ramp led down that the feet left on the way.
    pub(crate) fn set_down(&self, feet: DVec2, from: DVec2, follow: f64, step: f64) -> Option<f64> {
        let slopes = self.slopes_passed(feet, from, follow);
        let top = self.first_top(feet.x, feet.y, feet.y + slopes.depth.max(step))?;
        let by = top.y - feet.y;
        let follows = match top.ramp {
            Some(_) => by <= slopes.depth,
            None => by <= step || (by <= slopes.depth && slopes.leads_to.is_some_and(|end| top.y <= end + JOIN)),
        };
        follows.then_some(top.y)
    }

    /// How far down the ramps between two places go that fall on the way from one to the other.
    fn slopes_passed(&self, feet: DVec2, from: DVec2, follow: f64) -> SlopesPassed {
        let (along, to_right) = ((feet.x - from.x).abs(), feet.x > from.x);
        let (left, right) = (feet.x.min(from.x), feet.x.max(from.x));
        let mut passed = SlopesPassed { depth: follow + JOIN, leads_to: None };
        // What is passed further down may be steeper yet.
        loop {
            let before = passed;
            let area = Hitbox { left, right, top: feet.y - JOIN, bottom: feet.y + passed.depth };
            let is_met = |ramp: &Ramp| {
                let falls = ramp.end(to_right).y > ramp.end(!to_right).y;
                falls && ramp.left_end().x <= right && ramp.right_end().x >= left
            };
            let mut leads = false;
            self.ramps(&area, |_, ramp| {
                let begins = ramp.end(!to_right).y;
                if is_met(ramp) && begins <= area.bottom && ramp.end(to_right).y >= area.top {
                    passed.depth = passed.depth.max(along * ramp.slope() + JOIN);
                    let height = ramp.at(from.x);
                    leads |= (height - feet.y).abs() <= JOIN;
                    let end = ramp.end(to_right).y;
                    passed.leads_to = Some(passed.leads_to.map_or(end, |lowest: f64| lowest.max(end)));
                }
            });
            // None of them was left if the feet were on none.
            passed.leads_to = passed.leads_to.filter(|_| leads);
            if passed.depth <= before.depth {
                return passed;
            }
        }
    }
}

/// What the ramps on a way do for a body that is to be set down behind them.
#[derive(Clone, Copy)]
struct SlopesPassed {
    /// How far down a ramp is followed, px.
    depth: f64,
    /// The lowest of their ends, px, y down, if the feet were on one of them.
    leads_to: Option<f64>,
}
