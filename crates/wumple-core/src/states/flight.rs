//! A jump under way, from its take-off until the body is held by something again.

use crate::integrate::{self, Moved, Phases, Stretch};
use crate::tuning::{Jump, Release, Tuning};

/// A jump under way: what it was, where it began, and whether its button was let go.
///
/// Speeds and places are y-down here.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Flight {
    origin: Origin,
    take_off: f64,
    ticks: u64,
    /// The press was let go before the take-off: the release is due in the tick after it.
    let_go: bool,
    released: bool,
    heavy: bool,
    sustaining: bool,
}

/// What a jump was, and so where its numbers are.
#[derive(Clone, Copy, Debug, PartialEq)]
enum Origin {
    Ground,
    Air,
    Wall,
    /// A surface that throws up says what letting go does.
    Bounce(Release),
}

impl Flight {
    /// A jump off the ground whose feet leave the height `take_off`, px, y down.
    #[must_use]
    pub fn off_ground(take_off: f64) -> Flight {
        Flight {
            origin: Origin::Ground,
            take_off,
            ticks: 0,
            let_go: false,
            released: false,
            heavy: false,
            sustaining: true,
        }
    }

    /// A jump in the air.
    #[must_use]
    pub fn in_air(take_off: f64) -> Flight {
        Flight { origin: Origin::Air, ..Flight::off_ground(take_off) }
    }

    /// A jump off a wall.
    #[must_use]
    pub fn off_wall(take_off: f64) -> Flight {
        Flight { origin: Origin::Wall, ..Flight::off_ground(take_off) }
    }

    /// A bounce off a surface: see [`Tuning::bounce`].
    #[must_use]
    pub fn bounced(take_off: f64, bounce: Jump) -> Flight {
        Flight { origin: Origin::Bounce(bounce.release), ..Flight::off_ground(take_off) }
    }

    /// What letting go does to the jump that this is.
    #[inline]
    fn release_rule(&self, tuning: &Tuning) -> Release {
        let jump = match self.origin {
            Origin::Ground => tuning.jump(),
            Origin::Air => tuning.air_jump(),
            Origin::Wall => tuning.wall().jump.as_ref().map(|wall| &wall.jump),
            Origin::Bounce(release) => return release,
        };
        jump.map_or(Release::None, |jump| jump.release)
    }

    /// Whether there is a weaker gravity around its apex.
    #[inline]
    fn hangs(&self) -> bool {
        !matches!(self.origin, Origin::Bounce(_))
    }

    /// The same of a press that was let go before the take-off: it counts as released in the tick after,
    /// whatever is pressed by then.
    #[must_use]
    pub fn let_go_before(self, let_go: bool) -> Flight {
        Flight { let_go, ..self }
    }

    /// Whether the release acts now: it has not yet, and the button is up or the press was let go long ago.
    #[inline]
    #[must_use]
    pub fn is_release_due(&self, held: bool) -> bool {
        !self.released && (!held || self.let_go)
    }

    /// The head was bumped: nothing is sustained any more.
    #[inline]
    pub fn bump(&mut self) {
        self.sustaining = false;
    }

    /// The button is let go, with the feet at height `y`: acts once, and only while the speed is upward.
    /// Returns the speed that is left.
    pub fn release(&mut self, tuning: &Tuning, y: f64, speed: f64) -> f64 {
        if self.released {
            return speed;
        }
        self.released = true;
        self.sustaining = false;
        if speed >= 0.0 {
            return speed;
        }
        match self.release_rule(tuning) {
            Release::None | Release::Sustain { .. } => speed,
            Release::Cut { keep } => speed * keep,
            Release::Heavy { .. } => {
                self.heavy = true;
                speed
            }
            Release::ToHeight { tap_height, further_rise } => {
                let height = self.take_off - y;
                let left = tap_height.max(height + further_rise) - height;
                let least =
                    if self.hangs() { tuning.speed_to_rise(left) } else { tuning.speed_to_rise_without_hang(left) };
                speed.max(-least)
            }
        }
    }

    #[inline]
    pub(super) fn phases(&self, tuning: &Tuning, plunging: bool) -> Phases {
        let heaviness = match self.heavy.then(|| self.release_rule(tuning)) {
            Some(Release::Heavy { gravity_ratio }) => gravity_ratio,
            _ => 1.0,
        };
        tuning.gravity().phases(self.hangs(), heaviness, plunging)
    }

    /// One tick of the vertical motion from a downward `speed`.
    #[inline]
    pub fn tick(&mut self, tuning: &Tuning, speed: f64, plunging: bool) -> Moved {
        self.tick_at_most(tuning, speed, plunging, f64::INFINITY)
    }

    /// The same with a fall no faster than `top_speed`, px/s.
    #[inline]
    pub(super) fn tick_at_most(&mut self, tuning: &Tuning, speed: f64, plunging: bool, top_speed: f64) -> Moved {
        let (scheme, seconds) = (tuning.scheme(), tuning.tick_seconds());
        if self.sustaining && speed < 0.0 {
            return self.sustained_tick(tuning, speed, plunging);
        }
        self.ticks += 1;
        integrate::fall(scheme, &self.phases(tuning, plunging).at_most(top_speed), speed, seconds)
    }

    /// The same while the take-off speed is kept, for a part of the tick at least.
    fn sustained_tick(&mut self, tuning: &Tuning, speed: f64, plunging: bool) -> Moved {
        let (scheme, seconds) = (tuning.scheme(), tuning.tick_seconds());
        let kept = self.keep_speed(tuning, speed);
        if self.sustaining {
            return Moved { speed, by: speed * seconds };
        }
        let moved = integrate::fall(scheme, &self.phases(tuning, plunging), speed, seconds - kept);
        Moved { speed: moved.speed, by: speed * kept + moved.by }
    }

    /// Counts a tick, and says for how much of it, s, the take-off speed is kept.
    pub(super) fn keep_speed(&mut self, tuning: &Tuning, speed: f64) -> f64 {
        let (before, seconds) = (self.ticks, tuning.tick_seconds());
        self.ticks += 1;
        if !(self.sustaining && speed < 0.0) {
            return 0.0;
        }
        let sustain = self.release_rule(tuning).sustain();
        let left = if tuning.scheme().is_stepped() {
            if before < tuning.sustain_ticks(sustain) { seconds } else { 0.0 }
        } else {
            // Counted from the take-off, so that nothing adds up over the ticks.
            sustain - before as f64 * seconds
        };
        let kept = left.clamp(0.0, seconds);
        self.sustaining = kept >= seconds;
        kept
    }

    /// The same as [`Flight::tick`] under the `exact` scheme, stretch by stretch. Returns the speed at the end.
    pub fn stretches(&mut self, tuning: &Tuning, speed: f64, mut each: impl FnMut(Stretch)) -> f64 {
        let seconds = tuning.tick_seconds();
        let before = self.ticks;
        self.ticks += 1;
        let sustain = self.release_rule(tuning).sustain();
        let kept = if self.sustaining { (sustain - before as f64 * seconds).clamp(0.0, seconds) } else { 0.0 };
        if kept > 0.0 {
            each(Stretch { seconds: kept, speed, acceleration: 0.0 });
        }
        if kept >= seconds {
            return speed;
        }
        let phases = self.phases(tuning, false);
        phases.stretches(speed, seconds - kept, phases.snap(seconds), each)
    }
}

crate::bytes::coded!(struct Flight { origin, take_off, ticks, let_go, released, heavy, sustaining });
crate::bytes::coded!(enum Origin { 0 => Ground, 1 => Air, 2 => Wall, 3 => Bounce(of) });
