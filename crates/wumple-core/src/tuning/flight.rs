//! Flying: by flaps, or by a thrust.

use super::TuningNumbers;
use super::choice::choices;
use super::keys::{Key, KeyDefault, Slot};
use super::{LIMIT_ACCELERATION, LIMIT_SPEED};

/// Flying.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(deny_unknown_fields))]
pub struct FlightNumbers {
    /// What lifts the body.
    pub by: FlightBy,
    /// Of flaps, the upward speed that a press adds, px/s; of a thrust, the upward acceleration while jump is held, px/s^2.
    /// Above 0.
    pub lift: f64,
    /// When a direction steers in the air.
    #[cfg_attr(feature = "serde", serde(default))]
    pub steer: SteerWhen,
    /// Whether it takes off from the ground, too.
    #[cfg_attr(feature = "serde", serde(default = "super::usual::yes"))]
    pub from_ground: bool,
    /// No velocity in the air is greater, in any direction, px/s, above 0.
    #[cfg_attr(feature = "serde", serde(default = "super::usual::no_top_speed"))]
    pub top_speed: f64,
}

impl FlightNumbers {
    /// Flaps, each of which adds this upward speed, px/s.
    #[must_use]
    pub fn flaps(lift: f64) -> FlightNumbers {
        FlightNumbers {
            by: FlightBy::Flaps,
            lift,
            steer: SteerWhen::Always,
            from_ground: true,
            top_speed: super::usual::no_top_speed(),
        }
    }

    /// A thrust of this upward acceleration, px/s^2, while jump is held.
    #[must_use]
    pub fn thrust(lift: f64) -> FlightNumbers {
        FlightNumbers { by: FlightBy::Thrust, ..FlightNumbers::flaps(lift) }
    }
}

/// What lifts a body that flies.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum FlightBy {
    /// Each press of jump.
    #[default]
    Flaps,
    /// Holding jump.
    Thrust,
}

/// When a direction steers in the air.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum SteerWhen {
    /// Always.
    #[default]
    Always,
    /// While jump is held: else left and right count as not held.
    WhileHeld,
}

choices!(FlightBy { Flaps: "flaps", Thrust: "thrust" });
choices!(SteerWhen { Always: "always", WhileHeld: "while-held" });

fn flight(numbers: &mut TuningNumbers) -> Option<&mut FlightNumbers> {
    numbers.flight.as_mut()
}

/// The keys of `[flight]`.
pub(super) const KEYS: &[Key] = &[
    Key::choice(
        "flight.by",
        FlightBy::WORDS,
        |n| Some(Slot::Choice(&mut flight(n)?.by)),
        "`flaps`: each press of jump lifts; `thrust`: holding it does",
    )
    .otherwise(KeyDefault::Needed),
    Key::lift(
        "flight.lift",
        |n| Some(Slot::Number(&mut flight(n)?.lift)),
        "`flaps`: the upward speed that a press adds; `thrust`: the upward acceleration beside gravity",
    )
    .above_zero()
    .needed(),
    Key::choice(
        "flight.steer",
        SteerWhen::WORDS,
        |n| Some(Slot::Choice(&mut flight(n)?.steer)),
        "`while-held`: in the air, left and right count only while jump is held",
    ),
    Key::switch(
        "flight.from_ground",
        |n| Some(Slot::Choice(&mut flight(n)?.from_ground)),
        "whether it takes off from the ground, too",
    )
    .otherwise(KeyDefault::Word("true")),
    Key::speed(
        "flight.top_speed",
        |n| Some(Slot::Number(&mut flight(n)?.top_speed)),
        "no velocity in the air is greater, in any direction",
    )
    .above_zero()
    .or(LIMIT_SPEED),
];

impl FlightBy {
    /// The greatest lift, and its unit.
    pub(super) fn most_lift(self) -> (f64, &'static str) {
        match self {
            FlightBy::Flaps => (LIMIT_SPEED, "px/s"),
            FlightBy::Thrust => (LIMIT_ACCELERATION, "px/s^2"),
        }
    }
}
