use super::{
    Diagonal, DropRule, FeelNumbers, FlightNumbers, Hang, HoldNumbers, Jump, LIMIT_SPEED, LadderNumbers, Pixels,
    Release, RiseRules, SlideNumbers, TakenAlong, TuningErrors, TuningNumbers,
};
use crate::groups::Group;
use crate::integrate::{Gravity, RunRates, Scheme};
use crate::space::Body;

/// How a character moves: checked, and ready to be used. It cannot be wrong.
///
/// With the feature `serde` it is written as its [`TuningNumbers`], and checked when it is read.
///
/// ```
/// use wumple_core::{Tuning, TuningNumbers};
///
/// let tuning = Tuning::check(&TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35))?;
/// let (time_to_apex, height) = tuning.full_jump();
/// assert!((time_to_apex - 0.35).abs() < 1e-9 && (height - 54.0).abs() < 1e-9);
/// assert!(Tuning::check(&TuningNumbers::new(-10.0, 22.0, 120.0)).is_err());
/// # Ok::<(), wumple_core::TuningErrors>(())
/// ```
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
#[cfg_attr(feature = "serde", serde(try_from = "TuningNumbers", into = "TuningNumbers"))]
pub struct Tuning {
    pub(super) numbers: TuningNumbers,
    pub(super) tick_seconds: f64,
    pub(super) body: Body,
    pub(super) run: RunRates,
    pub(super) air: RunRates,
    pub(super) gravity: Gravity,
    pub(super) jumps: Option<Jumps>,
    /// Asked for in every tick on the ground.
    pub(super) springs: bool,
    pub(super) bump_memory_ticks: u64,
    pub(super) wall: WallRules,
    pub(super) four_way: Option<FourWayRules>,
    pub(super) felt: f64,
    /// The greatest margin in which zones are felt, px.
    pub(super) feels_most: f64,
}

/// Walking four ways, in speeds.
#[derive(Clone, Copy, Debug, PartialEq)]
#[non_exhaustive]
pub struct FourWayRules {
    /// The top speed, and how fast it is reached, along each axis.
    pub rates: RunRates,
    /// How fast it is aslant.
    pub diagonal: Diagonal,
    /// How far to the side a corner may be that is slid around, px.
    pub corner_slide: f64,
}

/// What walls do, in ticks and speeds.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[non_exhaustive]
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
#[non_exhaustive]
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
pub(super) struct Jumps {
    pub(super) ground: Jump,
    pub(super) air: Jump,
    pub(super) air_jumps: u16,
    pub(super) coyote_ticks: u64,
    pub(super) buffer_ticks: u64,
    pub(super) repeat_held: bool,
    pub(super) waits_for_ground: bool,
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
    /// What was written, with lengths rounded to 1/1024 px.
    #[must_use]
    pub fn numbers(&self) -> &TuningNumbers {
        &self.numbers
    }

    /// Ticks a second.
    #[inline]
    #[must_use]
    pub fn rate(&self) -> f64 {
        self.numbers.rate
    }

    /// The length of a tick, s.
    #[inline]
    #[must_use]
    pub fn tick_seconds(&self) -> f64 {
        self.tick_seconds
    }

    /// The hitbox.
    #[inline]
    #[must_use]
    pub fn body(&self) -> &Body {
        &self.body
    }

    /// How far around the hitbox something can matter though it is not met on the way, px.
    #[inline]
    pub(crate) fn felt(&self) -> f64 {
        self.felt
    }

    /// How far around the hitbox a zone can be felt, px, beside the zone's own margin.
    #[inline]
    pub(crate) fn feels_most(&self) -> f64 {
        self.feels_most
    }

    /// The group that the body is in.
    #[inline]
    #[must_use]
    pub fn group(&self) -> Group {
        self.numbers.group
    }

    /// How much larger or smaller than the hitbox zones are felt.
    #[inline]
    #[must_use]
    pub fn feels(&self) -> &FeelNumbers {
        &self.numbers.feels
    }

    /// How far beside the hitbox a wall is felt, px.
    #[inline]
    #[must_use]
    pub fn wall_probe(&self) -> f64 {
        self.numbers.body.wall_probe
    }

    /// How far sideways a rise that a corner stops may be moved, px.
    #[inline]
    #[must_use]
    pub fn corner_nudge(&self) -> f64 {
        self.numbers.body.corner_nudge
    }

    /// How far a fall that a ledge's side stops may be lifted, px.
    #[inline]
    #[must_use]
    pub fn ledge_lift(&self) -> f64 {
        self.numbers.body.ledge_lift
    }

    /// How high a step is that is walked up and down, px.
    #[inline]
    #[must_use]
    pub fn step_height(&self) -> f64 {
        self.numbers.body.step_height
    }

    /// How far below the feet a ramp is followed down, px, at least.
    #[inline]
    #[must_use]
    pub fn ramp_follow(&self) -> f64 {
        self.numbers.run.ramp_follow
    }

    /// The steepest slope that is walked up, px for each px along.
    #[inline]
    #[must_use]
    pub fn steepest_climb(&self) -> f64 {
        self.numbers.run.steepest_climb
    }

    /// For how many ticks the speed that a wall took in the air is remembered.
    #[inline]
    #[must_use]
    pub fn bump_memory_ticks(&self) -> u64 {
        self.bump_memory_ticks
    }

    /// What walls do.
    #[inline]
    #[must_use]
    pub fn wall(&self) -> &WallRules {
        &self.wall
    }

    /// Climbing ladders, if the character can.
    #[inline]
    #[must_use]
    pub fn ladder(&self) -> Option<&LadderNumbers> {
        self.numbers.ladder.as_ref()
    }

