//! Sweeps along one axis against everything that can stop a hitbox.

use glam::DVec2;

use super::{Heading, Surroundings, Swept};
use crate::terrain::Terrain;

/// A face that stops a body on its way along x.
#[derive(Clone, Copy, Debug)]
pub(super) struct Face {
    /// Where the feet are when it is met, px.
    pub(super) x: f64,
    /// The highest top of what is met there, px.
    pub(super) top: f64,
}

impl<T: Terrain + ?Sized> Surroundings<'_, T> {
    /// The first face met by a body at the height of `from` on its way along x.
    pub(super) fn first_face(&self, from: DVec2, to: f64) -> Option<Face> {
        let (half, to_right) = (self.body.half_width(), to > from.x);
        let area = self.area_between(from, DVec2::new(to, from.y), 0.0);
        let mut first: Option<Face> = None;
        self.obstacles(&area, Heading::along_x(to_right), |obstacle| {
            let x = if to_right { obstacle.left - half } else { obstacle.right + half };
            let ahead = if to_right { from.x <= x && x < to } else { from.x >= x && x > to };
            if !ahead || !obstacle.overlaps_in_height(self.body, from.y) {
                return;
            }
            let nearer = first.is_none_or(|face| if to_right { x < face.x } else { x > face.x });
            let same = first.is_some_and(|face| face.x == x);
            if (nearer || same) && !self.is_buried(obstacle, DVec2::new(x, from.y)) {
                let top = first.filter(|_| same).map_or(obstacle.top, |face| face.top.min(obstacle.top));
                first = Some(Face { x, top });
            }
        });
        first
    }

    /// Up from `feet` to `to`: a ceiling stops what would pass it.
    pub(crate) fn rise(&self, feet: DVec2, to: f64) -> Swept {
        let (half, height) = (self.body.half_width(), self.body.height);
        let area = self.area_between(feet, DVec2::new(feet.x, to), 0.0);
        let mut stop: Option<f64> = None;
        self.obstacles(&area, Heading::Up, |obstacle| {
            let place = obstacle.bottom + height;
            let beneath = feet.x > obstacle.left - half && feet.x < obstacle.right + half;
            if beneath && place <= feet.y && place > to && !self.is_buried(obstacle, DVec2::new(feet.x, place)) {
                stop = Some(stop.map_or(place, |stop| stop.max(place)));
            }
        });
        stop.map_or(Swept::free(to), Swept::at)
    }

    /// The place of the feet, sideways from here by the least way and no more than `most`, from which the
    /// rise to `to` is free. Of two equal ways the one to the right is taken if `right_first`.
    pub(crate) fn nudge(&self, feet: DVec2, to: f64, most: f64, right_first: bool) -> Option<f64> {
        let right = self.clear_of_corner(feet, to, most, true);
        let left = self.clear_of_corner(feet, to, most, false);
        let x = match (left, right) {
            (Some(left), Some(right)) => {
                let (by_left, by_right) = (feet.x - left, right - feet.x);
                if by_right < by_left || (by_right == by_left && right_first) { right } else { left }
            }
            (left, right) => left.or(right)?,
        };
        // The way there must be free: of faces, and of slopes that would have to lift the feet.
        let walk = self.walk(feet, x, super::Footing::Fixed);
        (walk.feet.x == x && !walk.blocked).then_some(x)
    }

    /// The nearest place on one side from which the rise is free.
    fn clear_of_corner(&self, feet: DVec2, to: f64, most: f64, to_right: bool) -> Option<f64> {
        let (half, height) = (self.body.half_width(), self.body.height);
        let mut x = feet.x;
        loop {
            let at = DVec2::new(x, feet.y);
            let area = self.area_between(at, DVec2::new(x, to), 0.0);
            let mut clear = x;
            self.obstacles(&area, Heading::Up, |obstacle| {
                let place = obstacle.bottom + height;
                let beneath = x > obstacle.left - half && x < obstacle.right + half;
                if beneath && place <= feet.y && place > to && !self.is_buried(obstacle, DVec2::new(x, place)) {
                    let past = if to_right { obstacle.right + half } else { obstacle.left - half };
                    clear = if to_right { clear.max(past) } else { clear.min(past) };
                }
            });
            if clear == x {
                return Some(x);
            }
            if (clear - feet.x).abs() > most {
                return None;
            }
            x = clear;
        }
    }
}
