//! The way along x, over slopes.

use glam::DVec2;

use super::{Heading, JOIN, Passed, Surroundings};
use crate::nearby::RampId;
use crate::space::Hitbox;
use crate::terrain::{Ramp, Terrain};

/// How a body goes over slopes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum Footing {
    /// Supported: it walks up slopes no steeper than this, px for each px along.
    Ground { steepest: f64 },
    /// In the air: a slope does not stop it, and lifts it afterwards.
    Air,
    /// On a ladder, or nudged: a solid slope cannot lift it.
    Fixed,
}

/// How far a way along x came.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Walk {
    /// The place reached; its height is that of the slopes that were come over.
    pub(crate) feet: DVec2,
    /// Whether something stopped it that clears its speed.
    pub(crate) blocked: bool,
    /// The top of the face that stopped it, if one did.
    pub(crate) face_top: Option<f64>,
}

/// A slope that goes up on the way, and where the feet meet it.
#[derive(Clone, Copy)]
pub(super) struct Rising {
    id: RampId,
    ramp: Ramp,
    from: f64,
}

impl<T: Terrain + ?Sized> Surroundings<'_, T> {
    /// Along x from `feet` to `to`, up the slopes on the way.
    pub(crate) fn walk(&self, feet: DVec2, to: f64, footing: Footing) -> Walk {
        if to == feet.x {
            return Walk { feet, blocked: false, face_top: None };
        }
        let way = Way { feet, to, footing };
        if self.nearby.has_no_slopes(self.terrain, &self.area_between(feet, DVec2::new(to, feet.y), JOIN)) {
            return way.level(self);
        }
        let walk = match way.once(self) {
            Ok(walk) => walk,
            // A drawn ramp that cannot lift the feet lets them through.
            Err((ramp, stopped)) => way.through(self, ramp, stopped),
        };
        Walk { feet: self.on_sill(walk.feet), ..walk }
    }

    /// Whether a slope touches the box that the body covers between two places, or comes within a join's width of it.
    #[inline]
    pub(crate) fn is_slope_between(&self, from: DVec2, to: DVec2) -> bool {
        let mut found = false;
        self.slopes(&self.area_between(from, to, JOIN), |_| found = true);
        found
    }

    /// The slope that goes up soonest under feet on their way to `to`.
    pub(super) fn next_rising(&self, at: DVec2, to: f64) -> Option<Rising> {
        let to_right = to > at.x;
        let area = Hitbox {
            left: at.x.min(to) - JOIN,
            right: at.x.max(to) + JOIN,
            // A slope meets the feet at their height, or a join's width above.
            top: at.y - JOIN,
            bottom: at.y + JOIN,
        };
        let mut first: Option<Rising> = None;
        self.slopes(&area, |slope| {
            let ramp = &slope.ramp;
            let (near, far) = (ramp.end(!to_right), ramp.end(to_right));
            let ahead = if to_right { far.x > at.x && near.x < to } else { far.x < at.x && near.x > to };
            if !ahead || far.y >= near.y || far.y >= at.y {
                return;
            }
            let entered = if to_right { near.x >= at.x } else { near.x <= at.x };
            let came_from_above = if entered { at.y <= near.y + JOIN } else { at.y <= ramp.at(at.x) };
            if !came_from_above {
                return;
            }
            let start = if entered { near.x } else { at.x };
            let from = if ramp.at(start) <= at.y {
                start
            } else {
                // The last place, as far as doubles go, where the feet are not below the slope.
                let place = ramp.place_at_height(at.y);
                let place = if to_right { place.max(start) } else { place.min(start) };
                head_below(ramp, place, start, at.y)
            };
            let sooner = first.is_none_or(|other| {
                let by = (from - at.x).abs() - (other.from - at.x).abs();
                by < 0.0 || (by == 0.0 && ramp.slope() > other.ramp.slope())
            });
            let on_the_way = if to_right { from < to } else { from > to };
            if on_the_way && sooner {
                first = Some(Rising { id: slope.id, ramp: *ramp, from });
            }
        });
        first
    }

    /// How far the feet go up this slope: to its end, to `to`, or to where a steeper one takes over; and
    /// their height there, below neither.
    pub(super) fn end_of_climb(&self, rising: &Rising, at: DVec2, to: f64) -> (f64, f64) {
        let to_right = to > at.x;
        let far = rising.ramp.end(to_right).x;
        let mut end = if to_right { far.min(to) } else { far.max(to) };
        let high = rising.ramp.at(end);
        let mut height = high;
        let area = Hitbox { left: at.x.min(end), right: at.x.max(end), top: high, bottom: at.y };
        self.slopes(&area, |slope| {
            let other = &slope.ramp;
            let (near, far) = (other.end(!to_right), other.end(to_right));
            let ahead = if to_right { far.x > at.x && near.x < end } else { far.x < at.x && near.x > end };
            if slope.id == rising.id || !ahead || far.y >= near.y || other.slope() <= rising.ramp.slope() {
                return;
            }
            // Where the two lines cross: their heights differ by so much at the start, and so much per px.
            let start = if to_right { near.x.max(at.x) } else { near.x.min(at.x) };
            let apart = other.at(start) - rising.ramp.at(start);
            if apart < -JOIN {
                return;
            }
            let along = apart.max(0.0) / (other.slope() - rising.ramp.slope());
            let cross = if to_right { start + along } else { start - along };
            let (before_end, within) =
                if to_right { (cross < end, cross < far.x) } else { (cross > end, cross > far.x) };
            if before_end && within && cross != at.x {
                end = cross;
                height = rising.ramp.at(cross).min(other.at(cross));
            }
        });
        (end, height)
    }
}

