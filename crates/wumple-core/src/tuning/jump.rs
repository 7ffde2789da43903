//! Jumping.

use super::choice::choices;
use super::keys::{GREATEST_RATIO, Key, KeyDefault, LONGEST, Slot, WEAKEST_GRAVITY};
use super::{LIMIT_LENGTH, TuningNumbers};

/// Jumping.
#[derive(Clone, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(deny_unknown_fields))]
pub struct JumpNumbers {
    /// How high and how fast.
    pub shape: JumpShape,
    /// What letting go of the button does.
    #[cfg_attr(feature = "serde", serde(default))]
    pub release: Release,
    /// For how long after losing the ground a jump off it is still admitted, s.
    #[cfg_attr(feature = "serde", serde(default))]
    pub coyote_time: f64,
    /// For how long a press that finds no jump is remembered, s.
    #[cfg_attr(feature = "serde", serde(default))]
    pub buffer_time: f64,
    /// Whether a button held down jumps again from the ground.
    #[cfg_attr(feature = "serde", serde(default))]
    pub repeat_held: bool,
    /// Whether a press shortly before a landing waits for it instead of spending an air jump.
    #[cfg_attr(feature = "serde", serde(default))]
    pub waits_for_ground: bool,
    /// How many jumps there are in the air, until the ground is touched.
    #[cfg_attr(feature = "serde", serde(default))]
    pub air_jumps: u32,
    /// How high an air jump is, px, above 0; not given, as high as a jump.
    #[cfg_attr(feature = "serde", serde(default))]
    pub air_jump_height: Option<f64>,
    /// Whether touching a wall gives the air jumps back.
    #[cfg_attr(feature = "serde", serde(default))]
    pub air_jumps_back_on_wall: bool,
    /// What letting go does to an air jump; not given, as to a jump.
    #[cfg_attr(feature = "serde", serde(default))]
    pub air_jump_release: Option<Release>,
    /// A weaker gravity around the apex.
    #[cfg_attr(feature = "serde", serde(default))]
    pub hang: Option<Hang>,
    /// What a landing does.
    #[cfg_attr(feature = "serde", serde(default))]
    pub on_landing: OnLanding,
}

/// What a landing does.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Hash)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
pub enum OnLanding {
    /// The body stands.
    #[default]
    Stand,
    /// It jumps at once: no tick ends standing.
    Jump,
}

choices!(OnLanding { Stand: "stand", Jump: "jump" });

impl JumpNumbers {
    /// A jump of this shape and nothing more: always full, once, from the ground.
    #[must_use]
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
            on_landing: OnLanding::Stand,
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

/// What letting go of the button does to a jump, once, while it rises.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(rename_all = "kebab-case"))]
#[non_exhaustive]
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
    #[must_use]
    pub fn sustain(&self) -> f64 {
        if let Release::Sustain { time } = self { *time } else { 0.0 }
    }

    /// Whether its numbers are within their bounds.
    #[must_use]
    pub fn is_within_bounds(&self) -> bool {
        match *self {
            Release::None => true,
            Release::Cut { keep } => (0.0..=1.0).contains(&keep),
            Release::Heavy { gravity_ratio } => gravity_ratio > 0.0 && gravity_ratio <= GREATEST_RATIO,
            Release::Sustain { time } => (0.0..=LONGEST).contains(&time),
            Release::ToHeight { tap_height, further_rise } => {
                let length = 0.0..=LIMIT_LENGTH;
                length.contains(&tap_height) && length.contains(&further_rise)
            }
        }
    }
}

/// A weaker gravity around the apex of a jump.
#[derive(Clone, Copy, Debug, PartialEq)]
#[cfg_attr(feature = "serde", derive(serde::Serialize, serde::Deserialize), serde(deny_unknown_fields))]
pub struct Hang {
    /// It lasts while the speed is at most this, up or down, px/s, above 0.
    pub speed: f64,
    /// The gravity then, as a share of that of a rise; above 0.
    pub gravity_ratio: f64,
}

fn jump(numbers: &mut TuningNumbers) -> Option<&mut JumpNumbers> {
    numbers.jump.as_mut()
}

fn hang(numbers: &mut TuningNumbers) -> Option<&mut Hang> {
    jump(numbers)?.hang.as_mut()
}

fn release(numbers: &mut TuningNumbers) -> Option<&mut Release> {
    Some(&mut jump(numbers)?.release)
}

fn air_release(numbers: &mut TuningNumbers) -> Option<&mut Release> {
    jump(numbers)?.air_jump_release.as_mut()
}

fn height_and_time(numbers: &mut TuningNumbers) -> Option<(&mut f64, &mut f64)> {
    match &mut jump(numbers)?.shape {
        JumpShape::HeightAndTime { height, time_to_apex } => Some((height, time_to_apex)),
        JumpShape::SpeedAndGravity { .. } => None,
    }
}

fn speed_and_gravity(numbers: &mut TuningNumbers) -> Option<(&mut f64, &mut f64)> {
    match &mut jump(numbers)?.shape {
        JumpShape::SpeedAndGravity { speed, gravity } => Some((speed, gravity)),
        JumpShape::HeightAndTime { .. } => None,
    }
}

fn keep(release: &mut Release) -> Option<&mut f64> {
    if let Release::Cut { keep } = release { Some(keep) } else { None }
}

