//! The hitbox, and what it feels around it.

use super::keys::{Key, Slot};
use super::usual;

/// The hitbox and what it feels around it.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(deny_unknown_fields))]
pub struct BodyNumbers {
    /// Width, px, above 0. Rounded to 1/1024 px.
    pub width: f64,
    /// Height, px, above 0. Rounded to 1/1024 px.
    pub height: f64,
    /// How far beside the hitbox a wall is felt, px, at least 0. Rounded to 1/1024 px.
    #[cfg_attr(feature = "serde", serde(default = "super::usual::wall_probe"))]
    pub wall_probe: f64,
    /// How far sideways a rise that a corner stops may be moved to go on, px, at least 0. Rounded.
    #[cfg_attr(feature = "serde", serde(default))]
    pub corner_nudge: f64,
    /// How far a fall that the side of a ledge stops may be lifted onto it, px, at least 0. Rounded.
    #[cfg_attr(feature = "serde", serde(default))]
    pub ledge_lift: f64,
    /// How high a step is that is walked up, and down, px, at least 0. Rounded.
    #[cfg_attr(feature = "serde", serde(default))]
    pub step_height: f64,
}

impl BodyNumbers {
    /// A hitbox of this size (px) that feels walls 1 px beside it, and nothing more.
    #[must_use]
    pub fn new(width: f64, height: f64) -> BodyNumbers {
        BodyNumbers {
            width,
            height,
            wall_probe: usual::wall_probe(),
            corner_nudge: 0.0,
            ledge_lift: 0.0,
            step_height: 0.0,
        }
    }
}

/// The keys of `[body]`.
pub(super) const KEYS: &[Key] = &[
    Key::length("body.width", |n| Some(Slot::Number(&mut n.body.width)), "how wide the hitbox is")
        .above_zero()
        .needed()
        .rounded(),
    Key::length("body.height", |n| Some(Slot::Number(&mut n.body.height)), "how high the hitbox is")
        .above_zero()
        .needed()
        .rounded(),
    Key::length(
        "body.wall_probe",
        |n| Some(Slot::Number(&mut n.body.wall_probe)),
        "how far beside the hitbox a wall is felt",
    )
    .or(usual::wall_probe())
    .rounded(),
    Key::length(
        "body.corner_nudge",
        |n| Some(Slot::Number(&mut n.body.corner_nudge)),
        "a rise stopped by a corner is moved aside by this much at most",
    )
    .rounded(),
    Key::length(
        "body.ledge_lift",
        |n| Some(Slot::Number(&mut n.body.ledge_lift)),
        "a fall stopped by a ledge's side is set onto it, this much higher at most",
    )
    .rounded(),
    Key::length("body.step_height", |n| Some(Slot::Number(&mut n.body.step_height)), "walked up and down").rounded(),
];