/// A way along x.
#[derive(Clone, Copy)]
struct Way {
    feet: DVec2,
    to: f64,
    footing: Footing,
}

impl Way {
    /// Where there is no slope.
    fn level<T: Terrain + ?Sized>(self, around: &Surroundings<'_, T>) -> Walk {
        let face = around.first_face(self.feet, self.to);
        let x = face.as_ref().map_or(self.to, |face| face.x);
        Walk { feet: DVec2::new(x, self.feet.y), blocked: face.is_some(), face_top: face.map(|face| face.top) }
    }

    /// Through a drawn ramp that stops it. Below one, what it leads up to is solid again: who would come to
    /// be inside of that is stopped.
    #[cold]
    fn through<T: Terrain + ?Sized>(self, around: &Surroundings<'_, T>, ramp: usize, stopped: Walk) -> Walk {
        let passed = Passed { ramp, before: around.passed };
        let below = Surroundings { passed: Some(&passed), ..*around };
        match self.once(&below) {
            Ok(walk) if below.fits(walk.feet) => walk,
            Ok(_) => stopped,
            Err((ramp, _)) => self.through(&below, ramp, stopped),
        }
    }

    /// But for drawn ramps that cannot lift the feet: which, and where they stop them.
    fn once<T: Terrain + ?Sized>(self, around: &Surroundings<'_, T>) -> Result<Walk, (usize, Walk)> {
        let Way { feet, to, footing } = self;
        let mut at = feet;
        loop {
            let rising = around.next_rising(at, to);
            let until = rising.map_or(to, |rising| rising.from);
            if let Some(face) = around.first_face(at, until) {
                // Where ramps meet ground, a face of a join's width is none.
                if face.top >= at.y - JOIN && around.is_slope_between(feet, DVec2::new(to, feet.y)) {
                    at = DVec2::new(face.x, face.top);
                    continue;
                }
                return Ok(Walk { feet: DVec2::new(face.x, at.y), blocked: true, face_top: Some(face.top) });
            }
            at.x = until;
            let Some(rising) = rising else { return Ok(Walk { feet: at, blocked: false, face_top: None }) };
            let ramp = &rising.ramp;
            let climbs = match footing {
                Footing::Ground { steepest } => ramp.slope() <= steepest,
                Footing::Air => true,
                Footing::Fixed => match rising.id {
                    RampId::Drawn(line) => return Err((line, Walk { feet: at, blocked: true, face_top: None })),
                    RampId::Tile { .. } => false,
                },
            };
            if !climbs {
                return Ok(Walk { feet: at, blocked: true, face_top: None });
            }
            let (end, height) = around.end_of_climb(&rising, at, to);
            if let Some(stop) = rising.first_stop(around, at, end) {
                let feet = if stop.x == at.x { at } else { DVec2::new(stop.x, ramp.at(stop.x).min(at.y)) };
                let walk = Walk { feet, blocked: true, face_top: stop.face_top };
                return match (footing, rising.id, stop.face_top) {
                    (Footing::Air, RampId::Drawn(line), None) => Err((line, walk)),
                    _ => Ok(walk),
                };
            }
            at = DVec2::new(end, height.min(at.y));
            let far = ramp.end(to > feet.x).x;
            // From inside a ramp nothing in the air gets out over its far end.
            if end == to || (footing == Footing::Air && end == far && feet.y > at.y) {
                return Ok(Walk { feet: at, blocked: false, face_top: None });
            }
        }
    }
}

