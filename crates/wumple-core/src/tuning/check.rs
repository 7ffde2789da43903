//! Every number against its bounds, once, and what follows from them.

use alloc::vec::Vec;

use super::checked::{Jumps, rise_rules};
use super::error::{Problem, TuningError, TuningErrors};
use super::jump::LONGEST_RISE;
use super::keys::{Bounds, Key, LONGEST, Slot, WEAKEST_GRAVITY, keys};
use super::{
    Acceleration, AtWall, BodyNumbers, FlightBy, FlightNumbers, FourWayNumbers, FourWayRules, Hang, Jump, JumpNumbers,
    JumpShape, LIMIT_ACCELERATION, LIMIT_LENGTH, LIMIT_SPEED, OnLanding, Pixels, Release, ShapeError, Steady, TakeOff,
    Tuning, TuningNumbers, WallJump, WallNumbers, WallRules, round_length,
};
use crate::integrate::{Gravity, RunRate, RunRates};
use crate::space::Body;
use crate::space::float::{floor, gate_ticks};

/// Why sections of gravity are none of a character that is seen from above.
const FROM_ABOVE: &str = "is given, but [four_way] is seen from above, without gravity; remove one of them";
/// A jump neither rises nor falls back for more ticks: so whatever follows it tick by tick comes to an end.
const MOST_RISE_TICKS: f64 = 100_000.0;

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
        let mut numbers = numbers.clone();
        keys().for_each(|key| check.key(&key.in_numbers(&numbers), &mut numbers));
        check.said_once(&numbers);
        check.feels(&numbers);
        if numbers.pixels == Pixels::Whole {
            check.whole("body.width", numbers.body.width);
            check.whole("body.height", numbers.body.height);
        }
        // What follows from numbers that are wrong would only be more of the same.
        let tuning = if check.errors.is_empty() { check.worked_out(numbers) } else { None };
        tuning.filter(|_| check.errors.is_empty()).ok_or(TuningErrors(check.errors))
    }
}

struct Check {
    errors: Vec<TuningError>,
}

impl Check {
    fn fail(&mut self, key: &'static str, problem: Problem) {
        self.errors.push(TuningError { key, problem });
    }

    /// The number of a key, rounded if it is a length that is compared with places, against its bounds.
    fn key(&mut self, key: &Key, numbers: &mut TuningNumbers) {
        match key.slot(numbers) {
            Some(Slot::Number(found)) => {
                if key.is_rounded() {
                    *found = round_length(*found);
                }
                self.within(key.name, *found, &key.bounds);
            }
            Some(Slot::Optional(Some(found))) => self.within(key.name, *found, &key.bounds),
            Some(Slot::RunRate(rate)) | Some(Slot::OptionalRunRate(Some(rate))) => match *rate {
                Acceleration::Instant => {}
                Acceleration::Rate(rate) => self.within(key.name, rate, &key.bounds),
                Acceleration::Time(time) => {
                    self.within(key.name, time, &Bounds { most: LONGEST, unit: "s", ..key.bounds });
                }
            },
            Some(Slot::Margin(margin)) => {
                for side in [margin.left, margin.right, margin.above, margin.below] {
                    self.within(key.name, side, &key.bounds);
                }
                *margin = margin.held();
            }
            Some(Slot::Count(count)) => self.within(key.name, f64::from(*count), &key.bounds),
            Some(Slot::Choice(_) | Slot::Optional(None) | Slot::OptionalRunRate(None)) | None => {}
        }
    }

    fn within(&mut self, key: &'static str, found: f64, bounds: &Bounds) {
        let Bounds { least, above, most, unit } = *bounds;
        let enough = if above { found > least } else { found >= least };
        // Written so that NaN is refused as well.
        if !(enough && found <= most) {
            self.fail(key, Problem::OutOfBounds { found, above, least, most, unit });
        }
    }

    /// Something of the hitbox must be left; that it has a size at all is checked elsewhere.
    fn feels(&mut self, numbers: &TuningNumbers) {
        let is_gone = |size: f64, more: f64| size > 0.0 && size + more <= 0.0;
        for (key, margin) in numbers.feels.margins() {
            if is_gone(numbers.body.width, margin.left + margin.right)
                || is_gone(numbers.body.height, margin.above + margin.below)
            {
                self.fail(key, Problem::LeavesNothing);
            }
        }
    }

    fn whole(&mut self, key: &'static str, found: f64) {
        if found != floor(found) {
            self.fail(key, Problem::NotWhole { found });
        }
    }

