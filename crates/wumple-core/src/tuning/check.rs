use alloc::vec::Vec;

use super::error::{Problem, TuningError, TuningErrors};
use super::{
    Acceleration, BodyNumbers, Drop, Hang, HoldNumbers, Jump, JumpNumbers, JumpShape, LIMIT_ACCELERATION, LIMIT_LENGTH,
    LIMIT_SPEED, LadderNumbers, Leave, NoShape, Pixels, Release, RiseRules, RunNumbers, Shape, SlideNumbers,
    TuningNumbers, WallNumbers, round_length,
};
use crate::integrate::{Gravity, RunRate, RunRates, Scheme};
use crate::space::Body;
use crate::space::float::{floor, gate_ticks};

/// How a character moves: checked, and ready to be used. It cannot be wrong.
///
/// With the feature `serde` it is written as its [`TuningNumbers`], and checked when it is read.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(try_from = "TuningNumbers", into = "TuningNumbers"))]
pub struct Tuning {
    numbers: TuningNumbers,
    tick_seconds: f64,
    body: Body,
    run: RunRates,
    air: RunRates,
    gravity: Gravity,
    jumps: Option<Jumps>,
    bump_memory_ticks: u64,
    wall: WallRules,
    felt: f64,
}

/// What walls do, in ticks and speeds.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub struct WallRules {
    /// For how many ticks after the first without a wall a jump off it is admitted.
    pub coyote_ticks: u64,
    /// Sliding down along a wall.
    pub slide: Option<SlideNumbers>,
    /// Jumping off a wall.
    pub jump: Option<WallJump>,
    /// Holding on to a wall.
    pub hold: Option<HoldNumbers>,
}

/// A jump off a wall.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct WallJump {
    /// Its upward part.
    pub jump: Jump,
    /// The speed away from the wall, px/s.
    pub push_speed: f64,
    /// For how many ticks after its own the direction back to the wall counts as none.
    pub lock_ticks: u64,
    /// Whether the same wall can be jumped off twice without touching anything else.
    pub same_wall: bool,
}

/// What a tuning's jumps come to.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Jumps {
    ground: Jump,
    air: Jump,
    air_jumps: u32,
    coyote_ticks: u64,
    buffer_ticks: u64,
    repeat_held: bool,
    waits_for_ground: bool,
}

impl TryFrom<TuningNumbers> for Tuning {
    type Error = TuningErrors;

    fn try_from(numbers: TuningNumbers) -> Result<Tuning, TuningErrors> {
        Tuning::check(&numbers)
    }
}