impl Rising {
    /// What first stops a body that goes up it from one x to another: a face, or something over its head.
    fn first_stop<T: Terrain + ?Sized>(&self, around: &Surroundings<'_, T>, from: DVec2, to: f64) -> Option<Stop> {
        let (ramp, half, to_right) = (&self.ramp, around.body.half_width(), to > from.x);
        let DVec2 { x: from, y: low } = from;
        let high = ramp.at(to);
        let area = around.area_between(DVec2::new(from, low), DVec2::new(to, high), 0.0);
        let before = |a: f64, b: f64| if to_right { a < b } else { a > b };
        let mut first: Option<Stop> = None;
        around.obstacles(&area, Heading::along_x(to_right), |obstacle| {
            let x = if to_right { obstacle.left - half } else { obstacle.right + half };
            if before(x, from) || !before(x, to) || first.as_ref().is_some_and(|stop| before(stop.x, x)) {
                return;
            }
            let at = DVec2::new(x, ramp.at(x));
            if obstacle.overlaps_in_height(around.body, at.y) && !around.is_buried(obstacle, at) {
                let met = first.as_ref().filter(|stop| stop.x == x).and_then(|stop| stop.face_top);
                first = Some(Stop { x, face_top: Some(met.map_or(obstacle.top, |top| top.min(obstacle.top))) });
            }
        });
        around.obstacles(&area, Heading::Up, |obstacle| {
            let (meets, leaves) = if to_right {
                (obstacle.left - half, obstacle.right + half)
            } else {
                (obstacle.right + half, obstacle.left - half)
            };
            // The feet's height at which the head comes to its bottom. What the head is beside or past from
            // the start is no ceiling.
            let under = obstacle.bottom + around.body.height;
            if under > low || under <= high {
                return;
            }
            let touches = ramp.place_at_height(under);
            let touches = if before(touches, from) { from } else { touches };
            if before(touches, meets) || !before(touches, leaves) {
                return;
            }
            let x = head_below(ramp, touches, from, under);
            // What the slope leads up to goes on from it: a very low body walks on.
            if around.is_buried(obstacle, DVec2::new(x, ramp.at(x))) {
                return;
            }
            if first.as_ref().is_none_or(|stop| !before(stop.x, x)) {
                first = Some(Stop { x, face_top: None });
            }
        });
        first
    }
}

/// Where a body on its way up a slope is stopped, and the top of the face that does it, unless it is the
/// head that cannot rise.
struct Stop {
    x: f64,
    face_top: Option<f64>,
}

/// The place at or before `x`, as near as doubles go, at which the feet on the slope are no higher than
/// `under`.
fn head_below(ramp: &Ramp, x: f64, from: f64, under: f64) -> f64 {
    let mut place = x;
    let mut back = 1e-12 * (1.0 + x.abs());
    while ramp.at(place) < under && place != from {
        place = if from < x { (x - back).max(from) } else { (x + back).min(from) };
        back *= 2.0;
    }
    place
}