    /// The gravity is said by the jump, or by itself; nothing is spent that is given back at once.
    fn said_once(&mut self, numbers: &TuningNumbers) {
        let spends = numbers.wall.as_ref().and_then(|wall| wall.hold).is_some_and(|hold| hold.spends_air_jumps);
        if spends && numbers.jump.as_ref().is_some_and(|jump| jump.air_jumps_back_on_wall) {
            let given_back = "is given, but jump.air_jumps_back_on_wall gives them back on every wall; remove one";
            self.fail("wall.hold.spends_air_jumps", Problem::Superfluous(given_back));
        }
        if numbers.jump.as_ref().is_some_and(|jump| jump.waits_for_ground && jump.on_landing == OnLanding::Jump) {
            let lost = "is given, but with jump.on_landing = \"jump\" no press is used on the ground; remove one";
            self.fail("jump.waits_for_ground", Problem::Superfluous(lost));
        }
        if numbers.run.at_wall == AtWall::Turn && numbers.run.steady == Steady::Off {
            let alone = "is \"turn\", but nothing runs by itself; give run.steady as well, or remove it";
            self.fail("run.at_wall", Problem::Superfluous(alone));
        }
        if numbers.four_way.is_some() {
            let sections = [
                ("jump", numbers.jump.is_some()),
                ("wall", numbers.wall.is_some()),
                ("ladder", numbers.ladder.is_some()),
                ("flight", numbers.flight.is_some()),
            ];
            for (section, _) in sections.into_iter().filter(|(_, is_there)| *is_there) {
                self.fail(section, Problem::Superfluous(FROM_ABOVE));
            }
            return;
        }
        let problem = match (&numbers.jump, numbers.fall.gravity) {
            (None, None) => Problem::Missing("is missing; without [jump] it says how fast a fall quickens"),
            (Some(_), Some(_)) => Problem::Superfluous("is given, but [jump] already says the gravity; remove it"),
            _ => return,
        };
        self.fail("fall.gravity", problem);
    }

    /// What follows from numbers that are all within their bounds. `None`, or more errors, if that is out of bounds.
    fn worked_out(&mut self, numbers: TuningNumbers) -> Option<Tuning> {
        let corner_slide = numbers.four_way.map_or(0.0, |four_way| four_way.corner_slide);
        let BodyNumbers { width, height, wall_probe, corner_nudge, ledge_lift, step_height } = numbers.body;
        let run = run_rates(&numbers);
        let four_way = numbers.four_way.as_ref().map(four_way_rules);
        let air = air_rates(&numbers, &run);
        let gravity = self.gravity(&numbers)?;
        let jumps = match &numbers.jump {
            Some(jump) => Some(self.jumps(&numbers, jump, &gravity)?),
            None => None,
        };
        let wall = match &numbers.wall {
            Some(wall) => self.wall(&numbers, wall, &gravity),
            None => WallRules::default(),
        };
        if let Some(flight) = &numbers.flight {
            self.flight(&numbers, flight, &gravity, jumps.as_ref());
        }
        Some(Tuning {
            tick_seconds: 1.0 / numbers.rate,
            body: Body { width, height },
            run,
            air,
            gravity,
            jumps,
            springs: numbers.jump.as_ref().is_some_and(|jump| jump.on_landing == OnLanding::Jump),
            bump_memory_ticks: gate_ticks(numbers.air.bump_memory, numbers.rate),
            wall,
            four_way,
            felt: wall_probe.max(corner_nudge).max(ledge_lift).max(step_height).max(corner_slide),
            feels_most: numbers.feels.most(),
            numbers,
        })
    }

    fn wall(&mut self, numbers: &TuningNumbers, wall: &WallNumbers, gravity: &Gravity) -> WallRules {
        let ticks = |seconds| gate_ticks(seconds, numbers.rate);
        let jump = wall.jump.map(|jump| {
            let (hang, release) = numbers.jump.as_ref().map_or((None, Release::None), |jump| (jump.hang, jump.release));
            let rules = rise_rules(numbers, hang, release.sustain());
            let speed = rules.speed_for(jump.height, gravity.rise);
            self.not_above("wall.jump.height", "the speed of a wall jump", speed, LIMIT_SPEED, "px/s");
            let up = Jump { speed, release };
            self.ends_in_time("wall.jump.height", numbers, hang, &up, gravity);
            let (lock_ticks, same_wall) = (ticks(jump.steer_lock), jump.same_wall);
            WallJump { jump: up, push_speed: jump.push_speed, lock_ticks, same_wall }
        });
        WallRules { coyote_ticks: ticks(wall.coyote_time), slide: wall.slide, jump, hold: wall.hold }
    }

