//! Jump shapes: the speed and gravity that a height and a time ask for, and the other way round.
//!
//! Upward speeds and heights are positive here. `dt` is a tick's length, `g` the rise gravity, `s` and `k`
//! the hang's speed and ratio, `p` the ticks (or S the seconds) for which a rise is sustained.

use super::Release;
use crate::integrate::Scheme;
use crate::space::float::{ceil, round_half_up, sqrt};

/// What a rise is made of besides its speed: the same for every jump of a tuning.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RiseRules {
    /// How the loop integrates.
    pub scheme: Scheme,
    /// The length of a tick, s.
    pub dt: f64,
    /// The hang's speed, px/s; 0 without one.
    pub hang_speed: f64,
    /// The hang's share of the rise gravity; 1 without one.
    pub hang_ratio: f64,
    /// For how long the take-off speed is kept, s.
    pub sustain: f64,
}

/// A jump's speed at take-off, px/s, and its rise gravity, px/s^2.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct TakeOff {
    /// Upward, px/s.
    pub speed: f64,
    /// While rising, px/s^2.
    pub gravity: f64,
}

/// One kind of jump of a tuning: how fast it takes off, and what letting go does to it.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct Jump {
    /// Upward, px/s.
    pub speed: f64,
    /// What letting go does.
    pub release: Release,
}

/// Why no jump has the shape asked for.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub enum ShapeError {
    /// The hang would begin at or above the take-off speed, px/s.
    HangTooFast {
        /// That speed.
        take_off: f64,
    },
    /// The sustained rise would last as long as the whole rise.
    SustainTooLong,
    /// No whole numbers of rise and hang ticks end at rest after so many ticks.
    NoWholeTicks {
        /// So many.
        ticks: u64,
    },
}

impl RiseRules {
    /// How many ticks a rise is sustained in a stepped scheme, the take-off tick the first.
    #[must_use]
    pub fn sustain_ticks(&self) -> u64 {
        round_half_up(self.sustain / self.dt + 1e-9) as u64
    }

    /// How many ticks a rise of this time takes in a stepped scheme: half up, at least 2.
    #[must_use]
    pub fn rise_ticks(&self, time_to_apex: f64) -> u64 {
        (round_half_up(time_to_apex / self.dt + 1e-9) as u64).max(2)
    }

    /// The jump that is `height` px high after `time` s, held all the way.
    pub fn shape(&self, height: f64, time: f64) -> Result<TakeOff, ShapeError> {
        if self.scheme.is_stepped() {
            self.stepped_shape(height, self.rise_ticks(time))
        } else {
            self.exact_shape(height, time)
        }
    }

    /// With `m = 1/k - 1`, `A = T*s*m + H`, `D = T*T - S*S`: `g = (A + sqrt(A*A - D*s*s*m*(m+1)))/D`,
    /// `v0 = g*(T-S) - s*m`; from `T = S + (v0-s)/g + s/(k*g)` and
    /// `H = v0*S + (v0*v0-s*s)/(2g) + s*s/(2*k*g)`. Without hang and sustain that is `g = 2H/(T*T)`.
    fn exact_shape(&self, height: f64, time: f64) -> Result<TakeOff, ShapeError> {
        let (s, sustain) = (self.hang_speed, self.sustain);
        if sustain >= time {
            return Err(ShapeError::SustainTooLong);
        }
        if s == 0.0 && sustain == 0.0 {
            return Ok(TakeOff { speed: 2.0 * height / time, gravity: 2.0 * height / (time * time) });
        }
        let m = 1.0 / self.hang_ratio - 1.0;
        let a = time * s * m + height;
        let d = time * time - sustain * sustain;
        let gravity = (a + sqrt((a * a - d * s * s * m * (m + 1.0)).max(0.0))) / d;
        let speed = gravity * (time - sustain) - s * m;
        if s >= speed {
            return Err(ShapeError::HangTooFast { take_off: speed });
        }
        Ok(TakeOff { speed, gravity })
    }

