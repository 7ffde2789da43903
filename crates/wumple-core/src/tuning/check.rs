use alloc::vec::Vec;
use core::fmt;

use super::{
    Acceleration, JumpShape, LIMIT_ACCELERATION, LIMIT_LENGTH, LIMIT_SPEED, RunNumbers, TuningNumbers, round_length,
};
use crate::geometry::Body;
use crate::motion::Gravity;

/// How a character moves: checked, and ready to be used. It cannot be wrong.
#[derive(Clone, Debug, PartialEq)]
pub struct Tuning {
    numbers: TuningNumbers,
    tick_seconds: f64,
    body: Body,
    wall_probe: f64,
    run: RunRates,
    gravity: Gravity,
    jump_speed: Option<f64>,
}

/// How the speed along the ground changes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct RunRates {
    /// The speed aimed at, px/s.
    pub top_speed: f64,
    /// Towards the held direction.
    pub acceleration: RunRate,
    /// With none held, or while faster than aimed at.
    pub braking: RunRate,
    /// While the speed opposes the held direction.
    pub turning: RunRate,
}

/// An [`Acceleration`] whose time, if it was one, has become a rate.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum RunRate {
    /// At once.
    Instant,
    /// px/s^2.
    PerSecond(f64),
}

/// One thing that is wrong with a tuning.
#[derive(Clone, Debug, PartialEq)]
pub struct TuningError {
    /// The number's name, as in a tuning file: `"jump.height"`.
    pub key: &'static str,
    /// What is wrong and what would be right, without the name.
    pub problem: Problem,
}

/// What can be wrong with a number.
#[derive(Clone, Debug, PartialEq)]
pub enum Problem {
    /// Outside its bounds.
    OutOfBounds {
        /// What was given, in px and seconds.
        found: f64,
        /// Whether the least bound itself is excluded.
        above: bool,
        /// The least bound.
        least: f64,
        /// The greatest bound, included.
        most: f64,
        /// px, s, px/s, ...
        unit: &'static str,
    },
    /// Needed, but not there.
    Missing(&'static str),
    /// There, but another number says the same already.
    Superfluous(&'static str),
    /// What follows from it is out of bounds.
    TooFast {
        /// What follows.
        what: &'static str,
        /// Its value.
        found: f64,
        /// The greatest bound.
        most: f64,
        /// px/s or px/s^2.
        unit: &'static str,
    },
}

impl fmt::Display for Problem {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Problem::OutOfBounds { found, above, least, most, unit } => {
                let bound = if *above { "above" } else { "at least" };
                write!(f, "is {found} {unit}; it must be {bound} {least} and at most {most} {unit}")
            }
            Problem::Missing(why) | Problem::Superfluous(why) => f.write_str(why),
            Problem::TooFast { what, found, most, unit } => {
                write!(f, "makes {what} {found:.0} {unit}; it may be at most {most} {unit}")
            }
        }
    }
}

impl fmt::Display for TuningError {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        write!(f, "{} {}", self.key, self.problem)
    }
}

/// All that is wrong with a tuning.
#[derive(Clone, Debug, PartialEq)]
pub struct TuningErrors(
    /// At least one.
    pub Vec<TuningError>,
);

impl fmt::Display for TuningErrors {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for (index, error) in self.0.iter().enumerate() {
            write!(f, "{}{error}", if index == 0 { "" } else { "; " })?;
        }
        Ok(())
    }
}

impl core::error::Error for TuningErrors {}

impl Tuning {
    /// Checks every number against its bounds and works out what follows from them: lengths rounded to
    /// 1/1024 px, the take-off speed and gravity of a jump given as height and time
    /// (`v0 = 2H/T`, `g = 2H/(T*T)`), rates from times.
    ///
    /// # Errors
    ///
    /// All numbers that are out of bounds, missing or said twice.
    pub fn check(numbers: &TuningNumbers) -> Result<Tuning, TuningErrors> {
        let mut check = Check { errors: Vec::new() };
        check.within("tick.rate", numbers.rate, Bound::From(1.0), 10_000.0, "Hz");
        let body = Body {
            width: check.size("body.width", numbers.body.width),
            height: check.size("body.height", numbers.body.height),
        };
        let wall_probe = round_length(numbers.body.wall_probe);
        check.within("body.wall_probe", wall_probe, Bound::From(0.0), LIMIT_LENGTH, "px");
        let run = check.run(&numbers.run);
        check.within("fall.top_speed", numbers.fall.top_speed, Bound::Above(0.0), LIMIT_SPEED, "px/s");
        let (jump_speed, gravity) = check.gravity(numbers);
        if check.errors.is_empty() {
            let gravity = Gravity::new(gravity, numbers.fall.top_speed);
            let tick_seconds = 1.0 / numbers.rate;
            Ok(Tuning { numbers: numbers.clone(), tick_seconds, body, wall_probe, run, gravity, jump_speed })
        } else {
            Err(TuningErrors(check.errors))
        }
    }