    /// A flight gets off the ground, and is no slower than what it begins with.
    fn flight(&mut self, numbers: &TuningNumbers, flight: &FlightNumbers, gravity: &Gravity, jumps: Option<&Jumps>) {
        let FlightNumbers { by, lift, top_speed, .. } = *flight;
        if jumps.is_some_and(|jumps| jumps.air_jumps > 0) {
            let twice = "is given, but in the air [flight] uses the presses; remove one of them";
            self.fail("jump.air_jumps", Problem::Superfluous(twice));
        }
        let least = gravity.rise / numbers.rate;
        if by == FlightBy::Flaps && lift <= least {
            self.fail(
                "flight.lift",
                Problem::NotAbove { found: lift, what: "what one tick of gravity takes of it", least },
            );
        }
        let jump = jumps.map_or(0.0, |jumps| jumps.ground.speed);
        let flap = if by == FlightBy::Flaps { lift } else { 0.0 };
        for (what, least) in
            [("run.top_speed", numbers.run.top_speed), ("the take-off speed of the jump", jump), ("flight.lift", flap)]
        {
            if top_speed < least {
                self.fail("flight.top_speed", Problem::Below { found: top_speed, what, least });
                return;
            }
        }
    }

    fn gravity(&mut self, numbers: &TuningNumbers) -> Option<Gravity> {
        let fall = &numbers.fall;
        let hang = numbers.jump.as_ref().and_then(|jump| jump.hang);
        let rise = match (&numbers.jump, fall.gravity) {
            (Some(jump), _) => self.shape(numbers, jump)?.gravity,
            (None, Some(gravity)) => gravity,
            // Seen from above there is none.
            (None, None) => WEAKEST_GRAVITY,
        };
        if !self.errors.is_empty() {
            return None;
        }
        let gravity = Gravity {
            rise,
            hang: rise * hang.map_or(1.0, |hang| hang.gravity_ratio),
            hang_speed: hang.map_or(0.0, |hang| hang.speed),
            fall: rise * fall.gravity_ratio,
            plunge: rise * fall.gravity_ratio * fall.plunge_ratio,
            top_speed: fall.top_speed,
        };
        for (key, what, found) in [
            ("jump.hang.gravity_ratio", "the gravity of the hang", gravity.hang),
            ("fall.gravity_ratio", "the gravity of the fall", gravity.fall),
            ("fall.plunge_ratio", "the gravity of the plunge", gravity.plunge),
        ] {
            self.not_above(key, what, found, LIMIT_ACCELERATION, "px/s^2");
            self.not_too_weak(key, what, found);
        }
        self.errors.is_empty().then_some(gravity)
    }

    fn not_too_weak(&mut self, key: &'static str, what: &'static str, found: f64) {
        if found < WEAKEST_GRAVITY {
            self.fail(key, Problem::TooSmall { what, found, least: WEAKEST_GRAVITY });
        }
    }

    /// Every way of a jump, held, let go at once and back down from its apex, is of a length that somebody may
    /// follow to its end, and within where coordinates are.
    fn ends_in_time(
        &mut self,
        key: &'static str,
        numbers: &TuningNumbers,
        hang: Option<Hang>,
        jump: &Jump,
        gravity: &Gravity,
    ) {
        let longest = LONGEST_RISE.min(MOST_RISE_TICKS / numbers.rate);
        let rules = rise_rules(numbers, hang, jump.release.sustain());
        self.not_above(key, "the time to the apex", rules.time_to_apex(jump.speed, gravity.rise), longest, "s");
        let mut height = rules.apex_height(jump.speed, gravity.rise);
        if let Release::Heavy { gravity_ratio } = jump.release {
            let let_go = gravity.rise * gravity_ratio;
            let (what, rise) = ("the time to the apex, let go at once,", rules.time_to_apex(jump.speed, let_go));
            let air = key == "jump.air_jump_height"
                && numbers.jump.as_ref().is_some_and(|jump| jump.air_jump_release.is_some());
            let ratio = ["jump.release.gravity_ratio", "jump.air_jump_release.gravity_ratio"][usize::from(air)];
            self.not_above(ratio, what, rise, longest, "s");
            height = height.max(rules.apex_height(jump.speed, let_go));
        }
        self.not_above(key, "the height of a jump", height, LIMIT_LENGTH, "px");
        if !self.errors.is_empty() {
            return;
        }
        let fallen = gravity.falls(longest);
        if fallen < height {
            let unslowed = Gravity { top_speed: LIMIT_SPEED, ..*gravity };
            let slowed = unslowed.falls(longest) >= height;
            let key = if slowed { "fall.top_speed" } else { "fall.gravity_ratio" };
            self.fail(key, Problem::FallTooLong { height, fallen, longest });
        }
    }

    fn not_above(&mut self, key: &'static str, what: &'static str, found: f64, most: f64, unit: &'static str) {
        if found > most {
            self.fail(key, Problem::TooGreat { what, found, most, unit });
        }
    }