    /// After `p` sustained ticks, `m` rise ticks and `j` hang ticks the speed is zero:
    /// `v0 = (m + j*k)*g*dt`, and the height is `g*dt*dt` times a factor of `p`, `m`, `j`. The fewest hang
    /// ticks are taken for which the speeds lie in their phases.
    fn stepped_shape(&self, height: f64, ticks: u64) -> Result<TakeOff, ShapeError> {
        let sustained = self.sustain_ticks();
        if sustained >= ticks {
            return Err(ShapeError::SustainTooLong);
        }
        let most_hang = if self.hang_speed > 0.0 { ticks - sustained - 1 } else { 0 };
        for hang in 0..=most_hang {
            let (p, m, j, k) = (sustained as f64, (ticks - sustained - hang) as f64, hang as f64, self.hang_ratio);
            let speeds = (p + m) * (m + j * k);
            let factor = match self.scheme {
                Scheme::PositionFirst => speeds - m * (m - 1.0) / 2.0 + k * j * (j + 1.0) / 2.0,
                _ => speeds - m * (m + 1.0) / 2.0 + k * j * (j - 1.0) / 2.0,
            };
            let gravity = height / (self.dt * self.dt * factor);
            let step = gravity * self.dt;
            if self.hang_speed == 0.0 {
                return Ok(TakeOff { speed: m * step, gravity });
            }
            let (last_rise, first_hang) = ((1.0 + j * k) * step, j * k * step);
            if last_rise > self.hang_speed + 1e-9 * step && first_hang <= self.hang_speed + 1e-9 * step {
                return Ok(TakeOff { speed: (m + j * k) * step, gravity });
            }
        }
        Err(ShapeError::NoWholeTicks { ticks })
    }

    /// The height of the apex of a rise that begins at `speed`: of the motion itself under `exact`, the
    /// highest end of a tick in the stepped schemes.
    #[must_use]
    pub fn apex_height(&self, speed: f64, gravity: f64) -> f64 {
        if self.scheme.is_stepped() {
            let ticks = self.stepped_rise(speed, gravity);
            return ticks.height(speed, gravity * self.dt, self.dt);
        }
        let (s, hang) = (self.hang_speed.min(speed), gravity * self.hang_ratio);
        speed * self.sustain + (speed * speed - s * s) / (2.0 * gravity) + s * s / (2.0 * hang)
    }

    /// How long a rise that begins at `speed` takes, as if it were not cut into ticks, s.
    #[must_use]
    pub fn time_to_apex(&self, speed: f64, gravity: f64) -> f64 {
        let hang_speed = self.hang_speed.min(speed);
        self.sustain + (speed - hang_speed) / gravity + hang_speed / (gravity * self.hang_ratio)
    }

    /// The least speed whose apex is at least `height` px above; nothing left to rise is speed 0.
    #[must_use]
    pub fn speed_for(&self, height: f64, gravity: f64) -> f64 {
        if height <= 0.0 {
            return 0.0;
        }
        if self.scheme.is_stepped() {
            return self.stepped_speed_for(height, gravity);
        }
        let (s, hang) = (self.hang_speed, gravity * self.hang_ratio);
        // `v*v/(2a) + v*S = h`, solved in the form that loses no digits.
        let solve = |a: f64, h: f64| {
            let b = a * self.sustain;
            2.0 * a * h / (b + sqrt(b * b + 2.0 * a * h))
        };
        let within_hang = s * s / (2.0 * hang);
        if s > 0.0 && height <= within_hang + s * self.sustain {
            return solve(hang, height);
        }
        solve(gravity, height - within_hang + s * s / (2.0 * gravity))
    }

    /// The apex is not always higher for a greater speed: with one more rise tick the hang begins lower.
    /// But where the hang begins at its very speed it is, so the fewest rise ticks are found that suffice from
    /// there, by doubling and halving; with their number fixed the apex does grow with the speed.
    fn stepped_speed_for(&self, height: f64, gravity: f64) -> f64 {
        let step = gravity * self.dt;
        if self.hang_speed == 0.0 {
            return self.least_between(height, gravity, 0.0, f64::INFINITY);
        }
        let speed = |rise_ticks: u64| self.hang_speed + rise_ticks as f64 * step;
        let suffices = |rise_ticks: u64| self.apex_height(speed(rise_ticks), gravity) >= height;
        if suffices(0) {
            return self.least_between(height, gravity, 0.0, speed(0));
        }
        let (mut too_few, mut enough) = (0, 1);
        while !suffices(enough) {
            (too_few, enough) = (enough, enough * 2);
        }
        while enough - too_few > 1 {
            let middle = too_few + (enough - too_few) / 2;
            if suffices(middle) { enough = middle } else { too_few = middle }
        }
        self.least_between(height, gravity, speed(too_few), speed(enough))
    }

