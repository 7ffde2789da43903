//! Walking four ways, seen from above.

use super::TuningNumbers;
use super::choice::choices;
use super::keys::{Key, Slot};
use super::run::Acceleration;

/// Walking four ways, seen from above: without gravity.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(deny_unknown_fields))]
pub struct FourWayNumbers {
    /// The speed aimed at while a direction is held, px/s, at least 0.
    pub top_speed: f64,
    /// Towards the held direction, along each axis.
    #[cfg_attr(feature = "serde", serde(default))]
    pub acceleration: Acceleration,
    /// With none held along an axis, or while faster than aimed at.
    #[cfg_attr(feature = "serde", serde(default))]
    pub braking: Acceleration,
    /// While the speed opposes the held direction.
    #[cfg_attr(feature = "serde", serde(default))]
    pub turning: Acceleration,
    /// How fast it is aslant.
    #[cfg_attr(feature = "serde", serde(default))]
    pub diagonal: Diagonal,
    /// How far a corner may be to the side of one who is stopped by it, and slides around it, px, at least 0.
    #[cfg_attr(feature = "serde", serde(default))]
    pub corner_slide: f64,
}

impl FourWayNumbers {
    /// At this top speed, px/s, and at rest, at once; no corner is slid around.
    #[must_use]
    pub fn new(top_speed: f64) -> FourWayNumbers {
        FourWayNumbers {
            top_speed,
            acceleration: Acceleration::Instant,
            braking: Acceleration::Instant,
            turning: Acceleration::Instant,
            diagonal: Diagonal::Same,
            corner_slide: 0.0,
        }
    }
}

/// How fast a character is that walks along both axes at once.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum Diagonal {
    /// As fast as along one.
    #[default]
    Same,
    /// Along each as fast as along one: by the root of two faster.
    Faster,
}

choices!(Diagonal { Same: "same", Faster: "faster" });

fn four_way(numbers: &mut TuningNumbers) -> Option<&mut FourWayNumbers> {
    numbers.four_way.as_mut()
}

/// The keys of `[four_way]`.
pub(super) const KEYS: &[Key] = &[
    Key::speed(
        "four_way.top_speed",
        |n| Some(Slot::Number(&mut four_way(n)?.top_speed)),
        "aimed at while a direction is held",
    )
    .needed(),
    Key::run_rate(
        "four_way.acceleration",
        |n| Some(Slot::RunRate(&mut four_way(n)?.acceleration)),
        "towards the held direction, along each axis",
    ),
    Key::run_rate(
        "four_way.braking",
        |n| Some(Slot::RunRate(&mut four_way(n)?.braking)),
        "with none held along an axis, or beyond the top speed",
    ),
    Key::run_rate(
        "four_way.turning",
        |n| Some(Slot::RunRate(&mut four_way(n)?.turning)),
        "while the speed opposes the held direction",
    ),
    Key::choice(
        "four_way.diagonal",
        Diagonal::WORDS,
        |n| Some(Slot::Choice(&mut four_way(n)?.diagonal)),
        "`same`: aslant no faster than straight; `faster`: the top speed along each axis",
    ),
    Key::length(
        "four_way.corner_slide",
        |n| Some(Slot::Number(&mut four_way(n)?.corner_slide)),
        "one who is stopped by a corner no further than this to the side slides around it",
    )
    .rounded(),
];