    /// The speed and gravity of a full jump.
    fn shape(&mut self, numbers: &TuningNumbers, jump: &JumpNumbers) -> Option<TakeOff> {
        let rules = rise_rules(numbers, jump.hang, jump.release.sustain());
        let found = match jump.shape {
            JumpShape::SpeedAndGravity { speed, .. } if rules.hang_speed >= speed => {
                Err(ShapeError::HangTooFast { take_off: speed })
            }
            JumpShape::SpeedAndGravity { speed, gravity } => return Some(TakeOff { speed, gravity }),
            JumpShape::HeightAndTime { height, time_to_apex } => rules.shape(height, time_to_apex),
        };
        match found {
            Ok(shape) => {
                let key = "jump.time_to_apex";
                self.not_above(key, "the take-off speed", shape.speed, LIMIT_SPEED, "px/s");
                self.not_above(key, "the gravity", shape.gravity, LIMIT_ACCELERATION, "px/s^2");
                self.not_too_weak(key, "the gravity", shape.gravity);
                Some(shape)
            }
            Err(why) => {
                let key = match why {
                    ShapeError::HangTooFast { .. } | ShapeError::NoWholeTicks { .. } => "jump.hang.speed",
                    ShapeError::SustainTooLong => "jump.release.time",
                };
                self.fail(key, Problem::Shape(why));
                None
            }
        }
    }

    fn jumps(&mut self, numbers: &TuningNumbers, jump: &JumpNumbers, gravity: &Gravity) -> Option<Jumps> {
        let air_release = jump.air_jump_release.unwrap_or(jump.release);
        let speed = self.shape(numbers, jump)?.speed;
        let ground = Jump { speed, release: jump.release };
        let by_height = matches!(jump.shape, JumpShape::HeightAndTime { .. });
        let key = if by_height { "jump.time_to_apex" } else { "jump.gravity" };
        self.ends_in_time(key, numbers, jump.hang, &ground, gravity);
        // An air jump without a height of its own goes as high as a jump.
        let rules = |release: Release| rise_rules(numbers, jump.hang, release.sustain());
        let as_high = || rules(jump.release).apex_height(speed, gravity.rise);
        let height = jump.air_jump_height.unwrap_or_else(as_high);
        let air = Jump { speed: rules(air_release).speed_for(height, gravity.rise), release: air_release };
        self.not_above("jump.air_jump_height", "the speed of an air jump", air.speed, LIMIT_SPEED, "px/s");
        if jump.air_jumps > 0 {
            self.ends_in_time("jump.air_jump_height", numbers, jump.hang, &air, gravity);
        }
        Some(Jumps {
            ground,
            air,
            // No more than a thousand.
            air_jumps: jump.air_jumps as u16,
            coyote_ticks: gate_ticks(jump.coyote_time, numbers.rate),
            buffer_ticks: gate_ticks(jump.buffer_time, numbers.rate),
            repeat_held: jump.repeat_held,
            waits_for_ground: jump.waits_for_ground,
        })
    }
}

fn run_rates(numbers: &TuningNumbers) -> RunRates {
    let run = &numbers.run;
    let rate = |acceleration| run_rate(acceleration, run.top_speed);
    RunRates {
        top_speed: run.top_speed,
        acceleration: rate(run.acceleration),
        braking: rate(run.braking),
        turning: rate(run.turning),
    }
}

fn four_way_rules(numbers: &FourWayNumbers) -> FourWayRules {
    let FourWayNumbers { top_speed, acceleration, braking, turning, diagonal, corner_slide } = *numbers;
    let [acceleration, braking, turning] = [acceleration, braking, turning].map(|rate| run_rate(rate, top_speed));
    FourWayRules { rates: RunRates { top_speed, acceleration, braking, turning }, diagonal, corner_slide }
}

/// What is not said of the air is as on the ground.
fn air_rates(numbers: &TuningNumbers, run: &RunRates) -> RunRates {
    let rate = |own: Option<Acceleration>, ground| own.map_or(ground, |own| run_rate(own, run.top_speed));
    RunRates {
        top_speed: run.top_speed,
        acceleration: rate(numbers.air.acceleration, run.acceleration),
        braking: rate(numbers.air.braking, run.braking),
        turning: rate(numbers.air.turning, run.turning),
    }
}

fn run_rate(acceleration: Acceleration, top_speed: f64) -> RunRate {
    match acceleration {
        Acceleration::Instant | Acceleration::Time(0.0) => RunRate::Instant,
        Acceleration::Rate(rate) => RunRate::PerSecond(rate),
        // A time too short to count: faster than any speed change that could be seen.
        Acceleration::Time(time) if top_speed / time > LIMIT_ACCELERATION => RunRate::Instant,
        Acceleration::Time(time) => RunRate::PerSecond(top_speed / time),
    }
}

#[cfg(test)]
mod tests;
