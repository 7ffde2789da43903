use crate::integrate::Scheme;

/// How a character moves, as written and not yet checked: px, seconds, upward positive.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct TuningNumbers {
    /// Simulation ticks a second, from 1 to 10,000.
    pub rate: f64,
    /// How the loop integrates.
    pub scheme: Scheme,
    /// Whether places are whole pixels.
    pub pixels: Pixels,
    /// The hitbox and what it feels around it.
    pub body: BodyNumbers,
    /// Running on the ground.
    pub run: RunNumbers,
    /// Steering in the air.
    pub air: AirNumbers,
    /// Falling.
    pub fall: FallNumbers,
    /// Jumping, if the character can.
    pub jump: Option<JumpNumbers>,
    /// What walls do besides stopping it, if anything.
    pub wall: Option<WallNumbers>,
    /// Climbing ladders, if the character can.
    pub ladder: Option<LadderNumbers>,
    /// How it drops through one-way tops.
    pub drop: Drop,
    /// What of a platform's speed it takes along when it leaves it.
    pub leave_with: Leave,
}

impl TuningNumbers {
    /// A body of this width and height (px) that runs at `top_speed` (px/s) and reaches it at once, at
    /// 60 ticks a second, under a gravity of 900 px/s^2. It cannot jump yet.
    pub fn new(width: f64, height: f64, top_speed: f64) -> TuningNumbers {
        TuningNumbers {
            rate: 60.0,
            scheme: Scheme::Exact,
            pixels: Pixels::Free,
            body: BodyNumbers { width, height, wall_probe: 1.0, corner_nudge: 0.0, ledge_lift: 0.0, step_height: 0.0 },
            run: RunNumbers {
                top_speed,
                acceleration: Acceleration::Instant,
                braking: Acceleration::Instant,
                turning: Acceleration::Instant,
                ramp_follow: 8.0,
                steepest_climb: f64::INFINITY,
            },
            air: AirNumbers::default(),
            fall: FallNumbers { gravity: Some(900.0), ..FallNumbers::default() },
            jump: None,
            wall: None,
            ladder: None,
            drop: Drop::default(),
            leave_with: Leave::default(),
        }
    }

    /// The same with a jump `height` px high that takes `time_to_apex` s to get there.
    pub fn with_jump(mut self, height: f64, time_to_apex: f64) -> TuningNumbers {
        self.fall.gravity = None;
        self.jump = Some(JumpNumbers::new(JumpShape::HeightAndTime { height, time_to_apex }));
        self
    }
}

/// The hitbox and what it feels around it.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct BodyNumbers {
    /// Width, px, above 0. Rounded to 1/1024 px.
    pub width: f64,
    /// Height, px, above 0. Rounded to 1/1024 px.
    pub height: f64,
    /// How far beside the hitbox a wall is felt, px, at least 0. Rounded to 1/1024 px.
    pub wall_probe: f64,
    /// How far sideways a rise that a corner stops may be moved to go on, px, at least 0. Rounded.
    pub corner_nudge: f64,
    /// How far a fall that the side of a ledge stops may be lifted onto it, px, at least 0. Rounded.
    pub ledge_lift: f64,
    /// How high a step is that is walked up, and down, px, at least 0. Rounded.
    pub step_height: f64,
}

/// How fast a speed changes.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Acceleration {
    /// At once.
    Instant,
    /// By this much, px/s^2, at least 0.
    Rate(f64),
    /// From rest to the top speed, or back, in this time, s. 0 is the same as [`Acceleration::Instant`].
    Time(f64),
}

/// Running.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct RunNumbers {
    /// The speed aimed at while a direction is held, px/s, at least 0.
    pub top_speed: f64,
    /// Towards the held direction.
    pub acceleration: Acceleration,
    /// With no direction held, or while faster than aimed at.
    pub braking: Acceleration,
    /// While the speed opposes the held direction.
    pub turning: Acceleration,
    /// How far below the feet a ramp is followed down, px, at least 0. Rounded to 1/1024 px.
    pub ramp_follow: f64,
    /// The steepest slope that is walked up, px upward for each px along; above 0, infinite for any.
    #[cfg_attr(feature = "serde", serde(with = "super::unlimited"))]
    pub steepest_climb: f64,
}

