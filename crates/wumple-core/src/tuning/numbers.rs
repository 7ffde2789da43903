use super::choice::choices;
use super::keys::{Key, Slot};
use super::{
    AirNumbers, BodyNumbers, FallNumbers, FeelNumbers, FlightNumbers, FourWayNumbers, JumpNumbers, JumpShape,
    LadderNumbers, RunNumbers, WallNumbers, usual,
};
use crate::groups::Group;
use crate::integrate::Scheme;

/// How a character moves, as written and not yet checked: px, seconds, upward positive.
///
/// ```
/// use wumple_core::TuningNumbers;
/// use wumple_core::numbers::{Acceleration, LadderNumbers, Release};
///
/// let mut numbers = TuningNumbers::new(10.0, 22.0, 120.0).with_jump(54.0, 0.35);
/// numbers.run.acceleration = Acceleration::Time(0.1);
/// numbers.ladder = Some(LadderNumbers { probe: 8.0, up_speed: 60.0, down_speed: 90.0, ..LadderNumbers::default() });
/// if let Some(jump) = &mut numbers.jump {
///     jump.coyote_time = 0.09;
///     jump.release = Release::Cut { keep: 0.4 };
/// }
/// ```
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(deny_unknown_fields))]
pub struct TuningNumbers {
    /// Simulation ticks a second, from 1 to 10,000.
    #[cfg_attr(feature = "serde", serde(default = "super::usual::rate"))]
    pub rate: f64,
    /// How the loop integrates.
    #[cfg_attr(feature = "serde", serde(default))]
    pub scheme: Scheme,
    /// Whether places are whole pixels.
    #[cfg_attr(feature = "serde", serde(default))]
    pub pixels: Pixels,
    /// The hitbox and what it feels around it.
    pub body: BodyNumbers,
    /// Running on the ground.
    pub run: RunNumbers,
    /// Steering in the air.
    #[cfg_attr(feature = "serde", serde(default))]
    pub air: AirNumbers,
    /// Falling.
    #[cfg_attr(feature = "serde", serde(default))]
    pub fall: FallNumbers,
    /// Jumping, if the character can.
    #[cfg_attr(feature = "serde", serde(default))]
    pub jump: Option<JumpNumbers>,
    /// What walls do besides stopping it, if anything.
    #[cfg_attr(feature = "serde", serde(default))]
    pub wall: Option<WallNumbers>,
    /// Climbing ladders, if the character can.
    #[cfg_attr(feature = "serde", serde(default))]
    pub ladder: Option<LadderNumbers>,
    /// Flying, if the character can.
    #[cfg_attr(feature = "serde", serde(default))]
    pub flight: Option<FlightNumbers>,
    /// Walking four ways, if the character is seen from above: then there is no gravity, and what is said of running and
    /// falling is of no effect.
    #[cfg_attr(feature = "serde", serde(default))]
    pub four_way: Option<FourWayNumbers>,
    /// How it drops through one-way tops.
    #[cfg_attr(feature = "serde", serde(default))]
    pub drop: DropRule,
    /// What of a platform's speed it takes along when it leaves it.
    #[cfg_attr(feature = "serde", serde(default))]
    pub leave_with: TakenAlong,
    /// How much larger or smaller than the hitbox zones are felt.
    #[cfg_attr(feature = "serde", serde(default))]
    pub feels: FeelNumbers,
    /// The group that the body is in: whom it meets is said by a world's [`Meetings`](crate::Meetings).
    #[cfg_attr(feature = "serde", serde(default))]
    pub group: Group,
}

impl TuningNumbers {
    /// A body of this width and height (px) that runs at `top_speed` (px/s) and reaches it at once, at
    /// 60 ticks a second, under a gravity of 900 px/s^2. It cannot jump yet.
    #[must_use]
    pub fn new(width: f64, height: f64, top_speed: f64) -> TuningNumbers {
        TuningNumbers {
            rate: usual::rate(),
            scheme: Scheme::Exact,
            pixels: Pixels::Free,
            body: BodyNumbers::new(width, height),
            run: RunNumbers::new(top_speed),
            air: AirNumbers::default(),
            fall: FallNumbers { gravity: Some(900.0), ..FallNumbers::default() },
            jump: None,
            wall: None,
            ladder: None,
            flight: None,
            four_way: None,
            drop: DropRule::default(),
            leave_with: TakenAlong::default(),
            feels: FeelNumbers::default(),
            group: Group::LEVEL,
        }
    }

    /// The same with a jump `height` px high that takes `time_to_apex` s to get there.
    #[must_use]
    pub fn with_jump(mut self, height: f64, time_to_apex: f64) -> TuningNumbers {
        self.fall.gravity = None;
        self.jump = Some(JumpNumbers::new(JumpShape::HeightAndTime { height, time_to_apex }));
        self
    }
}

/// Whether places are whole pixels.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Pixels {
    /// Any place.
    #[default]
    Free,
    /// A body moves by whole pixels and carries the rest over to the next tick. Body and tile sizes must
    /// then be whole.
    Whole,
}

/// Which buttons let a body drop through a one-way top.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum DropRule {
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
#[non_exhaustive]
pub enum TakenAlong {
    /// Nothing.
    Nothing,
    /// Its speed sideways.
    #[default]
    Sideways,
    /// Its speed sideways and, unless it drops, upward; never downward.
    All,
}

choices!(Scheme { Exact: "exact", VelocityFirst: "velocity-first", PositionFirst: "position-first" });
choices!(Pixels { Free: "free", Whole: "whole" });
choices!(DropRule { DownAndJump: "down+jump", Down: "down", Off: "off" });
choices!(TakenAlong { Sideways: "sideways", Nothing: "nothing", All: "all" });

/// The keys of `[tick]`.
pub(super) const TICK_KEYS: &[Key] = &[
    Key::number("tick.rate", |n| Some(Slot::Number(&mut n.rate)), "simulation ticks a second")
        .at_least(1.0)
        .at_most(10_000.0)
        .unit("Hz")
        .or(60.0),
    Key::choice("tick.scheme", Scheme::WORDS, |n| Some(Slot::Choice(&mut n.scheme)), "how the loop integrates"),
    Key::choice(
        "tick.pixels",
        Pixels::WORDS,
        |n| Some(Slot::Choice(&mut n.pixels)),
        "`whole`: a body moves by whole pixels, the rest is carried over",
    ),
];

/// The keys of `[platform]`.
pub(super) const PLATFORM_KEYS: &[Key] = &[
    Key::choice(
        "platform.drop",
        DropRule::WORDS,
        |n| Some(Slot::Choice(&mut n.drop)),
        "what drops through one-way tops",
    ),
    Key::choice(
        "platform.leave_with",
        TakenAlong::WORDS,
        |n| Some(Slot::Choice(&mut n.leave_with)),
        "what of a platform's speed is taken along by a jump, a drop or a walk off it (never downward)",
    ),
];
