//! Running on the ground, and steering in the air.

use super::choice::choices;
use super::keys::{Key, KeyDefault, Slot};
use super::usual;
use crate::input::Direction;

/// How fast a speed changes.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
pub enum Acceleration {
    /// At once.
    #[default]
    Instant,
    /// By this much, px/s^2, at least 0.
    Rate(f64),
    /// From rest to the top speed, or back, in this time, s. 0 is the same as [`Acceleration::Instant`].
    Time(f64),
}

/// Running.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(deny_unknown_fields))]
pub struct RunNumbers {
    /// The speed aimed at while a direction is held, px/s, at least 0.
    pub top_speed: f64,
    /// Towards the held direction.
    #[cfg_attr(feature = "serde", serde(default))]
    pub acceleration: Acceleration,
    /// With no direction held, or while faster than aimed at.
    #[cfg_attr(feature = "serde", serde(default))]
    pub braking: Acceleration,
    /// While the speed opposes the held direction.
    #[cfg_attr(feature = "serde", serde(default))]
    pub turning: Acceleration,
    /// How far below the feet a ramp is followed down, px, at least 0. Rounded to 1/1024 px.
    #[cfg_attr(feature = "serde", serde(default = "super::usual::ramp_follow"))]
    pub ramp_follow: f64,
    /// The steepest slope that is walked up, px upward for each px along; above 0, infinite for any.
    #[cfg_attr(feature = "serde", serde(with = "super::unlimited", default = "super::unlimited::none"))]
    pub steepest_climb: f64,
    /// Whether it runs by itself: a direction that counts as held.
    #[cfg_attr(feature = "serde", serde(default))]
    pub steady: Steady,
    /// What a face does to a run by itself, besides stopping it.
    #[cfg_attr(feature = "serde", serde(default))]
    pub at_wall: AtWall,
}

/// Whether a character runs by itself.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Steady {
    /// It runs while a direction is held.
    #[default]
    Off,
    /// Right counts as held.
    Right,
    /// Left counts as held.
    Left,
}

impl Steady {
    /// The direction that counts as held at first.
    #[must_use]
    pub fn direction(self) -> Option<Direction> {
        match self {
            Steady::Off => None,
            Steady::Right => Some(Direction::Right),
            Steady::Left => Some(Direction::Left),
        }
    }
}

/// What a face that stops a run by itself does to its direction.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum AtWall {
    /// It stays: the body leans against the face.
    #[default]
    Stop,
    /// It turns: from the next tick on the other direction counts as held.
    Turn,
}

choices!(Steady { Off: "off", Right: "right", Left: "left" });
choices!(AtWall { Stop: "stop", Turn: "turn" });

/// Steering in the air: each number that is not given is as on the ground.
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
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

impl RunNumbers {
    /// A run that is at its top speed (px/s), and at rest, at once; up any slope, and down ramps of half a tile of 16 px.
    #[must_use]
    pub fn new(top_speed: f64) -> RunNumbers {
        RunNumbers {
            top_speed,
            acceleration: Acceleration::Instant,
            braking: Acceleration::Instant,
            turning: Acceleration::Instant,
            ramp_follow: usual::ramp_follow(),
            steepest_climb: f64::INFINITY,
            steady: Steady::Off,
            at_wall: AtWall::Stop,
        }
    }
}

/// The keys of `[run]` and `[air]`.
pub(super) const KEYS: &[Key] = &[
    Key::speed("run.top_speed", |n| Some(Slot::Number(&mut n.run.top_speed)), "aimed at while a direction is held")
        .needed(),
    Key::run_rate("run.acceleration", |n| Some(Slot::RunRate(&mut n.run.acceleration)), "towards the held direction"),
    Key::run_rate(
        "run.braking",
        |n| Some(Slot::RunRate(&mut n.run.braking)),
        "with none held, or beyond the top speed",
    ),
    Key::run_rate(
        "run.turning",
        |n| Some(Slot::RunRate(&mut n.run.turning)),
        "while the speed opposes the held direction",
    ),
    Key::length(
        "run.ramp_follow",
        |n| Some(Slot::Number(&mut n.run.ramp_follow)),
        "how far below the feet a ramp is followed down",
    )
    .otherwise(KeyDefault::HalfATile)
    .rounded(),
    Key::number(
        "run.steepest_climb",
        |n| Some(Slot::Number(&mut n.run.steepest_climb)),
        "the steepest slope walked up, px upward for each px along",
    )
    .above_zero()
    .at_most(f64::INFINITY)
    .or(f64::INFINITY),
    Key::choice(
        "run.steady",
        Steady::WORDS,
        |n| Some(Slot::Choice(&mut n.run.steady)),
        "a direction that counts as held: it runs by itself",
    ),
    Key::choice(
        "run.at_wall",
        AtWall::WORDS,
        |n| Some(Slot::Choice(&mut n.run.at_wall)),
        "with `steady`: what a face that stops it does to that direction",
    ),
    Key::run_rate(
        "air.acceleration",
        |n| Some(Slot::OptionalRunRate(&mut n.air.acceleration)),
        "steering in the air: towards the held direction",
    )
    .otherwise(KeyDefault::As("as in `[run]`")),
    Key::run_rate("air.braking", |n| Some(Slot::OptionalRunRate(&mut n.air.braking)), "with none held")
        .otherwise(KeyDefault::As("as in `[run]`")),
    Key::run_rate(
        "air.turning",
        |n| Some(Slot::OptionalRunRate(&mut n.air.turning)),
        "while the speed opposes the held direction",
    )
    .otherwise(KeyDefault::As("as in `[run]`")),
    Key::time(
        "air.bump_memory",
        |n| Some(Slot::Number(&mut n.air.bump_memory)),
        "a speed that a wall took is given back once the wall is passed, if it is so soon",
    ),
];