/// Steering in the air: each number that is not given is as on the ground.
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct AirNumbers {
    /// Towards the held direction.
    pub acceleration: Option<Acceleration>,
    /// With no direction held, or while faster than aimed at.
    pub braking: Option<Acceleration>,
    /// While the speed opposes the held direction.
    pub turning: Option<Acceleration>,
    /// For how long the speed that a wall took is remembered, to be given back once the wall is passed, s.
    pub bump_memory: f64,
}

/// Whether places are whole pixels.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Pixels {
    /// Any place.
    #[default]
    Free,
    /// A body moves by whole pixels and carries the rest over to the next tick. Body and tile sizes must
    /// then be whole.
    Whole,
}

/// Falling.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct FallNumbers {
    /// No fall is faster, px/s, above 0.
    pub top_speed: f64,
    /// Gravity, px/s^2, above 0: needed without a jump, refused beside one, which says its own.
    pub gravity: Option<f64>,
    /// The gravity of a fall, as a share of that of a rise; above 0.
    pub gravity_ratio: f64,
    /// What multiplies the gravity of a fall while down is held; above 0.
    pub plunge_ratio: f64,
}

impl Default for FallNumbers {
    fn default() -> FallNumbers {
        FallNumbers { top_speed: super::LIMIT_SPEED, gravity: None, gravity_ratio: 1.0, plunge_ratio: 1.0 }
    }
}

/// Jumping.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct JumpNumbers {
    /// How high and how fast.
    pub shape: JumpShape,
    /// What letting go of the button does.
    pub release: Release,
    /// For how long after losing the ground a jump off it is still admitted, s.
    pub coyote_time: f64,
    /// For how long a press that finds no jump is remembered, s.
    pub buffer_time: f64,
    /// Whether a button held down jumps again from the ground.
    pub repeat_held: bool,
    /// Whether a press shortly before a landing waits for it instead of spending an air jump.
    pub waits_for_ground: bool,
    /// How many jumps there are in the air, until the ground is touched.
    pub air_jumps: u32,
    /// How high an air jump is, px, above 0; not given, as high as a jump.
    pub air_jump_height: Option<f64>,
    /// Whether touching a wall gives the air jumps back.
    pub air_jumps_back_on_wall: bool,
    /// What letting go does to an air jump; not given, as to a jump.
    pub air_jump_release: Option<Release>,
    /// A weaker gravity around the apex.
    pub hang: Option<Hang>,
}

impl JumpNumbers {
    /// A jump of this shape and nothing more: always full, once, from the ground.
    pub fn new(shape: JumpShape) -> JumpNumbers {
        JumpNumbers {
            shape,
            release: Release::None,
            coyote_time: 0.0,
            buffer_time: 0.0,
            repeat_held: false,
            waits_for_ground: false,
            air_jumps: 0,
            air_jump_height: None,
            air_jumps_back_on_wall: false,
            air_jump_release: None,
            hang: None,
        }
    }
}

/// A weaker gravity around the apex of a jump.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct Hang {
    /// It lasts while the speed is at most this, up or down, px/s, above 0.
    pub speed: f64,
    /// The gravity then, as a share of that of a rise; above 0.
    pub gravity_ratio: f64,
}

/// What letting go of the button does to a jump, once, while it rises.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Release {
    /// Nothing: every jump goes to its full height.
    #[default]
    None,
    /// The upward speed is multiplied by `keep`.
    Cut {
        /// From 0 to 1.
        keep: f64,
    },
    /// From then on, gravity while rising is multiplied.
    Heavy {
        /// Above 0.
        gravity_ratio: f64,
    },
    /// While held, for at most this time, the take-off speed is kept; letting go ends that.
    Sustain {
        /// s, at least 0.
        time: f64,
    },
    /// The upward speed falls to what just reaches the greater of `tap_height` above the take-off and
    /// `further_rise` above the present height.
    ToHeight {
        /// The smallest hop, px, at least 0.
        tap_height: f64,
        /// How far it still rises, px, at least 0.
        further_rise: f64,
    },
}