    /// What was written.
    pub fn numbers(&self) -> &TuningNumbers {
        &self.numbers
    }

    /// Ticks a second.
    #[inline]
    pub fn rate(&self) -> f64 {
        self.numbers.rate
    }

    /// The length of a tick, s.
    #[inline]
    pub fn tick_seconds(&self) -> f64 {
        self.tick_seconds
    }

    /// The hitbox.
    #[inline]
    pub fn body(&self) -> &Body {
        &self.body
    }

    /// How far beside the hitbox a wall is felt, px.
    #[inline]
    pub fn wall_probe(&self) -> f64 {
        self.wall_probe
    }

    /// Running on the ground.
    #[inline]
    pub fn run(&self) -> &RunRates {
        &self.run
    }

    /// Gravity and the top fall speed.
    #[inline]
    pub fn gravity(&self) -> &Gravity {
        &self.gravity
    }

    /// The upward speed at take-off, px/s, if the character can jump.
    #[inline]
    pub fn jump_speed(&self) -> Option<f64> {
        self.jump_speed
    }
}

enum Bound {
    Above(f64),
    From(f64),
}

struct Check {
    errors: Vec<TuningError>,
}

impl Check {
    fn fail(&mut self, key: &'static str, problem: Problem) {
        self.errors.push(TuningError { key, problem });
    }

    fn within(&mut self, key: &'static str, found: f64, bound: Bound, most: f64, unit: &'static str) {
        let (above, least) = match bound {
            Bound::Above(least) => (true, least),
            Bound::From(least) => (false, least),
        };
        let enough = if above { found > least } else { found >= least };
        // Written so that NaN is refused as well.
        if !(enough && found <= most) {
            self.fail(key, Problem::OutOfBounds { found, above, least, most, unit });
        }
    }

    fn size(&mut self, key: &'static str, pixels: f64) -> f64 {
        let rounded = round_length(pixels);
        let judged = if pixels > 0.0 { rounded } else { pixels };
        self.within(key, judged, Bound::Above(0.0), LIMIT_LENGTH, "px");
        rounded
    }

    fn run(&mut self, run: &RunNumbers) -> RunRates {
        self.within("run.top_speed", run.top_speed, Bound::From(0.0), LIMIT_SPEED, "px/s");
        RunRates {
            top_speed: run.top_speed,
            acceleration: self.run_rate("run.acceleration", run.acceleration, run.top_speed),
            braking: self.run_rate("run.braking", run.braking, run.top_speed),
            turning: self.run_rate("run.turning", run.turning, run.top_speed),
        }
    }

    fn run_rate(&mut self, key: &'static str, acceleration: Acceleration, top_speed: f64) -> RunRate {
        match acceleration {
            Acceleration::Instant | Acceleration::Time(0.0) => RunRate::Instant,
            Acceleration::Rate(rate) => {
                self.within(key, rate, Bound::From(0.0), LIMIT_ACCELERATION, "px/s^2");
                RunRate::PerSecond(rate)
            }
            Acceleration::Time(time) => {
                self.within(key, time, Bound::From(0.0), 1e6, "s");
                let rate = top_speed / time;
                // A time too short to count: faster than any speed change that could be seen.
                if rate > LIMIT_ACCELERATION { RunRate::Instant } else { RunRate::PerSecond(rate) }
            }
        }
    }

    /// The take-off speed, if there is a jump, and the rise gravity.
    fn gravity(&mut self, numbers: &TuningNumbers) -> (Option<f64>, f64) {
        let key = "fall.gravity";
        match (&numbers.jump, numbers.fall.gravity) {
            (None, None) => {
                self.fail(key, Problem::Missing("is missing; without [jump] it says how fast a fall quickens"));
                (None, 0.0)
            }
            (None, Some(gravity)) => {
                self.within(key, gravity, Bound::Above(0.0), LIMIT_ACCELERATION, "px/s^2");
                (None, gravity)
            }
            (Some(jump), given) => {
                if given.is_some() {
                    self.fail(key, Problem::Superfluous("is given, but [jump] already says the gravity; remove it"));
                }
                let (speed, gravity) = self.jump(jump.shape);
                (Some(speed), gravity)
            }
        }
    }

