//! Climbing ladders.

use super::TuningNumbers;
use super::keys::{Key, KeyDefault, Slot};

/// Climbing ladders.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
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

impl Default for LadderNumbers {
    /// One that nobody moves on.
    fn default() -> LadderNumbers {
        LadderNumbers { probe: 0.0, up_speed: 0.0, down_speed: 0.0, side_speed: 0.0, centre: false, up_is_jump: false }
    }
}

fn ladder(numbers: &mut TuningNumbers) -> Option<&mut LadderNumbers> {
    numbers.ladder.as_mut()
}

/// The keys of `[ladder]`.
pub(super) const KEYS: &[Key] = &[
    Key::length(
        "ladder.probe",
        |n| Some(Slot::Number(&mut ladder(n)?.probe)),
        "how far from its middle a ladder is taken",
    )
    .otherwise(KeyDefault::HalfATile)
    .rounded(),
    Key::speed("ladder.up_speed", |n| Some(Slot::Number(&mut ladder(n)?.up_speed)), "climbing up").needed(),
    Key::speed("ladder.down_speed", |n| Some(Slot::Number(&mut ladder(n)?.down_speed)), "climbing down").needed(),
    Key::speed(
        "ladder.side_speed",
        |n| Some(Slot::Number(&mut ladder(n)?.side_speed)),
        "sideways, and towards the middle",
    ),
    Key::switch("ladder.centre", |n| Some(Slot::Choice(&mut ladder(n)?.centre)), "glide to the middle"),
    Key::switch(
        "ladder.up_is_jump",
        |n| Some(Slot::Choice(&mut ladder(n)?.up_is_jump)),
        "up is the jump button too: a press of it on a ladder climbs",
    ),
];