impl Release {
    /// For how long the take-off speed is kept while the button is held, s.
    #[inline]
    pub fn sustain(&self) -> f64 {
        if let Release::Sustain { time } = self { *time } else { 0.0 }
    }

    /// Whether its numbers are within their bounds.
    pub fn is_within_bounds(&self) -> bool {
        match *self {
            Release::None => true,
            Release::Cut { keep } => (0.0..=1.0).contains(&keep),
            Release::Heavy { gravity_ratio } => gravity_ratio > 0.0 && gravity_ratio <= 1e6,
            Release::Sustain { time } => (0.0..=1000.0).contains(&time),
            Release::ToHeight { tap_height, further_rise } => {
                let length = 0.0..=super::LIMIT_LENGTH;
                length.contains(&tap_height) && length.contains(&further_rise)
            }
        }
    }
}

/// The two numbers that say what a full jump is; each pair gives the other.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum JumpShape {
    /// The height of the apex and the time it takes.
    HeightAndTime {
        /// px, above 0.
        height: f64,
        /// s, above 0.
        time_to_apex: f64,
    },
    /// The speed at take-off and the gravity while rising.
    SpeedAndGravity {
        /// px/s, above 0.
        speed: f64,
        /// px/s^2, above 0.
        gravity: f64,
    },
}

/// What walls do besides stopping a character.
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct WallNumbers {
    /// For how long after losing a wall a jump off it is still admitted, s.
    pub coyote_time: f64,
    /// Sliding down along it.
    pub slide: Option<SlideNumbers>,
    /// Jumping off it.
    pub jump: Option<WallJumpNumbers>,
    /// Holding on to it.
    pub hold: Option<HoldNumbers>,
}

/// Sliding down along a wall.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct SlideNumbers {
    /// When it slides.
    pub when: SlideWhen,
    /// No slide is faster, px/s, at least 0.
    pub top_speed: f64,
}

/// When a body in the air slides down along a wall.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum SlideWhen {
    /// While the direction towards the wall is held.
    #[default]
    Pushed,
    /// Whenever the wall is touched.
    Touched,
}

/// Jumping off a wall.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct WallJumpNumbers {
    /// How high, px, above 0.
    pub height: f64,
    /// The speed away from the wall, px/s, at least 0.
    pub push_speed: f64,
    /// For how long the direction back to the wall counts as none, and nothing brakes, s.
    pub steer_lock: f64,
    /// Whether the same wall can be jumped off twice without touching anything else.
    pub same_wall: bool,
}

/// Holding on to a wall.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct HoldNumbers {
    /// When the hold is taken.
    pub when: HoldWhen,
    /// Climbing up, px/s, at least 0.
    pub up_speed: f64,
    /// Climbing down, px/s, at least 0.
    pub down_speed: f64,
    /// Whether it can be taken while standing.
    pub from_ground: bool,
    /// Whether a climb at the wall's top goes on over it, instead of stopping.
    pub climb_over: bool,
}

/// When a wall is held on to.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum HoldWhen {
    /// On touching it in the air, when not rising.
    Touched,
    /// While the grab button is down.
    GrabHeld,
}

/// Climbing ladders.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize))]
pub struct LadderNumbers {
    /// How far from its middle a ladder is taken, px, at least 0. Rounded to 1/1024 px.
    pub probe: f64,
    /// px/s, at least 0.
    pub up_speed: f64,
    /// px/s, at least 0.
    pub down_speed: f64,
    /// Sideways, and towards the middle, px/s, at least 0.
    pub side_speed: f64,
    /// Whether the body glides to the ladder's middle.
    pub centre: bool,
    /// Whether up is the jump button too: a press of it on a ladder climbs.
    pub up_is_jump: bool,
}

/// Which buttons let a body drop through a one-way top.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Drop {
    /// Down, pressed.
    Down,
    /// Jump, pressed while down is held.
    #[default]
    DownAndJump,
    /// None.
    Off,
}

/// What of a platform's speed a body takes along when it jumps, drops or walks off it.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Leave {
    /// Nothing.
    Nothing,
    /// Its speed sideways.
    #[default]
    Sideways,
    /// Its speed sideways and, unless it drops, upward; never downward.
    All,
}
