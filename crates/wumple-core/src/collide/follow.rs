//! Following the ground down: what a body that walked is set down on.

use glam::DVec2;

use super::{JOIN, Surroundings};
use crate::space::Hitbox;
use crate::terrain::Terrain;

impl<T: Terrain + ?Sized> Surroundings<'_, T> {
    /// The height on which a body is set down that walked from one place to another and has nothing under
    /// its feet there: the first top below, if it is a ramp within `follow` px or the way that the ramps passed
    /// go down, or a flat within `step` px, or one to which a ramp led down that the feet left on the way.
    pub(crate) fn set_down(&self, feet: DVec2, from: DVec2, follow: f64, step: f64) -> Option<SetDown> {
        let slopes = self.slopes_passed(feet, from, follow);
        let floor = self.first_floor(feet.x, feet.y, feet.y + slopes.depth.max(step))?;
        let by = floor.y - feet.y;
        let follows = match floor.ramp {
            Some(_) => by <= slopes.depth,
            None => by <= step || (by <= slopes.depth && slopes.leads_to.is_some_and(|end| floor.y <= end + JOIN)),
        };
        follows.then_some(SetDown { top: floor.y, by, led: slopes.led })
    }

    /// How far down the ramps between two places lead that fall on the way from one to the other.
    fn slopes_passed(&self, feet: DVec2, from: DVec2, follow: f64) -> SlopesPassed {
        let (along, to_right) = ((feet.x - from.x).abs(), feet.x > from.x);
        let (left, right) = (feet.x.min(from.x), feet.x.max(from.x));
        let mut depth = follow + JOIN;
        // What is passed further down may be steeper yet.
        loop {
            let area = Hitbox { left, right, top: feet.y - JOIN, bottom: feet.y + depth };
            let (mut steepest, mut lowest, mut leads) = (0.0_f64, feet.y, false);
            self.slopes(&area, |slope| {
                let ramp = &slope.ramp;
                let (begins, ends) = (ramp.end(!to_right).y, ramp.end(to_right).y);
                let passed = ramp.left.x <= right && ramp.right.x >= left && begins <= area.bottom && ends >= area.top;
                if passed && ends > begins {
                    (steepest, lowest) = (steepest.max(ramp.slope()), lowest.max(ends));
                    leads |= (ramp.at(from.x) - feet.y).abs() <= JOIN;
                }
            });
            let deeper = (along * steepest).min(lowest - feet.y) + JOIN;
            if deeper <= depth {
                return SlopesPassed { depth, led: deeper, leads_to: leads.then_some(lowest) };
            }
            depth = deeper;
        }
    }
}

/// That a body is set down.
#[derive(Debug)]
pub(crate) struct SetDown {
    /// On which height, px, y down.
    pub(crate) top: f64,
    /// How far, px.
    pub(crate) by: f64,
    /// How much of that is the way down the slopes that it walked along, px.
    pub(crate) led: f64,
}

/// What the ramps on a way do for a body that is to be set down behind them.
struct SlopesPassed {
    /// How far down a ramp is followed, px.
    depth: f64,
    /// How far down they led by themselves, px.
    led: f64,
    /// The lowest of their ends, px, y down, if the feet were on one of them.
    leads_to: Option<f64>,
}