fn heaviness(release: &mut Release) -> Option<&mut f64> {
    if let Release::Heavy { gravity_ratio } = release { Some(gravity_ratio) } else { None }
}

fn sustain(release: &mut Release) -> Option<&mut f64> {
    if let Release::Sustain { time } = release { Some(time) } else { None }
}

fn tap_height(release: &mut Release) -> Option<(&mut f64, &mut f64)> {
    if let Release::ToHeight { tap_height, further_rise } = release { Some((tap_height, further_rise)) } else { None }
}

/// No rise of a jump takes longer, s.
pub(super) const LONGEST_RISE: f64 = 60.0;

/// The keys of `[jump]`.
pub(super) const KEYS: &[Key] = &[
    Key::length(
        "jump.height",
        |n| Some(Slot::Number(height_and_time(n)?.0)),
        "how high a jump rises; none rises, or falls back, for more than 60 s or 100,000 ticks",
    )
    .above_zero()
    .needed(),
    Key::time("jump.time_to_apex", |n| Some(Slot::Number(height_and_time(n)?.1)), "how long the rise takes")
        .above_zero()
        .at_most(LONGEST_RISE)
        .needed(),
    Key::speed(
        "jump.speed",
        |n| Some(Slot::Number(speed_and_gravity(n)?.0)),
        "the upward speed that a jump begins with; instead of height and time",
    )
    .above_zero()
    .otherwise(KeyDefault::As("")),
    Key::acceleration(
        "jump.gravity",
        |n| Some(Slot::Number(speed_and_gravity(n)?.1)),
        "the gravity of a rise; with `speed`",
    )
    .at_least(WEAKEST_GRAVITY)
    .otherwise(KeyDefault::As("")),
    Key::time(
        "jump.coyote_time",
        |n| Some(Slot::Number(&mut jump(n)?.coyote_time)),
        "a jump is admitted so long after the ground was lost",
    ),
    Key::time(
        "jump.buffer_time",
        |n| Some(Slot::Number(&mut jump(n)?.buffer_time)),
        "a press that finds no jump is kept so long",
    ),
    Key::choice(
        "jump.repeat",
        &["pressed", "held"],
        |n| Some(Slot::Choice(&mut jump(n)?.repeat_held)),
        "`held`: a held button jumps again from the ground",
    ),
    Key::switch(
        "jump.waits_for_ground",
        |n| Some(Slot::Choice(&mut jump(n)?.waits_for_ground)),
        "a press just before the ground does not spend an air jump",
    ),
    Key::count(
        "jump.air_jumps",
        |n| Some(Slot::Count(&mut jump(n)?.air_jumps)),
        "jumps in the air, until the ground is touched",
    ),
    Key::length(
        "jump.air_jump_height",
        |n| Some(Slot::Optional(&mut jump(n)?.air_jump_height)),
        "how high a jump in the air is",
    )
    .above_zero()
    .at_most(LIMIT_LENGTH)
    .otherwise(KeyDefault::As("the jump's")),
    Key::switch(
        "jump.air_jumps_back_on_wall",
        |n| Some(Slot::Choice(&mut jump(n)?.air_jumps_back_on_wall)),
        "touching a wall in the air gives them back",
    ),
    Key::choice(
        "jump.on_landing",
        OnLanding::WORDS,
        |n| Some(Slot::Choice(&mut jump(n)?.on_landing)),
        "`jump`: every landing throws up at once, as a jump would",
    ),
    Key::speed(
        "jump.hang.speed",
        |n| Some(Slot::Number(&mut hang(n)?.speed)),
        "other gravity while no faster, up or down",
    )
    .above_zero()
    .needed(),
    Key::ratio(
        "jump.hang.gravity_ratio",
        |n| Some(Slot::Number(&mut hang(n)?.gravity_ratio)),
        "that gravity, of that of a rise",
    )
    .needed(),
];

/// The keys of what letting go does, by style: of the section of this name, where the release is found so.
macro_rules! release_keys {
    ($section:literal, $release:ident) => {
        &[
            Key::number(
                concat!($section, ".keep"),
                |n| Some(Slot::Number(keep($release(n)?)?)),
                "`cut`: the share of the upward speed that is left",
            )
            .at_most(1.0)
            .needed(),
            Key::ratio(
                concat!($section, ".gravity_ratio"),
                |n| Some(Slot::Number(heaviness($release(n)?)?)),
                "`heavy`: more gravity while it still rises",
            )
            .needed(),
            Key::time(
                concat!($section, ".time"),
                |n| Some(Slot::Number(sustain($release(n)?)?)),
                "`sustain`: the take-off speed is kept so long",
            )
            .at_most(LONGEST)
            .needed(),
            Key::length(
                concat!($section, ".tap_height"),
                |n| Some(Slot::Number(tap_height($release(n)?)?.0)),
                "`to-height`: the smallest hop",
            )
            .needed(),
            Key::length(
                concat!($section, ".further_rise"),
                |n| Some(Slot::Number(tap_height($release(n)?)?.1)),
                "`to-height`: how far it still rises at least",
            ),
        ]
    };
}

/// The keys of `[jump.release]`.
pub(super) const RELEASE_KEYS: &[Key] = release_keys!("jump.release", release);

/// The keys of `[jump.air_jump_release]`.
pub(super) const AIR_RELEASE_KEYS: &[Key] = release_keys!("jump.air_jump_release", air_release);