impl From<Tuning> for TuningNumbers {
    fn from(tuning: Tuning) -> TuningNumbers {
        tuning.numbers
    }
}

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
        check.probes(&mut numbers);
        let numbers = &numbers;
        check.within("tick.rate", numbers.rate, Bound::From(1.0), 10_000.0, "Hz");
        let body = Body {
            width: check.size("body.width", numbers.body.width),
            height: check.size("body.height", numbers.body.height),
        };
        let run = check.run(&numbers.run);
        check.within("fall.top_speed", numbers.fall.top_speed, Bound::Above(0.0), LIMIT_SPEED, "px/s");
        let air = check.air(numbers, &run);
        if numbers.pixels == Pixels::Whole {
            check.whole("body.width", body.width);
            check.whole("body.height", body.height);
        }
        let gravity = check.gravity(numbers);
        let jumps = numbers.jump.as_ref().map(|jump| check.jumps(numbers, jump, &gravity));
        let wall = numbers.wall.as_ref().map(|wall| check.wall(numbers, wall, &gravity)).unwrap_or_default();
        if let Some(ladder) = &numbers.ladder {
            check.ladder(ladder);
        }
        if check.errors.is_empty() {
            let tick_seconds = 1.0 / numbers.rate;
            let bump_memory_ticks = gate_ticks(numbers.air.bump_memory, numbers.rate);
            let numbers = numbers.clone();
            let BodyNumbers { wall_probe, corner_nudge, ledge_lift, step_height, .. } = numbers.body;
            let felt = wall_probe.max(corner_nudge).max(ledge_lift).max(step_height);
            Ok(Tuning { felt, numbers, tick_seconds, body, run, air, gravity, jumps, bump_memory_ticks, wall })
        } else {
            Err(TuningErrors(check.errors))
        }
    }

    /// What was written, with the lengths of probes rounded.
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

    /// How far around the hitbox something can matter though it is not met on the way, px.
    #[inline]
    pub(crate) fn felt(&self) -> f64 {
        self.felt
    }

    /// How far beside the hitbox a wall is felt, px.
    #[inline]
    pub fn wall_probe(&self) -> f64 {
        self.numbers.body.wall_probe
    }

    /// How far sideways a rise that a corner stops may be moved, px.
    #[inline]
    pub fn corner_nudge(&self) -> f64 {
        self.numbers.body.corner_nudge
    }

    /// How far a fall that a ledge's side stops may be lifted, px.
    #[inline]
    pub fn ledge_lift(&self) -> f64 {
        self.numbers.body.ledge_lift
    }

    /// How high a step is that is walked up and down, px.
    #[inline]
    pub fn step_height(&self) -> f64 {
        self.numbers.body.step_height
    }

    /// How far below the feet a ramp is followed down, px, at least.
    #[inline]
    pub fn ramp_follow(&self) -> f64 {
        self.numbers.run.ramp_follow
    }

    /// The steepest slope that is walked up, px for each px along.
    #[inline]
    pub fn steepest_climb(&self) -> f64 {
        self.numbers.run.steepest_climb
    }

    /// For how many ticks the speed that a wall took in the air is remembered.
    #[inline]
    pub fn bump_memory_ticks(&self) -> u64 {
        self.bump_memory_ticks
    }

    /// What walls do.
    #[inline]
    pub fn wall(&self) -> &WallRules {
        &self.wall
    }

    /// Climbing ladders, if the character can.
    #[inline]
    pub fn ladder(&self) -> Option<&LadderNumbers> {
        self.numbers.ladder.as_ref()
    }

    /// What of a platform's speed it takes along when it leaves it.
    #[inline]
    pub fn leave_with(&self) -> Leave {
        self.numbers.leave_with
    }

    /// Which buttons let it drop through one-way tops.
    #[inline]
    pub fn drop_rule(&self) -> Drop {
        self.numbers.drop
    }

    /// Whether touching a wall gives the air jumps back.
    #[inline]
    pub fn air_jumps_back_on_wall(&self) -> bool {
        self.numbers.jump.as_ref().is_some_and(|jump| jump.air_jumps_back_on_wall)
    }

    /// Running on the ground.
    #[inline]
    pub fn run(&self) -> &RunRates {
        &self.run
    }

    /// How the loop integrates.
    #[inline]
    pub fn scheme(&self) -> Scheme {
        self.numbers.scheme
    }

    /// Whether a body moves by whole pixels.
    #[inline]
    pub fn moves_whole_pixels(&self) -> bool {
        self.numbers.pixels == Pixels::Whole
    }

    /// Steering in the air.
    #[inline]
    pub fn air(&self) -> &RunRates {
        &self.air
    }

    /// Gravity and the top fall speed.
    #[inline]
    pub fn gravity(&self) -> &Gravity {
        &self.gravity
    }

    /// The jump off the ground, if the character can jump.
    #[inline]
    pub fn jump(&self) -> Option<&Jump> {
        self.jumps.as_ref().map(|jumps| &jumps.ground)
    }

    /// The jump in the air, if the character can jump at all.
    #[inline]
    pub fn air_jump(&self) -> Option<&Jump> {
        self.jumps.as_ref().map(|jumps| &jumps.air)
    }

    /// How many jumps there are in the air, until the ground is touched.
    #[inline]
    pub fn air_jumps(&self) -> u32 {
        self.jumps.as_ref().map_or(0, |jumps| jumps.air_jumps)
    }

    /// For how many ticks after the first without ground a jump off it is admitted.
    #[inline]
    pub fn coyote_ticks(&self) -> u64 {
        self.jumps.as_ref().map_or(0, |jumps| jumps.coyote_ticks)
    }

    /// For how many ticks a press that finds no jump is remembered.
    #[inline]
    pub fn buffer_ticks(&self) -> u64 {
        self.jumps.as_ref().map_or(0, |jumps| jumps.buffer_ticks)
    }

    /// Whether a button held down jumps again from the ground.
    #[inline]
    pub fn repeats_held(&self) -> bool {
        self.jumps.as_ref().is_some_and(|jumps| jumps.repeat_held)
    }

    /// Whether a press shortly before a landing waits for it instead of spending an air jump.
    #[inline]
    pub fn waits_for_ground(&self) -> bool {
        self.jumps.as_ref().is_some_and(|jumps| jumps.waits_for_ground)
    }

    /// How long a full jump rises, s, and how high it gets, px: of the motion itself under `exact`, at the highest end of
    /// a tick in the stepped schemes. Zero if the character cannot jump.
    pub fn full_jump(&self) -> (f64, f64) {
        let Some(jump) = self.jump() else { return (0.0, 0.0) };
        let hang = self.numbers.jump.as_ref().and_then(|jump| jump.hang);
        let rules = rise_rules(&self.numbers, hang, jump.release.sustain());
        (rules.time_to_apex(jump.speed, self.gravity.rise), rules.apex_height(jump.speed, self.gravity.rise))
    }

    /// The least upward speed, px/s, from which a rise without a sustained part gets `height` px higher;
    /// 0 if that is nothing.
    pub fn speed_to_rise(&self, height: f64) -> f64 {
        let hang = self.numbers.jump.as_ref().and_then(|jump| jump.hang);
        rise_rules(&self.numbers, hang, 0.0).speed_for(height, self.gravity.rise)
    }

    /// The same of a rise without a hang: a bounce's.
    pub fn speed_to_rise_without_hang(&self, height: f64) -> f64 {
        rise_rules(&self.numbers, None, 0.0).speed_for(height, self.gravity.rise)
    }

    /// For how many ticks of a stepped scheme a rise that is sustained for so long, s, keeps its take-off speed.
    #[inline]
    pub(crate) fn sustain_ticks(&self, sustain: f64) -> u64 {
        rise_rules(&self.numbers, None, sustain).sustain_ticks()
    }

    /// The jump that a bounce is: the upward speed for its height, without a hang, held to the limit of
    /// speeds.
    pub fn bounce(&self, height: f64, release: Release) -> Jump {
        let rules = rise_rules(&self.numbers, None, release.sustain());
        let speed = rules.speed_for(height, self.gravity.rise).min(LIMIT_SPEED);
        Jump { speed, release }
    }
}