    fn jump(&mut self, shape: JumpShape) -> (f64, f64) {
        match shape {
            JumpShape::SpeedAndGravity { speed, gravity } => {
                self.within("jump.speed", speed, Bound::Above(0.0), LIMIT_SPEED, "px/s");
                self.within("jump.gravity", gravity, Bound::Above(0.0), LIMIT_ACCELERATION, "px/s^2");
                (speed, gravity)
            }
            JumpShape::HeightAndTime { height, time_to_apex } => {
                let before = self.errors.len();
                self.within("jump.height", height, Bound::Above(0.0), LIMIT_LENGTH, "px");
                self.within("jump.time_to_apex", time_to_apex, Bound::Above(0.0), 1e6, "s");
                let speed = 2.0 * height / time_to_apex;
                let gravity = 2.0 * height / (time_to_apex * time_to_apex);
                if self.errors.len() == before {
                    for (what, found, most, unit) in [
                        ("the take-off speed", speed, LIMIT_SPEED, "px/s"),
                        ("the gravity", gravity, LIMIT_ACCELERATION, "px/s^2"),
                    ] {
                        if found > most {
                            self.fail("jump.time_to_apex", Problem::TooFast { what, found, most, unit });
                        }
                    }
                }
                (speed, gravity)
            }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use alloc::string::ToString;

    fn numbers() -> TuningNumbers {
        TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35)
    }

    #[test]
    fn every_wrong_number_is_named_with_its_bound() {
        type Spoil = fn(&mut TuningNumbers);
        let cases: [(Spoil, &str); 11] = [
            (|n| n.rate = 0.0, "tick.rate is 0 Hz; it must be at least 1 and at most 10000 Hz"),
            (|n| n.rate = f64::NAN, "tick.rate is NaN Hz; it must be at least 1 and at most 10000 Hz"),
            (|n| n.body.width = 0.0, "body.width is 0 px; it must be above 0 and at most 524288 px"),
            (|n| n.body.width = 1e-9, "body.width is 0 px; it must be above 0 and at most 524288 px"),
            (|n| n.body.height = -1.0, "body.height is -1 px; it must be above 0 and at most 524288 px"),
            (
                |n| n.body.wall_probe = f64::INFINITY,
                "body.wall_probe is inf px; it must be at least 0 and at most 524288 px",
            ),
            (
                |n| n.run.top_speed = 2e6,
                "run.top_speed is 2000000 px/s; it must be at least 0 and at most 1000000 px/s",
            ),
            (
                |n| n.run.braking = Acceleration::Rate(-5.0),
                "run.braking is -5 px/s^2; it must be at least 0 and at most 1000000000000 px/s^2",
            ),
            (|n| n.jump = None, "fall.gravity is missing; without [jump] it says how fast a fall quickens"),
            (|n| n.fall.gravity = Some(9.0), "fall.gravity is given, but [jump] already says the gravity; remove it"),
            (
                |n| *n = n.clone().with_jump(54.0, 1e-4),
                "jump.time_to_apex makes the take-off speed 1080000 px/s; it may be at most 1000000 px/s",
            ),
        ];
        for (spoil, message) in cases {
            let mut numbers = numbers();
            spoil(&mut numbers);
            assert_eq!(Tuning::check(&numbers).unwrap_err().to_string(), message);
        }
    }

    #[test]
    fn several_wrong_numbers_are_all_named() {
        let mut numbers = numbers();
        numbers.body.width = -1.0;
        numbers.run.top_speed = -1.0;
        assert_eq!(Tuning::check(&numbers).unwrap_err().0.len(), 2);
    }

    #[test]
    fn a_jump_is_the_same_from_either_pair_of_numbers() {
        let by_height = Tuning::check(&numbers()).unwrap();
        let speed = by_height.jump_speed().unwrap();
        assert_eq!(speed, 2.0 * 54.0 / 0.35);
        let gravity = by_height.gravity().rise;
        let mut other = numbers();
        other.jump.as_mut().unwrap().shape = JumpShape::SpeedAndGravity { speed, gravity };
        let by_speed = Tuning::check(&other).unwrap();
        assert_eq!((by_speed.jump_speed(), by_speed.gravity()), (Some(speed), by_height.gravity()));
    }

    #[test]
    fn times_become_rates_and_lengths_are_rounded() {
        let mut numbers = numbers();
        numbers.run.acceleration = Acceleration::Time(0.1);
        numbers.run.turning = Acceleration::Time(0.0);
        numbers.body.width = 10.0 + 0.4 / 1024.0;
        let tuning = Tuning::check(&numbers).unwrap();
        assert_eq!(tuning.run().acceleration, RunRate::PerSecond(120.0 / 0.1));
        assert_eq!(tuning.run().turning, RunRate::Instant);
        assert_eq!(tuning.body().width, 10.0);
    }
}