    /// Flying, if the character can.
    #[inline]
    #[must_use]
    pub fn flight(&self) -> Option<&FlightNumbers> {
        self.numbers.flight.as_ref()
    }

    /// Walking four ways, if the character is seen from above.
    #[inline]
    #[must_use]
    pub fn four_way(&self) -> Option<&FourWayRules> {
        self.four_way.as_ref()
    }

    /// What of a platform's speed it takes along when it leaves it.
    #[inline]
    #[must_use]
    pub fn leave_with(&self) -> TakenAlong {
        self.numbers.leave_with
    }

    /// Which buttons let it drop through one-way tops.
    #[inline]
    #[must_use]
    pub fn drop_rule(&self) -> DropRule {
        self.numbers.drop
    }

    /// Whether touching a wall gives the air jumps back.
    #[inline]
    #[must_use]
    pub fn air_jumps_back_on_wall(&self) -> bool {
        self.numbers.jump.as_ref().is_some_and(|jump| jump.air_jumps_back_on_wall)
    }

    /// Running on the ground.
    #[inline]
    #[must_use]
    pub fn run(&self) -> &RunRates {
        &self.run
    }

    /// How the loop integrates.
    #[inline]
    #[must_use]
    pub fn scheme(&self) -> Scheme {
        self.numbers.scheme
    }

    /// Whether a body moves by whole pixels.
    #[inline]
    #[must_use]
    pub fn moves_whole_pixels(&self) -> bool {
        self.numbers.pixels == Pixels::Whole
    }

    /// Steering in the air.
    #[inline]
    #[must_use]
    pub fn air(&self) -> &RunRates {
        &self.air
    }

    /// Gravity and the top fall speed.
    #[inline]
    #[must_use]
    pub fn gravity(&self) -> &Gravity {
        &self.gravity
    }

    /// The jump off the ground, if the character can jump.
    #[inline]
    #[must_use]
    pub fn jump(&self) -> Option<&Jump> {
        self.jumps.as_ref().map(|jumps| &jumps.ground)
    }

    /// The jump in the air, if the character can jump at all.
    #[inline]
    #[must_use]
    pub fn air_jump(&self) -> Option<&Jump> {
        self.jumps.as_ref().map(|jumps| &jumps.air)
    }

    /// How many jumps there are in the air, until the ground is touched.
    #[inline]
    #[must_use]
    pub fn air_jumps(&self) -> u32 {
        u32::from(self.most_air_jumps())
    }

    /// The same as it is kept, small.
    #[inline]
    pub(crate) fn most_air_jumps(&self) -> u16 {
        self.jumps.as_ref().map_or(0, |jumps| jumps.air_jumps)
    }

    /// For how many ticks after the first without ground a jump off it is admitted.
    #[inline]
    #[must_use]
    pub fn coyote_ticks(&self) -> u64 {
        self.jumps.as_ref().map_or(0, |jumps| jumps.coyote_ticks)
    }

    /// For how many ticks a press that finds no jump is remembered.
    #[inline]
    #[must_use]
    pub fn buffer_ticks(&self) -> u64 {
        self.jumps.as_ref().map_or(0, |jumps| jumps.buffer_ticks)
    }

    /// Whether a button held down jumps again from the ground.
    #[inline]
    #[must_use]
    pub fn repeats_held(&self) -> bool {
        self.jumps.as_ref().is_some_and(|jumps| jumps.repeat_held)
    }

    /// Whether a press shortly before a landing waits for it instead of spending an air jump.
    #[inline]
    #[must_use]
    pub fn waits_for_ground(&self) -> bool {
        self.jumps.as_ref().is_some_and(|jumps| jumps.waits_for_ground)
    }

    /// Whether every landing throws it up, as a jump would.
    #[inline]
    #[must_use]
    pub fn springs(&self) -> bool {
        self.springs
    }

    /// How long a full jump rises, s, and how high it gets, px: of the motion itself under `exact`, at the highest end of
    /// a tick in the stepped schemes. Zero if the character cannot jump.
    #[must_use]
    pub fn full_jump(&self) -> (f64, f64) {
        let Some(jump) = self.jump() else { return (0.0, 0.0) };
        let hang = self.numbers.jump.as_ref().and_then(|jump| jump.hang);
        let rules = rise_rules(&self.numbers, hang, jump.release.sustain());
        (rules.time_to_apex(jump.speed, self.gravity.rise), rules.apex_height(jump.speed, self.gravity.rise))
    }

    /// The least upward speed, px/s, from which a rise without a sustained part gets `height` px higher;
    /// 0 if that is nothing.
    #[must_use]
    pub fn speed_to_rise(&self, height: f64) -> f64 {
        let hang = self.numbers.jump.as_ref().and_then(|jump| jump.hang);
        rise_rules(&self.numbers, hang, 0.0).speed_for(height, self.gravity.rise)
    }

    /// The same of a rise without a hang: a bounce's.
    #[must_use]
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
    #[must_use]
    pub fn bounce(&self, height: f64, release: Release) -> Jump {
        let rules = rise_rules(&self.numbers, None, release.sustain());
        let speed = rules.speed_for(height, self.gravity.rise).min(LIMIT_SPEED);
        Jump { speed, release }
    }
}

/// What the rises of a tuning have in common.
pub(super) fn rise_rules(numbers: &TuningNumbers, hang: Option<Hang>, sustain: f64) -> RiseRules {
    RiseRules {
        scheme: numbers.scheme,
        dt: 1.0 / numbers.rate,
        hang_speed: hang.map_or(0.0, |hang| hang.speed),
        hang_ratio: hang.map_or(1.0, |hang| hang.gravity_ratio),
        sustain,
    }
}
