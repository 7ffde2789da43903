//! What walls do besides stopping a character.

use super::TuningNumbers;
use super::choice::choices;
use super::keys::{Key, KeyDefault, Slot};

/// What walls do besides stopping a character.
#[derive(Clone, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
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
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
pub struct SlideNumbers {
    /// When it slides.
    pub when: SlideWhen,
    /// No slide is faster, px/s, at least 0.
    pub top_speed: f64,
}

/// When a body in the air slides down along a wall.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum SlideWhen {
    /// While the direction towards the wall is held.
    #[default]
    Pushed,
    /// Whenever the wall is touched.
    Touched,
}

/// Jumping off a wall.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
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
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(default, deny_unknown_fields))]
pub struct HoldNumbers {
    /// When the hold is taken.
    pub when: HoldWhen,
    /// Climbing up, px/s, at least 0.
    pub up_speed: f64,
    /// Climbing down, px/s, at least 0.
    pub down_speed: f64,
    /// Whether it can be taken while standing.
    pub from_ground: bool,
    /// Whether a [`Touched`](HoldWhen::Touched) wall is taken while rising, too: the rise ends. Grab takes one in any case.
    pub while_rising: bool,
    /// Whether taking it spends the air jumps that are left: they come back on ground and ladder.
    pub spends_air_jumps: bool,
    /// Whether a climb at the wall's top goes on over it, instead of stopping.
    pub climb_over: bool,
}

/// When a wall is held on to.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum HoldWhen {
    /// On touching it in the air; when rising only if asked.
    Touched,
    /// While the grab button is down.
    GrabHeld,
}

choices!(SlideWhen { Pushed: "pushed", Touched: "touched" });
choices!(HoldWhen { Touched: "touched", GrabHeld: "grab-held" });

impl Default for SlideNumbers {
    /// While pushed, and not down at all.
    fn default() -> SlideNumbers {
        SlideNumbers { when: SlideWhen::Pushed, top_speed: 0.0 }
    }
}

impl Default for WallJumpNumbers {
    /// Straight up, of no height yet, off any wall.
    fn default() -> WallJumpNumbers {
        WallJumpNumbers { height: 0.0, push_speed: 0.0, steer_lock: 0.0, same_wall: true }
    }
}

impl Default for HoldNumbers {
    /// While grab is held, without climbing.
    fn default() -> HoldNumbers {
        HoldNumbers {
            when: HoldWhen::GrabHeld,
            up_speed: 0.0,
            down_speed: 0.0,
            from_ground: false,
            while_rising: false,
            spends_air_jumps: false,
            climb_over: false,
        }
    }
}

fn wall(numbers: &mut TuningNumbers) -> Option<&mut WallNumbers> {
    numbers.wall.as_mut()
}

fn slide(numbers: &mut TuningNumbers) -> Option<&mut SlideNumbers> {
    wall(numbers)?.slide.as_mut()
}

fn jump(numbers: &mut TuningNumbers) -> Option<&mut WallJumpNumbers> {
    wall(numbers)?.jump.as_mut()
}

fn hold(numbers: &mut TuningNumbers) -> Option<&mut HoldNumbers> {
    wall(numbers)?.hold.as_mut()
}

/// The keys of `[wall]`.
pub(super) const KEYS: &[Key] = &[
    Key::time(
        "wall.coyote_time",
        |n| Some(Slot::Number(&mut wall(n)?.coyote_time)),
        "a jump off a wall is admitted so long after it was lost",
    ),
    Key::choice(
        "wall.slide.when",
        SlideWhen::WORDS,
        |n| Some(Slot::Choice(&mut slide(n)?.when)),
        "when it slides down along a wall",
    ),
    Key::speed("wall.slide.top_speed", |n| Some(Slot::Number(&mut slide(n)?.top_speed)), "no slide is faster"),
    Key::length("wall.jump.height", |n| Some(Slot::Number(&mut jump(n)?.height)), "how high a jump off a wall is")
        .above_zero()
        .needed(),
    Key::speed("wall.jump.push_speed", |n| Some(Slot::Number(&mut jump(n)?.push_speed)), "away from the wall"),
    Key::time(
        "wall.jump.steer_lock",
        |n| Some(Slot::Number(&mut jump(n)?.steer_lock)),
        "for so long the way back to the wall counts as none",
    ),
    Key::switch(
        "wall.jump.same_wall",
        |n| Some(Slot::Choice(&mut jump(n)?.same_wall)),
        "whether the same wall can be jumped off twice without touching anything else",
    )
    .otherwise(KeyDefault::Word("true")),
    Key::choice(
        "wall.hold.when",
        HoldWhen::WORDS,
        |n| Some(Slot::Choice(&mut hold(n)?.when)),
        "when a wall is held on to; `off`, as without it, is never",
    )
    .otherwise(KeyDefault::Word("off")),
    Key::speed("wall.hold.up_speed", |n| Some(Slot::Number(&mut hold(n)?.up_speed)), "climbing up"),
    Key::speed("wall.hold.down_speed", |n| Some(Slot::Number(&mut hold(n)?.down_speed)), "climbing down"),
    Key::switch(
        "wall.hold.from_ground",
        |n| Some(Slot::Choice(&mut hold(n)?.from_ground)),
        "whether it can be taken while standing",
    ),
    Key::switch(
        "wall.hold.while_rising",
        |n| Some(Slot::Choice(&mut hold(n)?.while_rising)),
        "`touched`: whether it is taken while rising, too; grab takes it in any case",
    ),
    Key::switch(
        "wall.hold.spends_air_jumps",
        |n| Some(Slot::Choice(&mut hold(n)?.spends_air_jumps)),
        "whether taking it spends the air jumps that are left",
    ),
    Key::choice(
        "wall.hold.top",
        &["stop", "climb-over"],
        |n| Some(Slot::Choice(&mut hold(n)?.climb_over)),
        "what a climb at the wall's top does",
    ),
];