fn rise_rules(numbers: &TuningNumbers, hang: Option<Hang>, sustain: f64) -> RiseRules {
    RiseRules {
        scheme: numbers.scheme,
        dt: 1.0 / numbers.rate,
        hang_speed: hang.map_or(0.0, |hang| hang.speed),
        hang_ratio: hang.map_or(1.0, |hang| hang.gravity_ratio),
        sustain,
    }
}

/// No time in a tuning is longer, s.
const LONGEST: f64 = 1000.0;
/// No rise of a jump takes longer, and no fall back from its apex, s.
const LONGEST_RISE: f64 = 60.0;
/// And neither takes more ticks: so whatever follows a jump tick by tick comes to an end.
const MOST_RISE_TICKS: f64 = 100_000.0;
/// No gravity is weaker, px/s^2: a weaker one would take longer than anybody waits, and in the end be nothing.
const WEAKEST_GRAVITY: f64 = 1e-3;
/// No ratio is greater.
const GREATEST_RATIO: f64 = 1e6;

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

    fn whole(&mut self, key: &'static str, found: f64) {
        if found != floor(found) {
            self.fail(key, Problem::NotWhole { found });
        }
    }

    fn ratio(&mut self, key: &'static str, found: f64) {
        self.within(key, found, Bound::Above(0.0), GREATEST_RATIO, "");
    }

    /// Lengths that are compared with places: rounded, so that sums of them are exact.
    fn probes(&mut self, numbers: &mut TuningNumbers) {
        let mut lengths = alloc::vec![
            ("body.wall_probe", &mut numbers.body.wall_probe),
            ("body.corner_nudge", &mut numbers.body.corner_nudge),
            ("body.ledge_lift", &mut numbers.body.ledge_lift),
            ("body.step_height", &mut numbers.body.step_height),
            ("run.ramp_follow", &mut numbers.run.ramp_follow),
        ];
        if let Some(ladder) = &mut numbers.ladder {
            lengths.push(("ladder.probe", &mut ladder.probe));
        }
        for (key, length) in lengths {
            *length = round_length(*length);
            self.within(key, *length, Bound::From(0.0), LIMIT_LENGTH, "px");
        }
    }

    fn ladder(&mut self, ladder: &LadderNumbers) {
        for (key, speed) in [
            ("ladder.up_speed", ladder.up_speed),
            ("ladder.down_speed", ladder.down_speed),
            ("ladder.side_speed", ladder.side_speed),
        ] {
            self.within(key, speed, Bound::From(0.0), LIMIT_SPEED, "px/s");
        }
    }

    fn wall(&mut self, numbers: &TuningNumbers, wall: &WallNumbers, gravity: &Gravity) -> WallRules {
        self.within("wall.coyote_time", wall.coyote_time, Bound::From(0.0), 60.0, "s");
        let mut speed = |key, speed| self.within(key, speed, Bound::From(0.0), LIMIT_SPEED, "px/s");
        if let Some(slide) = &wall.slide {
            speed("wall.slide.top_speed", slide.top_speed);
        }
        if let Some(hold) = &wall.hold {
            speed("wall.hold.up_speed", hold.up_speed);
            speed("wall.hold.down_speed", hold.down_speed);
        }
        if let Some(jump) = &wall.jump {
            speed("wall.jump.push_speed", jump.push_speed);
            self.within("wall.jump.height", jump.height, Bound::Above(0.0), LIMIT_LENGTH, "px");
            self.within("wall.jump.steer_lock", jump.steer_lock, Bound::From(0.0), 60.0, "s");
        }
        if !self.errors.is_empty() {
            return WallRules::default();
        }
        let ticks = |seconds| gate_ticks(seconds, numbers.rate);
        let jump = wall.jump.map(|jump| {
            let (hang, release) = numbers.jump.as_ref().map_or((None, Release::None), |jump| (jump.hang, jump.release));
            let rules = rise_rules(numbers, hang, release.sustain());
            let speed = rules.speed_for(jump.height, gravity.rise);
            self.not_above("wall.jump.height", "the speed of a wall jump", speed, LIMIT_SPEED, "px/s");
            let jump_up = Jump { speed, release };
            self.ends_in_time("wall.jump.height", numbers, hang, &jump_up, gravity);
            WallJump {
                jump: jump_up,
                push_speed: jump.push_speed,
                lock_ticks: ticks(jump.steer_lock),
                same_wall: jump.same_wall,
            }
        });
        WallRules { coyote_ticks: ticks(wall.coyote_time), slide: wall.slide, jump, hold: wall.hold }
    }

    fn run(&mut self, run: &RunNumbers) -> RunRates {
        self.within("run.top_speed", run.top_speed, Bound::From(0.0), LIMIT_SPEED, "px/s");
        self.within("run.steepest_climb", run.steepest_climb, Bound::Above(0.0), f64::INFINITY, "");
        RunRates {
            top_speed: run.top_speed,
            acceleration: self.run_rate("run.acceleration", run.acceleration, run.top_speed),
            braking: self.run_rate("run.braking", run.braking, run.top_speed),
            turning: self.run_rate("run.turning", run.turning, run.top_speed),
        }
    }

    /// What is not said of the air is as on the ground.
    fn air(&mut self, numbers: &TuningNumbers, run: &RunRates) -> RunRates {
        self.within("air.bump_memory", numbers.air.bump_memory, Bound::From(0.0), 60.0, "s");
        let mut rate =
            |key, own: Option<Acceleration>, ground| own.map_or(ground, |own| self.run_rate(key, own, run.top_speed));
        RunRates {
            top_speed: run.top_speed,
            acceleration: rate("air.acceleration", numbers.air.acceleration, run.acceleration),
            braking: rate("air.braking", numbers.air.braking, run.braking),
            turning: rate("air.turning", numbers.air.turning, run.turning),
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
                self.within(key, time, Bound::From(0.0), LONGEST, "s");
                let rate = top_speed / time;
                // A time too short to count: faster than any speed change that could be seen.
                if rate > LIMIT_ACCELERATION { RunRate::Instant } else { RunRate::PerSecond(rate) }
            }
        }
    }

    fn gravity(&mut self, numbers: &TuningNumbers) -> Gravity {
        let fall = &numbers.fall;
        self.ratio("fall.gravity_ratio", fall.gravity_ratio);
        self.ratio("fall.plunge_ratio", fall.plunge_ratio);
        let hang = numbers.jump.as_ref().and_then(|jump| jump.hang);
        if let Some(hang) = hang {
            self.within("jump.hang.speed", hang.speed, Bound::Above(0.0), LIMIT_SPEED, "px/s");
            self.ratio("jump.hang.gravity_ratio", hang.gravity_ratio);
        }
        let rise = self.rise_gravity(numbers);
        let gravity = Gravity {
            rise,
            hang: rise * hang.map_or(1.0, |hang| hang.gravity_ratio),
            hang_speed: hang.map_or(0.0, |hang| hang.speed),
            fall: rise * fall.gravity_ratio,
            plunge: rise * fall.gravity_ratio * fall.plunge_ratio,
            top_speed: fall.top_speed,
        };
        if self.errors.is_empty() {
            for (key, what, found) in [
                ("jump.hang.gravity_ratio", "the gravity of the hang", gravity.hang),
                ("fall.gravity_ratio", "the gravity of the fall", gravity.fall),
                ("fall.plunge_ratio", "the gravity of the plunge", gravity.plunge),
            ] {
                self.not_above(key, what, found, LIMIT_ACCELERATION, "px/s^2");
                self.not_too_weak(key, what, found);
            }
        }
        gravity
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

    fn rise_gravity(&mut self, numbers: &TuningNumbers) -> f64 {
        let key = "fall.gravity";
        match (&numbers.jump, numbers.fall.gravity) {
            (None, None) => {
                self.fail(key, Problem::Missing("is missing; without [jump] it says how fast a fall quickens"));
                0.0
            }
            (None, Some(gravity)) => {
                self.within(key, gravity, Bound::From(WEAKEST_GRAVITY), LIMIT_ACCELERATION, "px/s^2");
                gravity
            }
            (Some(jump), given) => {
                if given.is_some() {
                    self.fail(key, Problem::Superfluous("is given, but [jump] already says the gravity; remove it"));
                }
                self.shape(numbers, jump).gravity
            }
        }
    }

    /// The speed and gravity of a full jump.
    fn shape(&mut self, numbers: &TuningNumbers, jump: &JumpNumbers) -> Shape {
        let before = self.errors.len();
        let rules = rise_rules(numbers, jump.hang, jump.release.sustain());
        match jump.shape {
            JumpShape::SpeedAndGravity { speed, gravity } => {
                self.within("jump.speed", speed, Bound::Above(0.0), LIMIT_SPEED, "px/s");
                self.within("jump.gravity", gravity, Bound::From(WEAKEST_GRAVITY), LIMIT_ACCELERATION, "px/s^2");
                if self.errors.len() == before && rules.hang_speed >= speed {
                    self.no_shape(NoShape::HangTooFast { take_off: speed });
                }
                Shape { speed, gravity }
            }
            JumpShape::HeightAndTime { height, time_to_apex } => {
                self.within("jump.height", height, Bound::Above(0.0), LIMIT_LENGTH, "px");
                self.within("jump.time_to_apex", time_to_apex, Bound::Above(0.0), LONGEST_RISE, "s");
                self.release("jump.release", jump.release);
                let nothing = Shape { speed: 0.0, gravity: 0.0 };
                if self.errors.len() > before || !(1.0..=10_000.0).contains(&numbers.rate) {
                    return nothing;
                }
                match rules.shape(height, time_to_apex) {
                    Ok(shape) => {
                        let key = "jump.time_to_apex";
                        self.not_above(key, "the take-off speed", shape.speed, LIMIT_SPEED, "px/s");
                        self.not_above(key, "the gravity", shape.gravity, LIMIT_ACCELERATION, "px/s^2");
                        self.not_too_weak(key, "the gravity", shape.gravity);
                        shape
                    }
                    Err(why) => {
                        self.no_shape(why);
                        nothing
                    }
                }
            }
        }
    }

    fn no_shape(&mut self, why: NoShape) {
        let key = match why {
            NoShape::HangTooFast { .. } | NoShape::NoWholeTicks { .. } => "jump.hang.speed",
            NoShape::SustainTooLong => "jump.release.time",
        };
        self.fail(key, Problem::NoShape(why));
    }

    fn release(&mut self, key: &'static str, release: Release) {
        let air = key == "jump.air_jump_release";
        let mut within = |part: [&'static str; 2], found, bound, most, unit| {
            self.within(part[usize::from(air)], found, bound, most, unit);
        };
        match release {
            Release::None => {}
            Release::Cut { keep } => {
                within(["jump.release.keep", "jump.air_jump_release.keep"], keep, Bound::From(0.0), 1.0, "");
            }
            Release::Heavy { gravity_ratio } => {
                let key = ["jump.release.gravity_ratio", "jump.air_jump_release.gravity_ratio"];
                within(key, gravity_ratio, Bound::Above(0.0), GREATEST_RATIO, "");
            }
            Release::Sustain { time } => {
                within(["jump.release.time", "jump.air_jump_release.time"], time, Bound::From(0.0), LONGEST, "s");
            }
            Release::ToHeight { tap_height, further_rise } => {
                let (tap, further) = (
                    ["jump.release.tap_height", "jump.air_jump_release.tap_height"],
                    ["jump.release.further_rise", "jump.air_jump_release.further_rise"],
                );
                within(tap, tap_height, Bound::From(0.0), LIMIT_LENGTH, "px");
                within(further, further_rise, Bound::From(0.0), LIMIT_LENGTH, "px");
            }
        }
    }

    fn jumps(&mut self, numbers: &TuningNumbers, jump: &JumpNumbers, gravity: &Gravity) -> Jumps {
        let gates = [("jump.coyote_time", jump.coyote_time), ("jump.buffer_time", jump.buffer_time)];
        for (key, time) in gates {
            self.within(key, time, Bound::From(0.0), 60.0, "s");
        }
        if !matches!(jump.shape, JumpShape::HeightAndTime { .. }) {
            self.release("jump.release", jump.release);
        }
        if let Some(release) = jump.air_jump_release {
            self.release("jump.air_jump_release", release);
        }
        if let Some(height) = jump.air_jump_height {
            self.within("jump.air_jump_height", height, Bound::Above(0.0), LIMIT_LENGTH, "px");
        }
        let air_release = jump.air_jump_release.unwrap_or(jump.release);
        let mut jumps = Jumps {
            ground: Jump { speed: 0.0, release: jump.release },
            air: Jump { speed: 0.0, release: air_release },
            air_jumps: jump.air_jumps,
            coyote_ticks: gate_ticks(jump.coyote_time, numbers.rate),
            buffer_ticks: gate_ticks(jump.buffer_time, numbers.rate),
            repeat_held: jump.repeat_held,
            waits_for_ground: jump.waits_for_ground,
        };
        if !self.errors.is_empty() {
            return jumps;
        }
        jumps.ground.speed = self.shape(numbers, jump).speed;
        let key =
            if matches!(jump.shape, JumpShape::HeightAndTime { .. }) { "jump.time_to_apex" } else { "jump.gravity" };
        self.ends_in_time(key, numbers, jump.hang, &jumps.ground, gravity);
        // An air jump without a height of its own goes as high as a jump.
        let rules = |release: Release| rise_rules(numbers, jump.hang, release.sustain());
        let as_high = || rules(jump.release).apex_height(jumps.ground.speed, gravity.rise);
        let height = jump.air_jump_height.unwrap_or_else(as_high);
        let air_rules = rules(air_release);
        jumps.air.speed = air_rules.speed_for(height, gravity.rise);
        self.not_above("jump.air_jump_height", "the speed of an air jump", jumps.air.speed, LIMIT_SPEED, "px/s");
        if jump.air_jumps > 0 {
            self.ends_in_time("jump.air_jump_height", numbers, jump.hang, &jumps.air, gravity);
        }
        jumps
    }
}

#[cfg(test)]
mod tests;
