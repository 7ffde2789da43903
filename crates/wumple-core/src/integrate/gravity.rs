/// The pull on a body in the air.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Gravity {
    /// While rising, px/s^2.
    pub rise: f64,
    /// Around the apex of a jump, px/s^2, both ways.
    pub hang: f64,
    /// The hang lasts while `-hang_speed < upward speed <= hang_speed`, px/s; 0 without a hang.
    pub hang_speed: f64,
    /// From rest on downward, px/s^2.
    pub fall: f64,
    /// The same while down is held, px/s^2.
    pub plunge: f64,
    /// No fall is faster, px/s.
    pub top_speed: f64,
}

/// Which acceleration acts at which speed, in one tick. Speeds here are **downward**, as the axes are.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Phases {
    rise: f64,
    hang_up: f64,
    hang_down: f64,
    fall: f64,
    hang_speed: f64,
    hang_end: f64,
    top_speed: f64,
    rise_gravity: f64,
}

impl Gravity {
    /// The phases of a tick. The hang is of a jump alone (`jumping`); `heaviness` multiplies while the
    /// speed is upward; `plunging` is down held.
    #[inline]
    #[must_use]
    pub fn phases(&self, jumping: bool, heaviness: f64, plunging: bool) -> Phases {
        let hang_speed = if jumping { self.hang_speed } else { 0.0 };
        Phases {
            rise: self.rise * heaviness,
            hang_up: self.hang * heaviness,
            hang_down: self.hang,
            fall: if plunging { self.plunge } else { self.fall },
            hang_speed,
            hang_end: hang_speed.min(self.top_speed),
            top_speed: self.top_speed,
            rise_gravity: self.rise,
        }
    }

    /// How far a body falls from the apex of a jump in this time, px.
    #[must_use]
    pub fn falls(&self, seconds: f64) -> f64 {
        let phases = self.phases(true, 1.0, false);
        let mut by = 0.0;
        phases.stretches(0.0, seconds, phases.snap(seconds), |stretch| by += stretch.way());
        by
    }
}

impl Phases {
    /// The same with a fall no faster than this, px/s.
    #[inline]
    pub(crate) fn at_most(mut self, top_speed: f64) -> Phases {
        self.top_speed = self.top_speed.min(top_speed);
        self.hang_end = self.hang_end.min(top_speed);
        self
    }

    /// Which accelerations act between which speeds with one from outside, px/s^2, downward: no fall is faster than the top
    /// speed.
    pub(super) fn steps_pushed(&self, push: f64) -> ([f64; 4], [f64; 5]) {
        let Phases { rise, hang_up, hang_down, fall, hang_speed, hang_end, top_speed, .. } = *self;
        let bounds = [-hang_speed, 0.0, hang_end, top_speed];
        (bounds, [rise + push, hang_up + push, hang_down + push, fall + push, f64::NEG_INFINITY])
    }

    /// The acceleration at a speed, and the speed at which it changes, if ever.
    #[inline]
    pub(super) fn at(&self, speed: f64) -> (f64, Option<f64>) {
        if speed < -self.hang_speed {
            (self.rise, Some(-self.hang_speed))
        } else if speed < 0.0 {
            (self.hang_up, Some(0.0))
        } else if speed < self.hang_end {
            (self.hang_down, Some(self.hang_end))
        } else if speed < self.top_speed {
            (self.fall, Some(self.top_speed))
        } else {
            (0.0, None)
        }
    }

    /// No fall is faster, px/s.
    #[inline]
    pub(super) fn top_speed(&self) -> f64 {
        self.top_speed
    }

    /// How near to a bound a speed must end to be set to it, so that no noise decides a phase.
    #[inline]
    pub(crate) fn snap(&self, seconds: f64) -> f64 {
        1e-9 * self.rise_gravity * seconds
    }

    /// The speed itself, or the bound (zero, plus or minus the hang speed) that it is very near to.
    #[inline]
    pub(super) fn snapped(&self, speed: f64, seconds: f64) -> f64 {
        let near = self.snap(seconds);
        for bound in [0.0, -self.hang_speed, self.hang_speed] {
            if (speed - bound).abs() <= near {
                return bound;
            }
        }
        speed
    }
}