    /// The least speed above `low` and at most `high` whose apex is at least `height`: the ticks it takes
    /// by halving, then the speed itself from them, since with their numbers fixed the apex is linear in it.
    fn least_between(&self, height: f64, gravity: f64, low: f64, high: f64) -> f64 {
        let (mut below, mut above) = (low, high);
        if above.is_infinite() {
            above = gravity * self.dt;
            while self.apex_height(above, gravity) < height {
                (below, above) = (above, above * 2.0);
            }
        }
        for _ in 0..200 {
            let middle = below + (above - below) / 2.0;
            if middle <= below || middle >= above {
                break;
            }
            if self.apex_height(middle, gravity) < height { below = middle } else { above = middle }
        }
        let ticks = self.stepped_rise(above, gravity);
        let solved = ticks.speed_for(height, gravity * self.dt, self.dt);
        if (solved - above).abs() <= 1e-9 * above { solved } else { above }
    }

    /// The ticks of a rise in a stepped scheme that move it upward.
    fn stepped_rise(&self, speed: f64, gravity: f64) -> SteppedRise {
        let step = gravity * self.dt;
        let near = 1e-9 * step;
        let sustained = self.sustain_ticks() as f64;
        // So many ticks start above the hang: the first for which `v0 - m*step <= s`. Twice as near as a
        // speed is set to the hang's, so that a speed chosen here is never at the brink of that.
        let above_hang = ceil((speed - self.hang_speed) / step - 2e-9).max(0.0);
        let in_hang = speed - above_hang * step;
        let hang_step = step * self.hang_ratio;
        // Ticks until the speed is zero or below; the one that ends so adds nothing in `velocity-first`.
        let hang = if in_hang > near { ceil(in_hang / hang_step - 1e-9) } else { 0.0 };
        let position_first = self.scheme == Scheme::PositionFirst;
        SteppedRise { position_first, sustained, above_hang, hang, hang_ratio: self.hang_ratio }
    }
}

/// A rise in a stepped scheme, by the numbers of its ticks.
struct SteppedRise {
    position_first: bool,
    sustained: f64,
    above_hang: f64,
    hang: f64,
    hang_ratio: f64,
}

impl SteppedRise {
    /// `height = dt * (speeds * v0 - steps * g*dt)`: how often the take-off speed and the step count.
    fn coefficients(&self) -> (f64, f64) {
        let (m, j, k) = (self.above_hang, self.hang, self.hang_ratio);
        if self.position_first {
            return (self.sustained + m + j, m * (m - 1.0) / 2.0 + j * m + k * j * (j - 1.0) / 2.0);
        }
        // The last tick ends at or below zero: it does not rise.
        if j > 0.0 {
            let j = j - 1.0;
            return (self.sustained + m + j, m * (m + 1.0) / 2.0 + j * m + k * j * (j + 1.0) / 2.0);
        }
        let m = (m - 1.0).max(0.0);
        (self.sustained + m, m * (m + 1.0) / 2.0)
    }

    fn height(&self, speed: f64, step: f64, dt: f64) -> f64 {
        let (speeds, steps) = self.coefficients();
        dt * (speeds * speed - steps * step)
    }

    fn speed_for(&self, height: f64, step: f64, dt: f64) -> f64 {
        let (speeds, steps) = self.coefficients();
        (height / dt + steps * step) / speeds
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// The numbers of rise ticks tried one by one.
    fn one_by_one(rules: &RiseRules, height: f64, gravity: f64) -> f64 {
        let mut low = 0.0;
        for rise_ticks in 0.. {
            let high = rules.hang_speed + f64::from(rise_ticks) * gravity * rules.dt;
            if rules.apex_height(high, gravity) >= height {
                return rules.least_between(height, gravity, low, high);
            }
            low = high;
        }
        unreachable!()
    }

    #[test]
    fn the_fewest_rise_ticks_are_found_as_by_trying_them_one_by_one() {
        for scheme in [Scheme::VelocityFirst, Scheme::PositionFirst] {
            for (hang_speed, hang_ratio) in [(12.0, 0.6), (60.0, 0.3), (40.0, 1.4)] {
                for rate in [30.0, 60.0, 1000.0] {
                    for sustain in [0.0, 0.1] {
                        let rules = RiseRules { scheme, dt: 1.0 / rate, hang_speed, hang_ratio, sustain };
                        for step in 1..60 {
                            let (height, gravity) = (f64::from(step * step) * 0.37, 300.0 + f64::from(step) * 31.0);
                            let speed = rules.speed_for(height, gravity);
                            assert_eq!(speed, one_by_one(&rules, height, gravity), "{rules:?} {height} {gravity}");
                            assert!(rules.apex_height(speed, gravity) >= height - 1e-9);
                        }
                    }
                }
            }
        }
    }
}
