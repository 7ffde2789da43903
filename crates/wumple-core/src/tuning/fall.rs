//! Falling.

use super::LIMIT_SPEED;
use super::keys::{Key, KeyDefault, Slot, WEAKEST_GRAVITY};

/// Falling.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
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
        FallNumbers { top_speed: LIMIT_SPEED, gravity: None, gravity_ratio: 1.0, plunge_ratio: 1.0 }
    }
}

/// The keys of `[fall]`.
pub(super) const KEYS: &[Key] = &[
    Key::speed("fall.top_speed", |n| Some(Slot::Number(&mut n.fall.top_speed)), "no fall is faster")
        .above_zero()
        .or(LIMIT_SPEED),
    Key::acceleration(
        "fall.gravity",
        |n| Some(Slot::Optional(&mut n.fall.gravity)),
        "the gravity of who cannot jump: needed without `[jump]`, an error beside it",
    )
    .at_least(WEAKEST_GRAVITY)
    .otherwise(KeyDefault::As("")),
    Key::ratio(
        "fall.gravity_ratio",
        |n| Some(Slot::Number(&mut n.fall.gravity_ratio)),
        "gravity of the fall, of that of the rise",
    )
    .or(1.0),
    Key::ratio("fall.plunge_ratio", |n| Some(Slot::Number(&mut n.fall.plunge_ratio)), "more of it while down is held")
        .or(1.0),
];
